package workshop

import (
	"context"
	"time"
)

// Store keeps the records. Writes that take a version succeed only while the
// record still has that version, and return ErrStale otherwise. A method that
// returns without error has put the record on disk.
type Store interface {
	DiagramStore
	StoneStore
	DeviceStore
	PhotoStore
	SweepStore

	// Settings returns the settings, the zero value before they were first saved.
	Settings(ctx context.Context) (Settings, error)
	SaveSettings(ctx context.Context, s Settings, version int) error
}

// DiagramStore keeps diagrams, drafts and revisions.
type DiagramStore interface {
	// Diagrams returns all diagrams that are not deleted, by name.
	Diagrams(ctx context.Context) ([]Diagram, error)
	Diagram(ctx context.Context, id string) (Diagram, error)
	// InsertDiagram adds a diagram and, unless it is nil, its first revision.
	InsertDiagram(ctx context.Context, d Diagram, r *Revision) error
	// SaveDraft stores the draft and raises the version by one.
	SaveDraft(ctx context.Context, d Diagram, version int) error
	// KeepRevision stores the revision and makes it the diagram's present one.
	KeepRevision(ctx context.Context, id string, r Revision, version int) error
	// HideDiagram deletes a diagram for the time being, or brings it back where
	// hidden is nil.
	HideDiagram(ctx context.Context, id string, hidden *time.Time) error
	// DropHidden removes diagrams that were deleted before the given time.
	DropHidden(ctx context.Context, before time.Time) error
	InsertRevision(ctx context.Context, r Revision) error
	Revision(ctx context.Context, hash string) (Revision, error)
}

// StoneStore keeps stones, plans and the log.
type StoneStore interface {
	// Stones returns all stones with their latest plans, newest first.
	Stones(ctx context.Context) ([]Stone, error)
	Stone(ctx context.Context, id string) (Stone, error)
	// InsertStone adds a stone with its first plan and gives it the next number.
	InsertStone(ctx context.Context, s Stone) (number int, err error)
	// InsertRun adds a run with its stones, in one transaction.
	InsertRun(ctx context.Context, r Run, stones []Stone) error
	Run(ctx context.Context, id string) (Run, error)
	// AddPlans adds a revision of each stone's plan over the version that the stone
	// has, with the event that tells of it: all of them or, where one is stale, none.
	AddPlans(ctx context.Context, stones []Stone, told []Event) error
	// SaveIntake stores a repair's intake and name.
	SaveIntake(ctx context.Context, s Stone, version int) error
	SaveFinish(ctx context.Context, stoneID string, f Finish, version int) error
	// AppendEvents adds those events of a batch that are new, in one transaction.
	// An event whose ID is known already is left as it is.
	AppendEvents(ctx context.Context, workID string, events []Event) error
	// Events returns a work's log in the order in which it arrived.
	Events(ctx context.Context, workID string) ([]Event, error)
}
