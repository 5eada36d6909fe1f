package analysis

import (
	"context"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/workshop"
)

// AnglesAsked says what the angles of a stone are to suit.
type AnglesAsked struct {
	// Target is nil where the angles stay, apart from being rounded.
	Target *angles.Target
	// Settable gives the neighbours of an angle that can be set; nil rounds nothing.
	Settable angles.Settable
	// Search also looks for the neighbours that cost least, Best takes these. Otherwise the
	// nearest are taken.
	Search, Best bool
}

// MovedAngles is a stone at other angles, beside what it was.
type MovedAngles struct {
	// Before is the stone as it was, Exact that for the target, After that once it is rounded.
	Before, Exact, After        *cutting.Stone
	PavilionFactor, CrownFactor float64
	// Margin in degrees is what the shallowest pavilion tier was given or, without a target,
	// would be given unasked; 0 without a pavilion.
	Margin   float64
	Warnings []diagram.Problem
	// Errors tell what became in After of the meets of Exact.
	Errors []cutting.MeetError
	// Nearest and Best are the roundings, nil where they were not asked for.
	Nearest, Best *angles.Rounded
	// Status tells how the search for the best rounding ended.
	Status cutting.Status
}

// MovedTier is a tier before and after, angles and margins in degrees.
type MovedTier struct {
	Name            string
	From, Exact, To float64
	// MarginFrom and MarginTo are nil where a margin says nothing.
	MarginFrom, MarginTo *float64
	Judgement            workshop.Judgement
}

// MoveAngles moves the angles of a stone and rounds them. The error is a diagram.Problem where
// a target cannot be reached, and that of the context where it ends before anything is found.
func MoveAngles(ctx context.Context, stone *cutting.Stone, ask AnglesAsked) (*MovedAngles, error) {
	errs, err := stone.MeetErrors(stone.Planes())
	if err != nil {
		return nil, err
	}
	out := &MovedAngles{Before: stone, Exact: stone, PavilionFactor: 1, CrownFactor: 1, Errors: errs, Status: cutting.Complete}
	if ask.Target != nil {
		moved, err := angles.Retarget(stone, *ask.Target)
		if err != nil {
			return nil, err
		}
		out.Exact, out.Errors, out.Warnings = moved.Stone, moved.Errors, moved.Warnings()
		out.PavilionFactor, out.CrownFactor, out.Margin = moved.PavilionFactor, moved.CrownFactor, moved.Margin
	} else {
		if lead := angles.Shallowest(stone); lead >= 0 {
			out.Margin = angles.OwnMargin(stone.Diagram, lead)
		}
		out.Warnings = angles.LeakingOptionals(stone.Diagram, stone.Diagram.RefractiveIndex)
	}
	out.After = out.Exact
	if ask.Settable == nil {
		return out, nil
	}
	if out.Nearest, err = angles.Round(out.Exact, angles.Nearest(out.Exact, ask.Settable)); err != nil {
		return nil, err
	}
	taken := out.Nearest
	if ask.Search {
		if out.Best, out.Status, err = angles.BestRounding(ctx, out.Exact, ask.Settable); err != nil {
			return nil, err
		}
		if ask.Best {
			taken = out.Best
		}
	}
	out.After, out.Errors = taken.Stone, taken.Errors
	return out, nil
}

// Tiers lists what became of every tier.
func (m *MovedAngles) Tiers() []MovedTier {
	from := workshop.Margins(m.Before.Diagram, m.Before.Diagram.RefractiveIndex)
	to := workshop.Margins(m.After.Diagram, m.After.Diagram.RefractiveIndex)
	out := make([]MovedTier, len(m.After.Diagram.Tiers))
	for i, t := range m.After.Diagram.Tiers {
		out[i] = MovedTier{
			Name: t.Name, From: m.Before.Diagram.Tiers[i].Angle, Exact: m.Exact.Diagram.Tiers[i].Angle, To: t.Angle,
			MarginFrom: from[i], MarginTo: to[i], Judgement: workshop.MarginGood,
		}
		if to[i] != nil {
			out[i].Judgement = workshop.JudgeMargin(*to[i])
		}
	}
	return out
}

// SizedStone is what a stone measures at a finished width, lengths in mm.
type SizedStone struct {
	CriticalAngle float64
	// Height, Crown and Pavilion are nil where the stone has none.
	Height, Crown, Pavilion *float64
	// Carats is nil without a material.
	Carats *float64
}

// Sized returns what a stone measures at a finished width in mm, and what it weighs in a
// material, nil for none.
func Sized(s *cutting.Stone, width float64, of *material.Material) SizedStone {
	m := s.Measures()
	mm := func(share *float64) *float64 {
		if share == nil {
			return nil
		}
		v := *share * width
		return &v
	}
	out := SizedStone{CriticalAngle: material.CriticalAngle(s.Diagram.RefractiveIndex), Height: mm(&m.HeightWidth), Crown: mm(m.CrownHeight), Pavilion: mm(m.PavilionDepth)}
	if of != nil {
		carats := cutting.Carats(m.VolumeFactor, width, of.SG)
		out.Carats = &carats
	}
	return out
}

// WidestGap is the largest gap of any meet, in design units.
func (m *MovedAngles) WidestGap() float64 {
	widest := 0.0
	for _, e := range m.Errors {
		widest = max(widest, e.Gap)
	}
	return widest
}

// RoundingCost is what a rounding opens at a finished width in mm: the largest gap and residual,
// in µm. A rounding that was not asked for costs nothing.
func (m *MovedAngles) RoundingCost(r *angles.Rounded, width float64) (gap, residual float64) {
	if r == nil {
		return 0, 0
	}
	um := 1000 * MMPerUnit(m.Exact, width)
	for _, e := range r.Errors {
		residual = max(residual, um*e.Residual)
	}
	return um * r.Gap(), residual
}
