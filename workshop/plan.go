package workshop

import (
	"context"
	"fmt"
	"slices"
	"time"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/material"
	"cressa/workshop/journal"
)

// Plan is one revision of what is to be cut. It is never changed; a change of plan is a new
// revision and an event in the log. A stone is cut from what its plan holds and nothing
// else: rules by which plans are made may change, a plan that was made does not.
type Plan struct {
	No int
	// DiagramID is the diagram it was planned from and DiagramName what that was called,
	// Revision what it held then. A new plan begins with these.
	DiagramID, DiagramName, Revision string
	// AsCut is the revision that is cut: another one where habits or the side cut first
	// have changed the order.
	AsCut   string
	Choices Choices
	// Layer is what was changed at the wheel, over the diagram as the habits have it.
	Layer []TierChange
	// Mended is what was mended, over the layer; nil where nothing was.
	Mended *Mended
	// Came is the finished stone that a recut begins with; nil where it is cut out of rough.
	Came *Came
	// Over is the number of the plan before, where this one can be taken back as long as nothing is cut to it; 0 where it cannot.
	Over int
	// Machine and Material are what the choices name, as they were.
	Machine  Machine
	Material material.Material
	// Turns are those that the stone is given for its gear.
	Turns cutting.Turns
	// Setups are the dop-ups in order, Facets what is cut, in the order in which each is first
	// cut, Runs the whole work in its order.
	Setups []Setup
	Facets []PlannedFacet
	Runs   []PlannedRun
	// Left names habits that the diagram did not allow.
	Left    []diagram.Problem
	Created time.Time
}

// Setup is one dop-up: how the stone stands on the machine.
type Setup struct {
	ID   string
	Pose gear.Pose
}

// Side returns the side that a setup has up, "" where it is neither.
func (s Setup) Side() diagram.Part {
	const along = 1 - 1e-9
	switch {
	case s.Pose.Up.Z > along:
		return diagram.Crown
	case s.Pose.Up.Z < -along:
		return diagram.Pavilion
	}
	return ""
}

// PlannedFacet is a facet of the diagram as it is cut.
type PlannedFacet struct {
	// ID is the name under which the log knows the facet. It stays with it when a tier is
	// renamed or moved, and on another gear.
	ID FacetID
	// Tier is the tier's place in the diagram as cut, Index the written index there.
	Tier  int
	Index float64
	// Setup is the ID of the setup that it is cut in.
	Setup string
}

// PlannedRun is a stretch of the work: facets that follow one another in one pass of one setup.
type PlannedRun struct {
	Setup, Pass string
	// Adapter tells that the stone sits on the table adapter.
	Adapter bool
	Facets  []FacetID
}

// FacetID is the name under which the log knows a facet.
type FacetID = string

// Asked returns what the plan asks for at the wheel.
func (p *Plan) Asked() journal.Asked {
	out := journal.Asked{No: p.No, Runs: make([]journal.AskedRun, len(p.Runs))}
	for i, r := range p.Runs {
		out.Runs[i] = journal.AskedRun{Setup: r.Setup, Pass: r.Pass, Facets: r.Facets}
	}
	uses := func(t journal.AskedThing) {
		if t.Item != "" {
			out.Things = append(out.Things, t)
		}
	}
	for _, pass := range p.Choices.Passes {
		uses(journal.AskedThing{Pass: pass.ID, Item: pass.LapItem, With: pass.CompoundItem})
		uses(journal.AskedThing{Pass: pass.ID, Item: pass.CompoundItem, With: pass.LapItem})
	}
	for i, hold := range p.Choices.Holds {
		if i < len(p.Setups) {
			uses(journal.AskedThing{Setup: p.Setups[i].ID, Item: hold.DopItem})
			uses(journal.AskedThing{Setup: p.Setups[i].ID, Item: hold.AdhesiveItem})
		}
	}
	return out
}

// forAnother returns the plan for another stone, with setups of its own.
func (s *Stones) forAnother(p Plan) Plan {
	names := map[string]string{}
	p.Setups = slices.Clone(p.Setups)
	for i := range p.Setups {
		names[p.Setups[i].ID] = s.newID()
		p.Setups[i].ID = names[p.Setups[i].ID]
	}
	p.Facets = slices.Clone(p.Facets)
	for i := range p.Facets {
		p.Facets[i].Setup = names[p.Facets[i].Setup]
	}
	p.Runs = slices.Clone(p.Runs)
	for i := range p.Runs {
		p.Runs[i].Setup = names[p.Runs[i].Setup]
	}
	return p
}

// Size says how large the stone is to be.
type Size struct {
	// Basis is what the figure measures; Tier names the girdle tier where that is its flats.
	Basis Basis   `validate:"oneof=width length flats"`
	Tier  string  `validate:"max=12"`
	MM    float64 `validate:"min=0.1,max=500"`
	// Typed is the figure as it was typed.
	Typed string `validate:"max=40"`
}

// Basis is what a size measures.
type Basis string

// What a size may measure.
const (
	AcrossWidth Basis = "width"
	AlongLength Basis = "length"
	AcrossFlats Basis = "flats" // of a girdle tier, from flat to opposite flat
)

// Choices are what a cutter decides when planning a stone.
type Choices struct {
	Material string `validate:"required,max=60"`
	// Machine is the ID of the machine it is cut on; the default where it is gone.
	Machine   string `validate:"max=40"`
	Gear      int    `validate:"min=1,max=360"`
	Size      Size
	FirstSide diagram.Part `validate:"oneof=pavilion crown"`
	PlanHabits
	Laps
	// Cheats say which teeth are dialled where facets lie between them, on a machine with a cheater.
	Cheats gear.Cheating
	// DopUps are the facets that face up one time after the other, for a solid that is held otherwise than with one side up and then
	// the other; none for that.
	DopUps []DopUp `validate:"max=24,dive"`
	// Holds is how the stone is held in each setup, in their order; there may be fewer.
	Holds []Hold `validate:"max=24,dive"`
}

// Propose returns what a plan of a diagram begins with: the material whose index is
// nearest to the diagram's, the best of the machine's gears, and the habits as far as the
// diagram allows them, with what the material is usually polished with. A recut of a stone begins with its material and a size that leaves
// four fifths of it; "" is a new stone. It returns ErrNotFound for an unknown diagram or
// stone, ErrNotKept for a draft without a kept version, and ErrNotFinished for a recut of
// a stone that is still being cut.
func (s *Stones) Propose(ctx context.Context, diagramID, stoneID string) (Choices, error) {
	hash, err := s.library.freeze(ctx, diagramID, "")
	if err != nil {
		return Choices{}, err
	}
	r, err := s.library.Revision(ctx, hash)
	if err != nil {
		return Choices{}, err
	}
	settings, err := s.preferences.Settings(ctx)
	if err != nil {
		return Choices{}, err
	}
	stone, err := cutting.Cut(r.Diagram)
	if err != nil {
		return Choices{}, err
	}
	habits, machine := settings.HabitsOf(""), settings.MachineOf("")
	c := Choices{
		Machine: machine.ID, Gear: r.Diagram.Gear, FirstSide: habits.side(r.Diagram), PlanHabits: habits.PlanHabits,
		Size: Size{Basis: AcrossWidth, MM: 8, Typed: "8"}, Laps: habits.Laps, Holds: habits.Holds,
	}
	if ranked := stone.RankGears(machine.Gears); len(ranked) > 0 {
		c.Gear = ranked[0].Teeth
	}
	if c.FirstSide != r.Diagram.FirstSide {
		if _, err := cutting.OtherSideFirst(stone); err != nil {
			c.FirstSide = r.Diagram.FirstSide
		}
	}
	if m, ok := material.Suiting(r.Diagram.RefractiveIndex, settings.AllMaterials()); ok {
		c.Material = m.Name
	}
	if stoneID != "" {
		if err := s.proposeRecut(ctx, stoneID, r.Diagram, settings, &c); err != nil {
			return c, err
		}
	}
	m, known := settings.Material(c.Material)
	if !known {
		return c, nil
	}
	return c, s.kit.propose(ctx, m, &c)
}

// PlanStone adds a stone with its first plan. It returns the errors of Assess; after one
// there is no stone.
func (s *Stones) PlanStone(ctx context.Context, name, diagramID string, c Choices) (Stone, error) {
	return s.PlanFrom(ctx, name, diagramID, "", c)
}

// newStone makes a stone with its first plan, not stored yet.
func (s *Stones) newStone(name string, plan Plan) Stone {
	now := s.moment()
	return Stone{
		ID: s.newID(), Name: name, Created: now, Version: 1,
		Works: []Work{{ID: s.newID(), Task: FirstCut{}, Created: now, Plan: &plan}},
	}
}

// firstPlan makes the first plan of a work, and tells what it comes to. An empty revision means the
// diagram's present one.
func (s *Stones) firstPlan(ctx context.Context, diagramID, revision string, c Choices) (Plan, *Assessment, error) {
	plan, a, err := s.newPlan(ctx, diagramID, revision, c, nil)
	if err != nil {
		return plan, nil, err
	}
	names := make([]FacetID, len(a.Stone.Facets))
	for i := range names {
		names[i] = facetName(i)
	}
	plan.No = 1
	plan.Setups = s.named(a.Setups, nil)
	plan.layOut(a.Stone, a.In, names)
	return plan, a, nil
}

// newPlan assesses the choices, puts a layer over them and freezes what they name. An empty revision means the
// diagram's present one.
func (s *Stones) newPlan(ctx context.Context, diagramID, revision string, c Choices, layer []TierChange) (Plan, *Assessment, error) {
	c.PlanHabits = c.withDefaults()
	if c.Holds == nil {
		c.Holds = []Hold{}
	}
	plan := Plan{DiagramID: diagramID, Choices: c, Created: s.moment()}
	if err := Validate(c); err != nil {
		return plan, nil, err
	}
	var err error
	if c, err = s.kit.name(ctx, c); err != nil {
		return plan, nil, err
	}
	plan.Choices = c
	if plan.Revision, err = s.library.freeze(ctx, diagramID, revision); err != nil {
		return plan, nil, err
	}
	a, err := s.assessRevision(ctx, plan.Revision, c)
	if err != nil {
		return plan, nil, err
	}
	if plan.Layer, err = a.adapt(layer); err != nil {
		return plan, nil, err
	}
	r, err := s.library.revisionOf(a.Stone.Diagram)
	if err != nil {
		return plan, nil, err
	}
	if err := s.library.store.InsertRevision(ctx, *r); err != nil {
		return plan, nil, err
	}
	plan.AsCut, plan.Turns, plan.DiagramName, plan.Left = r.Hash, a.Turns, r.Facts.Name, a.Left
	plan.Machine, plan.Material = a.Machine, a.Material
	return plan, a, nil
}

// named names setups, each as the one before in its place was named.
func (s *Stones) named(setups, before []Setup) []Setup {
	out := slices.Clone(setups)
	for i := range out {
		if i < len(before) {
			out[i].ID = before[i].ID
		} else {
			out[i].ID = s.newID()
		}
	}
	return out
}

// cutPlan cuts the diagram that a plan has frozen, and what was mended of it, and tells how many mm a unit of it is.
func (s *Stones) cutPlan(ctx context.Context, p Plan) (stone *cutting.Stone, mm float64, err error) {
	r, err := s.library.Revision(ctx, p.AsCut)
	if err != nil {
		return nil, 0, err
	}
	if stone, err = cutting.Cut(r.Diagram); err != nil {
		return nil, 0, err
	}
	// The size is that of the stone as it was planned: what is mended may be smaller.
	if mm, err = scale(stone, p.Choices.Size); err != nil {
		return nil, 0, err
	}
	stone, err = p.Mended.cut(stone, p.names(stone))
	return stone, mm, err
}

// errPlanBroken: a plan names facets or setups that are not there.
var errPlanBroken = fmt.Errorf("%w: the plan does not fit its diagram", ErrUnreadable)
