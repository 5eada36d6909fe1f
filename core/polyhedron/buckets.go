package polyhedron

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/solid"
)

// cell names a cube of a lattice.
type cell [3]int32

func cellOf(v r3.Vec, side float64) cell {
	return cell{int32(math.Floor(v.X / side)), int32(math.Floor(v.Y / side)), int32(math.Floor(v.Z / side))}
}

// around calls each for a cell and its 26 neighbours until it returns false.
func (c cell) around(each func(cell) bool) {
	for dx := int32(-1); dx <= 1; dx++ {
		for dy := int32(-1); dy <= 1; dy++ {
			for dz := int32(-1); dz <= 1; dz++ {
				if !each(cell{c[0] + dx, c[1] + dy, c[2] + dz}) {
					return
				}
			}
		}
	}
}

// crowd holds the points of a mesh by cell, so that only those near a place are looked at.
type crowd struct {
	points []r3.Vec
	cells  map[cell][]int
}

// crowdCell is the side of a crowd's cells where the largest extent of the mesh is 1.
const crowdCell = 1.0 / 32

func newCrowd(points []r3.Vec) crowd {
	c := crowd{points, map[cell][]int{}}
	for i, p := range points {
		at := cellOf(p, crowdCell)
		c.cells[at] = append(c.cells[at], i)
	}
	return c
}

// above finds the first point that stands out of a plane by more than the given distance, and by
// how much it does; -1 where there is none.
func (c crowd) above(plane solid.Plane, most float64) (first int, by float64) {
	first = -1
	// Half the diagonal of a cell: no point of one is farther above a plane than its middle by more.
	half := crowdCell * math.Sqrt(3) / 2
	for at, points := range c.cells {
		middle := r3.Scale(crowdCell, r3.Vec{X: float64(at[0]) + 0.5, Y: float64(at[1]) + 0.5, Z: float64(at[2]) + 0.5})
		if plane.Above(middle)+half <= most {
			continue
		}
		for _, i := range points {
			if above := plane.Above(c.points[i]); above > most && (first < 0 || i < first) {
				first, by = i, above
			}
		}
	}
	return first, by
}

// near tells whether a point lies within a distance of a place, at most the side of a cell.
func (c crowd) near(place r3.Vec, within float64) (found bool) {
	cellOf(place, crowdCell).around(func(at cell) bool {
		for _, i := range c.cells[at] {
			if r3.Norm2(r3.Sub(c.points[i], place)) < within*within {
				found = true
				return false
			}
		}
		return true
	})
	return found
}
