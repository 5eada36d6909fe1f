// Package fit finds the largest stone of a shape in a piece of rough: its size, its turn and its place,
// clear of the flaws that must not be in it.
//
// At one turn, size and place are a linear program (package linear): every wall of the piece is a limit
// for the foremost corner of the stone. A flaw that must stay out lies beyond some plane that touches the
// stone; which one is searched for, best bound first. Turns are searched on a grid that is laid along the
// piece's own axes, and the best are turned on little by little until they grow no more.
package fit

import (
	"cmp"
	"context"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/linear"
	"cressa/core/rough"
	"cressa/core/work"
)

// UsualAllowance is what is taken off all round where nothing else is said, in mm.
const UsualAllowance = 0.3

// Ended tells how a search ended.
type Ended string

// The ways to end.
const (
	// Done: all that was to be tried was tried.
	Done Ended = "done"
	// Stopped: the context ended it; what it has is a stone that fits all the same.
	Stopped Ended = "stopped"
)

// Kind says what a stone touches.
type Kind string

// What limits a stone.
const (
	Face Kind = "face"
	Trim Kind = "trim"
	Flaw Kind = "flaw"
)

// Touched names what a stone touches.
type Touched struct {
	Kind Kind
	Name string
}

// Fit is the largest stone of a shape that was found.
type Fit struct {
	Shape *Shape
	// Scale is in mm for a design unit, 0 where the flaws leave no room. A point v of the diagram's frame
	// lies at Turn·(Scale·v) + Offset in the piece's.
	Scale  float64
	Turn   Turn
	Offset r3.Vec
	// Bound is a scale that no turn can exceed.
	Bound float64
	// LimitedBy is all that the stone touches.
	LimitedBy []Touched
	Ended     Ended
}

// Width returns the stone's width in mm.
func (f Fit) Width() float64 { return f.Scale * f.Shape.Width }

// Volume returns the stone's volume in mm³.
func (f Fit) Volume() float64 { return f.Scale * f.Scale * f.Scale * f.Shape.Volume }

// NoRoom tells that the allowance leaves nothing of the piece.
type NoRoom struct{ Allowance float64 }

func (NoRoom) Error() string { return "the allowance leaves nothing of the piece" }

// Search says how a stone is looked for.
type Search struct {
	// Allowance is kept from all natural and sawn faces, in mm.
	Allowance float64
	// Round counts how often this was searched before: every round tries other turns.
	Round int
	// Glance tries few turns, once: enough to compare many pieces with each other.
	Glance bool
	// Near tries turns about this one alone, once, beside those along the axes: for a shape that is little
	// different from one that is known to fit so.
	Near *Turn
}

// How much of what is tried. A grid of gridTurns lies some 13 degrees apart; of its turns the best are
// looked at with the flaws, and the best of these are climbed from. A glance tries a part of that.
const (
	gridTurns = 4800
	looks     = 800
	climbs    = 64
	glance    = 12
	// Nodes of the search around flaws: at a first look, at a turn that was climbed to, and at those along
	// the axes.
	quickNodes, nextNodes, fullNodes = 12, 40, 400
)

// Largest finds the largest stone of a shape in a piece. It tells of every step how much is done, 0 to 1,
// and the best so far. It returns NoRoom where nothing is left of the piece. Where the context ends it
// early, the best so far is the answer.
func Largest(ctx context.Context, piece *rough.Piece, shape *Shape, how Search, tell func(done float64, best Fit)) (Fit, error) {
	r := newRoom(piece, how.Allowance)
	if !(r.size.ball > how.Allowance) {
		return Fit{}, NoRoom{how.Allowance}
	}
	s := &search{room: r, shape: shape, how: how, tell: tell, best: placed{turn: Still}}
	if a := piece.Axis; a != nil && a.ToTable != nil {
		s.freedom = freedom{tied: true, axis: r3.Unit(a.Direction), sine: math.Sin(*a.ToTable * math.Pi / 180)}
		if *a.ToTable == 90 {
			s.sine = 1
		}
	}
	ended := Done
	if s.run(ctx) != nil {
		ended = Stopped
	}
	return s.answer(s.best, ended), nil
}

type search struct {
	*room
	shape *Shape
	how   Search
	freedom
	best placed
	tell func(float64, Fit)
	// shift tells one round's turns from another's; a round goes from one part of the whole to another.
	shift, from, to float64
}

// look is a turn with how large a stone may become there.
type look struct {
	turn  Turn
	scale float64
}

// rounds is how often a search begins anew, on other turns: a piece with few walls costs little.
func (s *search) rounds() int {
	switch n := len(s.walls); {
	case s.how.Glance || s.how.Near != nil:
		return 1
	case n <= 24:
		return 4
	case n <= 128:
		return 2
	}
	return 1
}

// run is the search. The error is the context's.
func (s *search) run(ctx context.Context) error {
	n := s.rounds()
	for i := range n {
		s.shift = math.Mod(float64(s.how.Round*n+i)*0.618033988749895, 1)
		s.from, s.to = float64(i)/float64(n), float64(i+1)/float64(n)
		if err := s.round(ctx); err != nil {
			return err
		}
	}
	return nil
}

// round searches once.
func (s *search) round(ctx context.Context) error {
	all := s.axes()
	along := len(all)
	all = append(all, s.grid()...)
	axes := all[:along:along]
	if err := s.measure(ctx, all, s.few); err != nil {
		return err
	}
	s.told(0.2)
	// A stone that no flaw bothers is the best start, and often the answer.
	peaks, err := s.climbFree(ctx, append(apart(s.shape, all, s.some(climbs), s.how.between()), axes...))
	if err != nil || len(s.flaws) == 0 {
		return err
	}
	s.told(0.4)
	candidates := slices.Concat(peaks, apart(s.shape, all, s.some(looks), s.how.between()))
	return s.withFlaws(ctx, axes, candidates)
}

// axes are the turns that carry axes to axes and are allowed.
func (s *search) axes() []look {
	var out []look
	for _, t := range axisTurns() {
		if s.allows(t) && !slices.ContainsFunc(out, func(l look) bool { return s.shape.apart(l.turn, t) < alike }) {
			out = append(out, look{turn: t})
		}
	}
	return out
}

// alike is the angle in radians below which two turns are one: far above what rounding makes of none.
const alike = 1e-6

// apart is the least angle between two turns of the shape, which may look the same at several.
func (h *Shape) apart(a, b Turn) float64 {
	least := math.Inf(1)
	for _, g := range h.same {
		least = min(least, b.angleTo(a.After(g)))
	}
	return least
}

// grid lays turns along the piece's own axes, those that differ.
func (s *search) grid() []look {
	if s.how.Near != nil {
		return s.about(*s.how.Near)
	}
	_, axes := s.piece.Body.Axes()
	frame := Turn{axes[0], axes[1], axes[2]}.Inverse()
	var out []look
	if s.tied {
		return s.cones()
	}
	for _, t := range spread(s.some(gridTurns), s.shift) {
		first := true
		for _, g := range s.shape.same {
			// Of turns that look alike the one nearest to none stands for all.
			first = first && t.After(g).trace() <= t.trace()+1e-12
		}
		if first {
			out = append(out, look{turn: frame.After(t)})
		}
	}
	return out
}

// about lays turns about one, as far as they are allowed.
func (s *search) about(t Turn) []look {
	ways := s.ways(t)
	out := []look{{turn: t}}
	const steps, step = 2, 0.13 // radians
	by := make([]float64, len(ways))
	var lay func(k int)
	lay = func(k int) {
		if k == len(ways) {
			out = append(out, look{turn: s.turn(t, ways, by)})
			return
		}
		for i := -steps; i <= steps; i++ {
			by[k] = float64(i) * step
			lay(k + 1)
		}
	}
	lay(0)
	return slices.DeleteFunc(out, func(l look) bool { return !s.allows(l.turn) })
}

// some is so much of what a whole search tries.
func (s *search) some(whole int) int {
	switch {
	case s.how.Near != nil:
		return max(8, whole/glance)
	case s.how.Glance:
		return max(6, whole/glance)
	}
	return whole
}

// between is the angle in radians that turns are apart from which is climbed.
func (s Search) between() float64 {
	if s.Near != nil {
		return firstStep
	}
	return 2 * firstStep
}

// coneSteps is how many steps go round a cone, and round the table.
const coneSteps = 48

// cones lays turns on the two cones on which the table's normal may lie.
func (s *search) cones() []look {
	cos := math.Sqrt(max(0, 1-s.sine*s.sine))
	frame := frameTo(s.axis)
	var out []look
	senses := []float64{1, -1}
	if s.sine == 0 {
		senses = senses[:1]
	}
	round := coneSteps
	if cos < 1e-9 {
		round = 1
	}
	for _, sense := range senses {
		for i := range round {
			sin, c := math.Sincos(2 * math.Pi * (float64(i) + s.shift) / float64(round))
			table := frame.Of(r3.Vec{X: cos * c, Y: cos * sin, Z: sense * s.sine})
			onTable := frameTo(r3.Unit(table))
			for k := range coneSteps {
				spin := about(r3.Vec{Z: 2 * math.Pi * (float64(k) + s.shift) / coneSteps})
				out = append(out, look{turn: onTable.After(spin)})
			}
		}
	}
	return out
}

// measure tells for every turn how large a stone may be at most, flaws left aside.
func (s *search) measure(ctx context.Context, all []look, walls []wall) error {
	const batch = 64
	return work.Each(ctx, (len(all)+batch-1)/batch, func() *placer { return newPlacer(s.room, s.shape) }, func(p *placer, b int) {
		for i := b * batch; i < min(len(all), (b+1)*batch); i++ {
			all[i].scale = p.free(all[i].turn, walls, 0)
		}
	})
}

// apart picks the largest that lie apart by an angle in radians, so that many climb from many places.
func apart(h *Shape, all []look, n int, angle float64) []look {
	sorted := slices.Clone(all)
	slices.SortStableFunc(sorted, func(a, b look) int { return cmp.Compare(b.scale, a.scale) })
	var out []look
	for _, l := range sorted {
		if len(out) == n {
			break
		}
		if !slices.ContainsFunc(out, func(o look) bool { return h.apart(o.turn, l.turn) < angle }) {
			out = append(out, l)
		}
	}
	return out
}

// climbFree climbs with flaws left aside, and returns where that leads. Without flaws the best is kept.
func (s *search) climbFree(ctx context.Context, from []look) ([]look, error) {
	bare := *s.room
	bare.flaws = nil
	got := make([]placed, len(from))
	err := work.Each(ctx, len(from), func() *placer { return newPlacer(&bare, s.shape) }, func(p *placer, i int) {
		p.setWalls(from[i].turn, p.walls)
		if at, ok := p.settle(nil, r3.Vec{}); ok {
			got[i] = p.climb(at, &s.freedom)
		}
	})
	if len(s.flaws) == 0 {
		s.keep(got)
	}
	var out []look
	for _, p := range got {
		if p.scale > 0 {
			out = append(out, look{p.turn, p.scale})
		}
	}
	return out, err
}

func (s *search) keep(all []placed) {
	for _, p := range all {
		if p.scale > s.best.scale {
			s.best = p
		}
	}
}

// withFlaws looks at turns with the flaws in, fully at those along the axes, and climbs from the best.
func (s *search) withFlaws(ctx context.Context, axes, candidates []look) error {
	look := func(turns []look, nodes int, quick bool, share float64) ([]placed, error) {
		got := make([]placed, len(turns))
		floor := share * s.best.scale
		err := work.Each(ctx, len(turns), func() *placer { return newPlacer(s.room, s.shape) }, func(p *placer, i int) {
			if p.quick = quick; turns[i].scale > floor {
				got[i], _ = p.best(turns[i].turn, floor, nodes)
			}
		})
		s.keep(got)
		return got, err
	}
	if s.from > 0 {
		axes = nil // they were looked at in the first round
	}
	first, err := look(axes, fullNodes, false, 0)
	if err != nil {
		return err
	}
	s.told(0.5)
	more, err := look(candidates, quickNodes, true, 0.7)
	if err != nil {
		return err
	}
	s.told(0.7)
	found := slices.DeleteFunc(append(first, more...), func(p placed) bool { return p.scale == 0 || p.beyond == nil })
	slices.SortStableFunc(found, func(a, b placed) int { return cmp.Compare(b.scale, a.scale) })
	found = found[:min(s.some(climbs), len(found))]
	err = work.Each(ctx, len(found), func() *placer { return newPlacer(s.room, s.shape) }, func(p *placer, i int) {
		at := p.climb(found[i], &s.freedom)
		// At the new turn another way around the flaws may be better.
		if again, ok := p.best(at.turn, at.scale, nextNodes); ok {
			at = p.climb(again, &s.freedom)
		}
		found[i] = at
	})
	s.keep(found)
	s.told(1)
	return err
}

func (s *search) told(done float64) {
	if s.tell != nil {
		s.tell(s.from+done*(s.to-s.from), s.answer(s.best, ""))
	}
}

// touching is how close, in mm, a stone touches.
const touching = 1e-6

// answer says what a placed stone is to others. A stone that has room to move is moved to the middle of
// it, so that it touches only what holds it.
func (s *search) answer(at placed, ended Ended) Fit {
	p := newPlacer(s.room, s.shape)
	f := Fit{Shape: s.shape, Bound: s.most(s.shape), Ended: ended, Turn: at.turn, Scale: at.scale}
	if at.scale == 0 {
		return f
	}
	p.setWalls(at.turn, p.walls)
	at.at = p.centred(at)
	f.Offset = r3.Sub(at.at, at.turn.Of(r3.Scale(at.scale, s.shape.centre)))
	f.LimitedBy = p.touched(at)
	return f
}

// centred moves a stone to where the least of what is left between it and walls and flaws that do not
// hold it is largest.
func (p *placer) centred(a placed) r3.Vec {
	goal := goalTo(p.awayFrom(a.beyond, a.at))
	p.lp.Keep(p.base)
	for i, u := range a.beyond {
		if u != (r3.Vec{}) {
			f := &p.flaws[i]
			p.keepOut(f, u, reach(f.body(p.shape).points, u), f.ownReach(u, p.turn.Back(f.normal)))
		}
	}
	s := p.lp.Start(&goal)
	if p.lp.Solve(&s, &goal, 0) != linear.Optimal {
		return a.at
	}
	room := linear.New([]float64{0, p.low.X, p.low.Y, p.low.Z}, []float64{r3.Norm(r3.Sub(p.high, p.low)), p.high.X, p.high.Y, p.high.Z})
	for i := 8; i < p.lp.Limits(); i++ {
		row, b := p.lp.At(i)
		b -= row[0] * a.scale
		row[0] = 1
		if p.lp.Pays(&s, i) > 1e-9 {
			// What holds the stone goes on holding it, but for rounding.
			row[0], b = 0, max(b, row[1]*a.at.X+row[2]*a.at.Y+row[3]*a.at.Z)
		}
		room.Limit(row, b)
	}
	middle := goalTo(anyWay)
	m := room.Start(&middle)
	if room.Solve(&m, &middle, -1) != linear.Optimal {
		return a.at
	}
	x := at(&m.X)
	// A flaw that nothing had to be done about may not be moved into.
	for i := range p.flaws {
		if out, _ := p.outside(&p.flaws[i], a.scale, x); !out {
			return a.at
		}
	}
	return x
}

// touched names what a stone touches.
func (p *placer) touched(a placed) []Touched {
	out := []Touched{}
	for i, w := range p.walls {
		gap := w.d - r3.Dot(w.normal, a.at) - a.scale*reach(p.shape.points, p.turn.Back(w.normal))
		if gap > touching {
			continue
		}
		kind := Face
		if p.piece.Walls[i].Sawn {
			kind = Trim
		}
		out = append(out, Touched{kind, p.piece.Walls[i].Name})
	}
	for i := range p.flaws {
		f := &p.flaws[i]
		way := between(f.body(p.shape).points, a.scale, f.Flaw, p.turn.Back(r3.Sub(f.At, a.at)), p.turn.Back(f.normal))
		gap := r3.Norm(way)
		if f.Kind == rough.Ball {
			gap -= f.Radius
		}
		if gap <= touching {
			out = append(out, Touched{Flaw, f.Name})
		}
	}
	return out
}
