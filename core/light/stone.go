// Package light tells what an eye above a cut stone sees: how much of what it sends
// through the stone comes back from above, leaves below or ends at the head that looks.
//
// The experiment runs backwards: parallel rays fall along the view axis, enter by
// refraction and are followed from facet to facet until they have left. The figures
// compare stones with each other; they are no promise of beauty.
package light

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

// Stone is a cut stone made ready for light. It is never changed and may be used by many
// at once.
type Stone struct {
	facets []facet
	// corners are the solid's vertices, in design units, edges pairs of them.
	corners []r3.Vec
	edges   [][2]int
	// unit is the stone's width in design units.
	unit float64
	sym  symmetry
}

// facet is one side of the stone with the planes that stand around it. A ray that
// leaves through a facet is inside all of them, so they alone prove where it leaves.
type facet struct {
	side
	around   []side
	girdle   bool
	pavilion bool
}

// side is a plane n·x = d, with n pointing out, of the facet at place no.
type side struct {
	nx, ny, nz, d float64
	no            int
}

// Of makes a finished stone ready.
func Of(s *cutting.Stone) *Stone {
	cut := s.Solid()
	faces := cut.Faces()
	out := &Stone{facets: make([]facet, len(faces)), unit: s.Measures().Width}
	type edge struct{ from, to int }
	owner := make(map[edge]int)
	for i, f := range faces {
		n := f.Plane.Normal
		out.facets[i] = facet{side: side{n.X, n.Y, n.Z, f.Plane.D, i}, pavilion: n.Z < -level}
		if !f.OfBlock() {
			out.facets[i].girdle = s.Diagram.Tiers[s.Facets[f.ID].Tier].Part == diagram.Girdle
		}
		for k, v := range f.Loop {
			owner[edge{v, f.Loop[(k+1)%len(f.Loop)]}] = i
		}
	}
	// A neighbour runs along the common edge the other way.
	for i, f := range faces {
		for k, v := range f.Loop {
			if other, ok := owner[edge{f.Loop[(k+1)%len(f.Loop)], v}]; ok {
				out.facets[i].around = append(out.facets[i].around, out.facets[other].side)
			}
		}
	}
	number := make(map[int]int)
	for i, v := range cut.Vertices() {
		number[v] = i
		out.corners = append(out.corners, cut.Point(v))
	}
	for e := range owner {
		if e.from < e.to {
			out.edges = append(out.edges, [2]int{number[e.from], number[e.to]})
		}
	}
	out.sym = out.symmetries()
	return out
}

// level is how far from 0 the rise of a normal may be and still count as upright.
const level = 1e-9

// dot is n·p for the plane's normal.
func (s *side) dot(p *r3.Vec) float64 { return s.nx*p.X + s.ny*p.Y + s.nz*p.Z }

// leave returns the facet through which the line from p along v leaves the stone, and how
// far along v that is. It starts at a guess and goes from neighbour to neighbour, each
// nearer to p, until the line leaves within the facet: on a convex solid that is proof.
func (s *Stone) leave(p, v *r3.Vec, guess int) (int, float64) {
	f := &s.facets[guess]
	den := f.dot(v)
	if den <= grazing {
		f, den = s.facing(v)
	}
	num := f.d - f.dot(p)
	// No facet is come to twice, but where rounding makes two of them equally near.
	for range s.facets {
		next := -1
		for i := range f.around {
			e := &f.around[i]
			d := e.nx*v.X + e.ny*v.Y + e.nz*v.Z
			if d <= grazing {
				continue
			}
			// Which of two fractions is less, without dividing.
			if n := e.d - (e.nx*p.X + e.ny*p.Y + e.nz*p.Z); n*den < num*d {
				num, den, next = n, d, e.no
			}
		}
		if next < 0 {
			break
		}
		f = &s.facets[next]
	}
	return f.no, num / den
}

// grazing is the least cosine at which a ray can leave through a facet.
const grazing = 1e-12

// facing returns the facet that looks along v the most; on a closed solid one does.
func (s *Stone) facing(v *r3.Vec) (*facet, float64) {
	best, most := &s.facets[0], math.Inf(-1)
	for i := range s.facets {
		if d := s.facets[i].dot(v); d > most {
			best, most = &s.facets[i], d
		}
	}
	return best, most
}

// holdsFor tells for how many steps of drift the point p of the facet stays within it.
func (f *facet) holdsFor(p, drift *r3.Vec) float64 {
	steps := math.Inf(1)
	for i := range f.around {
		e := &f.around[i]
		out := e.nx*drift.X + e.ny*drift.Y + e.nz*drift.Z
		if out <= 0 {
			continue
		}
		if left := e.d - (e.nx*p.X + e.ny*p.Y + e.nz*p.Z); left < steps*out {
			steps = left / out
		}
	}
	return steps
}
