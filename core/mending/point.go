package mending

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// tried is how many choices of facets are tried at most: every try reckons all ways.
const tried = 12

// ways are those for a stone with places in it that have to go: each goes with one facet or another, and of each way the one leads that
// loses least. Facets are tried that have to go down least.
func (m *mender) ways(points []r3.Vec) []Way {
	var left []r3.Vec
	var candidates [][]int
	for _, q := range points {
		if c := m.candidates(q); len(c) > 0 {
			left, candidates = append(left, q), append(candidates, c)
		}
	}
	each := tried
	if n := len(left); n > 0 {
		each = int(math.Pow(tried, 1/float64(n)))
	}
	for i, c := range candidates {
		candidates[i] = c[:min(len(c), each)]
	}
	var best []Way
	most := m.Most
	combined(candidates, nil, func(with []int) {
		m.Most = slices.Clone(most)
		for i, place := range with {
			m.Most[place] = math.Min(m.Most[place], r3.Dot(m.Plan.Facets[place].Plane.Normal, left[i]))
		}
		for i, w := range m.all() {
			w.With = slices.Clone(with)
			if i == len(best) {
				best = append(best, w)
			} else if better(w, best[i]) {
				best[i] = w
			}
		}
	})
	return best
}

// combined calls try with every choice of one from each list, behind those that are chosen already.
func combined(lists [][]int, chosen []int, try func(with []int)) {
	if len(chosen) == len(lists) {
		try(chosen)
		return
	}
	for _, place := range lists[len(chosen)] {
		combined(lists, append(slices.Clone(chosen), place), try)
	}
}

// better tells whether a way can be gone where the other cannot, or leaves more of the stone.
func better(a, b Way) bool {
	if a.Err != nil || b.Err != nil {
		return a.Err == nil && b.Err != nil
	}
	return a.Stone.Solid().Volume() > b.Stone.Solid().Volume()+same
}

// Gone tells whether a place lies outside the stone already, or will once everything is cut as planned.
func (s *Standing) Gone(q r3.Vec) bool {
	return len((&mender{Standing: s}).candidates(q)) == 0
}

// candidates are the facets, by their places, that can go down until a place in the stone lies outside it, the one first that has to go
// down least. There are none where the place is gone already, or goes with what is still to be cut.
func (m *mender) candidates(q r3.Vec) []int {
	under := make([]float64, len(m.Plan.Facets))
	var out []int
	for i, f := range m.Plan.Facets {
		at := f.Plane.D
		if m.cut(i) {
			at = m.Cut[i]
		}
		if under[i] = math.Min(at, m.Most[i]) - r3.Dot(f.Plane.Normal, q); under[i] <= same {
			return nil
		}
		out = append(out, i)
	}
	for _, b := range slices.Concat(planesOf(m.Beside), m.Walls) {
		if b.Above(q) >= -same {
			return nil
		}
	}
	slices.SortStableFunc(out, func(i, k int) int {
		switch {
		case under[i] < under[k]-same:
			return -1
		case under[i] > under[k]+same:
			return 1
		}
		return 0
	})
	return out
}
