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
	keyAlone   = regexp.MustCompile(`^[A-Za-z][A-Za-z. ]{0,30}$`)
	gearFirst  = regexp.MustCompile(`(?i)(?:^|[^0-9.,])([0-9]{2,3})\s*-?\s*(?:tooth|teeth|index|gear)`)
	gearAfter  = regexp.MustCompile(`(?i)\b(?:gear|index wheel|index)\s*[:=]?\s*([0-9]{2,3})\b`)
	plainIndex = regexp.MustCompile(`\b[1-3][.,][0-9]{2,4}\b`)
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
		case "width", "planned width", "finished width":
			if v, err := diagram.ParseNumber(strings.TrimSpace(strings.TrimSuffix(value, "mm"))); err == nil && v > 0 {
				value = diagram.FormatNumber(v)
				set(&d.Width)
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
	} else if m := plainIndex.FindString(rest); m != "" && found && d.RefractiveIndex == "" {
		// "96 index 1.54": the figure beside the gear is the refractive index.
		d.RefractiveIndex = strings.Replace(m, ",", ".", 1)
		rest = strings.Replace(rest, m, "", 1)
	}
	if all := plainIndex.FindAllString(text, -1); len(all) == 2 && (found || angleHead.MatchString(text)) {
		// Two indexes announce two angles a tier.
		found, r.indexes = true, nil
		for _, v := range all {
			r.indexes = append(r.indexes, strings.Replace(v, ",", ".", 1))
			rest = strings.Replace(rest, v, "", 1)
		}
		d.RefractiveIndex = r.indexes[0]
	}
	// What else stands before the first comma of such a line is the title.
	if title, _, _ := strings.Cut(rest, ","); found && d.Name == "" && hasWord.MatchString(title) {
		d.Name = strings.Trim(title, " \t,;:-–(")
	}
	return found
}

var angleHead = regexp.MustCompile(`(?i)\bangles?\b`)

var hasWord = regexp.MustCompile(`[A-Za-z]{3}`)

// keyAndValue parts "gear: 96", or the two cells of a row of a spreadsheet.
func keyAndValue(text string) (key, value string, ok bool) {
	for _, delimiter := range []string{",", ";"} {
		if cells := split(text, delimiter); len(cells) == 2 && keyAlone.MatchString(cells[0].text) {
			return cells[0].text, cells[1].text, true
		}
	}
	if m := keyValue.FindStringSubmatch(text); m != nil {
		return m[1], strings.Trim(m[2], `" ,;`), true
	}
	return "", "", false
}
