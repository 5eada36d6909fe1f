package workshop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/mending"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// A facet is cut too deep. A way out is chosen: the plan goes on from there, what is deeper now is asked for again, and as long as
// nothing more is cut all can be taken back.
func TestAMishapIsMendedAndTakenBack(t *testing.T) {
	s := newShop(t)
	diagram := s.add(t, "First Light")
	stone, err := s.PlanStone(t.Context(), "gift", diagram.ID, choices(8))
	require.NoError(t, err)
	script, err := s.Script(t.Context(), stone)
	require.NoError(t, err)
	n := 0
	send := func(kind journal.Kind, payload any) {
		n++
		e := s.event(stone, n, kind, journal.Visit{})
		e.Payload = journal.Payload(payload)
		answers, err := s.Append(t.Context(), []journal.Event{e})
		require.NoError(t, err)
		require.Equal(t, workshop.Stored, answers[0].Outcome, answers[0].Reason)
	}
	const cut = 20
	var last journal.Visit
	for _, v := range script.Visits[:cut] {
		last = journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}
		send(journal.Done, last)
	}
	mm := 0.05
	send(journal.Happen, journal.Happened{What: journal.Overcut, At: &last, MM: &mm})
	read := func() {
		stone, err = s.Stone(t.Context(), stone.ID)
		require.NoError(t, err)
	}
	read()
	ways, err := s.WaysOut(t.Context(), stone)
	require.NoError(t, err)
	require.Len(t, ways.Wrong, 1)
	before, err := s.AssessStone(t.Context(), stone)
	require.NoError(t, err)

	for _, w := range ways.Ways {
		if w.Err != nil {
			continue
		}
		stone, err = s.Mend(t.Context(), stone.ID, w.Kind, stone.Version)
		require.NoError(t, err, w.Kind)
		a, err := s.AssessStone(t.Context(), stone)
		require.NoError(t, err)
		assert.InDelta(t, w.Stone.Solid().Volume(), a.Stone.Solid().Volume(), 1e-9, w.Kind)
		assert.Equal(t, before.MM, a.MM)
		assert.Equal(t, cut-w.Again, s.state(t, stone.ID).Done, "%s opens what is cut again", w.Kind)
		as, err := s.AsCut(t.Context(), stone, "")
		require.NoError(t, err)
		assert.InDelta(t, w.Stone.Solid().Volume(), as.Coming.Solid().Volume(), 1e-9, w.Kind)
		none, err := s.WaysOut(t.Context(), stone)
		require.NoError(t, err)
		assert.Empty(t, none.Wrong, "it is mended")

		stone, err = s.TakePlanBack(t.Context(), stone.ID, stone.Version)
		require.NoError(t, err)
		assert.Equal(t, cut, s.state(t, stone.ID).Done, w.Kind)
		a, err = s.AssessStone(t.Context(), stone)
		require.NoError(t, err)
		assert.InDelta(t, before.Carats, a.Carats, 1e-12)
	}

	stone, err = s.Mend(t.Context(), stone.ID, mending.Largest, stone.Version)
	require.NoError(t, err)
	v := script.Visits[0]
	send(journal.Done, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet})
	read()
	_, err = s.TakePlanBack(t.Context(), stone.ID, stone.Version)
	require.ErrorIs(t, err, workshop.ErrCutSince)
}

// A tier was cut a tooth beside its index. The look of the stone is among those that are shown; once it is chosen, the ways out
// start from it.
func TestASlipIsFoundByTheLookOfTheStone(t *testing.T) {
	s := newShop(t)
	stone, err := s.PlanStone(t.Context(), "gift", s.add(t, "First Light").ID, choices(8))
	require.NoError(t, err)
	script, err := s.Script(t.Context(), stone)
	require.NoError(t, err)
	_, none, err := s.Slips(t.Context(), stone)
	require.NoError(t, err)
	assert.Empty(t, none, "nothing is cut")
	for n, v := range script.Visits[:40] {
		s.append(t, s.event(stone, n+1, journal.Done, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}))
	}
	as, looks, err := s.Slips(t.Context(), stone)
	require.NoError(t, err)
	require.NotEmpty(t, looks)
	assert.LessOrEqual(t, len(looks), 24)
	for _, l := range looks {
		assert.NotEmpty(t, l.Facets)
		assert.False(t, l.Told)
	}
	first := looks[0]
	assert.Equal(t, mending.WrongIndex, first.Kind)
	_, err = s.TakeSlip(t.Context(), stone, first.Kind, first.Tiers, first.By, "a look at the stone")
	require.NoError(t, err)
	told, err := s.AsCut(t.Context(), stone, "")
	require.NoError(t, err)
	assert.InDelta(t, first.Cut.Solid().Volume(), told.Cut.Solid().Volume(), 1e-5)
	assert.NotEmpty(t, told.Differences)
	ways, err := s.WaysOut(t.Context(), stone)
	require.NoError(t, err)
	for _, w := range ways.Ways {
		if w.Err != nil {
			continue
		}
		for _, b := range ways.Standing.Beside {
			for _, v := range w.Stone.Solid().Vertices() {
				assert.LessOrEqual(t, b.Plane.Above(w.Stone.Solid().Point(v)), 1e-6, w.Kind)
			}
		}
	}
	assert.Equal(t, as.Stone.Facets[first.Facets[0]].Tier, as.TierNo(first.Tiers[0]))
	_, err = s.TakeSlip(t.Context(), stone, mending.Missed, []string{"none"}, nil, "a look at the stone")
	require.Error(t, err)
}

// A flaw that somebody pointed at goes with whichever facet loses least, and is left alone where it lies in what is still to be cut.
func TestAFlawIsPointedAt(t *testing.T) {
	s := newShop(t)
	stone, err := s.PlanStone(t.Context(), "gift", s.add(t, "First Light").ID, choices(8))
	require.NoError(t, err)
	script, err := s.Script(t.Context(), stone)
	require.NoError(t, err)
	const cut = 20
	for n, v := range script.Visits[:cut] {
		s.append(t, s.event(stone, n+1, journal.Done, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}))
	}
	v := script.Visits[0]
	a := script.Assessment
	place := script.Facets[v.FacetNo].No
	seen := r3.Scale(a.MM, a.Stone.Solid().Middle(a.Stone.Solid().Face(place)))
	flaw := func(n int, mm float64) journal.Event {
		e := s.event(stone, n, journal.Happen, journal.Visit{})
		at := journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}
		e.Payload = journal.Payload(journal.Happened{What: journal.FlawOpened, At: &at, MM: &mm, Point: &[3]float64{seen.X, seen.Y, seen.Z}})
		return e
	}
	s.append(t, flaw(cut+1, 0.06))
	// Straight through the stone, out of its crown.
	s.append(t, flaw(cut+2, 7))
	ways, err := s.WaysOut(t.Context(), stone)
	require.NoError(t, err)
	assert.Equal(t, []bool{false, true}, ways.Goes)
	q := ways.Standing.Points[0]
	for _, w := range ways.Ways[1:] {
		if w.Err != nil {
			continue
		}
		require.Len(t, w.With, 1, "one of the two takes something: %s", w.Kind)
		gone := false
		for _, f := range w.Stone.Facets {
			gone = gone || f.Plane.Above(q) > -1e-7
		}
		assert.True(t, gone, w.Kind)
	}

	// Where nobody can have pointed is refused.
	nowhere := flaw(cut+3, 0.1)
	nowhere.Payload = []byte(`{"what":"flaw","mm":0.1,"point":[1e9,0,0]}`)
	answers, err := s.Append(t.Context(), []journal.Event{nowhere})
	require.NoError(t, err)
	assert.Equal(t, workshop.Refused, answers[0].Outcome)
}

// A way takes facets of both sides. Where the rest of the crown meets the girdle, the girdle comes first and the crown comes up again
// for the rest; where nothing is left that does, the stone is turned back once. What comes first can be taken back with the way.
func TestTheOtherSideComesFirstWhereTheRestMeetsIt(t *testing.T) {
	for _, c := range []struct{ crown, more int }{{1, 2}, {everything, 1}} {
		s := newShop(t)
		stone, err := s.PlanStone(t.Context(), "gift", s.add(t, "First Light").ID, choices(8))
		require.NoError(t, err)
		setups := stone.Work().Plan.Setups
		pavilion, crown := setups[0].ID, setups[1].ID
		b := &atBench{shop: s, stone: stone}
		for len(b.up) == 0 {
			b.cut(t, 1)
		}
		last := b.cut(t, c.crown)
		cut := s.state(t, stone.ID).Done
		b.overcut(t, last, 0.1)
		for _, kind := range []mending.Kind{mending.Largest, mending.Smaller} {
			b.stone, err = s.Mend(t.Context(), stone.ID, kind, b.stone.Version)
			require.NoError(t, err)
			require.Less(t, s.state(t, stone.ID).Done, cut)
			b.stone, err = s.TakePlanBack(t.Context(), stone.ID, b.stone.Version)
			require.NoError(t, err)
			require.Equal(t, cut, s.state(t, stone.ID).Done)
		}
		assert.Equal(t, c.more, b.mend(t, mending.Smaller))
		assert.Equal(t, []string{crown, pavilion, crown}[:1+c.more], b.up)
	}
}
