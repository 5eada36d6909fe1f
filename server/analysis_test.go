package server_test

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/polyhedron"
	"cressa/formats"
	"cressa/server"
)

func TestAnOrderIsJudgedAndMendedOverTheWire(t *testing.T) {
	c := start(t)
	draft := c.diagramCalled("Three Sisters").Draft
	var report server.SequenceReport
	c.put(http.MethodPost, "/api/sequence", server.DraftOnly{Draft: draft}, &report)
	assert.True(t, report.Cuttable)
	require.NotNil(t, report.Better)
	assert.False(t, report.Better.Changed, "nothing is better than the designer's")
	assert.Equal(t, draft, report.Better.Draft, "text that was typed stays as it was typed")
	require.Len(t, report.Optional, 1)
	assert.True(t, report.Optional[0].Cuts)

	wrong := draft
	wrong.Tiers = slices.Clone(draft.Tiers)
	wrong.Tiers[1], wrong.Tiers[3] = wrong.Tiers[3], wrong.Tiers[1] // P2 before its girdle
	c.put(http.MethodPost, "/api/sequence", server.DraftOnly{Draft: wrong}, &report)
	assert.False(t, report.Cuttable)
	require.NotEmpty(t, report.Problems)
	assert.Equal(t, 1, report.Problems[0].Tier)
	assert.Contains(t, report.Problems[0].Message, "G1")
	require.NotNil(t, report.Better)
	assert.True(t, report.Better.Changed)
	var was, is server.Solved
	c.put(http.MethodPost, "/api/solve", server.SolveRequest{Draft: draft, Off: []string{}}, &was)
	c.put(http.MethodPost, "/api/solve", server.SolveRequest{Draft: report.Better.Draft, Off: []string{}}, &is)
	assert.InDelta(t, was.Stone.Measures.Volume, is.Stone.Measures.Volume, 1e-9)

	bare := draft
	bare.Tiers = slices.Clone(draft.Tiers)
	for _, no := range []int{0, 3} {
		bare.Tiers[no].Stop = ""
	}
	var stops server.StopProposals
	c.put(http.MethodPost, "/api/stops", server.DraftOnly{Draft: bare}, &stops)
	assert.True(t, stops.Guessed)
	assert.Equal(t, draft, stops.Proposals[0])
}

func TestAnglesMoveAndRoundOverTheWire(t *testing.T) {
	c := start(t)
	draft := c.diagramCalled("Parallax").Draft
	ask := server.AnglesRequest{Draft: draft, Step: 0.1, Width: 9}
	var nearest, best server.AnglesReport
	c.put(http.MethodPost, "/api/angles", ask, &nearest)
	ask.Search = true
	c.put(http.MethodPost, "/api/angles", ask, &best)
	assert.Equal(t, nearest.Best, best.Best)
	assert.Less(t, best.Best.Gap, best.Nearest.Gap)
	assert.InDelta(t, best.Best.Gap, best.Meets[0].Gap, 1e-9)
	assert.Equal(t, draft, best.Exact, "without a target only the rounding moves")
	assert.InDelta(t, *best.Tiers[4].MarginFrom, best.Margin, 1e-9, "a margin to choose begins with the shallowest tier's own")

	var seen server.Loupe
	c.put(http.MethodPost, "/api/loupe", server.LoupeRequest{Draft: best.Draft, Exact: &draft, Width: 9}, &seen)
	assert.InDelta(t, best.Meets[0].Gap, seen.Meets[0].Gap, 1e-3, "the loupe sees the same")

	ask = server.AnglesRequest{Draft: draft, Target: &server.AnglesTarget{RefractiveIndex: 1.62, CrownFactor: 1}, Width: 9, Material: "Aquamarine"}
	var moved server.AnglesReport
	c.put(http.MethodPost, "/api/angles", ask, &moved)
	assert.Equal(t, "1.62", moved.Draft.RefractiveIndex)
	assert.InDelta(t, *moved.Tiers[4].MarginFrom, *moved.Tiers[4].MarginTo, 1e-9, "the shallowest keeps its margin")
	assert.Greater(t, *moved.After.Carats, *moved.Before.Carats, "a steeper pavilion weighs more")
	assert.Nil(t, best.After.Carats, "nothing weighs what is of no material")
	assert.Zero(t, moved.Meets[0].Gap)
	ask.Material = "Moon cheese"
	cheese, err := json.Marshal(ask)
	require.NoError(t, err)
	assert.Contains(t, c.problem(http.MethodPost, "/api/angles", string(cheese), 422).Detail, "Moon cheese")
	ask.Material = ""
	ask.Target.RefractiveIndex, ask.Target.Margin = 1.02, &[]float64{30}[0]
	data, err := json.Marshal(ask)
	require.NoError(t, err)
	assert.Contains(t, c.problem(http.MethodPost, "/api/angles", string(data), 422).Detail, "smaller margin")
}

func TestToleranceComesLineByLine(t *testing.T) {
	c := start(t)
	d := c.diagramCalled("Parallax")
	at := "/api/diagrams/" + d.ID + "/tolerance"
	ask := server.ToleranceRequest{Draft: d.Draft, Width: 8, Angle: 0.05, Index: 0.05, Depth: 0.005, Trials: 40}
	begin := func() {
		data, err := json.Marshal(ask)
		require.NoError(t, err)
		status, _, answer := c.send(http.MethodPost, at, string(data))
		require.Equal(t, http.StatusNoContent, status, string(answer))
	}
	follow := func() (first, last server.ToleranceLine) {
		_, _, data := c.send(http.MethodGet, at, "")
		all := bytes.Split(bytes.TrimSpace(data), []byte("\n"))
		require.NoError(t, json.Unmarshal(all[0], &first))
		require.NoError(t, json.Unmarshal(all[len(all)-1], &last))
		return first, last
	}
	begin()
	first, last := follow()
	assert.Equal(t, &ask, first.Asked)
	require.NotNil(t, last.Result)
	assert.Equal(t, last.Total, last.Done)
	assert.GreaterOrEqual(t, last.Result.Meets[0].P95, last.Result.Meets[0].P50)
	steps := last.Result.Rounding
	assert.False(t, steps[0].Noticed, "twentieths of a degree are lost among the machine's own errors")
	assert.True(t, steps[len(steps)-1].Noticed, "whole degrees are not")
	_, again := follow()
	assert.Equal(t, last, again, "the result is found again")

	// Another start stops the trials that are under way; who follows hears of the newer.
	ask.Trials = 5000
	begin()
	ask.Trials = 30
	begin()
	first, last = follow()
	assert.Equal(t, 30, first.Asked.Trials)
	assert.Equal(t, "complete", last.Ended)
	ask.Draft.Tiers = nil
	data, err := json.Marshal(ask)
	require.NoError(t, err)
	c.problem(http.MethodPost, at, string(data), 422)
	c.problem(http.MethodPost, "/api/diagrams/none/tolerance", string(data), 404)
}

func TestSolidsBecomeDiagramsOverTheWire(t *testing.T) {
	c := start(t)
	var die server.PlacedSolid
	c.put(http.MethodPost, "/api/solids/rule", server.RuleRequest{
		Rule: server.Rule{Kind: polyhedron.Icosahedron, Pose: polyhedron.CornerUp, Sides: 3, Height: 1}, Name: "Twenty", Gear: 80, RefractiveIndex: 1.54,
	}, &die)
	stone := cutOf(t, die.Draft)
	assert.Equal(t, 20, stone.Measures().Facets)

	var read server.PlacedSolid
	ask := server.SolidRequest{
		Name: "twenty", Gear: 80, RefractiveIndex: 1.54, Up: &server.Point{X: 1},
		Data: base64.StdEncoding.EncodeToString(formats.WriteSTL("twenty", stone.Solid(), 14)),
	}
	c.put(http.MethodPost, "/api/solids/read", ask, &read)
	assert.Len(t, read.Faces, 20)
	assert.Equal(t, 20, cutOf(t, read.Draft).Measures().Facets)

	for name, change := range map[string]func(*server.SolidRequest){
		"Choose it again": func(r *server.SolidRequest) { r.Data = "not base64!" },
		"no OBJ":          func(r *server.SolidRequest) { r.Data = base64.StdEncoding.EncodeToString([]byte("Dear Sirs")) },
		"No direction":    func(r *server.SolidRequest) { r.Up = &server.Point{} },
	} {
		bad := ask
		change(&bad)
		data, err := json.Marshal(bad)
		require.NoError(t, err)
		p := c.problem(http.MethodPost, "/api/solids/read", string(data), 422)
		assert.True(t, strings.Contains(p.Detail, name), p.Detail)
	}
}

// cutOf cuts a draft as it came over the wire.
func cutOf(t *testing.T, sent server.Draft) *cutting.Stone {
	t.Helper()
	data, err := json.Marshal(sent)
	require.NoError(t, err)
	var draft diagram.Draft
	require.NoError(t, json.Unmarshal(data, &draft))
	d, problems := draft.Read()
	require.Empty(t, problems)
	stone, err := cutting.Cut(d)
	require.NoError(t, err)
	return stone
}
