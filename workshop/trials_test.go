package workshop_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/core/abrasive"
	"cressa/workshop"
	"cressa/workshop/journal"
)

func TestWhatPolishedBestIsProposedTheNextTime(t *testing.T) {
	s := newShop(t)
	tin := s.put(t, workshop.LapItem, "Tin", 150)
	zinc := s.put(t, workshop.LapItem, "Zinc", 150)
	try := func(material string, ways ...workshop.PolishWay) {
		_, err := s.AddPolishTrial(ctx, workshop.PolishTrial{Material: material, Ways: ways})
		require.NoError(t, err)
	}
	on := func(lap workshop.Shelved, result int, minutes float64) workshop.PolishWay {
		return workshop.PolishWay{LapItem: lap.ID, Result: result, Minutes: minutes}
	}
	polish := func() (lap string, trials int) {
		m := []string{"Spinel"}
		settings, err := s.Settings(ctx)
		require.NoError(t, err)
		spinel, _ := settings.Material(m[0])
		all, err := s.Polishes(ctx, append(settings.AllMaterials()[:0:0], spinel))
		require.NoError(t, err)
		return all[0].LapItem, all[0].Trials
	}
	_, trials := polish()
	assert.Zero(t, trials, "nothing was tried yet")
	try("Spinel", on(tin, 2, 3), on(zinc, 2, 9))
	_, trials = polish()
	assert.Zero(t, trials, "a dull polish is not proposed")
	try("Spinel", on(zinc, 4, 2))
	try("Spinel", on(zinc, 4, 2), on(tin, 3, 1))
	try("Peridot", on(tin, 4, 1), on(tin, 4, 1))
	lap, trials := polish()
	assert.Equal(t, []any{zinc.ID, 3}, []any{lap, trials})
	c, err := s.Propose(ctx, s.add(t, "Spiral Arm").ID, "")
	require.NoError(t, err)
	assert.Equal(t, "Spinel", c.Material)
	assert.Equal(t, []string{zinc.ID, "Zinc"}, []string{c.Passes[2].LapItem, c.Passes[2].Lap})
	s.tell(t, zinc.ID, journal.Gone, nil)
	lap, _ = polish()
	assert.NotEqual(t, zinc.ID, lap, "what is gone is not proposed")
	_, err = s.AddPolishTrial(ctx, workshop.PolishTrial{Material: "Moon cheese", Ways: []workshop.PolishWay{{Lap: "x", Result: 1}}})
	assert.ErrorContains(t, err, string(workshop.UnknownMaterial))

	rapid.Check(t, func(t *rapid.T) {
		var trials []workshop.PolishTrial
		count := map[string]int{}
		for range rapid.IntRange(1, 12).Draw(t, "trials") {
			lap := rapid.SampledFrom([]string{"a", "b", "c"}).Draw(t, "lap")
			count[lap]++
			trials = append(trials, workshop.PolishTrial{Material: "Spinel", Ways: []workshop.PolishWay{{Lap: lap, Result: rapid.IntRange(1, 4).Draw(t, "result")}}})
		}
		standings := workshop.StandingsOf(trials, "spinel")
		assert.Len(t, standings, len(count))
		for _, o := range standings {
			assert.Equal(t, count[o.Lap], o.Trials)
		}
		// One flawless result more never puts a polish further back.
		last := standings[len(standings)-1]
		place := func(trials []workshop.PolishTrial) int {
			return slices.IndexFunc(workshop.StandingsOf(trials, "Spinel"), func(o workshop.PolishStanding) bool { return o.Lap == last.Lap })
		}
		better := append(slices.Clone(trials), workshop.PolishTrial{Material: "Spinel", Ways: []workshop.PolishWay{{Lap: last.Lap, Result: 4}}})
		assert.LessOrEqual(t, place(better), place(trials))
	})
}

func TestATrialIsJudgedBlindAndCounted(t *testing.T) {
	s := newShop(t)
	firsts := map[string]int{}
	for n := range 40 {
		trial, err := s.AddBlindTrial(ctx, workshop.BlindTrial{Name: fmt.Sprint(n), Question: "Which?", Differs: "the polish", Entries: []workshop.BlindEntry{{What: "tin"}, {What: "zinc"}}})
		require.NoError(t, err)
		firsts[trial.Entries[0].Letter]++
	}
	assert.Len(t, firsts, 2, "the letters are drawn")
	all, err := s.BlindTrials(ctx)
	require.NoError(t, err)
	trial := all[0]
	for n := range 6 {
		require.NoError(t, s.Judge(ctx, trial.ID, workshop.Verdict{Judge: fmt.Sprint("judge ", n), Letter: trial.Entries[1].Letter}))
	}
	require.NoError(t, s.Judge(ctx, trial.ID, workshop.Verdict{Judge: "Ines"}))
	assert.ErrorContains(t, s.Judge(ctx, trial.ID, workshop.Verdict{Judge: " ines ", Letter: "A"}), string(workshop.JudgedAlready))
	assert.ErrorContains(t, s.Judge(ctx, trial.ID, workshop.Verdict{Judge: "Toma", Letter: "C"}), string(workshop.NoSuchLetter))
	opened, err := s.OpenTrial(ctx, trial.ID)
	require.NoError(t, err)
	assert.ErrorContains(t, s.Judge(ctx, trial.ID, workshop.Verdict{Judge: "Toma", Letter: "A"}), string(workshop.TrialOpened))
	again, err := s.OpenTrial(ctx, trial.ID)
	require.NoError(t, err)
	assert.Equal(t, opened.Opened, again.Opened, "it is told once")
	tally := again.Tally()
	assert.Equal(t, []any{[]int{0, 6}, 1, 1}, []any{tally.Votes, tally.Alike, tally.Leader})
	assert.InDelta(t, 2.0/64, tally.Chance, 1e-12)
}

func TestAPairDiffersInOneThing(t *testing.T) {
	s := newShop(t)
	stone := s.plan(t, "Three Sisters")
	trial, err := s.PlanPair(ctx, stone.ID, workshop.Twin{Girdle: workshop.GirdleCut}, "Which is brighter?")
	require.NoError(t, err)
	twin, err := s.Stone(ctx, trial.Entries[1].Stone)
	require.NoError(t, err)
	was, is := stone.Work().Plan.Choices, twin.Work().Plan.Choices
	assert.NotEqual(t, was.Uses, is.Uses)
	is.Uses = was.Uses
	assert.Equal(t, was, is, "and in nothing else")
	assert.Equal(t, stone.Work().Plan.AsCut, twin.Work().Plan.AsCut)
	_, err = s.PlanPair(ctx, stone.ID, workshop.Twin{Girdle: workshop.GirdlePolished}, "?")
	assert.ErrorContains(t, err, string(workshop.NothingDiffers))
	tin := s.put(t, workshop.LapItem, "Tin", 150)
	trial, err = s.PlanPair(ctx, stone.ID, workshop.Twin{Polish: workshop.Pass{LapItem: tin.ID}}, "Which is sharper?")
	require.NoError(t, err)
	assert.Equal(t, "Tin", trial.Entries[1].What)
}

func TestARecipeForALap(t *testing.T) {
	s := newShop(t)
	r := workshop.Recipe{
		Name: "Charge", Kind: workshop.ToChargeLap, Surfaces: []abrasive.Surface{abrasive.Metal}, Steps: []workshop.RecipeStep{{Text: "Roll it in", Minutes: 4}},
		Parts: []workshop.RecipePart{{What: "diamond", Amount: 1, Unit: "ct", Per: workshop.PerGrain}, {What: "oil", Amount: 2, Unit: "drops", Per: workshop.PerArea}, {What: "roller", Amount: 1, Per: workshop.PerLap}},
	}
	small, large := workshop.Lap{Surface: abrasive.Metal, Diameter: 100}, workshop.Lap{Surface: abrasive.Metal, Diameter: 200}
	for i, p := range r.Parts {
		few, many := p.For(small, 3), p.For(large, 3)
		switch i {
		case 0:
			assert.InDelta(t, 4, many/few, 0.05, "four times the area")
			assert.Greater(t, p.For(small, 9), few, "coarser grains weigh more")
		case 1:
			assert.Equal(t, []float64{2, 6}, []float64{few, many}, "drops are whole")
		case 2:
			assert.Equal(t, few, many)
		}
	}
	kept, err := s.SaveRecipe(ctx, r)
	require.NoError(t, err)
	kept.Name = "Charge it"
	kept, err = s.SaveRecipe(ctx, kept)
	require.NoError(t, err)
	assert.Equal(t, 2, kept.Version)
	assert.True(t, kept.Fits(small))
	assert.False(t, kept.Fits(workshop.Lap{Surface: abrasive.Bonded}))
	r.Steps = nil
	_, err = s.SaveRecipe(ctx, r)
	require.Error(t, err, "a recipe without steps is none")
}
