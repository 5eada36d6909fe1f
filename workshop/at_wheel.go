package workshop

import (
	"context"

	"cressa/core/diagram"
	"cressa/core/gear"
)

// AtWheel is what is changed of a plan in the middle of the work. What is nil or "" stays.
type AtWheel struct {
	// Visiting is the order of the facets within a tier.
	Visiting gear.Visiting
	// GirdleSpare is by how many mm the girdle is left thicker at first.
	GirdleSpare *float64
	// Across is what calipers read on the stone as it was cut: the plan gets that size.
	Across *Calipered
}

// Calipered is what calipers read in mm, across a girdle tier or, where that is "", at the stone's width.
type Calipered struct {
	Tier string
	MM   float64
}

// ChangeAtWheel gives a stone a plan with other choices over the version that the caller read. It returns the errors of
// Replan.
func (s *Stones) ChangeAtWheel(ctx context.Context, stoneID string, to AtWheel, version int) (Stone, error) {
	return s.replan(ctx, stoneID, version, func(before Plan) (next, error) {
		out := before.goesOn()
		c := &out.choices
		if to.Visiting != "" {
			c.Visiting = to.Visiting
		}
		if to.GirdleSpare != nil {
			c.GirdleSpare = *to.GirdleSpare
		}
		if to.Across != nil {
			c.Size = Size{Basis: AcrossFlats, Tier: to.Across.Tier, MM: to.Across.MM, Typed: diagram.FormatNumber(to.Across.MM)}
			if to.Across.Tier == "" {
				c.Size.Basis = AcrossWidth
			}
		}
		return out, nil
	})
}
