package workshop

import (
	"context"
	"math"
	"slices"

	"gonum.org/v1/gonum/num/quat"

	"cressa/core/diagram"
	"cressa/core/gear"
)

// Lean is how a stone sits otherwise than it was glued to sit: it leans by Tilt degrees towards a dialled index.
type Lean struct {
	Tilt    float64 `validate:"min=0,max=20"`
	Towards float64 `validate:"min=0,max=360"`
}

// LeanOf tells how a stone leans whose girdle is thick mm at its thickest, towards an index, and thin mm opposite, on a
// stone of so many mm across: the whole girdle stands aslant, tan tilt = (thick − thin)/across.
func LeanOf(thick, thin, across, towards float64) Lean {
	return Lean{Tilt: math.Atan2(thick-thin, across) * 180 / math.Pi, Towards: towards}
}

// Refusals of a lean.
const (
	// NoSuchSetup: the plan has no setup of that name.
	NoSuchSetup diagram.Code = "no-such-setup"
	// LeansInRun: stones that are cut together share what is dialled.
	LeansInRun diagram.Code = "leans-in-run"
)

// leaning returns the setups of a plan with one of them leaning further than what was dialled took into account; no
// tilt is a stone that sits straight.
func (p Plan) leaning(setup string, l Lean) ([]Setup, error) {
	i := slices.IndexFunc(p.Setups, func(s Setup) bool { return s.ID == setup })
	if i < 0 {
		return nil, diagram.Problem{Code: NoSuchSetup, TierNo: -1}
	}
	if err := Validate(l); err != nil {
		return nil, err
	}
	out := slices.Clone(p.Setups)
	known := out[i].Pose.Rotation
	if out[i].Pose = out[i].Pose.Moved(l.Tilt, l.Towards, 0); l.Tilt > 0 {
		out[i].Pose.Rotation = quat.Mul(out[i].Pose.Rotation, known)
	}
	return out, nil
}

// LeanStone corrects all that is dialled in a setup for a stone that leans, over the version that the caller read. It
// returns the errors of Replan, NoSuchSetup, and LeansInRun for one of several that are cut together.
func (s *Stones) LeanStone(ctx context.Context, stoneID, setup string, l Lean, version int) (Stone, error) {
	return s.replan(ctx, stoneID, version, func(before Plan) (next, error) {
		stone, err := s.store.Stone(ctx, stoneID)
		if err != nil {
			return next{}, err
		}
		if stone.Run != "" && len(stone.Works) == 1 {
			return next{}, diagram.Problem{Code: LeansInRun, TierNo: -1}
		}
		setups, err := before.leaning(setup, l)
		return next{before.Choices, before.Layer, setups}, err
	})
}

// LeanDial is how a tier's facets are dialled on a stone that leans.
type LeanDial struct {
	Tier string
	Set  []gear.Setting
}

// TryLean tells how every facet of a setup would be dialled if the stone leans so, tier by tier. It returns
// ErrNotFound, ErrNoPlan and NoSuchSetup.
func (s *Stones) TryLean(ctx context.Context, stoneID, setup string, l Lean) ([]LeanDial, error) {
	stone, err := s.store.Stone(ctx, stoneID)
	if err != nil {
		return nil, err
	}
	a, err := s.AssessStone(ctx, stone)
	if err != nil {
		return nil, err
	}
	plan := stone.Work().Plan
	setups, err := plan.leaning(setup, l)
	if err != nil {
		return nil, err
	}
	at := places(a.Stone)
	var out []LeanDial
	for _, f := range plan.Facets {
		place, ok := at[facetKey{f.Tier, f.Index}]
		if f.Setup != setup || !ok {
			continue
		}
		i := slices.IndexFunc(setups, func(s Setup) bool { return s.ID == setup })
		set, err := gear.Dial(a.Stone.Facets[place].Plane.Normal, setups[i].Pose)
		if err != nil {
			return nil, err
		}
		tier := a.Stone.Diagram.Tiers[f.Tier].Name
		if n := len(out); n == 0 || out[n-1].Tier != tier {
			out = append(out, LeanDial{Tier: tier})
		}
		last := &out[len(out)-1]
		last.Set = append(last.Set, set)
	}
	return out, nil
}
