package words

import (
	"fmt"
	"math"

	"cressa/core/gear"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// Difference tells how a facet or a tier of a stone was cut otherwise than planned.
func Difference(d workshop.Difference, a *workshop.AsCut) string {
	switch d.What {
	case workshop.TierChanged:
		return changedTier(d, a)
	case workshop.OlderPlan:
		if d.MM < 0 {
			return fmt.Sprintf("stands %s mm proud: it was cut to an older plan", hundredths(-d.MM))
		}
		return fmt.Sprintf("stands %s mm deeper: it was cut to an older plan", hundredths(d.MM))
	case workshop.DialShowed:
		return "the dials showed " + setting(d.Really) + " instead of " + setting(d.Planned)
	case workshop.ToldOtherwise:
		return told(d)
	case workshop.LeftOut:
		return "left out, never cut"
	}
	switch journal.What(d.What) {
	case journal.Overcut:
		return by("cut too deep", d.MM)
	case journal.WrongIndex:
		return fmt.Sprintf("cut at %s instead of %s", indexOf(d.Really), indexOf(d.Planned))
	case journal.WrongAngle:
		return fmt.Sprintf("cut at %s° instead of %s°", number(d.Really.Angle), number(d.Planned.Angle))
	case journal.Cheated:
		return fmt.Sprintf("came in with %+.2f° of cheat, %+.2f° planned", d.Really.Cheat, d.Planned.Cheat)
	case journal.Chip:
		return by("a piece chipped out", d.MM)
	case journal.FlawOpened:
		return by("a flaw opened", d.MM)
	default:
		return by("a pit stayed", d.MM)
	}
}

// told tells how a facet stands that a machine told.
func told(d workshop.Difference) string {
	deeper := ""
	switch mm := math.Round(d.MM*1000) / 1000; {
	case mm > 0:
		deeper = fmt.Sprintf(", %s mm deeper", number(mm))
	case mm < 0:
		deeper = fmt.Sprintf(", %s mm proud", number(-mm))
	}
	return fmt.Sprintf("stands at %s, planned %s%s", setting(d.Really), setting(d.Planned), deeper)
}

// setting writes what is dialled.
func setting(s gear.Setting) string {
	return fmt.Sprintf("%s° at %s", number(math.Round(s.Angle*100)/100), indexOf(s))
}

func changedTier(d workshop.Difference, a *workshop.AsCut) string {
	if d.Planned.Angle != d.Really.Angle {
		text := fmt.Sprintf("cut at %s° instead of %s°", number(d.Really.Angle), number(d.Planned.Angle))
		if d.WasStop.String() == d.Stop.String() {
			return text
		}
		return text + ", with another stop"
	}
	tier := a.Stone.Diagram.Tiers[a.TierNo(d.Tier)]
	return "cut with another stop: " + Stop(tier, a.Stone.Diagram.Gear, Scale{MM: a.MM, Width: a.Stone.Measures().Width})
}

func by(text string, mm float64) string {
	if mm == 0 {
		return text
	}
	return fmt.Sprintf("%s, by %s mm", text, hundredths(mm))
}

func hundredths(mm float64) string { return number(math.Round(mm*100) / 100) }

// indexOf writes a position as tooth and cheat.
func indexOf(s gear.Setting) string {
	if s.Cheat == 0 {
		return fmt.Sprint(s.Tooth)
	}
	return fmt.Sprintf("%d with %+.2f° of cheat", s.Tooth, s.Cheat)
}
