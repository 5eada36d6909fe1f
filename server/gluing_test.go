package server_test

import (
	"encoding/json"
	"net/http"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/analysis"
	"cressa/core/diagram"
	"cressa/core/dopping"
	"cressa/server"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// From a piece of rough to a stone on its dop: what the stone is cut from stays with it, the check finds
// what is wrong with the plan, and the bond cures on Today.
func TestAStoneIsGluedOverTheWire(t *testing.T) {
	c := start(t)
	var lot server.Parcel
	c.put("POST", "/api/parcels", server.Parcel{Name: "Hill lot", Per: workshop.ByParcel, Amount: 2400, Currency: "EUR"}, &lot)
	ask := aPiece()
	ask.Parcel = lot.ID
	ask.Rough.Flaws[0].Rule = "hidden"
	var piece server.PieceView
	c.put("POST", "/api/rough", ask, &piece)
	d := c.diagramCalled("First Light")

	choices := plan("Peridot", 96, width(6), diagram.Pavilion)
	choices.Holds = []server.Hold{{Dop: "flat 4 mm", Adhesive: "wax"}, {Dop: "cone 14 mm", Adhesive: "epoxy"}}
	var stone server.StoneHead
	c.put("POST", "/api/stones", server.PlanRequest{Name: "Dome", DiagramID: d.ID, Piece: piece.ID, Choices: choices}, &stone)
	at := "/api/stones/" + stone.ID
	var page server.StonePage
	c.get(at, &page)
	require.NotNil(t, page.Source)
	assert.Equal(t, piece.Number, page.Source.Number)
	assert.InDelta(t, 2400, page.Source.Cost, 1e-6, "the only stone of the only piece bears it all")
	c.get("/api/rough/"+piece.ID, &piece)
	assert.Equal(t, workshop.InWork, piece.Fate)
	assert.Equal(t, []server.PieceStone{{ID: stone.ID, Number: stone.Number, Name: "Dome"}}, piece.Stones)
	c.problem("POST", "/api/stones", `{"name": "", "diagramId": "`+d.ID+`", "piece": "none", "choices": `+text(t, choices)+`}`, http.StatusUnprocessableEntity)

	verdicts := func() map[analysis.Topic]server.Finding {
		var check server.CheckPage
		c.get(at+"/check", &check)
		out := map[analysis.Topic]server.Finding{}
		for _, f := range check.Findings {
			assert.NotEmpty(t, f.Text)
			if f.Verdict != analysis.Fine {
				assert.NotEmpty(t, f.Do, f.Text)
			}
			if worse := []analysis.Verdict{analysis.Fine, analysis.Unknown, analysis.Care, analysis.Grave}; slices.Index(worse, f.Verdict) >= slices.Index(worse, out[f.Topic].Verdict) {
				out[f.Topic] = f
			}
		}
		assert.NotEmpty(t, check.Cautions)
		return out
	}
	found := verdicts()
	assert.Equal(t, analysis.Unknown, found[analysis.OfRough].Verdict, "nobody has looked for the stone in the piece")
	assert.Contains(t, found[analysis.OfFlaw].Text, "crack")
	assert.Equal(t, analysis.Fine, found[analysis.OfGear].Verdict)
	assert.Equal(t, analysis.Grave, found[analysis.OfDop].Verdict, "a cone of 14 mm is wider than the stone")
	assert.Equal(t, string(diagram.Crown), found[analysis.OfDop].Side)
	assert.Equal(t, analysis.Unknown, found[analysis.OfQuill].Verdict)

	// Dops that suit are proposed first; what is taken is in the next plan, and the check is content.
	var gluing server.GluingPage
	c.get(at+"/gluing", &gluing)
	require.Len(t, gluing.Mountings, 2)
	assert.Equal(t, "Flat dop 4 mm", gluing.Mountings[0].Dops[gluing.Mountings[0].Taken].Name)
	best := gluing.Mountings[1].Dops[slices.IndexFunc(gluing.Mountings[1].Dops, func(d server.MountedDop) bool { return d.Sound })]
	assert.Equal(t, dopping.Cone, best.Shape, "a tip sits in a hollow")
	require.NotNil(t, gluing.Preform.Turned)
	assert.Greater(t, gluing.Preform.Turned.Diameter, 6.6)
	assert.Greater(t, gluing.Preform.Turned.Straight, gluing.Preform.Turned.Keeps-0.5)
	assert.Equal(t, diagram.Crown, gluing.OtherFirst.First)

	// How a preform is shaped is a habit: mains at once, and more left all round.
	before := *gluing.Preform.Turned
	assert.InDelta(t, 1, before.Mains-before.Angle, 1e-9)
	var settings server.Settings
	c.get("/api/settings", &settings)
	settings.Habits[0].Preform = server.PreformHabit{Side: 0.8, Foot: 0.3}
	c.put("PUT", "/api/settings", settings, &settings)
	c.get(at+"/gluing", &gluing)
	assert.InDelta(t, gluing.Preform.Turned.Mains, gluing.Preform.Turned.Angle, 1e-9)
	assert.InDelta(t, before.Diameter+1, gluing.Preform.Turned.Diameter, 1e-9)
	choices.Holds[1].Dop = best.Name
	c.put("PUT", at+"/plan", server.ReplanRequest{Choices: choices, Version: stone.Version}, &stone)
	assert.NotEqual(t, analysis.Grave, verdicts()[analysis.OfDop].Verdict)

	// The stone is glued: it cures on Today for as long as the bond takes.
	c.get(at+"/gluing", &gluing)
	now := time.Now()
	answers := c.log(
		sent(stone.WorkID, 1, now, journal.Vetted, journal.Vetting{Plan: 2, Open: []string{"The quill is not measured."}}),
		sent(stone.WorkID, 2, now, journal.Dopped, journal.Dopping{Setup: gluing.Mountings[0].Setup, Dop: "flat 4 mm", Adhesive: "wax", Minutes: 30}),
		sent(stone.WorkID, 3, now, journal.Dopped, journal.Dopping{Setup: "another", Minutes: 30}),
	)
	assert.Equal(t, []string{"stored", "stored", "refused"}, []string{answers[0].Outcome, answers[1].Outcome, answers[2].Outcome})
	var today server.Today
	c.get("/api/today", &today)
	require.Len(t, today.Curing, 1)
	assert.WithinDuration(t, now.Add(30*time.Minute), *today.Curing[0].Cures, time.Second)
	c.get(at, &page)
	assert.Equal(t, "planned", page.Summary.State, "a stone on its dop is not cut yet")
	assert.Equal(t, "flat 4 mm · wax", page.History[len(page.History)-1].Text)

	var round server.Roundness
	c.put("POST", "/api/roundness", server.RollRequest{Readings: []float64{8.2, 8, 8.1}, Wanted: 7.9}, &round)
	assert.InDelta(t, 0.2, round.Out, 1e-9)
	assert.InDelta(t, 0.3, round.Grind, 1e-9)
}

func text(t *testing.T, v any) string {
	t.Helper()
	data, err := json.Marshal(v)
	require.NoError(t, err)
	return string(data)
}
