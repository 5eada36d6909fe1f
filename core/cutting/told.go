package cutting

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/gear"
	"cressa/core/solid"
)

// Alike is by how many degrees a plane may lie otherwise than a facet and still be that facet, cut a little wrong: half a
// tooth of a gear of 96 and some more.
const Alike = 2.5

// alignTried is how many planes of a stone are tried to turn it by.
const alignTried = 6

// FacetLike returns the place of the facet that a plane is meant to be: the one whose direction differs least. Like tells that
// it differs by at most Alike.
func (s *Stone) FacetLike(p solid.Plane) (place int, like bool) {
	nearest := math.Inf(-1)
	for i, f := range s.Facets {
		if near := r3.Dot(f.Plane.Normal, p.Normal); near >= nearest {
			place, nearest = i, near
		}
	}
	return place, nearest >= math.Cos(Alike*math.Pi/180)
}

// Aligned brings planes of the same stone, cut about the same axis and told about another point of it and at another turn,
// into the frame of the diagram: turned about the axis so that most of them are facets, by the smallest of such turns, then
// moved along it by the median of what those differ by. Planes that are no facet of the diagram come along. Lengths are those
// of the diagram.
func (s *Stone) Aligned(planes []solid.Plane) []solid.Plane {
	type turn struct {
		degrees float64
		facets  int
		off     float64
	}
	best := turn{facets: -1}
	for _, degrees := range s.turnsOf(planes) {
		is := turn{degrees: degrees}
		for _, p := range turned(planes, degrees) {
			if place, ok := s.FacetLike(p); ok {
				is.facets++
				// The chord, not 1 − cos: that one is blind to turns smaller than the root of what rounding leaves.
				is.off += r3.Norm(r3.Sub(s.Facets[place].Plane.Normal, p.Normal))
			}
		}
		const same = 1e-9
		better := cmp.Compare(is.facets, best.facets)
		if better == 0 && math.Abs(is.off-best.off) > same {
			better = cmp.Compare(best.off, is.off)
		}
		if better == 0 {
			better = cmp.Compare(math.Abs(best.degrees), math.Abs(is.degrees))
		}
		if better > 0 {
			best = is
		}
	}
	out := turned(planes, best.degrees)
	move := s.moveOf(out)
	for i := range out {
		out[i].D += out[i].Normal.Z * move
	}
	return out
}

// turnsOf lists turns in degrees, from −180 to 180, that bring some plane onto a facet of the same angle; 0 among them.
func (s *Stone) turnsOf(planes []solid.Plane) []float64 {
	out := []float64{0}
	azimuth := func(n r3.Vec) float64 { return math.Atan2(n.X, n.Y) * 180 / math.Pi }
	slope := func(n r3.Vec) float64 { return math.Atan2(math.Hypot(n.X, n.Y), n.Z) * 180 / math.Pi }
	tried := 0
	for _, p := range planes {
		if math.Hypot(p.Normal.X, p.Normal.Y) < 0.1 {
			continue // one that lies nearly level tells no turn
		}
		if tried++; tried > alignTried {
			break
		}
		for _, f := range s.Facets {
			if math.Abs(slope(p.Normal)-slope(f.Plane.Normal)) < Alike {
				out = append(out, gear.Circle(azimuth(f.Plane.Normal)-azimuth(p.Normal)+180)-180)
			}
		}
	}
	return out
}

// turned returns planes turned about the axis, clockwise as seen from above the table.
func turned(planes []solid.Plane, degrees float64) []solid.Plane {
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	out := slices.Clone(planes)
	for i, p := range planes {
		out[i].Normal = r3.Vec{X: p.Normal.X*cos + p.Normal.Y*sin, Y: p.Normal.Y*cos - p.Normal.X*sin, Z: p.Normal.Z}
	}
	return out
}

// moveOf is how far planes have to be moved along the axis to lie where the facets do: the median, so that one that was cut
// wrong counts no more than any.
func (s *Stone) moveOf(planes []solid.Plane) float64 {
	var moves []float64
	for _, p := range planes {
		const steep = 0.2
		if place, ok := s.FacetLike(p); ok && math.Abs(p.Normal.Z) > steep {
			moves = append(moves, (s.Facets[place].Plane.D-p.D)/p.Normal.Z)
		}
	}
	if len(moves) == 0 {
		return 0
	}
	slices.Sort(moves)
	return moves[len(moves)/2]
}
