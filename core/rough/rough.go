// Package rough is a piece of rough before it is cut: its solid in mm, saw cuts, flaws in place, the
// axes and zones of its colour, and what they leave for a stone.
//
// Lengths are in mm, weights in carats, angles in degrees, in any right-handed frame of the cutter's
// choice.
package rough

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/core/solid"
)

// Format names the file format of a piece of rough, *.rough.json.
const Format = "cressa-rough/1"

// Limits of what is taken for a piece of rough.
const (
	// MaxLength bounds every length, in mm.
	MaxLength = 1000
	// MinPoints is how many points a hull takes at least.
	MinPoints = 4
	// MaxPoints is how many it takes at most.
	MaxPoints = 20000
	// MaxTrims bounds saw cuts.
	MaxTrims = 100
	// MaxFlaws bounds flaws.
	MaxFlaws = 100
	// MaxText is how long a name may be, in bytes.
	MaxText = 200
	// MaxNote is how long a note may be, in bytes.
	MaxNote = 20000
	// MaxCarat bounds a weight.
	MaxCarat = 1e6
	// MaxZones bounds the zones of colour.
	MaxZones = 100
	// MaxAbsorption bounds how much light is absorbed, in 1/mm.
	MaxAbsorption = 1000
)

// Codes of mistakes in a piece of rough, beside those of a diagram's fields.
const (
	// UnknownMaterial: Text is in no row of the table of materials.
	UnknownMaterial diagram.Code = "unknown-material"
	// NoDirection: a normal or a direction is 0.
	NoDirection diagram.Code = "no-direction"
	// FewPoints: a hull has Value points; Low to High are taken.
	FewPoints diagram.Code = "few-points"
	// FlatHull: the solid is flat: its points lie in one plane, or one of its sizes is next to nothing.
	FlatHull diagram.Code = "flat-hull"
	// NothingLeft: the saw cut that the field names leaves nothing.
	NothingLeft diagram.Code = "nothing-left"
	// TooMany: a list has Value entries, High are taken.
	TooMany diagram.Code = "too-many"
	// WrongOrder: a zone of colour ends before it begins.
	WrongOrder diagram.Code = "wrong-order"
)

// SolidKind says how a solid is described.
type SolidKind string

// The kinds of solid.
const (
	KindBox    SolidKind = "box"
	KindPebble SolidKind = "pebble"
	KindHull   SolidKind = "hull"
)

// SolidKinds lists them.
var SolidKinds = []SolidKind{KindBox, KindPebble, KindHull}

// Solid describes the shape of a piece: a box or a pebble about the origin by its three sizes, or the
// hull of points.
type Solid struct {
	Kind   SolidKind
	Size   r3.Vec
	Points []r3.Vec
}

// Trim is a saw cut: a slab of the blade's thickness about the plane n·x = Distance. What lies on the
// far side of it is an offcut.
type Trim struct {
	Normal         r3.Vec
	Distance, Kerf float64
}

// Inside bounds what is kept of the piece.
func (t Trim) Inside() solid.Plane {
	return solid.Plane{Normal: r3.Unit(t.Normal), D: t.Distance - t.Kerf/2}
}

// FlawKind says what form a flaw has.
type FlawKind string

// The forms of flaws.
const (
	Point FlawKind = "point"
	Ball  FlawKind = "ball"
	Disc  FlawKind = "disc"
)

// FlawKinds lists them.
var FlawKinds = []FlawKind{Point, Ball, Disc}

// Rule says what a fit does about a flaw.
type Rule string

// The rules.
const (
	// Out: the flaw must lie outside the stone.
	Out Rule = "out"
	// Hidden: it may lie in the stone, but not straight above or below its table.
	Hidden Rule = "hidden"
	// Accept: it may lie anywhere.
	Accept Rule = "accept"
)

// Rules lists them.
var Rules = []Rule{Out, Hidden, Accept}

// Flaw is a crack, a veil or an inclusion in its place.
type Flaw struct {
	Name string
	Kind FlawKind
	At   r3.Vec
	// Radius is that of a ball or a disc.
	Radius float64
	// Normal is square to a disc.
	Normal r3.Vec
	Rule   Rule
}

// AxisKind says what a direction in the piece is.
type AxisKind string

// The kinds of axis.
const (
	OpticAxis  AxisKind = "optic"
	ColourAxis AxisKind = "colour"
	SheenAxis  AxisKind = "sheen"
)

// AxisKinds lists them.
var AxisKinds = []AxisKind{OpticAxis, ColourAxis, SheenAxis}

// Axis is a direction in the piece, without a sense.
type Axis struct {
	Kind      AxisKind
	Direction r3.Vec
	// ToTable is the angle between the axis and the plane of the table that a stone shall have, 0 to 90;
	// nil leaves it free.
	ToTable *float64
}

// Colour is what the piece absorbs, for red, green and blue in 1/mm.
type Colour struct {
	Along, Across [3]float64
	Zones         []Zone
}

// Zone is a slab of another colour: From ≤ n·x ≤ To.
type Zone struct {
	Normal   r3.Vec
	From, To float64
	RGB      [3]float64
}

// Rough is a piece as it is described.
type Rough struct {
	Name, Material, Note string
	// Carat is the weight on the scales, 0 where nobody weighed.
	Carat  float64
	Solid  Solid
	Trims  []Trim
	Flaws  []Flaw
	Axis   *Axis
	Colour *Colour
}

// Inside is what lies in a piece, whatever its shape.
type Inside struct {
	Flaws  []Flaw
	Axis   *Axis
	Colour *Colour
}

// Inside returns what lies in the piece.
func (r *Rough) Inside() Inside { return Inside{r.Flaws, r.Axis, r.Colour} }

// Piece is a piece with its solid worked out.
type Piece struct {
	Rough
	Facts material.Material
	// Whole is the solid before any saw cut, Body what is kept.
	Whole, Body *Body
	// Walls bound what is kept: the natural faces, then the saw cuts.
	Walls []Wall
	// Cuts tells what each saw cut takes, in the order of Trims.
	Cuts []Loss
}

// Wall is a plane that bounds the piece.
type Wall struct {
	solid.Plane
	Name string
	Sawn bool
}

// Loss is what a saw cut takes, in mm³: the slab of the blade, and what falls off behind it.
type Loss struct {
	// Section is the area of the cut in mm².
	Section      float64
	Kerf, Offcut float64
	// Off is what falls off, nil where nothing does.
	Off *Body
}

// Place names a field of a piece as its problems do, with places in lists from 0: "flaws.2.radius".
func Place(list string, no int, field string) diagram.Field {
	return diagram.Field(fmt.Sprintf("%s.%d.%s", list, no, field))
}

// Work works the solid out, of a material of the table. The error is a diagram.Problem whose Field is the
// place as Place writes it.
func (r Rough) Work() (*Piece, error) {
	facts, ok := material.Find(r.Material)
	if !ok {
		return nil, diagram.Problem{Code: UnknownMaterial, TierNo: -1, Field: "material", Text: r.Material}
	}
	return r.Of(facts)
}

// Of is Work for any material.
func (r Rough) Of(facts material.Material) (*Piece, error) {
	if problems := r.Validate(); len(problems) > 0 {
		return nil, problems[0]
	}
	p := &Piece{Rough: r, Facts: facts}
	ok, at := true, diagram.Field("solid.size")
	switch r.Solid.Kind {
	case KindBox:
		p.Whole, ok = Box(r.Solid.Size)
	case KindPebble:
		p.Whole, ok = Pebble(r.Solid.Size)
	case KindHull:
		p.Whole, ok = Hull(r.Solid.Points)
		at = "solid.points"
	}
	if !ok {
		return nil, diagram.Problem{Code: FlatHull, TierNo: -1, Field: at}
	}
	for i, plane := range p.Whole.Planes() {
		p.Walls = append(p.Walls, Wall{Plane: plane, Name: faceName(r.Solid.Kind, plane.Normal, i)})
	}
	p.Body = p.Whole
	for i, t := range r.Trims {
		kept, loss, ok := p.saw(t)
		if !ok {
			return nil, diagram.Problem{Code: NothingLeft, TierNo: -1, Field: Place("trims", i, "distance"), Value: t.Distance}
		}
		p.Body, p.Cuts = kept, append(p.Cuts, loss)
		p.Walls = append(p.Walls, Wall{Plane: t.Inside(), Name: fmt.Sprintf("trim %d", i+1), Sawn: true})
	}
	return p, nil
}

// saw cuts what is there of the body. A cut loses kerf·section of it, or what the blade meets where
// that is less.
func (p *Piece) saw(t Trim) (*Body, Loss, bool) {
	before := p.Body.Volume()
	kept, section := p.Body.Cut(t.Inside())
	if kept == nil {
		return nil, Loss{}, false
	}
	loss := Loss{Section: section, Offcut: before - kept.Volume()}
	n := r3.Unit(t.Normal)
	if off, _ := p.Body.Cut(solid.Plane{Normal: r3.Scale(-1, n), D: -t.Distance - t.Kerf/2}); off == nil {
		loss.Kerf, loss.Offcut = loss.Offcut, 0
	} else if kept != p.Body {
		loss.Kerf = loss.Offcut - off.Volume()
		loss.Offcut, loss.Off = off.Volume(), off
	}
	return kept, loss, true
}

// Offcut describes what a saw cut lets fall as a piece of its own, with the flaws that reach into it. It is
// false where nothing falls, or what falls has too many corners for a hull.
func (p *Piece) Offcut(trim int) (Rough, bool) {
	if trim < 0 || trim >= len(p.Cuts) || p.Cuts[trim].Off == nil {
		return Rough{}, false
	}
	body := p.Cuts[trim].Off
	points := body.Points()
	if len(points) > MaxPoints {
		return Rough{}, false
	}
	out := Rough{Material: p.Material, Solid: Solid{Kind: KindHull, Points: points}, Axis: p.Axis, Colour: p.Colour}
	for _, f := range p.Flaws {
		reaches := true
		for _, plane := range body.Planes() {
			reaches = reaches && plane.Above(f.At) <= f.Reach(plane.Normal)
		}
		if reaches {
			out.Flaws = append(out.Flaws, f)
		}
	}
	return out, true
}

// faceName names a natural face: that of a box after the axis that it looks along.
func faceName(kind SolidKind, n r3.Vec, no int) string {
	if kind == KindBox {
		for name, axis := range map[string]float64{"x": n.X, "y": n.Y, "z": n.Z} {
			if axis > 0.5 {
				return "+" + name
			} else if axis < -0.5 {
				return "-" + name
			}
		}
	}
	return fmt.Sprintf("face %d", no+1)
}

// CaratPerMM3 is the weight of a mm³ in carats.
func (p *Piece) CaratPerMM3() float64 { return p.Facts.CaratPerMM3() }

// FarOff is by how much of the weighed carats a solid may miss them before it is doubted.
const FarOff = 0.15

// Off returns by what part of the weighed carats the solid is too heavy, negative where it is too
// light; 0 where nobody weighed.
func (p *Piece) Off() float64 {
	if p.Carat == 0 {
		return 0
	}
	return p.Whole.Volume()*p.CaratPerMM3()/p.Carat - 1
}

// WeightOf returns the weight in carats before saw cuts: as weighed, else from the solid.
func (p *Piece) WeightOf() float64 {
	if p.Carat > 0 {
		return p.Carat
	}
	return p.Whole.Volume() * p.CaratPerMM3()
}

// Bounding is which size of a piece a stone's width goes by.
type Bounding string

// The sizes.
const (
	ByDepth  Bounding = "depth"
	ByWidth  Bounding = "width"
	ByLength Bounding = "length"
)

// RuleOfThumb returns the largest width of a stone by the piece's length, width and depth alone, and which
// of them it goes by: depth/(H/W), the width itself, length/(L/W); the smallest wins.
func RuleOfThumb(size r3.Vec, lengthWidth, heightWidth float64) (float64, Bounding) {
	width, by := size.Z/heightWidth, ByDepth
	if size.Y < width {
		width, by = size.Y, ByWidth
	}
	if long := size.X / lengthWidth; long < width {
		width, by = long, ByLength
	}
	return width, by
}

// Reach returns how far a flaw reaches from its middle along a unit direction, in mm.
func (f Flaw) Reach(u r3.Vec) float64 {
	switch f.Kind {
	case Ball:
		return f.Radius
	case Disc:
		along := r3.Dot(u, r3.Unit(f.Normal))
		return f.Radius * math.Sqrt(max(0, 1-along*along))
	}
	return 0
}
