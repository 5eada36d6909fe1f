package quick

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"cressa/core/diagram"
	"cressa/core/gear"
)

// Corner is a corner of an outline: X towards 3 o'clock, Y towards 12, in any unit.
type Corner struct{ X, Y float64 }

// MaxCorners is how many corners an outline may have.
const MaxCorners = 32

// Refusals of an outline with corners.
const (
	// HollowOutline: the outline turns inward, or has fewer than three corners or no area. Value
	// is the corner's number from 1, 0 for the outline as a whole.
	HollowOutline diagram.Code = "hollow-outline"
	// SameTooth: two sides of the outline come to one tooth of the gear. Text is the tooth.
	SameTooth diagram.Code = "same-tooth"
	// SlantTooFar: the slanted sides of a parallelogram run past its length.
	SlantTooFar diagram.Code = "slant-too-far"
)

// cornered tells whether the outline is a polygon rather than a curve.
func (o Outline) cornered() bool { return powers[o] == 0 }

// corners returns those of the outline, clockwise as seen from above the table.
func (w Wish) corners() ([]Corner, error) {
	length := w.LengthWidth
	switch w.Outline {
	case Regular:
		out := make([]Corner, w.Sides)
		for i := range out {
			// The first side stands square to 12 o'clock.
			sin, cos := math.Sincos(2 * math.Pi * (float64(i) + 0.5) / float64(w.Sides))
			out[i] = Corner{sin, cos}
		}
		return out, nil
	case Triangle:
		return []Corner{{0, length}, {0.5, 0}, {-0.5, 0}}, nil
	case Kite:
		return []Corner{{0, length * (1 - w.Widest)}, {0.5, 0}, {0, -length * w.Widest}, {-0.5, 0}}, nil
	case Parallelogram:
		rise := 1 / tan(w.Slant)
		if rise >= length-0.05 {
			return nil, diagram.Problem{Code: SlantTooFar, TierNo: -1, Field: "slant", Value: w.Slant}
		}
		return []Corner{{0.5, length / 2}, {0.5, rise - length/2}, {-0.5, -length / 2}, {-0.5, length/2 - rise}}, nil
	}
	return clockwise(w.Corners)
}

// clockwise puts the corners of a convex outline into order. The error is a Problem.
func clockwise(corners []Corner) ([]Corner, error) {
	refuse := func(no int) error {
		return diagram.Problem{Code: HollowOutline, TierNo: -1, Field: "corners", Value: float64(no)}
	}
	if len(corners) < 3 || len(corners) > MaxCorners {
		return nil, refuse(0)
	}
	out := slices.Clone(corners)
	if area(out) > 0 {
		slices.Reverse(out)
	}
	size := math.Sqrt(math.Abs(area(out)))
	if !(size > 0) {
		return nil, refuse(0)
	}
	for i, c := range out {
		before, after := out[(i+len(out)-1)%len(out)], out[(i+1)%len(out)]
		if turn := (c.X-before.X)*(after.Y-c.Y) - (c.Y-before.Y)*(after.X-c.X); turn > -1e-6*size*size {
			return nil, refuse(slices.Index(corners, c) + 1)
		}
	}
	return out, nil
}

// area is positive for corners that run counter-clockwise.
func area(corners []Corner) float64 {
	sum := 0.0
	for i, c := range corners {
		d := corners[(i+1)%len(corners)]
		sum += c.X*d.Y - d.X*c.Y
	}
	return sum / 2
}

// centred moves corners so that their outline's centre of area is the axis, and scales its smaller
// extent to 1.
func centred(corners []Corner) []Corner {
	var middle Corner
	for i, c := range corners {
		d := corners[(i+1)%len(corners)]
		part := (c.X*d.Y - d.X*c.Y) / (6 * area(corners))
		middle.X += part * (c.X + d.X)
		middle.Y += part * (c.Y + d.Y)
	}
	byX := func(a, b Corner) int { return cmp.Compare(a.X, b.X) }
	byY := func(a, b Corner) int { return cmp.Compare(a.Y, b.Y) }
	width := math.Min(slices.MaxFunc(corners, byX).X-slices.MinFunc(corners, byX).X, slices.MaxFunc(corners, byY).Y-slices.MinFunc(corners, byY).Y)
	out := make([]Corner, len(corners))
	for i, c := range corners {
		out[i] = Corner{(c.X - middle.X) / width, (c.Y - middle.Y) / width}
	}
	return out
}

// flat is one side of an outline.
type flat struct{ index, reach float64 }

// flats returns the sides of an outline with corners, clockwise. The error is a Problem.
func (w Wish) flats() ([]flat, error) {
	corners, err := w.corners()
	if err != nil {
		return nil, err
	}
	corners = centred(corners)
	out := make([]flat, len(corners))
	for i, c := range corners {
		d := corners[(i+1)%len(corners)]
		// Outward of a side that runs clockwise lies to its left.
		index := math.Atan2(c.Y-d.Y, d.X-c.X) * float64(w.Gear) / (2 * math.Pi)
		// What is a hair off a tooth is the arithmetic's.
		if near := math.Round(index); w.WholeTeeth || math.Abs(index-near) < 1e-6 {
			index = near
		}
		sin, cos := math.Sincos(2 * math.Pi * index / float64(w.Gear))
		reach := math.Inf(-1)
		for _, c := range corners {
			reach = math.Max(reach, c.X*sin+c.Y*cos)
		}
		out[i] = flat{gear.Normal(round(index, 1e9), w.Gear), round(reach, 1e4)}
	}
	for i, f := range out {
		if same := out[(i+1)%len(out)]; gear.Same(f.index, same.index, w.Gear) {
			return nil, diagram.Problem{Code: SameTooth, TierNo: -1, Field: "gear", Text: diagram.FormatNumber(f.index)}
		}
	}
	return out, nil
}

// polygonSides gathers the sides of an outline into classes that look alike from where they stand:
// equally far from the axis, with like neighbours. Each class but the first adjoins an earlier one.
func (w Wish) polygonSides() ([]side, error) {
	flats, err := w.flats()
	if err != nil {
		return nil, err
	}
	n := len(flats)
	kind := make([]string, n)
	for i, f := range flats {
		beside := []string{}
		for _, k := range []int{(i + n - 1) % n, (i + 1) % n} {
			gap := math.Abs(math.Mod(flats[k].index-f.index+1.5*float64(w.Gear), float64(w.Gear)) - float64(w.Gear)/2)
			beside = append(beside, fmt.Sprintf("%.4f/%.6f", flats[k].reach, gap))
		}
		slices.Sort(beside)
		kind[i] = fmt.Sprintf("%.4f %v", f.reach, beside)
	}
	var out []side
	classOf := map[string]int{}
	nearest := slices.MinFunc(flats, func(a, b flat) int { return cmp.Compare(a.reach, b.reach) })
	start := slices.Index(flats, nearest)
	// Clockwise from the nearest side each class meets one that is there already.
	for step := range n {
		i := (start + step) % n
		no, known := classOf[kind[i]]
		if !known {
			no = len(out)
			classOf[kind[i]] = no
			out = append(out, side{reach: flats[i].reach, after: max(0, classOf[kind[(i+n-1)%n]])})
		}
		out[no].indexes = append(out[no].indexes, flats[i].index)
	}
	for i := range out {
		slices.Sort(out[i].indexes)
	}
	return out, nil
}
