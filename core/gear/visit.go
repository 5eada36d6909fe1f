package gear

import (
	"cmp"
	"math"
	"slices"
)

// Visiting is the order in which a cutter visits the facets of a tier.
type Visiting string

// The visiting orders that cutters keep to.
const (
	// AsWritten follows the diagram.
	AsWritten Visiting = "written"
	// RoundTheWheel starts at the tooth the diagram begins with and goes up.
	RoundTheWheel Visiting = "round"
	// OppositePairs cuts each facet's opposite next, so that the stone stays
	// centred while it comes down.
	OppositePairs Visiting = "pairs"
)

// Visitings lists them, the default first.
var Visitings = []Visiting{AsWritten, RoundTheWheel, OppositePairs}

// Order returns the places of the given dialled indexes in the order of visiting.
func (v Visiting) Order(indexes []float64, teeth int) []int {
	places := make([]int, len(indexes))
	for i := range places {
		places[i] = i
	}
	if v != RoundTheWheel && v != OppositePairs || len(indexes) == 0 {
		return places
	}
	n := float64(teeth)
	on := func(place int) float64 { return math.Mod(indexes[place]-indexes[0]+2*n, n) }
	slices.SortStableFunc(places, func(a, b int) int { return cmp.Compare(on(a), on(b)) })
	if v == RoundTheWheel {
		return places
	}
	var out []int
	for len(places) > 0 {
		first := places[0]
		out, places = append(out, first), places[1:]
		opposite := slices.IndexFunc(places, func(p int) bool { return Same(indexes[p], indexes[first]+n/2, teeth) })
		if opposite >= 0 {
			out = append(out, places[opposite])
			places = slices.Delete(places, opposite, opposite+1)
		}
	}
	return out
}
