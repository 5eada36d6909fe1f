package words

import (
	"errors"
	"fmt"
	"math"
	"strings"

	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/core/mending"
	"cressa/workshop"
)

// waysOut names the ways out, what each does in a few words.
var waysOut = map[mending.Kind]string{
	mending.Leave:    "leave it",
	mending.Tier:     "the whole tier deeper",
	mending.Side:     "one side along the axis",
	mending.Smaller:  "the same stone, smaller",
	mending.Largest:  "the largest that is left",
	mending.OneFacet: "one facet lower",
	mending.Flank:    "one flank in",
	mending.Round:    "the outline in all round",
	mending.Corners:  "the corners cut off evenly",
	mending.Added:    "a facet added",

	mending.AnotherDiagram: "another diagram",
}

// WayOut names a way out of a stone gone wrong.
func WayOut(k mending.Kind) string { return waysOut[k] }

var waysDo = map[mending.Kind]string{
	mending.Leave:    "Nothing that is cut is touched. What is still to be cut follows the stone as it is.",
	mending.Tier:     "All facets of the tier go as deep as the deepest of them; the tiers after it are solved again.",
	mending.Side:     "All facets of this side go deeper along the axis until the mishap is reached.",
	mending.Smaller:  "The planned stone about the same axis, as large as what is left allows.",
	mending.Largest:  "The planned stone where the most is left of it, its axis beside the old one.",
	mending.OneFacet: "The facet that lies nearest goes deeper until the damage is gone.",
	mending.Flank:    "Crown, girdle and pavilion of one azimuth go deeper together.",
	mending.Round:    "All facets go deeper so that the outline shrinks evenly.",
	mending.Corners:  "Each corner like the damaged one gets a facet that stands upright, all at the same depth.",
	mending.Added:    "A facet that the diagram does not have goes over the damage, at a whole tooth and an angle that can be set.",

	mending.AnotherDiagram: "The other diagram lies wherever the most is left of it. All its facets are cut.",
}

// WayDoes says what a way out does to the stone.
func WayDoes(k mending.Kind) string { return waysDo[k] }

// WhyNot says why a way cannot be gone.
func WhyNot(err error) string {
	var p diagram.Problem
	switch {
	case errors.As(err, &p):
		return Problem(p)
	case errors.Is(err, mending.ErrOnGirdle):
		return "A girdle facet is too deep, and moving a side does not move the girdle."
	case errors.Is(err, mending.ErrBothSides):
		return "Facets of both sides are too deep; moving one side mends one of them."
	case errors.Is(err, mending.ErrNoGirdle):
		return "The girdle would be cut through."
	case errors.Is(err, mending.ErrStays):
		return "What was cut beside stays on the stone however deep the tier goes."
	case errors.Is(err, mending.ErrNoStone):
		return "Nothing would be left of the stone."
	case errors.Is(err, mending.ErrProtected):
		return "It needs a facet that is protected."
	case errors.Is(err, mending.ErrNoFlank):
		return "No azimuth has facets of crown, girdle and pavilion one above the other."
	case errors.Is(err, mending.ErrNoCorner):
		return "No corner of the outline takes the damage out."
	case errors.Is(err, mending.ErrNoPlace):
		return "A further facet would be a sliver or cut the girdle through."
	case errors.Is(err, mending.ErrTooDeep):
		return "The damage lies deeper than an eighth of the width under every facet."
	}
	return err.Error()
}

// RecutAdvice says what to mind with a stone of a material that is recut.
func RecutAdvice(m material.Material) []string {
	out := []string{
		"Look at it under a loupe in two lights first: a crack that reaches the surface can run while you cut.",
		"Treated stones show it under heat: a filled crack, a coating or a colour from an oven does not bear the torch. Ask, and dop cold if nobody knows.",
	}
	if m.Cleavage != material.CleavageNone {
		out = append(out, "It splits: keep every facet a few degrees off the cleavage, use light pressure, and let nothing knock the lap.")
	}
	if m.Heat != material.HeatSturdy {
		out = append(out, "It does not bear sudden heat: feel it with a finger often and stop when it is warm.")
	}
	const hard = 8.5
	if m.Hardness.High >= hard {
		out = append(out, "So hard a stone cuts well in some directions only: feel for the drag, and turn the facet across the lap until it bites. It runs hot and comes off the dop more easily.")
	}
	return append(out,
		"Light can fade some stones: keep it out of the sun and away from strong lamps until you know.",
		"Where the stone is worth more than you would pay for it, or it is an heirloom, hand it to a specialist before the first facet.",
	)
}

// LineUp says by which facets a finished stone is lined up on its dop, "" where none can be.
func LineUp(facets []workshop.FlushFacet) string {
	if len(facets) == 0 {
		return ""
	}
	names := make([]string, len(facets))
	for i, f := range facets {
		names[i] = fmt.Sprintf("%s at %d (%s°)", FlushName(f), f.Set.Tooth, diagram.FormatNumber(math.Round(f.Set.Angle*100)/100))
	}
	return "Line it up first, until these lie flat: " + strings.Join(names, ", ") + "."
}

// GoesAnyway is said behind a place that was pointed at and lies in what is still to be cut.
const GoesAnyway = "; it goes with what is still to be cut"

// GoesWith tells which facets take what has to go.
func GoesWith(facets []string) string {
	return "It goes with " + And(facets) + "."
}

// FlushName names a facet to bring flush by its tier, or by its number as one that a stone came with.
func FlushName(f workshop.FlushFacet) string {
	if f.Old > 0 {
		return fmt.Sprintf("old %d", f.Old)
	}
	return f.Tier
}

// AsMeasured is what a diagram is called that was brought to the measures of a stone.
func AsMeasured(name string) string { return name + ", as measured" }

// AsCut is what a diagram is called that is what was really cut.
func AsCut(name string) string { return name + ", as cut" }

// CutAs says which stone was really cut so.
func CutAs(number int) string { return fmt.Sprintf("stone %d as it was cut", number) }

// CheckFacet says by which facet it shows whether a stone sits as it is dialled for, nil where none does.
func CheckFacet(f *workshop.CheckFacet) string {
	if f == nil {
		return "Cut one facet by it first and look whether its meet closes."
	}
	how := fmt.Sprintf("level, with %.2f mm of girdle all along it", f.Ends[0])
	if math.Abs(f.Ends[0]-f.Ends[1]) >= 0.005 {
		how = fmt.Sprintf("from %.2f mm of girdle at one end to %.2f mm at the other", min(f.Ends[0], f.Ends[1]), max(f.Ends[0], f.Ends[1]))
	}
	return fmt.Sprintf("Check it with %s at %d: its line on the girdle has to run %s. Heights that were read before count no longer.", f.Tier, f.Set.Tooth, how)
}
