package rough

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/solid"
)

// Survey is what was measured of a piece that sits on a dop: z runs out of the dop, whose face is at 0, and
// +y is the side that comes to the lap at index N. Each measure bounds the piece by planes that it touches.
type Survey struct {
	// Gear is the number of teeth of the index gear.
	Gear int
	// Lowers tells that a rising reading of the dial lowers the stone; else it lifts it.
	Lowers bool
	// Known are touches of something whose place is known: they tell what the height dial reads.
	Known []KnownTouch
	// Reading is by how many mm a figure may be off, of the dial and of calipers.
	Reading  float64
	Touches  []Touch
	Widths   []Width
	Outlines []Outline
}

// KnownTouch is a reading of the height dial, in mm, where something known meets the lap: a facet at an
// angle in degrees and a distance in mm from the middle of the dop's face. The rim of a bare dop's end of
// radius r lies at r·sin angle.
type KnownTouch struct{ Angle, Distance, Height float64 }

// Touch is a reading of the height dial where the piece meets the lap at an angle and an index.
type Touch struct{ Angle, Index, Height float64 }

// Width is what calipers read across the piece, along the direction of an angle and an index: from where it was
// touched there or, in a survey without touches and outlines, whatever comes between the jaws.
type Width struct{ Angle, Index, Reading float64 }

// Outline is a silhouette: the outermost corners as seen square to an index, x to the side that comes to
// the lap there and y up from the dop's face, in mm. Off is by how much they may be off.
type Outline struct {
	Index   float64
	Corners []r3.Vec
	Off     float64
}

// Limits of a survey.
const (
	// MaxMeasures bounds touches and widths, MaxOutlines outlines, MaxOutline the corners of one.
	MaxMeasures = 100
	MaxOutlines = 12
	MaxOutline  = 60
)

// Codes of mistakes in a survey.
const (
	// FewKnown: two touches of something known at different angles are needed, or the dial tells nothing.
	FewKnown diagram.Code = "few-known"
	// NotTouched: a width needs a touch at its angle and index, beside others that place the piece.
	NotTouched diagram.Code = "not-touched"
	// PastOthers: what the measure leaves contradicts the others: nothing stays.
	PastOthers diagram.Code = "past-others"
	// FewCorners: an outline has Value corners, at least 3 are needed.
	FewCorners diagram.Code = "few-corners"
)

// Surveyed is what a survey tells of a piece.
type Surveyed struct {
	// Body holds the piece; nil until it is bounded all round.
	Body *Body
	// Took is what each measure took away, in mm³, in the order touches, widths, outlines; 0 before the body is
	// bounded.
	Took []float64
	// Most is by how many mm the body may stand out over the piece where it may most, Next where: the touch
	// that would tell most. Most is +Inf until the body is bounded.
	Most float64
	Next Touch
	// Ahead are the touches after that one that bound any piece, in a good order.
	Ahead []Touch
	// caps are for each plane that was touched, as far as it is on the body, the points among which the
	// piece touches it.
	caps [][]r3.Vec
}

type touched struct {
	solid.Plane
	behind float64
}

// reach is how far from the dop a piece may reach: half of MaxLength. beside is by how much a plane may be
// cut beside its place: they are put out by that.
const reach, beside = MaxLength / 2, 1e-5

// firstTouches are those that bound any piece, in a good order: round the side, the top, and slantwise.
var firstTouches = [][2]float64{
	{90, 0}, {90, 0.5}, {90, 0.25}, {90, 0.75}, {0, 0}, {45, 0.125}, {45, 0.625}, {45, 0.375}, {45, 0.875}, {90, 0.125}, {90, 0.625}, {90, 0.375}, {90, 0.875},
}

// Solve works out the solid that holds what was measured. The error is a diagram.Problem whose Field is the
// place in the survey.
//
// The dial reads h = d + L·cos t + zero. L and zero are those that fit the known touches by least squares;
// d at another angle is a weighted sum of readings, so it is off by no more than Reading times the sum of
// the weights' sizes, and the plane is put out by that.
func (s Survey) Solve() (Surveyed, error) {
	out := Surveyed{Most: math.Inf(1), Took: []float64{}}
	// Faces of the body are named by their places in planes.
	var planes []touched
	if p, bad := s.mistake(); bad {
		return out, p
	}
	body := solid.Block(reach)
	add := func(more ...touched) bool {
		before, open := body.Volume(), body.ShowsBlock()
		for _, t := range more {
			var outcome solid.Outcome
			body, outcome = body.Cut(len(planes), solid.Plane{Normal: t.Normal, D: t.D + beside})
			if outcome == solid.TookAll {
				return false
			}
			t.behind += beside
			planes = append(planes, t)
		}
		if open {
			before = body.Volume()
		}
		out.Took = append(out.Took, before-body.Volume())
		return true
	}
	free := len(s.Touches) == 0 && len(s.Outlines) == 0
	if !free {
		// The dop's face bounds the piece from below.
		add(touched{Plane: solid.Plane{Normal: r3.Vec{Z: -1}}})
		out.Took = out.Took[:0]
	}
	for i, t := range s.Touches {
		d, off := s.distance(t)
		if !add(touched{solid.Plane{Normal: s.direction(t.Angle, t.Index), D: d + off}, 2 * off}) {
			return out, diagram.Problem{Code: PastOthers, TierNo: -1, Field: Place("touches", i, "height"), Value: t.Height}
		}
	}
	var centred []r3.Vec
	for i, w := range s.Widths {
		n := s.direction(w.Angle, w.Index)
		var planes []touched
		if at := slices.IndexFunc(s.Touches, func(t Touch) bool { return t.Angle == w.Angle && t.Index == w.Index }); at >= 0 {
			d, off := s.distance(s.Touches[at])
			off += s.Reading
			planes = []touched{{solid.Plane{Normal: r3.Scale(-1, n), D: w.Reading - d + off}, 2 * off}}
		} else if free && aside(centred, n) {
			// Nothing else says where the piece lies, so it may be moved to the middle along three directions.
			centred = append(centred, n)
			half := (w.Reading + s.Reading) / 2
			planes = []touched{{solid.Plane{Normal: n, D: half}, s.Reading}, {solid.Plane{Normal: r3.Scale(-1, n), D: half}, s.Reading}}
		} else {
			return out, diagram.Problem{Code: NotTouched, TierNo: -1, Field: Place("widths", i, "index"), Value: w.Index}
		}
		if !add(planes...) {
			return out, diagram.Problem{Code: PastOthers, TierNo: -1, Field: Place("widths", i, "reading"), Value: w.Reading}
		}
	}
	for i, o := range s.Outlines {
		if !add(s.prism(o)...) {
			return out, diagram.Problem{Code: PastOthers, TierNo: -1, Field: Place("outlines", i, "corners")}
		}
	}
	if !body.ShowsBlock() {
		out.Body, out.caps = bodyOf(body), capsOf(body, planes)
	}
	out.propose(s)
	return out, nil
}

// aside tells whether a unit direction is clear of those that others span.
func aside(others []r3.Vec, n r3.Vec) bool {
	const clear = 0.1 // of what it adds, some 6 degrees
	switch len(others) {
	case 0:
		return true
	case 1:
		return r3.Norm(r3.Cross(others[0], n)) > clear
	case 2:
		return math.Abs(r3.Dot(r3.Unit(r3.Cross(others[0], others[1])), n)) > clear
	}
	return false
}

// mistake returns the first mistake in the figures.
func (s Survey) mistake() (diagram.Problem, bool) {
	v := &validator{}
	v.within("gear", float64(s.Gear), 1, 360)
	v.within("reading", s.Reading, 0, 1)
	v.most("touches", len(s.Touches), MaxMeasures)
	v.most("widths", len(s.Widths), MaxMeasures)
	v.most("known", len(s.Known), MaxMeasures)
	v.most("outlines", len(s.Outlines), MaxOutlines)
	for i, k := range s.Known {
		v.within(Place("known", i, "angle"), k.Angle, 0, 120)
		v.within(Place("known", i, "distance"), k.Distance, -MaxLength, MaxLength)
		v.within(Place("known", i, "height"), k.Height, -MaxLength, MaxLength)
	}
	for i, t := range s.Touches {
		v.within(Place("touches", i, "angle"), t.Angle, 0, 120)
		v.within(Place("touches", i, "index"), t.Index, 0, float64(s.Gear))
		v.within(Place("touches", i, "height"), t.Height, -MaxLength, MaxLength)
	}
	for i, w := range s.Widths {
		v.within(Place("widths", i, "reading"), w.Reading, 0, MaxLength)
	}
	for i, o := range s.Outlines {
		v.within(Place("outlines", i, "index"), o.Index, 0, float64(s.Gear))
		v.within(Place("outlines", i, "off"), o.Off, 0, MaxLength)
		v.most(Place("outlines", i, "corners"), len(o.Corners), MaxOutline)
		if len(o.Corners) < 3 {
			v.add(diagram.Problem{Code: FewCorners, Field: Place("outlines", i, "corners"), Value: float64(len(o.Corners))})
		}
		for _, c := range o.Corners {
			v.within(Place("outlines", i, "corners"), c.X, -MaxLength, MaxLength)
			v.within(Place("outlines", i, "corners"), c.Y, -MaxLength, MaxLength)
		}
	}
	if _, ok := s.weights(0); len(s.Touches) > 0 && !ok {
		v.add(diagram.Problem{Code: FewKnown, Field: "known", Value: float64(len(s.Known))})
	}
	if len(v.problems) == 0 {
		return diagram.Problem{}, false
	}
	return v.problems[0], true
}

// direction is where a touch at an angle and an index meets the piece.
func (s Survey) direction(angle, index float64) r3.Vec {
	sinT, cosT := math.Sincos(angle * math.Pi / 180)
	sinF, cosF := math.Sincos(2 * math.Pi * index / float64(s.Gear))
	return r3.Vec{X: sinT * sinF, Y: sinT * cosF, Z: cosT}
}

// weights are how much each known touch counts for L·cos t + zero at an angle: rows of (AᵀA)⁻¹Aᵀ with A's
// rows (cos t, 1). It is false where the known touches lie at one angle.
func (s Survey) weights(angle float64) ([]float64, bool) {
	n := float64(len(s.Known))
	var sum, squares float64
	for _, k := range s.Known {
		c := math.Cos(k.Angle * math.Pi / 180)
		sum, squares = sum+c, squares+c*c
	}
	// Angles that lie closer than a degree tell the length of the quill from nothing.
	const apart = 1e-4
	det := n*squares - sum*sum
	if n < 2 || det < apart {
		return nil, false
	}
	at := math.Cos(angle * math.Pi / 180)
	out := make([]float64, len(s.Known))
	for i, k := range s.Known {
		c := math.Cos(k.Angle * math.Pi / 180)
		out[i] = (at*(n*c-sum) + squares - sum*c) / det
	}
	return out, true
}

// distance is that of a touch from the middle of the dop's face, and by how much it may be off.
func (s Survey) distance(t Touch) (d, off float64) {
	weights, _ := s.weights(t.Angle)
	d, sum := s.lifted(t.Height), 1.0
	for i, w := range weights {
		d -= w * (s.lifted(s.Known[i].Height) - s.Known[i].Distance)
		sum += math.Abs(w)
	}
	return d, s.Reading * sum
}

// lifted is a reading that rises as the stone is lifted; where the dial counts from does not matter.
func (s Survey) lifted(reading float64) float64 {
	if s.Lowers {
		return -reading
	}
	return reading
}

// prism are the planes of an outline: straight lines to its outermost corners, square to the line of sight.
func (s Survey) prism(o Outline) []touched {
	to := s.direction(90, o.Index)
	var points []r3.Vec
	for _, c := range o.Corners {
		points = append(points, r3.Vec{X: c.X, Y: c.Y})
	}
	corners := around(r3.Vec{Z: 1}, points, extent(points))
	var out []touched
	for i, p := range corners {
		edge := r3.Sub(corners[(i+1)%len(corners)], p)
		if r3.Norm(edge) < 1e-9 {
			continue
		}
		// The corners go counter-clockwise: right of an edge is outside. An edge between two that all but
		// coincide has any direction, so the line is put out to the corner that lies farthest out.
		flat := r3.Unit(r3.Vec{X: edge.Y, Y: -edge.X})
		d := math.Inf(-1)
		for _, q := range points {
			d = math.Max(d, r3.Dot(flat, q))
		}
		n := r3.Add(r3.Scale(flat.X, to), r3.Vec{Z: flat.Y})
		out = append(out, touched{solid.Plane{Normal: n, D: d + o.Off}, 2 * o.Off})
	}
	return out
}

// bodyOf is a solid as a body.
func bodyOf(s *solid.Solid) *Body {
	out := &Body{}
	for _, f := range s.Faces() {
		out.Faces = append(out.Faces, Face{f.Plane, cornersOf(s, f)})
	}
	return out
}

func cornersOf(s *solid.Solid, f *solid.Face) []r3.Vec {
	out := make([]r3.Vec, len(f.Loop))
	for i, v := range f.Loop {
		out[i] = s.Point(v)
	}
	return out
}

// Excess is by how many mm the body may stand out over the piece in a direction of length 1. The piece
// touches every face of the body somewhere, so it reaches at least as far as the worst point of the best
// face: nothing that fits the measures does with less.
func (s Surveyed) Excess(u r3.Vec) float64 {
	if s.Body == nil {
		return math.Inf(1)
	}
	return support(s.Body, u) - s.least(u)
}

func support(b *Body, u r3.Vec) float64 {
	out := math.Inf(-1)
	for i := range b.Faces {
		for _, p := range b.Faces[i].Corners {
			out = math.Max(out, r3.Dot(u, p))
		}
	}
	return out
}

// capsOf finds the caps of a body. A plane whose face later ones took away was still touched close behind it.
func capsOf(s *solid.Solid, planes []touched) [][]r3.Vec {
	var out [][]r3.Vec
	for i, t := range planes {
		d := t.D + beside
		if f := s.Face(i); f != nil {
			d = f.Plane.D
		}
		// A little deeper: of two planes that all but coincide the one may hide where the other was touched.
		cap, outcome := s.Compact().Cut(-7, solid.Plane{Normal: r3.Scale(-1, t.Normal), D: t.behind + beside - d})
		if outcome == solid.TookAll {
			continue
		}
		var points []r3.Vec
		for _, v := range cap.Vertices() {
			points = append(points, cap.Point(v))
		}
		out = append(out, points)
	}
	return out
}

// least is how far the piece reaches at least in a direction.
func (s Surveyed) least(u r3.Vec) float64 {
	out := math.Inf(-1)
	for _, cap := range s.caps {
		worst := math.Inf(1)
		for _, p := range cap {
			worst = math.Min(worst, r3.Dot(u, p))
		}
		out = math.Max(out, worst)
	}
	return out
}

// left are the first touches that were not made, their indexes by the share of a turn.
func (s Survey) left(index func(float64) float64) []Touch {
	var out []Touch
	for _, f := range firstTouches {
		t := Touch{Angle: f[0], Index: index(f[1])}
		same := func(o Touch) bool { return o.Angle == t.Angle && (o.Index == t.Index || t.Angle == 0) }
		if !slices.ContainsFunc(s.Touches, same) {
			out = append(out, t)
		}
	}
	return out
}

// propose finds the touch that tells most.
func (s *Surveyed) propose(of Survey) {
	teeth := float64(of.Gear)
	index := func(share float64) float64 {
		if i := math.Round(share * teeth); i > 0 {
			return i
		}
		return teeth
	}
	if s.Body == nil {
		if left := of.left(index); len(left) > 0 {
			s.Next, s.Ahead = left[0], left[1:]
		}
		return
	}
	s.Most = math.Inf(-1)
	const angles, turns = 12, 24
	for i := range angles + 1 {
		for k := range turns {
			t := Touch{Angle: 90 * float64(i) / angles, Index: index(float64(k) / turns)}
			u := of.direction(t.Angle, t.Index)
			if e := s.Excess(u); e > s.Most+1e-9 {
				s.Most, s.Next = e, t
			}
		}
	}
	s.Ahead = slices.DeleteFunc(of.left(index), func(t Touch) bool { return t == s.Next })
}
