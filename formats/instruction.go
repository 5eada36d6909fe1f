package formats

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"cressa/core/diagram"
)

var (
	keyValue   = regexp.MustCompile(`^\s*"?([A-Za-z][A-Za-z. ]{0,30}?)"?\s*[:=,;\t]\s*(.+?)\s*$`)
	gearFirst  = regexp.MustCompile(`(?i)\b([0-9]{2,3})\s*-?\s*(?:tooth|teeth|index|gear)`)
	gearAfter  = regexp.MustCompile(`(?i)\b(?:gear|index wheel|index)\s*[:=]?\s*([0-9]{2,3})\b`)
	indexAfter = regexp.MustCompile(`(?i)(?:refractive index|\br\.?\s*i\.?|\bn)\s*[:=]?\s*([1-3][.,][0-9]+)`)
)

// fact reads a line that says something of the diagram as a whole.
func (r *tableReader) fact(text string) bool {
	d, found := &r.table.Draft, false
	if key, value, ok := keyAndValue(text); ok {
		set := func(field *string) {
			*field, found = value, true
		}
		switch strings.ToLower(strings.TrimSpace(key)) {
		case "name", "title", "diagram", "design":
			set(&d.Name)
		case "designer", "author", "by", "designed by":
			set(&d.Designer)
		case "source", "from":
			set(&d.Source)
		case "date":
			set(&d.Date)
		case "licence", "license":
			set(&d.Licence)
		case "note", "notes":
			set(&d.Note)
		case "outline", "shape":
			if slices.Contains(diagram.Outlines, diagram.Outline(strings.ToLower(value))) {
				value = strings.ToLower(value)
				set(&d.Outline)
			}
		case "first side", "cut first":
			if side := diagram.Part(strings.ToLower(value)); side == diagram.Pavilion || side == diagram.Crown {
				value = string(side)
				set(&d.FirstSide)
			}
		case "indexing":
			if slices.Contains(diagram.Indexings, diagram.Indexing(strings.ToLower(value))) {
				value = strings.ToLower(value)
				set(&d.Indexing)
			}
		case "refractive index", "r.i.", "ri", "n":
			if _, err := diagram.ParseNumber(value); err == nil {
				value = strings.Replace(value, ",", ".", 1)
				set(&d.RefractiveIndex)
			}
		case "gear", "teeth", "index gear":
			if _, err := strconv.Atoi(value); err == nil {
				set(&d.Gear)
			}
		}
		if found {
			return true
		}
	}
	rest := text
	for _, p := range []*regexp.Regexp{gearFirst, gearAfter} {
		if m := p.FindStringSubmatch(text); m != nil && d.Gear == "" {
			d.Gear, found = m[1], true
			rest = strings.Replace(rest, m[0], "", 1)
		}
	}
	if m := indexAfter.FindStringSubmatch(text); m != nil && d.RefractiveIndex == "" {
		d.RefractiveIndex, found = strings.Replace(m[1], ",", ".", 1), true
		rest = strings.Replace(rest, m[0], "", 1)
	}
	// What else stands before the first comma of such a line is the title.
	if title, _, _ := strings.Cut(rest, ","); found && d.Name == "" && hasWord.MatchString(title) {
		d.Name = strings.Trim(title, " \t,;:-–")
	}
	return found
}

var hasWord = regexp.MustCompile(`[A-Za-z]{3}`)

// keyAndValue parts "gear: 96", or the two cells of a row of a spreadsheet.
func keyAndValue(text string) (key, value string, ok bool) {
	for _, delimiter := range []string{",", ";"} {
		if cells := split(text, delimiter); len(cells) == 2 && keyValue.MatchString(cells[0].text+":x") {
			return cells[0].text, cells[1].text, true
		}
	}
	if m := keyValue.FindStringSubmatch(text); m != nil {
		return m[1], strings.Trim(m[2], `" ,;`), true
	}
	return "", "", false
}

var (
	centreWords = regexp.MustCompile(`(?i)cent(?:re|er)\s*point|\bcent(?:re|er)\b|\bculet\b|\bapex\b|to a point|\bkeel\b`)
	girdleWords = regexp.MustCompile(`(?i)girdle[^0-9]*([0-9]+(?:[.,][0-9]+)?)\s*(%?)`)
	tableWords  = regexp.MustCompile(`(?i)(?:table|width)[^0-9]*([0-9]+(?:[.,][0-9]+)?)\s*(%?)`)
	word        = regexp.MustCompile(`[A-Za-z0-9]+`)
)

var countWords = map[string]int{"two": 2, "three": 3, "four": 4}

// readInstruction reads where a cut stops, as the editor's own text or in a
// cutter's words. Guessed tells that it was understood, not read.
func readInstruction(text string, part diagram.Part, before []diagram.DraftTier) (stop string, guessed bool) {
	if s, err := diagram.ParseStop(text); err == nil {
		return s.String(), false
	}
	if refs := namedTiers(text, before); len(refs) > 0 {
		return diagram.Stop{Kind: diagram.Meet, Tiers: refs}.String(), true
	}
	share := func(m []string) (float64, bool) {
		v, err := diagram.ParseNumber(m[1])
		if m[2] == "%" || v >= 1 {
			v /= 100
		}
		return v, err == nil && v > 0 && v < 1
	}
	if m := tableWords.FindStringSubmatch(text); m != nil && part == diagram.Crown {
		if v, ok := share(m); ok {
			return diagram.Stop{Kind: diagram.Width, Ratio: v}.String(), true
		}
	}
	if m := girdleWords.FindStringSubmatch(text); m != nil && part != diagram.Girdle {
		if v, ok := share(m); ok {
			return diagram.Stop{Kind: diagram.GirdleBand, Thickness: v}.String(), true
		}
	}
	if centreWords.MatchString(text) && part != diagram.Girdle {
		return diagram.Stop{Kind: diagram.Centre}.String(), true
	}
	return "", false
}

// namedTiers finds the tiers that an instruction names, "two P1 and G1".
func namedTiers(text string, before []diagram.DraftTier) []diagram.Ref {
	var out []diagram.Ref
	times := 1
	for _, w := range word.FindAllString(text, -1) {
		if n, ok := countWords[strings.ToLower(w)]; ok {
			times = n
			continue
		}
		if slices.ContainsFunc(before, func(t diagram.DraftTier) bool { return t.Name == w && diagram.ValidName(w) }) {
			for range times {
				out = append(out, diagram.Ref{Tier: w})
			}
		}
		times = 1
	}
	return out
}
