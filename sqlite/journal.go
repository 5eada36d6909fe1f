package sqlite

import (
	"context"
	"errors"
	"strings"

	"cressa/workshop"
	"cressa/workshop/journal"
)

// InsertEvent implements workshop.JournalStore.
func (s *Store) InsertEvent(ctx context.Context, e journal.Event) (seq int64, err error) {
	return seq, s.row(ctx, `INSERT INTO events
		(id, stream, device, device_seq, device_time, server_time, kind, version, payload, by_id, by_name)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) RETURNING seq`,
		[]any{e.ID, e.Stream, e.Device, e.DeviceSeq, instant(e.DeviceTime), instant(e.ServerTime), e.Kind, e.Version, string(e.Payload), e.By.ID, e.By.Name}, &seq)
}

const eventColumns = `seq, id, stream, device, device_seq, device_time, server_time, kind, version, payload, by_id, by_name FROM events`

func eventFields(e *journal.Event) []any {
	return []any{
		&e.Seq, &e.ID, &e.Stream, &e.Device, &e.DeviceSeq, asInstant{&e.DeviceTime}, asInstant{&e.ServerTime},
		&e.Kind, &e.Version, (*[]byte)(&e.Payload), &e.By.ID, &e.By.Name,
	}
}

// Event implements workshop.JournalStore.
func (s *Store) Event(ctx context.Context, id string) (journal.Event, error) {
	var e journal.Event
	return e, s.row(ctx, `SELECT `+eventColumns+` WHERE id = ?`, []any{id}, eventFields(&e)...)
}

// Events implements workshop.JournalStore.
func (s *Store) Events(ctx context.Context, works []string, after int64, limit int) ([]journal.Event, error) {
	out := []journal.Event{}
	if len(works) == 0 {
		return out, nil
	}
	args := make([]any, 0, len(works)+2)
	for _, id := range works {
		args = append(args, journal.OfWork(id))
	}
	query := `SELECT ` + eventColumns + ` WHERE stream IN (?` + strings.Repeat(`, ?`, len(works)-1) + `) AND seq > ? ORDER BY seq`
	args = append(args, after)
	if limit > 0 {
		query, args = query+` LIMIT ?`, append(args, limit)
	}
	err := s.rows(ctx, func(scan scan) error {
		var e journal.Event
		err := scan(eventFields(&e)...)
		out = append(out, e)
		return err
	}, query, args...)
	return out, err
}

// WorkState implements workshop.JournalStore.
func (s *Store) WorkState(ctx context.Context, workID string) (workshop.WorkState, error) {
	out := workshop.WorkState{WorkID: workID}
	var folded string
	var run *string
	err := s.row(ctx, `SELECT w.task, w.created, iif(w.ordinal = 1, s.run, NULL), coalesce(t.seq, 0), coalesce(t.rules <> ?1, FALSE), coalesce(iif(t.rules = ?1, t.folded, ''), '')
		FROM works w JOIN stones s ON s.id = w.stone_id LEFT JOIN work_state t ON t.work_id = w.id WHERE w.id = ?2`, []any{journal.Rules, workID},
		&out.Task, asInstant{&out.Created}, &run, &out.Seq, &out.Due, &folded)
	if err != nil {
		return out, err
	}
	if run != nil {
		out.Run = *run
	}
	// What is derived and cannot be read, or was folded by other rules, is made anew from
	// the log.
	kept := journal.NewWork(out.Task)
	if folded != "" && (asDocument{kept}).Scan(folded) == nil {
		out.Folded = kept
	}
	return out, nil
}

// SaveWorkState implements workshop.JournalStore. What lists show of plan and repair is
// kept beside the state: it changes together with it.
func (s *Store) SaveWorkState(ctx context.Context, w workshop.WorkState) error {
	f := w.Figures()
	if w.Folded.Finished {
		if err := s.exec(ctx, `UPDATE finishes SET reckoned = ? WHERE work_id = ?`, f.Hours, w.WorkID); err != nil {
			return err
		}
	}
	if err := s.exec(ctx, `INSERT INTO work_state
		(work_id, present, task, seq, folded, ticked, state, done, skipped, total, hours, last_event, late, usual_minutes, ticks, diagram, picture, material, size_mm, promised, search, rules)
		VALUES (?1, 1, ?13, ?2, ?3, ?4, ?5, ?6, ?15, ?7, ?8, ?9, ?10, ?11, ?12, '', '', '', 0, '', '', ?14)
		ON CONFLICT (work_id) DO UPDATE SET seq = ?2, folded = ?3, ticked = ?4, state = ?5, done = ?6, skipped = ?15, total = ?7, hours = ?8, last_event = ?9, late = ?10, usual_minutes = ?11, ticks = ?12, rules = ?14`,
		w.WorkID, w.Seq, document(w.Folded), document(w.Folded.Ticked), f.State, f.Done, f.All, f.Hours, instant(f.LastEvent), f.Late, f.UsualMinutes, f.Ticks, w.Task, journal.Rules, f.Skipped); err != nil {
		return err
	}
	if err := s.saveCure(ctx, w); err != nil {
		return err
	}
	return s.saveUses(ctx, w)
}

// saveCure keeps until when the bond of a stone cures.
func (s *Store) saveCure(ctx context.Context, w workshop.WorkState) error {
	until := w.Folded.Cured()
	if until.IsZero() {
		return s.exec(ctx, `DELETE FROM cures WHERE work_id = ?`, w.WorkID)
	}
	return s.exec(ctx, `INSERT INTO cures (work_id, until) VALUES (?, ?) ON CONFLICT (work_id) DO UPDATE SET until = excluded.until`, w.WorkID, instant(until))
}

// RunTicks implements workshop.JournalStore.
func (s *Store) RunTicks(ctx context.Context, run string) (map[string]map[string]journal.Tick, error) {
	out := map[string]map[string]journal.Tick{}
	err := s.rows(ctx, func(scan scan) error {
		var id, text string
		if err := scan(&id, &text); err != nil {
			return err
		}
		ticked := map[string]journal.Tick{}
		if err := (asDocument{&ticked}).Scan(text); err != nil && !errors.Is(err, workshop.ErrUnreadable) {
			return err
		}
		out[id] = ticked
		return nil
	}, `SELECT w.id, coalesce(t.ticked, '{}') FROM stones s JOIN works w ON w.stone_id = s.id
		LEFT JOIN work_state t ON t.work_id = w.id
		WHERE s.run = ? AND w.ordinal = 1`, run)
	return out, err
}

// LastPlace implements workshop.JournalStore.
func (s *Store) LastPlace(ctx context.Context) (seq int64, err error) {
	return seq, s.row(ctx, `SELECT coalesce(max(seq), 0) FROM events`, nil, &seq)
}

// StreamsAfter implements workshop.JournalStore.
func (s *Store) StreamsAfter(ctx context.Context, after int64) (streams []string, last int64, err error) {
	last = after
	err = s.rows(ctx, func(scan scan) error {
		var stream string
		var seq int64
		err := scan(&stream, &seq)
		streams, last = append(streams, stream), max(last, seq)
		return err
	}, `SELECT stream, max(seq) FROM events WHERE seq > ? GROUP BY stream`, after)
	return streams, last, err
}

// StaleWorks implements workshop.JournalStore.
func (s *Store) StaleWorks(ctx context.Context) ([]string, error) {
	return s.texts(ctx, `SELECT w.id FROM works w LEFT JOIN work_state t ON t.work_id = w.id
		WHERE coalesce(t.seq, -1) <> coalesce((SELECT max(seq) FROM events WHERE stream = 'work/' || w.id), 0) OR t.rules <> ?`, journal.Rules)
}

// WorkIDs implements workshop.JournalStore.
func (s *Store) WorkIDs(ctx context.Context) ([]string, error) {
	return s.texts(ctx, `SELECT w.id FROM works w JOIN stones s ON s.id = w.stone_id ORDER BY s.run, s.number, w.ordinal`)
}
