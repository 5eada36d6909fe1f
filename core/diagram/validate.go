package diagram

import (
	"math"
	"regexp"
	"slices"
	"strconv"

	"cressa/core/gear"
)

// Lengths of the diagram's texts, in bytes.
const (
	maxText = 2000
	maxNote = 20000
)

var namePattern = regexp.MustCompile(`^[A-Za-z0-9]{1,12}$`)

// ValidName tells whether s may name a tier: 1 to 12 letters or digits.
func ValidName(s string) bool { return namePattern.MatchString(s) }

// Validate returns everything that is wrong with the diagram as it is written, in
// the order of the file. A diagram without problems may still not be cuttable.
func (d *Diagram) Validate() []Problem {
	v := validator{diagram: d}
	v.head()
	for i := range d.Tiers {
		v.tier(i)
	}
	return v.problems
}

type validator struct {
	diagram  *Diagram
	problems []Problem
}

func (v *validator) add(p Problem) {
	if p.TierNo >= 0 {
		p.Tier = v.diagram.Tiers[p.TierNo].Name
	}
	v.problems = append(v.problems, p)
}

// top adds a problem of the diagram as a whole.
func (v *validator) top(p Problem) {
	p.TierNo = -1
	v.add(p)
}

func (v *validator) head() {
	d := v.diagram
	if d.Format != Format {
		v.top(Problem{Code: WrongFormat, Field: FieldFormat, Text: d.Format})
	}
	if d.Name == "" {
		v.top(Problem{Code: NameMissing, Field: FieldName})
	}
	for _, t := range []struct {
		field Field
		text  string
		limit int
	}{
		{FieldName, d.Name, maxText}, {FieldDesigner, d.Designer, maxText}, {FieldSource, d.Source, maxText},
		{FieldDate, d.Date, maxText}, {FieldLicence, d.Licence, maxText}, {FieldNote, d.Note, maxNote},
	} {
		if len(t.text) > t.limit {
			v.top(Problem{Code: TextTooLong, Field: t.field, Value: float64(len(t.text)), High: float64(t.limit)})
		}
	}
	if !slices.Contains(Outlines, d.Outline) {
		v.top(Problem{Code: UnknownValue, Field: FieldOutline, Text: string(d.Outline)})
	}
	if d.Gear < 1 || d.Gear > MaxGear {
		v.top(Problem{Code: OutOfRange, Field: FieldGear, Value: float64(d.Gear), Low: 1, High: MaxGear})
	}
	if !(d.RefractiveIndex >= 1 && d.RefractiveIndex <= 4) {
		v.top(Problem{Code: OutOfRange, Field: FieldRefractiveIndex, Value: d.RefractiveIndex, Low: 1, High: 4})
	}
	if d.FirstSide != Pavilion && d.FirstSide != Crown {
		v.top(Problem{Code: UnknownValue, Field: FieldFirstSide, Text: string(d.FirstSide)})
	}
	if !slices.Contains(Indexings, d.Indexing) {
		v.top(Problem{Code: UnknownValue, Field: FieldIndexing, Text: string(d.Indexing)})
	}
	switch n := len(d.Tiers); {
	case n == 0:
		v.top(Problem{Code: NoTiers, Field: FieldTiers})
	case n > MaxTiers:
		v.top(Problem{Code: TooManyTiers, Field: FieldTiers, Value: float64(n), High: MaxTiers})
	}
	if n := d.FacetCount(); n > MaxFacets {
		v.top(Problem{Code: TooManyFacets, Field: FieldTiers, Value: float64(n), High: MaxFacets})
	}
}

func (v *validator) tier(no int) {
	d, t := v.diagram, &v.diagram.Tiers[no]
	if !ValidName(t.Name) {
		v.add(Problem{Code: BadTierName, TierNo: no, Field: FieldName, Text: t.Name})
	} else if d.TierNo(t.Name) < no {
		v.add(Problem{Code: TwiceTierName, TierNo: no, Field: FieldName, Text: t.Name})
	}
	if len(t.Note) > maxNote {
		v.add(Problem{Code: TextTooLong, TierNo: no, Field: FieldNote, Value: float64(len(t.Note)), High: maxNote})
	}
	if !slices.Contains(Parts, t.Part) {
		v.add(Problem{Code: UnknownValue, TierNo: no, Field: FieldPart, Text: string(t.Part)})
	} else if !angleFits(t.Part, t.Angle) {
		v.add(Problem{Code: BadAngle, TierNo: no, Field: FieldAngle, Text: string(t.Part), Value: t.Angle})
	}
	v.indexes(no, t)
	v.stop(no, t)
}

// angleFits: 0 to under 90 on crown and pavilion, over 0 to 90 on the girdle.
func angleFits(part Part, angle float64) bool {
	if part == Girdle {
		return angle > 0 && angle <= 90
	}
	return angle >= 0 && angle < 90
}

func (v *validator) indexes(no int, t *Tier) {
	if len(t.Indexes) == 0 {
		v.add(Problem{Code: NoIndexes, TierNo: no, Field: FieldIndexes})
	}
	if v.diagram.Gear < 1 || len(t.Indexes) > MaxFacets {
		return
	}
	for i, index := range t.Indexes {
		// An index counts modulo the gear; a thousand turns are a slip of the finger.
		if limit := float64(1000 * MaxGear); !(math.Abs(index) <= limit) {
			v.add(Problem{Code: OutOfRange, TierNo: no, Field: FieldIndexes, Value: index, Low: 0, High: float64(v.diagram.Gear)})
			return
		}
		if t.IndexNo(index, v.diagram.Gear) < i {
			v.add(Problem{Code: SameIndex, TierNo: no, Field: FieldIndexes, Text: FormatNumber(index)})
			return
		}
	}
}

func (v *validator) stop(no int, t *Tier) {
	s := t.Stop
	at := Problem{TierNo: no, Field: FieldStop, Text: string(s.Kind)}
	length := func(value, low float64) {
		if !(value >= low && value <= MaxLength) {
			at.Code, at.Value, at.Low, at.High = OutOfRange, value, low, MaxLength
			v.add(at)
		}
	}
	switch s.Kind {
	case Centre:
		length(s.Drop, -MaxLength)
	case Size:
		length(s.Radius, math.SmallestNonzeroFloat64)
	case GirdleBand:
		length(s.Thickness, 0)
	case Depth:
		length(s.Distance, -MaxLength)
	case Along:
		if !(s.At >= 0 && s.At <= 1) {
			v.add(Problem{Code: OutOfRange, TierNo: no, Field: FieldStop, Text: "at", Value: s.At, Low: 0, High: 1})
		}
	case Width:
		if !(s.Ratio > 0 && s.Ratio < 1) {
			v.add(Problem{Code: OutOfRange, TierNo: no, Field: FieldStop, Text: "ratio", Value: s.Ratio, Low: 0, High: 1})
		}
	case Meet:
	default:
		at.Code = BadStop
		v.add(at)
		return
	}
	if t.Part == Girdle && (s.Kind == Centre || s.Kind == GirdleBand) ||
		s.Kind == Width && (t.Part != Crown || t.Angle != 0 || len(t.Indexes) != 1) {
		at.Code = StopNotHere
		v.add(at)
	}
	v.refs(no, s)
}

// refs checks that every facet a meet names is somewhere in the diagram. Whether
// the meet exists when the tier is cut shows only in the cutting.
func (v *validator) refs(no int, s Stop) {
	meets := [][]Ref{}
	switch s.Kind {
	case Meet:
		meets = append(meets, s.Tiers)
	case Along:
		meets = append(meets, s.From, s.To)
	}
	for _, refs := range meets {
		if len(refs) == 0 {
			v.add(Problem{Code: BadStop, TierNo: no, Field: FieldStop, Text: string(s.Kind)})
		}
		seen := map[string]bool{}
		for _, r := range refs {
			v.ref(no, r, seen)
		}
	}
}

func (v *validator) ref(no int, r Ref, seen map[string]bool) {
	d := v.diagram
	at := d.TierNo(r.Tier)
	if at < 0 {
		v.add(Problem{Code: UnknownTier, TierNo: no, Field: FieldStop, Other: r.Tier})
		return
	}
	if !r.OneFacet || d.Gear < 1 {
		return
	}
	place := d.Tiers[at].IndexNo(r.Index, d.Gear)
	if place < 0 {
		v.add(Problem{Code: UnknownIndex, TierNo: no, Field: FieldStop, Other: r.Tier, Text: FormatNumber(gear.Normal(r.Index, d.Gear))})
		return
	}
	key := r.Tier + "/" + strconv.Itoa(place)
	if seen[key] {
		v.add(Problem{Code: SameFacet, TierNo: no, Field: FieldStop, Other: r.String()})
	}
	seen[key] = true
}
