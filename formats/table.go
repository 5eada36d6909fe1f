package formats

import (
	"encoding/csv"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"cressa/core/diagram"
)

// Bounds of a table that was copied from somewhere.
const (
	MaxTableBytes = 1 << 20
	maxTableLines = 5000
)

// LineKind says what a line of a table was taken for.
type LineKind string

// The kinds of lines. A line that is none of the others is unread: it is kept in
// the draft's note and shown, never dropped.
const (
	LineTier    LineKind = "tier"
	LineFact    LineKind = "fact"
	LineHead    LineKind = "head"
	LineSection LineKind = "section"
	LineUnread  LineKind = "unread"
)

// Marks of a table: what could not be read, and what was guessed.
const (
	// StopNotRead: Text is what stood there; it is kept in the tier's note.
	StopNotRead diagram.Code = "stop-not-read"
	// StopGuessed: Text is the stop that was understood.
	StopGuessed diagram.Code = "stop-guessed"
	// PartGuessed: Text is the part that the tier was taken for.
	PartGuessed diagram.Code = "part-guessed"
	// GearGuessed: Value is the gear that was taken, because none was named.
	GearGuessed diagram.Code = "gear-guessed"
	// IndexGuessed: Value is the refractive index that was taken.
	IndexGuessed diagram.Code = "refractive-index-guessed"
	// LineNotRead: the line is kept in the note.
	LineNotRead diagram.Code = "line-not-read"
	// NoTable: no line looks like a tier.
	NoTable diagram.Code = "no-table"
)

// Table is a diagram as it was recognised in a text.
type Table struct {
	Draft diagram.Draft
	Lines []TableLine
	// Mistakes are marks and problems with their lines and columns.
	Mistakes []Mistake
}

// TableLine is a line of the text and what it was taken for. Tier is the place of
// the tier in the draft, -1 for the rest.
type TableLine struct {
	No   int
	Text string
	Kind LineKind
	Tier int
}

// ReadTable recognises a diagram in a table that was copied from a page, a mail or
// a spreadsheet: with a head or without, its columns parted by tabs, commas,
// semicolons, bars or spaces. It always gives a draft; what could not be read is
// marked. The error, if any, is a single mistake about the text as a whole.
func ReadTable(text string) (*Table, *Mistake) {
	if len(text) > MaxTableBytes {
		return nil, &Mistake{1, 1, diagram.Problem{Code: TooLarge, TierNo: -1, Value: float64(len(text)), High: MaxTableBytes}}
	}
	if !utf8.ValidString(text) {
		return nil, &Mistake{1, 1, diagram.Problem{Code: NotJSON, TierNo: -1, Text: "bytes that are not UTF-8"}}
	}
	text = strings.TrimPrefix(strings.ReplaceAll(text, "\r", "\n"), "\ufeff")
	r := &tableReader{table: &Table{}, lineOf: map[int]int{}}
	r.table.Draft = diagram.Draft{
		Outline: "other", FirstSide: string(diagram.Pavilion), Indexing: string(diagram.Dialled), Tiers: []diagram.DraftTier{},
	}
	for i, line := range strings.Split(text, "\n") {
		if strings.TrimSpace(line) == "" {
			continue
		}
		if i >= maxTableLines || len(r.table.Draft.Tiers) >= diagram.MaxTiers {
			r.unread(i+1, line)
			continue
		}
		r.line(i+1, line)
	}
	r.finish()
	return r.table, nil
}

type tableReader struct {
	table *Table
	// delimiter and columns come from the table's head; columns is nil without one.
	delimiter string
	columns   []diagram.Field
	section   diagram.Part
	seenPart  bool
	unreads   []string
	// lineOf is the line that a tier stands in.
	lineOf map[int]int
}

func (r *tableReader) add(line, column int, p diagram.Problem) {
	if len(r.table.Mistakes) < mostMistakes {
		r.table.Mistakes = append(r.table.Mistakes, Mistake{line, column, p})
	}
}

func (r *tableReader) keep(no int, text string, kind LineKind, tier int) {
	r.table.Lines = append(r.table.Lines, TableLine{no, text, kind, tier})
}

func (r *tableReader) unread(no int, text string) {
	r.keep(no, text, LineUnread, -1)
	r.unreads = append(r.unreads, strings.TrimSpace(text))
	r.add(no, 1, diagram.Problem{Code: LineNotRead, TierNo: -1, Text: strings.TrimSpace(text)})
}

func (r *tableReader) line(no int, text string) {
	if part, ok := sectionOf(text); ok {
		r.section = part
		r.keep(no, text, LineSection, -1)
		return
	}
	if r.columns == nil && r.head(text) {
		r.keep(no, text, LineHead, -1)
		return
	}
	if len(r.table.Draft.Tiers) == 0 && r.fact(text) {
		r.keep(no, text, LineFact, -1)
		return
	}
	read := false
	if r.columns != nil {
		read = r.byColumns(no, text)
	}
	if read || r.freely(no, text) {
		r.keep(no, text, LineTier, len(r.table.Draft.Tiers)-1)
		return
	}
	switch {
	case r.fact(text):
		r.keep(no, text, LineFact, -1)
	case r.table.Draft.Name == "" && len(r.table.Draft.Tiers) == 0 && len(text) < 80:
		// The first words over a table are its title.
		r.table.Draft.Name = strings.TrimSpace(text)
		r.keep(no, text, LineFact, -1)
	default:
		r.unread(no, text)
	}
}

// sectionOf reads a line that only names a part of the stone.
func sectionOf(text string) (diagram.Part, bool) {
	word := strings.ToLower(strings.Trim(text, " \t:-–=*#_|.,;"))
	word = strings.TrimSuffix(word, " facets")
	for _, p := range diagram.Parts {
		if word == string(p) {
			return p, true
		}
	}
	return "", false
}

// headWords are what people write over columns, by the field that is meant.
var headWords = map[string]diagram.Field{
	"tier": diagram.FieldName, "facet": diagram.FieldName, "facets": diagram.FieldName, "name": diagram.FieldName,
	"step": diagram.FieldName, "row": diagram.FieldName, "label": diagram.FieldName,
	"angle": diagram.FieldAngle, "angles": diagram.FieldAngle, "degrees": diagram.FieldAngle, "deg": diagram.FieldAngle,
	"index": diagram.FieldIndexes, "indexes": diagram.FieldIndexes, "indices": diagram.FieldIndexes,
	"teeth": diagram.FieldIndexes, "settings": diagram.FieldIndexes, "positions": diagram.FieldIndexes,
	"stop": diagram.FieldStop, "stops": diagram.FieldStop, "instruction": diagram.FieldStop, "instructions": diagram.FieldStop,
	"meet": diagram.FieldStop, "until": diagram.FieldStop, "comment": diagram.FieldStop, "comments": diagram.FieldStop,
	"remarks": diagram.FieldStop, "cut": diagram.FieldStop,
	"part": diagram.FieldPart, "side": diagram.FieldPart,
	"note": diagram.FieldNote, "notes": diagram.FieldNote, "optional": fieldOptional,
}

const fieldOptional diagram.Field = "optional"

var firstWord = regexp.MustCompile(`[a-z]+`)

// head reads the line over the columns: at least an angle or indexes, and one more.
func (r *tableReader) head(text string) bool {
	for _, delimiter := range []string{"\t", "|", ";", ",", "  ", " "} {
		cells := split(text, delimiter)
		columns := make([]diagram.Field, len(cells))
		known, useful := 0, false
		for i, c := range cells {
			f, ok := headWords[firstWord.FindString(strings.ToLower(c.text))]
			if !ok || slices.Contains(columns[:i], f) {
				continue
			}
			columns[i] = f
			known++
			useful = useful || f == diagram.FieldAngle || f == diagram.FieldIndexes
		}
		if known >= 2 && useful && known*2 >= len(cells) {
			r.delimiter, r.columns = delimiter, columns
			return true
		}
	}
	return false
}

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
			add(text, min(max(column-1, 0), len(line)))
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

// byColumns reads a row under a head. It is false where the row does not look like
// one: no angle that is a number and no indexes.
func (r *tableReader) byColumns(no int, text string) bool {
	got := map[diagram.Field]cell{}
	cells := split(text, r.delimiter)
	for i, c := range cells {
		if i < len(r.columns) && r.columns[i] != "" {
			got[r.columns[i]] = c
			continue
		}
		// What stands beyond the last column, or under no head, belongs to the note.
		if c.text != "" && c.text != "---" {
			note := got[diagram.FieldNote]
			got[diagram.FieldNote] = cell{strings.TrimSpace(note.text + " " + c.text), c.column}
		}
	}
	angle, indexes, name := got[diagram.FieldAngle], got[diagram.FieldIndexes], got[diagram.FieldName]
	tiers := r.table.Draft.Tiers
	if name.text == "" && angle.text == "" && indexes.text != "" && len(tiers) > 0 && looksLikeIndexes(indexes.text) {
		// A long row went on in the next line.
		last := &tiers[len(tiers)-1]
		last.Indexes = strings.TrimRight(last.Indexes, " -,") + "-" + indexes.text
		return true
	}
	if _, ok := readAngle(angle.text); !ok && !looksLikeIndexes(indexes.text) || name.text == "" && angle.text == "" {
		return false
	}
	r.tier(no, row{name, angle, indexes, got[diagram.FieldStop], got[diagram.FieldPart], got[diagram.FieldNote], got[fieldOptional]})
	return true
}

// row is a tier as it was found.
type row struct{ name, angle, indexes, stop, part, note, optional cell }

var (
	rowStart    = regexp.MustCompile(`^[\s*•>-]*([A-Za-z]{1,4}[0-9]{0,3}[a-z]?|[0-9]{1,2}[A-Za-z]?)[\s.:,;)|-]+`)
	angleMarked = regexp.MustCompile(`([0-9]{1,2}(?:[.,][0-9]+)?)\s*(?:°|º|deg(?:rees)?\b)`)
	angleFirst  = regexp.MustCompile(`^([0-9]{1,2}(?:[.][0-9]+)?)(?:\s|[,;|:]|$)`)
	indexRun    = regexp.MustCompile(`[0-9]+(?:\.[0-9]+)?(?:(?:\s*[-–,;]\s*|\s+)[0-9]+(?:\.[0-9]+)?)*`)
	shorthand   = regexp.MustCompile(`(?i)every\s+[0-9.]+(?:\s+from\s+[0-9.]+)?(?:\s+to\s+[0-9.]+)?|(?:,\s*)?mirrored|(?:,\s*)?[0-9]+\s*-?\s*fold`)
)

// factWords begin lines that look like rows and are none.
var factWords = []string{"gear", "ri", "n", "lw", "h", "w"}

// freely reads a row without a head: a name, an angle, indexes, and what is left
// says where the cut stops.
func (r *tableReader) freely(no int, text string) bool {
	start := rowStart.FindStringSubmatchIndex(text)
	if start == nil || slices.Contains(factWords, strings.ToLower(text[start[2]:start[3]])) {
		return false
	}
	at := func(i int) int { return utf8.RuneCountInString(text[:i]) + 1 }
	name := cell{text[start[2]:start[3]], at(start[2])}
	rest, from := text[start[1]:], start[1]
	var angle cell
	if m := angleMarked.FindStringSubmatchIndex(rest); m != nil {
		angle = cell{rest[m[2]:m[3]], at(from + m[2])}
		rest = rest[:m[0]] + strings.Repeat(" ", m[1]-m[0]) + rest[m[1]:]
	} else if m := angleFirst.FindStringSubmatchIndex(rest); m != nil {
		angle = cell{rest[m[2]:m[3]], at(from + m[2])}
		rest = strings.Repeat(" ", m[3]) + rest[m[3]:]
	} else {
		return false
	}
	run := indexRun.FindStringIndex(rest)
	if short := shorthand.FindAllStringIndex(rest, -1); short != nil {
		first, last := short[0][0], short[len(short)-1][1]
		if run != nil && run[0] < first {
			first = run[0]
		}
		run = []int{first, last}
	}
	if run == nil {
		return false
	}
	indexes := cell{rest[run[0]:run[1]], at(from + run[0])}
	const around = " \t,;|:-–."
	stop := strings.TrimLeft(rest[run[1]:], around)
	stopAt := at(from + len(rest) - len(stop))
	r.tier(no, row{name: name, angle: angle, indexes: indexes, stop: cell{strings.TrimRight(stop, around), stopAt}})
	return true
}

func looksLikeIndexes(text string) bool {
	_, err := diagram.ParseIndexes(text, diagram.MaxGear)
	return err == nil
}

// readAngle takes the signs off that people write beside an angle.
func readAngle(text string) (string, bool) {
	text = strings.TrimSpace(strings.TrimRight(strings.TrimSpace(text), "°º"))
	text = strings.TrimSpace(strings.TrimSuffix(strings.TrimSuffix(text, "degrees"), "deg"))
	_, err := diagram.ParseNumber(text)
	return text, err == nil
}

func (r *tableReader) tier(no int, row row) {
	d := &r.table.Draft
	place := len(d.Tiers)
	r.lineOf[place] = no
	angle, _ := readAngle(row.angle.text)
	t := diagram.DraftTier{
		Key: fmt.Sprintf("t%d", place+1), Name: row.name.text, Angle: angle, Indexes: row.indexes.text, Note: row.note.text,
		Optional: slices.Contains([]string{"yes", "y", "x", "true", "optional"}, strings.ToLower(row.optional.text)),
	}
	part, sure := r.partOf(row)
	t.Part = string(part)
	if !sure {
		r.add(no, max(row.name.column, 1), diagram.Problem{Code: PartGuessed, Tier: t.Name, TierNo: place, Field: diagram.FieldPart, Text: string(part)})
	}
	stop, guessed := readInstruction(row.stop.text, part, d.Tiers)
	t.Stop = stop
	at := diagram.Problem{Tier: t.Name, TierNo: place, Field: diagram.FieldStop}
	switch {
	case stop == "":
		at.Code, at.Text = StopNotRead, row.stop.text
		r.add(no, max(row.stop.column, 1), at)
		t.Note = strings.TrimSpace(t.Note + " " + row.stop.text)
	case guessed:
		at.Code, at.Text = StopGuessed, stop
		r.add(no, max(row.stop.column, 1), at)
		t.Note = strings.TrimSpace(t.Note + " " + row.stop.text)
	}
	d.Tiers = append(d.Tiers, t)
}

// partOf finds the part of the stone a row belongs to, and whether it said so.
func (r *tableReader) partOf(row row) (part diagram.Part, sure bool) {
	said := strings.ToLower(row.part.text)
	for _, p := range diagram.Parts {
		if said != "" && strings.HasPrefix(string(p), said) {
			r.section, r.seenPart = p, true
			return p, true
		}
	}
	angle, _ := readAngle(row.angle.text)
	upright := false
	if v, err := diagram.ParseNumber(angle); err == nil {
		upright = v == 90
	}
	if upright {
		return diagram.Girdle, true
	}
	if r.section != "" && r.section != diagram.Girdle {
		return r.section, true
	}
	letters := strings.ToUpper(strings.TrimRight(row.name.text, "0123456789"))
	switch {
	case strings.HasPrefix(letters, "P"):
		return diagram.Pavilion, true
	case strings.HasPrefix(letters, "C"), strings.HasPrefix(letters, "T"):
		return diagram.Crown, true
	case strings.HasPrefix(letters, "G"):
		return diagram.Girdle, true
	}
	// Most sheets list the pavilion, the girdle, then the crown.
	for _, t := range r.table.Draft.Tiers {
		if t.Part != string(diagram.Pavilion) {
			return diagram.Crown, false
		}
	}
	return diagram.Pavilion, false
}

// finish fills in what nobody said, and holds the draft against the format.
func (r *tableReader) finish() {
	d := &r.table.Draft
	if len(d.Tiers) == 0 {
		r.add(1, 1, diagram.Problem{Code: NoTable, TierNo: -1})
	}
	if d.Gear == "" {
		gear := r.likelyGear()
		d.Gear = fmt.Sprint(gear)
		r.add(1, 1, diagram.Problem{Code: GearGuessed, TierNo: -1, Field: diagram.FieldGear, Value: float64(gear)})
	}
	if d.RefractiveIndex == "" {
		d.RefractiveIndex = "1.54"
		r.add(1, 1, diagram.Problem{Code: IndexGuessed, TierNo: -1, Field: diagram.FieldRefractiveIndex, Value: 1.54})
	}
	if len(r.unreads) > 0 {
		d.Note = strings.TrimSpace(d.Note + "\nNot read from the table: " + strings.Join(r.unreads, " / "))
		const longest = 19000
		d.Note = strings.ToValidUTF8(d.Note[:min(len(d.Note), longest)], "")
	}
	_, problems := d.Read()
	for _, p := range problems {
		// That a stop could not be read has been told already.
		if p.Field != diagram.FieldStop || p.TierNo < 0 || d.Tiers[p.TierNo].Stop != "" {
			r.add(max(r.lineOf[p.TierNo], 1), 1, p)
		}
	}
	slices.SortStableFunc(r.table.Mistakes, func(a, b Mistake) int { return a.Line - b.Line })
}

// likelyGear is the smallest usual gear that has all the indexes.
func (r *tableReader) likelyGear() int {
	highest := 0.0
	for _, t := range r.table.Draft.Tiers {
		indexes, _ := diagram.ParseIndexes(t.Indexes, diagram.MaxGear)
		for _, i := range indexes {
			highest = max(highest, i)
		}
	}
	for _, n := range []int{32, 48, 64, 72, 77, 80, 84, 88, 96, 120, 144} {
		if float64(n) >= highest && (n >= 64 || float64(n) == highest) {
			return n
		}
	}
	return 96
}
