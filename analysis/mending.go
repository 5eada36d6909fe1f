package analysis

import (
	"context"
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/mending"
	"cressa/core/solid"
	"cressa/workshop"
)

// WayOut is a way out of a cut gone wrong, or to recut a stone, in lengths that a cutter reads.
type WayOut struct {
	mending.Way
	// Width, Length and Height are in mm, GirdleMin and GirdleMax too, nil without a girdle.
	Width, Length, Height float64
	GirdleMin, GirdleMax  *float64
	// Carat is nil where the material is not known.
	Carat *float64
	// Lost is the share of the planned volume that goes, negative where more is left.
	Lost float64
	// GapMax is the widest gap of the planned meets in µm.
	GapMax float64
	// CuletOffset is how far the lowest point of the stone, of a keel its middle, stands from the middle of the outline, in
	// mm, TableWidth the narrower extent of the table, nil without one.
	CuletOffset float64
	TableWidth  *float64
	// Takes is what comes off each facet of the tiers cut so far, in mm.
	Takes []FacetTake
}

// FacetTake is what comes off a facet along its normal.
type FacetTake struct {
	Tier  string
	Index float64
	MM    float64
}

// Overcut is a facet that was cut too deep by so many mm.
type Overcut struct {
	Of diagram.Ref
	MM float64
}

// MendWays reckons the ways out for a planned stone of so many mm for a unit. Done are the names of the tiers cut so far, all
// where it is nil; sg is 0 where the material is not known. Errors name the facet or the tier at fault.
func MendWays(plan *cutting.Stone, mm float64, over []Overcut, done []string, sg float64) ([]WayOut, error) {
	cut := map[string]bool{}
	for _, name := range done {
		if plan.Diagram.TierNo(name) < 0 {
			return nil, fmt.Errorf("there is no tier %s", name)
		}
		cut[name] = true
	}
	s := &mending.Standing{Plan: plan}
	for _, f := range plan.Facets {
		at := f.Plane.D
		if done != nil && !cut[plan.Diagram.Tiers[f.Tier].Name] {
			at = math.NaN()
		}
		s.Cut, s.Most = append(s.Cut, at), append(s.Most, math.Inf(1))
	}
	for _, o := range over {
		place, err := facetOf(plan, o.Of)
		if err != nil {
			return nil, err
		}
		if math.IsNaN(s.Cut[place]) {
			return nil, fmt.Errorf("%s is not cut yet: tier %s is not among those done", o.Of, o.Of.Tier)
		}
		if !(o.MM > 0 && o.MM <= mm*plan.Measures().Width/2) {
			return nil, fmt.Errorf("%s: give mm above 0, up to half the width", o.Of)
		}
		s.Cut[place] -= o.MM / mm
	}
	out := []WayOut{}
	for _, w := range s.Ways(mm) {
		out = append(out, wayOut(plan, mm, sg, w, s.Cut))
	}
	return out, nil
}

// RecutWays reckons the ways to recut a finished stone, damages in mm, the largest copy turned by up to so many degrees. It returns
// mending.ErrTooDeep for a damage that is none of a finished stone, and the context's error when that ends it.
func RecutWays(ctx context.Context, stone *cutting.Stone, mm float64, damages []mending.Damage, protected []diagram.Ref, degrees, sg float64) ([]WayOut, error) {
	r := &mending.Returned{Stone: stone, Protected: make([]bool, len(stone.Facets))}
	for _, d := range damages {
		scaled := mending.Damage{Clearance: d.Clearance / mm}
		for _, p := range d.Points {
			scaled.Points = append(scaled.Points, r3.Scale(1/mm, p))
		}
		r.Damages = append(r.Damages, scaled)
	}
	for _, ref := range protected {
		place, err := facetOf(stone, ref)
		if err != nil {
			return nil, err
		}
		r.Protected[place] = true
	}
	ways, err := r.Ways(mm)
	if err != nil {
		return nil, err
	}
	largest, err := r.Largest(ctx, mm, degrees)
	if err != nil {
		return nil, err
	}
	out := []WayOut{}
	for _, w := range append(ways, largest) {
		out = append(out, wayOut(stone, mm, sg, w, nil))
	}
	return out, nil
}

// facetOf finds the one facet that a ref names.
func facetOf(s *cutting.Stone, ref diagram.Ref) (int, error) {
	found := -1
	for i, f := range s.Facets {
		if s.Diagram.Tiers[f.Tier].Name != ref.Tier || ref.OneFacet && f.Index != ref.Index {
			continue
		}
		if found >= 0 {
			return 0, fmt.Errorf("tier %s has several facets: name one, as %s", ref.Tier, s.FacetName(found))
		}
		found = i
	}
	if found < 0 {
		return 0, fmt.Errorf("the stone has no facet %s", ref)
	}
	return found, nil
}

// wayOut measures a way. Where cut is not nil only facets that are not NaN in it are listed.
func wayOut(plan *cutting.Stone, mm, sg float64, w mending.Way, cut []float64) WayOut {
	out := WayOut{Way: w}
	if w.Err != nil {
		return out
	}
	m := w.Stone.Measures()
	length := func(ratio *float64) *float64 {
		if ratio == nil {
			return nil
		}
		v := *ratio * m.Width * mm
		return &v
	}
	out.Width, out.Length, out.Height = m.Width*mm, m.Length*mm, m.Height*mm
	out.GirdleMin, out.GirdleMax, out.TableWidth = length(m.GirdleMin), length(m.GirdleMax), length(m.TableWidth)
	if sg > 0 {
		carat := cutting.Carats(m.VolumeFactor, out.Width, sg)
		out.Carat = &carat
	}
	out.Lost = 1 - m.Volume/plan.Solid().Volume()
	out.GapMax = w.Gap * mm * 1000
	out.CuletOffset = CuletOffset(w.Stone.Solid()) * mm
	for i, f := range plan.Facets {
		if cut == nil || !math.IsNaN(cut[i]) {
			out.Takes = append(out.Takes, FacetTake{plan.Diagram.Tiers[f.Tier].Name, f.Index, w.Take[i] * mm})
		}
	}
	return out
}

// CuletOffset is how far the lowest point, or the middle of the lowest edge or face, stands from the middle of the extents.
func CuletOffset(s *solid.Solid) float64 {
	box := s.Bounds()
	lowest := r3.Box{Min: r3.Vec{X: math.Inf(1), Y: math.Inf(1)}, Max: r3.Vec{X: math.Inf(-1), Y: math.Inf(-1)}}
	for _, v := range s.Vertices() {
		if p := s.Point(v); p.Z < box.Min.Z+solid.AtMeet {
			lowest.Min.X, lowest.Min.Y = math.Min(lowest.Min.X, p.X), math.Min(lowest.Min.Y, p.Y)
			lowest.Max.X, lowest.Max.Y = math.Max(lowest.Max.X, p.X), math.Max(lowest.Max.Y, p.Y)
		}
	}
	return math.Hypot(lowest.Min.X+lowest.Max.X-box.Min.X-box.Max.X, lowest.Min.Y+lowest.Max.Y-box.Min.Y-box.Max.Y) / 2
}

// WayAtWheel is a way out at the wheel: the stone that it gives, and the work that it is.
type WayAtWheel struct {
	WayOut
	// Return and Window are the light of the stone face up, as shares.
	Return, Window float64
	// Visits is how often facets are cut, pass by pass, Minutes how long that takes at the cutter's pace.
	Visits  int
	Minutes float64
	// Tiers are those that are cut again, in the order of the diagram.
	Tiers []TierTake
}

// TierTake is what comes off the facets of a tier that are cut again.
type TierTake struct {
	Tier   string
	Facets int
	// Least and Most are in mm along the normal.
	Least, Most float64
	// LeastDivisions and MostDivisions are those of the height dial, nil on a machine without one.
	LeastDivisions, MostDivisions *float64
}

// WaysAtWheel measures the ways out of what went wrong at the wheel and looks at each of them under light. It returns the errors
// of the light.
func WaysAtWheel(ctx context.Context, w *workshop.WaysOut, lit FaceAsked) ([]WayAtWheel, error) {
	out := make([]WayAtWheel, len(w.Ways))
	for i, way := range w.Ways {
		out[i] = WayAtWheel{WayOut: wayOut(w.Stone, w.MM, w.Material.SG, way, w.Standing.Cut)}
		if way.Err != nil {
			continue
		}
		for place, take := range way.Take {
			if take *= w.MM; take > mending.Untouched {
				out[i].Visits += w.Visits[place]
				out[i].takes(w, place, take)
			}
		}
		out[i].Minutes = float64(out[i].Visits) * w.Minutes
		f, err := lightOf(ctx, w.Assessment, way.Stone, lit)
		if err != nil {
			return nil, err
		}
		out[i].Return, out[i].Window = f.Return(lit.Model), f.Window
	}
	return out, nil
}

// takes adds what comes off a facet to what comes off its tier.
func (out *WayAtWheel) takes(w *workshop.WaysOut, place int, mm float64) {
	tier := w.Stone.Diagram.Tiers[w.Stone.Facets[place].Tier]
	if n := len(out.Tiers); n == 0 || out.Tiers[n-1].Tier != tier.Name {
		out.Tiers = append(out.Tiers, TierTake{Tier: tier.Name, Least: mm, Most: mm})
	}
	t := &out.Tiers[len(out.Tiers)-1]
	t.Facets, t.Least, t.Most = t.Facets+1, math.Min(t.Least, mm), math.Max(t.Most, mm)
	if division, ok := w.Machine.Division(tier.Angle); ok {
		least, most := t.Least/division.Deeper, t.Most/division.Deeper
		t.LeastDivisions, t.MostDivisions = &least, &most
	}
}
