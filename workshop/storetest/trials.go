package storetest

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/abrasive"
	"cressa/workshop"
)

func recipes(t *testing.T, ctx context.Context, s workshop.Store) {
	r := workshop.Recipe{
		ID: "r", Name: "Charge", Kind: workshop.ToChargeLap, Surfaces: []abrasive.Surface{abrasive.Metal}, Caution: "Powders",
		Parts: []workshop.RecipePart{{What: "Diamond", Amount: 1, Unit: "ct", Per: workshop.PerGrain}}, Steps: []workshop.RecipeStep{{Text: "Roll it in", Minutes: 4}},
		Created: now, Version: 1,
	}
	require.NoError(t, s.InsertRecipe(ctx, r))
	r.Name, r.Version = "Charge it", 2
	require.NoError(t, s.SaveRecipe(ctx, r, 1))
	require.ErrorIs(t, s.SaveRecipe(ctx, r, 1), workshop.ErrStale)
	all, err := s.Recipes(ctx)
	require.NoError(t, err)
	assert.Equal(t, []workshop.Recipe{r}, all)
	require.NoError(t, s.DropRecipe(ctx, "r"))
	require.ErrorIs(t, s.DropRecipe(ctx, "r"), workshop.ErrNotFound)
}

func trials(t *testing.T, ctx context.Context, s workshop.Store) {
	way := workshop.PolishWay{
		Facet: "C1", Lap: "Tin", LapItem: "lap", Compound: "alumina", CompoundItem: "bottle", RPM: 180, Pressure: workshop.Light, Strokes: 40, Minutes: 3, Result: 4, Photo: "hash",
	}
	first := workshop.PolishTrial{ID: "a", Material: "Peridot", Stone: "stone", Note: "n", Made: now, Ways: []workshop.PolishWay{way, {Lap: "felt", Result: 2}}}
	later := workshop.PolishTrial{ID: "b", Material: "Spinel", Made: now.Add(time.Hour), Ways: []workshop.PolishWay{way}}
	for _, p := range []workshop.PolishTrial{first, later} {
		require.NoError(t, s.InsertPolishTrial(ctx, p))
	}
	polishes, err := s.PolishTrials(ctx)
	require.NoError(t, err)
	assert.Equal(t, []workshop.PolishTrial{later, first}, polishes)
	require.NoError(t, s.DropPolishTrial(ctx, "a"))
	require.ErrorIs(t, s.DropPolishTrial(ctx, "a"), workshop.ErrNotFound)

	blind := workshop.BlindTrial{
		ID: "t", Name: "Twins", Question: "Which?", Differs: "girdle", Created: now, Version: 1, Verdicts: []workshop.Verdict{},
		Entries: []workshop.BlindEntry{{What: "cut", Stone: "s", Letter: "B"}, {What: "polished", Letter: "A"}},
	}
	require.NoError(t, s.InsertBlindTrial(ctx, blind))
	v := workshop.Verdict{ID: "v", Judge: "Ines", Letter: "A", Note: "bright", At: now}
	require.NoError(t, s.InsertVerdict(ctx, "t", v))
	require.Error(t, s.InsertVerdict(ctx, "none", workshop.Verdict{ID: "w", At: now}), "a verdict belongs to a trial")
	blind.Opened, blind.Version = now.Add(time.Hour), 2
	require.NoError(t, s.SaveBlindTrial(ctx, blind, 1))
	require.ErrorIs(t, s.SaveBlindTrial(ctx, blind, 1), workshop.ErrStale)
	blind.Verdicts = []workshop.Verdict{v}
	all, err := s.BlindTrials(ctx)
	require.NoError(t, err)
	assert.Equal(t, []workshop.BlindTrial{blind}, all)
}
