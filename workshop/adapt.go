package workshop

import (
	"context"
	"slices"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/printed"
)

// TierChange is what was changed of a tier at the wheel. It is a layer of a stone's plan; the diagram stays as
// it is.
type TierChange struct {
	Tier string `validate:"required,max=12"`
	// Angle is in degrees, from 0 to 90. Stop is written as the diagram's editor takes it.
	Angle float64 `validate:"min=0,max=90"`
	Stop  string  `validate:"required,max=2000"`
}

// Over returns a layer with further changes over it.
func Over(layer, changes []TierChange) []TierChange {
	out := slices.DeleteFunc(slices.Clone(layer), func(c TierChange) bool {
		return slices.ContainsFunc(changes, func(o TierChange) bool { return o.Tier == c.Tier })
	})
	return append(out, changes...)
}

// ChangedTierGone refuses a change at the wheel to a tier that the diagram does not have.
const ChangedTierGone diagram.Code = "changed-tier-gone"

// mostChanges is how many tiers a diagram can have.
const mostChanges = 400

// adapt puts a layer over a plan that was assessed: the tiers get their angles and stops, and all is solved again.
// It returns the layer as it was read, lengths in mm as shares of the width, without changes that change nothing,
// and a diagram.Problem that names tier and field.
func (a *Assessment) adapt(layer []TierChange) ([]TierChange, error) {
	if len(layer) == 0 {
		return nil, nil
	}
	if len(layer) > mostChanges {
		return nil, diagram.Problem{Code: ChangedTierGone, TierNo: -1}
	}
	before := a.Stone.Diagram
	draft := diagram.DraftOf(before)
	draft.Width = diagram.FormatNumber(a.WidthMM)
	for _, c := range layer {
		if err := Validate(c); err != nil {
			return nil, err
		}
		i := slices.IndexFunc(before.Tiers, func(t diagram.Tier) bool { return t.Name == c.Tier })
		if i < 0 {
			return nil, diagram.Problem{Code: ChangedTierGone, Tier: c.Tier, TierNo: -1}
		}
		draft.Tiers[i].Angle, draft.Tiers[i].Stop = diagram.FormatNumber(c.Angle), c.Stop
	}
	changed, problems := printed.Diagram(draft)
	if len(problems) > 0 {
		return nil, problems[0]
	}
	var err error
	if a.Stone, err = cutting.Cut(changed); err != nil {
		return nil, err
	}
	var out []TierChange
	for i, t := range changed.Tiers {
		was := before.Tiers[i]
		if t.Angle != was.Angle || t.Stop.String() != was.Stop.String() {
			out = append(out, TierChange{Tier: t.Name, Angle: t.Angle, Stop: t.Stop.String()})
		}
	}
	return out, a.measure()
}

// Adapting is a stone's plan with another layer over it, not kept yet.
type Adapting struct {
	// Drawn is the plan without a layer, Was as it is, Is with the new layer.
	Drawn, Was, Is *Assessment
	// Layer is the new one as it was read.
	Layer []TierChange
	// Cut tells of each facet of Was, by its place, whether it had a cut.
	Cut []bool
}

// TryAdapting puts a layer over the plan of a stone's present work without keeping it. It returns ErrNotFound,
// ErrNoPlan, ErrFinished, and a diagram.Problem where the stone cannot be cut so.
func (s *Stones) TryAdapting(ctx context.Context, stoneID string, layer []TierChange) (*Adapting, error) {
	stone, err := s.store.Stone(ctx, stoneID)
	if err != nil {
		return nil, err
	}
	work := stone.Work()
	switch {
	case work.Plan == nil:
		return nil, ErrNoPlan
	case work.Finish != nil:
		return nil, ErrFinished
	}
	out := &Adapting{}
	if out.Was, err = s.AssessStone(ctx, stone); err != nil {
		return nil, err
	}
	plan := *work.Plan
	if out.Drawn, err = s.assessRevision(ctx, plan.Revision, plan.Choices); err != nil {
		return nil, err
	}
	is := *out.Drawn
	out.Is = &is
	if out.Layer, err = out.Is.adapt(layer); err != nil {
		return nil, err
	}
	was := out.Was.Stone
	names := carryNames(was, plan.names(was), out.Is.Stone, 0)
	if out.Is.Stone, _, err = plan.Mended.over(out.Is.Stone, names, was, plan.names(was)); err != nil {
		return nil, err
	}
	if err := out.Is.figures(); err != nil {
		return nil, err
	}
	state, err := s.journal.WorkState(ctx, work.ID)
	if err != nil {
		return nil, err
	}
	for _, name := range plan.names(out.Was.Stone) {
		out.Cut = append(out.Cut, state.Folded.HasCut(name))
	}
	return out, nil
}

// Adapt gives a stone a plan with another layer over the version that the caller read; a run's stones that are not
// finished share it. It returns the errors of Replan.
func (s *Stones) Adapt(ctx context.Context, stoneID string, layer []TierChange, version int) (Stone, error) {
	return s.replan(ctx, stoneID, version, func(before Plan) (next, error) {
		to := before.goesOn()
		to.layer = layer
		return to, nil
	})
}
