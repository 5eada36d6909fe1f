package cutting_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/cutting"
	"cressa/core/solid"
	"cressa/demo"
)

// A stone that a machine tells about another point and at another turn lies where the plan has it again, also where one
// facet of it was cut too deep and planes came in beside.
func TestAToldStoneIsBroughtIntoThePlansFrame(t *testing.T) {
	t.Parallel()
	all, err := demo.Diagrams()
	require.NoError(t, err)
	for _, name := range []string{"First Light", "Spiral Arm"} {
		stone, err := cutting.Cut(all[name])
		require.NoError(t, err)
		rapid.Check(t, func(t *rapid.T) {
			degrees := rapid.Float64Range(-20, 20).Draw(t, "turn")
			move := rapid.Float64Range(-0.4, 0.4).Draw(t, "move")
			wrong := rapid.IntRange(0, len(stone.Facets)-1).Draw(t, "wrong")
			sin, cos := math.Sincos(degrees * math.Pi / 180)
			var told []solid.Plane
			for i, f := range stone.Facets {
				n := f.Plane.Normal
				p := solid.Plane{Normal: r3.Vec{X: n.X*cos + n.Y*sin, Y: n.Y*cos - n.X*sin, Z: n.Z}, D: f.Plane.D + n.Z*move}
				if i == wrong {
					p.D -= 0.02
				}
				told = append(told, p)
			}
			told = append(told, solid.Plane{Normal: r3.Unit(r3.Vec{X: 1, Y: 2, Z: 0.4}), D: 0.6})
			got := stone.Aligned(told)
			// By its symmetry a stone may lie in several ways: each plane lies on some facet.
			for i, p := range got[:len(stone.Facets)] {
				place, ok := stone.FacetLike(p)
				require.True(t, ok)
				want := stone.Facets[place].Plane
				assert.Less(t, r3.Norm(r3.Sub(want.Normal, p.Normal)), 1e-9)
				if i != wrong {
					assert.InDelta(t, want.D, p.D, 1e-9)
				}
			}
		})
	}
}
