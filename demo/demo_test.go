package demo_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/demo"
)

// Every diagram that ships can be cut and looks like a gem; who has no table says
// so in the note.
func TestTheDiagramsThatShipAreGems(t *testing.T) {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(all), 16)
	outlines := map[diagram.Outline]bool{}
	mostFacets, fewestFacets, highestIndex, crownFirst := 0, diagram.MaxFacets, 0.0, 0
	for name, d := range all {
		outlines[d.Outline] = true
		highestIndex = max(highestIndex, d.RefractiveIndex)
		if d.FirstSide == diagram.Crown {
			crownFirst++
		}
		stone, err := cutting.Cut(d)
		require.NoError(t, err, name)
		m := stone.Measures()
		mostFacets, fewestFacets = max(mostFacets, m.Facets), min(fewestFacets, m.Facets)
		assert.True(t, m.HeightWidth >= 0.50 && m.HeightWidth <= 0.85, "%s: height/width %v", name, m.HeightWidth)
		require.NotNil(t, m.GirdleBand, name)
		assert.True(t, *m.GirdleBand >= 0.01 && *m.GirdleBand <= 0.05, "%s: girdle/width %v", name, *m.GirdleBand)
		if m.TableWidth == nil {
			assert.Contains(t, d.Note, "without a table", name)
		} else {
			assert.True(t, *m.TableWidth >= 0.40 && *m.TableWidth <= 0.75, "%s: table/width %v", name, *m.TableWidth)
		}
		for _, tier := range d.Tiers {
			if tier.Part == diagram.Pavilion {
				assert.Greater(t, tier.Angle, material.CriticalAngle(d.RefractiveIndex), "%s: %s", name, tier.Name)
			}
		}
		for _, w := range stone.Warnings {
			assert.Equal(t, cutting.SenseMatters, w.Code, "%s: %v", name, w)
		}
	}
	for _, o := range []diagram.Outline{"round", "oval", "square", "rectangle", "triangle", "pear", "marquise", "cushion", "hexagon", "freeform"} {
		assert.True(t, outlines[o], string(o))
	}
	assert.Greater(t, mostFacets, 200)
	assert.LessOrEqual(t, fewestFacets, 25, "a very easy first stone")
	assert.Greater(t, highestIndex, 1.85)
	assert.Positive(t, crownFirst)
}
