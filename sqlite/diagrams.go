package sqlite

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"cressa/core/diagram"
	"cressa/workshop"
)

const diagramColumns = `
	d.id, d.starter, d.draft, d.version, d.created, d.updated, d.origin, d.variant_of, d.sense_chosen,
	r.hash, r.name, r.outline, r.gear, r.refractive_index, r.tiers, r.facets, r.length_width, r.height_width, r.table_width, r.picture
	FROM diagrams d LEFT JOIN diagram_revisions r ON r.hash = d.revision`

func readDiagram(scan scan) (workshop.Diagram, error) {
	var d workshop.Diagram
	var hash, name, outline sql.NullString
	var gear, tiers, facets sql.NullInt64
	var index, lw, hw, tw sql.NullFloat64
	var picture sql.Null[string]
	err := scan(&d.ID, &d.Starter, asDocument{&d.Draft}, &d.Version, asInstant{&d.Created}, asInstant{&d.Updated},
		&d.Origin, &d.VariantOf, &d.SenseChosen,
		&hash, &name, &outline, &gear, &index, &tiers, &facets, &lw, &hw, &tw, &picture)
	if err != nil || !hash.Valid {
		return d, err
	}
	d.Revision = hash.String
	d.Facts = &workshop.Facts{
		Name: name.String, Outline: outline.String, Gear: int(gear.Int64), RefractiveIndex: index.Float64,
		Tiers: int(tiers.Int64), Facets: int(facets.Int64),
		LengthWidth: lw.Float64, HeightWidth: hw.Float64, TableWidth: tw.Float64,
	}
	d.Picture = &workshop.Picture{}
	return d, asDocument{d.Picture}.Scan(picture.V)
}

// Diagrams implements workshop.DiagramStore.
func (s *Store) Diagrams(ctx context.Context) ([]workshop.Diagram, error) {
	out := []workshop.Diagram{}
	err := s.rows(ctx, func(scan scan) error {
		d, err := readDiagram(scan)
		out = append(out, d)
		return err
	}, `SELECT `+diagramColumns+` WHERE d.hidden IS NULL ORDER BY json_extract(d.draft, '$.name') COLLATE NOCASE, d.created`)
	return out, err
}

// Diagram implements workshop.DiagramStore.
func (s *Store) Diagram(ctx context.Context, id string) (workshop.Diagram, error) {
	d, err := readDiagram(s.db.QueryRowContext(ctx, `SELECT `+diagramColumns+` WHERE d.hidden IS NULL AND d.id = ?`, id).Scan)
	return d, notFound(err)
}

// InsertDiagram implements workshop.DiagramStore.
func (s *Store) InsertDiagram(ctx context.Context, d workshop.Diagram, r *workshop.Revision) error {
	draft, err := document(d.Draft)
	if err != nil {
		return err
	}
	return s.write(ctx, func(tx *sql.Tx) error {
		var hash any
		if r != nil {
			hash = r.Hash
			if err := insertRevision(ctx, tx, *r); err != nil {
				return err
			}
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO diagrams (id, starter, revision, draft, version, created, updated, origin, variant_of, sense_chosen) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			d.ID, d.Starter, hash, draft, d.Version, instant(d.Created), instant(d.Updated), d.Origin, d.VariantOf, d.SenseChosen)
		if err != nil || r == nil {
			return err
		}
		return addHistory(ctx, tx, d.ID, *r)
	})
}

func addHistory(ctx context.Context, tx *sql.Tx, id string, r workshop.Revision) error {
	_, err := tx.ExecContext(ctx, `INSERT INTO diagram_history (diagram_id, revision, kept) VALUES (?, ?, ?)`, id, r.Hash, instant(r.Created))
	return err
}

// insertRevision stores a revision; one with the same content is there already.
func insertRevision(ctx context.Context, tx *sql.Tx, r workshop.Revision) error {
	doc, err := document(r.Diagram)
	if err != nil {
		return err
	}
	picture, err := document(r.Picture)
	if err != nil {
		return err
	}
	f := r.Facts
	_, err = tx.ExecContext(ctx, `INSERT INTO diagram_revisions
		(hash, document, name, outline, gear, refractive_index, tiers, facets, length_width, height_width, table_width, picture, created)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING`,
		r.Hash, doc, f.Name, f.Outline, f.Gear, f.RefractiveIndex, f.Tiers, f.Facets, f.LengthWidth, f.HeightWidth, f.TableWidth, picture, instant(r.Created))
	return err
}

// InsertRevision implements workshop.DiagramStore.
func (s *Store) InsertRevision(ctx context.Context, r workshop.Revision) error {
	return s.write(ctx, func(tx *sql.Tx) error { return insertRevision(ctx, tx, r) })
}

// SaveDraft implements workshop.DiagramStore.
func (s *Store) SaveDraft(ctx context.Context, d workshop.Diagram, version int) error {
	draft, err := document(d.Draft)
	if err != nil {
		return err
	}
	return s.write(ctx, func(tx *sql.Tx) error {
		return changeOne(ctx, tx, `UPDATE diagrams SET draft = ?, updated = ?, sense_chosen = ?, version = version + 1 WHERE id = ? AND version = ? AND hidden IS NULL`,
			draft, instant(d.Updated), d.SenseChosen, d.ID, version)
	})
}

// KeepRevision implements workshop.DiagramStore.
func (s *Store) KeepRevision(ctx context.Context, id string, r workshop.Revision, version int) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		if err := insertRevision(ctx, tx, r); err != nil {
			return err
		}
		if err := changeOne(ctx, tx, `UPDATE diagrams SET revision = ?, version = version + 1 WHERE id = ? AND version = ? AND hidden IS NULL`, r.Hash, id, version); err != nil {
			return err
		}
		return addHistory(ctx, tx, id, r)
	})
}

// HideDiagram implements workshop.DiagramStore.
func (s *Store) HideDiagram(ctx context.Context, id string, hidden *time.Time) error {
	var at any
	if hidden != nil {
		at = instant(*hidden)
	}
	err := s.write(ctx, func(tx *sql.Tx) error {
		return changeOne(ctx, tx, `UPDATE diagrams SET hidden = ? WHERE id = ?`, at, id)
	})
	if errors.Is(err, workshop.ErrStale) {
		return workshop.ErrNotFound
	}
	return err
}

// DropHidden implements workshop.DiagramStore.
func (s *Store) DropHidden(ctx context.Context, before time.Time) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM diagrams WHERE hidden < ?`, instant(before))
	return err
}

// Revision implements workshop.DiagramStore.
func (s *Store) Revision(ctx context.Context, hash string) (workshop.Revision, error) {
	r := workshop.Revision{Diagram: &diagram.Diagram{}}
	f := &r.Facts
	err := s.db.QueryRowContext(ctx, `SELECT hash, document, name, outline, gear, refractive_index, tiers, facets, length_width, height_width, table_width, picture, created
		FROM diagram_revisions WHERE hash = ?`, hash).
		Scan(&r.Hash, asDocument{r.Diagram}, &f.Name, &f.Outline, &f.Gear, &f.RefractiveIndex, &f.Tiers, &f.Facets,
			&f.LengthWidth, &f.HeightWidth, &f.TableWidth, asDocument{&r.Picture}, asInstant{&r.Created})
	return r, notFound(err)
}
