package diagram

import "fmt"

// Code names a kind of problem. The words for it live in the catalogue of words.
type Code string

// Problems of a diagram as it is written. Package cutting adds those that show
// only when it is cut.
const (
	WrongFormat   Code = "wrong-format"
	TextTooLong   Code = "text-too-long"
	NameMissing   Code = "name-missing"
	NotANumber    Code = "not-a-number"
	OutOfRange    Code = "out-of-range"
	UnknownValue  Code = "unknown-value"
	NoTiers       Code = "no-tiers"
	TooManyTiers  Code = "too-many-tiers"
	TooManyFacets Code = "too-many-facets"
	BadTierName   Code = "bad-tier-name"
	TwiceTierName Code = "twice-tier-name"
	BadAngle      Code = "bad-angle"
	NoIndexes     Code = "no-indexes"
	BadIndexes    Code = "bad-indexes"
	SameIndex     Code = "same-index"
	BadStop       Code = "bad-stop"
	// StopMissing: a draft's tier has no stop yet.
	StopMissing  Code = "stop-missing"
	StopNotHere  Code = "stop-not-here"
	UnknownTier  Code = "unknown-tier"
	UnknownIndex Code = "unknown-index"
	SameFacet    Code = "same-facet-twice"
)

// Field names the field of a diagram or a tier that a problem is about.
type Field string

// The fields, named as in the file.
const (
	FieldFormat          Field = "format"
	FieldName            Field = "name"
	FieldDesigner        Field = "designer"
	FieldSource          Field = "source"
	FieldDate            Field = "date"
	FieldLicence         Field = "licence"
	FieldNote            Field = "note"
	FieldOutline         Field = "outline"
	FieldGear            Field = "gear"
	FieldRefractiveIndex Field = "refractiveIndex"
	FieldFirstSide       Field = "firstSide"
	FieldIndexing        Field = "indexing"
	FieldTiers           Field = "tiers"
	FieldPart            Field = "part"
	FieldAngle           Field = "angle"
	FieldIndexes         Field = "indexes"
	FieldStop            Field = "stop"
)

// Problem says what is wrong and where, in codes and figures.
type Problem struct {
	Code Code
	// Tier is the tier's name and TierNo its place from 0; -1 for the diagram.
	Tier   string
	TierNo int
	Field  Field
	// Text is what was written, Other a second name that the problem is about.
	Text, Other string
	// Value is the figure at fault; Low and High bound what would do.
	Value, Low, High float64
}

// Error names the code and the place; the sentence for people is made elsewhere.
func (p Problem) Error() string {
	return fmt.Sprintf("%s at tier %q, field %q: %q %q", p.Code, p.Tier, p.Field, p.Text, p.Other)
}
