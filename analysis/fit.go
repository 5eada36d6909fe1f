package analysis

import (
	"context"
	"math"
	"slices"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/material"
)

// FitAsked says what a stone is to be fitted to: a material, a machine and a girdle.
type FitAsked struct {
	RefractiveIndex float64
	// Settable gives the neighbours of an angle that can be set.
	Settable angles.Settable
	// Gears are those of the machine.
	Gears []int
	// Move tells whether the angles are moved to the material; nil moves them only where the
	// diagram as it is would lose light there: where it keeps its light its designer knew better.
	Move      *bool
	FirstSide diagram.Part
	// Girdle is the thickness in mm to leave, 0 for that of the diagram.
	Girdle float64
	// Width is the finished width in mm.
	Width float64
}

// FittedStone is a stone fitted in one step, beside what it was.
type FittedStone struct {
	*MovedAngles
	// Gear is the machine's gear that fits best, at its best turn; nil without gears.
	Gear *gear.Fit
	// CheatGap is what that gear's cheats open at the given width where the machine has no cheater
	// to set them, in µm.
	CheatGap float64
	// Moved tells whether the angles were moved to the material.
	Moved bool
	// Kept are wishes that the diagram does not allow: its girdle has no stop of its own.
	Kept []diagram.Problem
}

// GirdleKept says that no tier of the diagram stops at a girdle's thickness, so that it stays.
const GirdleKept diagram.Code = "girdle-kept"

// Fit moves a stone's angles to a material and to what a machine can set, solves its stops again,
// leaves the girdle that is asked for, cuts the side first that is asked for, and finds the gear.
// The error is a diagram.Problem where a wish cannot be met at all, and that of the context where it
// ends before anything is found.
func Fit(ctx context.Context, stone *cutting.Stone, ask FitAsked) (*FittedStone, error) {
	out := &FittedStone{}
	from := stone
	if ask.FirstSide != stone.Diagram.FirstSide {
		turned, err := cutting.OtherSideFirst(stone)
		if err != nil {
			return nil, err
		}
		if from, err = cutting.Cut(turned); err != nil {
			return nil, err
		}
	}
	if ask.Girdle > 0 {
		thick, ok, err := withGirdle(from, ask.Girdle/MMPerUnit(from, ask.Width))
		if err != nil {
			return nil, err
		}
		if from = thick; !ok {
			out.Kept = append(out.Kept, diagram.Problem{Code: GirdleKept, TierNo: -1, Field: "girdle"})
		}
	}
	moving := AnglesAsked{Settable: ask.Settable, Search: true, Best: true}
	if out.Moved = losesLight(from, ask.RefractiveIndex); ask.Move != nil {
		out.Moved = *ask.Move
	}
	if out.Moved {
		moving.Target = &angles.Target{RefractiveIndex: ask.RefractiveIndex, CrownFactor: 1}
	}
	moved, err := MoveAngles(ctx, from, moving)
	if err != nil {
		return nil, err
	}
	moved.Before = stone
	out.MovedAngles = moved
	if ranked := moved.After.RankGears(ask.Gears); len(ranked) > 0 {
		out.Gear = &ranked[0]
		if ranked[0].LargestCheat > 0 {
			errs, err := moved.After.MeetErrors(moved.After.AtWholeTeeth(ranked[0].Teeth, cutting.Together(ranked[0].Turn)))
			if err != nil {
				return nil, err
			}
			for _, e := range errs {
				out.CheatGap = max(out.CheatGap, e.Gap*1000*MMPerUnit(moved.After, ask.Width))
			}
		}
	}
	return out, nil
}

// losesLight tells whether the shallowest pavilion tier stands too near the critical angle, or under it.
func losesLight(s *cutting.Stone, refractiveIndex float64) bool {
	margin := LeastMargin(s, refractiveIndex)
	return margin != nil && *margin < angles.LeastMargin
}

// withGirdle leaves a girdle of another thickness, in design units, where a tier stops by it; ok is
// false where none does. The error is a diagram.Problem.
func withGirdle(s *cutting.Stone, thickness float64) (thick *cutting.Stone, ok bool, err error) {
	d := *s.Diagram
	d.Tiers = slices.Clone(d.Tiers)
	for i, t := range d.Tiers {
		if t.Stop.Kind == diagram.GirdleBand {
			d.Tiers[i].Stop.Thickness, ok = math.Round(thickness*1e6)/1e6, true
		}
	}
	if !ok {
		return s, false, nil
	}
	thick, err = cutting.Cut(&d)
	return thick, true, err
}

// FittedTier is what became of a tier: its angle before, moved exactly and as it can be set, in degrees.
type FittedTier struct {
	Name            string
	From, Exact, To float64
}

// Tiers lists what became of every tier of the stone as it was, by its name: cutting another side
// first puts them in another order.
func (f *FittedStone) Tiers() []FittedTier {
	out := []FittedTier{}
	for _, t := range f.After.Diagram.Tiers {
		was := f.Before.Diagram.TierNo(t.Name)
		exact := f.Exact.Diagram.TierNo(t.Name)
		if was < 0 || exact < 0 {
			continue
		}
		out = append(out, FittedTier{Name: t.Name, From: f.Before.Diagram.Tiers[was].Angle, Exact: f.Exact.Diagram.Tiers[exact].Angle, To: t.Angle})
	}
	return out
}

// LeastMargin is how far the shallowest pavilion tier of a stone stands above the critical angle of a
// refractive index, in degrees; nil without a pavilion.
func LeastMargin(s *cutting.Stone, refractiveIndex float64) *float64 {
	lead := angles.Shallowest(s)
	if lead < 0 {
		return nil
	}
	margin := s.Diagram.Tiers[lead].Angle - material.CriticalAngle(refractiveIndex)
	return &margin
}
