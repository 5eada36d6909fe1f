package mending

import (
	"context"
	"math"
	"slices"
	"strconv"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/solid"
	"cressa/core/work"
)

// SlipKind names what happened where a stone does not look like its diagram.
type SlipKind string

// The slips, as a stone is searched for them.
const (
	// WrongIndex: all indexes of a tier are off by some teeth.
	WrongIndex SlipKind = "index"
	// WrongSense: a tier was dialled in the other sense.
	WrongSense SlipKind = "sense"
	// Swapped: each of two tiers was cut with its own angle and distance at the indexes of the other.
	Swapped SlipKind = "swap"
	// WrongAngle: a tier's angle is off, or two digits of it were exchanged.
	WrongAngle SlipKind = "angle"
	// Missed: a tier was left out.
	Missed SlipKind = "missed"
	// WrongGear: a side was dialled on another gear.
	WrongGear SlipKind = "gear"
	// SideTurned: the second side was dialled in the other sense, or turned as a whole after the transfer.
	SideTurned SlipKind = "side"
)

// Slip is one thing that went wrong, and the stone that comes of it.
type Slip struct {
	Kind SlipKind
	// Tiers are the names of the tiers that it is about.
	Tiers []string
	// By is what was set less what was planned: teeth for an index and a turned side, degrees for an angle, the difference of
	// the gears; nil for all others.
	By *float64
	// Stone is what comes of it, its facets in the order of the plan's.
	Stone *cutting.Stone
}

// sameSolid is how near the corners of two stones lie that are one, in units of the diagram.
const sameSolid = 1e-6

// Slips lists what could have happened to a stone with one slip: those that are seen, and of those that give the same stone the
// first. Gears are those that someone owns. It returns the context's error when that ends it.
func Slips(ctx context.Context, plan *cutting.Stone, gears []int) ([]Slip, error) {
	s := slipper{plan: plan}
	all := s.all(gears)
	if err := work.Each(ctx, len(all), func() struct{} { return struct{}{} }, func(_ struct{}, i int) {
		all[i].Stone = s.cut(all[i].planes)
	}); err != nil {
		return nil, err
	}
	var out []Slip
	seen := []*solid.Solid{plan.Solid()}
	for _, t := range all {
		if t.Stone == nil || slices.ContainsFunc(seen, func(o *solid.Solid) bool { return alike(o, t.Stone.Solid()) }) {
			continue
		}
		seen, out = append(seen, t.Stone.Solid()), append(out, t.Slip)
	}
	return out, nil
}

// trial is a slip with the planes that it gives.
type trial struct {
	Slip
	planes []solid.Plane
}

type slipper struct{ plan *cutting.Stone }

// cut is the stone of a trial, nil where it does not close.
func (s *slipper) cut(planes []solid.Plane) *cutting.Stone {
	out, err := s.plan.Changed(planes)
	if err != nil || out.Solid().ShowsBlock() {
		return nil
	}
	return out
}

// alike tells whether two solids are one.
func alike(a, b *solid.Solid) bool {
	va, vb := a.Vertices(), b.Vertices()
	if len(va) != len(vb) || math.Abs(a.Volume()-b.Volume()) > 10*sameSolid {
		return false
	}
	for _, v := range va {
		if !slices.ContainsFunc(vb, func(w int) bool { return r3.Norm(r3.Sub(a.Point(v), b.Point(w))) < sameSolid }) {
			return false
		}
	}
	return true
}

// with is a trial in which the facets of some tiers lie otherwise.
func (s *slipper) with(kind SlipKind, by *float64, tiers []int, plane func(f cutting.Facet) solid.Plane) trial {
	t := trial{Slip: Slip{Kind: kind, By: by}}
	for _, no := range tiers {
		t.Tiers = append(t.Tiers, s.plan.Diagram.Tiers[no].Name)
	}
	for _, f := range s.plan.Facets {
		if slices.Contains(tiers, f.Tier) {
			t.planes = append(t.planes, plane(f))
		} else {
			t.planes = append(t.planes, f.Plane)
		}
	}
	return t
}

// at is a facet at another angle and dialled index, on a gear, at its own distance.
func (s *slipper) at(f cutting.Facet, angle, index float64, teeth int) solid.Plane {
	part := s.tier(f).Part
	azimuth := gear.Azimuth(index, teeth)
	if s.plan.Diagram.CutWith(part) == diagram.Pavilion {
		azimuth = -azimuth
	}
	return solid.Plane{Normal: diagram.Normal(part, angle, azimuth), D: f.Plane.D}
}

// indexed is a facet at another dialled index.
func (s *slipper) indexed(f cutting.Facet, index float64) solid.Plane {
	return s.at(f, s.tier(f).Angle, index, s.plan.Diagram.Gear)
}

// dialled is the index that a facet is dialled at.
func (s *slipper) dialled(f cutting.Facet) float64 {
	return s.plan.Dial(f, s.plan.Diagram.Gear, cutting.Turns{}).Index
}

func (s *slipper) tier(f cutting.Facet) diagram.Tier { return s.plan.Diagram.Tiers[f.Tier] }

// all lists all trials.
func (s *slipper) all(gears []int) []trial {
	d := s.plan.Diagram
	var out []trial
	add := func(t trial) { out = append(out, t) }
	nos := s.nos()
	for _, k := range []float64{1, -1, 2, -2, 3, -3} {
		for _, no := range nos {
			add(s.with(WrongIndex, &k, []int{no}, func(f cutting.Facet) solid.Plane { return s.indexed(f, s.dialled(f)+k) }))
		}
	}
	for _, no := range nos {
		add(s.with(WrongSense, nil, []int{no}, func(f cutting.Facet) solid.Plane { return s.indexed(f, -s.dialled(f)) }))
	}
	for i, a := range nos {
		for _, b := range nos[:i] {
			if d.Tiers[a].Part == d.Tiers[b].Part {
				add(s.swapped(b, a))
			}
		}
	}
	for _, no := range nos {
		for _, by := range wrongAngles(d.Tiers[no].Angle) {
			add(s.with(WrongAngle, &by, []int{no}, func(f cutting.Facet) solid.Plane { return s.tilted(f, by) }))
		}
	}
	for _, no := range nos {
		add(s.with(Missed, nil, []int{no}, func(f cutting.Facet) solid.Plane { return solid.Plane{Normal: f.Plane.Normal, D: math.Inf(1)} }))
	}
	for _, side := range []diagram.Part{diagram.Pavilion, diagram.Crown} {
		tiers := s.ofSide(side)
		for _, g := range gears {
			if t, ok := s.onGear(tiers, g); ok {
				add(t)
			}
		}
	}
	return append(out, s.turned()...)
}

// nos lists the places of the tiers that are cut.
func (s *slipper) nos() []int {
	var out []int
	for _, f := range s.plan.Facets {
		if len(out) == 0 || out[len(out)-1] != f.Tier {
			out = append(out, f.Tier)
		}
	}
	return out
}

func (s *slipper) ofSide(side diagram.Part) []int {
	return slices.DeleteFunc(s.nos(), func(no int) bool { return s.plan.Diagram.CutWith(s.plan.Diagram.Tiers[no].Part) != side })
}

// swapped cuts each of two tiers with its own angle and the distance of its first facet at the indexes of the other.
func (s *slipper) swapped(a, b int) trial {
	first := map[int]float64{}
	for _, f := range slices.Backward(s.plan.Facets) {
		first[f.Tier] = f.Plane.D
	}
	return s.with(Swapped, nil, []int{a, b}, func(f cutting.Facet) solid.Plane {
		other := a + b - f.Tier
		p := s.at(f, s.plan.Diagram.Tiers[other].Angle, s.dialled(f), s.plan.Diagram.Gear)
		p.D = first[other]
		return p
	})
}

// tilted is a facet at an angle that is off by some degrees, through the point of its stop; for a size that is the middle of the
// facet.
func (s *slipper) tilted(f cutting.Facet, by float64) solid.Plane {
	through := f.Target
	if s.tier(f).Stop.Kind == diagram.Size {
		if face := s.plan.Solid().Face(s.place(f)); face != nil {
			through = s.plan.Solid().Middle(face)
		}
	}
	return solid.Through(s.at(f, s.tier(f).Angle+by, s.dialled(f), s.plan.Diagram.Gear).Normal, through)
}

// place is where a facet stands among the plan's.
func (s *slipper) place(f cutting.Facet) int {
	return slices.IndexFunc(s.plan.Facets, func(o cutting.Facet) bool { return o.Tier == f.Tier && o.Place == f.Place })
}

// wrongAngles are by how many degrees an angle is taken wrong: by 1, 5 or 10, or by two neighbouring digits that are exchanged.
func wrongAngles(angle float64) []float64 {
	text := strconv.FormatFloat(math.Round(angle*100)/100, 'f', -1, 64)
	out := []float64{1, -1, 5, -5, 10, -10}
	digits := strings.ReplaceAll(text, ".", "")
	point := len(digits)
	if at := strings.IndexByte(text, '.'); at >= 0 {
		point = at
	}
	for i := range len(digits) - 1 {
		other := []byte(digits)
		other[i], other[i+1] = other[i+1], other[i]
		whole, _ := strconv.ParseFloat(string(other[:point])+"."+string(other[point:])+"0", 64)
		out = append(out, math.Round((whole-angle)*1e9)/1e9)
	}
	var seen []float64
	for _, by := range out {
		if by != 0 && angle+by >= 0 && angle+by <= 90 && !slices.Contains(seen, by) {
			seen = append(seen, by)
		}
	}
	return seen
}

// onGear dials tiers at the same numbers on another gear; false where that is the diagram's, or has fewer teeth than a number.
func (s *slipper) onGear(tiers []int, teeth int) (trial, bool) {
	d := s.plan.Diagram
	if teeth == d.Gear {
		return trial{}, false
	}
	for _, f := range s.plan.Facets {
		if slices.Contains(tiers, f.Tier) && s.dialled(f) > float64(teeth) {
			return trial{}, false
		}
	}
	by := float64(teeth - d.Gear)
	return s.with(WrongGear, &by, tiers, func(f cutting.Facet) solid.Plane {
		return s.at(f, s.tier(f).Angle, s.dialled(f), teeth)
	}), true
}

// turned dials the second side in the other sense, or turned as a whole.
func (s *slipper) turned() []trial {
	d := s.plan.Diagram
	tiers := s.ofSide(d.FirstSide.Other())
	if len(tiers) == 0 {
		return nil
	}
	out := []trial{s.with(SideTurned, nil, tiers, func(f cutting.Facet) solid.Plane { return s.indexed(f, -s.dialled(f)) })}
	by := []float64{1, -1, 2, -2, 3, -3}
	for _, part := range []int{4, 3, 2} {
		if d.Gear%part == 0 {
			by = append(by, float64(d.Gear/part))
		}
	}
	for _, k := range by {
		out = append(out, s.with(SideTurned, &k, tiers, func(f cutting.Facet) solid.Plane { return s.indexed(f, s.dialled(f)+k) }))
	}
	return out
}
