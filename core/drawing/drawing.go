// Package drawing gives the geometry of a stone's line drawings: polygons that
// carry the facet they show, in design units. It knows no file format and no
// colour.
package drawing

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/solid"
)

// Point is a place on the paper: X to the right, Y up.
type Point struct{ X, Y float64 }

// Polygon is a facet as it is seen. Facet is the ID of its face, negative for
// what is left of the block.
type Polygon struct {
	Facet  int
	Points []Point
}

// Plan draws the facets that are seen from straight above the side that is up,
// with 12 o'clock at the top. With the pavilion up the stone has been turned over
// about the line from 12 to 6, so that dialled indexes run clockwise on either
// side.
func Plan(s *solid.Solid, up diagram.Part) []Polygon {
	return Seen(s, r3.Vec{X: toTheRight(up)}, r3.Vec{Y: 1})
}

// InPlan returns where a point of the stone lies in Plan.
func InPlan(p r3.Vec, up diagram.Part) Point { return Point{toTheRight(up) * p.X, p.Y} }

// toTheRight is 1 where the stone's x runs to the right with a side up, -1 where it runs to the left.
func toTheRight(up diagram.Part) float64 {
	if up == diagram.Pavilion {
		return -1
	}
	return 1
}

// Elevation draws the facets that are seen from the side, by an eye at the given
// stone azimuth (degrees), the table at the top.
func Elevation(s *solid.Solid, azimuth float64) []Polygon {
	sin, cos := math.Sincos(azimuth * math.Pi / 180)
	return Seen(s, r3.Vec{X: -cos, Y: sin}, r3.Vec{Z: 1})
}

// Seen draws the faces that look towards right × up, the eye's right and up: directions of length 1, at right angles.
func Seen(s *solid.Solid, right, up r3.Vec) []Polygon {
	// An edge-on face would only be a line.
	const edgeOn = 1e-9
	eye := r3.Cross(right, up)
	var out []Polygon
	for _, f := range s.Faces() {
		if r3.Dot(f.Plane.Normal, eye) <= edgeOn {
			continue
		}
		p := Polygon{Facet: f.ID}
		for _, v := range f.Loop {
			q := s.Point(v)
			p.Points = append(p.Points, Point{r3.Dot(q, right), r3.Dot(q, up)})
		}
		out = append(out, p)
	}
	return out
}

// Segment is where a section cuts one facet.
type Segment struct {
	Facet    int
	From, To Point
}

// Section cuts the stone along its axis in the plane towards the given stone
// azimuth (degrees). X runs towards that azimuth, Y along the axis.
func Section(s *solid.Solid, azimuth float64) []Segment {
	sin, cos := math.Sincos(azimuth * math.Pi / 180)
	along, across := r3.Vec{X: sin, Y: cos}, r3.Vec{X: cos, Y: -sin}
	flat := func(p r3.Vec) Point { return Point{r3.Dot(p, along), p.Z} }
	var out []Segment
	for _, f := range s.Faces() {
		var ends []Point
		for i, v := range f.Loop {
			a, b := s.Point(v), s.Point(f.Loop[(i+1)%len(f.Loop)])
			da, db := r3.Dot(a, across), r3.Dot(b, across)
			// A corner in the plane belongs to the edge that starts there.
			if da == 0 {
				ends = append(ends, flat(a))
			} else if da*db < 0 {
				ends = append(ends, flat(r3.Add(a, r3.Scale(da/(da-db), r3.Sub(b, a)))))
			}
		}
		if from, to, ok := farthest(ends); ok {
			out = append(out, Segment{f.ID, from, to})
		}
	}
	return out
}

// farthest returns the two ends of the line that the points lie on, and false
// where they are one point or none.
func farthest(points []Point) (from, to Point, ok bool) {
	longest := solid.Weld
	for i, a := range points {
		for _, b := range points[:i] {
			if d := math.Hypot(a.X-b.X, a.Y-b.Y); d > longest {
				from, to, ok, longest = b, a, true, d
			}
		}
	}
	return from, to, ok
}

// Tooth is a mark on the index wheel.
type Tooth struct {
	Index int
	// Azimuth is degrees clockwise from the top of the wheel.
	Azimuth float64
	// Labelled tells whether the tooth carries its number.
	Labelled bool
}

// Wheel returns the teeth of a gear, 1 to N, N at the top. So many are labelled
// that their numbers do not run into each other.
func Wheel(teeth int) []Tooth {
	const mostLabels = 24
	step := 1
	for _, s := range []int{1, 2, 3, 4, 5, 6, 8, 10, 12, 15} {
		step = s
		if teeth <= s*mostLabels && teeth%s == 0 {
			break
		}
	}
	out := make([]Tooth, teeth)
	for i := range out {
		index := i + 1
		out[i] = Tooth{Index: index, Azimuth: math.Mod(360*float64(index)/float64(teeth), 360), Labelled: index%step == 0 || index == teeth}
	}
	return out
}
