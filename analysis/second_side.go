package analysis

import (
	"math"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/workshop"
)

// Way says how the second side is made to suit the height that is left.
type Way string

// The ways.
const (
	// AsPlanned changes nothing.
	AsPlanned Way = "as-planned"
	// Flatter and Steeper stretch the side along its axis; its meets stay closed.
	Flatter Way = "flatter"
	Steeper Way = "steeper"
	// WiderTable keeps the angles and takes the table down.
	WiderTable Way = "wider-table"
	// ThinnerGirdle lowers the whole side onto the girdle, ThickerGirdle leaves more of it.
	ThinnerGirdle Way = "thinner-girdle"
	ThickerGirdle Way = "thicker-girdle"
	// GirdleThenFlatter takes what the girdle can give and the rest off the angles.
	GirdleThenFlatter Way = "girdle-then-flatter"
)

// SecondSide is a way to cut the second side, as changes of its tiers.
type SecondSide struct {
	Way     Way
	Changes []workshop.TierChange
}

// ThinnestGirdle is how thin in mm a girdle is made to save height: a thinner one chips in setting.
const ThinnestGirdle = 0.2

// How far a side is stretched at most.
const flattest, steepest = 0.5, 1.3

// Room is the height in mm that the plan of a stone needs from the edge of the finished side to the end of the second one,
// the girdle included. It is false for a stone without a girdle.
func Room(a *workshop.Assessment) (float64, bool) {
	l := a.Stone.Levels()
	band, side := beyond(a.Stone, l)
	return (band + side) * a.MM, l.HasGirdle
}

// beyond returns the height of the girdle and of the second side above it, in design units.
func beyond(s *cutting.Stone, l cutting.Levels) (band, side float64) {
	band = l.GirdleHigh - l.GirdleLow
	if s.Diagram.FirstSide == diagram.Crown {
		return band, l.GirdleLow - l.Bottom
	}
	return band, l.Top - l.GirdleHigh
}

// SecondSides lists ways to cut the second side of a stone where so many mm are left of it, from the edge of the
// finished side to the end of the rough: the plan itself where there is room for it. Angles are those that the
// machine can set. It is empty for a stone without a girdle, or where not even the girdle has room.
func SecondSides(a *workshop.Assessment, left float64) []SecondSide {
	l := a.Stone.Levels()
	need, ok := Room(a)
	band, side := beyond(a.Stone, l)
	if !ok || side <= 0 || left <= band*a.MM {
		return nil
	}
	var out []SecondSide
	add := func(way Way, changes []workshop.TierChange) {
		if changes != nil {
			out = append(out, SecondSide{way, changes})
		}
	}
	over := left - need
	// The division of a caliper.
	const same = 0.01
	if over >= -same {
		add(AsPlanned, []workshop.TierChange{})
	}
	switch k := (left/a.MM - band) / side; {
	case over > same:
		add(Steeper, changedSide(a, math.Min(k, steepest), 0))
		add(ThickerGirdle, changedSide(a, 1, over))
	case over < -same:
		add(Flatter, changedSide(a, k, 0))
		add(WiderTable, widerTable(a, l, left))
		spare := a.GirdleMinMM - ThinnestGirdle
		if -over <= spare {
			add(ThinnerGirdle, changedSide(a, 1, over))
		} else if spare > same {
			add(GirdleThenFlatter, changedSide(a, ((left+spare)/a.MM-band)/side, -spare))
		}
	}
	return out
}

// changedSide stretches the second side by k and makes the girdle thicker by so many mm. It is nil where that goes too far,
// or where the side does not stand on a girdle whose thickness its stop tells.
func changedSide(a *workshop.Assessment, k, thicker float64) []workshop.TierChange {
	if k < flattest {
		return nil
	}
	d := a.Stone.Diagram
	pavilion, crown := 1.0, k
	if d.FirstSide == diagram.Crown {
		pavilion, crown = k, 1
	}
	changes := []workshop.TierChange{}
	onGirdle := thicker == 0
	for i, t := range angles.Stretch(a.Stone, pavilion, crown).Tiers {
		was := d.Tiers[i]
		if t.Part != d.FirstSide.Other() {
			continue
		}
		if t.Angle != was.Angle {
			t.Angle = nearest(a.Machine, t.Angle)
		}
		if t.Stop.Kind == diagram.GirdleBand && thicker != 0 {
			t.Stop.Thickness = math.Max(0, t.Stop.Thickness+thicker/a.MM)
			onGirdle = true
		}
		if t.Angle != was.Angle || t.Stop.String() != was.Stop.String() {
			changes = append(changes, workshop.TierChange{Tier: t.Name, Angle: t.Angle, Stop: t.Stop.String()})
		}
	}
	if !onGirdle {
		return nil
	}
	return changes
}

// nearest returns the settable angle that is nearest.
func nearest(m workshop.Machine, angle float64) float64 {
	below, above := m.SettableAngles(angle)
	if below == above {
		// Nine digits keep a meet closed.
		return math.Round(angle*1e9) / 1e9
	}
	if angle-below <= above-angle {
		return below
	}
	return above
}

// widerTable takes the table down to where the rough ends. It is nil for a second side without a table.
func widerTable(a *workshop.Assessment, l cutting.Levels, left float64) []workshop.TierChange {
	d := a.Stone.Diagram
	if l.Table == nil || d.FirstSide == diagram.Crown {
		return nil
	}
	for _, t := range d.Tiers {
		if t.Part == diagram.Crown && t.Angle == 0 {
			stop := diagram.Stop{Kind: diagram.Depth, Distance: math.Round((l.GirdleLow+left/a.MM)*1e9) / 1e9}
			return []workshop.TierChange{{Tier: t.Name, Angle: 0, Stop: stop.String()}}
		}
	}
	return nil
}
