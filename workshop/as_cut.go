package workshop

import (
	"cmp"
	"context"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/mending"
	"cressa/core/solid"
	"cressa/workshop/journal"
)

// AsCut is a stone as it was really cut, beside its plan, as far as the log tells.
type AsCut struct {
	*Assessment
	// Planned is the plan's stone with the facets that were cut so far, Cut the stone as it stands, Coming what it
	// becomes where all that is open is cut as planned. Their facets are those of Stone in the same order, and behind
	// them what was cut beside.
	Planned, Cut, Coming *cutting.Stone
	// Worked are the planes of Cut.
	Worked cutting.Worked
	// Next is Cut after one more facet, nil where none was asked for.
	Next *cutting.Stone
	// Up is the side that was up at the last cut, the crown where that was neither.
	Up diagram.Part
	// Differences are in the order of the tiers.
	Differences []Difference
	// FacetsCut and FacetsAsked count facets, however many passes they get.
	FacetsCut, FacetsAsked int
	// Gap is the widest gap of a planned meet on the stone that is coming, in µm.
	Gap float64
	// Told is what told the stone last, as it is called, "" where nothing did.
	Told string
	// Hours is the time at the wheel by stages.
	Hours []journal.StageHours
}

// Difference is one way in which a stone was not cut as planned.
type Difference struct {
	What DifferenceKind
	// Tier is the tier's name.
	Tier string
	// Facet is the place of the facet in Stone.Facets, -1 for a whole tier and for a facet of an older plan.
	Facet int
	// Planned and Really are what is dialled; equal where the setting was right. For a whole tier they have the
	// angle alone.
	Planned, Really gear.Setting
	// MM is how much deeper than planned the facet stands, less than 0 where it stands out, or how deep the damage
	// goes; 0 where that says nothing.
	MM float64
	// WasStop and Stop are those of a tier that was changed.
	WasStop, Stop diagram.Stop
}

// DifferenceKind says what is otherwise than planned. Those of journal.What that leave a mark on a facet are kinds,
// too.
type DifferenceKind string

// The other kinds.
const (
	// TierChanged: the tier was given another angle or stop at the wheel.
	TierChanged DifferenceKind = "changed"
	// OlderPlan: the facet was cut to an older plan, and stands elsewhere than the present one has it.
	OlderPlan DifferenceKind = "older-plan"
	// DialShowed: the dials showed another setting than the plan's when the facet was done.
	DialShowed DifferenceKind = "dial"
	// ToldOtherwise: a machine told that the facet stands otherwise than planned.
	ToldOtherwise DifferenceKind = "told"
	// LeftOut: the facet was skipped, and never cut.
	LeftOut DifferenceKind = "left-out"
)

// KeepAsCut adds the stone of the present work as it was really cut to the library, under a name, as a diagram that came from
// there. It returns the errors of AsCut, and the Problem of a stone that makes no diagram.
func (s *Stones) KeepAsCut(ctx context.Context, stone Stone, name, origin string) (Diagram, error) {
	cut, err := s.AsCut(ctx, stone, "")
	if err != nil {
		return Diagram{}, err
	}
	of, err := mending.AsDiagram(cut.Coming)
	if err != nil {
		return Diagram{}, err
	}
	d := *of.Diagram
	d.Name = name
	return s.library.ImportDraft(ctx, diagram.DraftOf(&d), origin, true)
}

// AsCut returns the stone of the present work as it was really cut. A facet that was cut in any pass stands where
// its plan had it, and where a machine told the stone, as that told it. What was cut too deep, at a wrong index or at a wrong angle took stone off for good, whatever was
// cut after it. A cheat brings a facet to where the plan has it. Next names a facet of the plan that comes next, "" for
// none. It returns the errors of AssessStone, and a diagram.Problem where what the log tells makes no solid.
func (s *Stones) AsCut(ctx context.Context, stone Stone, next FacetID) (*AsCut, error) {
	a, err := s.AssessStone(ctx, stone)
	if err != nil {
		return nil, err
	}
	work := stone.Work()
	state, err := s.journal.WorkState(ctx, work.ID)
	if err != nil {
		return nil, err
	}
	t := &telling{work: state.Folded, out: &AsCut{Assessment: a, Hours: state.Folded.HoursByStage()}, plans: map[int]plannedFacets{}}
	if t.now, err = facetsOf(work.Plan, a.Stone, a.MM); err != nil {
		return nil, err
	}
	t.plans[work.Plan.No], t.whole, t.names = t.now, work.Plan.Came, work.Plan.names(a.Stone)
	for _, no := range t.plansUsed() {
		if t.plans[no] == nil {
			if t.plans[no], err = s.olderFacets(ctx, work.ID, no); err != nil {
				return nil, err
			}
		}
	}
	drawn, err := s.library.Revision(ctx, work.Plan.Revision)
	if err != nil {
		return nil, err
	}
	t.changed(drawn.Diagram, work.Plan.Layer)
	if err := s.readSurvey(ctx, t); err != nil {
		return nil, err
	}
	return t.out, t.tell(next)
}

func (s *Stones) olderFacets(ctx context.Context, workID string, no int) (plannedFacets, error) {
	p, err := s.store.Plan(ctx, workID, no)
	if err != nil {
		return nil, err
	}
	stone, mm, err := s.cutPlan(ctx, p)
	if err != nil {
		return nil, err
	}
	return facetsOf(&p, stone, mm)
}

// plannedFacets are the facets of a plan by their names.
type plannedFacets map[FacetID]plannedFacet

// plannedFacet is a facet at its place in the stone's, with how it is dialled. One of its units is so many mm.
type plannedFacet struct {
	cutting.Facet
	place int
	tier  string
	set   gear.Setting
	pose  gear.Pose
	mm    float64
}

func facetsOf(p *Plan, stone *cutting.Stone, mm float64) (plannedFacets, error) {
	at := places(stone)
	poses := map[string]gear.Pose{}
	for _, setup := range p.Setups {
		poses[setup.ID] = setup.Pose
	}
	out := plannedFacets{}
	for _, f := range p.Facets {
		place, there := at[facetKey{f.Tier, f.Index}]
		pose, held := poses[f.Setup]
		if !there || !held {
			return nil, errPlanBroken
		}
		facet := stone.Facets[place]
		set, err := gear.Dial(facet.Plane.Normal, pose)
		if err != nil {
			return nil, err
		}
		out[f.ID] = plannedFacet{facet, place, stone.Diagram.Tiers[f.Tier].Name, set, pose, mm}
	}
	return out, nil
}

// telling makes planes of what a log tells.
type telling struct {
	work *journal.Work
	out  *AsCut
	// now are the facets of the present plan, plans those of every plan that something was cut to, by number.
	now   plannedFacets
	plans map[int]plannedFacets
	cut   cutting.Worked
	// whole is the stone that a recut began with, nil for one that is cut out of rough, names are those of the present facets.
	whole *Came
	names []FacetID
	// told are the planes of the stone that a machine told, since the place of that among the events.
	told  []solid.Plane
	since int
}

func (t *telling) plansUsed() []int {
	var out []int
	for _, c := range t.work.Cuts() {
		out = append(out, t.work.PlanAt(c.N))
	}
	for _, h := range t.work.Happenings {
		if h.At != nil {
			out = append(out, t.work.PlanAt(h.N))
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// changed lists the tiers that were given other angles or stops at the wheel.
func (t *telling) changed(drawn *diagram.Diagram, layer []TierChange) {
	for _, c := range layer {
		at := func(d *diagram.Diagram) int {
			return slices.IndexFunc(d.Tiers, func(o diagram.Tier) bool { return o.Name == c.Tier })
		}
		was, is := at(drawn), at(t.out.Stone.Diagram)
		if was < 0 || is < 0 {
			continue
		}
		before, after := drawn.Tiers[was], t.out.Stone.Diagram.Tiers[is]
		t.out.Differences = append(t.out.Differences, Difference{
			What: TierChanged, Tier: c.Tier, Facet: -1,
			Planned: gear.Setting{Angle: before.Angle}, Really: gear.Setting{Angle: after.Angle}, WasStop: before.Stop, Stop: after.Stop,
		})
	}
}

// tell goes through all that was cut and all that happened, and makes the stones of it.
func (t *telling) tell(next FacetID) error {
	out, stone := t.out, t.out.Stone
	t.cut.Planes = make([]*solid.Plane, len(stone.Facets))
	out.Up = diagram.Crown
	t.came()
	t.surveyed()
	for _, c := range t.work.Cuts() {
		f, there := t.plans[t.work.PlanAt(c.N)][c.Facet]
		if !there {
			continue
		}
		if side := (Setup{Pose: f.pose}).Side(); side != "" {
			out.Up = side
		}
		if !t.wrong(c) && c.N > t.since {
			t.take(c.Facet, f, f.Plane)
		}
	}
	older := t.elsewhere()
	for _, h := range t.work.Happenings {
		if h.At != nil && h.N > t.since {
			if f, there := t.plans[t.work.PlanAt(h.N)][h.At.Facet]; there {
				t.happened(h, f)
			}
		}
	}
	// Where the plan has taken in what happened since, the facet stands as planned.
	still := t.elsewhere()
	for id, deeper := range older {
		if _, is := still[id]; is && t.since == 0 {
			t.differs(id, t.now[id], Difference{What: OlderPlan, Really: t.now[id].set, MM: deeper})
		}
	}
	t.shown()
	t.leftOut()
	slices.SortStableFunc(out.Differences, func(a, b Difference) int {
		return cmp.Or(cmp.Compare(out.TierNo(a.Tier), out.TierNo(b.Tier)), cmp.Compare(a.Facet, b.Facet))
	})
	return t.stones(next)
}

// elsewhere tells by how many mm facets that were cut stand deeper than the present plan has them; those that stand as planned are
// left out.
func (t *telling) elsewhere() map[FacetID]float64 {
	out := map[FacetID]float64{}
	for id, f := range t.now {
		if had := t.cut.Planes[f.place]; had != nil && t.work.HasCut(id) {
			if deeper := (f.Plane.D - had.D) * t.out.MM; math.Abs(deeper) > sameDepth {
				out[id] = deeper
			}
		}
	}
	return out
}

// came begins with the stone that a recut began with.
func (t *telling) came() {
	if t.whole == nil {
		return
	}
	t.cut = t.whole.worked(t.out.Stone, t.out.MM, t.names)
}

// sameDepth is half a micrometre: less is the arithmetic's.
const sameDepth = 0.0005

// wrong tells whether a cut was made at a wrong setting, as it was told after it.
func (t *telling) wrong(c journal.CutAt) bool {
	return slices.ContainsFunc(t.work.Happenings, func(h journal.Incident) bool {
		return (h.What == journal.WrongIndex || h.What == journal.WrongAngle) && h.At != nil && *h.At == c.Visit && h.N > c.N
	})
}

// take notes a plane that was cut when a facet was meant, told in the units of that facet's plan. A facet stands at
// the deepest.
func (t *telling) take(id FacetID, meant plannedFacet, p solid.Plane) {
	p.D *= meant.mm / t.out.MM
	is, kept := t.now[id]
	switch {
	case !kept || r3.Norm(r3.Sub(p.Normal, is.Plane.Normal)) > 1e-9:
		place := is.place
		if !kept {
			place = t.like(meant)
		}
		t.cut.Beside = append(t.cut.Beside, cutting.Beside{Facet: place, Plane: p})
	case t.cut.Planes[is.place] == nil || p.D < t.cut.Planes[is.place].D:
		t.cut.Planes[is.place] = &p
	}
}

// like returns the place of the facet that stands now where one of an older plan stood, in tier and index; any where
// there is none.
func (t *telling) like(older plannedFacet) int {
	for _, is := range t.now {
		if is.tier == older.tier && is.Index == older.Index {
			return is.place
		}
	}
	return min(older.place, len(t.out.Stone.Facets)-1)
}

// differs notes a difference at a facet.
func (t *telling) differs(id FacetID, f plannedFacet, d Difference) {
	d.Tier, d.Planned, d.Facet = f.tier, f.set, -1
	if is, kept := t.now[id]; kept {
		d.Facet = is.place
	}
	t.out.Differences = append(t.out.Differences, d)
}

// happened notes what happened at a facet.
func (t *telling) happened(h journal.Incident, f plannedFacet) {
	d := Difference{What: DifferenceKind(h.What), Really: f.set}
	if h.MM != nil {
		d.MM = *h.MM
	}
	var by float64
	if h.By != nil {
		by = *h.By
	}
	switch h.What {
	case journal.Overcut:
		p := f.Plane
		p.D -= d.MM / f.mm
		t.take(h.At.Facet, f, p)
	case journal.WrongIndex:
		d.Really.Position = gear.At(gear.Azimuth(f.set.Index+by, f.pose.Gear), f.pose.Gear)
		t.take(h.At.Facet, f, solid.Plane{Normal: f.pose.Facing(f.set.Angle, f.set.Index+by), D: f.Plane.D})
	case journal.WrongAngle:
		d.Really.Angle += by
		t.take(h.At.Facet, f, f.AtStop(f.pose.Facing(d.Really.Angle, f.set.Index)))
	case journal.Cheated:
		d.Really.Cheat += by
	case journal.Chip, journal.FlawOpened, journal.Pit:
	default:
		return
	}
	t.differs(h.At.Facet, f, d)
}

// leftOut notes the facets that were skipped and never cut.
func (t *telling) leftOut() {
	for id, f := range t.now {
		if t.cut.Planes[f.place] == nil && t.work.Skipped(id) {
			t.differs(id, f, Difference{What: LeftOut, Really: f.set})
		}
	}
}

// TierNo returns the place of a tier in the diagram as it is cut, -1 for one that only an older plan has.
func (a *AsCut) TierNo(name string) int {
	return slices.IndexFunc(a.Stone.Diagram.Tiers, func(o diagram.Tier) bool { return o.Name == name })
}

// toBeCut tells whether a facet is still to be cut to where the plan has it: for the first time, or again and deeper.
func (t *telling) toBeCut(id FacetID, f plannedFacet) bool {
	had := t.cut.Planes[f.place]
	return !t.work.Finished && (had == nil || !t.work.HasCut(id) && f.Plane.D < had.D)
}

// stones cuts the stones.
func (t *telling) stones(next FacetID) (err error) {
	out, stone := t.out, t.out.Stone
	out.FacetsAsked, out.Worked = len(t.now), t.cut
	asDrawn := cutting.Worked{Planes: make([]*solid.Plane, len(stone.Facets))}
	coming := cutting.Worked{Planes: slices.Clone(t.cut.Planes), Beside: t.cut.Beside}
	meets := stone.Planes()
	for id, f := range t.now {
		had, open := t.cut.Planes[f.place], t.toBeCut(id, f)
		switch {
		case open:
			asDrawn.Planes[f.place] = had
			coming.Planes[f.place], meets[f.place] = &f.Plane, f.Plane
		case had != nil:
			out.FacetsCut++
			asDrawn.Planes[f.place] = &f.Plane
			meets[f.place] = *had
		}
	}
	if out.Planned, err = stone.Worked(asDrawn); err != nil {
		return err
	}
	if out.Cut, err = stone.Worked(t.cut); err != nil {
		return err
	}
	if out.Coming, err = stone.Worked(coming); err != nil {
		return err
	}
	if f, there := t.now[next]; there {
		after := cutting.Worked{Planes: slices.Clone(t.cut.Planes), Beside: t.cut.Beside}
		if t.toBeCut(next, f) {
			after.Planes[f.place] = &f.Plane
		}
		if out.Next, err = stone.Worked(after); err != nil {
			return err
		}
	}
	errs, err := stone.MeetErrors(meets)
	if err == nil && len(errs) > 0 {
		out.Gap = errs[0].Gap * out.MM * 1000
	}
	return err
}
