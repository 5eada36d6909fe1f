package workshop

import (
	"context"
	"slices"

	"cressa/workshop/journal"
)

// Standing is where the work on a stone stands.
type Standing struct {
	// At is the place in Script.Visits of the visit that comes next, their number where none
	// is left.
	At int
	// Step is the moment of Script.Steps that is reached: every facet up to the furthest that
	// has been cut.
	Step int
	// Gate is what is done with the stone before the next visit, or after the last.
	Gate Gate
	// Skipped are the places in Script.Visits of facets that were left out and are still open:
	// no later pass has cut them.
	Skipped []int
}

// Gate is what has to be done with the stone before work goes on.
type Gate string

// The gates. "" is none.
const (
	TurnOver   Gate = "transfer"
	AdapterOn  Gate = "adapter-on"
	AdapterOff Gate = "adapter-off"
)

// Standing returns where a work stands that is cut by the script. The bench, which must know
// it without a network, has the same rules: standing.fixtures.json holds the two together.
func (s *Script) Standing(w *journal.Work) Standing {
	out := Standing{At: len(s.Visits), Skipped: []int{}}
	cutLater := map[int]bool{}
	for i, v := range slices.Backward(s.Visits) {
		m, there := w.Mark(journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet})
		switch {
		case !there:
			out.At = i
		case m.Kind == journal.Done:
			out.Step = max(out.Step, v.FacetNo+1)
			cutLater[v.FacetNo] = true
		case !cutLater[v.FacetNo]:
			out.Skipped = append(out.Skipped, i)
		}
	}
	slices.Reverse(out.Skipped)
	out.Gate = s.gate(w, out.At)
	return out
}

// gate tells what is done with the stone before the visit at a place, or after the last one.
func (s *Script) gate(w *journal.Work, at int) Gate {
	var last, next ScriptVisit
	if at > 0 {
		last = s.Visits[at-1]
	}
	if at < len(s.Visits) {
		next = s.Visits[at]
	}
	checked := func(setup, item string) bool {
		_, ok := w.Checks[setup][item]
		return ok
	}
	_, turned := w.Transfers[next.Setup]
	changes := last.Setup != next.Setup
	switch {
	case last.Adapter && (!next.Adapter || changes) && !checked(last.Setup, adapterIsOff):
		return AdapterOff
	case at > 0 && at < len(s.Visits) && changes && !turned:
		return TurnOver
	case next.Adapter && (!last.Adapter || changes) && !checked(next.Setup, adapterIsOn):
		return AdapterOn
	}
	return ""
}

// Happening is something that is written into a log.
type Happening struct {
	Kind    journal.Kind
	Payload any
}

// Before lists what is done with the stone before the visit at a place, where all before it are
// done: each check, and that it is through.
func (s *Script) Before(at int) []Happening {
	w := journal.NewWork(journal.FirstCut)
	if at > 0 && s.Visits[at-1].Adapter {
		// That it was put on.
		w.Checks[s.Visits[at-1].Setup] = map[string]journal.Act{adapterIsOn: {}}
	}
	var out []Happening
	check := func(setup string, items ...string) {
		for _, item := range items {
			out = append(out, Happening{journal.Check, journal.Checked{Setup: setup, Item: item}})
			if w.Checks[setup] == nil {
				w.Checks[setup] = map[string]journal.Act{}
			}
			w.Checks[setup][item] = journal.Act{}
		}
	}
	for {
		switch s.gate(w, at) {
		case AdapterOff:
			check(s.Visits[at-1].Setup, adapterIsOff)
		case TurnOver:
			setup := s.Visits[at].Setup
			check(setup, TransferChecks...)
			out = append(out, Happening{journal.Transfer, journal.Transferred{Setup: setup}})
			w.Transfers[setup] = journal.Act{}
		case AdapterOn:
			check(s.Visits[at].Setup, append(slices.Clone(AdapterChecks), adapterIsOn)...)
		default:
			return out
		}
	}
}

// InRun is what decides when a stone of a run comes to the wheel.
type InRun struct {
	// At is where it stands, as in Standing.
	At int
	// Closed tells that its card is written.
	Closed bool
}

// NextInRun returns the place of the stone that comes to the wheel now, and whether any is
// left. Tier by tier it is the first of those that are furthest behind, stone by stone the
// first that is not done.
func (s *Script) NextInRun(order RunOrder, stones []InRun) (place int, left bool) {
	open := func(i int) bool { return !stones[i].Closed && stones[i].At < len(s.Visits) }
	first := -1
	for i := range stones {
		if !open(i) {
			continue
		}
		if first < 0 || order == TierByTier && s.Visits[stones[i].At].Block < s.Visits[stones[first].At].Block {
			first = i
		}
	}
	return first, first >= 0
}

// forStone returns the script of a stone in a run: that of the run's first stone, with the
// names of its own setups.
func (s *Script) forStone(stone Stone) *Script {
	setups := stone.Work().Plan.Setups
	out := *s
	out.Visits = slices.Clone(s.Visits)
	for i, v := range out.Visits {
		out.Visits[i].Setup = setups[s.Facets[v.FacetNo].Setup].ID
	}
	return &out
}

// RunNext is what comes to the wheel next in a run.
type RunNext struct {
	Stone Stone
	Facet ScriptFacet
}

// NextOf returns what comes to the wheel next of a run's stones, nil where all are cut.
// Errors are those of Script.
func (s *Stones) NextOf(ctx context.Context, r Run, stones []Stone) (*RunNext, error) {
	if len(stones) == 0 {
		return nil, nil
	}
	script, err := s.Script(ctx, stones[0])
	if err != nil {
		return nil, err
	}
	at := make([]InRun, len(stones))
	for i, stone := range stones {
		state, err := s.journal.WorkState(ctx, stone.Work().ID)
		if err != nil {
			return nil, err
		}
		at[i] = InRun{At: script.forStone(stone).Standing(state.Folded).At, Closed: stone.Work().Finish != nil}
	}
	place, left := script.NextInRun(r.Order, at)
	if !left {
		return nil, nil
	}
	return &RunNext{stones[place], script.Facets[script.Visits[at[place].At].FacetNo]}, nil
}
