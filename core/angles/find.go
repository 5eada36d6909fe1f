package angles

import (
	"cmp"
	"context"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/solid"
)

// Found is an angle at which a tier comes to a second meet as well as to its stop.
type Found struct {
	// Angle is in degrees.
	Angle float64
	// Point is the second meet of the tier's first facet, Facets names the facets that come
	// together there.
	Point  r3.Vec
	Facets []string
	// Below and Above are the angles next to it that can be set, equal where it can be set as it
	// is, with the widest gap that each leaves at the tier's meets, in design units.
	Below, Above       float64
	BelowGap, AboveGap float64
}

// mostTurned is by how many degrees a tier is turned at most to find a second meet: farther off it
// would be another facet.
const mostTurned = 12.0

// Find looks for the angles of a tier at which its cut, stopped where it stops, comes to one more
// corner of the stone as it stands before it: how breaks are brought to star and girdle at once.
// They are in the order of how far they lie from the angle that it has. Of a diagram that is cut
// otherwise than its stops say it knows nothing. The error is the Problem of the first tier up to
// this one that cannot be cut, or the context's.
func Find(ctx context.Context, d *diagram.Diagram, tierNo int, settable Settable) ([]Found, error) {
	before, err := cutting.UpTo(d, tierNo)
	if err != nil {
		return nil, err
	}
	if _, err := cutting.UpTo(d, tierNo+1); err != nil {
		return nil, err
	}
	t := d.Tiers[tierNo]
	var out []Found
	for _, c := range before.Meetable() {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		for _, angle := range anglesThrough(before, t, tierNo, c.Point) {
			same := func(f Found) bool { return math.Abs(f.Angle-angle) < 1e-6 }
			if math.Abs(angle-t.Angle) < 1e-6 || slices.ContainsFunc(out, same) {
				continue
			}
			found, ok := meetAt(d, tierNo, angle, c, settable)
			if !ok {
				continue
			}
			for _, f := range c.Facets {
				found.Facets = append(found.Facets, before.FacetName(f))
			}
			out = append(out, found)
		}
	}
	slices.SortStableFunc(out, func(a, b Found) int {
		return cmp.Compare(math.Abs(a.Angle-t.Angle), math.Abs(b.Angle-t.Angle))
	})
	return out, nil
}

// anglesThrough returns the angles at which the tier's first facet passes through a point as well
// as its stop. How far the point stands out of the facet runs on steadily with the angle, because
// the stop's nearest point does.
func anglesThrough(before *cutting.Stone, t diagram.Tier, tierNo int, p r3.Vec) []float64 {
	azimuth := before.Diagram.Azimuth(t.Part, t.Indexes[0])
	above := func(angle float64) float64 {
		normal := diagram.Normal(t.Part, angle, azimuth)
		stop, err := before.StopOf(tierNo, normal)
		if err != nil {
			return math.NaN()
		}
		return r3.Dot(normal, r3.Sub(p, stop))
	}
	const step = 0.5
	from, to := math.Max(0.5, t.Angle-mostTurned), math.Min(89.5, t.Angle+mostTurned)
	var out []float64
	last := above(from)
	for at := from; at < to; at += step {
		next := above(at + step)
		if last*next < 0 {
			out = append(out, between(at, at+step, above))
		}
		last = next
	}
	return out
}

// between halves the way to where a function that changes its sign is 0.
func between(low, high float64, f func(float64) float64) float64 {
	atLow := f(low)
	for range 60 {
		middle := (low + high) / 2
		if v := f(middle); v*atLow > 0 {
			low, atLow = middle, v
		} else {
			high = middle
		}
	}
	return (low + high) / 2
}

// meetAt cuts the tier at the angle and tells whether its first facet comes to the corner, and what
// angles that can be set leave open.
func meetAt(d *diagram.Diagram, tierNo int, angle float64, c cutting.Meet, settable Settable) (Found, bool) {
	exact, err := cutting.UpTo(at(d, tierNo, angle), tierNo+1)
	if err != nil {
		return Found{}, false
	}
	mine := func(f int) bool { return exact.Facets[f].Tier == tierNo }
	comes := false
	for _, m := range exact.Meetable() {
		if r3.Norm(r3.Sub(m.Point, c.Point)) < solid.AtMeet && slices.ContainsFunc(m.Facets, mine) {
			comes = true
		}
	}
	if !comes {
		return Found{}, false
	}
	out := Found{Angle: angle, Point: c.Point}
	out.Below, out.Above = settable(angle)
	out.BelowGap, out.AboveGap = gapAt(d, exact, tierNo, out.Below), gapAt(d, exact, tierNo, out.Above)
	return out, true
}

// at returns the diagram with another angle of a tier.
func at(d *diagram.Diagram, tierNo int, angle float64) *diagram.Diagram {
	with := *d
	with.Tiers = slices.Clone(d.Tiers)
	with.Tiers[tierNo].Angle = angle
	return &with
}

// gapAt is the widest gap at the tier's meets where it is cut at an angle beside the exact one; 0
// where it cannot be cut there.
func gapAt(d *diagram.Diagram, exact *cutting.Stone, tierNo int, angle float64) float64 {
	changed, err := cutting.UpTo(at(d, tierNo, angle), tierNo+1)
	if err != nil {
		return 0
	}
	errs, err := exact.MeetErrors(changed.Planes())
	if err != nil {
		return 0
	}
	widest := 0.0
	for _, e := range errs {
		if slices.ContainsFunc(e.Facets, func(f int) bool { return exact.Facets[f].Tier == tierNo }) {
			widest = math.Max(widest, e.Gap)
		}
	}
	return widest
}
