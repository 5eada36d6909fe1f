package formats

import (
	"bytes"
	"slices"
	"unicode/utf8"

	"cressa/core/diagram"
)

// Mistakes that only a file can have, beside those of package diagram.
const (
	// NotJSON: Text says what the parser met.
	NotJSON diagram.Code = "not-json"
	// UnknownField: Text is the field, Other the known one it may be meant for.
	UnknownField diagram.Code = "unknown-field"
	// TwiceField: the field stands twice in one object.
	TwiceField diagram.Code = "twice-field"
	// WrongType: Text is what is there, Other what belongs there.
	WrongType diagram.Code = "wrong-type"
	// MissingField: the field must be there.
	MissingField diagram.Code = "missing-field"
	// TooLarge: the file has Value bytes, High are allowed.
	TooLarge diagram.Code = "too-large"
)

// Mistake is a problem and its place in a file, lines and columns from 1.
type Mistake struct {
	Line, Column int
	diagram.Problem
}

// place names a field of the file (tier -1) or of a tier; in a list of another file the field is a path.
type place struct {
	tier  int
	field diagram.Field
}

type fileReader struct {
	data     []byte
	mistakes []Mistake
	// places keeps the offset of every field that was read.
	places map[place]int
	// tier is the tier being read, -1 outside of them, and tierName its name.
	tier     int
	tierName string
	// path is put before the names of fields in an object within the file.
	path string
}

// openFile reads a file's JSON; what is wrong with it is among the reader's mistakes.
func openFile(data []byte, most int) (*fileReader, node) {
	r := &fileReader{data: data, places: map[place]int{}, tier: -1}
	if len(data) > most {
		r.add(0, diagram.Problem{Code: TooLarge, TierNo: -1, Value: float64(len(data)), High: float64(most)})
		return r, node{}
	}
	if !utf8.Valid(data) {
		r.add(0, diagram.Problem{Code: NotJSON, TierNo: -1, Text: "bytes that are not UTF-8"})
		return r, node{}
	}
	root, err := parseTree(data)
	if err != nil {
		r.add(err.offset, diagram.Problem{Code: NotJSON, TierNo: -1, Text: err.text})
	}
	return r, root
}

// found keeps where a field stands.
func (r *fileReader) found(field diagram.Field, n node) {
	r.places[place{r.tier, diagram.Field(r.path) + field}] = n.offset
}

// mostMistakes is how many are told; whoever mends these reads the file again.
const mostMistakes = 100

func (r *fileReader) add(offset int, p diagram.Problem) {
	if len(r.mistakes) == mostMistakes {
		return
	}
	before := r.data[:max(0, min(offset, len(r.data)))]
	line := 1 + bytes.Count(before, []byte("\n"))
	column := 1 + utf8.RuneCount(before[bytes.LastIndexByte(before, '\n')+1:])
	r.mistakes = append(r.mistakes, Mistake{line, column, p})
}

// at adds a mistake at the tier being read.
func (r *fileReader) at(offset int, p diagram.Problem) {
	p.TierNo, p.Tier = r.tier, r.tierName
	if r.path != "" {
		p.Field = diagram.Field(r.path) + p.Field
	}
	r.add(offset, p)
}

func (r *fileReader) placeOf(p diagram.Problem) int {
	if offset, ok := r.places[place{p.TierNo, p.Field}]; ok {
		return offset
	}
	return r.places[place{p.TierNo, ""}]
}

// reading binds a field of an object to what reads it.
type reading struct {
	field    diagram.Field
	required bool
	read     func(node)
}

// object reads an object's fields and complains of unknown, double and missing ones.
func (r *fileReader) object(n node, fields []reading) {
	if n.kind != objectNode {
		r.wrongType(n, "an object { … }")
		return
	}
	seen := map[string]bool{}
	for _, m := range n.members {
		i := slices.IndexFunc(fields, func(f reading) bool { return string(f.field) == m.name })
		switch {
		case i < 0:
			r.at(m.offset, diagram.Problem{Code: UnknownField, Text: short(m.name), Other: closest(m.name, fields)})
		case seen[m.name]:
			r.at(m.offset, diagram.Problem{Code: TwiceField, Text: short(m.name)})
		default:
			fields[i].read(m.node)
		}
		seen[m.name] = true
	}
	for _, f := range fields {
		if f.required && !seen[string(f.field)] {
			r.at(n.offset, diagram.Problem{Code: MissingField, Field: f.field, Text: string(f.field)})
		}
	}
}

func (r *fileReader) wrongType(n node, want string) {
	r.at(n.offset, diagram.Problem{Code: WrongType, Text: n.describe(), Other: want})
}

func (r *fileReader) text(field diagram.Field, to *string) reading {
	return reading{field: field, read: func(n node) {
		if n.kind != stringNode {
			r.wrongType(n, "text in quotes")
			return
		}
		*to = n.text
		r.found(field, n)
	}}
}

func (r *fileReader) number(field diagram.Field, to *float64) reading {
	return reading{field: field, read: func(n node) {
		if n.kind != numberNode {
			r.wrongType(n, "a number")
			return
		}
		*to = n.number
		r.found(field, n)
	}}
}

func (r *fileReader) wholeNumber(field diagram.Field, to *int) reading {
	return reading{field: field, read: func(n node) {
		if n.kind != numberNode || n.number != float64(int(n.number)) {
			r.wrongType(n, "a whole number")
			return
		}
		*to = int(n.number)
		r.found(field, n)
	}}
}

func (r *fileReader) list(field diagram.Field, each func(int, node)) reading {
	return reading{field: field, read: func(n node) {
		if n.kind != arrayNode {
			r.wrongType(n, "a list [ … ]")
			return
		}
		r.found(field, n)
		for i, item := range n.items {
			each(i, item)
		}
	}}
}

func required(f reading) reading {
	f.required = true
	return f
}

// closest returns the known field that differs least from name, "" where none is
// near.
func closest(name string, fields []reading) string {
	best, least := "", 3
	for _, f := range fields {
		if d := editDistance(name, string(f.field)); d < least {
			best, least = string(f.field), d
		}
	}
	return best
}

// editDistance is the number of letters to add, drop or change (Levenshtein).
func editDistance(a, b string) int {
	row := make([]int, len(b)+1)
	for j := range row {
		row[j] = j
	}
	for i := range len(a) {
		diagonal := row[0]
		row[0] = i + 1
		for j := range len(b) {
			cost := 1
			if a[i] == b[j] {
				cost = 0
			}
			diagonal, row[j+1] = row[j+1], min(row[j+1]+1, row[j]+1, diagonal+cost)
		}
	}
	return row[len(b)]
}
