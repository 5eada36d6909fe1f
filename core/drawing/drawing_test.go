package drawing_test

import (
	"cmp"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/spatial/r2"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

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

// What the eye sees of a stone covers the outline of its corners, once, from every
// side; and a section lies on the stone's skin.
func TestViewsCoverTheOutline(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := solid.Block(1)
		for i := range rapid.IntRange(1, 20).Draw(t, "cuts") {
			n := r3.Vec{X: rapid.Float64Range(-1, 1).Draw(t, "x"), Y: rapid.Float64Range(-1, 1).Draw(t, "y"), Z: rapid.Float64Range(-1, 1).Draw(t, "z")}
			if r3.Norm(n) < 0.1 {
				continue
			}
			s, _ = s.Cut(i, solid.Plane{Normal: r3.Unit(n), D: rapid.Float64Range(0.3, 1.2).Draw(t, "d")})
		}
		azimuth := rapid.Float64Range(0, 360).Draw(t, "azimuth")
		sin, cos := math.Sincos(azimuth * math.Pi / 180)
		above := func(p r3.Vec) r2.Vec { return r2.Vec{X: p.X, Y: p.Y} }
		beside := func(p r3.Vec) r2.Vec { return r2.Vec{X: p.X*cos - p.Y*sin, Y: p.Z} }
		for what, view := range map[string]struct {
			seen []drawing.Polygon
			flat func(r3.Vec) r2.Vec
		}{
			"crown": {drawing.Plan(s, diagram.Crown), above}, "pavilion": {drawing.Plan(s, diagram.Pavilion), above},
			"side": {drawing.Elevation(s, azimuth), beside},
		} {
			covered := 0.0
			for _, p := range view.seen {
				covered += math.Abs(area(p))
			}
			var corners []r2.Vec
			for _, v := range s.Vertices() {
				corners = append(corners, view.flat(s.Point(v)))
			}
			assert.InDelta(t, hullArea(corners), covered, 1e-7, what)
		}
	})
}

// hullArea returns the area of the convex hull, walked round from left to right below
// and back above.
func hullArea(points []r2.Vec) float64 {
	slices.SortFunc(points, func(a, b r2.Vec) int { return cmp.Or(cmp.Compare(a.X, b.X), cmp.Compare(a.Y, b.Y)) })
	chain := func() (out []r2.Vec) {
		for _, p := range points {
			for len(out) > 1 && r2.Cross(r2.Sub(out[len(out)-1], out[len(out)-2]), r2.Sub(p, out[len(out)-2])) <= 0 {
				out = out[:len(out)-1]
			}
			out = append(out, p)
		}
		return out
	}
	hull := chain()
	slices.Reverse(points)
	hull = append(hull, chain()...)
	sum := 0.0
	for i, a := range hull {
		sum += r2.Cross(a, hull[(i+1)%len(hull)]) / 2
	}
	return sum
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
