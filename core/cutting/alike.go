package cutting

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/gear"
)

// turn maps stone azimuths: turned by degrees, mirrored in 12 o'clock first where it is told.
type turn struct {
	by     float64
	mirror bool
}

func (t turn) azimuth(a float64) float64 {
	if t.mirror {
		a = -a
	}
	return gear.Circle(a + t.by)
}

func (t turn) point(p r3.Vec) r3.Vec {
	if t.mirror {
		p.X = -p.X
	}
	// Azimuths run clockwise from 12 o'clock as seen from above.
	sin, cos := math.Sincos(t.by * math.Pi / 180)
	return r3.Vec{X: cos*p.X + sin*p.Y, Y: cos*p.Y - sin*p.X, Z: p.Z}
}

// AlikeMeets parts meets of the stone into those that a symmetry maps onto each other: lists
// of places in meets, in the order of their first. A symmetry is a turn about the axis or a
// mirror through it that brings every tier onto a tier, with the points where its cuts stop, so
// that what is cut by the same hand errs there in the same ways.
func (s *Stone) AlikeMeets(meets []Meet) [][]int {
	places := map[string]int{}
	for i, m := range meets {
		places[fmt.Sprint(m.Facets)] = i
	}
	// group holds for each meet the first that it is known to be like.
	group := make([]int, len(meets))
	for i := range group {
		group[i] = i
	}
	for _, image := range s.symmetries() {
		for i, m := range meets {
			facets := make([]int, len(m.Facets))
			for k, f := range m.Facets {
				facets[k] = image[f]
			}
			slices.Sort(facets)
			j, ok := places[fmt.Sprint(facets)]
			if !ok || group[i] == group[j] {
				continue
			}
			from, to := max(group[i], group[j]), min(group[i], group[j])
			for k, g := range group {
				if g == from {
					group[k] = to
				}
			}
		}
	}
	var out [][]int
	at := map[int]int{}
	for i, g := range group {
		if _, ok := at[g]; !ok {
			at[g] = len(out)
			out = append(out, nil)
		}
		out[at[g]] = append(out[at[g]], i)
	}
	return out
}

// symmetries returns for every symmetry of the stone which facet each facet comes onto, as
// places in s.Facets. The identity is left out.
func (s *Stone) symmetries() [][]int {
	ring := s.smallestRing()
	if ring == nil {
		return nil
	}
	var out [][]int
	first := s.Facets[ring[0]].Azimuth
	for _, to := range ring {
		for _, t := range []turn{{by: s.Facets[to].Azimuth - first}, {by: s.Facets[to].Azimuth + first, mirror: true}} {
			if to == ring[0] && !t.mirror {
				continue
			}
			if image, ok := s.imageUnder(t); ok {
				out = append(out, image)
			}
		}
	}
	return out
}

// smallestRing returns the places of the fewest leaning facets that share part, angle and
// distance: any symmetry brings them onto each other.
func (s *Stone) smallestRing() []int {
	type kind struct{ rise, distance float64 }
	rings := map[kind][]int{}
	var order []kind
	for i, f := range s.Facets {
		if s.level(f) {
			continue
		}
		k := kind{math.Round(f.Plane.Normal.Z * 1e6), math.Round(f.Plane.D * 1e6)}
		if rings[k] == nil {
			order = append(order, k)
		}
		rings[k] = append(rings[k], i)
	}
	var best []int
	for _, k := range order {
		if best == nil || len(rings[k]) < len(best) {
			best = rings[k]
		}
	}
	return best
}

// imageUnder finds which facet every facet comes onto, and whether all do.
func (s *Stone) imageUnder(t turn) ([]int, bool) {
	out := make([]int, len(s.Facets))
	tierTo := map[int]int{}
	for i, f := range s.Facets {
		to := 0
		for ; to < len(s.Facets); to++ {
			into, known := tierTo[f.Tier]
			if (!known || into == s.Facets[to].Tier) && s.comesOnto(t, &f, &s.Facets[to]) {
				break
			}
		}
		if to == len(s.Facets) {
			return nil, false
		}
		out[i], tierTo[f.Tier] = to, s.Facets[to].Tier
	}
	return out, true
}

func (s *Stone) comesOnto(t turn, f, g *Facet) bool {
	// Two solvers agree to much less; no figure shows it.
	const same = 1e-7
	if s.Diagram.Tiers[f.Tier].Part != s.Diagram.Tiers[g.Tier].Part || len(f.Stops) != len(g.Stops) ||
		math.Abs(f.Plane.Normal.Z-g.Plane.Normal.Z) > same || math.Abs(f.Plane.D-g.Plane.D) > same {
		return false
	}
	if apart := gear.Circle(t.azimuth(f.Azimuth) - g.Azimuth + 180); !s.level(*f) && math.Abs(apart-180) > 1e-6 {
		return false
	}
	for _, p := range f.Stops {
		q := t.point(p)
		if !slices.ContainsFunc(g.Stops, func(o r3.Vec) bool { return r3.Norm(r3.Sub(o, q)) <= same }) {
			return false
		}
	}
	return true
}
