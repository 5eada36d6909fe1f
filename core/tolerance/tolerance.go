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

// Usual is how many trials make two seeds agree within 2 % on what one stone in twenty exceeds
// at the worst meet. One meet that none is like would need some 17 000: 95 of 100 pairs of seeds
// then agree so well.
const Usual = 16000

// Meet is one meet and the gaps that come of it, in design units.
type Meet struct {
	cutting.Meet
	// P50 and P95 are exceeded in half of the stones, and in one of twenty. Meets that a
	// symmetry maps onto each other have one figure, from the gaps of all of them.
	P50, P95 float64
	// Kind counts the kinds of meets from 0, the worst first; meets alike share it.
	Kind int
}

// Result is what came of the trials.
type Result struct {
	// Meets are in the order of the largest P95.
	Meets []Meet
	// Shares tells for every tier its part, 0 to 1, of the variance of the worst meet's
	// gap, found with only this tier's errors on.
	Shares []float64
}

// alone tells in how many of the trials each tier is also cut with only its errors on: a share
// of the variance needs fewer than a gap that is rarely exceeded.
func alone(trials int) int { return min(trials, max(trials/10, 200)) }

// Run cuts the stone trials times with errors on all tiers, and less often with those of
// each tier alone. Per trial each tier's angle gets one draw, because the protractor is
// set once, and each facet's index and depth one each: the cutter brings the facet to
// the point of its stop that it reaches first, give or take the depth. Equal seeds give equal
// results, on any number of cores and in whatever order indexes are listed. Report is told how
// many of the trials are done, from many goroutines at once. It ends early with the context's
// error.
func Run(ctx context.Context, s *cutting.Stone, spread Spread, trials int, seed uint64, report func(done, total int)) (*Result, error) {
	meets := s.Meets()
	kinds := s.AlikeMeets(meets)
	order := byPlace(s)
	cuts := trials + alone(trials)*len(s.Diagram.Tiers)
	var done atomic.Int64
	// cut returns the gaps of every kind of meet from n stones.
	cut := func(n, only int, kinds [][]int) ([][]float64, error) {
		gaps := make([][]float32, n)
		alike := func() struct{} { return struct{}{} }
		err := work.Each(ctx, n, alike, func(_ struct{}, trial int) {
			draw := rand.New(rand.NewPCG(seed, uint64(trial)))
			gaps[trial] = narrow(cutting.Gaps(meets, drawn(s, order, spread, draw, only)))
			report(int(done.Add(1))*trials/cuts, trials)
		})
		if err != nil {
			return nil, err
		}
		return pooled(gaps, kinds), nil
	}
	const all = -1
	gaps, err := cut(trials, all, kinds)
	if err != nil {
		return nil, err
	}
	out := &Result{Shares: make([]float64, len(s.Diagram.Tiers))}
	worst := -1
	largest := 0.0
	for i, kind := range kinds {
		slices.Sort(gaps[i])
		half, twenty := stat.Quantile(0.5, stat.LinInterp, gaps[i], nil), stat.Quantile(0.95, stat.LinInterp, gaps[i], nil)
		if worst < 0 || twenty > largest {
			worst, largest = i, twenty
		}
		for _, place := range kind {
			out.Meets = append(out.Meets, Meet{Meet: meets[place], P50: half, P95: twenty, Kind: i})
		}
	}
	if worst < 0 {
		return out, nil
	}
	slices.SortStableFunc(out.Meets, func(a, b Meet) int { return cmp.Compare(b.P95, a.P95) })
	number := map[int]int{}
	for i := range out.Meets {
		m := &out.Meets[i]
		if _, ok := number[m.Kind]; !ok {
			number[m.Kind] = len(number)
		}
		m.Kind = number[m.Kind]
	}
	for tier := range out.Shares {
		gaps, err := cut(alone(trials), tier, kinds[worst:worst+1])
		if err != nil {
			return nil, err
		}
		out.Shares[tier] = stat.Variance(gaps[0], nil)
	}
	if sum := floats.Sum(out.Shares); sum > 0 {
		floats.Scale(1/sum, out.Shares)
	}
	return out, nil
}

// byPlace returns the places of the facets in the order in which they draw: by tier, then
// clockwise round the stone, however the indexes are listed.
func byPlace(s *cutting.Stone) []int {
	out := make([]int, len(s.Facets))
	for i := range out {
		out[i] = i
	}
	slices.SortStableFunc(out, func(a, b int) int {
		f, g := s.Facets[a], s.Facets[b]
		return cmp.Or(cmp.Compare(f.Tier, g.Tier), cmp.Compare(f.Azimuth, g.Azimuth))
	})
	return out
}

// drawn cuts the stone with errors that are drawn. Some one in 100 000 draws has planes
// that pass corners too closely to be cut; then the next is taken.
func drawn(s *cutting.Stone, order []int, spread Spread, draw *rand.Rand, only int) *solid.Solid {
	for {
		if changed, err := s.WithPlanes(off(s, order, spread, draw, only)); err == nil {
			return changed
		}
	}
}

// narrow keeps many gaps in half the room; seven digits are far more than they are good for.
func narrow(gaps []float64) []float32 {
	out := make([]float32, len(gaps))
	for i, v := range gaps {
		out[i] = float32(v)
	}
	return out
}

// pooled puts the gaps of meets that are alike into one list for each kind. Rows has a row of
// gaps for each stone.
func pooled(rows [][]float32, kinds [][]int) [][]float64 {
	out := make([][]float64, len(kinds))
	for i, kind := range kinds {
		for _, row := range rows {
			for _, place := range kind {
				out[i] = append(out[i], float64(row[place]))
			}
		}
	}
	return out
}

// off returns the planes of the stone as a machine cuts them, with errors on all tiers
// or on one. Every facet draws whether it is used or not, so that a tier's errors are
// the same alone as with the others.
func off(s *cutting.Stone, order []int, spread Spread, draw *rand.Rand, only int) []solid.Plane {
	angles := make([]float64, len(s.Diagram.Tiers))
	for i := range angles {
		angles[i] = spread.Angle * draw.NormFloat64()
	}
	out := s.Planes()
	for _, i := range order {
		f := s.Facets[i]
		index, depth := spread.Index*draw.NormFloat64(), spread.Depth*draw.NormFloat64()
		if only >= 0 && f.Tier != only {
			continue
		}
		t := s.Diagram.Tiers[f.Tier]
		out[i] = f.AtStop(diagram.Normal(t.Part, t.Angle+angles[f.Tier], f.Azimuth+index))
		out[i].D += depth
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
