package words

import (
	"fmt"
	"strconv"
	"strings"

	"cressa/analysis"
	"cressa/core/diagram"
	"cressa/core/rough"
)

// roughPlace names a place in a piece of rough, which counts from 0 in files and from 1 for people:
// "flaws.1.radius" is flaw 2, radius.
func roughPlace(f diagram.Field) string {
	var out []string
	for _, part := range strings.Split(string(f), ".") {
		switch no, err := strconv.Atoi(part); {
		case err == nil && len(out) > 0:
			out[len(out)-1] = fmt.Sprintf("%s %d", one(out[len(out)-1]), no+1)
		case part != "":
			out = append(out, part)
		}
	}
	if !strings.Contains(string(f), ".") {
		return ""
	}
	return strings.Join(out, ", ")
}

// one is the singular of a list's name.
func one(list string) string {
	if name, ok := strings.CutSuffix(list, "ches"); ok {
		return name + "ch"
	}
	return strings.TrimSuffix(list, "s")
}

func roughChoices(f diagram.Field) string {
	switch {
	case f == "solid.kind":
		return list(rough.SolidKinds)
	case f == "axis.kind":
		return list(rough.AxisKinds)
	case strings.HasSuffix(string(f), ".kind"):
		return list(rough.FlawKinds)
	case strings.HasSuffix(string(f), ".rule"):
		return list(rough.Rules)
	}
	return ""
}

// VariantName names a changed diagram after what was changed.
func VariantName(v analysis.Variant) string {
	name := v.Stone.Diagram.Name
	switch {
	case v.AsDrawn:
		return name
	case len(v.Without) > 0:
		return name + " without " + strings.Join(v.Without, ", ")
	}
	return fmt.Sprintf("%s, pavilion %s°, crown ×%s", name, number(v.Pavilion), number(v.Crown))
}

// NoRoom says that an allowance in mm leaves nothing of a piece.
func NoRoom(allowance float64) string {
	return fmt.Sprintf("An allowance of %s mm leaves nothing of the piece. Take less off, or move the saw cuts.", number(allowance))
}

// FarOff says by how much the solid of a piece misses its weight, "" where it does not.
func FarOff(p *rough.Piece) string {
	off := p.Off()
	if off <= rough.FarOff && off >= -rough.FarOff {
		return ""
	}
	more := "more"
	if off < 0 {
		more, off = "less", -off
	}
	return fmt.Sprintf("The solid weighs %.2f ct, %.0f %% %s than the %.2f ct on the scales. Measure it again, or check the material.",
		p.Whole.Volume()*p.CaratPerMM3(), 100*off, more, p.Carat)
}
