package cutting

import (
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
}

// mostReaches bounds what is offered; no tier has a use for more.
const mostReaches = 80

// PullTier finds where the cut of a tier can stop, in the order in which its first
// facet reaches the places as it is lowered. What comes after the tier in the
// diagram does not matter, nor does the tier's own stop. The error is that of an
// earlier tier which cannot be cut.
func PullTier(d *diagram.Diagram, tierNo int) (*Pull, error) {
	before, err := UpTo(d, tierNo)
	if err != nil {
		return nil, err
	}
	t := d.Tiers[tierNo]
	p := &Pull{
		Before: before, tierNo: tierNo, From: math.Inf(-1), To: math.Inf(1),
		Normal: diagram.Normal(t.Part, t.Angle, d.Azimuth(t.Part, t.Indexes[0])),
	}
	cut := before.Solid()
	depths := map[float64]bool{}
	var vertices []r3.Vec
	for _, v := range cut.Vertices() {
		at := cut.Point(v)
		depth := r3.Dot(p.Normal, at)
		p.From, p.To = math.Max(p.From, depth), math.Min(p.To, depth)
		if !cut.TouchesBlock(at) {
			vertices = append(vertices, at)
		}
	}
	const atOneDepth = 1e-7
	for _, v := range vertices {
		depth := r3.Dot(p.Normal, v)
		if depth > p.From-atOneDepth || depth < p.To+atOneDepth || depths[math.Round(depth/atOneDepth)] {
			continue
		}
		if r, ok := p.reach(v, depth); ok && p.leavesStone(r) {
			depths[math.Round(depth/atOneDepth)] = true
			p.Reaches = append(p.Reaches, r)
		}
	}
	slices.SortFunc(p.Reaches, func(a, b Reach) int { return int(math.Copysign(1, b.Distance-a.Distance)) })
	p.Reaches = p.Reaches[:min(len(p.Reaches), mostReaches)]
	return p, nil
}

// reach words a vertex as a stop: a centre point, or the facets that meet there,
// no more of them than it takes. It is false where no stop leads there, because a
// like meet lies farther out.
func (p *Pull) reach(v r3.Vec, depth float64) (Reach, bool) {
	t := p.Before.Diagram.Tiers[p.tierNo]
	const onAxis = 1e-9
	if t.Part != diagram.Girdle && math.Hypot(v.X, v.Y) < onAxis {
		if r, ok := p.try(diagram.Stop{Kind: diagram.Centre}, depth); ok {
			return r, true
		}
	}
	facets := facesAt(p.Before.Solid(), v)
	refs := make([]diagram.Ref, 0, len(facets))
	for _, f := range facets {
		if f >= 0 {
			refs = append(refs, diagram.Ref{Tier: p.Before.Diagram.Tiers[p.Before.Facets[f].Tier].Name})
		}
	}
	if len(refs) < 3 {
		return Reach{}, false
	}
	best, ok := p.try(diagram.Stop{Kind: diagram.Meet, Tiers: refs}, depth)
	if !ok {
		return p.reachNamed(facets, depth)
	}
	// A cutter names few facets: drop what the meet is found without, the later
	// ones first, but never a tier altogether.
	for i := len(refs) - 1; i >= 0 && len(refs) > 3; i-- {
		fewer := slices.Delete(slices.Clone(refs), i, i+1)
		if !slices.Contains(fewer, refs[i]) {
			continue
		}
		if r, ok := p.try(diagram.Stop{Kind: diagram.Meet, Tiers: fewer}, depth); ok {
			best, refs = r, fewer
		}
	}
	return best, true
}

// reachNamed names the facets by their indexes: the way to a meet that has a like
// one farther out, for a tier of one facet.
func (p *Pull) reachNamed(facets []int, depth float64) (Reach, bool) {
	if len(p.Before.Diagram.Tiers[p.tierNo].Indexes) > 1 {
		return Reach{}, false
	}
	var refs []diagram.Ref
	for _, f := range facets[:min(len(facets), 4)] {
		at := p.Before.Facets[f]
		refs = append(refs, diagram.Ref{Tier: p.Before.Diagram.Tiers[at.Tier].Name, Index: at.Index, OneFacet: true})
	}
	return p.try(diagram.Stop{Kind: diagram.Meet, Tiers: refs}, depth)
}

// try solves a stop and tells whether it puts the first facet at the depth.
func (p *Pull) try(stop diagram.Stop, depth float64) (Reach, bool) {
	d := *p.Before.Diagram
	t := d.Tiers[p.tierNo]
	t.Stop = stop
	find := finder{stone: p.Before, solid: p.Before.Solid(), tierNo: p.tierNo, tier: &t}
	r := Reach{Stop: stop, Distance: depth}
	for i, index := range t.Indexes {
		normal := diagram.Normal(t.Part, t.Angle, d.Azimuth(t.Part, index))
		point, _, err := find.target(normal)
		if err != nil || i == 0 && math.Abs(r3.Dot(normal, point)-depth) > 1e-8 {
			return Reach{}, false
		}
		r.Points = append(r.Points, point)
	}
	return r, true
}

// leavesStone tells whether anything is left once all facets of the tier are cut.
func (p *Pull) leavesStone(r Reach) bool {
	d := p.Before.Diagram
	t := d.Tiers[p.tierNo]
	now := p.Before.Solid()
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
		find := finder{stone: p.Before, solid: cut, tierNo: p.tierNo, tier: &t}
		if edge, err := find.girdle(0, p.Normal); err == nil {
			if thickness := fine((distance - r3.Dot(p.Normal, edge)) / math.Abs(p.Normal.Z)); thickness >= 0 {
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
