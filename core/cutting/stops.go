package cutting

import (
	"math"
	"slices"

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
	// corners and meets are found once for all facets of the tier.
	corners []corner
	meets   map[*diagram.Ref][]r3.Vec
	edge    []r3.Vec
}

// corner is a vertex of the stone as it stands.
type corner struct {
	point r3.Vec
	// facets lists the places in Stone.Facets of those that pass through it.
	facets []int
	// block tells whether a face of the block does, too.
	block bool
}

// cornersOf lists the vertices of the stone with the facets that meet there.
func cornersOf(s *solid.Solid) []corner {
	corners := s.Corners()
	out := make([]corner, len(corners))
	for i, c := range corners {
		// Faces of the block have the lowest IDs.
		cut, _ := slices.BinarySearch(c.Faces, 0)
		out[i] = corner{point: s.Point(c.Vertex), facets: c.Faces[cut:], block: cut > 0}
	}
	return out
}

func (f *finder) vertices() []corner {
	if f.corners == nil {
		f.corners = cornersOf(f.solid)
	}
	return f.corners
}

// target returns the points that a plane of the tier with the given normal passes
// through, one at least, and whether they are meets on the stone.
func (f *finder) target(normal r3.Vec) (points []r3.Vec, atMeet bool, err error) {
	switch s := f.tier.Stop; s.Kind {
	case diagram.Centre:
		point, err := f.centre(s.Drop)
		return []r3.Vec{point}, false, err
	case diagram.Size:
		return []r3.Vec{r3.Scale(s.Radius, normal)}, false, nil
	case diagram.Meet:
		points, err = f.meet(s.Tiers, normal)
		return points, true, err
	case diagram.GirdleBand:
		points, err = f.girdle(s.Thickness, normal)
		return points, false, err
	case diagram.Along:
		points, err = f.along(s, normal)
		return points, false, err
	case diagram.Width:
		point, err := f.width(s.Ratio)
		return []r3.Vec{point}, false, err
	default:
		return []r3.Vec{r3.Scale(s.Distance, normal)}, false, nil
	}
}

// StopOf returns the point at which the stop of a tier holds a plane with the given normal, on
// the stone as it stands. The error is a Problem.
func (s *Stone) StopOf(tierNo int, normal r3.Vec) (r3.Vec, error) {
	find := finder{stone: s, solid: s.Solid(), tierNo: tierNo, tier: &s.Diagram.Tiers[tierNo]}
	stops, _, err := find.target(normal)
	if err != nil {
		return r3.Vec{}, err
	}
	return stops[0], nil
}

// points returns where every facet of the tier, in the order of its indexes, would
// stop with another stop.
func (f *finder) points(stop diagram.Stop) ([]r3.Vec, error) {
	t, with := *f.tier, *f
	t.Stop, with.tier, with.meets = stop, &t, nil
	with.vertices()
	f.corners = with.corners
	out := make([]r3.Vec, len(t.Indexes))
	for i, index := range t.Indexes {
		stops, _, err := with.target(diagram.Normal(t.Part, t.Angle, f.stone.Diagram.Azimuth(t.Part, index)))
		if err != nil {
			return nil, err
		}
		out[i] = stops[0]
	}
	return out, nil
}

// meetStop words a corner as a meet stop that fits: by tiers, no more of them than it
// takes, or for a tier of one facet by the facets themselves, where a like meet lies
// farther out.
func (f *finder) meetStop(c corner, fits func(diagram.Stop) bool) (diagram.Stop, bool) {
	if len(c.facets) < 3 {
		return diagram.Stop{}, false
	}
	var tiers, facets []diagram.Ref
	for _, i := range f.ownPartFirst(c.facets) {
		at := f.stone.Facets[i]
		name := f.stone.Diagram.Tiers[at.Tier].Name
		tiers = append(tiers, diagram.Ref{Tier: name})
		facets = append(facets, diagram.Ref{Tier: name, Index: at.Index, OneFacet: true})
	}
	meet := func(refs []diagram.Ref) diagram.Stop { return diagram.Stop{Kind: diagram.Meet, Tiers: refs} }
	if !fits(meet(tiers)) {
		named := meet(facets[:min(len(facets), 4)])
		return named, len(f.tier.Indexes) == 1 && fits(named)
	}
	// A cutter names few facets: drop what the meet is found without, the later
	// ones first, but never a tier altogether.
	best := meet(tiers)
	for i := len(tiers) - 1; i >= 0 && len(tiers) > 3; i-- {
		fewer := slices.Delete(slices.Clone(tiers), i, i+1)
		if slices.Contains(fewer, tiers[i]) && fits(meet(fewer)) {
			tiers = fewer
			best = meet(fewer)
		}
	}
	// What fits last counts for the caller.
	return best, fits(best)
}

// ownPartFirst orders facets as a cutter names them: those of the tier's own part, then
// the rest.
func (f *finder) ownPartFirst(facets []int) []int {
	out := slices.Clone(facets)
	slices.SortStableFunc(out, func(a, b int) int {
		own := func(i int) int {
			if f.partOf(i) == f.tier.Part {
				return 0
			}
			return 1
		}
		return own(a) - own(b)
	})
	return out
}

// onAxis tells whether a point lies on the dop axis.
func onAxis(p r3.Vec) bool { return math.Hypot(p.X, p.Y) <= solid.OnPlane }

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
		if !face.OfBlock() && f.partOf(face.ID) == part && math.Abs(face.Plane.Above(r3.Vec{Z: z})) <= solid.OnPlane {
			return true
		}
	}
	return false
}

// girdle: the plane stands so that the girdle is thickness at its thinnest along
// it and nowhere thinner: d = max(n·v + |n_z|·thickness) over the vertices v
// between a girdle facet and a facet of the other side. The points are those v
// moved along the axis by the thickness, towards the side being cut.
func (f *finder) girdle(thickness float64, normal r3.Vec) ([]r3.Vec, error) {
	if f.edge == nil {
		f.edge = f.girdleEdge()
	}
	if len(f.edge) == 0 {
		return nil, f.problem(GirdleMissing)
	}
	up := r3.Vec{Z: math.Copysign(thickness, normal.Z)}
	points := first(f.edge, normal)
	for i, v := range points {
		points[i] = r3.Add(v, up)
	}
	return points, nil
}

// girdleEdge returns the vertices where girdle facets meet facets of the side
// opposite to the tier's.
func (f *finder) girdleEdge() []r3.Vec {
	var edge []r3.Vec
	for _, c := range f.vertices() {
		has := func(part diagram.Part) bool {
			return slices.ContainsFunc(c.facets, func(i int) bool { return f.partOf(i) == part })
		}
		if has(diagram.Girdle) && has(f.tier.Part.Other()) {
			edge = append(edge, c.point)
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

// meet returns, of the vertices where at least the named facets meet, those that a
// plane with the given normal touches first as it comes in from outside.
func (f *finder) meet(refs []diagram.Ref, normal r3.Vec) ([]r3.Vec, error) {
	found := f.meetsOf(refs)
	if len(found) == 0 {
		return nil, f.problem(MeetMissing)
	}
	return first(found, normal), nil
}

// along returns the points at a share of the way from one meet to another. Where like meets
// are reached at once, each way between them counts.
func (f *finder) along(s diagram.Stop, normal r3.Vec) ([]r3.Vec, error) {
	from, err := f.meet(s.From, normal)
	if err != nil {
		return nil, err
	}
	to, err := f.meet(s.To, normal)
	if err != nil {
		return nil, err
	}
	var out []r3.Vec
	for _, a := range from {
		for _, b := range to {
			out = append(out, r3.Add(a, r3.Scale(s.At, r3.Sub(b, a))))
		}
	}
	return out, nil
}

// first returns the points that a plane with the given normal touches first as it comes in
// from outside: the one farthest out before those that are reached with it at once.
func first(points []r3.Vec, normal r3.Vec) []r3.Vec {
	best := points[0]
	for _, v := range points {
		if r3.Dot(normal, v) > r3.Dot(normal, best) {
			best = v
		}
	}
	out := []r3.Vec{best}
	for _, v := range points {
		if v != best && r3.Dot(normal, best)-r3.Dot(normal, v) <= solid.OnPlane {
			out = append(out, v)
		}
	}
	return out
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
	found := []r3.Vec{}
	for _, c := range f.vertices() {
		if !c.block && f.meetAt(c, refs) {
			found = append(found, c.point)
		}
	}
	if f.meets == nil {
		f.meets = map[*diagram.Ref][]r3.Vec{}
	}
	f.meets[&refs[0]] = found
	return found
}

// meetAt tells whether the facets at a corner give every ref one of its own. A ref to
// one facet takes that facet; a ref to any facet of a tier needs one more than those
// that are taken, so counting is enough.
func (f *finder) meetAt(c corner, refs []diagram.Ref) bool {
	d := f.stone.Diagram
	for _, r := range refs {
		needed, there, named := 0, 0, !r.OneFacet
		for _, o := range refs {
			if o.Tier == r.Tier {
				needed++
			}
		}
		for _, at := range c.facets {
			if facet := f.stone.Facets[at]; d.Tiers[facet.Tier].Name == r.Tier {
				there++
				named = named || gear.Same(facet.Index, r.Index, d.Gear)
			}
		}
		if there < needed || !named {
			return false
		}
	}
	return true
}

func (f *finder) partOf(facet int) diagram.Part {
	return f.stone.Diagram.Tiers[f.stone.Facets[facet].Tier].Part
}
