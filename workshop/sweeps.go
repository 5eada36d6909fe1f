package workshop

import (
	"context"
	"time"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/sweep"
)

// SweepAsked says what is swept and how it is looked at.
type SweepAsked struct {
	Lighting
	X sweep.Axis
	Y sweep.Axis
}

// Sweep is a finished sweep of a diagram. It keeps the draft that it was made from, so
// that a point can still be picked when the diagram has moved on.
type Sweep struct {
	ID        string
	DiagramID string
	Draft     diagram.Draft
	Asked     SweepAsked
	// SG is that of the material then, 0 for none.
	SG      float64
	Points  []sweep.Point
	Created time.Time
}

// SweepStore keeps sweeps.
type SweepStore interface {
	// InsertSweep adds a sweep and drops all but the newest few of its diagram.
	InsertSweep(ctx context.Context, s Sweep, few int) error
	// Sweeps returns a diagram's sweeps without their points, the newest first.
	Sweeps(ctx context.Context, diagramID string) ([]Sweep, error)
	Sweep(ctx context.Context, id string) (Sweep, error)
}

// sweepsKept is how many sweeps of a diagram are kept.
const sweepsKept = 8

// Field returns the field that was swept.
func (s Sweep) Field() sweep.Field {
	return sweep.Field{
		X: s.Asked.X, Y: s.Asked.Y,
		RefractiveIndex: s.Asked.RefractiveIndex, HeadAngle: s.Asked.HeadAngle, FrostedGirdle: s.Asked.FrostedGirdle,
	}
}

// SweptFigures are what a point of a sweep comes to on the stone that was asked about.
type SweptFigures struct {
	// Return is the light return under the model that was asked for, Height in mm.
	Return, Height float64
	// Carats is nil where no material is named.
	Carats *float64
	// Judgement is that of the margin.
	Judgement Judgement
}

// Figures returns what a point comes to on the stone that was asked about.
func (s Sweep) Figures(p sweep.Point) SweptFigures {
	out := SweptFigures{Return: p.Return(s.Asked.Model), Height: p.HeightWidth * s.Asked.Width, Judgement: JudgeMargin(p.Margin)}
	if s.SG > 0 {
		carats := cutting.Carats(p.VolumeFactor, s.Asked.Width, s.SG)
		out.Carats = &carats
	}
	return out
}

// KeepSweep keeps what a sweep of a diagram came to. A diagram that is gone meanwhile is an
// error of the store.
func (l *Library) KeepSweep(ctx context.Context, s Sweep) (Sweep, error) {
	s.ID, s.Created = l.newID(), l.moment()
	return s, l.store.InsertSweep(ctx, s, sweepsKept)
}

// Sweeps returns a diagram's sweeps without their points, the newest first. It returns
// only the errors of the store.
func (l *Library) Sweeps(ctx context.Context, diagramID string) ([]Sweep, error) {
	return l.store.Sweeps(ctx, diagramID)
}

// Sweep returns a sweep. It returns ErrNotFound.
func (l *Library) Sweep(ctx context.Context, id string) (Sweep, error) {
	return l.store.Sweep(ctx, id)
}
