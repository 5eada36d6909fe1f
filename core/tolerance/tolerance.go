// Package tolerance reckons what a machine's repeatability does to the meets of a
// stone: the same stone is cut many times with angles, indexes and depths that are off
// by chance.
package tolerance

import (
	"cmp"
	"context"
	"math/rand/v2"
	"slices"
	"sync/atomic"

	"gonum.org/v1/gonum/floats"
	"gonum.org/v1/gonum/spatial/r3"
	"gonum.org/v1/gonum/stat"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/solid"
	"cressa/core/work"
)

// Spread is by how much a machine repeats, as standard deviations: angle and index in
// degrees, depth in design units.
type Spread struct{ Angle, Index, Depth float64 }

// Meet is one meet and the gaps that come of it, in design units.
type Meet struct {
	cutting.Meet
	// P50 and P95 are exceeded in half of the stones, and in one of twenty.
	P50, P95 float64
}

// Result is what came of the trials.
type Result struct {
	// Meets are in the order of the largest P95.
	Meets []Meet
	// Shares tells for every tier its part, 0 to 1, of the variance of the worst meet's
	// gap, found with only this tier's errors on.
	Shares []float64
}

// Cuts is how many stones Run cuts: as many as there are trials with all tiers in error, and
// as many with each alone.
func Cuts(s *cutting.Stone, trials int) int { return trials * (1 + len(s.Diagram.Tiers)) }

// Run cuts the stone trials times with errors on all tiers, and as often with those of
// each tier alone. Per trial each tier's angle gets one draw, because the protractor is
// set once, and each facet's index and depth one each: the cutter brings the facet to
// the point of its stop, give or take the depth. Equal seeds give equal results, on any
// number of cores. Report is told how many of all stones are cut, from many goroutines at
// once. It ends early with the context's error.
func Run(ctx context.Context, s *cutting.Stone, spread Spread, trials int, seed uint64, report func(done, total int)) (*Result, error) {
	meets := s.Meets()
	total := Cuts(s, trials)
	var done atomic.Int64
	cut := func(only int) ([][]float64, error) {
		gaps := make([][]float64, trials)
		alike := func() struct{} { return struct{}{} }
		err := work.Each(ctx, trials, alike, func(_ struct{}, trial int) {
			draw := rand.New(rand.NewPCG(seed, uint64(trial)))
			gaps[trial] = cutting.Gaps(meets, drawn(s, spread, draw, only))
			report(int(done.Add(1)), total)
		})
		return gaps, err
	}
	const all = -1
	gaps, err := cut(all)
	if err != nil {
		return nil, err
	}
	out := &Result{Shares: make([]float64, len(s.Diagram.Tiers))}
	order := make([]int, len(meets))
	for i, m := range meets {
		column := columnOf(gaps, i)
		slices.Sort(column)
		out.Meets = append(out.Meets, Meet{
			Meet: m,
			P50:  stat.Quantile(0.5, stat.LinInterp, column, nil),
			P95:  stat.Quantile(0.95, stat.LinInterp, column, nil),
		})
		order[i] = i
	}
	if len(meets) == 0 {
		return out, nil
	}
	slices.SortStableFunc(order, func(a, b int) int {
		return cmp.Compare(out.Meets[b].P95, out.Meets[a].P95)
	})
	worst := order[0]
	sorted := make([]Meet, len(order))
	for i, no := range order {
		sorted[i] = out.Meets[no]
	}
	out.Meets = sorted
	for tier := range out.Shares {
		gaps, err := cut(tier)
		if err != nil {
			return nil, err
		}
		out.Shares[tier] = stat.Variance(columnOf(gaps, worst), nil)
	}
	if sum := floats.Sum(out.Shares); sum > 0 {
		floats.Scale(1/sum, out.Shares)
	}
	return out, nil
}

// drawn cuts the stone with errors that are drawn. Some one in 100 000 draws has planes
// that pass corners too closely to be cut; then the next is taken.
func drawn(s *cutting.Stone, spread Spread, draw *rand.Rand, only int) *solid.Solid {
	for {
		if changed, err := s.WithPlanes(off(s, spread, draw, only)); err == nil {
			return changed
		}
	}
}

func columnOf(rows [][]float64, i int) []float64 {
	out := make([]float64, len(rows))
	for k, row := range rows {
		out[k] = row[i]
	}
	return out
}

// off returns the planes of the stone as a machine cuts them, with errors on all tiers
// or on one. Every facet draws whether it is used or not, so that a tier's errors are
// the same alone as with the others.
func off(s *cutting.Stone, spread Spread, draw *rand.Rand, only int) []solid.Plane {
	angles := make([]float64, len(s.Diagram.Tiers))
	for i := range angles {
		angles[i] = spread.Angle * draw.NormFloat64()
	}
	out := make([]solid.Plane, len(s.Facets))
	for i, f := range s.Facets {
		index, depth := spread.Index*draw.NormFloat64(), spread.Depth*draw.NormFloat64()
		if only >= 0 && f.Tier != only {
			out[i] = f.Plane
			continue
		}
		t := s.Diagram.Tiers[f.Tier]
		n := diagram.Normal(t.Part, t.Angle+angles[f.Tier], f.Azimuth+index)
		out[i] = solid.Plane{Normal: n, D: r3.Dot(n, f.Target) + depth}
	}
	return out
}

// Rounding is what rounding every angle to a step would open by itself.
type Rounding struct {
	// Step is in degrees, Gap the widest of any meet in design units.
	Step, Gap float64
	// Noticed tells that it is more than the machine's own errors open in half of the
	// stones at the worst meet: only then does it stand out from them.
	Noticed bool
}

// Roundings holds the steps that protractors have against what the machine opens. Can
// tells what can be set with a step. Steps that make no stone are left out.
func (r *Result) Roundings(s *cutting.Stone, settable func(step float64) angles.Settable) []Rounding {
	var out []Rounding
	if len(r.Meets) == 0 {
		return out
	}
	for _, step := range []float64{0.05, 0.1, 0.25, 0.5, 1} {
		rounded, err := angles.Round(s, angles.Nearest(s, settable(step)))
		if err == nil {
			out = append(out, Rounding{Step: step, Gap: rounded.Gap(), Noticed: rounded.Gap() > r.Meets[0].P50})
		}
	}
	return out
}
