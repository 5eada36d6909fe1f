package sqlite

import (
	"context"
	"errors"
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"time"

	"cressa/disk"
	"cressa/workshop"
)

// What a check finds, beside why a file is refused.
const (
	// FileDamaged: SQLite's own check of the file says so.
	FileDamaged = "file-damaged"
	// IndexDamaged: an index does not say what its table does. It is derived from that.
	IndexDamaged = "index-damaged"
	// RowOrphaned: a row names another one that is not there.
	RowOrphaned = "row-orphaned"
	// RecordUnreadable: a stored document cannot be read.
	RecordUnreadable = "record-unreadable"
)

// ofIndex is how SQLite speaks of an index that differs from its table.
var ofIndex = regexp.MustCompile(`^(?:row \d+ missing from|wrong # of entries in|non-unique entry in|rowid not at end-of-record for row \d+ of|values? .*differs? .* in) index (\S+)`)

// Check looks at the file itself, at what its rows refer to, and at every document. It
// returns an error only where the check itself cannot go on; what is wrong with the file
// is a finding.
func (s *Store) Check(ctx context.Context) ([]workshop.Finding, error) {
	out, err := s.checkFile(ctx)
	if err != nil {
		return out, err
	}
	for _, look := range []func(context.Context) ([]workshop.Finding, error){s.checkRows, s.checkDocuments} {
		found, err := look(ctx)
		out = append(out, found...)
		if errors.Is(err, workshop.ErrDamaged) {
			return out, nil // it is told already
		}
		if err != nil {
			return out, err
		}
	}
	return out, nil
}

// checkFile is SQLite's own check. Of each index one thing is told.
func (s *Store) checkFile(ctx context.Context) ([]workshop.Finding, error) {
	out := []workshop.Finding{}
	told := map[string]bool{}
	err := s.rows(ctx, func(scan scan) error {
		var said string
		if err := scan(&said); err != nil || said == "ok" {
			return err
		}
		if m := ofIndex.FindStringSubmatch(said); m != nil {
			if !told[m[1]] {
				told[m[1]] = true
				out = append(out, workshop.Finding{What: IndexDamaged, Where: "index " + m[1], Repairable: true})
			}
			return nil
		}
		out = append(out, workshop.Finding{What: FileDamaged, Where: said})
		return nil
	}, `PRAGMA integrity_check`)
	if errors.Is(err, workshop.ErrDamaged) {
		return append(out, workshop.Finding{What: FileDamaged, Where: err.Error()}), nil
	}
	return out, err
}

// checkRows finds rows that refer to others that are not there.
func (s *Store) checkRows(ctx context.Context) ([]workshop.Finding, error) {
	var out []workshop.Finding
	err := s.orphans(ctx, func(o orphan) error {
		where := o.table
		if o.row != nil {
			where = fmt.Sprintf("%s, row %d, into %s", o.table, *o.row, o.parent)
		}
		out = append(out, workshop.Finding{What: RowOrphaned, Where: where, Repairable: o.row != nil})
		return nil
	})
	return out, err
}

// orphan is a row that refers to another table's row that is not there. Row is nil where the table
// has no numbers.
type orphan struct {
	table, parent string
	row           *int64
}

func (s *Store) orphans(ctx context.Context, each func(orphan) error) error {
	return s.rows(ctx, func(scan scan) error {
		var o orphan
		var key *int64
		if err := scan(&o.table, &o.row, &o.parent, &key); err != nil {
			return err
		}
		return each(o)
	}, `PRAGMA foreign_key_check`)
}

// checkDocuments reads every record.
func (s *Store) checkDocuments(ctx context.Context) ([]workshop.Finding, error) {
	var out []workshop.Finding
	for _, kept := range []struct {
		thing, query string
		read         func(id string) error
	}{
		{"stone", `SELECT id FROM stones`, func(id string) error { _, err := s.Stone(ctx, id); return err }},
		{"version", `SELECT hash FROM diagram_revisions`, func(hash string) error { _, err := s.Revision(ctx, hash); return err }},
		{"diagram", `SELECT id FROM diagrams WHERE hidden IS NULL`, func(id string) error { _, err := s.Diagram(ctx, id); return err }},
		{"sweep", `SELECT id FROM sweeps`, func(id string) error { _, err := s.Sweep(ctx, id); return err }},
		{"thing of the kit", `SELECT id FROM items`, func(id string) error { _, err := s.Item(ctx, id); return err }},
		{"recipes", `SELECT ''`, func(string) error { _, err := s.Recipes(ctx); return err }},
		{"instruments", `SELECT ''`, func(string) error { _, err := s.Instruments(ctx); return err }},
		{"trials of polishes", `SELECT ''`, func(string) error { _, err := s.PolishTrials(ctx); return err }},
		{"blind trials", `SELECT ''`, func(string) error { _, err := s.BlindTrials(ctx); return err }},
		{"parcel", `SELECT id FROM parcels`, func(id string) error { _, err := s.Parcel(ctx, id); return err }},
		{"piece of rough", `SELECT id FROM pieces`, func(id string) error { _, err := s.Piece(ctx, id); return err }},
		{"candidates of piece", `SELECT DISTINCT piece_id FROM candidates`, func(id string) error { _, err := s.Candidates(ctx, id); return err }},
		{"photos of piece", `SELECT DISTINCT piece_id FROM photos WHERE piece_id IS NOT NULL`, func(id string) error { _, err := s.PiecePhotos(ctx, id); return err }},
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

// SetAside moves rows that refer to others that are not there out of their tables, into one where
// they are kept as they were. It returns the errors of the store.
func (s *Store) SetAside(ctx context.Context) error {
	return s.InTx(ctx, func(ctx context.Context) error {
		var all []orphan
		if err := s.orphans(ctx, func(o orphan) error { all = append(all, o); return nil }); err != nil {
			return err
		}
		for _, o := range all {
			if o.row == nil {
				continue
			}
			columns, err := s.texts(ctx, `SELECT name FROM pragma_table_info(?)`, o.table)
			if err != nil {
				return err
			}
			var pairs []string
			for _, c := range columns {
				pairs = append(pairs, fmt.Sprintf(`'%s', "%s"`, c, c))
			}
			// Names of tables and columns are the schema's own.
			if err := s.exec(ctx, fmt.Sprintf(`INSERT INTO set_aside (taken_from, document, at) SELECT ?, json_object(%s), ? FROM "%s" WHERE rowid = ?`,
				strings.Join(pairs, ", "), o.table), o.table, instant(time.Now()), *o.row); err != nil {
				return err
			}
			if err := s.exec(ctx, fmt.Sprintf(`DELETE FROM "%s" WHERE rowid = ?`, o.table), *o.row); err != nil {
				return err
			}
		}
		return nil
	})
}

// Repair mends what keeps a file from being opened, as far as that loses nothing: it goes on without
// a -wal that is gone, sets one aside that belongs elsewhere, and makes indexes anew. It returns what
// it mended, and the Refusal that is left, if any. No other program may have the file open.
func Repair(ctx context.Context, file string) ([]workshop.Finding, error) {
	out := []workshop.Finding{}
	for {
		err := Look(ctx, file)
		refusal := Refusal{}
		if !errors.As(err, &refusal) {
			return out, err
		}
		found := []workshop.Finding{{What: string(refusal.Why), Where: file, Repairable: true}}
		switch refusal.Why {
		case WALMissing:
			err = whole(ctx, file)
		case WALForeign:
			aside := fmt.Sprintf("%s.aside-%s", file+walSuffix, time.Now().UTC().Format("20060102T150405.000"))
			if err = os.Rename(file+walSuffix, aside); err == nil {
				err = disk.SyncFolder(filepath.Dir(file))
			}
		case Damaged:
			if found, err = reindex(ctx, file, refusal); err != nil {
				return out, err
			}
		default:
			return out, refusal
		}
		if err != nil {
			return out, err
		}
		out = append(out, found...)
	}
}

// reindex makes the indexes anew where nothing else is wrong; otherwise it returns the refusal.
func reindex(ctx context.Context, file string, refusal Refusal) ([]workshop.Finding, error) {
	db, err := connect(file, url.Values{"_pragma": {pragmas, "synchronous(FULL)"}})
	if err != nil {
		return nil, err
	}
	found, err := (&Store{db: db}).checkFile(ctx)
	for _, f := range found {
		if f.What != IndexDamaged {
			err = refusal
		}
	}
	if err == nil {
		_, err = db.ExecContext(ctx, `REINDEX`)
	}
	return found, errors.Join(err, db.Close())
}
