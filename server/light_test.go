package server_test

import (
	"bufio"
	"bytes"
	"context"
	"encoding/base64"
	"encoding/json"
	"image/png"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/sweep"
	"cressa/server"
)

// lighting is how the stones of these tests are looked at.
func lighting(material string) server.Lighting {
	return server.Lighting{Material: material, RefractiveIndex: 1.54, Width: 8, Model: "head", HeadAngle: 16}
}

func TestAStoneIsLookedAtOverTheWire(t *testing.T) {
	c := start(t)
	draft := c.diagramCalled("First Light").Draft
	ask := server.LookRequest{Draft: draft, Lighting: lighting("Peridot"), Show: "ends", Grid: 96}
	var ways, colour, split server.Look
	c.put(http.MethodPost, "/api/light/look", ask, &ways)
	data, err := base64.StdEncoding.DecodeString(strings.TrimPrefix(ways.Picture, "data:image/png;base64,"))
	require.NoError(t, err)
	img, err := png.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	assert.Equal(t, 96, img.Bounds().Dx())
	assert.Len(t, ways.Ends, 3)
	assert.Equal(t, 1.65, ways.Figures.RefractiveIndex)
	assert.Zero(t, ways.Figures.Absorbed)

	ask.Show = "colour"
	c.put(http.MethodPost, "/api/light/look", ask, &colour)
	assert.Positive(t, colour.Figures.Absorbed, "peridot has a colour")
	assert.Less(t, colour.Figures.Return, ways.Figures.Return)
	ask.Split = true
	c.put(http.MethodPost, "/api/light/look", ask, &split)
	assert.NotEqual(t, colour.Picture, split.Picture, "and parts light")
	ask.Tint = "colourless"
	c.put(http.MethodPost, "/api/light/look", ask, &colour)
	assert.Zero(t, colour.Figures.Absorbed)

	ask.Tint = "plaid"
	plaid, err := json.Marshal(ask)
	require.NoError(t, err)
	assert.Contains(t, c.problem(http.MethodPost, "/api/light/look", string(plaid), 422).Detail, "plaid")
}

func TestLightByMaterialTiltAndGirdle(t *testing.T) {
	c := start(t)
	at := server.LitDraft{Draft: c.diagramCalled("Meridian").Draft, Lighting: lighting("Peridot")}
	var by server.MaterialsLight
	c.put(http.MethodPost, "/api/light/materials", server.MaterialsRequest{LitDraft: at, Materials: []string{"Practice glass", "Sphene", ""}}, &by)
	require.Len(t, by.Rows, 3)
	assert.Equal(t, 1.885, by.Rows[1].Figures.RefractiveIndex)
	assert.Equal(t, 1.54, by.Rows[2].Figures.RefractiveIndex, "without a material by its index")
	var curve server.TiltCurve
	c.put(http.MethodPost, "/api/light/tilts", at, &curve)
	require.Len(t, curve.Points, 21)
	assert.Zero(t, curve.Points[10].Degrees)
	assert.Equal(t, curve.Points[10].Three, curve.Points[10].Twelve, "face up there is one view")

	var girdle server.GirdleLight
	c.put(http.MethodPost, "/api/light/girdle", server.GirdleRequest{LitDraft: at, Passes: 3}, &girdle)
	require.Len(t, girdle.Finishes, 3)
	polished, cut := girdle.Finishes[0], girdle.Finishes[2]
	assert.Equal(t, 3*cut.Visits, polished.Visits)
	assert.InDelta(t, girdle.Pace*float64(polished.Visits)/60, polished.Hours, 1e-9)
	assert.Zero(t, polished.Tilted.Frosted)
	assert.Positive(t, cut.Tilted.Frosted)
}

func TestASweepIsToldAsItComesAndKept(t *testing.T) {
	c := start(t)
	d := c.diagramCalled("First Light")
	ask := server.SweepRequest{Draft: d.Draft, SweepAsked: server.SweepAsked{
		Lighting: lighting("Quartz"),
		X:        server.Axis{Kind: sweep.Pavilion, From: 0.9, To: 1.1, Steps: 3},
		Y:        server.Axis{Kind: sweep.Tier, Tier: 3, From: 40, To: 44, Steps: 3},
	}}
	body, err := json.Marshal(ask)
	require.NoError(t, err)
	status, _, data := c.send(http.MethodPost, "/api/diagrams/"+d.ID+"/sweep", string(body))
	require.Equal(t, http.StatusNoContent, status, string(data))
	_, _, data = c.send(http.MethodGet, "/api/diagrams/"+d.ID+"/sweep", "")
	seen := map[int]server.SweptPoint{}
	var last server.SweepLine
	for lines := bufio.NewScanner(bytes.NewReader(data)); lines.Scan(); {
		first := last.Total == 0
		last = server.SweepLine{}
		require.NoError(t, json.Unmarshal(lines.Bytes(), &last))
		assert.Equal(t, first, last.Asked != nil, "who comes later is told what was asked for")
		for _, p := range last.Points {
			seen[p.No] = p
		}
	}
	require.Len(t, seen, 9)
	assert.Equal(t, "complete", last.Ended)
	assert.Equal(t, 9, last.Done)
	require.NotNil(t, last.Kept)
	assert.Equal(t, 1.544, last.Kept.Asked.RefractiveIndex, "what was swept stays, whatever becomes of the material")
	assert.Equal(t, 1.0, last.Kept.PresentX)

	var list server.SweepList
	c.get("/api/diagrams/"+d.ID+"/sweeps", &list)
	require.Len(t, list.Sweeps, 1)
	assert.Len(t, list.Axes, 2+len(d.Draft.Tiers)-1)
	for _, a := range list.Axes {
		assert.LessOrEqual(t, a.Within.Low, a.Axis.From)
		assert.LessOrEqual(t, a.Axis.To, a.Within.High)
	}
	assert.False(t, list.Sweeps[0].Changed)
	var kept server.SweepView
	c.get("/api/sweeps/"+last.Kept.ID, &kept)
	require.Len(t, kept.Points, 9)
	for no, p := range seen {
		assert.Equal(t, p, kept.Points[no])
	}
	middle := kept.Points[4]
	require.True(t, middle.Whole)
	require.NotNil(t, middle.Carats)

	var picked server.Picked
	c.put(http.MethodPost, "/api/sweeps/"+kept.ID+"/pick", server.PickRequest{X: kept.Points[5].X, Y: kept.Points[5].Y}, &picked)
	assert.Equal(t, "1.544", picked.Draft.RefractiveIndex)
	require.NotEmpty(t, picked.Tiers)
	assert.Greater(t, picked.Tiers[0].To, picked.Tiers[0].From)
	var solved server.Solved
	c.put(http.MethodPost, "/api/solve", server.SolveRequest{Draft: picked.Draft, Off: []string{}}, &solved)
	require.True(t, solved.Stone.Complete)
	assert.InDelta(t, kept.Points[5].HeightWidth, solved.Stone.Measures.HeightWidth, 1e-8)

	ask.Y.Tier = 400
	body, err = json.Marshal(ask)
	require.NoError(t, err)
	assert.Contains(t, c.problem(http.MethodPost, "/api/diagrams/"+d.ID+"/sweep", string(body), 422).Detail, "axis")
}

// A sweep goes on when its page is closed, is found again, and is not kept once it is stopped.
func TestASweepGoesOnWithoutItsPageUntilItIsStopped(t *testing.T) {
	c := start(t)
	d := c.diagramCalled("Deep Field")
	at := "/api/diagrams/" + d.ID + "/sweep"
	body, err := json.Marshal(server.SweepRequest{Draft: d.Draft, SweepAsked: server.SweepAsked{
		Lighting: lighting("Quartz"),
		X:        server.Axis{Kind: sweep.Pavilion, From: 0.9, To: 1.1, Steps: 60},
		Y:        server.Axis{Kind: sweep.Crown, From: 0.9, To: 1.1, Steps: 60},
	}})
	require.NoError(t, err)
	status, _, _ := c.send(http.MethodGet, at, "")
	require.Equal(t, http.StatusOK, status, "nothing is under way, and that is no error")
	status, _, data := c.send(http.MethodPost, at, string(body))
	require.Equal(t, http.StatusNoContent, status, string(data))

	// follow reads lines until more points are there than were before, and closes the page.
	follow := func(than int) (done int) {
		ctx, leave := context.WithCancel(context.Background())
		defer leave()
		request, err := http.NewRequestWithContext(ctx, http.MethodGet, c.url+at, nil)
		require.NoError(t, err)
		answer, err := http.DefaultClient.Do(request)
		require.NoError(t, err)
		defer answer.Body.Close()
		lines := bufio.NewScanner(answer.Body)
		lines.Buffer(nil, 1<<22)
		for done <= than {
			require.True(t, lines.Scan(), lines.Err())
			var line server.SweepLine
			require.NoError(t, json.Unmarshal(lines.Bytes(), &line))
			require.Empty(t, line.Ended)
			done = line.Done
		}
		return done
	}
	first := follow(0)
	assert.Greater(t, follow(first), first)
	status, _, _ = c.send(http.MethodDelete, at, "")
	require.Equal(t, http.StatusNoContent, status)
	_, _, data = c.send(http.MethodGet, at, "")
	all := bytes.Split(bytes.TrimSpace(data), []byte("\n"))
	var last server.SweepLine
	require.NoError(t, json.Unmarshal(all[len(all)-1], &last))
	assert.Equal(t, "stopped", last.Ended)
	assert.Nil(t, last.Kept)
	var list server.SweepList
	c.get("/api/diagrams/"+d.ID+"/sweeps", &list)
	assert.Empty(t, list.Sweeps)
}
