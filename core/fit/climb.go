package fit

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/linear"
)

// freedom says which turns a fit may take: all, or those that keep the table at an angle to an axis.
type freedom struct {
	tied bool
	// axis is the axis in the piece, sine that of the angle between it and the table's plane: the table's
	// normal stands at that sine against the axis, in one sense or the other.
	axis r3.Vec
	sine float64
}

// allows tells whether a turn may be taken.
func (f *freedom) allows(t Turn) bool {
	return !f.tied || math.Abs(math.Abs(r3.Dot(t.Table(), f.axis))-f.sine) < 1e-9
}

// ways are the directions about which a turn may be turned on.
func (f *freedom) ways(t Turn) []r3.Vec {
	switch {
	case !f.tied:
		return []r3.Vec{{X: 1}, {Y: 1}, {Z: 1}}
	case f.sine > 1-1e-12:
		return []r3.Vec{f.axis}
	}
	return []r3.Vec{f.axis, t.Table()}
}

// turn turns a turn on by an angle in radians about each of its ways.
func (f *freedom) turn(t Turn, ways []r3.Vec, by []float64) Turn {
	if !f.tied {
		return about(r3.Vec{X: by[0], Y: by[1], Z: by[2]}).After(t)
	}
	// About the table's normal first: that leaves the normal where it is, and about the axis the angle
	// between the two stays.
	for k := len(ways) - 1; k >= 0; k-- {
		t = about(r3.Scale(by[k], ways[k])).After(t)
	}
	return t
}

// How a climb goes: the first step in radians, the largest, and the one at which it ends.
const firstStep, longestStep, lastStep = 0.1, 0.3, 1e-9

// climb turns a stone a little, again and again, as long as it grows. For small turns the corners of the
// stone move in straight lines, so that scale, place and turn together are one linear program; what comes
// of it is then placed exactly. A stone that is held by seven walls comes out to the last digit.
func (p *placer) climb(from placed, f *freedom) placed {
	best := from
	step := firstStep
	for range 80 {
		if step < lastStep {
			break
		}
		ways := f.ways(best.turn)
		by, ok := p.tilt(&best, ways, step)
		if !ok {
			break
		}
		t := f.turn(best.turn, ways, by)
		p.setWalls(t, p.walls)
		next, ok := p.settle(best.beyond, best.at)
		if !ok || next.scale <= best.scale {
			step /= 4
			continue
		}
		gain := next.scale/best.scale - 1
		best = next
		if gain < 1e-13 {
			break
		}
		step = min(longestStep, 2*step)
	}
	return best
}

// tilt works out the best small turn about the ways, up to step radians about each.
func (p *placer) tilt(from *placed, ways []r3.Vec, step float64) ([]float64, bool) {
	n := len(ways)
	// A step so bounded leaves most walls out of reach.
	move := 2 * step * from.scale * p.shape.radius
	low := []float64{0, from.at.X - move, from.at.Y - move, from.at.Z - move}
	high := []float64{(1 + 2*step) * from.scale, from.at.X + move, from.at.Y + move, from.at.Z + move}
	// The turn is an unknown times the scale, so that scale·turn is linear.
	for range n {
		low, high = append(low, -step*from.scale), append(high, step*from.scale)
	}
	lp := &p.tilts
	lp.Box(low, high)
	corners := make([]r3.Vec, len(p.shape.points))
	for i, v := range p.shape.points {
		corners[i] = from.turn.Of(v)
	}
	limit := func(w *wall, c r3.Vec) {
		lp.Limit(turning(r3.Dot(w.normal, c), w.normal, ways, r3.Cross(c, w.normal)), w.d)
	}
	var near []*wall
	reachable := (math.Sqrt(3) + 1 + math.Sqrt(float64(n))) * move
	for i := range p.walls {
		w := &p.walls[i]
		front := corners[foremost(corners, w.normal)]
		if w.d-r3.Dot(w.normal, r3.Add(from.at, r3.Scale(from.scale, front))) <= reachable {
			near = append(near, w)
			limit(w, front)
		}
	}
	for i, u := range from.beyond {
		if u == (r3.Vec{}) {
			continue
		}
		// The direction turns with the stone.
		f := &p.flaws[i]
		w := from.turn.Of(u)
		lever := r3.Scale(-1/from.scale, r3.Cross(w, r3.Sub(f.At, from.at)))
		lp.Limit(turning(reach(f.body(p.shape).points, u), w, ways, lever), r3.Dot(w, f.At)-f.ownReach(w, f.normal))
	}
	goal := goalTo(anyWay)
	for k := range ways {
		goal.Then[4+k] = 0.01 * float64(k+1)
	}
	s := lp.Start(&goal)
	moved := make([]r3.Vec, len(corners))
	// Of each wall only the corners that come to the front on the way are limits.
	for rounds, more := 0, true; more && rounds < len(corners); rounds++ {
		if lp.Solve(&s, &goal, 0) != linear.Optimal {
			return nil, false
		}
		var spin r3.Vec
		for k, way := range ways {
			spin = r3.Add(spin, r3.Scale(s.X[4+k]/s.X[0], way))
		}
		for i, c := range corners {
			moved[i] = r3.Add(c, r3.Cross(spin, c))
		}
		more = false
		for _, w := range near {
			front := foremost(moved, w.normal)
			// The program keeps its limits to a part of their size; what it keeps so is not added again.
			if s.X[0]*r3.Dot(w.normal, moved[front])+r3.Dot(w.normal, at(&s.X)) > w.d+1e-10*(1+math.Abs(w.d)) {
				limit(w, corners[front])
				more = true
			}
		}
	}
	by := make([]float64, n)
	for k := range by {
		by[k] = s.X[4+k] / s.X[0]
	}
	return by, true
}

// turning is a limit for scale, place and small turns about the ways.
func turning(scale float64, place r3.Vec, ways []r3.Vec, lever r3.Vec) [linear.Most]float64 {
	row := [linear.Most]float64{scale, place.X, place.Y, place.Z}
	for k, way := range ways {
		row[4+k] = r3.Dot(way, lever)
	}
	return row
}

// foremost is the number of the point that lies farthest along u.
func foremost(points []r3.Vec, u r3.Vec) int {
	best, most := 0, math.Inf(-1)
	for i := range points {
		p := &points[i]
		if d := u.X*p.X + u.Y*p.Y + u.Z*p.Z; d > most {
			best, most = i, d
		}
	}
	return best
}
