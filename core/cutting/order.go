package cutting

import (
	"math"
	"slices"

	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/solid"
)

// Replay cuts the facets of a solved stone in another order, given as places in
// s.Facets, out of a solid, such as its preform, and returns the solid after each cut, that one first. The
// planes are known, so any order can be replayed; the faces keep their IDs. The error is a Problem,
// CutFailed.
func (s *Stone) Replay(now *solid.Solid, order []int) ([]*solid.Solid, error) {
	out := []*solid.Solid{now}
	for _, i := range order {
		next, outcome := now.Cut(i, s.Facets[i].Plane)
		if outcome == solid.Failed {
			return nil, s.problem(CutFailed, s.Facets[i].Tier)
		}
		now = next
		out = append(out, now)
	}
	return out, nil
}

// OtherSideFirst rewrites a diagram so that its second side is cut first, girdle
// included, and still makes the same stone.
//
// Tiers keep their order within a side. The tier that took its height from the
// girdle now fixes it with a centre point, and the tier that did so takes its
// height from the girdle; the rest keep their stops. Where that does not give the same
// stone, the stops are derived anew from where the facets stand. It returns a problem
// where no stop leads there.
func OtherSideFirst(s *Stone) (*diagram.Diagram, error) {
	d := *s.Diagram
	second := d.FirstSide
	d.FirstSide = second.Other()
	d.Tiers = nil
	var want Distances
	have := s.Distances()
	for _, with := range []diagram.Part{d.FirstSide, second} {
		for no, t := range s.Diagram.Tiers {
			side := t.Part
			if side == diagram.Girdle {
				side = d.FirstSide
			}
			if side == with {
				d.Tiers = append(d.Tiers, turnTier(s.Diagram, t))
				want = append(want, have[no])
			}
		}
	}
	swapped := d
	swapped.Tiers = slices.Clone(d.Tiers)
	swapHeights(s, &swapped)
	if other, err := Cut(&swapped); err == nil && sameMeasures(s.Measures(), other.Measures()) {
		return &swapped, nil
	}
	derived, err := DeriveStops(&d, want, Exactly)
	if err != nil {
		return nil, err
	}
	if !sameMeasures(s.Measures(), derived.Measures()) {
		return nil, diagram.Problem{Code: OrderChangesStone, TierNo: -1, Field: diagram.FieldFirstSide, Text: string(d.FirstSide)}
	}
	return derived.Diagram, nil
}

// OrderChangesStone says that, cut in the other order the stops give another stone.
const OrderChangesStone diagram.Code = "order-changes-stone"

// turnTier counts the indexes of girdle facets the way they are dialled with the
// other side up.
func turnTier(d *diagram.Diagram, t diagram.Tier) diagram.Tier {
	if d.Indexing == diagram.Shared {
		return t
	}
	if t.Part == diagram.Girdle {
		turned := make([]float64, len(t.Indexes))
		for i, index := range t.Indexes {
			turned[i] = gear.Mirror(index, d.Gear)
		}
		t.Indexes = turned
	}
	turnRefs := func(refs []diagram.Ref) []diagram.Ref {
		var out []diagram.Ref
		for _, r := range refs {
			if no := d.TierNo(r.Tier); r.OneFacet && d.Tiers[no].Part == diagram.Girdle {
				r.Index = gear.Mirror(r.Index, d.Gear)
			}
			out = append(out, r)
		}
		return out
	}
	t.Stop.Tiers, t.Stop.From, t.Stop.To = turnRefs(t.Stop.Tiers), turnRefs(t.Stop.From), turnRefs(t.Stop.To)
	return t
}

// swapHeights lets the new first side fix the height and the new second side take
// it from the girdle.
func swapHeights(s *Stone, d *diagram.Diagram) {
	fixed, taken := false, false
	for i := range d.Tiers {
		t := &d.Tiers[i]
		switch {
		case t.Part == d.FirstSide && t.Stop.Kind == diagram.GirdleBand && !fixed:
			t.Stop = diagram.Stop{Kind: diagram.Centre}
			fixed = true
		case t.Part == d.FirstSide.Other() && t.Stop.Kind == diagram.Centre && !taken:
			thinnest, _, _ := s.Girdle()
			t.Stop = diagram.Stop{Kind: diagram.GirdleBand, Thickness: thinnest.Thickness()}
			taken = true
		}
	}
}

// sameMeasures tells whether two stones are one to within what a lap could show.
func sameMeasures(a, b Measures) bool {
	const same = 1e-6
	close := func(x, y float64) bool { return math.Abs(x-y) <= same }
	both := func(x, y *float64) bool { return x == nil && y == nil || x != nil && y != nil && close(*x, *y) }
	return a.Facets == b.Facets && a.Vertices == b.Vertices && close(a.Volume, b.Volume) &&
		close(a.Height, b.Height) && close(a.Width, b.Width) && both(a.GirdleBand, b.GirdleBand) &&
		both(a.CrownHeight, b.CrownHeight) && both(a.TableWidth, b.TableWidth)
}

// When says when in the cutting of its side a cutter likes the girdle or the table
// to be cut.
type When string

// The times. The zero value keeps to the diagram.
const (
	AsDrawn When = "drawn"
	First   When = "first"
	Last    When = "last"
)

// HabitNotKept says that a habit was left aside, because the diagram's stops need
// the tier where it stands. Text is the part: girdle, or table.
const HabitNotKept diagram.Code = "habit-not-kept"

// Arrange moves the girdle and the table to where a cutter likes them, if that
// still makes the same stone. Tiers that cannot keep their stops there get others. The
// problems name the habits that were left aside.
func Arrange(s *Stone, girdle, table When) (*Stone, []diagram.Problem) {
	var left []diagram.Problem
	for _, h := range []struct {
		part string
		when When
		is   func(diagram.Tier) bool
	}{
		{"table", table, isTable},
		// After the table: where both are cut with one side, the girdle is outermost.
		{"girdle", girdle, func(t diagram.Tier) bool { return t.Part == diagram.Girdle }},
	} {
		if h.when != First && h.when != Last {
			continue
		}
		moved, ok := moveTiers(s, h.when, h.is)
		if !ok {
			left = append(left, diagram.Problem{Code: HabitNotKept, TierNo: -1, Text: h.part, Other: string(h.when)})
			continue
		}
		s = moved
	}
	return s, left
}

// moveTiers moves the tiers that are picked to the start or the end of their side.
func moveTiers(s *Stone, when When, picked func(diagram.Tier) bool) (*Stone, bool) {
	d := *s.Diagram
	d.Tiers = nil
	for _, side := range []diagram.Part{s.Diagram.FirstSide, s.Diagram.FirstSide.Other()} {
		var some, rest []diagram.Tier
		for _, t := range s.Diagram.Tiers {
			switch {
			case s.Diagram.CutWith(t.Part) != side:
			case picked(t):
				some = append(some, t)
			default:
				rest = append(rest, t)
			}
		}
		if when == First {
			d.Tiers = append(append(d.Tiers, some...), rest...)
		} else {
			d.Tiers = append(append(d.Tiers, rest...), some...)
		}
	}
	if stone, err := Cut(&d); err == nil && sameMeasures(s.Measures(), stone.Measures()) {
		return stone, true
	}
	have := s.Distances()
	want := make(Distances, len(d.Tiers))
	for i, t := range d.Tiers {
		want[i] = have[s.Diagram.TierNo(t.Name)]
	}
	stone, err := DeriveStops(&d, want, Exactly)
	return stone, err == nil && sameMeasures(s.Measures(), stone.Measures())
}
