package analysis

import (
	"context"
	"errors"
	"math"
	"slices"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/fit"
	"cressa/core/light"
	"cressa/core/rough"
	"cressa/workshop"
)

// Variant is a diagram changed to suit a piece of rough, as large as it fits there.
type Variant struct {
	// Margin is that of the shallowest pavilion tier above the critical angle of the piece's material, in
	// degrees; Crown is by what factor the crown is steeper than drawn, by the tangents of its angles.
	Margin, Crown float64
	// Pavilion is the angle of that tier in degrees.
	Pavilion float64
	// Without names the tiers that are left off.
	Without []string
	// AsDrawn tells that nothing is changed.
	AsDrawn bool
	Stone   *cutting.Stone
	Fitted
	Facets int
	Hours  float64
	Light  light.Figures
	// Flaws tells how the flaws of the piece are seen in it.
	Flaws []FlawShown
}

// VariantSearch tries changes of the diagram of a candidate.
type VariantSearch struct {
	// Passes is how many every facet gets, Pace the minutes that one visit takes, Settable what angles the
	// machine can set.
	Passes   int
	Pace     float64
	Settable angles.Settable

	worked    *rough.Piece
	stone     *cutting.Stone
	candidate workshop.Candidate
	lit       FaceAsked
	// drawn is the margin of the diagram as it is.
	drawn float64
	plans []variantPlan
}

// variantPlan is a change that is tried.
type variantPlan struct {
	margin, crown float64
	without       []int
}

// VariantProgress is how far a search for variants has come, and one that was found.
type VariantProgress struct {
	Done, Total int
	Found       *Variant
}

// crowns are the factors by which the crown is made lower and steeper.
var crowns = []float64{0.8, 0.9, 1, 1.12, 1.25}

// PrepareVariants makes a search ready for a candidate of a piece, lit as asked. It returns workshop.ErrNotFound
// where the piece has no such candidate or it has no place, and the problems of rough.Rough.
func PrepareVariants(ctx context.Context, shop Fits, pieceID, candidate string, lit FaceAsked) (*VariantSearch, error) {
	piece, all, err := shop.Piece(ctx, pieceID)
	if err != nil {
		return nil, err
	}
	at := slices.IndexFunc(all, func(c workshop.Candidate) bool { return c.ID == candidate && c.Found.Scale > 0 })
	if at < 0 {
		return nil, workshop.ErrNotFound
	}
	s := &VariantSearch{candidate: all[at], lit: lit}
	if s.worked, err = shop.Worked(ctx, piece.Rough); err != nil {
		return nil, err
	}
	revision, err := shop.Revision(ctx, s.candidate.Revision)
	if err != nil {
		return nil, err
	}
	if s.stone, err = cutting.Cut(revision.Diagram); err != nil {
		return nil, err
	}
	s.plan()
	return s, nil
}

// plan lists what is tried: pavilions down to the least margin and a little steeper, each with crowns from low
// to steep; and the diagram without each tier that can be left off, and without all optional ones.
func (s *VariantSearch) plan() {
	if drawn := LeastMargin(s.stone, s.lit.RefractiveIndex); drawn != nil {
		s.drawn = *drawn
		for _, margin := range marginsFrom(s.drawn) {
			for _, crown := range crowns {
				s.plans = append(s.plans, variantPlan{margin: margin, crown: crown})
			}
		}
	} else {
		s.plans = append(s.plans, variantPlan{crown: 1})
	}
	var optional []int
	for i, t := range s.stone.Diagram.Tiers {
		if t.Part == diagram.Girdle || t.Angle == 0 {
			continue
		}
		s.plans = append(s.plans, variantPlan{margin: s.drawn, crown: 1, without: []int{i}})
		if t.Optional {
			optional = append(optional, i)
		}
	}
	if len(optional) > 1 {
		s.plans = append(s.plans, variantPlan{margin: s.drawn, crown: 1, without: optional})
	}
}

// marginsFrom are the margins that are tried beside the one that is drawn: the least, half-way there, and some
// steeper. Those that hardly differ are one.
func marginsFrom(drawn float64) []float64 {
	const steeper, differ = 2, 0.3
	out := []float64{drawn}
	for _, m := range []float64{angles.LeastMargin, (angles.LeastMargin + drawn) / 2, drawn + steeper} {
		if m >= angles.LeastMargin && !slices.ContainsFunc(out, func(o float64) bool { return math.Abs(o-m) < differ }) {
			out = append(out, m)
		}
	}
	slices.Sort(out)
	return out
}

// Total is how many variants are tried.
func (s *VariantSearch) Total() int { return len(s.plans) }

// Run tries them one after the other, and tells of each that can be cut, from one goroutine. The error is the
// context's.
func (s *VariantSearch) Run(ctx context.Context, tell func(VariantProgress)) error {
	for i, plan := range s.plans {
		found, err := s.try(ctx, plan)
		if ctx.Err() != nil {
			return ctx.Err()
		}
		var none fit.NoRoom
		var cannot diagram.Problem
		if err != nil && !errors.As(err, &cannot) && !errors.As(err, &none) {
			return err
		}
		tell(VariantProgress{Done: i + 1, Total: len(s.plans), Found: found})
	}
	return nil
}

// try cuts a variant and finds where it fits; nil where it cannot be cut or finds no room.
func (s *VariantSearch) try(ctx context.Context, plan variantPlan) (*Variant, error) {
	v := &Variant{Margin: plan.margin, Crown: plan.crown}
	var err error
	if v.Stone, err = s.cut(plan); err != nil {
		return nil, err
	}
	v.AsDrawn = v.Stone == s.stone
	for _, no := range plan.without {
		v.Without = append(v.Without, s.stone.Diagram.Tiers[no].Name)
	}
	if margin := LeastMargin(v.Stone, s.lit.RefractiveIndex); margin != nil {
		v.Margin, v.Pavilion = *margin, v.Stone.Diagram.Tiers[angles.Shallowest(v.Stone)].Angle
	}
	turn := fit.TurnOf(s.candidate.Found.Rotation)
	found, err := fit.Largest(ctx, s.worked, fit.NewShape(v.Stone), fit.Search{Allowance: s.candidate.Allowance, Near: &turn}, nil)
	if err != nil {
		return nil, err
	}
	if found.Scale == 0 {
		return nil, nil
	}
	v.Fitted = InMM(s.worked, found)
	v.Facets = v.Stone.Measures().Facets
	_, v.Hours = visitsOf(v.Stone, s.Passes, s.Pace)
	face, err := FaceOf(ctx, s.worked.Inside(), v.Stone, Found(v.Fitted), s.lit)
	v.Light, v.Flaws = face.Figures, face.Flaws
	return v, err
}

// cut makes the stone of a plan, at angles that the machine can set.
func (s *VariantSearch) cut(plan variantPlan) (*cutting.Stone, error) {
	if len(plan.without) > 0 {
		d := *s.stone.Diagram
		d.Tiers = nil
		for i, t := range s.stone.Diagram.Tiers {
			if !slices.Contains(plan.without, i) {
				d.Tiers = append(d.Tiers, t)
			}
		}
		return cutting.Cut(&d)
	}
	if plan.crown == 1 && plan.margin == s.drawn {
		return s.stone, nil
	}
	moved, err := angles.Retarget(s.stone, angles.Target{RefractiveIndex: s.lit.RefractiveIndex, Margin: &plan.margin, CrownFactor: plan.crown})
	if err != nil {
		return nil, err
	}
	if s.Settable == nil {
		return moved.Stone, nil
	}
	rounded, err := angles.Round(moved.Stone, angles.Nearest(moved.Stone, s.Settable))
	if err != nil {
		return nil, err
	}
	return rounded.Stone, nil
}
