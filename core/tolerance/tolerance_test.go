package tolerance_test

import (
	"context"
	"math"
	"slices"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/floats"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/tolerance"
	"cressa/demo"
)

// pyramid is a square stone whose pavilion comes to one point.
func pyramid(t *testing.T) *cutting.Stone {
	ring := []float64{24, 48, 72, 96}
	d := &diagram.Diagram{Format: diagram.Format, Name: "pyramid", Gear: 96, RefractiveIndex: 1.54, Tiers: []diagram.Tier{
		{Name: "P1", Part: diagram.Pavilion, Angle: 42, Indexes: ring, Stop: diagram.Stop{Kind: diagram.Centre}},
		{Name: "G1", Part: diagram.Girdle, Angle: 90, Indexes: ring, Stop: diagram.Stop{Kind: diagram.Size, Radius: 0.5}},
		{Name: "C1", Part: diagram.Crown, Angle: 35, Indexes: ring, Stop: diagram.Stop{Kind: diagram.GirdleBand, Thickness: 0.02}},
		{Name: "T", Part: diagram.Crown, Angle: 0, Indexes: []float64{96}, Stop: diagram.Stop{Kind: diagram.Width, Ratio: 0.6}},
	}}
	d.FillDefaults()
	s, err := cutting.Cut(d)
	require.NoError(t, err)
	return s
}

func run(t *testing.T, s *cutting.Stone, spread tolerance.Spread, trials int, seed uint64) *tolerance.Result {
	r, err := tolerance.Run(context.Background(), s, spread, trials, seed, func(int, int) {})
	require.NoError(t, err)
	return r
}

// Four facets off by a, b, c and d along their normals leave a ridge of
// |(a + c) − (b + d)|/sin t where the point was: the folded normal distribution of a
// sum of four.
func TestTheRidgeOfAPyramidIsAsLongAsReckoned(t *testing.T) {
	const depth = 0.001
	s := pyramid(t)
	got := run(t, s, tolerance.Spread{Depth: depth}, 2500, 1)
	require.Len(t, got.Meets, 9, "the culet and both ends of the girdle's corners")
	for _, m := range got.Meets {
		if s.Facets[m.Facets[3]].Tier != 0 {
			continue
		}
		ridge := 2 * depth / math.Sin(42*math.Pi/180)
		assert.InDelta(t, 1, m.P50/(0.6745*ridge), 0.07)
		assert.InDelta(t, 1, m.P95/(1.96*ridge), 0.07)
		return
	}
	t.Fatal("the culet is no meet")
}

// An angle that is off moves a facet at the girdle by R·δ/cos²t, and both facets of a
// tier alike: a square pyramid keeps its point when only the angle is off.
func TestATierSetOnceKeepsItsPoint(t *testing.T) {
	s := pyramid(t)
	got := run(t, s, tolerance.Spread{Angle: 0.1}, 200, 1)
	for _, m := range got.Meets {
		if s.Facets[m.Facets[3]].Tier == 0 {
			assert.Less(t, m.P95, 1e-7)
		}
	}
}

func TestSharesSeedsAndCancelling(t *testing.T) {
	s := pyramid(t)
	spread := tolerance.Spread{Angle: 0.05, Index: 0.05, Depth: 0.0005}
	one, same, other := run(t, s, spread, 150, 7), run(t, s, spread, 150, 7), run(t, s, spread, 150, 8)
	assert.Equal(t, one, same)
	assert.NotEqual(t, one.Meets[0].P95, other.Meets[0].P95)
	assert.InDelta(t, 1, floats.Sum(one.Shares), 1e-9)
	worst := one.Meets[0]
	for tier, part := range one.Shares {
		mine := false
		for _, f := range worst.Facets {
			mine = mine || s.Facets[f].Tier == tier
		}
		assert.Equal(t, mine, part > 0, "only tiers that come to the meet can open it")
	}
	none := run(t, s, tolerance.Spread{}, 20, 1)
	assert.Zero(t, none.Meets[0].P95)
	assert.Zero(t, floats.Sum(none.Shares))

	ctx, cancel := context.WithCancel(context.Background())
	var cut atomic.Int64
	_, err := tolerance.Run(ctx, s, spread, 100000, 1, func(done, total int) {
		assert.Equal(t, 100000, total, "what counts is the stones asked for")
		if cut.Add(1) == 10 {
			cancel()
		}
	})
	assert.ErrorIs(t, err, context.Canceled)
	assert.Less(t, cut.Load(), int64(1000))
}

// A tier's facets, and those of a meet, may be listed in any order: where a plane touches two
// stop points at once, either may stand first.
func TestNoFigureDependsOnTheOrderOfIndexes(t *testing.T) {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	d := all["First Light"]
	spread := tolerance.Spread{Angle: 0.05, Index: 0.1, Depth: 0.0005}
	turned := *d
	turned.Tiers = slices.Clone(d.Tiers)
	for i := range turned.Tiers {
		indexes := slices.Clone(turned.Tiers[i].Indexes)
		half := len(indexes) / 2
		slices.Reverse(indexes[:half])
		slices.Reverse(indexes)
		turned.Tiers[i].Indexes = indexes
	}
	one, err := cutting.Cut(d)
	require.NoError(t, err)
	two, err := cutting.Cut(&turned)
	require.NoError(t, err)
	a, b := run(t, one, spread, 60, 3), run(t, two, spread, 60, 3)
	require.Len(t, b.Meets, len(a.Meets))
	for i, m := range a.Meets {
		assert.InDelta(t, m.P95, b.Meets[i].P95, 1e-9)
	}
	assert.InDeltaSlice(t, a.Shares, b.Shares, 1e-6)
	for _, teeth := range []int{64, 80} {
		gap := func(s *cutting.Stone) float64 {
			errs, err := s.MeetErrors(s.AtWholeTeeth(teeth, cutting.Together(0)))
			require.NoError(t, err)
			return errs[0].Gap
		}
		assert.InDelta(t, gap(one), gap(two), 1e-9, "on %d teeth", teeth)
	}
}

// Eight-fold stones have few kinds of meets; a stone that is the same nowhere has each its own.
func TestMeetsThatASymmetryMapsOntoEachOtherShareTheirFigure(t *testing.T) {
	s := pyramid(t)
	got := run(t, s, tolerance.Spread{Angle: 0.05, Index: 0.05, Depth: 0.0005}, 40, 1)
	figures := map[int]tolerance.Meet{}
	for _, m := range got.Meets {
		if first, ok := figures[m.Kind]; ok {
			assert.Equal(t, first.P95, m.P95)
			assert.InDelta(t, first.Point.Z, m.Point.Z, 1e-9)
		}
		figures[m.Kind] = m
	}
	assert.Len(t, figures, 3, "the culet, and the girdle's corners below and above")

	lop := *s.Diagram
	lop.Tiers = slices.Clone(lop.Tiers)
	lop.Tiers[0].Angle = 42
	lop.Tiers[0].Indexes = []float64{24, 72}
	lop.Tiers = append(lop.Tiers[:1:1], append([]diagram.Tier{{Name: "P2", Part: diagram.Pavilion, Angle: 42, Indexes: []float64{48, 96}, Stop: diagram.Stop{Kind: diagram.Centre}}}, lop.Tiers[1:]...)...)
	swapped, err := cutting.Cut(&lop)
	require.NoError(t, err)
	assert.Len(t, swapped.AlikeMeets(swapped.Meets()), 3, "a quarter turn swaps the two tiers whole, and no figure knows them apart")

	lop.Tiers[1].Angle = 44
	uneven, err := cutting.Cut(&lop)
	require.NoError(t, err)
	for _, kind := range uneven.AlikeMeets(uneven.Meets()) {
		assert.LessOrEqual(t, len(kind), 4)
	}
}

func TestTwoSeedsAgreeWithin2PerCent(t *testing.T) {
	s := pyramid(t)
	spread := tolerance.Spread{Angle: 0.05, Index: 0.05, Depth: 0.0005}
	a, b := run(t, s, spread, tolerance.Usual, 1), run(t, s, spread, tolerance.Usual, 2)
	assert.InEpsilon(t, a.Meets[0].P95, b.Meets[0].P95, 0.02)
}

// What cutting one stone with errors costs, on all cores.
func BenchmarkTrials(b *testing.B) {
	all, err := demo.Diagrams()
	require.NoError(b, err)
	s, err := cutting.Cut(all["First Light"])
	require.NoError(b, err)
	for b.Loop() {
		_, err := tolerance.Run(context.Background(), s, tolerance.Spread{Angle: 0.05, Index: 0.05, Depth: 0.0005}, 100, 1, func(int, int) {})
		require.NoError(b, err)
	}
	b.ReportMetric(float64(b.Elapsed().Microseconds())/float64(b.N)/100/float64(1+len(s.Diagram.Tiers)), "µs/stone")
}

func TestReadingsScatterByTheirStandardDeviation(t *testing.T) {
	// (0.1² + 0.1² + 0² + 0²) / 3, by hand.
	assert.InDelta(t, math.Sqrt(0.02/3), tolerance.Scatter([]float64{42, 42.1, 41.9, 42}), 1e-12)
	assert.Zero(t, tolerance.Scatter([]float64{42, 42, 42}))
}
