package fit

import (
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/rough"
)

// between returns the shortest way from a solid to the middle of a point or a ball, or to a disc: the
// vector from the one to the other, 0 where they touch or overlap (Gilbert, Johnson and Keerthi). The
// solid has the given points times size; at and normal are the flaw's in its frame.
func between(points []r3.Vec, size float64, flaw *rough.Flaw, at, normal r3.Vec) r3.Vec {
	// farthest is the point of the difference of the two that lies farthest towards -v.
	farthest := func(v r3.Vec) r3.Vec {
		best, most := 0, r3.Dot(points[0], v)
		for i := 1; i < len(points); i++ {
			if d := r3.Dot(points[i], v); d > most {
				best, most = i, d
			}
		}
		w := r3.Sub(at, r3.Scale(size, points[best]))
		if flaw.Kind == rough.Disc {
			flat := r3.Sub(v, r3.Scale(r3.Dot(v, normal), normal))
			if n := r3.Norm(flat); n > 0 {
				w = r3.Sub(w, r3.Scale(flaw.Radius/n, flat))
			}
		}
		return w
	}
	simplex := []r3.Vec{farthest(at)}
	v := simplex[0]
	const rounds = 200
	for range rounds {
		square := r3.Norm2(v)
		w := farthest(v)
		if square == 0 || square-r3.Dot(v, w) <= 1e-13*square {
			return v
		}
		simplex = append(simplex, w)
		v, simplex = closest(simplex)
		if len(simplex) == 4 || r3.Norm2(v) >= square {
			break
		}
	}
	if len(simplex) == 4 {
		return r3.Vec{}
	}
	return v
}

// closest returns the point of a simplex of up to four points that lies closest to the origin, and the
// points that it lies between; all four where the origin is inside.
func closest(s []r3.Vec) (r3.Vec, []r3.Vec) {
	switch len(s) {
	case 1:
		return s[0], s
	case 2:
		return closestOnEdge(s[0], s[1])
	case 3:
		return closestOnFace(s[0], s[1], s[2])
	}
	var best r3.Vec
	var of []r3.Vec
	inside := true
	for k := range 4 {
		a, b, c, d := s[k], s[(k+1)%4], s[(k+2)%4], s[(k+3)%4]
		n := r3.Cross(r3.Sub(b, a), r3.Sub(c, a))
		if side := r3.Dot(n, r3.Sub(d, a)); r3.Dot(n, r3.Scale(-1, a))*side >= 0 && side != 0 {
			continue
		}
		inside = false
		if p, on := closestOnFace(a, b, c); of == nil || r3.Norm2(p) < r3.Norm2(best) {
			best, of = p, on
		}
	}
	if inside {
		return r3.Vec{}, s
	}
	return best, of
}

func closestOnEdge(a, b r3.Vec) (r3.Vec, []r3.Vec) {
	ab := r3.Sub(b, a)
	t := -r3.Dot(a, ab)
	switch n := r3.Norm2(ab); {
	case t <= 0:
		return a, []r3.Vec{a}
	case t >= n:
		return b, []r3.Vec{b}
	default:
		return r3.Add(a, r3.Scale(t/n, ab)), []r3.Vec{a, b}
	}
}

func closestOnFace(a, b, c r3.Vec) (r3.Vec, []r3.Vec) {
	n := r3.Cross(r3.Sub(b, a), r3.Sub(c, a))
	if square := r3.Norm2(n); square > 0 {
		p := r3.Scale(r3.Dot(a, n)/square, n)
		if r3.Dot(r3.Cross(r3.Sub(b, a), r3.Sub(p, a)), n) >= 0 && r3.Dot(r3.Cross(r3.Sub(c, b), r3.Sub(p, b)), n) >= 0 &&
			r3.Dot(r3.Cross(r3.Sub(a, c), r3.Sub(p, c)), n) >= 0 {
			return p, []r3.Vec{a, b, c}
		}
	}
	best, of := closestOnEdge(a, b)
	for _, e := range [][2]r3.Vec{{b, c}, {c, a}} {
		if p, on := closestOnEdge(e[0], e[1]); r3.Norm2(p) < r3.Norm2(best) {
			best, of = p, on
		}
	}
	return best, of
}

func closestOnTriangle(a, b, c r3.Vec) r3.Vec {
	p, _ := closestOnFace(a, b, c)
	return p
}
