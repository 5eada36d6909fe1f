package cutting_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

// square is a stone whose figures can be reckoned by hand: four-sided, pavilion at
// 45, girdle at half a unit, so that the girdle's lower edge lies at z = 0.5.
func square(t *testing.T, more ...diagram.DraftTier) *diagram.Diagram {
	t.Helper()
	const four = "96-24-48-72"
	draft := diagram.Draft{
		Name: "square", Outline: "square", Gear: "96", RefractiveIndex: "1.5", FirstSide: "pavilion", Indexing: "dialled",
		Tiers: append([]diagram.DraftTier{
			{Name: "P1", Part: "pavilion", Angle: "45", Indexes: four, Stop: "centre"},
			{Name: "G1", Part: "girdle", Angle: "90", Indexes: four, Stop: "size 0.5"},
		}, more...),
	}
	d, problems := draft.Read()
	require.Empty(t, problems)
	return d
}

func TestEachStopByHand(t *testing.T) {
	half := math.Sqrt2 / 2 // sine and cosine of 45
	crown := diagram.DraftTier{Name: "C1", Part: "crown", Angle: "45", Indexes: "96-24-48-72", Stop: "girdle 0.1"}
	for _, c := range []struct {
		name  string
		tiers []diagram.DraftTier
		want  float64
	}{
		{"centre, below what is there", []diagram.DraftTier{{Name: "X", Part: "pavilion", Angle: "45", Indexes: "12", Stop: "centre 0.1"}}, -0.1 * half},
		{"size", []diagram.DraftTier{{Name: "X", Part: "girdle", Angle: "90", Indexes: "12", Stop: "size 0.6"}}, 0.6},
		{"meet at the corner of the girdle", []diagram.DraftTier{{Name: "X", Part: "pavilion", Angle: "30", Indexes: "12", Stop: "meet P1 P1 G1 G1"}},
			math.Sin(math.Pi/6)*math.Sqrt2/2 - math.Cos(math.Pi/6)*0.5},
		{"girdle", []diagram.DraftTier{{Name: "X", Part: "crown", Angle: "45", Indexes: "24", Stop: "girdle 0.1"}}, (0.5 + 0.6) * half},
		{"half-way from girdle to apex", []diagram.DraftTier{crown, {Name: "X", Part: "crown", Angle: "30", Indexes: "96", Stop: "along C1 C1 G1 G1 > C1 C1 C1 C1 at 0.5"}},
			math.Sin(math.Pi/6)*0.25 + math.Cos(math.Pi/6)*0.85},
		{"width", []diagram.DraftTier{crown, {Name: "X", Part: "crown", Angle: "0", Indexes: "96", Stop: "width 0.4"}}, 1.1 - 0.2},
		{"depth", []diagram.DraftTier{crown, {Name: "X", Part: "crown", Angle: "0", Indexes: "96", Stop: "depth 0.83"}}, 0.83},
	} {
		t.Run(c.name, func(t *testing.T) {
			d := square(t, c.tiers...)
			stone, err := cutting.UpTo(d, len(d.Tiers))
			require.NoError(t, err)
			last := stone.Facets[len(stone.Facets)-1]
			assert.Equal(t, "X", d.Tiers[last.Tier].Name)
			assert.InDelta(t, c.want, last.Plane.D, 1e-12)
		})
	}
}

func TestARefToOneFacetTakesThatFacet(t *testing.T) {
	cut := func(stop string) (*cutting.Stone, error) {
		return cutting.UpTo(square(t, diagram.DraftTier{Name: "X", Part: "pavilion", Angle: "30", Indexes: "12", Stop: stop}), 3)
	}
	// A plane from between the facets at 96 and 24 touches their corner of the
	// girdle first; named by index, it runs on to the far corner.
	across, down := math.Sin(math.Pi/6)*math.Sqrt2/2, math.Cos(math.Pi/6)*0.5
	for stop, want := range map[string]float64{
		"meet P1 P1 G1":       across - down,
		"meet P1@96 P1@24 G1": across - down,
		"meet P1@48 P1@72 G1": -across - down,
	} {
		stone, err := cut(stop)
		require.NoError(t, err, stop)
		assert.InDelta(t, want, stone.Facets[8].Plane.D, 1e-12, stop)
	}
	_, err := cut("meet P1@96 P1@48 G1")
	var p diagram.Problem
	require.ErrorAs(t, err, &p)
	assert.Equal(t, cutting.MeetMissing, p.Code, "opposite facets meet nowhere on the girdle")
}

func TestPlanesThatTouchAndFacetsThatGoAreWarnings(t *testing.T) {
	d := square(t,
		diagram.DraftTier{Name: "P2", Part: "pavilion", Angle: "60", Indexes: "12-36-60-84", Stop: "size 0.9"},
		diagram.DraftTier{Name: "P3", Part: "pavilion", Angle: "30", Indexes: "96", Stop: "centre 0.01"},
		diagram.DraftTier{Name: "P4", Part: "pavilion", Angle: "0", Indexes: "96", Stop: "centre 0.2"},
	)
	stone, err := cutting.UpTo(d, len(d.Tiers))
	require.NoError(t, err)
	codes := map[string]diagram.Code{}
	for _, w := range stone.Warnings {
		codes[w.Tier] = w.Code
	}
	assert.Equal(t, cutting.OnlyTouches, codes["P2"])
	assert.Equal(t, cutting.CutAway, codes["P3"])
	assert.NotContains(t, codes, "P4")
}
