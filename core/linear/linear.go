// Package linear solves linear programs of few unknowns and many limits, as they come up where a
// stone is fitted into a solid: the size and the place of a stone are four unknowns, with a small
// turn seven, and every face of the solid is a limit.
//
// The method is the dual simplex: it starts where the goal is too high, and takes in the most
// exceeded limit until none is. The goal only falls on the way, so that a search can give a program
// up as soon as it falls below what it has, and a limit that is added later is taken in from where
// the program stood.
package linear

import "math"

// Most is the largest number of unknowns.
const Most = 8

// Status tells how a solution ended.
type Status int

// The ways to end.
const (
	// Optimal: no limit is exceeded, and no point within them has a higher goal.
	Optimal Status = iota
	// Impossible: no point is within all limits.
	Impossible
	// Below: the goal is at or below the floor that was asked for; how far is not known.
	Below
	// Stalled: the program went round in circles for Patience steps.
	Stalled
)

// Patience is how many steps a solution may take. A few dozen are usual.
const Patience = 5000

// Goal is what is made as large as possible: First·x, and among equal ones Then·x.
type Goal struct{ First, Then [Most]float64 }

// Program has limits a·x ≤ b on n unknowns.
type Program struct {
	n int
	// rows holds n coefficients and a right side for each limit; the first 2n are the box.
	rows []float64
}

// New returns a program with the limits low ≤ x ≤ high, one to Most unknowns. A solution starts in
// a corner of that box.
func New(low, high []float64) *Program {
	p := &Program{}
	p.Box(low, high)
	return p
}

// Box begins a new program in the memory of the old one.
func (p *Program) Box(low, high []float64) {
	p.n, p.rows = len(low), p.rows[:0]
	for k := range low {
		var a [Most]float64
		a[k] = 1
		p.Limit(a, high[k])
		a[k] = -1
		p.Limit(a, -low[k])
	}
}

// Limit adds a·x ≤ b.
func (p *Program) Limit(a [Most]float64, b float64) {
	p.rows = append(p.rows, a[:p.n]...)
	p.rows = append(p.rows, b)
}

// Limits returns how many limits there are, those of the box included.
func (p *Program) Limits() int { return len(p.rows) / (p.n + 1) }

// Keep drops all limits but the first so many.
func (p *Program) Keep(limits int) { p.rows = p.rows[:limits*(p.n+1)] }

func (p *Program) row(i int) []float64 { return p.rows[i*(p.n+1) : (i+1)*(p.n+1)] }

// excess tells by how much x exceeds a limit, negative within it.
func excess(row []float64, x *[Most]float64) float64 {
	n := len(row) - 1
	sum := -row[n]
	for k, a := range row[:n] {
		sum += a * x[k]
	}
	return sum
}

// State is a corner where n limits hold exactly and that no point within these n can better. It is
// a value: a copy can be taken up again after other limits were tried.
type State struct {
	X     [Most]float64
	limit [Most]int
	// inverse is that of the matrix of the n limits.
	inverse [Most][Most]float64
	// pays is what each limit holds the goal by, for its two parts.
	pays [2][Most]float64
}

// Corner is a state as the limits that it stands at: a tenth of the memory, for a search that keeps many.
type Corner [Most]int32

// Corner returns the corner of a state.
func (s *State) Corner() Corner {
	var c Corner
	for k, l := range s.limit {
		c[k] = int32(l)
	}
	return c
}

// Restore returns the state of a corner. The program must have the limits that it had, in their order.
func (p *Program) Restore(c Corner, g *Goal) State {
	var s State
	for k, l := range c {
		s.limit[k] = int(l)
	}
	p.polish(&s, g)
	return s
}

// Start returns the corner of the box where the goal is highest.
func (p *Program) Start(g *Goal) State {
	var s State
	for k := range p.n {
		up := g.First[k]
		if up == 0 {
			up = g.Then[k]
		}
		s.limit[k] = 2 * k
		sign := 1.0
		if up < 0 {
			s.limit[k], sign = 2*k+1, -1
		}
		s.inverse[k][k] = sign
		s.X[k] = sign * p.row(s.limit[k])[p.n]
		s.pays[0][k], s.pays[1][k] = sign*g.First[k], sign*g.Then[k]
	}
	return s
}

// Value returns the first part of the goal at the corner.
func (g *Goal) Value(s *State) float64 {
	sum := 0.0
	for k, c := range g.First {
		sum += c * s.X[k]
	}
	return sum
}

// slack is how far a limit may be exceeded and still counts as kept, for its right side.
func slack(b float64) float64 { return 1e-12 * (1 + math.Abs(b)) }

// Solve goes on from a state to the best corner within all limits. It ends early where the goal
// falls to the floor.
func (p *Program) Solve(s *State, g *Goal, floor float64) Status {
	polished := false
	for range Patience {
		if g.Value(s) <= floor {
			return Below
		}
		worst := p.worst(s)
		switch {
		case worst < 0 && polished:
			return Optimal
		case worst < 0:
			// Rounding has gathered in the inverse; made anew it may show a limit as exceeded.
			polished = true
			if !p.polish(s, g) {
				return Stalled
			}
		case !p.takeIn(s, worst):
			return Impossible
		default:
			polished = false
		}
	}
	return Stalled
}

// worst is the limit that the corner exceeds most, -1 where it keeps all. Most of a search's time goes
// by here, with four unknowns.
func (p *Program) worst(s *State) int {
	worst, by := -1, 0.0
	n := p.n
	if n != 4 {
		for i := range p.Limits() {
			row := p.row(i)
			if e := excess(row, &s.X); e > by && e > slack(row[n]) {
				worst, by = i, e
			}
		}
		return worst
	}
	x, y, z, w := s.X[0], s.X[1], s.X[2], s.X[3]
	rows := p.rows
	for i := 0; len(rows) >= 5; i++ {
		row := rows[:5:5]
		if e := row[0]*x + row[1]*y + row[2]*z + row[3]*w - row[4]; e > by && e > slack(row[4]) {
			worst, by = i, e
		}
		rows = rows[5:]
	}
	return worst
}

// takeIn moves to the corner where an exceeded limit holds exactly, in the place of the one that
// first stops paying. It is false where no limit can leave: then all of them together cannot be kept.
func (p *Program) takeIn(s *State, limit int) bool {
	row := p.row(limit)
	// The new limit is a sum of those of the corner, by these shares.
	var share [Most]float64
	for j := range p.n {
		for k := range p.n {
			share[j] += row[k] * s.inverse[k][j]
		}
	}
	leave := -1
	for j := range p.n {
		if share[j] > 1e-11 && (leave < 0 || s.sooner(j, leave, &share)) {
			leave = j
		}
	}
	if leave < 0 {
		return false
	}
	e := excess(row, &s.X)
	pivot := share[leave]
	for part := range s.pays {
		t := s.pays[part][leave] / pivot
		for j := range p.n {
			s.pays[part][j] -= t * share[j]
		}
		s.pays[part][leave] = t
	}
	for k := range p.n {
		col := s.inverse[k][leave] / pivot
		for j := range p.n {
			s.inverse[k][j] -= share[j] * col
		}
		s.inverse[k][leave] = col
		s.X[k] -= e * col
	}
	s.limit[leave] = limit
	return true
}

// sooner tells whether limit i of the corner stops paying before limit j does. Where both pay
// nothing towards the first part of the goal the second decides, so that no two corners are equal
// and the program does not go round in circles.
func (s *State) sooner(i, j int, share *[Most]float64) bool {
	const nothing = 1e-12
	a, b := s.pays[0][i]/share[i], s.pays[0][j]/share[j]
	if math.Abs(a-b) > nothing*(1+math.Abs(a)) {
		return a < b
	}
	return s.pays[1][i]/share[i] < s.pays[1][j]/share[j]
}

// TakeIn takes in a limit that the corner exceeds, whether it is the most exceeded or not, and tells
// whether that is possible at all. A limit that is kept changes nothing.
func (p *Program) TakeIn(s *State, limit int) bool {
	row := p.row(limit)
	return excess(row, &s.X) <= slack(row[p.n]) || p.takeIn(s, limit)
}

// polish works the corner out anew from its limits, by elimination with the largest pivots.
func (p *Program) polish(s *State, g *Goal) bool {
	n := p.n
	var m [Most][2 * Most]float64
	for i := range n {
		copy(m[i][:n], p.row(s.limit[i])[:n])
		m[i][Most+i] = 1
	}
	for c := range n {
		best := c
		for r := c + 1; r < n; r++ {
			if math.Abs(m[r][c]) > math.Abs(m[best][c]) {
				best = r
			}
		}
		m[c], m[best] = m[best], m[c]
		if math.Abs(m[c][c]) < 1e-14 {
			return false
		}
		scale := 1 / m[c][c]
		for k := range m[c] {
			m[c][k] *= scale
		}
		for r := range n {
			if f := m[r][c]; r != c && f != 0 {
				for k := range m[r] {
					m[r][k] -= f * m[c][k]
				}
			}
		}
	}
	for k := range n {
		s.X[k] = 0
		for j := range n {
			s.inverse[k][j] = m[k][Most+j]
			s.X[k] += m[k][Most+j] * p.row(s.limit[j])[n]
		}
	}
	for j := range n {
		s.pays[0][j], s.pays[1][j] = 0, 0
		for k := range n {
			s.pays[0][j] += g.First[k] * s.inverse[k][j]
			s.pays[1][j] += g.Then[k] * s.inverse[k][j]
		}
	}
	return true
}

// At returns a limit: a and b of a·x ≤ b.
func (p *Program) At(limit int) (a [Most]float64, b float64) {
	row := p.row(limit)
	copy(a[:], row[:p.n])
	return a, row[p.n]
}

// Pays tells by how much the first part of the goal would grow for each unit that a limit gives way; 0
// for one that does not hold the corner.
func (p *Program) Pays(s *State, limit int) float64 {
	for k := range p.n {
		if s.limit[k] == limit {
			return s.pays[0][k]
		}
	}
	return 0
}
