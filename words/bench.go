package words

import (
	"fmt"
	"math"
	"strconv"

	"cressa/core/diagram"
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

// Transfer is what the items of a transfer depend on.
type Transfer struct {
	// Flat tells whether the finished side has a flat to glue to; Up is the side that comes up.
	Flat bool
	Up   string
	// Alignment finds the turn again; its tier is "" where no girdle facet stands upright.
	Alignment workshop.Alignment
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

// TransferCheck words an item of the transfer.
func TransferCheck(item string, of Transfer) string {
	var then []string
	for _, p := range of.Alignment.Then {
		then = append(then, position(p))
	}
	switch item {
	case "second-dop":
		if !of.Flat {
			return "This side has no flat: set the second dop in wax or use a form-fitting one, on axis in the jig, long side lined up."
		}
		return "Second dop on the finished side, on axis in the transfer jig. Clean both with alcohol; no flame near it."
	case "bond":
		return "Bond cured as the adhesive's label says, and tested by hand before the first dop comes off."
	case "release":
		return "Release the first dop, not the second: warm it or dissolve it slowly. Hot wax and flame burn; solvents need fresh air and no flame. Never a hot stone into cold liquid."
	case "turn":
		if of.Alignment.Tier == "" {
			return "Align the stone: it has no upright girdle facet to lay flat; line it up by eye along its outline, then lock the dop."
		}
		return fmt.Sprintf("Align the stone: at 90° lay %s at %s flat on the lap, then lock the dop.", of.Alignment.Tier, position(of.Alignment.At))
	case "companions":
		if len(then) == 0 {
			return "Check the alignment: its other girdle facets must lie flat as well."
		}
		return fmt.Sprintf("Check the alignment: %s must lie flat as well.", And(then))
	case "first-tier":
		return fmt.Sprintf("Touch the first %s tier for a second: its girdle line must run parallel all round. If not, correct before going deeper.", of.Up)
	}
	return item
}
