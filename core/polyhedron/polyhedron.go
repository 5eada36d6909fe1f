// Package polyhedron turns convex solids that come as faces, such as dice and crystals,
// into diagrams: tiers about an axis of choice, with angle, tooth and cheat.
package polyhedron

import (
	"cmp"
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

// Shape is a convex solid. Its planes face out and are scaled so that its largest extent
// is 1 about the origin.
type Shape struct {
	Planes []solid.Plane
	Solid  *solid.Solid
	// Size is the largest extent in the unit that it came in, Origin where the origin
	// that it came with now lies.
	Size   float64
	Origin r3.Vec
	// Tolerance is how far a plane may be off: what the digits of a mesh leave.
	Tolerance float64
	// Merged tells of faces that were taken for one facet though they lean apart.
	Merged Merged
}

// Merged counts the faces of a mesh that were taken into another's plane though they lean away from
// it by more than the digits of the file leave, and tells the most that one of them leans, in degrees.
type Merged struct {
	Faces   int
	Degrees float64
}

// Why a mesh is no solid that can be cut.
const (
	// TooFewFaces: it takes four at least. Value is their number.
	TooFewFaces diagram.Code = "too-few-faces"
	// NotConvex: a point stands out of a face by Value, in the unit of the mesh. Text
	// is the number of the face, Other that of the point, from 1.
	NotConvex diagram.Code = "not-convex"
	// NotClosed: faces are missing; the others run together far from any point.
	NotClosed diagram.Code = "not-closed"
)

func refuse(code diagram.Code) diagram.Problem { return diagram.Problem{Code: code, TierNo: -1} }

// flatness is how far, as a share of the largest extent, a point may be from the plane of a face
// that it belongs to: what six digits or a 32-bit number leave.
const flatness = 2e-5

// Shape finds the planes of a mesh, one for all faces that lie in it. Faces that nearly lie in one
// plane are taken for one facet, unless they are to stay apart. Every point must lie on or below
// every plane, and the planes must meet at the points and nowhere else. The error is a Problem.
func (m Mesh) Shape(apart bool) (*Shape, error) {
	size, middle := m.extent()
	if len(m.Faces) < 4 || !(size > 0) {
		p := refuse(TooFewFaces)
		p.Value = float64(len(m.Faces))
		return nil, p
	}
	unit := Mesh{Faces: m.Faces}
	for _, p := range m.Points {
		unit.Points = append(unit.Points, r3.Scale(1/size, r3.Sub(p, middle)))
	}
	sides := unit.sides(apart)
	if len(sides) > diagram.MaxFacets {
		p := refuse(diagram.TooManyFacets)
		p.Value, p.High = float64(len(sides)), diagram.MaxFacets
		return nil, p
	}
	out := &Shape{Size: size, Origin: r3.Scale(-1/size, middle), Tolerance: flatness}
	for _, s := range sides {
		out.Merged.add(s)
	}
	for _, s := range sides {
		plane := s.plane()
		for i, point := range unit.Points {
			if above := plane.Above(point); above > 10*flatness {
				p := refuse(NotConvex)
				p.Value, p.Text, p.Other = above*size, diagram.FormatNumber(float64(s.face+1)), diagram.FormatNumber(float64(i+1))
				return nil, p
			}
		}
		out.Planes = append(out.Planes, plane)
	}
	if err := out.close(); err != nil {
		return nil, err
	}
	for _, v := range out.Solid.Vertices() {
		at := out.Solid.Point(v)
		if !slices.ContainsFunc(unit.Points, func(p r3.Vec) bool { return r3.Norm(r3.Sub(p, at)) < 1e-2 }) {
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
	// normals are those of the faces that were taken in after the first.
	normals []r3.Vec
}

func (s side) plane() solid.Plane {
	return solid.Through(r3.Unit(s.area), r3.Scale(1/float64(s.n), s.sum))
}

// leaning is by how many degrees a face may lean away from its plane for the digits of a file alone.
const leaning = 0.05

func (m *Merged) add(s side) {
	for _, n := range s.normals {
		lean := math.Acos(math.Min(1, r3.Dot(n, r3.Unit(s.area)))) * 180 / math.Pi
		if lean > leaning {
			m.Faces++
			m.Degrees = math.Max(m.Degrees, lean)
		}
	}
}

// sides gathers the faces by plane, from the largest down: its normal is the surest.
func (m Mesh) sides(apart bool) []side {
	var faces []side
	inside := m.mean()
	for i, loop := range m.Faces {
		s := side{face: i, n: len(loop)}
		first := m.Points[loop[0]]
		for k, v := range loop {
			s.sum = r3.Add(s.sum, m.Points[v])
			if k > 1 {
				s.area = r3.Add(s.area, r3.Scale(0.5, r3.Cross(r3.Sub(m.Points[loop[k-1]], first), r3.Sub(m.Points[v], first))))
			}
		}
		// A sliver of a triangulation has no direction that counts.
		if r3.Norm(s.area) < 1e-9 {
			continue
		}
		if r3.Dot(s.area, r3.Sub(first, inside)) < 0 {
			s.area = r3.Scale(-1, s.area)
		}
		faces = append(faces, s)
	}
	slices.SortStableFunc(faces, func(a, b side) int { return cmp.Compare(r3.Norm(b.area), r3.Norm(a.area)) })
	var out []side
	for _, f := range faces {
		at := slices.IndexFunc(out, func(s side) bool { return s.holds(f, apart) })
		if at < 0 {
			out = append(out, f)
			continue
		}
		s := &out[at]
		s.normals = append(s.normals, r3.Unit(f.area))
		s.area, s.sum, s.n, s.face = r3.Add(s.area, f.area), r3.Add(s.sum, f.sum), s.n+f.n, min(s.face, f.face)
	}
	return out
}

// holds tells whether another side lies in the same plane. A small face's direction is less sure, so
// that only large ones can stay apart.
func (s side) holds(o side, apart bool) bool {
	alike := 0.9999 // cosine of 0.8°
	const sure = 1e-4
	if apart && r3.Norm(o.area) > sure {
		alike = math.Cos(leaning * math.Pi / 180)
	}
	middle := r3.Scale(1/float64(o.n), o.sum)
	return r3.Dot(r3.Unit(s.area), r3.Unit(o.area)) > alike && math.Abs(s.plane().Above(middle)) < flatness
}

// close cuts the planes out of a block.
func (s *Shape) close() error {
	now := solid.Block(8)
	for i, p := range s.Planes {
		next, outcome := now.Cut(i, p)
		if outcome == solid.TookAll || outcome == solid.Failed {
			return refuse(NotClosed)
		}
		now = next
	}
	if now.ShowsBlock() {
		return refuse(NotClosed)
	}
	s.Solid = now
	return nil
}
