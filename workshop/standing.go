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
	// Transfer tells that the stone is turned over before the next visit.
	Transfer bool
}

// Standing returns where a work stands that is cut by the script. The bench, which must know
// it without a network, has the same rules: standing.fixtures.json holds the two together.
func (s *Script) Standing(w *journal.Work) Standing {
	out := Standing{At: len(s.Visits)}
	for i, v := range s.Visits {
		m, there := w.Mark(journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet})
		switch {
		case !there:
			out.At = min(out.At, i)
		case m.Kind == journal.Done:
			out.Step = max(out.Step, v.FacetNo+1)
		}
	}
	if out.At > 0 && out.At < len(s.Visits) && s.Visits[out.At].Setup != s.Visits[out.At-1].Setup {
		_, turned := w.Transfers[s.Visits[out.At].Setup]
		out.Transfer = !turned
	}
	return out
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
