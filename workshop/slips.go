package workshop

import (
	"cmp"
	"context"
	"math"
	"slices"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/mending"
	"cressa/core/solid"
	"cressa/workshop/journal"
)

// SlipLook is what a stone looks like, as far as it is cut, if one slip was made.
type SlipLook struct {
	mending.Slip
	// Cut is the stone with the facets that were cut so far, in the order of the plan's.
	Cut *cutting.Stone
	// Facets are those that stand otherwise than planned, by their places.
	Facets []int
	// Told says that the log tells of such a slip.
	Told bool
}

// mostSlips is how many looks are shown: more of them nobody compares with a stone.
const mostSlips = 24

// NoSuchSlip refuses a slip that a stone cannot have had.
const NoSuchSlip diagram.Code = "no-such-slip"

// Slips tells what the stone of the present work looks like if one slip was made: the likeliest first, two dozen at most. It
// returns the errors of AsCut, and the context's error when that ends it.
func (s *Stones) Slips(ctx context.Context, stone Stone) (*AsCut, []SlipLook, error) {
	as, err := s.AsCut(ctx, stone, "")
	if err != nil {
		return nil, nil, err
	}
	all, err := mending.Slips(ctx, as.Stone, as.Machine.Gears)
	if err != nil {
		return nil, nil, err
	}
	looks := []SlipLook{}
	for _, slip := range all {
		look := SlipLook{Slip: slip, Told: slices.ContainsFunc(as.Differences, func(d Difference) bool { return tells(d, slip) })}
		if look.Facets, err = look.cut(as); err != nil || len(look.Facets) == 0 {
			continue // it cannot be told from the plan yet
		}
		looks = append(looks, look)
	}
	slices.SortStableFunc(looks, func(a, b SlipLook) int { return cmp.Compare(a.unlikely(), b.unlikely()) })
	return as, looks[:min(mostSlips, len(looks))], nil
}

// cut cuts the look of a slip out of the facets that were cut so far, and returns those of them that stand otherwise.
func (l *SlipLook) cut(as *AsCut) (otherwise []int, err error) {
	w := cutting.Worked{Planes: make([]*solid.Plane, len(as.Stone.Facets))}
	for i, f := range as.Stone.Facets {
		is := l.Stone.Facets[i].Plane
		if as.Worked.Planes[i] == nil || math.IsInf(is.D, 1) {
			continue
		}
		w.Planes[i] = &is
		if is != f.Plane {
			otherwise = append(otherwise, i)
		}
	}
	if l.Kind == mending.Missed {
		for i, f := range as.Stone.Facets {
			if as.Worked.Planes[i] != nil && as.Stone.Diagram.Tiers[f.Tier].Name == l.Tiers[0] {
				otherwise = append(otherwise, i)
			}
		}
	}
	l.Cut, err = as.Stone.Worked(w)
	return otherwise, err
}

// unlikely orders slips: what the log tells, then what happens most.
func (l *SlipLook) unlikely() int {
	if l.Told {
		return -1
	}
	if l.Kind == mending.WrongIndex && math.Abs(*l.By) == 1 {
		return 0
	}
	return 1 + slices.Index([]mending.SlipKind{
		mending.Swapped, mending.WrongSense, mending.SideTurned, mending.WrongIndex, mending.WrongAngle, mending.Missed, mending.WrongGear,
	}, l.Kind)
}

// tells says whether a difference that the log knows of would come of a slip.
func tells(d Difference, slip mending.Slip) bool {
	if !slices.Contains(slip.Tiers, d.Tier) {
		return false
	}
	switch d.What {
	case DifferenceKind(journal.WrongIndex):
		return slip.Kind == mending.WrongIndex && d.Really.Index-d.Planned.Index == *slip.By || slip.Kind == mending.WrongSense
	case DifferenceKind(journal.WrongAngle):
		return slip.Kind == mending.WrongAngle && math.Abs(d.Really.Angle-d.Planned.Angle-*slip.By) < sameSetting
	case DialShowed:
		return slip.Kind == mending.WrongIndex && math.Abs(d.Really.Index-d.Planned.Index-*slip.By) < sameShown ||
			slip.Kind == mending.WrongAngle && math.Abs(d.Really.Angle-d.Planned.Angle-*slip.By) < sameShown
	case LeftOut:
		return slip.Kind == mending.Missed
	}
	return false
}

// TakeSlip keeps the look of a slip as what was really cut: it is one of those of Slips, named by its kind, its tiers and what it
// is off by. From is what tells it. It returns the ID of the event that says so, the errors of
// Slips, and the Problems NoSuchSlip and NothingTold.
func (s *Stones) TakeSlip(ctx context.Context, stone Stone, kind mending.SlipKind, tiers []string, by *float64, from string) (event string, err error) {
	as, looks, err := s.Slips(ctx, stone)
	if err != nil {
		return "", err
	}
	i := slices.IndexFunc(looks, func(l SlipLook) bool {
		return l.Kind == kind && slices.Equal(l.Tiers, tiers) && (l.By == nil) == (by == nil) && (by == nil || *by == *l.By)
	})
	if i < 0 {
		return "", diagram.Problem{Code: NoSuchSlip, TierNo: -1}
	}
	var planes []solid.Plane
	for k, p := range as.Worked.Planes {
		is := looks[i].Stone.Facets[k].Plane
		if p == nil || math.IsInf(is.D, 1) {
			continue
		}
		planes = append(planes, is)
	}
	return s.tellPlanes(ctx, stone, as.Assessment, from, planes)
}
