package polyhedron

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/linear"
	"cressa/core/solid"
)

// TooEased refuses edges or corners that are eased so much that a face of the solid is gone.
const TooEased diagram.Code = "too-eased"

// Eased returns the solid with its edges and its corners cut off, each by a plane that leans alike to all faces there: a bevel so wide
// along an edge, and at a corner a facet in which a circle so wide fits, in units of the solid; 0 leaves them sharp. The error is a
// diagram.Problem, TooEased.
func (s *Shape) Eased(edge, corner float64) (*Shape, error) {
	out := *s
	out.Planes = slices.Clone(s.Planes)
	if edge > 0 {
		out.Planes = append(out.Planes, bevels(s.Solid, edge)...)
	}
	if corner > 0 {
		out.Planes = append(out.Planes, blunted(s.Solid, corner)...)
	}
	if err := out.close(); err != nil {
		return nil, refuse(TooEased)
	}
	for i := range s.Planes {
		if s.Solid.Face(i) != nil && out.Solid.Face(i) == nil {
			return nil, refuse(TooEased)
		}
	}
	return &out, nil
}

// bevels are the planes that ease edges. Between faces whose normals stand 2φ apart a plane h below the edge is 2h/tan φ wide.
func bevels(body *solid.Solid, width float64) []solid.Plane {
	beside := map[[2]int]*solid.Face{}
	for _, f := range body.Faces() {
		for i, v := range f.Loop {
			beside[[2]int{v, f.Loop[(i+1)%len(f.Loop)]}] = f
		}
	}
	var out []solid.Plane
	for _, f := range body.Faces() {
		for i, v := range f.Loop {
			w := f.Loop[(i+1)%len(f.Loop)]
			other := beside[[2]int{w, v}]
			if v > w || other == nil {
				continue
			}
			normal := r3.Unit(r3.Add(f.Plane.Normal, other.Plane.Normal))
			lean := math.Acos(math.Min(1, r3.Dot(normal, f.Plane.Normal)))
			out = append(out, solid.Plane{Normal: normal, D: r3.Dot(normal, body.Point(v)) - width/2*math.Tan(lean)})
		}
	}
	return out
}

// blunted are the planes that ease corners. Square to a direction that stands at an angle to the faces, a plane h below the corner
// has a circle of radius h/tan of that angle, for the steepest of them.
func blunted(body *solid.Solid, width float64) []solid.Plane {
	var out []solid.Plane
	for _, v := range body.Vertices() {
		var normals []r3.Vec
		var sum r3.Vec
		for _, f := range body.Faces() {
			if slices.Contains(f.Loop, v) {
				normals = append(normals, f.Plane.Normal)
				sum = r3.Add(sum, f.Plane.Normal)
			}
		}
		normal := r3.Unit(sum)
		radius := math.Inf(1)
		for _, n := range normals {
			along := r3.Dot(n, normal)
			radius = math.Min(radius, along/math.Sqrt(1-along*along))
		}
		out = append(out, solid.Plane{Normal: normal, D: r3.Dot(normal, body.Point(v)) - width/2/radius})
	}
	return out
}

// DieFace is a face of a solid that takes a number.
type DieFace struct {
	// Face is its ID, Number counts from 1.
	Face, Number int
	// Opposite is the ID of the face that lies opposite, −1 where none does; Across is how far they are apart.
	Opposite int
	Across   float64
	// Middle is that of the largest circle that fits into the face, and Radius its radius.
	Middle r3.Vec
	Radius float64
}

// numbered is how large a face is against the largest to take a number: bevels do not.
const numbered = 0.5

// Die lists the faces of a solid that take numbers: all that are half as large as the largest. Numbers of faces that lie
// opposite add up to the same where all faces have one; high and low ones take turns. Lengths are those of the solid.
func Die(body *solid.Solid) []DieFace {
	largest := 0.0
	for _, f := range body.Faces() {
		largest = math.Max(largest, body.Area(f))
	}
	var faces []*solid.Face
	for _, f := range body.Faces() {
		if body.Area(f) >= numbered*largest {
			faces = append(faces, f)
		}
	}
	out := make([]DieFace, len(faces))
	paired := true
	for i, f := range faces {
		out[i] = DieFace{Face: f.ID, Opposite: -1}
		out[i].Middle, out[i].Radius = inscribed(body, f)
		for _, o := range faces {
			if r3.Norm(r3.Add(f.Plane.Normal, o.Plane.Normal)) < 1e-6 {
				out[i].Opposite, out[i].Across = o.ID, f.Plane.D+o.Plane.D
			}
		}
		paired = paired && out[i].Opposite >= 0
	}
	// From the top down, round and round: so that neighbours differ.
	slices.SortStableFunc(out, func(a, b DieFace) int {
		return cmp.Or(cmp.Compare(math.Round(b.Middle.Z*1e6), math.Round(a.Middle.Z*1e6)), cmp.Compare(math.Atan2(a.Middle.X, a.Middle.Y), math.Atan2(b.Middle.X, b.Middle.Y)))
	})
	number(out, paired)
	return out
}

func number(faces []DieFace, paired bool) {
	if !paired {
		for i := range faces {
			faces[i].Number = i + 1
		}
		return
	}
	low := 0
	for i := range faces {
		if faces[i].Number != 0 {
			continue
		}
		low++
		k := slices.IndexFunc(faces, func(o DieFace) bool { return o.Face == faces[i].Opposite })
		faces[i].Number, faces[k].Number = low, len(faces)+1-low
		if low%2 == 0 {
			faces[i].Number, faces[k].Number = faces[k].Number, faces[i].Number
		}
	}
}

// inscribed is the largest circle in a face: as far as can be from the nearest of its edges, a linear program in the radius and
// the place.
func inscribed(body *solid.Solid, f *solid.Face) (middle r3.Vec, radius float64) {
	from := body.Point(f.Loop[0])
	x := r3.Unit(r3.Sub(body.Point(f.Loop[1]), from))
	y := r3.Cross(f.Plane.Normal, x)
	far := r3.Norm(body.Bounds().Size())
	p := linear.New([]float64{0, -far, -far}, []float64{far, far, far})
	for i, v := range f.Loop {
		a, b := body.Point(v), body.Point(f.Loop[(i+1)%len(f.Loop)])
		// Outwards, square to the edge, in the face.
		out := r3.Cross(r3.Unit(r3.Sub(b, a)), f.Plane.Normal)
		p.Limit([linear.Most]float64{1, r3.Dot(out, x), r3.Dot(out, y)}, r3.Dot(out, r3.Sub(a, from)))
	}
	goal := linear.Goal{First: [linear.Most]float64{1}}
	s := p.Start(&goal)
	if p.Solve(&s, &goal, 0) != linear.Optimal {
		return body.Middle(f), 0
	}
	return r3.Add(from, r3.Add(r3.Scale(s.X[1], x), r3.Scale(s.X[2], y))), s.X[0]
}
