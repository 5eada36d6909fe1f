package workshop

import (
	"context"
	"errors"
	"time"
)

// Interval says how often something is done.
type Interval string

// The intervals of copies.
const (
	Never  Interval = "never"
	Daily  Interval = "day"
	Weekly Interval = "week"
)

func (i Interval) length() time.Duration {
	if i == Weekly {
		return 7 * 24 * time.Hour
	}
	return 24 * time.Hour
}

// CopyPlan says when everything is copied, and where to.
type CopyPlan struct {
	Every Interval `validate:"oneof=never day week"`
	// Folder is where copies go, "" for a folder beside the records.
	Folder string `validate:"max=4000"`
	// Keep is how many of them stay; older ones make room.
	Keep int `validate:"min=1,max=365"`
}

// CopyState is the plan and what became of it.
type CopyState struct {
	Plan CopyPlan
	// Last is when the last copy was made, zero for none, and LastFile its name.
	Last     time.Time
	LastFile string
	// Failed is why the last try made none, "" where it did, and FailedAt when that was.
	Failed   string
	FailedAt time.Time
}

// UsualCopies is the plan before its owner has another.
var UsualCopies = CopyPlan{Every: Daily, Keep: 7}

// tryAgain is how long after a failure the next copy is tried.
const tryAgain = time.Hour

// Due tells whether a copy is to be made.
func (c CopyState) Due(now time.Time) bool {
	if c.Plan.Every == Never || c.Failed != "" && now.Sub(c.FailedAt) < tryAgain {
		return false
	}
	return now.Sub(c.Last) >= c.Plan.Every.length()
}

// Worrying tells whether the owner should look after the copies: the last try failed, or the last
// copy is twice as old as it should be.
func (c CopyState) Worrying(now time.Time) bool {
	if c.Plan.Every == Never {
		return false
	}
	return c.Failed != "" || !c.Last.IsZero() && now.Sub(c.Last) > 2*c.Plan.Every.length()
}

// Copying keeps the plan of copies.
type Copying struct {
	store interface {
		Transactions
		CopyingStore
	}
	origin
}

// CopyingStore keeps the plan of copies.
type CopyingStore interface {
	// CopyState returns the plan and its state, ErrNotFound before it was first saved.
	CopyState(ctx context.Context) (CopyState, error)
	SaveCopyState(ctx context.Context, c CopyState) error
	// Lineage names the records as such: those that a copy has brought back are others.
	Lineage(ctx context.Context) (string, error)
}

// CopyState returns the plan of copies and its state.
func (c *Copying) CopyState(ctx context.Context) (CopyState, error) {
	state, err := c.store.CopyState(ctx)
	if errors.Is(err, ErrNotFound) {
		return CopyState{Plan: UsualCopies}, nil
	}
	return state, err
}

// SaveCopyPlan changes the plan. It returns the errors of validation.
func (c *Copying) SaveCopyPlan(ctx context.Context, plan CopyPlan) error {
	if err := Validate(plan); err != nil {
		return err
	}
	return c.change(ctx, func(s *CopyState) {
		// What failed in another folder says nothing of this one.
		s.Plan, s.Failed, s.FailedAt = plan, "", time.Time{}
	})
}

// Copied notes a copy that was made.
func (c *Copying) Copied(ctx context.Context, file string) error {
	return c.change(ctx, func(s *CopyState) {
		s.Last, s.LastFile, s.Failed, s.FailedAt = c.moment(), file, "", time.Time{}
	})
}

// NotCopied notes why none was made.
func (c *Copying) NotCopied(ctx context.Context, why string) error {
	return c.change(ctx, func(s *CopyState) { s.Failed, s.FailedAt = why, c.moment() })
}

func (c *Copying) change(ctx context.Context, change func(*CopyState)) error {
	return c.store.InTx(ctx, func(ctx context.Context) error {
		s, err := c.CopyState(ctx)
		if err != nil {
			return err
		}
		change(&s)
		return c.store.SaveCopyState(ctx, s)
	})
}

// Lineage names the records as such: those that a copy has brought back are others.
func (c *Copying) Lineage(ctx context.Context) (string, error) { return c.store.Lineage(ctx) }
