package workshop

import (
	"context"
	"slices"
	"time"
)

// EventKind says what happened.
type EventKind string

// What can happen to a stone at the wheel.
const (
	// EventDone: a facet was cut in a pass.
	EventDone EventKind = "done"
	// EventSkip: a facet is left out in a pass.
	EventSkip EventKind = "skip"
	// EventCheck: an item of the transfer was checked; Item names it.
	EventCheck EventKind = "check"
	// EventTransfer: the stone was turned over; Setup is the one that begins.
	EventTransfer EventKind = "transfer"
	// EventNote: something worth remembering; Text says it.
	EventNote EventKind = "note"
	// EventUndo takes back the event that Undoes names.
	EventUndo EventKind = "undo"
	// EventBegin and EventEnd bound a stretch of work on a stone without a plan.
	EventBegin EventKind = "begin"
	EventEnd   EventKind = "end"
	// EventPlan: the plan was changed; Text is its number.
	EventPlan EventKind = "plan"
)

// Event is one entry of a work's log. It is only ever added.
type Event struct {
	// ID is 128 random bits as 32 hexadecimal digits, made where it happened, so
	// that a batch can be sent again without harm.
	ID string `json:"id" validate:"len=32,hexadecimal"`
	// Device names the screen it came from and DeviceSeq counts there.
	Device     string    `json:"device" validate:"required,max=64"`
	DeviceSeq  int64     `json:"deviceSeq" validate:"min=0"`
	DeviceTime time.Time `json:"deviceTime"`
	Kind       EventKind `json:"kind" validate:"oneof=done skip check transfer note undo plan begin end"`
	Setup      string    `json:"setup" validate:"max=64"`
	Pass       string    `json:"pass" validate:"max=64"`
	Facet      FacetID   `json:"facet" validate:"max=64"`
	Item       string    `json:"item" validate:"max=64"`
	Undoes     string    `json:"undoes" validate:"max=32"`
	Text       string    `json:"text" validate:"max=4000"`
	// ServerTime and Seq are given when it is on disk.
	ServerTime time.Time `json:"serverTime"`
	Seq        int64     `json:"seq"`
}

// Visit is one facet in one pass of one setup: what a tick stands for.
type Visit struct {
	Setup string  `json:"setup"`
	Pass  string  `json:"pass"`
	Facet FacetID `json:"facet"`
}

// AppendEvents adds a batch to a stone's log. Sending a batch again changes
// nothing. All of it is on disk when the call returns, or nothing is.
func (w *Workshop) AppendEvents(ctx context.Context, stoneID string, events []Event) ([]Event, error) {
	s, err := w.store.Stone(ctx, stoneID)
	if err != nil {
		return nil, err
	}
	for i := range events {
		if !belongs(events[i], s.Work) {
			return nil, ErrForeignEvent
		}
		events[i].ServerTime = w.moment()
		events[i].DeviceTime = events[i].DeviceTime.UTC()
	}
	if s.Work.Finish != nil && !w.known(ctx, s.Work.ID, events) {
		return nil, ErrFinished
	}
	if err := w.store.AppendEvents(ctx, s.Work.ID, events); err != nil {
		return nil, err
	}
	return w.store.Events(ctx, s.Work.ID)
}

// known tells whether a work's log has all the events already: a batch that is
// sent again after the stone was finished is no change.
func (w *Workshop) known(ctx context.Context, workID string, events []Event) bool {
	have, err := w.store.Events(ctx, workID)
	if err != nil {
		return false
	}
	for _, e := range events {
		if !slices.ContainsFunc(have, func(h Event) bool { return h.ID == e.ID }) {
			return false
		}
	}
	return true
}

func belongs(e Event, work Work) bool {
	setup := slices.ContainsFunc(work.Setups, func(s Setup) bool { return s.ID == e.Setup })
	switch e.Kind {
	case EventDone, EventSkip:
		if !setup { // nor a plan: it came in for repair
			return false
		}
		pass := slices.ContainsFunc(work.Plan.Choices.Passes, func(p Pass) bool { return p.ID == e.Pass })
		return pass && slices.Contains(work.Plan.Facets, e.Facet)
	case EventCheck:
		return setup && e.Item != ""
	case EventTransfer:
		return setup
	case EventBegin, EventEnd:
		return work.Kind == Repair
	case EventUndo:
		return e.Undoes != ""
	case EventNote:
		return e.Text != ""
	}
	// A change of plan is written by the workshop itself.
	return false
}

// Events returns a stone's log.
func (w *Workshop) Events(ctx context.Context, stoneID string) ([]Event, error) {
	s, err := w.store.Stone(ctx, stoneID)
	if err != nil {
		return nil, err
	}
	return w.store.Events(ctx, s.Work.ID)
}

// Standing returns the events that were not taken back, undo events left out.
func Standing(events []Event) []Event {
	undone := map[string]bool{}
	for _, e := range events {
		if e.Kind == EventUndo {
			undone[e.Undoes] = true
		}
	}
	var out []Event
	for _, e := range events {
		if e.Kind != EventUndo && !undone[e.ID] {
			out = append(out, e)
		}
	}
	return out
}

// Visited returns the visits that are done or skipped.
func Visited(events []Event) map[Visit]EventKind {
	out := map[Visit]EventKind{}
	for _, e := range Standing(events) {
		if e.Kind == EventDone || e.Kind == EventSkip {
			out[Visit{e.Setup, e.Pass, e.Facet}] = e.Kind
		}
	}
	return out
}
