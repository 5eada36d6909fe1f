package cutting

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/solid"
)

// Touch is a facet that was held to the lap for a moment only: where it comes in, and what may be
// taken for its stop.
type Touch struct {
	// Patch lists the corners of what is ground flat by then, in order.
	Patch []r3.Vec
	// False is the last meet of other facets that the cut runs through before its own stop, nil
	// where none is near. Early is how far before the stop that is, along the facet's normal.
	False *r3.Vec
	Early float64
}

// Touch returns how a facet comes in on a solid, which is left as it is: after 0.3 of the way from
// the first contact to its stop. It is false where the facet takes nothing off.
func (f Facet) Touch(before *solid.Solid) (Touch, bool) {
	const (
		moment = 0.3
		near   = 0.5 // a meet that tempts lies in the second half of the way
	)
	normal, stop := f.Plane.Normal, f.Plane.D
	contact := math.Inf(-1)
	for _, v := range before.Vertices() {
		contact = math.Max(contact, r3.Dot(normal, before.Point(v)))
	}
	way := contact - stop
	const id = math.MaxInt32
	cut, _ := before.Compact().Cut(id, solid.Plane{Normal: normal, D: contact - moment*way})
	face := cut.Face(id)
	if way <= solid.AtMeet || face == nil {
		return Touch{}, false
	}
	var out Touch
	for _, v := range face.Loop {
		out.Patch = append(out.Patch, cut.Point(v))
	}
	if !f.AtMeet {
		return out, true
	}
	out.Early = near * way
	for _, c := range before.Corners() {
		p := before.Point(c.Vertex)
		early := r3.Dot(normal, p) - stop
		// The faces of the block have the lowest IDs.
		if c.Faces[0] >= 0 && early > solid.AtMeet*10 && early <= out.Early {
			out.False, out.Early = &p, early
		}
	}
	if out.False == nil {
		out.Early = 0
	}
	return out, true
}
