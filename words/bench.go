package words

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"cressa/core/diagram"
	"cressa/core/dopping"
	"cressa/core/gear"
	"cressa/core/material"
	"cressa/workshop"
)

// Cautions says what to mind when cutting a material, the usual caution first.
// Local rules, labels and licensed trades decide.
func Cautions(m material.Material) []string {
	out := []string{}
	switch m.Dust {
	case material.DustToxic:
		out = append(out, "Its dust is poisonous: cut wet only, keep the slurry wet, wash hands before eating.")
	case material.DustFibrous:
		out = append(out, "It splinters into fine needles: cut wet only, wear eye protection, never breathe the dust.")
	case material.DustSilica:
		out = append(out, "Its dust harms the lungs: cut wet only and never let the slurry dry and fly.")
	default:
		out = append(out, "Cut wet; never breathe the dust of any stone.")
	}
	switch m.Heat {
	case material.HeatAvoid:
		out = append(out, "It does not bear heat: dop cold, polish slowly, feel it with a finger often.")
	case material.HeatCareful:
		out = append(out, "Warm it and let it cool slowly; never put it hot into cold water.")
	}
	switch m.Cleavage {
	case material.CleavagePerfect:
		out = append(out, "It splits along a cleavage: turn the table at least 5° off that plane, light pressure, no knocks.")
	case material.CleavageDistinct:
		out = append(out, "It has a cleavage: no facet flat along that plane.")
	}
	switch m.Solvent {
	case material.SolventAcid:
		out = append(out, "Acids attack it, vinegar and pickle too; release it with solvent or a warm knife.")
	case material.SolventSoaks:
		out = append(out, "It soaks liquids up; keep solvents and oil away.")
	}
	return out
}

// Clear says what a later pass takes off a facet that was cut with another one before, and what
// it must keep: as one cutter would tell another, "until …".
func Clear(before workshop.Pass, stop diagram.Stop, atMeet bool) string {
	marks := "the scratches of the pass before"
	if grit, err := strconv.Atoi(before.Lap); err == nil {
		marks = fmt.Sprintf("the %d scratches", grit)
	}
	hold := "take off no more"
	switch {
	case atMeet:
		hold = "hold the meet"
	case stop.Kind == diagram.Centre:
		hold = "hold the centre point"
	case stop.Kind == diagram.Size:
		hold = "hold the size"
	case stop.Kind == diagram.GirdleBand:
		hold = "hold the girdle's thickness"
	case stop.Kind == diagram.Width:
		hold = "hold the table's width"
	}
	return fmt.Sprintf("until %s are gone; %s", marks, hold)
}

// WithSpare tells where a cut stops that takes its height from the girdle, where the girdle is left thicker by so many mm
// at first; after is the pass that then brings it down to its thickness in mm.
func WithSpare(stop string, spare float64, after bool, thickness float64) string {
	switch {
	case spare > 0:
		return fmt.Sprintf("until the girdle is %.2f mm: %s mm more than at the end", thickness+spare, number(spare))
	case after:
		return fmt.Sprintf("%s; the girdle comes down to %.2f mm", stop, thickness)
	}
	return stop
}

// AdapterCheck words an item of putting the stone onto the table adapter of a machine.
func AdapterCheck(item string, m workshop.Machine) string {
	switch item {
	case "adapter-fit":
		return fmt.Sprintf("Fit the adapter and lock the dop in it. Set the protractor to %s°; it stays there through all laps.", number(m.Reading(0)))
	case "adapter-level":
		return "Level the stone: touch the table for a second on a fine lap. The mark must begin in the middle and spread evenly. If it begins at one side, correct by a hair and touch again."
	}
	return item
}

// Transfer is what the steps of a transfer depend on.
type Transfer struct {
	// Flat tells whether the side that goes onto the dop has a flat to glue to, OneAxis whether both dops stand opposite each
	// other; Up is the side that comes up, "" where it is a facet of a solid.
	Flat, OneAxis bool
	Up            string
	// Alignment finds the turn again; its tier is "" where there is nothing to lay flat.
	Alignment workshop.Alignment
	Material  material.Material
	// First and Second are the dops that the stone comes off and goes onto.
	First, Second Mount
}

// Mount is a dop, as it is called, with its adhesive; its sort is "" where that is not known.
type Mount struct {
	Dop, Glue string
	Adhesive  dopping.Adhesive
}

func (m Mount) String() string {
	return strings.Join(slices.DeleteFunc([]string{m.Dop, m.Glue}, func(s string) bool { return s == "" }), " with ")
}

// Check is something to do before the work goes on, with the minutes that it takes by the clock, 0 for none, and
// the usual caution at it.
type Check struct {
	Item, Text string
	Minutes    float64
	Caution    string
}

// position words a place on the gear: "34", or "34 with +0.25°" where it needs a cheat.
func position(p gear.Position) string {
	if math.Abs(p.Cheat) < 0.005 {
		return fmt.Sprint(p.Tooth)
	}
	return fmt.Sprintf("%d with %+.2f°", p.Tooth, p.Cheat)
}

// ReglueCheck words an item of what is done when a stone came off its dop.
func ReglueCheck(item string) string {
	switch item {
	case "found":
		return "Switch the lap off. Find the stone and any piece of it, and look at the edges under a loupe before they touch a lap again."
	case "clean":
		return "Clean dop and stone of the old adhesive, then wipe both with alcohol; no flame near it. Warm a stone slowly and let it cool by itself."
	case "glued":
		return "Glue it again, as the finished facets sat before. Where the bond was small, take a larger dop or build up a fillet."
	case "bond-again":
		return "Let the bond cure as the adhesive's label says, and test it by hand with the machine off."
	case "line-up":
		return "Find the turn again: lay finished facets flat on the lap that stands still, at their angle and index. They lie flat in several places round the stone: then lock the dop."
	}
	return item
}

// TransferSteps lists what is done when a stone is turned over, in order: onto the second dop, off the first,
// lined up, and proved on the first tier.
func TransferSteps(of Transfer) []Check {
	var out []Check
	second := "the second dop"
	if name := of.Second.String(); name != "" {
		second = name
	}
	if !of.Flat {
		out = append(out, Check{Item: "bed", Text: "This side has no flat: shape warm wax round it on the second dop, or cast a form-fitting bed of epoxy over a film of release. Line the long side up before it sets."})
	}
	onto := fmt.Sprintf("Glue the side that is up now to %s. The first dop stays on; both stand on one axis in the transfer jig.", second)
	if !of.OneAxis {
		onto = fmt.Sprintf("Glue the side that lies opposite the one that comes up to %s, square to it. The first dop stays on until that bond holds.", second)
	}
	out = append(out, Check{Item: "second-dop", Text: onto})
	steps := GlueSteps(of.Second.Adhesive, of.Material)
	if len(steps) == 0 {
		out = append(out,
			Check{Item: "clean", Text: "Clean stone and dop with alcohol and let them dry.", Caution: "No flame near alcohol; fresh air."},
			Check{Item: "bond", Text: "Let the bond cure as the adhesive's label says, and push it with a thumb before the first dop comes off."})
	}
	for i, step := range steps {
		item := fmt.Sprintf("glue-%d", i+1)
		if i == len(steps)-1 {
			item = "bond"
		}
		out = append(out, Check{item, step.Text, step.Minutes, step.Caution})
	}
	out = append(out, release(of)...)
	for _, item := range []string{"turn", "companions", "first-tier"} {
		out = append(out, Check{Item: item, Text: lineUp(item, of)})
	}
	return out
}

// How many minutes a warmed stone is left to cool, and one that bears changes of heat badly.
const cools, coolsSlowly = 15, 30

// release tells which dop comes off and how, so that the other bond holds.
func release(of Transfer) []Check {
	const hot, wet = "Hot wax, iron and flame burn. Never a hot stone into cold liquid.", "Solvents need fresh air and gloves, and no flame."
	first := "the first dop"
	if of.First.Dop != "" {
		first = fmt.Sprintf("the first dop (%s)", of.First.Dop)
	}
	if of.First.Adhesive.Sort == "" || of.Second.Adhesive.Sort == "" {
		return []Check{{Item: "release", Text: fmt.Sprintf("Free %s and not the second: warm its metal or dissolve its bond slowly.", first), Caution: hot + " " + wet}}
	}
	cool := Check{Item: "cool", Text: "Let stone and dop cool by themselves, then take the rest of the old adhesive off.", Minutes: cools}
	if of.Material.Heat != material.HeatSturdy {
		cool.Minutes = coolsSlowly
	}
	switch p := dopping.Part(of.First.Adhesive, of.Second.Adhesive, of.Material); p.By {
	case dopping.ByWarmth:
		return []Check{{
			Item: "release", Caution: hot,
			Text: fmt.Sprintf("Warm the metal of %s, not the stone: it lets go at about %.0f °C, and the second bond bears %.0f °C. Turn the stone off, do not pull.", first, p.Warm, p.Most),
		}, cool}
	case dopping.BySolvent:
		return []Check{{
			Item: "release", Caution: wet,
			Text: fmt.Sprintf("Stand %s in the solvent that its label names, the second bond above the liquid, and wait until it lets go by itself.", first),
		}, {Item: "cool", Text: "Rinse, let it dry, and take the rest of the old adhesive off."}}
	}
	if of.Material.Heat == material.HeatAvoid {
		return []Check{{
			Item: "release", Caution: "Eye protection: a blade under tension slips.",
			Text: fmt.Sprintf("Neither warmth nor solvent frees %s alone. Cut its bond with a thin wet blade or wire along the dop, a little at a time, while a hand holds the second one.", first),
		}}
	}
	return []Check{{
		Item: "release", Caution: hot,
		Text: fmt.Sprintf("Both bonds let go alike, so keep the second one cold: wrap it and the stone in a wet cloth, and heat only the metal of %s with an iron or a hot knife in the joint.", first),
	}, cool}
}

// lineUp words how the stone finds its turn again on the second dop, and how that is proved.
func lineUp(item string, of Transfer) string {
	var then []string
	for _, p := range of.Alignment.Then {
		then = append(then, position(p))
	}
	switch item {
	case "turn":
		if of.Up == "" && of.Alignment.Tier == "" {
			return "Align the stone: no facet that is cut can be laid flat; line it up by eye along its edges, then lock the dop."
		}
		if of.Alignment.Tier == "" {
			return "Align the stone: it has no upright girdle facet to lay flat; line it up by eye along its outline, then lock the dop."
		}
		return fmt.Sprintf("Align the stone: at %s° lay %s at %s flat on the lap, then lock the dop.", number(math.Round(of.Alignment.Angle*100)/100), of.Alignment.Tier, position(of.Alignment.At))
	case "companions":
		if of.Up == "" && len(then) == 0 {
			return "Check the alignment: the other facets that are cut must lie flat at what is dialled for them."
		}
		if len(then) == 0 {
			return "Check the alignment: its other girdle facets must lie flat as well."
		}
		return fmt.Sprintf("Check the alignment: %s must lie flat as well.", And(then))
	}
	if of.Up == "" {
		return "Touch the first facet for a second: it must spread evenly towards the facets that are cut. If not, correct before going deeper."
	}
	return fmt.Sprintf("Touch the first %s tier for a second: its girdle line must run parallel all round. If not, correct before going deeper.", of.Up)
}
