package cutting

import (
	"context"
	"math"
	"slices"

	"cressa/core/diagram"
)

// Distances says how far from the origin every facet of a diagram stands, in design
// units: for each tier in the order of its indexes.
type Distances [][]float64

// Exactly is how far a facet may stand from where it is wanted and still be the same
// plane: the agreement asked of two programs that solve one diagram.
const Exactly = 1e-9

// Distances returns where the facets of the stone stand. A tier that was not cut has
// none.
func (s *Stone) Distances() Distances {
	out := make(Distances, len(s.Diagram.Tiers))
	for _, f := range s.Facets {
		out[f.Tier] = append(out[f.Tier], f.Plane.D)
	}
	return out
}

// NoStop says that no stop brings a tier's facets to where they are to stand: they
// stand at several distances and share no meet. The tier must be split.
const NoStop diagram.Code = "no-stop"

// DeriveStops finds the stops of a diagram whose facets are to stand at the given
// distances: for each tier, in its order, what a cutter would write. Stops that lead
// there already are kept unless a plainer one does. Where the first tier runs to the
// axis, the stone is moved along it so that this point is the origin, as the format
// has it. Every stop is checked by solving it, to within tolerance. The stone is that
// of the new diagram; the error is a Problem.
func DeriveStops(d *diagram.Diagram, want Distances, tolerance float64) (*Stone, error) {
	want = centred(d, want, tolerance)
	s, _, err := derive(d, want, tolerance, math.Inf(1))
	if err != nil {
		return s, err
	}
	stone, err := Cut(s.Diagram)
	if err != nil {
		return stone, err
	}
	return stone, nil
}

// centred moves the stone along its axis so that the first tier, if it makes one
// point there, makes it at the origin.
func centred(d *diagram.Diagram, want Distances, tolerance float64) Distances {
	first := d.Tiers[0]
	if first.Part != d.FirstSide {
		return want
	}
	rise := diagram.Normal(first.Part, first.Angle, 0).Z
	for _, at := range want[0] {
		if math.Abs(at-want[0][0]) > tolerance {
			return want
		}
	}
	// A steep tier would make its point far below the stone, where the block that all is
	// cut from does not reach.
	const far = 2
	shift := -want[0][0] / rise
	if math.Abs(shift) <= tolerance || math.Abs(shift) > far {
		return want
	}
	out := make(Distances, len(want))
	for no, t := range d.Tiers {
		for _, at := range want[no] {
			out[no] = append(out[no], at+shift*diagram.Normal(t.Part, t.Angle, 0).Z)
		}
	}
	return out
}

// derive cuts the diagram with stops that bring its facets to where they are wanted,
// and returns what it costs a cutter to follow them. It gives up where that is more
// than most.
func derive(d *diagram.Diagram, want Distances, tolerance, most float64) (*Stone, float64, error) {
	with := *d
	with.Tiers = slices.Clone(d.Tiers)
	s := start(&with)
	total := 0.0
	for no := range with.Tiers {
		stop, ok := s.stopFor(no, want[no], tolerance)
		if total += effort(stop); !ok || total > most {
			return s, total, s.problem(NoStop, no)
		}
		with.Tiers[no].Stop = stop
		if err := s.cutTier(no); err != nil {
			return s, total, err
		}
	}
	return s, total, nil
}

// effort weighs what a stop asks of a cutter: nothing where a point is seen on the
// stone, something where it is measured, more where it is judged by eye, and more
// again where the figure is not one that a person would write. The figures are our own.
// What counts is their order, and that two stops measured off the stone cost less than one
// by eye; an equal unit is what improve prices an order in.
func effort(s diagram.Stop) float64 {
	if s.Definite() {
		return 0
	}
	const unwritten = 2
	cost := 1.0
	switch s.Kind {
	case diagram.Along:
		cost = 2
	case diagram.Centre:
		cost = 3
	case diagram.Depth:
		cost = 5
	}
	if figure := s.Figure() * 1e4; math.Abs(figure-math.Round(figure)) > 1e-6 {
		cost += unwritten
	}
	return cost
}

// PlanCuts puts the tiers of each side of a diagram into an order of its own and finds
// their stops, so that the facets come to stand at the given distances: of the tiers
// that are left always the one whose stop asks least of the cutter, the first in the
// diagram where that is the same; then tiers are moved where that saves work. The error is a
// Problem, or the context's.
func PlanCuts(ctx context.Context, d *diagram.Diagram, want Distances, tolerance float64) (*Stone, error) {
	want = centred(d, want, tolerance)
	with := *d
	with.Tiers = nil
	s := start(&with)
	left := identity(len(d.Tiers))
	for len(left) > 0 {
		best, least := -1, math.Inf(1)
		var stop diagram.Stop
		for i, no := range left {
			if ctx.Err() != nil {
				return s, ctx.Err()
			}
			if d.CutWith(d.Tiers[no].Part) != d.CutWith(d.Tiers[left[0]].Part) {
				continue
			}
			with.Tiers = append(with.Tiers, d.Tiers[no])
			found, ok := s.stopFor(len(with.Tiers)-1, want[no], tolerance)
			with.Tiers = with.Tiers[:len(with.Tiers)-1]
			if cost := effort(found); ok && cost < least {
				best, least, stop = i, cost, found
			}
			if len(with.Tiers) == 0 || least == 0 {
				break
			}
		}
		if best < 0 {
			t := d.Tiers[left[0]]
			return s, diagram.Problem{Code: NoStop, Tier: t.Name, TierNo: left[0], Field: diagram.FieldStop}
		}
		t := d.Tiers[left[best]]
		t.Stop = stop
		with.Tiers = append(with.Tiers, t)
		if err := s.cutTier(len(with.Tiers) - 1); err != nil {
			return s, err
		}
		left = slices.Delete(left, best, best+1)
	}
	stone, err := Cut(&with)
	if err != nil {
		return stone, err
	}
	return JudgeOrder(ctx, &with, Preference{}).Better, nil
}

// CutLike cuts a diagram whose facets are those of another stone at somewhat different
// angles. Where a stop names facets that no longer meet in one point, it stops at the
// meet that leaves the tier nearest to where it was. The stone's diagram has these
// stops. The error is a Problem.
func CutLike(d *diagram.Diagram, like *Stone) (*Stone, error) {
	want := like.Distances()
	with := *d
	with.Tiers = slices.Clone(d.Tiers)
	s := start(&with)
	for no := range with.Tiers {
		err := s.cutTier(no)
		if err == nil {
			continue
		}
		stop, ok := s.nearestStop(no, want[no])
		if !ok {
			return s, err
		}
		with.Tiers[no].Stop = stop
		if err := s.cutTier(no); err != nil {
			return s, err
		}
	}
	return Cut(&with)
}

// nearestStop looks among the meets of the stone as it stands for the one that leaves
// the tier nearest to where it was.
func (s *Stone) nearestStop(no int, want []float64) (diagram.Stop, bool) {
	t := s.Diagram.Tiers[no]
	find := &finder{stone: s, solid: s.Solid(), tierNo: no, tier: &t}
	var best diagram.Stop
	least := math.Inf(1)
	for _, c := range find.vertices() {
		if c.block || len(c.facets) < 3 {
			continue
		}
		refs := find.tiersAt(c)
		stop := diagram.Stop{Kind: diagram.Meet, Tiers: refs[:min(len(refs), 4)]}
		off := find.off(stop, want)
		if off < least {
			best, least = stop, off
		}
	}
	return best, !math.IsInf(least, 1)
}
