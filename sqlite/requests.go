package sqlite

import (
	"context"
	"time"

	"cressa/workshop"
)

// Answer implements workshop.RequestStore.
func (s *Store) Answer(ctx context.Context, name string) (answer string, err error) {
	return answer, s.row(ctx, `SELECT made FROM requests WHERE name = ?`, []any{name}, &answer)
}

// SaveAnswer implements workshop.RequestStore.
func (s *Store) SaveAnswer(ctx context.Context, name, answer string) error {
	return s.changeIt(ctx, `UPDATE requests SET made = ? WHERE name = ?`, answer, name)
}

// DropRequests implements workshop.RequestStore.
func (s *Store) DropRequests(ctx context.Context, before time.Time) error {
	return s.exec(ctx, `DELETE FROM requests WHERE at < ?`, instant(before))
}

// note keeps the name of the context's request with what the transaction has written.
func (t *transaction) note(ctx context.Context) error {
	return workshop.NoteRequest(ctx, func(name string) error {
		result, err := t.ExecContext(ctx, `INSERT INTO requests (name, made, at) VALUES (?, '', ?) ON CONFLICT DO NOTHING`, name, instant(time.Now()))
		if err != nil {
			return storeError(err)
		}
		if n, err := result.RowsAffected(); err != nil || n == 0 {
			return workshop.ErrRepeated
		}
		return nil
	})
}
