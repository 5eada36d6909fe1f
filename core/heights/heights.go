// Package heights reckons with the height dial of a faceting machine: what it read at tiers that are
// finished tells what it will read when a later one is.
//
// The pivot stands h above the lap, and the stone's reference point L along the quill. A facet at the
// angle t and the distance d from that point lies on the lap when
//
//	h = d + L·cos t + zero
//
// Two unknowns, the length L and the zero of this mounting and lap, follow from two readings at different
// angles, and by least squares from more.
package heights

import (
	"errors"
	"math"
)

// Cut is a facet as the dial sees it.
type Cut struct {
	// Angle is what is dialled, in degrees from 0 to 180: above 90 the facet leans towards the dop.
	Angle float64
	// Distance is that of its plane from the stone's reference point, in mm.
	Distance float64
}

// Reading is what the dial showed in mm, rising as the pivot is lifted, when a cut was finished.
type Reading struct {
	Cut
	// Lap names what the stone was cut on. Laps differ in thickness, so that each has a zero of its own.
	Lap string
	MM  float64
}

// UsualSD is the standard deviation of a reading in mm: a hand reads a hundredth.
const UsualSD = 0.01

// apart is the least spread of cosines, as a sum of squares, that tells a length from a zero. Angles a
// hundredth of a degree apart have more, even near 0.
const apart = 1e-15

// ErrNothingRead is returned where no reading was given.
var ErrNothingRead = errors.New("no reading of the height dial was given")

// Fit is a dial and a stone on its dop, brought together by readings.
type Fit struct {
	sd   float64
	laps map[string]*lap
	// spread is the sum of squares of cos t about the mean of each lap.
	spread, length float64
}

// lap holds the number of readings on one lap, and their means of cos t and of h − d.
type lap struct{ n, x, y float64 }

// Calibrate fits one length, and the zero of every lap, to readings that each have the standard deviation sd
// in mm. Readings at one angle alone leave both unknown: the fit then knows what the dial reads at that angle.
// It returns ErrNothingRead without a reading.
func Calibrate(readings []Reading, sd float64) (*Fit, error) {
	if len(readings) == 0 {
		return nil, ErrNothingRead
	}
	f := &Fit{sd: sd, laps: map[string]*lap{}}
	for _, r := range readings {
		if f.laps[r.Lap] == nil {
			f.laps[r.Lap] = &lap{}
		}
		f.laps[r.Lap].n++
	}
	for _, r := range readings {
		on := f.laps[r.Lap]
		on.x += r.cos() / on.n
		on.y += (r.MM - r.Distance) / on.n
	}
	var both float64
	for _, r := range readings {
		on := f.laps[r.Lap]
		f.spread += (r.cos() - on.x) * (r.cos() - on.x)
		both += (r.cos() - on.x) * (r.MM - r.Distance - on.y)
	}
	if f.known() {
		f.length = both / f.spread
	}
	return f, nil
}

func (c Cut) cos() float64 {
	if c.Angle == 90 {
		return 0
	}
	return math.Cos(c.Angle * math.Pi / 180)
}

// known tells whether the angles that were read are far enough apart to tell length from zero.
func (f *Fit) known() bool { return f.spread > apart }

// Setting returns the length and the zero on a lap in mm. It is false where the readings leave them unknown.
func (f *Fit) Setting(onLap string) (length, zero float64, ok bool) {
	on := f.laps[onLap]
	if on == nil || !f.known() {
		return 0, 0, false
	}
	return f.length, on.y - f.length*on.x, true
}

// At returns what the dial reads in mm when a cut is finished on a lap, and the standard deviation of that as
// it follows from those of the readings, without that of reading once more. It is false on a lap without a
// reading, and for a cut at another angle than the only one that was read.
func (f *Fit) At(c Cut, onLap string) (mm, sd float64, ok bool) {
	on := f.laps[onLap]
	if on == nil {
		return 0, 0, false
	}
	off := c.cos() - on.x
	if f.known() {
		return c.Distance + on.y + f.length*off, f.sd * math.Sqrt(1/on.n+off*off/f.spread), true
	}
	if math.Abs(off) > math.Sqrt(apart) {
		return 0, 0, false
	}
	return c.Distance + on.y, f.sd / math.Sqrt(on.n), true
}

// Strange is how many standard deviations off a reading no longer fits.
const Strange = 3

// Misfit returns by how many mm a new reading is off from what the fit foretells, and whether that is more
// than Strange times its standard deviation, the new reading's own included. It is 0 and false where the fit
// foretells nothing.
func (f *Fit) Misfit(r Reading) (off float64, strange bool) {
	mm, sd, ok := f.At(r.Cut, r.Lap)
	if !ok {
		return 0, false
	}
	off = r.MM - mm
	return off, math.Abs(off) > Strange*math.Hypot(sd, f.sd)
}

// Pair names two cuts by their places, the earlier one first.
type Pair struct{ First, Second int }

// BestPair returns the two of the cuts, in the order of the work, whose readings foretell most of those that
// follow them to within twice a reading's own standard deviation; of equal ones the pair that is surest of
// the worst of those, then the earlier one. It is false where no pair foretells any.
func BestPair(cuts []Cut) (Pair, bool) {
	best, most, worst := Pair{}, 0, math.Inf(1)
	for second := range cuts {
		for first := range second {
			f, err := Calibrate([]Reading{{Cut: cuts[first]}, {Cut: cuts[second]}}, 1)
			if err != nil || !f.known() {
				continue
			}
			told, sharp := 0, 0.0
			for _, c := range cuts[second+1:] {
				if _, sd, _ := f.At(c, ""); sd <= 2 {
					told, sharp = told+1, math.Max(sharp, sd)
				}
			}
			if told > most || told == most && told > 0 && sharp < worst-1e-9 {
				best, most, worst = Pair{first, second}, told, sharp
			}
		}
	}
	return best, most > 0
}
