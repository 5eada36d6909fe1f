package material_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/material"
)

func TestCriticalAngles(t *testing.T) {
	for n, want := range map[float64]float64{1.434: 44.215, 1.544: 40.366, 1.620: 38.118, 1.718: 35.596, 1.762: 34.579, 1.950: 30.852, 2.417: 24.440} {
		assert.InDelta(t, want, material.CriticalAngle(n), 5e-4, "n %v", n)
	}
}

func TestTheTableIsOrderedAndPlausible(t *testing.T) {
	all := material.All()
	require.GreaterOrEqual(t, len(all), 20)
	for i, m := range all {
		if i > 0 {
			assert.Less(t, strings.ToLower(all[i-1].Name), strings.ToLower(m.Name))
		}
		assert.LessOrEqual(t, m.RefractiveIndex.Low, m.RefractiveIndex.High, m.Name)
		assert.True(t, m.RefractiveIndex.Low > 1.3 && m.RefractiveIndex.High < 2.5, m.Name)
		assert.True(t, m.SG > 1 && m.SG < 8, m.Name)
		assert.True(t, m.Hardness.Low >= 1 && m.Hardness.High <= 10, m.Name)
		if m.Optic == material.Uniaxial || m.Optic == material.Biaxial {
			assert.Less(t, m.RefractiveIndex.Low, m.RefractiveIndex.High, "%s splits light", m.Name)
		}
	}
	got, ok := material.Find(" sPinel ")
	assert.True(t, ok)
	assert.Equal(t, "Spinel", got.Name)
	_, ok = material.Find("cheese")
	assert.False(t, ok)
}
