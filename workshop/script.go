package workshop

import (
	"context"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
)

// Script is everything the bench needs to cut a stone without asking again: the
// visits in order and the facets they are to.
type Script struct {
	Assessment *Assessment
	Setups     []Setup
	Passes     []Pass
	Facets     []ScriptFacet
	// Visits are in the order of the work: setup by setup, in each pass by pass,
	// in each facet by facet.
	Visits []ScriptVisit
	// Steps holds the solid after each facet's first cut, in the order of Facets,
	// the block first.
	Steps []cutting.Step
}

// ScriptFacet is a facet as it is cut.
type ScriptFacet struct {
	ID FacetID
	// No is the facet's place in the stone, and so the ID of its face.
	No     int
	TierNo int
	Tier   string
	Part   diagram.Part
	Setup  int
	Dial   gear.Position
	// Angle is in degrees. Below and Above are its settable neighbours on this
	// machine, equal where it can be set as it is. Reading is what the protractor
	// shows: another figure where its zero is off.
	Angle, Below, Above, Reading float64
	// CheatTurns is the cheat in turns of the cheater's knob, 0 where it does not
	// count in turns.
	CheatTurns float64
	Target     r3.Vec
	AtMeet     bool
	// Passes is how many of the passes the facet gets: all, but for a girdle that
	// is not polished.
	Passes int
}

// ScriptVisit is a visit with the place of its facet in Script.Facets and its
// round: facets that follow each other in a pass with the protractor untouched.
type ScriptVisit struct {
	Visit
	FacetNo int
	Round   int
}

// Script lays out the work on a stone.
func (w *Workshop) Script(ctx context.Context, s Stone) (*Script, error) {
	a, err := w.AssessStone(ctx, s)
	if err != nil {
		return nil, err
	}
	out := &Script{Assessment: a, Setups: s.Work.Setups, Passes: s.Work.Plan.Choices.Passes}
	var order []int
	for no, setup := range s.Work.Setups {
		for _, i := range a.visiting(setup.Up) {
			order = append(order, i)
			out.Facets = append(out.Facets, a.scriptFacet(i, s.Work.Plan.Facets[i], no))
		}
	}
	out.Steps = cutting.Steps(a.Stone.Replay(order), order)
	out.Visits = visits(out)
	return out, nil
}

// visiting returns the facets that are cut with a side up, as places in
// Stone.Facets: tier by tier, within a tier in the plan's visiting order.
func (a *Assessment) visiting(up diagram.Part) []int {
	var out []int
	byTier := make([][]int, len(a.Stone.Diagram.Tiers))
	for i, f := range a.Stone.Facets {
		byTier[f.Tier] = append(byTier[f.Tier], i)
	}
	for no, facets := range byTier {
		if a.Stone.Diagram.CutWith(a.Stone.Diagram.Tiers[no].Part) != up {
			continue
		}
		dials := make([]float64, len(facets))
		for k, i := range facets {
			dials[k] = a.Stone.Dial(a.Stone.Facets[i], a.Choices.Gear, a.Turns).Index
		}
		for _, k := range a.Choices.Visiting.Order(dials, a.Choices.Gear) {
			out = append(out, facets[k])
		}
	}
	return out
}

func (a *Assessment) scriptFacet(i int, id FacetID, setup int) ScriptFacet {
	f := a.Stone.Facets[i]
	t := a.Stone.Diagram.Tiers[f.Tier]
	out := ScriptFacet{
		ID: id, No: i, TierNo: f.Tier, Tier: t.Name, Part: t.Part, Setup: setup,
		Dial: a.Stone.Dial(f, a.Choices.Gear, a.Turns), Angle: t.Angle, Reading: a.Machine.Reading(t.Angle),
		Target: f.Target, AtMeet: f.AtMeet, Passes: len(a.Choices.Passes),
	}
	if t.Part == diagram.Girdle {
		out.Passes = a.Choices.GirdleFinish.Passes(out.Passes)
	}
	out.Below, out.Above = a.Machine.SettableAngles(t.Angle)
	out.CheatTurns, _ = a.Machine.CheatTurns(out.Dial.Cheat)
	return out
}

func visits(s *Script) []ScriptVisit {
	var out []ScriptVisit
	round := 0
	for no, setup := range s.Setups {
		for at, pass := range s.Passes {
			last := -1
			for i, f := range s.Facets {
				if f.Setup != no || at >= f.Passes {
					continue
				}
				if last < 0 || s.Facets[last].Angle != f.Angle || s.Facets[last].Part != f.Part {
					round++
				}
				last = i
				out = append(out, ScriptVisit{Visit{setup.ID, pass.ID, f.ID}, i, round})
			}
		}
	}
	return out
}

// TransferChecks lists what is checked when the stone is turned over, in order.
var TransferChecks = []string{"second-dop", "bond", "release", "turn", "companions", "first-tier"}
