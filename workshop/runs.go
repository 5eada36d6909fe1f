package workshop

import (
	"context"
	"fmt"
	"math"
	"slices"
	"time"
)

// Run is one plan for several stones that are cut together.
type Run struct {
	ID      string    `json:"id"`
	Name    string    `json:"name"`
	Way     Way       `json:"way"`
	Created time.Time `json:"created"`
}

// Way is how a run is cut.
type Way string

// The ways.
const (
	// TierByTier cuts a tier on every stone before the next: the protractor is set
	// once for all of them.
	TierByTier Way = "tier"
	// StoneByStone finishes one stone before the next.
	StoneByStone Way = "stone"
)

// MostInRun is how many stones a run has at most.
const MostInRun = 24

// PlanRun adds stones with one plan. They get numbers that follow each other.
func (w *Workshop) PlanRun(ctx context.Context, name, diagramID string, c Choices, way Way, stones int) (Run, error) {
	r := Run{ID: newID(), Name: name, Way: way, Created: w.moment()}
	made := make([]Stone, stones)
	for i := range made {
		s, err := w.newStone(ctx, fmt.Sprintf("%s %d/%d", name, i+1, stones), diagramID, c)
		if err != nil {
			return r, err
		}
		s.Run, s.RunPlace = r.ID, i+1
		made[i] = s
	}
	return r, w.store.InsertRun(ctx, r, made)
}

// Run returns a run and its stones in their order.
func (w *Workshop) Run(ctx context.Context, id string) (Run, []Stone, error) {
	r, err := w.store.Run(ctx, id)
	if err != nil {
		return r, nil, err
	}
	all, err := w.store.Stones(ctx)
	if err != nil {
		return r, nil, err
	}
	all = slices.DeleteFunc(all, func(s Stone) bool { return s.Run != id })
	slices.SortFunc(all, func(a, b Stone) int { return a.RunPlace - b.RunPlace })
	return r, all, nil
}

// runHours shares the time that a run took out among its stones: what was ticked on
// any of them, one after the other, is reckoned as one work, and every stone bears
// its part of the visits.
func (w *Workshop) runHours(ctx context.Context, s Stone) (float64, error) {
	_, stones, err := w.Run(ctx, s.Run)
	if err != nil {
		return 0, err
	}
	var all []Event
	visits, own := 0, 0
	for _, other := range stones {
		events, err := w.store.Events(ctx, other.Work.ID)
		if err != nil {
			return 0, err
		}
		n := len(Visited(events))
		visits += n
		if other.ID == s.ID {
			own = n
		}
		// A pass is a step of the whole run, not of one stone's setups.
		for _, e := range events {
			e.Setup = other.upIn(e.Setup)
			all = append(all, e)
		}
	}
	if visits == 0 {
		return 0, nil
	}
	return math.Round(Hours(all)*float64(own)/float64(visits)*100) / 100, nil
}

// upIn returns the side that is up in a setup.
func (s Stone) upIn(setup string) string {
	for _, o := range s.Work.Setups {
		if o.ID == setup {
			return string(o.Up)
		}
	}
	return setup
}
