package drawing_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"cressa/core/diagram"
	"cressa/core/drawing"
	"cressa/core/solid"
)

// area is the area of a polygon, positive where it runs counter-clockwise.
func area(p drawing.Polygon) float64 {
	sum := 0.0
	for i, a := range p.Points {
		b := p.Points[(i+1)%len(p.Points)]
		sum += a.X*b.Y - b.X*a.Y
	}
	return sum / 2
}

func TestViewsOfABlockShowTheSideThatFacesTheEye(t *testing.T) {
	block := solid.Block(1)
	for _, view := range [][]drawing.Polygon{
		drawing.Plan(block, diagram.Crown), drawing.Plan(block, diagram.Pavilion),
		drawing.Elevation(block, 0), drawing.Elevation(block, 90),
	} {
		assert.Len(t, view, 1)
		assert.InDelta(t, 4, area(view[0]), 1e-9)
	}
	faces := map[int]bool{}
	for _, azimuth := range []float64{0, 90, 180, 270} {
		faces[drawing.Elevation(block, azimuth)[0].Facet] = true
	}
	assert.Len(t, faces, 4, "each eye sees another side")
	assert.NotEqual(t, drawing.Plan(block, diagram.Crown)[0].Facet, drawing.Plan(block, diagram.Pavilion)[0].Facet)
}

func TestASectionRunsRoundTheStone(t *testing.T) {
	for _, azimuth := range []float64{0, 90, 30} {
		length := 0.0
		for _, s := range drawing.Section(solid.Block(1), azimuth) {
			length += math.Hypot(s.To.X-s.From.X, s.To.Y-s.From.Y)
		}
		half := 1 / math.Max(math.Abs(math.Sin(azimuth*math.Pi/180)), math.Abs(math.Cos(azimuth*math.Pi/180)))
		assert.InDelta(t, 4+4*half, length, 1e-9, "section towards %v", azimuth)
	}
}

func TestAWheelIsLabelledSoThatNumbersDoNotCollide(t *testing.T) {
	for _, teeth := range []int{1, 32, 64, 72, 77, 80, 96, 97, 120, 360} {
		wheel := drawing.Wheel(teeth)
		assert.Len(t, wheel, teeth)
		labelled := 0
		for _, tooth := range wheel {
			if tooth.Labelled {
				labelled++
			}
		}
		assert.LessOrEqual(t, labelled, 25, "%d teeth", teeth)
		assert.True(t, wheel[teeth-1].Labelled, "the gear's own number is at the top")
		assert.InDelta(t, 0, wheel[teeth-1].Azimuth, 1e-9)
	}
}
