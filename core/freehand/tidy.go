package freehand

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

// Tidy makes a diagram of a freehand stone: without the facets that later cuts took away, tiers that stand alike in
// one, and stops that a cutter would write, as far as those solve back to the same stone. It is in units of the stone's
// width; width is that in units of the rough. It returns the Problem of a stone that cannot be cut, BlockLeft for one
// that still shows its rough.
func Tidy(d *diagram.Diagram) (out *diagram.Diagram, width float64, err error) {
	stone, err := cutting.Cut(d)
	if err != nil {
		return nil, 0, err
	}
	width = stone.Measures().Width
	// The fewest tiers that lead there: what is only on the way may be needed on it.
	for _, t := range []tidying{{drop: true, join: true}, {drop: true}, {join: true}, {}} {
		tiers, want := t.of(stone, width)
		with := *d
		with.Tiers = tiers
		if derived, err := cutting.DeriveStops(&with, want, cutting.Exactly); err == nil && same(stone, derived, width) {
			return derived.Diagram, width, nil
		}
	}
	return scaled(d, 1/width), width, nil
}

// scaled returns the diagram as it was cut, its lengths by a factor.
func scaled(d *diagram.Diagram, by float64) *diagram.Diagram {
	out := *d
	out.Tiers = slices.Clone(d.Tiers)
	for i := range out.Tiers {
		stop := &out.Tiers[i].Stop
		stop.Drop, stop.Radius, stop.Thickness, stop.Distance = stop.Drop*by, stop.Radius*by, stop.Thickness*by, stop.Distance*by
	}
	return &out
}

// tidying says what is tidied.
type tidying struct{ drop, join bool }

// of returns the tiers that are left, and how far their facets are to stand from the origin once the stone is as wide as
// one unit.
func (t tidying) of(s *cutting.Stone, width float64) ([]diagram.Tier, cutting.Distances) {
	left := map[int]bool{}
	for _, f := range s.Solid().Faces() {
		left[f.ID] = true
	}
	var tiers []diagram.Tier
	var want cutting.Distances
	for no, tier := range s.Diagram.Tiers {
		var indexes, at []float64
		for i, f := range s.Facets {
			if f.Tier == no && (left[i] || !t.drop) {
				indexes, at = append(indexes, f.Index), append(at, f.Plane.D/width)
			}
		}
		if len(indexes) == 0 {
			continue
		}
		tier.Indexes = indexes
		like := slices.IndexFunc(tiers, func(o diagram.Tier) bool { return o.Part == tier.Part && o.Angle == tier.Angle })
		if t.join && like >= 0 && alike(append(slices.Clone(want[like]), at...)) {
			tiers[like].Indexes = append(tiers[like].Indexes, indexes...)
			want[like] = append(want[like], at...)
			continue
		}
		tiers, want = append(tiers, tier), append(want, at)
	}
	return tiers, want
}

// alike tells whether distances are all the same.
func alike(at []float64) bool { return slices.Max(at)-slices.Min(at) < cutting.Exactly }

// same tells whether two stones are the same but for their units and their place along the axis: every facet of the one
// has its like on the other.
func same(was, is *cutting.Stone, width float64) bool {
	a, b := was.Solid(), is.Solid()
	const enough = 1e-7
	if math.Abs(a.Volume()/(width*width*width)-b.Volume()) > enough {
		return false
	}
	_, _, facets := a.Counts()
	_, _, again := b.Counts()
	size, other := a.Bounds().Size(), b.Bounds().Size()
	return facets == again && r3.Norm(r3.Sub(r3.Scale(1/width, size), other)) < enough
}
