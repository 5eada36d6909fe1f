package diagram_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/core/diagram"
)

func TestIndexesAreReadAsSheetsPrintThem(t *testing.T) {
	for _, text := range []string{"3-9-15", "3 9 15", "3, 9, 15", " 3–9–15 ", "3;9;15"} {
		got, err := diagram.ParseIndexes(text, 96)
		require.NoError(t, err, text)
		assert.Equal(t, []float64{3, 9, 15}, got)
	}
	for _, text := range []string{"", "- -", "3-x", "3-NaN", "3-0x10", "3-Inf"} {
		_, err := diagram.ParseIndexes(text, 96)
		assert.Error(t, err, text)
	}
}

func TestStopsAreReadAsTheyAreTyped(t *testing.T) {
	for text, want := range map[string]string{
		"Centre":                          "centre",
		"center 0,12":                     "centre 0.12",
		"meet P1, P1 G1@3":                "meet P1 P1 G1@3",
		"along P1 G1>P1 P2 at .25":        "along P1 G1 > P1 P2 at 0.25",
		"girdle  0.02":                    "girdle 0.02",
		"depth -0.1":                      "depth -0.1",
		"along P1 P2 G1 > P1 P1 P2 at 1 ": "along P1 P2 G1 > P1 P1 P2 at 1",
	} {
		got, err := diagram.ParseStop(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, got.String())
	}
	for _, text := range []string{"", "stop", "meet", "size", "size a", "size 1 2", "along P1 > P2", "meet P1@", "meet P-1", "along > P1 at 1"} {
		_, err := diagram.ParseStop(text)
		assert.Error(t, err, text)
	}
}

// A stop that is written reads back as itself.
func TestStopsSurviveTheirOwnText(t *testing.T) {
	ref := rapid.Custom(func(t *rapid.T) diagram.Ref {
		r := diagram.Ref{Tier: rapid.StringMatching(`[A-Za-z0-9]{1,12}`).Draw(t, "tier"), OneFacet: rapid.Bool().Draw(t, "one")}
		if r.OneFacet {
			r.Index = float64(rapid.IntRange(1, 960).Draw(t, "index")) / 10
		}
		return r
	})
	refs := rapid.SliceOfN(ref, 1, 5)
	rapid.Check(t, func(t *rapid.T) {
		s := diagram.Stop{Kind: rapid.SampledFrom([]diagram.StopKind{diagram.Meet, diagram.Along}).Draw(t, "kind")}
		if s.Kind == diagram.Meet {
			s.Tiers = refs.Draw(t, "tiers")
		} else {
			s.From, s.To, s.At = refs.Draw(t, "from"), refs.Draw(t, "to"), rapid.Float64Range(0, 1).Draw(t, "at")
		}
		got, err := diagram.ParseStop(s.String())
		require.NoError(t, err)
		require.Equal(t, s, got)
	})
}

func TestADraftWithMistakesSaysAllOfThem(t *testing.T) {
	_, problems := diagram.Draft{
		Name: "x", Outline: "round", Gear: "ninety", RefractiveIndex: "1.54", FirstSide: "pavilion", Indexing: "dialled",
		Tiers: []diagram.DraftTier{{Name: "P1", Part: "pavilion", Angle: "", Indexes: "3-x", Stop: "centre"}},
	}.Read()
	var fields []diagram.Field
	for _, p := range problems {
		fields = append(fields, p.Field)
	}
	assert.Equal(t, []diagram.Field{diagram.FieldGear, diagram.FieldAngle, diagram.FieldIndexes}, fields, "each mistake once")
}
