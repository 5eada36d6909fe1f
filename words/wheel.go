package words

import (
	"fmt"
	"math"

	"cressa/core/material"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// AtTheLap says what to mind at a lap, where it is put on: the speed of its stage, what it has to take off,
// and how the stone is kept safe on it. First tells that it is the first lap of the stone.
func AtTheLap(r workshop.LadderRung, first bool, m material.Material) []string {
	var out []string
	switch {
	case r.Polishes:
		out = append(out, "Slow, and a light hand: a polishing lap that runs fast skids and heats the stone.",
			"Nothing coarse may reach it: wash stone, dop, hands and splash pan first. Where the polish fades, wipe the lap and charge it again.")
	case first:
		out = append(out, "Fast, with plenty of water: so it cuts, and the stone stays cool. Leave the smallest facets to a finer lap.")
	default:
		out = append(out, "Slower than the lap before. Facets come in within seconds here: touch, look, touch again.")
	}
	if r.TakesOff > 0 {
		out = append(out, fmt.Sprintf("Take at least %s off every facet: so deep goes what the lap before has left.", Grain(r.TakesOff)))
	}
	if r.Lap != nil && !r.Polishes && r.Lap.Use.All.Stones == 0 {
		out = append(out, "This lap is new and cuts deeper than its grit: break it in on practice glass until its bite is even.")
	}
	out = append(out, "Never lower the stone onto a lap that turns. Keep a finger on it: what feels hot is hot enough to loosen a bond.")
	if m.Heat != material.HeatSturdy {
		out = append(out, fmt.Sprintf("%s is easily hurt by heat: pause before it feels warm.", m.Name))
	}
	return out
}

var happened = map[journal.What]string{
	journal.Overcut: "cut too deep", journal.Chip: "a chip", journal.FlawOpened: "a flaw opened", journal.Pit: "a pit",
	journal.WrongIndex: "wrong index", journal.WrongAngle: "wrong angle", journal.LapCharged: "lap charged", journal.LapChanged: "another lap",
	journal.Cheated: "cheater used", journal.Compound: "another compound", journal.BondFailed: "the stone came off its dop", journal.Photographed: "a picture",
}

// Happened tells what happened at the wheel, with its figure where it has one.
func Happened(h journal.Happened) string {
	text := happened[h.What]
	if h.MM != nil {
		text += fmt.Sprintf(", %s mm", number(*h.MM))
	}
	switch {
	case h.By == nil:
	case h.What == journal.WrongIndex && math.Abs(*h.By) == 1:
		text += fmt.Sprintf(", off by %+g tooth", *h.By)
	case h.What == journal.WrongIndex:
		text += fmt.Sprintf(", off by %+g teeth", *h.By)
	default:
		text += fmt.Sprintf(", %+g°", *h.By)
	}
	if h.With != "" {
		text += ": " + h.With
	}
	return text
}

// Measured tells what was measured on the stone.
func Measured(m journal.Measured) string {
	return fmt.Sprintf("%s %s mm", m.What, number(m.MM))
}
