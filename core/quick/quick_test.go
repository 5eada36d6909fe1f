package quick_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/core/quick"
)

// Whatever is wished for within the bounds is a whole stone of the right size, with
// its light kept.
func TestEveryWishBecomesAStone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w := quick.Wish{
			Outline:         rapid.SampledFrom([]quick.Outline{quick.Oval, quick.Cushion, quick.Rectangle}).Draw(t, "outline"),
			LengthWidth:     float64(rapid.IntRange(100, 160).Draw(t, "length/width")) / 100,
			Girdle:          4 * rapid.IntRange(2, 5).Draw(t, "girdle/4"),
			Gear:            rapid.SampledFrom([]int{64, 72, 80, 96, 120}).Draw(t, "gear"),
			RefractiveIndex: float64(rapid.IntRange(143, 220).Draw(t, "index")) / 100,
			Pavilion:        quick.Fan,
			Crown:           rapid.SampledFrom([]quick.Kind{quick.Bevel, quick.Steps}).Draw(t, "crown"),
			Table:           float64(rapid.IntRange(45, 65).Draw(t, "table")) / 100,
		}
		if w.Girdle == 8 {
			w.Pavilion = rapid.SampledFrom([]quick.Kind{quick.Fan, quick.Steps}).Draw(t, "pavilion")
		}
		d, err := quick.Design(w)
		require.NoError(t, err)
		require.Empty(t, d.Validate())
		stone, err := cutting.Cut(d)
		require.NoError(t, err)
		m := stone.Measures()
		assert.InDelta(t, w.LengthWidth, m.LengthWidth, 0.02)
		require.NotNil(t, m.TableWidth)
		assert.InDelta(t, w.Table, *m.TableWidth, 0.08)
		require.NotNil(t, m.GirdleBand)
		for _, tier := range d.Tiers {
			if tier.Part == diagram.Pavilion {
				assert.Greater(t, tier.Angle, material.CriticalAngle(w.RefractiveIndex)+1.5)
			}
			for _, i := range tier.Indexes {
				assert.Equal(t, i, float64(int(i)), "a whole tooth")
			}
		}
	})
}

func TestWishesThatCannotBeSayWhy(t *testing.T) {
	w := quick.Wish{Outline: quick.Oval, LengthWidth: 1, Girdle: 10, Gear: 96, RefractiveIndex: 1.54, Pavilion: quick.Fan, Crown: quick.Bevel, Table: 0.55}
	_, err := quick.Design(w)
	var p diagram.Problem
	require.ErrorAs(t, err, &p)
	assert.Equal(t, quick.NotFourfold, p.Code)
	w.Girdle, w.Gear = 32, 48
	_, err = quick.Design(w)
	require.ErrorAs(t, err, &p)
	assert.Equal(t, quick.NotFourfold, p.Code)
}
