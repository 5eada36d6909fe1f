package mending

import (
	"cmp"
	"errors"
	"maps"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/solid"
)

// Damage is a place of a finished stone that has to go: the deepest points of a chip, the two ends of an abraded edge. It is
// gone when all its points lie at least Clearance outside of one and the same plane.
type Damage struct {
	Points    []r3.Vec
	Clearance float64
}

// The ways to recut a stone that comes back.
const (
	// OneFacet lowers, for each damage, one facet.
	OneFacet Kind = "facet"
	// Flank moves all facets at one azimuth in.
	Flank Kind = "flank"
	// Round moves the outline in all round.
	Round Kind = "round"
)

// Reasons why a stone cannot be recut in a way.
var (
	// ErrTooDeep: a damage lies deeper than an eighth of the width under every facet.
	ErrTooDeep = errors.New("the damage lies deeper than an eighth of the width under every facet")
	// ErrProtected: it would need a facet that is protected.
	ErrProtected = errors.New("it needs a facet that is protected")
	// ErrNoFlank: at no azimuth there are facets of crown, girdle and pavilion.
	ErrNoFlank = errors.New("at no azimuth there are facets of crown, girdle and pavilion")
)

// Returned is a finished stone that came back damaged.
type Returned struct {
	// Stone is as it is, all facets cut.
	Stone   *cutting.Stone
	Damages []Damage
	// Protected tells, in the order of the stone's facets, which must not be touched.
	Protected []bool
}

// depth is by how much a damage lies under a plane: how far the plane has to move in until it is gone. At or below 0 it is
// gone already.
func (d Damage) depth(p solid.Plane) float64 {
	out := math.Inf(-1)
	for _, q := range d.Points {
		out = math.Max(out, d.Clearance-p.Above(q))
	}
	return out
}

// recutter holds what all ways need: damages that are not gone already.
type recutter struct {
	*Returned
	*mender
	damages []Damage
	// on are the places of the facets that the stone has.
	on []int
	// eighth is the deepest that a damage can lie.
	eighth float64
}

// Ways reckons the ways that need no search, for a stone whose unit is so many mm. It returns ErrTooDeep for a damage that
// no recut takes out.
func (r *Returned) Ways(mmPerUnit float64) ([]Way, error) {
	c, err := r.recutter(mmPerUnit)
	if err != nil {
		return nil, err
	}
	return []Way{c.facet(), c.flank(), c.round(), c.bySide()}, nil
}

func (r *Returned) recutter(mmPerUnit float64) (*recutter, error) {
	s := &Standing{Plan: r.Stone}
	for _, f := range r.Stone.Facets {
		s.Cut, s.Most = append(s.Cut, f.Plane.D), append(s.Most, math.Inf(1))
	}
	c := &recutter{Returned: r, mender: newMender(s, mmPerUnit), eighth: r.Stone.Measures().Width / 8}
	for i := range r.Stone.Facets {
		if r.Stone.Solid().Face(i) != nil {
			c.on = append(c.on, i)
		}
	}
	for _, d := range r.Damages {
		least := math.Inf(1)
		for _, i := range c.on {
			least = math.Min(least, d.depth(r.Stone.Facets[i].Plane))
		}
		switch {
		case least > c.eighth:
			return nil, ErrTooDeep
		case least > 0:
			c.damages = append(c.damages, d)
		}
	}
	return c, nil
}

// in moves planes in by so much times a share of their own, and gives the way.
func (c *recutter) in(kind Kind, by float64, share func(i int) float64) Way {
	distances := make([]float64, len(c.Stone.Facets))
	for i, f := range c.Stone.Facets {
		distances[i] = f.Plane.D
		s := share(i)
		if s > 0 && by*s > same {
			distances[i] -= by * s
			if c.protected(i) {
				return Way{Kind: kind, Err: ErrProtected}
			}
		}
	}
	return c.to(kind, distances)
}

func (c *recutter) protected(i int) bool { return c.Protected != nil && c.Protected[i] }

// needed is by how much planes have to move in, each by a share of it, until every damage lies outside of one of them; +Inf
// where none reaches it.
func (c *recutter) needed(share func(i int) float64) float64 {
	out := 0.0
	for _, d := range c.damages {
		least := math.Inf(1)
		for _, i := range c.on {
			if s := share(i); s > 0 {
				least = math.Min(least, d.depth(c.Stone.Facets[i].Plane)/s)
			}
		}
		out = math.Max(out, least)
	}
	return out
}

// sine is by how much a facet moves along its normal when the outline moves in by 1.
func (c *recutter) sine(i int) float64 {
	n := c.Stone.Facets[i].Plane.Normal
	if s := math.Hypot(n.X, n.Y); s > same {
		return s
	}
	return 0
}

// less tells which of two ways loses less; one that cannot be gone loses most.
func less(a, b Way) bool {
	switch {
	case a.Err != nil:
		return false
	case b.Err != nil:
		return true
	}
	return a.Stone.Solid().Volume() > b.Stone.Solid().Volume()+1e-12
}

// flank moves in the facets at the azimuth that loses least.
func (c *recutter) flank() Way {
	best := Way{Kind: Flank, Err: ErrNoFlank}
	seen := map[int]bool{}
	for _, i := range c.on {
		azimuth := c.Stone.Facets[i].Azimuth
		at := func(k int) bool {
			off := math.Abs(c.Stone.Facets[k].Azimuth - azimuth)
			return math.Min(off, 360-off) < 0.01
		}
		parts := map[diagram.Part]bool{}
		for _, k := range c.on {
			if c.sine(k) > 0 && at(k) {
				parts[c.part(k)] = true
			}
		}
		key := int(math.Round(azimuth * 100))
		if len(parts) < 3 || seen[key] {
			continue
		}
		seen[key] = true
		share := func(k int) float64 {
			if at(k) {
				return c.sine(k)
			}
			return 0
		}
		if w := c.in(Flank, c.needed(share), share); errors.Is(best.Err, ErrNoFlank) || less(w, best) {
			best = w
		}
	}
	return best
}

// round moves the outline in all round.
func (c *recutter) round() Way { return c.in(Round, c.needed(c.sine), c.sine) }

// bySide moves the side in that loses least.
func (c *recutter) bySide() Way {
	var best Way
	for _, side := range []diagram.Part{diagram.Crown, diagram.Pavilion} {
		share := func(i int) float64 {
			if c.part(i) != side {
				return 0
			}
			return math.Abs(c.Stone.Facets[i].Plane.Normal.Z)
		}
		by := c.needed(share)
		w := c.in(Side, by, share)
		if w.Err == nil && !c.keepsGirdle(w) {
			w = Way{Kind: Side, Err: ErrNoGirdle}
		}
		if w.Err == nil {
			shift := r3.Vec{Z: -by}
			if side == diagram.Pavilion {
				shift.Z = by
			}
			w.Shift = &shift
		}
		if best.Kind == "" || less(w, best) {
			best = w
		}
	}
	return best
}

// lowered is a choice of facets that are lowered, with what is left of the stone.
type lowered struct {
	solid  *solid.Solid
	volume float64
	by     map[int]float64
}

// facet lowers one facet for each damage: those that together lose least.
func (c *recutter) facet() Way {
	choices := make([][]lowered, len(c.damages))
	for k, d := range c.damages {
		if choices[k] = c.alone(d); len(choices[k]) == 0 {
			return Way{Kind: OneFacet, Err: ErrProtected}
		}
	}
	now := lowered{c.Stone.Solid().Compact(), c.Stone.Solid().Volume(), map[int]float64{}}
	var best lowered
	c.lower(now, choices, &best)
	return c.in(OneFacet, 1, func(i int) float64 { return best.by[i] })
}

// alone lists the facets that take out one damage, those that lose least first.
func (c *recutter) alone(d Damage) []lowered {
	var out []lowered
	for _, i := range c.on {
		by := d.depth(c.Stone.Facets[i].Plane)
		if c.protected(i) || by > c.eighth {
			continue
		}
		if l, ok := c.lowering(lowered{solid: c.Stone.Solid().Compact()}, i, by); ok {
			out = append(out, l)
		}
	}
	slices.SortStableFunc(out, func(a, b lowered) int { return cmp.Compare(b.volume, a.volume) })
	return out
}

// lowering lowers one more facet.
func (c *recutter) lowering(from lowered, facet int, by float64) (lowered, bool) {
	p := c.Stone.Facets[facet].Plane
	p.D -= math.Max(by, from.by[facet])
	after, outcome := from.solid.Cut(len(c.Stone.Facets)+facet, p)
	if outcome == solid.TookAll || outcome == solid.Failed {
		return from, false
	}
	all := maps.Clone(from.by)
	if all == nil {
		all = map[int]float64{}
	}
	all[facet] = math.Max(by, all[facet])
	return lowered{after, after.Volume(), all}, true
}

// lower takes out one damage after another, each by every facet that does, and keeps what leaves most. A choice that leaves no
// more than the best is left at once: what follows only takes.
func (c *recutter) lower(now lowered, choices [][]lowered, best *lowered) {
	if len(choices) == 0 {
		if now.volume > best.volume {
			*best = now
		}
		return
	}
	for _, choice := range choices[0] {
		if choice.volume <= best.volume {
			return
		}
		for facet, by := range choice.by {
			if next, ok := c.lowering(now, facet, by); ok && next.volume > best.volume {
				c.lower(next, choices[1:], best)
			}
		}
	}
}
