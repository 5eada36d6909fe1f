package cutting

import (
	"cmp"
	"context"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/solid"
)

// Distances says how far from the origin every facet of a diagram stands, in design
// units: for each tier in the order of its indexes.
type Distances [][]float64

// Exactly is how far a facet may stand from where it is wanted and still be the same
// plane: the agreement asked of two programs that solve one diagram.
const Exactly = 1e-9

// Distances returns where the facets of the stone stand. A tier that was not cut has
// none.
func (s *Stone) Distances() Distances {
	out := make(Distances, len(s.Diagram.Tiers))
	for _, f := range s.Facets {
		out[f.Tier] = append(out[f.Tier], f.Plane.D)
	}
	return out
}

// NoStop says that no stop brings a tier's facets to where they are to stand: they
// stand at several distances and share no meet. The tier must be split.
const NoStop diagram.Code = "no-stop"

// DeriveStops finds the stops of a diagram whose facets are to stand at the given
// distances: for each tier, in its order, what a cutter would write. Stops that lead
// there already are kept unless a plainer one does. Where the first tier runs to the
// axis, the stone is moved along it so that this point is the origin, as the format
// has it. Every stop is checked by solving it, to within tolerance. The stone is that
// of the new diagram; the error is a Problem.
func DeriveStops(d *diagram.Diagram, want Distances, tolerance float64) (*Stone, error) {
	want = centred(d, want, tolerance)
	s, _, err := derive(d, want, tolerance, math.Inf(1))
	if err != nil {
		return s, err
	}
	stone, err := Cut(s.Diagram)
	if err != nil {
		return stone, err
	}
	return stone, nil
}

// centred moves the stone along its axis so that the first tier, if it makes one
// point there, makes it at the origin.
func centred(d *diagram.Diagram, want Distances, tolerance float64) Distances {
	first := d.Tiers[0]
	if first.Part != d.FirstSide {
		return want
	}
	rise := diagram.Normal(first.Part, first.Angle, 0).Z
	for _, at := range want[0] {
		if math.Abs(at-want[0][0]) > tolerance {
			return want
		}
	}
	// A steep tier would make its point far below the stone, where the block that all is
	// cut from does not reach.
	const far = 2
	shift := -want[0][0] / rise
	if math.Abs(shift) <= tolerance || math.Abs(shift) > far {
		return want
	}
	out := make(Distances, len(want))
	for no, t := range d.Tiers {
		for _, at := range want[no] {
			out[no] = append(out[no], at+shift*diagram.Normal(t.Part, t.Angle, 0).Z)
		}
	}
	return out
}

// derive cuts the diagram with stops that bring its facets to where they are wanted,
// and returns what it costs a cutter to follow them. It gives up where that is more
// than most.
func derive(d *diagram.Diagram, want Distances, tolerance, most float64) (*Stone, float64, error) {
	with := *d
	with.Tiers = slices.Clone(d.Tiers)
	s := start(&with)
	total := 0.0
	for no := range with.Tiers {
		stop, ok := s.stopFor(no, want[no], tolerance)
		if total += effort(stop); !ok || total > most {
			return s, total, s.problem(NoStop, no)
		}
		with.Tiers[no].Stop = stop
		if err := s.cutTier(no); err != nil {
			return s, total, err
		}
	}
	return s, total, nil
}

// effort weighs what a stop asks of a cutter: nothing where a point is seen on the
// stone, something where it is measured, more where it is judged by eye, and more
// again where the figure is not one that a person would write.
func effort(s diagram.Stop) float64 {
	if s.Definite() {
		return 0
	}
	const unwritten = 2
	cost := 1.0
	switch s.Kind {
	case diagram.Along:
		cost = 2
	case diagram.Centre:
		cost = 3
	case diagram.Depth:
		cost = 5
	}
	if figure := s.Figure() * 1e4; math.Abs(figure-math.Round(figure)) > 1e-6 {
		cost += unwritten
	}
	return cost
}

// stopFor returns the stop that brings the facets of a tier to where they are wanted
// on the stone as it stands.
func (s *Stone) stopFor(no int, want []float64, tolerance float64) (diagram.Stop, bool) {
	t := s.Diagram.Tiers[no]
	find := &finder{stone: s, solid: s.Solid(), tierNo: no, tier: &t}
	normals := make([]r3.Vec, len(t.Indexes))
	for i, index := range t.Indexes {
		normals[i] = diagram.Normal(t.Part, t.Angle, s.Diagram.Azimuth(t.Part, index))
	}
	within := func(tolerance float64) func(diagram.Stop) bool {
		return func(stop diagram.Stop) bool {
			points, err := find.points(stop)
			if err != nil {
				return false
			}
			for i, p := range points {
				if math.Abs(r3.Dot(normals[i], p)-want[i]) > tolerance {
					return false
				}
			}
			return true
		}
	}
	fits := within(tolerance)
	written := t.Stop
	keeps := written.Kind != "" && fits(written)
	if keeps && effort(written) == 0 {
		return written, true
	}
	plane := solid.Plane{Normal: normals[0], D: want[0]}
	w := stopWriter{finder: find, plane: plane, fits: fits, closely: within(tolerance / 100), tolerance: tolerance, level: equal(want, tolerance)}
	derived, ok := w.write()
	if keeps && (!ok || effort(written) <= effort(derived)) {
		return written, true
	}
	return derived, ok
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
	thickness := w.plane.Above(edge) / -math.Abs(w.plane.Normal.Z)
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

// PlanCuts puts the tiers of each side of a diagram into an order of its own and finds
// their stops, so that the facets come to stand at the given distances: of the tiers
// that are left always the one whose stop asks least of the cutter, the first in the
// diagram where that is the same; then tiers are moved where that saves work. The error is a
// Problem.
func PlanCuts(ctx context.Context, d *diagram.Diagram, want Distances, tolerance float64) (*Stone, error) {
	want = centred(d, want, tolerance)
	with := *d
	with.Tiers = nil
	s := start(&with)
	left := written(len(d.Tiers))
	for len(left) > 0 {
		best, least := -1, math.Inf(1)
		var stop diagram.Stop
		for i, no := range left {
			if d.CutWith(d.Tiers[no].Part) != d.CutWith(d.Tiers[left[0]].Part) {
				continue
			}
			with.Tiers = append(with.Tiers, d.Tiers[no])
			found, ok := s.stopFor(len(with.Tiers)-1, want[no], tolerance)
			with.Tiers = with.Tiers[:len(with.Tiers)-1]
			if cost := effort(found); ok && cost < least {
				best, least, stop = i, cost, found
			}
			if len(with.Tiers) == 0 || least == 0 {
				break
			}
		}
		if best < 0 {
			t := d.Tiers[left[0]]
			return s, diagram.Problem{Code: NoStop, Tier: t.Name, TierNo: left[0], Field: diagram.FieldStop}
		}
		t := d.Tiers[left[best]]
		t.Stop = stop
		with.Tiers = append(with.Tiers, t)
		if err := s.cutTier(len(with.Tiers) - 1); err != nil {
			return s, err
		}
		left = slices.Delete(left, best, best+1)
	}
	stone, err := Cut(&with)
	if err != nil {
		return stone, err
	}
	return JudgeOrder(ctx, &with, Preference{}).Better, nil
}

// CutLike cuts a diagram whose facets are those of another stone at somewhat different
// angles. Where a stop names facets that no longer meet in one point, it stops at the
// meet that leaves the tier nearest to where it was. The stone's diagram has these
// stops. The error is a Problem.
func CutLike(d *diagram.Diagram, like *Stone) (*Stone, error) {
	want := like.Distances()
	with := *d
	with.Tiers = slices.Clone(d.Tiers)
	s := start(&with)
	for no := range with.Tiers {
		err := s.cutTier(no)
		if err == nil {
			continue
		}
		stop, ok := s.nearestStop(no, want[no])
		if !ok {
			return s, err
		}
		with.Tiers[no].Stop = stop
		if err := s.cutTier(no); err != nil {
			return s, err
		}
	}
	return Cut(&with)
}

// nearestStop looks among the meets of the stone as it stands for the one that leaves
// the tier nearest to where it was.
func (s *Stone) nearestStop(no int, want []float64) (diagram.Stop, bool) {
	t := s.Diagram.Tiers[no]
	find := &finder{stone: s, solid: s.Solid(), tierNo: no, tier: &t}
	var best diagram.Stop
	least := math.Inf(1)
	for _, c := range find.vertices() {
		if c.block || len(c.facets) < 3 {
			continue
		}
		refs := find.tiersAt(c)
		stop := diagram.Stop{Kind: diagram.Meet, Tiers: refs[:min(len(refs), 4)]}
		points, err := find.points(stop)
		if err != nil {
			continue
		}
		off := 0.0
		for at, p := range points {
			n := diagram.Normal(t.Part, t.Angle, s.Diagram.Azimuth(t.Part, t.Indexes[at]))
			off = math.Max(off, math.Abs(r3.Dot(n, p)-want[at]))
		}
		if off < least {
			best, least = stop, off
		}
	}
	return best, !math.IsInf(least, 1)
}
