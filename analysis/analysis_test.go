package analysis

import (
	"cmp"
	"context"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/light"
	"cressa/core/polyhedron"
	"cressa/demo"
	"cressa/workshop"
)

func draftOf(t *testing.T, name string) diagram.Draft {
	t.Helper()
	all, err := demo.Diagrams()
	require.NoError(t, err)
	require.Contains(t, all, name)
	return diagram.DraftOf(all[name])
}

func wholeOf(t *testing.T, name string) *cutting.Stone {
	t.Helper()
	stone, err := Whole(draftOf(t, name))
	require.NoError(t, err)
	return stone
}

// The fewest are moved: what stays rises, and no larger choice of what stays does. The
// oracle tries them all.
func TestTheFewestTiersAreMoved(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(0, 8).Draw(t, "n")
		order := rapid.Permutation(written(n)).Draw(t, "order")
		rises := slices.IsSorted[[]int]
		most := 0
		for mask := range 1 << n {
			var stay []int
			for i := range n {
				if mask>>i&1 == 1 {
					stay = append(stay, order[i])
				}
			}
			if rises(stay) {
				most = max(most, len(stay))
			}
		}
		out := moved(order)
		assert.Len(t, out, n-most)
		var stay []int
		for i, v := range order {
			if !slices.Contains(out, i) {
				stay = append(stay, v)
			}
		}
		assert.True(t, rises(stay), "%v without %v", order, out)
	})
}

func written(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	return out
}

func TestAWrongOrderIsMendedByMovingOneTier(t *testing.T) {
	draft := draftOf(t, "Three Sisters")
	good, err := JudgeOrder(t.Context(), draft, cutting.Preference{})
	require.NoError(t, err)
	assert.False(t, good.Better.Changed())
	require.Len(t, good.Optional, 1)
	assert.Nil(t, good.Optional[0].Missing)

	draft.Tiers[1], draft.Tiers[3] = draft.Tiers[3], draft.Tiers[1]
	bad, err := JudgeOrder(t.Context(), draft, cutting.Preference{})
	require.NoError(t, err)
	assert.False(t, bad.Cuttable)
	require.NotNil(t, bad.Better)
	assert.True(t, bad.Better.Changed())
	assert.LessOrEqual(t, len(bad.Better.Moved), 2)
	stone, err := Whole(bad.Better.Draft)
	require.NoError(t, err)
	assert.InDelta(t, wholeOf(t, "Three Sisters").Measures().Volume, stone.Measures().Volume, 1e-9)

	draft.Tiers[0].Angle = "steep"
	_, err = JudgeOrder(t.Context(), draft, cutting.Preference{})
	require.ErrorAs(t, err, &workshop.NotCuttable{})
}

func TestStopsAreFoundOrWordedAnew(t *testing.T) {
	draft := draftOf(t, "Little Dipper")
	whole, err := FindStops(t.Context(), draft)
	require.NoError(t, err)
	assert.False(t, whole.Guessed)
	require.Len(t, whole.Proposals, 1)
	same, err := Whole(whole.Proposals[0])
	require.NoError(t, err)
	assert.InDelta(t, wholeOf(t, "Little Dipper").Measures().Volume, same.Measures().Volume, 1e-9)

	bare := draft
	bare.Tiers = slices.Clone(draft.Tiers)
	bare.Tiers[len(bare.Tiers)-2].Stop = ""
	found, err := FindStops(t.Context(), bare)
	require.NoError(t, err)
	assert.True(t, found.Guessed)
	require.NotEmpty(t, found.Proposals)
	assert.LessOrEqual(t, len(found.Proposals), offered)
	assert.Equal(t, draft.Tiers[len(bare.Tiers)-2].Stop, found.Proposals[0].Tiers[len(bare.Tiers)-2].Stop)
}

func TestRoundingIsTakenAsItIsAsked(t *testing.T) {
	stone := wholeOf(t, "Parallax")
	still, err := MoveAngles(t.Context(), stone, AnglesAsked{})
	require.NoError(t, err)
	assert.Same(t, stone, still.After)
	assert.Less(t, still.WidestGap(), 1e-9)
	gap, residual := still.RoundingCost(still.Nearest, 9)
	assert.Zero(t, gap+residual, "what is not asked for costs nothing")

	ask := AnglesAsked{Target: &angles.Target{RefractiveIndex: 1.65, CrownFactor: 1}, Settable: angles.Steps(0.1), Search: true}
	nearest, err := MoveAngles(t.Context(), stone, ask)
	require.NoError(t, err)
	ask.Best = true
	best, err := MoveAngles(t.Context(), stone, ask)
	require.NoError(t, err)
	near, _ := nearest.RoundingCost(nearest.Nearest, 9)
	least, _ := best.RoundingCost(best.Best, 9)
	assert.Less(t, least, near)
	um := 1000 * MMPerUnit(stone, 9)
	assert.InDelta(t, near, um*nearest.WidestGap(), 1e-9)
	assert.InDelta(t, least, um*best.WidestGap(), 1e-9)
	for _, tier := range best.Tiers() {
		if _, tenths := math.Modf(10*tier.To + 1e-9); tier.To != tier.Exact {
			assert.InDelta(t, 0, tenths, 1e-6, tier.Name)
		}
		assert.InDelta(t, tier.To, tier.Exact, 0.1+1e-9)
	}
	ended, end := context.WithCancel(t.Context())
	end()
	cancelled, err := MoveAngles(ended, stone, ask)
	require.NoError(t, err)
	assert.Equal(t, cutting.Stopped, cancelled.Status, "a search that is stopped says so and gives what it has")
}

func TestTheLoupeSeesWhatAMachineWithoutACheaterLeavesOpen(t *testing.T) {
	draft := draftOf(t, "First Light")
	own, err := UnderTheLoupe(draft, LoupeAsked{})
	require.NoError(t, err)
	for _, m := range Meets(own.Meant, own.Errors, 8) {
		assert.Less(t, m.Gap, 1e-5)
		assert.Greater(t, len(m.Facets), 3)
	}
	coarse, err := UnderTheLoupe(draft, LoupeAsked{Gear: 80, WholeTeeth: true})
	require.NoError(t, err)
	worst := 0.0
	for _, m := range Meets(coarse.Meant, coarse.Errors, 8) {
		worst = max(worst, m.Gap)
	}
	gears, err := RankGears(own.Meant, workshop.Machine{Gears: []int{96, 80}, AngleStep: 0.1, AngleHigh: 95}, 8)
	require.NoError(t, err)
	require.Len(t, gears.Ranking, 2)
	assert.Equal(t, []int{96, 80}, []int{gears.Ranking[0].Teeth, gears.Ranking[1].Teeth})
	assert.InDelta(t, worst, gears.Ranking[1].Gap, 1e-6, "the table tells what the loupe shows")
	assert.Nil(t, gears.Proposed, "one that is owned carries it")

	other := draftOf(t, "Meridian")
	_, err = UnderTheLoupe(draft, LoupeAsked{Exact: &other})
	var p diagram.Problem
	require.ErrorAs(t, err, &p)
	assert.Equal(t, OtherFacets, p.Code)
	none, err := RankGears(own.Meant, workshop.Machine{Gears: []int{77}, AngleStep: 0.1, AngleHigh: 95}, 8)
	require.NoError(t, err)
	require.NotNil(t, none.Proposed)
	assert.Zero(t, none.Proposed.LargestCheat)
}

func TestMachineErrorsGrowWithTheStoneAndComeAgain(t *testing.T) {
	stone := wholeOf(t, "Parallax")
	ask := ErrorsAsked{Width: 8, Angle: 0.05, Index: 0.05, Trials: 60, Seed: 3}
	first, err := MachineErrors(t.Context(), stone, ask, func(int, int) {})
	require.NoError(t, err)
	again, err := MachineErrors(t.Context(), stone, ask, func(int, int) {})
	require.NoError(t, err)
	assert.Equal(t, first.Meets, again.Meets)
	ask.Width = 16
	large, err := MachineErrors(t.Context(), stone, ask, func(int, int) {})
	require.NoError(t, err)
	assert.InEpsilon(t, 2*first.Meets[0].P50, large.Meets[0].P50, 1e-9, "angles that are off open a stone twice as wide twice as far")
	sum := 0.0
	for _, s := range first.ByTier {
		sum += s.Share
	}
	assert.InDelta(t, 1, sum, 1e-9)
	steps := first.Roundings(angles.Steps)
	assert.True(t, slices.IsSortedFunc(steps, func(a, b RoundingStep) int { return cmp.Compare(a.Step, b.Step) }))
	ended, end := context.WithCancel(t.Context())
	end()
	_, err = MachineErrors(ended, stone, ask, func(int, int) {})
	assert.ErrorIs(t, err, context.Canceled)
}

func TestAFrostedGirdleCostsLightAndNoWork(t *testing.T) {
	e := light.Experiment{RefractiveIndex: 1.544, HeadAngle: light.HeadAngle}
	finishes, err := GirdleFinishes(t.Context(), wholeOf(t, "Meridian"), e, 3, 2)
	require.NoError(t, err)
	require.Len(t, finishes, 3)
	polished, cut := finishes[0], finishes[2]
	assert.InDelta(t, float64(polished.Visits)*2/60, polished.Hours, 1e-9)
	assert.Equal(t, 3*cut.Visits, polished.Visits)
	assert.Zero(t, polished.Tilted.Frosted)
	assert.Positive(t, cut.Tilted.Frosted)
	assert.Equal(t, finishes[1].FaceUp, cut.FaceUp, "all that is not polished looks alike")
	shape, err := polyhedron.Rule{Kind: polyhedron.Octahedron, Pose: polyhedron.CornerUp}.Shape()
	require.NoError(t, err)
	placed, err := shape.Place(t.Context(), polyhedron.Placing{Up: r3.Vec{Z: 1}, Name: "Die", Gear: 96, RefractiveIndex: 1.544})
	require.NoError(t, err)
	none, err := GirdleFinishes(t.Context(), placed.Stone, e, 3, 2)
	require.NoError(t, err)
	assert.Empty(t, none)
}

// A half-degree machine without a gear for it, a material that the diagram leaks in, a girdle in mm:
// all in one step, and the stone is whole.
func TestADiagramIsFittedToAMachineInOneStep(t *testing.T) {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	stone, err := cutting.Cut(all["Parallax"])
	require.NoError(t, err)
	ask := FitAsked{RefractiveIndex: 1.434, Settable: angles.Steps(0.5), Gears: []int{64, 80}, FirstSide: diagram.Pavilion, Girdle: 0.3, Width: 8}
	fitted, err := Fit(t.Context(), stone, ask)
	require.NoError(t, err)
	assert.True(t, fitted.Moved, "it would lose light in fluorite")
	assert.GreaterOrEqual(t, *LeastMargin(fitted.After, ask.RefractiveIndex), 0.5, "half a step may be lost to rounding")
	for _, tier := range fitted.After.Diagram.Tiers {
		assert.InDelta(t, 0, math.Mod(tier.Angle+0.25, 0.5)-0.25, 1e-9, tier.Name)
	}
	m := fitted.After.Measures()
	assert.InDelta(t, 0.3, *m.GirdleMin*8, 0.02)
	assert.Contains(t, ask.Gears, fitted.Gear.Teeth)
	assert.Empty(t, fitted.Kept)

	// In a material that it suits it is only rounded, unless that is asked for.
	ask.RefractiveIndex = 1.76
	rounded, err := Fit(t.Context(), stone, ask)
	require.NoError(t, err)
	assert.False(t, rounded.Moved)
	assert.Equal(t, stone.Diagram.RefractiveIndex, rounded.After.Diagram.RefractiveIndex)
	yes := true
	ask.Move = &yes
	moved, err := Fit(t.Context(), stone, ask)
	require.NoError(t, err)
	assert.Equal(t, 1.76, moved.After.Diagram.RefractiveIndex)

	ask.Move, ask.FirstSide = nil, diagram.Crown
	crown, err := Fit(t.Context(), stone, ask)
	require.NoError(t, err)
	assert.Equal(t, diagram.Crown, crown.After.Diagram.FirstSide)
	assert.Len(t, crown.Tiers(), len(stone.Diagram.Tiers))
}

// The table of a tier that is left off: fewer facets and hours, and light of its own; what others
// need cannot be left off.
func TestATierIsWeighedWithAndWithout(t *testing.T) {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	stone, err := cutting.Cut(all["First Light"])
	require.NoError(t, err)
	e := light.Experiment{RefractiveIndex: 1.54, Grid: 64}
	no := stone.Diagram.TierNo("T")
	with, without, err := WithAndWithout(t.Context(), stone, no, e, 3, 2, 8, 2.65)
	require.NoError(t, err)
	assert.Equal(t, with.Facets-1, without.Facets)
	assert.InDelta(t, with.Hours-0.1, without.Hours, 1e-9, "one facet, three passes of two minutes")
	assert.Greater(t, without.Carats, with.Carats)
	assert.NotEqual(t, with.Light, without.Light)
	_, _, err = WithAndWithout(t.Context(), stone, 0, e, 3, 2, 8, 2.65)
	var p diagram.Problem
	assert.ErrorAs(t, err, &p)
}
