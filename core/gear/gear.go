// Package gear reckons with index gears: positions on a gear, the azimuth they stand
// for, and the same stone on another gear, in whole teeth and a cheat.
//
// Index i on a gear of N teeth stands for the azimuth 360·i/N degrees. N and 0 are
// the same tooth; people write N. An index may lie between teeth.
package gear

import (
	"math"
	"slices"
)

// sameTooth is how far apart, in teeth, two indexes are still one position.
const sameTooth = 1e-6

// sameCheat is up to how many degrees a cheat is none.
const sameCheat = 1e-9

// Azimuth returns the degrees that an index stands for, clockwise from index N.
func Azimuth(index float64, teeth int) float64 { return 360 * index / float64(teeth) }

// Circle brings an angle into 0 to under 360. What is within a ten-thousandth of
// the tooth tolerance of a full turn is 0.
func Circle(degrees float64) float64 {
	d := math.Mod(degrees, 360)
	if d < 0 {
		d += 360
	}
	if d > 360-1e-10 {
		return 0
	}
	return d
}

// Normal brings an index into the range people write: over 0, up to the number
// of teeth.
func Normal(index float64, teeth int) float64 {
	n := float64(teeth)
	m := math.Mod(index, n)
	if m < 0 {
		m += n
	}
	if m < sameTooth || n-m < sameTooth {
		return n
	}
	return m
}

// Same tells whether two indexes are one position on the gear.
func Same(a, b float64, teeth int) bool {
	return math.Abs(Normal(a-b, teeth)-float64(teeth)) <= sameTooth
}

// Mirror returns the index at which a facet comes to the lap once the stone has
// been turned over: N − i, written over 0 and up to N.
func Mirror(index float64, teeth int) float64 { return Normal(-index, teeth) }

// Position is what a cutter sets: a whole tooth and, between teeth, a cheat.
type Position struct {
	// Index is the exact position on the gear, over 0 and up to its teeth.
	Index float64 `json:"index"`
	// Tooth is the nearest tooth, 1 to the number of teeth; half a tooth goes up.
	Tooth int `json:"tooth"`
	// Cheat is the rest in degrees, positive with rising index.
	Cheat float64 `json:"cheat"`
}

// At returns the position that a turn of the given degrees has on a gear.
func At(turn float64, teeth int) Position {
	index := Normal(turn*float64(teeth)/360, teeth)
	tooth := math.Floor(index + 0.5 + sameTooth)
	cheat := (index - tooth) * 360 / float64(teeth)
	if math.Abs(cheat) < sameCheat {
		cheat = 0
	}
	return Position{Index: index, Tooth: int(Normal(tooth, teeth)), Cheat: cheat}
}

// Fit tells how well a gear carries a stone.
type Fit struct {
	Teeth int
	// Turn is the turn of the whole stone on its dop, in degrees clockwise as
	// seen from above the table, that makes the largest cheat smallest.
	Turn float64
	// LargestCheat is in degrees; 0 means that the gear carries the stone.
	LargestCheat float64
}

// BestTurn finds the turn of the whole stone that leaves the smallest cheats for
// facets at the given stone azimuths (degrees). Only differences between indexes
// matter, so a stone may be turned on the dop. The residues of the azimuths
// modulo one tooth are laid round a circle; the middle of the widest gap goes to
// the half tooth, which leaves (tooth − gap)/2. Of equal turns the smallest, then
// the positive one.
func BestTurn(azimuths []float64, teeth int) Fit {
	tooth := 360 / float64(teeth)
	residues := make([]float64, 0, len(azimuths))
	for _, a := range azimuths {
		r := math.Mod(math.Mod(a, tooth)+tooth, tooth)
		// A residue a hair under a whole tooth is a whole tooth.
		if tooth-r < tooth*sameTooth {
			r = 0
		}
		residues = append(residues, r)
	}
	if len(residues) == 0 {
		return Fit{Teeth: teeth}
	}
	slices.Sort(residues)
	widest, turns := 0.0, []float64(nil)
	for i, r := range residues {
		next := residues[0] + tooth
		if i+1 < len(residues) {
			next = residues[i+1]
		}
		gap, turn := next-r, math.Mod(tooth/2-(r+next)/2, tooth)
		if gap > widest+1e-9 {
			widest, turns = gap, nil
		}
		if gap > widest-1e-9 {
			turns = append(turns, turn, turn+tooth, turn-tooth)
		}
	}
	best := turns[0]
	for _, t := range turns {
		shorter := math.Abs(t) < math.Abs(best)-1e-9
		positive := math.Abs(math.Abs(t)-math.Abs(best)) <= 1e-9 && t > best
		if shorter || positive {
			best = t
		}
	}
	fit := Fit{Teeth: teeth, Turn: best, LargestCheat: (tooth - widest) / 2}
	if fit.LargestCheat < 1e-9 {
		fit.LargestCheat = 0
	}
	if math.Abs(fit.Turn) < 1e-9 {
		fit.Turn = 0
	}
	return fit
}
