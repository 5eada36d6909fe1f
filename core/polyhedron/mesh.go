package polyhedron

import (
	"cmp"
	"context"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/solid"
)

// Mesh is a solid as files bring it: points, and faces as numbers of their corners in
// either sense. Lengths are in any unit.
type Mesh struct {
	Points []r3.Vec
	Faces  [][]int
}

// flatness is how far, as a share of the largest extent, a point may be from the plane of a face
// that it belongs to: what six digits or a 32-bit number leave.
const flatness = 2e-5

// Shape finds the planes of a mesh, one for all faces that lie in it. Faces that nearly lie in one
// plane are taken for one facet, unless they are to stay apart. Every point must lie on or below
// every plane, and the planes must meet at the points and nowhere else. The error is a Problem, or
// that of the context where it ends first. The work grows with the faces and points, and with the
// facets by the square; of those no more are taken than a diagram has.
func (m Mesh) Shape(ctx context.Context, apart bool) (*Shape, error) {
	size, middle := m.extent()
	if len(m.Faces) < 4 || !(size > 0) {
		p := refuse(TooFewFaces)
		p.Value = float64(len(m.Faces))
		return nil, p
	}
	unit := Mesh{Faces: m.Faces, Points: make([]r3.Vec, len(m.Points))}
	for i, p := range m.Points {
		unit.Points[i] = r3.Scale(1/size, r3.Sub(p, middle))
	}
	sides, err := unit.sides(ctx, apart)
	if err != nil {
		return nil, err
	}
	out := &Shape{Size: size, Origin: r3.Scale(-1/size, middle), Tolerance: flatness}
	points := newCrowd(unit.Points)
	for _, s := range sides {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		out.Merged.add(s)
		if point, above := points.above(s.plane, 10*flatness); point >= 0 {
			p := refuse(NotConvex)
			p.Value, p.Text, p.Other = above*size, diagram.FormatNumber(float64(s.face+1)), diagram.FormatNumber(float64(point+1))
			return nil, p
		}
		out.Planes = append(out.Planes, s.plane)
	}
	if err := out.close(); err != nil {
		return nil, err
	}
	for _, v := range out.Solid.Vertices() {
		if !points.near(out.Solid.Point(v), 1e-2) {
			return nil, refuse(NotClosed)
		}
	}
	return out, nil
}

// extent returns the largest extent of the mesh and the middle of its bounds.
func (m Mesh) extent() (size float64, middle r3.Vec) {
	low := r3.Vec{X: math.Inf(1), Y: math.Inf(1), Z: math.Inf(1)}
	high := r3.Scale(-1, low)
	for _, p := range m.Points {
		low = r3.Vec{X: math.Min(low.X, p.X), Y: math.Min(low.Y, p.Y), Z: math.Min(low.Z, p.Z)}
		high = r3.Vec{X: math.Max(high.X, p.X), Y: math.Max(high.Y, p.Y), Z: math.Max(high.Z, p.Z)}
	}
	d := r3.Sub(high, low)
	return max(d.X, d.Y, d.Z), r3.Scale(0.5, r3.Add(low, high))
}

// mean returns the mean of the corners of all faces. Of a convex solid it is inside,
// which the middle of its bounds need not be.
func (m Mesh) mean() r3.Vec {
	sum, n := r3.Vec{}, 0
	for _, loop := range m.Faces {
		for _, v := range loop {
			sum, n = r3.Add(sum, m.Points[v]), n+1
		}
	}
	return r3.Scale(1/float64(max(n, 1)), sum)
}

// side gathers the faces of a mesh that lie in one plane.
type side struct {
	// area is the sum of the faces' area vectors, facing out.
	area r3.Vec
	// sum is that of their corners, n their number.
	sum r3.Vec
	n   int
	// face is the number of the first.
	face int
	// plane is the one that they lie in by now.
	plane solid.Plane
	// normals are those of the faces that were taken in after the first.
	normals []r3.Vec
}

// settle reckons the plane anew.
func (s *side) settle() {
	s.plane = solid.Through(r3.Unit(s.area), r3.Scale(1/float64(s.n), s.sum))
}

// leaning is by how many degrees a face may lean away from its plane for the digits of a file alone.
const leaning = 0.05

func (m *Merged) add(s side) {
	for _, n := range s.normals {
		lean := math.Acos(math.Min(1, r3.Dot(n, s.plane.Normal))) * 180 / math.Pi
		if lean > leaning {
			m.Faces++
			m.Degrees = math.Max(m.Degrees, lean)
		}
	}
}

// face reckons one face of the mesh as a side of its own; ok is false for a sliver of a
// triangulation, which has no direction that counts.
func (m Mesh) face(no int, inside r3.Vec) (s side, ok bool) {
	loop := m.Faces[no]
	s = side{face: no, n: len(loop)}
	first := m.Points[loop[0]]
	for k, v := range loop {
		s.sum = r3.Add(s.sum, m.Points[v])
		if k > 1 {
			s.area = r3.Add(s.area, r3.Scale(0.5, r3.Cross(r3.Sub(m.Points[loop[k-1]], first), r3.Sub(m.Points[v], first))))
		}
	}
	if r3.Norm(s.area) < 1e-9 {
		return s, false
	}
	if r3.Dot(s.area, r3.Sub(first, inside)) < 0 {
		s.area = r3.Scale(-1, s.area)
	}
	s.settle()
	return s, true
}

// Faces of one side lean from it by less than 0.8°, and their normals are less than this apart.
const (
	alikeCosine = 0.9999
	alikeApart  = 0.01415
)

// sides gathers the faces by plane, from the largest down: its normal is the surest. Only sides
// whose normals lie near a face's are held against it. The error is the context's, or a Problem as
// soon as there are more than a diagram has facets.
func (m Mesh) sides(ctx context.Context, apart bool) ([]side, error) {
	faces := make([]side, 0, len(m.Faces))
	inside := m.mean()
	for i := range m.Faces {
		if s, ok := m.face(i, inside); ok {
			faces = append(faces, s)
		}
	}
	slices.SortStableFunc(faces, func(a, b side) int { return cmp.Compare(r3.Norm2(b.area), r3.Norm2(a.area)) })
	var out []side
	facing := map[cell][]int{} // the sides by the cell of their normals
	for i, f := range faces {
		if i%1000 == 0 && ctx.Err() != nil {
			return nil, ctx.Err()
		}
		at := len(out)
		cellOf(f.plane.Normal, alikeApart).around(func(c cell) bool {
			for _, no := range facing[c] {
				if no < at && out[no].holds(f, apart) {
					at = no
					break // those of a cell stand in their order
				}
			}
			return true
		})
		if at == len(out) {
			if at == diagram.MaxFacets {
				p := refuse(diagram.TooManyFacets)
				p.Value, p.High = diagram.MaxFacets+1, diagram.MaxFacets
				return nil, p
			}
			out = append(out, f)
			c := cellOf(f.plane.Normal, alikeApart)
			facing[c] = append(facing[c], at)
			continue
		}
		s := &out[at]
		s.normals = append(s.normals, f.plane.Normal)
		s.area, s.sum, s.n, s.face = r3.Add(s.area, f.area), r3.Add(s.sum, f.sum), s.n+f.n, min(s.face, f.face)
		was := cellOf(s.plane.Normal, alikeApart)
		s.settle()
		if is := cellOf(s.plane.Normal, alikeApart); is != was {
			facing[was] = slices.DeleteFunc(facing[was], func(no int) bool { return no == at })
			place, _ := slices.BinarySearch(facing[is], at)
			facing[is] = slices.Insert(facing[is], place, at)
		}
	}
	return out, nil
}

// holds tells whether another side lies in the same plane. A small face's direction is less sure, so
// that only large ones can stay apart.
func (s *side) holds(o side, apart bool) bool {
	alike := alikeCosine
	const sure = 1e-4
	if apart && r3.Norm2(o.area) > sure*sure {
		alike = math.Cos(leaning * math.Pi / 180)
	}
	middle := r3.Scale(1/float64(o.n), o.sum)
	return r3.Dot(s.plane.Normal, o.plane.Normal) > alike && math.Abs(s.plane.Above(middle)) < flatness
}
