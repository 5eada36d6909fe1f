package printed

import (
	"regexp"
	"strings"

	"cressa/core/diagram"
)

// A length as it is printed: a figure, and its unit where one follows.
const lengthPattern = `([0-9]+(?:[.,][0-9]+)?|[.,][0-9]+)\s*(%|mm\b|per\s?cent)?`

var lengthIn = regexp.MustCompile(`(?i)` + lengthPattern)

type unit string

const (
	bare    unit = ""
	percent unit = "%"
	mm      unit = "mm"
)

// length is a figure with its unit.
type length struct {
	value float64
	unit  unit
}

// lengthOf reads the first length in a text.
func lengthOf(text string) (length, bool) {
	m := lengthIn.FindStringSubmatch(text)
	if m == nil {
		return length{}, false
	}
	v, err := diagram.ParseNumber(m[1])
	out := length{value: v}
	switch u := strings.ToLower(m[2]); {
	case u == "mm":
		out.unit = mm
	case u != "":
		out.unit = percent
	}
	return out, err == nil
}

// share returns the length as a share of the stone's width. A bare figure is taken as it is. It
// is false for a length in mm without a planned width.
func (r *reader) share(l length) (float64, bool) {
	switch l.unit {
	case percent:
		return l.value / 100, true
	case mm:
		if r.width == 0 {
			return 0, false
		}
		return l.value / r.width, true
	}
	return l.value, true
}

// stoneWidth is the width in design units of the stone before a tier, 1 where it has none yet.
func (r *reader) stoneWidth(no int) float64 {
	s := r.before(no)
	if s == nil {
		return 1
	}
	size := s.Solid().Bounds().Size()
	w := min(size.X, size.Y)
	// Without a girdle the block still shows.
	for _, t := range s.Diagram.Tiers {
		if t.Part == diagram.Girdle {
			return w
		}
	}
	return 1
}
