package server

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/analysis"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/drawing"
	"cressa/core/gear"
	"cressa/core/material"
	"cressa/core/solid"
	"cressa/words"
	"cressa/workshop"
)

// Mesh is a stone at every moment of its cutting: one vertex table, and for each
// step the faces that it changes. Design units, z along the dop axis.
type Mesh struct {
	// Vertices holds x, y and z of each vertex in turn.
	Vertices []float64  `json:"vertices"`
	Steps    []MeshStep `json:"steps"`
}

// MeshStep is what one cut changes. Step 0 is the block.
type MeshStep struct {
	// Facet is the number of the facet that was cut, -1 for the block.
	Facet int        `json:"facet"`
	Set   []MeshFace `json:"set"`
	Gone  []int      `json:"gone"`
}

// MeshFace is a face and its corners, counter-clockwise as seen from outside.
type MeshFace struct {
	// Facet is the number of the facet, negative for a face of the block.
	Facet int   `json:"facet"`
	Loop  []int `json:"loop"`
}

// Point is a point of the stone in design units.
type Point struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
	Z float64 `json:"z"`
}

// Facet is one facet of a solved diagram.
type Facet struct {
	Tier    int     `json:"tier"`
	Index   float64 `json:"index"`
	Azimuth float64 `json:"azimuth"`
	// Dial is where it is dialled with its side up.
	Dial Dial `json:"dial"`
	// Target is the point that the cut runs to.
	Target Point `json:"target"`
	AtMeet bool  `json:"atMeet"`
}

// Dial is a position on a gear: the tooth and, between teeth, the cheat in degrees, 0 where
// there is none worth telling.
type Dial struct {
	Tooth int     `json:"tooth"`
	Cheat float64 `json:"cheat"`
	// CheatTurns is the cheat in turns of the cheater's knob, 0 where this
	// machine's does not count in turns.
	CheatTurns float64 `json:"cheatTurns"`
	// Azimuth is where it stands on the wheel, degrees clockwise from the top.
	Azimuth float64 `json:"azimuth"`
}

// Tier is one tier of a solved diagram, in words and figures.
type Tier struct {
	// Key is that of the tier in the draft: it stays when tiers are moved or renamed.
	Key   string  `json:"key"`
	Name  string  `json:"name"`
	Part  string  `json:"part"`
	Up    string  `json:"up"`
	Angle float64 `json:"angle"`
	Stop  string  `json:"stop"`
	Note  string  `json:"note"`
	// Margin to the critical angle in degrees, null where it says nothing.
	Margin    *float64 `json:"margin"`
	Judgement string   `json:"judgement"`
	// Below and Above are the angle's neighbours that the machine can set, equal
	// where it can be set as it is. OutOfReach: the protractor does not go so far.
	Below      float64 `json:"below"`
	Above      float64 `json:"above"`
	OutOfReach bool    `json:"outOfReach"`
	Optional   bool    `json:"optional"`
	// LeftOff: the tier was left off to look at the stone without it.
	LeftOff bool `json:"leftOff"`
	// Dials are the positions to dial, in the order of the diagram.
	Dials []Dial `json:"dials"`
}

// Levels are the heights of a stone, z in design units.
type Levels struct {
	Bottom     float64 `json:"bottom"`
	GirdleLow  float64 `json:"girdleLow"`
	GirdleHigh float64 `json:"girdleHigh"`
	Top        float64 `json:"top"`
	HasGirdle  bool    `json:"hasGirdle"`
	// Girdle is its thickness, null where it has none to measure yet.
	Girdle *GirdleGauge `json:"girdle"`
}

// GirdleGauge is the thickness of a girdle in design units: at its thinnest, from Low straight
// up to High, and at its thickest.
type GirdleGauge struct {
	Min  float64 `json:"min"`
	Max  float64 `json:"max"`
	Low  Point   `json:"low"`
	High Point   `json:"high"`
}

func levelsOf(s *cutting.Stone) Levels {
	l := s.Levels()
	out := Levels{Bottom: l.Bottom, Top: l.Top, HasGirdle: l.HasGirdle}
	if l.HasGirdle {
		out.GirdleLow, out.GirdleHigh = l.GirdleLow, l.GirdleHigh
	}
	if thinnest, thickest, ok := s.Girdle(); ok {
		out.Girdle = &GirdleGauge{thinnest.Thickness(), thickest.Thickness(), pointOf(thinnest.Low), pointOf(thinnest.High)}
	}
	return out
}

// Spot is a place on a drawing in design units: X to the right, Y along the axis.
type Spot struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// Segment is where a section through the axis cuts a facet.
type Segment struct {
	Facet int  `json:"facet"`
	From  Spot `json:"from"`
	To    Spot `json:"to"`
}

// Tooth is a mark of the index wheel, degrees clockwise from the top.
type Tooth struct {
	Index    int     `json:"index"`
	Azimuth  float64 `json:"azimuth"`
	Labelled bool    `json:"labelled"`
}

// StoneView is a stone, solved: everything that is drawn and listed of it.
type StoneView struct {
	// Complete tells whether the whole diagram was cut and closes the stone.
	Complete bool    `json:"complete"`
	Gear     int     `json:"gear"`
	Mesh     Mesh    `json:"mesh"`
	Facets   []Facet `json:"facets"`
	Tiers    []Tier  `json:"tiers"`
	Levels   Levels  `json:"levels"`
	// The sections are cut towards 12 o'clock and towards 3 o'clock.
	TowardsTwelve []Segment        `json:"towardsTwelve"`
	TowardsThree  []Segment        `json:"towardsThree"`
	Wheel         []Tooth          `json:"wheel"`
	Measures      cutting.Measures `json:"measures"`
	// CriticalAngle is for the refractive index that margins are reckoned with.
	CriticalAngle float64 `json:"criticalAngle"`
	// Lies is which way the stone is longer: along 3–9 o'clock, along 12–6, or neither.
	Lies string `json:"lies" validate:"oneof=across along even"`
}

// viewing says how a stone is shown.
type viewing struct {
	gear            int
	turns           cutting.Turns
	mm              float64
	refractiveIndex float64
	complete        bool
	machine         workshop.Machine
	// draft is what the stone was cut from.
	draft diagram.Draft
	// off are the places of tiers that are left off.
	off []int
	// dial tells where a facet is dialled, given by its place; nil for the nearest tooth with its side up.
	dial func(place int) gear.Position
}

// viewOf draws and words a stone.
func viewOf(s *cutting.Stone, v viewing) *StoneView {
	d := s.Diagram
	m := s.Measures()
	out := &StoneView{
		Complete: v.complete, Gear: v.gear, Mesh: meshOf(s.Steps()), Measures: m, Wheel: wheelOf(v.gear),
		CriticalAngle: material.CriticalAngle(v.refractiveIndex),
		TowardsTwelve: sectionOf(s.Solid(), 0), TowardsThree: sectionOf(s.Solid(), 90),
		Lies:   string(analysis.Lies(s)),
		Facets: make([]Facet, len(s.Facets)), Tiers: make([]Tier, len(d.Tiers)),
	}
	out.Levels = levelsOf(s)
	margins := workshop.Margins(d, v.refractiveIndex)
	scale := words.Scale{MM: v.mm, Width: m.Width}
	for i, t := range d.Tiers {
		out.Tiers[i] = Tier{
			Key: v.draft.Tiers[i].Key, Name: t.Name, Part: string(t.Part), Up: string(d.CutWith(t.Part)), Angle: t.Angle, Note: t.Note,
			Stop: words.Stop(t, d.Gear, scale), Margin: margins[i], Judgement: string(workshop.MarginGood), Dials: []Dial{},
			Optional: t.Optional, LeftOff: slices.Contains(v.off, i),
			OutOfReach: !v.machine.Reaches(t.Angle),
		}
		out.Tiers[i].Below, out.Tiers[i].Above = v.machine.SettableAngles(t.Angle)
		if margins[i] != nil {
			out.Tiers[i].Judgement = string(workshop.JudgeMargin(*margins[i]))
		}
	}
	for i, f := range s.Facets {
		at := s.Dial(f, v.gear, v.turns)
		if v.dial != nil {
			at = v.dial(i)
		}
		dial := dialOf(at, v.gear, v.machine)
		out.Tiers[f.Tier].Dials = append(out.Tiers[f.Tier].Dials, dial)
		out.Facets[i] = Facet{
			Tier: f.Tier, Index: f.Index, Azimuth: f.Azimuth, AtMeet: f.AtMeet, Dial: dial,
			Target: pointOf(f.Target),
		}
	}
	return out
}

// leastCheat in degrees is the least that is told: half of the last digit that angles are
// shown with, far below what a cheater can be set to.
const leastCheat = 0.005

func dialOf(p gear.Position, teeth int, m workshop.Machine) Dial {
	d := Dial{Tooth: p.Tooth, Azimuth: gear.Circle(gear.Azimuth(p.Index, teeth))}
	if math.Abs(p.Cheat) >= leastCheat {
		d.Cheat = p.Cheat
		d.CheatTurns, _ = m.CheatTurns(p.Cheat)
	}
	return d
}

func meshOf(steps []cutting.Step) Mesh {
	last := steps[len(steps)-1].Solid
	m := Mesh{Vertices: []float64{}, Steps: make([]MeshStep, len(steps))}
	for i := range last.TableLen() {
		p := last.Point(i)
		m.Vertices = append(m.Vertices, round7(p.X), round7(p.Y), round7(p.Z))
	}
	for i, step := range steps {
		m.Steps[i] = MeshStep{Facet: step.Facet, Set: make([]MeshFace, len(step.Set)), Gone: append([]int{}, step.Gone...)}
		for k, f := range step.Set {
			m.Steps[i].Set[k] = MeshFace{f.ID, f.Loop}
		}
	}
	return m
}

// round7 keeps a tenth of a micrometre on a stone of a metre, and JSON short.
func round7(v float64) float64 { return math.Round(v*1e7) / 1e7 }

func pointOf(p r3.Vec) Point { return Point{round7(p.X), round7(p.Y), round7(p.Z)} }

func spotOf(p drawing.Point) Spot { return Spot{round7(p.X), round7(p.Y)} }

func sectionOf(s *solid.Solid, azimuth float64) []Segment {
	out := []Segment{}
	for _, g := range drawing.Section(s, azimuth) {
		out = append(out, Segment{g.Facet, spotOf(g.From), spotOf(g.To)})
	}
	return out
}

func wheelOf(teeth int) []Tooth {
	out := []Tooth{}
	for _, t := range drawing.Wheel(teeth) {
		out = append(out, Tooth(t))
	}
	return out
}

// plannedView shows a stone as a plan has it, in millimetres. On a solid that is held by more than its two sides no tier belongs to one.
func plannedView(a *workshop.Assessment) *StoneView {
	v := viewing{
		gear: a.Choices.Gear, turns: a.Turns, mm: a.MM, complete: true,
		refractiveIndex: a.Material.RefractiveIndex.Low, machine: a.Machine, draft: diagram.DraftOf(a.Stone.Diagram),
	}
	if len(a.Choices.DopUps) > 0 || !a.Choices.Cheats.Usual() {
		v.dial = func(place int) gear.Position { return a.Planned(place).Position }
	}
	out := viewOf(a.Stone, v)
	for i := range out.Tiers {
		if len(a.Choices.DopUps) > 0 {
			out.Tiers[i].Up = ""
		}
	}
	return out
}
