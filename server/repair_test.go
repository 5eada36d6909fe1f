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
	"cressa/workshop/journal"
)

// A stone comes in, is photographed, worked on in two stretches and given back.
func TestARepairIsTakenInWorkedOnAndGivenBack(t *testing.T) {
	c := start(t)
	var stone server.StoneHead
	in := server.Intake{Owner: "Ms. Averill", Material: "Peridot", Carats: 2.31, Damage: "chip at the girdle", Agreed: "keep the table", Promised: "2026-12-04"}
	c.put("POST", "/api/repairs", server.IntakeRequest{Name: "Ring stone", Intake: in}, &stone)
	path, photos := "/api/repairs/"+stone.ID, "/api/stones/"+stone.ID+"/photos"

	var drawn bytes.Buffer
	require.NoError(t, png.Encode(&drawn, image.NewRGBA(image.Rect(0, 0, 30, 20))))
	status, _, data := c.send("POST", photos+"?shows=before", drawn.String())
	require.Equal(t, http.StatusOK, status, "%s", data)
	var photo server.Photo
	require.NoError(t, json.Unmarshal(data, &photo))
	for _, kind := range []string{"", "/small"} {
		status, head, _ := c.send("GET", "/api/photos/"+photo.Hash+kind, "")
		assert.Equal(t, http.StatusOK, status)
		assert.Contains(t, head.Get("Content-Type"), "image/")
	}
	assert.Equal(t, workshop.BeforeWork, photo.Shows)
	c.problem("POST", photos, "no picture", http.StatusUnprocessableEntity)
	c.problem("GET", "/api/photos/..%2fcressa.db", "", http.StatusNotFound)

	at := time.Date(2026, 11, 1, 18, 0, 0, 0, time.UTC)
	event := func(n int, kind journal.Kind, minutes int, payload any) server.SentEvent {
		return sent(stone.WorkID, n, at.Add(time.Duration(minutes)*time.Minute), kind, payload)
	}
	c.log(
		event(1, journal.Begin, 0, struct{}{}), event(2, journal.End, 30, nil), event(3, journal.Begin, 60, nil), event(4, journal.End, 75, nil),
		event(5, journal.Note, 40, journal.Noted{Text: "chip is out"}),
	)
	var page server.RepairPage
	c.get(path, &page)
	assert.InDelta(t, 0.75, page.Summary.Hours, 1e-9)
	assert.Equal(t, "cutting", page.Summary.State)
	assert.Equal(t, "Peridot", page.Summary.Material)
	require.Len(t, page.Photos, 1)

	in.Agreed = "table may go"
	request := server.IntakeRequest{Name: "Ring stone", Intake: in, Version: stone.Version}
	c.put("PUT", path, request, &stone)
	c.get(path, &page)
	assert.Equal(t, []string{"agree", "table may go"}, []string{page.History[len(page.History)-1].Kind, page.History[len(page.History)-1].Text}, "what was agreed anew is told with its day")
	stale, err := json.Marshal(request)
	require.NoError(t, err)
	assert.Equal(t, "/problems/stale", c.problem("PUT", path, string(stale), http.StatusConflict).Type)
	c.problem("GET", "/api/stones/"+stone.ID+"/script", "", http.StatusConflict)
	status, _, _ = c.send("DELETE", photos+"/"+photo.ID, "")
	assert.Equal(t, http.StatusNoContent, status)

	var list server.StoneList
	c.get("/api/stones", &list)
	assert.Len(t, list.Stones, 1, "it stands among the stones")
	var card server.Finish
	c.put("PUT", "/api/stones/"+stone.ID+"/finish", server.Finish{FinishedCarats: 2.2, Finished: "2026-12-01"}, &card)
	c.get(path, &page)
	assert.Equal(t, "finished", page.Summary.State)
}
