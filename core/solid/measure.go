package solid

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// Counts returns the numbers of vertices, edges and faces.
func (s *Solid) Counts() (vertices, edges, faces int) {
	corners := 0
	for _, f := range s.faces {
		corners += len(f.Loop)
	}
	return len(s.Vertices()), corners / 2, len(s.faces)
}

// Volume returns the volume in cubic units: the sum of the pyramids from the
// origin over every face (divergence theorem).
func (s *Solid) Volume() float64 {
	sum := 0.0
	for _, f := range s.faces {
		a := s.Point(f.Loop[0])
		for i := 1; i+1 < len(f.Loop); i++ {
			sum += r3.Dot(a, r3.Cross(s.Point(f.Loop[i]), s.Point(f.Loop[i+1])))
		}
	}
	return sum / 6
}

// Area returns the area of a face in square units.
func (s *Solid) Area(f *Face) float64 { return s.area(f.Loop) }

// area is the length of the vector area of a loop.
func (s *Solid) area(loop []int) float64 { return r3.Norm(s.vectorArea(loop)) }

func (s *Solid) vectorArea(loop []int) r3.Vec {
	var sum r3.Vec
	a := s.Point(loop[0])
	for i := 1; i+1 < len(loop); i++ {
		sum = r3.Add(sum, r3.Cross(r3.Sub(s.Point(loop[i]), a), r3.Sub(s.Point(loop[i+1]), a)))
	}
	return r3.Scale(0.5, sum)
}

// Middle returns the centre of a face's area.
func (s *Solid) Middle(f *Face) r3.Vec {
	a := s.Point(f.Loop[0])
	var sum r3.Vec
	area := 0.0
	for i := 1; i+1 < len(f.Loop); i++ {
		b, c := s.Point(f.Loop[i]), s.Point(f.Loop[i+1])
		part := r3.Norm(r3.Cross(r3.Sub(b, a), r3.Sub(c, a)))
		sum, area = r3.Add(sum, r3.Scale(part/3, r3.Add(a, r3.Add(b, c)))), area+part
	}
	return r3.Scale(1/area, sum)
}

// Bounds returns the smallest box with sides along the axes that holds the solid.
func (s *Solid) Bounds() r3.Box { return s.boundsOf(s.Vertices()) }

// FaceBounds returns the same box for one face.
func (s *Solid) FaceBounds(f *Face) r3.Box { return s.boundsOf(f.Loop) }

func (s *Solid) boundsOf(vertices []int) r3.Box {
	inf := math.Inf(1)
	box := r3.Box{Min: r3.Vec{X: inf, Y: inf, Z: inf}, Max: r3.Vec{X: -inf, Y: -inf, Z: -inf}}
	for _, v := range vertices {
		p := s.Point(v)
		box.Min = r3.Vec{X: math.Min(box.Min.X, p.X), Y: math.Min(box.Min.Y, p.Y), Z: math.Min(box.Min.Z, p.Z)}
		box.Max = r3.Vec{X: math.Max(box.Max.X, p.X), Y: math.Max(box.Max.Y, p.Y), Z: math.Max(box.Max.Z, p.Z)}
	}
	return box
}

// AxisSpan returns the lowest and highest z of the solid on the z axis, and
// whether the axis passes through it at all. It follows from the planes alone.
func (s *Solid) AxisSpan() (low, high float64, through bool) {
	low, high = math.Inf(-1), math.Inf(1)
	for _, f := range s.faces {
		switch n := f.Plane.Normal.Z; {
		case n > 0:
			high = math.Min(high, f.Plane.D/n)
		case n < 0:
			low = math.Max(low, f.Plane.D/n)
		case f.Plane.D < -OnPlane:
			return low, high, false
		}
	}
	return low, high, high >= low
}

// Extents returns the solid's sizes along x and along y at height z, 0 and 0
// where the plane at z misses it.
func (s *Solid) Extents(z float64) (x, y float64) {
	inf := math.Inf(1)
	minX, maxX, minY, maxY := inf, -inf, inf, -inf
	for _, f := range s.faces {
		for i, v := range f.Loop {
			a, b := s.Point(v), s.Point(f.Loop[(i+1)%len(f.Loop)])
			// Either end at z counts, so that a level face is seen whole.
			if (a.Z-z)*(b.Z-z) > 0 {
				continue
			}
			p := a
			if a.Z != b.Z {
				p = r3.Add(a, r3.Scale((z-a.Z)/(b.Z-a.Z), r3.Sub(b, a)))
			}
			minX, maxX = math.Min(minX, p.X), math.Max(maxX, p.X)
			minY, maxY = math.Min(minY, p.Y), math.Max(maxY, p.Y)
		}
	}
	if minX > maxX {
		return 0, 0
	}
	return maxX - minX, maxY - minY
}

// HeightOfWidth returns the highest z at which the smaller extent of the level
// section is width, coming down from the top while the section widens. It is
// false where the top is wider already, or the solid nowhere that wide.
//
// Between two neighbouring heights of vertices both extents run in a straight
// line, so the height is exact.
func (s *Solid) HeightOfWidth(width float64) (float64, bool) {
	levels := s.levels()
	z := levels[0]
	x, y := s.Extents(z)
	if math.Min(x, y) > width {
		return 0, false
	}
	for _, below := range levels[1:] {
		nextX, nextY := s.Extents(below)
		if math.Min(nextX, nextY) >= width {
			// The smaller extent reaches the width where the later of the two does.
			fall := math.Max(reach(x, nextX, width), reach(y, nextY, width))
			return z - fall*(z-below), true
		}
		z, x, y = below, nextX, nextY
	}
	return 0, false
}

// levels returns the heights at which the solid has vertices, from the top down.
// Of heights within OnPlane of each other the lowest stands for all: there a
// level face is seen whole.
func (s *Solid) levels() []float64 {
	var levels []float64
	for _, v := range s.Vertices() {
		levels = append(levels, s.Point(v).Z)
	}
	slices.SortFunc(levels, func(a, b float64) int { return cmp.Compare(b, a) })
	distinct := levels[:1]
	for _, z := range levels[1:] {
		if last := len(distinct) - 1; distinct[last]-z < OnPlane {
			distinct[last] = z
		} else {
			distinct = append(distinct, z)
		}
	}
	return distinct
}

// reach returns which share of the way from a to b has passed when the value
// first is at least target, 0 where it is from the start.
func reach(a, b, target float64) float64 {
	if a >= target {
		return 0
	}
	return (target - a) / (b - a)
}

// Centroid returns the centre of mass: that of the pyramids from the origin over every
// face, weighted by their volumes.
func (s *Solid) Centroid() r3.Vec {
	sum, volume := r3.Vec{}, 0.0
	for _, f := range s.faces {
		a := s.Point(f.Loop[0])
		for i := 1; i+1 < len(f.Loop); i++ {
			b, c := s.Point(f.Loop[i]), s.Point(f.Loop[i+1])
			v := r3.Dot(a, r3.Cross(b, c)) / 6
			volume += v
			sum = r3.Add(sum, r3.Scale(v/4, r3.Add(a, r3.Add(b, c))))
		}
	}
	return r3.Scale(1/volume, sum)
}
