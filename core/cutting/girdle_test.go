package cutting_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/cutting"
)

// Where the girdle is thinnest and where it is thickest it has that thickness in that direction, and between them nowhere else.
func TestTheGirdleIsMeasuredAllRound(t *testing.T) {
	for _, name := range []string{"round", "emerald", "pinwheel", "skew"} {
		s, err := cutting.Cut(load(t, name))
		require.NoError(t, err)
		thinnest, thickest, ok := s.Girdle()
		require.True(t, ok)
		for _, g := range []cutting.Gauge{thinnest, thickest} {
			got, ok := s.GirdleAt(math.Atan2(g.Low.X, g.Low.Y) * 180 / math.Pi)
			require.True(t, ok, name)
			assert.InDelta(t, g.Thickness(), got, 1e-9, name)
		}
		for a := range 360 {
			got, ok := s.GirdleAt(float64(a))
			require.True(t, ok, name)
			assert.GreaterOrEqual(t, got, thinnest.Thickness()-1e-9, name)
			assert.LessOrEqual(t, got, thickest.Thickness()+1e-9, name)
		}
	}
}
