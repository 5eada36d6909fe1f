package cutting

import (
	"math"

	"cressa/core/diagram"
)

// TurnedWhole turns a diagram on its gear by so many teeth, clockwise as seen from above the table.
// The stone stays the same: a table that is stopped by its width is measured along 3–9 and 12–6, so
// that its share of the width is another one then. A table that lies cornerwise may reach past the
// width; no share says where that one stops, its depth does. The error is a Problem.
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
			ratio := math.Min(x, y) / math.Min(size.X, size.Y)
			stop := diagram.Stop{Kind: diagram.Width, Ratio: ratio}
			if ratio >= 1 {
				stop = diagram.Stop{Kind: diagram.Depth, Distance: f.Plane.D}
			}
			if ratio >= 1 || math.Abs(ratio-t.Stop.Ratio) > 1e-9 {
				d.Tiers[no].Stop, out.Tiers[no].Stop = stop, stop.String()
			}
		}
	}
	return out, nil
}
