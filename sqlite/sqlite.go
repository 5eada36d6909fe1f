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
	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"

	"cressa/workshop"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store implements workshop.Store. A write that has returned is on disk
// (synchronous=FULL), so that it survives a killed process and a power cut.
type Store struct {
	db *sql.DB
	// asked is called with every statement, where it is set.
	asked func(statement string)
}

var _ workshop.Store = (*Store)(nil)

// Connections that are open at once, and how long one waits for another's write.
const (
	mostConnections = 8
	pragmas         = "busy_timeout(5000)"
)

// Open opens the database file, makes it where there is none, and brings an older one up
// to date after copying it aside. A start that was cut short is begun again: what it left
// is nothing, or whole. It returns an error that names the file where it cannot be opened,
// copied or brought up to date.
func Open(ctx context.Context, file string) (*Store, error) {
	info, err := os.Stat(file)
	fresh := errors.Is(err, fs.ErrNotExist) || err == nil && info.Size() == 0
	query := url.Values{"_pragma": {pragmas, "journal_mode(WAL)", "foreign_keys(1)", "synchronous(FULL)"}, "_txlock": {"immediate"}}
	db, err := sql.Open("sqlite", (&url.URL{Scheme: "file", Opaque: (&url.URL{Path: file}).EscapedPath(), RawQuery: query.Encode()}).String())
	if err != nil {
		return nil, err
	}
	db.SetMaxOpenConns(mostConnections)
	db.SetMaxIdleConns(mostConnections)
	if err := migrate(ctx, db, file, fresh); err != nil {
		return nil, errors.Join(fmt.Errorf("database %s: %w", file, err), db.Close())
	}
	return &Store{db: db}, nil
}

// Close closes the file. It returns the error of the database package.
func (s *Store) Close() error { return s.db.Close() }

// migrate applies what the database lacks. Before it changes an older file it
// copies it, so that nothing is lost where a migration goes wrong.
func migrate(ctx context.Context, db *sql.DB, file string, fresh bool) error {
	p, err := provider(db)
	if err != nil {
		return err
	}
	pending, err := p.HasPending(ctx)
	if err != nil || !pending {
		return err
	}
	if !fresh {
		aside := fmt.Sprintf("%s.before-%s", file, time.Now().UTC().Format("20060102T150405"))
		if _, err := db.ExecContext(ctx, `VACUUM INTO ?`, aside); err != nil {
			return fmt.Errorf("copying it aside: %w", err)
		}
	}
	_, err = p.Up(ctx)
	return err
}

// provider knows all migrations: those in SQL, and those that have to understand what they
// change.
func provider(db *sql.DB) (*goose.Provider, error) {
	steps, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	return goose.NewProvider(goose.DialectSQLite3, db, steps,
		goose.WithGoMigrations(goose.NewGoMigration(8, &goose.GoFunc{RunTx: upTo8}, nil)))
}

// txKey is where a context holds the transaction that it runs in.
type txKey struct{}

// InTx implements workshop.Transactions.
func (s *Store) InTx(ctx context.Context, f func(context.Context) error) error {
	if _, within := ctx.Value(txKey{}).(*sql.Tx); within {
		return f(ctx)
	}
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return storeError(err)
	}
	if err := f(context.WithValue(ctx, txKey{}, tx)); err != nil {
		// Where the context has ended the transaction is rolled back already.
		if back := tx.Rollback(); !errors.Is(back, sql.ErrTxDone) {
			err = errors.Join(err, storeError(back))
		}
		return err
	}
	return storeError(tx.Commit())
}

// storeError turns an error of the driver into the workshop's own: ErrNotFound where there is
// no such row, ErrBusy where the file cannot be reached now.
func storeError(err error) error {
	if errors.Is(err, sql.ErrNoRows) {
		return workshop.ErrNotFound
	}
	var e *sqlite.Error
	if errors.As(err, &e) {
		// The lower byte is the kind, the rest says more of it.
		switch e.Code() & 0xff {
		case sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED, sqlite3.SQLITE_FULL, sqlite3.SQLITE_IOERR, sqlite3.SQLITE_CANTOPEN, sqlite3.SQLITE_READONLY:
			return fmt.Errorf("%w: %w", workshop.ErrBusy, err)
		}
	}
	return err
}

// querier is a database or a transaction.
type querier interface {
	ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error)
	QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error)
	QueryRowContext(ctx context.Context, query string, args ...any) *sql.Row
}

// on returns the transaction that a context runs in, else the database.
func (s *Store) on(ctx context.Context, statement string) querier {
	if s.asked != nil {
		s.asked(statement)
	}
	if tx, within := ctx.Value(txKey{}).(*sql.Tx); within {
		return tx
	}
	return s.db
}

func (s *Store) exec(ctx context.Context, statement string, args ...any) error {
	_, err := s.on(ctx, statement).ExecContext(ctx, statement, args...)
	return storeError(err)
}

// row reads the one row of a query. Where there is none the error is ErrNotFound.
func (s *Store) row(ctx context.Context, query string, args []any, into ...any) error {
	return storeError(s.on(ctx, query).QueryRowContext(ctx, query, args...).Scan(into...))
}

// rows calls each for every row of a query.
func (s *Store) rows(ctx context.Context, each func(scan) error, query string, args ...any) error {
	rows, err := s.on(ctx, query).QueryContext(ctx, query, args...)
	if err != nil {
		return storeError(err)
	}
	defer rows.Close()
	for rows.Next() {
		if err := each(rows.Scan); err != nil {
			return err
		}
	}
	return storeError(rows.Err())
}

// changeOne runs a statement that is to change one row. Where it changes none the
// record is gone or has another version.
func (s *Store) changeOne(ctx context.Context, statement string, args ...any) error {
	result, err := s.on(ctx, statement).ExecContext(ctx, statement, args...)
	if err != nil {
		return storeError(err)
	}
	n, err := result.RowsAffected()
	if err == nil && n == 0 {
		return workshop.ErrStale
	}
	return err
}

// changeIt is changeOne for a record that has no version: where there is none it is
// ErrNotFound.
func (s *Store) changeIt(ctx context.Context, statement string, args ...any) error {
	err := s.changeOne(ctx, statement, args...)
	if errors.Is(err, workshop.ErrStale) {
		return workshop.ErrNotFound
	}
	return err
}

// texts returns a column of texts; an empty list where there are none.
func (s *Store) texts(ctx context.Context, query string, args ...any) ([]string, error) {
	out := []string{}
	err := s.rows(ctx, func(scan scan) error {
		var text string
		err := scan(&text)
		out = append(out, text)
		return err
	}, query, args...)
	return out, err
}

// scan reads the columns of one row.
type scan func(...any) error

// instant is a time as it is stored.
func instant(t time.Time) int64 { return t.UnixMicro() }

// asInstant reads a time column.
type asInstant struct{ to *time.Time }

// Scan implements sql.Scanner.
func (a asInstant) Scan(v any) error {
	us, ok := v.(int64)
	if !ok {
		return fmt.Errorf("%w: %T is no time", workshop.ErrUnreadable, v)
	}
	*a.to = time.UnixMicro(us).UTC()
	return nil
}

// document is a value as it is stored: JSON text.
func document(v any) string {
	data, err := json.Marshal(v)
	if err != nil {
		panic(err) // stored forms are plain structs of texts and finite numbers
	}
	return string(data)
}

// asDocument reads a JSON column.
type asDocument struct{ to any }

// Scan implements sql.Scanner.
func (a asDocument) Scan(v any) error {
	text, ok := v.(string)
	if !ok {
		return fmt.Errorf("%w: %T is no document", workshop.ErrUnreadable, v)
	}
	if err := json.Unmarshal([]byte(text), a.to); err != nil {
		return fmt.Errorf("%w: %w", workshop.ErrUnreadable, err)
	}
	return nil
}
