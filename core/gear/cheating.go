package gear

import (
	"math"
	"slices"
)

// From says which tooth a facet that lies between teeth is dialled from.
type From string

// The teeth to dial from. The zero value is NearestTooth. From the same side each time, the cheater
// takes its play up the same way, and a cheat can be all but a whole tooth.
const (
	NearestTooth From = "nearest"
	ToothBelow   From = "below"
	ToothAbove   From = "above"
)

// Cheating says how the places of facets on the gear are dialled.
type Cheating struct {
	From From `validate:"omitempty,oneof=nearest below above"`
	// Skip are teeth that are not used: worn ones, or one that the pawl does not hold. A facet there is dialled from another.
	Skip []int `validate:"max=60,dive,min=1,max=360"`
}

// Usual tells whether the nearest tooth is dialled, whichever it is.
func (c Cheating) Usual() bool {
	return (c.From == "" || c.From == NearestTooth) && len(c.Skip) == 0
}

// At returns how a position on a gear of so many teeth is dialled: from the nearest tooth, or the next one on a side, that is in use.
// Where none is, it is dialled as usual.
func (c Cheating) At(p Position, teeth int) Position {
	if c.Usual() {
		return p
	}
	best := p
	for away := range teeth {
		var near []int
		below := int(math.Floor(p.Index + sameTooth))
		above := int(math.Ceil(p.Index - sameTooth))
		switch c.From {
		case ToothBelow:
			near = []int{below - away}
		case ToothAbove:
			near = []int{above + away}
		default:
			// Half a tooth goes up, as usual.
			near = []int{above + away, below - away}
			if p.Index-float64(below) < float64(above)-p.Index-2*sameTooth {
				near[0], near[1] = near[1], near[0]
			}
		}
		for _, tooth := range near {
			if on := int(Normal(float64(tooth), teeth)); !slices.Contains(c.Skip, on) {
				best.Tooth, best.Cheat = on, (p.Index-float64(tooth))*360/float64(teeth)
				if math.Abs(best.Cheat) < sameCheat {
					best.Cheat = 0
				}
				return best
			}
		}
	}
	return p
}
