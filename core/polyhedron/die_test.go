package polyhedron_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/polyhedron"
)

// Faces that lie opposite add up to one more than there are faces, each number stands once, and the circle in a face touches its
// edges: in a square it is as wide as that, in an equilateral triangle a third of its height from each side.
func TestADieHasItsNumbersAndCircles(t *testing.T) {
	for kind, circle := range map[polyhedron.Kind]float64{
		polyhedron.Cube: 0.5, polyhedron.Octahedron: math.Sqrt(3) / 6, polyhedron.Icosahedron: math.Sqrt(3) / 6,
		polyhedron.Dodecahedron: 0.5 / math.Tan(math.Pi/5),
	} {
		shape, err := polyhedron.Rule{Kind: kind, Pose: polyhedron.FaceUp}.Shape()
		require.NoError(t, err)
		body := shape.Solid
		edge := r3.Norm(r3.Sub(body.Point(body.Faces()[0].Loop[0]), body.Point(body.Faces()[0].Loop[1])))
		die := polyhedron.Die(body)
		require.Len(t, die, len(body.Faces()), kind)
		numbers := map[int]int{}
		for _, f := range die {
			numbers[f.Face] = f.Number
			assert.InDelta(t, circle*edge, f.Radius, 1e-9, kind)
			assert.InDelta(t, 0, body.Face(f.Face).Plane.Above(f.Middle), 1e-9)
			assert.InDelta(t, 2*body.Face(f.Face).Plane.D, f.Across, 1e-9)
		}
		for _, f := range die {
			assert.Equal(t, len(die)+1, f.Number+numbers[f.Opposite], kind)
		}
		seen := map[int]bool{}
		for _, n := range numbers {
			seen[n] = true
		}
		assert.Len(t, seen, len(die), kind)
	}
	tetrahedron, err := polyhedron.Rule{Kind: polyhedron.Tetrahedron, Pose: polyhedron.FaceUp}.Shape()
	require.NoError(t, err)
	for _, f := range polyhedron.Die(tetrahedron.Solid) {
		assert.Equal(t, -1, f.Opposite)
	}
}

// Edges and corners are eased by the width that is asked for, and a die that is eased becomes a diagram.
func TestEdgesAndCornersAreEased(t *testing.T) {
	cube, err := polyhedron.Rule{Kind: polyhedron.Cube, Pose: polyhedron.FaceUp}.Shape()
	require.NoError(t, err)
	edge := math.Cbrt(cube.Solid.Volume())
	eased, err := cube.Eased(0.06*edge, 0.15*edge)
	require.NoError(t, err)
	require.Len(t, eased.Solid.Faces(), 6+12+8)
	for _, f := range eased.Solid.Faces() {
		switch {
		case f.ID < 6:
		case f.ID < 18:
			// The bevel of a cube lies between two of its axes and runs along the third.
			n := f.Plane.Normal
			along := r3.Vec{}
			for k, c := range []float64{n.X, n.Y, n.Z} {
				if math.Abs(c) < 1e-9 {
					along = []r3.Vec{{X: 1}, {Y: 1}, {Z: 1}}[k]
				}
			}
			across := r3.Cross(n, along)
			low, high := math.Inf(1), math.Inf(-1)
			for _, v := range f.Loop {
				at := r3.Dot(across, eased.Solid.Point(v))
				low, high = min(low, at), max(high, at)
			}
			assert.InDelta(t, 0.06*edge, high-low, 1e-9)
		}
	}
	assert.Len(t, polyhedron.Die(eased.Solid), 6, "bevels take no numbers")
	stone := place(t, eased, polyhedron.Placing{Up: up})
	width := stone.Measures().Width
	assert.InDelta(t, eased.Solid.Volume()/(edge*edge*edge), stone.Solid().Volume()/(width*width*width), 1e-6)

	_, err = cube.Eased(3*edge, 0)
	var p diagram.Problem
	require.ErrorAs(t, err, &p)
	assert.Equal(t, polyhedron.TooEased, p.Code)
}
