package fit

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/solid"
)

// Shape is a cut stone as a fit needs it, in design units.
type Shape struct {
	Name string
	// Width and Length are the smaller and the larger extent across the dop's axis, Height that along it.
	Width, Length, Height float64
	Volume                float64
	// centre is the centre of mass in the diagram's frame; all points are seen from there.
	centre r3.Vec
	points []r3.Vec
	// radius is how far the farthest point is from the centre.
	radius float64
	whole  *obstacle
	// core is the part straight above and below the table; the whole where there is no table.
	core *obstacle
	// same are the turns that bring the shape onto itself, Still among them.
	same []Turn
	size sizes
}

// obstacle is a convex solid that flaws must keep out of.
type obstacle struct {
	points []r3.Vec
	// along are the directions in which a flaw may lie beyond it: normals of the facets first, then of
	// edges and corners, each the sum of the normals of the facets that meet there. reach is how far the
	// solid reaches in each.
	along  []r3.Vec
	reach  []float64
	facets int
	// soften and near say what a direction stands for: whatever lies beyond a plane in any direction
	// around this one lies beyond this one's plane by soften times as much at least, and the directions
	// around it lie within near radians. The directions part the sphere into triangles of a facet, an
	// edge and a corner; "around" are the triangles that have this one as a corner.
	soften, near []float64
}

// NewShape takes a cut stone's shape.
func NewShape(s *cutting.Stone) *Shape {
	body := s.Solid().Compact()
	bounds := body.Bounds()
	across, along := bounds.Max.X-bounds.Min.X, bounds.Max.Y-bounds.Min.Y
	h := &Shape{
		Name: s.Diagram.Name, Width: min(across, along), Length: max(across, along), Height: bounds.Max.Z - bounds.Min.Z,
		Volume: body.Volume(), centre: body.Centroid(),
	}
	h.whole = h.obstacle(body)
	h.points = h.whole.points
	for _, p := range h.points {
		h.radius = max(h.radius, r3.Norm(p))
	}
	h.core = h.whole
	if core := underTable(body); core != nil {
		h.core = h.obstacle(core)
	}
	h.same = h.symmetries()
	h.size = measure(h, body)
	return h
}

// underTable cuts a stone down to what lies straight above and below its table: the highest level
// face. It is nil where there is none.
func underTable(body *solid.Solid) *solid.Solid {
	var table *solid.Face
	for _, f := range body.Faces() {
		if f.Plane.Normal.Z > 1-1e-12 && (table == nil || f.Plane.D > table.Plane.D) {
			table = f
		}
	}
	if table == nil {
		return nil
	}
	core := body
	for i, v := range table.Loop {
		p, q := body.Point(v), body.Point(table.Loop[(i+1)%len(table.Loop)])
		n := r3.Unit(r3.Vec{X: q.Y - p.Y, Y: p.X - q.X})
		if cut, outcome := core.Cut(1<<20+i, solid.Through(n, p)); outcome == solid.Made {
			core = cut
		}
	}
	return core.Compact()
}

func (h *Shape) obstacle(body *solid.Solid) *obstacle {
	o := &obstacle{facets: len(body.Faces())}
	number := map[int]int{}
	for _, v := range body.Vertices() {
		number[v] = len(o.points)
		o.points = append(o.points, r3.Sub(body.Point(v), h.centre))
	}
	type edge [2]int
	edges, corners := map[edge][]int{}, make([][]int, len(o.points))
	var order []edge
	for i, f := range body.Faces() {
		o.along = append(o.along, f.Plane.Normal)
		for k, v := range f.Loop {
			a, b := number[v], number[f.Loop[(k+1)%len(f.Loop)]]
			corners[a] = append(corners[a], i)
			e := edge{min(a, b), max(a, b)}
			if edges[e] == nil {
				order = append(order, e)
			}
			edges[e] = append(edges[e], i)
		}
	}
	add := func(facets []int) int {
		var sum r3.Vec
		for _, f := range facets {
			sum = r3.Add(sum, o.along[f])
		}
		o.along = append(o.along, r3.Unit(sum))
		return len(o.along) - 1
	}
	ofCorner := make([]int, len(corners))
	for v, facets := range corners {
		ofCorner[v] = add(facets)
	}
	var triangles [][3]int
	for _, e := range order {
		m := add(edges[e])
		for _, f := range edges[e] {
			triangles = append(triangles, [3]int{f, m, ofCorner[e[0]]}, [3]int{f, m, ofCorner[e[1]]})
		}
	}
	o.soften, o.near = slices.Repeat([]float64{1}, len(o.along)), make([]float64, len(o.along))
	for _, t := range triangles {
		a, b, c := o.along[t[0]], o.along[t[1]], o.along[t[2]]
		least := r3.Norm(closestOnTriangle(a, b, c))
		for k, i := range t {
			o.soften[i] = min(o.soften[i], least)
			for _, j := range []int{t[(k+1)%3], t[(k+2)%3]} {
				o.near[i] = max(o.near[i], math.Acos(min(1, r3.Dot(o.along[i], o.along[j]))))
			}
		}
	}
	for _, u := range o.along {
		o.reach = append(o.reach, reach(o.points, u))
	}
	return o
}

// reach returns how far points reach in a direction.
func reach(points []r3.Vec, u r3.Vec) float64 {
	most := math.Inf(-1)
	for i := range points {
		p := &points[i]
		most = max(most, u.X*p.X+u.Y*p.Y+u.Z*p.Z)
	}
	return most
}

// symmetries finds the turns that bring the shape onto itself. Such a turn takes a corner to one that
// is as far from the centre, and a second corner likewise; all corners then prove it.
func (h *Shape) symmetries() []Turn {
	const near = 1e-7
	rings := map[int]int{}
	ring := func(p r3.Vec) int { return int(math.Round(r3.Norm(p) * 1e6)) }
	for _, p := range h.points {
		rings[ring(p)]++
	}
	// The rarest distance leaves the fewest places to go.
	a := h.points[0]
	for _, p := range h.points {
		if r3.Norm(p) > 10*near && (r3.Norm(a) <= 10*near || rings[ring(p)] < rings[ring(a)]) {
			a = p
		}
	}
	b := a
	most := 0.0
	for _, p := range h.points {
		if off := r3.Norm(r3.Cross(a, p)); off > most+near {
			b, most = p, off
		}
	}
	frame := func(a, b r3.Vec) Turn {
		x := r3.Unit(a)
		z := r3.Unit(r3.Cross(a, b))
		return Turn{x, r3.Cross(z, x), z}.Inverse()
	}
	from := frame(a, b).Inverse()
	out := []Turn{Still}
	for _, p := range h.points {
		if math.Abs(r3.Norm(p)-r3.Norm(a)) > near {
			continue
		}
		for _, q := range h.points {
			if math.Abs(r3.Norm(q)-r3.Norm(b)) > near || math.Abs(r3.Dot(p, q)-r3.Dot(a, b)) > near || r3.Norm(r3.Cross(p, q)) < near {
				continue
			}
			if t := frame(p, q).After(from); t.angleTo(Still) > 1e-5 && h.sameUnder(t, near) {
				out = append(out, t)
			}
		}
	}
	return out
}

func (h *Shape) sameUnder(t Turn, near float64) bool {
	for _, p := range h.points {
		q := t.Of(p)
		if !slices.ContainsFunc(h.points, func(r r3.Vec) bool { return r3.Norm(r3.Sub(q, r)) < 10*near }) {
			return false
		}
	}
	return true
}
