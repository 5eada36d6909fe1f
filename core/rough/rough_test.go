package rough_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/diagram"
	"cressa/core/rough"
	"cressa/core/solid"
)

// drawPoint draws a point as it is typed, to the µm.
func drawPoint(t *rapid.T, half float64) r3.Vec {
	most := int(1000 * half)
	c := rapid.Map(rapid.IntRange(-most, most), func(i int) float64 { return float64(i) / 1000 })
	return r3.Vec{X: c.Draw(t, "x"), Y: c.Draw(t, "y"), Z: c.Draw(t, "z")}
}

// closed holds a body to what a convex solid is: every corner within every face, and the faces'
// areas with their normals add up to nothing.
func closed(t require.TestingT, b *rough.Body) {
	var sum r3.Vec
	points := b.Points()
	for _, f := range b.Faces {
		sum = r3.Add(sum, r3.Scale(f.Area(), f.Plane.Normal))
		for _, p := range points {
			if above := f.Plane.Above(p); above > 1e-9 {
				require.Failf(t, "not convex", "%v stands out of a face by %v", p, above)
			}
		}
	}
	require.Less(t, r3.Norm(sum), 1e-7)
}

// The hull holds its points, each of its faces passes through three of them, and it closes. Points on
// a grid lie in planes and on lines by the dozen, with copies among them.
func TestAHullHoldsItsPointsAndCloses(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		points := make([]r3.Vec, rapid.IntRange(4, 60).Draw(t, "points"))
		onGrid := rapid.Bool().Draw(t, "on a grid")
		for i := range points {
			points[i] = drawPoint(t, 5)
			if onGrid {
				points[i] = r3.Vec{X: math.Round(points[i].X / 2), Y: math.Round(points[i].Y / 2), Z: math.Round(points[i].Z / 2)}
			}
		}
		b, ok := rough.Hull(points)
		if !ok {
			require.True(t, onGrid || len(points) < 6)
			return
		}
		closed(t, b)
		for _, plane := range b.Planes() {
			on := 0
			for _, p := range points {
				above := plane.Above(p)
				require.LessOrEqual(t, above, 1e-9)
				if above > -1e-9 {
					on++
				}
			}
			require.GreaterOrEqual(t, on, 3)
		}
	})
}

// A cut parts a body into two that close, and together they weigh what it weighed.
func TestACutPartsABody(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var points []r3.Vec
		for range rapid.IntRange(8, 40).Draw(t, "points") {
			points = append(points, drawPoint(t, 5))
		}
		b, ok := rough.Hull(points)
		if !ok {
			return
		}
		n := drawPoint(t, 1)
		if r3.Norm(n) < 0.1 {
			return
		}
		plane := solid.Plane{Normal: r3.Unit(n), D: rapid.Float64Range(-4, 4).Draw(t, "d")}
		inside, section := b.Cut(plane)
		outside, again := b.Cut(solid.Plane{Normal: r3.Scale(-1, plane.Normal), D: -plane.D})
		sum := 0.0
		for _, part := range []*rough.Body{inside, outside} {
			if part != nil {
				closed(t, part)
				sum += part.Volume()
			}
		}
		require.InDelta(t, b.Volume(), sum*map[bool]float64{true: 1, false: 0.5}[inside != outside], 1e-9*b.Volume()+1e-9)
		require.InDelta(t, section, again, 1e-9)
	})
}

func TestBoxAndPebble(t *testing.T) {
	size := r3.Vec{X: 12, Y: 9, Z: 7}
	box, _ := rough.Box(size)
	assert.Len(t, box.Planes(), 6)
	assert.InDelta(t, 12*9*7, box.Volume(), 1e-9)
	assert.InDelta(t, 2*(12*9+9*7+12*7), box.Surface(), 1e-9)
	centre, axes := box.Axes()
	assert.InDelta(t, 0, r3.Norm(centre), 1e-12)
	for k, want := range []r3.Vec{{X: 1}, {Y: 1}, {Z: 1}} {
		assert.InDelta(t, 1, math.Abs(r3.Dot(axes[k], want)), 1e-12)
	}

	pebble, _ := rough.Pebble(size)
	closed(t, pebble)
	assert.InEpsilon(t, math.Pi/6*12*9*7, pebble.Volume(), 0.01)
	assert.Less(t, pebble.Volume(), math.Pi/6*12*9*7)
}

func piece(t *testing.T, r rough.Rough) *rough.Piece {
	t.Helper()
	p, err := r.Work()
	require.NoError(t, err)
	return p
}

func TestASawCutCostsItsSlabAndWhatFallsOff(t *testing.T) {
	p := piece(t, rough.Rough{
		Material: "quartz", Solid: rough.Solid{Kind: rough.KindBox, Size: r3.Vec{X: 10, Y: 8, Z: 6}}, Carat: 6.36 * 1.2,
		Flaws: []rough.Flaw{
			{Name: "at the cut", Kind: rough.Ball, At: r3.Vec{X: 3}, Radius: 0.5, Rule: rough.Out},
			{Name: "behind", Kind: rough.Ball, At: r3.Vec{X: -3}, Radius: 0.5, Rule: rough.Out},
		},
		Trims: []rough.Trim{{Normal: r3.Vec{X: 2}, Distance: 3, Kerf: 0.4}, {Normal: r3.Vec{Z: -1}, Distance: 2.9, Kerf: 0.4}},
	})
	assert.InDelta(t, 7.8*8*(6-0.3), p.Body.Volume(), 1e-9)
	assert.InDelta(t, 48, p.Cuts[0].Section, 1e-9)
	assert.InDelta(t, 0.4*48, p.Cuts[0].Kerf, 1e-9)
	assert.InDelta(t, 1.8*48, p.Cuts[0].Offcut, 1e-9)
	off, ok := p.Offcut(0)
	require.True(t, ok)
	assert.InDelta(t, 1.8*48, piece(t, off).Whole.Volume(), 1e-9)
	require.Len(t, off.Flaws, 1, "the crystal at the cut, not the one behind it")
	assert.Equal(t, "at the cut", off.Flaws[0].Name)
	_, ok = p.Offcut(1)
	assert.False(t, ok)
	// The second blade runs half beside the piece: it loses what is there, and nothing falls off.
	assert.InDelta(t, 0.3*7.8*8, p.Cuts[1].Kerf, 1e-9)
	assert.Zero(t, p.Cuts[1].Offcut)
	assert.Equal(t, "trim 2", p.Walls[len(p.Walls)-1].Name)
	assert.InDelta(t, 480*p.Facts.SG/200/(6.36*1.2)-1, p.Off(), 1e-12)
}

func TestTheRuleOfThumbGoesByTheSmallest(t *testing.T) {
	for _, c := range []struct {
		size  r3.Vec
		width float64
		by    rough.Bounding
	}{
		{r3.Vec{X: 12, Y: 10, Z: 5.4}, 9, rough.ByDepth},
		{r3.Vec{X: 12, Y: 8, Z: 6}, 8, rough.ByWidth},
		{r3.Vec{X: 9.75, Y: 9, Z: 6}, 7.5, rough.ByLength},
	} {
		width, by := rough.RuleOfThumb(c.size, 1.3, 0.6)
		assert.InDelta(t, c.width, width, 1e-12)
		assert.Equal(t, c.by, by)
	}
}

func TestMistakesInAPieceAreToldByPlace(t *testing.T) {
	box := rough.Solid{Kind: rough.KindBox, Size: r3.Vec{X: 10, Y: 8, Z: 6}}
	steep := 91.0
	for _, c := range []struct {
		field diagram.Field
		code  diagram.Code
		rough rough.Rough
	}{
		{"material", rough.UnknownMaterial, rough.Rough{Material: "moon cheese", Solid: box}},
		{"solid.size", diagram.OutOfRange, rough.Rough{Material: "quartz", Solid: rough.Solid{Kind: rough.KindPebble, Size: r3.Vec{X: 1, Y: 1}}}},
		{"solid.kind", diagram.UnknownValue, rough.Rough{Material: "quartz"}},
		{"solid.points", rough.FewPoints, rough.Rough{Material: "quartz", Solid: rough.Solid{Kind: rough.KindHull}}},
		{"solid.points", rough.FlatHull, rough.Rough{Material: "quartz", Solid: rough.Solid{Kind: rough.KindHull, Points: []r3.Vec{{}, {X: 1}, {Y: 1}, {X: 2, Y: 3}}}}},
		{"solid.size", rough.FlatHull, rough.Rough{Material: "quartz", Solid: rough.Solid{Kind: rough.KindBox, Size: r3.Vec{X: 900, Y: 3, Z: 1e-7}}}},
		{"trims.0.normal", rough.NoDirection, rough.Rough{Material: "quartz", Solid: box, Trims: []rough.Trim{{}}}},
		{"trims.1.distance", rough.NothingLeft, rough.Rough{Material: "quartz", Solid: box,
			Trims: []rough.Trim{{Normal: r3.Vec{X: 1}, Distance: 2}, {Normal: r3.Vec{X: -1}, Distance: -3}}}},
		{"flaws.1.radius", diagram.OutOfRange, rough.Rough{Material: "quartz", Solid: box,
			Flaws: []rough.Flaw{{Kind: rough.Point, Rule: rough.Out}, {Kind: rough.Ball, Rule: rough.Out, Radius: -1}}}},
		{"flaws.0.rule", diagram.UnknownValue, rough.Rough{Material: "quartz", Solid: box, Flaws: []rough.Flaw{{Kind: rough.Point}}}},
		{"axis.toTable", diagram.OutOfRange, rough.Rough{Material: "quartz", Solid: box,
			Axis: &rough.Axis{Kind: rough.OpticAxis, Direction: r3.Vec{Z: 1}, ToTable: &steep}}},
		{"colour.zones.0.to", rough.WrongOrder, rough.Rough{Material: "quartz", Solid: box,
			Colour: &rough.Colour{Zones: []rough.Zone{{Normal: r3.Vec{X: 1}, From: 1, To: 0}}}}},
	} {
		_, err := c.rough.Work()
		var p diagram.Problem
		require.ErrorAs(t, err, &p)
		assert.Equal(t, c.code, p.Code, c.field)
		assert.Equal(t, c.field, p.Field)
	}
}
