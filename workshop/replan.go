package workshop

import (
	"context"
	"fmt"
	"slices"

	"cressa/core/diagram"
	"cressa/workshop/journal"
)

// HeldSince refuses to change how a solid is held once cutting has begun.
const HeldSince diagram.Code = "held-since"

// SideIsCut refuses to change the side cut first once cutting has begun.
const SideIsCut diagram.Code = "side-is-cut"

// Replan gives a stone a new plan over the version that the caller read. Facets that the
// old plan had keep their names, and so their ticks; what was changed at the wheel stays changed. A run has one plan: its other stones
// that are not finished get the new one too, all of them or none. It returns ErrNotFound,
// ErrNoPlan, ErrFinished, ErrStale where the version is not the stored one, and the errors
// of Assess, with the number of the stone where it is another one of the run.
func (s *Stones) Replan(ctx context.Context, stoneID string, c Choices, version int) (Stone, error) {
	return s.replan(ctx, stoneID, version, func(before Plan) (next, error) {
		to := before.goesOn()
		to.choices = c
		return to, nil
	})
}

// next is what the next plan of a stone takes from the one before.
type next struct {
	choices Choices
	layer   []TierChange
	// setups are those whose rotations it keeps, by their places.
	setups []Setup
	mended *Mended
	came   *Came
	// canGoBack tells that the plan can be taken back.
	canGoBack bool
	// log is told what the log says beside that there is another plan, as soon as it has said that.
	log func(context.Context) error
}

// goesOn takes everything from a plan.
func (p Plan) goesOn() next {
	return next{choices: p.Choices, layer: p.Layer, setups: p.Setups, mended: p.Mended, came: p.Came}
}

// replan makes the next plan from what follows of the one before.
func (s *Stones) replan(ctx context.Context, stoneID string, version int, after func(before Plan) (next, error)) (Stone, error) {
	stone, err := s.store.Stone(ctx, stoneID)
	if err != nil {
		return stone, err
	}
	stone.Version = version
	all := []Stone{stone}
	if stone.Run != "" && len(stone.Works) == 1 {
		_, stones, err := s.store.Run(ctx, stone.Run)
		if err != nil {
			return stone, err
		}
		for _, other := range stones {
			if other.ID != stone.ID && other.Work().Finish == nil {
				all = append(all, other)
			}
		}
	}
	// Plans take seconds to work out. What they rest on is looked at again when they are
	// kept.
	plans, logs := make([]Plan, len(all)), make([]func(context.Context) error, len(all))
	for i, o := range all {
		if plans[i], logs[i], err = s.planAnew(ctx, o, after); err != nil && i > 0 {
			return stone, fmt.Errorf("stone %d of the run: %w", o.Number, err)
		} else if err != nil {
			return stone, err
		}
	}
	err = s.store.InTx(ctx, func(ctx context.Context) error {
		for i, o := range all {
			if err := s.addPlan(ctx, o, plans[i]); err != nil {
				return err
			}
			if logs[i] == nil {
				continue
			}
			if err := logs[i](ctx); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return stone, err
	}
	return s.store.Stone(ctx, stoneID)
}

// addPlan keeps a plan of a stone's present work, if nothing forbids it by now.
func (s *Stones) addPlan(ctx context.Context, stone Stone, p Plan) error {
	work := stone.Work()
	state, err := s.journal.WorkState(ctx, work.ID)
	if err != nil {
		return err
	}
	if state.Folded.Finished {
		return ErrFinished
	}
	if was := work.Plan.Choices.FirstSide; p.Choices.FirstSide != was && state.Folded.Begun() {
		return diagram.Problem{Code: SideIsCut, TierNo: -1, Field: diagram.FieldFirstSide, Text: string(was)}
	}
	if !slices.Equal(p.Choices.DopUps, work.Plan.Choices.DopUps) && state.Folded.Begun() {
		return diagram.Problem{Code: HeldSince, TierNo: -1, Field: fieldDopUps}
	}
	if err := s.store.AddPlan(ctx, stone.ID, work.ID, p, stone.Version); err != nil {
		return err
	}
	return s.journal.tell(ctx, work.ID, journal.Plan, p.Asked())
}

// planAnew makes the next plan of a stone's present work, not stored yet, with what the log is told then.
func (s *Stones) planAnew(ctx context.Context, stone Stone, after func(before Plan) (next, error)) (Plan, func(context.Context) error, error) {
	work := stone.Work()
	switch {
	case work.Plan == nil:
		return Plan{}, nil, ErrNoPlan
	case work.Finish != nil:
		return Plan{}, nil, ErrFinished
	}
	before := *work.Plan
	takes, err := after(before)
	if err != nil {
		return Plan{}, nil, err
	}
	c := takes.choices
	if field := before.fixed(c); field != "" {
		return Plan{}, nil, diagram.Problem{Code: RecutFixed, TierNo: -1, Field: field}
	}
	plan, a, err := s.newPlan(ctx, before.DiagramID, before.Revision, c, takes.layer)
	if err != nil {
		return plan, nil, err
	}
	old, _, err := s.cutPlan(ctx, before)
	if err != nil {
		return plan, nil, err
	}
	state, err := s.journal.WorkState(ctx, work.ID)
	if err != nil {
		return plan, nil, err
	}
	plan.No, plan.Came = before.No+1, takes.came
	if takes.canGoBack {
		plan.Over = before.No
	}
	// Setups keep their names, and so the ticks in them.
	plan.Setups = s.named(a.Setups, before.Setups)
	glued := len(c.DopUps) > 0 && slices.Equal(c.DopUps, before.Choices.DopUps) && c.Gear == before.Choices.Gear
	for i := range plan.Setups {
		if glued {
			// A facet that faces up may get another angle at the wheel; the stone stays as it was glued by it.
			plan.Setups[i].Pose.Up, plan.Setups[i].Pose.Turn = before.Setups[i].Pose.Up, before.Setups[i].Pose.Turn
		}
		if i < len(takes.setups) && sameTip(c.Holds, before.Choices.Holds, i) {
			plan.Setups[i].Pose.Rotation = takes.setups[i].Pose.Rotation
		}
	}
	names := carryNames(old, before.names(old), a.Stone, highestName(state.Folded))
	plan.layOut(a.Stone, a.In, names)
	_, plan.Mended, err = takes.mended.over(a.Stone, names, old, before.names(old))
	return plan, takes.log, err
}

// fixed names the first of the choices that differs from the plan's and was settled with the stone that came, "" where all may be
// made.
func (p Plan) fixed(c Choices) diagram.Field {
	switch was := p.Choices; {
	case p.Came == nil:
	case c.Size != was.Size:
		return "size"
	case !slices.Equal(c.DopUps, was.DopUps):
		return fieldDopUps
	case c.FirstSide != was.FirstSide:
		return diagram.FieldFirstSide
	case c.Girdle != was.Girdle:
		return "girdle"
	case c.Table != was.Table:
		return "table"
	}
	return ""
}
