package words

import (
	"fmt"

	"cressa/core/material"
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

// TransferCheck words an item of the transfer. Flat tells whether the finished
// side has a flat to glue to; up is the side that comes up.
func TransferCheck(item string, flat bool, up string) string {
	switch item {
	case "second-dop":
		if !flat {
			return "This side has no flat: set the second dop in wax or use a form-fitting one, on axis in the jig, long side lined up."
		}
		return "Second dop on the finished side, on axis in the transfer jig. Clean both with alcohol; no flame near it."
	case "bond":
		return "Bond cured as the adhesive's label says, and tested by hand before the first dop comes off."
	case "release":
		return "Release the first dop, not the second: warm it or dissolve it slowly. Hot wax and flame burn; solvents need fresh air and no flame. Never a hot stone into cold liquid."
	case "turn":
		return "Align the stone: lay a girdle facet flat on the lap at 90° with its own index dialled, then lock the dop."
	case "companions":
		return "Check the alignment: the opposite girdle facet and the one a quarter of the way round must lie flat as well."
	case "first-tier":
		return fmt.Sprintf("Touch the first %s tier for a second: its girdle line must run parallel all round. If not, correct before going deeper.", up)
	}
	return item
}
