package rough

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/solid"
)

// Body is a convex solid in mm: faces with their corners, each face for itself. It is never changed.
// Unlike solid.Solid it knows no meets, has the size that it has, and may have thousands of faces.
type Body struct{ Faces []Face }

// Face is one flat side of a body.
type Face struct {
	Plane solid.Plane
	// Corners go counter-clockwise as seen from outside.
	Corners []r3.Vec
}

// Box returns the box about the origin with the given sides. It is false where it is flat.
func Box(size r3.Vec) (*Body, bool) {
	var points []r3.Vec
	for i := range 8 {
		points = append(points, r3.Vec{
			X: size.X / 2 * float64(2*(i&1)-1), Y: size.Y / 2 * float64(i&2-1), Z: size.Z / 2 * float64(i>>1&2-1),
		})
	}
	return Hull(points)
}

// pebblePoints are how many points stand for an ellipsoid.
const pebblePoints = 1000

// Pebble returns the ellipsoid about the origin with the given axes, as the hull of a thousand points
// on it that lie evenly along a spiral. It is false where it is flat.
func Pebble(size r3.Vec) (*Body, bool) {
	points := make([]r3.Vec, pebblePoints)
	for i := range points {
		u := onSpiral(i, pebblePoints)
		points[i] = r3.Vec{X: u.X * size.X / 2, Y: u.Y * size.Y / 2, Z: u.Z * size.Z / 2}
	}
	return Hull(points)
}

// Hull returns the convex hull of points, in triangles. It is false where they lie in one plane.
func Hull(points []r3.Vec) (*Body, bool) {
	b := &Body{}
	size := extent(points)
	for _, t := range hull(points) {
		p, q, r := points[t[0]], points[t[1]], points[t[2]]
		long := max(r3.Norm(r3.Sub(q, p)), r3.Norm(r3.Sub(r, q)), r3.Norm(r3.Sub(p, r)))
		// A narrower one has no direction, and neighbours that hold its corners.
		if n := twice(points, t); r3.Norm(n) > narrow*size*long {
			b.Faces = append(b.Faces, Face{solid.Through(r3.Unit(n), p), []r3.Vec{p, q, r}})
		}
	}
	return b, len(b.Faces) >= 4
}

// narrow is the width, as a part of the extent, below which a triangle of the hull has no direction:
// far above what the points were shaken by. least is the area, as a part of the square of the extent,
// below which a face is none.
const narrow, least = 1e3 * shake, 1e-12

// sameTurn is how far apart the normals of faces may be that lie in one plane.
const sameTurn = 1e-8

// sides gathers faces whose normals differ by less than an angle in radians, the largest of each first:
// it has the truest direction.
func (b *Body) sides(angle float64) [][]*Face {
	faces, area := make([]*Face, len(b.Faces)), make(map[*Face]float64, len(b.Faces))
	for i := range b.Faces {
		f := &b.Faces[i]
		faces[i], area[f] = f, f.Area()
	}
	slices.SortStableFunc(faces, func(x, y *Face) int { return cmp.Compare(area[y], area[x]) })
	// Normals that are nearly alike lie in one cell of a grid or in two beside each other.
	type cell [3]int
	at := func(n r3.Vec) cell {
		grid := 16 * angle
		return cell{int(math.Floor(n.X / grid)), int(math.Floor(n.Y / grid)), int(math.Floor(n.Z / grid))}
	}
	known := map[cell][]int{}
	var out [][]*Face
	find := func(n r3.Vec) int {
		c := at(n)
		for i := range 27 {
			for _, k := range known[cell{c[0] + i%3 - 1, c[1] + i/3%3 - 1, c[2] + i/9 - 1}] {
				if r3.Norm(r3.Sub(out[k][0].Plane.Normal, n)) < angle {
					return k
				}
			}
		}
		return -1
	}
	for _, f := range faces {
		k := find(f.Plane.Normal)
		if k < 0 {
			k = len(out)
			known[at(f.Plane.Normal)] = append(known[at(f.Plane.Normal)], k)
			out = append(out, nil)
		}
		out[k] = append(out[k], f)
	}
	return out
}

// Planes returns the planes that bound the body, one for all faces that lie in it, each moved out to the
// corner that lies farthest out, so that nothing of the body is outside of any.
func (b *Body) Planes() []solid.Plane {
	around := map[r3.Vec][]*Face{}
	for i := range b.Faces {
		for _, p := range b.Faces[i].Corners {
			around[p] = append(around[p], &b.Faces[i])
		}
	}
	var out []solid.Plane
	for _, side := range b.sides(sameTurn) {
		plane := side[0].Plane
		// The body is convex: what stands out of a side stands out beside it.
		for _, f := range side {
			for _, p := range f.Corners {
				for _, beside := range around[p] {
					for _, q := range beside.Corners {
						plane.D = max(plane.D, r3.Dot(plane.Normal, q))
					}
				}
			}
		}
		out = append(out, plane)
	}
	return out
}

// Outlines returns the corners of the body's sides as they look: faces whose normals differ by less than
// an angle in radians are one side, which is drawn in the plane of its largest.
func (b *Body) Outlines(angle float64) [][]r3.Vec {
	var out [][]r3.Vec
	size := b.extent()
	for _, side := range b.sides(angle) {
		var corners []r3.Vec
		for _, f := range side {
			corners = append(corners, f.Corners...)
		}
		if corners = around(side[0].Plane.Normal, corners, size); len(corners) >= 3 {
			out = append(out, corners)
		}
	}
	return out
}

// Few returns corners that show the body's shape: all of them where they are no more than n, else those
// that lie farthest out in n directions.
func (b *Body) Few(n int) []r3.Vec {
	points := b.Points()
	if len(points) <= n {
		return points
	}
	seen := map[int]bool{}
	var out []r3.Vec
	for i := range n {
		u := onSpiral(i, n)
		best := 0
		for k, p := range points {
			if r3.Dot(u, p) > r3.Dot(u, points[best]) {
				best = k
			}
		}
		if !seen[best] {
			seen[best] = true
			out = append(out, points[best])
		}
	}
	return out
}

// onSpiral is point i of n that lie evenly on the unit sphere, along a spiral.
func onSpiral(i, n int) r3.Vec {
	z := 1 - (2*float64(i)+1)/float64(n)
	sin, cos := math.Sincos((float64(i) + 0.5) * math.Pi * (3 - math.Sqrt(5)))
	r := math.Sqrt(1 - z*z)
	return r3.Vec{X: r * cos, Y: r * sin, Z: z}
}

// axesOf returns two directions that are square to n and to each other, right-handed with it.
func axesOf(n r3.Vec) (u, v r3.Vec) {
	u = r3.Vec{X: 1}
	if math.Abs(n.X) > 0.6 {
		u = r3.Vec{Y: 1}
	}
	u = r3.Unit(r3.Cross(n, u))
	return u, r3.Cross(n, u)
}

// around returns the outline of points that lie in a plane of normal n, counter-clockwise as seen
// from where n points to, without those on its straight sides (Andrew's chain).
func around(n r3.Vec, points []r3.Vec, size float64) []r3.Vec {
	u, v := axesOf(n)
	type flat struct {
		x, y float64
		p    r3.Vec
	}
	all := make([]flat, len(points))
	for i, p := range points {
		all[i] = flat{r3.Dot(u, p), r3.Dot(v, p), p}
	}
	slices.SortFunc(all, func(a, b flat) int { return cmp.Or(cmp.Compare(a.x, b.x), cmp.Compare(a.y, b.y)) })
	all = slices.CompactFunc(all, func(a, b flat) bool { return math.Hypot(a.x-b.x, a.y-b.y) < 1e-12*size })
	var out []flat
	chain := func(p flat, from int) {
		for len(out) >= from+2 {
			a, b := out[len(out)-2], out[len(out)-1]
			if (b.x-a.x)*(p.y-b.y)-(b.y-a.y)*(p.x-b.x) > least*size*size {
				break
			}
			out = out[:len(out)-1]
		}
		out = append(out, p)
	}
	for _, p := range all {
		chain(p, 0)
	}
	for i, lower := len(all)-2, len(out)-1; i >= 0; i-- {
		chain(all[i], lower)
	}
	corners := make([]r3.Vec, max(0, len(out)-1))
	for i := range corners {
		corners[i] = out[i].p
	}
	return corners
}

// Cut returns what is left of the body inside a plane, and the area of the section. The body itself
// comes back where the plane passes it by, nil where nothing is left.
func (b *Body) Cut(plane solid.Plane) (*Body, float64) {
	size := b.extent()
	near := 1e-12 * size
	out := &Body{}
	var rim []r3.Vec
	all := true
	for _, f := range b.Faces {
		var kept []r3.Vec
		for i, p := range f.Corners {
			q := f.Corners[(i+1)%len(f.Corners)]
			up, uq := plane.Above(p), plane.Above(q)
			if up <= near {
				kept = append(kept, p)
			} else {
				all = false
			}
			if up >= -near && up <= near {
				rim = append(rim, p)
			}
			if (up > near && uq < -near) || (up < -near && uq > near) {
				x := r3.Add(p, r3.Scale(up/(up-uq), r3.Sub(q, p)))
				kept, rim = append(kept, x), append(rim, x)
			}
		}
		if len(kept) >= 3 && polygonArea(f.Plane.Normal, kept) > least*size*size {
			out.Faces = append(out.Faces, Face{f.Plane, kept})
		}
	}
	if all {
		return b, 0
	}
	section := around(plane.Normal, rim, size)
	if len(section) < 3 || len(out.Faces) < 3 {
		return nil, 0
	}
	out.Faces = append(out.Faces, Face{plane, section})
	return out, polygonArea(plane.Normal, section)
}

// polygonArea is the area of a flat outline that goes counter-clockwise about n.
func polygonArea(n r3.Vec, corners []r3.Vec) float64 {
	var sum r3.Vec
	for i := 1; i+1 < len(corners); i++ {
		sum = r3.Add(sum, r3.Cross(r3.Sub(corners[i], corners[0]), r3.Sub(corners[i+1], corners[0])))
	}
	return r3.Dot(n, sum) / 2
}

// Area returns the area of a face in mm².
func (f Face) Area() float64 { return polygonArea(f.Plane.Normal, f.Corners) }

// Surface returns the area of all faces in mm².
func (b *Body) Surface() float64 {
	sum := 0.0
	for i := range b.Faces {
		sum += b.Faces[i].Area()
	}
	return sum
}

// Volume returns the volume in mm³: the pyramids from one corner over every face.
func (b *Body) Volume() float64 {
	sum := 0.0
	b.pyramids(func(_, _, _ r3.Vec, volume float64) { sum += volume })
	return sum
}

// pyramids parts the body into tetrahedra from one of its corners, and tells of each the three other
// corners, from that one, and its volume.
func (b *Body) pyramids(tell func(a, b, c r3.Vec, volume float64)) {
	top := b.Faces[0].Corners[0]
	for _, f := range b.Faces {
		for i := 1; i+1 < len(f.Corners); i++ {
			x, y, z := r3.Sub(f.Corners[0], top), r3.Sub(f.Corners[i], top), r3.Sub(f.Corners[i+1], top)
			tell(x, y, z, r3.Dot(x, r3.Cross(y, z))/6)
		}
	}
}

// Points returns the corners of the body, each once.
func (b *Body) Points() []r3.Vec {
	seen := map[r3.Vec]bool{}
	var out []r3.Vec
	for _, f := range b.Faces {
		for _, p := range f.Corners {
			if !seen[p] {
				seen[p] = true
				out = append(out, p)
			}
		}
	}
	return out
}

// Bounds returns the smallest box along the axes that holds the body.
func (b *Body) Bounds() r3.Box {
	low, high := spread(b.Points())
	return r3.Box{Min: low, Max: high}
}

func (b *Body) extent() float64 { return extent(b.Points()) }

func spread(points []r3.Vec) (low, high r3.Vec) {
	low, high = points[0], points[0]
	for _, p := range points[1:] {
		low = r3.Vec{X: min(low.X, p.X), Y: min(low.Y, p.Y), Z: min(low.Z, p.Z)}
		high = r3.Vec{X: max(high.X, p.X), Y: max(high.Y, p.Y), Z: max(high.Z, p.Z)}
	}
	return low, high
}

// Axes returns the centre of mass and the main axes of inertia, right-handed, the longest side of the
// body first: a frame that turns with the body.
func (b *Body) Axes() (centre r3.Vec, axes [3]r3.Vec) {
	top := b.Faces[0].Corners[0]
	var volume float64
	var first r3.Vec
	var second [3][3]float64
	b.pyramids(func(x, y, z r3.Vec, v float64) {
		volume += v
		sum := r3.Add(r3.Add(x, y), z)
		first = r3.Add(first, r3.Scale(v/4, sum))
		// ∫ p pᵀ over a tetrahedron with a corner at the origin: V/20·(Σ vᵢvᵢᵀ + s sᵀ).
		for _, p := range []r3.Vec{x, y, z, sum} {
			c := [3]float64{p.X, p.Y, p.Z}
			for i := range c {
				for j := range c {
					second[i][j] += v / 20 * c[i] * c[j]
				}
			}
		}
	})
	mean := r3.Scale(1/volume, first)
	m := [3]float64{mean.X, mean.Y, mean.Z}
	sym := mat.NewSymDense(3, nil)
	for i := range m {
		for j := i; j < 3; j++ {
			sym.SetSym(i, j, second[i][j]/volume-m[i]*m[j])
		}
	}
	var eigen mat.EigenSym
	eigen.Factorize(sym, true)
	var vectors mat.Dense
	eigen.VectorsTo(&vectors)
	for k := range 2 {
		axes[k] = r3.Vec{X: vectors.At(0, 2-k), Y: vectors.At(1, 2-k), Z: vectors.At(2, 2-k)}
	}
	axes[2] = r3.Cross(axes[0], axes[1])
	return r3.Add(top, mean), axes
}
