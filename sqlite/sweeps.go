package sqlite

import (
	"context"
	"errors"

	"cressa/workshop"
)

// InsertSweep implements workshop.SweepStore.
func (s *Store) InsertSweep(ctx context.Context, w workshop.Sweep, few int) error {
	return s.InTx(ctx, func(ctx context.Context) error {
		if err := s.exec(ctx, `INSERT INTO sweeps (id, diagram_id, draft, asked, sg, points, created) VALUES (?, ?, ?, ?, ?, ?, ?)`,
			w.ID, w.DiagramID, draftDocument(w.Draft), askedDocument(w.Asked), w.SG, pointsDocument(w.Points), instant(w.Created)); err != nil {
			return err
		}
		return s.exec(ctx, `DELETE FROM sweeps WHERE diagram_id = ?1 AND id NOT IN
			(SELECT id FROM sweeps WHERE diagram_id = ?1 ORDER BY rowid DESC LIMIT ?2)`, w.DiagramID, few)
	})
}

// Sweeps implements workshop.SweepStore.
func (s *Store) Sweeps(ctx context.Context, diagramID string) ([]workshop.Sweep, error) {
	out := []workshop.Sweep{}
	err := s.rows(ctx, func(scan scan) error {
		w := workshop.Sweep{DiagramID: diagramID}
		err := scan(&w.ID, asDraft{&w.Draft}, asAsked{&w.Asked}, &w.SG, asInstant{&w.Created})
		if errors.Is(err, workshop.ErrUnreadable) {
			return nil // one that cannot be read takes no list away
		}
		out = append(out, w)
		return err
	}, `SELECT id, draft, asked, sg, created FROM sweeps WHERE diagram_id = ? ORDER BY rowid DESC`, diagramID)
	return out, err
}

// Sweep implements workshop.SweepStore.
func (s *Store) Sweep(ctx context.Context, id string) (workshop.Sweep, error) {
	w := workshop.Sweep{ID: id}
	return w, s.row(ctx, `SELECT diagram_id, draft, asked, sg, points, created FROM sweeps WHERE id = ?`, []any{id},
		&w.DiagramID, asDraft{&w.Draft}, asAsked{&w.Asked}, &w.SG, asPoints{&w.Points}, asInstant{&w.Created})
}
