package abrasive_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"cressa/core/abrasive"
)

func TestGrainsOfGrades(t *testing.T) {
	for mesh, grain := range map[float64]float64{
		260: 57.69, 600: 25, 1200: 12.5, 3000: 6, 8000: 3, 14_000: 1, 50_000: 0.5, 100_000: 0.25, 0: 0,
	} {
		assert.InDelta(t, grain, abrasive.Mean(mesh), 0.01, mesh)
	}
	for text, grain := range map[string]float64{
		"Steel 600": 25, "3 µm": 3, "diamond 0.5 micron": 0.5, "#1200": 12.5, "50k": 0.5, "3 000": 6, "0,3": 0.3, "Bronze 3000 fine": 6,
	} {
		got, ok := abrasive.ReadGrain(text)
		assert.True(t, ok, text)
		assert.InDelta(t, grain, got, 1e-9, text)
	}
	for _, text := range []string{"", "tin", "0", "0 µm", "5000 µm"} {
		_, ok := abrasive.ReadGrain(text)
		assert.False(t, ok, text)
	}
	rapid.Check(t, func(t *rapid.T) {
		mesh := rapid.Float64Range(40, 200_000).Draw(t, "mesh")
		finer := rapid.Float64Range(mesh, 200_001).Draw(t, "finer")
		assert.LessOrEqual(t, abrasive.Mean(finer), abrasive.Mean(mesh), "a higher mesh is never coarser")
		grain := abrasive.Mean(mesh)
		assert.InEpsilon(t, grain, abrasive.Mean(abrasive.Mesh(grain)), 1e-9)
	})
}

func TestWhatAStepLeaves(t *testing.T) {
	rungs := []abrasive.Rung{{Grain: 25}, {Grain: 6}, {Grain: 0.5, Polish: true}}
	steps := abrasive.Climb(rungs, 0, abrasive.UsualRules)
	assert.Equal(t, 50.0, steps[0].LeavesLow)
	assert.Equal(t, 75.0, steps[0].LeavesHigh)
	assert.Equal(t, 50.0, steps[1].TakesOff, "a tough stone: twice the grain")
	assert.InDelta(t, 25.0/6, steps[1].Ratio, 1e-12)
	for _, s := range steps {
		assert.Empty(t, s.Finding)
	}
	cleaves := abrasive.Climb(rungs, abrasive.Brittle(7, true), abrasive.UsualRules)
	assert.Equal(t, 75.0, cleaves[1].TakesOff, "one that splits: three times")

	jump := abrasive.Climb([]abrasive.Rung{{Grain: 60}, {Grain: 6}, {Grain: 6}, {}, {Grain: 3}}, 0, abrasive.UsualRules)
	assert.Equal(t, abrasive.TooLarge, jump[1].Finding)
	assert.InDelta(t, math.Sqrt(360), jump[1].Between[0], 1e-9)
	assert.Equal(t, abrasive.NotFiner, jump[2].Finding)
	assert.Equal(t, abrasive.NoGrain, jump[3].Finding)
	assert.Zero(t, jump[4].Ratio, "nothing is said of a step from a grain that is not known")
	assert.Equal(t, abrasive.NoPolish, jump[4].Finding)
}

func rungs(t *rapid.T) []abrasive.Rung {
	grains := rapid.SliceOfN(rapid.SampledFrom([]float64{0.25, 0.5, 1, 3, 6, 9, 12.5, 25, 60, 100}), 0, 6).Draw(t, "grains")
	owned := []abrasive.Rung{{Grain: 125}}
	for _, g := range grains {
		owned = append(owned, abrasive.Rung{Grain: g, Polish: rapid.Bool().Draw(t, "polish")})
	}
	return append(owned, abrasive.Rung{Grain: rapid.SampledFrom([]float64{0.06, 0.3, 1}).Draw(t, "last"), Polish: true})
}

// TestBestLadder holds the search against all choices of rungs.
func TestBestLadder(t *testing.T) {
	r := abrasive.UsualRules
	sound := func(ladder []abrasive.Rung) bool {
		return !slices.ContainsFunc(abrasive.Climb(ladder, 0, r), func(s abrasive.Step) bool { return s.Finding != "" })
	}
	rapid.Check(t, func(t *rapid.T) {
		owned := rungs(t)
		last := len(owned) - 1
		places, ok := abrasive.Best(owned, 0, last, r)
		pick := func(places []int) []abrasive.Rung {
			var out []abrasive.Rung
			for _, p := range places {
				out = append(out, owned[p])
			}
			return out
		}
		fewest := 0
		for choice := range 1 << (last - 1) {
			var mid []int
			for i := 1; i < last; i++ {
				if choice&(1<<(i-1)) != 0 && !owned[i].Polish {
					mid = append(mid, i)
				}
			}
			slices.SortFunc(mid, func(a, b int) int { return int(1000 * (owned[b].Grain - owned[a].Grain)) })
			all := append(append([]int{0}, mid...), last)
			if sound(pick(all)) && (fewest == 0 || len(all) < fewest) {
				fewest = len(all)
			}
		}
		assert.Equal(t, fewest > 0, ok)
		assert.Equal(t, ok, sound(pick(places)))
		if ok {
			assert.Len(t, places, fewest)
		}
		// What is missing mends it.
		steps := abrasive.Climb(pick(places), 0, r)
		var mended []abrasive.Rung
		for i, p := range places {
			for _, grain := range steps[i].Between {
				mended = append(mended, abrasive.Rung{Grain: grain})
			}
			mended = append(mended, owned[p])
		}
		assert.True(t, sound(mended), "%v", mended)
	})
}

func TestLapFigures(t *testing.T) {
	assert.InDelta(t, 314.16, abrasive.Area(200, 0), 0.01)
	assert.InDelta(t, 1.571, abrasive.Speed(50, 300), 0.001)
}

// TestResidues draws what a lap meets.
func TestResidues(t *testing.T) {
	stones := []abrasive.Stone{{"Peridot", 6.5}, {"Rhodochrosite", 4}, {"Calcite", 3}, {"Kunzite", 6.5}, {}}
	grits := []abrasive.Grit{{}, {abrasive.Diamond, 0.5}, {abrasive.Diamond, 8}, {abrasive.Cerium, 1}}
	works := []abrasive.Grit{{abrasive.Diamond, 0.5}, {abrasive.Cerium, 1}, {abrasive.Diamond, 60}}
	l := abrasive.UsualLimits
	meeting := rapid.Custom(func(t *rapid.T) abrasive.Met {
		if rapid.IntRange(0, 3).Draw(t, "kind") == 0 {
			return abrasive.Met{Cleaned: rapid.SampledFrom(abrasive.Cleanings).Draw(t, "cleaned")}
		}
		return abrasive.Met{Grit: rapid.SampledFrom(grits).Draw(t, "grit"), Stone: rapid.SampledFrom(stones).Draw(t, "stone")}
	})
	rapid.Check(t, func(t *rapid.T) {
		s := rapid.SampledFrom(abrasive.Surfaces).Draw(t, "surface")
		met := rapid.SliceOfN(meeting, 0, 12).Draw(t, "met")
		next := rapid.SampledFrom(stones[:4]).Draw(t, "next")
		with := rapid.SampledFrom(works).Draw(t, "with")
		on := abrasive.Residues(s, met, next, with, l)
		if !slices.ContainsFunc(met, func(m abrasive.Met) bool { return m.Grit.Family != "" || m.Stone.Material != "" }) {
			assert.Empty(t, on, "a lap that met nothing is clean")
		}
		for _, r := range on {
			assert.True(t, slices.ContainsFunc(met, func(m abrasive.Met) bool {
				return r.Grit.Family != "" && m.Grit == r.Grit || r.Stone.Material != "" && m.Stone == r.Stone
			}), "what is on it, it met")
			assert.NotEqual(t, next.Material, r.Stone.Material)
		}
		// Each way takes back what it can, and nothing else.
		for _, c := range abrasive.Cleanings {
			left := abrasive.Residues(s, append(slices.Clone(met), abrasive.Met{Cleaned: c}), next, with, l)
			assert.Equal(t, slices.DeleteFunc(slices.Clone(on), func(r abrasive.Residue) bool { return c.Takes(r.Trace, s) }), left)
			if c.Fits(s) && slices.Contains(abrasive.Ways(s, on), c) {
				assert.Empty(t, left, "a way that is proposed leaves nothing")
			}
		}
		ways := abrasive.Ways(s, on)
		assert.Equal(t, abrasive.Renew, ways[len(ways)-1])
		// A meeting more never makes a lap cleaner.
		more := abrasive.Residues(s, append(slices.Clone(met), abrasive.Met{Stone: stones[2], Grit: grits[2]}), next, with, l)
		assert.GreaterOrEqual(t, len(more), len(on))
	})
	// Diamond that polishes peridot stays in a tin lap that is to work with alumina, until its face is skimmed.
	met := []abrasive.Met{{Grit: grits[1], Stone: stones[0]}, {Cleaned: abrasive.Scrub}}
	on := abrasive.Residues(abrasive.Metal, met, stones[3], abrasive.Grit{Family: abrasive.Alumina, Grain: 0.3}, l)
	assert.Equal(t, []abrasive.Residue{{Trace: abrasive.Coarse, Grit: grits[1]}}, on)
	assert.Equal(t, []abrasive.Cleaning{abrasive.Skim, abrasive.Renew}, abrasive.Ways(abrasive.Metal, on))
}
