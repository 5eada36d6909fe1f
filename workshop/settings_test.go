package workshop_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/light"
	"cressa/core/material"
	"cressa/workshop"
)

func TestSettingsThatContradictThemselvesAreRefused(t *testing.T) {
	s := newShop(t)
	good, _ := material.Find("Spinel")
	for code, change := range map[diagram.Code]func(*workshop.Settings){
		workshop.NoDefault: func(s *workshop.Settings) { s.Machine = "gone" },
		workshop.SameName:  func(s *workshop.Settings) { s.Materials = []material.Material{good} },
		workshop.SamePass:  func(s *workshop.Settings) { s.Habits[0].Passes = append(s.Habits[0].Passes, s.Habits[0].Passes[0]) },
		workshop.BadMaterial: func(s *workshop.Settings) {
			heavy := good
			heavy.Name, heavy.SG = "Sea glass", 50
			s.Materials = []material.Material{heavy}
		},
	} {
		settings := workshop.DefaultSettings()
		change(&settings)
		_, err := s.SaveSettings(t.Context(), settings)
		var p diagram.Problem
		require.ErrorAs(t, err, &p, string(code))
		assert.Equal(t, code, p.Code)
	}
}

func TestHeavierStonesBringMoreByTheCarat(t *testing.T) {
	s := workshop.Settings{Prices: []workshop.Price{
		{Material: "Peridot", Currency: "EUR", From: 3, Amount: 9000},
		{Material: "Peridot", Currency: "EUR", From: 0.5, Amount: 4000},
		{Material: "Peridot", Currency: "CHF", From: 0, Amount: 1},
		{Material: "Spinel", Currency: "EUR", From: 0, Amount: 2},
	}}
	worth := s.Worth("peridot", "EUR")
	for carats, want := range map[float64]float64{0.5: 2000, 2: 8000, 2.999: 11996, 3: 27000} {
		got, known := worth.Of(carats)
		assert.True(t, known)
		assert.Equal(t, want, got, "%g ct", carats)
	}
	_, known := worth.Of(0.4)
	assert.False(t, known, "no price is known for so light a stone")
	assert.Equal(t, 35000.0, worth.Together(0.4, 2, 3))
	assert.True(t, worth.Known())
	assert.False(t, s.Worth("Peridot", "").Known(), "a price in another currency is none")
}

func TestAnOwnMaterialIsFrozenInThePlan(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	own, _ := material.Find("Practice glass")
	own.Name, own.SG = "Sea glass", 2.45
	settings := workshop.DefaultSettings()
	settings.Materials = []material.Material{own}
	settings, err := s.SaveSettings(ctx, settings)
	require.NoError(t, err)
	c := choices(8)
	c.Material = "sea glass"
	stone, err := s.PlanStone(ctx, "", s.add(t, "First Light").ID, c)
	require.NoError(t, err)
	settings.Materials = []material.Material{}
	_, err = s.SaveSettings(ctx, settings)
	require.NoError(t, err)
	a, err := s.AssessStone(ctx, stone)
	require.NoError(t, err)
	assert.Equal(t, 2.45, a.Material.SG)
}

// Something new begins with the gear that the default machine's owner lists last.
func TestWhatIsUsualFollowsTheDefaultMachine(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	settings := workshop.DefaultSettings()
	old := settings.Machines[0]
	old.ID, old.Name, old.Gears = "old", "Old one", []int{80, 64}
	settings.Machines, settings.Machine = append(settings.Machines, old), old.ID
	_, err := s.SaveSettings(ctx, settings)
	require.NoError(t, err)
	usual, err := s.Usual(ctx)
	require.NoError(t, err)
	assert.Equal(t, []int{64, 80}, usual.Gears)
	assert.Equal(t, 80, usual.Gear)
	assert.Equal(t, light.Head, usual.LightModel)
	assert.InDelta(t, 16, usual.HeadAngle, 0)
	d, err := s.NewDiagram(ctx)
	require.NoError(t, err)
	assert.Equal(t, "80", d.Draft.Gear)
}

func TestAPlanBeginsWithTheHabitsAndTheMachine(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	d := s.add(t, "First Light")
	settings := workshop.DefaultSettings()
	settings.Machines = append(settings.Machines, workshop.DefaultMachine())
	school := &settings.Machines[1]
	school.ID, school.Name, school.Gears, school.Cheater = "school", "School machine", []int{64, 80, 120}, workshop.CheaterTurns
	school.CheatPerTurn = 2
	settings.Machine = "school"
	h := &settings.Habits[0]
	h.FirstSide, h.Visiting, h.Uses = "crown", gear.OppositePairs, workshop.GirdleCut.Uses(h.Passes)
	_, err := s.SaveSettings(ctx, settings)
	require.NoError(t, err)

	c, err := s.Propose(ctx, d.ID, "")
	require.NoError(t, err)
	assert.Equal(t, "school", c.Machine)
	assert.Equal(t, diagram.Crown, c.FirstSide)
	assert.Equal(t, 120, c.Gear, "the gear of this machine that needs the smallest cheats")
	stone, err := s.PlanStone(ctx, "", d.ID, c)
	require.NoError(t, err)
	script, err := s.Script(ctx, stone)
	require.NoError(t, err)
	perFacet := map[string]int{}
	for _, v := range script.Visits {
		perFacet[script.Facets[v.FacetNo].Tier]++
	}
	assert.Equal(t, 12, perFacet["G1"], "one pass for a girdle that is only cut")
	assert.Equal(t, 36, perFacet["P1"])
	assert.Equal(t, len(script.Visits), s.state(t, stone.ID).All)
	first, second := script.Facets[0].Dial.Index, script.Facets[1].Dial.Index
	assert.InDelta(t, 60, math.Mod(second-first+120, 120), 1e-6, "the opposite facet comes next")
	for _, f := range script.Facets {
		assert.InDelta(t, f.Dial.Cheat, 2*f.CheatTurns, 1e-9)
	}

	// The sides can each be turned on their own.
	c.Gear, c.Turning = 64, workshop.TurnedSides
	a, err := s.Assess(ctx, d.ID, "", c)
	require.NoError(t, err)
	assert.LessOrEqual(t, a.LargestCheat, a.Stone.BestTurn(64).LargestCheat+1e-9)
}
