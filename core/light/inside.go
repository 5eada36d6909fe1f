package light

import (
	"context"
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Inside is what lies in a stone: a colour that changes with direction and place, and flaws. Points and
// lengths are in design units, in the diagram's frame.
type Inside struct {
	// Colour is nil for a stone of one colour, that of the experiment.
	Colour *Colour
	Flaws  []Flaw
}

// Colour is absorption in 1/mm, natural, for red, green and blue. Light along the unit Axis loses Along, light
// square to it Across, and between them along·cos² + across·sin², the mean of both polarisations. In a slab its
// own absorption counts instead; where slabs overlap, that of the last.
type Colour struct {
	Axis          r3.Vec
	Along, Across [3]float64
	Slabs         []Slab
}

// Slab is a part of the stone of another colour: From ≤ n·x ≤ To, with a unit normal.
type Slab struct {
	Normal     r3.Vec
	From, To   float64
	Absorption [3]float64
}

// Flaw stops the light: a ball about At, or, with a unit Normal, a disc square to it.
type Flaw struct {
	At     r3.Vec
	Radius float64
	Normal r3.Vec
}

// Shown tells how a flaw is seen.
type Shown struct {
	// Images counts the ways by which the eye sees it: straight through the facet where the light
	// enters, and each row of mirrors on the way to it.
	Images int
	// Share is the part, 0 to 1, of the face that it darkens: of the rays that hit the stone, those that
	// still carry half of what entered or more where they meet it.
	Share float64
}

// inside is what a stone has in it, ready for one tracer.
type inside struct {
	Inside
	// mm is how many mm a design unit is.
	mm float64
	// base is the absorption of the experiment in 1/mm.
	base [3]float64
	// marks are where a segment passes from colour to colour.
	marks []float64
}

// PictureWith looks at a stone with something in it. Beside the picture and the figures, it tells of each flaw how
// it is seen; an image that falls between the rays of the grid is missed. It returns the context's error where that
// ends first.
func (s *Stone) PictureWith(ctx context.Context, e Experiment, m Model, in Inside) (*Picture, Figures, []Shown, error) {
	p := newPicture(e.Grid)
	p.Hidden = make([]uint8, e.Grid*e.Grid)
	trails := make([]uint32, e.Grid*e.Grid)
	alpha := e.alpha(s.unit)
	if in.Colour != nil {
		alpha = make([]float64, 3) // three channels, whose absorption depends on the way
	}
	figures, err := s.run(ctx, &e, alpha, &in, func(column, row int, o *outcome) {
		at := p.at(column, row)
		p.put(at, o, m, len(alpha))
		p.Hidden[at], trails[at] = uint8(o.hidden+1), o.trail
	})
	shown := make([]Shown, len(in.Flaws))
	ways := make([]map[uint32]bool, len(in.Flaws))
	for i, h := range p.Hidden {
		if h == 0 {
			continue
		}
		one := int(h) - 1
		if ways[one] == nil {
			ways[one] = map[uint32]bool{}
		}
		ways[one][trails[i]] = true
		shown[one].Share += 1 / float64(max(1, figures.Rays))
	}
	for i, w := range ways {
		shown[i].Images = len(w)
	}
	return p, figures, shown, err
}

// accountInside adds up what became of the ray in a column of a stone that has something in it.
func (t *tracer) accountInside(column float64) {
	t.outcome = outcome{glare: t.entry.glare, hidden: -1}
	out, in := &t.outcome, t.inside
	var energy [3]float64
	for c := range t.channels {
		energy[c] = 1 - out.glare
	}
	carried, pavilionSeen := 1.0, false
	trail := onward(0, t.entry.facet)
	for k := range t.known {
		if max(energy[0], energy[1], energy[2]) < leastEnergy {
			break
		}
		s := &t.steps[k]
		out.segments++
		from := along(&s.from, column-s.column, &s.drift)
		length := s.length + (column-s.column)*s.stretch
		flaw, until := in.meets(&from, &s.dir, length)
		in.absorb(t, &from, &s.dir, until, &energy, out)
		if flaw >= 0 {
			if carried >= 0.5 {
				out.hidden, out.trail = flaw, trail
			}
			for c := range t.channels {
				out.absorbed[c] += energy[c] // a flaw keeps what meets it
			}
			return
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
		carried *= s.kept
		trail = onward(trail, s.facet)
	}
	copy(out.spent[:t.channels], energy[:])
}

// meets returns the first flaw that a segment meets and how far it gets: -1 and its whole length where it
// meets none.
func (in *inside) meets(from, dir *r3.Vec, length float64) (int, float64) {
	first, until := -1, length
	for i := range in.Flaws {
		if at, ok := in.Flaws[i].meets(from, dir); ok && at < until {
			first, until = i, at
		}
	}
	return first, until
}

// meets returns how far along a unit direction a line from a point meets the flaw, if it does.
func (f *Flaw) meets(from, dir *r3.Vec) (float64, bool) {
	to := r3.Sub(f.At, *from)
	if f.Normal != (r3.Vec{}) {
		towards := r3.Dot(*dir, f.Normal)
		if math.Abs(towards) < grazing {
			return 0, false
		}
		at := r3.Dot(to, f.Normal) / towards
		return at, at >= 0 && r3.Norm(r3.Sub(along(from, at, dir), f.At)) <= f.Radius
	}
	near := r3.Dot(to, *dir)
	room := f.Radius*f.Radius - (r3.Norm2(to) - near*near)
	if room < 0 {
		return 0, false
	}
	half := math.Sqrt(room)
	return max(0, near-half), near+half >= 0
}

// absorb takes from the energy what a segment's way through the colours keeps.
func (in *inside) absorb(t *tracer, from, dir *r3.Vec, length float64, energy *[3]float64, out *outcome) {
	take := func(alpha *[3]float64, length float64) {
		for c := range t.channels {
			rest := energy[c] * math.Exp(-alpha[c]*in.mm*length)
			out.absorbed[c] += energy[c] - rest
			energy[c] = rest
		}
	}
	if in.Colour == nil {
		take(&in.base, length)
		return
	}
	cos := r3.Dot(*dir, in.Colour.Axis)
	var body [3]float64
	for c := range body {
		body[c] = in.Colour.Along[c]*cos*cos + in.Colour.Across[c]*(1-cos*cos)
	}
	slabs := in.Colour.Slabs
	if len(slabs) == 0 {
		take(&body, length)
		return
	}
	in.marks = append(in.marks[:0], 0, length)
	for i := range slabs {
		drop := r3.Dot(slabs[i].Normal, *dir)
		if math.Abs(drop) < grazing {
			continue
		}
		at := r3.Dot(slabs[i].Normal, *from)
		for _, d := range [2]float64{slabs[i].From, slabs[i].To} {
			if mark := (d - at) / drop; mark > 0 && mark < length {
				in.marks = append(in.marks, mark)
			}
		}
	}
	sortFew(in.marks)
	for i := 1; i < len(in.marks); i++ {
		middle := along(from, (in.marks[i-1]+in.marks[i])/2, dir)
		alpha := &body
		for k := range slabs {
			if at := r3.Dot(slabs[k].Normal, middle); at >= slabs[k].From && at <= slabs[k].To {
				alpha = &slabs[k].Absorption
			}
		}
		take(alpha, in.marks[i]-in.marks[i-1])
	}
}

// sortFew sorts a handful of numbers in place, where slices.Sort would cost more than the ray.
func sortFew(v []float64) {
	for i := 1; i < len(v); i++ {
		for k := i; k > 0 && v[k] < v[k-1]; k-- {
			v[k], v[k-1] = v[k-1], v[k]
		}
	}
}
