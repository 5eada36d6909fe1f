package formats

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"cressa/core/diagram"
	"cressa/core/printed"
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

// Marks of a table: what could not be read, and what was guessed. How fields were read is told by
// the readings of package printed.
const (
	// GearGuessed: Value is the gear that was taken, because none was named.
	GearGuessed diagram.Code = "gear-guessed"
	// IndexGuessed: Value is the refractive index that was taken.
	IndexGuessed diagram.Code = "refractive-index-guessed"
	// LineNotRead: the line is kept in the note.
	LineNotRead diagram.Code = "line-not-read"
	// NoTable: no line looks like a tier.
	NoTable diagram.Code = "no-table"
	// TierRenamed: the tier is called as Tier says, because Text is no name or belongs to
	// another; in the words of its stop too.
	TierRenamed diagram.Code = "tier-renamed"
)

// Table is a diagram as it was recognised in a text.
type Table struct {
	// Draft has every field as it is printed, for package printed to read.
	Draft diagram.Draft
	Lines []TableLine
	// Mistakes are marks and problems with their lines and columns.
	Mistakes []Mistake
	// Angles labels the columns of angles where the sheet has several, one for each material;
	// it is empty where there is one.
	Angles []string
}

// TableLine is a line of the text and what it was taken for. Tier is the place of
// the tier in the draft, -1 for the rest.
type TableLine struct {
	No   int
	Text string
	Kind LineKind
	Tier int
}

// Reading says how a table is to be read.
type Reading struct {
	// Angles is which of several angles counts, from 0, where a sheet has them for several
	// materials.
	Angles int
	// Width is the planned width in mm as it is typed, "" for none.
	Width string
}

// ReadTable recognises a diagram in a table that was copied from a page, a mail or
// a spreadsheet: with a head or without, its columns parted by tabs, commas,
// semicolons, bars or spaces. It always gives a draft; what could not be read is
// marked. How its fields are read is for package printed to say. The error, if any, is a single
// mistake about the text as a whole.
func ReadTable(text string, how Reading) (*Table, *Mistake) {
	if len(text) > MaxTableBytes {
		return nil, &Mistake{1, 1, diagram.Problem{Code: TooLarge, TierNo: -1, Value: float64(len(text)), High: MaxTableBytes}}
	}
	if !utf8.ValidString(text) {
		return nil, &Mistake{1, 1, diagram.Problem{Code: NotJSON, TierNo: -1, Text: "bytes that are not UTF-8"}}
	}
	text = strings.TrimPrefix(strings.ReplaceAll(text, "\r", "\n"), "\ufeff")
	r := &tableReader{table: &Table{}, how: how}
	r.table.Draft = diagram.Draft{
		Outline: "other", Width: how.Width, FirstSide: string(diagram.Pavilion), Indexing: string(diagram.Dialled), Tiers: []diagram.DraftTier{},
	}
	for i, line := range strings.Split(text, "\n") {
		if strings.TrimSpace(line) == "" {
			r.open = false
			continue
		}
		if i >= maxTableLines || len(r.rows) >= diagram.MaxTiers {
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
	how   Reading
	// delimiter and columns come from the table's head; columns is nil without one.
	delimiter string
	columns   []diagram.Field
	section   diagram.Part
	rows      []row
	// open tells that the line before belongs to the last row, so that this one may go on with it.
	open    bool
	unreads []string
	// indexes are the refractive indexes in the head, one for each column of angles.
	indexes []string
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
	r.open = false
	r.keep(no, text, LineUnread, -1)
	r.unreads = append(r.unreads, strings.TrimSpace(text))
	r.add(no, 1, diagram.Problem{Code: LineNotRead, TierNo: -1, Text: strings.TrimSpace(text)})
}

func (r *tableReader) line(no int, text string) {
	if part, ok := sectionOf(text); ok {
		r.section, r.open = part, false
		r.keep(no, text, LineSection, -1)
		return
	}
	if r.columns == nil && r.head(text) {
		r.keep(no, text, LineHead, -1)
		return
	}
	if len(r.rows) == 0 && r.fact(text) {
		r.keep(no, text, LineFact, -1)
		return
	}
	if r.goesOn(text) || r.columns != nil && r.byColumns(no, text) || r.freely(no, text) {
		r.open = true
		r.keep(no, text, LineTier, len(r.rows)-1)
		return
	}
	switch {
	case r.fact(text):
		r.keep(no, text, LineFact, -1)
	case r.table.Draft.Name == "" && len(r.rows) == 0 && len(text) < 80:
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
	for _, also := range []string{" facets", " tiers", " side", " cutting", " instructions"} {
		word = strings.TrimSuffix(word, also)
	}
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

// head reads the line over the columns: at least an angle or indexes, and one more. Columns of
// angles for several materials stand side by side.
func (r *tableReader) head(text string) bool {
	for _, delimiter := range []string{"\t", "|", ";", ",", "  ", " "} {
		cells := split(text, delimiter)
		columns := make([]diagram.Field, len(cells))
		known, useful := 0, false
		var angles []string
		for i, c := range cells {
			f, ok := headWords[firstWord.FindString(strings.ToLower(c.text))]
			if !ok || f != diagram.FieldAngle && slices.Contains(columns[:i], f) || delimiter == " " && slices.Contains(columns[:i], f) {
				continue
			}
			columns[i] = f
			known++
			useful = useful || f == diagram.FieldAngle || f == diagram.FieldIndexes
			if f == diagram.FieldAngle {
				angles = append(angles, c.text)
			}
		}
		if known >= 2 && useful && known*2 >= len(cells) {
			r.delimiter, r.columns = delimiter, columns
			if len(angles) > 1 {
				r.materials(angles)
			}
			return true
		}
	}
	return false
}

// materials takes the labels of several columns of angles, with the refractive indexes in them.
func (r *tableReader) materials(labels []string) {
	r.table.Angles = labels
	if r.how.Angles >= len(labels) {
		r.how.Angles = 0
	}
	for _, label := range labels {
		if m := plainIndex.FindString(label); m != "" {
			r.indexes = append(r.indexes, strings.Replace(m, ",", ".", 1))
		}
	}
}

// finish makes the draft of the rows, fills in what nobody said, has it read as it is printed and
// holds it against the format.
func (r *tableReader) finish() {
	d := &r.table.Draft
	r.number()
	for i, row := range r.rows {
		d.Tiers = append(d.Tiers, diagram.DraftTier{
			Key: fmt.Sprintf("t%d", i+1), Name: row.name.text, Part: string(row.part), Angle: row.angle.text, Indexes: row.indexes.text,
			Stop: row.stop.text, Note: row.note.text,
			Optional: slices.Contains([]string{"yes", "y", "x", "true", "optional"}, strings.ToLower(row.optional.text)),
		})
	}
	if len(d.Tiers) == 0 {
		r.add(1, 1, diagram.Problem{Code: NoTable, TierNo: -1})
	}
	if d.Gear == "" {
		gear := r.likelyGear()
		d.Gear = fmt.Sprint(gear)
		r.add(1, 1, diagram.Problem{Code: GearGuessed, TierNo: -1, Field: diagram.FieldGear, Value: float64(gear)})
	}
	if r.how.Angles < len(r.indexes) {
		d.RefractiveIndex = r.indexes[r.how.Angles]
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
	r.nameTheNameless()
	_, problems := printed.Diagram(*d)
	for _, p := range problems {
		// A stop that is not printed, or not understood, is found later.
		if p.Code != diagram.StopMissing {
			r.add(max(r.lineOf(p.TierNo), 1), 1, p)
		}
	}
	slices.SortStableFunc(r.table.Mistakes, func(a, b Mistake) int { return a.Line - b.Line })
}

func (r *tableReader) lineOf(tierNo int) int {
	if tierNo < 0 || tierNo >= len(r.rows) {
		return 0
	}
	return r.rows[tierNo].line
}

// likelyGear is the smallest usual gear that has all the indexes.
func (r *tableReader) likelyGear() int {
	highest := 0.0
	for _, t := range r.table.Draft.Tiers {
		for _, figure := range wholeNumber.FindAllString(t.Indexes, -1) {
			if i, err := diagram.ParseNumber(figure); err == nil && i <= diagram.MaxGear {
				highest = max(highest, i)
			}
		}
	}
	for _, n := range []int{32, 48, 64, 72, 77, 80, 84, 88, 96, 120, 144} {
		if float64(n) >= highest && (n >= 64 || float64(n) == highest) {
			return n
		}
	}
	return 96
}
