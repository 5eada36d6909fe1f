// Package sqlite keeps the workshop's records in one SQLite file.
package sqlite

import (
	"context"
	"database/sql"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"time"

	"github.com/pressly/goose/v3"
	// The driver registers itself under the name "sqlite".
	_ "modernc.org/sqlite"

	"cressa/workshop"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store implements workshop.Store. A write that has returned is on disk
// (synchronous=FULL), so that it survives a killed process and a power cut.
type Store struct{ db *sql.DB }

var _ workshop.Store = (*Store)(nil)

// Open opens the database file, makes it where there is none, and brings an older
// one up to date after copying it aside. Created tells whether it is new.
func Open(ctx context.Context, file string) (store *Store, created bool, err error) {
	_, err = os.Stat(file)
	created = errors.Is(err, fs.ErrNotExist)
	pragmas := url.Values{"_pragma": {"busy_timeout(5000)", "journal_mode(WAL)", "foreign_keys(1)", "synchronous(FULL)"}, "_txlock": {"immediate"}}
	db, err := sql.Open("sqlite", (&url.URL{Scheme: "file", Opaque: (&url.URL{Path: file}).EscapedPath(), RawQuery: pragmas.Encode()}).String())
	if err != nil {
		return nil, false, err
	}
	if err := migrate(ctx, db, file, created); err != nil {
		return nil, false, errors.Join(fmt.Errorf("database %s: %w", file, err), db.Close())
	}
	return &Store{db}, created, nil
}

// Close closes the file.
func (s *Store) Close() error { return s.db.Close() }

// migrate applies what the database lacks. Before it changes an older file it
// copies it, so that nothing is lost where a migration goes wrong.
func migrate(ctx context.Context, db *sql.DB, file string, created bool) error {
	steps, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectSQLite3, db, steps)
	if err != nil {
		return err
	}
	pending, err := p.HasPending(ctx)
	if err != nil || !pending {
		return err
	}
	if !created {
		aside := fmt.Sprintf("%s.before-%s", file, time.Now().UTC().Format("20060102T150405"))
		if _, err := db.ExecContext(ctx, `VACUUM INTO ?`, aside); err != nil {
			return fmt.Errorf("copying it aside: %w", err)
		}
	}
	_, err = p.Up(ctx)
	return err
}

// write runs f in one transaction.
func (s *Store) write(ctx context.Context, f func(*sql.Tx) error) error {
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	if err := f(tx); err != nil {
		return errors.Join(err, tx.Rollback())
	}
	return tx.Commit()
}

// changeOne runs a statement that is to change one row. Where it changes none the
// record is gone or has another version.
func changeOne(ctx context.Context, tx *sql.Tx, statement string, args ...any) error {
	result, err := tx.ExecContext(ctx, statement, args...)
	if err != nil {
		return err
	}
	n, err := result.RowsAffected()
	if err == nil && n == 0 {
		return workshop.ErrStale
	}
	return err
}

// rows calls each for every row of a query.
func (s *Store) rows(ctx context.Context, each func(scan) error, query string, args ...any) error {
	rows, err := s.db.QueryContext(ctx, query, args...)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		if err := each(rows.Scan); err != nil {
			return err
		}
	}
	return rows.Err()
}

// scan reads the columns of one row.
type scan func(...any) error

// notFound turns the absence of a row into the workshop's word for it.
func notFound(err error) error {
	if errors.Is(err, sql.ErrNoRows) {
		return workshop.ErrNotFound
	}
	return err
}

// document is a value that is stored as JSON text.
func document(v any) (string, error) {
	data, err := json.Marshal(v)
	return string(data), err
}

// instant is a time that is stored as text.
func instant(t time.Time) string { return t.UTC().Format(time.RFC3339Nano) }

// asInstant reads a time column.
type asInstant struct{ to *time.Time }

// Scan implements sql.Scanner.
func (a asInstant) Scan(v any) (err error) {
	text, ok := v.(string)
	if !ok {
		return fmt.Errorf("%T is no time", v)
	}
	*a.to, err = time.Parse(time.RFC3339Nano, text)
	return err
}

// asDocument reads a JSON column.
type asDocument struct{ to any }

// Scan implements sql.Scanner.
func (a asDocument) Scan(v any) error {
	text, ok := v.(string)
	if !ok {
		return fmt.Errorf("%T is no document", v)
	}
	return json.Unmarshal([]byte(text), a.to)
}

// Settings implements workshop.Store.
func (s *Store) Settings(ctx context.Context) (workshop.Settings, error) {
	var out workshop.Settings
	err := s.db.QueryRowContext(ctx, `SELECT document FROM settings`).Scan(asDocument{&out})
	if errors.Is(err, sql.ErrNoRows) {
		err = nil
	}
	return out, err
}

// SaveSettings implements workshop.Store.
func (s *Store) SaveSettings(ctx context.Context, settings workshop.Settings, version int) error {
	doc, err := document(settings)
	if err != nil {
		return err
	}
	return s.write(ctx, func(tx *sql.Tx) error {
		if version == 0 {
			return changeOne(ctx, tx, `INSERT INTO settings (id, document, version) VALUES (1, ?, ?) ON CONFLICT DO NOTHING`, doc, settings.Version)
		}
		return changeOne(ctx, tx, `UPDATE settings SET document = ?, version = ? WHERE version = ?`, doc, settings.Version, version)
	})
}
