package printed

import (
	"regexp"
	"strings"

	"cressa/core/diagram"
)

var (
	degreeSigns = strings.NewReplacer("°", "", "º", "", "degrees", "", "degree", "", "deg.", "", "deg", "")
	minutes     = regexp.MustCompile(`^([0-9]{1,2})\s*[°º]\s*([0-9]{1,2})\s*['′’]$`)
	twoAngles   = regexp.MustCompile(`^([0-9]{1,2}(?:[.,][0-9]+)?)\s*(?:/|\||\bor\b)\s*([0-9]{1,2}(?:[.,][0-9]+)?)$`)
)

// ParseAngle reads an angle as it is printed: "41.5", "41,5°", "41.5 deg", "41°30'", or two for
// two materials, "42.0/40.5", of which other is the second. Both are texts that
// diagram.ParseNumber reads. It is false for anything else.
func ParseAngle(text string) (angle, other string, ok bool) {
	text = strings.ToLower(strings.TrimSpace(text))
	if m := minutes.FindStringSubmatch(text); m != nil {
		whole, _ := diagram.ParseNumber(m[1])
		part, _ := diagram.ParseNumber(m[2])
		if part < 60 {
			return diagram.FormatNumber(whole + part/60), "", true
		}
	}
	text = strings.TrimSpace(degreeSigns.Replace(text))
	if m := twoAngles.FindStringSubmatch(text); m != nil {
		return m[1], m[2], true
	}
	if _, err := diagram.ParseNumber(text); err != nil {
		return "", "", false
	}
	return text, "", true
}

func (r *reader) angle(no int) {
	t := &r.draft.Tiers[no]
	if _, err := diagram.ParseNumber(t.Angle); err == nil {
		return
	}
	angle, other, ok := ParseAngle(t.Angle)
	if !ok {
		return
	}
	g := Reading{TierNo: no, Field: diagram.FieldAngle, Typed: t.Angle, Read: angle, How: Understood, Sure: true}
	if other != "" {
		g.How, g.Sure = AngleChosen, false
		g.Value, _ = diagram.ParseNumber(other)
	}
	signed := strings.TrimSpace(degreeSigns.Replace(strings.ToLower(t.Angle))) == angle
	t.Angle = angle
	if !signed {
		// That a degree sign was left out is nothing to look at.
		r.add(g)
	}
}
