package server_test

import (
	"bufio"
	"bytes"
	"encoding/json"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/light"
	"cressa/core/rough"
	"cressa/server"
)

// worked starts long work and follows it to its end.
func worked[Line any](t *testing.T, c client, at string, ask any) (lines []Line) {
	t.Helper()
	body, err := json.Marshal(ask)
	require.NoError(t, err)
	status, _, data := c.send("POST", at, string(body))
	require.Equal(t, http.StatusNoContent, status, string(data))
	return told[Line](t, c, at)
}

// told returns all that long work tells until it ends, from its beginning.
func told[Line any](t *testing.T, c client, at string) (lines []Line) {
	t.Helper()
	_, _, data := c.send("GET", at, "")
	scan := bufio.NewScanner(bytes.NewReader(data))
	scan.Buffer(nil, 1<<24)
	for scan.Scan() {
		var line Line
		require.NoError(t, json.Unmarshal(scan.Bytes(), &line))
		lines = append(lines, line)
	}
	require.NotEmpty(t, lines)
	return lines
}

// corner is a corner of a drawn stone in its piece.
func corner(m server.Mesh, p server.StonePlace, i int) (out [3]float64) {
	for k := range out {
		out[k] = p.Offset[k]
		for j := range 3 {
			out[k] += p.Scale * p.Rotation[3*k+j] * m.Vertices[3*i+j]
		}
	}
	return out
}

// A slab that is wide and shallow holds a stone by its depth: a flatter pavilion makes it wider, within the
// margin that keeps the light, and a higher crown in a deep block makes it heavier.
func TestChangesOfADiagramThatSuitAPiece(t *testing.T) {
	c := start(t)
	level := 90.0
	for _, shape := range []struct {
		depth float64
		sided func(v server.Variant) float64
	}{{6, func(v server.Variant) float64 { return v.Width }}, {16, func(v server.Variant) float64 { return v.Carat }}} {
		ask := aPiece()
		ask.Weighed, ask.Rough.Flaws = "", []server.RoughFlaw{{Name: "spot", Kind: rough.Ball, Radius: 0.2, Rule: rough.Accept}}
		ask.Rough.Solid.Size = server.Point{X: 14, Y: 14, Z: shape.depth}
		ask.Rough.Axis = &server.RoughAxis{Kind: rough.OpticAxis, Direction: server.Point{Z: 1}, ToTable: &level}
		var piece server.PieceView
		c.put("POST", "/api/rough", ask, &piece)
		at := "/api/rough/" + piece.ID
		worked[server.FittingLine](t, c, at+"/fit", server.FittingRequest{Diagrams: []string{c.diagramCalled("First Light").ID}, Allowance: 0.3, Rounds: 3})
		c.get(at, &piece)
		known := piece.Candidates[0]
		var drawn *server.Variant
		var all []server.Variant
		for _, l := range worked[server.VariantLine](t, c, at+"/variants", server.VariantsRequest{Candidate: known.ID, Model: light.Uniform}) {
			if l.Found == nil {
				continue
			}
			all = append(all, *l.Found)
			if l.Found.AsDrawn {
				drawn = l.Found
			}
			for i := range len(l.Found.Solid.Vertices) / 3 {
				for k, half := range []float64{7, 7, shape.depth / 2} {
					require.InDelta(t, 0, corner(l.Found.Solid, l.Found.Place, i)[k], half-0.3+1e-6)
				}
			}
		}
		require.NotNil(t, drawn)
		assert.InDelta(t, known.Width, drawn.Width, 1e-6)
		best, left := *drawn, 0
		for _, v := range all {
			if len(v.Without) > 0 {
				left++
				assert.Less(t, v.Facets, drawn.Facets)
				assert.Less(t, v.Hours, drawn.Hours)
				continue
			}
			assert.True(t, v.AsDrawn || v.Margin > 0.9, "the light is kept")
			if shape.sided(v) > shape.sided(best) {
				best = v
			}
		}
		assert.Positive(t, left)
		assert.Greater(t, shape.sided(best), 1.02*shape.sided(*drawn))
		if shape.depth < 10 {
			assert.Less(t, best.Height/best.Width, drawn.Height/drawn.Width)
		} else {
			assert.Greater(t, best.Crown, 1.0, "spare height goes into the crown")
		}
		c.problem("POST", at+"/variants", `{"candidate": "none", "model": "uniform", "headAngle": 16}`, http.StatusNotFound)
	}
}

// A long block with a crack across its middle is two stones: the saw goes along the crack.
func TestTwoStonesOfOnePiece(t *testing.T) {
	c := start(t)
	ask := aPiece()
	ask.Weighed, ask.Rough.Solid.Size = "", server.Point{X: 22, Y: 9, Z: 8}
	ask.Rough.Flaws[0] = server.RoughFlaw{Name: "crack", Kind: rough.Disc, Radius: 9, At: server.Point{X: 1}, Normal: server.Point{X: 1}, Rule: rough.Out}
	var piece server.PieceView
	c.put("POST", "/api/rough", ask, &piece)
	at := "/api/rough/" + piece.ID
	first := c.diagramCalled("First Light").ID
	worked[server.FittingLine](t, c, at+"/fit", server.FittingRequest{Diagrams: []string{first}, Allowance: 0.3})
	c.get(at, &piece)
	lines := worked[server.SplitLine](t, c, at+"/splits", server.SplitsRequest{Diagrams: []string{first}, Allowance: 0.3, Kerf: 0.5})
	last := lines[len(lines)-1]
	assert.Equal(t, "complete", last.Ended)
	require.NotEmpty(t, last.Found)
	best := last.Found[0]
	assert.Greater(t, best.Carats, 1.3*piece.Candidates[0].Carat, "two are more than one")
	assert.InDelta(t, 0.5*9*8*3.34/200, best.KerfCarats, 0.2)
	assert.Nil(t, best.Worth)

	// Once there are prices, what is known already is worth something, and a new search goes by the worth.
	var settings server.Settings
	c.get("/api/settings", &settings)
	settings.Prices = []server.Price{{Material: "Peridot", Amount: 1000}, {Material: "Peridot", From: best.Carats, Amount: 100000}}
	c.put("PUT", "/api/settings", settings, &settings)
	lines = told[server.SplitLine](t, c, at+"/splits")
	known := lines[len(lines)-1].Found[0]
	require.NotNil(t, known.Worth)
	assert.InDelta(t, 1000*best.Carats, *known.Worth, 1)
	c.get(at, &piece)
	assert.InDelta(t, 1000*piece.Candidates[0].Carat, *piece.Candidates[0].Worth, 1)
	settings.Prices[1].From = max(best.Stones[0].Carat, best.Stones[1].Carat) + 1e-6
	c.put("PUT", "/api/settings", settings, &settings)
	lines = worked[server.SplitLine](t, c, at+"/splits", server.SplitsRequest{Diagrams: []string{first}, Allowance: 0.3, Kerf: 0.5})
	dear := lines[len(lines)-1].Found[0]
	assert.Greater(t, *dear.Worth, 50*1000*best.Stones[0].Carat, "one large stone and a small one bring more than two like ones")
	assert.Less(t, dear.Carats, best.Carats)
	assert.Equal(t, *dear.Worth, *dear.Stones[0].Worth+*dear.Stones[1].Worth)

	for side, stone := range best.Stones {
		var mesh server.Mesh
		c.get("/api/solids/"+stone.Revision, &mesh)
		for i := range len(mesh.Vertices) / 3 {
			p := corner(mesh, stone.Place, i)
			out := p[0]*best.Trim.Normal.X + p[1]*best.Trim.Normal.Y + p[2]*best.Trim.Normal.Z - best.Trim.Distance
			if side == 1 {
				out = -out
			}
			require.LessOrEqual(t, out, -0.25-0.3+1e-6, "clear of the blade, and of what is left all round")
		}
	}
}
