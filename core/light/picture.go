package light

import "context"

// Picture is what is seen, ray by ray in rows from the top, each from the left.
type Picture struct {
	Grid int
	// Hits tells which rays hit the stone.
	Hits []bool
	// Light is the return under a model in red, green and blue, each 0 to 1, linear.
	Light [][3]float32
	// Ends tells where most of each ray goes.
	Ends []End
	// Hidden tells which flaw darkens each ray, by its number from 1, 0 for none; nil for a stone that was
	// looked at as clear.
	Hidden []uint8
}

// Fan holds the refractive indexes for red, green and blue light; the zero value is light
// of one colour.
type Fan [3]float64

// Picture looks at the stone. Without a fan all colours go the same way. The figures are
// those of Trace. It returns the context's error where that ends first.
func (s *Stone) Picture(ctx context.Context, e Experiment, m Model, fan Fan) (*Picture, Figures, error) {
	p := newPicture(e.Grid)
	alpha := e.alpha(s.unit)
	figures, err := s.run(ctx, &e, alpha, nil, func(column, row int, o *outcome) { p.put(p.at(column, row), o, m, len(alpha)) })
	if err != nil || fan == (Fan{}) {
		return p, figures, err
	}
	for c, n := range fan {
		one := e
		one.RefractiveIndex = n
		var alone []float64
		if alpha != nil {
			alone = alpha[c : c+1]
		}
		if _, err = s.run(ctx, &one, alone, nil, func(column, row int, o *outcome) {
			p.Light[p.at(column, row)][c] = float32(o.seen(m, 0))
		}); err != nil {
			return p, figures, err
		}
	}
	return p, figures, nil
}

func newPicture(grid int) *Picture {
	rays := grid * grid
	return &Picture{Grid: grid, Light: make([][3]float32, rays), Ends: make([]End, rays), Hits: make([]bool, rays)}
}

// put takes what became of a ray into its place; a stone without colour has one channel, or none.
func (p *Picture) put(at int, o *outcome, m Model, channels int) {
	p.Hits[at], p.Ends[at] = true, o.end()
	for c := range 3 {
		p.Light[at][c] = float32(o.seen(m, min(c, max(1, channels)-1)))
	}
}

// at is the place of a ray, whose row counts from the bottom.
func (p *Picture) at(column, row int) int { return (p.Grid-1-row)*p.Grid + column }

// seen is what a channel returns under a model.
func (o *outcome) seen(m Model, channel int) float64 {
	switch m {
	case Cosine:
		return o.cosine[channel]
	case Head:
		return o.up[channel] - o.shadow[channel]
	}
	return o.up[channel]
}

// Tilted holds the figures of a stone tilted by Degrees from the upright.
type Tilted struct {
	Degrees float64
	// Twelve is tilted so that the eye stands towards 12 o'clock, or, where Degrees is
	// negative, 6; Three towards 3, or 9.
	Twelve, Three Figures
}

// The tilts of a curve, in degrees.
const (
	MostTilt = 40
	TiltStep = 4
)

// Tilts returns the figures at every tilt from -MostTilt to MostTilt along both axes. The
// experiment's own tilt does not count. It returns the context's error where that ends
// first.
func (s *Stone) Tilts(ctx context.Context, e Experiment) ([]Tilted, error) {
	var out []Tilted
	for d := -MostTilt; d <= MostTilt; d += TiltStep {
		t := Tilted{Degrees: float64(d)}
		for axis, f := range map[float64]*Figures{0: &t.Twelve, 90: &t.Three} {
			e.Tilt, e.To = t.Degrees, axis
			if d < 0 {
				e.Tilt, e.To = -t.Degrees, axis+180
			}
			var err error
			if *f, err = s.Trace(ctx, e); err != nil {
				return nil, err
			}
		}
		out = append(out, t)
	}
	return out, nil
}
