package workshop

import (
	"cmp"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/dopping"
	"cressa/core/fit"
	"cressa/core/gear"
)

// Habits are how a cutter likes to work. New plans begin with them.
type Habits struct {
	ID   string `validate:"required,max=40"`
	Name string `validate:"required,max=60"`
	// FirstSide is the side cut first.
	FirstSide FirstSide `validate:"oneof=drawn pavilion crown"`
	// Tick is what Done ticks at the bench.
	Tick TickOf `validate:"oneof=facet round tier"`
	// Long is which way a long stone lies in what is designed here.
	Long Lying `validate:"oneof=across along"`
	// Allowance is what is left all round a stone that is to fit into a piece of rough, Kerf what the saw's
	// blade takes, both in mm.
	Allowance float64 `validate:"min=0,max=10"`
	Kerf      float64 `validate:"min=0,max=20"`
	// Preform is what is left on a preform.
	Preform dopping.Allowance
	PlanHabits
	// Laps are proposed for a new plan. A last pass without a lap and a compound gets what the
	// material is usually polished with.
	Laps
	// Holds is how a stone is usually held in its first setup and in the next; there may be fewer.
	Holds []Hold `validate:"max=12,dive"`
}

// FirstSide is which side of a diagram somebody cuts first.
type FirstSide string

// The sides that may be first.
const (
	SideAsDrawn   FirstSide = "drawn" // as the diagram has it
	PavilionFirst FirstSide = "pavilion"
	CrownFirst    FirstSide = "crown"
)

// TickOf is how much one press of Done ticks.
type TickOf string

// What Done may tick.
const (
	TickFacet TickOf = "facet"
	TickRound TickOf = "round" // facets that follow each other at one angle
	TickTier  TickOf = "tier"
)

// Lying is which way the longer side of a stone lies on the gear.
type Lying string

// The ways. Most diagrams lie across, which is what a new workshop starts with.
const (
	Across Lying = "across" // 3–9 o'clock
	Along  Lying = "along"  // 12–6 o'clock
	Even   Lying = "even"   // as wide as it is long; no habit
)

// PlanHabits are the habits that a plan takes over and can change.
type PlanHabits struct {
	// Girdle and Table say when these are cut within their side.
	Girdle cutting.When `validate:"oneof=drawn first last"`
	Table  cutting.When `validate:"oneof=drawn first last"`
	// Visiting is the order of the facets within a tier.
	Visiting gear.Visiting `validate:"oneof=written round pairs"`
	// TableAt is when the table goes through its laps.
	TableAt TableAt `validate:"oneof=through each"`
	// Turning is how a stone is turned on its dop for another gear.
	Turning Turning `validate:"oneof=whole sides"`
	// GirdleSpare is by how many mm the girdle is left thicker until the second side is cut with its second lap.
	GirdleSpare float64 `validate:"min=0,max=2"`
}

// withDefaults returns the habits with the zero values written out.
func (w PlanHabits) withDefaults() PlanHabits {
	return PlanHabits{
		Girdle: cmp.Or(w.Girdle, cutting.AsDrawn), Table: cmp.Or(w.Table, cutting.AsDrawn),
		Visiting: cmp.Or(w.Visiting, gear.AsWritten),
		TableAt:  cmp.Or(w.TableAt, TableThrough), Turning: cmp.Or(w.Turning, TurnedWhole),
		GirdleSpare: w.GirdleSpare,
	}
}

// Turning is how a stone is turned on its dop for another gear.
type Turning string

// The turnings. The zero value is TurnedWhole.
const (
	// TurnedWhole: one turn for both sides, kept through the transfer.
	TurnedWhole Turning = "whole"
	// TurnedSides: each side has its own; the turn is found anew after the transfer.
	TurnedSides Turning = "sides"
)

// UsualKerf is what a thin blade takes, in mm.
const UsualKerf = 0.4

// DefaultHabits is what a new workshop starts with.
func DefaultHabits() Habits {
	return Habits{
		ID: "habits", Name: "My habits", FirstSide: SideAsDrawn, Tick: TickFacet, Long: Across,
		Allowance: fit.UsualAllowance, Kerf: UsualKerf, Preform: dopping.UsualAllowance(),
		PlanHabits: PlanHabits{}.withDefaults(),
		Laps: Laps{
			Passes: []Pass{
				{ID: "cut", Name: "Cut", Lap: "600"},
				{ID: "prepolish", Name: "Pre-polish", Lap: "3000"},
				{ID: "polish", Name: "Polish"},
			},
			Uses: []LapUse{},
		},
		Holds: []Hold{},
	}
}

// side returns the side that these habits cut first of a diagram.
func (h Habits) side(d *diagram.Diagram) diagram.Part {
	switch h.FirstSide {
	case PavilionFirst:
		return diagram.Pavilion
	case CrownFirst:
		return diagram.Crown
	}
	return d.FirstSide
}
