// Package diagram holds the recipe of a faceted stone: tiers of facets, each with
// an angle, index positions on a gear and a rule that says where the cut stops.
//
// A diagram carries no distances; they follow from the stops when it is cut (see
// package cutting). Lengths are design units, angles degrees, indexes teeth.
package diagram

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/gear"
)

// Format names the file format that this package's types stand for.
const Format = "cressa-diagram/1"

// Limits of one diagram.
const (
	MaxTiers  = 400
	MaxFacets = 2000
	MaxGear   = 360
	// MaxLength bounds every length, in design units. Beyond it the tolerances
	// of package solid, made for a width of about 1, would mean nothing.
	MaxLength = 1000
)

// Part is the part of the stone that a tier belongs to.
type Part string

// The parts of a stone.
const (
	Pavilion Part = "pavilion"
	Girdle   Part = "girdle"
	Crown    Part = "crown"
)

// Parts lists the parts in the order in which most stones are cut.
var Parts = []Part{Pavilion, Girdle, Crown}

// Other returns the opposite side of a pavilion or a crown. The girdle is its own.
func (p Part) Other() Part {
	switch p {
	case Pavilion:
		return Crown
	case Crown:
		return Pavilion
	}
	return p
}

// Outline names the shape of the girdle as seen from above.
type Outline string

// Outlines lists the outlines a diagram may have.
var Outlines = []Outline{
	"round", "oval", "square", "rectangle", "triangle", "pear", "marquise",
	"cushion", "hexagon", "freeform", "other",
}

// Indexing tells in which direction a diagram counts its indexes round the stone.
type Indexing string

// The two ways to count. The stone is turned over between its sides, the gear is
// not: a facet that sat at index i with the pavilion up comes to the lap at
// N − i with the crown up.
const (
	// Dialled: every index is what the cutter dials with that side up.
	Dialled Indexing = "dialled"
	// Shared: both sides count clockwise as seen from above the table.
	Shared Indexing = "shared"
)

// Indexings lists both, the default first.
var Indexings = []Indexing{Dialled, Shared}

// Diagram is one recipe. Its JSON form is the diagram format; the strict reader
// with places in the text is package formats.
type Diagram struct {
	Format          string   `json:"format"`
	Name            string   `json:"name"`
	Designer        string   `json:"designer,omitempty"`
	Source          string   `json:"source,omitempty"`
	Date            string   `json:"date,omitempty"`
	Licence         string   `json:"licence,omitempty"`
	Note            string   `json:"note,omitempty"`
	Outline         Outline  `json:"outline"`
	Gear            int      `json:"gear"`
	RefractiveIndex float64  `json:"refractiveIndex"`
	FirstSide       Part     `json:"firstSide"`
	Indexing        Indexing `json:"indexing"`
	Tiers           []Tier   `json:"tiers"`
}

// Tier is a ring of facets that share an angle and a stop.
type Tier struct {
	Name     string    `json:"name"`
	Part     Part      `json:"part"`
	Angle    float64   `json:"angle"`
	Indexes  []float64 `json:"indexes"`
	Stop     Stop      `json:"stop"`
	Optional bool      `json:"optional,omitempty"`
	Note     string    `json:"note,omitempty"`
}

// FillDefaults sets the fields that a file may leave out: pavilion first, indexes
// as dialled, an outline that is none of the named ones.
func (d *Diagram) FillDefaults() {
	if d.Outline == "" {
		d.Outline = "other"
	}
	if d.FirstSide == "" {
		d.FirstSide = Pavilion
	}
	if d.Indexing == "" {
		d.Indexing = Dialled
	}
}

// FacetCount returns how many facets all tiers together ask for.
func (d *Diagram) FacetCount() int {
	n := 0
	for _, t := range d.Tiers {
		n += len(t.Indexes)
	}
	return n
}

// TierNo returns the place of the tier with the given name, -1 where there is none.
func (d *Diagram) TierNo(name string) int {
	for i, t := range d.Tiers {
		if t.Name == name {
			return i
		}
	}
	return -1
}

// Renamed returns the diagram with tiers called otherwise, in the stops too.
func (d *Diagram) Renamed(names map[string]string) *Diagram {
	out := *d
	out.Tiers = slices.Clone(d.Tiers)
	rename := func(refs []Ref) []Ref {
		refs = slices.Clone(refs)
		for i := range refs {
			refs[i].Tier = names[refs[i].Tier]
		}
		return refs
	}
	for i := range out.Tiers {
		t := &out.Tiers[i]
		t.Name = names[t.Name]
		t.Stop.Tiers, t.Stop.From, t.Stop.To = rename(t.Stop.Tiers), rename(t.Stop.From), rename(t.Stop.To)
	}
	return &out
}

// IndexNo returns the place of an index among the tier's, compared modulo the
// gear, -1 where the tier does not have it.
func (t *Tier) IndexNo(index float64, teeth int) int {
	for i, have := range t.Indexes {
		if gear.Same(have, index, teeth) {
			return i
		}
	}
	return -1
}

// CutWith returns the side that is up while a tier of the given part is cut:
// girdle tiers go with the side cut first.
func (d *Diagram) CutWith(part Part) Part {
	if part == Girdle {
		return d.FirstSide
	}
	return part
}

// Azimuth returns where a facet of the given part and written index stands on the
// stone: degrees clockwise from 12 o'clock as seen from above the table, 0 to
// under 360.
func (d *Diagram) Azimuth(part Part, index float64) float64 {
	turn := gear.Azimuth(index, d.Gear)
	if d.Indexing != Shared && d.CutWith(part) == Pavilion {
		turn = -turn
	}
	return gear.Circle(turn)
}

// Normal returns the outward unit normal of a facet of the given part at angle t
// (degrees from the girdle plane) and stone azimuth a (degrees): (sin t·sin a,
// sin t·cos a, ±cos t), positive on crown and girdle.
func Normal(part Part, t, a float64) r3.Vec {
	sinT, cosT := sinCos(t)
	sinA, cosA := sinCos(a)
	if part == Pavilion {
		cosT = -cosT
	}
	return r3.Vec{X: sinT * sinA, Y: sinT * cosA, Z: cosT}
}

// sinCos takes degrees and is exact at the right angles, so that a girdle facet
// at 90 stands upright and a table at 0 lies level.
func sinCos(degrees float64) (sin, cos float64) {
	switch degrees {
	case 0:
		return 0, 1
	case 90:
		return 1, 0
	case 180:
		return 0, -1
	case 270:
		return -1, 0
	}
	return math.Sincos(degrees * math.Pi / 180)
}
