package sqlite

import (
	"context"
	"fmt"

	"cressa/workshop"
)

// What Check finds. None of it is derived, so none can be made anew.
const (
	// FileDamaged: SQLite's own check of the file says so.
	FileDamaged = "file-damaged"
	// RowOrphaned: a row names another one that is not there.
	RowOrphaned = "row-orphaned"
	// RecordUnreadable: a stored document cannot be read.
	RecordUnreadable = "record-unreadable"
)

// Check looks at the file itself, at what its rows refer to, and at every document.
func (s *Store) Check(ctx context.Context) ([]workshop.Finding, error) {
	out := []workshop.Finding{}
	if err := s.rows(ctx, func(scan scan) error {
		var said string
		err := scan(&said)
		if said != "ok" {
			out = append(out, workshop.Finding{What: FileDamaged, Where: said})
		}
		return err
	}, `PRAGMA integrity_check`); err != nil {
		return out, err
	}
	if err := s.rows(ctx, func(scan scan) error {
		var table, parent string
		var row, key *int64
		err := scan(&table, &row, &parent, &key)
		where := table
		if row != nil {
			where = fmt.Sprintf("%s, row %d, into %s", table, *row, parent)
		}
		out = append(out, workshop.Finding{What: RowOrphaned, Where: where})
		return err
	}, `PRAGMA foreign_key_check`); err != nil {
		return out, err
	}
	for query, readable := range map[string]func(ctx context.Context, id string) error{
		`SELECT id FROM stones`:                        func(ctx context.Context, id string) error { _, err := s.Stone(ctx, id); return err },
		`SELECT hash FROM diagram_revisions`:           func(ctx context.Context, hash string) error { _, err := s.Revision(ctx, hash); return err },
		`SELECT id FROM diagrams WHERE hidden IS NULL`: func(ctx context.Context, id string) error { _, err := s.Diagram(ctx, id); return err },
		`SELECT id FROM sweeps`:                        func(ctx context.Context, id string) error { _, err := s.Sweep(ctx, id); return err },
		`SELECT 'settings'`:                            func(ctx context.Context, _ string) error { _, err := s.Settings(ctx); return err },
	} {
		var ids []string
		if err := s.rows(ctx, func(scan scan) error {
			var id string
			err := scan(&id)
			ids = append(ids, id)
			return err
		}, query); err != nil {
			return out, err
		}
		for _, id := range ids {
			if err := readable(ctx, id); err != nil {
				out = append(out, workshop.Finding{What: RecordUnreadable, Where: fmt.Sprintf("%s: %v", id, err)})
			}
		}
	}
	return out, nil
}
