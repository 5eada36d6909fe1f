// Package sqlite keeps the workshop's records in one SQLite file.
package sqlite

import (
	"context"
	"database/sql"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"

	"cressa/workshop"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store implements workshop.Store. A write that has returned is on disk
// (synchronous=FULL), so that it survives a killed process and a power cut.
type Store struct {
	db   *sql.DB
	file string
	// reads tells that nothing is written, scrap is the folder of a copy that is looked at.
	reads bool
	scrap string
	// asked is called with every statement, where it is set.
	asked func(statement string)
}

var _ workshop.Store = (*Store)(nil)

// txKey is where a context holds the transaction that it runs in.
type txKey struct{}

// InTx implements workshop.Transactions.
func (s *Store) InTx(ctx context.Context, f func(context.Context) error) error {
	if _, within := ctx.Value(txKey{}).(*transaction); within {
		return f(ctx)
	}
	begun, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return storeError(err)
	}
	tx := &transaction{Tx: begun}
	if err := f(context.WithValue(ctx, txKey{}, tx)); err != nil {
		// Where the context has ended the transaction is rolled back already.
		if back := tx.Rollback(); !errors.Is(back, sql.ErrTxDone) {
			err = errors.Join(err, storeError(back))
		}
		return err
	}
	return storeError(tx.commit(ctx))
}

// storeError turns an error of the driver into the workshop's own: ErrNotFound where there is
// no such row, ErrBusy where the file cannot be reached now, ErrFull and ErrDamaged where the disk is
// full and where the file makes no sense.
func storeError(err error) error {
	if errors.Is(err, sql.ErrNoRows) {
		return workshop.ErrNotFound
	}
	var e *sqlite.Error
	if errors.As(err, &e) {
		// The lower byte is the kind, the rest says more of it.
		switch e.Code() & 0xff {
		case sqlite3.SQLITE_FULL:
			return fmt.Errorf("%w: %w", workshop.ErrFull, err)
		case sqlite3.SQLITE_CORRUPT, sqlite3.SQLITE_NOTADB:
			return fmt.Errorf("%w: %w", workshop.ErrDamaged, err)
		case sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED, sqlite3.SQLITE_IOERR, sqlite3.SQLITE_CANTOPEN, sqlite3.SQLITE_READONLY:
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
	if tx, within := ctx.Value(txKey{}).(*transaction); within {
		return tx
	}
	return s.db
}

func (s *Store) exec(ctx context.Context, statement string, args ...any) error {
	_, err := s.change(ctx, statement, args...)
	return err
}

// change runs a statement that writes, in a transaction of its own where the context has none, and
// returns how many rows it changed.
func (s *Store) change(ctx context.Context, statement string, args ...any) (rows int64, err error) {
	err = s.InTx(ctx, func(ctx context.Context) error {
		result, err := s.on(ctx, statement).ExecContext(ctx, statement, args...)
		if err != nil {
			return storeError(err)
		}
		if tx, within := ctx.Value(txKey{}).(*transaction); within {
			tx.wrote = true
		}
		rows, err = result.RowsAffected()
		return err
	})
	return rows, err
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
	n, err := s.change(ctx, statement, args...)
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
