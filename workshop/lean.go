package workshop

import (
	"context"
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/num/quat"

	"cressa/core/diagram"
	"cressa/core/gear"
)

// Lean is how a stone sits otherwise than it was glued to sit: it was twisted by so many degrees towards rising index, and leans
// by Tilt degrees towards a dialled index.
type Lean struct {
	Tilt    float64 `validate:"min=0,max=20"`
	Towards float64 `validate:"min=0,max=360"`
	Twist   float64 `validate:"min=-180,max=180"`
}

// GirdleAt is how thick the girdle came out, in mm, at a dialled index.
type GirdleAt struct {
	Index float64 `validate:"min=0,max=360"`
	MM    float64 `validate:"min=0,max=20"`
}

// LeanOf tells how a stone leans from the girdle's thickness at two places or more, on a stone of so many mm across: the whole
// girdle stands aslant, thickness = middle + across/2·tan(tilt)·cos(azimuth − towards), by least squares. Of all leans that
// explain two readings it is the least. Off is by how many mm a reading lies off that at most.
func LeanOf(readings []GirdleAt, across float64, teeth int) (l Lean, off float64) {
	n := float64(len(readings))
	var meanCos, meanSin, mean float64
	for _, r := range readings {
		sin, cos := math.Sincos(gear.Azimuth(r.Index, teeth) * math.Pi / 180)
		meanCos, meanSin, mean = meanCos+cos/n, meanSin+sin/n, mean+r.MM/n
	}
	places, thick := mat.NewDense(len(readings), 2, nil), mat.NewDense(len(readings), 1, nil)
	for i, r := range readings {
		sin, cos := math.Sincos(gear.Azimuth(r.Index, teeth) * math.Pi / 180)
		places.SetRow(i, []float64{cos - meanCos, sin - meanSin})
		thick.Set(i, 0, r.MM-mean)
	}
	var svd mat.SVD
	svd.Factorize(places, mat.SVDThin)
	// Readings along one line tell the lean along it and nothing of the other.
	rank := svd.Rank(1e-6)
	if rank == 0 {
		return Lean{}, 0
	}
	var slope, left mat.Dense
	svd.SolveTo(&slope, thick, rank)
	left.Mul(places, &slope)
	left.Sub(&left, thick)
	cos, sin := slope.At(0, 0), slope.At(1, 0)
	l.Tilt = math.Atan2(2*math.Hypot(cos, sin), across) * 180 / math.Pi
	if l.Tilt > leastTilt {
		l.Towards = gear.Normal(math.Atan2(sin, cos)*float64(teeth)/(2*math.Pi), teeth)
	} else {
		l.Tilt = 0
	}
	return l, math.Max(mat.Max(&left), -mat.Min(&left))
}

// LeanFrom tells how a stone leans in a setup from readings of its girdle. It returns the errors of AssessStone, and NoSuchSetup.
func (s *Stones) LeanFrom(ctx context.Context, stone Stone, setup string, readings []GirdleAt) (l Lean, off float64, a *Assessment, err error) {
	if a, err = s.AssessStone(ctx, stone); err != nil {
		return l, 0, nil, err
	}
	pose, err := stone.Work().Plan.poseOf(setup)
	if err != nil {
		return l, 0, nil, err
	}
	l, off = LeanOf(a.evened(pose, readings), a.WidthMM, a.Choices.Gear)
	return l, off, a, nil
}

// evened takes what is planned out of readings of the girdle in a pose: on a wavy girdle thickness changes also on a stone that sits
// true. Where the plan has no girdle they stay as they are.
func (a *Assessment) evened(pose gear.Pose, readings []GirdleAt) []GirdleAt {
	out := slices.Clone(readings)
	planned, mean := make([]float64, len(readings)), 0.0
	for i, r := range readings {
		facing := pose.Facing(90, r.Index)
		thick, ok := a.Stone.GirdleAt(math.Atan2(facing.X, facing.Y) * 180 / math.Pi)
		if !ok {
			return readings
		}
		planned[i] = thick * a.MM
		mean += planned[i] / float64(len(readings))
	}
	for i := range out {
		out[i].MM -= planned[i] - mean
	}
	return out
}

// leastTilt is a tilt in degrees that is none: the arithmetic's.
const leastTilt = 1e-9

// Refusals of a lean.
const (
	// NoSuchSetup: the plan has no setup of that name.
	NoSuchSetup diagram.Code = "no-such-setup"
	// LeansInRun: stones that are cut together share what is dialled.
	LeansInRun diagram.Code = "leans-in-run"
)

// leaning returns the setups of a plan with one of them leaning further than what was dialled took into account; neither
// tilt nor twist is a stone that sits straight.
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
	if out[i].Pose = out[i].Pose.Moved(l.Tilt, l.Towards, l.Twist); l.Tilt > 0 || l.Twist != 0 {
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
		to := before.goesOn()
		to.setups, to.canGoBack = setups, true
		return to, err
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
