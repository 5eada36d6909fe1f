package server_test

import (
	"bufio"
	"bytes"
	"encoding/base64"
	"encoding/json"
	"image"
	"image/png"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/light"
	"cressa/core/rough"
	"cressa/formats"
	"cressa/server"
	"cressa/workshop"
)

// aPiece is a block of peridot with a crack at one end.
func aPiece() server.PieceRequest {
	return server.PieceRequest{
		Weighed: "2,4", Unit: "g", Fate: workshop.Whole,
		Rough: server.Rough{
			Name: "block", Material: "peridot", Solid: server.RoughSolid{Kind: rough.KindBox, Size: server.Point{X: 12, Y: 9, Z: 7}, Points: []float64{}},
			Trims:       []server.RoughTrim{},
			RoughInside: server.RoughInside{Flaws: []server.RoughFlaw{{Name: "crack", Kind: rough.Disc, At: server.Point{X: 2}, Radius: 2, Normal: server.Point{X: 1}, Rule: rough.Out}}},
		},
	}
}

func TestAPieceOfRoughIsKeptAndFound(t *testing.T) {
	c := start(t)
	var lot server.Parcel
	c.put("POST", "/api/parcels", server.Parcel{Name: "Hill lot", Per: workshop.ByGram, Amount: 500, Postage: 300, Currency: "EUR"}, &lot)
	ask := aPiece()
	ask.Parcel = lot.ID
	var piece server.PieceView
	c.put("POST", "/api/rough", ask, &piece)
	assert.InDelta(t, 12, piece.Carats, 1e-9)
	assert.Equal(t, "2,4", piece.Weighed, "it stays as it was typed")
	assert.InDelta(t, 1500, piece.Cost, 1e-6, "2.4 g at 5.00 a gram, and the postage")
	assert.InDelta(t, 12*9*7*3.34/200, piece.Worked.WholeCarats, 0.1)

	// A saw cut is worked out before it is kept.
	cut := aPiece()
	cut.Rough.Trims = []server.RoughTrim{{Normal: server.Point{X: 1}, Distance: 4, Kerf: 0.4}}
	var worked server.RoughWorked
	c.put("POST", "/api/rough/work", cut, &worked)
	assert.InDelta(t, 9.8/12*worked.WholeCarats, worked.KeptCarats, 1e-9)
	assert.InDelta(t, 0.4/12*worked.WholeCarats, worked.Cuts[0].KerfCarats, 1e-9)
	c.get("/api/rough/"+piece.ID, &piece)
	assert.Empty(t, piece.Rough.Trims)

	// Whoever saves over what was changed meanwhile is told so; what cannot be is told by its place.
	cut.Version, cut.Parcel = piece.Version, lot.ID
	c.put("PUT", "/api/rough/"+piece.ID, cut, &piece)
	body, err := json.Marshal(cut)
	require.NoError(t, err)
	c.problem("PUT", "/api/rough/"+piece.ID, string(body), http.StatusConflict)
	cut.Version, cut.Rough.Flaws[0].Radius = piece.Version, 0
	body, err = json.Marshal(cut)
	require.NoError(t, err)
	wrong := c.problem("PUT", "/api/rough/"+piece.ID, string(body), http.StatusUnprocessableEntity)
	assert.Equal(t, "flaws.0.radius", wrong.Places[0].Field)
	cut.Rough.Flaws[0].Radius, cut.Weighed = 1, "much"
	body, err = json.Marshal(cut)
	require.NoError(t, err)
	assert.Contains(t, c.problem("PUT", "/api/rough/"+piece.ID, string(body), http.StatusUnprocessableEntity).Detail, "much")

	// An offcut knows what it was sawn off, and is of the cost of that.
	var off server.PieceView
	c.put("POST", "/api/rough/"+piece.ID+"/offcuts", server.OffcutRequest{}, &off)
	assert.Equal(t, piece.Number, off.ParentNumber)
	assert.InDelta(t, 1.8*9*7*3.34/200, off.Carats, 0.1)
	assert.Zero(t, off.Cost)
	c.get("/api/rough/"+piece.ID, &piece)
	require.Len(t, piece.Offcuts, 1)
	c.problem("POST", "/api/rough/"+piece.ID+"/offcuts", `{"trim": 1}`, http.StatusNotFound)
	var list server.PieceList
	c.get("/api/rough?text=hill&limit=1", &list)
	assert.Equal(t, 2, list.Total)
	c.get("/api/rough?limit=1&after="+list.Next, &list)
	assert.Equal(t, piece.ID, list.Pieces[0].ID)

	// Its file is one that the command line reads.
	_, _, data := c.send("GET", "/api/rough/"+piece.ID+"/file", "")
	read, mistakes := formats.ReadRough(data)
	require.Empty(t, mistakes)
	assert.Equal(t, "crack", read.Flaws[0].Name)
}

func TestStonesAreFoundInAPieceAndOneIsChosen(t *testing.T) {
	c := start(t)
	var piece server.PieceView
	c.put("POST", "/api/rough", aPiece(), &piece)
	at := "/api/rough/" + piece.ID
	first, other := c.diagramCalled("First Light"), c.diagramCalled("Three Sisters")
	search := func(ids ...string) (kept []server.Candidate, last server.FittingLine) {
		body, err := json.Marshal(server.FittingRequest{Diagrams: ids, Allowance: 0.3, Costs: len(ids) == 1})
		require.NoError(t, err)
		status, _, data := c.send("POST", at+"/fit", string(body))
		require.Equal(t, http.StatusNoContent, status, string(data))
		_, _, data = c.send("GET", at+"/fit", "")
		for lines := bufio.NewScanner(bytes.NewReader(data)); lines.Scan(); {
			last = server.FittingLine{}
			require.NoError(t, json.Unmarshal(lines.Bytes(), &last))
			if last.Kept != nil {
				kept = append(kept, *last.Kept)
			}
		}
		return kept, last
	}
	kept, last := search(first.ID, other.ID)
	require.Len(t, kept, 2)
	assert.Equal(t, "complete", last.Ended)
	c.get(at, &piece)
	require.Len(t, piece.Candidates, 2)
	heavy := piece.Candidates[0]
	assert.GreaterOrEqual(t, heavy.Carat, piece.Candidates[1].Carat)
	assert.InDelta(t, heavy.Carat/12, heavy.Yield, 1e-9)
	require.NotNil(t, heavy.Place)

	// The drawn stone lies in the block, clear of what is left all round.
	var mesh server.Mesh
	c.get("/api/solids/"+heavy.Revision, &mesh)
	for i := 0; i < len(mesh.Vertices); i += 3 {
		for k, half := range []float64{6, 4.5, 3.5} {
			x := heavy.Place.Offset[k]
			for j := range 3 {
				x += heavy.Place.Scale * heavy.Place.Rotation[3*k+j] * mesh.Vertices[i+j]
			}
			assert.InDelta(t, 0, x, half-0.3+1e-6)
		}
	}

	// Cut, the stone shows its crack only where it is drawn into it.
	face := server.FaceRequest{
		Material: "peridot", RoughInside: aPiece().Rough.RoughInside, Revision: heavy.Revision, Place: *heavy.Place, Model: light.Uniform, Show: "flaws", Grid: 64,
	}
	var seen server.FaceView
	c.put("POST", "/api/rough/face", face, &seen)
	assert.Empty(t, seen.Flaws, "it lies outside")
	dark := seen.Figures.Absorbed
	face.Flaws[0] = server.RoughFlaw{Name: "crystal", Kind: rough.Ball, Radius: 0.6, Rule: rough.Accept, At: server.Point{X: heavy.Place.Offset[0], Y: heavy.Place.Offset[1], Z: heavy.Place.Offset[2]}}
	c.put("POST", "/api/rough/face", face, &seen)
	require.Len(t, seen.Flaws, 1)
	assert.Greater(t, seen.Flaws[0].Images, 1)
	assert.Greater(t, seen.Figures.Absorbed, dark)
	face.Show, face.Colour = "flawless", &server.RoughColour{Along: []float64{0, 0, 0.3}, Across: []float64{0, 0, 0.3}, Zones: []server.RoughZone{}}
	c.put("POST", "/api/rough/face", face, &seen)
	assert.Empty(t, seen.Flaws)
	assert.Equal(t, "#ffff", seen.Colour[:5], "what is left without blue")
	face.Colour.Zones = []server.RoughZone{{Normal: server.Point{X: 1}, To: 1, RGB: []float64{1}}}
	body, err := json.Marshal(face)
	require.NoError(t, err)
	assert.Equal(t, "colour.zones[0].rgb", c.problem("POST", "/api/rough/face", string(body), http.StatusUnprocessableEntity).Places[0].Field)
	face.Colour, face.Place.Rotation = nil, []float64{1}
	body, err = json.Marshal(face)
	require.NoError(t, err)
	c.problem("POST", "/api/rough/face", string(body), http.StatusUnprocessableEntity)

	// A second search looks elsewhere and never gives less away; a change of the piece is told.
	kept, _ = search(heavy.Diagram)
	assert.Equal(t, 2, kept[0].Rounds)
	assert.GreaterOrEqual(t, kept[0].Width, heavy.Width)
	require.Len(t, kept[0].Costs, 1)
	assert.Greater(t, kept[0].Costs[0].Carat, 1.01*kept[0].Carat, "the crack costs something")
	var chosen server.CandidateList
	c.put("PUT", at+"/choice", server.ChooseRequest{Candidate: heavy.ID, Why: "shows the olive"}, &chosen)
	assert.True(t, chosen.Candidates[0].Chosen)
	c.problem("PUT", at+"/choice", `{"candidate": "none", "why": ""}`, http.StatusNotFound)
	changed := piece.PieceRequest
	changed.Rough.Note = "sawn tomorrow"
	c.put("PUT", at, changed, &piece)
	assert.False(t, piece.Candidates[0].Stale, "a note changes no stone")
	changed.Version, changed.Rough.Flaws[0].At.X = piece.Version, 1
	c.put("PUT", at, changed, &piece)
	assert.True(t, piece.Candidates[0].Stale)
	assert.Equal(t, "shows the olive", piece.Candidates[0].Why)

	// Where the allowance takes all there is, the search says so.
	ask := `{"diagrams": ["` + first.ID + `"], "allowance": 9}`
	status, _, _ := c.send("POST", at+"/fit", ask)
	require.Equal(t, http.StatusNoContent, status)
	_, _, data := c.send("GET", at+"/fit", "")
	assert.Contains(t, string(data), "9 mm leaves nothing")
}

// A photo of a piece keeps its marks over the version that was read; the file goes with its last photo.
func TestPhotosOfAPieceHaveMarks(t *testing.T) {
	c := start(t)
	var piece server.PieceView
	c.put("POST", "/api/rough", aPiece(), &piece)
	at := "/api/rough/" + piece.ID
	var drawn bytes.Buffer
	require.NoError(t, png.Encode(&drawn, image.NewRGBA(image.Rect(0, 0, 30, 20))))
	var made [2]server.PiecePhoto
	for i := range made {
		status, _, data := c.send("POST", at+"/photos", drawn.String())
		require.Equal(t, http.StatusOK, status, "%s", data)
		require.NoError(t, json.Unmarshal(data, &made[i]))
	}
	marked := made[0].PhotoMarks
	marked.Note, marked.Marks = "lamp from the left", []server.PhotoMark{{X: 0.25, Y: 0.5, Text: "veil begins"}}
	var kept server.PiecePhoto
	c.put("PUT", at+"/photos/"+made[0].ID, marked, &kept)
	assert.Equal(t, 2, kept.Version)
	body, err := json.Marshal(marked)
	require.NoError(t, err)
	c.problem("PUT", at+"/photos/"+made[0].ID, string(body), http.StatusConflict)
	c.get(at, &piece)
	require.Len(t, piece.Photos, 2)
	assert.Equal(t, kept, piece.Photos[0])
	marked.Version, marked.Marks[0].X = 2, 1.5
	body, err = json.Marshal(marked)
	require.NoError(t, err)
	c.problem("PUT", at+"/photos/"+made[0].ID, string(body), http.StatusUnprocessableEntity)

	for i, left := range []int{http.StatusOK, http.StatusNotFound} {
		status, _, _ := c.send("DELETE", at+"/photos/"+made[i].ID, "")
		require.Equal(t, http.StatusNoContent, status)
		status, _, _ = c.send("GET", "/api/photos/"+made[i].Hash, "")
		assert.Equal(t, left, status, "the same picture is shown twice at first")
	}
	c.problem("DELETE", at+"/photos/"+made[0].ID, "", http.StatusNotFound)
	c.problem("POST", "/api/rough/none/photos", drawn.String(), http.StatusNotFound)
}

// A flaw that is seen straight down and from the right, under flat faces.
func TestAFlawIsPlacedByTwoLooks(t *testing.T) {
	c := start(t)
	ask := server.SightingsRequest{Rough: aPiece().Rough, Sightings: []server.Sighting{{At: server.Point{X: 1, Y: 2}, Eye: server.Point{Z: 1}}}}
	var got server.Sighted
	c.put("POST", "/api/rough/sightings", ask, &got)
	assert.Nil(t, got.At)
	assert.Equal(t, []server.SightLine{{From: server.Point{X: 1, Y: 2, Z: 3.5}, To: server.Point{X: 1, Y: 2, Z: -3.5}}}, got.Lines)
	ask.Sightings = append(ask.Sightings, server.Sighting{At: server.Point{Y: 2.2, Z: -1}, Eye: server.Point{X: 1}})
	c.put("POST", "/api/rough/sightings", ask, &got)
	assert.Equal(t, server.Point{X: 1, Y: 2.1, Z: -1}, *got.At)
	assert.InDelta(t, 0.2, got.Gap, 1e-9)
	ask.Sightings[1].At.Y = 20
	body, err := json.Marshal(ask)
	require.NoError(t, err)
	wrong := c.problem("POST", "/api/rough/sightings", string(body), http.StatusUnprocessableEntity)
	assert.Equal(t, "sightings.1.at", wrong.Places[0].Field)
}

func TestAScanBecomesAHull(t *testing.T) {
	c := start(t)
	read := func(obj string) (out server.MeshPoints) {
		c.put("POST", "/api/rough/mesh", server.MeshFile{Data: base64.StdEncoding.EncodeToString([]byte(obj))}, &out)
		return out
	}
	const corners = "v 0 0 0\nv 9 0 0\nv 0 9 0\nv 0 0 9\nv 1 1 1\n"
	whole := read(corners + "f 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n")
	assert.Len(t, whole.Points, 12, "a point inside is no corner")
	assert.False(t, whole.Hollow)
	assert.True(t, read(corners+"f 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 5\nf 3 4 5\nf 4 2 5\n").Hollow)
	flat := base64.StdEncoding.EncodeToString([]byte("v 0 0 0\nv 1 0 0\nv 0 1 0\nv 1 1 0\nf 1 2 4 3\n"))
	assert.Contains(t, c.problem("POST", "/api/rough/mesh", `{"data": "`+flat+`"}`, http.StatusUnprocessableEntity).Detail, "flat")
}

// A block of 8 by 6 by 5 on a dop, on a machine that reads h = d + 90·cos t + 2: five touches bound it, a
// width from one of them agrees, and what was measured is kept with the piece.
func TestAPieceIsMeasuredOnTheMachine(t *testing.T) {
	c := start(t)
	ask := server.SurveyRequest{Material: "Peridot", Carat: 3.5, Survey: server.RoughSurvey{
		Gear: 96, Known: []server.KnownTouch{{Height: 92}, {Angle: 90, Distance: 3, Height: 5}},
		Touches: []server.RoughTouch{{Angle: 90, Index: 96, Height: 5}, {Angle: 90, Index: 48, Height: 5}, {Angle: 90, Index: 24, Height: 6}, {Angle: 90, Index: 72, Height: 6}},
		Widths:  []server.RoughWidth{}, Outlines: []server.RoughSilhouette{},
	}}
	var got server.SurveyView
	c.put("POST", "/api/rough/survey", ask, &got)
	assert.Nil(t, got.Solid, "nothing bounds it from above")
	assert.Equal(t, []float64{0, 96}, []float64{got.NextAngle, got.NextIndex})
	ask.Survey.Touches = append(ask.Survey.Touches, server.RoughTouch{Index: 96, Height: 97})
	c.put("POST", "/api/rough/survey", ask, &got)
	require.NotNil(t, got.Solid)
	assert.InDelta(t, 240, got.Volume, 0.01)
	assert.InDelta(t, 240*3.34/200, got.Carats, 0.03)
	assert.InDelta(t, got.Carats-3.5, *got.Extra, 1e-9)
	assert.Positive(t, *got.Most)
	ask.Survey.Widths = []server.RoughWidth{{Angle: 90, Index: 24, Reading: 7.5}}
	ask.Survey.Outlines = []server.RoughSilhouette{{Index: 96, Off: 0.1, Corners: []float64{-3, 0, 3, 0, 3, 5, -3, 3}}}
	c.put("POST", "/api/rough/survey", ask, &got)
	assert.InDelta(t, 0.5*6*5, got.Took[5], 0.01, "the far side lies nearer than it was touched")

	piece := aPiece()
	piece.Survey = &ask.Survey
	piece.Rough.Solid = server.RoughSolid{Kind: "hull", Points: got.Points}
	var kept server.PieceView
	c.put("POST", "/api/rough", piece, &kept)
	assert.Equal(t, ask.Survey, *kept.Survey)
	assert.InDelta(t, got.Carats, kept.Worked.WholeCarats, 0.01, "its corners are the solid")
	ask.Survey.Known = nil
	body, err := json.Marshal(ask)
	require.NoError(t, err)
	assert.Contains(t, c.problem("POST", "/api/rough/survey", string(body), http.StatusUnprocessableEntity).Detail, "bare dop")
}
