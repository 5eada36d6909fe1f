package fit

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/linear"
	"cressa/core/rough"
	"cressa/core/solid"
)

// sizes are measures of a convex solid that only grow when it does: a stone inside a piece has none
// larger than the piece's, however it is turned.
type sizes struct {
	volume, surface float64
	// bend is half the sum over the edges of their length times the angle that the surface bends there:
	// 2π times the mean width. A skin of thickness a adds a·surface + a²·bend + 4/3·π·a³ to the volume
	// (Steiner's formula).
	bend float64
	// ball is the radius of the largest ball inside, width the least distance between two parallel
	// planes that hold the solid, diameter the largest between two corners.
	ball, width, diameter float64
}

func measure(h *Shape, body *solid.Solid) sizes {
	z := sizes{volume: h.Volume, width: math.Inf(1)}
	planes := make([]solid.Plane, 0, len(body.Faces()))
	type edge [2]int
	first := map[edge]r3.Vec{}
	var directions []r3.Vec
	for _, f := range body.Faces() {
		z.surface += body.Area(f)
		n := f.Plane.Normal
		planes = append(planes, solid.Plane{Normal: n, D: f.Plane.D - r3.Dot(n, h.centre)})
		z.width = min(z.width, h.across(n))
		for k, a := range f.Loop {
			b := f.Loop[(k+1)%len(f.Loop)]
			e := edge{min(a, b), max(a, b)}
			other, ok := first[e]
			if !ok {
				first[e] = n
				continue
			}
			way := r3.Sub(body.Point(b), body.Point(a))
			z.bend += r3.Norm(way) * math.Acos(max(-1, min(1, r3.Dot(n, other)))) / 2
			directions = append(directions, r3.Unit(way))
		}
	}
	// The least width stands on a facet, or across two edges.
	for i, a := range directions {
		for _, b := range directions[i+1:] {
			if n := r3.Cross(a, b); r3.Norm2(n) > 1e-12 {
				z.width = min(z.width, h.across(r3.Unit(n)))
			}
		}
	}
	z.ball = largestBall(planes, h.radius)
	z.diameter = diameter(h.points)
	return z
}

// across is the shape's width along a direction.
func (h *Shape) across(u r3.Vec) float64 {
	return reach(h.points, u) + reach(h.points, r3.Scale(-1, u))
}

func diameter(points []r3.Vec) float64 {
	most := 0.0
	for i, p := range points {
		for _, q := range points[i+1:] {
			most = max(most, r3.Norm2(r3.Sub(p, q)))
		}
	}
	return math.Sqrt(most)
}

// largestBall is the radius of the largest ball inside planes about the origin, 0 where they leave
// nothing.
func largestBall(planes []solid.Plane, far float64) float64 {
	p := linear.New([]float64{0, -far, -far, -far}, []float64{far, far, far, far})
	for _, w := range planes {
		p.Limit([linear.Most]float64{1, w.Normal.X, w.Normal.Y, w.Normal.Z}, w.D)
	}
	goal := linear.Goal{First: [linear.Most]float64{1}, Then: [linear.Most]float64{0, 0.3, 0.2, 0.1}}
	s := p.Start(&goal)
	if p.Solve(&s, &goal, math.Inf(-1)) != linear.Optimal {
		return 0
	}
	return s.X[0]
}

// most returns a scale that no stone of a shape can exceed in the piece, at any turn: one with a skin
// of the allowance would be larger than the piece in some measure.
func (r *room) most(h *Shape) float64 {
	a := r.allowance
	z, p := &h.size, &r.size
	best := (p.ball - a) / z.ball
	best = min(best, (p.width-2*a)/z.width, (p.diameter-2*a)/z.diameter)
	grow := func(most float64, of func(s float64) float64) {
		low, high := 0.0, best
		if of(high) <= most {
			return
		}
		for range 60 {
			if mid := (low + high) / 2; of(mid) <= most {
				low = mid
			} else {
				high = mid
			}
		}
		best = high
	}
	grow(p.volume, func(s float64) float64 {
		return s*s*s*z.volume + s*s*a*z.surface + s*a*a*z.bend + 4*math.Pi/3*a*a*a
	})
	grow(p.surface, func(s float64) float64 { return s*s*z.surface + 2*s*a*z.bend + 4*math.Pi*a*a })
	return max(0, best)
}

// manyPoints is from how many corners on the distances of all pairs are not looked at.
const manyPoints = 3000

// sizesOf measures a piece. Its width is taken across its walls alone: the least width of a stone in it
// is no larger than any.
func sizesOf(piece *rough.Piece) sizes {
	b := piece.Body
	points := b.Points()
	z := sizes{volume: b.Volume(), surface: b.Surface(), width: math.Inf(1)}
	planes := make([]solid.Plane, len(piece.Walls))
	for i, w := range piece.Walls {
		planes[i] = w.Plane
		if len(points)*len(piece.Walls) < manyPoints*manyPoints {
			z.width = min(z.width, reach(points, w.Normal)+reach(points, r3.Scale(-1, w.Normal)))
		}
	}
	box := b.Bounds()
	z.diameter = r3.Norm(r3.Sub(box.Max, box.Min))
	if len(points) < manyPoints {
		z.diameter = diameter(points)
	}
	z.ball = largestBall(planes, r3.Norm(box.Max)+r3.Norm(box.Min))
	return z
}
