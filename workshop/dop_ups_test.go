package workshop_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/mending"
	"cressa/core/polyhedron"
	"cressa/workshop"
	"cressa/workshop/journal"
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

// atBench tells what happens on a stone.
type atBench struct {
	*shop
	stone workshop.Stone
	n     int
	// up are the setups that the stone was turned over to, in order.
	up []string
}

func (b *atBench) tell(t *testing.T, kind journal.Kind, payload any) {
	t.Helper()
	b.n++
	answers, err := b.Append(t.Context(), []journal.Event{b.event(b.stone, b.n, kind, payload)})
	require.NoError(t, err)
	require.Equal(t, workshop.Stored, answers[0].Outcome, answers[0].Reason)
}

// cut does what comes next, as the bench asks for it, so many visits far or to the end. It returns the last one.
func (b *atBench) cut(t *testing.T, visits int) (last journal.Visit) {
	t.Helper()
	var err error
	b.stone, err = b.Stone(t.Context(), b.stone.ID)
	require.NoError(t, err)
	script, err := b.Script(t.Context(), b.stone)
	require.NoError(t, err)
	for range 10 * len(script.Visits) {
		state, err := b.WorkState(t.Context(), b.stone.Work().ID)
		require.NoError(t, err)
		at := script.Standing(state.Folded)
		switch at.Gate {
		case workshop.TurnOver:
			b.up = append(b.up, script.Visits[at.At].Setup)
			b.tell(t, journal.Transfer, journal.Transferred{Setup: script.Visits[at.At].Setup})
			continue
		case workshop.AdapterOn, workshop.AdapterOff:
			b.tell(t, journal.Check, journal.Checked{Setup: script.Visits[max(at.At-1, 0)].Setup, Item: string(at.Gate)})
			continue
		}
		if at.At == len(script.Visits) || visits == 0 {
			return last
		}
		v := script.Visits[at.At]
		last = journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}
		b.tell(t, journal.Done, last)
		visits--
	}
	require.Fail(t, "the bench does not come to an end")
	return last
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
	b.cut(t, len(script.Visits))
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
	turnedBack := false
	mend := func(d workshop.Diagram, c workshop.Choices, cut int, kind mending.Kind) (as *workshop.AsCut) {
		name := fmt.Sprintf("%s, %s after %d", d.Draft.Name, kind, cut)
		stone, err := s.PlanStone(t.Context(), name, d.ID, c)
		require.NoError(t, err)
		b := &atBench{shop: s, stone: stone, n: 1000 * stone.Number}
		last, mm := b.cut(t, cut), 0.2
		b.tell(t, journal.Happen, journal.Happened{What: journal.Overcut, At: &last, MM: &mm})
		ways, err := s.WaysOut(t.Context(), b.stone)
		require.NoError(t, err)
		i := slices.IndexFunc(ways.Ways, func(w mending.Way) bool { return w.Kind == kind })
		require.NoError(t, ways.Ways[i].Err, name)
		b.stone, err = s.Mend(t.Context(), stone.ID, kind, b.stone.Version)
		require.NoError(t, err)
		b.cut(t, 1000)
		as, err = s.AsCut(t.Context(), b.stone, "")
		require.NoError(t, err)
		// What is off by less than half a thousandth of a millimetre is not cut again.
		assert.InEpsilon(t, ways.Ways[i].Stone.Solid().Volume(), as.Cut.Solid().Volume(), 1e-3, name)
		turnedBack = turnedBack || len(b.up) > 5
		return as
	}
	cube, held := s.die(t, 0)
	eased, holds := s.die(t, 0.1)
	for _, cut := range []int{1, 8, 1000} {
		for _, kind := range []mending.Kind{mending.Leave, mending.Tier, mending.Smaller, mending.Largest} {
			as := mend(cube, held, cut, kind)
			if kind == mending.Leave {
				assert.InDelta(t, 12*12*11.8, as.Cut.Solid().Volume()*as.MM*as.MM*as.MM, 1e-3, "one face is deeper, and no other")
			}
			mend(eased, holds, cut, kind)
		}
	}
	assert.True(t, turnedBack)
}
