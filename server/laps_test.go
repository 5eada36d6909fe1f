package server_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/server"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// The bench is told for each visit whether it cuts or clears, where the adapter goes on, and where
// facets come in; a note names the facet that it was made at.
func TestTheBenchIsToldWhatEachPassIsFor(t *testing.T) {
	c := start(t)
	choices := plan("Spinel", 96, width(6), diagram.Pavilion)
	choices.Uses = []server.LapUse{{Group: workshop.GirdleLaps, Without: []string{"polish"}}}
	var stone server.StoneHead
	c.put("POST", "/api/stones", server.PlanRequest{Name: "laps", DiagramID: c.diagramCalled("Spiral Arm").ID, Choices: choices}, &stone)
	path := "/api/stones/" + stone.ID
	var script server.BenchScript
	c.get(path+"/script", &script)

	told := map[string][]string{}
	adapter := 0
	for _, v := range script.Visits {
		f := script.Facets[v.Facet]
		if f.Dial.Tooth == script.Gear {
			told[f.Tier] = append(told[f.Tier], v.Stop)
		}
		if v.First {
			assert.NotEmpty(t, f.Touch.Patch, "%s comes in somewhere", f.ID)
		}
		if v.Adapter {
			adapter++
		}
	}
	assert.Equal(t, []string{"until it is 6.00 mm across", "until the 600 scratches are gone; hold the size"}, told["G1"], "the girdle is not polished")
	assert.Equal(t, "until the 600 scratches are gone; hold the centre point", told["P1"][1])
	assert.Equal(t, "until the 3000 scratches are gone; hold the table's width", told["T"][2])
	assert.Equal(t, 3, adapter)
	gates := map[workshop.Gate]int{}
	over := map[string]int{}
	for _, check := range script.Checks {
		if check.Gate == workshop.TurnOver {
			over[check.From+" to "+check.Setup]++
		} else {
			gates[check.Gate]++
		}
	}
	assert.Equal(t, map[workshop.Gate]int{workshop.OffDop: 5, workshop.AdapterOn: 2}, gates)
	first, second := script.Setups[0].ID, script.Setups[1].ID
	assert.Equal(t, map[string]int{first + " to " + second: 7, second + " to " + first: 7}, over, "there and back")

	var page server.StonePage
	c.get(path, &page)
	assert.True(t, page.Assessment.FrostedGirdle)
	assert.Contains(t, page.Assessment.Laps, server.TierLaps{Tier: "G1", Group: workshop.GirdleLaps})
	assert.Contains(t, page.Assessment.Laps, server.TierLaps{Tier: "T", Group: workshop.TableLaps})
	v := script.Visits[7]
	at := journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: script.Facets[v.Facet].ID}
	noted := sent(script.WorkID, 1, time.Now(), journal.Note, journal.Noted{Text: "chip", At: &at})
	noted.Version = journal.Newest(journal.Note)
	skipped := sent(script.WorkID, 2, time.Now(), journal.Skip, at)
	c.log(noted, skipped)
	c.get(path, &page)
	require.Len(t, page.History, 1)
	assert.Equal(t, &server.NotedFacet{Tier: "G1", Tooth: script.Facets[v.Facet].Dial.Tooth, Pass: "Cut"}, page.History[0].Facet)
	assert.Equal(t, []int{0, 1}, []int{page.Summary.Done, page.Summary.Skipped})
}

// A jamb's holes are told as a table, and readings as how far they scatter.
func TestAMachineIsReckonedFromWhatItsOwnerMeasures(t *testing.T) {
	c := start(t)
	var holes server.HoleList
	c.put("POST", "/api/holes", server.HolesRequest{Pegs: []float64{100}, Holes: []float64{50, 70, 120}}, &holes)
	assert.Equal(t, []server.Hole{{No: 2, Height: 70, Peg: 100, Angle: 45.57}, {No: 1, Height: 50, Peg: 100, Angle: 60}}, holes.Holes, "the third is higher than the peg is long")
	var scatter server.Scatter
	c.put("POST", "/api/scatter", server.ReadingsRequest{Readings: []float64{42, 42.1, 41.9}}, &scatter)
	assert.InDelta(t, 0.1, scatter.Scatter, 1e-9)
	c.problem("POST", "/api/scatter", `{"readings":[42]}`, 422)

	var settings server.Settings
	c.get("/api/settings", &settings)
	settings.Machines[0].Setting = workshop.InHoles
	body, err := json.Marshal(settings)
	require.NoError(t, err)
	assert.Contains(t, c.problem("PUT", "/api/settings", string(body), 422).Detail, "no peg reaches any of them")
}
