package diagram_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/internal/ceiling"
)

func TestShorthandsCountOnTheGear(t *testing.T) {
	for text, want := range map[string]string{
		"every 12 from 96":          "96-12-24-36-48-60-72-84",
		"Every 24":                  "96-24-48-72",
		"every 8 from 4 to 28":      "4-12-20-28",
		"every 12 from 90 to 6":     "90-6",
		"3, mirrored":               "3-93",
		"3, mirrored, 4-fold":       "3-21-27-45-51-69-75-93",
		"3 mirrored 4 fold":         "3-21-27-45-51-69-75-93",
		"96, mirrored, 2-fold":      "48-96",
		"1.5, 2-fold":               "1.5-49.5",
		"2-4, mirrored":             "2-4-92-94",
		"every 48 from 12 mirrored": "12-36-60-84",
	} {
		got, err := diagram.ParseIndexes(text, 96)
		require.NoError(t, err, text)
		assert.Equal(t, want, diagram.FormatIndexes(got), text)
	}
	for _, text := range []string{"mirrored", "8-fold", "every 0", "every x", "3, 97-fold", "every 12 frm 96", "3, 90-fold, 90-fold"} {
		_, err := diagram.ParseIndexes(text, 96)
		assert.Error(t, err, text)
	}
	// What it comes to is refused before it is written out.
	for _, text := range []string{
		strings.Repeat("every 0.05 ", 20) + "40-fold, 50-fold, mirrored", "every 0.05, 40-fold, 50-fold, mirrored",
		strings.Repeat("1 ", 3000) + "2-fold", "3 " + strings.Repeat("96-fold ", 50),
	} {
		_, err := diagram.ParseIndexes(text, 96)
		assert.ErrorContains(t, err, "more than", text[:20])
	}
	_, err := diagram.ParseIndexes("3, mirrored", 0)
	assert.ErrorContains(t, err, "gear")
}

// longIndexes are as much as can be written into one field, and what it may grow to.
var longIndexes = map[string]string{
	"all round":       "every 0.05",
	"often":           strings.Repeat("every .05 ", 1990),
	"mirrored":        strings.Repeat("1 ", 1990) + "mirrored",
	"many folds":      strings.Repeat("2.1 2.9 3.3 3.4 3.6 3.7 ", 7) + "90-fold, mirrored",
	"more than fits":  strings.Repeat("1 ", 400000),
	"fold upon fold":  "3 " + strings.Repeat("96-fold ", 2000),
	"gaps to be read": strings.Repeat("3-9-…-93 ", 1500),
}

func TestWhatIndexesCostHasACeiling(t *testing.T) {
	for what, text := range longIndexes {
		ceiling.Hold(t, what, 4, func() { _, _ = diagram.ParseIndexes(text, 96) })
		d := diagram.Draft{Gear: "96"}
		for i := range 2 * diagram.MaxTiers {
			d.Tiers = append(d.Tiers, diagram.DraftTier{Name: fmt.Sprint("P", i), Part: "pavilion", Angle: "40", Indexes: text, Stop: "meet P0@3"})
		}
		ceiling.Hold(t, what+", in every tier", 64, func() {
			_, problems := d.Read()
			assert.NotEmpty(t, problems)
		})
	}
	// The last tier that is read and the first that is not.
	d := diagram.Draft{Gear: "96", Tiers: slices.Repeat([]diagram.DraftTier{{Indexes: strings.Repeat("x", diagram.MaxIndexText)}}, 6)}
	assert.Equal(t, 5, d.Readable())
	_, problems := d.Read()
	assert.True(t, slices.ContainsFunc(problems, func(p diagram.Problem) bool { return p.Code == diagram.TextTooLong && p.TierNo == 5 }))
}

func TestCompletingATierGivesItTheSymmetryAskedFor(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		teeth := rapid.SampledFrom([]int{48, 64, 72, 96, 120}).Draw(t, "teeth")
		fold := rapid.SampledFrom([]int{1, 2, 3, 4, 8}).Draw(t, "fold")
		mirrored := rapid.Bool().Draw(t, "mirrored")
		some := rapid.SliceOfN(rapid.IntRange(1, teeth), 1, 3).Draw(t, "indexes")
		var indexes []float64
		for _, i := range some {
			indexes = append(indexes, float64(i))
		}
		whole := diagram.Complete(indexes, teeth, fold, mirrored)
		has := func(i float64) bool {
			return slices.ContainsFunc(whole, func(w float64) bool { return gear.Same(i, w, teeth) })
		}
		for _, i := range whole {
			assert.True(t, has(i+float64(teeth)/float64(fold)), "%v turned on", i)
			assert.True(t, !mirrored || has(-i), "%v mirrored", i)
		}
		for _, i := range indexes {
			assert.True(t, has(i))
		}
		assert.InDeltaSlice(t, whole, diagram.Complete(whole, teeth, fold, mirrored), 1e-6, "completing again adds nothing")
	})
}

func TestReshapingATierTakesTheStopsOfOthersAlong(t *testing.T) {
	d := diagram.Draft{Gear: "96", Tiers: []diagram.DraftTier{
		{Key: "a", Name: "P1", Indexes: "3, mirrored, 2-fold", Stop: "centre"},
		{Key: "b", Name: "G1", Indexes: "96-48", Stop: "meet P1@3 P1@93"},
		{Key: "c", Name: "P2", Indexes: "oops", Stop: "meet P1 G1"},
	}}
	reshape := func(no int, r diagram.Reshape) diagram.Draft {
		out, err := d.Reshape(no, r)
		require.NoError(t, err)
		return out
	}
	turned := reshape(0, diagram.Reshape{Kind: diagram.Turned, By: 6})
	assert.Equal(t, "9-51-57-3", turned.Tiers[0].Indexes)
	assert.Equal(t, "meet P1@9 P1@3", turned.Tiers[1].Stop)
	assert.Equal(t, "3-45-51-93", reshape(0, diagram.Reshape{Kind: diagram.WrittenOut}).Tiers[0].Indexes)
	assert.Equal(t, "meet P1@93 P1@3", reshape(0, diagram.Reshape{Kind: diagram.Mirrored}).Tiers[1].Stop)
	renamed := reshape(0, diagram.Reshape{Kind: diagram.Renamed, Name: "M"})
	assert.Equal(t, "meet M@3 M@93", renamed.Tiers[1].Stop)
	assert.Equal(t, "meet M G1", renamed.Tiers[2].Stop)
	copied := reshape(2, diagram.Reshape{Kind: diagram.Copied})
	assert.Equal(t, "P3", copied.Tiers[3].Name)
	assert.Equal(t, "oops", copied.Tiers[3].Indexes, "even what cannot be read yet")
	assert.Equal(t, "3, mirrored, 2-fold", d.Tiers[0].Indexes, "the draft itself is never changed")

	_, err := d.Reshape(2, diagram.Reshape{Kind: diagram.Completed, Fold: 4})
	var p diagram.Problem
	require.ErrorAs(t, err, &p)
	assert.Equal(t, diagram.BadIndexes, p.Code)
}
