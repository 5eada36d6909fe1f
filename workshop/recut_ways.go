package workshop

import (
	"context"
	"errors"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/mending"
)

// RecutAsked is what has to go of a stone, and what must stay. Lengths are in mm, facets are places in Returned.Stone.
type RecutAsked struct {
	Damages   []mending.Damage
	Protected []int
	// Hides is how far above and below the girdle a setting hides the stone: what lies in there may stay. It is nil without one.
	Hides *float64
	// Degrees is how far the largest copy may be turned.
	Degrees float64
}

// RecutWays are the ways to recut a stone.
type RecutWays struct {
	*Returned
	// Damages are those that have to go, Stay the places of the others among those asked.
	Damages []mending.Damage
	Stay    []int
	Ways    []mending.Way
}

// ErrProtectedGone refuses to protect a facet that the stone does not have.
var ErrProtectedGone = errors.New("the stone has no such facet")

// RecutWays reckons the ways to recut a stone. It returns mending.ErrTooDeep, ErrProtectedGone, and the context's error.
func (r *Returned) RecutWays(ctx context.Context, ask RecutAsked) (*RecutWays, error) {
	out := &RecutWays{Returned: r, Stay: []int{}}
	back := &mending.Returned{Stone: r.Stone, Protected: make([]bool, len(r.Stone.Facets))}
	for _, place := range ask.Protected {
		if place < 0 || place >= len(r.Stone.Facets) || r.Stone.Solid().Face(place) == nil {
			return nil, ErrProtectedGone
		}
		back.Protected[place] = true
	}
	for i, d := range ask.Damages {
		scaled := mending.Damage{Clearance: d.Clearance / r.MM}
		for _, p := range d.Points {
			scaled.Points = append(scaled.Points, r3.Scale(1/r.MM, p))
		}
		if ask.Hides != nil && hidden(r.Stone, scaled, *ask.Hides/r.MM) {
			out.Stay = append(out.Stay, i)
			continue
		}
		back.Damages, out.Damages = append(back.Damages, scaled), append(out.Damages, d)
	}
	var err error
	if out.Ways, err = back.Ways(r.MM); err != nil {
		return nil, err
	}
	added, err := back.Adding(r.MM, mending.Dials{Teeth: r.Stone.Diagram.Gear, Step: r.Step})
	if err != nil {
		return nil, err
	}
	largest, err := back.Largest(ctx, r.MM, ask.Degrees)
	if err != nil {
		return nil, err
	}
	out.Ways = append(append(out.Ways, added...), largest)
	return out, nil
}

// hidden tells whether a damage lies no farther above or below the girdle than that.
func hidden(s *cutting.Stone, d mending.Damage, by float64) bool {
	girdle := s.Levels()
	return girdle.HasGirdle && !slices.ContainsFunc(d.Points, func(q r3.Vec) bool {
		return q.Z > girdle.GirdleHigh+by || q.Z < girdle.GirdleLow-by
	})
}
