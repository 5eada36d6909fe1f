package server_test

import (
	"database/sql"
	"encoding/json"
	"fmt"
	"net/http"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/copies"
	"cressa/core/diagram"
	"cressa/server"
	"cressa/workshop"
	"cressa/workshop/journal"
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

// do sends a value to a route that answers nothing.
func (c client) do(method, path string, body any) {
	c.t.Helper()
	data, err := json.Marshal(body)
	require.NoError(c.t, err)
	status, _, answer := c.send(method, path, string(data))
	require.Equal(c.t, http.StatusNoContent, status, "%s %s: %s", method, path, answer)
}

func (c client) diagramCalled(name string) server.DiagramPage {
	c.t.Helper()
	var list server.DiagramList
	c.get("/api/diagrams", &list)
	for _, d := range list.Diagrams {
		if d.Name == name {
			var page server.DiagramPage
			c.get("/api/diagrams/"+d.ID, &page)
			return page
		}
	}
	require.Fail(c.t, "no diagram is called so", name)
	return server.DiagramPage{}
}

// sent is an event as a screen sends it, named by a number.
func sent(work string, n int, at time.Time, kind journal.Kind, payload any) server.SentEvent {
	return server.SentEvent{
		ID: fmt.Sprintf("%032x", n), Stream: "work/" + work, Device: "tablet", DeviceSeq: int64(n), DeviceTime: at,
		Kind: string(kind), Version: 1, Payload: journal.Payload(payload),
	}
}

// log sends events and returns what became of them.
func (c client) log(events ...server.SentEvent) []server.EventAnswer {
	c.t.Helper()
	var out server.EventAnswers
	c.put("POST", "/api/events", server.EventsRequest{Events: events}, &out)
	require.Len(c.t, out.Answers, len(events))
	return out.Answers
}

func plan(material string, gear int, size server.Size, side diagram.Part) server.Choices {
	habits := workshop.DefaultHabits()
	laps := server.Laps{Uses: []server.LapUse{}}
	for _, p := range habits.Passes {
		laps.Passes = append(laps.Passes, server.Pass(p))
	}
	return server.Choices{Material: material, Gear: gear, Size: size, FirstSide: side, PlanHabits: server.PlanHabits(habits.PlanHabits), Laps: laps}
}

func width(mm float64) server.Size { return server.Size{Basis: "width", MM: mm} }

func TestAPlanIsWorkedOutInMillimetresAndCarats(t *testing.T) {
	c := start(t)
	round := c.diagramCalled("First Light")
	assess := func(choices server.Choices) server.Assessment {
		var a server.Assessment
		c.put("POST", "/api/assess", server.AssessRequest{DiagramID: round.ID, Choices: choices}, &a)
		return a
	}
	across := assess(plan("Quartz", 96, server.Size{Basis: "flats", Tier: "G1", MM: 8}, diagram.Pavilion))
	require.Len(t, across.Calipers, 1)
	assert.InDelta(t, 8, across.Calipers[0].MM, 1e-9)
	assert.Greater(t, across.Width, 8.0, "over corners it is wider")
	assert.InDelta(t, across.Height, across.Crown+across.GirdleMin+across.Pavilion, 1e-9)
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

	assert.Empty(t, crown.Held, "the diagram tells what is dialled")
	choices := plan("Quartz", 96, width(8), diagram.Pavilion)
	choices.Holds = []server.Hold{{}, {Tilt: 4, Towards: 96}}
	tipped := assess(choices).Held
	require.Len(t, tipped, 2)
	level := func(h server.HeldSetup) bool {
		return slices.ContainsFunc(h.Tiers, func(of server.HeldTier) bool { return of.Angle == 0 })
	}
	assert.False(t, level(tipped[1]), "the table is dialled, too")
	table := tipped[1].Tiers[slices.IndexFunc(tipped[1].Tiers, func(of server.HeldTier) bool { return of.Tier == "T" })]
	assert.InDelta(t, 4, table.Angle, 1e-6)
	assert.Len(t, tipped[0].Tiers[0].Dials, 12, "the other side sits straight: a tier has one angle")

	var settings server.Settings
	c.get("/api/settings", &settings)
	m := &settings.Machines[0]
	m.AngleStep, m.Cheater, m.Gears, m.AngleZero = 1, workshop.CheaterNone, []int{80}, 0.5
	c.put("PUT", "/api/settings", settings, &server.Settings{})
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
	var stone server.StoneHead
	c.put("POST", "/api/stones", server.PlanRequest{Name: "wire", DiagramID: c.diagramCalled("Spiral Arm").ID, Choices: plan("Spinel", 96, width(6), diagram.Pavilion)}, &stone)
	assert.Equal(t, 1, stone.Number)
	path := "/api/stones/" + stone.ID

	var script server.BenchScript
	c.get(path+"/script", &script)
	require.Len(t, script.Visits, 93)
	assert.Len(t, script.Mesh.Steps, len(script.Facets)+1)
	assert.NotEmpty(t, script.Checks)
	assert.Equal(t, 6, script.Visits[0].RoundEnd, "another angle is another round")
	assert.True(t, script.Visits[0].Move.First)

	tick := func(n int) server.SentEvent {
		v := script.Visits[n]
		return sent(script.WorkID, n+1, time.Now(), journal.Done, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: script.Facets[v.Facet].ID})
	}
	outcomes := func(answers []server.EventAnswer) (out []string) {
		for _, a := range answers {
			out = append(out, a.Outcome)
		}
		return out
	}
	assert.Equal(t, []string{"stored", "stored"}, outcomes(c.log(tick(0), tick(1))))
	bad := tick(2)
	bad.ID = strings.Repeat("AB", 16) // in capitals it would be another name for the same
	answers := c.log(tick(0), bad, tick(2))
	assert.Equal(t, []string{"known", "refused", "stored"}, outcomes(answers), "each is answered for itself")
	assert.Contains(t, answers[1].Message, "enter it again", "what to do")

	var page server.StonePage
	c.get(path, &page)
	assert.Equal(t, "cutting", page.Summary.State)
	assert.Equal(t, 3, page.Summary.Done)
	assert.Equal(t, 1, page.Plan.No)
	var log server.EventList
	c.get("/api/works/"+script.WorkID+"/events", &log)
	require.Len(t, log.Events, 4, "the plan and three ticks")
	assert.Equal(t, "this machine", log.Events[1].By)
	assert.False(t, log.More)
	c.get(fmt.Sprintf("/api/works/%s/events?after=%d", script.WorkID, log.Events[1].Seq), &log)
	assert.Len(t, log.Events, 2, "what came after a place")
	c.problem("GET", "/api/works/none/events", "", http.StatusNotFound)
	c.problem("GET", "/api/works/"+script.WorkID+"/events?after=x", "", http.StatusBadRequest)

	var today server.Today
	c.get("/api/today", &today)
	require.Len(t, today.Cutting, 1)
	assert.Equal(t, stone.ID, today.Cutting[0].ID)
	var picture server.Picture
	c.get("/api/pictures/"+today.Cutting[0].Picture, &picture)
	assert.NotEmpty(t, picture.Above)

	var card server.Finish
	c.put("PUT", path+"/finish", server.Finish{FinishedCarats: 1, Finished: "2026-03-01"}, &card)
	stale, err := json.Marshal(server.Finish{FinishedCarats: 2, Finished: "2026-03-01"})
	require.NoError(t, err)
	assert.Equal(t, "/problems/stale", c.problem("PUT", path+"/finish", string(stale), http.StatusConflict).Type)
	assert.Equal(t, []string{"known", "stored"}, outcomes(c.log(tick(0), tick(5))), "what was cut was cut")
	var book server.Logbook
	c.get("/api/logbook", &book)
	require.Len(t, book.Stones, 1)
	assert.Equal(t, 1, book.Stones[0].Late)
	assert.Equal(t, 1.0, book.FinishedCarats)

	status, head, _ := c.send("GET", path+"/diagram", "")
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, head.Get("Content-Disposition"), "Spiral-Arm")

	var again server.StoneHead
	c.put("POST", path+"/repairs", server.TakeBackRequest{Intake: server.Intake{Damage: "chip"}, Version: stone.Version}, &again)
	var repair server.RepairPage
	c.get("/api/repairs/"+stone.ID, &repair)
	assert.Len(t, repair.Works, 2)
	assert.Equal(t, "chip", repair.Intake.Damage)
	c.problem("GET", path, "", http.StatusConflict)
	c.put("PUT", path+"/finish", server.Finish{FinishedCarats: 0.9, Finished: "2026-03-05"}, &card)

	// It is recut: what a plan begins with fits into it.
	var line server.StoneLine
	c.get(path+"/line", &line)
	assert.Equal(t, []any{"repair", "finished"}, []any{line.Task, line.State})
	var choices server.Choices
	c.get("/api/diagrams/"+page.Plan.DiagramID+"/proposal?stone="+stone.ID, &choices)
	assert.Equal(t, page.Plan.Choices.Material, choices.Material)
	recut := server.RecutRequest{DiagramID: page.Plan.DiagramID, Choices: choices, Why: "the table is worn", Version: line.Version}
	tooLarge := recut
	tooLarge.Choices.Size.MM = 30
	data, err := json.Marshal(tooLarge)
	require.NoError(t, err)
	assert.Contains(t, c.problem("POST", path+"/recuts", string(data), http.StatusUnprocessableEntity).Detail, "Plan it smaller")
	c.put("POST", path+"/recuts", recut, &again)
	c.get(path, &page)
	assert.Equal(t, "recut", page.Summary.Task)
	assert.Equal(t, &server.StoneBefore{Carats: 0.9, Why: "the table is worn"}, page.Before)
	assert.InDelta(t, 0.8*0.9, page.Assessment.Carats, 0.05)
	require.Len(t, page.Works, 3)
	var first server.StonePage
	c.get(path+"?work="+page.Works[0].ID, &first)
	assert.Equal(t, []any{"first-cut", "finished"}, []any{first.Summary.Task, first.Summary.State})
	assert.Nil(t, first.Before)
	c.get("/api/repairs/"+stone.ID+"?work="+page.Works[1].ID, &repair)
	assert.Equal(t, "chip", repair.Intake.Damage)
	c.problem("GET", path+"?work=none", "", http.StatusNotFound)
}

// A record that cannot be read, or solved, is missing nowhere but at its own address.
func TestARecordThatCannotBeReadTakesNoListAway(t *testing.T) {
	file := filepath.Join(t.TempDir(), copies.Records)
	demonstration(t, file)
	db, err := sql.Open("sqlite", file)
	require.NoError(t, err)
	for _, spoil := range []string{
		`UPDATE diagrams SET draft = '{"form":9}' WHERE name = 'First Light'`,
		`UPDATE diagrams SET draft = json_set(draft, '$.tiers[0].indexes', 'every 0.05, 40-fold, 50-fold, mirrored') WHERE name = 'Parallax'`,
		`UPDATE diagram_revisions SET document = '{}' WHERE name IN ('First Light', 'Spiral Arm')`,
		`UPDATE plans SET document = '{"no":"one"}' WHERE rowid IN (SELECT rowid FROM plans LIMIT 2)`,
		`UPDATE works SET document = 'lost' WHERE task = 'repair'`,
		`UPDATE finishes SET document = '[]' WHERE rowid IN (SELECT rowid FROM finishes LIMIT 1)`,
		`UPDATE work_state SET folded = '{'`,
	} {
		result, err := db.Exec(spoil)
		require.NoError(t, err, spoil)
		n, err := result.RowsAffected()
		require.NoError(t, err)
		require.NotZero(t, n, spoil)
	}
	require.NoError(t, db.Close())
	c := serve(t, file)
	var library server.DiagramList
	c.get("/api/diagrams", &library)
	assert.Equal(t, library.Total, len(library.Diagrams))
	assert.Greater(t, library.Total, 16)
	var stones server.StoneList
	c.get("/api/stones", &stones)
	assert.Greater(t, stones.Total, 8)
	assert.Len(t, stones.Stones, stones.Total)
	var logbook server.Logbook
	c.get("/api/logbook", &logbook)
	assert.NotEmpty(t, logbook.Stones)
	var today server.Today
	c.get("/api/today", &today)
	assert.NotEmpty(t, today.Cutting)
	unread := 0
	for _, s := range stones.Stones {
		status, _, _ := c.send("GET", "/api/stones/"+s.ID, "")
		if status == http.StatusUnprocessableEntity {
			unread++
		}
	}
	assert.Positive(t, unread, "it is told at the stone itself")
}
