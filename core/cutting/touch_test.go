package cutting_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

// A preform holds the stone with room all round, and what is cut out of it is the stone.
func TestAStoneComesOutOfItsPreform(t *testing.T) {
	for _, name := range examples {
		stone := mustCut(t, load(t, name))
		preform := stone.Preform()
		size := stone.Solid().Bounds().Size()
		for _, f := range preform.Faces() {
			assert.True(t, f.OfBlock())
			for _, v := range stone.Solid().Vertices() {
				assert.Less(t, f.Plane.Above(stone.Solid().Point(v)), -0.05*math.Max(size.X, size.Z))
			}
		}
		order := make([]int, len(stone.Facets))
		for i := range order {
			order[i] = i
		}
		steps, err := stone.Replay(stone.Preform(), order)
		require.NoError(t, err)
		assert.InDelta(t, stone.Solid().Volume(), steps[len(steps)-1].Volume(), 1e-9)
		assert.Less(t, preform.Volume(), 4*stone.Solid().Volume())
	}
}

// A facet that is held to the lap for a moment lies flat at 0.3 of its way, inside the stone as it
// then is. What is told as a false meet is a corner of it that the cut takes off, and no corner of
// cut facets lies nearer to the stop.
func TestWhereAFacetComesInIsOnTheStoneAsItIs(t *testing.T) {
	const slack = 1e-7
	tempting := 0
	for _, name := range examples {
		stone := mustCut(t, load(t, name))
		for i, f := range stone.Facets {
			before := stone.After[i]
			touch, ok := f.Touch(before)
			require.True(t, ok, "%s facet %d", name, i)
			contact := math.Inf(-1)
			for _, v := range before.Vertices() {
				contact = math.Max(contact, r3.Dot(f.Plane.Normal, before.Point(v)))
			}
			require.GreaterOrEqual(t, len(touch.Patch), 3)
			for _, p := range touch.Patch {
				assert.InDelta(t, contact-0.3*(contact-f.Plane.D), r3.Dot(f.Plane.Normal, p), slack)
				for _, face := range before.Faces() {
					assert.LessOrEqual(t, face.Plane.Above(p), slack)
				}
			}
			nearest := 0.5 * (contact - f.Plane.D)
			for _, c := range before.Corners() {
				early := f.Plane.Above(before.Point(c.Vertex))
				if early > 1e-6 && c.Faces[0] >= 0 {
					nearest = math.Min(nearest, early)
				}
			}
			switch {
			case touch.False != nil:
				tempting++
				require.True(t, f.AtMeet, "where nothing is met nothing tempts")
				assert.InDelta(t, nearest, touch.Early, slack)
				assert.InDelta(t, nearest, f.Plane.Above(*touch.False), slack)
			case f.AtMeet:
				assert.InDelta(t, 0.5*(contact-f.Plane.D), nearest, slack, "%s facet %d has none", name, i)
			}
		}
	}
	assert.Positive(t, tempting)
}
