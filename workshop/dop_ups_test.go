package workshop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/polyhedron"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// A die is held by each of its faces in turn: no facet is dialled steeper than was asked, each is cut once, a transfer lies between
// any two dop-ups, and the die comes of it. How it is held stays once it is begun.
func TestADieIsCutOverSeveralDopUps(t *testing.T) {
	s := newShop(t)
	cube, err := polyhedron.Rule{Kind: polyhedron.Cube, Pose: polyhedron.FaceUp}.Shape()
	require.NoError(t, err)
	eased, err := cube.Eased(0.1, 0)
	require.NoError(t, err)
	placed, err := eased.Place(t.Context(), polyhedron.Placing{Up: r3.Vec{Z: 1}, Name: "Die", Gear: 96, RefractiveIndex: 1.5})
	require.NoError(t, err)
	d, err := s.ImportDraft(t.Context(), diagram.DraftOf(placed.Stone.Diagram), "a solid", true)
	require.NoError(t, err)
	c := choices(12)
	c.DopUps, err = s.ProposeDopUps(t.Context(), d.ID, 60)
	require.NoError(t, err)
	require.Len(t, c.DopUps, 6)
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
	transfers, n := 0, 0
	tell := func(kind journal.Kind, payload any) {
		n++
		answers, err := s.Append(t.Context(), []journal.Event{s.event(stone, n, kind, payload)})
		require.NoError(t, err)
		require.Equal(t, workshop.Stored, answers[0].Outcome, answers[0].Reason)
	}
	for i, v := range script.Visits {
		for _, h := range script.Before(i) {
			if h.Kind == journal.Transfer {
				transfers++
			}
			tell(h.Kind, h.Payload)
		}
		tell(journal.Done, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet})
	}
	assert.Equal(t, 5, transfers)
	as, err := s.AsCut(t.Context(), stone, "")
	require.NoError(t, err)
	assert.Empty(t, as.Differences)
	assert.InDelta(t, placed.Stone.Solid().Volume(), as.Cut.Solid().Volume(), 1e-9)

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
