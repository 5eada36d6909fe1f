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
	Name      string            `json:"name" validate:"max=190"`
	DiagramID string            `json:"diagramId"`
	Choices   Choices           `json:"choices"`
	Order     workshop.RunOrder `json:"order" validate:"oneof=tier stone"`
	Stones    int               `json:"stones" validate:"min=2,max=24"`
}

// RunPage is a run with its stones in their order.
type RunPage struct {
	Run    Run         `json:"run"`
	Stones []StoneLine `json:"stones"`
	// Next is what comes to the wheel next, null where all stones are cut.
	Next *RunNext `json:"next"`
}

// RunNext is the stone of a run that comes to the wheel next, with its facet.
type RunNext struct {
	Number int    `json:"number"`
	Tier   string `json:"tier"`
	Tooth  int    `json:"tooth"`
}

// RunScript is everything the bench needs to cut a run without asking again: the
// script of its first stone, and of every stone what is its own.
type RunScript struct {
	Run    Run         `json:"run"`
	Script BenchScript `json:"script"`
	Stones []RunStone  `json:"stones"`
}

// RunStone is what a stone of a run has for itself.
type RunStone struct {
	ID       string  `json:"id"`
	WorkID   string  `json:"workId"`
	Number   int     `json:"number"`
	Name     string  `json:"name"`
	PlanNo   int     `json:"planNo"`
	Finished bool    `json:"finished"`
	Setups   []Setup `json:"setups"`
}

func (s *Server) runRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/runs", name: "planRun", summary: "Keep a plan as a run of stones", creates: true}, func(c *echo.Context, in withBody[RunRequest]) (Run, error) {
		b := in.Body
		run, err := s.workshop.PlanRun(c.Request().Context(), b.Name, b.DiagramID, b.Choices.choices(), b.Order, b.Stones)
		return runView(run), err
	})
	handle(s, route{method: http.MethodGet, path: "/api/runs/:id", name: "getRun", summary: "A run and its stones"}, s.runPage)
	handle(s, route{method: http.MethodGet, path: "/api/runs/:id/script", name: "getRunScript", summary: "The work on a run, step by step"}, s.runScript)
	handle(s, route{method: http.MethodGet, path: "/api/runs/:id/sheet/:paper/:pages", name: "runSheet", summary: "One cutting sheet for a run"}, func(c *echo.Context, in sheetRequest) (SheetPages, error) {
		content, err := s.runContent(c, in.ID)
		return sheetPages(content, in, err)
	})
	s.raw(route{method: http.MethodGet, path: "/api/runs/:id/sheet/:paper/:pages/pdf", computes: true}, func(c *echo.Context) error {
		content, err := s.runContent(c, c.Param("id"))
		return sendPDF(c, content, err)
	})
}

func (s *Server) runPage(c *echo.Context, in byID) (RunPage, error) {
	ctx := c.Request().Context()
	run, stones, err := s.workshop.Run(ctx, in.ID)
	if err != nil {
		return RunPage{}, err
	}
	next, err := s.workshop.NextOf(ctx, run, stones)
	if err != nil {
		return RunPage{}, err
	}
	page, err := s.workshop.Stones.Stones(ctx, workshop.StoneFilter{Run: in.ID, Sort: workshop.ByPlace}, workshop.Cursor{}, workshop.MostInRun)
	out := RunPage{Run: runView(run), Stones: stoneLines(page.Lines)}
	if next != nil {
		out.Next = &RunNext{next.Stone.Number, next.Facet.Tier, next.Facet.Dial.Tooth}
	}
	return out, err
}

func (s *Server) runScript(c *echo.Context, in byID) (RunScript, error) {
	ctx := c.Request().Context()
	run, stones, err := s.workshop.Run(ctx, in.ID)
	out := RunScript{Run: runView(run), Stones: []RunStone{}}
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
		work := stone.Work()
		one := RunStone{ID: stone.ID, WorkID: work.ID, Number: stone.Number, Name: stone.Name, Finished: work.Finish != nil, Setups: []Setup{}}
		if work.Plan != nil {
			one.PlanNo, one.Setups = work.Plan.No, setupsOf(work.Plan)
		}
		out.Stones = append(out.Stones, one)
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
