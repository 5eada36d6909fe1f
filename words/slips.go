package words

import (
	"fmt"
	"strings"

	"cressa/core/mending"
)

// ByLook is what tells a stone that was recognised by what it looks like.
const ByLook = "a look at the stone"

// Slip says what was done wrong.
func Slip(s mending.Slip) string {
	tiers := strings.Join(s.Tiers, " and ")
	if len(s.Tiers) > 2 {
		tiers = s.Tiers[0] + " to " + s.Tiers[len(s.Tiers)-1]
	}
	switch s.Kind {
	case mending.WrongIndex:
		return fmt.Sprintf("%s cut %s", tiers, teeth(*s.By))
	case mending.WrongSense:
		return tiers + " dialled in the other sense"
	case mending.Swapped:
		return tiers + " swapped"
	case mending.WrongAngle:
		if *s.By < 0 {
			return fmt.Sprintf("%s cut %g° too flat", tiers, -*s.By)
		}
		return fmt.Sprintf("%s cut %g° too steep", tiers, *s.By)
	case mending.Missed:
		return tiers + " left out"
	case mending.WrongGear:
		return fmt.Sprintf("%s dialled on a gear with %s", tiers, moreTeeth(*s.By))
	}
	if s.By == nil {
		return "the second side dialled in the other sense"
	}
	return fmt.Sprintf("the second side turned %s", teeth(*s.By))
}

// teeth says by how many an index is off: on towards higher numbers, or back.
func teeth(by float64) string {
	way := "on"
	if by < 0 {
		by, way = -by, "back"
	}
	if by == 1 {
		return "1 tooth " + way
	}
	return fmt.Sprintf("%g teeth %s", by, way)
}

func moreTeeth(by float64) string {
	if by < 0 {
		return fmt.Sprintf("%g teeth fewer", -by)
	}
	return fmt.Sprintf("%g teeth more", by)
}
