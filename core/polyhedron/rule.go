package polyhedron

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/solid"
)

// Kind names a solid that follows from a rule.
type Kind string

// The kinds: the five regular polyhedra, and those that have as many sides as wanted.
const (
	Tetrahedron  Kind = "tetrahedron"
	Cube         Kind = "cube"
	Octahedron   Kind = "octahedron"
	Dodecahedron Kind = "dodecahedron"
	Icosahedron  Kind = "icosahedron"
	// Prism: upright sides between two level faces.
	Prism Kind = "prism"
	// Antiprism: two level faces, turned against each other, and triangles between.
	Antiprism Kind = "antiprism"
	// Bipyramid: two pyramids on one base.
	Bipyramid Kind = "bipyramid"
	// Trapezohedron: two pyramids turned against each other, with kites for sides.
	Trapezohedron Kind = "trapezohedron"
)

// Pose says what of a regular polyhedron points up.
type Pose string

// The poses.
const (
	FaceUp   Pose = "face"
	CornerUp Pose = "corner"
	EdgeUp   Pose = "edge"
)

// Rule asks for a solid.
type Rule struct {
	Kind Kind
	// Pose counts for the regular polyhedra, which are all alike from every face.
	Pose Pose
	// Sides, 3 to 60, and Height over width, 0.1 to 10, count for the others.
	Sides  int
	Height float64
}

// golden is the ratio of a regular pentagon's diagonal to its side.
var golden = (1 + math.Sqrt(5)) / 2

// Shape returns the solid with its axis along z. Face normals of the regular polyhedra are
// the usual ones from the cube's: (±1, ±1, ±1) and the golden ratio. It returns an error
// where the planes close no solid, as with fewer than three sides.
func (r Rule) Shape() (*Shape, error) {
	var planes []solid.Plane
	switch r.Kind {
	case Prism, Antiprism, Bipyramid, Trapezohedron:
		planes = r.round()
	default:
		normals, corners := r.regular()
		planes = posed(normals, map[Pose]r3.Vec{
			FaceUp: normals[0], CornerUp: corners[0], EdgeUp: r3.Add(corners[0], corners[1]),
		}[r.Pose])
	}
	out := &Shape{Planes: planes, Size: 1}
	if err := out.close(); err != nil {
		return nil, err
	}
	box := out.Solid.Bounds().Size()
	size := max(box.X, box.Y, box.Z)
	for i := range planes {
		planes[i].D /= size
	}
	return out, out.close()
}

// regular returns the face normals of a regular polyhedron and the two ends of an edge.
func (r Rule) regular() (normals []r3.Vec, edge [2]r3.Vec) {
	cube := []r3.Vec{{X: 1}, {X: -1}, {Y: 1}, {Y: -1}, {Z: 1}, {Z: -1}}
	var octants, rings []r3.Vec
	for i := range 8 {
		octants = append(octants, r3.Vec{X: sign(i, 0), Y: sign(i, 1), Z: sign(i, 2)})
	}
	for i := range 4 {
		a, b := sign(i, 0), sign(i, 1)*golden
		rings = append(rings, r3.Vec{Y: a, Z: b}, r3.Vec{X: a, Y: b}, r3.Vec{X: b, Z: a})
	}
	// Corners stand over the faces of the dual, edges between two neighbours of these.
	switch r.Kind {
	case Tetrahedron:
		n := []r3.Vec{{X: 1, Y: 1, Z: 1}, {X: 1, Y: -1, Z: -1}, {X: -1, Y: 1, Z: -1}, {X: -1, Y: -1, Z: 1}}
		return n, [2]r3.Vec{r3.Scale(-1, n[0]), r3.Scale(-1, n[1])}
	case Cube:
		return cube, [2]r3.Vec{{X: 1, Y: 1, Z: 1}, {X: 1, Y: 1, Z: -1}}
	case Octahedron:
		return octants, [2]r3.Vec{{X: 1}, {Y: 1}}
	case Dodecahedron:
		return rings, [2]r3.Vec{{X: 1, Y: 1, Z: 1}, {X: 1 / golden, Z: golden}}
	default:
		for i := range 4 {
			a, b := sign(i, 0)/golden, sign(i, 1)*golden
			octants = append(octants, r3.Vec{X: a, Z: b}, r3.Vec{X: b, Y: a}, r3.Vec{Y: b, Z: a})
		}
		return octants, [2]r3.Vec{{Y: 1, Z: golden}, {Y: -1, Z: golden}}
	}
}

func sign(bits, bit int) float64 { return float64(2*(bits>>bit&1) - 1) }

// posed turns normals so that up points up, and sets the planes at 1.
func posed(normals []r3.Vec, up r3.Vec) []solid.Plane {
	var out []solid.Plane
	for _, n := range normals {
		out = append(out, solid.Plane{Normal: frame(up).of(r3.Unit(n)), D: 1})
	}
	return out
}

// round returns the planes of a solid that is alike all round. The widest circle that
// touches its sides has a radius of 1/2.
func (r Rule) round() []solid.Plane {
	var out []solid.Plane
	n, half := r.Sides, r.Height/2
	level := func() {
		out = append(out, solid.Plane{Normal: r3.Vec{Z: 1}, D: half}, solid.Plane{Normal: r3.Vec{Z: -1}, D: half})
	}
	ring := func(up, turn, slope, d float64) {
		part := diagram.Crown
		if up < 0 {
			part = diagram.Pavilion
		}
		for i := range n {
			out = append(out, solid.Plane{Normal: diagram.Normal(part, slope, 360*(float64(i)+turn)/float64(n)), D: d})
		}
	}
	// A pyramid from 1/2 outwards at the middle to the axis at half the height.
	slope := math.Atan2(half, 0.5) * 180 / math.Pi
	side := half * math.Cos(slope*math.Pi/180)
	switch r.Kind {
	case Prism:
		level()
		for i := range n {
			out = append(out, solid.Plane{Normal: diagram.Normal(diagram.Girdle, 90, 360*float64(i)/float64(n)), D: 0.5})
		}
	case Antiprism:
		// The level polygons touch the circle of 1/2; a triangle stands on the edge of
		// one and the corner of the other, which lies 1/cos(π/n) as far out.
		level()
		corner := 0.5 / math.Cos(math.Pi/float64(n))
		lean := math.Atan2(2*half, corner-0.5)
		steep, d := lean*180/math.Pi, 0.5*math.Sin(lean)+half*math.Cos(lean)
		ring(1, 0, steep, d)
		ring(-1, 0.5, steep, d)
	case Bipyramid:
		ring(1, 0, slope, side)
		ring(-1, 0, slope, side)
	default:
		ring(1, 0, slope, side)
		ring(-1, 0.5, slope, side)
	}
	return out
}
