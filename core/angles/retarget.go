// Package angles moves the angles of a diagram: to another refractive index, and to
// what a machine can read, with the stops solved again and every meet held against
// what it was.
package angles

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/core/solid"
)

// Target is what the angles are to suit.
type Target struct {
	// RefractiveIndex is over 1, up to 4.
	RefractiveIndex float64
	// Margin is that of the shallowest pavilion tier above the critical angle, in
	// degrees; nil keeps its own, at least LeastMargin.
	Margin *float64
	// CrownFactor stretches the crown along the axis; 1 leaves its angles.
	CrownFactor float64
	// CrownWithPavilion stretches the crown as far as the pavilion instead.
	CrownWithPavilion bool
}

// LeastMargin is the least margin in degrees that is chosen without being asked.
const LeastMargin = 1

// Retargeted is a diagram at other angles.
type Retargeted struct {
	Stone *cutting.Stone
	// Margin is what the shallowest pavilion tier has now, Lead its place.
	Margin float64
	Lead   int
	// PavilionFactor and CrownFactor are how far each side was stretched.
	PavilionFactor, CrownFactor float64
	// Errors holds every meet of the old stone against the new one.
	Errors []cutting.MeetError
	// Wave is the height of the girdle's waves, Parting by about how much the sides
	// part there, in design units; 0 on a level girdle and with equal factors.
	Wave, Parting float64
	// Leaning lists the places of girdle tiers that do not stand upright. They keep
	// their angles, and their meets do not hold.
	Leaning []int
}

// Why angles cannot be moved.
const (
	// NoPavilion: no pavilion tier is left in the stone whose margin could be chosen.
	NoPavilion diagram.Code = "no-pavilion"
	// OutOfTarget: refractive index or margin lead to no angle. Value is the angle
	// asked for in degrees.
	OutOfTarget diagram.Code = "out-of-target"
)

// OwnMargin is what a tier keeps in degrees where no margin is chosen: its own, at least
// LeastMargin.
func OwnMargin(d *diagram.Diagram, tier int) float64 {
	return math.Max(d.Tiers[tier].Angle-material.CriticalAngle(d.RefractiveIndex), LeastMargin)
}

// Retarget stretches each side of a stone along its axis so that the shallowest
// pavilion tier comes to stand at the wanted margin: tan t′ = k·tan t. That breaks no
// meet of a side, and none at a level, upright girdle; outline, indexes and the table's
// share of the width stay. The error is a Problem.
func Retarget(s *cutting.Stone, to Target) (*Retargeted, error) {
	lead := Shallowest(s)
	if lead < 0 {
		return nil, diagram.Problem{Code: NoPavilion, TierNo: -1}
	}
	d := s.Diagram
	was := d.Tiers[lead].Angle
	margin := OwnMargin(d, lead)
	if to.Margin != nil {
		margin = *to.Margin
	}
	angle := material.CriticalAngle(to.RefractiveIndex) + margin
	if !(angle > 0 && angle < 90 && (to.CrownFactor > 0 || to.CrownWithPavilion)) {
		return nil, diagram.Problem{Code: OutOfTarget, TierNo: -1, Field: diagram.FieldRefractiveIndex, Value: angle}
	}
	out := &Retargeted{Margin: margin, Lead: lead, CrownFactor: to.CrownFactor, PavilionFactor: tan(angle) / tan(was)}
	if to.CrownWithPavilion {
		out.CrownFactor = out.PavilionFactor
	}
	edge := edgeOf(s)
	var moved *diagram.Diagram
	moved, out.Leaning = stretch(s, edge, out.PavilionFactor, out.CrownFactor)
	moved.RefractiveIndex = to.RefractiveIndex
	var err error
	if out.Stone, err = cutting.Cut(moved); err != nil {
		return nil, err
	}
	if out.Errors, err = s.MeetErrors(out.Stone.Planes()); err != nil {
		return nil, err
	}
	out.Wave = edge.wave
	out.Parting = math.Abs(out.PavilionFactor-out.CrownFactor) * edge.wave * math.Cos(edge.slope*math.Pi/180)
	return out, nil
}

// Stretch returns the diagram of a stone with each side stretched along its axis by a
// factor over 0, as Retarget does; its stops have still to be solved.
func Stretch(s *cutting.Stone, pavilion, crown float64) *diagram.Diagram {
	moved, _ := stretch(s, edgeOf(s), pavilion, crown)
	return moved
}

// stretch also returns the places of girdle tiers that do not stand upright.
func stretch(s *cutting.Stone, edge edge, pavilion, crown float64) (moved *diagram.Diagram, leaning []int) {
	d := s.Diagram
	factor := map[diagram.Part]float64{diagram.Pavilion: pavilion, diagram.Crown: crown}
	out := *d
	out.Tiers = slices.Clone(d.Tiers)
	for i := range out.Tiers {
		t := &out.Tiers[i]
		switch t.Part {
		case diagram.Girdle:
			if t.Angle != 90 {
				leaning = append(leaning, i)
			}
		case d.FirstSide:
			*t = stretched(*t, factor[t.Part], 0)
		default:
			k := factor[t.Part]
			// The second side stands on the girdle, which the first has moved.
			shift := factor[d.FirstSide]*edge.first + (edge.second - edge.first) - k*edge.second
			*t = stretched(*t, k, shift)
		}
	}
	return &out, leaning
}

// What is worth knowing of a retargeted diagram.
const (
	// SidesPart: on a wavy girdle the sides part by about Value, as a share of the width.
	SidesPart diagram.Code = "sides-part"
	// GirdleLeans: a girdle tier does not stand upright and keeps its angle; Value is
	// that angle.
	GirdleLeans diagram.Code = "girdle-leans"
	// OptionalLeaks: an optional tier stands below the critical angle, by Value degrees.
	OptionalLeaks diagram.Code = "optional-leaks"
)

// Warnings lists what the cutter of the new stone should know.
func (r *Retargeted) Warnings() []diagram.Problem {
	var out []diagram.Problem
	if r.Parting > 0 {
		out = append(out, diagram.Problem{
			Code: SidesPart, TierNo: -1, Value: r.Parting / r.Stone.Measures().Width,
		})
	}
	d := r.Stone.Diagram
	for _, no := range r.Leaning {
		out = append(out, diagram.Problem{Code: GirdleLeans, Tier: d.Tiers[no].Name, TierNo: no, Field: diagram.FieldAngle, Value: d.Tiers[no].Angle})
	}
	return append(out, LeakingOptionals(d, d.RefractiveIndex)...)
}

// LeakingOptionals points out optional pavilion tiers below the critical angle of a
// material: there they open a window and are better left off.
func LeakingOptionals(d *diagram.Diagram, refractiveIndex float64) []diagram.Problem {
	var out []diagram.Problem
	critical := material.CriticalAngle(refractiveIndex)
	for no, t := range d.Tiers {
		if t.Optional && t.Part == diagram.Pavilion && t.Angle > 0 && t.Angle < critical {
			out = append(out, diagram.Problem{
				Code: OptionalLeaks, Tier: t.Name, TierNo: no, Field: diagram.FieldAngle, Value: critical - t.Angle,
			})
		}
	}
	return out
}

func tan(degrees float64) float64 { return math.Tan(degrees * math.Pi / 180) }

// Shallowest returns the place of the pavilion tier at the lowest angle over 0 that has
// facets on the finished stone and is not optional, -1 without one.
func Shallowest(s *cutting.Stone) int { return ShallowestOf(s, diagram.Pavilion) }

// ShallowestOf is Shallowest for the tiers of a part.
func ShallowestOf(s *cutting.Stone, part diagram.Part) int {
	best := -1
	for _, f := range s.Solid().Faces() {
		if f.OfBlock() {
			continue
		}
		no := s.Facets[f.ID].Tier
		t := s.Diagram.Tiers[no]
		if t.Part == part && t.Angle > 0 && !t.Optional && (best < 0 || t.Angle < s.Diagram.Tiers[best].Angle) {
			best = no
		}
	}
	return best
}

// stretched returns a tier of a side that is stretched by k along the axis and then
// moved by shift.
func stretched(t diagram.Tier, k, shift float64) diagram.Tier {
	was := t.Angle
	if was > 0 {
		t.Angle = math.Atan(k*tan(was)) * 180 / math.Pi
	}
	sin, cos := math.Sincos(was * math.Pi / 180)
	switch t.Stop.Kind {
	case diagram.Centre:
		t.Stop.Drop *= k
	case diagram.Size:
		t.Stop.Radius *= math.Sin(t.Angle*math.Pi/180) / sin
	case diagram.Depth:
		rise := diagram.Normal(t.Part, was, 0).Z
		t.Stop.Distance = (t.Stop.Distance + rise*shift/k) / math.Sqrt(sin*sin+cos*cos/(k*k))
	}
	return t
}

// edge is where the girdle, or where there is none one side, meets the others: heights
// of the first side's edge and the second's where they are nearest, how far the first
// side's runs up and down, and the slope of the second side there.
type edge struct{ first, second, wave, slope float64 }

func edgeOf(s *cutting.Stone) edge {
	var first, second []r3.Vec
	out := edge{}
	for _, c := range s.Solid().Corners() {
		p := s.Solid().Point(c.Vertex)
		has := map[diagram.Part]bool{}
		for _, id := range c.Faces {
			if id < 0 {
				continue // of the block
			}
			t := s.Diagram.Tiers[s.Facets[id].Tier]
			has[t.Part] = true
			if t.Part == s.Diagram.FirstSide.Other() {
				out.slope = math.Max(out.slope, t.Angle)
			}
		}
		one, other := s.Diagram.FirstSide, s.Diagram.FirstSide.Other()
		if has[one] && (has[diagram.Girdle] || has[other]) {
			first = append(first, p)
		}
		if has[other] && (has[diagram.Girdle] || has[one]) {
			second = append(second, p)
		}
	}
	if len(first) == 0 || len(second) == 0 {
		return out
	}
	low, high, nearest := math.Inf(1), math.Inf(-1), math.Inf(1)
	for _, a := range first {
		low, high = math.Min(low, a.Z), math.Max(high, a.Z)
		for _, b := range second {
			if gap := math.Abs(a.Z - b.Z); math.Hypot(a.X-b.X, a.Y-b.Y) < solid.AtMeet && gap < nearest {
				nearest, out.first, out.second = gap, a.Z, b.Z
			}
		}
	}
	if out.wave = high - low; out.wave < solid.AtMeet {
		out.wave = 0
	}
	return out
}
