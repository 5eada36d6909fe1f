package cutting

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/gear"
)

// senseMatters tells whether the finished stone has other facet normals when its
// indexes are counted the other way, dialled for shared or shared for dialled.
// Taking one for the other then spoils the stone.
func senseMatters(s *Stone) bool {
	d := s.Diagram
	if sameEitherWay(d) {
		return false
	}
	other := *d
	other.Indexing = diagram.Shared
	if d.Indexing == diagram.Shared {
		other.Indexing = diagram.Dialled
	}
	turned, err := upTo(&other, len(other.Tiers), s.off)
	if err != nil {
		// Counted the other way it cannot even be cut.
		return true
	}
	a, b := s.normals(), turned.normals()
	return !contains(a, b) || !contains(b, a)
}

// sameEitherWay tells without cutting that both ways to count give one stone:
// every tier that changes direction keeps its own indexes, and no meet names a
// facet by index.
func sameEitherWay(d *diagram.Diagram) bool {
	for _, t := range d.Tiers {
		for _, r := range t.Stop.Refs() {
			if r.OneFacet {
				return false
			}
		}
		if d.CutWith(t.Part) != diagram.Pavilion {
			continue
		}
		for _, i := range t.Indexes {
			if t.IndexNo(gear.Mirror(i, d.Gear), d.Gear) < 0 {
				return false
			}
		}
	}
	return true
}

// normals returns the normals of the facets that are on the stone.
func (s *Stone) normals() []r3.Vec {
	var out []r3.Vec
	for _, f := range s.Solid().Faces() {
		if !f.OfBlock() {
			out = append(out, f.Plane.Normal)
		}
	}
	return out
}

// contains tells whether every vector of b is in a, to well under the tolerance
// of an index.
func contains(a, b []r3.Vec) bool {
	const same = 1e-8
	for _, v := range b {
		found := false
		for _, w := range a {
			if math.Abs(v.X-w.X) < same && math.Abs(v.Y-w.Y) < same && math.Abs(v.Z-w.Z) < same {
				found = true
				break
			}
		}
		if !found {
			return false
		}
	}
	return true
}
