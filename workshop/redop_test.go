package workshop_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// A stone came off its dop and was put back twisted and leaning. Facets that are there are brought flush: that tells how it sits,
// finds the one that was misread, and everything is dialled so that the planned stone comes of it.
func TestAStoneThatWasPutBackIsReadAndCorrected(t *testing.T) {
	s := newShop(t)
	stone, err := s.PlanStone(t.Context(), "gift", s.add(t, "First Light").ID, choices(8))
	require.NoError(t, err)
	setup := stone.Work().Plan.Setups[0]
	none, err := s.FlushFacets(t.Context(), stone, setup.ID)
	require.NoError(t, err)
	assert.Empty(t, none, "nothing is cut yet")
	script, err := s.Script(t.Context(), stone)
	require.NoError(t, err)
	for n, v := range script.Visits[:24] {
		s.append(t, s.event(stone, n+1, journal.Done, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}))
	}
	facets, err := s.FlushFacets(t.Context(), stone, setup.ID)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(facets), 3)
	assert.True(t, math.IsInf(facets[0].Spread, 1), "one facet tells no turn about itself")
	assert.Less(t, facets[2].Spread, 1.5)

	sits := setup.Pose.Moved(1.3, 17, -2.4)
	a, err := s.AssessStone(t.Context(), stone)
	require.NoError(t, err)
	var found []workshop.FoundFlush
	for _, f := range facets[:4] {
		set, err := gear.Dial(a.Stone.Facets[f.Place].Plane.Normal, sits)
		require.NoError(t, err)
		found = append(found, workshop.FoundFlush{Facet: f.ID, Angle: set.Angle + a.Machine.AngleZero, Index: set.Index})
	}
	moved, err := s.TryMoved(t.Context(), stone, setup.ID, found)
	require.NoError(t, err)
	assert.True(t, moved.Fits)
	assert.InDelta(t, 1.3, moved.Tilt, 1e-6)
	assert.InDelta(t, 17, moved.Towards, 1e-4)
	assert.InDelta(t, -2.4, moved.Twist, 1e-6)

	wrong := append([]workshop.FoundFlush{}, found...)
	wrong[1].Angle++
	misread, err := s.TryMoved(t.Context(), stone, setup.ID, wrong)
	require.NoError(t, err)
	assert.False(t, misread.Fits)
	assert.Contains(t, misread.Misread, 1)

	stone, err = s.Stone(t.Context(), stone.ID)
	require.NoError(t, err)
	planned := stone
	stone, err = s.LeanStone(t.Context(), stone.ID, setup.ID, moved.Lean, stone.Version)
	require.NoError(t, err)
	// As long as nothing is cut to it, it can be taken back.
	canGoBack, err := s.CorrectedLast(t.Context(), stone)
	require.NoError(t, err)
	assert.True(t, canGoBack)
	stone, err = s.TakePlanBack(t.Context(), stone.ID, stone.Version)
	require.NoError(t, err)
	assert.Equal(t, planned.Work().Plan.Setups, stone.Work().Plan.Setups)
	canGoBack, err = s.CorrectedLast(t.Context(), stone)
	require.NoError(t, err)
	assert.False(t, canGoBack)
	stone, err = s.LeanStone(t.Context(), stone.ID, setup.ID, moved.Lean, stone.Version)
	require.NoError(t, err)
	for _, f := range a.Stone.Facets {
		want, err := gear.Dial(f.Plane.Normal, sits)
		require.NoError(t, err)
		is, err := gear.Dial(f.Plane.Normal, stone.Work().Plan.Setups[0].Pose)
		require.NoError(t, err)
		assert.InDelta(t, want.Angle, is.Angle, 1e-6)
	}
}

// A crown that is tipped on purpose is dialled as it sits from the first plan on, and another plan keeps that.
func TestACrownIsTippedOnPurpose(t *testing.T) {
	s := newShop(t)
	d := s.add(t, "First Light")
	c := choices(8)
	c.Holds = []workshop.Hold{{}, {Tilt: 4, Towards: 96}}
	stone, err := s.PlanStone(t.Context(), "tipped", d.ID, c)
	require.NoError(t, err)
	straight, err := s.PlanStone(t.Context(), "straight", d.ID, choices(8))
	require.NoError(t, err)
	dialled := func(stone workshop.Stone) map[string]float64 {
		script, err := s.Script(t.Context(), stone)
		require.NoError(t, err)
		out := map[string]float64{}
		for _, f := range script.Facets {
			if f.Tier == "T" {
				out["T"] = f.Angle
			}
			if f.Tier == "P1" {
				out["P1"] = f.Angle
			}
		}
		return out
	}
	assert.InDelta(t, 0, dialled(straight)["T"], 1e-9)
	assert.InDelta(t, 4, dialled(stone)["T"], 1e-6, "the table is dialled by as much as the stone is tipped")
	assert.Equal(t, dialled(straight)["P1"], dialled(stone)["P1"], "the other side sits straight")
	c.Size.MM = 7
	stone, err = s.Replan(t.Context(), stone.ID, c, stone.Version)
	require.NoError(t, err)
	assert.InDelta(t, 4, dialled(stone)["T"], 1e-6)
	c.Holds[1].Tilt = 0
	stone, err = s.Replan(t.Context(), stone.ID, c, stone.Version)
	require.NoError(t, err)
	assert.InDelta(t, 0, dialled(stone)["T"], 1e-9)
}

// A setting asks for less than the plan: what comes off is told for the facets that were measured, and the proportion of an outline
// stays where only one measure of the seat is known.
func TestAStoneIsBroughtToASetting(t *testing.T) {
	s := newShop(t)
	stone, err := s.PlanStone(t.Context(), "gift", s.add(t, "Meridian").ID, choices(7))
	require.NoError(t, err)
	setup := stone.Work().Plan.Setups[0].ID
	as, err := s.FitSetting(t.Context(), stone, setup, workshop.Seat{})
	require.NoError(t, err)
	for _, l := range as.Lines {
		assert.InDelta(t, l.Planned, l.Seat, 1e-9)
		assert.Nil(t, l.Take)
	}
	fit, err := s.FitSetting(t.Context(), stone, setup, workshop.Seat{WidthMM: 6.9, Readings: []workshop.AcrossRead{{Facet: as.Lines[0].ID, MM: as.Lines[0].Planned}}})
	require.NoError(t, err)
	assert.InDelta(t, as.LengthMM*6.9/7, fit.Seat.LengthMM, 1e-9)
	require.NotNil(t, fit.Lines[0].Take)
	assert.InDelta(t, as.Lines[0].Planned*(1-6.9/7)/2, *fit.Lines[0].Take, 1e-9)
	assert.InDelta(t, *fit.Lines[0].Take, *fit.Lines[0].OppositeTake, 1e-9)
	require.NotNil(t, fit.Lines[0].OppositeSet)
	assert.Nil(t, fit.Lines[1].Take, "only what was measured")
	_, err = s.FitSetting(t.Context(), stone, "none", workshop.Seat{})
	require.ErrorAs(t, err, new(diagram.Problem))
}
