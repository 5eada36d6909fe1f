// Package solid keeps convex solids as a stone is cut out of a block: planes,
// vertices, faces, and what can be measured on them.
//
// Lengths are in one unit of the caller's choice; the tolerances below are made
// for solids whose width is about 1. Many planes pass through one point by
// intention, and in floating point only nearly so. The package therefore
// classifies with a tolerance and welds, instead of computing exactly: exact
// arithmetic would shatter every meet into slivers.
package solid

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// Tolerances, in the unit of the solid.
const (
	// OnPlane is how far from a plane a vertex may be and still lie on it. It is
	// far above the rounding of a few hundred successive cuts (about 1e-14) and
	// far below anything that a lap can take off.
	OnPlane = 1e-9
	// Weld is how close in every coordinate two points are one vertex. It is
	// larger than OnPlane, because two planes that cross at a small angle move
	// their common point by more than each is off.
	Weld = 1e-8
	// AtMeet is how far from a vertex a face may pass and still meet there.
	AtMeet = 1e-7
	// MinArea is the area, in square units, below which a face is none.
	MinArea = 1e-13
)

// Plane bounds the half space of points x with Normal·x ≤ D. Normal has length 1
// and points out of the stone.
type Plane struct {
	Normal r3.Vec
	D      float64
}

// Through returns the plane with the outward unit normal n through the point p.
func Through(n, p r3.Vec) Plane { return Plane{Normal: n, D: r3.Dot(n, p)} }

// Above tells how far p stands outside the plane, negative inside.
func (p Plane) Above(q r3.Vec) float64 { return r3.Dot(p.Normal, q) - p.D }

// Face is one flat side of a solid.
type Face struct {
	// ID is the caller's name for the plane that made the face. Faces of the
	// block have the IDs -1 to -6.
	ID    int
	Plane Plane
	// Loop lists the corners, counter-clockwise as seen from outside, as numbers
	// in the solid's vertex table. It is never changed once the face is made.
	Loop []int
}

// OfBlock tells whether the face is left from the block, not cut.
func (f *Face) OfBlock() bool { return f.ID < 0 }

// table is the vertex table that a family of solids shares. It only grows, so
// that a corner keeps its number from the step that makes it to the last.
type table struct{ points []r3.Vec }

// Solid is a closed convex polyhedron. It is never changed: Cut returns a new
// one that shares the vertex table and every face that the cut left alone. All
// solids cut from one block belong to one goroutine while any of them is cut;
// afterwards they may be read from many.
type Solid struct {
	vertices *table
	faces    []*Face
}

// Block returns the cube about the origin with the given half side.
func Block(half float64) *Solid {
	t := &table{}
	for i := range 8 {
		t.points = append(t.points, r3.Vec{
			X: half * float64(2*(i&1)-1),
			Y: half * float64(i&2-1),
			Z: half * float64(i>>1&2-1),
		})
	}
	sides := []struct {
		normal r3.Vec
		loop   []int
	}{
		{r3.Vec{X: 1}, []int{1, 3, 7, 5}},
		{r3.Vec{X: -1}, []int{0, 4, 6, 2}},
		{r3.Vec{Y: 1}, []int{2, 6, 7, 3}},
		{r3.Vec{Y: -1}, []int{0, 1, 5, 4}},
		{r3.Vec{Z: 1}, []int{4, 5, 7, 6}},
		{r3.Vec{Z: -1}, []int{0, 2, 3, 1}},
	}
	s := &Solid{vertices: t}
	for i, side := range sides {
		s.faces = append(s.faces, &Face{ID: -1 - i, Plane: Plane{side.normal, half}, Loop: side.loop})
	}
	return s
}

// Compact returns the solid with a vertex table of its own that holds its corners and
// no others. It can be cut without a trace in the family that it comes from.
func (s *Solid) Compact() *Solid {
	t := &table{}
	number := make(map[int]int)
	for _, v := range s.Vertices() {
		number[v] = len(t.points)
		t.points = append(t.points, s.Point(v))
	}
	out := &Solid{vertices: t, faces: make([]*Face, len(s.faces))}
	for i, f := range s.faces {
		moved := &Face{ID: f.ID, Plane: f.Plane, Loop: make([]int, len(f.Loop))}
		for k, v := range f.Loop {
			moved.Loop[k] = number[v]
		}
		out.faces[i] = moved
	}
	return out
}

// Faces returns the solid's faces, oldest first. The slice must not be changed.
func (s *Solid) Faces() []*Face { return s.faces }

// Face returns the face with the given ID, or nil where it is not or no longer
// on the solid.
func (s *Solid) Face(id int) *Face {
	for _, f := range s.faces {
		if f.ID == id {
			return f
		}
	}
	return nil
}

// Point returns the vertex with the given number.
func (s *Solid) Point(i int) r3.Vec { return s.vertices.points[i] }

// TableLen returns how many vertices the shared table holds: all that any solid
// of the family ever had.
func (s *Solid) TableLen() int { return len(s.vertices.points) }

// Vertices returns the numbers of the solid's corners, each once, in the order
// in which the faces name them.
func (s *Solid) Vertices() []int {
	seen := make([]bool, len(s.vertices.points))
	var out []int
	for _, f := range s.faces {
		for _, v := range f.Loop {
			if !seen[v] {
				seen[v] = true
				out = append(out, v)
			}
		}
	}
	return out
}

// Corner is a vertex of a solid with the IDs of the faces that meet there, ascending.
type Corner struct {
	Vertex int
	Faces  []int
}

// Corners returns the solid's corners, in the order of Vertices. A face meets at the
// corners of its loop, and at one that an edge shorter than closeBy joins to its loop
// where it passes that one within AtMeet.
func (s *Solid) Corners() []Corner {
	vertices := s.Vertices()
	at := make(map[int]int, len(vertices))
	out := make([]Corner, len(vertices))
	for i, v := range vertices {
		at[v], out[i].Vertex = i, v
	}
	for _, f := range s.faces {
		for _, v := range f.Loop {
			out[at[v]].Faces = append(out[at[v]].Faces, f.ID)
		}
	}
	s.joinClose(out, at)
	for i := range out {
		slices.Sort(out[i].Faces)
		out[i].Faces = slices.Compact(out[i].Faces)
	}
	return out
}

// closeBy is how long an edge may be for the faces at one end to be looked at from the
// other: facets that pass within AtMeet of a corner at no too small an angle to each other.
const closeBy = 100 * AtMeet

// joinClose adds to corners the faces that only pass them within AtMeet.
func (s *Solid) joinClose(corners []Corner, at map[int]int) {
	loops := make(map[int]*Face, len(s.faces))
	for _, f := range s.faces {
		loops[f.ID] = f
	}
	meets := func(of int, from []int) {
		for _, id := range from {
			if p := s.Point(corners[of].Vertex); math.Abs(loops[id].Plane.Above(p)) <= AtMeet {
				corners[of].Faces = append(corners[of].Faces, id)
			}
		}
	}
	type joint struct {
		a, b     int
		atA, atB []int
	}
	var joints []joint
	for _, f := range s.faces {
		for i, v := range f.Loop {
			a, b := at[v], at[f.Loop[(i+1)%len(f.Loop)]]
			if a < b && s.edgeLength(f.Loop, i) < closeBy {
				joints = append(joints, joint{a, b, corners[a].Faces, corners[b].Faces})
			}
		}
	}
	for _, j := range joints {
		meets(j.a, j.atB)
		meets(j.b, j.atA)
	}
}

// ShowsBlock tells whether any face of the block is left.
func (s *Solid) ShowsBlock() bool {
	for _, f := range s.faces {
		if f.OfBlock() {
			return true
		}
	}
	return false
}

// TouchesBlock tells whether a face of the block passes within AtMeet of p.
func (s *Solid) TouchesBlock(p r3.Vec) bool {
	for _, f := range s.faces {
		if f.OfBlock() && math.Abs(f.Plane.Above(p)) <= AtMeet {
			return true
		}
	}
	return false
}
