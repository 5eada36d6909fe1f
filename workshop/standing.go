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
	// OffDop: the stone came off its dop. It is glued again and lined up.
	OffDop Gate = "off-dop"
)

// Standing returns where a work stands that is cut by the script. The bench, which must know
// it without a network, has the same rules: standing.fixtures.json holds the two together.
func (s *Script) Standing(w *journal.Work) Standing {
	out := Standing{At: len(s.Visits), Skipped: []int{}}
	cutLater := map[int]bool{}
	// Where the work went on out of turn it stays there, as long as something is open on that side.
	from, turn := s.moved(w), len(s.Visits)
	for i, v := range slices.Backward(s.Visits) {
		m, there := w.Mark(journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet})
		switch {
		case !there:
			out.At = i
			if from >= 0 && i >= from && v.Setup == s.Visits[from].Setup {
				turn = i
			}
		case m.Kind == journal.Done:
			out.Step = max(out.Step, v.FacetNo+1)
			cutLater[v.FacetNo] = true
		case !cutLater[v.FacetNo]:
			out.Skipped = append(out.Skipped, i)
		}
	}
	if turn < len(s.Visits) {
		out.At = turn
	}
	slices.Reverse(out.Skipped)
	if len(s.Visits) > 0 {
		out.Gate = s.gate(out.At, s.onAdapter(w), w.SitsIn(s.Visits[0].Setup))
	}
	if s.offDop(w) {
		out.Gate = OffDop
	}
	return out
}

// moved returns the place of the visit that the work went on with out of turn, -1 where it did not.
func (s *Script) moved(w *journal.Work) int {
	if len(w.Moves) == 0 {
		return -1
	}
	last := w.Moves[len(w.Moves)-1]
	return slices.IndexFunc(s.Visits, func(v ScriptVisit) bool {
		return v.Setup == last.Setup && slices.Contains(last.Passes, v.Pass) && slices.Contains(last.Facets, v.Facet)
	})
}

// onAdapter tells whether the stone sits on the table adapter: what was done last says so.
func (s *Script) onAdapter(w *journal.Work) bool {
	last, on := 0, false
	told := func(n int, is bool) {
		if n > last {
			last, on = n, is
		}
	}
	for _, v := range s.Visits {
		if m, there := w.Mark(journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}); there {
			told(m.N, v.Adapter)
		}
	}
	for _, items := range w.Checks {
		told(items[adapterIsOn].N, true)
		told(items[adapterIsOff].N, false)
	}
	return on
}

// offDop tells whether the stone came off its dop and neither was glued anew nor lined up since.
func (s *Script) offDop(w *journal.Work) bool {
	off := 0
	for _, h := range w.Happenings {
		if h.What == journal.BondFailed {
			off = h.N
		}
	}
	if off == 0 {
		return false
	}
	for _, items := range w.Checks {
		if items[LinedUp].N > off {
			return false
		}
	}
	return true
}

// gate tells what is done with the stone before the visit at a place, or after the last one. Whether it sits on the adapter, and
// in which setup, is given.
func (s *Script) gate(at int, onAdapter bool, sits string) Gate {
	if at == len(s.Visits) {
		if onAdapter {
			return AdapterOff
		}
		return ""
	}
	next := s.Visits[at]
	turns := next.Setup != sits
	switch {
	case onAdapter && (!next.Adapter || turns):
		return AdapterOff
	case turns:
		return TurnOver
	case next.Adapter && !onAdapter:
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
	last := s.Visits[max(at-1, 0)]
	onAdapter, sits := at > 0 && last.Adapter, last.Setup
	var out []Happening
	check := func(setup string, items ...string) {
		for _, item := range items {
			out = append(out, Happening{journal.Check, journal.Checked{Setup: setup, Item: item}})
		}
	}
	for {
		switch s.gate(at, onAdapter, sits) {
		case AdapterOff:
			check(last.Setup, adapterIsOff)
			onAdapter = false
		case TurnOver:
			sits = s.Visits[at].Setup
			check(sits, TransferChecks...)
			out = append(out, Happening{journal.Transfer, journal.Transferred{Setup: sits}})
		case AdapterOn:
			check(s.Visits[at].Setup, append(slices.Clone(AdapterChecks), adapterIsOn)...)
			onAdapter = true
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
