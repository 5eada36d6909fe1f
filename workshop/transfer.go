package workshop

import (
	"math"

	"cressa/core/diagram"
	"cressa/core/gear"
)

// Alignment is how the turn of a stone is found again after it was turned over: the first facet of
// a girdle tier is laid flat on the lap at 90°, and others of the girdle must then lie flat as well.
type Alignment struct {
	Tier string
	// At is dialled for the first facet, Then for its companions: the one opposite and the one a
	// quarter of the way round, as far as the girdle has them.
	At   gear.Position
	Then []gear.Position
}

// Alignment finds it for the last setup of the script. It is false where no girdle facet stands
// upright.
func (s *Script) Alignment() (Alignment, bool) {
	stone, setup := s.Assessment.Stone, s.Setups[len(s.Setups)-1]
	var out Alignment
	first := math.NaN()
	for _, wanted := range []float64{0, 180, 90} {
		for _, f := range stone.Facets {
			t := stone.Diagram.Tiers[f.Tier]
			if t.Part != diagram.Girdle || t.Angle != 90 {
				continue
			}
			if math.IsNaN(first) {
				first, out.Tier = f.Azimuth, t.Name
			}
			// A hair of a degree is the diagram's own arithmetic.
			const same = 0.01
			if off := gear.Circle(f.Azimuth - first - wanted + 180); math.Abs(off-180) > same {
				continue
			}
			set, err := gear.Dial(f.Plane.Normal, setup.Pose)
			if err != nil {
				return out, false
			}
			if wanted == 0 {
				out.At = set.Position
			} else {
				out.Then = append(out.Then, set.Position)
			}
			break
		}
	}
	return out, !math.IsNaN(first)
}
