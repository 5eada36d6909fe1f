package wheel

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// Spot is a point of the machine as it is seen from the side, in mm: X to the right of the stone's middle, Y above the lap.
type Spot struct{ X, Y float64 }

// Elevation is the machine as it is seen from the side, across the plane in which the quill swings.
type Elevation struct {
	// Quill runs from the pivot, by way of the bend of the table adapter where that is on, to the stone's middle.
	Quill []Spot
	// Stone is the outline of the stone, counter-clockwise.
	Stone []Spot
}

// Elevation returns how the machine stands now. The lap lies at Y = 0.
func (w *Wheel) Elevation() Elevation {
	lap, pose := w.plane(w.at), w.pose()
	index := w.position()
	// The stone's axis leans by the facet's angle from the lap's normal, to the side that the facet does not face.
	out := pose.Facing(90, index)
	axis := pose.Facing(0, index)
	sin, cos := r3.Dot(lap.Normal, out), r3.Dot(lap.Normal, axis)
	right := r3.Sub(r3.Scale(sin, axis), r3.Scale(cos, out))
	seen := make([]Spot, 0, len(w.stone.Vertices()))
	for _, v := range w.stone.Vertices() {
		p := r3.Scale(w.setup.Width, w.stone.Point(v))
		seen = append(seen, Spot{r3.Dot(right, p), lap.D - r3.Dot(lap.Normal, p)})
	}
	middle := Spot{0, lap.D}
	e := Elevation{Stone: outline(seen)}
	if !w.controls.Adapter {
		e.Quill = []Spot{{-w.length * sin, lap.D + w.length*cos}, middle}
		return e
	}
	bend := Spot{-w.past * sin, lap.D + w.past*cos}
	sin, cos = math.Sincos(w.at * math.Pi / 180)
	e.Quill = []Spot{{bend.X - elbow*sin, bend.Y + elbow*cos}, bend, middle}
	return e
}

// outline is the convex hull of points, by Andrew's monotone chain.
func outline(points []Spot) []Spot {
	slices.SortFunc(points, func(a, b Spot) int { return cmp.Or(cmp.Compare(a.X, b.X), cmp.Compare(a.Y, b.Y)) })
	var hull []Spot
	for range 2 {
		begin := len(hull)
		for _, p := range points {
			for len(hull) >= begin+2 && leftTurn(hull[len(hull)-2], hull[len(hull)-1], p) <= 0 {
				hull = hull[:len(hull)-1]
			}
			hull = append(hull, p)
		}
		hull = hull[:len(hull)-1] // it begins the other half
		slices.Reverse(points)
	}
	return hull
}

// leftTurn is over 0 where the way from a by b to c turns left.
func leftTurn(a, b, c Spot) float64 { return (b.X-a.X)*(c.Y-a.Y) - (b.Y-a.Y)*(c.X-a.X) }
