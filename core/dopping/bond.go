package dopping

import (
	"cmp"
	"math"
	"slices"

	"cressa/core/material"
)

// Sort is a sort of adhesive.
type Sort string

// The sorts, in the order in which they are told.
const (
	Wax       Sort = "wax"
	Cyano     Sort = "cyanoacrylate"
	Epoxy     Sort = "epoxy"
	WaxCyano  Sort = "wax-cyanoacrylate"    // wax shaped on the dop, the stone set on it cold
	FillCyano Sort = "filled-cyanoacrylate" // with a powder that fills gaps
)

// Release is what makes an adhesive let go.
type Release string

// The ways.
const (
	ByWarmth  Release = "warmth"
	BySolvent Release = "solvent"
)

// Adhesive is what is usual for a sort. Makes differ: the label decides.
type Adhesive struct {
	Sort Sort
	// Bridges is the widest gap that it fills and still holds.
	Bridges float64
	// Strength is what a cured bond of it bears on a clean stone, in N/mm². Bonds made at a bench bear
	// about a third of what data sheets print, which is what stands here.
	Strength float64
	// Warm is how warm the stone must be to be glued, in °C, 0 for cold.
	Warm float64
	// Softens is where it begins to give way, in °C.
	Softens float64
	// Minutes is how long it takes until the stone can be cut, where the bottle does not say.
	Minutes float64
	Release []Release
	// Frees is how warm the bond must get to let go by warmth, in °C.
	Frees float64
}

// Adhesives lists the sorts. The figures are of the order that makers print for such products and that
// benches see; they rank the sorts for a stone and prove nothing.
func Adhesives() []Adhesive {
	return []Adhesive{
		{Sort: Wax, Bridges: 2, Strength: 5, Warm: 65, Softens: 60, Minutes: 20, Release: []Release{ByWarmth, BySolvent}, Frees: 65},
		{Sort: Cyano, Bridges: 0.1, Strength: 8, Softens: 80, Minutes: 60, Release: []Release{BySolvent, ByWarmth}, Frees: 120},
		{Sort: Epoxy, Bridges: 1.5, Strength: 12, Softens: 70, Minutes: 720, Release: []Release{ByWarmth, BySolvent}, Frees: 120},
		{Sort: WaxCyano, Bridges: 2, Strength: 5, Softens: 60, Minutes: 60, Release: []Release{ByWarmth, BySolvent}, Frees: 65},
		{Sort: FillCyano, Bridges: 1, Strength: 8, Softens: 80, Minutes: 60, Release: []Release{BySolvent, ByWarmth}, Frees: 120},
	}
}

// AdhesiveOf returns the adhesive of a sort.
func AdhesiveOf(sort Sort) (Adhesive, bool) {
	all := Adhesives()
	i := slices.IndexFunc(all, func(a Adhesive) bool { return a.Sort == sort })
	if i < 0 {
		return Adhesive{}, false
	}
	return all[i], true
}

// Push is how hard a hand presses a facet onto a coarse lap, in N.
const Push = 5

// Stress is what a push across the end of a stone does to a round bond of so many mm², in N/mm²: shear over
// its area, and the bending of a round section of that area, F/A + 4·F·lever/(π·r³).
func Stress(push, lever, area float64) float64 {
	if area <= 0 {
		return math.Inf(1)
	}
	r := math.Sqrt(area / math.Pi)
	return push/area + 4*push*lever/(math.Pi*r*r*r)
}

// Concern is what speaks against an adhesive.
type Concern string

// The concerns, the gravest first.
const (
	// HotToGlue: the stone bears no heat, and it is glued warm.
	HotToGlue Concern = "hot-to-glue"
	// TooWeak: the push of a hand is more than the bond bears.
	TooWeak Concern = "too-weak"
	// HotToFree: it lets go by warmth, or by a solvent that harms the stone.
	HotToFree Concern = "hot-to-free"
	// WarmSlowly: the stone has to be warmed and cooled slowly.
	WarmSlowly Concern = "warm-slowly"
	// Barely: the bond bears the push of a hand, and little more.
	Barely Concern = "barely"
	// RunsHot: such hard stones run hot in the polish, and it gives way early.
	RunsHot Concern = "runs-hot"
	// SolventSlow: it lets go in a solvent, which takes hours.
	SolventSlow Concern = "solvent-slow"
)

// Grave tells that an adhesive of such a concern should not be taken.
func (c Concern) Grave() bool { return c == HotToGlue || c == TooWeak || c == HotToFree }

const (
	// runsHot is the hardness from which a stone gets hot under a polishing lap, softBond the warmth below
	// which a bond gives way then.
	runsHot, softBond = 8.0, 65.0
	// safe is how many times the push of a hand a bond should bear.
	safe = 2
)

// Bond is an adhesive between a stone and its dop.
type Bond struct {
	Adhesive Adhesive
	// Contact is what it holds, Bears how many times the push of a hand on the far end of the stone it
	// bears.
	Contact, Bears float64
	Concerns       []Concern
}

// Sound tells that no concern is grave.
func (b Bond) Sound() bool { return !slices.ContainsFunc(b.Concerns, Concern.Grave) }

// Glue joins a stone of a material, which stands out of the dop by a lever, with an adhesive.
func (s Seat) Glue(a Adhesive, m material.Material, lever float64) Bond {
	out := Bond{Adhesive: a, Contact: s.Contact(a.Bridges)}
	out.Bears = a.Strength / Stress(Push, lever, out.Contact)
	add := func(c Concern, is bool) {
		if is {
			out.Concerns = append(out.Concerns, c)
		}
	}
	// A stone that bears neither the heat nor the solvent is freed by neither.
	const blood = 40
	bySolvent := slices.Contains(a.Release, BySolvent) && m.Solvent != material.SolventSoaks
	cold := m.Heat == material.HeatAvoid
	add(HotToGlue, cold && a.Warm > blood)
	add(TooWeak, out.Bears < 1)
	add(HotToFree, cold && !bySolvent)
	add(WarmSlowly, m.Heat == material.HeatCareful && a.Warm > blood)
	add(Barely, out.Bears >= 1 && out.Bears < safe)
	add(RunsHot, m.Hardness.High >= runsHot && a.Softens < softBond)
	add(SolventSlow, cold && bySolvent)
	return out
}

// RankBonds sorts bonds: those without grave concerns first, then those with the fewest, and of these the
// one that cures first.
func RankBonds(bonds []Bond) {
	slices.SortStableFunc(bonds, func(a, b Bond) int {
		return cmp.Or(before(a.Sound(), b.Sound()), cmp.Compare(len(a.Concerns), len(b.Concerns)), cmp.Compare(a.Adhesive.Minutes, b.Adhesive.Minutes))
	})
}

// Parting is how the first dop is taken off a stone that a second one holds.
type Parting struct {
	// By is the way that leaves the second bond whole, "" where none does.
	By Release
	// Warm is how warm the first bond has to get in °C, and Most what the second one bears, where it is warmth.
	Warm, Most float64
}

// Part chooses how the adhesive of the first dop is freed while that of the second one holds: by warmth where
// the first lets go before the second softens and the stone bears it, else by a solvent that does not reach the
// second, unless the stone soaks it up.
func Part(first, second Adhesive, m material.Material) Parting {
	warm := slices.Contains(first.Release, ByWarmth) && m.Heat != material.HeatAvoid && first.Frees < second.Softens
	solvent := slices.Contains(first.Release, BySolvent) && m.Solvent != material.SolventSoaks && first.dissolves() != second.dissolves()
	switch {
	case warm:
		return Parting{ByWarmth, first.Frees, second.Softens}
	case solvent:
		return Parting{By: BySolvent}
	}
	return Parting{}
}

// dissolves names what a solvent has to dissolve: all kinds with cyanoacrylate let go in the same one.
func (a Adhesive) dissolves() Sort {
	switch a.Sort {
	case FillCyano, WaxCyano:
		return Cyano
	}
	return a.Sort
}
