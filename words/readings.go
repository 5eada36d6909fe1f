package words

import (
	"fmt"

	"cressa/core/diagram"
	"cressa/core/printed"
)

// Reading says what a field of a tier was read as, and asks where it may be meant otherwise. MM is
// the planned width in mm, 0 for none; lengths are then told as shares of the width alone.
func Reading(r printed.Reading, mm float64) string {
	length := func() string {
		if mm > 0 {
			return fmt.Sprintf("%.2f mm, %.3g %% of the width", r.Value*mm, 100*r.Value)
		}
		return fmt.Sprintf("%.3g %% of the width", 100*r.Value)
	}
	switch r.How {
	case printed.PartByAngle:
		return fmt.Sprintf("%s, by its angle", r.Read)
	case printed.PartByName:
		return fmt.Sprintf("%s, by its name", r.Read)
	case printed.PartByPlace:
		return fmt.Sprintf("%s, by its place", r.Read)
	case printed.PartAsked:
		return fmt.Sprintf("Is it on the pavilion or the crown? It is taken for the %s.", r.Read)
	case printed.StopGuessed:
		return "Not all of these words were understood. Is this where it stops?"
	case printed.CornerTaken:
		return "It is the only corner that the words leave open."
	case printed.StopByEye:
		if r.Read == "" {
			return fmt.Sprintf("By eye, %s of the way: it is not clear between which corners. Leave it to be found, or choose a stop.", share(r.Value))
		}
		return fmt.Sprintf("By eye: %s of the way down the longest edge of the tier before. Is that meant?", share(r.Value))
	case printed.StopToFind:
		return "The words leave several places open; it is looked for among them."
	case printed.StopNotRead:
		return "These words were not understood. The stop is left to be found; the words stay."
	case printed.FigureAssumed:
		return fmt.Sprintf("No thickness is printed. Taken: %s.", length())
	case printed.LengthRead:
		return length() + "."
	case printed.GirdleOdd:
		if r.Value < printed.ThinGirdle {
			return fmt.Sprintf("That is %s: thinner than most. Is it meant?", length())
		}
		return fmt.Sprintf("That is %s: thicker than most. Is it meant?", length())
	case printed.WidthNeeded:
		return "A length in mm needs the planned width. Type it in the head of the sheet."
	case printed.IndexesGuessed:
		return "The run has no end, so it goes round the gear."
	case printed.AngleChosen:
		return fmt.Sprintf("Two angles are printed; the first is taken, not %s°.", diagram.FormatNumber(r.Value))
	}
	return ""
}
