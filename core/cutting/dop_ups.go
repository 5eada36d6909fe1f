package cutting

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/solid"
)

// DopUps proposes how a solid is held one time after the other so that every facet is cut no
// steeper than so many degrees, from 0 to 90: the places of the facets that face up, one for
// each dop-up. A facet that faces up is level then, and the dop holds what lies opposite. A dop
// wants a flat that is large, so what faces up is a facet at least half as large as the largest,
// as long as that does.
func (s *Stone) DopUps(steepest float64) []int {
	type facet struct {
		place  int
		normal r3.Vec
		area   float64
	}
	var all []facet
	for _, f := range s.Solid().Faces() {
		if !f.OfBlock() {
			all = append(all, facet{f.ID, s.Facets[f.ID].Plane.Normal, s.Solid().Area(f)})
		}
	}
	slices.SortStableFunc(all, func(a, b facet) int { return cmpAreas(a.area, b.area, a.place, b.place) })
	least := math.Cos(steepest*math.Pi/180) - 1e-9
	open := slices.Clone(all)
	large := all[:slices.IndexFunc(append(slices.Clone(all), facet{}), func(f facet) bool { return f.area < all[0].area/2 })]
	var out []int
	for len(open) > 0 {
		best, most := 0, 0
		for i, up := range large {
			n := 0
			for _, f := range open {
				if r3.Dot(up.normal, f.normal) >= least {
					n++
				}
			}
			if n > most {
				best, most = i, n
			}
		}
		if most == 0 {
			large = all
			continue
		}
		up := large[best]
		out = append(out, up.place)
		open = slices.DeleteFunc(open, func(f facet) bool { return r3.Dot(up.normal, f.normal) >= least })
	}
	return out
}

// cmpAreas puts the larger area first; areas that are alike go by their places.
func cmpAreas(a, b float64, i, k int) int {
	switch {
	case a > b+1e-9:
		return -1
	case b > a+1e-9:
		return 1
	}
	return i - k
}

// Held is a stone that is held by more than its two sides: facets face up one after the other,
// and each facet is cut in the dop-up in which it lies flattest.
type Held struct {
	stone *Stone
	// ups are the directions that face up, in order.
	ups []r3.Vec
	// In tells in which dop-up each facet is cut, in the order of Facets, from 0.
	In []int
}

// HeldBy returns the stone as it is held when the facets with the given places, at least one,
// face up one after the other.
func (s *Stone) HeldBy(places []int) Held {
	h := Held{stone: s}
	for _, place := range places {
		h.ups = append(h.ups, s.Facets[place].Plane.Normal)
	}
	// Facets that lie alike in two dop-ups are cut in the first.
	const alike = 1e-6
	for _, f := range s.Facets {
		best := 0
		for i, up := range h.ups {
			if r3.Dot(up, f.Plane.Normal) > r3.Dot(h.ups[best], f.Plane.Normal)+alike {
				best = i
			}
		}
		h.In = append(h.In, best)
	}
	return h
}

// Poses returns how the stone is held in each dop-up on a gear, turned so that its cheats are the smallest.
func (h Held) Poses(teeth int) []gear.Pose {
	out := make([]gear.Pose, len(h.ups))
	for i, up := range h.ups {
		out[i] = gear.Pose{Up: up, Gear: teeth, Turn: h.fit(i, teeth).Turn, Rotation: gear.Unmoved}
	}
	return out
}

// fit tells how well a gear carries the facets that are cut in one dop-up.
func (h Held) fit(dopUp, teeth int) gear.Fit {
	pose := gear.Pose{Up: h.ups[dopUp], Gear: teeth, Rotation: gear.Unmoved}
	var azimuths []float64
	for i, f := range h.stone.Facets {
		// Directions that come from a solid's own planes can be dialled.
		if set, _ := gear.Dial(f.Plane.Normal, pose); h.In[i] == dopUp && set.Angle > 0 {
			azimuths = append(azimuths, gear.Azimuth(set.Index, teeth))
		}
	}
	return gear.BestTurn(azimuths, teeth)
}

// Fit tells how well a gear carries the stone as it is held: the largest cheat of all dop-ups, each turned on its own. The turn is the
// largest of them.
func (h Held) Fit(teeth int) gear.Fit {
	out := gear.Fit{Teeth: teeth}
	for i := range h.ups {
		f := h.fit(i, teeth)
		out.LargestCheat = math.Max(out.LargestCheat, f.LargestCheat)
		if math.Abs(f.Turn) > math.Abs(out.Turn) {
			out.Turn = f.Turn
		}
	}
	return out
}

// RankGears is Stone.RankGears for the stone as it is held.
func (h Held) RankGears(teeth []int) []gear.Fit { return h.stone.rank(teeth, h.Fit) }

// ProposeGear is Stone.ProposeGear for the stone as it is held.
func (h Held) ProposeGear() (gear.Fit, bool) { return proposeGear(h.Fit) }

// AtWholeTeeth is Stone.AtWholeTeeth for the stone as it is held.
func (h Held) AtWholeTeeth(teeth int) []solid.Plane {
	out, poses := h.stone.Planes(), h.Poses(teeth)
	for i, f := range h.stone.Facets {
		pose := poses[h.In[i]]
		if set, _ := gear.Dial(f.Plane.Normal, pose); set.Cheat != 0 {
			out[i] = f.AtStop(pose.Facing(set.Angle, float64(set.Tooth)))
		}
	}
	return out
}

// HasFlat tells whether the stone ends in a facet in a direction of length 1.
func (s *Stone) HasFlat(towards r3.Vec) bool {
	const along = 1 - 1e-9
	return slices.ContainsFunc(s.Facets, func(f Facet) bool { return r3.Dot(f.Plane.Normal, towards) > along })
}

// Free is where a facet lies that cannot stop as the diagram says, because what it meets is cut in a later dop-up, or because its stop is
// no meet but is measured along the diagram's axis or across it. Lengths are in units of the diagram.
type Free struct {
	// Distance is from the stone's centre of mass, Across from a facet opposite that is there before it, 0 where there is none.
	Distance, Across float64
}

// Free tells for each facet whether its stop is missing when it is cut, and where it lies then; nil where the stop is there.
func (h Held) Free() []*Free {
	const touching, opposite = 1e-6, -1 + 1e-9
	out, middle := make([]*Free, len(h.stone.Facets)), h.stone.Solid().Centroid()
	for i, f := range h.stone.Facets {
		late := func(ref string) bool {
			by := h.stone.Diagram.TierNo(ref)
			for k, g := range h.stone.Facets {
				if g.Tier == by && h.In[k] > h.In[i] && math.Abs(r3.Dot(g.Plane.Normal, f.Target)-g.Plane.D) < touching {
					return true
				}
			}
			return false
		}
		stop := h.stone.Diagram.Tiers[f.Tier].Stop
		if stop.Kind != diagram.Meet || slices.ContainsFunc(stop.Refs(), func(ref diagram.Ref) bool { return late(ref.Tier) }) {
			out[i] = &Free{Distance: f.Plane.D - r3.Dot(f.Plane.Normal, middle)}
		}
		for k, g := range h.stone.Facets {
			if out[i] != nil && h.In[k] < h.In[i] && r3.Dot(g.Plane.Normal, f.Plane.Normal) < opposite {
				out[i].Across = f.Plane.D + g.Plane.D
			}
		}
	}
	return out
}
