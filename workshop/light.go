package workshop

import (
	"context"
	"slices"
	"time"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/light"
	"cressa/core/material"
)

// Looking says what a stone is made of and how it is looked at.
type Looking struct {
	// Material is "" for one that is known by its RefractiveIndex alone.
	Material        string  `json:"material" validate:"max=60"`
	RefractiveIndex float64 `json:"refractiveIndex" validate:"min=1.01,max=4"`
	// Tint is the key of a body colour, "" for the one that is usual for the material.
	Tint string `json:"tint" validate:"max=40"`
	// Width of the stone in mm.
	Width float64     `json:"width" validate:"min=0.1,max=500"`
	Model light.Model `json:"model" validate:"oneof=uniform cosine head"`
	// HeadAngle is the half-angle of the head in degrees.
	HeadAngle     float64 `json:"headAngle" validate:"min=0,max=90"`
	FrostedGirdle bool    `json:"frostedGirdle"`
}

// UnknownTint says that there is no such body colour.
const UnknownTint diagram.Code = "unknown-tint"

// Seen is what a Looking comes to.
type Seen struct {
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
func (l Looking) Resolve(s Settings) (Seen, error) {
	m := material.Material{RefractiveIndex: material.Range{Low: l.RefractiveIndex, High: l.RefractiveIndex}}
	if l.Material != "" {
		var ok bool
		if m, ok = s.Material(l.Material); !ok {
			return Seen{}, diagram.Problem{Code: UnknownMaterial, TierNo: -1, Field: "material", Text: l.Material}
		}
	}
	tint := m.UsualTint()
	if l.Tint != "" {
		var ok bool
		if tint, ok = material.FindTint(l.Tint); !ok {
			return Seen{}, diagram.Problem{Code: UnknownTint, TierNo: -1, Field: "tint", Text: l.Tint}
		}
	}
	// The lower index decides whether light is kept.
	n := m.RefractiveIndex.Low
	return Seen{
		Experiment: light.Experiment{RefractiveIndex: n, HeadAngle: l.HeadAngle, FrostedGirdle: l.FrostedGirdle, Width: l.Width},
		Tint:       tint,
		Fan: light.Fan{
			material.IndexAt(n, m.Dispersion, material.LineC), n, material.IndexAt(n, m.Dispersion, material.LineF),
		},
		SG: m.SG,
	}, nil
}

// GirdleWork is what a finish of the girdle asks for.
type GirdleWork struct {
	Finish GirdleFinish
	// Visits is how often a girdle facet is put to a lap, Hours how long that takes.
	Visits int
	Hours  float64
}

// GirdleWorks tells what each finish of a stone's girdle asks for in a number of passes,
// at a pace in minutes a visit. A stone without a girdle has none.
func GirdleWorks(s *cutting.Stone, passes int, pace float64) []GirdleWork {
	facets := 0
	for _, f := range s.Solid().Faces() {
		if !f.OfBlock() && s.Diagram.Tiers[s.Facets[f.ID].Tier].Part == diagram.Girdle {
			facets++
		}
	}
	if facets == 0 {
		return nil
	}
	var out []GirdleWork
	for _, finish := range []GirdleFinish{GirdlePolished, GirdlePrepolished, GirdleCut} {
		visits := facets * finish.Passes(passes)
		out = append(out, GirdleWork{finish, visits, float64(visits) * pace / 60})
	}
	return out
}

// Pace returns how many minutes a visit takes: the median of all that was logged on any
// stone, or, where nothing was, the usual minutes; logged tells which.
func (w *Workshop) Pace(ctx context.Context) (minutes float64, logged bool, err error) {
	stones, err := w.store.Stones(ctx)
	if err != nil {
		return 0, false, err
	}
	var all []time.Duration
	for _, s := range stones {
		events, err := w.store.Events(ctx, s.Work.ID)
		if err != nil {
			return 0, false, err
		}
		eachGap(events, func(_ Event, gap time.Duration) { all = append(all, gap) })
	}
	if len(all) == 0 {
		return usualMinutes, false, nil
	}
	return median(all).Minutes(), true, nil
}

// eachGap calls f with every standing tick and the time since the one before, pauses left
// out.
func eachGap(events []Event, f func(e Event, gap time.Duration)) {
	var before *Event
	ticks := Standing(events)
	slices.SortStableFunc(ticks, func(a, b Event) int { return a.DeviceTime.Compare(b.DeviceTime) })
	for _, e := range ticks {
		if e.Kind != EventDone && e.Kind != EventSkip {
			continue
		}
		if before != nil {
			if gap := e.DeviceTime.Sub(before.DeviceTime); gap <= longPause {
				f(e, gap)
			}
		}
		before = &e
	}
}
