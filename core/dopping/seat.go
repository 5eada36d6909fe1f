package dopping

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// Shape is the shape of a dop's face.
type Shape string

// The shapes.
const (
	Flat Shape = "flat"
	Cone Shape = "cone" // hollow
	Vee  Shape = "vee"  // with a groove
)

// Dop is what a stone is glued to: the shape of its face, and how wide that is.
type Dop struct {
	Shape    Shape
	Diameter float64
}

// Radius is half of what it is wide.
func (d Dop) Radius() float64 { return d.Diameter / 2 }

// wallRise is how steep the walls of cones and grooves are: most are made at 45°, close to a pavilion.
const wallRise = 1

// face is the height of the dop's face over its rim, across the groove of a vee at x.
func (d Dop) face(x, y float64) float64 {
	switch d.Shape {
	case Cone:
		return (math.Hypot(x, y) - d.Radius()) * wallRise
	case Vee:
		return (math.Abs(x) - d.Radius()) * wallRise
	}
	return 0
}

// Seat is a stone set onto a dop until it touches.
type Seat struct {
	// Near is how far the dop's rim lies from the origin, towards the dop; below 0 where the dop reaches
	// higher.
	Near float64
	// patches are bits of the stone's surface over the dop's face, those that lie nearest to it first.
	patches []patch
}

// patch is a bit of surface of so many mm², so far above the dop's face.
type patch struct{ gap, area float64 }

// rings and spokes are how many places of a dop's face are looked at: rings of one area, each at as many
// turns.
const rings, spokes = 40, 72

// Seat sets the stone onto a dop, the groove of a vee along an azimuth in degrees. It is false where
// nothing of the stone lies over the dop.
func (h Held) Seat(d Dop, along float64) (Seat, bool) {
	sin, cos := math.Sincos(along * math.Pi / 180)
	area, rim := math.Pi*d.Radius()*d.Radius()/rings/spokes, h.Rim()
	var out Seat
	touch := math.Inf(1)
	for i := range rings {
		radius := d.Radius() * math.Sqrt((float64(i)+0.5)/rings)
		for k := range spokes {
			turn := 2 * math.Pi * (float64(k) + 0.5*float64(i&1)) / spokes
			across, length := radius*math.Sin(turn), radius*math.Cos(turn)
			// The groove runs along (sin, cos).
			x, y := across*cos+length*sin, -across*sin+length*cos
			if radius > rim && !h.covers(x, y) {
				continue
			}
			bottom, lean := h.bottom(x, y)
			gap := bottom - d.face(across, length)
			out.patches = append(out.patches, patch{gap, area / lean})
			touch = math.Min(touch, gap)
		}
	}
	for i := range out.patches {
		out.patches[i].gap -= touch
	}
	slices.SortFunc(out.patches, func(a, b patch) int { return cmp.Compare(a.gap, b.gap) })
	out.Near = -touch
	return out, len(out.patches) > 0
}

// covers tells whether an upright line meets the stone.
func (h Held) covers(x, y float64) bool {
	bottom, _ := h.bottom(x, y)
	for _, p := range h.planes {
		left := p.D - p.Normal.X*x - p.Normal.Y*y
		if p.Normal.Z > upright && left/p.Normal.Z < bottom || math.Abs(p.Normal.Z) <= upright && left < 0 {
			return false
		}
	}
	return true
}

// bottom is the height at which an upright line that meets the stone enters it from the dop, and how square
// it meets the face there, 0 to 1.
func (h Held) bottom(x, y float64) (z, lean float64) {
	z = math.Inf(-1)
	for _, p := range h.planes {
		if p.Normal.Z < -upright {
			if at := (p.D - p.Normal.X*x - p.Normal.Y*y) / p.Normal.Z; at > z {
				z, lean = at, -p.Normal.Z
			}
		}
	}
	return z, lean
}

// upright is how far a wall's normal may stand out of the level.
const upright = 1e-9

// Contact is the part of the stone's surface that an adhesive holds which bridges a gap of so many mm.
func (s Seat) Contact(bridges float64) float64 {
	out := 0.0
	for _, p := range s.patches {
		if p.gap > bridges {
			break
		}
		out += p.area
	}
	return out
}

// Most is what an adhesive holds that bridges as much as wax does: how much of the stone there is to hold.
func (s Seat) Most() float64 {
	const wax = 2
	return s.Contact(wax)
}

// Clearance is how far a cylinder about the quill's axis stays off the lap while a facet is ground to its
// stop: one at an angle and a distance from the origin. The cylinder has a radius and runs from near to
// near + length towards the dop. Below 0 the facet can be finished only over the lap's rim, or not at all.
func Clearance(angle, distance, radius, near, length float64) float64 {
	sin, cos := math.Sincos(angle * math.Pi / 180)
	return distance - radius*sin + math.Min(near*cos, (near+length)*cos)
}

// Cut is a facet as it is dialled, at its place in the stone.
type Cut struct {
	Facet           int
	Angle, Distance float64
	// Azimuth is where it lies round the stone, in degrees from +y.
	Azimuth float64
}

// CutOf returns a facet with an outward unit normal in the frame of the machine.
func CutOf(place int, normal r3.Vec, distance float64) Cut {
	return Cut{
		Facet: place, Angle: math.Atan2(math.Hypot(normal.X, normal.Y), normal.Z) * 180 / math.Pi, Distance: distance,
		Azimuth: math.Atan2(normal.X, normal.Y) * 180 / math.Pi,
	}
}

// Machine is what of the machine may come to the lap: the diameter of the quill's nose, and how far behind
// the dop's rim it begins. Where either is 0 it is not known.
type Machine struct{ Quill, Reach float64 }

// Known tells whether both are known.
func (m Machine) Known() bool { return m.Quill > 0 && m.Reach > 0 }

// Dops are long enough that no facet above 90° comes to the far end of one that is not measured.
const usualReach = 30

// Room is how far dop and quill stay off the lap at one cut. Quill is +Inf where the machine is not known.
type Room struct {
	Cut
	Dop, Quill float64
}

// Fault is what speaks against a dop.
type Fault string

// The faults, the gravest first.
const (
	// InTheWay: the lap meets the dop before a cut is done.
	InTheWay Fault = "in-the-way"
	// OffStone: nothing of the stone lies over the dop.
	OffStone Fault = "off-stone"
	// NoRim: too little of the stone stands out to centre it by.
	NoRim Fault = "no-rim"
	// Tight: the lap comes close to the dop.
	Tight Fault = "tight"
	// OverRim: the quill meets the lap, so a cut is made at the lap's rim with the quill outside. Upright
	// facets of small stones are usually cut so.
	OverRim Fault = "over-rim"
	// OtherShape: the stone's end asks for another face.
	OtherShape Fault = "other-shape"
)

// Grave tells that a dop of such a fault will not do.
func (f Fault) Grave() bool { return f == InTheWay || f == OffStone }

const (
	// LeastRim is how much of a stone should stand out all round a dop, to be centred by.
	LeastRim = 0.4
	// LeastRoom is how far the lap should stay off: a bead of adhesive takes so much.
	LeastRoom = 0.3
)

// Option is a dop tried on a stone.
type Option struct {
	Dop  Dop
	Seat Seat
	// Rooms are those of the cuts, in their order.
	Rooms []Room
	// Tightest and QuillAt are the places in Rooms where dop and quill have the least, -1 without any.
	Tightest, QuillAt int
	// Rim is how far the stone stands out where it does least.
	Rim    float64
	Faults []Fault
}

// Least is how far the dop stays off the lap at the worst, +Inf without a cut.
func (o Option) Least() float64 {
	if o.Tightest < 0 {
		return math.Inf(1)
	}
	return o.Rooms[o.Tightest].Dop
}

// LeastQuill is the same of the quill, +Inf also where that is not known.
func (o Option) LeastQuill() float64 {
	if o.QuillAt < 0 {
		return math.Inf(1)
	}
	return o.Rooms[o.QuillAt].Quill
}

// Sound tells that no fault is grave.
func (o Option) Sound() bool { return !slices.ContainsFunc(o.Faults, Fault.Grave) }

// Try sets the stone onto a dop and looks at the cuts that are made on it.
func (h Held) Try(d Dop, cuts []Cut, m Machine) Option {
	foot := h.Foot()
	seat, ok := h.Seat(d, foot.Along)
	out := Option{Dop: d, Seat: seat, Rim: h.Rim() - d.Radius(), Tightest: -1, QuillAt: -1}
	reach := m.Reach
	if reach == 0 {
		reach = usualReach
	}
	for i, c := range cuts {
		r := Room{Cut: c, Dop: Clearance(c.Angle, c.Distance, d.Radius(), seat.Near, reach), Quill: math.Inf(1)}
		if m.Known() {
			r.Quill = Clearance(c.Angle, c.Distance, m.Quill/2, seat.Near+m.Reach, 0)
		}
		out.Rooms = append(out.Rooms, r)
		if r.Dop < out.Least() {
			out.Tightest = i
		}
		if r.Quill < out.LeastQuill() {
			out.QuillAt = i
		}
	}
	add := func(f Fault, is bool) {
		if is {
			out.Faults = append(out.Faults, f)
		}
	}
	// A flat face bears a stone at its tip alone; in a hollow, a level end stands on the rim.
	other := d.Shape == Flat && foot.Underside != Level || d.Shape == Cone && foot.Underside != Tip || d.Shape == Vee && foot.Underside != Keel
	add(OffStone, !ok)
	add(InTheWay, out.Least() < 0)
	add(NoRim, out.Rim < LeastRim)
	add(Tight, out.Least() >= 0 && out.Least() < LeastRoom)
	add(OverRim, out.LeastQuill() < 0)
	add(OtherShape, other)
	return out
}

// Compare orders dops that were tried, for slices.SortFunc: those without grave faults first, of these those
// with the fewest faults, and of these the one that holds most.
func (o Option) Compare(other Option) int {
	return cmp.Or(
		before(o.Sound(), other.Sound()), cmp.Compare(len(o.Faults), len(other.Faults)),
		cmp.Compare(other.Seat.Most(), o.Seat.Most()),
	)
}

// before puts what is so before what is not.
func before(a, b bool) int {
	switch {
	case a == b:
		return 0
	case a:
		return -1
	}
	return 1
}
