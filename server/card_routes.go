package server

import (
	"cmp"
	"context"
	"fmt"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"cressa/core/drawing"
	"cressa/formats"
	"cressa/sheet"
	"cressa/words"
	"cressa/workshop"
)

// CardRequest asks for the card of a finished stone.
type CardRequest struct {
	ID    string `path:"id" json:"-"`
	Paper string `path:"paper" json:"-"`
	// For says whom it is for, Price whether what is asked for the stone stands on it.
	For   string `query:"for" json:"for" validate:"oneof=buyer drawer"`
	Price bool   `query:"price" json:"price"`
}

func (s *Server) cardRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/stones/:id/print/:paper", name: "stoneCard", summary: "The card of a finished stone, for print"}, func(c *echo.Context, in CardRequest) (SheetPages, error) {
		title, page, err := s.card(c.Request().Context(), in)
		if err != nil {
			return SheetPages{}, err
		}
		return SheetPages{title, []string{string(formats.WriteSVG(title, []drawing.Page{page}))}}, nil
	})
	s.raw(route{method: http.MethodGet, path: "/api/stones/:id/print/:paper/pdf", computes: true}, func(c *echo.Context) error {
		in := CardRequest{ID: c.Param("id"), Paper: c.Param("paper"), For: c.QueryParam("for"), Price: c.QueryParam("price") == "true"}
		title, page, err := s.card(c.Request().Context(), in)
		if err != nil {
			return err
		}
		data, err := formats.WritePDF(title, []drawing.Page{page})
		if err != nil {
			return err
		}
		return attach(c, title+" card", ".pdf", "application/pdf", data)
	})
}

// forDrawer tells that a card is the workshop's own.
const forDrawer = "drawer"

func (s *Server) card(ctx context.Context, in CardRequest) (title string, page drawing.Page, err error) {
	paper, known := sheet.CardPapers[in.Paper]
	if !known {
		return "", page, &Problem{Status: http.StatusNotFound, Detail: "A card is on a6, a4 or letter."}
	}
	stone, err := s.workshop.Stone(ctx, in.ID)
	if err != nil {
		return "", page, err
	}
	finish := stone.Work().Finish
	if finish == nil {
		return "", page, workshop.ErrNotFinished
	}
	cut, err := s.workshop.AsCut(ctx, stone, "")
	if err != nil {
		return "", page, err
	}
	plan := stone.Work().Plan
	card := sheet.Card{Title: cmp.Or(stone.Name, plan.DiagramName), Number: stone.Number, Stone: cut.Cut}
	price := ""
	if in.Price && finish.Price > 0 {
		price = strings.TrimSpace(fmt.Sprintf("%.2f %s", float64(finish.Price)/100, finish.Currency))
	}
	carats := func(v float64) string {
		if v == 0 {
			return ""
		}
		return fmt.Sprintf("%.3g ct · %.3f g", v, v/5)
	}
	size := ""
	if finish.WidthMM > 0 && finish.LengthMM > 0 {
		size = fmt.Sprintf("%.2f × %.2f mm", finish.LengthMM, finish.WidthMM)
		if finish.HeightMM > 0 {
			size = fmt.Sprintf("%.2f × %.2f × %.2f mm", finish.LengthMM, finish.WidthMM, finish.HeightMM)
		}
	}
	made := 0
	for _, f := range cut.Cut.Solid().Faces() {
		if !f.OfBlock() {
			made++
		}
	}
	card.Lines = sheet.Known(
		[2]string{"Material", plan.Material.Name}, [2]string{"Design", plan.DiagramName}, [2]string{"Facets", fmt.Sprint(made)},
		[2]string{"Weight", carats(finish.FinishedCarats)}, [2]string{"Size", size}, [2]string{"Finished", finish.Finished},
	)
	if in.For == forDrawer {
		card.Lines = append(card.Lines, s.ownLines(cut, finish, plan)...)
		for _, d := range cut.Differences {
			at := d.Tier
			if d.Facet >= 0 {
				at = fmt.Sprintf("%s at %d", d.Tier, d.Planned.Tooth)
			}
			card.Notes = append(card.Notes, at+": "+words.Difference(d, cut)+".")
		}
		card.Notes = append(card.Notes, strings.Split(finish.Notes, "\n")...)
	}
	card.Lines = append(card.Lines, sheet.Known([2]string{"Price", price})...)
	return fmt.Sprintf("%d · %s", stone.Number, card.Title), card.Page(paper, formats.MeasureText), nil
}

// ownLines are what only the workshop wants to know of a finished stone.
func (s *Server) ownLines(cut *workshop.AsCut, f *workshop.Finish, plan *workshop.Plan) [][2]string {
	var rough, yield, hours string
	if f.RoughCarats > 0 {
		rough = fmt.Sprintf("%.3g ct", f.RoughCarats)
		if f.FinishedCarats > 0 {
			yield = fmt.Sprintf("%.1f %%", 100*f.FinishedCarats/f.RoughCarats)
		}
	}
	var total float64
	for _, h := range cut.Hours {
		total += h.Hours
	}
	if f.Hours != nil {
		total = *f.Hours
	}
	if total > 0 {
		hours = fmt.Sprintf("%.1f h", total)
	}
	out := sheet.Known([2]string{"Rough", rough}, [2]string{"Yield", yield}, [2]string{"Hours", hours})
	for _, h := range stageHours(cut, plan) {
		out = append(out, [2]string{strings.Trim(h.Side+", "+h.Pass, ", "), fmt.Sprintf("%.1f h", h.Hours)})
	}
	gear := fmt.Sprintf("gear %d", plan.Choices.Gear)
	return append(out, sheet.Known([2]string{"Machine", strings.Trim(plan.Machine.Name+", "+gear, ", ")})...)
}
