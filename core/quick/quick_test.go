package quick_test

import (
	"math"
	"slices"
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

// Outlines with corners become stones whose girdle has these sides, whichever way they are drawn.
func TestAnOutlineWithCornersBecomesAStone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w := quick.Wish{
			Outline:     rapid.SampledFrom([]quick.Outline{quick.Regular, quick.Triangle, quick.Kite, quick.Parallelogram}).Draw(t, "outline"),
			LengthWidth: float64(rapid.IntRange(100, 160).Draw(t, "length/width")) / 100,
			Gear:        rapid.SampledFrom([]int{64, 72, 80, 96, 120}).Draw(t, "gear"), RefractiveIndex: 1.54,
			Sides: rapid.IntRange(3, 12).Draw(t, "sides"), Slant: float64(rapid.IntRange(60, 85).Draw(t, "slant")), Widest: 0.35,
			Pavilion: quick.Fan, Crown: quick.Bevel, Table: 0.5, WholeTeeth: rapid.Bool().Draw(t, "whole teeth"),
		}
		d, err := quick.Design(w)
		require.NoError(t, err)
		stone, err := cutting.Cut(d)
		require.NoError(t, err)
		want := map[quick.Outline]int{quick.Regular: w.Sides, quick.Triangle: 3, quick.Kite: 4, quick.Parallelogram: 4}[w.Outline]
		flats := 0
		for _, tier := range d.Tiers {
			if tier.Part == diagram.Girdle {
				flats += len(tier.Indexes)
			}
			for _, i := range tier.Indexes {
				assert.True(t, !w.WholeTeeth || i == math.Round(i))
			}
		}
		assert.Equal(t, want, flats)
		assert.Equal(t, 3*want+1, stone.Measures().Facets)
		if w.Outline != quick.Regular && !w.WholeTeeth {
			assert.InDelta(t, w.LengthWidth, stone.Measures().LengthWidth, 0.005)
		}
	})
	lopsided := []quick.Corner{{X: 0, Y: 5}, {X: 4, Y: 3}, {X: 3, Y: -4}, {X: -2, Y: -4}, {X: -4, Y: 1}}
	var volume float64
	for _, reversed := range []bool{false, true} {
		w := quick.Wish{Outline: quick.Cornered, LengthWidth: 1, Gear: 96, RefractiveIndex: 1.6, Pavilion: quick.Fan, Crown: quick.Bevel, Table: 0.5, Corners: slices.Clone(lopsided)}
		if reversed {
			slices.Reverse(w.Corners)
		}
		d, err := quick.Design(w)
		require.NoError(t, err)
		stone, err := cutting.Cut(d)
		require.NoError(t, err)
		assert.Equal(t, 16, stone.Measures().Facets)
		if reversed {
			assert.InDelta(t, volume, stone.Measures().Volume, 1e-9)
		}
		volume = stone.Measures().Volume
		// Seen from above, the corners of the girdle lie where they were drawn.
		size := stone.Solid().Bounds().Size()
		assert.InDelta(t, 9.0/8, size.Y/size.X, 0.005)
	}
	_, err := quick.Design(quick.Wish{Outline: quick.Cornered, Gear: 96, RefractiveIndex: 1.6, Corners: []quick.Corner{{X: 0, Y: 5}, {X: 4, Y: -4}, {X: 0, Y: -1}, {X: -4, Y: -4}}})
	var p diagram.Problem
	require.ErrorAs(t, err, &p)
	assert.Equal(t, quick.HollowOutline, p.Code)
	assert.EqualValues(t, 3, p.Value)
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
