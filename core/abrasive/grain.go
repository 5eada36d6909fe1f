// Package abrasive knows what grits do: how large their grains are, what a lap leaves in a stone
// and the next must take off, which steps from lap to lap are too large, and what stays on a lap of
// all that it met. Grains and depths are in µm, lengths in mm.
package abrasive

import (
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// graded are the grades that are sold by the size of their grains: mesh and mean grain in µm.
var graded = []struct{ mesh, grain float64 }{
	{3000, 6}, {8000, 3}, {14_000, 1}, {50_000, 0.5}, {100_000, 0.25},
}

// sieved is about the mean grain of a sieve grade in µm, times its mesh.
const sieved = 15_000

// Mean returns the mean grain, in µm, of a grade that is named by its mesh. Sieve grades have about
// 15 000/mesh; from 3 000 on the grades follow the sizes that they are sold by, and what lies between
// two of them is interpolated between their logarithms. A mesh of 0 or less has no grain: 0.
func Mean(mesh float64) float64 {
	first, last := graded[0], graded[len(graded)-1]
	switch {
	case mesh <= 0:
		return 0
	case mesh < first.mesh:
		// A coarser grade never has the finer grain.
		return math.Max(sieved/mesh, first.grain)
	case mesh >= last.mesh:
		return last.grain * last.mesh / mesh
	}
	i := slices.IndexFunc(graded[1:], func(g struct{ mesh, grain float64 }) bool { return mesh < g.mesh })
	low, high := graded[i], graded[i+1]
	share := math.Log(mesh/low.mesh) / math.Log(high.mesh/low.mesh)
	return low.grain * math.Pow(high.grain/low.grain, share)
}

// Mesh returns the mesh of the coarsest grade whose mean grain is that fine, in µm, and 0 for a grain
// of 0 or less.
func Mesh(grain float64) float64 {
	first, last := graded[0], graded[len(graded)-1]
	switch {
	case grain <= 0:
		return 0
	case grain >= first.grain:
		return sieved / grain
	case grain <= last.grain:
		return last.grain * last.mesh / grain
	}
	i := slices.IndexFunc(graded[1:], func(g struct{ mesh, grain float64 }) bool { return grain > g.grain })
	low, high := graded[i], graded[i+1]
	share := math.Log(grain/low.grain) / math.Log(high.grain/low.grain)
	return low.mesh * math.Pow(high.mesh/low.mesh, share)
}

var (
	inMicrons = regexp.MustCompile(`(?i)(\d+(?:[.,]\d+)?)\s*(?:µm|μm|um\b|micron|mic\b|µ|μ)`)
	inMesh    = regexp.MustCompile(`(?i)(?:#\s*)?(\d{1,3}(?: \d{3})+|\d+(?:[.,]\d+)?)\s*(k\b)?`)
)

// coarsestMesh is the coarsest grade on a bench. A smaller figure is a size in µm.
const coarsestMesh = 40

// ReadGrain finds a grain in the words that a lap or a bottle carries: a size with its unit, as in
// "3 µm", or else a mesh, as in "steel 600", "#1200" or "50k". A bare figure under 40 is a size in µm.
// It is false where no figure stands there that could be a grain.
func ReadGrain(text string) (µm float64, ok bool) {
	figure := func(s string) float64 {
		v, _ := strconv.ParseFloat(strings.ReplaceAll(strings.ReplaceAll(s, " ", ""), ",", "."), 64)
		return v
	}
	if m := inMicrons.FindStringSubmatch(text); m != nil {
		v := figure(m[1])
		return v, v > 0 && v <= Largest
	}
	m := inMesh.FindStringSubmatch(text)
	if m == nil {
		return 0, false
	}
	v := figure(m[1])
	if m[2] != "" {
		v *= 1000
	}
	if v >= coarsestMesh {
		v = Mean(v)
	}
	return v, v > 0 && v <= Largest
}

// Largest is the largest grain that is taken for one, in µm.
const Largest = 1000
