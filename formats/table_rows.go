package formats

import (
	"encoding/csv"
	"regexp"
	"strings"
	"unicode/utf8"

	"cressa/core/diagram"
	"cressa/core/printed"
)

// cell is a piece of a line and the column it begins in, from 1.
type cell struct {
	text   string
	column int
}

var runsOfSpaces = regexp.MustCompile(`\s{2,}`)

// split parts a line into cells.
func split(line, delimiter string) []cell {
	var out []cell
	add := func(text string, at int) {
		out = append(out, cell{strings.TrimSpace(text), utf8.RuneCountInString(line[:at]) + 1})
	}
	switch delimiter {
	case ",", ";":
		c := csv.NewReader(strings.NewReader(line))
		c.Comma, c.LazyQuotes, c.TrimLeadingSpace, c.FieldsPerRecord = rune(delimiter[0]), true, true, -1
		cells, err := c.Read()
		if err != nil {
			return []cell{{strings.TrimSpace(line), 1}}
		}
		for i, text := range cells {
			_, column := c.FieldPos(i)
			add(fromSpreadsheet(text), min(max(column-1, 0), len(line)))
		}
		return out
	case "  ":
		last := 0
		trimmed := strings.TrimRight(line, " \t")
		for _, gap := range runsOfSpaces.FindAllStringIndex(trimmed, -1) {
			if gap[0] > 0 {
				add(trimmed[last:gap[0]], last)
			}
			last = gap[1]
		}
		add(trimmed[last:], last)
		return out
	}
	at := 0
	for _, piece := range strings.Split(line, delimiter) {
		if delimiter != " " || piece != "" {
			add(piece, at)
		}
		at += len(piece) + len(delimiter)
	}
	if delimiter == "|" && len(out) > 2 && out[0].text == "" && out[len(out)-1].text == "" {
		out = out[1 : len(out)-1]
	}
	return out
}

// row is a tier as it stands in the text: its line, the part that its section or a column names, and
// its cells.
type row struct {
	line                                                 int
	part                                                 diagram.Part
	name, angle, indexes, stop, partCell, note, optional cell
}

// byColumns reads a row under a head. It is false where the row does not look like
// one: no angle that is a number and no indexes.
func (r *tableReader) byColumns(no int, text string) bool {
	got := map[diagram.Field]cell{}
	angles := 0
	note := func(text string, column int) {
		have := got[diagram.FieldNote]
		got[diagram.FieldNote] = cell{strings.TrimSpace(have.text + " " + text), column}
	}
	for i, c := range split(text, r.delimiter) {
		var field diagram.Field
		if i < len(r.columns) {
			field = r.columns[i]
		}
		switch {
		case c.text == "" || c.text == "---":
		case field == diagram.FieldAngle && len(r.table.Angles) > 1:
			if angles == r.how.Angles {
				got[field] = c
			} else {
				note(r.table.Angles[angles]+": "+c.text, c.column)
			}
		case field == diagram.FieldNote || field == "":
			// What stands beyond the last column, or under no head, belongs to the note.
			note(c.text, c.column)
		default:
			got[field] = c
		}
		if field == diagram.FieldAngle {
			angles++
		}
	}
	out := row{
		line: no, name: got[diagram.FieldName], angle: got[diagram.FieldAngle], indexes: got[diagram.FieldIndexes], stop: got[diagram.FieldStop],
		partCell: got[diagram.FieldPart], note: got[diagram.FieldNote], optional: got[fieldOptional],
	}
	_, _, isAngle := printed.ParseAngle(out.angle.text)
	if !isAngle && !looksLikeIndexes(out.indexes.text) || out.name.text == "" && out.angle.text == "" {
		return false
	}
	r.take(out)
	return true
}

var (
	nameStart   = regexp.MustCompile(`^[\s*•>-]*\(?([A-Za-z]{1,12}[0-9]{0,3}[a-z]?|[0-9]{1,2}[A-Za-z]?)[)\s.:,;|-]+`)
	bullets     = regexp.MustCompile(`^[\s*•>-]*`)
	angleMarked = regexp.MustCompile(`([0-9]{1,2}(?:[.,][0-9]+)?(?:\s*/\s*[0-9]{1,2}(?:[.,][0-9]+)?)?)\s*(?:[°º]\s*(?:([0-9]{1,2})\s*['′’])?|deg(?:rees)?\b)`)
	angleFirst  = regexp.MustCompile(`^([0-9]{1,2}(?:\.[0-9]+)?(?:\s*/\s*[0-9]{1,2}(?:\.[0-9]+)?)?)(?:\s|[,;|:]|$)`)
	indexRun    = regexp.MustCompile(`[0-9]+(?:\.[0-9]+)?(?:(?:\s*(?:[-–,;/&]|…|\.{2,}|\band\b)\s*)+[0-9]+(?:\.[0-9]+)?|\s+[0-9]+(?:\.[0-9]+)?)*(?:[\s,;-]*(?:…|\.{2,}|\betc\b\.?))?`)
	sameRun     = regexp.MustCompile(`(?i)^[\s,;|:@]*((?:(?:the\s+)?same(?:\s+(?:index(?:es)?|indices))?(?:\s+as\s+[A-Za-z0-9]+)?)|ditto|as\s+[A-Za-z]{1,4}[0-9]+|"|″)`)
	runFirst    = regexp.MustCompile(`^[0-9]+(?:\.[0-9]+)?(?:\s*[-–]\s*[0-9]+(?:\.[0-9]+)?)+`)
	shorthand   = regexp.MustCompile(`(?i)every\s+[0-9.]+(?:\s+from\s+[0-9.]+)?(?:\s+to\s+[0-9.]+)?|(?:,\s*)?mirrored|(?:,\s*)?[0-9]+\s*-?\s*fold`)
	lengthAfter = regexp.MustCompile(`^\s*(?:%|mm\b)`)
	wholeNumber = regexp.MustCompile(`[0-9]+`)
)

// factWords begin lines that look like rows and are none.
var factWords = []string{"gear", "ri", "n", "index", "angle", "angles", "note", "notes", "lap", "step", "cut", "polish"}

// freely reads a row without a head: a name or none, an angle, indexes, and what is left
// says where the cut stops.
func (r *tableReader) freely(no int, text string) bool {
	out := row{line: no}
	at := func(i int) int { return utf8.RuneCountInString(text[:i]) + 1 }
	from := len(bullets.FindString(text))
	if m := nameStart.FindStringSubmatchIndex(text); m != nil && r.isName(text[m[2]:m[3]], text[m[1]:]) {
		out.name = cell{text[m[2]:m[3]], at(m[2])}
		from = m[1]
	}
	rest := text[from:]
	// cut takes a piece of the rest out and leaves blanks, so that places stay.
	cut := func(from, to int) { rest = rest[:from] + strings.Repeat(" ", to-from) + rest[to:] }
	indexesFirst := runFirst.FindStringIndex(rest)
	switch m := angleMarked.FindStringSubmatchIndex(rest); {
	case m != nil:
		out.angle = cell{strings.TrimSpace(rest[m[0]:m[1]]), at(from + m[2])}
		cut(m[0], m[1])
	case indexesFirst != nil:
		// "P1 3-9-15 42.0": the angle follows.
		after := strings.TrimLeft(rest[indexesFirst[1]:], " \t@,;|:")
		skip := len(rest) - len(after)
		m := angleFirst.FindStringSubmatchIndex(after)
		if m == nil {
			return false
		}
		out.angle = cell{after[m[2]:m[3]], at(from + skip + m[2])}
		cut(skip+m[2], skip+m[3])
	default:
		if m := angleFirst.FindStringSubmatchIndex(rest); m != nil {
			out.angle = cell{rest[m[2]:m[3]], at(from + m[2])}
			cut(0, m[3])
		} else {
			return false
		}
	}
	run := r.runOf(rest)
	level := isLevel(out.angle.text)
	named := out.name.text != ""
	if run == nil && (!named || !level && !strings.ContainsAny(out.angle.text, "°º")) {
		return false
	}
	stopFrom := 0
	if run != nil {
		out.indexes = cell{strings.TrimSpace(rest[run[0]:run[1]]), at(from + run[0])}
		if aside := strings.Trim(rest[:run[0]], around); aside != "" {
			// Words between the name and the indexes say what the facets are called.
			out.note = cell{aside, at(from)}
		}
		stopFrom = run[1]
	}
	stop := strings.TrimLeft(rest[stopFrom:], around)
	out.stop = cell{strings.TrimRight(stop, around), at(from + len(rest) - len(stop))}
	if level && strings.EqualFold(out.stop.text, "table") && out.name.text != "" {
		out.note, out.stop = out.stop, cell{}
	}
	r.take(out)
	return true
}

const around = " \t,;|:-–.@"

// isName tells whether the word that a line begins with names a tier, given what follows it. A
// figure does only where an angle follows.
func (r *tableReader) isName(name, rest string) bool {
	lower := strings.ToLower(name)
	for _, w := range factWords {
		if lower == w {
			return false
		}
	}
	if strings.Trim(name, "0123456789") != "" {
		// A longer word needs a number after it, or to be one that tiers are called by.
		return len(strings.TrimRight(name, "0123456789")) <= 4 || strings.ContainsAny(name, "0123456789") || tierWords[lower]
	}
	if m := angleMarked.FindStringIndex(rest); m != nil {
		return true
	}
	m := angleFirst.FindStringSubmatch(strings.TrimLeft(rest, " \t"))
	return m != nil && !strings.HasPrefix(strings.TrimLeft(rest, " \t"), m[1]+"-")
}

var tierWords = map[string]bool{
	"table": true, "culet": true, "girdle": true, "star": true, "stars": true, "break": true, "breaks": true, "main": true, "mains": true,
	"bezel": true, "bezels": true, "keel": true, "corner": true, "corners": true, "ends": true, "sides": true,
}

// runOf finds where the indexes of a row stand.
func (r *tableReader) runOf(rest string) []int {
	if m := sameRun.FindStringSubmatchIndex(rest); m != nil {
		return m[2:4]
	}
	run := indexRun.FindStringIndex(rest)
	if run != nil && lengthAfter.MatchString(rest[run[1]:]) {
		run = nil
	}
	if run != nil && strings.Trim(rest[run[0]:run[1]], "0123456789.") == "" {
		// A figure in the words of a stop is no index.
		if words := strings.Trim(rest[:run[0]], around); words != "" && printed.ReadsAsStop(words) {
			run = nil
		}
	}
	if short := shorthand.FindAllStringIndex(rest, -1); short != nil {
		first, last := short[0][0], short[len(short)-1][1]
		if run != nil && run[0] < first {
			first = run[0]
		}
		run = []int{first, last}
	}
	return run
}

func isLevel(angle string) bool {
	a, _, ok := printed.ParseAngle(angle)
	v, err := diagram.ParseNumber(a)
	return ok && err == nil && v == 0
}

func looksLikeIndexes(text string) bool {
	_, err := diagram.ParseIndexes(text, diagram.MaxGear)
	return err == nil
}

// goesOn takes a line that goes on with the row before: more indexes, or where its cut stops.
func (r *tableReader) goesOn(text string) bool {
	if !r.open || len(r.rows) == 0 {
		return false
	}
	last := &r.rows[len(r.rows)-1]
	bare := strings.Trim(text, " \t|;")
	if r.delimiter == "\t" || r.delimiter == "," {
		bare = strings.Trim(text, " \t,")
	}
	switch {
	case looksLikeIndexes(bare) && (strings.ContainsAny(bare, "-–,; ") || strings.HasSuffix(last.indexes.text, "-")) && !strings.Contains(bare, "°"):
		last.indexes.text = strings.TrimRight(last.indexes.text, " -,;")
		if last.indexes.text != "" {
			last.indexes.text += "-"
		}
		last.indexes.text += strings.TrimLeft(bare, "-, ")
		return true
	case last.stop.text == "" && printed.ReadsAsStop(bare) && !nameStart.MatchString(text+" ") || last.stop.text == "" && text[0] <= ' ' && printed.ReadsAsStop(bare):
		last.stop = cell{bare, utf8.RuneCountInString(text) - utf8.RuneCountInString(strings.TrimLeft(text, " \t|;")) + 1}
		return true
	}
	return false
}

// take adds a row, with the part that it or its section names.
func (r *tableReader) take(row row) {
	said := strings.ToLower(row.partCell.text)
	for _, p := range diagram.Parts {
		if said != "" && strings.HasPrefix(string(p), said) {
			row.part = p
		}
	}
	first, other, ok := printed.ParseAngle(row.angle.text)
	if ok && other != "" {
		if len(r.table.Angles) == 0 {
			r.materials(r.angleLabels())
		}
		if r.how.Angles == 1 {
			first, other = other, first
		}
		row.angle.text = first
		row.note.text = strings.TrimSpace(row.note.text + " " + r.table.Angles[1-min(r.how.Angles, 1)] + ": " + other)
	}
	if v, err := diagram.ParseNumber(first); row.part == "" && err == nil && v != 90 && r.section != diagram.Girdle {
		row.part = r.section
	}
	if !diagram.ValidName(row.name.text) {
		row.name.text = validName(row.name.text)
	}
	r.rows = append(r.rows, row)
}

// angleLabels labels two angles in one cell by the refractive indexes in the head, or by their
// places.
func (r *tableReader) angleLabels() []string {
	if len(r.indexes) == 2 {
		return r.indexes
	}
	return []string{"first angle", "second angle"}
}

// validName leaves out what a name cannot hold.
func validName(name string) string {
	out := strings.Map(func(c rune) rune {
		if c < 0x80 && (c >= '0' && c <= '9' || c >= 'A' && c <= 'Z' || c >= 'a' && c <= 'z') {
			return c
		}
		return -1
	}, name)
	return out[:min(len(out), 12)]
}
