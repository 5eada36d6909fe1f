package server_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/server"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// written returns what is written on sheet pages.
func written(pages server.SheetPages) string {
	var out []string
	for _, p := range pages.Pages {
		for _, m := range regexp.MustCompile(`<text[^>]*>([^<]*)</text>`).FindAllStringSubmatch(p, -1) {
			out = append(out, m[1])
		}
	}
	return strings.Join(out, "\n")
}

// One plan, three stones: each has its number and its own setups, all share one
// script and one sheet with a box for each.
func TestARunOverTheWire(t *testing.T) {
	c := start(t)
	d := c.diagramCalled("Little Dipper")
	in := server.RunRequest{Name: "Door prizes", DiagramID: d.ID, Choices: plan("Quartz", 96, width(7), diagram.Pavilion), Order: workshop.TierByTier, Stones: 3}
	var run server.Run
	c.put("POST", "/api/runs", in, &run)
	var page server.RunPage
	c.get("/api/runs/"+run.ID, &page)
	require.Len(t, page.Stones, 3)
	var script server.RunScript
	c.get("/api/runs/"+run.ID+"/script", &script)
	require.Len(t, script.Stones, 3)
	setups := map[string]bool{}
	for i, stone := range script.Stones {
		assert.Equal(t, page.Stones[0].Number+i, stone.Number)
		assert.Equal(t, fmt.Sprintf("Door prizes %d/3", i+1), stone.Name)
		for _, setup := range stone.Setups {
			assert.False(t, setups[setup.ID], "a setup is one stone's own")
			setups[setup.ID] = true
		}
	}

	// A tick counts for its own stone and no other takes it.
	v, second := script.Script.Visits[0], script.Stones[1]
	visit := journal.Visit{Setup: second.Setups[0].ID, Pass: v.Pass, Facet: script.Script.Facets[v.Facet].ID}
	answers := c.log(
		sent(second.WorkID, 1, time.Now(), journal.Done, visit),
		sent(script.Stones[0].WorkID, 2, time.Now(), journal.Done, visit),
		sent(script.Stones[0].WorkID, 1, time.Now(), journal.Done, visit),
	)
	assert.Equal(t, "stored", answers[0].Outcome)
	assert.Equal(t, string(journal.NotAsked), answers[1].Reason)
	assert.Equal(t, string(journal.OtherStream), answers[2].Reason)
	c.get("/api/runs/"+run.ID, &page)
	assert.Equal(t, []int{0, 1, 0}, []int{page.Stones[0].Done, page.Stones[1].Done, page.Stones[2].Done})

	var pages server.SheetPages
	c.get("/api/runs/"+run.ID+"/sheet/a4/2", &pages)
	text := written(pages)
	for _, stone := range script.Stones {
		assert.Contains(t, strings.Split(text, "\n"), fmt.Sprint(stone.Number), "a box for every stone")
	}
	status, head, pdf := c.send("GET", "/api/runs/"+run.ID+"/sheet/letter/1/pdf", "")
	require.Equal(t, http.StatusOK, status)
	assert.Equal(t, "application/pdf", head.Get("Content-Type"))
	assert.True(t, strings.HasPrefix(string(pdf), "%PDF-"))

	for body, field := range map[string]string{`"stones":1`: "stones", `"stones":25`: "stones", `"order":"sideways"`: "order"} {
		data, err := json.Marshal(in)
		require.NoError(t, err)
		name, _, _ := strings.Cut(body, ":")
		bad := regexp.MustCompile(name+`:[^,}]*`).ReplaceAllString(string(data), body)
		p := c.problem("POST", "/api/runs", bad, http.StatusUnprocessableEntity)
		assert.Equal(t, field, p.Places[0].Field)
	}
	c.problem("GET", "/api/runs/none/script", "", http.StatusNotFound)
	c.problem("GET", "/api/runs/none/sheet/a4/1", "", http.StatusNotFound)
}

// A sheet says what this machine dials: another gear, its cheats, a protractor whose
// zero is off, and what a missing cheater costs.
func TestTheSheetOfAPlanIsForItsMachine(t *testing.T) {
	c := start(t)
	var settings server.Settings
	c.get("/api/settings", &settings)
	m := settings.Machines[0]
	m.Gears, m.Cheater, m.AngleZero = []int{80, 96}, workshop.CheaterDegrees, 0.4
	bare := m
	bare.ID, bare.Name, bare.Cheater, bare.AngleZero = "bare", "Old iron", workshop.CheaterNone, 0
	settings.Machines = []server.Machine{m, bare}
	c.put("PUT", "/api/settings", settings, &settings)

	sheet := func(machine string, gear int) (string, server.BenchScript) {
		choices := plan("Quartz", gear, width(8), diagram.Pavilion)
		choices.Machine = machine
		choices.Holds = []server.Hold{{Dop: "Flat dop 5 mm", Adhesive: "wax"}, {Adhesive: "epoxy"}}
		var stone server.StoneHead
		c.put("POST", "/api/stones", server.PlanRequest{Name: "sheet", DiagramID: c.diagramCalled("Ecliptic").ID, Choices: choices}, &stone)
		var script server.BenchScript
		c.get("/api/stones/"+stone.ID+"/script", &script)
		var pages server.SheetPages
		c.get("/api/stones/"+stone.ID+"/sheet/a4/2", &pages)
		return written(pages), script
	}
	text, script := sheet(m.ID, 96)
	for _, f := range script.Facets {
		if f.Adapter {
			assert.Equal(t, []float64{0, 45.4}, []float64{f.Angle, f.Reading})
			continue
		}
		assert.InDelta(t, f.Angle+0.4, f.Reading, 1e-9)
		assert.Contains(t, text, diagram.FormatNumber(f.Reading), "what the protractor shows at %s", f.Tier)
	}
	assert.Contains(t, text, "0° at 45.4°", "the table goes on with the adapter")
	assert.Regexp(t, `for the pavilion\s+Flat dop 5 mm\s+with\s+wax,\s+for the crown epoxy`, text)
	for _, pass := range workshop.DefaultHabits().Passes {
		assert.Contains(t, text, pass.Name)
	}
	text, script = sheet(m.ID, 80)
	assert.Contains(t, text, "Gear 80")
	for _, f := range script.Facets {
		assert.Regexp(t, fmt.Sprintf(`(^|\D)%d(\D|$)`, f.Dial.Tooth), text)
	}
	text, script = sheet("bare", 80)
	assert.Positive(t, script.CheatGap)
	assert.Contains(t, text, fmt.Sprintf("meets open by up to %.0f µm", script.CheatGap))
}

// Without a plan there is no script, no sheet and no diagram, and each says why.
func TestARepairHasNothingThatNeedsAPlan(t *testing.T) {
	c := start(t)
	var stone server.StoneHead
	c.put("POST", "/api/repairs", server.IntakeRequest{Name: "Ring", Intake: server.Intake{Damage: "chip"}}, &stone)
	choices, err := json.Marshal(server.ReplanRequest{Choices: plan("Quartz", 96, width(7), diagram.Pavilion), Version: 1})
	require.NoError(t, err)
	for path, body := range map[string]string{"/script": "", "/sheet/a4/1": "", "/diagram": "", "/plan": string(choices)} {
		method := "GET"
		if body != "" {
			method = "PUT"
		}
		got, _, data := c.send(method, "/api/stones/"+stone.ID+path, body)
		assert.Equal(t, http.StatusConflict, got, "%s %s", path, data)
	}
}
