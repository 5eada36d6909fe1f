package light

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// symmetry is how a stone looks the same about its axis.
type symmetry struct {
	// fold is into how many equal parts the stone can be turned, at least 1.
	fold int
	// mirror is the azimuth of a plane of symmetry in degrees, NaN without one.
	mirror float64
	// square lists the symmetries of a square, centred on the axis, that the stone
	// has too: the identity first.
	square []gridMap
}

// gridMap maps (x, y) to (a·x + b·y, c·x + d·y).
type gridMap struct{ a, b, c, d int }

// squares are the eight symmetries of a square.
var squares = []gridMap{
	{1, 0, 0, 1}, {-1, 0, 0, -1}, {0, -1, 1, 0}, {0, 1, -1, 0},
	{-1, 0, 0, 1}, {1, 0, 0, -1}, {0, 1, 1, 0}, {0, -1, -1, 0},
}

// alike is by how much a normal or a distance of symmetric facets may differ: a stone
// cut from rounded figures is rarely better, and no figure shows it.
const alike = 1e-7

// symmetries finds how the stone looks the same.
func (s *Stone) symmetries() symmetry {
	out := symmetry{fold: 1, mirror: math.NaN()}
	for _, t := range squares {
		if s.sameUnder(matrix{float64(t.a), float64(t.b), float64(t.c), float64(t.d)}) {
			out.square = append(out.square, t)
		}
	}
	// Turns and mirrors bring a facet onto one at the same rise, distance and part, so
	// the smallest such group of leaning facets says which can be.
	group := s.smallestRing()
	if len(group) == 0 {
		return out
	}
	first := azimuth(s.facets[group[0]].side)
	for fold := len(group); fold > 1; fold-- {
		if len(group)%fold == 0 && s.sameUnder(rotation(360/float64(fold))) {
			out.fold = fold
			break
		}
	}
	for _, g := range group {
		// The plane half-way between two facets of the group, or through one.
		if a := (first + azimuth(s.facets[g].side)) / 2; s.sameUnder(reflection(a)) {
			out.mirror = a
			break
		}
	}
	return out
}

// sectors tells of how many equal parts, turned or mirrored, the stone consists.
func (y symmetry) sectors() int {
	if math.IsNaN(y.mirror) {
		return y.fold
	}
	return 2 * y.fold
}

// smallestRing returns the places of the fewest leaning facets that share rise, distance
// and part.
func (s *Stone) smallestRing() []int {
	var best []int
	seen := make([]bool, len(s.facets))
	for i := range s.facets {
		f := &s.facets[i]
		if seen[i] || math.Abs(f.nz) > 1-alike {
			continue
		}
		var ring []int
		for j := i; j < len(s.facets); j++ {
			g := &s.facets[j]
			if math.Abs(f.nz-g.nz) < alike && math.Abs(f.d-g.d) < alike && f.girdle == g.girdle {
				ring, seen[j] = append(ring, j), true
			}
		}
		if best == nil || len(ring) < len(best) {
			best = ring
		}
	}
	return best
}

// azimuth is the direction of a facet about the axis in degrees, as in package diagram.
func azimuth(f side) float64 { return math.Atan2(f.nx, f.ny) * 180 / math.Pi }

// matrix is a 2x2 matrix, row by row.
type matrix [4]float64

// rotation turns azimuths by the given degrees.
func rotation(degrees float64) matrix {
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	return matrix{cos, sin, -sin, cos}
}

// reflection mirrors in the upright plane at the given azimuth.
func reflection(degrees float64) matrix {
	sin, cos := math.Sincos(2 * degrees * math.Pi / 180)
	return matrix{-cos, sin, sin, cos}
}

// sameUnder tells whether the mapped stone is the stone.
func (s *Stone) sameUnder(m matrix) bool {
	for i := range s.facets {
		f := &s.facets[i]
		x, y := m[0]*f.nx+m[1]*f.ny, m[2]*f.nx+m[3]*f.ny
		if !slices.ContainsFunc(s.facets, func(g facet) bool {
			return math.Abs(g.nx-x) < alike && math.Abs(g.ny-y) < alike && math.Abs(g.nz-f.nz) < alike &&
				math.Abs(g.d-f.d) < alike && g.girdle == f.girdle
		}) {
			return false
		}
	}
	return true
}

// sector is the one part of the stone that stands for all its symmetric ones: what lies
// clockwise of one upright half-plane and not of another.
type sector struct {
	all      bool
	from, to [2]float64
}

// sector returns the part that begins at the mirror, or at 12 o'clock without one.
func (y symmetry) sector() sector {
	part := 360 / float64(y.sectors())
	start := y.mirror
	if math.IsNaN(start) {
		start = 0
	}
	right := func(degrees float64) [2]float64 {
		sin, cos := math.Sincos(degrees * math.Pi / 180)
		return [2]float64{cos, -sin}
	}
	return sector{all: part == 360, from: right(start), to: right(start + part)}
}

func (c *sector) holds(p r3.Vec) bool {
	return c.all || p.X*c.from[0]+p.Y*c.from[1] >= 0 && p.X*c.to[0]+p.Y*c.to[1] < 0
}
