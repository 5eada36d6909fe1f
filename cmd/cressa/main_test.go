package main

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const examples = "../../core/cutting/testdata/"

// call runs the program and returns its exit code and what it printed.
func call(in string, args ...string) (code int, out, errs string) {
	var stdout, stderr bytes.Buffer
	code = run(args, strings.NewReader(in), &stdout, &stderr)
	return code, stdout.String(), stderr.String()
}

func TestCutPrintsWhatTheFormatExpects(t *testing.T) {
	code, out, _ := call("", "cut", "--json", examples+"round.cressa.json")
	require.Zero(t, code)
	var got struct {
		Measures map[string]float64
		Tiers    []struct {
			Name                string
			Distances, Azimuths []float64
		}
		Warnings []any
	}
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.InDelta(t, 0.206734668814, got.Measures["volumeFactor"], 1e-9)
	assert.Len(t, got.Tiers, 7)
	assert.NotNil(t, got.Warnings, "an empty list, not null")

	file, err := os.ReadFile(examples + "round.cressa.json")
	require.NoError(t, err)
	code, out, _ = call(string(file), "cut", "-", "--upto", "G1", "--planes")
	require.Zero(t, code)
	lines := strings.Split(strings.TrimSpace(out), "\n")
	assert.Len(t, lines, 32)
	assert.Regexp(t, `^(\S+ ){4}P1@3$`, lines[0])
}

func TestMistakesExitWithOneAndOneLine(t *testing.T) {
	file, err := os.ReadFile(examples + "round.cressa.json")
	require.NoError(t, err)
	for _, c := range []struct {
		in   string
		args []string
		says string
	}{
		{strings.Replace(string(file), `"angle"`, `"angel"`, 1), []string{"cut", "-"}, "tier P1"},
		{strings.Replace(string(file), `"P1", "P1", "G1", "G1"`, `"P1", "P1", "C1"`, 1), []string{"cut", "-"}, "tier P2: Not cuttable as written"},
		{string(file), []string{"cut", "-", "--upto", "X"}, "no tier is called"},
		{"", []string{"cut", "nowhere.cressa.json"}, "no such file"},
		{"", []string{"material", "cheese"}, "no material"},
	} {
		code, out, errs := call(c.in, c.args...)
		assert.Equal(t, 1, code, c.says)
		assert.Empty(t, out)
		assert.Contains(t, errs, c.says)
		assert.Equal(t, 1, strings.Count(errs, "\n"), errs)
	}
}

func TestWrongCallsExitWithTwoAndTheUsage(t *testing.T) {
	for _, args := range [][]string{{}, {"cutt"}, {"cut"}, {"cut", "a", "b"}, {"cut", "a", "--jason"}, {"cut", "a", "--json", "--planes"}, {"serve", "--addr", "0.0.0.0:80"}, {"serve", "now"}} {
		code, out, errs := call("", args...)
		assert.Equal(t, 2, code, args)
		assert.Empty(t, out)
		assert.Contains(t, errs, "Usage:")
	}
}

func TestGearsAndRegearPrintTheContractsNumbers(t *testing.T) {
	code, out, errs := call("", "gears", examples+"skew.cressa.json", "--own", "96,72,80", "--json")
	require.Zero(t, code, errs)
	var ranked struct {
		Gears []struct {
			Teeth              int
			LargestCheat, Turn float64
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &ranked))
	require.Len(t, ranked.Gears, 3)
	assert.Equal(t, 72, ranked.Gears[0].Teeth)

	var report regearReport
	code, out, _ = call("", "regear", "--gear", "96", examples+"skew.cressa.json", "--json")
	require.Zero(t, code)
	require.NoError(t, json.Unmarshal([]byte(out), &report))
	assert.InDelta(t, 0.625, report.LargestCheat, 1e-9)
	for _, tier := range report.Tiers {
		for _, p := range tier.Positions {
			assert.True(t, p.Tooth >= 1 && p.Tooth <= 96)
			assert.InDelta(t, float64(p.Tooth)+p.Cheat*96/360, p.Index, 1e-6)
		}
	}

	// Sixteen odd threes of 96 on 80: 2.25 unturned, 0 at a turn of 2.25.
	code, out, _ = call("", "regear", "--gear", "80", "--turn", "0", examples+"round.cressa.json", "--json")
	require.Zero(t, code)
	require.NoError(t, json.Unmarshal([]byte(out), &report))
	assert.InDelta(t, 2.25, report.LargestCheat, 1e-9)

	for _, args := range [][]string{{"regear", "a"}, {"regear", "a", "--gear", "0"}, {"gears", "a"}, {"gears", "a", "--own", "96,x"}} {
		code, _, errs := call("", args...)
		assert.Equal(t, 2, code, args)
		assert.Contains(t, errs, "Usage:")
	}
	code, _, errs = call("", "regear", "--gear", "80", "--turn", "half", examples+"round.cressa.json")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "--turn")
}

func TestConvertWritesEveryOpenFormatAndReadsBackWhatItCan(t *testing.T) {
	dir := t.TempDir()
	file, err := os.ReadFile(examples + "emerald.cressa.json")
	require.NoError(t, err)
	// A name that no face has all letters of.
	in := filepath.Join(dir, "gift.cressa.json")
	require.NoError(t, os.WriteFile(in, regexp.MustCompile(`(?m)^  "name": "[^"]*",`).ReplaceAll(file, []byte(`  "name": "Gift 💎 הדר",`)), 0o600))
	begins := map[string]string{"a.cressa.json": "{", "a.csv": "name,", "a.svg": "<svg", "a.pdf": "%PDF", "a.obj": "# ", "a.stl": ""}
	for name, want := range begins {
		code, _, errs := call("", "convert", in, filepath.Join(dir, name))
		require.Zero(t, code, errs)
		data, err := os.ReadFile(filepath.Join(dir, name))
		require.NoError(t, err)
		assert.True(t, strings.HasPrefix(string(data), want), name)
	}
	planes := func(file string) string {
		code, out, errs := call("", "cut", file, "--planes")
		require.Zero(t, code, errs)
		return out
	}
	code, _, errs := call("", "convert", filepath.Join(dir, "a.csv"), filepath.Join(dir, "b.cressa.json"))
	require.Zero(t, code, errs)
	assert.Equal(t, planes(in), planes(filepath.Join(dir, "b.cressa.json")))

	// Volume and corners of the solid that is written are those of the stone.
	obj, err := os.ReadFile(filepath.Join(dir, "a.obj"))
	require.NoError(t, err)
	_, out, _ := call("", "cut", in, "--json")
	var report struct {
		Measures struct{ Vertices, Facets int }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &report))
	assert.Equal(t, report.Measures.Vertices, strings.Count(string(obj), "\nv "))
	assert.Equal(t, report.Measures.Facets, strings.Count(string(obj), "\nf "))

	bad := filepath.Join(dir, "bad.csv")
	require.NoError(t, os.WriteFile(bad, []byte("tier,angle,index,stop\nP1,41,3-9,centre\nG1,90,3-x,size 1\n"), 0o600))
	for _, c := range []struct{ in, out, says string }{
		{in, filepath.Join(dir, "a.docx"), "writes"}, {"a.txt", filepath.Join(dir, "d.csv"), "reads"},
		{bad, filepath.Join(dir, "c.cressa.json"), "line"},
	} {
		code, _, errs := call("", "convert", c.in, c.out)
		assert.Equal(t, 1, code)
		assert.Contains(t, errs, c.says)
		assert.NoFileExists(t, c.out)
	}
}

// What people read, without --json: the same figures, in columns.
func TestReportsAreReadable(t *testing.T) {
	says := func(want []string, args ...string) {
		t.Helper()
		code, out, errs := call("", args...)
		require.Zero(t, code, errs)
		for _, w := range want {
			assert.Regexp(t, w, out, "%v", args)
		}
	}
	says([]string{`(?m)^TIER +ANGLE +INDEX +STOP$`, `(?m)^P1 +\S+° +3-9-15\S* +to a centre point$`, `(?m)^facets +\d+$`, `(?m)^volume/width³ +0\.\d{4}$`}, "cut", examples+"round.cressa.json")
	says([]string{`(?m)^warning .*mirror`}, "cut", examples+"pinwheel.cressa.json")
	says([]string{`(?m)^96 +0° +0°$`, `(?m)^80 +1\.125° +1\.125°$`}, "gears", examples+"round.cressa.json", "--own", "80,96")
	says([]string{`P1`, `(?m)^P1 +3\(-2\.25°\) 8\(-2\.25°\)`, `(?m)^P2 +80 10 20`}, "regear", examples+"round.cressa.json", "--gear", "80", "--turn", "0")
	says([]string{`(?m)^MATERIAL +INDEX +CRITICAL ANGLE`, `(?m)^Fluorite +1\.434 +44\.2° +isotropic`, `(?m)^Diopside +1\.664–1\.730 +35\.3–36\.9°`}, "material")
}

func TestSequenceRetargetAndToleranceAsTheContractHasThem(t *testing.T) {
	decode := func(into any, args ...string) {
		t.Helper()
		code, out, errs := call("", append(args, "--json")...)
		require.Zero(t, code, errs)
		require.NoError(t, json.Unmarshal([]byte(out), into))
	}
	file, err := os.ReadFile(examples + "round.cressa.json")
	require.NoError(t, err)
	var d map[string]any
	require.NoError(t, json.Unmarshal(file, &d))
	tiers := d["tiers"].([]any)
	tiers[1], tiers[2] = tiers[2], tiers[1] // P2 before the girdle that it asks for
	wrong, err := json.Marshal(d)
	require.NoError(t, err)
	path := filepath.Join(t.TempDir(), "wrong.cressa.json")
	require.NoError(t, os.WriteFile(path, wrong, 0o600))

	var order sequenceReport
	decode(&order, "sequence", path)
	assert.False(t, order.Cuttable)
	assert.Equal(t, []sequenceProblem{{"P2", "meet P1 P1 G1 G1", "G1"}}, order.Problems)
	assert.Equal(t, []string{"P1", "G1", "P2", "C1", "C2", "C3", "T"}, order.Order)
	assert.Equal(t, "size 0.5", order.Stops["G1"].String())
	assert.Equal(t, []string{"G1", "C1"}, order.Free)

	to := filepath.Join(t.TempDir(), "moved.cressa.json")
	var moved retargetReport
	decode(&moved, "retarget", examples+"round.cressa.json", "--ri", "1.72", "--margin", "2", "--out", to)
	assert.InDelta(t, 0.884265, moved.PavilionFactor, 1e-6)
	assert.InDelta(t, 39.0171, moved.Tiers[0].To, 1e-4)
	assert.InDelta(t, 37.5487, moved.Tiers[2].To, 1e-4)
	assert.Less(t, moved.MeetErrorMax, 1e-9)
	assert.Equal(t, 1.72, moved.Diagram.RefractiveIndex)
	code, _, errs := call("", "cut", to)
	assert.Zero(t, code, errs)
	var rounded retargetReport
	decode(&rounded, "retarget", examples+"round.cressa.json", "--ri", "1.72", "--margin", "2", "--round", "0.25")
	assert.Equal(t, 39.0, rounded.Tiers[0].To)

	var errors toleranceReport
	decode(&errors, "tolerance", examples+"round.cressa.json", "--width", "8", "--trials", "20", "--angle", "0.1")
	require.NotEmpty(t, errors.Meets)
	assert.Equal(t, errors.Worst, errors.Meets[0].P95)
	assert.Len(t, errors.ByTier, 7)
	assert.Contains(t, errors.Meets[0].Facets[0], "@")

	var seen opticsReport
	decode(&seen, "optics", examples+"pinwheel.cressa.json", "--ri", "1.544", "--model", "head", "--tilt", "0.01", "--tilt-to", "33")
	assert.InDelta(t, 0.5921, seen.LightReturn, 1e-4)
	assert.InDelta(t, 0.2406, seen.Window, 1e-4)
	assert.InDelta(t, 40.366, seen.CriticalAngle, 1e-3)
	assert.Zero(t, seen.Frosted)
	assert.Positive(t, seen.RaysPerSecond)
	decode(&seen, "optics", examples+"pinwheel.cressa.json", "--girdle", "frosted", "--tilt", "20", "--grid", "64")
	assert.Positive(t, seen.Frosted)

	for _, args := range [][]string{
		{"optics", examples + "round.cressa.json", "--model", "sky"}, {"optics", examples + "round.cressa.json", "--ri", "1"},
		{"retarget", examples + "round.cressa.json", "--ri", "0.5"}, {"retarget", examples + "round.cressa.json"},
		{"tolerance", examples + "round.cressa.json", "--width", "0"}, {"sequence", examples + "round.cressa.json", "--table", "never"},
	} {
		code, _, errs := call("", args...)
		assert.Equal(t, 2, code, args)
		assert.Contains(t, errs, "Usage")
	}
	code, _, errs = call("", "retarget", examples+"round.cressa.json", "--ri", "1.01", "--margin", "20")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "smaller margin")
}

func TestASolidBecomesADiagram(t *testing.T) {
	dir := t.TempDir()
	stl, back := filepath.Join(dir, "stone.stl"), filepath.Join(dir, "back.cressa.json")
	code, _, errs := call("", "convert", examples+"round.cressa.json", stl)
	require.Zero(t, code, errs)
	code, _, errs = call("", "convert", stl, back)
	require.Zero(t, code, errs)
	code, out, _ := call("", "cut", back, "--json")
	require.Zero(t, code)
	var got report
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.InDelta(t, 0.206734668814, got.Measures.VolumeFactor, 1e-6)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "letter.obj"), []byte("Dear Sirs"), 0o600))
	code, _, errs = call("", "convert", filepath.Join(dir, "letter.obj"), back)
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "no OBJ")
}

func TestFitPlacesTheLargestStones(t *testing.T) {
	piece := `{"format": "cressa-rough/1", "material": "peridot", "carat": 20,
		"solid": {"kind": "box", "size": [14, 11, 9]},
		"trims": [{"normal": [1, 0, 0], "distance": 6, "kerf": 0.3}],
		"flaws": [{"name": "veil", "kind": "disc", "at": [1, 1, 2], "radius": 1.5, "normal": [0, 1, 1], "rule": "out"}]}`
	var got fitsReport
	code, out, errs := call(piece, "fit", "--json", "--rough", "-", examples+"round.cressa.json", examples+"emerald.cressa.json")
	require.Zero(t, code, errs)
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	require.Len(t, got.Fits, 2)
	assert.GreaterOrEqual(t, got.Fits[0].Carat, got.Fits[1].Carat)
	for _, f := range got.Fits {
		require.NotNil(t, f.Place)
		assert.InDelta(t, f.Carat/20, f.Yield, 1e-12)
		assert.LessOrEqual(t, f.Width, f.Bound)
		assert.NotEmpty(t, f.LimitedBy)
	}
	assert.Len(t, got.Warnings, 1, "23 ct of solid are not 20 ct on the scales")
	code, out, _ = call(piece, "fit", examples+"round.cressa.json", "--rough", "-")
	assert.Zero(t, code)
	assert.Contains(t, out, "veil")

	full := strings.Replace(piece, `"kind": "disc"`, `"kind": "ball"`, 1)
	full = strings.Replace(strings.Replace(full, `"radius": 1.5`, `"radius": 30`, 1), `"normal": [0, 1, 1], `, "", 1)
	code, out, _ = call(full, "fit", "--json", "--rough", "-", examples+"round.cressa.json")
	assert.Zero(t, code)
	assert.Contains(t, out, `"place": null`)

	for _, wrong := range []struct{ old, new, says string }{
		{`"radius": 1.5`, `"radius": -1`, "line 4, column 73, flaw 1, radius"},
		{`"radius": 1.5`, `"radios": 1.5`, `Did you mean "radius"?`},
		{`"distance": 6`, `"distance": -60`, "trim 1, distance"},
		{`peridot`, `moon cheese`, "moon cheese"},
		{`[14, 11, 9]`, `[14, 11]`, "solid"},
		{`"rule": "out"`, `"rule": "away"`, "out, hidden, accept"},
		{`"carat": 20`, `"carat": 0`, "weight in carats"},
		{`cressa-rough/1`, `cressa-rough/2`, "cressa-rough/1"},
	} {
		code, _, errs := call(strings.Replace(piece, wrong.old, wrong.new, 1), "fit", "--rough", "-", examples+"round.cressa.json")
		assert.Equal(t, 1, code, wrong.new)
		assert.Contains(t, errs, wrong.says)
		assert.Equal(t, 1, strings.Count(errs, "\n"), errs)
	}
	code, _, errs = call(piece, "fit", "--rough", "-", "--allowance", "5", examples+"round.cressa.json")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "--allowance")
	code, _, _ = call("", "fit", examples+"round.cressa.json")
	assert.Equal(t, 2, code, "no piece")
}
