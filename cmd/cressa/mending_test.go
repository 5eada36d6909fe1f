package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// reported runs a command that has to succeed and reads the JSON it prints.
func reported[R any](t *testing.T, args ...string) (r R) {
	t.Helper()
	code, out, errs := call("", append(args, "--json")...)
	require.Zero(t, code, errs)
	require.NoError(t, json.Unmarshal([]byte(out), &r))
	return r
}

func TestMendAndRecutPrintTheContractsNumbers(t *testing.T) {
	round := examples + "round.cressa.json"
	ways := reported[waysReport](t, "mend", round, "--width", "8", "--material", "quartz", "--over", "P2@12=0.05").Ways
	require.Len(t, ways, 5)
	for i, lost := range []float64{0.188, 1.431, 3.066, 3.988, 2.769} {
		assert.InDelta(t, lost, 100*ways[i].Lost, 6e-4, ways[i].Kind)
		assert.InDelta(t, 1.4025*(1-ways[i].Lost), *ways[i].Carat, 5e-5)
		assert.Len(t, ways[i].Take, 73)
	}
	assert.Nil(t, ways[0].Scale)
	assert.InDelta(t, 766, ways[0].GapMax, 0.5)
	assert.InDelta(t, 0.0264, ways[4].Shift[0], 5e-5)
	assert.InDelta(t, 0.155, *ways[4].GirdleMin, 5e-4)

	ways = reported[waysReport](t, "mend", round, "--width", "8", "--over", "P2@12=0.05", "--done", "P1,G1,P2").Ways
	assert.Len(t, ways[2].Take, 40, "of the tiers cut so far")
	assert.Nil(t, ways[2].Carat)
	assert.InDelta(t, -1.635, 100*ways[1].Lost, 6e-4)

	girdle := reported[waysReport](t, "mend", round, "--width", "8", "--over", "G1@3=0.05").Ways
	assert.False(t, girdle[2].Possible)
	assert.Nil(t, girdle[2].WayFigures)
	assert.Contains(t, girdle[2].Why, "girdle facet")

	recut := reported[waysReport](t, "recut", round, "--width", "8", "--damage", "-0.7361,3.7008,3.7457").Ways
	for i, want := range []struct{ lost, offset float64 }{{0.076, 0.038}, {0.709, 0.028}, {10.058, 0}, {6.102, 0}} {
		assert.InDelta(t, want.lost, 100*recut[i].Lost, 6e-4, recut[i].Kind)
		assert.InDelta(t, want.offset, *recut[i].CuletOffset, 6e-4, recut[i].Kind)
	}
	assert.GreaterOrEqual(t, *recut[4].Scale, 0.98267)
	assert.Len(t, recut[4].Place.Rotation, 9)
	still := reported[waysReport](t, "recut", round, "--width", "8", "--damage", "-0.7361,3.7008,3.7457", "--turn", "0").Ways
	assert.InDelta(t, 0.981029, *still[4].Scale, 6e-7)

	for says, args := range map[string][]string{
		"no facet P2@13":        {"mend", round, "--width", "8", "--over", "P2@13=0.05"},
		"name one":              {"mend", round, "--width", "8", "--over", "P2=0.05"},
		"no tier X":             {"mend", round, "--width", "8", "--over", "P2@12=0.05", "--done", "X"},
		"is not cut yet":        {"mend", round, "--width", "8", "--over", "P2@12=0.05", "--done", "P1"},
		"deeper than an eighth": {"recut", round, "--width", "8", "--damage", "0,0,2"},
	} {
		code, out, errs := call("", args...)
		assert.Equal(t, 1, code, says)
		assert.Empty(t, out)
		assert.Contains(t, errs, says)
	}
}

func TestRedopPrintsTheContractsNumbers(t *testing.T) {
	// A stone that was twisted by 1.2 degrees and then leaned by 2 towards azimuth 225.
	readings := filepath.Join(t.TempDir(), "flush.csv")
	require.NoError(t, os.WriteFile(readings, []byte("angle,index,foundAngle,foundIndex\n42,96,40.5757,95.8935\n0,96,2,60\n"), 0o600))
	r := reported[redopReport](t, "redop", examples+"round.cressa.json", "--side", "pavilion", "--readings", readings)
	assert.InDelta(t, 2, r.Tilt, 1e-3)
	assert.InDelta(t, 60, *r.LeansTo, 1e-2)
	assert.InDelta(t, 1.2, r.Twist, 2e-3)
	for _, off := range r.Residuals {
		assert.Less(t, off, 1e-3)
	}
	assert.Len(t, r.Facets, 40)
	for _, f := range r.Facets {
		assert.InDelta(t, f.Dial, float64(f.Tooth)+f.Cheat/3.75, 1e-9)
	}
}

func TestSlipsListsWhatCouldHaveHappened(t *testing.T) {
	slips := reported[slipsReport](t, "slips", examples+"round.cressa.json", "--own", "64,72,96").Slips
	assert.GreaterOrEqual(t, len(slips), 80)
	assert.LessOrEqual(t, len(slips), 130)
	kinds := map[string]int{}
	for _, s := range slips {
		kinds[string(s.Kind)]++
	}
	for _, kind := range []string{"index", "swap", "angle", "missed", "side"} {
		assert.Positive(t, kinds[kind], kind)
	}
}
