package workshop

import (
	"cmp"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
)

// Habits are how a cutter likes to work. New plans begin with them.
type Habits struct {
	ID   string `validate:"required,max=40"`
	Name string `validate:"required,max=60"`
	// FirstSide is the side cut first: drawn leaves it to the diagram.
	FirstSide string `validate:"oneof=drawn pavilion crown"`
	// Tick is what Done ticks at the bench: facet, round or tier.
	Tick string `validate:"oneof=facet round tier"`
	Ways
	// Passes are proposed for a new plan.
	Passes []Pass `validate:"min=1,max=12,dive"`
}

// Ways are the habits that a plan takes over and can change.
type Ways struct {
	// Girdle and Table say when these are cut within their side.
	Girdle cutting.When `validate:"oneof=drawn first last"`
	Table  cutting.When `validate:"oneof=drawn first last"`
	// Visiting is the order of the facets within a tier.
	Visiting gear.Visiting `validate:"oneof=written round pairs"`
	// GirdleFinish is how far the girdle is taken.
	GirdleFinish GirdleFinish `validate:"oneof=polished prepolished cut"`
	// Turning is how a stone is turned on its dop for another gear.
	Turning Turning `validate:"oneof=whole sides"`
}

// said returns the ways with the zero values written out.
func (w Ways) said() Ways {
	return Ways{
		Girdle: cmp.Or(w.Girdle, cutting.AsDrawn), Table: cmp.Or(w.Table, cutting.AsDrawn),
		Visiting:     cmp.Or(w.Visiting, gear.AsWritten),
		GirdleFinish: cmp.Or(w.GirdleFinish, GirdlePolished), Turning: cmp.Or(w.Turning, TurnedWhole),
	}
}

// GirdleFinish is how far the girdle is taken. It costs time and changes the light.
type GirdleFinish string

// How far the girdle is taken. The zero value is polished.
const (
	GirdlePolished GirdleFinish = "polished"
	// GirdlePrepolished: all passes but the last.
	GirdlePrepolished GirdleFinish = "prepolished"
	// GirdleCut: only the first pass.
	GirdleCut GirdleFinish = "cut"
)

// Frosted tells that light which meets the girdle from inside is lost there.
func (g GirdleFinish) Frosted() bool { return g == GirdlePrepolished || g == GirdleCut }

// Passes returns how many of n passes a girdle facet gets, at least one.
func (g GirdleFinish) Passes(n int) int {
	switch g {
	case GirdlePrepolished:
		return max(n-1, 1)
	case GirdleCut:
		return 1
	}
	return n
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

// DefaultHabits is what a new workshop starts with.
func DefaultHabits() Habits {
	return Habits{
		ID: "habits", Name: "My habits", FirstSide: "drawn", Tick: "facet",
		Ways: Ways{}.said(),
		Passes: []Pass{
			{ID: "cut", Name: "Cut", Lap: "600"},
			{ID: "prepolish", Name: "Pre-polish", Lap: "3000"},
			{ID: "polish", Name: "Polish", Lap: "oxide"},
		},
	}
}

// side returns the side that these habits cut first of a diagram.
func (h Habits) side(d *diagram.Diagram) diagram.Part {
	if side := diagram.Part(h.FirstSide); side == diagram.Pavilion || side == diagram.Crown {
		return side
	}
	return d.FirstSide
}
