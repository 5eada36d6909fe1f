package gear

import (
	"errors"
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/spatial/r3"
)

// Dialled is an angle and an index that may lie between teeth, as a cutter reads them off a machine.
type Dialled struct{ Angle, Index float64 }

// Flush is a facet that was brought flush with a flat lap: where it is dialled on a stone that sits as it was glued, and
// where it was found.
type Flush struct{ Nominal, Found Dialled }

// Move is how a stone sits on its dop, against how it was glued.
type Move struct {
	// Tilt is by how many degrees it leans, Towards the dialled index to which it leans; 0 where it does not lean. Twist is
	// by how many degrees it was turned before, towards rising index.
	Tilt, Towards, Twist float64
	// Residuals are by how many degrees each reading lies off the move.
	Residuals []float64
	// Spread is the standard deviation of the move in degrees, in the direction in which it is known least, for readings
	// that have one of a degree.
	Spread float64
}

// Reasons why readings do not tell how a stone sits.
var (
	ErrFewReadings = errors.New("two facets at least are brought flush to tell how the stone sits")
	ErrOneLine     = errors.New("the facets lie alike or opposite: bring one flush that faces elsewhere")
)

// apart is the least angle in degrees between two facets, and between one and the opposite of another, that tells a move:
// below it an error of reading is magnified more than fifty times.
const apart = 1.0

// FindMove returns how a stone sits, by least squares from facets that were brought flush with a lap: Wahba's problem, solved
// by singular values. It returns ErrFewReadings for fewer than two, ErrOneLine where no two of them are neither
// parallel nor opposite.
func (p Pose) FindMove(readings []Flush) (Move, error) {
	if len(readings) < 2 {
		return Move{}, ErrFewReadings
	}
	nominal, found := make([]r3.Vec, len(readings)), make([]r3.Vec, len(readings))
	for i, r := range readings {
		nominal[i], found[i] = r.Nominal.Direction(p.Gear), r.Found.Direction(p.Gear)
	}
	if !turnKnown(nominal) || !turnKnown(found) {
		return Move{}, ErrOneLine
	}
	turn := wahba(nominal, found)
	m := Move{Spread: MoveSpread(nominal), Residuals: make([]float64, len(readings))}
	for i, n := range nominal {
		m.Residuals[i] = between(turn.MulVec(n), found[i])
	}
	z := turn.MulVec(r3.Vec{Z: 1})
	across := math.Hypot(z.X, z.Y)
	m.Tilt = math.Atan2(across, z.Z) * degree
	if across > 1e-9 {
		m.Towards = Normal(math.Atan2(z.X, z.Y)*degree*float64(p.Gear)/360, p.Gear)
	}
	m.Twist = math.Atan2(turn.At(0, 1)-turn.At(1, 0), turn.At(0, 0)+turn.At(1, 1)) * degree
	return m, nil
}

const degree = 180 / math.Pi

// Direction is where a facet faces in the frame of the machine: z out of the dop, y at index N, x a quarter of the gear on.
func (d Dialled) Direction(teeth int) r3.Vec {
	sin, cos := math.Sincos(d.Angle / degree)
	x, y := math.Sincos(Azimuth(d.Index, teeth) / degree)
	return r3.Vec{X: sin * x, Y: sin * y, Z: cos}
}

func between(a, b r3.Vec) float64 {
	return math.Atan2(r3.Norm(r3.Cross(a, b)), r3.Dot(a, b)) * degree
}

// turnKnown tells whether some two directions are neither parallel nor opposite.
func turnKnown(directions []r3.Vec) bool {
	return slices.ContainsFunc(directions[1:], func(d r3.Vec) bool {
		return r3.Norm(r3.Cross(directions[0], d)) > math.Sin(apart/degree)
	})
}

// wahba returns the rotation that takes one set of directions nearest to another.
func wahba(from, to []r3.Vec) *r3.Mat {
	b := mat.NewDense(3, 3, nil)
	for i := range from {
		u, v := []float64{to[i].X, to[i].Y, to[i].Z}, []float64{from[i].X, from[i].Y, from[i].Z}
		b.RankOne(b, 1, mat.NewVecDense(3, u), mat.NewVecDense(3, v))
	}
	var svd mat.SVD
	svd.Factorize(b, mat.SVDFull)
	var u, v, turn mat.Dense
	svd.UTo(&u)
	svd.VTo(&v)
	// No mirror: the direction that is known least is turned instead.
	turn.Mul(&u, mat.NewDiagDense(3, []float64{1, 1, mat.Det(&u) * mat.Det(&v)}))
	turn.Mul(&turn, v.T())
	return r3.NewMat(turn.RawMatrix().Data)
}

// MoveSpread is the standard deviation in degrees of a move that is found from facets facing in unit directions, where it
// is known least, for readings that have one of a degree: the root of the largest eigenvalue of (Σ 1 − n·nᵀ)⁻¹. It is +Inf
// where they do not tell the move.
func MoveSpread(directions []r3.Vec) float64 {
	info := mat.NewSymDense(3, nil)
	for _, n := range directions {
		info.SymRankOne(info, -1, mat.NewVecDense(3, []float64{n.X, n.Y, n.Z}))
	}
	for k := range 3 {
		info.SetSym(k, k, info.At(k, k)+float64(len(directions)))
	}
	var eig mat.EigenSym
	eig.Factorize(info, false)
	if least := eig.Values(nil)[0]; least > 1e-9 {
		return 1 / math.Sqrt(least)
	}
	return math.Inf(1)
}

// Misread lists the readings, by their places, of which one alone explains why they do not fit: without it no residual of
// the others exceeds a limit in degrees. It is empty where all fit, and where no one explains it.
func (p Pose) Misread(readings []Flush, limit float64) []int {
	fits := func(readings []Flush) bool {
		m, err := p.FindMove(readings)
		return err == nil && slices.Max(m.Residuals) <= limit
	}
	var out []int
	if fits(readings) {
		return out
	}
	for i := range readings {
		if fits(slices.Delete(slices.Clone(readings), i, i+1)) {
			out = append(out, i)
		}
	}
	return out
}

// Telling orders directions by how much they tell of a move: each next one makes the move best known with those before it.
// It returns places in directions, at most so many.
func Telling(directions []r3.Vec, most int) []int {
	var out []int
	taken := make([]r3.Vec, 0, most+1)
	for range min(most, len(directions)) {
		next, best := -1, 0.0
		for i, d := range directions {
			if slices.Contains(out, i) {
				continue
			}
			if is := told(append(taken, d)); next < 0 || is > best+1e-9 {
				next, best = i, is
			}
		}
		out, taken = append(out, next), append(taken, directions[next])
	}
	return out
}

// told is how much directions tell of a move: the least eigenvalue of Σ 1 − n·nᵀ, and before that is above 0, with one
// direction only, the next.
func told(directions []r3.Vec) float64 {
	if len(directions) == 1 {
		return 0 // any one tells as much as any other
	}
	spread := MoveSpread(directions)
	return 1 / (spread * spread)
}
