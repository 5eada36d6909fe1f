package workshop

import (
	"context"
	"math"
	"slices"

	"cressa/core/diagram"
	"cressa/core/mending"
	"cressa/workshop/journal"
)

// sitsIn returns the place of the setup that the stone sits in, and of each setup whether visits are open in it.
func (p *Plan) sitsIn(w *journal.Work) (sits int, open []bool) {
	open = make([]bool, len(p.Setups))
	place := func(id string) int {
		return max(0, slices.IndexFunc(p.Setups, func(s Setup) bool { return s.ID == id }))
	}
	for no, run := range p.Runs {
		if no == 0 {
			sits = place(w.SitsIn(run.Setup))
		}
		for _, id := range run.Facets {
			_, marked := w.Mark(journal.Visit{Setup: run.Setup, Pass: run.Pass, Facet: id})
			open[place(run.Setup)] = open[place(run.Setup)] || !marked
		}
	}
	return sits, open
}

// TurnsBack returns how many times more than the plan has it the stone is turned over for a way: to each setup that was done with,
// and back where that comes before the rest of this one.
func (w *WaysOut) TurnsBack(way mending.Way) int {
	back := map[int]bool{}
	for i := range way.Take {
		if no := w.In[i]; w.cutElsewhere(way, i) && !w.open[no] {
			back[no] = true
		}
	}
	if w.goesBackFirst(way) {
		return len(back) + 1
	}
	return len(back)
}

// cutElsewhere tells of a facet, given by its place, that a way cuts it again in another setup than the stone sits in.
func (w *WaysOut) cutElsewhere(way mending.Way, i int) bool {
	return w.In[i] != w.sits && way.Take[i]*w.MM > mending.Untouched
}

// goesBackFirst tells that what is still to be cut where the stone sits stops at facets that a way cuts again in another setup: these
// come first then. Else the stone stays until all is cut that can be cut there, and is turned over once less.
func (w *WaysOut) goesBackFirst(way mending.Way) bool {
	again := map[string]bool{}
	girdle := false
	for i := range way.Take {
		if w.cutElsewhere(way, i) {
			t := w.Stone.Diagram.Tiers[w.Stone.Facets[i].Tier]
			again[t.Name], girdle = true, girdle || t.Part == diagram.Girdle
		}
	}
	for i, f := range w.Stone.Facets {
		measured := w.Standing.Measured != nil && w.Standing.Measured[i]
		if w.In[i] != w.sits || measured || !math.IsNaN(w.Standing.Cut[i]) {
			continue
		}
		stop := w.Stone.Diagram.Tiers[f.Tier].Stop
		if stop.Kind == diagram.GirdleBand && girdle || slices.ContainsFunc(stop.Refs(), func(r diagram.Ref) bool { return again[r.Tier] }) {
			return true
		}
	}
	return false
}

// openAgain opens all visits again in which some facets were cut. The work goes on in the setup that the stone sits in, or in the
// others where these come first.
func (s *Stones) openAgain(ctx context.Context, work Work, facets []FacetID, othersFirst bool) error {
	state, err := s.journal.WorkState(ctx, work.ID)
	if err != nil {
		return err
	}
	plan := work.Plan
	sits, _ := plan.sitsIn(state.Folded)
	// What is opened last goes on first.
	order := []Setup{plan.Setups[sits]}
	others := slices.Delete(slices.Clone(plan.Setups), sits, sits+1)
	slices.Reverse(others)
	if othersFirst {
		order = append(order, others...)
	} else {
		order = append(others, order...)
	}
	last := -1
	for i, setup := range order {
		again := plan.cutIn(setup.ID, facets, state.Folded)
		if len(again.Facets) == 0 {
			continue
		}
		if err := s.journal.tell(ctx, work.ID, journal.Again, again); err != nil {
			return err
		}
		last = i
	}
	next, open := plan.nextIn(plan.Setups[sits].ID, state.Folded)
	if othersFirst || last < 0 || last == len(order)-1 || !open {
		return nil
	}
	// Nothing is opened where the stone sits, and the rest of it goes on all the same.
	return s.journal.tell(ctx, work.ID, journal.Jump, next)
}

// cutIn names the visits of a setup in which some facets were cut.
func (p *Plan) cutIn(setup string, facets []FacetID, w *journal.Work) journal.Reopening {
	out := journal.Reopening{Setup: setup}
	for _, pass := range p.Choices.Passes {
		was := false
		for _, id := range facets {
			m, marked := w.Mark(journal.Visit{Setup: setup, Pass: pass.ID, Facet: id})
			if !marked || m.Kind != journal.Done {
				continue
			}
			was = true
			if !slices.Contains(out.Facets, id) {
				out.Facets = append(out.Facets, id)
			}
		}
		if was {
			out.Passes = append(out.Passes, pass.ID)
		}
	}
	return out
}

// nextIn returns the first visit that is open in a setup, false where none is.
func (p *Plan) nextIn(setup string, w *journal.Work) (journal.Visit, bool) {
	for _, run := range p.Runs {
		for _, id := range run.Facets {
			v := journal.Visit{Setup: setup, Pass: run.Pass, Facet: id}
			if _, marked := w.Mark(v); run.Setup == setup && !marked {
				return v, true
			}
		}
	}
	return journal.Visit{}, false
}
