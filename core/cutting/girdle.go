package cutting

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
)

// Gauge is the girdle's thickness at one place: from Low straight up to High.
type Gauge struct{ Low, High r3.Vec }

// Thickness returns it in design units.
func (g Gauge) Thickness() float64 { return g.High.Z - g.Low.Z }

// Girdle measures the girdle's thickness where it is least and where it is greatest: from
// every corner of girdle and pavilion straight up to the lowest crown plane, and from every
// corner of girdle and crown straight down to the highest pavilion plane. On a wavy girdle
// this is what a jeweller's gauge reads; the band from its lowest to its highest corner is
// not. It is false where girdle, crown or pavilion is not on the stone.
func (s *Stone) Girdle() (thinnest, thickest Gauge, ok bool) {
	for _, c := range cornersOf(s.Solid()) {
		if c.block || !s.touches(c, diagram.Girdle) {
			continue
		}
		for _, side := range []diagram.Part{diagram.Pavilion, diagram.Crown} {
			if !s.touches(c, side) {
				continue
			}
			z, found := s.sideAt(side.Other(), c.point)
			if !found {
				continue
			}
			g := Gauge{Low: c.point, High: r3.Vec{X: c.point.X, Y: c.point.Y, Z: math.Max(z, c.point.Z)}}
			if side == diagram.Crown {
				g = Gauge{Low: r3.Vec{X: c.point.X, Y: c.point.Y, Z: math.Min(z, c.point.Z)}, High: c.point}
			}
			if !ok || g.Thickness() < thinnest.Thickness() {
				thinnest = g
			}
			if !ok || g.Thickness() > thickest.Thickness() {
				thickest = g
			}
			ok = true
		}
	}
	return thinnest, thickest, ok
}

// touches tells whether a facet of the part comes to the corner.
func (s *Stone) touches(c corner, part diagram.Part) bool {
	for _, i := range c.facets {
		if s.Diagram.Tiers[s.Facets[i].Tier].Part == part {
			return true
		}
	}
	return false
}

// sideAt returns the height at which an upright line through p leaves the planes of a side:
// the lowest of the crown, the highest of the pavilion. It is false where nothing of that
// side is on the stone.
func (s *Stone) sideAt(side diagram.Part, p r3.Vec) (z float64, ok bool) {
	for _, f := range s.Solid().Faces() {
		if f.OfBlock() || s.Diagram.Tiers[s.Facets[f.ID].Tier].Part != side {
			continue
		}
		n := f.Plane.Normal
		at := (f.Plane.D - n.X*p.X - n.Y*p.Y) / n.Z
		if !ok || side == diagram.Crown && at < z || side == diagram.Pavilion && at > z {
			z, ok = at, true
		}
	}
	return z, ok
}
