package workshop_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/workshop"
	"cressa/workshop/journal"
)

// drawn is a log that two devices write about one stone, in the order in which its entries first arrive.
func (s *shop) drawn(t *testing.T, r *rand.Rand, stone workshop.Stone, prefix int) []journal.Event {
	t.Helper()
	script, err := s.Script(t.Context(), stone)
	require.NoError(t, err)
	count := map[string]int{}
	var log []journal.Event
	for n := range 40 {
		v := script.Visits[r.IntN(24)]
		at := journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}
		device := []string{"tablet", "phone"}[r.IntN(2)]
		count[device]++
		e := s.event(stone, prefix+n, journal.Done, at)
		e.Device, e.DeviceSeq, e.DeviceTime = fmt.Sprint(device, prefix), int64(count[device]), s.now.Add(time.Duration(n)*time.Minute)
		become := func(kind journal.Kind, payload any) {
			e.Kind, e.Version, e.Payload = kind, journal.Newest(kind), journal.Payload(payload)
		}
		mm, by := 0.05, float64(1+r.IntN(3))
		switch r.IntN(10) {
		case 0:
			if taken := log[:n]; n > 0 && taken[n/2].Kind != journal.Undo {
				become(journal.Undo, journal.TakenBack{Undoes: taken[n/2].ID})
			}
		case 1:
			become(journal.Skip, at)
		case 2:
			become(journal.Happen, journal.Happened{What: journal.Overcut, At: &at, MM: &mm})
		case 3:
			become(journal.Happen, journal.Happened{What: journal.WrongIndex, At: &at, By: &by})
		case 4:
			become(journal.Again, journal.Reopening{Setup: at.Setup, Passes: []string{at.Pass}, Facets: []string{at.Facet}})
		}
		log = append(log, e)
	}
	return log
}

// Whatever a network does to what two screens send, as long as it arrives, the stone is the same: batches that are
// cut anywhere, sent twice, sent again much later, or answered into nothing.
func TestRetriesAndDuplicatesGiveTheSameStone(t *testing.T) {
	s := newShop(t)
	diagram := s.add(t, "First Light")
	for seed := range uint64(2) {
		var told [2]*workshop.AsCut
		var done [2]workshop.StoneLine
		for i := range told {
			stone, err := s.PlanStone(t.Context(), "twin", diagram.ID, choices(8))
			require.NoError(t, err)
			// The same log for both, under other names.
			log := s.drawn(t, rand.New(rand.NewPCG(seed, 1)), stone, 1000*(int(seed)*2+i+1))
			how := rand.New(rand.NewPCG(seed, 2))
			send := func(events []journal.Event) {
				answers, err := s.Append(t.Context(), events)
				require.NoError(t, err)
				for _, a := range answers {
					require.Contains(t, []workshop.Outcome{workshop.Stored, workshop.Known}, a.Outcome, a.Reason)
				}
			}
			for from := 0; from < len(log); {
				to := min(len(log), from+1+how.IntN(9))
				if i == 0 {
					to = from + 1
				}
				send(log[from:to])
				if i == 1 {
					// The answer was lost, and something older is sent once more.
					if how.IntN(2) == 0 {
						send(slices.Concat(log[from:to], log[from:to]))
					}
					send(log[:how.IntN(to+1)])
				}
				from = to
			}
			stone, err = s.Stone(t.Context(), stone.ID)
			require.NoError(t, err)
			told[i], err = s.AsCut(t.Context(), stone, "")
			require.NoError(t, err)
			done[i] = s.state(t, stone.ID)
		}
		calm, rough := told[0], told[1]
		assert.Equal(t, calm.Differences, rough.Differences, "seed %d", seed)
		assert.NotEmpty(t, calm.Differences)
		assert.Equal(t, calm.Cut.Planes(), rough.Cut.Planes(), "seed %d", seed)
		assert.InDelta(t, calm.Cut.Solid().Volume(), rough.Cut.Solid().Volume(), 0)
		assert.Equal(t, []int{done[0].Done, done[0].All}, []int{done[1].Done, done[1].All})
		require.Len(t, rough.Hours, len(calm.Hours))
		for i, h := range calm.Hours {
			assert.InDelta(t, h.Hours, rough.Hours[i].Hours, 1e-9, h.Pass)
		}
	}
	found, err := s.CheckStates(t.Context(), false)
	require.NoError(t, err)
	assert.Empty(t, found, "the kept states are those of the logs")
}
