package mending

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/linear"
	"cressa/core/solid"
)

// limit is what a plane of the stone asks of a copy of the plan that is scaled by s and moved by p: s·reach + normal·p ≤ most.
type limit struct {
	normal      r3.Vec
	reach, most float64
	// at is how far the plane stands now where a facet was cut that the copy has too, NaN for any other plane.
	at float64
}

// limits are those of all planes that a copy has to lie inside of.
func (m *mender) limits() []limit {
	var out []limit
	for i, f := range m.Plan.Facets {
		if math.IsInf(m.most(i), 1) {
			continue
		}
		l := limit{f.Plane.Normal, m.reach[i], m.most(i), math.NaN()}
		if m.cut(i) && m.Plan.Solid().Face(i) != nil {
			l.at = m.Cut[i]
		}
		out = append(out, l)
	}
	add := func(p solid.Plane) {
		out = append(out, limit{p.Normal, reach(m.Plan.Solid(), p.Normal), p.D, math.NaN()})
	}
	for _, b := range m.Beside {
		add(b.Plane)
	}
	for _, w := range m.Walls {
		add(w)
	}
	return out
}

// copy is the largest copy of the plan inside all planes, moved along some unit directions; of equal ones that with the
// fewest facets to cut again.
func (m *mender) copy(kind Kind, ways []r3.Vec) Way {
	limits := m.limits()
	scale := largest(limits, ways, m.size())
	if !(scale > 0) {
		return Way{Kind: kind, Err: ErrNoStone}
	}
	shift := m.fewest(limits, scale, ways)
	distances := make([]float64, len(m.Plan.Facets))
	for i, f := range m.Plan.Facets {
		distances[i] = scale*f.Plane.D + r3.Dot(f.Plane.Normal, shift)
	}
	w := m.to(kind, distances)
	if w.Err == nil {
		w.Scale, w.Shift = &scale, &shift
	}
	return w
}

// size is farther than a copy is ever moved.
func (m *mender) size() float64 { return 4 * r3.Norm(m.Plan.Solid().Bounds().Size()) }

// largest is the scale, up to 1, of the largest copy inside all limits.
func largest(limits []limit, ways []r3.Vec, far float64) float64 {
	low, high := []float64{0}, []float64{1}
	for range ways {
		low, high = append(low, -far), append(high, far)
	}
	p := linear.New(low, high)
	for _, l := range limits {
		a := [linear.Most]float64{l.reach}
		for k, w := range ways {
			a[1+k] = r3.Dot(l.normal, w)
		}
		p.Limit(a, l.most)
	}
	goal := linear.Goal{First: [linear.Most]float64{1}}
	s := p.Start(&goal)
	if p.Solve(&s, &goal, 0) != linear.Optimal {
		return 0
	}
	return s.X[0]
}

// fewest finds the move, along some directions, of a copy of a given scale inside all limits that leaves the fewest facets to
// be cut again, of equal ones the shortest. Facets are not cut again where they touch their limit, so it is looked for at
// corners of what the limits leave: where as many hold as there are ways to move, or fewer where they cannot.
func (m *mender) fewest(limits []limit, scale float64, ways []r3.Vec) r3.Vec {
	s := slackened(limits, scale, ways, m.size())
	best, bestAgain := s.origin, math.MaxInt
	s.corners(func(p r3.Vec) {
		again := 0
		for _, l := range limits {
			if l.at-scale*l.reach-r3.Dot(l.normal, p) > m.untouched {
				again++
			}
		}
		if again < bestAgain || again == bestAgain && r3.Norm(p) < r3.Norm(best)-same {
			best, bestAgain = p, again
		}
	})
	return best
}

// slack is what limits leave a copy of one scale to move in.
type slack struct {
	// origin is a move inside all limits, ways are unit directions in which it can go from there and back again.
	origin r3.Vec
	ways   []r3.Vec
	// normals and room are what the limits leave from the origin, in the ways: normals·q ≤ room.
	normals []inWay
	room    []float64
}

// inWay has a part for each way, 0 beyond them.
type inWay [3]float64

func (v inWay) dot(w inWay) float64 { return v[0]*w[0] + v[1]*w[1] + v[2]*w[2] }

// slackened finds what limits leave. Limits that hold wherever the copy goes, as those of opposite girdle facets do, take ways
// away.
func slackened(limits []limit, scale float64, ways []r3.Vec, far float64) slack {
	low, high := make([]float64, len(ways)), make([]float64, len(ways))
	for k := range ways {
		low[k], high[k] = -far, far
	}
	p := linear.New(low, high)
	room := make([]float64, len(limits))
	for i, l := range limits {
		// What rounding took from the largest scale is given back.
		room[i] = l.most - scale*l.reach
		p.Limit(inWays(l.normal, ways), room[i]+same/2)
	}
	var out slack
	var held []r3.Vec
	inside := 0.0
	for i, l := range limits {
		away := inWays(r3.Scale(-1, l.normal), ways)
		goal := linear.Goal{First: away}
		s := p.Start(&goal)
		if p.Solve(&s, &goal, math.Inf(-1)) != linear.Optimal {
			continue
		}
		at := r3.Vec{}
		for k, w := range ways {
			at = r3.Add(at, r3.Scale(s.X[k], w))
		}
		out.origin = r3.Add(out.origin, at)
		inside++
		if room[i]-r3.Dot(l.normal, at) < 4*same {
			held = append(held, l.normal)
		}
	}
	out.origin = r3.Scale(1/math.Max(1, inside), out.origin)
	out.ways = across(ways, held)
	for i, l := range limits {
		var n inWay
		for k, w := range out.ways {
			n[k] = r3.Dot(l.normal, w)
		}
		if n.dot(n) > 1e-12 {
			out.normals = append(out.normals, n)
			out.room = append(out.room, room[i]-r3.Dot(l.normal, out.origin))
		}
	}
	return out
}

func inWays(n r3.Vec, ways []r3.Vec) (out [linear.Most]float64) {
	for k, w := range ways {
		out[k] = r3.Dot(n, w)
	}
	return out
}

// across returns unit directions that span what is left of ways at right angles to all of some normals.
func across(ways, normals []r3.Vec) []r3.Vec {
	var gone, left []r3.Vec
	part := func(v r3.Vec, of []r3.Vec) r3.Vec {
		for _, u := range of {
			v = r3.Sub(v, r3.Scale(r3.Dot(v, u), u))
		}
		return v
	}
	for _, n := range normals {
		var in r3.Vec
		for _, w := range ways {
			in = r3.Add(in, r3.Scale(r3.Dot(n, w), w))
		}
		if in = part(in, gone); r3.Norm(in) > 1e-6 {
			gone = append(gone, r3.Unit(in))
		}
	}
	for _, w := range ways {
		if w = part(part(w, gone), left); r3.Norm(w) > 1e-6 {
			left = append(left, r3.Unit(w))
		}
	}
	return left
}

// corners tells of every move at which as many limits hold as there are ways, or fewer, and that is inside of all: of those
// where the same limits hold the one nearest to no move at all.
func (s *slack) corners(tell func(p r3.Vec)) {
	var home inWay // no move at all, in the ways from the origin
	for k, w := range s.ways {
		home[k] = -r3.Dot(s.origin, w)
	}
	try := func(q inWay) {
		for i, n := range s.normals {
			if n.dot(q) > s.room[i]+4*same {
				return
			}
		}
		p := s.origin
		for k, w := range s.ways {
			p = r3.Add(p, r3.Scale(q[k], w))
		}
		tell(p)
	}
	var hold func(from int, held []int)
	hold = func(from int, held []int) {
		if q, ok := s.nearest(home, held); ok {
			try(q)
		}
		if len(held) == len(s.ways) {
			return
		}
		for i := from; i < len(s.normals); i++ {
			hold(i+1, append(held, i))
		}
	}
	hold(0, make([]int, 0, len(s.ways)))
}

// nearest is the point nearest to another at which up to three limits hold; false where they cannot hold together. It goes by
// way of the limits' normals, made square to each other one after the other.
func (s *slack) nearest(to inWay, held []int) (inWay, bool) {
	var square [3]inWay
	for i, h := range held {
		n, room := s.normals[h], s.room[h]-s.normals[h].dot(to)
		for _, u := range square[:i] {
			along := n.dot(u)
			for k := range n {
				n[k] -= along * u[k]
			}
		}
		size := math.Sqrt(n.dot(n))
		if size < 1e-6 {
			return to, false
		}
		for k := range n {
			n[k] /= size
			to[k] += room / size * n[k]
		}
		square[i] = n
	}
	return to, true
}

// reach is how far a solid goes along a direction from the origin.
func reach(s *solid.Solid, n r3.Vec) float64 {
	out := math.Inf(-1)
	for _, v := range s.Vertices() {
		out = math.Max(out, r3.Dot(n, s.Point(v)))
	}
	return out
}
