package diagram

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
)

// StopParts are the parts of a stop as somebody chooses them one by one: what is not chosen
// yet is empty.
type StopParts struct {
	Kind StopKind
	// Figure is the one figure that the kind takes, as it is typed; Unit is what it is in: "mm" or
	// "%" of the width for a girdle, a size and a table, "" for the format's own.
	Figure, Unit string
	// From names the facets of the meet, or of the first of two, To those of the second, each
	// as ParseRef reads it.
	From, To []string
}

var withUnit = regexp.MustCompile(`^(girdle|size|table|width)\s+([0-9]+(?:[.,][0-9]+)?)\s*(mm|%)$`)

// PartsOf takes a stop as it is typed apart, as far as it can be read: what is missing or
// wrong is left empty. Without a kind it is a meet, the commonest.
func PartsOf(text string) StopParts {
	if s, err := ParseStop(text); err == nil {
		out := StopParts{Kind: s.Kind, From: refTexts(s.Tiers), To: refTexts(s.To)}
		if s.Kind == Along {
			out.From = refTexts(s.From)
		}
		if _, takes := s.Kind.Usual(); takes {
			out.Figure = FormatNumber(s.Figure())
		}
		return out
	}
	if m := withUnit.FindStringSubmatch(strings.ToLower(text)); m != nil {
		kind := StopKind(m[1])
		if m[1] == "table" {
			kind = Width
		}
		return StopParts{Kind: kind, Figure: m[2], Unit: m[3]}
	}
	kind := Meet
	if words := strings.Fields(text); len(words) > 0 && slices.Contains(StopKinds, StopKind(strings.ToLower(words[0]))) {
		kind = StopKind(strings.ToLower(words[0]))
	}
	return StopParts{Kind: kind}
}

// StopUnits lists the units that figures of stops may be in; the first is the format's own.
var StopUnits = []string{"", "mm", "%"}

// Text puts the parts together as they would be typed. The error says what is missing or cannot be
// read.
func (p StopParts) Text() (string, error) {
	stop, err := p.stop()
	if err != nil || p.Unit == "" {
		return stop.String(), err
	}
	if !slices.Contains(StopUnits, p.Unit) || p.Kind != GirdleBand && p.Kind != Size && p.Kind != Width {
		return "", fmt.Errorf("%q is no unit of this stop", p.Unit)
	}
	name := string(p.Kind)
	if p.Kind == Width {
		name = "table"
	}
	return fmt.Sprintf("%s %s %s", name, strings.TrimSpace(p.Figure), p.Unit), nil
}

func (p StopParts) stop() (Stop, error) {
	if !slices.Contains(StopKinds, p.Kind) {
		return Stop{}, fmt.Errorf("%q is no stop", p.Kind)
	}
	text := string(p.Kind)
	switch p.Kind {
	case Meet:
		text += " " + strings.Join(p.From, " ")
	case Along:
		text += fmt.Sprintf(" %s > %s at %s", strings.Join(p.From, " "), strings.Join(p.To, " "), p.Figure)
	default:
		text += " " + p.Figure
	}
	return ParseStop(text)
}

// For tells whether a tier of a part can stop so: a girdle goes to no centre point, and only
// the crown has a table whose width could be taken.
func (k StopKind) For(part Part) bool {
	switch part {
	case Girdle:
		return k != Centre && k != GirdleBand && k != Width
	case Pavilion:
		return k != Width
	}
	return true
}

// Usual returns the figure that is proposed where a stop of the kind takes one, in the units
// of the stop: lengths in design units, about those of a round of width 1.
func (k StopKind) Usual() (figure float64, takes bool) {
	switch k {
	case Centre:
		return 0, true
	case Size, Depth:
		return 0.5, true // the radius of a round of width 1
	case GirdleBand:
		return 0.02, true // 2 % of the width: neither a knife edge nor a belt
	case Along:
		return 0.5, true // half-way
	case Width:
		return 0.55, true // a table of 55 % of the width
	}
	return 0, false
}

func refTexts(refs []Ref) []string {
	out := make([]string, len(refs))
	for i, r := range refs {
		out[i] = r.String()
	}
	return out
}
