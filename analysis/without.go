package analysis

import (
	"context"

	"cressa/core/cutting"
	"cressa/core/light"
)

// LeftOff is a stone with or without one of its tiers: what it asks for and what is seen of it.
type LeftOff struct {
	Facets, Visits int
	Hours, Carats  float64
	Light          light.Figures
}

// WithAndWithout tells what a tier of a stone is worth: in light face up, in hours for a number of
// passes at a pace in minutes a visit, and in carats at a finished width in mm and a specific
// gravity. The error is a diagram.Problem where the rest does not cut without the tier, and that of
// the context where it ends first.
func WithAndWithout(ctx context.Context, stone *cutting.Stone, tierNo int, e light.Experiment, passes int, pace, width, sg float64) (with, without LeftOff, err error) {
	rest, err := cutting.CutWithout(stone.Diagram, []int{tierNo})
	if err != nil {
		return with, without, err
	}
	e.Grid = FigureGrid
	for _, of := range []struct {
		stone *cutting.Stone
		into  *LeftOff
	}{{stone, &with}, {rest, &without}} {
		m := of.stone.Measures()
		*of.into = LeftOff{Facets: m.Facets, Carats: cutting.Carats(m.VolumeFactor, width, sg)}
		of.into.Visits, of.into.Hours = visitsOf(of.stone, passes, pace)
		if of.into.Light, err = light.Of(of.stone).Trace(ctx, e); err != nil {
			return with, without, err
		}
	}
	return with, without, nil
}

// visitsOf counts the visits of a stone's facets in a number of passes, and the hours that they take at a pace in
// minutes a visit.
func visitsOf(s *cutting.Stone, passes int, pace float64) (int, float64) {
	visits := len(s.Facets) * passes
	return visits, float64(visits) * pace / 60
}
