package mending

import (
	"cmp"
	"context"
	"math"
	"slices"

	"gonum.org/v1/gonum/num/quat"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/linear"
	"cressa/core/work"
)

// Placed is where a smaller copy of a stone lies in the stone: a point v of the copy's diagram at Turn·(Scale·v) + Offset.
type Placed struct {
	Scale  float64
	Turn   quat.Number
	Offset r3.Vec
}

// Point brings a point into the stone's frame.
func (p Placed) Point(v r3.Vec) r3.Vec {
	return r3.Add(r3.Rotation(p.Turn).Rotate(r3.Scale(p.Scale, v)), p.Offset)
}

// Numbers are the nine numbers of the turn's matrix, row by row.
func (p Placed) Numbers() (out [9]float64) {
	turn := r3.Rotation(p.Turn)
	for k, e := range []r3.Vec{{X: 1}, {Y: 1}, {Z: 1}} {
		v := turn.Rotate(e)
		out[k], out[3+k], out[6+k] = v.X, v.Y, v.Z
	}
	return out
}

// snug finds the largest copy of a stone inside itself that leaves all damage outside of a facet of its own each, turned by up
// to a limit.
type snug struct {
	*recutter
	limit   float64 // radians
	corners []r3.Vec
	// radius is how far a corner lies from the origin at most, far farther than a copy is ever moved.
	radius, far float64
}

// tries is how many choices of facets are followed with turns.
const tries = 24

// Largest is the largest copy of the stone, moved and turned by up to so many degrees, that leaves all damage outside. It
// returns ErrTooDeep as Ways does, and the context's error when that ends it.
func (r *Returned) Largest(ctx context.Context, mmPerUnit, degrees float64) (Way, error) {
	c, err := r.recutter(mmPerUnit)
	if err != nil {
		return Way{}, err
	}
	if slices.Contains(r.Protected, true) {
		return Way{Kind: Largest, Err: ErrProtected}, nil
	}
	s := &snug{recutter: c, limit: degrees * math.Pi / 180, far: c.size()}
	for _, v := range r.Stone.Solid().Vertices() {
		p := r.Stone.Solid().Point(v)
		s.corners, s.radius = append(s.corners, p), math.Max(s.radius, r3.Norm(p))
	}
	starts := s.unturned()
	if len(starts) == 0 {
		return Way{Kind: Largest, Err: ErrNoStone}, nil
	}
	starts = starts[:min(tries, len(starts))]
	if err := work.Each(ctx, len(starts), func() *linear.Program { return &linear.Program{} }, func(p *linear.Program, i int) {
		s.turn(p, &starts[i])
	}); err != nil {
		return Way{}, err
	}
	best := slices.MaxFunc(starts, func(a, b choice) int { return cmp.Compare(a.at.Scale, b.at.Scale) })
	return s.way(best.at), nil
}

// choice is a facet for each damage, with the copy that lies inside of it.
type choice struct {
	facets []int
	at     Placed
}

// unturned finds the largest copies that are moved only, one for each choice of facets, largest first.
func (s *snug) unturned() []choice {
	var done []choice
	open := []choice{{at: Placed{Scale: 1, Turn: still}}}
	var p linear.Program
	for range 4000 {
		if len(open) == 0 || len(done) >= tries && open[0].at.Scale < done[tries-1].at.Scale {
			break
		}
		next := open[0]
		open = open[1:]
		if len(next.facets) == len(s.damages) {
			done = append(done, next)
			continue
		}
		for _, f := range s.on {
			c := choice{append(slices.Clone(next.facets), f), Placed{Turn: still}}
			if c.at, _ = s.step(&p, c, 0); c.at.Scale > 0 {
				at, _ := slices.BinarySearchFunc(open, c, func(a, b choice) int { return cmp.Compare(b.at.Scale, a.at.Scale) })
				open = slices.Insert(open, at, c)
			}
		}
	}
	return done
}

var still = quat.Number{Real: 1}

// turn turns a copy little by little until it grows no more.
func (s *snug) turn(p *linear.Program, c *choice) {
	const least = 1e-7
	for step := s.limit / 4; step > least; {
		next, ok := s.step(p, *c, step)
		if ok && next.Scale > c.at.Scale+0.02*step {
			c.at = next
			continue
		}
		step /= 3
	}
}

// step is the largest copy that is reached from one by a turn of up to so many radians about each axis, with the turn taken
// as small; the copy is then made as large as its turn really allows.
func (s *snug) step(p *linear.Program, c choice, by float64) (Placed, bool) {
	low, high := []float64{0, -s.far, -s.far, -s.far}, []float64{1, s.far, s.far, s.far}
	if by == 0 {
		p.Box(low, high)
	} else {
		p.Box(append(low, -by, -by, -by), append(high, by, by, by))
		s.keepTurn(p, c.at.Turn)
	}
	s.inside(p, c.at, by)
	s.outside(p, c)
	goal := linear.Goal{First: [linear.Most]float64{1}}
	state := p.Start(&goal)
	if p.Solve(&state, &goal, 0) != linear.Optimal {
		return Placed{}, false
	}
	x := state.X
	to := Placed{x[0], c.at.Turn, r3.Vec{X: x[1], Y: x[2], Z: x[3]}}
	if by == 0 {
		return to, true
	}
	to.Turn = quat.Mul(small(r3.Vec{X: x[4], Y: x[5], Z: x[6]}), c.at.Turn)
	if angle(to.Turn) > s.limit*(1+1e-12) {
		return Placed{}, false
	}
	to, ok := s.step(p, choice{c.facets, to}, 0)
	return to, ok
}

// small is the rotation of a vector whose length is its angle in radians.
func small(w r3.Vec) quat.Number {
	n := r3.Norm(w)
	if n == 0 {
		return still
	}
	sin, cos := math.Sincos(n / 2)
	w = r3.Scale(sin/n, w)
	return quat.Number{Real: cos, Imag: w.X, Jmag: w.Y, Kmag: w.Z}
}

// angle is by how many radians a rotation turns.
func angle(q quat.Number) float64 {
	return 2 * math.Atan2(math.Sqrt(q.Imag*q.Imag+q.Jmag*q.Jmag+q.Kmag*q.Kmag), math.Abs(q.Real))
}

// keepTurn keeps a small turn on top of another within the limit.
func (s *snug) keepTurn(p *linear.Program, turn quat.Number) {
	now := r3.Vec{X: turn.Imag, Y: turn.Jmag, Z: turn.Kmag}
	if n := r3.Norm(now); n > 0 {
		now = r3.Scale(1/n, now)
		p.Limit([linear.Most]float64{4: now.X, 5: now.Y, 6: now.Z}, s.limit-angle(turn))
	}
}

// inside keeps the copy's corners inside the stone's planes.
func (s *snug) inside(p *linear.Program, at Placed, by float64) {
	rotate := r3.Rotation(at.Turn)
	turned := make([]r3.Vec, len(s.corners))
	for k, v := range s.corners {
		turned[k] = rotate.Rotate(v)
	}
	for _, i := range s.on {
		plane := s.Stone.Facets[i].Plane
		foremost := math.Inf(-1)
		for _, v := range turned {
			foremost = math.Max(foremost, r3.Dot(plane.Normal, v))
		}
		for _, v := range turned {
			ahead := r3.Dot(plane.Normal, v)
			// A turn brings no corner farther forward than by its lever.
			if ahead < foremost-2*by*math.Sqrt(3)*s.radius || by == 0 && ahead < foremost {
				continue
			}
			lever := r3.Scale(math.Max(at.Scale, 0.5), r3.Cross(v, plane.Normal))
			p.Limit([linear.Most]float64{ahead, plane.Normal.X, plane.Normal.Y, plane.Normal.Z, lever.X, lever.Y, lever.Z}, plane.D)
			if by == 0 {
				break
			}
		}
	}
}

// outside keeps each damage beyond a facet of the copy: turn·n·(q − offset) − scale·d ≥ clearance.
func (s *snug) outside(p *linear.Program, c choice) {
	rotate := r3.Rotation(c.at.Turn)
	for k, f := range c.facets {
		plane := s.Stone.Facets[f].Plane
		n := rotate.Rotate(plane.Normal)
		for _, q := range s.damages[k].Points {
			lever := r3.Cross(r3.Sub(q, c.at.Offset), n)
			p.Limit([linear.Most]float64{plane.D, n.X, n.Y, n.Z, lever.X, lever.Y, lever.Z}, r3.Dot(n, q)-s.damages[k].Clearance)
		}
	}
}

// way is what is still to be taken off for a copy: of each facet as far as the deepest corner of the new one lies under it.
func (s *snug) way(at Placed) Way {
	planes := s.Stone.Planes()
	for i := range planes {
		planes[i].D *= at.Scale
	}
	stone, err := s.Stone.Changed(planes)
	if err != nil {
		return Way{Kind: Largest, Err: err}
	}
	w := Way{Kind: Largest, Scale: &at.Scale, Place: &at, Stone: stone, Take: make([]float64, len(planes))}
	for _, i := range s.on {
		old := s.Stone.Facets[i].Plane
		for _, v := range s.Stone.Solid().Face(i).Loop {
			w.Take[i] = math.Max(w.Take[i], -old.Above(at.Point(s.Stone.Solid().Point(v))))
		}
		if w.Take[i] > s.untouched {
			w.Again++
		}
	}
	return w
}
