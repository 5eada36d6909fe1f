package rough

import (
	"math"
	"math/rand/v2"

	"gonum.org/v1/gonum/spatial/r3"
)

// shake is by how much of their extent points are moved before their hull is looked for, so that
// no four lie in one plane and no three on one line: then the hull has triangles only, and none of
// the search's questions comes out as a tie. Planes are taken of the points as they were given.
const shake = 1e-12

// triangle is a face of the hull while it is made.
type triangle struct {
	corner [3]int
	// beside[k] is the triangle across the edge from corner k to the next.
	beside [3]int
	normal r3.Vec
	// outside are the points above it that no other triangle looks after.
	outside []int
	gone    bool
}

// hull makes the triangles of the convex hull of points, as numbers of their corners,
// counter-clockwise as seen from outside: quickhull. It is nil where the points lie in one plane.
// It draws what it shakes the points by from the same numbers every time.
func hull(points []r3.Vec) [][3]int {
	h := &hullMaker{points: shaken(points)}
	if !h.first() {
		return nil
	}
	for len(h.open) > 0 {
		f := h.open[len(h.open)-1]
		h.open = h.open[:len(h.open)-1]
		if t := &h.faces[f]; !t.gone && len(t.outside) > 0 {
			h.add(f)
		}
	}
	var out [][3]int
	for _, t := range h.faces {
		if !t.gone {
			out = append(out, t.corner)
		}
	}
	return out
}

func shaken(points []r3.Vec) []r3.Vec {
	draw := rand.New(rand.NewPCG(1, 2))
	size := shake * extent(points)
	one := func() float64 { return size * (2*draw.Float64() - 1) }
	out := make([]r3.Vec, len(points))
	for i, p := range points {
		out[i] = r3.Vec{X: p.X + one(), Y: p.Y + one(), Z: p.Z + one()}
	}
	return out
}

// extent is the longest side of the box around points.
func extent(points []r3.Vec) float64 {
	low, high := spread(points)
	size := r3.Sub(high, low)
	return max(size.X, size.Y, size.Z)
}

type hullMaker struct {
	points []r3.Vec
	faces  []triangle
	// open are triangles that may have points outside.
	open []int
}

// thick is the least part of its extent that a body measures across its thinnest side: what is
// thinner is flat.
const thick = 1e-6

// first makes a tetrahedron of points that lie far apart.
func (h *hullMaker) first() bool {
	size := extent(h.points)
	farthest := func(from func(r3.Vec) float64) int {
		best := 0
		for i, p := range h.points {
			if from(p) > from(h.points[best]) {
				best = i
			}
		}
		return best
	}
	a := farthest(func(p r3.Vec) float64 { return -p.X - 0.1*p.Y })
	pa := h.points[a]
	b := farthest(func(p r3.Vec) float64 { return r3.Norm2(r3.Sub(p, pa)) })
	ab := r3.Sub(h.points[b], pa)
	c := farthest(func(p r3.Vec) float64 { return r3.Norm2(r3.Cross(ab, r3.Sub(p, pa))) })
	normal := r3.Cross(ab, r3.Sub(h.points[c], pa))
	d := farthest(func(p r3.Vec) float64 { return math.Abs(r3.Dot(normal, r3.Sub(p, pa))) })
	height := r3.Dot(normal, r3.Sub(h.points[d], pa))
	if across := r3.Norm(normal); across < thick*size*size || math.Abs(height) < thick*size*across {
		return false
	}
	if height > 0 {
		b, c = c, b
	}
	corners := [][3]int{{a, b, c}, {a, d, b}, {b, d, c}, {c, d, a}}
	for _, t := range corners {
		h.faces = append(h.faces, h.face(t))
	}
	h.faces[0].beside = [3]int{1, 2, 3}
	h.faces[1].beside = [3]int{3, 2, 0}
	h.faces[2].beside = [3]int{1, 3, 0}
	h.faces[3].beside = [3]int{2, 1, 0}
	all := make([]int, len(h.points))
	for i := range all {
		all[i] = i
	}
	h.share(all, []int{0, 1, 2, 3})
	return true
}

func (h *hullMaker) face(corner [3]int) triangle {
	return triangle{corner: corner, normal: r3.Unit(twice(h.points, corner))}
}

// twice returns the vector along the normal of a triangle whose length is twice its area. It is the
// product of the two shorter sides: of a narrow triangle's two long ones it would be the small
// difference of large numbers.
func twice(points []r3.Vec, corner [3]int) r3.Vec {
	side := func(k int) r3.Vec { return r3.Sub(points[corner[(k+1)%3]], points[corner[k]]) }
	longest := 0
	for k := 1; k < 3; k++ {
		if r3.Norm2(side(k)) > r3.Norm2(side(longest)) {
			longest = k
		}
	}
	return r3.Cross(side((longest+1)%3), side((longest+2)%3))
}

// above tells how far a point lies above a triangle. The difference from its corner is exact where the
// two lie close, so that the sign can be trusted there too.
func (h *hullMaker) above(t *triangle, p r3.Vec) float64 {
	return r3.Dot(t.normal, r3.Sub(p, h.points[t.corner[0]]))
}

// share gives points to the triangles that they lie above.
func (h *hullMaker) share(points, among []int) {
	for _, p := range points {
		for _, f := range among {
			if t := &h.faces[f]; h.above(t, h.points[p]) > 0 && p != t.corner[0] && p != t.corner[1] && p != t.corner[2] {
				t.outside = append(t.outside, p)
				break
			}
		}
	}
	for _, f := range among {
		if len(h.faces[f].outside) > 0 {
			h.open = append(h.open, f)
		}
	}
}

// rim is an edge of what is seen from a point: of a triangle that stays.
type rim struct{ from, to, across int }

// add makes a corner of the point farthest above a triangle, and triangles from it to the rim of
// all that is seen from there.
func (h *hullMaker) add(f int) {
	t := &h.faces[f]
	apex, top := -1, 0.0
	for _, p := range t.outside {
		if above := h.above(t, h.points[p]); above > top {
			apex, top = p, above
		}
	}
	if apex < 0 {
		return
	}
	var left []int
	rims := h.seenFrom(h.points[apex], f, &left)
	made := make([]int, len(rims))
	for i, r := range rims {
		made[i] = len(h.faces)
		next, last := len(h.faces)+1, len(h.faces)-1
		if i == len(rims)-1 {
			next = made[0]
		}
		if i == 0 {
			last = len(h.faces) + len(rims) - 1
		}
		n := h.face([3]int{r.from, r.to, apex})
		n.beside = [3]int{r.across, next, last}
		h.faces = append(h.faces, n)
		across := &h.faces[r.across]
		for k := range across.corner {
			if across.corner[k] == r.to {
				across.beside[k] = made[i]
			}
		}
	}
	h.share(left, made)
}

// step is an edge of a triangle by which the walk over what is seen comes to the next one.
type step struct{ face, edge, left int }

// seenFrom takes away the triangles that are seen from a point, from f on, and returns their rim in
// the order around it. The points that they looked after go to left.
func (h *hullMaker) seenFrom(p r3.Vec, f int, left *[]int) []rim {
	var rims []rim
	take := func(f int) {
		t := &h.faces[f]
		t.gone = true
		*left = append(*left, t.outside...)
		t.outside = nil
	}
	take(f)
	// Depth first, edges in turn, so that the rim comes in order.
	walk := []step{{f, 0, 3}}
	for len(walk) > 0 {
		s := &walk[len(walk)-1]
		if s.left == 0 {
			walk = walk[:len(walk)-1]
			continue
		}
		face, edge := s.face, s.edge
		s.edge, s.left = (s.edge+1)%3, s.left-1
		t := &h.faces[face]
		across := t.beside[edge]
		n := &h.faces[across]
		switch {
		case n.gone:
		case h.above(n, p) > 0:
			take(across)
			in := 0
			for n.beside[in] != face || n.corner[in] != t.corner[(edge+1)%3] {
				in++
			}
			walk = append(walk, step{across, (in + 1) % 3, 2})
		default:
			rims = append(rims, rim{t.corner[edge], t.corner[(edge+1)%3], across})
		}
	}
	return rims
}
