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
	// machine, equal where it can be set as it is.
	Angle, Below, Above float64
	Target              r3.Vec
	AtMeet              bool
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
	settings, err := w.Settings(ctx)
	if err != nil {
		return nil, err
	}
	out := &Script{Assessment: a, Setups: s.Work.Setups, Passes: s.Work.Plan.Choices.Passes}
	var order []int
	for no, setup := range s.Work.Setups {
		for i, f := range a.Stone.Facets {
			t := a.Stone.Diagram.Tiers[f.Tier]
			if a.Stone.Diagram.CutWith(t.Part) != setup.Up {
				continue
			}
			order = append(order, i)
			sf := ScriptFacet{
				ID: s.Work.Plan.Facets[i], No: i, TierNo: f.Tier, Tier: t.Name, Part: t.Part, Setup: no,
				Dial: a.Stone.Dial(f, s.Work.Plan.Choices.Gear, setup.Turn), Angle: t.Angle,
				Target: f.Target, AtMeet: f.AtMeet,
			}
			sf.Below, sf.Above = settings.SettableAngles(t.Angle)
			out.Facets = append(out.Facets, sf)
		}
	}
	out.Steps = cutting.Steps(a.Stone.Replay(order), order)
	out.Visits = visits(out)
	return out, nil
}

func visits(s *Script) []ScriptVisit {
	var out []ScriptVisit
	round := 0
	for no, setup := range s.Setups {
		for _, pass := range s.Passes {
			last := -1
			for i, f := range s.Facets {
				if f.Setup != no {
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
