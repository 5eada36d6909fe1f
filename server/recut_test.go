package server_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/core/mending"
	"cressa/server"
)

// The contract's round comes back with a chip. The ways have the contract's numbers, another diagram lies in what is sound, and
// each becomes a work.
func TestAStoneThatCameBackIsRecut(t *testing.T) {
	c := start(t)
	d := c.round()

	c.problem("POST", "/api/recuts/stone", `{"stone": "", "diagram": "", "widthMM": 0, "material": "Quartz"}`, http.StatusUnprocessableEntity)
	asked := server.RecutAsked{
		Of:      server.CameBack{Diagram: d.ID, WidthMM: 8, Material: "Quartz"},
		Damages: []server.Damage{{Points: []server.Point{{X: -0.7361, Y: 3.7008, Z: 3.7457}}}}, Protected: []int{}, Degrees: 0,
	}
	var back server.ReturnedStone
	c.put("POST", "/api/recuts/stone", asked.Of, &back)
	assert.False(t, back.Logged)
	assert.InDelta(t, 1.4025, back.Figures.Carats, 5e-5)
	assert.NotEmpty(t, back.Advice)
	var ways server.RecutWays
	c.put("POST", "/api/recuts/ways", asked, &ways)
	lost := map[mending.Kind]float64{}
	for _, w := range ways.Ways {
		if w.Figures == nil {
			assert.NotEmpty(t, w.Why)
			continue
		}
		lost[w.Way] = 100 * w.Figures.Lost
		assert.InDelta(t, back.Figures.Carats*(1-w.Figures.Lost), w.Figures.Carats, 1e-9, w.Way)
		assert.Len(t, w.Takes, w.Again-len(w.Added), w.Way)
		assert.Positive(t, w.Minutes)
	}
	for way, want := range map[mending.Kind]float64{mending.OneFacet: 0.076, mending.Flank: 0.709, mending.Round: 10.058, mending.Side: 6.102, mending.Largest: 5.58} {
		assert.InDelta(t, want, lost[way], 5e-3, way)
	}
	assert.Less(t, lost[mending.Added], lost[mending.OneFacet])

	// A protected facet closes the ways that need it; a setting that hides the girdle lets the chip stay.
	asked.Protected = []int{ways.Ways[0].Takes[0].Face}
	c.put("POST", "/api/recuts/ways", asked, &ways)
	assert.NotEmpty(t, ways.Ways[len(ways.Ways)-1].Why)
	c.problem("POST", "/api/recuts/ways", `{"of": {"stone": "", "diagram": "`+d.ID+`", "widthMM": 8, "material": "Quartz"}, "damages": [], "protected": [999], "hides": null, "degrees": 0}`, http.StatusUnprocessableEntity)
	asked.Protected, asked.Hides = []int{}, new(0.1)
	c.put("POST", "/api/recuts/ways", asked, &ways)
	assert.Equal(t, []int{0}, ways.Stay)
	asked.Hides = nil

	// Another diagram is searched for in any turn; of few facets that is soon done. Its own stone holds it whole.
	var easy server.DiagramList
	c.get("/api/diagrams?text=Little%20Dipper", &easy)
	whole := server.RecutAsked{
		Of: server.CameBack{Diagram: easy.Diagrams[0].ID, WidthMM: 8, Material: "Quartz"}, Damages: []server.Damage{}, Protected: []int{},
	}
	var another server.AnotherRecut
	c.put("POST", "/api/recuts/another", server.AnotherAsked{Asked: whole, Diagram: easy.Diagrams[0].ID}, &another)
	assert.InDelta(t, 0, 100*another.Way.Figures.Lost, 1)
	for _, way := range []struct {
		asked   server.RecutAsked
		kind    mending.Kind
		diagram string
		width   float64
	}{{asked, mending.Flank, "", 0}, {whole, mending.AnotherDiagram, easy.Diagrams[0].ID, another.Way.Figures.Width}} {
		var stone server.StoneHead
		c.put("POST", "/api/recuts", server.RecutChosen{
			Asked: way.asked, Way: way.kind, Diagram: way.diagram, FirstSide: diagram.Pavilion, Name: "ring stone", Why: "a chip",
		}, &stone)
		var page server.StonePage
		c.get("/api/stones/"+stone.ID, &page)
		require.NotNil(t, page.Before)
		assert.NotEmpty(t, page.Before.Way)
		if way.width > 0 {
			assert.InDelta(t, way.width, page.Assessment.Width, 0.05)
		}
		var script server.BenchScript
		c.get("/api/stones/"+stone.ID+"/script", &script)
		assert.NotEmpty(t, script.Visits)
		var out server.WaysOut
		c.get("/api/stones/"+stone.ID+"/ways-out", &out)
		assert.Nil(t, out.Mended, "what the work begins with was mended by nobody")
	}
}
