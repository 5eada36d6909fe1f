package main

import (
	"bytes"
	"encoding/json"
	"os"
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
