package fit

import (
	"container/heap"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/linear"
	"cressa/core/rough"
)

// room is what a piece leaves for a stone: its walls moved in by the allowance, and its flaws.
type room struct {
	piece     *rough.Piece
	allowance float64
	walls     []wall
	// few are walls that stand for all where a first look is enough: they let no less through.
	few       []wall
	flaws     []flaw
	low, high r3.Vec
	size      sizes
}

type wall struct {
	normal r3.Vec
	d      float64
}

// flaw is a flaw that a stone must keep out of its way.
type flaw struct {
	*rough.Flaw
	normal r3.Vec // of a disc, unit
	hidden bool
}

// body is what the flaw must keep out of.
func (f *flaw) body(h *Shape) *obstacle {
	if f.hidden {
		return h.core
	}
	return h.whole
}

// fewWalls is how many walls a first look takes.
const fewWalls = 240

func newRoom(piece *rough.Piece, allowance float64) *room {
	r := &room{piece: piece, allowance: allowance, size: sizesOf(piece)}
	for _, w := range piece.Walls {
		r.walls = append(r.walls, wall{w.Normal, w.D - allowance})
	}
	r.few = spreadOut(r.walls, fewWalls)
	for i := range piece.Flaws {
		f := &piece.Flaws[i]
		if f.Rule == rough.Accept {
			continue
		}
		one := flaw{Flaw: f, hidden: f.Rule == rough.Hidden}
		if f.Kind == rough.Disc {
			one.normal = r3.Unit(f.Normal)
		}
		r.flaws = append(r.flaws, one)
	}
	box := piece.Body.Bounds()
	r.low, r.high = box.Min, box.Max
	return r
}

// spreadOut picks walls whose directions lie far apart, all of them where they are few.
func spreadOut(walls []wall, n int) []wall {
	if len(walls) <= n {
		return walls
	}
	nearest := make([]float64, len(walls))
	for i := range nearest {
		nearest[i] = math.Inf(1)
	}
	out := make([]wall, 0, n)
	for next := 0; len(out) < n; {
		out = append(out, walls[next])
		from := walls[next].normal
		for i := range walls {
			nearest[i] = min(nearest[i], r3.Norm2(r3.Sub(walls[i].normal, from)))
		}
		for i := range nearest {
			if nearest[i] > nearest[next] {
				next = i
			}
		}
	}
	return out
}

// placed is a stone in a room: x = turn·(scale·v) + at for every point v of the shape.
type placed struct {
	turn  Turn
	scale float64
	at    r3.Vec
	// beyond tells for each flaw by which direction, in the shape's frame, it is kept out; the zero vector
	// where nothing has to be done for that.
	beyond []r3.Vec
}

// placer places one shape in a room. It belongs to one goroutine.
type placer struct {
	*room
	shape *Shape
	// lp has the unknowns scale and at; base counts the limits of the walls and the box.
	lp   *linear.Program
	base int
	turn Turn
	// tilts is the program of small turns.
	tilts linear.Program
	// quick is for a first look: flaws lie beyond facets only, and nothing is made the most of.
	quick bool
	// looser places in a room with few walls, nil until it is asked for.
	looser *placer
}

func newPlacer(r *room, h *Shape) *placer {
	most := r.most(h)
	return &placer{room: r, shape: h, lp: linear.New(
		[]float64{0, r.low.X, r.low.Y, r.low.Z}, []float64{1.000001 * most, r.high.X, r.high.Y, r.high.Z})}
}

// setWalls sets the limits of the walls for a turn.
func (p *placer) setWalls(t Turn, walls []wall) {
	p.turn = t
	p.lp.Keep(8)
	for _, w := range walls {
		p.lp.Limit([linear.Most]float64{reach(p.shape.points, t.Back(w.normal)), w.normal.X, w.normal.Y, w.normal.Z}, w.d)
	}
	p.base = p.lp.Limits()
}

// anyWay is a direction in which a stone is pushed that has room left, when nothing else counts.
var anyWay = r3.Vec{X: 0.3, Y: 0.2, Z: 0.1}

func goalTo(push r3.Vec) linear.Goal {
	return linear.Goal{First: [linear.Most]float64{1}, Then: [linear.Most]float64{0, push.X, push.Y, push.Z}}
}

func at(x *[linear.Most]float64) r3.Vec { return r3.Vec{X: x[1], Y: x[2], Z: x[3]} }

// free returns the largest scale at a turn without regard to flaws, 0 where none is above the floor.
func (p *placer) free(t Turn, walls []wall, floor float64) float64 {
	p.setWalls(t, walls)
	goal := goalTo(anyWay)
	s := p.lp.Start(&goal)
	if p.lp.Solve(&s, &goal, floor) != linear.Optimal {
		return 0
	}
	return s.X[0]
}

// keepOut adds the limit that a flaw lies beyond the plane of a direction: u·(q − at) ≥ scale·reach
// + the flaw's own reach, that times soften.
func (p *placer) keepOut(f *flaw, u r3.Vec, reach, own float64) {
	w := p.turn.Of(u)
	p.lp.Limit([linear.Most]float64{reach, w.X, w.Y, w.Z}, r3.Dot(w, f.At)-own)
}

// far is how far outside the body a flaw lies at least, in mm, negative by how deep it lies inside; it
// tells by which of the known directions that shows. For balls and discs it is no more than that.
func (p *placer) far(f *flaw, scale float64, at r3.Vec) (float64, int) {
	o := f.body(p.shape)
	d := p.turn.Back(r3.Sub(f.At, at))
	n := o.facets
	if f.Kind != rough.Point {
		n = len(o.along)
	}
	best, by := math.Inf(-1), 0
	m := p.turn.Back(f.normal)
	for i := range n {
		u := o.along[i]
		if out := r3.Dot(u, d) - scale*o.reach[i] - f.ownReach(u, m); out > best {
			best, by = out, i
		}
	}
	return best, by
}

// ownReach is how far the flaw reaches from its middle along u, with the normal m of a disc in u's frame.
func (f *flaw) ownReach(u, m r3.Vec) float64 {
	switch f.Kind {
	case rough.Ball:
		return f.Radius
	case rough.Disc:
		along := r3.Dot(u, m)
		return f.Radius * math.Sqrt(max(0, 1-along*along))
	}
	return 0
}

// closeBy is how far inside, in mm, counts as outside still: far below what can be measured, far above
// rounding.
const closeBy = 1e-9

// outside tells whether a flaw is kept out, and the direction from the body to it where they are apart.
func (p *placer) outside(f *flaw, scale float64, at r3.Vec) (bool, r3.Vec) {
	o := f.body(p.shape)
	way := between(o.points, scale, f.Flaw, p.turn.Back(r3.Sub(f.At, at)), p.turn.Back(f.normal))
	apart := r3.Norm(way)
	if f.Kind == rough.Ball {
		apart -= f.Radius
	}
	if n := r3.Norm(way); n > 1e-7 {
		return apart >= -closeBy, r3.Scale(1/n, way)
	}
	out, _ := p.far(f, scale, at)
	return out >= -closeBy, r3.Vec{}
}

// node is a program in the search: flaws with the directions that they are kept out by.
type node struct {
	// scale is what no stone on this path exceeds.
	scale  float64
	corner linear.Corner
	path   []choice
}

type choice struct{ flaw, direction int32 }

type open []*node

func (o open) Len() int           { return len(o) }
func (o open) Less(i, j int) bool { return o[i].scale > o[j].scale }
func (o open) Swap(i, j int)      { o[i], o[j] = o[j], o[i] }
func (o *open) Push(x any)        { *o = append(*o, x.(*node)) }
func (o *open) Pop() any {
	last := len(*o) - 1
	n := (*o)[last]
	*o = (*o)[:last]
	return n
}

// best returns the largest stone at a turn, or false where none is above the floor. Flaws that lie in
// the largest stone are kept out by a direction after another, best bound first. A bound lets each
// direction stand for those around it, and so is never too low; what comes of it is a stone for sure.
// After so many nodes it is content with what it has.
func (p *placer) best(t Turn, floor float64, nodes int) (placed, bool) {
	// Where walls are many a few of them bound what there can be, and all of them count for what there is.
	b := p.bounding()
	b.setWalls(t, b.walls)
	if b != p {
		p.setWalls(t, p.walls)
	}
	var middle r3.Vec
	centre := r3.Scale(0.5, r3.Add(p.low, p.high))
	for i := range p.flaws {
		middle = r3.Add(middle, r3.Sub(centre, p.flaws[i].At))
	}
	goal := goalTo(r3.Add(r3.Scale(0.01, anyWay), middle))
	start := b.lp.Start(&goal)
	if b.lp.Solve(&start, &goal, floor) != linear.Optimal {
		return placed{}, false
	}
	found := placed{scale: floor}
	// What comes of taking each flaw as it shows is no bound, but something to hold others against, and all
	// there is where flaws are too many to search through.
	if s, ok := p.settle(make([]r3.Vec, len(p.flaws)), at(&start.X)); ok && s.scale > found.scale {
		found = s
	}
	waiting := open{{scale: start.X[0], corner: start.Corner()}}
	for ; len(waiting) > 0 && nodes > 0; nodes-- {
		n := heap.Pop(&waiting).(*node)
		if n.scale <= found.scale*(1+1e-12) {
			break
		}
		b.take(n.path)
		state := b.lp.Restore(n.corner, &goal)
		next := b.deepest(n, &state)
		if next < 0 {
			if s, ok := p.settle(p.beyond(n.path), at(&state.X)); ok && s.scale > found.scale {
				found = s
			}
			continue
		}
		b.branch(n, &state, next, &goal, found.scale, &waiting)
	}
	return found, found.scale > floor
}

// bounding is the placer that the search around flaws bounds with: this one, or one with few walls.
func (p *placer) bounding() *placer {
	if len(p.few) == len(p.walls) {
		return p
	}
	if p.looser == nil {
		r := *p.room
		r.walls = r.few
		p.looser = newPlacer(&r, p.shape)
	}
	p.looser.quick = p.quick
	return p.looser
}

// take sets the limits of a path.
func (p *placer) take(path []choice) {
	p.lp.Keep(p.base)
	for _, c := range path {
		f := &p.flaws[c.flaw]
		o := f.body(p.shape)
		p.keepOut(f, o.along[c.direction], o.reach[c.direction], p.softReach(f, o, int(c.direction)))
	}
}

// softReach is the least that the flaw reaches in the directions that one stands for, as far as it counts
// along that one.
func (p *placer) softReach(f *flaw, o *obstacle, i int) float64 {
	if p.quick {
		return f.ownReach(o.along[i], p.turn.Back(f.normal))
	}
	if f.Kind != rough.Disc {
		return f.Radius * o.soften[i]
	}
	if f.Radius == 0 {
		return 0
	}
	to := math.Acos(min(1, math.Abs(r3.Dot(o.along[i], p.turn.Back(f.normal)))))
	return f.Radius * math.Sin(max(0, to-o.near[i])) * o.soften[i]
}

// deepest returns the flaw that lies deepest in the stone of a node and has no direction yet, -1 where
// none does.
func (p *placer) deepest(n *node, state *linear.State) int {
	worst, depth := -1, -closeBy
	x := at(&state.X)
	for i := range p.flaws {
		if n.has(i) {
			continue
		}
		f := &p.flaws[i]
		far, _ := p.far(f, state.X[0], x)
		if far >= -closeBy || far >= depth {
			continue
		}
		if f.Kind != rough.Point {
			if out, _ := p.outside(f, state.X[0], x); out {
				continue
			}
		}
		worst, depth = i, far
	}
	return worst
}

func (n *node) has(flaw int) bool {
	for _, c := range n.path {
		if int(c.flaw) == flaw {
			return true
		}
	}
	return false
}

// branch tries all directions for a flaw.
func (p *placer) branch(n *node, from *linear.State, i int, goal *linear.Goal, floor float64, waiting *open) {
	f := &p.flaws[i]
	o := f.body(p.shape)
	directions := len(o.along)
	if p.quick || f.Kind == rough.Point {
		// What lies outside of a solid with flat sides lies beyond one of them.
		directions = o.facets
	}
	kept := p.lp.Limits()
	for d := range directions {
		p.keepOut(f, o.along[d], o.reach[d], p.softReach(f, o, d))
		state := *from
		if p.lp.TakeIn(&state, kept) && p.lp.Solve(&state, goal, floor) == linear.Optimal {
			path := append(append(make([]choice, 0, len(n.path)+1), n.path...), choice{int32(i), int32(d)})
			heap.Push(waiting, &node{state.X[0], state.Corner(), path})
		}
		p.lp.Keep(kept)
	}
}

// beyond are the directions of a path for each flaw.
func (p *placer) beyond(path []choice) []r3.Vec {
	out := make([]r3.Vec, len(p.flaws))
	for _, c := range path {
		out[c.flaw] = p.flaws[c.flaw].body(p.shape).along[c.direction]
	}
	return out
}

// settle makes the most of directions: each is turned to the shortest way between stone and flaw,
// which leaves room, and the stone grows into that, until it grows no more. Flaws that come to lie
// inside get a direction. The walls of the turn are set; from is about where the stone lies.
func (p *placer) settle(beyond []r3.Vec, from r3.Vec) (placed, bool) {
	best := placed{turn: p.turn}
	rounds := 60
	if p.quick {
		rounds = 3
	}
	for round := range rounds {
		goal := goalTo(p.awayFrom(beyond, from))
		p.lp.Keep(p.base)
		for i, u := range beyond {
			if u != (r3.Vec{}) {
				f := &p.flaws[i]
				p.keepOut(f, u, reach(f.body(p.shape).points, u), f.ownReach(u, p.turn.Back(f.normal)))
			}
		}
		s := p.lp.Start(&goal)
		if p.lp.Solve(&s, &goal, 0) != linear.Optimal {
			return best, best.scale > 0
		}
		from = at(&s.X)
		next, inside := p.turned(beyond, s.X[0], from)
		if !inside {
			grown := s.X[0] > best.scale*(1+1e-12)
			if s.X[0] > best.scale {
				best.scale, best.at, best.beyond = s.X[0], from, beyond
			}
			if !grown && round > 0 {
				return best, true
			}
		}
		beyond = next
	}
	return best, best.scale > 0
}

// turned returns the directions for the next round, and whether a flaw without one lay inside.
func (p *placer) turned(beyond []r3.Vec, scale float64, x r3.Vec) ([]r3.Vec, bool) {
	next := append([]r3.Vec{}, beyond...)
	inside := false
	for i := range p.flaws {
		f := &p.flaws[i]
		known := beyond[i] != (r3.Vec{})
		if !known {
			if far, _ := p.far(f, scale, x); far >= -closeBy {
				continue
			}
		}
		out, way := p.outside(f, scale, x)
		switch {
		case known && way != (r3.Vec{}):
			next[i] = way
		case !known && !out:
			_, by := p.far(f, scale, x)
			next[i], inside = f.body(p.shape).along[by], true
		}
	}
	return next, inside
}

// awayFrom is the way from the flaws that have a direction to a place.
func (p *placer) awayFrom(beyond []r3.Vec, from r3.Vec) r3.Vec {
	sum := r3.Scale(1e-3, anyWay)
	for i, u := range beyond {
		if u == (r3.Vec{}) {
			continue
		}
		if way := r3.Sub(from, p.flaws[i].At); r3.Norm(way) > 0 {
			sum = r3.Add(sum, r3.Unit(way))
		}
	}
	return sum
}
