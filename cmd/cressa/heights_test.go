package main

import (
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestHeightsPrintTheContractsNumbers(t *testing.T) {
	file, err := os.ReadFile(examples + "round.cressa.json")
	require.NoError(t, err)
	steep := strings.Replace(string(file), `"angle": 42.5`, `"angle": 43`, 1)
	told := func(args ...string) (heightsReport, map[string]tierHeight) {
		t.Helper()
		code, out, errs := call(steep, append([]string{"heights", "-", "--width", "8", "--json"}, args...)...)
		require.Zero(t, code, errs)
		var r heightsReport
		require.NoError(t, json.Unmarshal([]byte(out), &r))
		byName := map[string]tierHeight{}
		for _, tier := range r.Tiers {
			byName[tier.Name] = tier
		}
		return r, byName
	}

	r, tiers := told("--reading", "P1=48.16", "--reading", "P2=49.45")
	assert.InDelta(t, 61.089, *r.Length, 5e-4)
	assert.InDelta(t, 3.482, *r.Zero, 5e-4)
	assert.InDelta(t, 7.406, *tiers["G1"].Height, 5e-4)
	assert.InDelta(t, 0.450, *tiers["G1"].SD, 5e-4)
	assert.False(t, tiers["G1"].Read)
	assert.True(t, tiers["P2"].Read)
	assert.Nil(t, tiers["C1"].Height, "the stone will sit anew on another dop")

	// One angle, read twice: that angle is known better, the rest is not.
	r, tiers = told("--reading", "P1=48.16", "--reading", "P1@3=48.18", "--sd", "0.02")
	assert.Nil(t, r.Length)
	assert.InDelta(t, 48.17, *tiers["P1"].Height, 1e-9)
	assert.InDelta(t, 0.02/1.41421356, *tiers["P1"].SD, 1e-6)
	assert.Nil(t, tiers["G1"].Height)

	for args, says := range map[string]string{
		"P1=48.16 C1=12": "two sides", "X=1": "no tier is called", "P1@4=48": "no facet at index 4",
	} {
		given := []string{"heights", "-", "--width", "8"}
		for _, reading := range strings.Fields(args) {
			given = append(given, "--reading", reading)
		}
		code, _, errs := call(steep, given...)
		assert.Equal(t, 1, code, args)
		assert.Contains(t, errs, says)
	}
	code, _, errs := call("", "heights", examples+"skew.cressa.json", "--width", "8", "--reading", "P1")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "Usage:")
}
