package sqlite

import (
	"context"
	"database/sql"
	"errors"

	"cressa/workshop"
)

// A stone comes with its last work and that work's last plan.
const stoneColumns = `
	s.id, s.number, s.name, s.created, s.version, s.run, s.run_place, w.id, w.kind, w.intake, p.document, f.document
	FROM stones s
	JOIN works w ON w.stone_id = s.id AND w.ordinal = (SELECT max(ordinal) FROM works WHERE stone_id = s.id)
	LEFT JOIN plans p ON p.work_id = w.id AND p.no = (SELECT max(no) FROM plans WHERE work_id = w.id)
	LEFT JOIN finishes f ON f.work_id = w.id`

func readStone(scan scan) (workshop.Stone, error) {
	var out workshop.Stone
	var plan, finish sql.Null[string]
	var intake string
	err := scan(&out.ID, &out.Number, &out.Name, asInstant{&out.Created}, &out.Version, &out.Run, &out.RunPlace,
		&out.Work.ID, &out.Work.Kind, &intake, &plan, &finish)
	if err != nil {
		return out, err
	}
	if plan.Valid {
		out.Work.Plan = &workshop.Plan{}
		err = asDocument{out.Work.Plan}.Scan(plan.V)
	}
	if err == nil && intake != "" {
		out.Work.Intake = &workshop.Intake{}
		err = asDocument{out.Work.Intake}.Scan(intake)
	}
	if err == nil && finish.Valid {
		out.Work.Finish = &workshop.Finish{}
		err = asDocument{out.Work.Finish}.Scan(finish.V)
	}
	return out, err
}

func (s *Store) setups(ctx context.Context, workID string) ([]workshop.Setup, error) {
	out := []workshop.Setup{}
	err := s.rows(ctx, func(scan scan) error {
		var setup workshop.Setup
		err := scan(&setup.ID, &setup.Up, &setup.Turn, asDocument{&setup.Rotation})
		out = append(out, setup)
		return err
	}, `SELECT id, up, turn, rotation FROM setups WHERE work_id = ? ORDER BY ordinal`, workID)
	return out, err
}

// Stones implements workshop.StoneStore.
func (s *Store) Stones(ctx context.Context) ([]workshop.Stone, error) {
	out := []workshop.Stone{}
	err := s.rows(ctx, func(scan scan) error {
		stone, err := readStone(scan)
		out = append(out, stone)
		return err
	}, `SELECT `+stoneColumns+` ORDER BY s.number DESC`)
	for i := range out {
		if err == nil {
			out[i].Work.Setups, err = s.setups(ctx, out[i].Work.ID)
		}
	}
	return out, err
}

// Stone implements workshop.StoneStore.
func (s *Store) Stone(ctx context.Context, id string) (workshop.Stone, error) {
	out, err := readStone(s.db.QueryRowContext(ctx, `SELECT `+stoneColumns+` WHERE s.id = ?`, id).Scan)
	if err != nil {
		return out, notFound(err)
	}
	out.Work.Setups, err = s.setups(ctx, out.Work.ID)
	return out, err
}

// InsertStone implements workshop.StoneStore.
func (s *Store) InsertStone(ctx context.Context, stone workshop.Stone) (number int, err error) {
	err = s.write(ctx, func(tx *sql.Tx) error {
		number, err = insertStone(ctx, tx, stone)
		return err
	})
	return number, err
}

// InsertRun implements workshop.StoneStore.
func (s *Store) InsertRun(ctx context.Context, r workshop.Run, stones []workshop.Stone) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		if _, err := tx.ExecContext(ctx, `INSERT INTO runs (id, name, way, created) VALUES (?, ?, ?, ?)`, r.ID, r.Name, r.Way, instant(r.Created)); err != nil {
			return err
		}
		for _, stone := range stones {
			if _, err := insertStone(ctx, tx, stone); err != nil {
				return err
			}
		}
		return nil
	})
}

// Run implements workshop.StoneStore.
func (s *Store) Run(ctx context.Context, id string) (workshop.Run, error) {
	var r workshop.Run
	err := s.db.QueryRowContext(ctx, `SELECT id, name, way, created FROM runs WHERE id = ?`, id).Scan(&r.ID, &r.Name, &r.Way, asInstant{&r.Created})
	return r, notFound(err)
}

func insertStone(ctx context.Context, tx *sql.Tx, stone workshop.Stone) (number int, err error) {
	err = tx.QueryRowContext(ctx, `INSERT INTO stones (id, number, name, created, version, run, run_place)
		VALUES (?, (SELECT coalesce(max(number), 0) + 1 FROM stones), ?, ?, ?, ?, ?) RETURNING number`,
		stone.ID, stone.Name, instant(stone.Created), stone.Version, stone.Run, stone.RunPlace).Scan(&number)
	if err != nil {
		return 0, err
	}
	intake := ""
	if stone.Work.Intake != nil {
		if intake, err = document(stone.Work.Intake); err != nil {
			return 0, err
		}
	}
	if _, err := tx.ExecContext(ctx, `INSERT INTO works (id, stone_id, ordinal, kind, intake) VALUES (?, ?, 1, ?, ?)`, stone.Work.ID, stone.ID, stone.Work.Kind, intake); err != nil {
		return 0, err
	}
	if stone.Work.Kind == workshop.Repair {
		return number, nil
	}
	for i, setup := range stone.Work.Setups {
		rotation, err := document(setup.Rotation)
		if err != nil {
			return 0, err
		}
		if _, err := tx.ExecContext(ctx, `INSERT INTO setups (id, work_id, ordinal, up, turn, rotation) VALUES (?, ?, ?, ?, ?, ?)`,
			setup.ID, stone.Work.ID, i+1, setup.Up, setup.Turn, rotation); err != nil {
			return 0, err
		}
	}
	return number, insertPlan(ctx, tx, stone.Work)
}

func insertPlan(ctx context.Context, tx *sql.Tx, w workshop.Work) error {
	doc, err := document(w.Plan)
	if err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO plans (work_id, no, as_cut, revision, document) VALUES (?, ?, ?, ?, ?)`,
		w.ID, w.Plan.No, w.Plan.AsCut, w.Plan.Revision, doc)
	return err
}

// AddPlans implements workshop.StoneStore.
func (s *Store) AddPlans(ctx context.Context, stones []workshop.Stone, told []workshop.Event) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		for i, stone := range stones {
			if err := addPlan(ctx, tx, stone, told[i]); err != nil {
				return err
			}
		}
		return nil
	})
}

func addPlan(ctx context.Context, tx *sql.Tx, stone workshop.Stone, told workshop.Event) error {
	if err := changeOne(ctx, tx, `UPDATE stones SET version = version + 1 WHERE id = ? AND version = ?`, stone.ID, stone.Version); err != nil {
		return err
	}
	if err := insertPlan(ctx, tx, stone.Work); err != nil {
		return err
	}
	for _, setup := range stone.Work.Setups {
		if err := changeOne(ctx, tx, `UPDATE setups SET up = ?, turn = ? WHERE id = ?`, setup.Up, setup.Turn, setup.ID); err != nil {
			return err
		}
	}
	return insertEvent(ctx, tx, stone.Work.ID, told)
}

// SaveIntake implements workshop.StoneStore.
func (s *Store) SaveIntake(ctx context.Context, stone workshop.Stone, version int) error {
	intake, err := document(stone.Work.Intake)
	if err != nil {
		return err
	}
	return s.write(ctx, func(tx *sql.Tx) error {
		if err := changeOne(ctx, tx, `UPDATE stones SET name = ?, version = version + 1 WHERE id = ? AND version = ?`, stone.Name, stone.ID, version); err != nil {
			return err
		}
		return changeOne(ctx, tx, `UPDATE works SET intake = ? WHERE id = ?`, intake, stone.Work.ID)
	})
}

// Photos implements workshop.PhotoStore.
func (s *Store) Photos(ctx context.Context, stoneID string) ([]workshop.Photo, error) {
	out := []workshop.Photo{}
	err := s.rows(ctx, func(scan scan) error {
		var p workshop.Photo
		err := scan(&p.ID, &p.Hash, asInstant{&p.Taken}, &p.Note)
		out = append(out, p)
		return err
	}, `SELECT id, hash, taken, note FROM photos WHERE stone_id = ? ORDER BY taken`, stoneID)
	return out, err
}

// InsertPhoto implements workshop.PhotoStore.
func (s *Store) InsertPhoto(ctx context.Context, stoneID string, p workshop.Photo) error {
	_, err := s.db.ExecContext(ctx, `INSERT INTO photos (id, stone_id, hash, taken, note) VALUES (?, ?, ?, ?, ?)`, p.ID, stoneID, p.Hash, instant(p.Taken), p.Note)
	return err
}

// DropPhoto implements workshop.PhotoStore.
func (s *Store) DropPhoto(ctx context.Context, stoneID, id string) error {
	err := s.write(ctx, func(tx *sql.Tx) error {
		return changeOne(ctx, tx, `DELETE FROM photos WHERE stone_id = ? AND id = ?`, stoneID, id)
	})
	if errors.Is(err, workshop.ErrStale) {
		return workshop.ErrNotFound
	}
	return err
}

// SaveFinish implements workshop.StoneStore.
func (s *Store) SaveFinish(ctx context.Context, stoneID string, f workshop.Finish, version int) error {
	stone, err := s.Stone(ctx, stoneID)
	if err != nil {
		return err
	}
	doc, err := document(f)
	if err != nil {
		return err
	}
	return s.write(ctx, func(tx *sql.Tx) error {
		if version == 0 {
			return changeOne(ctx, tx, `INSERT INTO finishes (work_id, document, version) VALUES (?, ?, ?) ON CONFLICT DO NOTHING`, stone.Work.ID, doc, f.Version)
		}
		return changeOne(ctx, tx, `UPDATE finishes SET document = ?, version = ? WHERE work_id = ? AND version = ?`, doc, f.Version, stone.Work.ID, version)
	})
}

// AppendEvents implements workshop.StoneStore.
func (s *Store) AppendEvents(ctx context.Context, workID string, events []workshop.Event) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		for _, e := range events {
			if err := insertEvent(ctx, tx, workID, e); err != nil {
				return err
			}
		}
		return nil
	})
}

func insertEvent(ctx context.Context, tx *sql.Tx, workID string, e workshop.Event) error {
	_, err := tx.ExecContext(ctx, `INSERT INTO events
		(id, work_id, device, device_seq, device_time, server_time, kind, setup, pass, facet, item, undoes, text)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (id) DO NOTHING`,
		e.ID, workID, e.Device, e.DeviceSeq, instant(e.DeviceTime), instant(e.ServerTime), e.Kind, e.Setup, e.Pass, e.Facet, e.Item, e.Undoes, e.Text)
	return err
}

// Events implements workshop.StoneStore.
func (s *Store) Events(ctx context.Context, workID string) ([]workshop.Event, error) {
	out := []workshop.Event{}
	err := s.rows(ctx, func(scan scan) error {
		var e workshop.Event
		err := scan(&e.Seq, &e.ID, &e.Device, &e.DeviceSeq, asInstant{&e.DeviceTime}, asInstant{&e.ServerTime},
			&e.Kind, &e.Setup, &e.Pass, &e.Facet, &e.Item, &e.Undoes, &e.Text)
		out = append(out, e)
		return err
	}, `SELECT seq, id, device, device_seq, device_time, server_time, kind, setup, pass, facet, item, undoes, text
		FROM events WHERE work_id = ? ORDER BY seq`, workID)
	return out, err
}
