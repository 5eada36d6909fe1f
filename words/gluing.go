package words

import (
	"fmt"
	"strings"

	"cressa/analysis"
	"cressa/core/diagram"
	"cressa/core/dopping"
	"cressa/core/material"
	"cressa/core/rough"
	"cressa/workshop"
)

// Advice is what was found before a stone is glued, as a foreman would say it.
type Advice struct {
	// Text says what was found, with its figure and what that is held against.
	Text string
	// Do says what can be done, "" where nothing need be.
	Do string
	// Where is the place where that is done, "" for the bench itself.
	Where Where
}

// Where is a place in the application.
type Where string

// The places.
const (
	AtAngles  Where = "angles"  // the angles of the diagram
	AtDiagram Where = "diagram" // its editor
	AtPlan    Where = "plan"
	AtDop     Where = "dop"
	AtKit     Where = "kit"
	AtMachine Where = "machine"
	AtRough   Where = "rough"
)

// sideUp names what is up: a side, or the facet that a solid is held with facing up.
func sideUp(up string) string {
	switch up {
	case string(diagram.Crown):
		return "crown side"
	case string(diagram.Pavilion):
		return "pavilion side"
	}
	return "dop-up of " + up
}

// Found words a finding.
func Found(f analysis.Finding) Advice {
	switch f.Topic {
	case analysis.OfRough:
		return foundRough(f)
	case analysis.OfFlaw:
		return foundFlaw(f)
	case analysis.OfMargin:
		return foundMargin(f)
	case analysis.OfGear:
		return foundGear(f)
	case analysis.OfAngle:
		if f.Verdict == analysis.Fine {
			return Advice{Text: "The machine sets every angle."}
		}
		return Advice{f.Tier + ": " + Problem(*f.Problem), "Round the angles for this machine: the stops are solved again.", AtAngles}
	case analysis.OfSense:
		if f.Verdict == analysis.Fine {
			return Advice{Text: "It comes out the same whichever way the crown's indexes run."}
		}
		return Advice{
			"The stone has no mirror line: with the crown's indexes counted the wrong way it is another stone.",
			"Dial what the bench shows, and hold the first crown facets against the picture before going deeper.", "",
		}
	case analysis.OfStop:
		return foundStop(f)
	case analysis.OfGirdle:
		if f.Verdict == analysis.Fine {
			return Advice{Text: fmt.Sprintf("Girdle %.2f to %.2f mm thick.", f.Value, f.Limit)}
		}
		return Advice{Problem(*f.Problem), "Change the girdle in the diagram, or the size in the plan.", AtDiagram}
	case analysis.OfFacet:
		return foundFacet(f)
	case analysis.OfFoot:
		return foundFoot(f)
	case analysis.OfDop:
		return foundDop(f)
	case analysis.OfQuill:
		return Advice{
			fmt.Sprintf("Nobody knows whether the quill meets the lap on the %s: its nose is not measured.", sideUp(f.Side)),
			fmt.Sprintf("Measure how wide the quill of %s is and how far behind the dop's rim it begins, and write both down.", f.Name), AtMachine,
		}
	case analysis.OfAdhesive:
		return foundBond(f)
	case analysis.OfBottle:
		return Advice{fmt.Sprintf("%s: %s", f.Bottle.Name, Need(workshop.Need(f.Code), *f.Bottle)), "Open a new one or take another: old adhesive lets go in mid cut.", AtKit}
	}
	return Advice{}
}

func foundRough(f analysis.Finding) Advice {
	switch {
	case f.Code == "not-on-record":
		return Advice{
			"The rough is not on record, so nobody has checked that the stone fits.",
			fmt.Sprintf("Measure it: the preform needs %.2f mm of height and %.2f mm of width. Or enter the piece under Rough and plan from there.", f.Value, f.Limit), AtRough,
		}
	case f.Code == "not-searched":
		return Advice{fmt.Sprintf("Nobody has looked for this stone of %.2f mm in its piece.", f.Value), "Look for the diagram in the piece.", AtRough}
	case f.Verdict == analysis.Fine:
		return Advice{Text: fmt.Sprintf("The piece has room for %.2f mm; the plan asks for %.2f mm.", f.Limit, f.Value)}
	}
	return Advice{
		fmt.Sprintf("The plan is %.2f mm wide; the piece has room for %.2f mm, with what was left all round.", f.Value, f.Limit),
		"Plan a smaller stone, or look again with a smaller allowance.", AtPlan,
	}
}

func foundFlaw(f analysis.Finding) Advice {
	if f.Verdict == analysis.Fine {
		if f.Value == 0 {
			return Advice{Text: "No flaw is marked in the piece."}
		}
		return Advice{Text: "All marked flaws fall outside the stone."}
	}
	name := fmt.Sprintf("Flaw %.0f", f.Value)
	if f.Name != "" {
		name = fmt.Sprintf("The flaw “%s”", f.Name)
	}
	text := name + " may stay in the stone, wherever it falls."
	if rough.Rule(f.Code) == rough.Hidden {
		text = name + " may stay in the stone beside the table; mirrored images may show it."
	}
	return Advice{text, "See what it costs to leave it out. If it opens on the lap, stop and look before going on.", AtRough}
}

func foundMargin(f analysis.Finding) Advice {
	if f.Problem != nil {
		return Advice{f.Tier + ": " + Problem(*f.Problem), "Leave this tier off, or move the angles to this material.", AtAngles}
	}
	switch f.Verdict {
	case analysis.Grave:
		return Advice{fmt.Sprintf("%s lies %.2f° below the critical angle: light falls through there.", f.Tier, -f.Value), "Move the angles to this material.", AtAngles}
	case analysis.Care:
		return Advice{
			fmt.Sprintf("%s stands only %.2f° above the critical angle; %.1f° leaves room for a slip.", f.Tier, f.Value, f.Limit),
			"Move the angles to this material, or set this tier with care.", AtAngles,
		}
	}
	return Advice{Text: fmt.Sprintf("The flattest pavilion tier, %s, stands %.2f° above the critical angle.", f.Tier, f.Value)}
}

func foundGear(f analysis.Finding) Advice {
	switch {
	case f.Code == "missing":
		return Advice{fmt.Sprintf("The machine has no gear of %.0f teeth.", f.Limit), "Take another gear in the plan, or put this one onto the shelf.", AtPlan}
	case f.Code == "no-cheater":
		return Advice{
			fmt.Sprintf("On %.0f teeth some facets need a cheat of %.2f°, and the machine has no cheater.", f.Limit, f.Value),
			"Take a gear that carries the diagram, or accept meets that stay open.", AtPlan,
		}
	case f.Verdict == analysis.Care:
		return Advice{fmt.Sprintf("On %.0f teeth some facets need a cheat of up to %.2f°.", f.Limit, f.Value), "The bench shows the cheat at each facet. A gear that carries the diagram saves them.", AtPlan}
	}
	return Advice{Text: fmt.Sprintf("The gear of %.0f teeth carries the diagram without a cheat.", f.Limit)}
}

func foundStop(f analysis.Finding) Advice {
	switch {
	case f.Verdict == analysis.Fine:
		return Advice{Text: "Every tier stops at a meet or at a size that can be measured."}
	case diagram.StopKind(f.Code) == diagram.Along:
		return Advice{
			fmt.Sprintf("%s stops between two meets, %.0f %% of the way: no meet tells when.", f.Tier, 100*f.Value),
			"Mark the place with a pen before cutting, and cut all its facets by the same height.", "",
		}
	}
	return Advice{fmt.Sprintf("%s stops at a plain depth: nothing on the stone tells when.", f.Tier), "Give it a stop at a meet in the editor, or cut it by the height dial.", AtDiagram}
}

func foundFacet(f analysis.Finding) Advice {
	switch f.Verdict {
	case analysis.Unknown:
		return Advice{"Nobody knows how coarse the laps of the plan are.", "Name their grits, or take them from the shelf.", AtPlan}
	case analysis.Care:
		return Advice{
			fmt.Sprintf("The smallest facet of %s is %.2f mm broad; the grit of %s wants %.2f mm.", f.Tier, f.Value, lapName(f.Name), f.Limit),
			"Let this tier go without that lap and cut it on a finer one.", AtPlan,
		}
	}
	return Advice{Text: fmt.Sprintf("The smallest facet, of %s, is %.2f mm broad: enough for the grit of %s.", f.Tier, f.Value, lapName(f.Name))}
}

func lapName(name string) string {
	if name == "" {
		return "its lap"
	}
	return name
}

func foundFoot(f analysis.Finding) Advice {
	text := "The finished crown has no flat table to glue to."
	if f.Verdict == analysis.Fine {
		switch dopping.Underside(f.Code) {
		case dopping.Level:
			return Advice{Text: fmt.Sprintf("At the transfer the stone stands on a flat of %.2f mm.", f.Value)}
		case dopping.Keel:
			return Advice{Text: fmt.Sprintf("At the transfer the stone sits with its keel of %.2f mm in a groove.", f.Value)}
		}
		return Advice{Text: "At the transfer the stone sits with its tip in a hollow."}
	}
	if f.Code == analysis.ThreeCornered {
		return Advice{
			"The pavilion ends in three corners: in a cone it touches along three lines alone.",
			"Fill the hollow with wax or a filled adhesive, take the largest cone that clears the lap, or cut the crown first.", AtDop,
		}
	}
	return Advice{text, "Set the second dop in wax, use a form-fitting one, or cut the crown first.", AtDop}
}

// Fault says what speaks against a dop: how far it and the quill stay off the lap at least, and how far the
// stone stands out, in mm.
func Fault(f dopping.Fault, least, rim, quill float64) string {
	switch f {
	case dopping.InTheWay:
		return fmt.Sprintf("the lap would cut %.2f mm into it", -least)
	case dopping.OffStone:
		return "nothing of the stone stands on it"
	case dopping.NoRim:
		if rim < 0 {
			return fmt.Sprintf("%.2f mm wider than the stone all round", -rim)
		}
		return fmt.Sprintf("too wide to centre by: only %.2f mm of the stone stand out", rim)
	case dopping.Tight:
		return fmt.Sprintf("the lap comes within %.2f mm", least)
	case dopping.OverRim:
		return fmt.Sprintf("the quill would reach %.2f mm below the lap: cut at the lap's rim, the quill outside", -quill)
	case dopping.OtherShape:
		return "another shape suits this end better"
	}
	return ""
}

// DopName names a dop by its shape and width in mm.
func DopName(d dopping.Dop) string {
	shape := map[dopping.Shape]string{dopping.Flat: "Flat dop", dopping.Cone: "Cone dop", dopping.Vee: "V dop"}[d.Shape]
	return fmt.Sprintf("%s %s mm", shape, number(d.Diameter))
}

func foundDop(f analysis.Finding) Advice {
	switch {
	case f.Code == "none":
		name := f.Name
		if name == "" {
			name = "a usual one"
		}
		return Advice{fmt.Sprintf("No dop with a known size is named for the %s.", sideUp(f.Side)), fmt.Sprintf("Choose one. %s of %s mm would do.", name, number(f.Value)), AtDop}
	case f.Verdict == analysis.Fine:
		return Advice{Text: fmt.Sprintf("%s, %s: the lap stays %.2f mm off it, nearest at %s.", f.Name, sideUp(f.Side), f.Value, f.Tier)}
	}
	fault := dopping.Fault(f.Code)
	at := ""
	if fault == dopping.InTheWay || fault == dopping.Tight || fault == dopping.OverRim {
		at = f.Tier + ": "
	}
	do := "Compare the dops of the shelf."
	if fault == dopping.OverRim {
		do = "Keep the stone at the rim for this tier, or take a longer dop."
	}
	return Advice{fmt.Sprintf("%s, %s: %s%s.", f.Name, sideUp(f.Side), at, Fault(fault, f.Value, f.Value, f.Value)), do, AtDop}
}

// AdhesiveName names a sort of adhesive.
func AdhesiveName(s dopping.Sort) string {
	return map[dopping.Sort]string{
		dopping.Wax: "Wax", dopping.Cyano: "Cyanoacrylate", dopping.Epoxy: "Epoxy",
		dopping.WaxCyano: "Cyanoacrylate on wax", dopping.FillCyano: "Cyanoacrylate with powder",
	}[s]
}

// Concern says what speaks against an adhesive on a stone that bears so many times the push of a hand.
func Concern(c dopping.Concern, bears float64) string {
	switch c {
	case dopping.HotToGlue:
		return "the stone bears no heat, and this one is set warm"
	case dopping.TooWeak:
		return fmt.Sprintf("too weak for this contact: it bears %.0f %% of the push of a hand", 100*bears)
	case dopping.HotToFree:
		return "it lets go only in ways that harm this stone"
	case dopping.WarmSlowly:
		return "warm the stone slowly, and let it cool slowly"
	case dopping.Barely:
		return fmt.Sprintf("it bears %.1f times the push of a hand: press lightly", bears)
	case dopping.RunsHot:
		return "so hard a stone runs hot in the polish, and this one softens early: cool it often"
	case dopping.SolventSlow:
		return "no heat to free it: a soak in solvent takes hours"
	}
	return ""
}

func foundBond(f analysis.Finding) Advice {
	switch {
	case f.Code == "none":
		return Advice{
			fmt.Sprintf("No adhesive of a known sort is named for the %s.", sideUp(f.Side)),
			fmt.Sprintf("Choose one. %s suits this stone and dop.", AdhesiveName(dopping.Sort(f.Name))), AtDop,
		}
	case f.Verdict == analysis.Fine:
		return Advice{Text: fmt.Sprintf("%s, %s: holds %.0f mm² and bears %.0f times the push of a hand.", f.Name, sideUp(f.Side), f.Limit, f.Value)}
	}
	do := "Compare the adhesives for this stone."
	switch dopping.Concern(f.Code) {
	case dopping.WarmSlowly, dopping.SolventSlow:
		do = "Take the time for it: the steps of the adhesive have clocks."
	case dopping.RunsHot:
		do = "Polish in short strokes with much water, and feel the stone with a finger."
	}
	return Advice{fmt.Sprintf("%s, %s: %s.", f.Name, sideUp(f.Side), Concern(dopping.Concern(f.Code), f.Value)), do, AtDop}
}

// Foot advises on the end of a stone that goes into the dop, with the side that is up.
func Foot(f dopping.Foot, up string, first bool) string {
	switch {
	case first:
		return "Grind a flat where the stone ends on this side, and glue that. It must lie square to the quill: lay it on the lap at 0° to see."
	case f.Underside == dopping.Level:
		return fmt.Sprintf("The stone ends in a flat of %.2f mm: a flat dop smaller than that holds it straight.", f.Size)
	case f.Underside == dopping.Keel:
		return fmt.Sprintf("The stone ends in a keel of %.2f mm: a V dop holds it, with the groove along the keel.", f.Size)
	case up == string(diagram.Pavilion):
		return "The crown has no flat: shape warm wax round it, or cast a form-fitting bed of epoxy over a film of release. Line the girdle up before it sets."
	}
	if f.ThreeCornered() {
		return "The stone ends in three corners: a cone touches it along three lines alone, and such bonds fail in mid cut. Fill the hollow with wax or a filled adhesive, and take the largest cone that clears the lap."
	}
	return "The stone ends in a tip: a cone dop centres it. Let the adhesive fill the hollow without bubbles."
}

// Step is one step of gluing, with the minutes that it takes by the clock, 0 for none, and the usual caution
// at it, "" without one.
type Step struct {
	Text    string
	Minutes float64
	Caution string
}

// GlueSteps tells how a stone of a material is glued with an adhesive. Makes differ: the label decides.
func GlueSteps(a dopping.Adhesive, m material.Material) []Step {
	slow := 0.0
	if m.Heat == material.HeatCareful {
		slow = 10
	}
	clean := Step{Text: "Clean stone and dop with alcohol and let them dry. From now on touch neither face.", Caution: "No flame near alcohol; fresh air."}
	centre := Step{Text: "Set the stone on the dop in the jig. Line its long side up with index N, and turn the quill: the rim must not wander."}
	drop := Step{Text: "Let a drop fall onto paper: it must run like water. One that strings or has turned to jelly is too old."}
	cure := Step{Text: "Leave it alone until it holds. Then push it with a thumb: it must not give.", Minutes: a.Minutes}
	switch a.Sort {
	case dopping.Wax:
		warm := Step{Text: "Warm the stone on a plate until wax just melts on it. A cold stone does not bond.", Minutes: 5 + slow, Caution: "Hot wax and flame burn. Never a hot stone into cold liquid."}
		if m.Heat == material.HeatAvoid {
			warm.Caution = "This stone bears no heat. Take a cold adhesive."
		}
		return []Step{
			{Text: "Look at the wax: what was heated too far is dark, bubbly and brittle, and lets go."},
			clean, warm, {Text: "Warm the dop, melt wax onto it, and press the stone in. One firm touch while both are hot; a second one does not bond."},
			centre, {Text: "Shape the wax to a smooth taper with wet fingers, below the girdle all round."}, cure,
		}
	case dopping.WaxCyano:
		return []Step{
			{Text: "Shape wax on the warm dop to the stone's end, let it get cold.", Minutes: 10, Caution: "Hot wax and flame burn."}, drop, clean, centre,
			{Text: "Put a thin film of cyanoacrylate between wax and stone and hold them still.", Caution: "It bonds skin and its fumes sting: fresh air, eye protection."}, cure,
		}
	case dopping.Cyano, dopping.FillCyano:
		film := Step{Text: "One thin film, pressed out. A thick one never sets.", Caution: "It bonds skin and its fumes sting: fresh air, eye protection."}
		if a.Sort == dopping.FillCyano {
			film.Text = "Strew powder into the gap, let the drop run in, and add both by turns until the gap is full."
		}
		return []Step{drop, clean, centre, film, cure}
	case dopping.Epoxy:
		return []Step{
			{Text: "Look at both parts: resin that has gone amber and thick, or hardener with crystals, is too old."}, clean,
			{Text: "Weigh or measure both parts alike, and stir for a full minute. What is stirred badly stays soft.", Minutes: 1, Caution: "Gloves and fresh air: epoxy sensitises."},
			centre, {Text: "Fill the gap without bubbles, wipe off what stands over the girdle."}, cure,
		}
	}
	return nil
}

// Release says how an adhesive lets go of a stone of a material.
func Release(a dopping.Adhesive, m material.Material) string {
	var ways []string
	for _, r := range a.Release {
		switch {
		case r == dopping.ByWarmth && m.Heat != material.HeatAvoid:
			ways = append(ways, fmt.Sprintf("warm it slowly to %.0f °C", a.Frees))
		case r == dopping.BySolvent && m.Solvent != material.SolventSoaks:
			ways = append(ways, "soak it in the solvent that its label names, away from any flame")
		}
	}
	if len(ways) == 0 {
		return "Nothing frees it without harm to this stone."
	}
	text := strings.Join(ways, ", or ")
	return strings.ToUpper(text[:1]) + text[1:] + "."
}
