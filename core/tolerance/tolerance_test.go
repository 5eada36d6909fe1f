package tolerance_test

import (
	"context"
	"math"
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
		assert.Equal(t, 500000, total)
		if cut.Add(1) == 10 {
			cancel()
		}
	})
	assert.ErrorIs(t, err, context.Canceled)
	assert.Less(t, cut.Load(), int64(1000))
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
