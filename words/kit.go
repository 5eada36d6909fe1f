package words

import (
	"cmp"
	"fmt"
	"math"
	"strings"
	"time"

	"cressa/core/abrasive"
	"cressa/workshop"
	"cressa/workshop/journal"
)

var families = map[abrasive.Family]string{
	abrasive.Diamond: "diamond", abrasive.SiliconCarbide: "silicon carbide", abrasive.Alumina: "alumina", abrasive.Cerium: "cerium oxide",
	abrasive.TinOxide: "tin oxide", abrasive.Zirconia: "zirconia", abrasive.Silica: "silica", abrasive.OtherAbrasive: "grit",
}

// Grain writes the mean grain of a grit, in µm.
func Grain(µm float64) string {
	digits := 10.0
	switch {
	case µm >= 10:
		digits = 1
	case µm < 1:
		digits = 100
	}
	return number(math.Round(µm*digits)/digits) + " µm"
}

// Grit names a grit.
func Grit(g abrasive.Grit) string {
	if g.Grain == 0 {
		return families[g.Family]
	}
	return Grain(g.Grain) + " " + families[g.Family]
}

// Residue says what is on a lap and what it does.
func Residue(r abrasive.Residue) string {
	switch r.Trace {
	case abrasive.Coarse:
		return fmt.Sprintf("It met %s, which is coarser than what it works with and scratches.", Grit(r.Grit))
	case abrasive.Mixed:
		return fmt.Sprintf("It met %s, which stays in it and scratches under a softer polish.", Grit(r.Grit))
	case abrasive.Smear:
		return fmt.Sprintf("It met %s, which smears: the next stone drags on it.", r.Stone.Material)
	}
	return fmt.Sprintf("It met %s, which is soft: its dust loads the lap.", r.Stone.Material)
}

var ways = map[abrasive.Cleaning]string{
	abrasive.Rinse: "Rinse it and brush it under running water, with the lap standing still.",
	abrasive.Scrub: "Scrub it with soap and a stiff brush, rim and back too, and rinse it well.",
	abrasive.Dress: "Dress it: hold a dressing stick against it, wet and slow, until it cuts freely again.",
	abrasive.Skim:  "Take its face off (turned, scraped or lapped flat) and charge it anew.",
	abrasive.Renew: "Nothing else takes that out: put another in its place, and keep this one for coarser work.",
}

// Way says how a lap is cleaned.
func Way(c abrasive.Cleaning) string { return ways[c] }

// Need says what is due for a thing of the kit, and by which figure.
func Need(n workshop.Need, s workshop.Shelved) string {
	have := func() string {
		if s.Have == nil {
			return ""
		}
		unit := s.Unit
		if *s.Have == 1 {
			unit = strings.TrimSuffix(unit, "s")
		}
		return strings.TrimSpace(number(*s.Have) + " " + unit)
	}
	switch n {
	case workshop.PastDate:
		if s.Kind == workshop.AdhesiveItem {
			return fmt.Sprintf("It was good until %s. Old adhesive lets go in mid cut: do not trust a stone to it.", day(s.Until))
		}
		return fmt.Sprintf("It was good until %s.", day(s.Until))
	case workshop.NearDate:
		return fmt.Sprintf("It is good until %s.", day(s.Until))
	case workshop.UsedUp:
		return "Nothing is left of it."
	case workshop.RunsLow:
		return fmt.Sprintf("%s left.", have())
	case workshop.Worn:
		return fmt.Sprintf("It has done %d stones; one lasts about %s.", s.Use.Since.Stones, number(math.Round(s.Lasts*10)/10))
	case workshop.NearlyWorn:
		return fmt.Sprintf("It has done %d stones of about %s: the next may be its last.", s.Use.Since.Stones, number(math.Round(s.Lasts*10)/10))
	}
	if len(s.Residues) > 0 {
		return Residue(s.Residues[len(s.Residues)-1])
	}
	return ""
}

// day writes a day that is kept as YYYY-MM-DD.
func day(date string) string {
	t, err := time.Parse(time.DateOnly, date)
	if err != nil {
		return date
	}
	return t.Format("2 January 2006")
}

// Rung says what is wrong with a step of a ladder, and what helps; "" where nothing is.
func Rung(r workshop.LadderRung) string {
	switch r.Finding {
	case abrasive.TooLarge:
		var grains []string
		for _, g := range r.Between {
			grains = append(grains, fmt.Sprintf("%s (about mesh %s)", Grain(g), number(Mesh(g))))
		}
		return fmt.Sprintf("The lap before is %s times coarser; up to %s it leaves no scratches behind. Put %s between.",
			number(math.Round(r.Ratio*10)/10), number(r.Limit), strings.Join(grains, " and "))
	case abrasive.NotFiner:
		return "This lap is no finer than the one before: it takes nothing out."
	case abrasive.NoGrain:
		return "The grain of this lap is not known, so the step cannot be judged. Take one from the shelf, or write its grain."
	case abrasive.NoPolish:
		return "The last lap does not polish."
	}
	return ""
}

// Mesh returns the mesh of a mean grain in µm, rounded as grades are named; 0 for none.
func Mesh(grain float64) float64 {
	mesh := abrasive.Mesh(grain)
	if mesh == 0 {
		return 0
	}
	unit := math.Pow(10, math.Max(1, math.Floor(math.Log10(mesh))-1))
	return math.Round(mesh/unit) * unit
}

// KeptFor says that a lap is kept for another material.
func KeptFor(material string) string {
	return fmt.Sprintf("This lap is kept for %s.", material)
}

// ItemHappened says what happened to a thing of the kit, "" for what this version does not know.
func ItemHappened(e journal.Event) string {
	since := func(had journal.Span) string {
		if had.Stones == 0 {
			return ""
		}
		return fmt.Sprintf(" The one before did %d stones, %d facets.", had.Stones, had.Facets)
	}
	switch e.Kind {
	case journal.Charged:
		p, ok := journal.Carried[journal.Charging](e)
		if !ok {
			return ""
		}
		with := cmp.Or(p.Name, Grit(abrasive.Grit{Family: abrasive.Family(p.Family), Grain: p.Grain}))
		return fmt.Sprintf("Charged with %s.", with) + since(p.Had)
	case journal.Cleaned:
		p, ok := journal.Carried[journal.Cleaning](e)
		if !ok {
			return ""
		}
		text := map[abrasive.Cleaning]string{abrasive.Rinse: "Rinsed.", abrasive.Scrub: "Scrubbed.", abrasive.Dress: "Dressed.", abrasive.Skim: "Face taken off."}[abrasive.Cleaning(p.Way)]
		if p.Flatness != nil {
			text += fmt.Sprintf(" Out of flat by %s.", Grain(*p.Flatness))
		}
		return text
	case journal.Touched:
		p, ok := journal.Carried[journal.Touching](e)
		if !ok {
			return ""
		}
		if p.Material != "" {
			return fmt.Sprintf("%s came onto it.", p.Material)
		}
		return fmt.Sprintf("%s came onto it.", Grit(abrasive.Grit{Family: abrasive.Family(p.Family), Grain: p.Grain}))
	case journal.Renewed:
		p, ok := journal.Carried[journal.Renewing](e)
		if !ok {
			return ""
		}
		return fmt.Sprintf("New on %s.", day(p.On)) + since(p.Had)
	case journal.Counted:
		p, ok := journal.Carried[journal.Count](e)
		if !ok {
			return ""
		}
		return fmt.Sprintf("Counted: %s.", number(p.Have))
	case journal.Gone:
		return "Gone."
	case journal.Back:
		return "There again."
	}
	return ""
}

var starters = map[workshop.StarterReason]string{
	workshop.ToRough:     "Shapes the stone and brings in the first tiers. It leaves the deepest marks.",
	workshop.ToCut:       "Takes the roughing marks out and cuts every facet to its place.",
	workshop.ToPrepolish: "Brings the meets in and leaves a finish that polishes in minutes.",
	workshop.ToPolish:    "Polishes most harder stones, with a breath of fine diamond.",
	workshop.ToPolishOx:  "Polishes quartz, beryl and glass, with an oxide in water.",
	workshop.ToCharge:    "Charges the lap above. Keep it for that lap alone.",
	workshop.ToHoldWarm:  "Holds most stones, can be nudged while warm, and lets go with warmth. Hot wax burns.",
	workshop.ToHoldCold:  "Holds stones that bear no heat. It bonds skin, and its fumes sting.",
	workshop.ToHoldFast:  "The strongest for the transfer. Gloves: it sensitises.",
	workshop.ToDop:       "Smaller than anything that will be cut, large enough to hold.",
	workshop.ToIndex:     "Most diagrams are drawn for it.",
	workshop.ToSaw:       "Trims rough with little loss. Eye protection, and never dry.",
	workshop.ToClean:     "Cleans stone and dop before they are glued. Never near a flame.",
	workshop.ToMark:      "Marks where a meet will be.",
	workshop.ToDress:     "Opens a bonded lap that no longer cuts.",
}

// Starter says what a thing of a starter shelf is for.
func Starter(r workshop.StarterReason) string { return starters[r] }
