package mending

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/solid"
)

// Ways to recut that put facets on a stone that its diagram does not have.
const (
	// Corners cuts corners of the outline off evenly.
	Corners Kind = "corners"
	// AnotherDiagram cuts the stone to another diagram, wherever that fits.
	AnotherDiagram Kind = "another"
	// Added puts a facet of its own over each damage, as a shield lies over a thick girdle.
	Added Kind = "added"
)

// Reasons why nothing can be added to a stone.
var (
	// ErrNoCorner: the outline has no corner that takes the damage out.
	ErrNoCorner = errors.New("no corner of the outline takes the damage out")
	// ErrNoPlace: a facet that takes the damage out would be a sliver, too deep, or cut the girdle through.
	ErrNoPlace = errors.New("no further facet takes the damage out and leaves a girdle")
)

// Dials are the settings that a facet can be given.
type Dials struct {
	// Teeth are those of the diagram's gear, Step is that of the protractor in degrees.
	Teeth int
	Step  float64
}

// sharp is by how many degrees the outline turns at a corner at least: that of an octagon does by 45. Where it turns less it is
// round.
const sharp = 40.0

// unlike is by how many degrees an added facet faces away from every other: a nearer one would be a sliver beside that.
const unlike = 2.0

// tilted is by how many degrees an added facet faces away at most from the facet that the damage lies least deep under.
const tilted = 75.0

// coarse is the step, in degrees, in which angles are tried first.
const coarse = 5.0

// Adding reckons the ways that put facets on the stone, for one whose unit is so many mm. It returns ErrTooDeep as Ways does.
func (r *Returned) Adding(mmPerUnit float64, dials Dials) ([]Way, error) {
	c, err := r.recutter(mmPerUnit)
	if err != nil {
		return nil, err
	}
	return []Way{c.corners(), c.added(dials)}, nil
}

// with puts planes on the stone.
func (c *recutter) with(kind Kind, planes []solid.Plane) Way {
	w := Way{Kind: kind, Take: make([]float64, len(c.Stone.Facets))}
	for _, p := range planes {
		place, _ := c.Stone.FacetLike(p)
		w.Added = append(w.Added, cutting.Beside{Facet: place, Plane: p})
	}
	distances := make([]float64, len(c.Stone.Facets))
	for i, f := range c.Stone.Facets {
		distances[i] = f.Plane.D
	}
	if w.Stone, w.Err = c.stone(distances, w.Added...); w.Err != nil {
		return Way{Kind: kind, Err: w.Err}
	}
	w.Again = len(planes)
	for _, gap := range cutting.Gaps(c.Stone.Meets(), w.Stone.Solid()) {
		w.Gap = math.Max(w.Gap, gap)
	}
	return w
}

// corner is where the outline turns: between two girdle facets.
type corner struct {
	// turns is by how many degrees it does, sideways how the plane faces that cuts it off, out how far it reaches along that.
	turns    float64
	sideways r3.Vec
	out      float64
}

// corners cuts the corners off at which the outline turns as sharply as at the one that takes the damage out, all by the same.
func (c *recutter) corners() Way {
	if len(c.damages) == 0 {
		return c.with(Corners, nil)
	}
	list := c.outline()
	best := Way{Kind: Corners, Err: ErrNoCorner}
	for turns := range kinds(list) {
		var alike []corner
		for _, k := range list {
			if math.Abs(k.turns-turns) < 0.01 {
				alike = append(alike, k)
			}
		}
		by := 0.0
		for _, d := range c.damages {
			least := math.Inf(1)
			for _, k := range alike {
				least = math.Min(least, d.depth(solid.Plane{Normal: k.sideways, D: k.out}))
			}
			by = math.Max(by, least)
		}
		if by > c.eighth {
			continue
		}
		var planes []solid.Plane
		for _, k := range alike {
			planes = append(planes, solid.Plane{Normal: k.sideways, D: k.out - by})
		}
		if w := c.with(Corners, planes); errors.Is(best.Err, ErrNoCorner) || less(w, best) {
			best = w
		}
	}
	return best
}

func kinds(list []corner) map[float64]bool {
	out := map[float64]bool{}
	for _, k := range list {
		out[math.Round(k.turns*100)/100] = true
	}
	return out
}

// outline lists its corners.
func (c *recutter) outline() []corner {
	byEdge := map[[2]int]int{} // the girdle facet that an edge belongs to, by its ends in the order of the face
	for _, i := range c.on {
		if c.part(i) != diagram.Girdle {
			continue
		}
		loop := c.Stone.Solid().Face(i).Loop
		for k, v := range loop {
			byEdge[[2]int{v, loop[(k+1)%len(loop)]}] = i
		}
	}
	var out []corner
	for edge, i := range byEdge {
		k, shared := byEdge[[2]int{edge[1], edge[0]}]
		if !shared || i > k {
			continue
		}
		a, b := level(c.Stone.Facets[i].Plane.Normal), level(c.Stone.Facets[k].Plane.Normal)
		if turns := math.Acos(math.Min(1, r3.Dot(a, b))) * 180 / math.Pi; turns >= sharp && turns < 180 {
			sideways := r3.Unit(r3.Add(a, b))
			out = append(out, corner{turns, sideways, reach(c.Stone.Solid(), sideways)})
		}
	}
	return out
}

func level(n r3.Vec) r3.Vec { return r3.Unit(r3.Vec{X: n.X, Y: n.Y}) }

// added puts a facet over each damage that those before it left: at whole teeth and settable angles, where it loses least.
func (c *recutter) added(dials Dials) Way {
	var planes []solid.Plane
	now := c.Stone.Solid().Compact()
	for k, d := range c.damages {
		if slices.ContainsFunc(planes, func(p solid.Plane) bool { return d.depth(p) <= 0 }) {
			continue
		}
		p, ok := c.shield(d, dials)
		if !ok {
			return Way{Kind: Added, Err: ErrNoPlace}
		}
		after, outcome := now.Cut(len(c.Stone.Facets)+k, p)
		if outcome == solid.TookAll || outcome == solid.Failed {
			return Way{Kind: Added, Err: ErrNoStone}
		}
		now, planes = after, append(planes, p)
	}
	return c.with(Added, planes)
}

// shield is the plane that takes a damage out, leaves a girdle, and loses least of all that can be dialled and face otherwise than
// the stone's.
func (c *recutter) shield(d Damage, dials Dials) (solid.Plane, bool) {
	type tried struct {
		angle float64 // from the culet, 0, to the table, 180
		tooth int
		plane solid.Plane
		lost  float64
	}
	from := c.Stone.Solid()
	above := c.Stone.Facets[slices.MinFunc(c.on, func(a, b int) int {
		return cmp.Compare(d.depth(c.Stone.Facets[a].Plane), d.depth(c.Stone.Facets[b].Plane))
	})].Plane
	seen := map[[2]int]bool{}
	try := func(angle float64, tooth int) (tried, bool) {
		key := [2]int{int(math.Round(angle / dials.Step)), tooth}
		if seen[key] || angle <= 0 || angle >= 180 {
			return tried{}, false
		}
		seen[key] = true
		sin, cos := math.Sincos(angle * math.Pi / 180)
		x, y := math.Sincos(2 * math.Pi * float64(tooth) / float64(dials.Teeth))
		p := solid.Plane{Normal: r3.Vec{X: sin * x, Y: sin * y, Z: -cos}, D: math.Inf(1)}
		for _, q := range d.Points {
			p.D = math.Min(p.D, r3.Dot(p.Normal, q)-d.Clearance)
		}
		if r3.Dot(p.Normal, above.Normal) < math.Cos(tilted*math.Pi/180) || reach(c.Stone.Solid(), p.Normal)-p.D > c.eighth {
			return tried{}, false
		}
		for _, i := range c.on {
			if r3.Dot(c.Stone.Facets[i].Plane.Normal, p.Normal) > math.Cos(unlike*math.Pi/180) {
				return tried{}, false
			}
		}
		// Every cut leaves corners behind in a table that the solids share: each is made in one of its own.
		after, outcome := from.Compact().Cut(len(c.Stone.Facets), p)
		if outcome != solid.Made {
			return tried{}, false
		}
		return tried{angle, tooth, p, from.Volume() - after.Volume()}, true
	}
	var list []tried
	for tooth := range dials.Teeth {
		for angle := coarse; angle < 180; angle += coarse {
			if t, ok := try(math.Round(angle/dials.Step)*dials.Step, tooth); ok {
				list = append(list, t)
			}
		}
	}
	if len(list) == 0 {
		return solid.Plane{}, false
	}
	leastLost := func(a, b tried) int { return cmp.Compare(a.lost, b.lost) }
	slices.SortFunc(list, leastLost)
	for _, near := range list[:min(3, len(list))] {
		for tooth := near.tooth - 1; tooth <= near.tooth+1; tooth++ {
			for angle := near.angle - coarse; angle <= near.angle+coarse; angle += dials.Step {
				if t, ok := try(angle, (tooth+dials.Teeth)%dials.Teeth); ok {
					list = append(list, t)
				}
			}
		}
	}
	slices.SortFunc(list, leastLost)
	for _, t := range list {
		if w := c.with(Added, []solid.Plane{t.plane}); w.Err == nil && c.keepsGirdle(w) {
			return t.plane, true
		}
	}
	return solid.Plane{}, false
}

// AddedTiers gives a diagram the facets that a way put on its stone, as tiers that stand at a distance. They come
// last, so that all meets are found as before. Their names are the first that are free of X1, X2 and so on.
func AddedTiers(d *diagram.Diagram, added []cutting.Beside) *diagram.Diagram {
	out := *d
	out.Tiers = slices.Clone(d.Tiers)
	no := 0
	for _, plane := range added {
		tier, azimuth := tierOf(plane.Plane)
		index := gear.Normal(azimuth/360*float64(d.Gear), d.Gear)
		if gear.Circle(out.Azimuth(tier.Part, index)-azimuth) > 1e-6 {
			index = gear.Mirror(index, d.Gear)
		}
		like := slices.IndexFunc(out.Tiers, func(t diagram.Tier) bool {
			return d.TierNo(t.Name) < 0 && t.Part == tier.Part && math.Abs(t.Angle-tier.Angle) < 1e-6 && math.Abs(t.Stop.Distance-tier.Stop.Distance) < same
		})
		if like >= 0 {
			out.Tiers[like].Indexes = append(slices.Clone(out.Tiers[like].Indexes), index)
			continue
		}
		for tier.Name == "" || out.TierNo(tier.Name) >= 0 {
			no++
			tier.Name = fmt.Sprintf("X%d", no)
		}
		tier.Indexes = []float64{index}
		out.Tiers = append(out.Tiers, tier)
	}
	return &out
}

// tierOf is a tier with no index yet whose facet is a plane, with that one's azimuth in degrees.
func tierOf(p solid.Plane) (tier diagram.Tier, azimuth float64) {
	tier = diagram.Tier{Part: diagram.Girdle, Angle: 90, Stop: diagram.Stop{Kind: diagram.Depth, Distance: p.D}}
	if math.Abs(p.Normal.Z) > 1e-9 {
		tier.Part = diagram.Crown
		if p.Normal.Z < 0 {
			tier.Part = diagram.Pavilion
		}
		tier.Angle = math.Atan2(math.Hypot(p.Normal.X, p.Normal.Y), math.Abs(p.Normal.Z)) * 180 / math.Pi
		tier.Angle = math.Round(tier.Angle*1e9) / 1e9
	}
	return tier, gear.Circle(math.Atan2(p.Normal.X, p.Normal.Y) * 180 / math.Pi)
}
