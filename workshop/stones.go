package workshop

import (
	"context"
	"fmt"
	"math"
	"slices"
	"time"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/material"
)

// Stone is the physical thing, with a short number to write on its bag. Its work
// is what is being done to it: the first cut, later perhaps a recut.
type Stone struct {
	ID      string    `json:"id"`
	Number  int       `json:"number"`
	Name    string    `json:"name"`
	Created time.Time `json:"created"`
	Version int       `json:"version"`
	// Run is the run it belongs to and RunPlace its place there from 1; "" and 0
	// for a stone of its own.
	Run      string `json:"run"`
	RunPlace int    `json:"runPlace"`
	Work     Work   `json:"work"`
}

// Work is one cutting of a stone, from the plan to the logbook.
type Work struct {
	ID string `json:"id"`
	// Kind is first-cut or repair.
	Kind string `json:"kind"`
	// Plan is the latest one, nil for a repair; Intake is nil for a first cut.
	Plan   *Plan   `json:"plan"`
	Intake *Intake `json:"intake"`
	// Setups are the dop-ups in order.
	Setups []Setup `json:"setups"`
	// Finish is nil until the stone is off the dop.
	Finish *Finish `json:"finish"`
}

// FirstCut is the kind of work that makes a stone out of rough.
const FirstCut = "first-cut"

// Setup is one dop-up: how the stone stands on the machine. Pavilion and crown are
// the usual two.
type Setup struct {
	ID string `json:"id"`
	// Up is the side that points out of the dop.
	Up diagram.Part `json:"up"`
	// Turn is the turn of the stone on the dop, degrees clockwise as seen from
	// above the table.
	Turn float64 `json:"turn"`
	// Rotation takes a facet's nominal direction to where it really is, row by
	// row. It is the identity until a stone has moved on its dop.
	Rotation [9]float64 `json:"rotation"`
}

var unmoved = [9]float64{1, 0, 0, 0, 1, 0, 0, 0, 1}

// Pass is one trip over all facets of a side with one lap.
type Pass struct {
	// ID survives renaming and reordering; ticks name it.
	ID   string `json:"id" validate:"required,max=40"`
	Name string `json:"name" validate:"required,max=60"`
	Lap  string `json:"lap" validate:"max=60"`
}

// Size says how large the stone is to be.
type Size struct {
	// Basis is what the figure measures: the width or the length of the stone, or
	// across the flats of a girdle tier.
	Basis string  `json:"basis" validate:"oneof=width length flats"`
	Tier  string  `json:"tier" validate:"max=12"`
	MM    float64 `json:"mm" validate:"min=0.1,max=500"`
	// Typed is the figure as it was typed.
	Typed string `json:"typed" validate:"max=40"`
}

// Choices are what a cutter decides when planning a stone.
type Choices struct {
	Material string `json:"material" validate:"required,max=60"`
	// Machine is the ID of the machine it is cut on; the default where it is gone.
	Machine   string       `json:"machine" validate:"max=40"`
	Gear      int          `json:"gear" validate:"min=1,max=360"`
	Size      Size         `json:"size"`
	FirstSide diagram.Part `json:"firstSide" validate:"oneof=pavilion crown"`
	Ways
	Passes []Pass `json:"passes" validate:"min=1,max=12,dive"`
}

// Plan is one revision of what is to be cut. It is never changed; a change of
// plan is a new revision and an event in the log.
type Plan struct {
	No int `json:"no"`
	// DiagramID is the diagram it was planned from, Revision what that held then.
	DiagramID string `json:"diagramId"`
	Revision  string `json:"revision"`
	// AsCut is the revision that is cut: another one where the side cut first is
	// not the diagram's own.
	AsCut   string        `json:"asCut"`
	Choices Choices       `json:"choices"`
	Turns   cutting.Turns `json:"turns"`
	Facets  []FacetID     `json:"facets"`
	// Material is what the choices' material was when the plan was made: an own one
	// may be changed later. Plans from before it was kept have none.
	Material *material.Material `json:"material,omitempty"`
	Created  time.Time          `json:"created"`
	// DiagramName is what the diagram is called, for lists.
	DiagramName string `json:"diagramName"`
}

// FacetID is the name under which the log knows a facet. It stays with the facet
// when a tier is renamed or moved, and on another gear.
type FacetID = string

// Propose returns what a plan of a diagram begins with: the material whose index is
// nearest to the diagram's, the best of the machine's gears, and the habits as far
// as the diagram allows them.
func (w *Workshop) Propose(ctx context.Context, diagramID string) (Choices, error) {
	hash, err := w.freeze(ctx, diagramID, "")
	if err != nil {
		return Choices{}, err
	}
	r, err := w.store.Revision(ctx, hash)
	if err != nil {
		return Choices{}, err
	}
	settings, err := w.Settings(ctx)
	if err != nil {
		return Choices{}, err
	}
	stone, err := cutting.Cut(r.Diagram)
	if err != nil {
		return Choices{}, err
	}
	habits, machine := settings.HabitsOf(""), settings.MachineOf("")
	c := Choices{
		Machine: machine.ID, Gear: r.Diagram.Gear, FirstSide: habits.side(r.Diagram), Ways: habits.Ways,
		Size: Size{Basis: "width", MM: 8, Typed: "8"}, Passes: habits.Passes,
	}
	if ranked := stone.RankGears(machine.Gears); len(ranked) > 0 {
		c.Gear = ranked[0].Teeth
	}
	if c.FirstSide != r.Diagram.FirstSide {
		if _, err := cutting.OtherSideFirst(stone); err != nil {
			c.FirstSide = r.Diagram.FirstSide
		}
	}
	nearest := math.Inf(1)
	for _, m := range settings.AllMaterials() {
		if off := math.Abs(m.RefractiveIndex.Low - r.Diagram.RefractiveIndex); off < nearest {
			nearest, c.Material = off, m.Name
		}
	}
	return c, nil
}

// PlanStone adds a stone with its first plan and the setups that it needs.
func (w *Workshop) PlanStone(ctx context.Context, name, diagramID string, c Choices) (Stone, error) {
	s, err := w.newStone(ctx, name, diagramID, c)
	if err != nil {
		return s, err
	}
	s.Number, err = w.store.InsertStone(ctx, s)
	return s, err
}

// newStone makes a stone with its first plan, not stored yet.
func (w *Workshop) newStone(ctx context.Context, name, diagramID string, c Choices) (Stone, error) {
	plan, a, err := w.newPlan(ctx, diagramID, "", c)
	if err != nil {
		return Stone{}, err
	}
	plan.No, plan.Facets = 1, make([]FacetID, len(a.Stone.Facets))
	for i := range plan.Facets {
		plan.Facets[i] = facetName(i)
	}
	first := c.FirstSide
	s := Stone{
		ID: newID(), Name: name, Created: w.moment(), Version: 1,
		Work: Work{ID: newID(), Kind: FirstCut, Plan: &plan, Setups: []Setup{
			{ID: newID(), Up: first, Turn: plan.Turns.Of(first), Rotation: unmoved},
			{ID: newID(), Up: first.Other(), Turn: plan.Turns.Of(first.Other()), Rotation: unmoved},
		}},
	}
	return s, nil
}

// newPlan assesses the choices and freezes the diagram. An empty revision means
// the diagram's present one.
func (w *Workshop) newPlan(ctx context.Context, diagramID, revision string, c Choices) (Plan, *Assessment, error) {
	c.Ways = c.said()
	plan := Plan{DiagramID: diagramID, Choices: c, Created: w.moment()}
	var err error
	if plan.Revision, err = w.freeze(ctx, diagramID, revision); err != nil {
		return plan, nil, err
	}
	a, err := w.assessRevision(ctx, plan.Revision, c, nil)
	if err != nil {
		return plan, nil, err
	}
	r, err := w.revisionOf(a.Stone.Diagram)
	if err != nil {
		return plan, nil, err
	}
	if err := w.store.InsertRevision(ctx, *r); err != nil {
		return plan, nil, err
	}
	plan.AsCut, plan.Turns, plan.DiagramName, plan.Material = r.Hash, a.Turns, r.Facts.Name, &a.Material
	return plan, a, nil
}

func facetName(i int) FacetID { return fmt.Sprintf("f%d", i+1) }

// Replan gives a stone a new plan over the version that the caller read. Facets
// that the old plan had keep their names, and so their ticks. A run has one plan:
// its other stones that are not finished get the new one too.
func (w *Workshop) Replan(ctx context.Context, stoneID string, c Choices, version int) (Stone, error) {
	s, err := w.store.Stone(ctx, stoneID)
	if err != nil {
		return s, err
	}
	s.Version = version
	s, err = w.replanned(ctx, s, c)
	if err != nil {
		return s, err
	}
	all := []Stone{s}
	if s.Run != "" {
		_, stones, err := w.Run(ctx, s.Run)
		if err != nil {
			return s, err
		}
		for _, other := range stones {
			if other.ID == s.ID || other.Work.Finish != nil {
				continue
			}
			other, err = w.replanned(ctx, other, c)
			if err != nil {
				return s, fmt.Errorf("stone %d of the run: %w", other.Number, err)
			}
			all = append(all, other)
		}
	}
	told := make([]Event, len(all))
	for i, o := range all {
		told[i] = Event{ID: newID(), Device: "workshop", DeviceTime: w.moment(), ServerTime: w.moment(), Kind: EventPlan, Text: fmt.Sprint(o.Work.Plan.No)}
	}
	if err := w.store.AddPlans(ctx, all, told); err != nil {
		return s, err
	}
	s.Version++
	return s, nil
}

// replanned returns a stone with a new plan, not stored yet.
func (w *Workshop) replanned(ctx context.Context, s Stone, c Choices) (Stone, error) {
	if s.Work.Kind == Repair {
		return s, ErrNoPlan
	}
	if s.Work.Finish != nil {
		return s, ErrFinished
	}
	if c.FirstSide != s.Work.Plan.Choices.FirstSide {
		if begun, err := w.begun(ctx, s.Work); err != nil || begun {
			if err == nil {
				err = diagram.Problem{Code: SideIsCut, TierNo: -1, Field: diagram.FieldFirstSide, Text: string(s.Work.Plan.Choices.FirstSide)}
			}
			return s, err
		}
	}
	plan, a, err := w.newPlan(ctx, s.Work.Plan.DiagramID, s.Work.Plan.Revision, c)
	if err != nil {
		return s, err
	}
	before, err := w.store.Revision(ctx, s.Work.Plan.AsCut)
	if err != nil {
		return s, err
	}
	old, err := cutting.Cut(before.Diagram)
	if err != nil {
		return s, err
	}
	plan.No = s.Work.Plan.No + 1
	plan.Facets = carryNames(old, s.Work.Plan.Facets, a.Stone)
	s.Work.Plan = &plan
	s.Work.Setups = slices.Clone(s.Work.Setups)
	s.Work.Setups[0].Up, s.Work.Setups[1].Up = c.FirstSide, c.FirstSide.Other()
	for i := range s.Work.Setups {
		s.Work.Setups[i].Turn = plan.Turns.Of(s.Work.Setups[i].Up)
	}
	return s, nil
}

// SideIsCut refuses to change the side cut first once cutting has begun.
const SideIsCut diagram.Code = "side-is-cut"

func (w *Workshop) begun(ctx context.Context, work Work) (bool, error) {
	events, err := w.store.Events(ctx, work.ID)
	return len(Visited(events)) > 0, err
}

// carryNames gives every facet of the new stone the name of the facet of the old
// one that lies in the same direction, and a fresh name to the rest. Direction
// survives renaming, reordering and another gear.
func carryNames(old *cutting.Stone, names []FacetID, now *cutting.Stone) []FacetID {
	const same = 1e-6
	out := make([]FacetID, len(now.Facets))
	used := make([]bool, len(old.Facets))
	for i, f := range now.Facets {
		for k, g := range old.Facets {
			near := sqDistance(f, g) < same*same
			if near && !used[k] && now.Diagram.Tiers[f.Tier].Part == old.Diagram.Tiers[g.Tier].Part {
				out[i], used[k] = names[k], true
				break
			}
		}
	}
	fresh := len(names)
	for i := range out {
		if out[i] == "" {
			out[i] = facetName(fresh)
			fresh++
		}
	}
	return out
}

func sqDistance(a, b cutting.Facet) float64 {
	dx := a.Plane.Normal.X - b.Plane.Normal.X
	dy := a.Plane.Normal.Y - b.Plane.Normal.Y
	dz := a.Plane.Normal.Z - b.Plane.Normal.Z
	return dx*dx + dy*dy + dz*dz
}

// Stone returns one stone.
func (w *Workshop) Stone(ctx context.Context, id string) (Stone, error) {
	return w.store.Stone(ctx, id)
}

// AssessStone works out the present plan of a stone.
func (w *Workshop) AssessStone(ctx context.Context, s Stone) (*Assessment, error) {
	if s.Work.Kind == Repair {
		return nil, ErrNoPlan
	}
	return w.assessRevision(ctx, s.Work.Plan.Revision, s.Work.Plan.Choices, s.Work.Plan.Material)
}
