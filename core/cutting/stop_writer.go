package cutting

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/solid"
)

// stopFor returns the stop that brings the facets of a tier to where they are wanted
// on the stone as it stands.
func (s *Stone) stopFor(no int, want []float64, tolerance float64) (diagram.Stop, bool) {
	t := s.Diagram.Tiers[no]
	find := &finder{stone: s, solid: s.Solid(), tierNo: no, tier: &t}
	within := func(tolerance float64) func(diagram.Stop) bool {
		return func(stop diagram.Stop) bool { return find.off(stop, want) <= tolerance }
	}
	fits := within(tolerance)
	written := t.Stop
	keeps := written.Kind != "" && fits(written)
	if keeps && effort(written) == 0 {
		return written, true
	}
	first := diagram.Normal(t.Part, t.Angle, s.Diagram.Azimuth(t.Part, t.Indexes[0]))
	plane := solid.Plane{Normal: first, D: want[0]}
	w := stopWriter{finder: find, plane: plane, fits: fits, closely: within(tolerance / 100), tolerance: tolerance, level: equal(want, tolerance)}
	derived, ok := w.write()
	if keeps && (!ok || effort(written) <= effort(derived)) {
		return written, true
	}
	return derived, ok
}

// off returns how far from where it is wanted a stop leaves the facet of the tier that
// it suits least; infinite where it leads nowhere.
func (f *finder) off(stop diagram.Stop, want []float64) float64 {
	points, err := f.points(stop)
	if err != nil {
		return math.Inf(1)
	}
	off := 0.0
	for i, p := range points {
		normal := diagram.Normal(f.tier.Part, f.tier.Angle, f.stone.Diagram.Azimuth(f.tier.Part, f.tier.Indexes[i]))
		off = math.Max(off, math.Abs(r3.Dot(normal, p)-want[i]))
	}
	return off
}

func equal(distances []float64, tolerance float64) bool {
	return slices.Max(distances)-slices.Min(distances) <= tolerance
}

// stopWriter looks for the stop that a cutter would write.
type stopWriter struct {
	*finder
	// plane is where the tier's first facet is to stand, fits whether a stop brings
	// all of them to their places, level whether these are equally far out. Figures are
	// held to a hundredth of the tolerance, so that what comes later can keep it.
	plane     solid.Plane
	fits      func(diagram.Stop) bool
	closely   func(diagram.Stop) bool
	tolerance float64
	level     bool
}

// write tries the stops from the plainest on.
func (w stopWriter) write() (diagram.Stop, bool) {
	tries := []func() (diagram.Stop, bool){w.atMeet, w.toCentre, w.bySize, w.byWidth, w.byGirdle}
	if w.firstOfItsPart() {
		// Nothing of this side is on the stone yet: a point on the axis says most.
		tries = []func() (diagram.Stop, bool){w.toCentre, w.bySize, w.byGirdle, w.atMeet, w.byWidth}
	}
	for _, try := range append(tries, w.byEye) {
		if stop, ok := try(); ok {
			return stop, true
		}
	}
	return diagram.Stop{}, false
}

func (w stopWriter) firstOfItsPart() bool {
	tiers := w.stone.Diagram.Tiers
	return !slices.ContainsFunc(tiers[:w.tierNo], func(t diagram.Tier) bool { return t.Part == tiers[w.tierNo].Part })
}

func (w stopWriter) toCentre() (diagram.Stop, bool) {
	stop := diagram.Stop{Kind: diagram.Centre}
	return stop, w.tier.Part != diagram.Girdle && (w.tier.Angle > 0 || w.tierNo == 0) && w.fits(stop)
}

// byEye wants a figure that a person would write; failing that a share of the way from
// one meet to another, then whatever there is.
func (w stopWriter) byEye() (diagram.Stop, bool) {
	for _, digits := range []int{byHand, exact} {
		for _, try := range []func(int) (diagram.Stop, bool){w.share, w.belowCentre, w.depth} {
			if stop, ok := try(digits); ok {
				return stop, true
			}
		}
	}
	return diagram.Stop{}, false
}

// atMeet prefers the meet where most facets come together: it is seen best.
func (w stopWriter) atMeet() (diagram.Stop, bool) {
	var at []corner
	for _, c := range w.vertices() {
		if !c.block && math.Abs(w.plane.Above(c.point)) <= w.tolerance+solid.OnPlane {
			at = append(at, c)
		}
	}
	slices.SortStableFunc(at, func(a, b corner) int { return len(b.facets) - len(a.facets) })
	for _, c := range at {
		if stop, ok := w.meetStop(c, w.fits); ok {
			return stop, true
		}
	}
	return diagram.Stop{}, false
}

// plain rounds a figure to as few digits as lead there, at most so many.
func (w stopWriter) plain(v float64, digits int, stop func(float64) diagram.Stop) (diagram.Stop, bool) {
	for n := 2; n <= digits; n++ {
		scale := math.Pow10(n)
		if s := stop(math.Round(v*scale) / scale); w.closely(s) {
			return s, true
		}
	}
	return stop(v), digits == exact && w.fits(stop(v))
}

// How many digits a person writes, and how many there are.
const byHand, exact = 4, 12

func (w stopWriter) bySize() (diagram.Stop, bool) {
	if !w.level || w.tier.Part != diagram.Girdle || w.tier.Angle != 90 || w.plane.D <= 0 {
		return diagram.Stop{}, false
	}
	return w.plain(w.plane.D, exact, func(v float64) diagram.Stop { return diagram.Stop{Kind: diagram.Size, Radius: v} })
}

// byGirdle is for the first tiers of the second side, which set the girdle.
func (w stopWriter) byGirdle() (diagram.Stop, bool) {
	if w.tier.Part != w.stone.Diagram.FirstSide.Other() || w.tier.Angle == 0 {
		return diagram.Stop{}, false
	}
	edge, err := w.girdle(0, w.plane.Normal)
	if err != nil {
		return diagram.Stop{}, false
	}
	thickness := w.plane.Above(edge[0]) / -math.Abs(w.plane.Normal.Z)
	if thickness < 0 || !w.firstOfItsPart() {
		return diagram.Stop{}, false
	}
	return w.plain(thickness, exact, func(v float64) diagram.Stop {
		return diagram.Stop{Kind: diagram.GirdleBand, Thickness: v}
	})
}

func (w stopWriter) byWidth() (diagram.Stop, bool) {
	if w.tier.Part != diagram.Crown || w.tier.Angle != 0 || len(w.tier.Indexes) != 1 {
		return diagram.Stop{}, false
	}
	x, y := w.solid.Extents(w.plane.D)
	size := w.solid.Bounds().Size()
	ratio := math.Min(x, y) / math.Min(size.X, size.Y)
	if !(ratio > 0 && ratio < 1) {
		return diagram.Stop{}, false
	}
	return w.plain(ratio, exact, func(v float64) diagram.Stop { return diagram.Stop{Kind: diagram.Width, Ratio: v} })
}

// belowCentre tells how far below the point of its side the tier crosses the axis.
func (w stopWriter) belowCentre(digits int) (diagram.Stop, bool) {
	if !w.level || w.tier.Part == diagram.Girdle {
		return diagram.Stop{}, false
	}
	point, err := w.centre(0)
	if err != nil {
		return diagram.Stop{}, false
	}
	drop := -w.plane.Above(point) / w.plane.Normal.Z
	if w.tier.Part == diagram.Pavilion {
		drop = -drop
	}
	// What a cutter takes off a point can be told; how far short of it a steep tier stays
	// cannot.
	if drop = -drop; drop < 0 || drop > 1 {
		return diagram.Stop{}, false
	}
	return w.plain(drop, digits, func(v float64) diagram.Stop { return diagram.Stop{Kind: diagram.Centre, Drop: v} })
}

func (w stopWriter) depth(digits int) (diagram.Stop, bool) {
	if !w.level {
		return diagram.Stop{}, false
	}
	return w.plain(w.plane.D, digits, func(v float64) diagram.Stop { return diagram.Stop{Kind: diagram.Depth, Distance: v} })
}

// share finds an edge between two meets that the plane crosses, and of all those the
// one with the plainest share of the way.
func (w stopWriter) share(digits int) (diagram.Stop, bool) {
	points := map[int]corner{}
	for i, v := range w.solid.Vertices() {
		points[v] = w.vertices()[i]
	}
	type crossing struct {
		from, to corner
		at       float64
	}
	var found []crossing
	for _, f := range w.solid.Faces() {
		for i, v := range f.Loop {
			from, to := points[v], points[f.Loop[(i+1)%len(f.Loop)]]
			out, in := w.plane.Above(from.point), w.plane.Above(to.point)
			if !from.block && !to.block && out > solid.AtMeet && in < -solid.AtMeet {
				found = append(found, crossing{from, to, out / (out - in)})
			}
		}
	}
	odd := func(c crossing) float64 { return math.Abs(c.at*20 - math.Round(c.at*20)) }
	slices.SortStableFunc(found, func(a, b crossing) int { return cmp.Compare(odd(a), odd(b)) })
	for _, c := range found {
		// A few facets name a meet as well as all that come together there, if no like
		// meet lies farther out.
		for _, most := range []int{4, diagram.MaxFacets} {
			from, to := w.tiersAt(c.from), w.tiersAt(c.to)
			from, to = from[:min(len(from), most)], to[:min(len(to), most)]
			if stop, ok := w.plain(c.at, digits, func(v float64) diagram.Stop {
				return diagram.Stop{Kind: diagram.Along, From: from, To: to, At: v}
			}); ok {
				return stop, true
			}
		}
	}
	return diagram.Stop{}, false
}

// tiersAt names a corner by the tiers of its facets.
func (f *finder) tiersAt(c corner) []diagram.Ref {
	var refs []diagram.Ref
	for _, i := range f.ownPartFirst(c.facets) {
		refs = append(refs, diagram.Ref{Tier: f.stone.Diagram.Tiers[f.stone.Facets[i].Tier].Name})
	}
	return refs
}
