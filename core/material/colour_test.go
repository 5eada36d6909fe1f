package material_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/material"
)

func TestIndexOfAColour(t *testing.T) {
	const n, dispersion = 2.417, 0.044
	assert.Equal(t, n, material.IndexAt(n, dispersion, material.LineD))
	assert.InDelta(t, dispersion, material.IndexAt(n, dispersion, material.LineG)-material.IndexAt(n, dispersion, material.LineB), 1e-12)
	assert.Less(t, material.IndexAt(n, dispersion, material.LineC), n)
	assert.Greater(t, material.IndexAt(n, dispersion, material.LineF), n)
}

func TestTints(t *testing.T) {
	for _, tint := range material.Tints() {
		found, ok := material.FindTint(tint.Key)
		require.True(t, ok)
		for c, a := range found.Absorption() {
			assert.GreaterOrEqual(t, a, 0.0)
			assert.InDelta(t, tint.Through[c], math.Exp(-10*a), 1e-12)
		}
	}
	for _, m := range material.All() {
		assert.NotEmpty(t, m.UsualTint().Key, m.Name)
	}
	peridot, _ := material.Find("Peridot")
	assert.Equal(t, "yellow-green", peridot.UsualTint().Key)
}
