// Package cutting cuts a diagram out of a block, facet by facet: it turns every
// stop into a depth and keeps the solid after each cut.
//
// Cutting starts from a cube about the origin and goes tier by tier. All planes
// of a tier are found on the stone as it stands before the tier, then all are
// cut; so the order within a tier does not matter, and its facets may stand at
// different distances.
package cutting

import (
	"cmp"
	"errors"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/solid"
)

// Facet is one cut of a stone.
type Facet struct {
	// Tier and Place say where the facet stands in the diagram: the tier's place
	// and the index's place within it, both from 0.
	Tier, Place int
	// Index is the position as the diagram writes it.
	Index float64
	// Azimuth is the stone azimuth, degrees clockwise from 12 o'clock as seen
	// from above the table, 0 to under 360.
	Azimuth float64
	Plane   solid.Plane
	// Target is the point that the plane passes through. Where the stop gives a
	// distance and no point it is the foot of the normal from the origin.
	Target r3.Vec
	// Stops are all points of the stop that the plane touches at once, Target first. A
	// facet that is cut a little off stops at the one that it then reaches first.
	Stops []r3.Vec
	// AtMeet tells whether Target is a meet that an eye can see on the stone.
	AtMeet bool
	// Deeper is by how much the plane was set deeper than its stop has it, less than 0 where it stands out; 0 where it is at it.
	Deeper float64
	// Made tells whether the cut left a face. A plane that only touches does not.
	Made bool
}

// Stone is a diagram that has been cut, or as much of it as could be.
type Stone struct {
	Diagram *diagram.Diagram
	// Facets lists the cuts in the order in which they were made.
	Facets []Facet
	// After holds the solid after each cut: After[0] is the block, After[i] the
	// stone after Facets[i-1]. Faces carry the place of their facet as ID.
	After []*solid.Solid
	// Warnings lists what does not prevent the cut but is worth knowing.
	Warnings []diagram.Problem
	// off are the places of tiers that are left off.
	off []int
}

// Problems that show only when a diagram is cut.
const (
	// MeetMissing: no vertex of the stone so far has the named facets. Other is
	// the first later tier that makes it, if one does.
	MeetMissing diagram.Code = "meet-missing"
	// CentreUnknown: no facet of the second side reaches the axis yet.
	CentreUnknown diagram.Code = "centre-unknown"
	// CentreMissed: the axis no longer passes through the stone.
	CentreMissed diagram.Code = "centre-missed"
	// GirdleMissing: no girdle facet meets the other side yet.
	GirdleMissing diagram.Code = "girdle-missing"
	// WidthMissing: no level section of that width below the top.
	WidthMissing diagram.Code = "width-missing"
	// TakesAll: the cut would leave nothing.
	TakesAll diagram.Code = "takes-all"
	// CutFailed: a facet of the tier passes so close by so many corners that no closed
	// solid comes of it.
	CutFailed diagram.Code = "cut-failed"
	// BlockLeft: the finished stone still shows the block.
	BlockLeft diagram.Code = "block-left"

	// OnlyTouches warns of a plane that makes no facet.
	OnlyTouches diagram.Code = "only-touches"
	// CutAway warns of a facet that later cuts remove.
	CutAway diagram.Code = "cut-away"
	// SenseMatters warns that the stone is another one when its indexes are
	// counted the other way.
	SenseMatters diagram.Code = "sense-matters"
)

// Cut cuts the whole diagram. Where it cannot be cut the error is a
// diagram.Problem and the stone comes as far as the tier before the one named.
func Cut(d *diagram.Diagram) (*Stone, error) { return CutWithout(d, nil) }

// CutWithout cuts the diagram but leaves off the tiers of the given places, as a cutter
// may do with optional ones. A stop that names one of their meets is then not cuttable as
// written. It returns the first diagram.Problem that it runs into, with what it has cut so
// far.
func CutWithout(d *diagram.Diagram, off []int) (*Stone, error) {
	s, err := upTo(d, len(d.Tiers), off)
	if err != nil {
		return s, err
	}
	if s.Solid().ShowsBlock() {
		return s, diagram.Problem{Code: BlockLeft, TierNo: -1}
	}
	if senseMatters(s) {
		s.warn(diagram.Problem{Code: SenseMatters, TierNo: -1, Field: diagram.FieldIndexing, Text: string(d.Indexing)})
	}
	return s, nil
}

// UpTo cuts the first n tiers of the diagram. The stone may still show the block. It
// returns the first diagram.Problem that it runs into, with what it has cut so far.
func UpTo(d *diagram.Diagram, n int) (*Stone, error) { return upTo(d, n, nil) }

func upTo(d *diagram.Diagram, n int, off []int) (*Stone, error) {
	s := start(d)
	s.off = off
	return s, s.cutTiers(identity(n), func([]Facet) {})
}

// CutOtherwise cuts the stone anew with its tiers in another order, given as their places, and with facets that stand
// elsewhere than their stops have them: change is given the facets of each tier, at their stops on the stone so far, before
// they are cut, and may set other distances (Plane.D). The distance is NaN where a stop cannot be solved; that is a mistake only
// where it stays so. The facets come in the order of the tiers. It returns the first diagram.Problem that it runs into, with
// what it has cut so far.
func (s *Stone) CutOtherwise(order []int, change func(facets []Facet)) (*Stone, error) {
	out := start(s.Diagram)
	out.off = s.off
	return out, out.cutTiers(order, change)
}

// CutAt cuts the stone anew with its facets at other distances, in the order of s.Facets; those that are NaN are cut to their
// stops. The errors are those of CutOtherwise.
func (s *Stone) CutAt(distances []float64) (*Stone, error) {
	at := map[[2]int]float64{}
	for i, f := range s.Facets {
		at[[2]int{f.Tier, f.Place}] = distances[i]
	}
	return s.CutOtherwise(identity(len(s.Diagram.Tiers)), func(facets []Facet) {
		for i, f := range facets {
			if d, given := at[[2]int{f.Tier, f.Place}]; given && !math.IsNaN(d) {
				facets[i].Plane.D = d
			}
		}
	})
}

func (s *Stone) cutTiers(order []int, change func(facets []Facet)) error {
	defer s.warnCutAway()
	for _, no := range order {
		if slices.Contains(s.off, no) {
			continue
		}
		if err := s.cutTierOtherwise(no, change); err != nil {
			var p diagram.Problem
			if errors.As(err, &p) && p.Code == MeetMissing {
				p.Other = s.madeBy(no)
				return p
			}
			return err
		}
	}
	return nil
}

// start returns the block that the diagram is cut from.
func start(d *diagram.Diagram) *Stone {
	half := 2.0
	for _, t := range d.Tiers {
		half = max(half, math.Abs(t.Stop.Radius), math.Abs(t.Stop.Distance))
	}
	return &Stone{Diagram: d, After: []*solid.Solid{solid.Block(4 * half)}}
}

// branch returns the stone as it stands with a diagram and a solid of its own, to be
// cut on without the other noticing. What it looked like before is left behind.
func (s *Stone) branch() *Stone {
	d := *s.Diagram
	d.Tiers = slices.Clone(d.Tiers)
	return &Stone{Diagram: &d, Facets: slices.Clone(s.Facets), After: []*solid.Solid{s.Solid().Compact()}, off: s.off}
}

// Solid returns the stone as far as it has been cut.
func (s *Stone) Solid() *solid.Solid { return s.After[len(s.After)-1] }

// Changed returns the stone with its facets on other planes, in the order of s.Facets, and with planes that were cut beside
// them as facets behind those. The error is a diagram.Problem, CutFailed or TakesAll.
func (s *Stone) Changed(planes []solid.Plane, besides ...Beside) (*Stone, error) {
	out := &Stone{Diagram: s.Diagram, Facets: slices.Clone(s.Facets), off: s.off}
	planes = slices.Clone(planes)
	for _, b := range besides {
		f := s.Facets[b.Facet]
		f.Plane = b.Plane
		out.Facets, planes = append(out.Facets, f), append(planes, b.Plane)
	}
	changed, err := out.WithPlanes(planes)
	if err != nil {
		return nil, err
	}
	changed = changed.Compact()
	out.After = []*solid.Solid{changed}
	for i := range out.Facets {
		out.Facets[i].Plane, out.Facets[i].Made = planes[i], changed.Face(i) != nil
	}
	return out, nil
}

// FacetName names a facet, given as its place in s.Facets, as a stop would: P1@3.
func (s *Stone) FacetName(place int) string {
	f := s.Facets[place]
	return diagram.Ref{Tier: s.Diagram.Tiers[f.Tier].Name, Index: f.Index, OneFacet: true}.String()
}

func (s *Stone) warn(p diagram.Problem) { s.Warnings = append(s.Warnings, p) }

// AtStop returns the plane of the facet with another normal, brought to its stop as a cutter
// does: until it reaches the first of the stop's points.
func (f Facet) AtStop(normal r3.Vec) solid.Plane {
	return solid.Through(normal, first(f.Stops, normal)[0])
}

// problem returns a problem at a tier.
func (s *Stone) problem(code diagram.Code, no int) diagram.Problem {
	t := s.Diagram.Tiers[no]
	return diagram.Problem{Code: code, Tier: t.Name, TierNo: no, Field: diagram.FieldStop, Text: t.Stop.String()}
}

// cutTier finds the planes of a tier on the stone as it stands, then cuts them.
func (s *Stone) cutTier(no int) error { return s.cutTierOtherwise(no, func([]Facet) {}) }

// cutTierOtherwise lets change have the facets of a tier between being found and being cut.
func (s *Stone) cutTierOtherwise(no int, change func(facets []Facet)) error {
	t := &s.Diagram.Tiers[no]
	facets := make([]Facet, len(t.Indexes))
	find := finder{stone: s, solid: s.Solid(), tierNo: no, tier: t}
	var unsolved error
	for i, index := range t.Indexes {
		azimuth := s.Diagram.Azimuth(t.Part, index)
		normal := diagram.Normal(t.Part, t.Angle, azimuth)
		facets[i] = Facet{Tier: no, Place: i, Index: index, Azimuth: azimuth, Plane: solid.Plane{Normal: normal, D: math.NaN()}}
		stops, atMeet, err := find.target(normal)
		if err != nil {
			unsolved = cmp.Or(unsolved, err)
			continue
		}
		facets[i].Plane, facets[i].Target, facets[i].Stops, facets[i].AtMeet = solid.Through(normal, stops[0]), stops[0], stops, atMeet
	}
	change(facets)
	for i := range facets {
		if math.IsNaN(facets[i].Plane.D) {
			return unsolved
		}
		facets[i].follow()
	}
	before, cuts := len(s.Facets), len(s.After)
	for _, f := range facets {
		after, outcome := s.Solid().Cut(len(s.Facets), f.Plane)
		if code, ok := cannot[outcome]; ok {
			s.Facets, s.After = s.Facets[:before], s.After[:cuts]
			return s.problem(code, no)
		}
		f.Made = outcome == solid.Made
		s.Facets = append(s.Facets, f)
		s.After = append(s.After, after)
	}
	return nil
}

// follow brings the points of the facet's stop onto its plane, where that was set elsewhere.
func (f *Facet) follow() {
	switch off := f.Plane.D - r3.Dot(f.Plane.Normal, f.Target); {
	case f.Stops == nil:
		f.Stops = []r3.Vec{r3.Scale(f.Plane.D, f.Plane.Normal)}
	case math.Abs(off) > solid.OnPlane:
		f.Stops, f.AtMeet, f.Deeper = slices.Clone(f.Stops), false, -off
		for i, p := range f.Stops {
			f.Stops[i] = r3.Add(p, r3.Scale(off, f.Plane.Normal))
		}
	}
	f.Target = f.Stops[0]
}

// cannot tells which outcomes of a cut a tier cannot have.
var cannot = map[solid.Outcome]diagram.Code{solid.TookAll: TakesAll, solid.Failed: CutFailed}

// madeBy returns the first tier after no whose cutting makes the meet that no
// asks for, found by skipping it and cutting on; "" where none does.
func (s *Stone) madeBy(no int) string {
	trial := &Stone{Diagram: s.Diagram, Facets: append([]Facet{}, s.Facets...), After: append([]*solid.Solid{}, s.After...)}
	t := &s.Diagram.Tiers[no]
	for later := no + 1; later < len(s.Diagram.Tiers); later++ {
		// A tier that needs the skipped one cannot be cut now; the rest may.
		if slices.Contains(s.off, later) || trial.cutTier(later) != nil {
			continue
		}
		find := finder{stone: trial, solid: trial.Solid(), tierNo: no, tier: t}
		if find.meetsExist(t.Stop) {
			return s.Diagram.Tiers[later].Name
		}
	}
	return ""
}

// warnCutAway adds a warning for every tier with planes that made no facet, or
// facets that are no longer on the stone.
func (s *Stone) warnCutAway() {
	left := make([]bool, len(s.Facets))
	for _, f := range s.Solid().Faces() {
		if !f.OfBlock() {
			left[f.ID] = true
		}
	}
	type count struct {
		indexes []float64
		code    diagram.Code
	}
	for no, t := range s.Diagram.Tiers {
		touches, gone := count{code: OnlyTouches}, count{code: CutAway}
		for i, f := range s.Facets {
			if f.Tier != no || left[i] {
				continue
			}
			if f.Made {
				gone.indexes = append(gone.indexes, f.Index)
			} else {
				touches.indexes = append(touches.indexes, f.Index)
			}
		}
		for _, c := range []count{touches, gone} {
			if len(c.indexes) > 0 {
				s.warn(diagram.Problem{
					Code: c.code, Tier: t.Name, TierNo: no, Text: diagram.FormatIndexes(c.indexes),
					Value: float64(len(c.indexes)), High: float64(len(t.Indexes)),
				})
			}
		}
	}
}
