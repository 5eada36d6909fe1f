package rough_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/diagram"
	"cressa/core/rough"
)

// seenFrom is where an eye above a face sees a point: found by trying where on the face light from there gets
// out towards the eye, by Fermat's principle, without the law that the sightings use.
func seenFrom(t require.TestingT, p, face r3.Vec, d float64, eye r3.Vec, index float64) rough.Sighting {
	foot := r3.Add(p, r3.Scale(d-r3.Dot(face, p), face))
	depth := r3.Norm(r3.Sub(foot, p))
	side := r3.Sub(eye, r3.Scale(r3.Dot(eye, face), face))
	if r3.Norm(side) < 1e-9 {
		return rough.Sighting{At: foot, Eye: eye}
	}
	side = r3.Unit(side)
	// The way inside by the index, less what the way outside is shorter by.
	way := func(x float64) float64 { return index*math.Hypot(x, depth) - x*r3.Dot(eye, side) }
	low, high := 0.0, 100*depth+1
	for range 200 {
		a, b := low+(high-low)/3, high-(high-low)/3
		if way(a) < way(b) {
			high = b
		} else {
			low = a
		}
	}
	require.Less(t, high, 100*depth)
	return rough.Sighting{At: r3.Add(foot, r3.Scale(low, side)), Eye: eye}
}

// A flaw in a block that is seen through two of its faces is where the sightings say.
func TestTwoSightingsFindAFlaw(t *testing.T) {
	box, ok := rough.Box(r3.Vec{X: 12, Y: 10, Z: 8})
	require.True(t, ok)
	rapid.Check(t, func(t *rapid.T) {
		p := r3.Vec{X: rapid.Float64Range(-3, 3).Draw(t, "x"), Y: rapid.Float64Range(-3, 3).Draw(t, "y"), Z: rapid.Float64Range(-2, 2).Draw(t, "z")}
		index := rapid.SampledFrom([]float64{1, 1.33, 1.54, 1.72}).Draw(t, "index")
		lean := func(name string) float64 { return rapid.Float64Range(-0.25, 0.25).Draw(t, name) }
		top := seenFrom(t, p, r3.Vec{Z: 1}, 4, r3.Unit(r3.Vec{X: lean("a"), Y: lean("b"), Z: 1}), index)
		side := seenFrom(t, p, r3.Vec{X: 1}, 6, r3.Unit(r3.Vec{X: 1, Y: lean("c"), Z: lean("d")}), index)
		at, gap, err := box.Locate([2]rough.Sighting{top, side}, index)
		require.NoError(t, err)
		assert.InDelta(t, 0, r3.Norm(r3.Sub(at, p)), 1e-5)
		assert.InDelta(t, 0, gap, 1e-5)
	})
}

// Sightings that tell no place say so; and what is seen on a slant lies deeper than it seems.
func TestSightingsThatTellNothing(t *testing.T) {
	box, ok := rough.Box(r3.Vec{X: 12, Y: 10, Z: 8})
	require.True(t, ok)
	down := rough.Sighting{At: r3.Vec{X: 1}, Eye: r3.Vec{Z: 1}}
	for field, second := range map[diagram.Field]rough.Sighting{
		"sightings.1.at": {At: r3.Vec{X: 40}, Eye: r3.Vec{Y: 1}},
		"sightings":      {At: r3.Vec{X: 1}, Eye: r3.Unit(r3.Vec{X: 0.1, Z: 1})},
	} {
		_, _, err := box.Locate([2]rough.Sighting{down, second}, 1.5)
		var problem diagram.Problem
		require.ErrorAs(t, err, &problem)
		assert.Equal(t, field, problem.Field)
	}
	straight, _, err := box.Locate([2]rough.Sighting{{Eye: r3.Unit(r3.Vec{X: 1, Z: 1})}, {Eye: r3.Unit(r3.Vec{X: -1, Z: 1})}}, 1)
	require.NoError(t, err)
	bent, _, err := box.Locate([2]rough.Sighting{{Eye: r3.Unit(r3.Vec{X: 1, Z: 1})}, {Eye: r3.Unit(r3.Vec{X: -1, Z: 1})}}, 1.2)
	require.NoError(t, err)
	assert.Less(t, bent.Z, straight.Z, "it lies deeper than it seems")
}
