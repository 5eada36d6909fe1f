package cutting

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
)

// Across is where calipers measure a stone level across: from a girdle facet to what lies opposite. Lengths are in design units.
type Across struct {
	// Facet is the place of a girdle facet, Opposite that of the facet which lies parallel to it, -1 where the other jaw lies on a
	// corner.
	Facet, Opposite int
	// Planned is what they read on the planned stone, Seat what they read on one that fills the seat of a setting.
	Planned, Seat float64
	// Share is which share of what is too much comes off the facet, the rest coming off what lies opposite: as far as the facet
	// stands from the axis. Sine makes a level length one along the normals of both.
	Share, Sine float64
}

// Left tells what is to come off the facet and what off the opposite one, along their normals, where calipers read so much; less
// than 0 where the stone is too small there already.
func (a Across) Left(reading float64) (facet, opposite float64) {
	left := (reading - a.Seat) * a.Sine
	return left * a.Share, left * (1 - a.Share)
}

// InSeat lists where a stone is measured across for the seat of a setting of a width and a length, once for facets that lie opposite
// each other. The outline of a seat is the planned one, stretched along its width and its length.
func (s *Stone) InSeat(width, length float64) []Across {
	size := s.Solid().Bounds().Size()
	stretch := r3.Vec{X: width / size.X, Y: length / size.Y}
	if size.X > size.Y {
		stretch = r3.Vec{X: length / size.X, Y: width / size.Y}
	}
	// reach is how far the stone goes level in a direction, as planned and in the seat.
	reach := func(towards r3.Vec) (planned, seat float64) {
		planned, seat = math.Inf(-1), math.Inf(-1)
		for _, v := range s.Solid().Vertices() {
			p := s.Solid().Point(v)
			planned = math.Max(planned, towards.X*p.X+towards.Y*p.Y)
			seat = math.Max(seat, towards.X*p.X*stretch.X+towards.Y*p.Y*stretch.Y)
		}
		return planned, seat
	}
	onGirdle := func(i int) bool {
		return s.Diagram.Tiers[s.Facets[i].Tier].Part == diagram.Girdle && s.Solid().Face(i) != nil
	}
	level := func(i int) (direction r3.Vec, sine float64) {
		n := s.Facets[i].Plane.Normal
		sine = math.Hypot(n.X, n.Y)
		return r3.Vec{X: n.X / sine, Y: n.Y / sine}, sine
	}
	var out []Across
	seen := map[int]bool{}
	for i := range s.Facets {
		if !onGirdle(i) || seen[i] {
			continue
		}
		u, sine := level(i)
		here, seatHere := reach(u)
		there, seatThere := reach(r3.Scale(-1, u))
		a := Across{Facet: i, Opposite: -1, Planned: here + there, Seat: seatHere + seatThere, Share: here / (here + there), Sine: sine}
		for k := range s.Facets {
			if !onGirdle(k) {
				continue
			}
			if v, _ := level(k); r3.Norm(r3.Add(u, v)) < 1e-9 {
				a.Opposite, seen[k] = k, true
			}
		}
		out = append(out, a)
	}
	return out
}
