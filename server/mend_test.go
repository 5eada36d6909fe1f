package server_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/core/mending"
	"cressa/server"
	"cressa/workshop/journal"
)

// A facet of the contract's round is cut too deep. The ways out have the contract's numbers; one is chosen, and what is deeper
// then is open again; it is taken back.
func TestTheWaysOutOfACutThatWentTooDeep(t *testing.T) {
	c := start(t)
	d := c.round()
	var stone server.StoneHead
	c.put("POST", "/api/stones", server.PlanRequest{Name: "Deep", DiagramID: d.ID, Choices: plan("Quartz", 96, width(8), diagram.Pavilion)}, &stone)
	at := "/api/stones/" + stone.ID
	var script server.BenchScript
	c.get(at+"/script", &script)
	n := 0
	tell := func(kind journal.Kind, payload any) {
		t.Helper()
		n++
		require.Equal(t, "stored", c.log(sent(stone.WorkID, n, time.Now(), kind, payload))[0].Outcome)
	}
	var p2 journal.Visit
	for _, v := range script.Visits {
		f := script.Facets[v.Facet]
		if !v.First {
			continue
		}
		at := journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: f.ID}
		tell(journal.Done, at)
		if f.Tier == "P2" && f.Dial.Tooth == 12 {
			p2 = at
		}
	}
	var before server.StonePage
	c.get(at, &before)
	ways := func() (out server.WaysOut) {
		t.Helper()
		c.get(at+"/ways-out", &out)
		return out
	}
	assert.Empty(t, ways().Wrong)
	deep := 0.05
	tell(journal.Happen, journal.Happened{What: journal.Overcut, At: &p2, MM: &deep})

	found := ways()
	require.Len(t, found.Wrong, 1)
	assert.Equal(t, "P2", found.Wrong[0].Tier)
	assert.Equal(t, 12, found.Wrong[0].Tooth)
	require.Len(t, found.Ways, 5)
	for i, lost := range []float64{0.188, 1.431, 3.066, 3.988, 2.769} {
		w := found.Ways[i]
		assert.InDelta(t, lost, 100*w.Figures.Lost, 6e-4, w.Way)
		assert.InDelta(t, found.Plan.Carats*(1-w.Figures.Lost), w.Figures.Carats, 1e-9)
		assert.Positive(t, w.Figures.Return)
		assert.Len(t, w.Takes, w.Again)
		assert.Equal(t, w.Again > 0, w.Minutes > 0)
	}
	tier := found.Ways[1]
	require.Len(t, tier.Tiers, 1)
	assert.Equal(t, "P2", tier.Tiers[0].Tier)
	assert.InDelta(t, 0.05, tier.Tiers[0].Most, 1e-9)

	c.problem("PUT", at+"/mending", `{"way": "tier", "version": 99}`, http.StatusConflict)
	c.put("PUT", at+"/mending", server.MendRequest{Way: mending.Tier, Version: found.Version}, &stone)
	var page server.StonePage
	c.get(at, &page)
	assert.Equal(t, before.Summary.Done-7, page.Summary.Done)
	mended := ways()
	assert.Empty(t, mended.Wrong)
	require.NotNil(t, mended.Mended)
	assert.True(t, mended.Mended.CanUndo)
	var cut server.AsCutView
	c.get(at+"/as-cut", &cut)
	assert.InDelta(t, tier.Figures.Carats, cut.Coming.Carats, 1e-9)
	c.put("PUT", at+"/plan/undo", server.AtVersion{Version: stone.Version}, &stone)
	c.get(at, &page)
	assert.Equal(t, before.Summary.Done, page.Summary.Done)
	assert.Len(t, ways().Wrong, 1)

	// With the crown up facets of the crown tell how the stone sits.
	crown := script.Setups[len(script.Setups)-1].ID
	var flush server.FlushFacets
	c.get(at+"/flush?setup="+crown, &flush)
	require.GreaterOrEqual(t, len(flush.Facets), 3)
	ask := server.MovedRequest{Setup: crown, Version: stone.Version}
	for _, f := range flush.Facets[:3] {
		ask.Found = append(ask.Found, server.FoundFlush{Facet: f.ID, Angle: f.Angle, Index: float64(f.Tooth)})
	}
	var sits server.Moved
	c.put("POST", at+"/moved", ask, &sits)
	assert.InDelta(t, 0, sits.Tilt, 1e-6)
	assert.True(t, sits.Fits)
	c.put("PUT", at+"/moved", ask, &stone)
}
