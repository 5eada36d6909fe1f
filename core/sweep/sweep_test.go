package sweep_test

import (
	"context"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/light"
	"cressa/core/sweep"
	"cressa/demo"
)

// shipped cuts a starter.
func shipped(t testing.TB, name string) *cutting.Stone {
	t.Helper()
	all, err := demo.Diagrams()
	require.NoError(t, err)
	require.Contains(t, all, name)
	s, err := cutting.Cut(all[name])
	require.NoError(t, err)
	return s
}

func factors(steps int) sweep.Field {
	return sweep.Field{
		X:               sweep.Axis{Kind: sweep.Pavilion, From: 0.8, To: 1.2, Steps: steps},
		Y:               sweep.Axis{Kind: sweep.Crown, From: 0.8, To: 1.2, Steps: steps},
		RefractiveIndex: 1.72, HeadAngle: light.HeadAngle,
	}
}

func TestAPointIsTheStoneThatItNames(t *testing.T) {
	for _, name := range []string{"First Light", "Meridian", "Spiral Arm"} {
		s := shipped(t, name)
		f := factors(5)
		var told atomic.Int64
		points, err := sweep.Run(context.Background(), s, f, func(int, sweep.Point) { told.Add(1) })
		require.NoError(t, err)
		require.Len(t, points, 25)
		assert.EqualValues(t, 25, told.Load())
		// The middle is the diagram as it is; the last point is deeper on both sides.
		here, deep := points[12], points[24]
		assert.InDelta(t, 1, here.X, 1e-12)
		assert.True(t, here.Whole)
		want, err := light.Of(s).Trace(context.Background(), light.Experiment{RefractiveIndex: 1.72, Grid: 256, Tilt: 0.01, To: 33, HeadAngle: light.HeadAngle})
		require.NoError(t, err)
		assert.InDelta(t, want.Up, here.Up, 0.01, name)
		assert.InDelta(t, want.Return(light.Head), here.Return(light.Head), 0.01, name)
		assert.InDelta(t, want.HeadShadow, here.HeadShadow, 0.01, name)
		assert.InDelta(t, s.Measures().HeightWidth, here.HeightWidth, 1e-9)
		assert.Greater(t, deep.HeightWidth, here.HeightWidth)
		assert.Greater(t, deep.VolumeFactor, here.VolumeFactor)
		assert.Greater(t, deep.Margin, here.Margin)
		// What is picked is what was looked at.
		cut, err := f.At(s, deep.X, deep.Y)
		require.NoError(t, err)
		assert.InDelta(t, cut.Measures().HeightWidth, deep.HeightWidth, 1e-9)
	}
}

func TestATierIsSweptByItsAngle(t *testing.T) {
	s := shipped(t, "First Light")
	f := factors(3)
	axes := sweep.Axes(s.Diagram)
	require.Len(t, axes, 2+len(s.Diagram.Tiers)-1, "all but the table")
	for i := range axes[1:] {
		require.NoError(t, sweep.Field{X: axes[i], Y: axes[i+1]}.Check(s.Diagram))
	}
	f.X = axes[2]
	x, y := f.Present(s.Diagram)
	assert.Equal(t, s.Diagram.Tiers[0].Angle, x)
	assert.Equal(t, 1.0, y)
	cut, err := f.At(s, x+1, 1.05)
	require.NoError(t, err)
	assert.Equal(t, x+1, cut.Diagram.Tiers[0].Angle)
	same, err := f.Look(context.Background(), s, x, y)
	require.NoError(t, err)
	assert.True(t, same.Whole)
	// Far below its neighbours the tier cuts them away.
	gone, err := f.Look(context.Background(), s, 20, 1)
	require.NoError(t, err)
	assert.False(t, gone.Whole)
}

func TestASweepThatCannotBeAndOneThatIsStopped(t *testing.T) {
	s := shipped(t, "First Light")
	for _, spoil := range []func(*sweep.Field){
		func(f *sweep.Field) { f.X.From = 0 },
		func(f *sweep.Field) { f.X.To = f.X.From },
		func(f *sweep.Field) { f.Y.Kind = sweep.Pavilion },
		func(f *sweep.Field) { f.Y = sweep.Axis{Kind: sweep.Tier, Tier: 99, From: 1, To: 2, Steps: 2} },
		func(f *sweep.Field) { f.Y = sweep.Axis{Kind: sweep.Crown, From: 1, To: 10.1, Steps: 2} },
	} {
		f := factors(3)
		spoil(&f)
		_, err := sweep.Run(context.Background(), s, f, func(int, sweep.Point) {})
		assert.ErrorAs(t, err, new(diagram.Problem))
	}
	ctx, stop := context.WithCancel(context.Background())
	_, err := sweep.Run(ctx, s, factors(20), func(int, sweep.Point) { stop() })
	assert.ErrorIs(t, err, context.Canceled)
}

func BenchmarkSweep(b *testing.B) {
	for _, name := range []string{"First Light", "Meridian", "Deep Field"} {
		s := shipped(b, name)
		b.Run(name+"/40x40", func(b *testing.B) {
			for b.Loop() {
				_, err := sweep.Run(b.Context(), s, factors(40), func(int, sweep.Point) {})
				require.NoError(b, err)
			}
		})
	}
}
