package mending_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
)

// isGone tells whether a place lies outside a stone, or on it.
func isGone(s *cutting.Stone, q r3.Vec) bool {
	for _, f := range s.Facets {
		if f.Plane.Above(q) > -1e-7 {
			return true
		}
	}
	return false
}

// A flaw inside a stone goes with the facet that loses least: no other facet would have left more, in any way. Where it lies is gone
// afterwards, and one that lies in what is still to be cut takes nothing.
func TestAFlawGoesWithTheFacetThatLosesLeast(t *testing.T) {
	s, mm := roundAt8(t)
	all := func(string) bool { return true }
	for on := 0; on < len(s.Facets); on += 5 {
		deep := (0.01 + 0.001*float64(on)) / mm
		f := s.Facets[on]
		q := r3.Sub(s.Solid().Middle(s.Solid().Face(on)), r3.Scale(deep, f.Plane.Normal))
		at := standing(s, all)
		at.Points = []r3.Vec{q}
		ways := at.Ways(mm)
		for _, w := range ways[1:] {
			if w.Err != nil {
				continue
			}
			if !isGone(w.Stone, q) {
				t.Fatalf("%s leaves a flaw under %s", w.Kind, s.FacetName(on))
			}
			for i, v := range w.Stone.Solid().Vertices() {
				for _, g := range s.Facets {
					if g.Plane.Above(w.Stone.Solid().Point(v)) > 1e-7 {
						t.Fatalf("%s puts corner %d outside the stone as it was", w.Kind, i)
					}
				}
			}
		}
		// The slow way: the facet over the flaw, and one that lies elsewhere, by themselves.
		for _, i := range []int{on, (7*on + 3) % len(s.Facets)} {
			alone := standing(s, all)
			alone.Most[i] = r3.Dot(s.Facets[i].Plane.Normal, q)
			for k, w := range alone.Ways(mm)[1:] {
				if w.Err != nil {
					continue
				}
				if got := ways[k+1]; got.Err != nil || got.Stone.Solid().Volume() < w.Stone.Solid().Volume()-1e-7 {
					t.Fatalf("%s: with %s more is left", w.Kind, s.FacetName(i))
				}
			}
		}
	}

	// The pavilion is cut, the flaw lies where the crown will not be.
	above := r3.Vec{Z: s.Levels().Top + 0.1}
	begun := standing(s, func(tier string) bool { return tier == "P1" })
	begun.Points = []r3.Vec{above}
	for _, w := range begun.Ways(mm) {
		require.NoError(t, w.Err)
		assert.Empty(t, w.With)
		assert.InDelta(t, s.Solid().Volume(), w.Stone.Solid().Volume(), 1e-7, w.Kind)
	}
}

// Two flaws are one problem: each goes with a facet of its own.
func TestTwoFlawsAreOneProblem(t *testing.T) {
	s, mm := roundAt8(t)
	at := standing(s, func(string) bool { return true })
	for _, name := range []string{"P1@3", "C1@45"} {
		i := facet(t, s, name)
		at.Points = append(at.Points, r3.Sub(s.Solid().Middle(s.Solid().Face(i)), r3.Scale(0.02/mm, s.Facets[i].Plane.Normal)))
	}
	ways := at.Ways(mm)
	w := ways[len(ways)-1]
	require.NoError(t, w.Err)
	assert.Len(t, w.With, 2)
	for _, q := range at.Points {
		assert.True(t, isGone(w.Stone, q))
	}
	assert.False(t, math.IsNaN(w.Gap))
}
