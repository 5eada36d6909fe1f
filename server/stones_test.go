package server_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/server"
	"cressa/workshop"
)

// put sends a value and reads the answer, which must be good.
func (c client) put(method, path string, body, into any) {
	c.t.Helper()
	data, err := json.Marshal(body)
	require.NoError(c.t, err)
	status, _, answer := c.send(method, path, string(data))
	require.Equal(c.t, http.StatusOK, status, "%s %s: %s", method, path, answer)
	require.NoError(c.t, json.Unmarshal(answer, into))
}

func (c client) diagramCalled(name string) workshop.Diagram {
	c.t.Helper()
	var list server.DiagramList
	c.get("/api/diagrams", &list)
	for _, d := range list.Diagrams {
		if d.Facts.Name == name {
			return d
		}
	}
	require.Fail(c.t, "no diagram is called so", name)
	return workshop.Diagram{}
}

func plan(material string, gear int, size workshop.Size, side diagram.Part) workshop.Choices {
	habits := workshop.DefaultHabits()
	return workshop.Choices{Material: material, Gear: gear, Size: size, FirstSide: side, Ways: habits.Ways, Passes: habits.Passes}
}

func width(mm float64) workshop.Size { return workshop.Size{Basis: "width", MM: mm} }

func TestAPlanIsWorkedOutInMillimetresAndCarats(t *testing.T) {
	c := start(t)
	round := c.diagramCalled("First Light")
	assess := func(choices workshop.Choices) server.Assessment {
		var a server.Assessment
		c.put("POST", "/api/assess", server.AssessRequest{DiagramID: round.ID, Choices: choices}, &a)
		return a
	}
	across := assess(plan("Quartz", 96, workshop.Size{Basis: "flats", Tier: "G1", MM: 8}, diagram.Pavilion))
	require.Len(t, across.Calipers, 1)
	assert.InDelta(t, 8, across.Calipers[0].MM, 1e-9)
	assert.Greater(t, across.Width, 8.0, "over corners it is wider")
	assert.InDelta(t, across.Height, across.Crown+across.Girdle+across.Pavilion, 1e-9)
	assert.Equal(t, "until it is 8.00 mm across", across.Stone.Tiers[1].Stop)

	corners := assess(plan("Quartz", 96, width(8), diagram.Pavilion))
	assert.Less(t, corners.Carats, across.Carats)
	assert.InDelta(t, corners.Carats*3.60/2.65, assess(plan("Spinel", 96, width(8), diagram.Pavilion)).Carats, 1e-9)

	judgement := func(material string) string {
		return assess(plan(material, 96, width(8), diagram.Pavilion)).Stone.Tiers[2].Judgement
	}
	assert.Equal(t, "error", judgement("Fluorite"), "42.5 is below the critical angle of 44.2")
	assert.Equal(t, "caution", judgement("Practice glass"))
	assert.Equal(t, "good", judgement("Spinel"))

	cheated := assess(plan("Quartz", 80, width(8), diagram.Pavilion))
	assert.InDelta(t, 1.5, cheated.LargestCheat, 1e-9, "facets every 15° on teeth of 4.5°: a third of a tooth off at best")
	assert.Equal(t, 80, cheated.Stone.Gear)

	crown := assess(plan("Quartz", 96, width(8), diagram.Crown))
	assert.Equal(t, "C1", crown.Stone.Tiers[1].Name, "the girdle, then the crown")
	assert.InDelta(t, corners.Carats, crown.Carats, 1e-6)

	settings := workshop.DefaultSettings()
	m := &settings.Machines[0]
	m.AngleStep, m.Cheater, m.Gears, m.AngleZero = 1, workshop.CheaterNone, []int{80}, 0.5
	c.put("PUT", "/api/settings", settings, &workshop.Settings{})
	coarse := assess(plan("Quartz", 80, width(8), diagram.Pavilion))
	codes := map[string]server.Place{}
	for _, o := range coarse.Obstacles {
		codes[o.TierName+" "+o.Code] = o
	}
	assert.Contains(t, codes["P1 angle-between-steps"].Message, "43.5° and 44.5°", "the protractor reads half a degree too much")
	assert.NotContains(t, codes, "P2 angle-between-steps", "42.5 is read as 43")
	assert.Contains(t, codes, " no-gear-carries")
	assert.Greater(t, coarse.CheatGap, 50.0, "a degree and a half left out shows without a loupe")
	require.NotNil(t, coarse.Proposed)
	assert.Zero(t, coarse.Proposed.LargestCheat)
	assert.Equal(t, 80, coarse.Ranking[0].Teeth)
}

func TestAStoneIsCutOverTheWire(t *testing.T) {
	c := start(t)
	var stone workshop.Stone
	c.put("POST", "/api/stones", server.PlanRequest{Name: "wire", DiagramID: c.diagramCalled("Spiral Arm").ID, Choices: plan("Spinel", 96, width(6), diagram.Pavilion)}, &stone)
	assert.Equal(t, 1, stone.Number)
	path := "/api/stones/" + stone.ID

	var script server.BenchScript
	c.get(path+"/script", &script)
	require.Len(t, script.Visits, 93)
	assert.Len(t, script.Mesh.Steps, len(script.Facets)+1)
	assert.NotEmpty(t, script.Checks)
	assert.Equal(t, 1, script.Visits[0].Round)
	assert.NotEqual(t, script.Visits[0].Round, script.Visits[6].Round, "another angle is another round")

	tick := func(n int) workshop.Event {
		v := script.Visits[n]
		return workshop.Event{
			ID: fmt.Sprintf("%032x", n+1), Device: "tablet", DeviceTime: time.Now(), Kind: workshop.EventDone,
			Setup: v.Setup, Pass: v.Pass, Facet: script.Facets[v.Facet].ID,
		}
	}
	var log server.EventList
	for range 2 {
		c.put("POST", path+"/events", server.EventsRequest{Events: []workshop.Event{tick(0), tick(1)}}, &log)
		assert.Len(t, log.Events, 2, "sent twice, there once")
	}
	bad := tick(2)
	bad.ID = "short"
	data, err := json.Marshal(server.EventsRequest{Events: []workshop.Event{bad}})
	require.NoError(t, err)
	p := c.problem("POST", path+"/events", string(data), http.StatusUnprocessableEntity)
	assert.Equal(t, "events[0].id", p.Places[0].Field)

	var page server.StonePage
	c.get(path, &page)
	assert.Equal(t, workshop.StateCutting, page.Summary.State)
	assert.Equal(t, 2, page.Summary.Done)

	var card workshop.Finish
	c.put("PUT", path+"/finish", workshop.Finish{FinishedCarats: 1, Finished: "2026-03-01"}, &card)
	stale, err := json.Marshal(workshop.Finish{FinishedCarats: 2, Finished: "2026-03-01"})
	require.NoError(t, err)
	assert.Equal(t, "/problems/stale", c.problem("PUT", path+"/finish", string(stale), http.StatusConflict).Type)
	c.put("POST", path+"/events", server.EventsRequest{Events: []workshop.Event{tick(0)}}, &log)
	late, err := json.Marshal(server.EventsRequest{Events: []workshop.Event{tick(5)}})
	require.NoError(t, err)
	c.problem("POST", path+"/events", string(late), http.StatusConflict)

	status, head, _ := c.send("GET", path+"/diagram", "")
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, head.Get("Content-Disposition"), "Spiral-Arm")
}
