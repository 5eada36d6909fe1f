package workshop

import (
	"context"
	"fmt"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/gear"
	"cressa/workshop/journal"
)

// FlushFacet is a facet that can be brought flush with the lap, to find how a stone sits.
type FlushFacet struct {
	ID FacetID
	// Place is that among the stone's facets, and so the ID of its face, and Tier the name of its tier. A facet that a stone came with
	// and the plan does not have lies behind those; its Tier is "", and Old is its number from 1.
	Place int
	Tier  string
	Old   int
	// Set is where it is dialled on a stone that sits as it was.
	Set gear.Setting
	// Spread is the standard deviation of the move in degrees, with this facet and those before it, for readings that have one
	// of a degree; +Inf where they do not tell it.
	Spread float64
}

// FoundFlush is where a facet was found when it was flush.
type FoundFlush struct {
	Facet FacetID `validate:"required,max=40"`
	Angle float64 `validate:"min=0,max=180"`
	Index float64 `validate:"min=0,max=360"`
}

// Redopped is how a stone sits after it was put back on its dop.
type Redopped struct {
	gear.Move
	// Misread lists the readings, by their places, one of which alone explains that they do not fit.
	Misread []int
	// Fits tells that no reading lies off by more than the machine repeats an angle.
	Fits bool
	// Lean is the move as a plan takes it, Tiers how everything is dialled then.
	Lean  Lean
	Tiers []LeanDial
}

// mostFlush is how many facets are proposed: two tell a move, a third finds one that was misread, the rest are for a hand that
// cannot get at one of them.
const mostFlush = 6

// FlushFacets proposes facets to bring flush in a setup of a stone's present work, those that tell most of how it sits first: of
// those that are cut, and that the machine reaches. Where none is cut of a stone that lies turned in one that came, the facets that it
// came with tell how it sits. It returns the errors of AssessStone, and NoSuchSetup.
func (s *Stones) FlushFacets(ctx context.Context, stone Stone, setup string) ([]FlushFacet, error) {
	a, err := s.AssessStone(ctx, stone)
	if err != nil {
		return nil, err
	}
	plan := stone.Work().Plan
	pose, err := plan.poseOf(setup)
	if err != nil {
		return nil, err
	}
	state, err := s.journal.WorkState(ctx, stone.Work().ID)
	if err != nil {
		return nil, err
	}
	var all []FlushFacet
	var directions []r3.Vec
	offer := func(f FlushFacet, normal r3.Vec) {
		// A facet that faces into the dop is held by it.
		set, err := gear.Dial(normal, pose)
		if err != nil || set.Angle > 90+sameSetting || !a.Machine.Reaches(set.Angle) {
			return
		}
		f.Set = set
		all = append(all, f)
		directions = append(directions, gear.Dialled{Angle: set.Angle, Index: set.Index}.Direction(pose.Gear))
	}
	names := plan.names(a.Stone)
	for place, id := range names {
		f := a.Stone.Facets[place]
		if id == "" || plan.Came.damaged(id, names) || !plan.stands(state.Folded, id) || a.Stone.Solid().Face(place) == nil {
			continue
		}
		offer(FlushFacet{ID: id, Place: place, Tier: a.Stone.Diagram.Tiers[f.Tier].Name}, f.Plane.Normal)
	}
	if len(all) == 0 && plan.Came != nil {
		worked := plan.Came.worked(a.Stone, a.MM, names)
		for i, p := range plan.Came.Planes {
			if p.Facet == "" {
				face := slices.IndexFunc(worked.Beside, func(b cutting.Beside) bool { return b.Plane.Normal == p.Normal })
				offer(FlushFacet{ID: oldFacet(i), Place: len(a.Stone.Facets) + face, Old: i + 1}, p.Normal)
			}
		}
	}
	var out []FlushFacet
	var taken []r3.Vec
	for _, i := range gear.Telling(directions, mostFlush) {
		taken = append(taken, directions[i])
		all[i].Spread = gear.MoveSpread(taken)
		out = append(out, all[i])
	}
	return out, nil
}

// oldFacet names a plane of a stone that came, by its place among those, where the plan has no facet that faces so.
func oldFacet(i int) FacetID { return fmt.Sprintf("old%d", i+1) }

// normalOf returns where a facet that was brought flush faces on the plan's stone, false where there is none of that name.
func (p *Plan) normalOf(stone *cutting.Stone, id FacetID) (r3.Vec, bool) {
	if place := p.PlaceOf(stone, id); place >= 0 {
		return stone.Facets[place].Plane.Normal, true
	}
	if p.Came != nil {
		for i, plane := range p.Came.Planes {
			if plane.Facet == "" && oldFacet(i) == id {
				return plane.Normal, true
			}
		}
	}
	return r3.Vec{}, false
}

// stands tells whether a facet is on the stone, however deep: it was cut, or the stone came with it.
func (p Plan) stands(w *journal.Work, id FacetID) bool {
	return w.HasCut(id) || p.Came != nil && slices.ContainsFunc(p.Came.Planes, func(c CamePlane) bool { return c.Facet == id })
}

// poseOf returns the pose of a setup, and NoSuchSetup where there is none of that name.
func (p Plan) poseOf(setup string) (gear.Pose, error) {
	setups, err := p.leaning(setup, Lean{})
	if err != nil {
		return gear.Pose{}, err
	}
	i := slices.IndexFunc(setups, func(s Setup) bool { return s.ID == setup })
	return p.Setups[i].Pose, nil
}

// TryMoved finds how a stone sits in a setup from facets that were brought flush. It returns the errors of AssessStone,
// NoSuchSetup, ErrNotFound for a facet that the plan does not have, and gear.ErrFewReadings and gear.ErrOneLine.
func (s *Stones) TryMoved(ctx context.Context, stone Stone, setup string, found []FoundFlush) (Redopped, error) {
	a, err := s.AssessStone(ctx, stone)
	if err != nil {
		return Redopped{}, err
	}
	plan := stone.Work().Plan
	pose, err := plan.poseOf(setup)
	if err != nil {
		return Redopped{}, err
	}
	var readings []gear.Flush
	for _, f := range found {
		if err := Validate(f); err != nil {
			return Redopped{}, err
		}
		normal, there := plan.normalOf(a.Stone, f.Facet)
		if !there {
			return Redopped{}, ErrNotFound
		}
		set, err := gear.Dial(normal, pose)
		if err != nil {
			return Redopped{}, err
		}
		readings = append(readings, gear.Flush{Nominal: gear.Dialled{Angle: set.Angle, Index: set.Index}, Found: gear.Dialled{Angle: f.Angle - a.Machine.AngleZero, Index: f.Index}})
	}
	out := Redopped{}
	if out.Move, err = pose.FindMove(readings); err != nil {
		return Redopped{}, err
	}
	limit, _, _ := a.Machine.Repeats()
	out.Fits = slices.Max(out.Residuals) <= limit
	out.Misread = pose.Misread(readings, limit)
	out.Lean = Lean{Tilt: out.Tilt, Towards: out.Towards, Twist: out.Twist}
	out.Tiers, err = s.TryLean(ctx, stone.ID, setup, out.Lean)
	return out, err
}

// CheckFacet is a facet that shows, cut first, whether a stone sits as it is dialled for: where its line on the girdle runs.
type CheckFacet struct {
	Tier string
	Set  gear.Setting
	// Ends are how thick the girdle is at both ends of the line, in mm.
	Ends [2]float64
}

// CheckFacet proposes the first facet that is still to be cut in a setup and meets the girdle, on a stone that leans so. It is nil
// where there is none. It returns the errors of AssessStone, and NoSuchSetup.
func (s *Stones) CheckFacet(ctx context.Context, stone Stone, setup string, l Lean) (*CheckFacet, error) {
	a, err := s.AssessStone(ctx, stone)
	if err != nil {
		return nil, err
	}
	plan := stone.Work().Plan
	setups, err := plan.leaning(setup, l)
	if err != nil {
		return nil, err
	}
	state, err := s.journal.WorkState(ctx, stone.Work().ID)
	if err != nil {
		return nil, err
	}
	at := places(a.Stone)
	for _, f := range plan.Facets {
		place, there := at[facetKey{f.Tier, f.Index}]
		if f.Setup != setup || !there || state.Folded.HasCut(f.ID) {
			continue
		}
		if ends, ok := a.Stone.GirdleLine(place); ok {
			i := slices.IndexFunc(setups, func(s Setup) bool { return s.ID == setup })
			set, err := gear.Dial(a.Stone.Facets[place].Plane.Normal, setups[i].Pose)
			if err != nil {
				return nil, err
			}
			return &CheckFacet{a.Stone.Diagram.Tiers[f.Tier].Name, set, [2]float64{ends[0] * a.MM, ends[1] * a.MM}}, nil
		}
	}
	return nil, nil //nolint:nilnil // There may be none.
}
