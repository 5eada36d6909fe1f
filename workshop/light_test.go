package workshop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/core/light"
	"cressa/core/material"
	"cressa/workshop"
)

func TestAMaterialIsLookedAtByItsLowerIndexInItsColour(t *testing.T) {
	settings := workshop.DefaultSettings()
	lighting := workshop.Lighting{Material: "Peridot", RefractiveIndex: 1.5, Width: 9, Model: light.Head, HeadAngle: 16, FrostedGirdle: true}
	seen, err := lighting.Resolve(settings)
	require.NoError(t, err)
	peridot, _ := material.Find("Peridot")
	assert.Equal(t, light.Experiment{RefractiveIndex: peridot.RefractiveIndex.Low, HeadAngle: 16, FrostedGirdle: true, Width: 9}, seen.Experiment)
	assert.Equal(t, peridot.UsualTint(), seen.Tint)
	assert.Equal(t, peridot.SG, seen.SG)
	assert.Less(t, seen.Fan[0], seen.Fan[1], "red is bent least")
	assert.Less(t, seen.Fan[1], seen.Fan[2])

	lighting.Material, lighting.Tint = "", "red"
	seen, err = lighting.Resolve(settings)
	require.NoError(t, err)
	assert.Equal(t, light.Fan{1.5, 1.5, 1.5}, seen.Fan, "nothing is known of how it parts light")
	assert.Equal(t, "red", seen.Tint.Key)
	assert.Zero(t, seen.SG)
	for _, bad := range []workshop.Lighting{{Material: "Moon cheese"}, {RefractiveIndex: 1.5, Tint: "plaid"}} {
		_, err = bad.Resolve(settings)
		assert.ErrorAs(t, err, new(diagram.Problem))
	}
}

func TestTheGirdlesWorkAtTheCuttersPace(t *testing.T) {
	s := newShop(t)
	stone := s.plan(t, "First Light")
	usual, logged, err := s.Pace(t.Context())
	require.NoError(t, err)
	assert.False(t, logged)
	assert.Positive(t, usual)
	s.done(t, stone, 12)
	pace, logged, err := s.Pace(t.Context())
	require.NoError(t, err)
	assert.True(t, logged)
	assert.InDelta(t, 1, pace, 1e-9)

	script, err := s.Script(t.Context(), stone)
	require.NoError(t, err)
	girdle := 0
	for _, v := range script.Visits {
		if script.Facets[v.FacetNo].Part == diagram.Girdle {
			girdle++
		}
	}
	works := workshop.GirdleWorks(script.Assessment.Stone, len(script.Passes), pace)
	require.Len(t, works, 3)
	assert.Equal(t, workshop.GirdlePolished, works[0].Finish)
	assert.Equal(t, girdle, works[0].Visits, "as many as the bench asks for")
	assert.InDelta(t, float64(girdle)/60, works[0].Hours, 1e-9)
	assert.Equal(t, girdle/len(script.Passes), works[2].Visits)
	assert.False(t, works[0].Finish.Frosted())
	assert.True(t, works[1].Finish.Frosted())
}
