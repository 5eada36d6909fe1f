// Package mending reckons the ways out where a stone did not become what its diagram has: a cut that went too deep, a pit,
// a plane where none should be, a chip on a stone that comes back.
//
// A stone as it stands has planes that can only move inwards. Each way names the new distance of every plane; what lies
// between the two is what is still taken off. Lengths are in units of the diagram.
package mending

import (
	"errors"
	"maps"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/solid"
)

// Standing is a stone as it stands at the wheel, some of its facets cut.
type Standing struct {
	// Plan is the whole planned stone.
	Plan *cutting.Stone
	// Cut holds, in the order of the plan's facets, how far each stands from the origin, NaN where it is still to be cut.
	Cut []float64
	// Most holds how far each may stand when all is done, where something in it has to go: a pit, a flaw. It is +Inf where
	// nothing has to.
	Most []float64
	// Points are places in the stone that have to lie outside of it when all is done, whichever facet takes them.
	Points []r3.Vec
	// Beside are planes that were cut where the plan has none: at a wrong index or angle. No stop looks for meets on them.
	Beside []cutting.Beside
	// Measured tells, in the order of the plan's facets, which of them stop where the plan measures them and at no meet, as on a
	// solid that is held by one face after the other. Nil is none.
	Measured []bool
	// Walls are the planes of the rough, where it is known.
	Walls []solid.Plane
}

// Kind names a way out.
type Kind string

// The ways out of a cut that went too deep.
const (
	// Leave changes nothing that is cut; what is still to be cut follows its stops on the stone as it is.
	Leave Kind = "leave"
	// Tier lowers the whole tier until all its facets are reached; what comes after it is solved again.
	Tier Kind = "tier"
	// Side moves one side along the axis.
	Side Kind = "side"
	// Smaller is the planned stone, smaller, about the same axis.
	Smaller Kind = "smaller"
	// Largest is the largest planned stone that is left, wherever it lies.
	Largest Kind = "largest"
)

// Reasons why a way cannot be gone.
var (
	ErrStays     = errors.New("what was cut beside stays on the stone, however deep the tier goes")
	ErrOnGirdle  = errors.New("a girdle facet was cut too deep, and a side does not move it")
	ErrBothSides = errors.New("facets of both sides were cut too deep")
	ErrNoGirdle  = errors.New("the girdle would be cut through")
	ErrNoStone   = errors.New("nothing would be left of the stone")
)

// Way is one way out.
type Way struct {
	Kind Kind
	// Err tells why it cannot be gone: one of the reasons above, or the diagram.Problem of a stop. All below is empty then.
	Err error
	// Scale is against the plan and Shift its move in units of the diagram; nil where the way has none.
	Scale *float64
	Shift *r3.Vec
	// Place is where a copy lies in the stone that it is cut out of, nil where all facets keep their directions.
	Place *Placed
	// Stone is what comes of it, its facets in the order of the plan's.
	Stone *cutting.Stone
	// Added are facets that the way puts on the stone, which the plan does not have. They stand behind those of the plan.
	Added []cutting.Beside
	// Take holds what comes off each facet along its normal, in the order of the plan's facets: 0 where nothing does, where
	// the facet is not on the new stone, and where it is still to be cut.
	Take []float64
	// With holds, for each of the points that are not gone anyway, the place of the facet that takes it.
	With []int
	// Again is how many facets that were cut are cut again.
	Again int
	// Gap is the widest gap of the planned meets.
	Gap float64
}

// Untouched is the most, in mm, that a facet can be off and need no cut: half a thousandth.
const Untouched = 0.0005

// same is how near two distances are one, in units of the diagram.
const same = 1e-9

// Ways reckons all ways for a stone whose diagram's unit is so many mm.
func (s *Standing) Ways(mmPerUnit float64) []Way {
	standing := *s
	return newMender(&standing, mmPerUnit).ways(s.Points)
}

func (m *mender) all() []Way {
	return []Way{
		m.leave(), m.tier(), m.side(),
		m.copy(Smaller, []r3.Vec{{Z: 1}}), m.copy(Largest, []r3.Vec{{X: 1}, {Y: 1}, {Z: 1}}),
	}
}

func newMender(s *Standing, mmPerUnit float64) *mender {
	m := &mender{Standing: s, untouched: Untouched / mmPerUnit, place: map[[2]int]int{}}
	for i, f := range s.Plan.Facets {
		m.reach = append(m.reach, reach(s.Plan.Solid(), f.Plane.Normal))
		m.place[[2]int{f.Tier, f.Place}] = i
	}
	_, _, m.girdled = s.Plan.Girdle()
	return m
}

// mender holds what all ways need.
type mender struct {
	*Standing
	untouched float64
	// reach is how far the planned stone reaches along the normal of each facet.
	reach []float64
	// place is where the facet of a tier and a place in it stands among the plan's facets.
	place map[[2]int]int
	// girdled tells whether the planned stone has a girdle.
	girdled bool
}

func (m *mender) cut(i int) bool { return !math.IsNaN(m.Cut[i]) }

// most is how far a facet can stand when all is done.
func (m *mender) most(i int) float64 {
	if m.cut(i) {
		return math.Min(m.Cut[i], m.Most[i])
	}
	return m.Most[i]
}

// deeper is by how much a facet has to stand deeper than planned.
func (m *mender) deeper(i int) float64 {
	if by := m.Plan.Facets[i].Plane.D - m.most(i); by > same {
		return by
	}
	return 0
}

func (m *mender) part(i int) diagram.Part { return m.Plan.Diagram.Tiers[m.Plan.Facets[i].Tier].Part }

// to is a way to new distances, in the order of the plan's facets.
func (m *mender) to(kind Kind, distances []float64) Way {
	stone, err := m.stone(distances, m.Beside...)
	if err != nil {
		return Way{Kind: kind, Err: err}
	}
	w := Way{Kind: kind, Stone: stone, Take: make([]float64, len(distances))}
	for i, f := range stone.Facets[:len(distances)] {
		if !m.cut(i) || !f.Made {
			continue
		}
		w.Take[i] = math.Max(0, m.Cut[i]-distances[i])
		if w.Take[i] > m.untouched {
			w.Again++
		}
	}
	for _, gap := range cutting.Gaps(m.Plan.Meets(), stone.Solid()) {
		w.Gap = math.Max(w.Gap, gap)
	}
	return w
}

// stone is the planned stone with its facets at other distances, and with planes that were cut beside them.
func (m *mender) stone(distances []float64, besides ...cutting.Beside) (*cutting.Stone, error) {
	planes := m.Plan.Planes()
	for i := range planes {
		planes[i].D = distances[i]
	}
	return m.Plan.Changed(planes, besides...)
}

// solved solves the plan's stops again, tiers in an order, with facets that stand elsewhere: change is given the places of a
// tier's facets and the distances of their stops on the stone so far, the planned ones of those that are measured, and may change
// them. It returns the distances of all, in the order of the plan's facets.
func (m *mender) solved(order []int, change func(places []int, distances []float64)) ([]float64, error) {
	out := slices.Clone(m.Cut)
	_, err := m.Plan.CutOtherwise(order, func(facets []cutting.Facet) {
		places, distances := make([]int, len(facets)), make([]float64, len(facets))
		for k, f := range facets {
			places[k], distances[k] = m.place[[2]int{f.Tier, f.Place}], f.Plane.D
			if i := places[k]; m.Measured != nil && m.Measured[i] {
				distances[k] = m.Plan.Facets[i].Plane.D
			}
		}
		change(places, distances)
		for k := range facets {
			facets[k].Plane.D, out[places[k]] = distances[k], distances[k]
		}
	})
	return out, err
}

// leave leaves what is cut; the tiers still to be cut follow their stops on the stone as it is.
func (m *mender) leave() Way {
	distances, err := m.solved(m.begunFirst(), func(places []int, distances []float64) {
		for k, i := range places {
			if m.cut(i) {
				distances[k] = m.Cut[i]
			}
		}
	})
	if err != nil {
		return Way{Kind: Leave, Err: err}
	}
	return m.to(Leave, distances)
}

// begunFirst orders the tiers: those of which something is cut, then the others. On a solid a tier that is begun can have facets
// that meet what is not: there the plan's order holds.
func (m *mender) begunFirst() []int {
	if m.Measured != nil {
		return tiers(m.Plan)
	}
	begun := make([]bool, len(m.Plan.Diagram.Tiers))
	for i, f := range m.Plan.Facets {
		begun[f.Tier] = begun[f.Tier] || m.cut(i)
	}
	order := tiers(m.Plan)
	slices.SortStableFunc(order, func(a, b int) int {
		switch {
		case begun[a] == begun[b]:
			return 0
		case begun[a]:
			return -1
		}
		return 1
	})
	return order
}

func tiers(s *cutting.Stone) []int {
	order := make([]int, len(s.Diagram.Tiers))
	for no := range order {
		order[no] = no
	}
	return order
}

// tier lowers each tier that has facets too deep until all of them are reached, and solves those after it again.
func (m *mender) tier() Way {
	// What was cut beside a tier must go with it: how much deeper that takes the tier is found by trying.
	besides := map[int][]solid.Plane{}
	for _, b := range m.Beside {
		tier := m.Plan.Facets[b.Facet].Tier
		besides[tier] = append(besides[tier], b.Plane)
	}
	deeper := map[int]float64{}
	at := func() ([]float64, *cutting.Stone, error) {
		distances, err := m.lowered(deeper)
		if err != nil {
			return nil, nil, err
		}
		stone, err := m.stone(distances)
		return distances, stone, err
	}
	// A tier that goes deeper can bring out what was cut beside another: a few rounds settle that.
	const rounds = 8
	for range rounds {
		for _, no := range slices.Sorted(maps.Keys(besides)) {
			by, err := m.least(func(by float64) (*cutting.Stone, error) {
				deeper[no] = by
				_, stone, err := at()
				return stone, err
			}, besides[no])
			if err != nil {
				return Way{Kind: Tier, Err: err}
			}
			deeper[no] = by
		}
		distances, stone, err := at()
		if err != nil {
			return Way{Kind: Tier, Err: err}
		}
		if within(stone, planesOf(m.Beside)) {
			return m.to(Tier, distances)
		}
	}
	return Way{Kind: Tier, Err: ErrStays}
}

// within tells whether a stone lies inside of planes.
func within(s *cutting.Stone, planes []solid.Plane) bool {
	return !slices.ContainsFunc(planes, func(p solid.Plane) bool { return reach(s.Solid(), p.Normal) > p.D+same })
}

// lowered are the distances where each tier goes down until its facets that are too deep are reached, or at least by so much.
func (m *mender) lowered(least map[int]float64) ([]float64, error) {
	return m.solved(tiers(m.Plan), func(places []int, distances []float64) {
		lower := least[m.Plan.Facets[places[0]].Tier]
		for k, i := range places {
			if m.deeper(i) > 0 {
				lower = math.Max(lower, distances[k]-m.most(i))
			}
		}
		for k, i := range places {
			distances[k] -= lower
			if m.cut(i) {
				distances[k] = math.Min(distances[k], m.Cut[i])
			}
		}
	})
}

// least is the least depth, to a billionth of the unit, at which a stone lies inside of some planes, found by halving: a
// deeper stone lies inside a less deep one, until there is none. The error is ErrStays where none up to half the width does, else
// the stone's.
func (m *mender) least(at func(by float64) (*cutting.Stone, error), planes []solid.Plane) (float64, error) {
	deepEnough := func(by float64) (bool, error) {
		stone, err := at(by)
		return err != nil || within(stone, planes), err
	}
	width := m.Plan.Measures().Width
	low, high := 0.0, width/1024
	for {
		if enough, _ := deepEnough(high); enough {
			break
		}
		if low, high = high, 2*high; high > width {
			return 0, ErrStays
		}
	}
	for high-low > same {
		if enough, _ := deepEnough((low + high) / 2); enough {
			high = (low + high) / 2
		} else {
			low = (low + high) / 2
		}
	}
	_, err := deepEnough(high)
	return high, err
}

// side moves the side of the facets that are too deep along the axis until all of them are reached.
func (m *mender) side() Way {
	side, by, err := m.sideway()
	if err != nil {
		return Way{Kind: Side, Err: err}
	}
	alone := true // no facet of the other side is cut yet
	for i := range m.Plan.Facets {
		alone = alone && (m.part(i) != side.Other() || !m.cut(i))
	}
	shift := func(by float64) r3.Vec {
		if side == diagram.Crown {
			by = -by
		}
		return r3.Vec{Z: by}
	}
	distances := func(by float64) []float64 {
		out := make([]float64, len(m.Plan.Facets))
		for i, f := range m.Plan.Facets {
			out[i] = f.Plane.D
			if part := m.part(i); part == side || alone && (part == side.Other() || !m.cut(i)) {
				out[i] += r3.Dot(f.Plane.Normal, shift(by))
			}
		}
		return out
	}
	if len(m.Beside) > 0 {
		beside, err := m.least(func(by float64) (*cutting.Stone, error) { return m.stone(distances(by)) }, planesOf(m.Beside))
		if err != nil {
			return Way{Kind: Side, Err: err}
		}
		by = math.Max(by, beside)
	}
	w := m.to(Side, distances(by))
	if w.Err != nil {
		return w
	}
	if !alone && !m.keepsGirdle(w) {
		return Way{Kind: Side, Err: ErrNoGirdle}
	}
	one, moved := 1.0, shift(by)
	w.Scale, w.Shift = &one, &moved
	return w
}

// keepsGirdle tells that a way leaves a girdle where the plan has one.
func (m *mender) keepsGirdle(w Way) bool {
	thinnest, _, ok := w.Stone.Girdle()
	return !m.girdled || ok && thinnest.Thickness() > same
}

// sideway is the one side on which facets are too deep or were cut beside, with how far it has to move along the axis until all
// that are too deep are reached.
func (m *mender) sideway() (side diagram.Part, by float64, err error) {
	on := func(i int) error {
		switch part := m.part(i); {
		case part == diagram.Girdle:
			return ErrOnGirdle
		case side != "" && part != side:
			return ErrBothSides
		default:
			side = part
			return nil
		}
	}
	for i, f := range m.Plan.Facets {
		if deeper := m.deeper(i); deeper > 0 {
			if err := on(i); err != nil {
				return "", 0, err
			}
			by = math.Max(by, deeper/math.Abs(f.Plane.Normal.Z))
		}
	}
	for _, b := range m.Beside {
		if err := on(b.Facet); err != nil {
			return "", 0, err
		}
	}
	return side, by, nil
}

func planesOf(besides []cutting.Beside) []solid.Plane {
	out := make([]solid.Plane, len(besides))
	for i, b := range besides {
		out[i] = b.Plane
	}
	return out
}
