package server_test

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/server"
	"cressa/workshop"
)

// What judges may see of a trial tells nothing of which is which, before it is opened.
func TestAJudgeIsNotToldWhichIsWhich(t *testing.T) {
	c := start(t)
	var trial server.BlindTrial
	entries := []server.BlindEntry{{What: "zinc secret"}, {What: "tin secret"}}
	c.put("POST", "/api/trials", server.BlindTrialRequest{Name: "Twins", Question: "Which is sharper?", Differs: "the polish", Entries: entries}, &trial)
	for _, at := range []string{"/api/trials", "/api/trials/" + trial.ID} {
		_, _, body := c.send("GET", at, "")
		assert.NotContains(t, string(body), "secret", at)
	}
	first := map[string]bool{}
	for range 40 {
		c.get("/api/trials/"+trial.ID, &trial)
		first[trial.Letters[0]] = true
	}
	assert.Len(t, first, 2, "neither letter always stands first")
	var key server.BlindKey
	c.get("/api/trials/"+trial.ID+"/key", &key)
	letter := key.Entries[0].Letter
	for _, judge := range []string{"a", "b", "c", "d", "e"} {
		c.put("POST", "/api/trials/"+trial.ID+"/verdicts", server.VerdictRequest{Judge: judge, Letter: letter}, new(any))
	}
	c.put("POST", "/api/trials/"+trial.ID+"/open", nil, &trial)
	require.NotNil(t, trial.Outcome)
	assert.Equal(t, 5, trial.Outcome.Entries[0].Votes)
	assert.Contains(t, trial.Outcome.Says, "6.3 % of such trials: that settles nothing")
	status, _, body := c.send("POST", "/api/trials/"+trial.ID+"/verdicts", `{"judge": "f", "letter": "A", "note": ""}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status, string(body))
}

// A thing is put on the shelf once, however often the request is sent, and its recipes are for its size.
func TestAThingOverTheWire(t *testing.T) {
	c := start(t)
	var made, again server.Shelved
	ask := func(into *server.Shelved) {
		body := `{"kind": "lap", "name": "Zinc, 3 µm", "size": 200}`
		status, _, data := c.send("POST", "/api/kit", body, func(r *http.Request) { r.Header.Set("Idempotency-Key", strings.Repeat("a", 32)) })
		require.Equal(t, http.StatusOK, status, string(data))
		require.NoError(t, json.Unmarshal(data, into))
	}
	ask(&made)
	ask(&again)
	assert.Equal(t, made.Item.ID, again.Item.ID)
	var shelf server.Shelf
	c.get("/api/kit", &shelf)
	laps := 0
	for _, s := range shelf.Items {
		if s.Item.Kind == workshop.LapItem {
			laps++
		}
	}
	assert.Equal(t, 1, laps)
	var recipes server.FittedRecipes
	c.get("/api/kit/"+made.Item.ID+"/recipes", &recipes)
	assert.Equal(t, 3.0, recipes.Grain)
	assert.InDelta(t, 1.83, recipes.Recipes[0].Amounts[0], 0.01, "0.606 ct for 100 cm² of 302")
	var starter server.StarterList
	c.get("/api/kit/starter?diameter=200", &starter)
	for _, s := range starter.Things {
		assert.NotEmpty(t, s.Why, s.Name)
		assert.Equal(t, s.Name == "Gear 96", s.Have, s.Name)
	}
	status, _, _ := c.send("POST", "/api/kit/"+made.Item.ID+"/log", `{"kind": "cleaned", "way": "dress", "item": "", "name": "", "family": "", "grain": 0, "flatness": null, "material": "", "hardness": 0, "on": "", "have": 0}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status, "a stick does nothing to zinc")
}
