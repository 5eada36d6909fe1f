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

// GirdleLine measures the girdle at both ends of the line in which a facet, given by its place, meets it; false where it does not.
func (s *Stone) GirdleLine(place int) (ends [2]float64, ok bool) {
	face := s.Solid().Face(place)
	part := s.Diagram.Tiers[s.Facets[place].Tier].Part
	if face == nil || part == diagram.Girdle {
		return ends, false
	}
	at := map[int]corner{}
	for _, c := range cornersOf(s.Solid()) {
		for _, v := range face.Loop {
			if s.Solid().Point(v) == c.point {
				at[v] = c
			}
		}
	}
	for i, v := range face.Loop {
		w := face.Loop[(i+1)%len(face.Loop)]
		if !s.touches(at[v], diagram.Girdle) || !s.touches(at[w], diagram.Girdle) {
			continue
		}
		for k, p := range []r3.Vec{s.Solid().Point(v), s.Solid().Point(w)} {
			z, found := s.sideAt(part.Other(), p)
			if !found {
				return ends, false
			}
			ends[k] = math.Abs(z - p.Z)
		}
		return ends, true
	}
	return ends, false
}

// GirdleAt measures the girdle's thickness where the stone faces an azimuth, in degrees: from the pavilion straight up to the crown
// at the outline there. It is false where girdle, crown or pavilion is not on the stone.
func (s *Stone) GirdleAt(azimuth float64) (thickness float64, ok bool) {
	x, y := math.Sincos(azimuth * math.Pi / 180)
	out := math.Inf(1)
	for i, f := range s.Facets {
		if s.Diagram.Tiers[f.Tier].Part != diagram.Girdle || s.Solid().Face(i) == nil {
			continue
		}
		if ahead := f.Plane.Normal.X*x + f.Plane.Normal.Y*y; ahead > 1e-9 {
			out = math.Min(out, f.Plane.D/ahead)
		}
	}
	if math.IsInf(out, 1) {
		return 0, false
	}
	at := r3.Vec{X: out * x, Y: out * y}
	high, crown := s.sideAt(diagram.Crown, at)
	low, pavilion := s.sideAt(diagram.Pavilion, at)
	return high - low, crown && pavilion
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
