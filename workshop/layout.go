package workshop

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/workshop/journal"
)

func facetName(i int) FacetID { return fmt.Sprintf("f%d", i+1) }

// usualSetups are the two in which a stone is cut to a diagram: one side up, then the
// other.
func usualSetups(first diagram.Part, teeth int, turns cutting.Turns, ids []string) []Setup {
	out := make([]Setup, 2)
	for i, side := range []diagram.Part{first, first.Other()} {
		out[i] = Setup{Pose: UsualPose(side, teeth, turns.Of(side))}
		if i < len(ids) {
			out[i].ID = ids[i]
		}
	}
	return out
}

// tipped tips the stone in its setups as it is held in each of them.
func tipped(setups []Setup, holds []Hold) []Setup {
	for i := range setups {
		if i < len(holds) && holds[i].Tilt > 0 {
			setups[i].Pose = setups[i].Pose.Moved(holds[i].Tilt, holds[i].Towards, 0)
		}
	}
	return setups
}

// sameTip tells whether a stone is tipped in a setup as it was.
func sameTip(a, b []Hold, setup int) bool {
	of := func(holds []Hold) (tilt, towards float64) {
		if setup >= len(holds) || holds[setup].Tilt == 0 {
			return 0, 0
		}
		return holds[setup].Tilt, holds[setup].Towards
	}
	tilt, towards := of(a)
	other, elsewhere := of(b)
	return tilt == other && towards == elsewhere
}

// UsualPose is that of a stone with the pavilion or the crown up, turned by so many degrees
// clockwise as seen from above the table.
func UsualPose(side diagram.Part, teeth int, turn float64) gear.Pose {
	p := gear.Pose{Up: r3.Vec{Z: 1}, Gear: teeth, Turn: turn, Rotation: gear.Unmoved}
	if side == diagram.Pavilion {
		p.Up, p.Turn = r3.Vec{Z: -1}, -turn
	}
	return p
}

// layOut puts the facets of a stone into the order of the work: setup by setup, in each pass by
// pass, tier by tier, within a tier in the visiting order. A table that goes through all its laps at
// one setting of the adapter does so after the other tiers of its side where it is the last of
// them, else at its place in the first pass. In holds the places of the facets' setups, names are
// those of the facets, both in the order of stone.Facets.
func (p *Plan) layOut(stone *cutting.Stone, in []int, names []FacetID) {
	p.Facets, p.Runs = nil, nil
	for no, setup := range p.Setups {
		held := func(place int) bool { return in[place] == no }
		own := p.tiersOf(stone, setup, held, names)
		run := PlannedRun{Setup: setup.ID}
		end := func() {
			if len(run.Facets) > 0 {
				p.Runs = append(p.Runs, run)
			}
			run.Facets = nil
		}
		through := func(t laidTier) {
			end()
			for _, pass := range t.passes {
				if facets := p.Came.asks(t.facets, p.Choices.Passes, pass); len(facets) > 0 {
					p.Runs = append(p.Runs, PlannedRun{Setup: setup.ID, Pass: pass.ID, Adapter: true, Facets: facets})
				}
			}
		}
		for no, pass := range p.Choices.Passes {
			run.Pass = pass.ID
			for i, t := range own {
				switch {
				case t.through && no == 0 && i < len(own)-1:
					through(t)
				case !t.through && slices.Contains(t.passes, pass):
					run.Facets = append(run.Facets, p.Came.asks(t.facets, p.Choices.Passes, pass)...)
				}
			}
			end()
		}
		if n := len(own); n > 0 && own[n-1].through {
			through(own[n-1])
		}
		p.list(stone, setup, held, names)
	}
}

// laidTier is a tier with the names of its facets in the order in which they are visited.
type laidTier struct {
	facets []FacetID
	passes []Pass
	// through tells that it goes through all its passes at once on the table adapter.
	through bool
}

func (p *Plan) tiersOf(stone *cutting.Stone, setup Setup, held func(place int) bool, names []FacetID) []laidTier {
	var out []laidTier
	for no, tier := range stone.Diagram.Tiers {
		var own []int
		var dials, angles []float64
		for i, f := range stone.Facets {
			if f.Tier == no && held(i) {
				own = append(own, i)
				// Poses of the workshop's own can be dialled.
				set, _ := gear.Dial(f.Plane.Normal, setup.Pose)
				dials, angles = append(dials, set.Index), append(angles, set.Angle)
			}
		}
		if len(own) == 0 {
			continue
		}
		laid := laidTier{passes: p.Choices.Of(tier)}
		laid.through = p.Choices.TableAt == TableThrough && p.onAdapter(tier, angles)
		for _, k := range p.Choices.Visiting.Order(dials, setup.Pose.Gear) {
			laid.facets = append(laid.facets, names[own[k]])
		}
		out = append(out, laid)
	}
	return out
}

// onAdapter tells whether a tier is cut on the table adapter: the table, and on a solid that is held by its faces what is level.
func (p *Plan) onAdapter(tier diagram.Tier, dialled []float64) bool {
	if len(p.Choices.DopUps) == 0 {
		return GroupOf(tier) == TableLaps && p.Machine.WithAdapter(tier.Angle)
	}
	return !slices.ContainsFunc(dialled, func(angle float64) bool { return !p.Machine.WithAdapter(angle) })
}

// list adds the facets of a setup in the order in which its runs first come to them, and behind them those of a recut that no
// run comes to.
func (p *Plan) list(stone *cutting.Stone, setup Setup, held func(place int) bool, names []FacetID) {
	seen := map[FacetID]bool{}
	for _, run := range p.Runs {
		if run.Setup != setup.ID {
			continue
		}
		for _, id := range run.Facets {
			if !seen[id] {
				f := stone.Facets[slices.Index(names, id)]
				p.Facets = append(p.Facets, PlannedFacet{ID: id, Tier: f.Tier, Index: f.Index, Setup: setup.ID})
				seen[id] = true
			}
		}
	}
	if p.Came == nil {
		return
	}
	// What a recut leaves alone is a facet of the stone all the same.
	for i, f := range stone.Facets {
		if held(i) && !seen[names[i]] {
			p.Facets = append(p.Facets, PlannedFacet{ID: names[i], Tier: f.Tier, Index: f.Index, Setup: setup.ID})
		}
	}
}

// LayOut gives a plan that holds choices and turns its setups and the order of its work.
// Names are those of the facets, in the order in which its diagram is cut; setups are the
// names of the usual two. It is how plans were frozen that version 7 of the records had
// worked out anew each time. A diagram that cannot be cut leaves the plan without facets.
func (p *Plan) LayOut(d *diagram.Diagram, setups []string, names []FacetID) {
	p.Setups = usualSetups(p.Choices.FirstSide, p.Choices.Gear, p.Turns, setups)
	stone, err := cutting.Cut(d)
	if err != nil || len(stone.Facets) != len(names) {
		return
	}
	p.layOut(stone, inSides(stone, p.Setups), names)
}

// facetKey tells the facets of a diagram apart: by tier and written index, which no
// numerical method can change.
type facetKey struct {
	tier  int
	index float64
}

// places returns where each facet of a stone stands in stone.Facets.
func places(stone *cutting.Stone) map[facetKey]int {
	out := make(map[facetKey]int, len(stone.Facets))
	for i, f := range stone.Facets {
		out[facetKey{f.Tier, f.Index}] = i
	}
	return out
}

// names returns the names of a stone's facets, in the order of stone.Facets.
func (p *Plan) names(stone *cutting.Stone) []FacetID {
	at := places(stone)
	out := make([]FacetID, len(stone.Facets))
	for _, f := range p.Facets {
		if i, ok := at[facetKey{f.Tier, f.Index}]; ok {
			out[i] = f.ID
		}
	}
	return out
}

// PlaceOf returns the place of a facet among those of the plan's stone, -1 where that does not have it.
func (p *Plan) PlaceOf(stone *cutting.Stone, id FacetID) int { return slices.Index(p.names(stone), id) }

// highestName returns the highest number that any plan of a work has given to a facet.
func highestName(w *journal.Work) int {
	highest := 0
	for _, plan := range w.Plans {
		for _, run := range plan.Runs {
			for _, f := range run.Facets {
				if n, err := strconv.Atoi(strings.TrimPrefix(f, "f")); err == nil {
					highest = max(highest, n)
				}
			}
		}
	}
	return highest
}

// carryNames gives every facet of the new stone the name of the facet of the old one that
// lies in the same direction, and one above all that were ever given to the rest.
// Direction survives renaming, reordering and another gear.
func carryNames(old *cutting.Stone, names []FacetID, now *cutting.Stone, highest int) []FacetID {
	const same = 1e-6
	out := make([]FacetID, len(now.Facets))
	used := make([]bool, len(old.Facets))
	for i, f := range now.Facets {
		for k, g := range old.Facets {
			near := r3.Norm(r3.Sub(f.Plane.Normal, g.Plane.Normal)) < same
			if near && !used[k] && names[k] != "" && now.Diagram.Tiers[f.Tier].Part == old.Diagram.Tiers[g.Tier].Part {
				out[i], used[k] = names[k], true
				break
			}
		}
		if out[i] == "" {
			out[i] = facetName(highest)
			highest++
		}
	}
	return out
}
