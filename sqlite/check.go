package sqlite

import (
	"context"
	"errors"
	"fmt"
	"strings"

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

// Check looks at the file itself, at what its rows refer to, and at every document. It
// returns an error only where the check itself cannot go on; what is wrong with the file
// is a finding.
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
	for _, kept := range []struct {
		thing, query string
		read         func(id string) error
	}{
		{"stone", `SELECT id FROM stones`, func(id string) error { _, err := s.Stone(ctx, id); return err }},
		{"version", `SELECT hash FROM diagram_revisions`, func(hash string) error { _, err := s.Revision(ctx, hash); return err }},
		{"diagram", `SELECT id FROM diagrams WHERE hidden IS NULL`, func(id string) error { _, err := s.Diagram(ctx, id); return err }},
		{"sweep", `SELECT id FROM sweeps`, func(id string) error { _, err := s.Sweep(ctx, id); return err }},
		{"settings", `SELECT ''`, func(string) error { _, err := s.Settings(ctx); return err }},
	} {
		ids, err := s.texts(ctx, kept.query)
		if err != nil {
			return out, err
		}
		for _, id := range ids {
			switch err := kept.read(id); {
			case errors.Is(err, workshop.ErrUnreadable):
				out = append(out, workshop.Finding{What: RecordUnreadable, Where: strings.TrimSpace(kept.thing + " " + id)})
			case err != nil:
				return out, err
			}
		}
	}
	return out, nil
}
