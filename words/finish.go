package words

import (
	"fmt"
	"slices"

	"cressa/core/dopping"
	"cressa/core/material"
)

// FinishSteps tells what is done with a stone once every facet is cut: off the dop, as its adhesive lets go, then
// clean, weigh, measure and photograph it. Calipers says what they should read, tier by tier.
func FinishSteps(on Mount, m material.Material, calipers []string) []Step {
	out := append(offDop(on, m), clean(on.Adhesive, m))
	out = append(out, Step{Text: "Weigh it dry, three times, each time from zero, and keep the middle figure."})
	measure := "Measure width, length and height with calipers; take plastic jaws for a soft stone."
	if len(calipers) > 0 {
		measure += " Planned: " + And(calipers) + "."
	}
	return append(out, Step{Text: measure},
		Step{Text: "Take a picture from above and one from the side, on grey paper, in soft light."})
}

// offDop tells how a stone leaves its last dop.
func offDop(on Mount, m material.Material) []Step {
	const hot, wet = "Hot wax, iron and flame burn. Never a hot stone into cold liquid.", "Solvents need fresh air and gloves, and no flame."
	dop := "the dop"
	if on.Dop != "" {
		dop = fmt.Sprintf("the dop (%s)", on.Dop)
	}
	cool := Step{Text: "Let the stone cool by itself on cloth or wood.", Minutes: cools}
	if m.Heat != material.HeatSturdy {
		cool.Minutes = coolsSlowly
	}
	lets := on.Adhesive.Release
	switch {
	case on.Adhesive.Sort == "":
		return []Step{{Text: fmt.Sprintf("Free the stone from %s as the adhesive's label says: by slow warmth on the metal, or by a solvent.", dop), Caution: hot + " " + wet}, cool}
	case slices.Contains(lets, dopping.ByWarmth) && m.Heat != material.HeatAvoid:
		return []Step{{Text: fmt.Sprintf("Warm the metal of %s, not the stone. At about %.0f °C the bond lets go: turn the stone off with a cloth, do not pull.", dop, on.Adhesive.Frees), Caution: hot}, cool}
	case slices.Contains(lets, dopping.BySolvent) && m.Solvent != material.SolventSoaks:
		return []Step{{Text: fmt.Sprintf("Stand stone and end of %s in the solvent that the adhesive's label names, in a lidded glass, and wait until it lets go by itself.", dop), Caution: wet}}
	}
	return []Step{{Text: fmt.Sprintf("Neither warmth nor solvent is for this stone. Cut the bond with a thin wet blade or wire along %s, a little at a time.", dop), Caution: "Eye protection: a blade under tension slips."}}
}

// clean tells how a stone is cleaned without harm.
func clean(a dopping.Adhesive, m material.Material) Step {
	rest := "Take off what is left of the adhesive with a wooden pick and alcohol."
	switch {
	case m.Solvent == material.SolventSoaks:
		rest = "Take off what is left of the adhesive with a wooden pick, without any solvent: the stone soaks it up."
	case a.Sort == dopping.Wax:
		rest = "Chip off cold wax with a wooden pick, and wipe the rest off with alcohol."
	}
	out := Step{Text: rest + " Then wash the stone in warm water with a drop of soap and a soft brush."}
	if m.Solvent != material.SolventSoaks {
		out.Caution = "No flame near alcohol; fresh air."
	}
	if m.Heat != material.HeatSturdy || m.Cleavage == material.CleavagePerfect {
		out.Text += " Neither ultrasound nor steam for this one."
	}
	if m.Solvent == material.SolventAcid {
		out.Text += " No acid either, and no vinegar."
	}
	return out
}
