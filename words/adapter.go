package words

import (
	"fmt"
	"math"

	"cressa/workshop"
)

// LevelTable tells what levels a tilted table on its adapter.
func LevelTable(t workshop.TiltedTable, m workshop.Machine) string {
	const then = " Then touch again: the mark must begin in the middle."
	if t.Tilt < 0.005 {
		return levelByHair(t.Begins) + then
	}
	size := func(v float64) string { return fmt.Sprintf("%.2f°", math.Abs(v)) }
	switch t.Begins {
	case workshop.Far:
		return fmt.Sprintf("The table is tilted by %s. Set the protractor %s steeper, to %.2f°.%s", size(t.Tilt), size(t.Angle), m.Reading(0)+t.Angle, then)
	case workshop.Near:
		return fmt.Sprintf("The table is tilted by %s. Set the protractor %s flatter, to %.2f°.%s", size(t.Tilt), size(t.Angle), m.Reading(0)+t.Angle, then)
	}
	turn := fmt.Sprintf("turn the cheater by %s so that the %s side lifts", size(t.Turn), t.Begins)
	if m.Cheater == workshop.CheaterNone {
		turn = fmt.Sprintf("turn the adapter in its seat by %s so that the %s side lifts", size(t.Turn), t.Begins)
	}
	return fmt.Sprintf("The table is tilted by %s: %s.%s", size(t.Tilt), turn, then)
}

// levelByHair tells the direction where nobody knows how much.
func levelByHair(begins workshop.Begins) string {
	switch begins {
	case workshop.Far:
		return "Set the protractor a tenth of a degree steeper: that lifts the far side."
	case workshop.Near:
		return "Set the protractor a tenth of a degree flatter: that lifts the near side."
	}
	return fmt.Sprintf("Turn the cheater a hair, or the adapter in its seat, so that the %s side lifts.", begins)
}
