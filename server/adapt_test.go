package server_test

import (
	"math"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/analysis"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/server"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// Angles and stops that are changed at the wheel are a layer of the stone's plan: what follows is told before, the
// diagram stays as it is, and what was cut at another angle is open again.
func TestAStoneIsAdaptedAtTheWheel(t *testing.T) {
	c := start(t)
	d := c.diagramCalled("First Light")
	var stone server.StoneHead
	c.put("POST", "/api/stones", server.PlanRequest{Name: "Low", DiagramID: d.ID, Choices: plan("Quartz", 96, width(8), diagram.Pavilion)}, &stone)
	at := "/api/stones/" + stone.ID
	var script server.BenchScript
	c.get(at+"/script", &script)
	assert.Empty(t, script.Layer)
	ticks := []server.SentEvent{}
	for i, v := range script.Visits {
		if v.Setup == script.Setups[0].ID {
			visit := journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: script.Facets[v.Facet].ID}
			ticks = append(ticks, sent(stone.WorkID, i+1, time.Now(), journal.Done, visit))
		}
	}
	c.log(ticks...)

	try := func(changes ...server.TierChange) server.Adaptation {
		t.Helper()
		var out server.Adaptation
		c.put("POST", at+"/adaptation", server.AdaptRequest{Changes: changes}, &out)
		return out
	}
	tierOf := func(a server.Adaptation, name string) server.AdaptedTier {
		for _, tier := range a.Tiers {
			if tier.Name == name {
				return tier
			}
		}
		require.Fail(t, "no tier", name)
		return server.AdaptedTier{}
	}
	as := try()
	assert.Equal(t, as.Before, as.After)
	assert.Less(t, as.Gap, 0.01)
	p1 := tierOf(as, "P1")
	assert.Zero(t, tierOf(as, "C1").Cut)
	assert.Positive(t, p1.Cut)

	// A lower crown: the stone gets lower, what is cut stays, and all meets close again.
	var lower []server.TierChange
	for _, tier := range as.Tiers {
		if tier.Part == "crown" && tier.Angle > 0 {
			flatter := math.Atan(0.9*math.Tan(tier.Angle*math.Pi/180)) * 180 / math.Pi
			lower = append(lower, server.TierChange{Tier: tier.Name, Angle: flatter, Stop: tier.Stop})
		}
	}
	low := try(lower...)
	assert.InDelta(t, 0.9*low.Before.Crown, low.After.Crown, 1e-6)
	assert.Less(t, low.After.Height, low.Before.Height)
	assert.InDelta(t, low.Before.Girdle, low.After.Girdle, 1e-6)
	assert.False(t, tierOf(low, "P1").Again)
	assert.Less(t, low.Gap, 0.01)
	require.Len(t, low.Changes, len(lower))

	// Another angle for a tier that is cut opens it again; those that meet it stand wrong now.
	steep := try(server.TierChange{Tier: "P1", Angle: p1.Angle + 1, Stop: p1.Stop})
	assert.True(t, tierOf(steep, "P1").Again)
	moved := 0.0
	for _, tier := range steep.Tiers {
		moved = max(moved, tier.Deeper, tier.TooDeep)
	}
	assert.Positive(t, moved)
	assert.InDelta(t, *p1.Margin+1, *tierOf(steep, "P1").Margin, 1e-6)

	// What is left for the second side: short of it there are ways with a lower crown, a wider table and a thinner
	// girdle, all within what is left; where there is room the plan is among them.
	var sides server.SecondSides
	c.put("POST", at+"/second-side", server.SecondSideRequest{Left: 100}, &sides)
	need := *sides.Need
	ways := func(left float64) map[analysis.Way]server.SecondSideWay {
		t.Helper()
		c.put("POST", at+"/second-side", server.SecondSideRequest{Left: left}, &sides)
		out := map[analysis.Way]server.SecondSideWay{}
		for _, w := range sides.Ways {
			// Angles are rounded to what the machine sets.
			assert.LessOrEqual(t, w.After.Height-w.Before.Height, left-need+0.02, w.Way)
			out[w.Way] = w
		}
		return out
	}
	short := ways(need - 0.4)
	assert.Less(t, short[analysis.Flatter].After.Crown, low.Before.Crown)
	assert.InDelta(t, low.Before.Height-0.4, short[analysis.Flatter].After.Height, 0.02)
	assert.Greater(t, short[analysis.WiderTable].After.Table, low.Before.Table)
	assert.InDelta(t, low.Before.Height-0.4, short[analysis.WiderTable].After.Height, 1e-6)
	assert.NotContains(t, short, analysis.ThinnerGirdle, "the girdle is thin as it is")
	assert.NotContains(t, short, analysis.AsPlanned)
	roomy := ways(need + 0.3)
	assert.Contains(t, roomy, analysis.AsPlanned)
	assert.InDelta(t, low.Before.Girdle+0.3, roomy[analysis.ThickerGirdle].After.Girdle, 1e-3)
	assert.Greater(t, roomy[analysis.Steeper].After.Crown, low.Before.Crown)
	assert.Empty(t, ways(0.05))

	said := c.problem("POST", at+"/adaptation", `{"changes": [{"tier": "X9", "angle": 40, "stop": "centre"}]}`, http.StatusUnprocessableEntity)
	assert.Contains(t, text(t, said), "no tier X9")
	said = c.problem("POST", at+"/adaptation", `{"changes": [{"tier": "C1", "angle": 35, "stop": "meet Z1 Z2"}]}`, http.StatusUnprocessableEntity)
	assert.Contains(t, text(t, said), "C1")

	// Kept, it is a new plan of this stone; what was ticked stays ticked.
	c.put("PUT", at+"/layer", server.KeepLayerRequest{Changes: lower, Version: stone.Version}, &stone)
	var page server.StonePage
	c.get(at, &page)
	assert.Equal(t, len(ticks), page.Summary.Done)
	assert.InDelta(t, low.After.Height, page.Assessment.Height, 1e-9)
	c.get(at+"/script", &script)
	assert.Equal(t, low.Changes, script.Layer)
	assert.Equal(t, d.Draft, c.diagramCalled("First Light").Draft)

	// What was cut under the plan before stands beside the new one.
	var cut server.AsCutView
	c.get(at+"/as-cut", &cut)
	require.Len(t, cut.Differences, len(lower), "the crown was changed, and nothing of it was cut yet")
	assert.Equal(t, workshop.TierChanged, cut.Differences[0].What)
	assert.Contains(t, cut.Differences[0].Text, "instead of")
	was := cut.FacetsCut
	c.put("PUT", at+"/layer", server.KeepLayerRequest{Changes: []server.TierChange{{Tier: "P1", Angle: p1.Angle + 1, Stop: p1.Stop}}, Version: stone.Version}, &stone)
	c.get(at+"/as-cut", &cut)
	assert.Less(t, cut.FacetsCut, was, "P1 is open again")
	assert.InDelta(t, cut.Meant.Width, cut.Coming.Width, 1e-6)
	assert.NotEqual(t, cut.Planned, cut.Cut, "its old facets are on the stone")
	assert.NotEmpty(t, cut.Differences[0].Faces)
	c.put("PUT", at+"/layer", server.KeepLayerRequest{Changes: lower, Version: stone.Version}, &stone)
	c.problem("PUT", at+"/layer", `{"changes": [], "version": 1}`, http.StatusConflict)

	// Another plan keeps it, and an empty layer takes it away.
	choices := plan("Quartz", 80, width(8), diagram.Pavilion)
	c.put("PUT", at+"/plan", server.ReplanRequest{Choices: choices, Version: stone.Version}, &stone)
	c.get(at+"/script", &script)
	assert.Equal(t, low.Changes, script.Layer)
	c.put("PUT", at+"/layer", server.KeepLayerRequest{Changes: []server.TierChange{}, Version: stone.Version}, &stone)
	c.get(at, &page)
	assert.InDelta(t, low.Before.Height, page.Assessment.Height, 1e-9)
}

// A girdle that comes out aslant tells how the stone leans: what is dialled follows, ticks stay.
func TestAStoneThatLeansIsDialledOtherwise(t *testing.T) {
	c := start(t)
	var stone server.StoneHead
	c.put("POST", "/api/stones", server.PlanRequest{Name: "Leaning", DiagramID: c.diagramCalled("First Light").ID, Choices: plan("Quartz", 96, width(8), diagram.Pavilion)}, &stone)
	at := "/api/stones/" + stone.ID
	var before, after server.BenchScript
	c.get(at+"/script", &before)
	ask := server.LeanRequest{Setup: before.Setups[1].ID, Readings: []server.GirdleAt{{Index: 24, MM: 0.44}, {Index: 72, MM: 0.3}}, Version: stone.Version}
	var lean server.LeanView
	c.put("POST", at+"/lean", ask, &lean)
	assert.InDelta(t, math.Atan(0.14/8)*180/math.Pi, lean.Tilt, 1e-3)
	assert.InDelta(t, 0.07, lean.Nudge, 1e-9)
	assert.InDelta(t, 24, lean.Towards, 1e-9)
	// Three places, of which the girdle is thickest between two.
	three := server.LeanRequest{Setup: ask.Setup, Readings: []server.GirdleAt{{Index: 12, MM: 0.37 + 0.07/math.Sqrt2}, {Index: 36, MM: 0.37 + 0.07/math.Sqrt2}, {Index: 72, MM: 0.3}}}
	var again server.LeanView
	c.put("POST", at+"/lean", three, &again)
	assert.InDelta(t, lean.Tilt, again.Tilt, 1e-9)
	assert.InDelta(t, 24, again.Towards, 1e-9)
	assert.InDelta(t, 0, again.Off, 1e-9)
	c.put("PUT", at+"/lean", ask, &stone)
	c.get(at+"/script", &after)
	for i, f := range after.Facets {
		was := before.Facets[i]
		require.Equal(t, was.ID, f.ID)
		if f.Setup == 0 {
			assert.Equal(t, was.Dial, f.Dial)
			continue
		}
		for _, tier := range lean.Tiers {
			if tier.Tier == f.Tier && was.Dial.Tooth == 24 {
				assert.InDelta(t, was.Angle+lean.Tilt, f.Angle, 1e-6, "on the side that it leans to")
			}
		}
	}
	c.problem("PUT", at+"/lean", `{"setup": "`+ask.Setup+`", "readings": [{"index": 1, "mm": 0.3}], "version": 2}`, http.StatusUnprocessableEntity)
	c.problem("PUT", at+"/lean", `{"setup": "none", "readings": [{"index": 1, "mm": 0.3}, {"index": 2, "mm": 0.3}], "version": 2}`, http.StatusUnprocessableEntity)

	// No difference is a stone that sits straight again.
	ask.Readings[0].MM, ask.Version = ask.Readings[1].MM, stone.Version
	c.put("PUT", at+"/lean", ask, &stone)
	c.get(at+"/script", &after)
	assert.Equal(t, before.Facets[len(before.Facets)-3].Dial, after.Facets[len(after.Facets)-3].Dial)
}

// At the wheel the girdle can be left thicker by the first lap of the last side, facets be visited in another order,
// and the plan go on from the size that the stone really has.
func TestAPlanIsChangedInTheMiddleOfTheWork(t *testing.T) {
	c := start(t)
	d := c.diagramCalled("First Light")
	choices := plan("Quartz", 96, width(8), diagram.Pavilion)
	require.Greater(t, len(choices.Passes), 1)
	var stone server.StoneHead
	c.put("POST", "/api/stones", server.PlanRequest{Name: "Thick", DiagramID: d.ID, Choices: choices}, &stone)
	at := "/api/stones/" + stone.ID
	var script server.BenchScript
	read := func() { t.Helper(); c.get(at+"/script", &script) }
	read()
	planned := script.Calipers[0]
	girdle := func(first bool) (out []string) {
		for _, v := range script.Visits {
			if f := script.Facets[v.Facet]; f.Setup == 1 && v.First == first && f.Tier == "C1" {
				out = append(out, v.Stop)
			}
		}
		return out
	}
	assert.Contains(t, girdle(true)[0], "until the girdle is")
	first := script.Visits[0].Facet

	spare := 0.2
	c.put("PUT", at+"/at-wheel", server.AtWheelRequest{GirdleSpare: &spare, Visiting: gear.OppositePairs, Version: stone.Version}, &stone)
	read()
	assert.Contains(t, girdle(true)[0], "0.2 mm more than at the end")
	assert.Contains(t, girdle(false)[0], "the girdle comes down to")
	assert.Equal(t, first, script.Visits[0].Facet)
	assert.Equal(t, 48, (script.Facets[script.Visits[1].Facet].Dial.Tooth-script.Facets[first].Dial.Tooth+96)%96, "the facet opposite")
	for _, v := range script.Visits {
		f := script.Facets[v.Facet]
		assert.Equal(t, f.Setup == 1 && v.First && f.Part == "crown" && f.Angle > 0, v.Spare > 0, f.Tier)
	}

	c.put("PUT", at+"/at-wheel", server.AtWheelRequest{Across: &server.Calipered{Tier: planned.Tier, MM: planned.MM - 0.2}, Version: stone.Version}, &stone)
	read()
	assert.InDelta(t, planned.MM-0.2, script.Calipers[0].MM, 1e-9)
	assert.InDelta(t, spare, script.GirdleSpare, 0, "the rest stays")
	c.problem("PUT", at+"/at-wheel", `{"version": 1}`, http.StatusConflict)
}

// A table that comes in from one side is levelled at the protractor or at the cheater; the adapter's true angle goes to
// the machine and to this stone.
func TestATableIsLevelledOnItsAdapter(t *testing.T) {
	c := start(t)
	d := c.diagramCalled("First Light")
	var stone server.StoneHead
	c.put("POST", "/api/stones", server.PlanRequest{Name: "Level", DiagramID: d.ID, Choices: plan("Quartz", 96, width(8), diagram.Pavilion)}, &stone)
	at := "/api/stones/" + stone.ID
	var page server.StonePage
	c.get(at, &page)
	tilt := func(begins string) (out server.TiltedTable) {
		t.Helper()
		c.get(at+"/adapter/tilt?mm=0.02&begins="+begins, &out)
		return out
	}
	want := math.Atan2(0.02, page.Assessment.Table) * 180 / math.Pi
	assert.InDelta(t, want, tilt("far").Angle, 1e-9)
	assert.InDelta(t, -want, tilt("near").Angle, 1e-9)
	for _, side := range []string{"left", "right"} {
		assert.Zero(t, tilt(side).Angle)
		assert.InDelta(t, want/math.Sin(math.Pi/4), tilt(side).Turn, 1e-9)
		assert.Contains(t, tilt(side).Text, "so that the "+side+" side lifts")
	}
	c.problem("GET", at+"/adapter/tilt?mm=0.02&begins=above", "", http.StatusUnprocessableEntity)

	said := c.problem("PUT", at+"/adapter", text(t, server.FlushReadings{Readings: []float64{44, 46}, Version: stone.Version}), http.StatusUnprocessableEntity)
	assert.Contains(t, text(t, said), "differ by more than 1°")
	c.put("PUT", at+"/adapter", server.FlushReadings{Readings: []float64{44.6, 44.8}, Version: stone.Version}, &stone)
	var script server.BenchScript
	c.get(at+"/script", &script)
	for _, v := range script.Visits {
		if v.Adapter {
			assert.InDelta(t, 44.7, script.Facets[v.Facet].Reading, 1e-9)
		}
	}
	var settings server.Settings
	c.get("/api/settings", &settings)
	assert.InDelta(t, 44.7, settings.Machines[0].TableAdapter, 1e-9)
	c.problem("PUT", at+"/adapter", `{"readings": [45], "version": 1}`, http.StatusConflict)
}
