package fit

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/num/quat"
	"gonum.org/v1/gonum/spatial/r3"
)

// Turn is a rotation as a matrix, row by row.
type Turn [3]r3.Vec

// Still is the turn that leaves everything as it is.
var Still = Turn{{X: 1}, {Y: 1}, {Z: 1}}

// Of returns a vector turned.
func (t Turn) Of(v r3.Vec) r3.Vec {
	return r3.Vec{X: r3.Dot(t[0], v), Y: r3.Dot(t[1], v), Z: r3.Dot(t[2], v)}
}

// Back returns a vector turned the other way.
func (t Turn) Back(v r3.Vec) r3.Vec {
	return r3.Add(r3.Add(r3.Scale(v.X, t[0]), r3.Scale(v.Y, t[1])), r3.Scale(v.Z, t[2]))
}

// After returns the turn that first does u and then t.
func (t Turn) After(u Turn) Turn {
	var out Turn
	for i := range t {
		out[i] = u.Back(t[i])
	}
	return out
}

// Inverse returns the turn the other way.
func (t Turn) Inverse() Turn {
	return Turn{{X: t[0].X, Y: t[1].X, Z: t[2].X}, {X: t[0].Y, Y: t[1].Y, Z: t[2].Y}, {X: t[0].Z, Y: t[1].Z, Z: t[2].Z}}
}

// Table returns where the turn takes the direction that points out of the table.
func (t Turn) Table() r3.Vec { return r3.Vec{X: t[0].Z, Y: t[1].Z, Z: t[2].Z} }

// Numbers returns the nine numbers, row by row.
func (t Turn) Numbers() [9]float64 {
	return [9]float64{t[0].X, t[0].Y, t[0].Z, t[1].X, t[1].Y, t[1].Z, t[2].X, t[2].Y, t[2].Z}
}

// TurnOf is the turn of nine numbers, as Numbers returns them.
func TurnOf(n [9]float64) Turn {
	return Turn{{X: n[0], Y: n[1], Z: n[2]}, {X: n[3], Y: n[4], Z: n[5]}, {X: n[6], Y: n[7], Z: n[8]}}
}

// Quat returns the turn as a quaternion of length 1, by the largest of its parts, so that no small number is divided by.
func (t Turn) Quat() quat.Number {
	xx, yy, zz := t[0].X, t[1].Y, t[2].Z
	parts := [4]float64{1 + xx + yy + zz, 1 + xx - yy - zz, 1 - xx + yy - zz, 1 - xx - yy + zz}
	yz, zx, xy := t[2].Y-t[1].Z, t[0].Z-t[2].X, t[1].X-t[0].Y
	sxy, szx, syz := t[1].X+t[0].Y, t[0].Z+t[2].X, t[2].Y+t[1].Z
	var q quat.Number
	switch slices.Max(parts[:]) {
	case parts[0]:
		q = quat.Number{Real: parts[0], Imag: yz, Jmag: zx, Kmag: xy}
	case parts[1]:
		q = quat.Number{Real: yz, Imag: parts[1], Jmag: sxy, Kmag: szx}
	case parts[2]:
		q = quat.Number{Real: zx, Imag: sxy, Jmag: parts[2], Kmag: syz}
	default:
		q = quat.Number{Real: xy, Imag: szx, Jmag: syz, Kmag: parts[3]}
	}
	return quat.Scale(1/quat.Abs(q), q)
}

// trace is 1 + 2·cos of the angle of the turn.
func (t Turn) trace() float64 { return t[0].X + t[1].Y + t[2].Z }

// angleTo is the angle in radians of the turn that leads from t to u.
func (t Turn) angleTo(u Turn) float64 {
	cos := (r3.Dot(t[0], u[0]) + r3.Dot(t[1], u[1]) + r3.Dot(t[2], u[2]) - 1) / 2
	return math.Acos(max(-1, min(1, cos)))
}

// quaternion returns the turn of a quaternion, of any length but 0.
func quaternion(w, x, y, z float64) Turn {
	n := 1 / math.Sqrt(w*w+x*x+y*y+z*z)
	w, x, y, z = w*n, x*n, y*n, z*n
	return Turn{
		{X: 1 - 2*(y*y+z*z), Y: 2 * (x*y - w*z), Z: 2 * (x*z + w*y)},
		{X: 2 * (x*y + w*z), Y: 1 - 2*(x*x+z*z), Z: 2 * (y*z - w*x)},
		{X: 2 * (x*z - w*y), Y: 2 * (y*z + w*x), Z: 1 - 2*(x*x+y*y)},
	}
}

// about returns the turn by the length of a vector, in radians, about its direction.
func about(v r3.Vec) Turn {
	angle := r3.Norm(v)
	if angle == 0 {
		return Still
	}
	sin, cos := math.Sincos(angle / 2)
	a := r3.Scale(sin/angle, v)
	return quaternion(cos, a.X, a.Y, a.Z)
}

// axisTurns are the 24 turns that carry axes to axes.
func axisTurns() []Turn {
	axes := []r3.Vec{{X: 1}, {X: -1}, {Y: 1}, {Y: -1}, {Z: 1}, {Z: -1}}
	var out []Turn
	for _, x := range axes {
		for _, y := range axes {
			if r3.Dot(x, y) == 0 {
				out = append(out, Turn{x, y, r3.Cross(x, y)})
			}
		}
	}
	return out
}

// spread returns n turns that lie evenly among all: points on two spirals on the sphere of unit
// quaternions (Alexa, "Super-Fibonacci spirals", 2022). The shift, 0 to 1, gives others.
func spread(n int, shift float64) []Turn {
	const psi = 1.533751168755204288118041
	out := make([]Turn, n)
	for i := range out {
		s := float64(i) + 0.5
		r, rr := math.Sqrt(s/float64(n)), math.Sqrt(1-s/float64(n))
		sinA, cosA := math.Sincos(2 * math.Pi * (s/math.Sqrt2 + shift))
		sinB, cosB := math.Sincos(2 * math.Pi * (s/psi + 2*shift))
		out[i] = quaternion(r*sinA, r*cosA, rr*sinB, rr*cosB)
	}
	return out
}

// frameTo returns a turn that takes the z axis to a unit vector.
func frameTo(n r3.Vec) Turn {
	u := r3.Vec{X: 1}
	if math.Abs(n.X) > 0.6 {
		u = r3.Vec{Y: 1}
	}
	u = r3.Unit(r3.Cross(u, n))
	v := r3.Cross(n, u)
	return Turn{u, v, n}.Inverse()
}
