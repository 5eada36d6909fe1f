package linear_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/optimize/convex/lp"
	"pgregory.net/rapid"

	"cressa/core/linear"
)

type limit struct {
	a [linear.Most]float64
	b float64
}

func box(n int, half float64) *linear.Program {
	low, high := make([]float64, n), make([]float64, n)
	for k := range n {
		low[k], high[k] = -half, half
	}
	return linear.New(low, high)
}

func within(t require.TestingT, limits []limit, x [linear.Most]float64) {
	for _, l := range limits {
		sum := 0.0
		for k, a := range l.a {
			sum += a * x[k]
		}
		require.LessOrEqual(t, sum, l.b+1e-9)
	}
}

// byOthers solves the same program by a general simplex: x = u − v, with a slack for each limit.
func byOthers(n int, limits []limit, goal [linear.Most]float64, half float64) (float64, error) {
	rows := len(limits) + 2*n
	a, b, c := mat.NewDense(rows, 2*n+rows, nil), make([]float64, rows), make([]float64, 2*n+rows)
	set := func(i int, l limit) {
		for k := range n {
			a.Set(i, k, l.a[k])
			a.Set(i, n+k, -l.a[k])
		}
		a.Set(i, 2*n+i, 1)
		b[i] = l.b
	}
	for i, l := range limits {
		set(i, l)
	}
	for k := range n {
		for side, sign := range []float64{1, -1} {
			l := limit{b: half}
			l.a[k] = sign
			set(len(limits)+2*k+side, l)
		}
		c[k], c[n+k] = -goal[k], goal[k]
	}
	best, _, err := lp.Simplex(c, a, b, 1e-12, nil)
	return -best, err
}

// drawn are limits of a random program; integers make ties and degenerate corners likely.
func drawn(t *rapid.T, n int) ([]limit, linear.Goal) {
	figure := rapid.Float64Range(-3, 3)
	if rapid.Bool().Draw(t, "whole") {
		figure = rapid.Map(rapid.IntRange(-3, 3), func(i int) float64 { return float64(i) })
	}
	limits := make([]limit, rapid.IntRange(0, 40).Draw(t, "limits"))
	for i := range limits {
		for k := range n {
			limits[i].a[k] = figure.Draw(t, "a")
		}
		limits[i].b = float64(rapid.IntRange(-50, 600).Draw(t, "b")) / 100
	}
	var g linear.Goal
	for k := range n {
		g.First[k], g.Then[k] = figure.Draw(t, "first"), figure.Draw(t, "then")
	}
	return limits, g
}

// The best corner is within all limits and as high as a general simplex puts it; what it says is
// impossible is so, and a floor is believed only where nothing lies above it.
func TestTheBestCornerIsThatOfAGeneralSimplex(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 5).Draw(t, "n")
		limits, g := drawn(t, n)
		p := box(n, 10)
		for _, l := range limits {
			p.Limit(l.a, l.b)
		}
		s := p.Start(&g)
		status := p.Solve(&s, &g, math.Inf(-1))
		want, err := byOthers(n, limits, g.First, 10)
		if err != nil {
			require.NotEqual(t, linear.Optimal, status)
			return
		}
		require.Equal(t, linear.Optimal, status)
		within(t, limits, s.X)
		again := p.Restore(s.Corner(), &g)
		require.InDelta(t, g.Value(&s), g.Value(&again), 1e-9)
		require.InDelta(t, want, g.Value(&s), 1e-7)

		floor := want + rapid.Float64Range(-1, 1).Draw(t, "floor")
		s = p.Start(&g)
		if status = p.Solve(&s, &g, floor); floor > want+1e-6 {
			require.Equal(t, linear.Below, status)
		} else if floor < want-1e-6 {
			require.Equal(t, linear.Optimal, status)
		}
	})
}

// A limit that is added later leads to the corner that it leads to from the beginning.
func TestALaterLimitIsTakenInFromWhereTheProgramStood(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		limits, g := drawn(t, 4)
		before, after := box(4, 10), box(4, 10)
		for i, l := range limits {
			after.Limit(l.a, l.b)
			if i%3 > 0 {
				before.Limit(l.a, l.b)
			}
		}
		warm := before.Start(&g)
		if before.Solve(&warm, &g, math.Inf(-1)) != linear.Optimal {
			return
		}
		kept := before.Limits()
		possible := true
		for i, l := range limits {
			if i%3 == 0 {
				before.Limit(l.a, l.b)
				possible = possible && before.TakeIn(&warm, before.Limits()-1)
			}
		}
		cold := after.Start(&g)
		if after.Solve(&cold, &g, math.Inf(-1)) != linear.Optimal {
			require.True(t, !possible || before.Solve(&warm, &g, math.Inf(-1)) == linear.Impossible)
			return
		}
		require.True(t, possible)
		require.Equal(t, linear.Optimal, before.Solve(&warm, &g, math.Inf(-1)))
		require.InDelta(t, g.Value(&cold), g.Value(&warm), 1e-7)
		before.Keep(kept)
		require.Equal(t, kept, before.Limits())
	})
}

// Of equal corners the second goal takes one.
func TestAmongEqualCornersTheSecondGoalDecides(t *testing.T) {
	p := box(3, 1)
	for _, to := range []float64{-1, 1} {
		g := linear.Goal{First: [linear.Most]float64{1}, Then: [linear.Most]float64{0, to, -to}}
		s := p.Start(&g)
		require.Equal(t, linear.Optimal, p.Solve(&s, &g, math.Inf(-1)))
		assert.Equal(t, []float64{1, to, -to}, s.X[:3])
		assert.InDelta(t, 1, p.Pays(&s, 0), 1e-12)
		assert.Zero(t, p.Pays(&s, 2))
	}
}
