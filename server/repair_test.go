package server_test

import (
	"bytes"
	"encoding/json"
	"image"
	"image/png"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/server"
	"cressa/workshop"
)

// A stone comes in, is photographed, worked on in two stretches and given back.
func TestARepairIsTakenInWorkedOnAndGivenBack(t *testing.T) {
	c := start(t)
	var stone workshop.Stone
	in := workshop.Intake{Owner: "Ms. Averill", Material: "Peridot", Carats: 2.31, Damage: "chip at the girdle", Agreed: "keep the table", Promised: "2026-12-04"}
	c.put("POST", "/api/repairs", server.IntakeRequest{Name: "Ring stone", Intake: in}, &stone)
	path := "/api/repairs/" + stone.ID

	var drawn bytes.Buffer
	require.NoError(t, png.Encode(&drawn, image.NewRGBA(image.Rect(0, 0, 30, 20))))
	status, _, data := c.send("POST", path+"/photos", drawn.String())
	require.Equal(t, http.StatusOK, status, "%s", data)
	var photo workshop.Photo
	require.NoError(t, json.Unmarshal(data, &photo))
	for _, kind := range []string{"", "/small"} {
		status, head, _ := c.send("GET", "/api/photos/"+photo.Hash+kind, "")
		assert.Equal(t, http.StatusOK, status)
		assert.Contains(t, head.Get("Content-Type"), "image/")
	}
	c.problem("POST", path+"/photos", "no picture", http.StatusUnprocessableEntity)
	c.problem("GET", "/api/photos/..%2fcressa.db", "", http.StatusNotFound)

	at := time.Date(2026, 11, 1, 18, 0, 0, 0, time.UTC)
	event := func(n byte, kind workshop.EventKind, minutes int) workshop.Event {
		return workshop.Event{ID: string(bytes.Repeat([]byte{'a' + n}, 32)), Device: "d", DeviceTime: at.Add(time.Duration(minutes) * time.Minute), Kind: kind}
	}
	note := event(4, workshop.EventNote, 40)
	note.Text = "chip is out"
	var log server.EventList
	c.put("POST", "/api/stones/"+stone.ID+"/events", server.EventsRequest{Events: []workshop.Event{
		event(0, workshop.EventBegin, 0), event(1, workshop.EventEnd, 30), event(2, workshop.EventBegin, 60), event(3, workshop.EventEnd, 75), note,
	}}, &log)
	var page server.RepairPage
	c.get(path, &page)
	assert.InDelta(t, 0.75, page.Summary.Hours, 1e-9)
	assert.Equal(t, workshop.StateCutting, page.Summary.State)
	assert.Equal(t, "Peridot", page.Summary.Material)
	require.Len(t, page.Photos, 1)

	in.Agreed = "table may go"
	request := server.IntakeRequest{Name: "Ring stone", Intake: in, Version: stone.Version}
	c.put("PUT", path, request, &stone)
	stale, err := json.Marshal(request)
	require.NoError(t, err)
	assert.Equal(t, "/problems/stale", c.problem("PUT", path, string(stale), http.StatusConflict).Type)
	c.problem("GET", "/api/stones/"+stone.ID+"/script", "", http.StatusConflict)
	status, _, _ = c.send("DELETE", path+"/photos/"+photo.ID, "")
	assert.Equal(t, http.StatusNoContent, status)

	var list server.StoneList
	c.get("/api/stones", &list)
	assert.Len(t, list.Stones, 1, "it stands among the stones")
	var card workshop.Finish
	c.put("PUT", "/api/stones/"+stone.ID+"/finish", workshop.Finish{FinishedCarats: 2.2, Finished: "2026-12-01"}, &card)
	c.get(path, &page)
	assert.Equal(t, workshop.StateFinished, page.Summary.State)
}
