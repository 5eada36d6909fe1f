// Package freehand cuts a stone without a diagram: setting by setting, each until something that the cutter sees, and
// makes a diagram of what came of it.
//
// A freehand stone is a diagram that grows. One design unit is the width of the rough; the diagram that is made at the
// end is in units of the finished stone's width.
package freehand

import (
	"context"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/solid"
)

// Setting is what is dialled for a cut: one facet, or several at one angle.
type Setting struct {
	// Up is the side that points out of the dop, pavilion or crown.
	Up diagram.Part
	// Angle is in degrees from 0 to 90; at 90 the girdle is cut, whichever side is up.
	Angle float64
	// Indexes are dialled ones, one at least.
	Indexes []float64
}

// Refusals of a cut.
const (
	// NothingToReach: the setting was told to stop at a meet that it does not come to.
	NothingToReach diagram.Code = "nothing-to-reach"
	// SizeNeedsFlat: only upright facets are cut to a size across, and level ones to a height.
	SizeNeedsFlat diagram.Code = "size-needs-flat"
	// PointOutside: a cut through that point takes nothing off, or all.
	PointOutside diagram.Code = "point-outside"
)

// Tier returns the tier that a setting adds to a diagram, without its stop. A name that is free is made from the part.
func (s Setting) Tier(d *diagram.Diagram) diagram.Tier {
	t := diagram.Tier{Part: s.Up, Angle: s.Angle, Indexes: slices.Clone(s.Indexes), Stop: diagram.Stop{Kind: diagram.Depth}}
	letter := map[diagram.Part]string{diagram.Pavilion: "P", diagram.Crown: "C"}[s.Up]
	switch {
	case s.Angle == 90:
		t.Part, letter = diagram.Girdle, "G"
		// Girdle tiers count the way of the first side, whichever is up.
		if s.Up != d.FirstSide {
			for i, index := range t.Indexes {
				t.Indexes[i] = gear.Mirror(index, d.Gear)
			}
		}
	case s.Angle == 0 && s.Up == diagram.Crown:
		letter = "T"
	}
	taken := func(name string) bool {
		return slices.ContainsFunc(d.Tiers, func(o diagram.Tier) bool { return o.Name == name })
	}
	for n := 1; t.Name == "" || taken(t.Name); n++ {
		t.Name = fmt.Sprintf("%s%d", letter, n)
		if letter == "T" && n == 1 {
			t.Name = letter
		}
	}
	return t
}

// begun returns the diagram as the setting finds it: the first cut says which side comes first.
func (s Setting) begun(d *diagram.Diagram) *diagram.Diagram {
	out := *d
	if len(d.Tiers) == 0 {
		out.FirstSide = s.Up
	}
	return &out
}

// Next returns where a cut can stop on the stone as it is; on the bare rough that is a centre point. It returns the Problem of a diagram that cannot be cut, and
// context.Canceled.
func Next(ctx context.Context, d *diagram.Diagram, s Setting) (*cutting.Pull, error) {
	with := s.begun(d)
	t := s.Tier(with)
	with.Tiers = append(slices.Clone(d.Tiers), t)
	p, err := cutting.PullTier(ctx, with, len(d.Tiers))
	if err == nil && len(d.Tiers) == 0 && t.Part != diagram.Girdle && t.Angle > 0 {
		p.Reaches = []cutting.Reach{{Stop: diagram.Stop{Kind: diagram.Centre}, Points: make([]r3.Vec, len(t.Indexes))}}
	}
	return p, err
}

// Until says where a cut stops. One of its fields counts: the first that is set.
type Until struct {
	// Meet is the stop of a meet or a centre point that is reached, as Pull tells it.
	Meet *diagram.Stop
	// Here is a point, seen on the stone, that the first facet to come to it passes through.
	Here *r3.Vec
	// Size is, in design units, across the stone from flat to flat for upright facets, and its whole height for level
	// ones.
	Size float64
}

// Stop returns the stop of a cut. It returns the refusals above as Problems.
func Stop(p *cutting.Pull, until Until) (diagram.Stop, error) {
	no := len(p.Before.Diagram.Tiers) - 1
	t := p.Before.Diagram.Tiers[no]
	refuse := func(code diagram.Code) (diagram.Stop, error) {
		return diagram.Stop{}, diagram.Problem{Code: code, Tier: t.Name, TierNo: no, Field: diagram.FieldStop}
	}
	switch {
	case until.Meet != nil:
		if !slices.ContainsFunc(p.Reaches, func(r cutting.Reach) bool { return r.Stop.String() == until.Meet.String() }) {
			return refuse(NothingToReach)
		}
		return *until.Meet, nil
	case until.Here != nil:
		steps, err := Drawn(p.Before)
		if err != nil {
			return diagram.Stop{}, err
		}
		now := steps[len(steps)-1].Solid
		// All facets of the setting stand at one distance: that at which the first of them comes to the point.
		distance, from, to := math.Inf(-1), math.Inf(-1), math.Inf(1)
		for _, index := range t.Indexes {
			n := diagram.Normal(t.Part, t.Angle, p.Before.Diagram.Azimuth(t.Part, index))
			distance = math.Max(distance, r3.Dot(n, *until.Here))
			for _, v := range now.Vertices() {
				at := r3.Dot(n, now.Point(v))
				from, to = math.Max(from, at), math.Min(to, at)
			}
		}
		if distance >= from || distance <= to {
			return refuse(PointOutside)
		}
		return p.StopAt(distance), nil
	case t.Part == diagram.Girdle:
		return diagram.Stop{Kind: diagram.Size, Radius: until.Size / 2}, nil
	case t.Angle == 0:
		// From the far end of the stone, or of its rough.
		end := p.Before.Solid().Bounds()
		if p.Before.Solid().ShowsBlock() {
			end = Rough(p.Before.Diagram.FirstSide).Bounds()
		}
		far := end.Min.Z
		if t.Part == diagram.Pavilion {
			far = -end.Max.Z
		}
		return diagram.Stop{Kind: diagram.Depth, Distance: far + until.Size}, nil
	}
	return refuse(SizeNeedsFlat)
}

// Add returns the diagram with a cut more. Where the cut is at the angle of the last tier and the same stop serves
// both, the facets join that tier. It returns the Problem of a cut that cannot be made.
func Add(d *diagram.Diagram, s Setting, stop diagram.Stop) (*diagram.Diagram, error) {
	alone := s.begun(d)
	t := s.Tier(alone)
	t.Stop = stop
	alone.Tiers = append(slices.Clone(d.Tiers), t)
	stone, err := cutting.UpTo(alone, len(alone.Tiers))
	if err != nil {
		return nil, err
	}
	if joined, ok := join(alone, stone); ok {
		return joined, nil
	}
	return alone, nil
}

// join puts the facets of the last tier into the one before, where that is the same stone.
func join(d *diagram.Diagram, stone *cutting.Stone) (*diagram.Diagram, bool) {
	n := len(d.Tiers)
	if n < 2 || d.Tiers[n-1].Part != d.Tiers[n-2].Part || d.Tiers[n-1].Angle != d.Tiers[n-2].Angle {
		return nil, false
	}
	last, before := d.Tiers[n-1], d.Tiers[n-2]
	for _, index := range last.Indexes {
		if slices.ContainsFunc(before.Indexes, func(o float64) bool { return gear.Same(index, o, d.Gear) }) {
			return nil, false
		}
	}
	for _, stop := range []diagram.Stop{before.Stop, last.Stop} {
		both := *d
		both.Tiers = slices.Clone(d.Tiers[:n-1])
		both.Tiers[n-2].Indexes = slices.Concat(before.Indexes, last.Indexes)
		both.Tiers[n-2].Stop = stop
		if again, err := cutting.UpTo(&both, n-1); err == nil && samePlanes(again, stone) {
			return &both, true
		}
	}
	return nil, false
}

// samePlanes tells whether two stones have the same planes in the same order.
func samePlanes(a, b *cutting.Stone) bool {
	return slices.EqualFunc(a.Facets, b.Facets, func(a, b cutting.Facet) bool {
		return r3.Norm(r3.Sub(a.Plane.Normal, b.Plane.Normal)) < cutting.Exactly && math.Abs(a.Plane.D-b.Plane.D) < cutting.Exactly
	})
}

// Rough returns what a freehand stone is drawn out of: a round prism, as wide and as high as one design unit, whose end
// is the first centre point. Its faces count as the block's.
func Rough(first diagram.Part) *solid.Solid {
	const (
		sides = 48
		// Below those of the block.
		firstID = -7
	)
	top, bottom := 1.0, 0.0
	if first == diagram.Crown {
		top, bottom = 0, -1
	}
	out := solid.Block(2)
	out, _ = out.Cut(firstID, solid.Plane{Normal: r3.Vec{Z: 1}, D: top})
	out, _ = out.Cut(firstID-1, solid.Plane{Normal: r3.Vec{Z: -1}, D: -bottom})
	for i := range sides {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / sides)
		out, _ = out.Cut(firstID-2-i, solid.Plane{Normal: r3.Vec{X: sin, Y: cos}, D: 0.5})
	}
	return out
}

// Drawn returns the steps of the picture: the rough, then the stone after each of its facets. Facets keep their places
// as the IDs of their faces. It returns a Problem, CutFailed or TakesAll, where the rough is too small for a cut.
func Drawn(s *cutting.Stone) ([]cutting.Step, error) {
	now := Rough(s.Diagram.FirstSide)
	solids, order := []*solid.Solid{now}, []int{}
	for i, f := range s.Facets {
		next, outcome := now.Cut(i, f.Plane)
		switch outcome {
		case solid.Failed:
			return nil, diagram.Problem{Code: cutting.CutFailed, Tier: s.Diagram.Tiers[f.Tier].Name, TierNo: f.Tier, Field: diagram.FieldStop}
		case solid.TookAll:
			return nil, diagram.Problem{Code: cutting.TakesAll, Tier: s.Diagram.Tiers[f.Tier].Name, TierNo: f.Tier, Field: diagram.FieldStop}
		}
		now = next
		solids, order = append(solids, now), append(order, i)
	}
	return cutting.Steps(solids, order), nil
}
