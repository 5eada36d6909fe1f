package workshop

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/gear"
)

// Alignment is how the turn of a stone is found again after it was turned over: a facet that is
// there is laid flat on the lap at an angle in degrees, and others must then lie flat as well.
type Alignment struct {
	Tier  string
	Angle float64
	// At is dialled for the first facet, Then for its companions: the one opposite and the one a
	// quarter of the way round, as far as the stone has them.
	At   gear.Position
	Then []gear.Position
}

// Alignment finds it for a setup of the script, given by its place: by the upright facets of the
// girdle, and on a solid that is held by more than its sides by the facets that are cut in the setups before
// and stand the steepest, up to 90°. It is false where there are none.
func (s *Script) Alignment(setup int) (Alignment, bool) {
	if setup > 0 {
		return s.alignedBy(setup, setup-1)
	}
	// The stone comes back to its first setup: the facets that were cut in it are there, those of the next one as a rule.
	if out, ok := s.alignedBy(0, 0); ok {
		return out, ok
	}
	return s.alignedBy(0, 1)
}

// alignedBy finds it, on a solid by the facets that are cut in the setups up to the last one.
func (s *Script) alignedBy(setup, last int) (Alignment, bool) {
	const upright = 90
	type candidate struct {
		tier string
		set  gear.Setting
	}
	stone, pose := s.Assessment.Stone, s.Setups[setup].Pose
	solid := len(s.Assessment.Choices.DopUps) > 0
	var there []candidate
	steepest := 0.0
	for i, f := range stone.Facets {
		t := stone.Diagram.Tiers[f.Tier]
		if solid && s.Assessment.In[i] > last || !solid && (t.Part != diagram.Girdle || t.Angle != upright) {
			continue
		}
		set, err := gear.Dial(f.Plane.Normal, pose)
		if err != nil {
			return Alignment{}, false
		}
		if solid && set.Angle <= upright {
			steepest = math.Max(steepest, set.Angle)
		}
		there = append(there, candidate{t.Name, set})
	}
	out := Alignment{Angle: upright}
	if solid {
		out.Angle = steepest
	}
	// A hair of a degree is the diagram's own arithmetic.
	const same = 0.01
	first := math.NaN()
	for _, wanted := range []float64{0, 180, 90} {
		for _, c := range there {
			if solid && math.Abs(c.set.Angle-steepest) > same {
				continue
			}
			at := gear.Azimuth(c.set.Index, pose.Gear)
			if math.IsNaN(first) {
				first, out.Tier = at, c.tier
			}
			if off := gear.Circle(at - first - wanted + 180); math.Abs(off-180) > same {
				continue
			}
			if wanted == 0 {
				out.At = c.set.Position
			} else {
				out.Then = append(out.Then, c.set.Position)
			}
			break
		}
	}
	return out, !math.IsNaN(first) && out.Angle > 0
}

// OnFlat tells whether the stone ends in a flat that it is glued to in a setup that it is transferred to, given by its place.
func (s *Script) OnFlat(setup int) bool {
	if a := s.Assessment; len(a.Choices.DopUps) > 0 {
		return a.Stone.HasFlat(r3.Scale(-1, s.Setups[setup].Pose.Up))
	}
	return s.Assessment.TableMM > 0 || s.Setups[setup].Side() == diagram.Crown
}

// OnOneAxis tells whether the dops of two setups, given by their places, stand opposite each other on one axis, as those of a
// stone's two sides do.
func (s *Script) OnOneAxis(from, to int) bool {
	const opposite = -1 + 1e-6
	return len(s.Assessment.Choices.DopUps) == 0 || r3.Dot(r3.Unit(s.Setups[from].Pose.Up), r3.Unit(s.Setups[to].Pose.Up)) < opposite
}
