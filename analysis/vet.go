package analysis

import (
	"context"
	"math"
	"slices"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/dopping"
	"cressa/core/material"
	"cressa/core/rough"
	"cressa/workshop"
)

// Topic is what is looked at before a stone is glued.
type Topic string

// The topics, in the order of the work.
const (
	OfRough    Topic = "rough"
	OfFlaw     Topic = "flaw"
	OfMargin   Topic = "margin"
	OfGear     Topic = "gear"
	OfAngle    Topic = "angle"
	OfSense    Topic = "sense"
	OfStop     Topic = "stop"
	OfGirdle   Topic = "girdle"
	OfFacet    Topic = "facet"
	OfFoot     Topic = "foot"
	OfDop      Topic = "dop"
	OfQuill    Topic = "quill"
	OfAdhesive Topic = "adhesive"
	OfBottle   Topic = "bottle"
)

// ThreeCornered is the code of a foot that touches a cone along three lines alone.
const ThreeCornered = "three-cornered"

// Verdict is how a finding stands.
type Verdict string

// The verdicts. What nobody knows is open, as what needs care.
const (
	Fine    Verdict = "fine"
	Unknown Verdict = "unknown"
	Care    Verdict = "care"
	Grave   Verdict = "grave"
)

// Finding is one thing that was looked at.
type Finding struct {
	Topic   Topic
	Verdict Verdict
	// Code tells cases of a topic apart: a fault of a dop, a concern of an adhesive, a problem's code.
	Code string
	// Tier is the name of the tier that decides, Side what is up: a side, or the facet that a solid is held with facing up; "" where neither matters.
	Tier string
	Side string
	// Name is what a dop, an adhesive, a flaw or a lap is called.
	Name string
	// Value is the figure and Limit what it is held against, in the topic's own unit.
	Value, Limit float64
	// Problem is what another judge has found, nil for none, Bottle an adhesive of the kit.
	Problem *diagram.Problem
	Bottle  *workshop.Shelved
}

// Open tells that a finding is not fine.
func (f Finding) Open() bool { return f.Verdict != Fine }

// Vetter is what of the workshop is asked for a check.
type Vetter interface {
	Gluer
	LadderFor(ctx context.Context, m material.Material, passes []workshop.Pass) (workshop.Ladder, error)
}

// Vet goes through all that could go wrong with a planned stone on its machine. Errors are those of
// AssessStone.
func Vet(ctx context.Context, shop Vetter, stone workshop.Stone) (*Gluing, []Finding, error) {
	g, err := GluingOf(ctx, shop, stone)
	if err != nil {
		return nil, nil, err
	}
	a := g.Assessment
	ladder, err := shop.LadderFor(ctx, a.Material, a.Choices.Passes)
	if err != nil {
		return nil, nil, err
	}
	v := vet{g: g}
	if _, first := stone.Work().Task.(workshop.FirstCut); first {
		v.rough()
	}
	v.margin()
	v.gear()
	v.angles()
	v.sense()
	v.stops()
	v.girdle()
	v.facets(ladder)
	for i := range g.Mounting {
		v.hold(i)
	}
	return g, v.found, nil
}

type vet struct {
	g     *Gluing
	found []Finding
}

func (v *vet) add(f Finding) { v.found = append(v.found, f) }

// judged gives a finding the gravest of verdicts that apply.
func judged(f Finding, grave, care bool) Finding {
	switch {
	case grave:
		f.Verdict = Grave
	case care:
		f.Verdict = Care
	default:
		f.Verdict = Fine
	}
	return f
}

// hair is what figures in mm may miss by and still read as what they are held against.
const hair = 0.005

func (v *vet) rough() {
	a, from := v.g.Assessment, v.g.Source
	if from == nil {
		v.add(Finding{Topic: OfRough, Verdict: Unknown, Code: "not-on-record", Value: a.HeightMM + v.g.Allowance.Side + v.g.Allowance.Foot, Limit: a.WidthMM + 2*v.g.Allowance.Side})
		return
	}
	if found := v.g.found(); found == nil {
		v.add(Finding{Topic: OfRough, Verdict: Unknown, Code: "not-searched", Value: a.WidthMM})
	} else {
		v.add(judged(Finding{Topic: OfRough, Code: "width", Value: a.WidthMM, Limit: found.Width}, a.WidthMM > found.Width+hair, false))
	}
	left := 0
	for i, f := range from.Rough.Flaws {
		if f.Rule != rough.Out {
			left++
			v.add(Finding{Topic: OfFlaw, Verdict: Care, Code: string(f.Rule), Name: f.Name, Value: float64(i + 1)})
		}
	}
	if left == 0 {
		v.add(Finding{Topic: OfFlaw, Verdict: Fine, Value: float64(len(from.Rough.Flaws))})
	}
}

func (v *vet) margin() {
	a := v.g.Assessment
	if lead := angles.Shallowest(a.Stone); lead >= 0 {
		m := *a.Margins[lead]
		j := workshop.JudgeMargin(m)
		at := Finding{Topic: OfMargin, Tier: a.Stone.Diagram.Tiers[lead].Name, Value: m, Limit: workshop.CautiousMargin}
		v.add(judged(at, j == workshop.MarginError, j == workshop.MarginCaution))
	}
	for _, p := range a.Leaking {
		v.add(Finding{Topic: OfMargin, Verdict: Care, Code: string(p.Code), Tier: p.Tier, Problem: &p})
	}
}

func (v *vet) gear() {
	a := v.g.Assessment
	f := Finding{Topic: OfGear, Value: a.LargestCheat, Limit: float64(a.Choices.Gear)}
	if !slices.Contains(a.Machine.Gears, a.Choices.Gear) {
		f.Code, f.Verdict = "missing", Grave
		v.add(f)
		return
	}
	noCheater := a.Machine.Cheater == workshop.CheaterNone
	if a.LargestCheat > 0 && noCheater {
		f.Code = "no-cheater"
	}
	v.add(judged(f, a.LargestCheat > 0 && noCheater, a.LargestCheat > 0))
}

func (v *vet) angles() {
	a := v.g.Assessment
	n := 0
	for _, p := range a.Machine.Obstacles(a.Stone) {
		if p.Code == workshop.NoGearCarries {
			continue
		}
		n++
		v.add(judged(Finding{Topic: OfAngle, Code: string(p.Code), Tier: p.Tier, Problem: &p}, p.Code != workshop.AngleBetweenSteps, true))
	}
	if n == 0 {
		v.add(Finding{Topic: OfAngle, Verdict: Fine})
	}
}

func (v *vet) sense() {
	matters := slices.ContainsFunc(v.g.Assessment.Stone.Warnings, func(p diagram.Problem) bool { return p.Code == cutting.SenseMatters })
	v.add(judged(Finding{Topic: OfSense}, false, matters))
}

// stops looks at tiers that stop neither at a meet nor at a size that calipers read.
func (v *vet) stops() {
	d := v.g.Assessment.Stone.Diagram
	n := 0
	for _, no := range cutting.ByEye(d) {
		if k := d.Tiers[no].Stop.Kind; k == diagram.Along || k == diagram.Depth {
			n++
			v.add(Finding{Topic: OfStop, Verdict: Care, Code: string(k), Tier: d.Tiers[no].Name, Value: d.Tiers[no].Stop.Figure()})
		}
	}
	if n == 0 {
		v.add(Finding{Topic: OfStop, Verdict: Fine})
	}
}

func (v *vet) girdle() {
	a := v.g.Assessment
	for _, p := range a.Girdle {
		v.add(Finding{Topic: OfGirdle, Verdict: Care, Code: string(p.Code), Value: p.Value, Problem: &p})
	}
	if len(a.Girdle) == 0 && a.GirdleMaxMM > 0 {
		v.add(Finding{Topic: OfGirdle, Verdict: Fine, Value: a.GirdleMinMM, Limit: a.GirdleMaxMM})
	}
}

// grainsAcross is how many mean grains a facet should be broad: its lap leaves damage two or three deep,
// from every side.
const grainsAcross = 10

// facets looks for the facet that is the smallest against the coarsest grit it is cut with.
func (v *vet) facets(ladder workshop.Ladder) {
	a := v.g.Assessment
	worst := Finding{Topic: OfFacet, Value: math.Inf(1)}
	most := 0.0
	for no, breadth := range a.Stone.Breadths() {
		t := a.Stone.Diagram.Tiers[no]
		for _, r := range ladder.Rungs {
			if r.Grain == 0 || !slices.ContainsFunc(a.Choices.Of(t), func(p workshop.Pass) bool { return p.ID == r.Pass.ID }) {
				continue
			}
			limit := grainsAcross * r.Grain / 1000
			if ratio := limit / (breadth * a.MM); ratio > most {
				most = ratio
				worst.Tier, worst.Name, worst.Value, worst.Limit = t.Name, r.Pass.Lap, breadth*a.MM, limit
			}
		}
	}
	if most == 0 {
		v.add(Finding{Topic: OfFacet, Verdict: Unknown})
		return
	}
	v.add(judged(worst, false, most > 1))
}

// hold looks at how the stone is held for one setup: its end, the dop, the quill and the adhesive.
func (v *vet) hold(i int) {
	a, m := v.g.Assessment, v.g.Mounting[i]
	if i > 0 {
		at := Finding{Topic: OfFoot, Side: m.Up, Code: string(m.Foot.Underside), Value: m.Foot.Size}
		noTable := m.Up == string(diagram.Pavilion) && m.Foot.Underside != dopping.Level
		if m.Foot.ThreeCornered() && !noTable {
			at.Code = ThreeCornered
		}
		v.add(judged(at, false, noTable || m.Foot.ThreeCornered()))
	}
	best := m.Options[0]
	if m.Taken == nil {
		v.add(Finding{Topic: OfDop, Verdict: Unknown, Code: "none", Side: m.Up, Name: best.Name, Value: best.Dop.Diameter, Limit: best.Least()})
		return
	}
	d := *m.Taken
	tierAt := func(room int) string {
		if room < 0 {
			return ""
		}
		return a.Stone.Diagram.Tiers[a.Stone.Facets[d.Rooms[room].Facet].Tier].Name
	}
	at := Finding{Topic: OfDop, Side: m.Up, Name: d.Name, Tier: tierAt(d.Tightest)}
	for _, f := range d.Faults {
		at.Code, at.Tier, at.Value, at.Limit = string(f), tierAt(d.Tightest), d.Least(), dopping.LeastRoom
		switch f {
		case dopping.NoRim:
			at.Value, at.Limit = d.Rim, dopping.LeastRim
		case dopping.OverRim:
			at.Tier, at.Value, at.Limit = tierAt(d.QuillAt), d.LeastQuill(), 0
		}
		v.add(judged(at, f.Grave(), true))
	}
	if len(d.Faults) == 0 {
		at.Verdict, at.Value, at.Limit = Fine, d.Least(), dopping.LeastRoom
		v.add(at)
	}
	if !v.g.machine.Known() {
		v.add(Finding{Topic: OfQuill, Verdict: Unknown, Side: m.Up, Name: a.Machine.Name})
	}
	v.bond(i, d)
}

func (v *vet) bond(i int, d DopOption) {
	a, m := v.g.Assessment, v.g.Mounting[i]
	var hold workshop.Hold
	if i < len(a.Choices.Holds) {
		hold = a.Choices.Holds[i]
	}
	glue, bottle, known := hold.AdhesiveOf(v.g.shelf)
	if !known {
		best := d.Bonds[0]
		v.add(Finding{Topic: OfAdhesive, Verdict: Unknown, Code: "none", Side: m.Up, Name: string(best.Adhesive.Sort), Value: best.Bears})
		return
	}
	bond := d.Seat.Glue(glue, a.Material, d.Lever)
	at := Finding{Topic: OfAdhesive, Side: m.Up, Name: hold.Adhesive, Value: bond.Bears, Limit: bond.Contact}
	for _, c := range bond.Concerns {
		at.Code = string(c)
		v.add(judged(at, c.Grave(), true))
	}
	if len(bond.Concerns) == 0 {
		at.Verdict = Fine
		v.add(at)
	}
	if bottle != nil {
		for _, n := range bottle.Needs {
			v.add(judged(Finding{Topic: OfBottle, Side: m.Up, Code: string(n), Bottle: bottle}, n.Grave(), true))
		}
	}
}
