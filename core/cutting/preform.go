package cutting

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/solid"
)

// Preform returns the rough that a finished stone is ground out of, as a cutter shapes it before the
// first facet: an upright prism round the stone's outline, larger all round by 0.06 of its greatest
// extent. Its faces count as the block's.
func (s *Stone) Preform() *solid.Solid {
	const (
		sides = 32
		over  = 0.06
		// Below those of the block.
		firstID = -7
	)
	stone := s.Solid()
	size := stone.Bounds().Size()
	greatest := math.Max(size.X, math.Max(size.Y, size.Z))
	normals := []r3.Vec{{Z: 1}, {Z: -1}}
	for i := range sides {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / sides)
		normals = append(normals, r3.Vec{X: sin, Y: cos})
	}
	out := solid.Block(4 * (greatest + r3.Norm(stone.Centroid())))
	for i, n := range normals {
		reach := math.Inf(-1)
		for _, v := range stone.Vertices() {
			reach = math.Max(reach, r3.Dot(n, stone.Point(v)))
		}
		out, _ = out.Cut(firstID-i, solid.Plane{Normal: n, D: reach + over*greatest})
	}
	return out
}
