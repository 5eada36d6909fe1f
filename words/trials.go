package words

import (
	"fmt"

	"cressa/workshop"
)

var girdles = map[string]string{
	string(workshop.GirdlePolished): "girdle polished", string(workshop.GirdlePrepolished): "girdle pre-polished", string(workshop.GirdleCut): "girdle left as cut",
}

// Differs says what the entries of a trial differ in: those that are planned as a pair carry a code.
func Differs(in string) string {
	switch in {
	case "girdle":
		return "how far the girdle is taken"
	case "polish":
		return "what it is polished with"
	}
	return in
}

// Entry says how an entry of a trial differs.
func Entry(differs, what string) string {
	if text, ok := girdles[what]; ok && differs == "girdle" {
		return text
	}
	return what
}

// Tally says what verdicts come to, and how sure they can be.
func Tally(t workshop.BlindTrial, tally workshop.Tally) string {
	n := len(t.Verdicts) - tally.Alike
	if n == 0 {
		return "Nobody saw a difference."
	}
	if tally.Leader < 0 {
		return fmt.Sprintf("%s: as many for one as for another. There is no telling them apart.", judges(n))
	}
	leader := t.Entries[tally.Leader]
	said := fmt.Sprintf("%d of %d chose %s (%s).", tally.Votes[tally.Leader], n, leader.Letter, Entry(t.Differs, leader.What))
	percent := number(max(0.1, float64(int(tally.Chance*1000+0.5))/10))
	switch {
	case tally.Chance < 0.01:
		return said + fmt.Sprintf(" Guessing would look as clear in %s %% of such trials: they can tell.", percent)
	case tally.Chance < 0.05:
		return said + fmt.Sprintf(" Guessing would look as clear in %s %% of such trials: they very likely can tell.", percent)
	}
	return said + fmt.Sprintf(" Guessing would look as clear in %s %% of such trials: that settles nothing. Ask more judges.", percent)
}

func judges(n int) string {
	if n == 1 {
		return "1 verdict"
	}
	return fmt.Sprintf("%d verdicts", n)
}
