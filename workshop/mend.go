package workshop

import (
	"context"
	"errors"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/mending"
	"cressa/workshop/journal"
)

// Mended is a way out that was chosen where a cut went wrong. It is a layer of a stone's plan, over what was changed of tiers.
type Mended struct {
	// Way is the way that was chosen, Plan the number of the plan that it made.
	Way  mending.Kind
	Plan int
	// At is how far facets stand from the middle of the stone, in units of the diagram. All others are cut to their stops.
	At map[FacetID]float64
	// Take is what comes off those facets that had to be cut again for it, along their normals.
	Take map[FacetID]float64
}

// MendedAtWheel returns what was mended since the work began, nil where nothing was: what a recut begins with was chosen before.
func (p *Plan) MendedAtWheel() *Mended {
	if p.Came != nil && p.Mended != nil && p.Mended.Plan == 1 {
		return nil
	}
	return p.Mended
}

// cut cuts a stone with what was mended; names are those of its facets. Where nothing was it is the stone itself.
func (m *Mended) cut(stone *cutting.Stone, names []FacetID) (*cutting.Stone, error) {
	if m == nil {
		return stone, nil
	}
	at := make([]float64, len(names))
	for i, name := range names {
		at[i] = math.NaN()
		if d, given := m.At[name]; given {
			at[i] = d
		}
	}
	out, err := stone.CutAt(at)
	// That facets go is known where a way was chosen: nobody has to look after their stops.
	out.Warnings = slices.DeleteFunc(out.Warnings, func(p diagram.Problem) bool {
		return p.Code == cutting.OnlyTouches || p.Code == cutting.CutAway
	})
	return out, err
}

// over cuts a stone with what was mended in the plan before, where a stone's tiers have kept their angles and stops. It returns
// what is left of it; names are those of the stone's facets, old those of the stone before.
func (m *Mended) over(now *cutting.Stone, names []FacetID, before *cutting.Stone, old []FacetID) (*cutting.Stone, *Mended, error) {
	if m == nil {
		return now, nil, nil
	}
	left := Mended{Way: m.Way, Plan: m.Plan, At: map[FacetID]float64{}, Take: map[FacetID]float64{}}
	for i, f := range now.Facets {
		d, given := m.At[names[i]]
		was := slices.Index(old, names[i])
		if !given || was < 0 {
			continue
		}
		is, had := now.Diagram.Tiers[f.Tier], before.Diagram.Tiers[before.Facets[was].Tier]
		if is.Angle == had.Angle && is.Stop.String() == had.Stop.String() {
			left.At[names[i]] = d
			if take, takes := m.Take[names[i]]; takes {
				left.Take[names[i]] = take
			}
		}
	}
	stone, err := left.cut(now, names)
	return stone, &left, err
}

// Refusals of mending.
const (
	// NoWay: the way cannot be gone with this stone.
	NoWay diagram.Code = "no-way"
	// MendsInRun: stones that are cut together share a plan.
	MendsInRun diagram.Code = "mends-in-run"
)

// ErrCutSince refuses to take a plan back once a facet was cut to it.
var ErrCutSince = errors.New("a facet was cut since the plan was made")

// WaysOut are the ways out of what went wrong with a stone at the wheel.
type WaysOut struct {
	*AsCut
	// Wrong is what went wrong since the stone was last mended, in the order in which it was told.
	Wrong []journal.Incident
	// Goes tells of each of these whether it was pointed at and goes anyway, with what is still to be cut.
	Goes []bool
	// Otherwise are differences of a stone that was told as a whole: by a machine, or by the look of it.
	Otherwise []Difference
	// Standing is the stone as it stands, in units of the diagram.
	Standing *mending.Standing
	Ways     []mending.Way
	// CutSince tells that something was cut since the plan was made.
	CutSince bool
	// Visits is how often the plan asks for each facet: once in each pass that it gets.
	Visits []int
	// Minutes is how long a visit takes at the cutter's own pace.
	Minutes float64
	// sits is the place of the setup that the stone sits in, open tells of each setup whether visits are open in it.
	sits int
	open []bool
}

// sameDirection is how near two unit normals are one: what is told is kept to a millionth.
const sameDirection = 1e-5

// wrongs are what happens to a facet and is mended.
var wrongs = []journal.What{journal.Overcut, journal.WrongIndex, journal.WrongAngle, journal.Chip, journal.FlawOpened, journal.Pit}

// WaysOut reckons the ways out for a stone's present work, from what its log tells. It returns the errors of AsCut, and
// ErrFinished.
func (s *Stones) WaysOut(ctx context.Context, stone Stone) (*WaysOut, error) {
	if stone.Work().Finish != nil {
		return nil, ErrFinished
	}
	cut, err := s.AsCut(ctx, stone, "")
	if err != nil {
		return nil, err
	}
	out := &WaysOut{AsCut: cut}
	for _, d := range cut.Differences {
		if d.What == ToldOtherwise {
			out.Otherwise = append(out.Otherwise, d)
		}
	}
	if out.Minutes, _, err = s.Pace(ctx); err != nil {
		return nil, err
	}
	state, err := s.journal.WorkState(ctx, stone.Work().ID)
	if err != nil {
		return nil, err
	}
	plan := stone.Work().Plan
	at := &mending.Standing{Plan: cut.Stone, Beside: cut.Worked.Beside}
	for i, f := range cut.Stone.Facets {
		d := math.NaN()
		switch p := cut.Worked.Planes[i]; {
		case p == nil:
		case r3.Norm(r3.Sub(p.Normal, f.Plane.Normal)) > sameDirection:
			// What a machine told faces nearly as planned, and is a plane beside all the same.
			at.Beside = append(slices.Clone(at.Beside), cutting.Beside{Facet: i, Plane: *p})
		default:
			d = p.D
		}
		at.Cut, at.Most = append(at.Cut, d), append(at.Most, math.Inf(1))
	}
	for _, free := range cut.Free {
		at.Measured = append(at.Measured, free != nil)
	}
	names := plan.names(cut.Stone)
	for _, h := range state.Folded.Happenings {
		if h.At == nil || !slices.Contains(wrongs, h.What) || plan.Mended != nil && state.Folded.PlanAt(h.N) < plan.Mended.Plan {
			continue
		}
		out.Wrong, out.Goes = append(out.Wrong, h), append(out.Goes, false)
		i := slices.Index(names, h.At.Facet)
		if i < 0 || !leavesHole(h.What) || h.MM == nil {
			continue
		}
		if h.Point != nil {
			// Whichever facet takes it.
			seen := r3.Vec{X: h.Point[0], Y: h.Point[1], Z: h.Point[2]}
			lies := r3.Sub(seen, r3.Scale(*h.MM, cut.Stone.Facets[i].Plane.Normal))
			q := r3.Scale(1/cut.MM, lies)
			at.Points, out.Goes[len(out.Goes)-1] = append(at.Points, q), at.Gone(q)
		} else {
			stands := at.Cut[i]
			if math.IsNaN(stands) {
				stands = cut.Stone.Facets[i].Plane.D
			}
			at.Most[i] = math.Min(at.Most[i], stands-*h.MM/cut.MM)
		}
	}
	out.CutSince = cutSincePlan(state.Folded)
	out.sits, out.open = plan.sitsIn(state.Folded)
	out.Standing, out.Ways, out.Visits = at, at.Ways(cut.MM), make([]int, len(names))
	for _, run := range plan.Runs {
		for _, id := range run.Facets {
			if i := slices.Index(names, id); i >= 0 {
				out.Visits[i]++
			}
		}
	}
	return out, nil
}

// leavesHole tells whether a mishap goes deeper than the facet that it is in.
func leavesHole(w journal.What) bool {
	return w == journal.Chip || w == journal.FlawOpened || w == journal.Pit
}

// planBegan is the place of the event that the present plan came with.
func planBegan(w *journal.Work) int { return w.Begins[len(w.Begins)-1] }

func cutSincePlan(w *journal.Work) bool {
	return slices.ContainsFunc(w.Cuts(), func(c journal.CutAt) bool { return c.N > planBegan(w) })
}

// Mend gives a stone the plan that a way out leads to, over the version that the caller read, and opens the facets again that
// are to be cut anew. It returns the errors of WaysOut and of Replan, and a diagram.Problem: NoWay, and MendsInRun for one of
// several stones that are cut together.
func (s *Stones) Mend(ctx context.Context, stoneID string, way mending.Kind, version int) (Stone, error) {
	return s.replan(ctx, stoneID, version, func(before Plan) (next, error) {
		stone, err := s.store.Stone(ctx, stoneID)
		if err != nil {
			return next{}, err
		}
		if stone.Run != "" && len(stone.Works) == 1 {
			return next{}, diagram.Problem{Code: MendsInRun, TierNo: -1}
		}
		ways, err := s.WaysOut(ctx, stone)
		if err != nil {
			return next{}, err
		}
		i := slices.IndexFunc(ways.Ways, func(w mending.Way) bool { return w.Kind == way && w.Err == nil })
		if i < 0 {
			return next{}, diagram.Problem{Code: NoWay, TierNo: -1, Text: string(way)}
		}
		to := before.goesOn()
		to.mended, to.canGoBack = &Mended{Way: way, Plan: before.No + 1, At: map[FacetID]float64{}, Take: map[FacetID]float64{}}, true
		var again []FacetID
		for place, id := range before.names(ways.Stone) {
			if id == "" {
				continue
			}
			to.mended.At[id] = ways.Ways[i].Stone.Facets[place].Plane.D
			if take := ways.Ways[i].Take[place]; take*ways.MM > mending.Untouched {
				to.mended.Take[id] = take
				again = append(again, id)
			}
		}
		to.log = func(ctx context.Context) error {
			return s.openAgain(ctx, stone.Work(), again, ways.goesBackFirst(ways.Ways[i]))
		}
		return to, nil
	})
}

// CorrectedLast tells that a stone's plan came of a correction for how it sits, and can still be taken back: nothing was cut to it.
func (s *Stones) CorrectedLast(ctx context.Context, stone Stone) (bool, error) {
	plan := stone.Work().Plan
	if plan == nil || plan.Over == 0 || plan.Mended != nil && plan.Mended.Plan == plan.No {
		return false, nil
	}
	state, err := s.journal.WorkState(ctx, stone.Work().ID)
	if err != nil {
		return false, err
	}
	return !cutSincePlan(state.Folded), nil
}

// TakePlanBack gives a stone the plan back that it had before it was mended or corrected for how it sits, over the version that the
// caller read, and the ticks that were opened for that. It returns the errors of Replan, ErrNotFound where its plan cannot be
// taken back, and ErrCutSince.
func (s *Stones) TakePlanBack(ctx context.Context, stoneID string, version int) (Stone, error) {
	return s.replan(ctx, stoneID, version, func(before Plan) (next, error) {
		if before.Over == 0 {
			return next{}, ErrNotFound
		}
		stone, err := s.store.Stone(ctx, stoneID)
		if err != nil {
			return next{}, err
		}
		work := stone.Work()
		state, err := s.journal.WorkState(ctx, work.ID)
		if err != nil {
			return next{}, err
		}
		folded := state.Folded
		if cutSincePlan(folded) {
			return next{}, ErrCutSince
		}
		was, err := s.store.Plan(ctx, work.ID, before.Over)
		if err != nil {
			return next{}, err
		}
		to := was.goesOn()
		to.log = func(ctx context.Context) error {
			for _, m := range slices.Backward(folded.Moves) {
				if m.N < planBegan(folded) {
					break
				}
				if err := s.journal.tell(ctx, work.ID, journal.Undo, journal.TakenBack{Undoes: m.Events[len(m.Events)-1]}); err != nil {
					return err
				}
			}
			return nil
		}
		return to, nil
	})
}
