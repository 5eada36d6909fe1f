package printed

import (
	"math"
	"regexp"
	"slices"
	"strings"

	"cressa/core/diagram"
)

var (
	pavilionNames = regexp.MustCompile(`(?i)^(?:p|culet|keel|k[0-9])`)
	crownNames    = regexp.MustCompile(`(?i)^(?:c[a-z]?[0-9]|crown|t$|t[0-9]|table|star|break|bezel)`)
)

// leaning is the least angle of a girdle tier that does not stand upright.
const leaning = 80

// part tells the part of a tier that has none by its angle, its name and its place.
func (r *reader) part(no int) {
	t := &r.draft.Tiers[no]
	if strings.TrimSpace(t.Part) != "" {
		return
	}
	part, how := r.partOf(no)
	if part == "" {
		return
	}
	t.Part = string(part)
	r.add(Reading{TierNo: no, Field: diagram.FieldPart, Read: string(part), How: how, Sure: how != PartAsked})
}

func (r *reader) partOf(no int) (diagram.Part, Way) {
	t := r.draft.Tiers[no]
	angle, err := diagram.ParseNumber(t.Angle)
	if err != nil {
		return "", ""
	}
	name := strings.TrimSpace(t.Name)
	switch {
	case angle == 90:
		return diagram.Girdle, PartByAngle
	case pavilionNames.MatchString(name):
		return diagram.Pavilion, PartByName
	case crownNames.MatchString(name):
		return diagram.Crown, PartByName
	case angle == 0:
		return diagram.Crown, PartByAngle
	case angle >= leaning && strings.HasPrefix(strings.ToUpper(name), "G"):
		return diagram.Girdle, PartByName
	}
	return r.partByPlace(no, angle)
}

// partByPlace: sheets list the side that is cut first, the girdle, then the other side, and the
// first side may go on after the girdle.
func (r *reader) partByPlace(no int, angle float64) (diagram.Part, Way) {
	first, second := diagram.Pavilion, diagram.Crown
	if diagram.Part(r.draft.FirstSide) == diagram.Crown {
		first, second = second, first
	}
	has := func(p diagram.Part) bool {
		return slices.ContainsFunc(r.draft.Tiers[:no], func(t diagram.DraftTier) bool { return t.Part == string(p) })
	}
	switch {
	case has(second):
		return second, PartByPlace
	case !has(diagram.Girdle) || !has(first):
		return first, PartByPlace
	}
	text := r.draft.Tiers[no].Stop
	if girdleSet.MatchString(text) {
		return second, PartByPlace
	}
	for _, ref := range r.namedTiers(no, text) {
		if at := r.tierNo(no, ref.Tier); at >= 0 && r.draft.Tiers[at].Part == string(first) {
			return first, PartByPlace
		}
	}
	// It may belong to either side; what is about as steep as the first side's others is likelier
	// one of them.
	const near = 3.0
	for _, t := range r.draft.Tiers[:no] {
		if a, err := diagram.ParseNumber(t.Angle); err == nil && t.Part == string(first) && math.Abs(a-angle) <= near {
			return first, PartAsked
		}
	}
	return second, PartAsked
}

// tierNo returns the place of a tier before no with the name, -1 where there is none.
func (r *reader) tierNo(no int, name string) int {
	return slices.IndexFunc(r.draft.Tiers[:no], func(t diagram.DraftTier) bool { return strings.TrimSpace(t.Name) == name })
}
