package cutting

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/solid"
)

// Meet is a point of a finished stone where at least four facets meet by
// intention: the points that fall apart where a facet is off.
type Meet struct {
	Point r3.Vec
	// Facets lists the places of its facets in Stone.Facets, ascending.
	Facets []int
}

// MeetError tells how a meet of the exact stone looks on a changed one, in design
// units.
type MeetError struct {
	Meet
	// Residual is the largest distance from the least-squares point of the
	// changed planes to one of them.
	Residual float64
	// Gap is the largest distance between those vertices of the changed stone
	// whose facets all belong to the meet: what an eye sees under a loupe.
	Gap float64
}

// Meets returns the meets of the stone as far as it has been cut.
func (s *Stone) Meets() []Meet {
	var out []Meet
	for _, c := range cornersOf(s.Solid()) {
		if len(c.facets) > 3 && !c.block {
			out = append(out, Meet{Point: c.point, Facets: c.facets})
		}
	}
	return out
}

// Meetable returns the corners of the stone as far as it has been cut at which a cut could stop:
// those that do not touch the block.
func (s *Stone) Meetable() []Meet {
	var out []Meet
	for _, c := range cornersOf(s.Solid()) {
		if !c.block {
			out = append(out, Meet{Point: c.point, Facets: c.facets})
		}
	}
	return out
}

// Planes returns the planes of all facets, in the order of s.Facets.
func (s *Stone) Planes() []solid.Plane {
	out := make([]solid.Plane, len(s.Facets))
	for i, f := range s.Facets {
		out[i] = f.Plane
	}
	return out
}

// WithPlanes cuts the stone anew with other planes, in the order of s.Facets. The error
// is a Problem, CutFailed or TakesAll.
func (s *Stone) WithPlanes(planes []solid.Plane) (*solid.Solid, error) {
	now := start(s.Diagram).Solid()
	for i, p := range planes {
		next, outcome := now.Cut(i, p)
		if code, ok := cannot[outcome]; ok {
			return now, s.problem(code, s.Facets[i].Tier)
		}
		now = next
	}
	return now, nil
}

// MeetErrors holds the meets of the stone against the same facets on changed
// planes (in the order of s.Facets), the largest gap first. The error is a Problem,
// CutFailed or TakesAll.
func (s *Stone) MeetErrors(planes []solid.Plane) ([]MeetError, error) {
	changed, err := s.WithPlanes(planes)
	if err != nil {
		return nil, err
	}
	meets := s.Meets()
	gaps := Gaps(meets, changed)
	out := make([]MeetError, len(meets))
	for i, m := range meets {
		out[i] = MeetError{Meet: m, Residual: residual(m, planes), Gap: gaps[i]}
	}
	slices.SortStableFunc(out, func(a, b MeetError) int { return cmp.Compare(b.Gap, a.Gap) })
	return out, nil
}

// Gaps returns the gap of every meet on a solid whose faces have the same IDs on
// changed planes, in design units.
func Gaps(meets []Meet, changed *solid.Solid) []float64 {
	of := map[int][]int{} // facet to its meets
	for i, m := range meets {
		for _, f := range m.Facets {
			of[f] = append(of[f], i)
		}
	}
	mine := make([][]r3.Vec, len(meets))
	for _, c := range cornersOf(changed) {
		if len(c.facets) == 0 || c.block {
			continue
		}
		for _, i := range of[c.facets[0]] {
			if containsAll(meets[i].Facets, c.facets) {
				mine[i] = append(mine[i], c.point)
			}
		}
	}
	out := make([]float64, len(meets))
	for i, points := range mine {
		for k, a := range points {
			for _, b := range points[:k] {
				out[i] = math.Max(out[i], r3.Norm(r3.Sub(a, b)))
			}
		}
	}
	return out
}

// residual finds the point nearest to all planes of a meet by least squares, of
// those that are equally near the one nearest to the meet, and returns how far
// the farthest plane passes it by.
func residual(m Meet, planes []solid.Plane) float64 {
	a, b := mat.NewDense(len(m.Facets), 3, nil), mat.NewVecDense(len(m.Facets), nil)
	for i, f := range m.Facets {
		n := planes[f].Normal
		a.SetRow(i, []float64{n.X, n.Y, n.Z})
		b.SetVec(i, -planes[f].Above(m.Point))
	}
	var svd mat.SVD
	if !svd.Factorize(a, mat.SVDThin) {
		return 0
	}
	// Facets in one zone, as along a keel, leave a direction open.
	const open = 1e-9
	var x mat.VecDense
	svd.SolveVecTo(&x, b, svd.Rank(open))
	p := r3.Add(m.Point, r3.Vec{X: x.AtVec(0), Y: x.AtVec(1), Z: x.AtVec(2)})
	farthest := 0.0
	for _, f := range m.Facets {
		farthest = math.Max(farthest, math.Abs(planes[f].Above(p)))
	}
	return farthest
}

// containsAll tells whether every one of few is in many; both ascend.
func containsAll(many, few []int) bool {
	for _, f := range few {
		if _, ok := slices.BinarySearch(many, f); !ok {
			return false
		}
	}
	return true
}
