package cutting

import (
	"math"

	"cressa/core/diagram"
)

// TurnedWhole turns a diagram on its gear by so many teeth, clockwise as seen from above the table.
// The stone stays the same: a table that is stopped by its width is measured along 3–9 and 12–6, so
// that its share of the width is another one then. The error is a Problem.
func TurnedWhole(draft diagram.Draft, by float64) (diagram.Draft, error) {
	out, err := draft.Reshape(0, diagram.Reshape{Kind: diagram.TurnedWhole, By: by})
	if err != nil {
		return draft, err
	}
	before, problems := Sketch(draft)
	if before == nil || len(problems) > 0 {
		// What cannot be cut yet has no table to be kept.
		return out, nil
	}
	d, _ := out.Read()
	for no, t := range d.Tiers {
		if t.Stop.Kind != diagram.Width {
			continue
		}
		turned, err := UpTo(d, no)
		if err != nil {
			return draft, err
		}
		for _, f := range before.Facets {
			if f.Tier != no {
				continue
			}
			x, y := turned.Solid().Extents(f.Plane.D)
			size := turned.Solid().Bounds().Size()
			d.Tiers[no].Stop.Ratio = math.Min(x, y) / math.Min(size.X, size.Y)
		}
		if math.Abs(d.Tiers[no].Stop.Ratio-t.Stop.Ratio) > 1e-9 {
			out.Tiers[no].Stop = d.Tiers[no].Stop.String()
		} else {
			d.Tiers[no].Stop = t.Stop
		}
	}
	return out, nil
}
