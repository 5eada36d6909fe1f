package solid

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// Outcome tells what a cut did.
type Outcome int

// The outcomes of a cut.
const (
	// Touched: the plane passes the solid by or only touches it; nothing changed.
	Touched Outcome = iota
	// Made: the plane took something off and left a face.
	Made
	// TookAll: nothing of the solid lies inside the plane.
	TookAll
	// Failed: the plane takes something off, but passes so many corners at less than
	// what welds that no closed solid comes of it; nothing changed.
	Failed
)

// side of the cutting plane that a vertex is on.
type side int8

const (
	inside side = iota
	on
	outside
)

// Cut takes off what lies outside the plane and returns what is left, with the
// new face under the given ID. Where the outcome is another than
// Made the solid itself is returned.
//
// A face that a cut leaves narrower than MinArea is closed up onto its neighbour,
// so that vertices, edges and faces keep V − E + F = 2. Where that fails, because
// the plane passes several corners at less than what welds, it is cut a little beside:
// by up to 1e-6 units, which is 10 nm on a stone of 10 mm. The face then has the plane
// in which it was cut. Where that fails too, the outcome is Failed.
func (s *Solid) Cut(id int, plane Plane) (*Solid, Outcome) {
	for _, aside := range [...]float64{0, 3 * Weld, -3 * Weld, AtMeet, -AtMeet, 3 * AtMeet, -3 * AtMeet, 10 * AtMeet, -10 * AtMeet} {
		beside := Plane{Normal: plane.Normal, D: plane.D + aside}
		c := cutter{solid: s, plane: beside, class: make([]side, len(s.vertices.points))}
		switch c.classify() {
		case Touched:
			return s, Touched
		case TookAll:
			return s, TookAll
		}
		// A refused cut must leave no points behind in the shared table.
		before := len(s.vertices.points)
		cut := c.apply(id)
		if cut != nil && cut.whole() {
			return cut, Made
		}
		s.vertices.points = s.vertices.points[:before]
		if cut == nil && c.highest < AtMeet {
			return s, Touched // it takes off nothing that counts
		}
	}
	return s, Failed
}

// cutter holds what one cut needs to know while it runs.
type cutter struct {
	solid *Solid
	plane Plane
	class []side
	// highest is how far the furthest vertex lies outside the plane.
	highest float64
	// touched lists the faces with a corner on the plane or outside it; most of a
	// stone is untouched by any one cut.
	touched []bool
	// onPlane lists the vertices that lie on the plane, old and new.
	onPlane []int
	// crossing finds the new vertex on an edge, by its end inside and its end
	// outside, so that both faces at the edge get the same one.
	crossing map[[2]int]int
}

// classify sorts the vertices by the side of the plane they lie on.
func (c *cutter) classify() Outcome {
	vertices := c.solid.Vertices()
	out, in := 0, 0
	for _, v := range vertices {
		switch above := c.plane.Above(c.solid.Point(v)); {
		case above > OnPlane:
			c.class[v] = outside
			c.highest = max(c.highest, above)
			out++
		case above < -OnPlane:
			in++
		default:
			c.class[v] = on
		}
	}
	if out == 0 {
		return Touched
	}
	if in == 0 {
		return TookAll
	}
	c.findTouched()
	if c.weldEnds() {
		c.findTouched()
	}
	in, out = 0, 0
	for _, v := range vertices {
		switch c.class[v] {
		case on:
			c.onPlane = append(c.onPlane, v)
		case inside:
			in++
		case outside:
			out++
		}
	}
	if out == 0 {
		return Touched
	}
	if in == 0 {
		return TookAll
	}
	return Made
}

func (c *cutter) findTouched() {
	c.touched = make([]bool, len(c.solid.faces))
	for no, f := range c.solid.faces {
		c.touched[no] = slices.ContainsFunc(f.Loop, func(v int) bool { return c.class[v] != inside })
	}
}

// weldEnds moves a vertex onto the plane where the plane crosses one of its edges
// within Weld of it: the crossing would be the same vertex. It tells whether any
// moved.
func (c *cutter) weldEnds() bool {
	moved := false
	for no, f := range c.solid.faces {
		if !c.touched[no] {
			continue
		}
		for i, a := range f.Loop {
			b := f.Loop[(i+1)%len(f.Loop)]
			if c.class[a] == on || c.class[b] == on || c.class[a] == c.class[b] {
				continue
			}
			p := c.crossingPoint(a, b)
			if near(p, c.solid.Point(a)) {
				c.class[a], moved = on, true
			} else if near(p, c.solid.Point(b)) {
				c.class[b], moved = on, true
			}
		}
	}
	return moved
}

// crossingPoint returns where the plane crosses the edge from a to b.
func (c *cutter) crossingPoint(a, b int) r3.Vec {
	// Always from the inside out, so that the two faces at the edge agree to the bit.
	if c.plane.Above(c.solid.Point(a)) > c.plane.Above(c.solid.Point(b)) {
		a, b = b, a
	}
	pa, pb := c.solid.Point(a), c.solid.Point(b)
	sa, sb := c.plane.Above(pa), c.plane.Above(pb)
	return r3.Add(pa, r3.Scale(sa/(sa-sb), r3.Sub(pb, pa)))
}

// vertexOn returns the number of the vertex where the plane crosses the edge
// between the inside vertex a and the outside vertex b.
func (c *cutter) vertexOn(a, b int) int {
	key := [2]int{a, b}
	if v, ok := c.crossing[key]; ok {
		return v
	}
	p := c.crossingPoint(a, b)
	v := -1
	for _, w := range c.onPlane {
		if near(p, c.solid.Point(w)) {
			v = w
			break
		}
	}
	if v < 0 {
		v = len(c.solid.vertices.points)
		c.solid.vertices.points = append(c.solid.vertices.points, p)
		c.class = append(c.class, on)
		c.onPlane = append(c.onPlane, v)
	}
	c.crossing[key] = v
	return v
}

// apply clips every face and closes the hole with the new one. It returns nil
// where what the plane takes off is too small to leave a face.
func (c *cutter) apply(id int) *Solid {
	c.crossing = make(map[[2]int]int)
	faces := make([]*Face, 0, len(c.solid.faces)+1)
	var slivers, atRim []*Face
	for no, f := range c.solid.faces {
		if !c.touched[no] {
			faces = append(faces, f)
			continue
		}
		loop, changed := c.clip(f.Loop)
		if !changed {
			faces, atRim = append(faces, f), append(atRim, f)
			continue
		}
		if len(loop) < 3 {
			continue
		}
		clipped := &Face{ID: f.ID, Plane: f.Plane, Loop: loop}
		faces, atRim = append(faces, clipped), append(atRim, clipped)
		if c.solid.area(loop) < MinArea {
			slivers = append(slivers, clipped)
		}
	}
	loop := c.rim(atRim)
	if len(loop) < 3 || c.solid.area(loop) < MinArea {
		return nil
	}
	faces = append(faces, &Face{ID: id, Plane: c.plane, Loop: loop})
	for _, f := range slivers {
		faces = closeUp(c.solid, faces, f)
	}
	return &Solid{vertices: c.solid.vertices, faces: faces}
}

// clip returns what is left of a loop inside the plane, and whether anything of
// it went. A loop of fewer than three corners is no face any more.
func (c *cutter) clip(loop []int) ([]int, bool) {
	if !slices.ContainsFunc(loop, func(v int) bool { return c.class[v] == outside }) {
		return loop, false
	}
	kept := make([]int, 0, len(loop)+1)
	push := func(v int) {
		if len(kept) == 0 || kept[len(kept)-1] != v {
			kept = append(kept, v)
		}
	}
	for i, a := range loop {
		b := loop[(i+1)%len(loop)]
		if c.class[a] != outside {
			push(a)
		}
		if c.class[a] == inside && c.class[b] == outside {
			push(c.vertexOn(a, b))
		}
		if c.class[a] == outside && c.class[b] == inside {
			push(c.vertexOn(b, a))
		}
	}
	for len(kept) > 1 && kept[0] == kept[len(kept)-1] {
		kept = kept[:len(kept)-1]
	}
	return kept, true
}

// rim chains the open edges that the cut left into the loop of the new face. It
// returns nil where they do not close into one loop: the plane then follows a
// face of the solid to within the tolerance, and takes nothing off that counts.
func (c *cutter) rim(faces []*Face) []int {
	type edge struct{ from, to int }
	edges := make(map[edge]bool)
	for _, f := range faces {
		for i, a := range f.Loop {
			b := f.Loop[(i+1)%len(f.Loop)]
			if c.class[a] == on && c.class[b] == on {
				edges[edge{a, b}] = true
			}
		}
	}
	next := make(map[int]int)
	start := -1
	for e := range edges {
		if edges[edge{e.to, e.from}] {
			continue
		}
		if _, twice := next[e.to]; twice {
			return nil
		}
		next[e.to] = e.from
		if start < 0 || e.to < start {
			start = e.to
		}
	}
	if start < 0 {
		return nil
	}
	loop := []int{start}
	for v, ok := next[start]; v != start; v, ok = next[v] {
		if !ok || len(loop) > len(next) {
			return nil
		}
		loop = append(loop, v)
	}
	if len(loop) != len(next) {
		return nil
	}
	return loop
}

// closeUp removes a sliver and gives its other edges to the neighbour across its
// longest one, on which all its corners lie.
func closeUp(s *Solid, faces []*Face, sliver *Face) []*Face {
	loop, longest := sliver.Loop, 0
	for i := range loop {
		if s.edgeLength(loop, i) > s.edgeLength(loop, longest) {
			longest = i
		}
	}
	n := len(loop)
	from, to := loop[longest], loop[(longest+1)%n]
	var between []int
	for i := 2; i < n; i++ {
		between = append(between, loop[(longest+i)%n])
	}
	kept := faces[:0]
	for _, f := range faces {
		if f == sliver {
			continue
		}
		for i, a := range f.Loop {
			if a == to && f.Loop[(i+1)%len(f.Loop)] == from {
				wider := append([]int{}, f.Loop[:i+1]...)
				wider = append(wider, between...)
				f = &Face{ID: f.ID, Plane: f.Plane, Loop: append(wider, f.Loop[i+1:]...)}
				break
			}
		}
		kept = append(kept, f)
	}
	return kept
}

func (s *Solid) edgeLength(loop []int, i int) float64 {
	return r3.Norm(r3.Sub(s.Point(loop[(i+1)%len(loop)]), s.Point(loop[i])))
}

// whole tells whether vertices, edges and faces are as many as on a closed solid.
func (s *Solid) whole() bool {
	ends := 0 // of edges: two each
	for _, f := range s.faces {
		ends += len(f.Loop)
	}
	return 2*(len(s.Vertices())+len(s.faces)-2) == ends
}

// near tells whether two points are one vertex.
func near(a, b r3.Vec) bool {
	return math.Abs(a.X-b.X) <= Weld && math.Abs(a.Y-b.Y) <= Weld && math.Abs(a.Z-b.Z) <= Weld
}
