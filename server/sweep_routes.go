package server

import (
	"context"
	"errors"
	"net/http"
	"reflect"
	"sync"
	"time"

	"github.com/labstack/echo/v5"

	"cressa/core/cutting"
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
	Done   int          `json:"done"`
	Total  int          `json:"total"`
	Points []SweptPoint `json:"points"`
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
	Axes []Axis `json:"axes"`
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

// newsEvery is how often a sweep tells what is new.
const newsEvery = 100 * time.Millisecond

func (s *Server) sweepRoutes() {
	stream(s, route{method: http.MethodPost, path: "/api/diagrams/:id/sweeps", name: "sweep", summary: "A draft at many angles"}, s.sweep)
	handle(s, route{method: http.MethodGet, path: "/api/diagrams/:id/sweeps", name: "listSweeps", summary: "The sweeps of a diagram"}, s.sweeps)
	handle(s, route{method: http.MethodGet, path: "/api/sweeps/:id", name: "getSweep", summary: "A kept sweep"}, s.keptSweep)
	handle(s, route{method: http.MethodPost, path: "/api/sweeps/:id/pick", name: "pickPoint", summary: "The diagram at a place of a sweep"}, s.pickPoint)
}

func (s *Server) sweep(c *echo.Context, in byIDWithBody[SweepRequest], send func(SweepLine) error) error {
	ctx, stop := context.WithCancel(s.parallel(c.Request().Context()))
	defer stop()
	if _, err := s.workshop.Diagram(ctx, in.ID); err != nil {
		return err
	}
	stone, err := finished(in.Body.Draft.draft())
	if err != nil {
		return err
	}
	settings, err := s.workshop.Settings(ctx)
	if err != nil {
		return err
	}
	asked := in.Body.asked()
	seen, err := asked.Resolve(settings)
	if err != nil {
		return err
	}
	// A material's figures may be changed later; what was swept stays.
	asked.RefractiveIndex = seen.Experiment.RefractiveIndex
	kept := workshop.Sweep{DiagramID: in.ID, Draft: in.Body.Draft.draft(), Asked: asked, SG: seen.SG}
	field, total := kept.Field(), asked.X.Steps*asked.Y.Steps
	if err := field.Check(stone.Diagram); err != nil {
		return err
	}
	presentX, presentY := field.Present(stone.Diagram)
	// The points come from all cores; one hand writes now and then what is new.
	var mutex sync.Mutex
	var fresh []SweptPoint
	swept := make(chan error, 1)
	go func() {
		var err error
		kept.Points, err = sweep.Run(ctx, stone, field, func(no int, p sweep.Point) {
			mutex.Lock()
			fresh = append(fresh, sweptPoint(kept, no, p))
			mutex.Unlock()
		})
		swept <- err
	}()
	done := 0
	tell := func(head *SweepHead) error {
		mutex.Lock()
		line := SweepLine{Total: total, Points: fresh, PresentX: presentX, PresentY: presentY, Kept: head}
		fresh = nil
		mutex.Unlock()
		if line.Points == nil {
			line.Points = []SweptPoint{}
		}
		done += len(line.Points)
		line.Done = done
		return send(line)
	}
	often := time.NewTicker(newsEvery)
	defer often.Stop()
	for ended := false; !ended; {
		select {
		case err = <-swept:
			ended = true
		case <-often.C:
			if tell(nil) != nil {
				stop() // nobody listens any more
			}
		}
	}
	if err != nil {
		return err
	}
	if kept, err = s.workshop.KeepSweep(ctx, kept); err != nil {
		return err
	}
	head, err := s.sweepHead(ctx, kept)
	if err != nil {
		return err
	}
	return tell(&head)
}

func sweptPoint(of workshop.Sweep, no int, p sweep.Point) SweptPoint {
	out := SweptPoint{No: no, Point: p, Height: p.HeightWidth * of.Asked.Width, Return: p.Return(of.Asked.Model), Judgement: string(workshop.JudgeMargin(p.Margin))}
	if of.SG > 0 {
		carats := cutting.Carats(p.VolumeFactor, of.Asked.Width, of.SG)
		out.Carats = &carats
	}
	return out
}

func (s *Server) sweepHead(ctx context.Context, w workshop.Sweep) (SweepHead, error) {
	out := SweepHead{ID: w.ID, Tiers: []string{}, Asked: askedView(w.Asked), Created: w.Created}
	for _, t := range w.Draft.Tiers {
		out.Tiers = append(out.Tiers, t.Name)
	}
	d, problems := w.Draft.Read()
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
	out := SweepList{Sweeps: []SweepHead{}, Axes: []Axis{}}
	now, err := s.workshop.Diagram(ctx, in.ID)
	if err != nil {
		return out, err
	}
	if d, problems := now.Draft.Read(); len(problems) == 0 {
		out.Axes = each(sweep.Axes(d), func(a sweep.Axis) Axis { return Axis(a) })
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
	ctx := c.Request().Context()
	out := Picked{Tiers: []PickedTier{}}
	w, err := s.workshop.Sweep(ctx, in.ID)
	if err != nil {
		return out, err
	}
	stone, err := finished(w.Draft)
	if err != nil {
		return out, err
	}
	picked, err := w.Field().At(stone, in.Body.X, in.Body.Y)
	if err != nil {
		return out, err
	}
	out.Draft = draftView(w.Draft.Rewritten(picked.Diagram, nil))
	for i, t := range picked.Diagram.Tiers {
		if from := stone.Diagram.Tiers[i].Angle; from != t.Angle {
			out.Tiers = append(out.Tiers, PickedTier{t.Name, from, t.Angle})
		}
	}
	return out, nil
}
