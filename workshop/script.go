package workshop

import (
	"context"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/heights"
	"cressa/workshop/journal"
)

// Script is everything the bench needs to cut a stone without asking again: the
// visits in order and the facets they are to. It follows from the plan alone.
type Script struct {
	Assessment *Assessment
	Setups     []Setup
	Passes     []Pass
	Facets     []ScriptFacet
	// Visits are in the order of the work.
	Visits []ScriptVisit
	// Steps holds the solid after each facet's first cut, in the order of Facets,
	// the preform first.
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
	// Setup is the place of its setup.
	Setup int
	Dial  gear.Position
	// Angle is in degrees. Below and Above are its settable neighbours on this
	// machine, equal where it can be set as it is. Reading is what the protractor
	// shows: another figure where its zero is off.
	Angle, Below, Above, Reading float64
	// CheatTurns is the cheat in turns of the cheater's knob, 0 where it does not
	// count in turns.
	CheatTurns float64
	Target     r3.Vec
	AtMeet     bool
	// Free is where it lies in mm if its stop is missing when it is cut, nil where it is there.
	Free *cutting.Free
	// Deeper is by how many mm it was set deeper than its stop has it, TakeMM what comes off a facet that was cut before, in mm; 0
	// where its stop tells all.
	Deeper, TakeMM float64
}

// ScriptVisit is a visit with the place of its facet in Script.Facets.
type ScriptVisit struct {
	Setup, Pass string
	// Adapter tells that the stone sits on the table adapter.
	Adapter bool
	Facet   FacetID
	FacetNo int
	// Clears is the pass whose marks this one takes off the facet, "" where it cuts it first.
	Clears string
	// Round numbers the rounds: facets that follow each other in a pass with the protractor
	// untouched. Block numbers the visits to one tier in a pass; those of a table that goes
	// through all its passes are one block.
	Round, Block int
	// RoundEnd and BlockEnd are the places in Script.Visits after the last visit of its round
	// and of its tier in its pass: what Done ticks by habit.
	RoundEnd, BlockEnd int
	// Now and After are the steps of the picture before and after the cut.
	Now, After int
	// Spare is by how many mm the girdle is left thicker than planned by this visit.
	Spare float64
	// Move is what the hand does to get here from the visit before.
	Move Move
}

// Move is what is changed at the machine between two visits.
type Move struct {
	// First tells that this visit is the first of its setup: everything is set anew.
	First bool
	// Pass tells that another pass begins, with another lap.
	Pass bool
	// From is the reading of the protractor that is left, in degrees, nil where it stays.
	From *float64
	// Teeth is how far the index moves on, or back where it is negative: the shorter way
	// round the gear, and on where both are as long.
	Teeth int
}

// Script lays out the present work on a stone. It returns the errors of AssessStone.
func (s *Stones) Script(ctx context.Context, stone Stone) (*Script, error) {
	a, err := s.AssessStone(ctx, stone)
	if err != nil {
		return nil, err
	}
	plan := stone.Work().Plan
	out := &Script{Assessment: a, Setups: plan.Setups, Passes: plan.Choices.Passes}
	at := places(a.Stone)
	order := make([]int, len(plan.Facets))
	for i, f := range plan.Facets {
		place, ok := at[facetKey{f.Tier, f.Index}]
		if !ok {
			return nil, errPlanBroken
		}
		facet, err := a.scriptFacet(place, f)
		if err != nil {
			return nil, err
		}
		facet.Deeper = a.Stone.Facets[place].Deeper * a.MM
		if plan.Mended != nil {
			facet.TakeMM = plan.Mended.Take[f.ID] * a.MM
		}
		order[i] = place
		out.Facets = append(out.Facets, facet)
	}
	began, err := plan.Came.solid(a.Stone, a.MM, plan.names(a.Stone))
	if err != nil {
		return nil, err
	}
	solids, err := a.Stone.Replay(began, order)
	if err != nil {
		return nil, err
	}
	out.Steps = cutting.Steps(solids, order)
	out.Visits = visits(out, plan.Runs, plan.Choices.Gear)
	out.spare(plan.Choices.GirdleSpare)
	return out, nil
}

// spare leaves the girdle thicker by so many mm with the first lap of the last side, for facets that another lap takes
// down: all of that side that stand aslant, since they stop at one another. A solid over several dop-ups has no such side.
func (s *Script) spare(mm float64) {
	last := len(s.Setups) - 1
	if last < 1 || len(s.Assessment.Choices.DopUps) > 0 {
		return
	}
	again := map[int]bool{}
	for i := len(s.Visits) - 1; i >= 0; i-- {
		v := &s.Visits[i]
		f := s.Facets[v.FacetNo]
		if f.Setup == last && !v.Adapter && v.Clears == "" && again[v.FacetNo] && f.Angle > 0 && f.Angle < 90 {
			v.Spare = mm
		}
		again[v.FacetNo] = true
	}
}

// VisitName is what a visit is called at the wheel.
type VisitName struct {
	Tier  string
	Tooth int
	Pass  string
}

// Names returns what a visit of a stone's plan is called, false where the plan has no such facet.
func (a *Assessment) Names(p *Plan, v journal.Visit) (VisitName, bool) {
	at := places(a.Stone)
	for _, f := range p.Facets {
		place, there := at[facetKey{f.Tier, f.Index}]
		if f.ID != v.Facet || !there {
			continue
		}
		facet, err := a.scriptFacet(place, f)
		out := VisitName{Tier: facet.Tier, Tooth: facet.Dial.Tooth}
		for _, pass := range p.Choices.Passes {
			if pass.ID == v.Pass {
				out.Pass = pass.Name
			}
		}
		return out, err == nil
	}
	return VisitName{}, false
}

// Touch returns how the facet with a place in Facets comes in on the stone as it is before its first
// cut. It is empty where the facet takes nothing off.
func (s *Script) Touch(i int) cutting.Touch {
	out, _ := s.Assessment.Stone.Facets[s.Facets[i].No].Touch(s.Steps[i].Solid)
	return out
}

// Division returns what one division of the height dial does to a facet, false where there is no dial. A solid has no girdle that it
// thins, nor does a girdle facet that is dialled aslant.
func (a *Assessment) Division(f ScriptFacet) (Division, bool) {
	out, ok := a.Machine.Division(f.Angle)
	if len(a.Choices.DopUps) > 0 || f.Part == diagram.Girdle {
		out.Girdle = 0
	}
	return out, ok
}

// Cut returns the facet with a place in Facets as the height dial sees it.
func (s *Script) Cut(i int) heights.Cut {
	a := s.Assessment
	return heights.Cut{Angle: s.Facets[i].Angle, Distance: -a.Stone.Facets[s.Facets[i].No].Plane.Above(a.Middle()) * a.MM}
}

// ReadWell returns the places of the facets whose readings of the height dial foretell most of the tiers that
// follow: two in each setup, none where there is no dial or nothing can be foretold.
func (s *Script) ReadWell() []int {
	out := []int{}
	if s.Assessment.Machine.HeightStep == 0 {
		return out
	}
	for no := range s.Setups {
		var first []int
		var cuts []heights.Cut
		for _, v := range s.Visits {
			f := s.Facets[v.FacetNo]
			known := slices.ContainsFunc(first, func(i int) bool { return s.Facets[i].Tier == f.Tier })
			if f.Setup == no && !v.Adapter && !known {
				first, cuts = append(first, v.FacetNo), append(cuts, s.Cut(v.FacetNo))
			}
		}
		if pair, ok := heights.BestPair(cuts); ok {
			out = append(out, first[pair.First], first[pair.Second])
		}
	}
	return out
}

func (a *Assessment) scriptFacet(place int, planned PlannedFacet) (ScriptFacet, error) {
	f := a.Stone.Facets[place]
	t := a.Stone.Diagram.Tiers[f.Tier]
	out := ScriptFacet{
		ID: planned.ID, No: place, TierNo: f.Tier, Tier: t.Name, Part: t.Part, Setup: -1,
		Target: f.Target, AtMeet: f.AtMeet,
	}
	if a.Free != nil && a.Free[place] != nil {
		free := *a.Free[place]
		out.AtMeet, out.Free = false, &cutting.Free{Distance: free.Distance * a.MM, Across: free.Across * a.MM}
	}
	for no, setup := range a.Setups {
		if setup.ID == planned.Setup {
			set, err := gear.Dial(f.Plane.Normal, setup.Pose)
			if err != nil {
				return out, err
			}
			out.Setup, out.Dial, out.Angle = no, set.Position, set.Angle
		}
	}
	if out.Setup < 0 {
		return out, errPlanBroken
	}
	out.Reading = a.Machine.Reading(out.Angle)
	out.Below, out.Above = a.Machine.SettableAngles(out.Angle)
	out.CheatTurns, _ = a.Machine.CheatTurns(out.Dial.Cheat)
	return out, nil
}

// visits lists the visits of a script whose facets are known, on a gear of so many teeth.
func visits(s *Script, runs []PlannedRun, teeth int) []ScriptVisit {
	at := make(map[FacetID]int, len(s.Facets))
	for i, f := range s.Facets {
		at[f.ID] = i
	}
	var out []ScriptVisit
	before := map[FacetID]string{}
	cut := 0
	for _, run := range runs {
		for i, id := range run.Facets {
			no := at[id]
			v := ScriptVisit{Setup: run.Setup, Pass: run.Pass, Adapter: run.Adapter, Facet: id, FacetNo: no, Clears: before[id], Now: cut}
			// What was cut before keeps its place in the picture.
			if v.Clears == "" {
				cut = no + 1
			}
			v.After, before[id] = cut, run.Pass
			if n := len(out); n == 0 {
				v.Move.First, v.Round = true, 1
			} else {
				last := out[n-1]
				v.Move, v.Round, v.Block = s.move(last, v, teeth), last.Round, last.Block
				if i == 0 || s.Facets[last.FacetNo].Angle != s.Facets[no].Angle || s.Facets[last.FacetNo].Part != s.Facets[no].Part {
					v.Round++
				}
				stays := last.Adapter && run.Adapter
				if i == 0 && !stays || s.Facets[last.FacetNo].Tier != s.Facets[no].Tier {
					v.Block++
				}
			}
			out = append(out, v)
		}
	}
	for i := len(out) - 1; i >= 0; i-- {
		v := &out[i]
		v.RoundEnd, v.BlockEnd = i+1, i+1
		if i+1 < len(out) && out[i+1].Round == v.Round {
			v.RoundEnd = out[i+1].RoundEnd
		}
		if i+1 < len(out) && out[i+1].Block == v.Block && out[i+1].Pass == v.Pass {
			v.BlockEnd = out[i+1].BlockEnd
		}
	}
	return out
}

func (s *Script) move(from, to ScriptVisit, teeth int) Move {
	if from.Setup != to.Setup {
		return Move{First: true}
	}
	out := Move{Pass: from.Pass != to.Pass}
	was, is := s.Facets[from.FacetNo], s.Facets[to.FacetNo]
	if was.Reading != is.Reading {
		out.From = &was.Reading
	}
	out.Teeth = ((is.Dial.Tooth-was.Dial.Tooth)%teeth + teeth) % teeth
	if 2*out.Teeth > teeth {
		out.Teeth -= teeth
	}
	return out
}

// TransferChecks lists what is always checked when the stone is turned over, in order; the adhesives have steps of
// their own beside.
var TransferChecks = []string{"second-dop", "bond", "release", "turn", "companions", "first-tier"}

// AdapterChecks lists what is checked when the stone goes onto the table adapter, in order.
var AdapterChecks = []string{"adapter-fit", "adapter-level"}

// ReglueChecks lists what is checked when a stone came off its dop, in order.
var ReglueChecks = []string{"found", "clean", "glued", "bond-again", "line-up"}

// LinedUp is what the log calls it when a stone that came off sits again as it sat before.
const LinedUp = "lined-up"

// What the log calls it when the stone sits level on the table adapter, and when that is off again.
const (
	adapterIsOn  = "adapter-on"
	adapterIsOff = "adapter-off"
)
