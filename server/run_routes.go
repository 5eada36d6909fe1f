package server

import (
	"fmt"
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/sheet"
	"cressa/workshop"
)

// RunRequest keeps a plan as a run of stones.
type RunRequest struct {
	Name      string           `json:"name" validate:"max=190"`
	DiagramID string           `json:"diagramId"`
	Choices   workshop.Choices `json:"choices"`
	Way       workshop.Way     `json:"way" validate:"oneof=tier stone"`
	Stones    int              `json:"stones" validate:"min=2,max=24"`
}

// RunPage is a run with its stones in their order.
type RunPage struct {
	Run    workshop.Run       `json:"run"`
	Stones []workshop.Summary `json:"stones"`
}

// RunScript is everything the bench needs to cut a run without asking again: the
// script of its first stone, and of every stone what is its own.
type RunScript struct {
	Run    workshop.Run `json:"run"`
	Script BenchScript  `json:"script"`
	Stones []RunStone   `json:"stones"`
}

// RunStone is what a stone of a run has for itself.
type RunStone struct {
	ID       string           `json:"id"`
	Number   int              `json:"number"`
	Name     string           `json:"name"`
	PlanNo   int              `json:"planNo"`
	Finished bool             `json:"finished"`
	Setups   []workshop.Setup `json:"setups"`
	Events   []workshop.Event `json:"events"`
}

func (s *Server) runRoutes() {
	handle(s, http.MethodPost, "/api/runs", "planRun", "Keep a plan as a run of stones", func(c *echo.Context, in withBody[RunRequest]) (workshop.Run, error) {
		b := in.Body
		return s.workshop.PlanRun(c.Request().Context(), b.Name, b.DiagramID, b.Choices, b.Way, b.Stones)
	})
	handle(s, http.MethodGet, "/api/runs/:id", "getRun", "A run and its stones", s.runPage)
	handle(s, http.MethodGet, "/api/runs/:id/script", "getRunScript", "The work on a run, step by step", s.runScript)
	handle(s, http.MethodGet, "/api/runs/:id/sheet/:paper/:pages", "runSheet", "One cutting sheet for a run", func(c *echo.Context, in sheetRequest) (SheetPages, error) {
		content, err := s.runContent(c, in.ID)
		return sheetPages(content, in, err)
	})
	s.echo.GET("/api/runs/:id/sheet/:paper/:pages/pdf", func(c *echo.Context) error {
		content, err := s.runContent(c, c.Param("id"))
		return sendPDF(c, content, err)
	})
}

func (s *Server) runPage(c *echo.Context, in byID) (RunPage, error) {
	ctx := c.Request().Context()
	run, stones, err := s.workshop.Run(ctx, in.ID)
	out := RunPage{run, []workshop.Summary{}}
	if err != nil {
		return out, err
	}
	for _, stone := range stones {
		summary, err := s.workshop.Summary(ctx, stone)
		if err != nil {
			return out, err
		}
		out.Stones = append(out.Stones, summary)
	}
	return out, nil
}

func (s *Server) runScript(c *echo.Context, in byID) (RunScript, error) {
	ctx := c.Request().Context()
	run, stones, err := s.workshop.Run(ctx, in.ID)
	out := RunScript{Run: run, Stones: []RunStone{}}
	if err != nil {
		return out, err
	}
	if len(stones) == 0 {
		return out, workshop.ErrNotFound
	}
	if out.Script, err = s.scriptOf(ctx, stones[0]); err != nil {
		return out, err
	}
	for _, stone := range stones {
		events, err := s.workshop.Events(ctx, stone.ID)
		if err != nil {
			return out, err
		}
		out.Stones = append(out.Stones, RunStone{
			ID: stone.ID, Number: stone.Number, Name: stone.Name, PlanNo: stone.Work.Plan.No,
			Finished: stone.Work.Finish != nil, Setups: stone.Work.Setups, Events: events,
		})
	}
	return out, nil
}

// runContent is one sheet for all stones of a run, a box to tick for each.
func (s *Server) runContent(c *echo.Context, id string) (sheet.Content, error) {
	ctx := c.Request().Context()
	run, stones, err := s.workshop.Run(ctx, id)
	if err != nil {
		return sheet.Content{}, err
	}
	if len(stones) == 0 {
		return sheet.Content{}, workshop.ErrNotFound
	}
	a, err := s.workshop.AssessStone(ctx, stones[0])
	if err != nil {
		return sheet.Content{}, err
	}
	content := sheet.OfPlan(fmt.Sprintf("%d–%d · %s", stones[0].Number, stones[len(stones)-1].Number, run.Name), a)
	for _, stone := range stones {
		content.Stones = append(content.Stones, fmt.Sprint(stone.Number))
	}
	return content, nil
}
