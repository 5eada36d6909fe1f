// Package formats reads and writes the open file formats.
package formats

import (
	"encoding/json"

	"cressa/core/diagram"
)

// MaxDiagramBytes bounds a diagram file. The largest diagram with long notes is
// far smaller.
const MaxDiagramBytes = 4 << 20

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
	r, root := openFile(data, MaxDiagramBytes)
	if len(r.mistakes) > 0 {
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

func (r *fileReader) diagram(n node) *diagram.Diagram {
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

func (r *fileReader) readTier(no int, n node) diagram.Tier {
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

func (r *fileReader) stop(n node) diagram.Stop {
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
