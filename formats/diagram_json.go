// Package formats reads and writes the open file formats.
package formats

import (
	"bytes"
	"encoding/json"
	"slices"
	"unicode/utf8"

	"cressa/core/diagram"
)

// MaxDiagramBytes bounds a diagram file. The largest diagram with long notes is
// far smaller.
const MaxDiagramBytes = 4 << 20

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

// WriteDiagram returns the diagram as an indented file. Equal diagrams give equal bytes.
// It returns an error where a figure is infinite or no number.
func WriteDiagram(d *diagram.Diagram) ([]byte, error) {
	data, err := json.MarshalIndent(d, "", "  ")
	if err != nil {
		return nil, err
	}
	return append(data, '\n'), nil
}

// ReadDiagram reads a *.cressa.json file strictly: an unknown field is a mistake,
// so that a slip of the finger in a name is not lost. The diagram counts only
// where there are no mistakes.
func ReadDiagram(data []byte) (*diagram.Diagram, []Mistake) {
	r := &diagramReader{data: data, places: map[place]int{}}
	if len(data) > MaxDiagramBytes {
		r.add(0, diagram.Problem{Code: TooLarge, TierNo: -1, Value: float64(len(data)), High: MaxDiagramBytes})
		return nil, r.mistakes
	}
	if !utf8.Valid(data) {
		r.add(0, diagram.Problem{Code: NotJSON, TierNo: -1, Text: "bytes that are not UTF-8"})
		return nil, r.mistakes
	}
	root, err := parseTree(data)
	if err != nil {
		r.add(err.offset, diagram.Problem{Code: NotJSON, TierNo: -1, Text: err.text})
		return nil, r.mistakes
	}
	d := r.diagram(root)
	if len(r.mistakes) > 0 {
		return nil, r.mistakes
	}
	d.FillDefaults()
	for _, p := range d.Validate() {
		r.add(r.placeOf(p), p)
	}
	return d, r.mistakes
}

// place names a field of the diagram (tier -1) or of a tier.
type place struct {
	tier  int
	field diagram.Field
}

type diagramReader struct {
	data     []byte
	mistakes []Mistake
	// places keeps the offset of every field that was read.
	places map[place]int
	// tier is the tier being read, -1 outside of them, and tierName its name.
	tier     int
	tierName string
}

// mostMistakes is how many are told; whoever mends these reads the file again.
const mostMistakes = 100

func (r *diagramReader) add(offset int, p diagram.Problem) {
	if len(r.mistakes) == mostMistakes {
		return
	}
	before := r.data[:max(0, min(offset, len(r.data)))]
	line := 1 + bytes.Count(before, []byte("\n"))
	column := 1 + utf8.RuneCount(before[bytes.LastIndexByte(before, '\n')+1:])
	r.mistakes = append(r.mistakes, Mistake{line, column, p})
}

// at adds a mistake at the tier being read.
func (r *diagramReader) at(offset int, p diagram.Problem) {
	p.TierNo, p.Tier = r.tier, r.tierName
	r.add(offset, p)
}

func (r *diagramReader) placeOf(p diagram.Problem) int {
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
func (r *diagramReader) object(n node, fields []reading) {
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

func (r *diagramReader) wrongType(n node, want string) {
	r.at(n.offset, diagram.Problem{Code: WrongType, Text: n.describe(), Other: want})
}

func (r *diagramReader) text(field diagram.Field, to *string) reading {
	return reading{field: field, read: func(n node) {
		if n.kind != stringNode {
			r.wrongType(n, "text in quotes")
			return
		}
		*to = n.text
		r.places[place{r.tier, field}] = n.offset
	}}
}

func (r *diagramReader) number(field diagram.Field, to *float64) reading {
	return reading{field: field, read: func(n node) {
		if n.kind != numberNode {
			r.wrongType(n, "a number")
			return
		}
		*to = n.number
		r.places[place{r.tier, field}] = n.offset
	}}
}

func (r *diagramReader) wholeNumber(field diagram.Field, to *int) reading {
	return reading{field: field, read: func(n node) {
		if n.kind != numberNode || n.number != float64(int(n.number)) {
			r.wrongType(n, "a whole number")
			return
		}
		*to = int(n.number)
		r.places[place{r.tier, field}] = n.offset
	}}
}

func (r *diagramReader) list(field diagram.Field, each func(int, node)) reading {
	return reading{field: field, read: func(n node) {
		if n.kind != arrayNode {
			r.wrongType(n, "a list [ … ]")
			return
		}
		r.places[place{r.tier, field}] = n.offset
		for i, item := range n.items {
			each(i, item)
		}
	}}
}

func required(f reading) reading {
	f.required = true
	return f
}

func (r *diagramReader) diagram(n node) *diagram.Diagram {
	d := &diagram.Diagram{}
	r.tier = -1
	r.places[place{-1, ""}] = n.offset
	r.object(n, []reading{
		required(r.text(diagram.FieldFormat, &d.Format)),
		required(r.text(diagram.FieldName, &d.Name)),
		r.text(diagram.FieldDesigner, &d.Designer),
		r.text(diagram.FieldSource, &d.Source),
		r.text(diagram.FieldDate, &d.Date),
		r.text(diagram.FieldLicence, &d.Licence),
		r.text(diagram.FieldNote, &d.Note),
		r.text(diagram.FieldOutline, (*string)(&d.Outline)),
		required(r.wholeNumber(diagram.FieldGear, &d.Gear)),
		required(r.number(diagram.FieldRefractiveIndex, &d.RefractiveIndex)),
		r.text(diagram.FieldFirstSide, (*string)(&d.FirstSide)),
		r.text(diagram.FieldIndexing, (*string)(&d.Indexing)),
		required(r.list(diagram.FieldTiers, func(i int, item node) {
			d.Tiers = append(d.Tiers, r.readTier(i, item))
		})),
	})
	return d
}

func (r *diagramReader) readTier(no int, n node) diagram.Tier {
	t := diagram.Tier{}
	r.tier, r.tierName = no, tierName(no, n)
	defer func() { r.tier, r.tierName = -1, "" }()
	r.places[place{no, ""}] = n.offset
	r.object(n, []reading{
		required(r.text(diagram.FieldName, &t.Name)),
		required(r.text(diagram.FieldPart, (*string)(&t.Part))),
		required(r.number(diagram.FieldAngle, &t.Angle)),
		required(r.list(diagram.FieldIndexes, func(_ int, item node) {
			if item.kind != numberNode {
				r.wrongType(item, "a number")
				return
			}
			t.Indexes = append(t.Indexes, item.number)
		})),
		required(reading{field: diagram.FieldStop, read: func(n node) {
			r.places[place{no, diagram.FieldStop}] = n.offset
			t.Stop = r.stop(n)
		}}),
		{field: "optional", read: func(n node) {
			if n.kind != boolNode {
				r.wrongType(n, "true or false")
				return
			}
			t.Optional = n.truth
		}},
		r.text(diagram.FieldNote, &t.Note),
	})
	return t
}

// tierName finds what to call a tier in a message before it has been read.
func tierName(no int, n node) string {
	for _, m := range n.members {
		if m.name == string(diagram.FieldName) && m.node.text != "" {
			return m.node.text
		}
	}
	return "number " + diagram.FormatNumber(float64(no+1))
}

func (r *diagramReader) stop(n node) diagram.Stop {
	s := diagram.Stop{}
	said := false
	for _, m := range n.members {
		if m.name == "kind" {
			s.Kind, said = diagram.StopKind(m.node.text), true
		}
	}
	refs := func(field diagram.Field, to *[]diagram.Ref) reading {
		return r.list(field, func(_ int, item node) {
			ref, err := diagram.ParseRef(item.text)
			if err != nil {
				r.wrongType(item, `a facet as "P1" or "P1@3"`)
				return
			}
			*to = append(*to, ref)
		})
	}
	var ignored string
	fields := []reading{required(r.text("kind", &ignored))}
	switch s.Kind {
	case diagram.Centre:
		fields = append(fields, r.number("drop", &s.Drop))
	case diagram.Size:
		fields = append(fields, required(r.number("radius", &s.Radius)))
	case diagram.Meet:
		fields = append(fields, required(refs("tiers", &s.Tiers)))
	case diagram.GirdleBand:
		fields = append(fields, required(r.number("thickness", &s.Thickness)))
	case diagram.Along:
		fields = append(fields, required(refs("from", &s.From)), required(refs("to", &s.To)), required(r.number("at", &s.At)))
	case diagram.Width:
		fields = append(fields, required(r.number("ratio", &s.Ratio)))
	case diagram.Depth:
		fields = append(fields, required(r.number("distance", &s.Distance)))
	default:
		if !said {
			// That it is missing is reported, and what no stop has.
			fields = append(fields, r.number("drop", &s.Drop), r.number("radius", &s.Radius), r.number("thickness", &s.Thickness),
				r.number("at", &s.At), r.number("ratio", &s.Ratio), r.number("distance", &s.Distance),
				refs("tiers", &s.Tiers), refs("from", &s.From), refs("to", &s.To))
			break
		}
		// The kind itself is reported; which fields go with it cannot be told.
		if n.kind == objectNode {
			r.at(n.offset, diagram.Problem{Code: diagram.BadStop, Field: diagram.FieldStop, Text: string(s.Kind)})
			return s
		}
	}
	r.object(n, fields)
	return s
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
