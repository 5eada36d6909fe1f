package material_test

import (
	"encoding/json"
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
	require.GreaterOrEqual(t, len(all), 45)
	for i, m := range all {
		if i > 0 {
			assert.Less(t, strings.ToLower(all[i-1].Name), strings.ToLower(m.Name))
		}
		field, ok := m.Plausible()
		assert.True(t, ok, "%s: %s", m.Name, field)
		assert.LessOrEqual(t, m.Birefringence, m.RefractiveIndex.High-m.RefractiveIndex.Low+0.001, "%s: the rays lie within the range", m.Name)
		assert.Less(t, m.RefractiveIndex.High, 2.7, m.Name)
	}
	for field, change := range map[string]func(*material.Material){
		"refractiveIndex": func(m *material.Material) { m.RefractiveIndex.Low = 2 },
		"birefringence":   func(m *material.Material) { m.Birefringence = 0.01 },
		"dispersion":      func(m *material.Material) { m.Dispersion = -1 },
		"sg":              func(m *material.Material) { m.SG = 0 },
		"hardness":        func(m *material.Material) { m.Hardness.High = 11 },
	} {
		m, _ := material.Find("Spinel")
		change(&m)
		got, ok := m.Plausible()
		assert.False(t, ok)
		assert.Equal(t, field, got)
	}
	got, ok := material.Find(" sPinel ")
	assert.True(t, ok)
	assert.Equal(t, "Spinel", got.Name)
	_, ok = material.Find("cheese")
	assert.False(t, ok)
}

func TestADiagramIsMeantForTheCommonestMaterialThatSuits(t *testing.T) {
	for index, want := range map[float64]string{1.54: "Quartz", 1.55: "Quartz", 1.57: "Aquamarine", 1.62: "Topaz", 1.65: "Peridot", 1.72: "Spinel", 1.76: "Sapphire", 2.16: "Cubic zirconia", 1.434: "Fluorite"} {
		got, ok := material.Suiting(index, material.All())
		require.True(t, ok)
		assert.Equal(t, want, got.Name, index)
	}
	_, ok := material.Suiting(1.54, nil)
	assert.False(t, ok)
}

func TestWhatIsNotKnownIsNull(t *testing.T) {
	opal, ok := material.Find("opal")
	require.True(t, ok)
	data, err := json.Marshal(opal)
	require.NoError(t, err)
	assert.Contains(t, string(data), `"dispersion":null`)
	renamed, ok := material.Find("Sunstone")
	require.True(t, ok)
	assert.Equal(t, "Sunstone, labradorite", renamed.Name)
}
