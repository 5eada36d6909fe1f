package gear

import (
	"errors"
	"math"

	"gonum.org/v1/gonum/num/quat"
	"gonum.org/v1/gonum/spatial/r3"
)

// Pose is how a stone is held on the machine: what points out of the dop, how it is
// turned on it, which gear counts, and whether it has moved since it was glued.
type Pose struct {
	// Up is the direction in the stone that points out of the dop, of length 1.
	Up r3.Vec
	// Gear is the number of teeth of the index gear.
	Gear int
	// Turn is the turn of the stone on the dop, degrees clockwise as seen from where Up
	// points. At 0 the stone's 12 o'clock, +y, comes to the lap at index N.
	Turn float64
	// Rotation takes a nominal direction in the stone to where it really is, both in the
	// frame of the diagram. It is the identity, 1, as long as the stone has not moved.
	Rotation quat.Number
	// Cheats say which teeth are dialled.
	Cheats Cheating
}

// Unmoved is the rotation of a stone that sits as it was glued.
var Unmoved = quat.Number{Real: 1}

// Setting is what a cutter sets for one facet: the angle on the protractor, 0 for a
// facet that lies level and 90 for one that stands upright, and the index.
type Setting struct {
	Angle float64
	Position
}

// ErrPose is returned when a pose has no gear, no direction that points up, or a rotation that is none.
var ErrPose = errors.New("the pose cannot be dialled")

// Dial returns how a facet with the given outward unit normal is set on a stone held in
// a pose. A level facet comes in at any tooth: it is dialled at the one nearest to index
// N, without a cheat. Angles carry nine decimals, so that 41.7 comes back as 41.7.
//
// With u up, t the part of +y across u (of +z where u runs along y) and r = t × u, the
// angle is atan2(|n − (n·u)u|, n·u) and the index stands for atan2(n·r, n·t) + turn. It
// returns ErrPose where the gear has no teeth, or up or the rotation are not of length 1.
func Dial(normal r3.Vec, p Pose) (Setting, error) {
	if p.Gear < 1 || math.Abs(r3.Norm(p.Up)-1) > 1e-6 || math.Abs(quat.Abs(p.Rotation)-1) > 1e-6 {
		return Setting{}, ErrPose
	}
	n := r3.Rotation(p.Rotation).Rotate(normal)
	twelve, three := p.axes()
	angle := math.Atan2(r3.Norm(across(n, p.Up)), r3.Dot(n, p.Up)) * 180 / math.Pi
	out := Setting{Angle: math.Round(angle*1e9) / 1e9}
	if out.Angle == 0 {
		out.Position = At(p.Turn, p.Gear)
		out.Index, out.Cheat = float64(out.Tooth), 0
		if out.Position = p.Cheats.At(out.Position, p.Gear); out.Cheat != 0 {
			out.Index, out.Cheat = float64(out.Tooth), 0
		}
		return out, nil
	}
	out.Position = p.Cheats.At(At(math.Atan2(r3.Dot(n, three), r3.Dot(n, twelve))*180/math.Pi+p.Turn, p.Gear), p.Gear)
	return out, nil
}

// Facing returns the outward unit normal of the facet that comes to the lap at an angle in degrees, over 90 for one
// that leans towards the dop, and an index that may lie between teeth. It is the way back from Dial, for a pose that
// Dial takes.
func (p Pose) Facing(angle, index float64) r3.Vec {
	twelve, three := p.axes()
	sin, cos := math.Sincos((Azimuth(index, p.Gear) - p.Turn) * math.Pi / 180)
	out, along := math.Sincos(angle * math.Pi / 180)
	n := r3.Add(r3.Scale(along, p.Up), r3.Scale(out, r3.Add(r3.Scale(sin, three), r3.Scale(cos, twelve))))
	return r3.Rotation(quat.Conj(p.Rotation)).Rotate(n)
}

// axes returns the directions across up from which the index counts and to which it rises.
func (p Pose) axes() (twelve, three r3.Vec) {
	twelve = across(r3.Vec{Y: 1}, p.Up)
	if r3.Norm(twelve) < 1e-6 {
		twelve = across(r3.Vec{Z: 1}, p.Up)
	}
	twelve = r3.Unit(twelve)
	return twelve, r3.Cross(twelve, p.Up)
}

// Seen returns how a stone that sits as it was glued is seen from where Up points, index N above: the directions in the stone that lie
// right and above then. It is for poses that Dial takes.
func (p Pose) Seen() (right, above r3.Vec) {
	p.Rotation = Unmoved
	return p.Facing(90, float64(p.Gear)/4), p.Facing(90, 0)
}

// across returns the part of v that is at right angles to the unit vector u.
func across(v, u r3.Vec) r3.Vec { return r3.Sub(v, r3.Scale(r3.Dot(v, u), u)) }

// Moved returns the pose of a stone that sits otherwise than it was glued to sit: it was twisted by so many degrees
// towards rising index, and then leans by tilt degrees towards a dialled index, which may lie between teeth. Both are
// told against the stone as it should sit; what the pose knew of an older move is forgotten.
//
// The rotation is Lean(towards, tilt)·Twist(twist): a turn of u about −u, then one about u × the direction that the
// stone leans to.
func (p Pose) Moved(tilt, towards, twist float64) Pose {
	const half = math.Pi / 360
	twelve, three := p.axes()
	sin, cos := math.Sincos((Azimuth(towards, p.Gear) - p.Turn) * math.Pi / 180)
	lean := r3.Cross(p.Up, r3.Add(r3.Scale(sin, three), r3.Scale(cos, twelve)))
	turn := func(axis r3.Vec, degrees float64) quat.Number {
		s, c := math.Sincos(degrees * half)
		return quat.Number{Real: c, Imag: s * axis.X, Jmag: s * axis.Y, Kmag: s * axis.Z}
	}
	p.Rotation = quat.Mul(turn(lean, tilt), turn(r3.Scale(-1, p.Up), twist))
	return p
}
