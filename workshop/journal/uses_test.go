package journal_test

import (
	"fmt"
	"maps"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"cressa/workshop/journal"
)

// TestUsesAreWhatThePlanInForceAskedFor counts ticks one by one beside the fold.
func TestUsesAreWhatThePlanInForceAskedFor(t *testing.T) {
	laps := []string{"", "600", "1200"}
	rapid.Check(t, func(t *rapid.T) {
		var log []journal.Event
		var facets []string
		for n := range 6 {
			facets = append(facets, fmt.Sprint("f", n))
		}
		// counted holds what each facet was cut with, as somebody would note it on paper.
		counted := map[string]string{}
		ticks := map[string]string{}
		lap, plans := "", 0
		for n := 1; n < 30; n++ {
			switch rapid.IntRange(0, 7).Draw(t, "what") {
			case 0:
				plans++
				lap = rapid.SampledFrom(laps).Draw(t, "lap")
				asked := journal.Asked{No: plans, Runs: []journal.AskedRun{{Setup: "s1", Pass: "cut", Facets: facets}}}
				if lap != "" {
					asked.Things = []journal.AskedThing{{Pass: "cut", Item: lap}, {Setup: "s2", Item: "other side"}}
				}
				e := event(n, journal.Plan, asked)
				e.Device = "workshop"
				log = append(log, e)
			case 1:
				if len(ticks) == 0 {
					continue
				}
				id := rapid.SampledFrom(slices.Sorted(maps.Keys(ticks))).Draw(t, "undoes")
				log = append(log, event(n, journal.Undo, journal.TakenBack{Undoes: id}))
				// Both ticks of a facet that was ticked twice go.
				facet := ticks[id]
				maps.DeleteFunc(ticks, func(_, f string) bool { return f == facet })
				delete(counted, facet)
			default:
				facet := rapid.SampledFrom(facets).Draw(t, "facet")
				e := event(n, journal.Done, journal.Visit{Setup: "s1", Pass: "cut", Facet: facet})
				log = append(log, e)
				ticks[e.ID], counted[facet] = facet, lap
			}
			for i := range log {
				log[i].Seq = int64(i + 1)
			}
		}
		want := map[string]int{}
		for _, lap := range counted {
			if lap != "" {
				want[lap]++
			}
		}
		folded := journal.Fold(journal.FirstCut, log)
		got := map[string]int{}
		for _, u := range folded.Uses() {
			got[u.Item] = u.Facets
		}
		assert.Equal(t, want, got)
		// What came after a place and what came before it is all of it.
		cut := int64(rapid.IntRange(0, 30).Draw(t, "cut"))
		for _, u := range folded.UsesAfter(cut) {
			assert.Greater(t, u.First, cut)
			assert.LessOrEqual(t, u.Facets, got[u.Item])
		}
	})
}
