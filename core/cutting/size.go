package cutting

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
)

// Carats returns the weight in carats of a stone of the given volume factor
// (V/W³), width in mm and specific gravity: factor · W³ · SG · 0.005, a carat
// being 0.2 g.
func Carats(volumeFactor, widthMM, sg float64) float64 {
	return volumeFactor * widthMM * widthMM * widthMM * sg * 0.005
}

// Caliper is what calipers read on a girdle tier, in design units.
type Caliper struct {
	TierNo int
	// Across is the distance from flat to opposite flat, or from flat to corner.
	Across float64
	// Flats tells whether the other jaw lies on a flat.
	Flats bool
}

// Calipers returns a reading for every upright girdle tier that is on the stone,
// in the order of the tiers.
func (s *Stone) Calipers() []Caliper {
	var out []Caliper
	for no, t := range s.Diagram.Tiers {
		if t.Part == diagram.Girdle && t.Angle == 90 {
			if c, ok := s.caliper(no); ok {
				out = append(out, c)
			}
		}
	}
	return out
}

// caliper measures across the tier's first facet that is on the stone.
func (s *Stone) caliper(no int) (Caliper, bool) {
	for _, f := range s.Solid().Faces() {
		if f.OfBlock() || s.Facets[f.ID].Tier != no {
			continue
		}
		back := math.Inf(-1)
		for _, v := range s.Solid().Vertices() {
			back = math.Max(back, -r3.Dot(f.Plane.Normal, s.Solid().Point(v)))
		}
		c := Caliper{TierNo: no, Across: f.Plane.D + back}
		for _, g := range s.Solid().Faces() {
			if r3.Norm(r3.Add(f.Plane.Normal, g.Plane.Normal)) < 1e-9 {
				c.Flats = true
			}
		}
		return c, true
	}
	return Caliper{}, false
}
