package mending_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/mending"
)

// A stone whose sides were stretched is measured, and the diagram that it was made from is brought back to it.
func TestADiagramIsBroughtToAMeasuredStone(t *testing.T) {
	s, _ := roundAt8(t)
	d := angles.Stretch(s, 1.05, 0.9)
	for i, tier := range d.Tiers {
		if tier.Name == "T" {
			d.Tiers[i].Stop.Ratio = 0.5
		}
	}
	other, err := cutting.Cut(d)
	require.NoError(t, err)
	is, mm := other.Measures(), 7/other.Measures().Width
	m := mending.Measured{
		Width: 7, Length: is.Length * mm, Height: is.Height * mm, Table: *is.TableWidth * is.Width * mm,
		Crown: mainAngle(other, "C2"), Pavilion: mainAngle(other, "P1"), CrownFacets: 32, PavilionFacets: 24, GirdleFacets: 16,
	}
	l, err := m.Liken(s)
	require.NoError(t, err)
	assert.InDelta(t, other.Solid().Volume()*mm*mm*mm, l.Stone.Solid().Volume()*l.MM*l.MM*l.MM, 1e-3)
	for _, r := range l.Residuals {
		assert.InDelta(t, r.Is, r.Fitted, 1e-3, r.What)
	}
	assert.Less(t, l.Off, 0.05)

	wrong := m
	wrong.Length, wrong.CrownFacets = 9, 24
	off, err := wrong.Liken(s)
	require.NoError(t, err)
	assert.Greater(t, off.Off, 10.0, "a round is not that long")
}

func mainAngle(s *cutting.Stone, tier string) float64 {
	return s.Diagram.Tiers[s.Diagram.TierNo(tier)].Angle
}

// The diagram of what was really cut gives the stone as it was cut: a facet too deep and one beside stand in tiers of their own.
func TestWhatWasCutBecomesADiagram(t *testing.T) {
	s, _ := roundAt8(t)
	same, err := mending.AsDiagram(s)
	require.NoError(t, err)
	assert.True(t, sameStone(s.Solid(), same.Solid()))
	assert.Len(t, same.Diagram.Tiers, len(s.Diagram.Tiers), "nothing was cut otherwise")

	planes := s.Planes()
	planes[facet(t, s, "P2@12")].D -= 0.01
	beside := s.Facets[facet(t, s, "C1@3")]
	beside.Plane.Normal = diagram.Normal(diagram.Crown, 40, s.Diagram.Azimuth(diagram.Crown, 4))
	cut, err := s.Changed(planes, cutting.Beside{Facet: facet(t, s, "C1@3"), Plane: beside.Plane})
	require.NoError(t, err)
	d, err := mending.AsDiagram(cut)
	require.NoError(t, err)
	assert.InDelta(t, cut.Solid().Volume(), d.Solid().Volume(), 1e-9)
	names := []string{}
	for _, tier := range d.Diagram.Tiers {
		names = append(names, tier.Name)
	}
	assert.Contains(t, names, "P2x2")
	assert.Empty(t, d.Diagram.Validate())
}
