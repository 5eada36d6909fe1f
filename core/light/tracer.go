package light

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Limits of a ray's path.
const (
	mostHits    = 64
	leastEnergy = 1e-4
)

// tracer follows the rays of a row from left to right. Neighbours mostly pass the same
// facets, and then their directions and what they lose are the same and their points
// move evenly from column to column. So the tracer computes for every step of a path to
// which column it holds, and takes up the path of the last ray where the next one leaves
// it. A tracer belongs to one goroutine.
type tracer struct {
	stone  *Stone
	n      float64
	frost  bool
	eye    r3.Vec // towards the eye, length 1
	shift  r3.Vec // from a ray to the next of its row
	inHead float64
	// alpha is each channel's absorption in 1/design unit, nothing for a stone without
	// colour, which has one channel.
	alpha    []float64
	channels int
	// inside is nil for a stone that is clear and of one colour.
	inside *inside

	entry entry
	// steps are those of the last ray, as many as are known.
	steps [mostHits]step
	known int
	// memory holds, by the facets that a ray has passed, where the last such ray went
	// next: mostly in the row before. It is a guess to begin from; two trails may share a
	// place.
	memory [memories]int32
	// outcome is that of the last ray.
	outcome outcome
}

// memories is the number of trails that a tracer remembers, a power of two.
const memories = 1 << 13

// onward names the trail of facets that goes on to one more.
func onward(trail uint32, facet int) uint32 { return trail*31 + uint32(facet) + 1 }

// entry is where a ray gets into the stone.
type entry struct {
	facet int
	// last is the last column whose ray enters here.
	last  float64
	glare float64
}

// step is a ray's path through the stone from one facet to the next, and what it does there.
type step struct {
	// from is where the step starts for the ray in a column, drift how that moves with
	// each column.
	from, drift r3.Vec
	column      float64
	// dir is the step's direction, length how far it goes and stretch how much that
	// grows with each column.
	dir             r3.Vec
	length, stretch float64
	// facet is where it ends, last the last column whose ray has come and ends alike.
	facet int
	last  float64
	// ends tells that a frosted girdle keeps the light.
	ends bool
	// kept is the share that is mirrored. The rest leaves: up above the horizon, with
	// the cosine of its angle to the axis, inHead into the head.
	kept   float64
	up     bool
	cosine float64
	inHead bool
}

// outcome is what became of a ray, by channel: red, green and blue, or one alone.
type outcome struct {
	glare                                              float64
	up, cosine, shadow, leak, frosted, absorbed, spent [3]float64
	window                                             bool
	segments                                           int
	// hidden is the flaw that darkens the ray, by its place, and trail names the facets on the way to it;
	// they count only in a stone with flaws.
	hidden int
	trail  uint32
}

// end tells where most of the light goes, by the mean over the channels.
func (o *outcome) end() End {
	sum := func(c *[3]float64) float64 { return c[0] + c[1] + c[2] }
	up, leak, shadow := sum(&o.up)-sum(&o.shadow), sum(&o.leak), sum(&o.shadow)
	switch {
	case up+leak+shadow <= 0:
		return Nowhere
	case up >= leak && up >= shadow:
		return Returned
	case leak >= shadow:
		return Leaked
	}
	return Shadowed
}

func newTracer(s *Stone, e *Experiment, v *view, alpha []float64, in *Inside) *tracer {
	t := &tracer{stone: s, n: e.RefractiveIndex, frost: e.FrostedGirdle, eye: v.eye, alpha: alpha, channels: max(1, len(alpha))}
	t.shift = r3.Scale(v.pixel, v.right)
	t.inHead = math.Cos(e.HeadAngle * math.Pi / 180)
	if in != nil {
		t.inside = &inside{Inside: *in, mm: e.Width / s.unit, base: e.Absorption}
	}
	return t
}

// startRow forgets how far the last ray's path holds, which the next row does not know.
func (t *tracer) startRow() {
	t.known = 0
	t.entry.last = math.Inf(-1)
}

// ray follows the ray through p, anywhere on its line, in a column to the right of the
// last one. The ray hits the stone. The outcome is overwritten by the next call.
func (t *tracer) ray(p r3.Vec, column float64) *outcome {
	// A grazing step may hold to no number at all; then it does not hold.
	if !(column <= t.entry.last) {
		t.enter(p, column)
		t.walk(0, column)
	} else {
		for k := range t.known {
			if !(column <= t.steps[k].last) {
				t.walk(k, column)
				break
			}
		}
	}
	// Every ray's path has its own length, and its own way through what lies in the stone.
	if t.inside != nil {
		t.accountInside(column)
	} else if t.alpha != nil {
		t.account(column)
	}
	return &t.outcome
}

// enter refracts the ray through p into the stone.
func (t *tracer) enter(p r3.Vec, column float64) {
	no, along := t.stone.leave(&p, &t.eye, t.entry.facet)
	f := &t.stone.facets[no]
	cos := min(f.dot(&t.eye), 1)
	first := &t.steps[0]
	first.column = column
	first.from = r3.Add(p, r3.Scale(along, t.eye))
	first.drift = r3.Add(t.shift, r3.Scale(-f.dot(&t.shift)/cos, t.eye))
	inside := math.Sqrt(1 - (1-cos*cos)/(t.n*t.n))
	bend := cos/t.n - inside
	first.dir = r3.Unit(r3.Add(r3.Scale(-1/t.n, t.eye), r3.Vec{X: bend * f.nx, Y: bend * f.ny, Z: bend * f.nz}))
	t.entry = entry{facet: no, last: column + f.holdsFor(&first.from, &first.drift), glare: fresnel(1, t.n, cos, inside)}
}

// fresnel is the share of unpolarised light that is mirrored where it passes from the
// index n1 into n2, at the cosines of both angles: the mean of both polarisations
// (Fresnel's equations).
func fresnel(n1, n2, cos1, cos2 float64) float64 {
	s := (n1*cos1 - n2*cos2) / (n1*cos1 + n2*cos2)
	p := (n1*cos2 - n2*cos1) / (n1*cos2 + n2*cos1)
	return (s*s + p*p) / 2
}

// walk goes on from step k of the last ray's path, the first that the ray in this column
// does not share.
func (t *tracer) walk(k int, column float64) {
	from := k
	first := &t.steps[k]
	moved := column - first.column
	first.from = r3.Add(first.from, r3.Scale(moved, first.drift))
	first.column = column
	energy, last, trail := 1-t.entry.glare, t.entry.last, onward(0, t.entry.facet)
	for i := range k {
		energy *= t.steps[i].kept
		last = t.steps[i].last
		trail = onward(trail, t.steps[i].facet)
	}
	for ; k < mostHits && energy >= leastEnergy; k++ {
		s := &t.steps[k]
		if k > from {
			s.facet = int(t.memory[trail%memories])
		}
		t.hit(s, last)
		t.memory[trail%memories] = int32(s.facet)
		trail = onward(trail, s.facet)
		last = s.last
		energy *= s.kept
		if s.ends {
			k++
			break
		}
		if k+1 < mostHits {
			next := &t.steps[k+1]
			f := &t.stone.facets[s.facet]
			bend := 2 * f.dot(&s.dir)
			next.dir = r3.Vec{X: s.dir.X - bend*f.nx, Y: s.dir.Y - bend*f.ny, Z: s.dir.Z - bend*f.nz}
			next.from = along(&s.from, s.length, &s.dir)
			next.drift = along(&s.drift, s.stretch, &s.dir)
			next.column = column
		}
	}
	t.known = k
	if t.alpha == nil && t.inside == nil {
		t.account(column)
	}
}

// along is p + length·v.
func along(p *r3.Vec, length float64, v *r3.Vec) r3.Vec {
	return r3.Vec{X: p.X + length*v.X, Y: p.Y + length*v.Y, Z: p.Z + length*v.Z}
}

// hit finds where a step ends, what light does there, and for how many columns more; the
// steps before it hold to the column last.
func (t *tracer) hit(s *step, last float64) {
	no, length := t.stone.leave(&s.from, &s.dir, s.facet)
	f := &t.stone.facets[no]
	cos := f.dot(&s.dir)
	s.facet, s.length = no, max(length, 0)
	s.stretch = -f.dot(&s.drift) / cos
	at, drift := along(&s.from, s.length, &s.dir), along(&s.drift, s.stretch, &s.dir)
	s.last = min(last, s.column+f.holdsFor(&at, &drift))
	s.kept, s.up, s.cosine, s.inHead = 1, false, 0, false
	if s.ends = t.frost && f.girdle; s.ends {
		return
	}
	cos = min(cos, 1)
	outside := 1 - t.n*t.n*(1-cos*cos)
	if outside <= 0 {
		return // beyond the critical angle all is mirrored
	}
	outside = math.Sqrt(outside)
	bend := outside - t.n*cos
	u := r3.Vec{X: t.n*s.dir.X + bend*f.nx, Y: t.n*s.dir.Y + bend*f.ny, Z: t.n*s.dir.Z + bend*f.nz}
	s.kept = fresnel(t.n, 1, cos, outside)
	s.up = u.Z > 0
	s.cosine = math.Max(0, u.Z)
	s.inHead = s.up && r3.Dot(u, t.eye) >= t.inHead
}

// account adds up what became of the ray in a column.
func (t *tracer) account(column float64) {
	t.outcome = outcome{glare: t.entry.glare}
	out := &t.outcome
	var energy [3]float64
	for c := range t.channels {
		energy[c] = 1 - out.glare
	}
	pavilionSeen := false
	for k := range t.known {
		if t.alpha != nil && max(energy[0], energy[1], energy[2]) < leastEnergy {
			break
		}
		s := &t.steps[k]
		out.segments++
		if t.alpha != nil {
			length := s.length + (column-s.column)*s.stretch
			for c, a := range t.alpha {
				rest := energy[c] * math.Exp(-a*length)
				out.absorbed[c] += energy[c] - rest
				energy[c] = rest
			}
		}
		if s.ends {
			copy(out.frosted[:t.channels], energy[:])
			return
		}
		if !pavilionSeen && t.stone.facets[s.facet].pavilion {
			pavilionSeen = true
			out.window = s.kept < 0.5
		}
		if s.kept < 1 {
			out.send(s, &energy, t.channels)
		}
	}
	copy(out.spent[:t.channels], energy[:])
}

// send accounts for the share of the energy that leaves at the end of a step.
func (o *outcome) send(s *step, energy *[3]float64, channels int) {
	for c := range channels {
		gone := energy[c] * (1 - s.kept)
		energy[c] *= s.kept
		if !s.up {
			o.leak[c] += gone
			continue
		}
		o.up[c] += gone
		o.cosine[c] += gone * s.cosine
		if s.inHead {
			o.shadow[c] += gone
		}
	}
}
