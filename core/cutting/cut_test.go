package cutting_test

import (
	"encoding/json"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

// expected is what another solver, written apart from this one, found.
type expected struct {
	Measures cutting.Measures `json:"measures"`
	Tiers    []struct {
		Name      string    `json:"name"`
		Distances []float64 `json:"distances"`
		Azimuths  []float64 `json:"azimuths"`
	} `json:"tiers"`
}

var examples = []string{"round", "squarestep", "emerald", "pinwheel", "skew"}

func load(t testing.TB, name string) *diagram.Diagram {
	t.Helper()
	data, err := os.ReadFile(filepath.Join("testdata", name+".cressa.json"))
	require.NoError(t, err)
	d := &diagram.Diagram{}
	require.NoError(t, json.Unmarshal(data, d))
	d.FillDefaults()
	require.Empty(t, d.Validate())
	return d
}

// agree holds two figures against each other as the format asks: |a − b| ≤ 1e-9·|b| + 1e-11.
func agree(t *testing.T, want, got float64, what string) {
	t.Helper()
	assert.LessOrEqual(t, math.Abs(got-want), 1e-9*math.Abs(want)+1e-11, "%s: want %v, got %v", what, want, got)
}

func TestExamplesAgreeWithTheirExpectedStones(t *testing.T) {
	for _, name := range examples {
		t.Run(name, func(t *testing.T) {
			data, err := os.ReadFile(filepath.Join("testdata", name+".expected.json"))
			require.NoError(t, err)
			var want expected
			require.NoError(t, json.Unmarshal(data, &want))

			stone, err := cutting.Cut(load(t, name))
			require.NoError(t, err)

			wantMeasures, gotMeasures := flat(t, want.Measures), flat(t, stone.Measures())
			require.Len(t, gotMeasures, len(wantMeasures))
			for key, v := range wantMeasures {
				agree(t, v, gotMeasures[key], key)
			}
			require.Len(t, want.Tiers, len(stone.Diagram.Tiers))
			for _, f := range stone.Facets {
				tier := want.Tiers[f.Tier]
				agree(t, tier.Distances[f.Place], f.Plane.D, tier.Name+" distance")
				agree(t, tier.Azimuths[f.Place], f.Azimuth, tier.Name+" azimuth")
			}
		})
	}
}

func flat(t *testing.T, m cutting.Measures) map[string]float64 {
	data, err := json.Marshal(m)
	require.NoError(t, err)
	out := map[string]float64{}
	require.NoError(t, json.Unmarshal(data, &out))
	return out
}

func TestOnlyStonesWithoutMirrorLineWarnOfTheirSense(t *testing.T) {
	for name, warns := range map[string]bool{"round": false, "emerald": false, "pinwheel": true, "skew": true} {
		stone, err := cutting.Cut(load(t, name))
		require.NoError(t, err)
		found := false
		for _, w := range stone.Warnings {
			found = found || w.Code == cutting.SenseMatters
		}
		assert.Equal(t, warns, found, name)
	}
}

func TestSharedIndexingIsTheDialledStoneWithOneSideCountedBack(t *testing.T) {
	dialled := load(t, "skew")
	shared := load(t, "skew")
	shared.Indexing = diagram.Shared
	back := func(i float64) float64 { return math.Mod(144-i, 72) }
	for no := range shared.Tiers {
		tier := &shared.Tiers[no]
		if tier.Part == diagram.Pavilion {
			for k := range tier.Indexes {
				tier.Indexes[k] = back(tier.Indexes[k])
			}
		}
	}
	a, err := cutting.Cut(dialled)
	require.NoError(t, err)
	b, err := cutting.Cut(shared)
	require.NoError(t, err)
	agree(t, a.Measures().Volume, b.Measures().Volume, "volume")

	shared.Indexing = diagram.Dialled
	wrong, err := cutting.UpTo(shared, len(shared.Tiers))
	if err == nil {
		assert.Greater(t, math.Abs(wrong.Measures().Volume-a.Measures().Volume), 1e-3, "read with the wrong sense the stone must be another")
	}
}

func TestWhatCannotBeCutSaysWhereAndWhy(t *testing.T) {
	tier := func(text string) diagram.DraftTier {
		f := strings.Split(text, "|")
		return diagram.DraftTier{Name: f[0], Part: f[1], Angle: f[2], Indexes: f[3], Stop: f[4]}
	}
	const square = "96-24-48-72"
	cases := []struct {
		name        string
		tiers       []string
		code        diagram.Code
		tier, other string
	}{
		{"a meet that a later tier makes", []string{
			"P1|pavilion|42|" + square + "|centre", "P2|pavilion|40|12-36-60-84|meet P1 P1 G1",
			"C1|crown|30|" + square + "|girdle 0.02", "G1|girdle|90|" + square + "|size 0.5",
		}, cutting.MeetMissing, "P2", "G1"},
		{"a meet that no tier makes", []string{
			"P1|pavilion|42|" + square + "|centre", "G1|girdle|90|" + square + "|size 0.5", "P2|pavilion|40|12-36-60-84|meet P1 P1 P1 G1",
		}, cutting.MeetMissing, "P2", ""},
		{"a centre on the second side", []string{
			"P1|pavilion|42|" + square + "|centre", "G1|girdle|90|" + square + "|size 0.5", "C1|crown|30|" + square + "|centre",
		}, cutting.CentreUnknown, "C1", ""},
		{"a girdle without the other side", []string{
			"G1|girdle|90|" + square + "|size 0.5", "C1|crown|30|" + square + "|girdle 0.02",
		}, cutting.GirdleMissing, "C1", ""},
		{"a table wider than the top", []string{
			"P1|pavilion|42|" + square + "|centre", "G1|girdle|90|" + square + "|size 0.5", "T|crown|0|96|width 0.6",
		}, cutting.WidthMissing, "T", ""},
		{"a cut that takes everything", []string{
			"P1|pavilion|42|" + square + "|centre", "G1|girdle|90|" + square + "|size 0.5", "T|crown|0|96|depth -1",
		}, cutting.TakesAll, "T", ""},
		{"a stone with block left", []string{"P1|pavilion|42|" + square + "|centre"}, cutting.BlockLeft, "", ""},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			draft := diagram.Draft{Name: "x", Outline: "square", Gear: "96", RefractiveIndex: "1.54", FirstSide: "pavilion", Indexing: "dialled"}
			for _, text := range c.tiers {
				draft.Tiers = append(draft.Tiers, tier(text))
			}
			d, problems := draft.Read()
			require.Empty(t, problems)
			stone, err := cutting.Cut(d)
			var p diagram.Problem
			require.ErrorAs(t, err, &p)
			assert.Equal(t, c.code, p.Code)
			assert.Equal(t, c.tier, p.Tier)
			assert.Equal(t, c.other, p.Other)
			if no := d.TierNo(c.tier); no > 0 {
				assert.Equal(t, no-1, stone.Facets[len(stone.Facets)-1].Tier, "the stone must come up to the tier before")
			}
		})
	}
}

func TestADraftIsCutAsFarAsItCanBeRead(t *testing.T) {
	draft := diagram.DraftOf(load(t, "round"))
	stone, problems := cutting.Sketch(draft)
	require.Empty(t, problems)
	whole := len(stone.Facets)

	draft.Name = ""
	stone, problems = cutting.Sketch(draft)
	assert.Len(t, problems, 1, "a name is missing, but the stone is whole")
	assert.Len(t, stone.Facets, whole)

	draft.Tiers[3].Stop = "girdle 0.0x"
	stone, problems = cutting.Sketch(draft)
	assert.Greater(t, len(problems), 1)
	assert.Equal(t, 2, stone.Facets[len(stone.Facets)-1].Tier, "up to the tier before")

	draft.Gear = "many"
	stone, _ = cutting.Sketch(draft)
	assert.Nil(t, stone)
}
