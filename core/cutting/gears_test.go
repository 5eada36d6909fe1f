package cutting_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

func mustCut(t require.TestingT, d *diagram.Diagram) *cutting.Stone {
	stone, err := cutting.Cut(d)
	require.NoError(t, err)
	return stone
}

func TestGearsAreRankedByTheCheatsTheyNeed(t *testing.T) {
	skew := mustCut(t, load(t, "skew"))
	ranked := skew.RankGears([]int{96, 64, 72, 144, 96})
	require.Len(t, ranked, 4)
	assert.Equal(t, 72, ranked[0].Teeth, "of gears that carry it, its own comes first")
	assert.Equal(t, 144, ranked[1].Teeth)
	assert.Zero(t, ranked[1].LargestCheat)
	assert.Equal(t, 96, ranked[2].Teeth)
	assert.InDelta(t, 0.625, ranked[2].LargestCheat, 1e-9)

	proposed, ok := skew.ProposeGear()
	require.True(t, ok)
	assert.Zero(t, proposed.LargestCheat)
	odd := load(t, "round")
	odd.Tiers[0].Indexes[0] += 0.137
	crooked, err := cutting.UpTo(odd, 1)
	require.NoError(t, err)
	_, ok = crooked.ProposeGear()
	assert.False(t, ok, "no gear has such a tooth")
}

// The dial that a gear shows must stand for the facet's own direction.
func TestEveryPositionLeadsBackToItsFacet(t *testing.T) {
	stones := []*cutting.Stone{mustCut(t, load(t, "skew")), mustCut(t, load(t, "pinwheel"))}
	rapid.Check(t, func(t *rapid.T) {
		stone := rapid.SampledFrom(stones).Draw(t, "stone")
		teeth := rapid.IntRange(8, 144).Draw(t, "teeth")
		turns := cutting.Turns{
			Pavilion: float64(rapid.IntRange(-180, 180).Draw(t, "pavilion turn")) / 8,
			Crown:    float64(rapid.IntRange(-180, 180).Draw(t, "crown turn")) / 8,
		}
		for no, positions := range stone.Positions(teeth, turns) {
			tier := stone.Diagram.Tiers[no]
			require.Len(t, positions, len(tier.Indexes))
			for k, p := range positions {
				turn := 360*float64(p.Tooth)/float64(teeth) + p.Cheat
				assert.LessOrEqual(t, math.Abs(p.Cheat), 180/float64(teeth)+1e-6)
				if stone.Diagram.CutWith(tier.Part) == diagram.Pavilion {
					turn = -turn - turns.Pavilion
				} else {
					turn -= turns.Crown
				}
				off := math.Remainder(turn-stone.Diagram.Azimuth(tier.Part, tier.Indexes[k]), 360)
				assert.InDelta(t, 0, off, 1e-6, "%s@%v", tier.Name, tier.Indexes[k])
			}
		}
		each := func(side diagram.Part) float64 {
			pavilion, crown := stone.BestTurnOfEachSide(teeth)
			if side == diagram.Pavilion {
				return pavilion.LargestCheat
			}
			return crown.LargestCheat
		}
		whole := stone.BestTurn(teeth).LargestCheat
		assert.LessOrEqual(t, each(diagram.Pavilion), whole+1e-9)
		assert.LessOrEqual(t, each(diagram.Crown), whole+1e-9)
	})
}

func TestWithoutACheaterMeetsFallApartByWhatTheCheatsAreWorth(t *testing.T) {
	round := mustCut(t, load(t, "round"))
	whole, err := round.MeetErrors(round.AtWholeTeeth(96, cutting.Turns{}))
	require.NoError(t, err)
	for _, e := range whole {
		assert.Zero(t, e.Gap, "its own gear needs no cheater")
		assert.Less(t, e.Residual, 1e-9)
	}
	turns := cutting.Together(round.BestTurn(80).Turn)
	planes := round.AtWholeTeeth(80, turns)
	for i, f := range round.Facets {
		reached := math.Inf(-1)
		for _, p := range f.Stops {
			reached = math.Max(reached, planes[i].Above(p))
		}
		assert.InDelta(t, 0, reached, 1e-9, "every facet still comes to the first of its points")
	}
	errs, err := round.MeetErrors(planes)
	require.NoError(t, err)
	worst := errs[0]
	// A cheat that is left out turns a facet about the axis by up to 2.25 degrees.
	assert.Greater(t, worst.Gap, 0.001)
	assert.Less(t, worst.Gap, 0.1)
	assert.LessOrEqual(t, worst.Residual, worst.Gap)
}

// One plane of a four-facet meet 10 µm out on a stone 8 mm wide leaves a residual
// of 2 to 5 µm; the gap that is seen is ten times as large.
func TestAFacetTenMicrometresOutOpensItsMeets(t *testing.T) {
	stone := mustCut(t, load(t, "round"))
	um := 8000 / stone.Measures().Width
	moved := stone.Planes()
	opened := 0
	for facet := 0; facet < len(moved); facet += 5 {
		moved[facet].D += 10 / um
		errs, err := stone.MeetErrors(moved)
		require.NoError(t, err)
		for _, e := range errs {
			if len(e.Facets) != 4 || !slices.Contains(e.Facets, facet) {
				continue
			}
			opened++
			assert.InDelta(t, 3.5, e.Residual*um, 1.5)
			assert.Greater(t, e.Gap, 5*e.Residual)
		}
		moved[facet] = stone.Facets[facet].Plane
	}
	assert.Positive(t, opened)
}
