package cutting

import (
	"cmp"
	"context"
	"errors"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/solid"
)

// Reach is a place at which the cut of a tier can stop: a meet on the stone as it
// stands before the tier.
type Reach struct {
	// Stop is how the diagram would write it.
	Stop diagram.Stop
	// Distance is how far the plane of the tier's first facet then stands from the
	// origin.
	Distance float64
	// Points are where the facets of the tier stop, in the order of its indexes.
	Points []r3.Vec
}

// Pull is a tier being lowered into the stone as it stands before it.
type Pull struct {
	// Before is the stone without the tier.
	Before *Stone
	tierNo int
	// Normal is that of the tier's first facet. From is the distance at which its
	// plane touches the stone, To the one at which nothing would be left.
	Normal   r3.Vec
	From, To float64
	// Reaches are in the order in which the plane comes to them: From first.
	Reaches []Reach
	find    *finder
}

// mostReaches bounds what is offered; no tier has a use for more.
const mostReaches = 80

// PullTier finds where the cut of a tier can stop, in the order in which its first
// facet reaches the places as it is lowered. What comes after the tier in the
// diagram does not matter, nor does the tier's own stop. The error is that of an
// earlier tier which cannot be cut, or context.Canceled.
func PullTier(ctx context.Context, d *diagram.Diagram, tierNo int) (*Pull, error) {
	before, err := UpTo(d, tierNo)
	if err != nil {
		return nil, err
	}
	return pull(ctx, before, tierNo)
}

// abandoned tells that nobody waits for an answer any more; a search that is only late goes on with
// what it has.
func abandoned(ctx context.Context) bool { return errors.Is(ctx.Err(), context.Canceled) }

func pull(ctx context.Context, before *Stone, tierNo int) (*Pull, error) {
	d := before.Diagram
	t := d.Tiers[tierNo]
	p := &Pull{
		Before: before, tierNo: tierNo, From: math.Inf(-1), To: math.Inf(1),
		Normal: diagram.Normal(t.Part, t.Angle, d.Azimuth(t.Part, t.Indexes[0])),
		find:   &finder{stone: before, solid: before.Solid(), tierNo: tierNo, tier: &t},
	}
	for _, c := range p.find.vertices() {
		depth := r3.Dot(p.Normal, c.point)
		p.From, p.To = math.Max(p.From, depth), math.Min(p.To, depth)
	}
	const atOneDepth = 1e-7
	depths := map[float64]bool{}
	for _, c := range p.find.vertices() {
		if abandoned(ctx) {
			return nil, ctx.Err()
		}
		depth := r3.Dot(p.Normal, c.point)
		if c.block || depth > p.From-atOneDepth || depth < p.To+atOneDepth || depths[math.Round(depth/atOneDepth)] {
			continue
		}
		if r, ok := p.reach(c, depth); ok && p.leavesStone(r) {
			depths[math.Round(depth/atOneDepth)] = true
			p.Reaches = append(p.Reaches, r)
		}
	}
	slices.SortFunc(p.Reaches, func(a, b Reach) int { return cmp.Compare(b.Distance, a.Distance) })
	p.Reaches = p.Reaches[:min(len(p.Reaches), mostReaches)]
	return p, nil
}

// reach words a vertex as a stop: a centre point, or the facets that meet there. It
// is false where no stop leads there, because a like meet lies farther out.
func (p *Pull) reach(c corner, depth float64) (Reach, bool) {
	r := Reach{Distance: depth}
	fits := func(stop diagram.Stop) bool {
		points, err := p.find.points(stop)
		if err != nil || math.Abs(r3.Dot(p.Normal, points[0])-depth) > 1e-8 {
			return false
		}
		r.Stop, r.Points = stop, points
		return true
	}
	if p.find.tier.Part != diagram.Girdle && onAxis(c.point) && fits(diagram.Stop{Kind: diagram.Centre}) {
		return r, true
	}
	_, ok := p.find.meetStop(c, fits)
	return r, ok
}

// leavesStone tells whether anything is left once all facets of the tier are cut.
func (p *Pull) leavesStone(r Reach) bool {
	d := p.Before.Diagram
	t := d.Tiers[p.tierNo]
	now := p.Before.Solid().Compact()
	for i, index := range t.Indexes {
		normal := diagram.Normal(t.Part, t.Angle, d.Azimuth(t.Part, index))
		after, outcome := now.Cut(len(p.Before.Facets)+i, solid.Through(normal, r.Points[i]))
		if outcome == solid.TookAll {
			return false
		}
		now = after
	}
	return true
}

// StopAt returns the stop that leaves the tier's first facet at a distance from
// the origin where no meet lies: a size for an upright girdle tier, a share of the
// width for a table, a girdle thickness for the first tier of the second side, a
// depth for the rest. Figures are rounded to a ten-thousandth, far finer than a
// hand can hold a plane on the screen.
func (p *Pull) StopAt(distance float64) diagram.Stop {
	d, t := p.Before.Diagram, p.Before.Diagram.Tiers[p.tierNo]
	fine := func(v float64) float64 { return math.Round(v*1e4) / 1e4 }
	cut := p.Before.Solid()
	switch {
	case t.Part == diagram.Girdle && t.Angle == 90 && fine(distance) > 0:
		return diagram.Stop{Kind: diagram.Size, Radius: fine(distance)}
	case t.Part == diagram.Crown && t.Angle == 0 && len(t.Indexes) == 1:
		x, y := cut.Extents(distance)
		size := cut.Bounds().Size()
		ratio := fine(math.Min(x, y) / math.Min(size.X, size.Y))
		if z, ok := cut.HeightOfWidth(ratio * math.Min(size.X, size.Y)); ok && ratio > 0 && ratio < 1 && math.Abs(z-distance) < 1e-3 {
			return diagram.Stop{Kind: diagram.Width, Ratio: ratio}
		}
	case t.Part == d.FirstSide.Other() && p.firstOfItsPart():
		if edge, err := p.find.girdle(0, p.Normal); err == nil {
			if thickness := fine((distance - r3.Dot(p.Normal, edge[0])) / math.Abs(p.Normal.Z)); thickness >= 0 {
				return diagram.Stop{Kind: diagram.GirdleBand, Thickness: thickness}
			}
		}
	}
	return diagram.Stop{Kind: diagram.Depth, Distance: fine(distance)}
}

func (p *Pull) firstOfItsPart() bool {
	tiers := p.Before.Diagram.Tiers
	return !slices.ContainsFunc(tiers[:p.tierNo], func(t diagram.Tier) bool { return t.Part == tiers[p.tierNo].Part })
}

// ShareOfEdge returns the stop at a share of the way, 0 to 1, down an edge of the stone as it
// stands before a tier: of the edges between two facets of the side's last tier the longest, from
// its outer end to its inner one as the tier's first facet comes in. It is false where there is
// none, or where no meets name its ends.
func ShareOfEdge(d *diagram.Diagram, tierNo int, share float64) (diagram.Stop, bool) {
	before, err := UpTo(d, tierNo)
	if err != nil {
		return diagram.Stop{}, false
	}
	t := d.Tiers[tierNo]
	last := -1
	for no := range d.Tiers[:tierNo] {
		if d.Tiers[no].Part == t.Part {
			last = no
		}
	}
	find := &finder{stone: before, solid: before.Solid(), tierNo: tierNo, tier: &t}
	normal := diagram.Normal(t.Part, t.Angle, d.Azimuth(t.Part, t.Indexes[0]))
	corners := map[int]corner{}
	for i, v := range before.Solid().Vertices() {
		corners[v] = find.vertices()[i]
	}
	ofLast := func(c corner) int {
		n := 0
		for _, i := range c.facets {
			if before.Facets[i].Tier == last {
				n++
			}
		}
		return n
	}
	longest, stop := 0.0, diagram.Stop{}
	for _, f := range before.Solid().Faces() {
		if f.OfBlock() || before.Facets[f.ID].Tier != last {
			continue
		}
		for i, v := range f.Loop {
			outer, inner := corners[v], corners[f.Loop[(i+1)%len(f.Loop)]]
			if r3.Dot(normal, outer.point) < r3.Dot(normal, inner.point) {
				outer, inner = inner, outer
			}
			length := r3.Norm(r3.Sub(outer.point, inner.point))
			if outer.block || inner.block || ofLast(outer) < 2 || ofLast(inner) < 2 || length <= longest+solid.AtMeet {
				continue
			}
			try := diagram.Stop{Kind: diagram.Along, From: find.tiersAt(outer), To: find.tiersAt(inner), At: share}
			if _, err := find.points(try); err == nil {
				longest, stop = length, try
			}
		}
	}
	return stop, longest > 0
}
