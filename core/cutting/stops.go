package cutting

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/solid"
)

// finder turns the stop of one tier into points on the stone as it stands.
type finder struct {
	stone  *Stone
	solid  *solid.Solid
	tierNo int
	tier   *diagram.Tier
	// vertices and meets are found once for all facets of the tier.
	vertices []r3.Vec
	meets    map[*diagram.Ref][]r3.Vec
	edge     []r3.Vec
}

// target returns the point that a plane of the tier with the given normal passes
// through, and whether that point is a meet on the stone.
func (f *finder) target(normal r3.Vec) (point r3.Vec, atMeet bool, err error) {
	switch s := f.tier.Stop; s.Kind {
	case diagram.Centre:
		point, err = f.centre(s.Drop)
		return point, false, err
	case diagram.Size:
		return r3.Scale(s.Radius, normal), false, nil
	case diagram.Meet:
		point, err = f.meet(s.Tiers, normal)
		return point, true, err
	case diagram.GirdleBand:
		point, err = f.girdle(s.Thickness, normal)
		return point, false, err
	case diagram.Along:
		from, err := f.meet(s.From, normal)
		if err != nil {
			return from, false, err
		}
		to, err := f.meet(s.To, normal)
		return r3.Add(from, r3.Scale(s.At, r3.Sub(to, from))), false, err
	case diagram.Width:
		point, err = f.width(s.Ratio)
		return point, false, err
	default:
		return r3.Scale(s.Distance, normal), false, nil
	}
}

func (f *finder) problem(code diagram.Code) error { return f.stone.problem(code, f.tierNo) }

// centre: where the axis leaves the stone through facets of the same part, moved
// into the stone by drop. The first centre point on the first side is the origin
// and so fixes z = 0; on the second side its height would be a guess.
func (f *finder) centre(drop float64) (r3.Vec, error) {
	part := f.tier.Part
	low, high, through := f.solid.AxisSpan()
	if !through {
		return r3.Vec{}, f.problem(CentreMissed)
	}
	end, into := low, 1.0
	if part == diagram.Crown {
		end, into = high, -1
	}
	if !f.leavesThrough(part, end) {
		if part != f.stone.Diagram.FirstSide {
			return r3.Vec{}, f.problem(CentreUnknown)
		}
		end = 0
	}
	return r3.Vec{Z: end + into*drop}, nil
}

// leavesThrough tells whether the axis leaves the stone at height z through a
// facet of the given part.
func (f *finder) leavesThrough(part diagram.Part, z float64) bool {
	for _, face := range f.solid.Faces() {
		if !face.OfBlock() && f.partOf(face) == part && math.Abs(face.Plane.Above(r3.Vec{Z: z})) <= solid.OnPlane {
			return true
		}
	}
	return false
}

// girdle: the plane stands so that the girdle is thickness at its thinnest along
// it and nowhere thinner: d = max(n·v + |n_z|·thickness) over the vertices v
// between a girdle facet and a facet of the other side. The point is such a v
// moved along the axis by the thickness, towards the side being cut.
func (f *finder) girdle(thickness float64, normal r3.Vec) (r3.Vec, error) {
	if f.edge == nil {
		f.edge = f.girdleEdge()
	}
	if len(f.edge) == 0 {
		return r3.Vec{}, f.problem(GirdleMissing)
	}
	up := math.Copysign(thickness, normal.Z)
	best := f.edge[0]
	for _, v := range f.edge {
		if r3.Dot(normal, v) > r3.Dot(normal, best) {
			best = v
		}
	}
	return r3.Add(best, r3.Vec{Z: up}), nil
}

// girdleEdge returns the vertices where girdle facets meet facets of the side
// opposite to the tier's.
func (f *finder) girdleEdge() []r3.Vec {
	var girdle, other []*solid.Face
	for _, face := range f.solid.Faces() {
		if face.OfBlock() {
			continue
		}
		switch f.partOf(face) {
		case diagram.Girdle:
			girdle = append(girdle, face)
		case f.tier.Part.Other():
			other = append(other, face)
		}
	}
	var edge []r3.Vec
	for _, v := range f.points() {
		if countAt(girdle, v) > 0 && countAt(other, v) > 0 {
			edge = append(edge, v)
		}
	}
	return edge
}

// width: a level plane at the height where the stone is ratio of its width.
func (f *finder) width(ratio float64) (r3.Vec, error) {
	size := f.solid.Bounds().Size()
	z, ok := f.solid.HeightOfWidth(ratio * math.Min(size.X, size.Y))
	if !ok {
		return r3.Vec{}, f.problem(WidthMissing)
	}
	return r3.Vec{Z: z}, nil
}

// meet returns, of the vertices where at least the named facets meet, the one
// that a plane with the given normal touches first as it comes in from outside.
func (f *finder) meet(refs []diagram.Ref, normal r3.Vec) (r3.Vec, error) {
	found := f.meetsOf(refs)
	if len(found) == 0 {
		return r3.Vec{}, f.problem(MeetMissing)
	}
	best := found[0]
	for _, v := range found {
		if r3.Dot(normal, v) > r3.Dot(normal, best) {
			best = v
		}
	}
	return best, nil
}

// meetsExist tells whether every meet that a stop names is on the stone.
func (f *finder) meetsExist(s diagram.Stop) bool {
	if s.Kind == diagram.Along {
		return len(f.meetsOf(s.From)) > 0 && len(f.meetsOf(s.To)) > 0
	}
	return len(f.meetsOf(s.Tiers)) > 0
}

// meetsOf returns the vertices where facets enough meet to give every ref one of
// its own. A vertex that touches the block is no meet.
func (f *finder) meetsOf(refs []diagram.Ref) []r3.Vec {
	if found, ok := f.meets[&refs[0]]; ok {
		return found
	}
	// A ref to one facet takes that facet; a ref to any facet of a tier needs one
	// more than those that are taken, so counting is enough.
	needed := map[string]int{}
	for _, r := range refs {
		needed[r.Tier]++
	}
	faces := map[string][]*solid.Face{}
	for _, face := range f.solid.Faces() {
		if !face.OfBlock() {
			name := f.stone.Diagram.Tiers[f.stone.Facets[face.ID].Tier].Name
			if needed[name] > 0 {
				faces[name] = append(faces[name], face)
			}
		}
	}
	found := []r3.Vec{}
	for _, v := range f.points() {
		if f.isMeet(v, refs, needed, faces) && !f.solid.TouchesBlock(v) {
			found = append(found, v)
		}
	}
	if f.meets == nil {
		f.meets = map[*diagram.Ref][]r3.Vec{}
	}
	f.meets[&refs[0]] = found
	return found
}

func (f *finder) isMeet(v r3.Vec, refs []diagram.Ref, needed map[string]int, faces map[string][]*solid.Face) bool {
	for name, n := range needed {
		if countAt(faces[name], v) < n {
			return false
		}
	}
	for _, r := range refs {
		if r.OneFacet && !f.facetAt(faces[r.Tier], r.Index, v) {
			return false
		}
	}
	return true
}

// facetAt tells whether the face with the given written index passes through v.
func (f *finder) facetAt(faces []*solid.Face, index float64, v r3.Vec) bool {
	for _, face := range faces {
		if gear.Same(f.stone.Facets[face.ID].Index, index, f.stone.Diagram.Gear) {
			return math.Abs(face.Plane.Above(v)) <= solid.AtMeet
		}
	}
	return false
}

// countAt returns how many of the faces pass through v.
func countAt(faces []*solid.Face, v r3.Vec) int {
	n := 0
	for _, face := range faces {
		if math.Abs(face.Plane.Above(v)) <= solid.AtMeet {
			n++
		}
	}
	return n
}

func (f *finder) points() []r3.Vec {
	if f.vertices == nil {
		for _, v := range f.solid.Vertices() {
			f.vertices = append(f.vertices, f.solid.Point(v))
		}
	}
	return f.vertices
}

func (f *finder) partOf(face *solid.Face) diagram.Part {
	return f.stone.Diagram.Tiers[f.stone.Facets[face.ID].Tier].Part
}
