package diagram

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
)

// Draft is a diagram as it stands in the editor: every field as it was typed,
// mistakes included, so that nothing is lost while it is not yet a diagram.
type Draft struct {
	Name            string `validate:"max=2000"`
	Designer        string `validate:"max=2000"`
	Source          string `validate:"max=2000"`
	Date            string `validate:"max=2000"`
	Licence         string `validate:"max=2000"`
	Note            string `validate:"max=20000"`
	Outline         string `validate:"max=100"`
	Gear            string `validate:"max=100"`
	RefractiveIndex string `validate:"max=100"`
	// Width is the finished width that is planned, in mm: what lengths in mm are reckoned with.
	// A diagram has no size, so it is left behind when the draft becomes one.
	Width     string      `validate:"max=100"`
	FirstSide string      `validate:"max=100"`
	Indexing  string      `validate:"max=100"`
	Tiers     []DraftTier `validate:"max=400,dive"`
}

// DraftTier is one row of the tier table as it was typed.
type DraftTier struct {
	// Key stays with the row while it is renamed and moved.
	Key      string `validate:"max=100"`
	Name     string `validate:"max=100"`
	Part     string `validate:"max=100"`
	Angle    string `validate:"max=100"`
	Indexes  string `validate:"max=20000"`
	Stop     string `validate:"max=2000"`
	Note     string `validate:"max=20000"`
	Optional bool
}

// DraftOf returns the draft that reads back as the diagram.
func DraftOf(d *Diagram) Draft {
	out := Draft{
		Name: d.Name, Designer: d.Designer, Source: d.Source, Date: d.Date,
		Licence: d.Licence, Note: d.Note, Outline: string(d.Outline),
		Gear: strconv.Itoa(d.Gear), RefractiveIndex: FormatNumber(d.RefractiveIndex),
		FirstSide: string(d.FirstSide), Indexing: string(d.Indexing),
		Tiers: make([]DraftTier, len(d.Tiers)),
	}
	for i, t := range d.Tiers {
		out.Tiers[i] = DraftTier{
			Key: fmt.Sprintf("t%d", i+1), Name: t.Name, Part: string(t.Part),
			Angle: FormatNumber(t.Angle), Indexes: FormatIndexes(t.Indexes),
			Stop: t.Stop.String(), Note: t.Note, Optional: t.Optional,
		}
	}
	return out
}

// Rewritten returns the draft with its tiers in another order, given as their places
// or nil for the same, and with the angles, stops and refractive index of a diagram whose tiers stand in that
// order. Rows keep their keys and notes, and figures that are the same their text.
func (d Draft) Rewritten(by *Diagram, order []int) Draft {
	out := d
	out.Tiers = make([]DraftTier, len(d.Tiers))
	if n, err := ParseNumber(d.RefractiveIndex); err != nil || n != by.RefractiveIndex {
		out.RefractiveIndex = FormatNumber(by.RefractiveIndex)
	}
	for i, t := range by.Tiers {
		row := d.Tiers[i]
		if order != nil {
			row = d.Tiers[order[i]]
		}
		if angle, err := ParseNumber(row.Angle); err != nil || angle != t.Angle {
			// Nine digits keep a meet to a hundredth of what counts as one.
			row.Angle = FormatNumber(math.Round(t.Angle*1e9) / 1e9)
		}
		if stop, err := ParseStop(row.Stop); err != nil || stop.String() != t.Stop.String() {
			row.Stop = t.Stop.String()
		}
		out.Tiers[i] = row
	}
	return out
}

// ReadLacking reads a draft in which stops may be missing: the diagram's tiers have none
// there, and lacking tells whether that is so for any.
func (d Draft) ReadLacking() (out *Diagram, lacking bool, problems []Problem) {
	filled := d
	filled.Tiers = slices.Clone(d.Tiers)
	for i := range filled.Tiers {
		if strings.TrimSpace(d.Tiers[i].Stop) == "" {
			filled.Tiers[i].Stop, lacking = Stop{Kind: Depth}.String(), true
		}
	}
	out, problems = filled.Read()
	for i := range out.Tiers {
		if strings.TrimSpace(d.Tiers[i].Stop) == "" {
			out.Tiers[i].Stop = Stop{}
		}
	}
	return out, lacking, problems
}

// Read turns a draft into a diagram. The problems name tier and field; the
// diagram counts only where there are none.
func (d Draft) Read() (*Diagram, []Problem) {
	r := draftReader{}
	out := &Diagram{
		Format: Format, Name: strings.TrimSpace(d.Name), Designer: d.Designer,
		Source: d.Source, Date: d.Date, Licence: d.Licence, Note: d.Note,
		Outline: Outline(d.Outline), FirstSide: Part(d.FirstSide), Indexing: Indexing(d.Indexing),
		RefractiveIndex: r.number(-1, "", FieldRefractiveIndex, d.RefractiveIndex),
	}
	teeth := r.number(-1, "", FieldGear, d.Gear)
	if teeth != math.Trunc(teeth) {
		r.add(Problem{Code: NotANumber, TierNo: -1, Field: FieldGear, Text: d.Gear})
	}
	out.Gear = int(teeth)
	facets, readable := 0, d.Readable()
	for i, t := range d.Tiers[:readable] {
		if facets > MaxFacets {
			// What is wrong with it as a whole is known by now.
			break
		}
		name := strings.TrimSpace(t.Name)
		tier := Tier{
			Name: name, Part: Part(t.Part), Note: t.Note, Optional: t.Optional,
			Angle: r.number(i, name, FieldAngle, t.Angle),
		}
		var err error
		if tier.Indexes, err = ParseIndexes(t.Indexes, out.Gear); err != nil {
			r.add(Problem{Code: BadIndexes, Tier: name, TierNo: i, Field: FieldIndexes, Text: err.Error()})
		}
		if strings.TrimSpace(t.Stop) == "" {
			r.add(Problem{Code: StopMissing, Tier: name, TierNo: i, Field: FieldStop})
		} else if tier.Stop, err = ParseStop(t.Stop); err != nil {
			r.add(Problem{Code: BadStop, Tier: name, TierNo: i, Field: FieldStop, Text: err.Error()})
		}
		facets += len(tier.Indexes)
		out.Tiers = append(out.Tiers, tier)
	}
	switch {
	case len(d.Tiers) > MaxTiers:
		r.add(Problem{Code: TooManyTiers, TierNo: -1, Field: FieldTiers, Value: float64(len(d.Tiers)), High: MaxTiers})
	case readable < len(d.Tiers):
		r.add(Problem{Code: TextTooLong, Tier: d.Tiers[readable].Name, TierNo: readable, Field: FieldIndexes, Value: d.indexText(), High: maxIndexTexts})
	}
	return out, append(r.problems, without(out.Validate(), r.problems)...)
}

// maxIndexTexts bounds the indexes of all tiers of a draft as they are written, in bytes.
const maxIndexTexts = 5 * MaxIndexText

// Readable returns how many of the first tiers are read: not more than a diagram has, and only
// as long as their indexes, as they are written, stay within five times MaxIndexText.
func (d Draft) Readable() int {
	letters := 0
	for i, t := range d.Tiers[:min(len(d.Tiers), MaxTiers)] {
		if letters += len(t.Indexes); letters > maxIndexTexts {
			return i
		}
	}
	return min(len(d.Tiers), MaxTiers)
}

// indexText is how long the indexes of all tiers are as they are written.
func (d Draft) indexText() float64 {
	letters := 0
	for _, t := range d.Tiers {
		letters += len(t.Indexes)
	}
	return float64(letters)
}

// draftReader collects what could not be read.
type draftReader struct{ problems []Problem }

func (r *draftReader) add(p Problem) { r.problems = append(r.problems, p) }

func (r *draftReader) number(tierNo int, tier string, field Field, text string) float64 {
	v, err := ParseNumber(text)
	if err != nil {
		r.add(Problem{Code: NotANumber, Tier: tier, TierNo: tierNo, Field: field, Text: text})
	}
	return v
}

// without drops the problems of fields that could not be read in the first place:
// one mistake is to be told once.
func without(found, unreadable []Problem) []Problem {
	var out []Problem
	for _, p := range found {
		known := func(u Problem) bool { return u.TierNo == p.TierNo && u.Field == p.Field }
		if !slices.ContainsFunc(unreadable, known) {
			out = append(out, p)
		}
	}
	return out
}

// ParseNumber reads a finite decimal number with a point or a comma. Anything else is an
// error that quotes the text.
func ParseNumber(text string) (float64, error) {
	text = strings.TrimSpace(text)
	v, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
	if err != nil || math.IsInf(v, 0) || math.IsNaN(v) || strings.ContainsAny(text, "xXpP_") {
		return 0, fmt.Errorf("%q is no number", text)
	}
	return v, nil
}
