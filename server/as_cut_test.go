package server_test

import (
	"bytes"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/server"
	"cressa/workshop/journal"
)

// A stone stands as it was cut: what went too deep or was cut at a wrong setting is off for good, what was skipped
// or is still to come is not. The figures of a cut too deep are those of the page on mending.
func TestAStoneIsShownAsItWasCut(t *testing.T) {
	c := start(t)
	d := c.round()
	var stone server.StoneHead
	c.put("POST", "/api/stones", server.PlanRequest{Name: "Deep", DiagramID: d.ID, Choices: plan("Quartz", 96, width(8), diagram.Pavilion)}, &stone)
	at := "/api/stones/" + stone.ID
	var script server.BenchScript
	c.get(at+"/script", &script)
	n := 0
	event := func(kind journal.Kind, payload any) server.SentEvent {
		n++
		return sent(stone.WorkID, n, time.Now(), kind, payload)
	}
	visits := func(want func(f server.BenchFacet, v server.BenchVisit) bool) (out []journal.Visit) {
		for _, v := range script.Visits {
			if f := script.Facets[v.Facet]; want(f, v) {
				out = append(out, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: f.ID})
			}
		}
		return out
	}
	tick := func(kind journal.Kind, visits []journal.Visit) {
		t.Helper()
		var all []server.SentEvent
		for _, v := range visits {
			all = append(all, event(kind, v))
		}
		for _, answer := range c.log(all...) {
			require.Equal(t, "stored", answer.Outcome)
		}
	}
	asCut := func() (out server.AsCutView) {
		t.Helper()
		c.get(at+"/as-cut", &out)
		return out
	}
	first := func(f server.BenchFacet, v server.BenchVisit) bool { return v.First }
	tier := func(name string, tooth int) []journal.Visit {
		return visits(func(f server.BenchFacet, v server.BenchVisit) bool {
			return v.First && f.Tier == name && (tooth == 0 || f.Dial.Tooth == tooth)
		})
	}

	fresh := asCut()
	assert.Zero(t, fresh.FacetsCut)
	assert.Empty(t, fresh.Differences)
	assert.Equal(t, fresh.Planned, fresh.Cut)
	assert.InDelta(t, 1.4025, fresh.Meant.Carats, 5e-5)
	assert.InDelta(t, fresh.Meant.Carats, fresh.Coming.Carats, 1e-9)

	tick(journal.Done, visits(first))
	deep := 0.05
	p2 := tier("P2", 12)[0]
	c.log(event(journal.Happen, journal.Happened{What: journal.Overcut, At: &p2, MM: &deep}))
	over := asCut()
	assert.Equal(t, 73, over.FacetsCut)
	assert.Equal(t, over.FacetsAsked, over.FacetsCut)
	require.Len(t, over.Differences, 1)
	assert.Equal(t, "P2", over.Differences[0].Tier)
	assert.Equal(t, 12, over.Differences[0].Tooth)
	assert.Equal(t, "cut too deep, by 0.05 mm", over.Differences[0].Text)
	assert.Len(t, over.Differences[0].Faces, 1)
	assert.InDelta(t, 0.00188, 1-over.Coming.Carats/over.Meant.Carats, 5e-6)
	assert.InDelta(t, 766, over.Gap, 0.5)
	assert.InDelta(t, 0.157, *over.Meant.GirdleMin, 5e-4)
	assert.InDelta(t, 0.091, *over.Coming.GirdleMin, 5e-4)

	// A cut that is told as wrong after its tick stands at the wrong setting alone; done again it stands at both.
	g1 := tier("G1", 3)[0]
	one := 1.0
	c.log(event(journal.Happen, journal.Happened{What: journal.WrongIndex, At: &g1, By: &one}))
	wrong := asCut()
	assert.Equal(t, 72, wrong.FacetsCut)
	require.Len(t, wrong.Differences, 2)
	assert.Equal(t, "cut at 4 instead of 3", wrong.Differences[0].Text)
	assert.Len(t, wrong.Differences[0].Faces, 2)
	c.log(event(journal.Again, journal.Reopening{Setup: g1.Setup, Passes: []string{g1.Pass}, Facets: []string{g1.Facet}}), event(journal.Done, g1))
	mended := asCut()
	assert.Equal(t, 73, mended.FacetsCut)
	assert.InDelta(t, wrong.Coming.Carats, mended.Coming.Carats, 1e-9, "what was open came as planned")
	assert.Less(t, mended.Coming.Carats, over.Coming.Carats)

	// A facet that is left out stays out once the card is written. One that was cut is cut, unless its tick is taken back.
	c1 := tier("C1", 0)
	tick(journal.Skip, c1[:1])
	assert.Equal(t, 73, asCut().FacetsCut)
	var log server.EventList
	c.get("/api/works/"+stone.WorkID+"/events", &log)
	cutAt := slices.IndexFunc(log.Events, func(e server.Event) bool {
		return e.Kind == string(journal.Done) && strings.Contains(string(e.Payload), `"`+c1[0].Facet+`"`)
	})
	c.log(event(journal.Undo, journal.TakenBack{Undoes: log.Events[cutAt].ID}), event(journal.Skip, c1[0]))
	assert.Equal(t, "left out, never cut", asCut().Differences[2].Text)
	assert.Equal(t, 72, asCut().FacetsCut)
	assert.InDelta(t, mended.Coming.Carats, asCut().Coming.Carats, 1e-9)
	c.problem("GET", at+"/print/a6?for=buyer", "", http.StatusConflict)
	c.put("PUT", at+"/finish", server.Finish{Finished: "2026-11-30", RoughCarats: 5, FinishedCarats: 1.4, Price: 48000, Currency: "EUR", Notes: "The inner ring catches the lamp."}, &server.Finish{})
	assert.Greater(t, asCut().Coming.Carats, mended.Coming.Carats)
	require.NotEmpty(t, asCut().Hours)
	assert.Equal(t, "pavilion", asCut().Hours[0].Side)

	// The buyer's card says nothing of the workshop; the drawer's tells what was otherwise than planned.
	print := func(query string) string {
		t.Helper()
		var card server.SheetPages
		c.get(at+"/print/a6?"+query, &card)
		require.Len(t, card.Pages, 1)
		return card.Pages[0]
	}
	buyer, drawer := print("for=buyer&price=false"), print("for=drawer&price=true")
	assert.Contains(t, buyer, "1.4 ct")
	for _, own := range []string{"28.0 %", "cut too deep, by 0.05 mm", "The inner ring", "480.00 EUR"} {
		assert.NotContains(t, buyer, own)
		assert.Contains(t, drawer, own)
	}
	assert.Contains(t, print("for=buyer&price=true"), "480.00 EUR")
	status, _, pdf := c.send("GET", at+"/print/letter/pdf?for=buyer&price=true", "")
	assert.Equal(t, http.StatusOK, status)
	assert.True(t, bytes.HasPrefix(pdf, []byte("%PDF")))
	c.problem("GET", at+"/print/a3?for=buyer", "", http.StatusNotFound)
}
