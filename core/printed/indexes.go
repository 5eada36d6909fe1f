package printed

import (
	"math"
	"regexp"
	"strings"

	"cressa/core/diagram"
	"cressa/core/gear"
)

var (
	sameIndexes = regexp.MustCompile(`(?i)^(?:the\s+)?(?:same|ditto|do\.|idem|"|″|”)(?:\s+(?:index(?:es)?|indices))?(?:\s+(?:as|for|in)\b)?(?:\s+([A-Z0-9]+))?\s*\.?$`)
	asTier      = regexp.MustCompile(`(?i)^(?:as|like)\s+(?:for\s+|in\s+)?([A-Z0-9]+)\s*\.?$`)
	ellipsis    = regexp.MustCompile(`…|\.{2,}|(?i:\betc\b\.?)`)
	// indexSeparators part indexes besides those that package diagram knows.
	indexSeparators = regexp.MustCompile(`(?i)\s*(?:/|\||&|\+|\band\b)\s*`)
	indexWords      = regexp.MustCompile(`(?i)^(?:at\s+)?(?:index(?:es)?|indices)\s*:?\s*`)
)

// indexes reads what package diagram does not: "same indexes", "as P1", "3-9-…-93", "3/93",
// and none at all for a level facet, which may sit at any tooth.
func (r *reader) indexes(no int) {
	t := &r.draft.Tiers[no]
	text := strings.TrimSpace(t.Indexes)
	if _, err := diagram.ParseIndexes(text, r.teeth); err == nil {
		return
	}
	g := Reading{TierNo: no, Field: diagram.FieldIndexes, Typed: t.Indexes, How: Understood, Sure: true}
	if angle, err := diagram.ParseNumber(t.Angle); text == "" && err == nil && angle == 0 && r.teeth > 0 {
		g.Read = diagram.FormatNumber(float64(r.teeth))
	} else if text != "" {
		read, guessed, ok := r.printedIndexes(no, text)
		if !ok {
			return
		}
		g.Read, g.Sure = read, !guessed
		if guessed {
			g.How = IndexesGuessed
		}
	}
	if g.Read != "" {
		t.Indexes = g.Read
		r.add(g)
	}
}

func (r *reader) printedIndexes(no int, text string) (read string, guessed, ok bool) {
	for _, p := range []*regexp.Regexp{sameIndexes, asTier} {
		if m := p.FindStringSubmatch(text); m != nil {
			read, ok = r.sameAs(no, m[1])
			return read, false, ok
		}
	}
	text = indexSeparators.ReplaceAllString(indexWords.ReplaceAllString(text, ""), "-")
	if gaps := ellipsis.FindAllStringIndex(text, -1); gaps != nil {
		text, guessed, ok = r.complete(text, gaps)
		if !ok {
			return "", false, false
		}
	}
	if _, err := diagram.ParseIndexes(text, r.teeth); err != nil {
		return "", false, false
	}
	return text, guessed, true
}

// sameAs returns the indexes of the tier with a name, of the one before without.
func (r *reader) sameAs(no int, name string) (string, bool) {
	for i := no - 1; i >= 0; i-- {
		if name == "" || strings.EqualFold(strings.TrimSpace(r.draft.Tiers[i].Name), name) {
			_, err := diagram.ParseIndexes(r.draft.Tiers[i].Indexes, r.teeth)
			return r.draft.Tiers[i].Indexes, err == nil
		}
	}
	return "", false
}

// complete writes out what stands for the gaps in a run: the steps from the two indexes before
// one to the index after it, or round to the first where nothing follows.
func (r *reader) complete(text string, gaps [][]int) (out string, guessed, ok bool) {
	if r.teeth == 0 {
		return "", false, false
	}
	const around = " \t-–,;."
	var indexes []float64
	at := 0
	for _, gap := range append(gaps, []int{len(text), len(text)}) {
		piece := strings.Trim(text[at:gap[0]], around)
		var next []float64
		if piece != "" {
			var err error
			if next, err = diagram.ParseIndexes(piece, r.teeth); err != nil {
				return "", false, false
			}
		}
		if at > 0 {
			filled, ok := r.run(indexes, next)
			if !ok {
				return "", false, false
			}
			indexes, guessed = append(indexes, filled...), guessed || len(next) == 0
		}
		indexes = append(indexes, next...)
		at = gap[1]
		if gap[0] == len(text) {
			break
		}
	}
	return diagram.FormatIndexes(indexes), guessed, len(indexes) > 0
}

// run counts on from the last two indexes until the first of those that follow, without it, or
// until it comes round to the first index.
func (r *reader) run(before, after []float64) ([]float64, bool) {
	if len(before) < 2 {
		return nil, false
	}
	round := float64(r.teeth)
	forward := func(from, to float64) float64 { return math.Mod(to-from+2*round, round) }
	last := before[len(before)-1]
	step := forward(before[len(before)-2], last)
	end := before[0]
	if len(after) > 0 {
		end = after[0]
	}
	steps := forward(last, end) / step
	n := math.Round(steps)
	if !(step > 0) || math.Abs(steps-n) > 1e-6 || n > diagram.MaxFacets {
		return nil, false
	}
	var out []float64
	for i := 1.0; i < n; i++ {
		out = append(out, gear.Normal(last+i*step, r.teeth))
	}
	return out, true
}
