package mending

import (
	"fmt"
	"math"
	"slices"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
)

// AsDiagram is the diagram of a stone as it was really cut, facets that were cut beside among them: the tiers of its plan, each split
// where its facets came out at several angles or depths. Every facet stops where the stone shows a point for it, else at its
// distance. The error is the diagram.Problem of a solid that cannot be cut so.
func AsDiagram(s *cutting.Stone) (*cutting.Stone, error) {
	d := *s.Diagram
	d.Tiers = nil
	var at cutting.Distances
	for no, planned := range s.Diagram.Tiers {
		first := len(d.Tiers)
		for i, f := range s.Facets {
			if f.Tier != no || s.Solid().Face(i) == nil {
				continue
			}
			tier, azimuth := tierOf(f.Plane)
			index := gear.Normal(azimuth/360*float64(d.Gear), d.Gear)
			if off := gear.Circle(d.Azimuth(tier.Part, index) - azimuth); math.Min(off, 360-off) > 1e-6 {
				index = gear.Mirror(index, d.Gear)
			}
			// What is dialled at a whole tooth came out of an angle and back.
			if whole := math.Round(index); math.Abs(index-whole) < 1e-6 {
				index = whole
			}
			k := first + slices.IndexFunc(d.Tiers[first:], func(t diagram.Tier) bool {
				return t.Part == tier.Part && math.Abs(t.Angle-tier.Angle) < 1e-6 && math.Abs(t.Stop.Distance-tier.Stop.Distance) < cutting.Exactly
			})
			if k < first {
				tier.Note, k = planned.Note, len(d.Tiers)
				d.Tiers, at = append(d.Tiers, tier), append(at, nil)
			}
			d.Tiers[k].Indexes, at[k] = append(d.Tiers[k].Indexes, index), append(at[k], f.Plane.D)
		}
		named(&d, first, planned.Name)
	}
	if out, err := cutting.DeriveStops(&d, at, cutting.Exactly); err == nil {
		return out, nil
	}
	return cutting.Cut(&d)
}

// named gives the tiers from one on the name of the tier that they were cut for: to the largest as it is, to the others with
// a number behind it.
func named(d *diagram.Diagram, first int, name string) {
	group := d.Tiers[first:]
	if len(group) == 0 {
		return
	}
	largest := slices.IndexFunc(group, func(t diagram.Tier) bool {
		return !slices.ContainsFunc(group, func(o diagram.Tier) bool { return len(o.Indexes) > len(t.Indexes) })
	})
	group[largest].Name = name
	no := 1
	for i := range group {
		for group[i].Name == "" {
			no++
			if other := fmt.Sprintf("%.9sx%d", name, no); d.TierNo(other) < 0 {
				group[i].Name = other
			}
		}
	}
}
