// Package quick designs the odd piece that needs few facets: an outline from length,
// width and a number of girdle facets, and a pavilion and a crown of the usual kinds
// at angles that suit a refractive index.
package quick

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/material"
)

// Outline is the shape of the girdle.
type Outline string

// Outlines that are rounded. Each is a curve |x/b|^p + |y/a|^p = 1 that the girdle facets touch.
const (
	Oval      Outline = "oval"      // p = 2; round where length and width are one
	Cushion   Outline = "cushion"   // p = 2.6
	Rectangle Outline = "rectangle" // p = 3.5, its corners cut
)

// Outlines with corners.
const (
	Regular       Outline = "regular"       // Wish.Sides sides, all alike
	Triangle      Outline = "triangle"      // a point along the length over a base as wide as the stone
	Kite          Outline = "kite"          // widest at Wish.Widest of its length
	Parallelogram Outline = "parallelogram" // its ends slanted by Wish.Slant
	Cornered      Outline = "corners"       // drawn by Wish.Corners
)

var powers = map[Outline]float64{Oval: 2, Cushion: 2.6, Rectangle: 3.5}

// Kind is how a side is laid out.
type Kind string

// The kinds. A pavilion is a fan or steps, a crown a bevel or steps.
const (
	Fan   Kind = "fan"   // one row that runs to the culet
	Bevel Kind = "bevel" // one row up to the table
	Steps Kind = "steps" // rows with level edges
)

// Wish says what is wanted.
type Wish struct {
	Name    string
	Outline Outline
	// LengthWidth is the length over the width, 1 to 2.
	LengthWidth float64
	// Girdle is the number of girdle facets of a rounded outline, a multiple of four from 4 to 32.
	Girdle int
	// Sides is how many a regular outline has, 3 to 32.
	Sides int
	// Slant is the acute angle of a parallelogram in degrees, 20 to 90.
	Slant float64
	// Widest is how far from its blunt end a kite is widest, as a share of its length, 0.1 to 0.5.
	Widest float64
	// Corners are those of an outline that is drawn: 3 to MaxCorners, convex, either way round.
	Corners []Corner
	// WholeTeeth moves the sides of an outline with corners to the nearest teeth; otherwise they
	// stand exactly, and may need cheats.
	WholeTeeth      bool
	Gear            int
	RefractiveIndex float64
	Pavilion        Kind
	Crown           Kind
	// Table is its width over the stone's, 0.4 to 0.75.
	Table float64
}

// Refusals of a wish.
const (
	// NotFourfold: the girdle facets do not come in fours, or the gear has too few
	// teeth for them. Value is what was asked for.
	NotFourfold diagram.Code = "not-fourfold"
	// NoSuchStone: the wish leads to no stone that can be cut; another kind may.
	NoSuchStone diagram.Code = "no-such-stone"
)

// margin is by how many degrees the shallowest pavilion facet stands above the
// critical angle.
const margin = 2

// Design returns a diagram for a wish, cut and found whole. Angles are in tenths of a
// degree; indexes are on teeth, but for those of an outline with corners that is to be exact. It
// returns a diagram.Problem: NotFourfold for a girdle that is not a multiple of
// four or too fine for the gear, NoSuchStone where the pavilion and crown do not fit, and the
// refusals of an outline with corners.
func Design(w Wish) (*diagram.Diagram, error) {
	var sides []side
	switch {
	case w.Outline.cornered():
		var err error
		if sides, err = w.polygonSides(); err != nil {
			return nil, err
		}
	case w.Girdle%4 != 0 || w.Girdle < 4 || w.Gear < 2*w.Girdle:
		return nil, diagram.Problem{Code: NotFourfold, TierNo: -1, Field: "girdle", Value: float64(w.Girdle)}
	default:
		sides = w.sides()
	}
	// Steps that miss small facets begin farther out; steps that run into each other
	// farther in.
	for _, scale := range []float64{1, 1.1, 1.2, 1.3, 0.9, 0.8, 0.7} {
		d := w.draw(sides, scale)
		if stone, err := cutting.Cut(d); err == nil && whole(stone) {
			return d, nil
		}
	}
	return nil, diagram.Problem{Code: NoSuchStone, TierNo: -1, Field: "pavilion", Text: string(w.Pavilion), Other: string(w.Crown)}
}

// whole tells that no facet is missing. That a lopsided outline has no mirror line is no fault.
func whole(s *cutting.Stone) bool {
	return !slices.ContainsFunc(s.Warnings, func(p diagram.Problem) bool { return p.Code != cutting.SenseMatters })
}

// side is a class of girdle facets that mirror each other.
type side struct {
	indexes []float64
	// reach is how far they stand from the axis, in widths of the stone.
	reach float64
	// after is the place of an earlier class that they adjoin.
	after int
}

// sides lists the classes from the flanks (3 and 9 o'clock) to the ends (12 and 6).
func (w Wish) sides() []side {
	var out []side
	p := powers[w.Outline]
	q := p / (p - 1)
	for j := w.Girdle / 4; j >= 0; j-- {
		index := math.Round(float64(j*w.Gear) / float64(w.Girdle))
		sin, cos := math.Sincos(2 * math.Pi * index / float64(w.Gear))
		// The line with this normal touches the curve at the dual norm of it.
		reach := math.Pow(math.Pow(w.LengthWidth/2*math.Abs(cos), q)+math.Pow(math.Abs(sin)/2, q), 1/q)
		out = append(out, side{diagram.Complete([]float64{index}, w.Gear, 2, true), round(reach, 1e4), max(0, len(out)-1)})
	}
	if slices.ContainsFunc(out, func(s side) bool { return s.reach != out[0].reach }) {
		return out
	}
	// A round outline has one class: every facet stands alike.
	for _, s := range out[1:] {
		out[0].indexes = append(out[0].indexes, s.indexes...)
	}
	slices.Sort(out[0].indexes)
	return out[:1]
}

func tan(degrees float64) float64 { return math.Tan(degrees * math.Pi / 180) }

func round(v, parts float64) float64 { return math.Round(v*parts) / parts }

func (w Wish) draw(sides []side, scale float64) *diagram.Diagram {
	d := &diagram.Diagram{
		Format: diagram.Format, Name: w.Name, Outline: w.outline(), Gear: w.Gear, RefractiveIndex: w.RefractiveIndex,
		FirstSide: diagram.Pavilion, Indexing: diagram.Dialled, Note: "A quick design: " + w.words() + ".",
	}
	if d.Name == "" {
		d.Name = "Quick design"
	}
	critical := material.CriticalAngle(w.RefractiveIndex)
	add := func(part diagram.Part, name string, angle float64, s side, stop diagram.Stop) {
		indexes := slices.Clone(s.indexes)
		if part != diagram.Crown {
			// With the pavilion up the gear counts the other way round the stone.
			for i := range indexes {
				indexes[i] = gear.Mirror(indexes[i], w.Gear)
			}
			slices.Sort(indexes)
		}
		d.Tiers = append(d.Tiers, diagram.Tier{Name: name, Part: part, Angle: angle, Indexes: indexes, Stop: stop})
	}
	// Pavilion facets of the first side go to the centre; then the girdle; then each
	// next facet to the meet that its neighbour and the girdle make.
	first := w.rowAngles(critical, sides, 0)
	add(diagram.Pavilion, "P1", first[0], sides[0], diagram.Stop{Kind: diagram.Centre})
	for i, s := range sides {
		add(diagram.Girdle, fmt.Sprintf("G%d", i+1), 90, s, diagram.Stop{Kind: diagram.Size, Radius: s.reach})
	}
	for i := 1; i < len(sides); i++ {
		add(diagram.Pavilion, fmt.Sprintf("P%d", i+1), first[i], sides[i], meet(fmt.Sprintf("P%d", sides[i].after+1), fmt.Sprintf("G%d", sides[i].after+1), fmt.Sprintf("G%d", i+1)))
	}
	if w.Pavilion == Steps {
		// A row begins where the one before has come so close to the axis; the lower
		// angle then leaves it that much short of the centre.
		for row, from := range []float64{0.33, 0.235} {
			name := func(row, i int) string { return fmt.Sprintf("P%d", row*len(sides)+i+1) }
			before, angles := w.rowAngles(critical, sides, row), w.rowAngles(critical, sides, row+1)
			drop := from * scale * (tan(before[0]) - tan(angles[0]))
			for i, s := range sides {
				stop := diagram.Stop{Kind: diagram.Centre, Drop: round(drop, 1e4)}
				if i > 0 {
					stop = meet(name(row, s.after), name(row, i), name(row+1, s.after))
				}
				add(diagram.Pavilion, name(row+1, i), angles[i], s, stop)
			}
		}
	}
	w.crown(sides, add)
	return d
}

func meet(tiers ...string) diagram.Stop {
	s := diagram.Stop{Kind: diagram.Meet}
	for _, t := range tiers {
		s.Tiers = append(s.Tiers, diagram.Ref{Tier: t})
	}
	return s
}

// rowAngles returns the angles of a row of the pavilion. A fan comes to one point
// below a level girdle: tan t = depth/reach. The facets of a step stand alike, so
// that their edges are level.
func (w Wish) rowAngles(critical float64, sides []side, row int) []float64 {
	out := make([]float64, len(sides))
	farthest := slices.MaxFunc(sides, func(a, b side) int { return cmp.Compare(a.reach, b.reach) }).reach
	depth := farthest * tan(critical+margin)
	for i, s := range sides {
		if w.Pavilion == Steps {
			out[i] = round(math.Min(critical+margin+10-5*float64(row), 80), 10)
		} else {
			out[i] = round(math.Atan(depth/s.reach)*180/math.Pi, 10)
		}
	}
	return out
}

// crown angles are lower where the index is higher: the stone keeps its light, and
// the crown need not be tall.
func (w Wish) crown(sides []side, add func(diagram.Part, string, float64, side, diagram.Stop)) {
	angle := round(math.Max(52-10*w.RefractiveIndex, 28), 10)
	for i, s := range sides {
		stop := diagram.Stop{Kind: diagram.GirdleBand, Thickness: 0.02}
		if i > 0 {
			stop = meet(fmt.Sprintf("C%d", s.after+1), fmt.Sprintf("G%d", s.after+1), fmt.Sprintf("G%d", i+1))
		}
		add(diagram.Crown, fmt.Sprintf("C%d", i+1), angle, s, stop)
	}
	table := diagram.Stop{Kind: diagram.Width, Ratio: w.Table}
	if w.Crown != Steps {
		add(diagram.Crown, "T", 0, side{indexes: []float64{float64(w.Gear)}}, table)
		return
	}
	// The second row begins half-way up the edges of the first; it makes the table
	// smaller again, so that is cut a little wide before.
	table.Ratio = round(math.Min(w.Table+0.06, 0.8), 1e3)
	add(diagram.Crown, "T", 0, side{indexes: []float64{float64(w.Gear)}}, table)
	second := round(angle*0.72, 10)
	name := func(i int) string { return fmt.Sprintf("C%d", i+1) }
	neighbour := name(min(1, len(sides)-1))
	half := diagram.Stop{Kind: diagram.Along, From: meet("C1", neighbour, "G1").Tiers, To: meet("C1", neighbour, "T").Tiers, At: 0.5}
	for i, s := range sides {
		stop := half
		if i > 0 {
			stop = meet(name(s.after), name(i), name(len(sides)+s.after))
		}
		add(diagram.Crown, name(len(sides)+i), second, s, stop)
	}
}

// outline names the shape as the format does.
func (w Wish) outline() diagram.Outline {
	square := w.LengthWidth < 1.005
	switch w.Outline {
	case Triangle:
		return "triangle"
	case Regular:
		if named, ok := map[int]diagram.Outline{3: "triangle", 4: "square", 6: "hexagon"}[w.Sides]; ok {
			return named
		}
		return "other"
	case Kite, Parallelogram, Cornered:
		return "freeform"
	}
	switch {
	case w.Outline == Cushion:
		return "cushion"
	case w.Outline == Rectangle && square:
		return "square"
	case w.Outline == Rectangle:
		return "rectangle"
	case square:
		return "round"
	}
	return "oval"
}

func (w Wish) words() string {
	if w.Outline.cornered() {
		return fmt.Sprintf("outline %s, %s pavilion, %s crown, for an index of %s", w.Outline, w.Pavilion, w.Crown, diagram.FormatNumber(w.RefractiveIndex))
	}
	return fmt.Sprintf("%d girdle facets, length to width %s, %s pavilion, %s crown, for an index of %s",
		w.Girdle, diagram.FormatNumber(round(w.LengthWidth, 100)), w.Pavilion, w.Crown, diagram.FormatNumber(w.RefractiveIndex))
}
