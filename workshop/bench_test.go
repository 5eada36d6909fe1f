package workshop_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/mending"
	"cressa/workshop"
	"cressa/workshop/journal"
)

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

// overcut tells that a facet was cut so many mm too deep.
func (b *atBench) overcut(t *testing.T, at journal.Visit, mm float64) {
	t.Helper()
	b.tell(t, journal.Happen, journal.Happened{What: journal.Overcut, At: &at, MM: &mm})
}

// mend goes a way out and follows it to the end: the stone is the one that the way promised. It returns how many transfers more that
// was to take.
func (b *atBench) mend(t *testing.T, kind mending.Kind) (more int) {
	t.Helper()
	ways, err := b.WaysOut(t.Context(), b.stone)
	require.NoError(t, err)
	i := slices.IndexFunc(ways.Ways, func(w mending.Way) bool { return w.Kind == kind })
	require.NoError(t, ways.Ways[i].Err, kind)
	b.stone, err = b.Mend(t.Context(), b.stone.ID, kind, b.stone.Version)
	require.NoError(t, err)
	b.cut(t, everything)
	as, err := b.AsCut(t.Context(), b.stone, "")
	require.NoError(t, err)
	// What is off by less than half a thousandth of a millimetre is not cut again.
	assert.InEpsilon(t, ways.Ways[i].Stone.Solid().Volume(), as.Cut.Solid().Volume(), 1e-3, kind)
	return ways.TurnsBack(ways.Ways[i])
}

// everything is more visits than any stone has.
const everything = 1000
