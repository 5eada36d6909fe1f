package workshop_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/workshop"
)

// A peg in a hole sets the angle whose cosine is the hole's height over the peg's length.
func TestAPegInAHoleSetsItsAngle(t *testing.T) {
	m := workshop.DefaultMachine()
	m.Setting, m.Pegs, m.Holes, m.TableAdapter = workshop.InHoles, []float64{100, 120}, []float64{60, 70, 80, 110}, 0
	hole, ok := m.HoleFor(45.57)
	require.True(t, ok)
	assert.Equal(t, workshop.Hole{No: 2, Height: 70, Peg: 100, Angle: 45.57}, hole)
	assert.Len(t, m.HolesSorted(), 7, "the short peg does not reach the highest hole")
	for _, c := range []struct{ angle, below, above float64 }{
		{45.57, 45.57, 45.57}, {45.574, 45.574, 45.574}, // as a diagram may write it
		{47, 45.57, 48.19}, {90, 90, 90}, {0, 0, 0},
		{10, 23.56, 23.56}, {80, 60, 60},
	} {
		below, above := m.SettableAngles(c.angle)
		assert.InDelta(t, c.below, below, 1e-9, "%g", c.angle)
		assert.InDelta(t, c.above, above, 1e-9, "%g", c.angle)
	}
	assert.True(t, m.Reaches(23.56))
	assert.False(t, m.Reaches(20))
	rapid.Check(t, func(t *rapid.T) {
		angle := rapid.Float64Range(24, 59).Draw(t, "angle")
		below, above := m.SettableAngles(angle)
		assert.LessOrEqual(t, below, angle)
		assert.GreaterOrEqual(t, above, angle)
		nearest, _ := m.HoleFor(angle)
		assert.InDelta(t, nearest.Height, nearest.Peg*math.Cos(nearest.Angle*math.Pi/180), 0.02)
		for _, h := range m.HolesSorted() {
			assert.LessOrEqual(t, math.Abs(nearest.Angle-angle), math.Abs(h.Angle-angle))
			assert.False(t, h.Angle > below && h.Angle < above)
		}
	})
}
