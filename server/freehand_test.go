package server_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/server"
)

// A stone is cut freehand from a bare draft: what can be reached is told in mm, a cut is shown before it is made, and
// the stone at the end is a diagram of its finished width.
func TestAStoneIsCutFreehand(t *testing.T) {
	c := start(t)
	var begun server.Diagram
	c.put("POST", "/api/freehand/stones", server.BeginFreehandRequest{Name: "By hand", Material: "Quartz", Width: 10, Gear: 96}, &begun)
	var today server.Today
	c.get("/api/today", &today)
	assert.Equal(t, []server.FreehandLine{{ID: begun.ID, Name: "By hand"}}, today.Freehand)
	c.problem("POST", "/api/freehand/stones", `{"name": "x", "material": "Moonglow", "width": 10, "gear": 96}`, http.StatusUnprocessableEntity)
	assert.True(t, begun.Freehand)
	draft := begun.Draft
	look := func(set *server.FreehandSetting, until *server.FreehandUntil) (out server.Freehand) {
		t.Helper()
		c.put("POST", "/api/freehand", server.FreehandRequest{Draft: draft, Setting: set, Until: until}, &out)
		return out
	}
	around := []float64{96, 12, 24, 36, 48, 60, 72, 84}
	cut := func(up diagram.Part, angle float64, indexes []float64, until server.FreehandUntil) *server.FreehandNext {
		t.Helper()
		next := look(&server.FreehandSetting{Up: up, Angle: angle, Indexes: indexes}, &until).Next
		require.Empty(t, next.Problem)
		draft = *next.Draft
		return next
	}
	bare := look(nil, nil)
	assert.False(t, bare.Whole)
	assert.InDelta(t, 10, bare.Width, 1e-9)

	first := look(&server.FreehandSetting{Up: diagram.Pavilion, Angle: 42, Indexes: around}, nil).Next
	assert.Equal(t, "P1", first.Tier)
	require.Len(t, first.Reaches, 1)
	assert.Equal(t, "to a centre point", first.Reaches[0].Words)
	assert.InDelta(t, 42-40.37, *first.Margin, 0.01)
	assert.Nil(t, first.Draft)
	cut(diagram.Pavilion, 42, around, server.FreehandUntil{Stop: "centre"})
	assert.Equal(t, "until it is 9.00 mm across", cut(diagram.Pavilion, 90, around, server.FreehandUntil{Size: 9}).Stop)

	c.problem("POST", "/api/freehand/tidy", text(t, server.TidyRequest{Draft: draft}), http.StatusUnprocessableEntity)

	// A point by eye that takes nothing off is refused, and nothing is lost.
	refused := look(&server.FreehandSetting{Up: diagram.Crown, Angle: 30, Indexes: around}, &server.FreehandUntil{Here: &server.Point{Z: 5}}).Next
	assert.Nil(t, refused.Draft)
	assert.Contains(t, refused.Problem, "Choose a point that lies deeper")
	assert.NotNil(t, cut(diagram.Crown, 30, around, server.FreehandUntil{Here: &server.Point{Y: 0.45, Z: 0.45}}).Mesh)
	// Two facets at once, to where the first of the meets is.
	star := look(&server.FreehandSetting{Up: diagram.Crown, Angle: 20, Indexes: []float64{6, 54}}, nil).Next
	require.NotEmpty(t, star.Reaches)
	cut(diagram.Crown, 20, []float64{6, 54}, server.FreehandUntil{Stop: star.Reaches[0].Stop})

	whole := look(nil, nil)
	assert.True(t, whole.Whole)
	var tidy server.Tidied
	c.put("POST", "/api/freehand/tidy", server.TidyRequest{Draft: draft}, &tidy)
	assert.InDelta(t, whole.Width, tidy.Width, 1e-6)
	var solved server.Solved
	c.put("POST", "/api/solve", server.SolveRequest{Draft: tidy.Draft}, &solved)
	require.Empty(t, solved.Problems)
	assert.True(t, solved.Stone.Complete)
	assert.InDelta(t, 1, solved.Stone.Measures.Width, 1e-9)
	assert.InDelta(t, whole.Height, solved.Stone.Measures.Height*tidy.Width, 1e-6)

	draft.Width = "wide"
	said := c.problem("POST", "/api/freehand", text(t, server.FreehandRequest{Draft: draft}), http.StatusUnprocessableEntity)
	assert.Contains(t, text(t, said), "width")
}
