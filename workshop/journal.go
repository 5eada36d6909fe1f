package workshop

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"time"

	"cressa/workshop/journal"
)

// Journal keeps what happened. An event and the state that follows from it are written in
// one transaction, so that lists never have to read a log.
type Journal struct {
	store interface {
		Transactions
		JournalStore
	}
	origin
}

// JournalStore keeps the log and the state of every work.
type JournalStore interface {
	// InsertEvent adds an event and returns its place.
	InsertEvent(ctx context.Context, e journal.Event) (seq int64, err error)
	// Event returns the event with the given ID, of whatever work.
	Event(ctx context.Context, id string) (journal.Event, error)
	// Events returns the events of works with places after the given one, in the order of
	// their arrival, at most so many; all of them where limit is 0.
	Events(ctx context.Context, works []string, after int64, limit int) ([]journal.Event, error)
	// WorkState returns what is kept of a work. Its Folded is nil where that is missing or
	// cannot be read.
	WorkState(ctx context.Context, workID string) (WorkState, error)
	SaveWorkState(ctx context.Context, s WorkState) error
	// RunTicks returns the last ticks of each device that the present works of a run's
	// stones know of, by the works' IDs.
	RunTicks(ctx context.Context, run string) (map[string]map[string]journal.Tick, error)
	// WorkIDs returns the IDs of all works, those of a run together.
	WorkIDs(ctx context.Context) ([]string, error)
	// LastPlace returns the last place in the log, 0 where it is empty.
	LastPlace(ctx context.Context) (int64, error)
	// StreamsAfter returns the streams of the events with places after the given one, and the last of those places.
	StreamsAfter(ctx context.Context, after int64) (streams []string, last int64, err error)
	// StaleWorks returns the IDs of works whose kept state is not folded from all of their
	// log by the present rules.
	StaleWorks(ctx context.Context) ([]string, error)
}

// WorkState is what is kept of a work so that its log need not be read: the folded log,
// from which follow the figures that lists show and sort by.
type WorkState struct {
	WorkID string
	Task   journal.Task
	// Run is the run that its stone belongs to, "" for none.
	Run string
	// Created is when the work began to be, its last event until another comes.
	Created time.Time
	Folded  *journal.Work
	// Seq is the place of the last event that is folded in.
	Seq int64
	// Due tells that older rules folded it: the next start folds it anew.
	Due bool
}

// Figures are what lists show of a state.
type Figures struct {
	State journal.State
	// Done, Skipped and All count visits, as journal.Work.Progress does.
	Done, Skipped, All int
	Hours              float64
	LastEvent          time.Time
	Late               int
	// UsualMinutes is the median time of its Ticks, 0 without any.
	UsualMinutes float64
	Ticks        int
}

// Figures derives what lists show.
func (s WorkState) Figures() Figures {
	out := Figures{State: s.Folded.State(), Hours: s.Folded.Hours(), LastEvent: s.Created, Late: s.Folded.Late}
	out.Done, out.Skipped, out.All = s.Folded.Progress()
	usual, ticks := s.Folded.Pace()
	out.UsualMinutes, out.Ticks = usual.Minutes(), ticks
	if s.Folded.Last.After(s.Created) {
		out.LastEvent = s.Folded.Last
	}
	return out
}

// Outcome is what became of an event that was sent.
type Outcome string

// The outcomes. In the first two the event is on disk.
const (
	Stored Outcome = "stored"
	// Known: it was there already.
	Known Outcome = "known"
	// Refused: it is no fact of the work, and is not kept.
	Refused Outcome = "refused"
)

// Answer says what became of one event.
type Answer struct {
	ID      string
	Outcome Outcome
	// Seq is its place in the log, 0 where it was refused.
	Seq int64
	// Reason says why it was refused.
	Reason journal.Reason
}

// Append adds a batch of events, of any works, and answers for each of them in their
// order. Sending one again changes nothing. What is answered as stored or known is on
// disk when the call returns; where it returns an error nothing of the batch is.
func (j *Journal) Append(ctx context.Context, events []journal.Event) ([]Answer, error) {
	var answers []Answer
	err := j.store.InTx(ctx, func(ctx context.Context) error {
		answers = make([]Answer, 0, len(events))
		desk := j.desk()
		for _, e := range events {
			answer, err := desk.take(ctx, e)
			if err != nil {
				return err
			}
			answers = append(answers, answer)
		}
		return desk.save(ctx)
	})
	return answers, err
}

// Event returns the event with the given ID, of whatever work, or ErrNotFound.
func (j *Journal) Event(ctx context.Context, id string) (journal.Event, error) {
	return j.store.Event(ctx, id)
}

// LastPlace returns the last place in the log, 0 where it is empty. It returns only the errors of the store.
func (j *Journal) LastPlace(ctx context.Context) (int64, error) { return j.store.LastPlace(ctx) }

// StreamsAfter returns the streams that got events after a place in the log, and the last place of all. It returns only the
// errors of the store.
func (j *Journal) StreamsAfter(ctx context.Context, after int64) (streams []string, last int64, err error) {
	return j.store.StreamsAfter(ctx, after)
}

// ownDevice is the device of events that the workshop itself writes.
const ownDevice = "workshop"

// tell adds an event of the workshop's own within a transaction.
func (j *Journal) tell(ctx context.Context, workID string, kind journal.Kind, payload any) error {
	desk := j.desk()
	s, err := desk.open(ctx, workID)
	if err != nil {
		return err
	}
	if _, err := desk.add(ctx, s, journal.Event{
		ID: j.newID(), Stream: journal.OfWork(workID), Device: ownDevice, DeviceSeq: s.Folded.Heard[ownDevice] + 1, DeviceTime: j.moment(),
		Kind: kind, Version: journal.Newest(kind), Payload: journal.Payload(payload),
	}); err != nil {
		return err
	}
	return desk.save(ctx)
}

// begin keeps the state of a work to which nothing has happened yet.
func (j *Journal) begin(ctx context.Context, w Work, run string) error {
	task := w.Task.Kind()
	return j.store.SaveWorkState(ctx, WorkState{WorkID: w.ID, Task: task, Run: run, Created: w.Created, Folded: journal.NewWork(task)})
}

// desk is where the states lie open that a transaction changes.
type desk struct {
	*Journal
	states map[string]*WorkState
	// ticked holds each device's last tick on any stone of a run, shared by its stones.
	ticked map[string]map[string]journal.Tick
}

func (j *Journal) desk() *desk {
	return &desk{j, map[string]*WorkState{}, map[string]map[string]journal.Tick{}}
}

// open returns the state of a work.
func (d *desk) open(ctx context.Context, workID string) (*WorkState, error) {
	if s, ok := d.states[workID]; ok {
		return s, nil
	}
	s, err := d.store.WorkState(ctx, workID)
	if err != nil {
		return nil, err
	}
	d.states[workID] = &s
	if s.Folded == nil {
		// What is derived was lost or has another form; the log has it all.
		return &s, d.refold(ctx, &s)
	}
	if s.Run == "" {
		return &s, nil
	}
	if d.ticked[s.Run] == nil {
		works, err := d.store.RunTicks(ctx, s.Run)
		if err != nil {
			return nil, err
		}
		d.ticked[s.Run] = lastOf(works)
	}
	s.Folded.Ticked = d.ticked[s.Run]
	return &s, nil
}

// lastOf returns each device's last tick: at the wheel the stones of a run follow one
// another, and the time between two ticks is that of the cut that ends it.
func lastOf(works map[string]map[string]journal.Tick) map[string]journal.Tick {
	out := map[string]journal.Tick{}
	for _, devices := range works {
		for device, t := range devices {
			if last, ok := out[device]; !ok || t.Order > last.Order {
				out[device] = t
			}
		}
	}
	return out
}

// refold folds a work's log anew, and with it those of the other stones of its run.
func (d *desk) refold(ctx context.Context, s *WorkState) error {
	tasks := map[string]journal.Task{s.WorkID: s.Task}
	if s.Run != "" {
		works, err := d.store.RunTicks(ctx, s.Run)
		if err != nil {
			return err
		}
		for id := range works {
			if d.states[id] == nil {
				other, err := d.store.WorkState(ctx, id)
				if err != nil {
					return err
				}
				d.states[id] = &other
			}
			tasks[id] = d.states[id].Task
		}
	}
	events, err := d.store.Events(ctx, slices.Sorted(maps.Keys(tasks)), 0, 0)
	if err != nil {
		return err
	}
	for id, folded := range journal.FoldRun(tasks, events) {
		d.states[id].Folded, d.states[id].Seq = folded, 0
		d.ticked[s.Run] = folded.Ticked
	}
	for _, e := range events {
		if id, ok := e.Stream.Work(); ok {
			d.states[id].Seq = e.Seq
		}
	}
	return nil
}

// take adds one event, or says why not.
func (d *desk) take(ctx context.Context, e journal.Event) (Answer, error) {
	out := Answer{ID: e.ID, Outcome: Refused}
	e.DeviceTime = e.DeviceTime.UTC().Truncate(time.Microsecond)
	have, err := d.store.Event(ctx, e.ID)
	switch {
	case err == nil && have.Stream == e.Stream:
		out.Outcome, out.Seq = Known, have.Seq
		return out, nil
	case err == nil:
		out.Reason = journal.OtherStream
		return out, nil
	case !errors.Is(err, ErrNotFound):
		return out, err
	}
	work, _ := e.Stream.Work()
	s, err := d.open(ctx, work)
	if errors.Is(err, ErrNotFound) {
		out.Reason = journal.NoSuchStream
		return out, nil
	}
	if err != nil {
		return out, err
	}
	var failed error
	out.Reason = s.Folded.Judge(e, func(id string) (journal.Event, bool) {
		taken, err := d.store.Event(ctx, id)
		if err != nil && !errors.Is(err, ErrNotFound) {
			failed = err
		}
		return taken, err == nil && taken.Stream == e.Stream
	})
	if failed != nil || out.Reason != "" {
		return out, failed
	}
	out.Outcome = Stored
	out.Seq, err = d.add(ctx, s, e)
	return out, err
}

// add writes an event that belongs, folds it in and returns its place.
func (d *desk) add(ctx context.Context, s *WorkState, e journal.Event) (int64, error) {
	e.By, e.ServerTime = ActorOf(ctx), d.moment()
	var err error
	if e.Seq, err = d.store.InsertEvent(ctx, e); err != nil {
		return 0, err
	}
	if !s.Folded.InOrder(e) {
		// The device did it before what was heard of it already.
		return e.Seq, d.refold(ctx, s)
	}
	s.Folded.Apply(e)
	s.Seq = e.Seq
	return e.Seq, nil
}

// save keeps the states that were changed.
func (d *desk) save(ctx context.Context) error {
	for _, id := range slices.Sorted(maps.Keys(d.states)) {
		if err := d.store.SaveWorkState(ctx, *d.states[id]); err != nil {
			return err
		}
	}
	return nil
}

// EventsAfter returns the events of a work with places after the given one, at most limit
// of them; 0 is the start. An unknown work has none.
func (j *Journal) EventsAfter(ctx context.Context, workID string, after int64, limit int) ([]journal.Event, error) {
	return j.store.Events(ctx, []string{workID}, after, limit)
}

// WorkState returns where a work stands. It returns ErrNotFound for an unknown work.
func (j *Journal) WorkState(ctx context.Context, workID string) (WorkState, error) {
	s, err := j.desk().open(ctx, workID)
	if err != nil {
		return WorkState{}, err
	}
	return *s, nil
}

// Refresh makes anew what is kept of the works whose state does not reach to the end of
// their log. It looks at no event but theirs. After an error nothing has changed.
func (j *Journal) Refresh(ctx context.Context) error {
	return j.store.InTx(ctx, func(ctx context.Context) error {
		stale, err := j.store.StaleWorks(ctx)
		if err != nil {
			return err
		}
		d := j.desk()
		for _, id := range stale {
			s, err := d.open(ctx, id)
			if err != nil {
				return err
			}
			if err := d.refold(ctx, s); err != nil {
				return err
			}
		}
		return d.save(ctx)
	})
}

// Finding is what a check of the records found.
type Finding struct {
	// What is wrong, in a word, and Where.
	What, Where string
	// Repairable tells that it is derived and can be made anew.
	Repairable bool
}

// What a check finds in the log.
const (
	// StateDiffers: the state that is kept of a work is not what its log says.
	StateDiffers = "state-differs"
	// StateMissing: nothing is kept of a work's state.
	StateMissing = "state-missing"
)

// CheckStates holds the state that is kept of every work against its log, and keeps it
// anew where it differs and repair is set. After an error the findings are those of the
// works before it; what was kept anew stays.
func (j *Journal) CheckStates(ctx context.Context, repair bool) ([]Finding, error) {
	works, err := j.store.WorkIDs(ctx)
	if err != nil {
		return nil, err
	}
	out := []Finding{}
	checked := map[string]bool{}
	for _, id := range works {
		if checked[id] {
			continue
		}
		// With a work those of its run are folded; then they are known as well.
		err := j.store.InTx(ctx, func(ctx context.Context) error {
			kept, err := j.store.WorkState(ctx, id)
			if err != nil {
				return err
			}
			d := j.desk()
			now := kept
			d.states[id] = &now
			if err := d.refold(ctx, &now); err != nil {
				return err
			}
			found := false
			for other, s := range d.states {
				checked[other] = true
				before, err := j.store.WorkState(ctx, other)
				if err != nil {
					return err
				}
				if what := differs(before, *s); what != "" {
					out, found = append(out, Finding{What: what, Where: "work " + other, Repairable: true}), true
				}
			}
			if found && repair {
				return d.save(ctx)
			}
			return nil
		})
		if err != nil {
			return out, fmt.Errorf("work %s: %w", id, err)
		}
	}
	return out, nil
}

// differs says how the state that is kept is not the one that the log leads to.
func differs(kept, folded WorkState) string {
	switch {
	case kept.Due:
		return ""
	case kept.Folded == nil:
		return StateMissing
	}
	// What a run's stones know of each other's last ticks is as old as their own last one.
	a, b := *kept.Folded, *folded.Folded
	if kept.Run != "" {
		a.Ticked, b.Ticked = nil, nil
	}
	if kept.Seq != folded.Seq || !bytes.Equal(journal.Payload(a), journal.Payload(b)) {
		return StateDiffers
	}
	return ""
}
