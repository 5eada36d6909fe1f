package server_test

import (
	"fmt"
	"math/rand/v2"
	"path/filepath"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/copies"
	"cressa/core/diagram"
	"cressa/server"
	"cressa/workshop/journal"
)

// tablet is a screen with entries that it has not yet seen on disk, in its own order.
type tablet struct {
	log  []server.SentEvent
	sent int
}

// entries draws what three tablets tell of one stone, each without knowing of the others: facets that were cut, left out, cut
// too deep, and ticks that they take back themselves.
func entries(stone server.StoneHead, script server.BenchScript, r *rand.Rand) []*tablet {
	all := []*tablet{{}, {}, {}}
	for n := range 60 {
		who := r.IntN(len(all))
		t := all[who]
		v := script.Visits[r.IntN(20)]
		at := journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: script.Facets[v.Facet].ID}
		e := sent(stone.WorkID, 1000+n, time.Date(2026, 3, 1, 18, n, 0, 0, time.UTC), journal.Done, at)
		e.Device, e.DeviceSeq = fmt.Sprintf("tablet %d", who), int64(len(t.log)+1)
		become := func(kind journal.Kind, payload any) {
			e.Kind, e.Version, e.Payload = string(kind), journal.Newest(kind), journal.Payload(payload)
		}
		deep := 0.03
		switch r.IntN(6) {
		case 0:
			become(journal.Skip, at)
		case 1:
			become(journal.Happen, journal.Happened{What: journal.Overcut, At: &at, MM: &deep})
		case 2:
			if k := slices.IndexFunc(t.log, func(e server.SentEvent) bool { return e.Kind == string(journal.Done) }); k >= 0 {
				become(journal.Undo, journal.TakenBack{Undoes: t.log[k].ID})
			}
		}
		t.log = append(t.log, e)
	}
	return all
}

// However the batches of several tablets come in between each other, sent twice, again much later or answered into nothing,
// with tablets and the server killed between them: it is the same stone, and everything that was told is on record.
func TestAnyInterleavingGivesTheSameStone(t *testing.T) {
	for seed := range uint64(3) {
		var stones [2]server.AsCutView
		var logs [2]server.EventList
		for i := range stones {
			file := filepath.Join(t.TempDir(), copies.Records)
			library(t, file)
			how := rand.New(rand.NewPCG(seed, uint64(10+i)))
			stop := func() {}
			var c client
			restart := func() {
				stop()
				c, _, stop = runAt(t, file, "127.0.0.1:0")
			}
			restart()
			var stone server.StoneHead
			d := c.diagramCalled("First Light")
			c.put("POST", "/api/stones", server.PlanRequest{Name: "Shared", DiagramID: d.ID, Choices: plan("Quartz", 96, width(8), diagram.Pavilion)}, &stone)
			var script server.BenchScript
			c.get("/api/stones/"+stone.ID+"/script", &script)
			tablets := entries(stone, script, rand.New(rand.NewPCG(seed, 1)))
			for slices.ContainsFunc(tablets, func(o *tablet) bool { return o.sent < len(o.log) }) {
				o := tablets[how.IntN(len(tablets))]
				// A tablet sends from what it last saw on disk; what came in without its knowing comes again.
				to := min(len(o.log), o.sent+1+how.IntN(6))
				batch := o.log[max(0, o.sent-how.IntN(3)):to]
				if len(batch) == 0 {
					continue
				}
				for _, a := range c.log(batch...) {
					require.Contains(t, []string{"stored", "known"}, a.Outcome, a.Reason)
				}
				// The answer may be lost, with the tablet's page or the server.
				switch how.IntN(5) {
				case 0:
				case 1:
					restart()
				default:
					o.sent = to
				}
			}
			c.get("/api/stones/"+stone.ID+"/as-cut", &stones[i])
			c.get("/api/works/"+stone.WorkID+"/events", &logs[i])
			stop()
		}
		assert.Equal(t, stones[0].Cut, stones[1].Cut, "seed %d", seed)
		assert.ElementsMatch(t, stones[0].Differences, stones[1].Differences)
		assert.Equal(t, stones[0].FacetsCut, stones[1].FacetsCut)
		assert.Positive(t, stones[0].FacetsCut)
		told := func(l server.EventList) (out []string) {
			for _, e := range l.Events {
				if e.Kind != "plan" {
					out = append(out, e.ID)
				}
			}
			return out
		}
		assert.ElementsMatch(t, told(logs[0]), told(logs[1]), "both have everything on record")
	}
}
