package angles

import (
	"cmp"
	"context"
	"math"
	"slices"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

// Settable gives the neighbours of an angle that a machine can read, equal where it can
// be set as it is.
type Settable func(angle float64) (below, above float64)

// Steps returns the multiples of a step, in degrees, next to an angle.
func Steps(step float64) Settable {
	return func(angle float64) (float64, float64) {
		// A millionth of a step is the arithmetic's.
		at := angle / step
		if near := math.Round(at); math.Abs(at-near) < 1e-6 {
			return tidy(near * step), tidy(near * step)
		}
		return tidy(math.Floor(at) * step), tidy(math.Ceil(at) * step)
	}
}

// tidy drops what a step of 0.1 adds in binary.
func tidy(angle float64) float64 { return math.Round(angle*1e9) / 1e9 }

// Rounded is a stone at angles that can be set.
type Rounded struct {
	Stone *cutting.Stone
	// Angles are those of the tiers, in degrees.
	Angles []float64
	// Errors holds every meet of the exact stone against this one, the largest gap
	// first, in design units.
	Errors []cutting.MeetError
}

// Gap returns the largest gap.
func (r *Rounded) Gap() float64 {
	if len(r.Errors) == 0 {
		return 0
	}
	return r.Errors[0].Gap
}

// sum adds up the gaps.
func (r *Rounded) sum() float64 {
	total := 0.0
	for _, e := range r.Errors {
		total += e.Gap
	}
	return total
}

// Round cuts the stone at the given angles, one for each tier, its stops solved again.
// Where a stop names facets that no longer meet, it stops at the meet that comes nearest.
// The error is a Problem.
func Round(s *cutting.Stone, to []float64) (*Rounded, error) {
	d := *s.Diagram
	d.Tiers = slices.Clone(d.Tiers)
	for i := range d.Tiers {
		d.Tiers[i].Angle = to[i]
	}
	stone, err := cutting.CutLike(&d, s)
	if err != nil {
		return nil, err
	}
	errs, err := s.MeetErrors(stone.Planes())
	if err != nil {
		return nil, err
	}
	return &Rounded{Stone: stone, Angles: to, Errors: errs}, nil
}

// Nearest returns for every tier the nearest angle that can be set; the upper of two.
func Nearest(s *cutting.Stone, settable Settable) []float64 {
	out := make([]float64, len(s.Diagram.Tiers))
	for i, t := range s.Diagram.Tiers {
		below, above := neighbours(t, settable)
		out[i] = above
		if t.Angle-below < above-t.Angle-1e-9 {
			out[i] = below
		}
	}
	return out
}

// neighbours are the angles next to a tier's that can be set and that its part can
// have. Level and upright facets stay so: nobody tilts a table to suit a protractor.
func neighbours(t diagram.Tier, settable Settable) (below, above float64) {
	if t.Angle == 0 || t.Angle == 90 {
		return t.Angle, t.Angle
	}
	below, above = settable(t.Angle)
	if below <= 0 {
		below = above
	}
	if above >= 90 {
		above = below
	}
	return below, above
}

// BestRounding looks among the neighbours that can be set for the angles whose largest gap
// is smallest. From the nearest it goes to the neighbour of one tier or of two at once for
// as long as that helps, and so may miss a better one far off. Where the context ends
// first it returns the best so far and says so. It returns an error where not even the
// nearest angles cut whole.
func BestRounding(ctx context.Context, s *cutting.Stone, settable Settable) (*Rounded, cutting.Status, error) {
	best, err := Round(s, Nearest(s, settable))
	if err != nil {
		return nil, cutting.Complete, err
	}
	var free []int
	for i, t := range s.Diagram.Tiers {
		if below, above := neighbours(t, settable); below != above {
			free = append(free, i)
		}
	}
	flip := func(angles []float64, tiers ...int) []float64 {
		out := slices.Clone(angles)
		for _, i := range tiers {
			below, above := neighbours(s.Diagram.Tiers[i], settable)
			if out[i] == below {
				out[i] = above
			} else {
				out[i] = below
			}
		}
		return out
	}
	for {
		from := best
		var tries [][]int
		for i, a := range free {
			tries = append(tries, []int{a})
			for _, b := range free[:i] {
				tries = append(tries, []int{a, b})
			}
		}
		for _, tiers := range tries {
			if ctx.Err() != nil {
				return best, cutting.Stopped, nil
			}
			r, err := Round(s, flip(from.Angles, tiers...))
			if err == nil && better(r, best) {
				best = r
			}
		}
		if best == from {
			return best, cutting.Complete, nil
		}
	}
}

func better(a, b *Rounded) bool {
	const same = 1e-9
	if math.Abs(a.Gap()-b.Gap()) > same {
		return a.Gap() < b.Gap()
	}
	return cmp.Compare(a.sum(), b.sum()-same) < 0
}
