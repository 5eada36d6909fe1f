package cutting_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/cutting"
)

func TestWeightOverFlatsAndOverCorners(t *testing.T) {
	stone, err := cutting.Cut(load(t, "round"))
	require.NoError(t, err)
	m := stone.Measures()
	assert.InDelta(t, 1.4025, cutting.Carats(m.VolumeFactor, 8, 2.65), 5e-5)

	calipers := stone.Calipers()
	require.Len(t, calipers, 1)
	assert.True(t, calipers[0].Flats)
	width := 8 * m.Width / calipers[0].Across
	assert.InDelta(t, 8.157, width, 5e-4)
	assert.InDelta(t, 1.4865, cutting.Carats(m.VolumeFactor, width, 2.65), 5e-5)
}

func TestATriangleIsMeasuredFromFlatToCorner(t *testing.T) {
	d := load(t, "round")
	for i := range d.Tiers[:2] {
		d.Tiers[i].Indexes = []float64{32, 64, 96}
	}
	d.Tiers = d.Tiers[:2]
	stone, err := cutting.UpTo(d, 2)
	require.NoError(t, err)
	c := stone.Calipers()
	require.Len(t, c, 1)
	assert.False(t, c[0].Flats)
	assert.InDelta(t, 0.5*(1+2), c[0].Across, 1e-9, "r·(1 + 1/cos 60)")
}

func TestPavilionAndCrownAreDialledAsTheyComeToTheLap(t *testing.T) {
	for _, name := range []string{"round", "skew"} {
		stone, err := cutting.Cut(load(t, name))
		require.NoError(t, err)
		for _, f := range stone.Facets {
			p := stone.Dial(f, stone.Diagram.Gear, cutting.Turns{})
			assert.InDelta(t, f.Index, p.Index, 1e-9, "a dialled diagram is dialled as it is written")
			assert.Zero(t, p.Cheat)
		}
	}
}

func TestTheOtherSideFirstMakesTheSameStone(t *testing.T) {
	all := shipped(t)
	for _, name := range examples {
		all[name] = load(t, name)
	}
	for name, d := range all {
		stone := mustCut(t, d)
		other, err := cutting.OtherSideFirst(stone)
		require.NoError(t, err, name)
		assert.Equal(t, d.FirstSide.Other(), other.FirstSide)
		again, err := cutting.Cut(other)
		require.NoError(t, err)
		assert.Equal(t, other.FirstSide, other.CutWith(other.Tiers[0].Part))
		agree(t, stone.Measures().Volume, again.Measures().Volume, name)
	}
}

func TestReplayInAnyOrderEndsInTheSameStone(t *testing.T) {
	stone, err := cutting.Cut(load(t, "skew"))
	require.NoError(t, err)
	order := make([]int, len(stone.Facets))
	for i := range order {
		order[i] = len(order) - 1 - i
	}
	steps, err := stone.Replay(stone.Preform(), order)
	require.NoError(t, err)
	assert.InDelta(t, stone.Solid().Volume(), steps[len(steps)-1].Volume(), 1e-10)
}

func TestDifficultyGrowsWithWhatMakesAStoneHard(t *testing.T) {
	weigh := func(d cutting.Difficulty) map[cutting.Factor]cutting.Weight {
		out := map[cutting.Factor]cutting.Weight{}
		for _, w := range d.Weights {
			out[w.Factor] = w
		}
		return out
	}
	round, err := cutting.Cut(load(t, "round"))
	require.NoError(t, err)
	emerald, err := cutting.Cut(load(t, "emerald"))
	require.NoError(t, err)
	plain := round.Difficulty(8, 0, true)
	assert.Greater(t, emerald.Difficulty(8, 0, true).Points, plain.Points, "more tiers, smaller facets")
	assert.Greater(t, round.Difficulty(3, 0, true).Points, plain.Points, "the same stone, smaller")
	assert.InDelta(t, 8.0/3, weigh(plain)[cutting.SmallFacet].Value/weigh(round.Difficulty(3, 0, true))[cutting.SmallFacet].Value, 1e-9)
	with, without := round.Difficulty(8, 0.5, true), round.Difficulty(8, 0.5, false)
	assert.Greater(t, with.Points, plain.Points)
	assert.Greater(t, without.Points, with.Points)
	assert.EqualValues(t, len(round.Diagram.Tiers), weigh(plain)[cutting.ManyTiers].Value)

	fine := load(t, "round")
	fine.Tiers[len(fine.Tiers)-2].Angle += 0.013
	changed, err := cutting.UpTo(fine, len(fine.Tiers)-1)
	require.NoError(t, err)
	assert.EqualValues(t, 3, weigh(changed.Difficulty(8, 0, true))[cutting.FineAngles].Value)
}
