package diagram

import (
	"encoding/json"
	"fmt"
	"strconv"
	"strings"
)

// StopKind names the rule by which a tier's cut stops.
type StopKind string

// The seven stops. Each is a point that the facet's plane passes through.
const (
	// Centre: where the axis leaves the stone through facets of the same part.
	Centre StopKind = "centre"
	// Size: a distance from the origin along the facet's normal.
	Size StopKind = "size"
	// Meet: a vertex where the named facets meet.
	Meet StopKind = "meet"
	// GirdleBand: until the girdle is so thick at its thinnest.
	GirdleBand StopKind = "girdle"
	// Along: a share of the way from one meet to another.
	Along StopKind = "along"
	// Width: until the table is so wide.
	Width StopKind = "width"
	// Depth: a plane distance that is simply given.
	Depth StopKind = "depth"
)

// StopKinds lists the stops in the order in which they are offered.
var StopKinds = []StopKind{Centre, Size, Meet, GirdleBand, Along, Width, Depth}

// Stop says where the cut of a tier stops. Only the fields of its kind count.
type Stop struct {
	Kind      StopKind
	Drop      float64 // centre: into the stone along the axis, may be negative
	Radius    float64 // size: over 0
	Tiers     []Ref   // meet: facets that meet there
	Thickness float64 // girdle: 0 or more
	From, To  []Ref   // along: two meets
	At        float64 // along: 0 to 1 of the way
	Ratio     float64 // width: of the stone's width, between 0 and 1
	Distance  float64 // depth
}

// Ref names facets of a meet: any facet of a tier, or the one at an index.
type Ref struct {
	Tier string
	// Index is the written index where OneFacet is set.
	Index    float64
	OneFacet bool
}

// ParseRef reads "P1" or "P1@3". It returns an error where the name is none or no index
// follows the @.
func ParseRef(s string) (Ref, error) {
	tier, index, one := strings.Cut(s, "@")
	if !ValidName(tier) {
		return Ref{}, fmt.Errorf("%q is no tier name", s)
	}
	if !one {
		return Ref{Tier: tier}, nil
	}
	value, err := ParseNumber(index)
	if err != nil {
		return Ref{}, fmt.Errorf("%q has no index after the @", s)
	}
	return Ref{Tier: tier, Index: value, OneFacet: true}, nil
}

// String writes the ref as ParseRef reads it.
func (r Ref) String() string {
	if r.OneFacet {
		return r.Tier + "@" + FormatNumber(r.Index)
	}
	return r.Tier
}

// MarshalText writes the ref as a JSON string. The error is always nil.
func (r Ref) MarshalText() ([]byte, error) { return []byte(r.String()), nil }

// UnmarshalText reads what MarshalText wrote. It returns the errors of ParseRef.
func (r *Ref) UnmarshalText(text []byte) (err error) {
	*r, err = ParseRef(string(text))
	return err
}

// Refs returns every ref that the stop names.
func (s Stop) Refs() []Ref {
	switch s.Kind {
	case Meet:
		return s.Tiers
	case Along:
		return append(append([]Ref{}, s.From...), s.To...)
	}
	return nil
}

// Definite tells whether the stop is a point that is seen on the stone: a meet, or the
// point where facets run to the axis. The others are measured or judged by eye.
func (s Stop) Definite() bool {
	return s.Kind == Meet || s.Kind == Centre && s.Drop == 0
}

// Figure returns the one figure of the stop, 0 where it has none.
func (s Stop) Figure() float64 {
	switch s.Kind {
	case Centre:
		return s.Drop
	case Size:
		return s.Radius
	case GirdleBand:
		return s.Thickness
	case Along:
		return s.At
	case Width:
		return s.Ratio
	case Depth:
		return s.Distance
	}
	return 0
}

// stopJSON is the file form of a stop: only the fields of its kind are written.
type stopJSON struct {
	Kind      StopKind `json:"kind"`
	Drop      *float64 `json:"drop,omitempty"`
	Radius    *float64 `json:"radius,omitempty"`
	Tiers     []Ref    `json:"tiers,omitempty"`
	Thickness *float64 `json:"thickness,omitempty"`
	From      []Ref    `json:"from,omitempty"`
	To        []Ref    `json:"to,omitempty"`
	At        *float64 `json:"at,omitempty"`
	Ratio     *float64 `json:"ratio,omitempty"`
	Distance  *float64 `json:"distance,omitempty"`
}

// MarshalJSON writes the fields of the stop's kind and no others. It returns an error
// where a figure is infinite or no number.
func (s Stop) MarshalJSON() ([]byte, error) {
	out := stopJSON{Kind: s.Kind}
	switch s.Kind {
	case Centre:
		if s.Drop != 0 {
			out.Drop = &s.Drop
		}
	case Size:
		out.Radius = &s.Radius
	case Meet:
		out.Tiers = s.Tiers
	case GirdleBand:
		out.Thickness = &s.Thickness
	case Along:
		out.From, out.To, out.At = s.From, s.To, &s.At
	case Width:
		out.Ratio = &s.Ratio
	case Depth:
		out.Distance = &s.Distance
	}
	return json.Marshal(out)
}

// UnmarshalJSON reads what MarshalJSON wrote; fields that are left out are zero. It
// returns an error where a field has the wrong type; whether the stop makes sense is for
// Check.
func (s *Stop) UnmarshalJSON(data []byte) error {
	var in stopJSON
	if err := json.Unmarshal(data, &in); err != nil {
		return err
	}
	value := func(p *float64) float64 {
		if p == nil {
			return 0
		}
		return *p
	}
	*s = Stop{
		Kind: in.Kind, Drop: value(in.Drop), Radius: value(in.Radius), Tiers: in.Tiers,
		Thickness: value(in.Thickness), From: in.From, To: in.To, At: value(in.At),
		Ratio: value(in.Ratio), Distance: value(in.Distance),
	}
	return nil
}

// ParseStop reads a stop as it is typed into a table: the kind, then its figures
// or facets.
//
//	centre            centre 0.12
//	size 0.5
//	meet P1 P1 G1@3
//	girdle 0.02
//	along P1 P2 G1 > P1 P1 P2 at 0.25
//	width 0.6
//	depth 0.437
//
// It returns an error that says which word cannot be read or what is missing.
func ParseStop(text string) (Stop, error) {
	words := strings.FieldsFunc(strings.ReplaceAll(text, ">", " > "), func(r rune) bool {
		return r == ' ' || r == '\t' || r == ';' || r == '\n'
	})
	if len(words) == 0 {
		return Stop{}, fmt.Errorf("empty")
	}
	kind, rest := StopKind(strings.ToLower(words[0])), words[1:]
	if kind == "center" {
		kind = Centre
	}
	switch kind {
	case Centre:
		if len(rest) == 0 {
			return Stop{Kind: Centre}, nil
		}
		drop, err := oneNumber(rest)
		return Stop{Kind: Centre, Drop: drop}, err
	case Size:
		radius, err := oneNumber(rest)
		return Stop{Kind: Size, Radius: radius}, err
	case GirdleBand:
		thickness, err := oneNumber(rest)
		return Stop{Kind: GirdleBand, Thickness: thickness}, err
	case Width:
		ratio, err := oneNumber(rest)
		return Stop{Kind: Width, Ratio: ratio}, err
	case Depth:
		distance, err := oneNumber(rest)
		return Stop{Kind: Depth, Distance: distance}, err
	case Meet:
		refs, err := parseRefs(rest)
		return Stop{Kind: Meet, Tiers: refs}, err
	case Along:
		return parseAlong(rest)
	}
	return Stop{}, fmt.Errorf("%q is no stop", words[0])
}

func parseAlong(words []string) (Stop, error) {
	arrow := -1
	for i, w := range words {
		if w == ">" {
			arrow = i
		}
	}
	at := len(words) - 2
	if arrow < 0 || at <= arrow || strings.ToLower(words[at]) != "at" {
		return Stop{}, fmt.Errorf("along needs two meets and a share, as in: along P1 G1 > P1 P2 at 0.25")
	}
	from, err := parseRefs(words[:arrow])
	if err != nil {
		return Stop{}, err
	}
	to, err := parseRefs(words[arrow+1 : at])
	if err != nil {
		return Stop{}, err
	}
	share, err := ParseNumber(words[at+1])
	return Stop{Kind: Along, From: from, To: to, At: share}, err
}

func parseRefs(words []string) ([]Ref, error) {
	if len(words) == 0 {
		return nil, fmt.Errorf("no facets are named, as in: P1 P1 G1")
	}
	var refs []Ref
	for _, w := range words {
		// "P1, G1" is as good as "P1 G1".
		for _, name := range strings.FieldsFunc(w, func(r rune) bool { return r == ',' }) {
			ref, err := ParseRef(name)
			if err != nil {
				return nil, err
			}
			refs = append(refs, ref)
		}
	}
	return refs, nil
}

func oneNumber(words []string) (float64, error) {
	if len(words) != 1 {
		return 0, fmt.Errorf("one number belongs after the stop's name")
	}
	return ParseNumber(words[0])
}

// String writes the stop as ParseStop reads it.
func (s Stop) String() string {
	figure := func(v float64) string { return string(s.Kind) + " " + FormatNumber(v) }
	switch s.Kind {
	case Centre:
		if s.Drop == 0 {
			return string(Centre)
		}
		return figure(s.Drop)
	case Size:
		return figure(s.Radius)
	case Meet:
		return string(Meet) + " " + joinRefs(s.Tiers)
	case GirdleBand:
		return figure(s.Thickness)
	case Along:
		return fmt.Sprintf("%s %s > %s at %s", Along, joinRefs(s.From), joinRefs(s.To), FormatNumber(s.At))
	case Width:
		return figure(s.Ratio)
	case Depth:
		return figure(s.Distance)
	}
	return ""
}

func joinRefs(refs []Ref) string {
	words := make([]string, len(refs))
	for i, r := range refs {
		words[i] = r.String()
	}
	return strings.Join(words, " ")
}

// FormatNumber writes a number with as many digits as it has and no more.
func FormatNumber(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
