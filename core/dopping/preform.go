package dopping

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/rough"
	"cressa/core/solid"
)

// Allowance is what is left on a preform, in mm: all round, and at the end that goes onto the dop. Under is
// by how many degrees the cone is flatter than the mains, 0 for the mains at once.
type Allowance struct {
	Side  float64 `validate:"min=0,max=5"`
	Foot  float64 `validate:"min=0,max=5"`
	Under float64 `validate:"min=0,max=10"`
}

// UsualAllowance is a habit of many.
func UsualAllowance() Allowance { return Allowance{Side: 0.3, Foot: 0.3, Under: 1} }

// Turned is a preform that is ground by turning the quill: a cylinder with a cone at the end that is cut
// first.
type Turned struct {
	// Angle is that of the cone.
	Angle float64
	// Diameter is what calipers must read across, Height over all, and Straight how high the side stands
	// under the cone.
	Diameter, Height, Straight float64
	// Foot is the height of the flat at the dop.
	Foot float64
	// Volume is in mm³.
	Volume float64
}

// third is how much of a preform's height is kept for the crown by the rule of thumb.
const third = 1.0 / 3

// ForCrown is what the rule of thumb keeps for the crown: a third of the height.
func (t Turned) ForCrown() float64 { return t.Height * third }

// Turn returns the smallest turned preform that holds the stone with what is left on it, for mains at an
// angle. It is false where they are so flat or so steep that no cone comes of it.
//
// With the cone at c, its distance is max(sin c·ρ + cos c·z) + Side over the stone's corners at ρ from the
// axis and height z; it meets the axis at distance/cos c and a cylinder of radius R at
// (distance − sin c·R)/cos c.
func (h Held) Turn(mains float64, a Allowance) (Turned, bool) {
	angle := mains - a.Under
	if angle < 1 || angle > 85 {
		return Turned{}, false
	}
	sin, cos := math.Sincos(angle * math.Pi / 180)
	distance := math.Inf(-1)
	for _, p := range h.points {
		distance = math.Max(distance, sin*math.Hypot(p.X, p.Y)+cos*p.Z)
	}
	distance += a.Side
	radius, foot := h.Radius()+a.Side, h.Low()-a.Foot
	tip, edge := distance/cos, (distance-sin*radius)/cos
	return Turned{
		Angle: angle, Diameter: 2 * radius, Height: tip - foot, Straight: edge - foot, Foot: foot,
		Volume: math.Pi * radius * radius * (edge - foot + (tip-edge)/3),
	}, true
}

// Round tells whether a turned preform wastes little: an outline with eight corners is round enough.
func (h Held) Round() bool {
	const enough = 0.9
	return h.Rim() >= enough*h.Radius()
}

// Blank is the rough as it is dopped for the first side: upright walls round the stone's outline and a
// flat at the dop, with what is left on both.
func (h Held) Blank(a Allowance) Held {
	size := h.Radius() + math.Max(h.High(), -h.Low()) + a.Side + a.Foot
	out := solid.Block(2 * size)
	cut := func(n r3.Vec, d float64) { out, _ = out.Cut(0, solid.Plane{Normal: n, D: d}) }
	cut(r3.Vec{Z: -1}, -h.Low()+a.Foot)
	cut(r3.Vec{Z: 1}, h.High()+a.Side)
	for i := range directions {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / directions)
		n := r3.Vec{X: sin, Y: cos}
		cut(n, h.reach(n)+a.Side)
	}
	return Hold(out, 1, r3.Vec{Z: 1})
}

// Points are the corners of the stone.
func (h Held) Points() []r3.Vec { return h.points }

// InPiece returns corners of a piece of rough as the machine has them, where a stone's point v lies at
// rotation·(scale·v) + offset in the piece, and up points out of the dop.
func InPiece(corners []r3.Vec, rotation *r3.Mat, offset, up r3.Vec) []r3.Vec {
	turn := Standing(up)
	out := make([]r3.Vec, len(corners))
	for i, p := range corners {
		out[i] = turn(rotation.MulVecTrans(r3.Sub(p, offset)))
	}
	return out
}

// Wedge is what a saw takes off at a facet's setting instead of the lap.
type Wedge struct {
	Cut
	// Depth is how far the blade's plane lies behind the outermost corner.
	Depth float64
	// Saved is what falls off in one piece and Lost what the blade grinds away, in mm³.
	Saved, Lost float64
}

// leastWedge is the share of a piece that a wedge must have to be worth sawing.
const leastWedge = 0.01

// Saw tells what a blade takes off a piece that is given by its corners, facet by facet in the order of the
// cuts. Each cut stops an allowance before the facet. What is not worth it is left out.
func Saw(corners []r3.Vec, cuts []Cut, kerf, allowance float64) []Wedge {
	out := []Wedge{}
	body, ok := rough.Hull(corners)
	if !ok {
		return out
	}
	whole := body.Volume()
	for _, c := range cuts {
		sinT, cosT := math.Sincos(c.Angle * math.Pi / 180)
		sinF, cosF := math.Sincos(c.Azimuth * math.Pi / 180)
		n := r3.Vec{X: sinT * sinF, Y: sinT * cosF, Z: cosT}
		at := c.Distance + allowance
		depth := math.Inf(-1)
		for _, p := range body.Points() {
			depth = math.Max(depth, r3.Dot(n, p)-at)
		}
		if depth <= kerf {
			continue
		}
		off, _ := body.Cut(solid.Plane{Normal: r3.Scale(-1, n), D: -(at + kerf)})
		kept, _ := body.Cut(solid.Plane{Normal: n, D: at})
		if off == nil || kept == nil || off.Volume() < leastWedge*whole {
			continue
		}
		out = append(out, Wedge{Cut: c, Depth: depth, Saved: off.Volume(), Lost: body.Volume() - kept.Volume() - off.Volume()})
		body = kept
	}
	return out
}

// Roundness is how round a preform is, by readings across it.
type Roundness struct {
	Least, Mean, Most float64
	// Out is by how much the readings differ.
	Out float64
	// High is where it is widest: degrees of turn from the first reading, 0 up to 180.
	High float64
	// Grind is how much is to come off across there until it reads as wanted; below 0 it is too small.
	Grind float64
}

// Roll judges two readings or more, taken at even steps over half a turn, for a wanted diameter. Where it
// is widest is the peak of mean + a·cos 2θ + b·sin 2θ, fitted to them; two readings only tell which of
// them is wider.
func Roll(readings []float64, wanted float64) (Roundness, bool) {
	n := float64(len(readings))
	if n < 2 {
		return Roundness{}, false
	}
	out := Roundness{Least: math.Inf(1), Most: math.Inf(-1)}
	a, b := 0.0, 0.0
	for i, r := range readings {
		out.Least, out.Most, out.Mean = math.Min(out.Least, r), math.Max(out.Most, r), out.Mean+r/n
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / n)
		a, b = a+r*cos, b+r*sin
	}
	out.Out, out.Grind = out.Most-out.Least, out.Most-wanted
	out.High = math.Mod(math.Atan2(b, a)*90/math.Pi+180, 180)
	return out, true
}
