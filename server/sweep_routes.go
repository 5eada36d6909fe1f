package server

import (
	"context"
	"errors"
	"net/http"
	"reflect"
	"sync"
	"time"

	"github.com/labstack/echo/v5"

	"cressa/analysis"
	"cressa/core/material"
	"cressa/core/printed"
	"cressa/core/sweep"
	"cressa/workshop"
)

// SweepRequest asks for a draft to be tried at many angles.
type SweepRequest struct {
	Draft Draft `json:"draft"`
	SweepAsked
}

// SweepLine is how far a sweep has come with the points that are new, and at the end the
// sweep as it is kept.
type SweepLine struct {
	Progress
	// Asked is what was asked for, in the first line alone.
	Asked  *SweepRequest `json:"asked"`
	Points []SweptPoint  `json:"points"`
	// PresentX and PresentY are where the diagram itself stands in the field.
	PresentX float64    `json:"presentX"`
	PresentY float64    `json:"presentY"`
	Kept     *SweepHead `json:"kept"`
}

// SweptPoint is a point at a place of the field, counted row by row.
type SweptPoint struct {
	No int `json:"no"`
	sweep.Point
	// Return is the light return under the model that was asked for, Height in mm.
	Return float64 `json:"return"`
	Height float64 `json:"height"`
	// Carats is null where no material is named.
	Carats *float64 `json:"carats"`
	// Judgement is that of the margin.
	Judgement string `json:"judgement"`
}

// SweepHead is a kept sweep without its points.
type SweepHead struct {
	ID string `json:"id"`
	// Tiers are what its tiers were called.
	Tiers   []string   `json:"tiers"`
	Asked   SweepAsked `json:"asked"`
	Created time.Time  `json:"created"`
	// PresentX and PresentY are where the diagram itself stands in the field.
	PresentX float64 `json:"presentX"`
	PresentY float64 `json:"presentY"`
	// Changed tells that the diagram's draft is another one now.
	Changed bool `json:"changed"`
}

// SweepList lists the sweeps of a diagram, the newest first.
type SweepList struct {
	Sweeps []SweepHead `json:"sweeps"`
	// Axes are those that the diagram can be swept along, about what it is now; none where
	// it cannot be read.
	Axes []AxisChoice `json:"axes"`
}

// AxisChoice is an axis that is proposed, and what it can be made to run within.
type AxisChoice struct {
	Axis   Axis           `json:"axis"`
	Within material.Range `json:"within"`
}

func axisChoice(a sweep.Axis) AxisChoice {
	least, most := a.Kind.Bounds()
	return AxisChoice{Axis(a), material.Range{Low: least, High: most}}
}

// SweepView is a kept sweep.
type SweepView struct {
	SweepHead
	Points []SweptPoint `json:"points"`
}

// PickRequest names a place of a sweep's field.
type PickRequest struct {
	X float64 `json:"x" validate:"min=0,max=90"`
	Y float64 `json:"y" validate:"min=0,max=90"`
}

// Picked is the diagram at a place of a sweep's field.
type Picked struct {
	Draft Draft        `json:"draft"`
	Tiers []PickedTier `json:"tiers"`
}

// PickedTier is a tier whose angle in degrees is another one there.
type PickedTier struct {
	Name string  `json:"name"`
	From float64 `json:"from"`
	To   float64 `json:"to"`
}

func (s *Server) sweepRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/diagrams/:id/sweep", name: "startSweep", summary: "Try a draft at many angles"}, s.startSweep)
	stream(s, route{method: http.MethodGet, path: "/api/diagrams/:id/sweep", name: "sweep", summary: "A draft at many angles, as it is found"}, func(c *echo.Context, in byID, send func(SweepLine) error) error {
		return s.sweeping.follow(c.Request().Context(), in.ID, send)
	})
	handle(s, route{method: http.MethodDelete, path: "/api/diagrams/:id/sweep", name: "stopSweep", summary: "Stop the sweep; nothing of it is kept"}, func(_ *echo.Context, in byID) (none, error) {
		s.sweeping.stop(in.ID)
		return none{}, nil
	})
	handle(s, route{method: http.MethodGet, path: "/api/diagrams/:id/sweeps", name: "listSweeps", summary: "The sweeps of a diagram"}, s.sweeps)
	handle(s, route{method: http.MethodGet, path: "/api/sweeps/:id", name: "getSweep", summary: "A kept sweep"}, s.keptSweep)
	handle(s, route{method: http.MethodPost, path: "/api/sweeps/:id/pick", name: "pickPoint", summary: "The diagram at a place of a sweep"}, s.pickPoint)
}

func (s *Server) startSweep(c *echo.Context, in byIDWithBody[SweepRequest]) (none, error) {
	w, err := analysis.PrepareSweep(c.Request().Context(), s.workshop, in.ID, in.Body.Draft.draft(), in.Body.asked())
	if err != nil {
		return none{}, err
	}
	line := SweepLine{Progress: Progress{Total: w.Total()}, Points: []SweptPoint{}}
	line.PresentX, line.PresentY = w.Present()
	first := line
	first.Asked = &in.Body
	// Points come from all cores, and are told together now and then.
	var mutex sync.Mutex
	take := func() SweepLine {
		mutex.Lock()
		defer mutex.Unlock()
		out := line
		line.Points = []SweptPoint{}
		return out
	}
	var head *SweepHead
	s.sweeping.start(s.background, in.ID, first,
		func(ctx context.Context, tell func(SweepLine)) error {
			news := newNews()
			kept, err := w.Run(s.parallel(ctx), func(no int, p sweep.Point) {
				mutex.Lock()
				line.Points = append(line.Points, sweptPoint(w.Sweep, no, p))
				line.Done++
				mutex.Unlock()
				news.tell(func() { tell(take()) })
			})
			if err != nil {
				return err
			}
			h, err := s.sweepHead(ctx, kept)
			head = &h
			return err
		},
		func(err error) SweepLine {
			last := take()
			last.Progress, last.Kept = ended(last.Done, last.Total, err), head
			return last
		})
	return none{}, nil
}

func sweptPoint(of workshop.Sweep, no int, p sweep.Point) SweptPoint {
	f := of.Figures(p)
	return SweptPoint{No: no, Point: p, Return: f.Return, Height: f.Height, Carats: f.Carats, Judgement: string(f.Judgement)}
}

func (s *Server) sweepHead(ctx context.Context, w workshop.Sweep) (SweepHead, error) {
	out := SweepHead{ID: w.ID, Tiers: []string{}, Asked: askedView(w.Asked), Created: w.Created}
	for _, t := range w.Draft.Tiers {
		out.Tiers = append(out.Tiers, t.Name)
	}
	d, problems := printed.Diagram(w.Draft)
	if len(problems) > 0 {
		return out, workshop.NotCuttable{Problems: problems}
	}
	out.PresentX, out.PresentY = w.Field().Present(d)
	now, err := s.workshop.Diagram(ctx, w.DiagramID)
	out.Changed = !reflect.DeepEqual(now.Draft, w.Draft)
	return out, err
}

func (s *Server) sweeps(c *echo.Context, in byID) (SweepList, error) {
	ctx := c.Request().Context()
	out := SweepList{Sweeps: []SweepHead{}, Axes: []AxisChoice{}}
	now, err := s.workshop.Diagram(ctx, in.ID)
	if err != nil {
		return out, err
	}
	if d, problems := printed.Diagram(now.Draft); len(problems) == 0 {
		out.Axes = each(sweep.Axes(d), axisChoice)
	}
	list, err := s.workshop.Sweeps(ctx, in.ID)
	if err != nil {
		return out, err
	}
	for _, w := range list {
		head, err := s.sweepHead(ctx, w)
		if errors.As(err, new(workshop.NotCuttable)) {
			continue // rules may have changed since; the others are still there
		}
		if err != nil {
			return out, err
		}
		out.Sweeps = append(out.Sweeps, head)
	}
	return out, nil
}

func (s *Server) keptSweep(c *echo.Context, in byID) (SweepView, error) {
	ctx := c.Request().Context()
	w, err := s.workshop.Sweep(ctx, in.ID)
	if err != nil {
		return SweepView{}, err
	}
	head, err := s.sweepHead(ctx, w)
	out := SweepView{SweepHead: head, Points: []SweptPoint{}}
	for no, p := range w.Points {
		out.Points = append(out.Points, sweptPoint(w, no, p))
	}
	return out, err
}

func (s *Server) pickPoint(c *echo.Context, in byIDWithBody[PickRequest]) (Picked, error) {
	out := Picked{Tiers: []PickedTier{}}
	w, err := s.workshop.Sweep(c.Request().Context(), in.ID)
	if err != nil {
		return out, err
	}
	picked, err := analysis.Pick(w, in.Body.X, in.Body.Y)
	out.Draft = draftView(picked.Draft)
	for _, t := range picked.Tiers {
		out.Tiers = append(out.Tiers, PickedTier(t))
	}
	return out, err
}
