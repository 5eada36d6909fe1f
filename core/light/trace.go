package light

import (
	"context"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/work"
)

// view is the square through which the stone is looked at.
type view struct {
	// right and up are the image axes, eye points to the eye: unless the view is rolled
	// 3 o'clock, 12 o'clock and the dop axis, carried along by the tilt.
	right, up, eye r3.Vec
	// corner is the lower left of the square, pixel the side of one ray's share.
	corner r3.Vec
	pixel  float64
	grid   int
}

// view lays the square. Roll turns it about the view axis, in degrees.
func (s *Stone) view(e *Experiment, roll float64) view {
	sinR, cosR := math.Sincos(roll * math.Pi / 180)
	sinT, cosT := math.Sincos(e.Tilt * math.Pi / 180)
	sinA, cosA := math.Sincos(e.To * math.Pi / 180)
	// Turned about the level axis that stands at right angles to To (Rodrigues).
	carry := func(x, y, z float64) r3.Vec {
		towards, across := x*sinA+y*cosA, x*cosA-y*sinA
		towards, z = towards*cosT+z*sinT, z*cosT-towards*sinT
		return r3.Vec{X: towards*sinA + across*cosA, Y: towards*cosA - across*sinA, Z: z}
	}
	v := view{right: carry(cosR, -sinR, 0), up: carry(sinR, cosR, 0), eye: carry(0, 0, 1), grid: e.Grid}
	low, high := [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	for _, c := range s.corners {
		for k, x := range [2]float64{r3.Dot(c, v.right), r3.Dot(c, v.up)} {
			low[k], high[k] = min(low[k], x), max(high[k], x)
		}
	}
	size := max(high[0]-low[0], high[1]-low[1])
	v.pixel = size / float64(e.Grid)
	v.corner = r3.Add(r3.Scale((low[0]+high[0]-size)/2, v.right), r3.Scale((low[1]+high[1]-size)/2, v.up))
	return v
}

// hits returns the columns of a row, from and below to, whose rays hit the stone.
func (v *view) hits(s *Stone, row int) (from, to int) {
	y := (float64(row) + 0.5) * v.pixel
	low, high := math.Inf(1), math.Inf(-1)
	for _, e := range s.edges {
		a, b := r3.Sub(s.corners[e[0]], v.corner), r3.Sub(s.corners[e[1]], v.corner)
		ya, yb := r3.Dot(a, v.up), r3.Dot(b, v.up)
		if (ya < y) == (yb < y) {
			continue
		}
		xa, xb := r3.Dot(a, v.right), r3.Dot(b, v.right)
		x := xa + (xb-xa)*(y-ya)/(yb-ya)
		low, high = min(low, x), max(high, x)
	}
	if low > high {
		return 0, 0
	}
	return max(0, int(math.Ceil(low/v.pixel-0.5))), min(v.grid, int(math.Floor(high/v.pixel-0.5))+1)
}

// at is a point of the ray in the given column and row, counted from the lower left.
func (v *view) at(column, row int) r3.Vec {
	x, y := (float64(column)+0.5)*v.pixel, (float64(row)+0.5)*v.pixel
	return r3.Vec{
		X: v.corner.X + x*v.right.X + y*v.up.X,
		Y: v.corner.Y + x*v.right.Y + y*v.up.Y,
		Z: v.corner.Z + x*v.right.Z + y*v.up.Z,
	}
}

// Trace returns the figures of the whole grid. Face up, rays that a symmetry of the grid
// maps onto each other are followed once; the figures are the same. The error is ctx's.
func (s *Stone) Trace(ctx context.Context, e Experiment) (Figures, error) {
	return s.run(ctx, &e, e.alpha(s.unit), nil, nil)
}

// askew is by how many degrees Sample's rows are turned: facets mostly run along the axes
// or at simple angles to them, and rows beside them would meet their strips all alike.
const askew = 20.9

// Sample returns the figures of the one part of the stone that stands for all its
// symmetric ones, with the same density of rays; only face up, otherwise it is Trace.
// Figures differ from Trace's by sampling alone. It returns the context's error where that
// ends first.
func (s *Stone) Sample(ctx context.Context, e Experiment) (Figures, error) {
	if e.Tilt != 0 {
		return s.Trace(ctx, e)
	}
	v := s.view(&e, askew)
	t := newTracer(s, &e, &v, e.alpha(s.unit), nil)
	part := s.sym.sector()
	var sum tally
	for row := range e.Grid {
		if err := ctx.Err(); err != nil {
			return Figures{}, err
		}
		t.startRow()
		for from, to := v.hits(s, row); from < to; from++ {
			if p := v.at(from, row); part.holds(p) {
				sum.add(t.ray(p, float64(from)), 1, t.channels)
			}
		}
	}
	return sum.figures(t.channels), nil
}

// run follows the rays row by row on all cores. The rows are summed in their order, so
// that the figures do not depend on the number of cores. With something in the stone no ray stands for another.
func (s *Stone) run(ctx context.Context, e *Experiment, alpha []float64, in *Inside, each func(column, row int, o *outcome)) (Figures, error) {
	v := s.view(e, 0)
	same := []gridMap{squares[0]}
	if e.Tilt == 0 && in == nil {
		same = s.sym.square
	}
	rows := make([]tally, e.Grid)
	channels := max(1, len(alpha))
	const band = 16 // rows: neighbours remember more of each other
	bands := (e.Grid + band - 1) / band
	hand := func() *tracer { return newTracer(s, e, &v, alpha, in) }
	if err := work.Each(ctx, bands, hand, func(t *tracer, no int) {
		for row := no * band; row < min((no+1)*band, e.Grid); row++ {
			s.row(t, &v, row, same, &rows[row], each)
		}
	}); err != nil {
		return Figures{}, err
	}
	var sum tally
	for i := range rows {
		sum.merge(&rows[i])
	}
	return sum.figures(channels), nil
}

// row follows the rays of one row that stand for themselves and their mirror images.
func (s *Stone) row(t *tracer, v *view, row int, same []gridMap, sum *tally, each func(column, row int, o *outcome)) {
	t.startRow()
	// Twice the distance from the centre, in pixels: whole numbers.
	y := 2*row + 1 - v.grid
	for column, end := v.hits(s, row); column < end; column++ {
		x := 2*column + 1 - v.grid
		images, first := 0, true
		for i, m := range same {
			mx, my := m.a*x+m.b*y, m.c*x+m.d*y
			if my < y || my == y && mx < x {
				first = false
				break
			}
			if !seenBefore(same[:i], x, y, mx, my) {
				images++
			}
		}
		if !first {
			continue
		}
		o := t.ray(v.at(column, row), float64(column))
		sum.add(o, images, t.channels)
		if each == nil {
			continue
		}
		for _, m := range same {
			each((m.a*x+m.b*y+v.grid-1)/2, (m.c*x+m.d*y+v.grid-1)/2, o)
		}
	}
}

// seenBefore tells whether an earlier symmetry takes (x, y) to the same place.
func seenBefore(earlier []gridMap, x, y, mx, my int) bool {
	for _, m := range earlier {
		if m.a*x+m.b*y == mx && m.c*x+m.d*y == my {
			return true
		}
	}
	return false
}

// tally adds up rays.
type tally struct {
	rays, segments, windows                            int
	most                                               [4]int
	glare                                              float64
	up, cosine, shadow, leak, frosted, absorbed, spent float64
}

// add counts a ray and its images.
func (y *tally) add(o *outcome, images, channels int) {
	y.rays += images
	y.segments += images * o.segments
	if o.window {
		y.windows += images
	}
	y.most[o.end()] += images
	k := float64(images)
	y.glare += k * o.glare
	for c := range channels {
		y.up += k * o.up[c]
		y.cosine += k * o.cosine[c]
		y.shadow += k * o.shadow[c]
		y.leak += k * o.leak[c]
		y.frosted += k * o.frosted[c]
		y.absorbed += k * o.absorbed[c]
		y.spent += k * o.spent[c]
	}
}

func (y *tally) merge(o *tally) {
	y.rays += o.rays
	y.segments += o.segments
	y.windows += o.windows
	for i := range y.most {
		y.most[i] += o.most[i]
	}
	y.glare += o.glare
	y.up += o.up
	y.cosine += o.cosine
	y.shadow += o.shadow
	y.leak += o.leak
	y.frosted += o.frosted
	y.absorbed += o.absorbed
	y.spent += o.spent
}

func (y *tally) figures(channels int) Figures {
	if y.rays == 0 {
		return Figures{}
	}
	rays := float64(y.rays)
	all := rays * float64(channels)
	return Figures{
		Rays: y.rays, Segments: y.segments,
		Glare: y.glare / rays, Window: float64(y.windows) / rays,
		Up: y.up / all, Cosine: y.cosine / all, HeadShadow: y.shadow / all, Leak: y.leak / all,
		Frosted: y.frosted / all, Absorbed: y.absorbed / all, Residual: y.spent / all,
		MostReturn: float64(y.most[Returned]) / rays, MostLeak: float64(y.most[Leaked]) / rays,
		MostShadow: float64(y.most[Shadowed]) / rays,
	}
}

// GridOf returns the grid with which Sample follows about the given number of rays.
func (s *Stone) GridOf(rays int) int {
	const share = 0.6 // about what of its square a stone fills
	return min(512, int(math.Sqrt(float64(rays*s.sym.sectors())/share)))
}
