package workshop

import (
	"slices"

	"gonum.org/v1/gonum/num/quat"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/mending"
	"cressa/core/solid"
)

// Came is the finished stone that a plan begins with.
type Came struct {
	// Planes are those that bound it, in the frame of the plan; one of their units is MM mm.
	Planes []CamePlane
	MM     float64
	// Rest are facets that stay as they are, Polished those that only get the last passes, from PolishedFrom on.
	Rest, Polished []FacetID
	PolishedFrom   string
}

// CamePlane is a plane of a stone that came, with the facet of the plan that it is, "" where the plan has none that faces so.
type CamePlane struct {
	Facet FacetID
	solid.Plane
}

// sound is how many facets of a stone that came have to be sound at least for the others to be passed over: two tell how it sits, a
// third finds one that was misread.
const sound = 3

// damaged tells that a facet of a stone that came is cut, and others of those named are sound and tell better how it sits.
func (c *Came) damaged(id FacetID, names []FacetID) bool {
	if c == nil {
		return false
	}
	stays := func(id FacetID) bool { return slices.Contains(c.Rest, id) || slices.Contains(c.Polished, id) }
	left := 0
	for _, name := range names {
		if stays(name) {
			left++
		}
	}
	return !stays(id) && left >= sound
}

// worked are the planes of the stone that came on a plan's stone, whose units are so many mm and whose facets have these names.
func (c *Came) worked(stone *cutting.Stone, mm float64, names []FacetID) cutting.Worked {
	out := cutting.Worked{Planes: make([]*solid.Plane, len(stone.Facets))}
	for _, p := range c.Planes {
		p.D *= c.MM / mm
		place := slices.Index(names, p.Facet)
		if p.Facet != "" && place >= 0 && r3.Norm(r3.Sub(p.Normal, stone.Facets[place].Plane.Normal)) < sameDirection {
			out.Planes[place] = &p.Plane
			continue
		}
		place, _ = stone.FacetLike(p.Plane)
		out.Beside = append(out.Beside, cutting.Beside{Facet: place, Plane: p.Plane})
	}
	return out
}

// solid is what the cutting of a plan's stone begins with: the stone that came, or a preform.
func (c *Came) solid(stone *cutting.Stone, mm float64, names []FacetID) (*solid.Solid, error) {
	if c == nil {
		return stone.Preform(), nil
	}
	came, err := stone.Worked(c.worked(stone, mm, names))
	if err != nil {
		return nil, err
	}
	return came.Solid().Compact(), nil
}

// asks returns those of some facets that a pass goes over.
func (c *Came) asks(facets []FacetID, passes []Pass, pass Pass) []FacetID {
	if c == nil {
		return facets
	}
	from := slices.IndexFunc(passes, func(p Pass) bool { return p.ID == c.PolishedFrom })
	late := from >= 0 && slices.Index(passes, pass) >= from
	return slices.DeleteFunc(slices.Clone(facets), func(id FacetID) bool {
		return slices.Contains(c.Rest, id) || slices.Contains(c.Polished, id) && !late
	})
}

// came lays a way over a plan. With is the stone of the diagram with all facets, in the frame of the stone as it came; planned
// is the plan's, which may lie elsewhere along the axis.
func (p *Plan) came(ways *RecutWays, way mending.Way, with, planned *cutting.Stone, names []FacetID, polishFrom string) {
	up := alongAxis(with, planned)
	place := func(q solid.Plane) solid.Plane {
		if way.Place != nil {
			q = placedIn(q, *way.Place)
		}
		return lifted(q, up)
	}
	p.Came = &Came{MM: ways.MM, Planes: []CamePlane{}, PolishedFrom: polishFrom}
	p.Mended = &Mended{Way: way.Kind, Plan: 1, At: map[FacetID]float64{}, Take: map[FacetID]float64{}}
	whole := carryNames(planned, names, with, len(names))
	for i, f := range ways.Stone.Facets {
		plane := CamePlane{Plane: place(f.Plane)}
		if i < len(ways.Planned.Facets) && way.Place == nil {
			plane.Facet = whole[i]
		}
		if ways.Stone.Solid().Face(i) != nil {
			p.Came.Planes = append(p.Came.Planes, plane)
		}
		if i >= len(ways.Planned.Facets) {
			continue
		}
		p.Mended.At[whole[i]] = lifted(way.Stone.Facets[i].Plane, up).D
		switch {
		case way.Take[i]*ways.MM > mending.Untouched:
			p.Mended.Take[whole[i]] = way.Take[i]
		case polishFrom != "":
			p.Came.Polished = append(p.Came.Polished, whole[i])
		default:
			p.Came.Rest = append(p.Came.Rest, whole[i])
		}
	}
	if way.Place != nil {
		for i := range p.Setups {
			p.Setups[i].Pose.Rotation = way.Place.Turn
		}
	}
}

// alongAxis is how far the same stone lies higher in another frame, by the facets that face as one of its own.
func alongAxis(from, to *cutting.Stone) float64 {
	var moved, weight float64
	for _, f := range from.Facets {
		for _, g := range to.Facets {
			if r3.Norm(r3.Sub(f.Plane.Normal, g.Plane.Normal)) < 1e-9 {
				moved += f.Plane.Normal.Z * (g.Plane.D - f.Plane.D)
				weight += f.Plane.Normal.Z * f.Plane.Normal.Z
				break
			}
		}
	}
	return moved / weight
}

// placedIn brings a plane of a stone into the frame of a copy that lies in it, scaled as it lies.
func placedIn(q solid.Plane, at mending.Placed) solid.Plane {
	back := r3.Rotation(quat.Conj(at.Turn))
	return solid.Plane{Normal: back.Rotate(q.Normal), D: q.D - r3.Dot(q.Normal, at.Offset)}
}

// lifted moves a plane along the axis.
func lifted(q solid.Plane, up float64) solid.Plane {
	q.D += q.Normal.Z * up
	return q
}
