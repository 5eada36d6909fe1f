package analysis

import (
	"context"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/printed"
	"cressa/core/sweep"
	"cressa/workshop"
)

// Sweeps is what a sweep needs of the workshop.
type Sweeps interface {
	Diagram(ctx context.Context, id string) (workshop.Diagram, error)
	Settings(ctx context.Context) (workshop.Settings, error)
	KeepSweep(ctx context.Context, s workshop.Sweep) (workshop.Sweep, error)
}

// Sweep is a draft that is about to be tried at many angles.
type Sweep struct {
	workshop.Sweep
	stone *cutting.Stone
	shop  Sweeps
}

// PrepareSweep checks what is asked. Errors are workshop.ErrNotFound where there is no such
// diagram, a workshop.NotCuttable where the draft makes no stone, and a diagram.Problem where it
// cannot be looked at or swept so.
func PrepareSweep(ctx context.Context, shop Sweeps, diagramID string, draft diagram.Draft, asked workshop.SweepAsked) (*Sweep, error) {
	if _, err := shop.Diagram(ctx, diagramID); err != nil {
		return nil, err
	}
	stone, err := Whole(draft)
	if err != nil {
		return nil, err
	}
	settings, err := shop.Settings(ctx)
	if err != nil {
		return nil, err
	}
	lit, err := asked.Resolve(settings)
	if err != nil {
		return nil, err
	}
	// A material's figures may be changed later; what was swept stays.
	asked.RefractiveIndex = lit.Experiment.RefractiveIndex
	out := &Sweep{Sweep: workshop.Sweep{DiagramID: diagramID, Draft: draft, Asked: asked, SG: lit.SG}, stone: stone, shop: shop}
	return out, out.Field().Check(stone.Diagram)
}

// Present returns where the diagram itself stands in the field.
func (s *Sweep) Present() (x, y float64) { return s.Field().Present(s.stone.Diagram) }

// Total is how many points the field has.
func (s *Sweep) Total() int { return s.Asked.X.Steps * s.Asked.Y.Steps }

// Run tries all points and keeps the sweep. Each point is told with its number, from several
// goroutines at once. A sweep whose context ends is not kept; the error is then the context's.
func (s *Sweep) Run(ctx context.Context, each func(no int, p sweep.Point)) (workshop.Sweep, error) {
	points, err := sweep.Run(ctx, s.stone, s.Field(), each)
	if err != nil {
		return s.Sweep, err
	}
	s.Points = points
	return s.shop.KeepSweep(ctx, s.Sweep)
}

// Picked is the diagram at a place of a sweep's field.
type Picked struct {
	Draft diagram.Draft
	Tiers []PickedTier
}

// PickedTier is a tier whose angle in degrees is another one there.
type PickedTier struct {
	Name     string
	From, To float64
}

// Pick returns the diagram at a place of a field that was swept. The error is a
// workshop.NotCuttable where rules have changed since and the draft makes no stone any more, and
// a diagram.Problem where there is no stone at that place.
func Pick(s workshop.Sweep, x, y float64) (Picked, error) {
	stone, err := Whole(s.Draft)
	if err != nil {
		return Picked{}, err
	}
	at, err := s.Field().At(stone, x, y)
	if err != nil {
		return Picked{}, err
	}
	out := Picked{Draft: printed.Rewritten(s.Draft, at.Diagram, nil)}
	for i, t := range at.Diagram.Tiers {
		if from := stone.Diagram.Tiers[i].Angle; from != t.Angle {
			out.Tiers = append(out.Tiers, PickedTier{t.Name, from, t.Angle})
		}
	}
	return out, nil
}
