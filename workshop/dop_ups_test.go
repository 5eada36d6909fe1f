package workshop_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/mending"
	"cressa/core/polyhedron"
	"cressa/workshop"
)

// die keeps the diagram of a cube whose edges are eased by so much of its size, and proposes how it is held.
func (s *shop) die(t *testing.T, eased float64) (workshop.Diagram, workshop.Choices) {
	t.Helper()
	cube, err := polyhedron.Rule{Kind: polyhedron.Cube, Pose: polyhedron.FaceUp}.Shape()
	require.NoError(t, err)
	if eased > 0 {
		cube, err = cube.Eased(eased, 0)
		require.NoError(t, err)
	}
	placed, err := cube.Place(t.Context(), polyhedron.Placing{Up: r3.Vec{Z: 1}, Name: "Die", Gear: 96, RefractiveIndex: 1.5})
	require.NoError(t, err)
	d, err := s.ImportDraft(t.Context(), diagram.DraftOf(placed.Stone.Diagram), "a solid", true)
	require.NoError(t, err)
	c := choices(12)
	c.DopUps, err = s.ProposeDopUps(t.Context(), d.ID, 60)
	require.NoError(t, err)
	require.Len(t, c.DopUps, 6)
	return d, c
}

// A die is held by each of its faces in turn: no facet is dialled steeper than was asked, each is cut once, a transfer lies between
// any two dop-ups, and the die comes of it. How it is held stays once it is begun.
func TestADieIsCutOverSeveralDopUps(t *testing.T) {
	s := newShop(t)
	d, c := s.die(t, 0.1)
	stone, err := s.PlanStone(t.Context(), "die", d.ID, c)
	require.NoError(t, err)
	script, err := s.Script(t.Context(), stone)
	require.NoError(t, err)
	require.Len(t, script.Setups, 6)
	for i, f := range script.Facets {
		assert.LessOrEqual(t, f.Angle, 60.0, f.Tier)
		if f.Angle == 0 {
			assert.InDelta(t, 6, script.Cut(i).Distance, 1e-6, "the height dial counts from the middle of the die")
		}
	}
	for to := range script.Setups {
		found, ok := script.Alignment(to)
		assert.Equal(t, to != 1, ok, "only the face opposite the first has nothing but that to lie on: %v", found)
	}
	b := &atBench{shop: s, stone: stone}
	b.cut(t, everything)
	assert.Len(t, b.up, 5)
	as, err := s.AsCut(t.Context(), b.stone, "")
	require.NoError(t, err)
	assert.Empty(t, as.Differences)
	assert.InDelta(t, as.Stone.Solid().Volume(), as.Cut.Solid().Volume(), 1e-9)

	stone, err = s.Stone(t.Context(), stone.ID)
	require.NoError(t, err)
	assert.Equal(t, c.DopUps, stone.Work().Plan.Choices.DopUps)
	c.DopUps = nil
	var p diagram.Problem
	_, err = s.Replan(t.Context(), stone.ID, c, stone.Version)
	require.ErrorAs(t, err, &p)
	assert.Equal(t, workshop.HeldSince, p.Code)
	c.DopUps = []workshop.DopUp{{Tier: "Q9", Index: 12}}
	_, err = s.PlanStone(t.Context(), "none", d.ID, c)
	require.ErrorAs(t, err, &p)
	assert.Equal(t, workshop.NoSuchFacet, p.Code)
}

// A facet of a die is cut too deep, early, in the middle and last. Every way out that can be gone is gone at the bench, back over
// dop-ups that were up before, and gives the stone that it promised.
func TestADieIsMended(t *testing.T) {
	s := newShop(t)
	mend := func(d workshop.Diagram, c workshop.Choices, cut int, kind mending.Kind) (as *workshop.AsCut) {
		name := fmt.Sprintf("%s, %s after %d", d.Draft.Name, kind, cut)
		stone, err := s.PlanStone(t.Context(), name, d.ID, c)
		require.NoError(t, err)
		b := &atBench{shop: s, stone: stone, n: 1000 * stone.Number}
		b.overcut(t, b.cut(t, cut), 0.2)
		more := b.mend(t, kind)
		assert.Len(t, b.up, 5+more, name)
		as, err = s.AsCut(t.Context(), b.stone, "")
		require.NoError(t, err)
		return as
	}
	cube, held := s.die(t, 0)
	eased, holds := s.die(t, 0.1)
	for _, cut := range []int{1, 8, everything} {
		for _, kind := range []mending.Kind{mending.Leave, mending.Tier, mending.Smaller, mending.Largest} {
			as := mend(cube, held, cut, kind)
			if kind == mending.Leave {
				assert.InDelta(t, 12*12*11.8, as.Cut.Solid().Volume()*as.MM*as.MM*as.MM, 1e-3, "one face is deeper, and no other")
			}
			mend(eased, holds, cut, kind)
		}
	}
}
