package workshop

import (
	"cmp"
	"context"
	"slices"

	"cressa/core/diagram"
	"cressa/core/light"
	"cressa/core/material"
	"cressa/workshop/journal"
)

// Lighting says what a stone is made of and how it is looked at.
type Lighting struct {
	// Material is "" for one that is known by its RefractiveIndex alone.
	Material        string  `validate:"max=60"`
	RefractiveIndex float64 `validate:"min=1.01,max=4"`
	// Tint is the key of a body colour, "" for the one that is usual for the material.
	Tint string `validate:"max=40"`
	// Width of the stone in mm.
	Width float64     `validate:"min=0.1,max=500"`
	Model light.Model `validate:"oneof=uniform cosine head"`
	// HeadAngle is the half-angle of the head in degrees.
	HeadAngle     float64 `validate:"min=0,max=90"`
	FrostedGirdle bool
}

// UnknownTint says that there is no such body colour.
const UnknownTint diagram.Code = "unknown-tint"

// Lit is what a Lighting comes to.
type Lit struct {
	// Experiment has no grid and no tilt yet, and no colour: figures compare cuts.
	Experiment light.Experiment
	Tint       material.Tint
	// Fan holds the indexes by which light is split into colours; without a dispersion
	// that is known they are equal.
	Fan light.Fan
	// SG is 0 where the material is not known.
	SG float64
}

// Resolve finds the material's figures. The error is a Problem.
func (l Lighting) Resolve(s Settings) (Lit, error) {
	m := material.Material{RefractiveIndex: material.Range{Low: l.RefractiveIndex, High: l.RefractiveIndex}}
	if l.Material != "" {
		var ok bool
		if m, ok = s.Material(l.Material); !ok {
			return Lit{}, diagram.Problem{Code: UnknownMaterial, TierNo: -1, Field: "material", Text: l.Material}
		}
	}
	tint := m.UsualTint()
	if l.Tint != "" {
		var ok bool
		if tint, ok = material.FindTint(l.Tint); !ok {
			return Lit{}, diagram.Problem{Code: UnknownTint, TierNo: -1, Field: "tint", Text: l.Tint}
		}
	}
	// The lower index decides whether light is kept.
	n := m.RefractiveIndex.Low
	return Lit{
		Experiment: light.Experiment{RefractiveIndex: n, HeadAngle: l.HeadAngle, FrostedGirdle: l.FrostedGirdle, Width: l.Width},
		Tint:       tint,
		Fan: light.Fan{
			material.IndexAt(n, float64(m.Dispersion), material.LineC), n, material.IndexAt(n, float64(m.Dispersion), material.LineF),
		},
		SG: m.SG,
	}, nil
}

// Pace returns how many minutes a visit takes: the median of what was logged on the stones
// that were worked on last, or, where nothing was, the usual minutes; logged tells which.
// It returns only the errors of the store.
func (s *Stones) Pace(ctx context.Context) (minutes float64, logged bool, err error) {
	const lately = 50
	paces, err := s.store.Paces(ctx, lately)
	if err != nil || len(paces) == 0 {
		return journal.UsualMinutes, false, err
	}
	// Each stone counts as often as it was ticked.
	slices.SortFunc(paces, func(a, b WorkPace) int { return cmp.Compare(a.Minutes, b.Minutes) })
	ticks := 0
	for _, p := range paces {
		ticks += p.Ticks
	}
	below := 0
	for _, p := range paces {
		if below += p.Ticks; 2*below >= ticks {
			return p.Minutes, true, nil
		}
	}
	return journal.UsualMinutes, false, nil
}

// WorkPace is the median time between the ticks of a work, and how many those are.
type WorkPace struct {
	Minutes float64
	Ticks   int
}
