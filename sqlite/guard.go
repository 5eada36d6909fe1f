package sqlite

import (
	"context"
	"crypto/rand"
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
)

// SQLite takes whatever -wal it finds, and misses none that is gone. So each run of the program
// puts its name into the file, and writes the page that holds it with every change: then the -wal
// has it too.

// guarded is what the guard says.
type guarded struct {
	session, before string
	closed          bool
}

// guardOf reads the guard. Records of before there was one have none.
func guardOf(ctx context.Context, db *sql.DB) (g guarded, known bool, err error) {
	if known, err = hasTable(ctx, db, "guard"); err != nil || !known {
		return g, false, err
	}
	err = db.QueryRowContext(ctx, `SELECT session, before, closed FROM guard`).Scan(&g.session, &g.before, &g.closed)
	return g, err == nil, err
}

// lookAtWAL tells whether a file and the -wal beside it belong together. The connection has both.
func lookAtWAL(ctx context.Context, file string, both *sql.DB) error {
	// Immutable leaves the -wal out.
	db, err := connect(file, url.Values{"mode": {"ro"}, "immutable": {"1"}})
	if err != nil {
		return err
	}
	alone, known, err := guardOf(ctx, db)
	if err := db.Close(); err != nil {
		return err
	}
	if err != nil || !known {
		return ctx.Err() // what is wrong with the file itself shows elsewhere
	}
	wal, err := os.Stat(file + walSuffix)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		if !alone.closed {
			return Refusal{Why: WALMissing, File: file}
		}
		return nil
	case err != nil:
		return err
	case wal.Size() == 0:
		return nil
	}
	together, known, err := guardOf(ctx, both)
	if ctx.Err() != nil {
		return ctx.Err()
	}
	if err != nil || !known || together.session != alone.session && together.before != alone.session {
		return Refusal{Why: WALForeign, File: file}
	}
	return nil
}

// begin puts a new session into the guard, and that into the file itself.
func (s *Store) begin(ctx context.Context) error {
	if _, err := s.db.ExecContext(ctx, `UPDATE guard SET before = session, session = ?, closed = 0`, rand.Text()); err != nil {
		return storeError(err)
	}
	// Where somebody reads just now the name is in the -wal alone, beside that of the run before.
	_, err := s.db.ExecContext(ctx, `PRAGMA wal_checkpoint(TRUNCATE)`)
	return storeError(err)
}

// NameAnew tells whoever knew the records that these are others.
func (s *Store) NameAnew(ctx context.Context) error {
	return s.exec(ctx, `UPDATE guard SET lineage = ?`, rand.Text())
}

// Lineage names the records as such: those that a copy has brought back are others.
func (s *Store) Lineage(ctx context.Context) (name string, err error) {
	return name, s.row(ctx, `SELECT lineage FROM guard`, nil, &name)
}

// Reads tells that nothing can be written here.
func (s *Store) Reads() bool { return s.reads || s.scrap != "" }

// Close closes the file. After it the file holds everything by itself. It returns the errors of
// the database package.
func (s *Store) Close() error {
	if s.reads {
		return s.db.Close()
	}
	// Another program that goes on with the file takes this back with its next change.
	if _, err := s.db.Exec(`UPDATE guard SET closed = 1`); err != nil {
		// The connections stay open with the process: closing the last one would take the -wal
		// away while the file says that it is needed.
		return fmt.Errorf("closing the records: %w", storeError(err))
	}
	err := s.db.Close()
	if s.scrap != "" {
		err = errors.Join(err, os.RemoveAll(s.scrap))
	}
	return err
}

// transaction is one that a context runs in.
type transaction struct {
	*sql.Tx
	// wrote tells that something was changed in it.
	wrote bool
}

// commit ends it, with the guard's page where anything else was written.
func (t *transaction) commit(ctx context.Context) error {
	if t.wrote {
		if err := t.note(ctx); err != nil {
			return errors.Join(err, t.Rollback())
		}
		if _, err := t.ExecContext(ctx, `UPDATE guard SET writes = writes + 1, closed = 0`); err != nil {
			return errors.Join(err, t.Rollback())
		}
	}
	return t.Commit()
}
