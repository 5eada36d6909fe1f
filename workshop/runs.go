package workshop

import (
	"context"
	"fmt"
	"time"
)

// Run is one plan for several stones that are cut together.
type Run struct {
	ID      string
	Name    string
	Order   RunOrder
	Created time.Time
}

// RunOrder is how a run is cut.
type RunOrder string

// The orders.
const (
	// TierByTier cuts a tier on every stone before the next: the protractor is set
	// once for all of them.
	TierByTier RunOrder = "tier"
	// StoneByStone finishes one stone before the next.
	StoneByStone RunOrder = "stone"
)

// MostInRun is how many stones a run has at most.
const MostInRun = 24

// PlanRun adds stones with one plan. They get numbers that follow each other. It returns
// the errors of Assess; after one there is neither run nor stone.
func (s *Stones) PlanRun(ctx context.Context, name, diagramID string, c Choices, order RunOrder, stones int) (Run, error) {
	r := Run{ID: s.newID(), Name: name, Order: order, Created: s.moment()}
	plan, _, err := s.firstPlan(ctx, diagramID, "", c)
	if err != nil {
		return r, err
	}
	return r, s.store.InTx(ctx, func(ctx context.Context) error {
		if err := s.store.InsertRun(ctx, r); err != nil {
			return err
		}
		for i := range stones {
			stone := s.newStone(fmt.Sprintf("%s %d/%d", name, i+1, stones), s.forAnother(plan))
			stone.Run, stone.RunPlace = r.ID, i+1
			if _, err := s.insert(ctx, stone); err != nil {
				return err
			}
		}
		return nil
	})
}

// Run returns a run and its stones in their order, each with the work that belongs to the
// run, its first one, alone: a stone that comes back does so by itself. It returns
// ErrNotFound.
func (s *Stones) Run(ctx context.Context, id string) (Run, []Stone, error) {
	return s.store.Run(ctx, id)
}
