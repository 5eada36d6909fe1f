package workshop

import (
	"context"
	"slices"
)

// Settings are the habits and the machine of the person who owns the workshop.
type Settings struct {
	Version int `json:"version"`
	// Answered tells whether the first opening's questions were answered or skipped.
	Answered bool `json:"answered"`
	// Gears lists the teeth of the index gears at hand.
	Gears []int `json:"gears" validate:"max=40,dive,min=1,max=360"`
	// AngleStep is the finest step that the protractor reads, in degrees.
	AngleStep float64 `json:"angleStep" validate:"min=0.001,max=5"`
	// Cheater tells whether the machine can turn a facet between teeth.
	Cheater bool `json:"cheater"`
	// Tick is what Done ticks at the bench: facet, round or tier.
	Tick string `json:"tick" validate:"oneof=facet round tier"`
	// Passes are proposed for a new plan.
	Passes []Pass `json:"passes" validate:"min=1,max=12,dive"`
}

// DefaultSettings is what a new workshop starts with.
func DefaultSettings() Settings {
	return Settings{
		Gears: []int{96}, AngleStep: 0.1, Cheater: true, Tick: "facet",
		Passes: []Pass{
			{ID: "cut", Name: "Cut", Lap: "600"},
			{ID: "prepolish", Name: "Pre-polish", Lap: "3000"},
			{ID: "polish", Name: "Polish", Lap: "oxide"},
		},
	}
}

// Settings returns the workshop's settings.
func (w *Workshop) Settings(ctx context.Context) (Settings, error) {
	s, err := w.store.Settings(ctx)
	if err == nil && s.Version == 0 {
		return DefaultSettings(), nil
	}
	return s, err
}

// SaveSettings stores the settings over the given version, 0 the first time.
func (w *Workshop) SaveSettings(ctx context.Context, s Settings) (Settings, error) {
	slices.Sort(s.Gears)
	s.Gears = slices.Compact(s.Gears)
	version := s.Version
	s.Version++
	return s, w.store.SaveSettings(ctx, s, version)
}

// SettableAngles returns an angle's neighbours on the protractor, equal where it
// can be set as it is.
func (s Settings) SettableAngles(angle float64) (below, above float64) {
	steps := angle / s.AngleStep
	// A hundred-thousandth of a step is the arithmetic's, not the diagram's.
	const slack = 1e-5
	low, high := float64(int(steps+slack)), float64(int(steps+slack))
	if steps-low > slack {
		high++
	}
	return low * s.AngleStep, high * s.AngleStep
}
