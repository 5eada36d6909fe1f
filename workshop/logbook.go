package workshop

import (
	"context"
	"math"
	"slices"
	"time"

	"cressa/core/diagram"
)

// Finish is the stone's card in the logbook. Figures that were not taken are 0.
type Finish struct {
	Version        int     `json:"version"`
	RoughCarats    float64 `json:"roughCarats" validate:"min=0,max=100000"`
	FinishedCarats float64 `json:"finishedCarats" validate:"min=0,max=100000"`
	WidthMM        float64 `json:"widthMM" validate:"min=0,max=1000"`
	LengthMM       float64 `json:"lengthMM" validate:"min=0,max=1000"`
	HeightMM       float64 `json:"heightMM" validate:"min=0,max=1000"`
	Started        string  `json:"started" validate:"omitempty,datetime=2006-01-02"`
	Finished       string  `json:"finished" validate:"required,datetime=2006-01-02"`
	// Hours is what the cutter corrected the reckoned hours to, nil where they
	// were left.
	Hours *float64  `json:"hours" validate:"omitempty,min=0,max=10000"`
	Notes string    `json:"notes" validate:"max=20000"`
	Saved time.Time `json:"saved"`
}

// FinishStone stores a stone's logbook card over the version that the caller
// read, 0 the first time.
func (w *Workshop) FinishStone(ctx context.Context, stoneID string, f Finish) (Finish, error) {
	version := f.Version
	f.Version++
	f.Saved = w.moment()
	return f, w.store.SaveFinish(ctx, stoneID, f, version)
}

// longPause: a longer gap between ticks was not work on the stone.
const longPause = 15 * time.Minute

// Hours reckons the time at the wheel from the ticks: the gaps between them, a
// gap over 15 minutes counted as the median gap of its step, that is of the same
// pass in the same setup.
func Hours(events []Event) float64 {
	type step struct{ setup, pass string }
	var ticks []Event
	for _, e := range Standing(events) {
		if e.Kind == EventDone || e.Kind == EventSkip {
			ticks = append(ticks, e)
		}
	}
	slices.SortStableFunc(ticks, func(a, b Event) int { return a.DeviceTime.Compare(b.DeviceTime) })
	gaps, pauses := map[step][]time.Duration{}, map[step]int{}
	total := time.Duration(0)
	for i, e := range ticks {
		at := step{e.Setup, e.Pass}
		// The first tick ends a stretch of work whose start nobody saw.
		if i == 0 || e.DeviceTime.Sub(ticks[i-1].DeviceTime) > longPause {
			pauses[at]++
			continue
		}
		gap := e.DeviceTime.Sub(ticks[i-1].DeviceTime)
		gaps[at] = append(gaps[at], gap)
		total += gap
	}
	for at, n := range pauses {
		total += time.Duration(n) * median(gaps[at])
	}
	return math.Round(total.Hours()*100) / 100
}

func median(d []time.Duration) time.Duration {
	if len(d) == 0 {
		return 0
	}
	sorted := slices.Sorted(slices.Values(d))
	if n := len(sorted); n%2 == 0 {
		return (sorted[n/2-1] + sorted[n/2]) / 2
	}
	return sorted[len(sorted)/2]
}

// State is where a stone stands.
type State string

// The states of a stone, in order.
const (
	StatePlanned  State = "planned"
	StateCutting  State = "cutting"
	StateCut      State = "cut" // every visit done, the logbook card not written
	StateFinished State = "finished"
)

// Summary is a stone as lists show it.
type Summary struct {
	Stone
	State State `json:"state"`
	// Done of All visits are done or skipped.
	Done int `json:"done"`
	All  int `json:"all"`
	// LastEvent is when something last happened, the creation where nothing did.
	LastEvent time.Time `json:"lastEvent"`
	Hours     float64   `json:"hours"`
	Picture   *Picture  `json:"picture"`
	// Material and SizeMM are the plan's, or those of the stone that came in.
	Material string  `json:"material"`
	SizeMM   float64 `json:"sizeMM"`
}

// Stones returns every stone, the one touched last first.
func (w *Workshop) Stones(ctx context.Context) ([]Summary, error) {
	stones, err := w.store.Stones(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]Summary, 0, len(stones))
	for _, s := range stones {
		summary, err := w.Summary(ctx, s)
		if err != nil {
			return nil, err
		}
		out = append(out, summary)
	}
	slices.SortStableFunc(out, func(a, b Summary) int { return b.LastEvent.Compare(a.LastEvent) })
	return out, nil
}

// Summary returns a stone as lists show it.
func (w *Workshop) Summary(ctx context.Context, s Stone) (Summary, error) {
	events, err := w.store.Events(ctx, s.Work.ID)
	if err != nil {
		return Summary{}, err
	}
	if s.Work.Kind == Repair {
		return w.repairSummary(s, events), nil
	}
	r, err := w.store.Revision(ctx, s.Work.Plan.AsCut)
	if err != nil {
		return Summary{}, err
	}
	plan := s.Work.Plan
	out := Summary{
		Stone: s, LastEvent: s.Created, Hours: Hours(events), Picture: &r.Picture,
		Material: plan.Choices.Material, SizeMM: plan.Choices.Size.MM,
		All:  plan.visits(r.Diagram),
		Done: countVisited(*plan, Visited(events)),
	}
	if s.Run != "" {
		if out.Hours, err = w.runHours(ctx, s); err != nil {
			return out, err
		}
	}
	for _, e := range events {
		if e.ServerTime.After(out.LastEvent) {
			out.LastEvent = e.ServerTime
		}
	}
	switch {
	case s.Work.Finish != nil:
		out.State = StateFinished
		if h := s.Work.Finish.Hours; h != nil {
			out.Hours = *h
		}
	case out.Done == out.All:
		out.State = StateCut
	case slices.ContainsFunc(Standing(events), func(e Event) bool { return e.Kind != EventPlan }):
		out.State = StateCutting
	default:
		out.State = StatePlanned
	}
	return out, nil
}

// visits returns how many visits the plan asks for. D is the diagram as it is cut.
func (p Plan) visits(d *diagram.Diagram) int {
	n, all := 0, len(p.Choices.Passes)
	for _, t := range d.Tiers {
		passes := all
		if t.Part == diagram.Girdle {
			passes = p.Choices.GirdleFinish.Passes(all)
		}
		n += passes * len(t.Indexes)
	}
	return n
}

// countVisited counts the visits that the present plan still asks for.
func countVisited(p Plan, visited map[Visit]EventKind) int {
	n := 0
	for v := range visited {
		pass := slices.ContainsFunc(p.Choices.Passes, func(q Pass) bool { return q.ID == v.Pass })
		if pass && slices.Contains(p.Facets, v.Facet) {
			n++
		}
	}
	return n
}

// usualMinutes is what a cut takes before anything is known of a cutter's pace.
const usualMinutes = 1.5

// Minutes tells for every visit of a script how long it took, or, where it is still
// to come, how long such a one takes: the median of its step so far, else of all
// that was cut, else a usual minute and a half. Pauses count as that too.
func Minutes(visits []ScriptVisit, events []Event) []float64 {
	type step struct{ setup, pass string }
	took := map[Visit]float64{}
	gaps, all := map[step][]time.Duration{}, []time.Duration{}
	eachGap(events, func(e Event, gap time.Duration) {
		took[Visit{e.Setup, e.Pass, e.Facet}] = gap.Minutes()
		gaps[step{e.Setup, e.Pass}] = append(gaps[step{e.Setup, e.Pass}], gap)
		all = append(all, gap)
	})
	out := make([]float64, len(visits))
	for i, v := range visits {
		usual := median(gaps[step{v.Setup, v.Pass}]).Minutes()
		if usual == 0 {
			usual = median(all).Minutes()
		}
		if usual == 0 {
			usual = usualMinutes
		}
		out[i] = usual
		if real, ok := took[v.Visit]; ok {
			out[i] = real
		}
	}
	return out
}
