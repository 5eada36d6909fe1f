package sqlite

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"cressa/workshop"
)

const deviceColumns = `id, name, paired, seen FROM devices`

func readDevice(scan scan) (workshop.Device, error) {
	var d workshop.Device
	err := scan(&d.ID, &d.Name, asInstant{&d.Paired}, asInstant{&d.Seen})
	return d, err
}

// Devices implements workshop.DeviceStore.
func (s *Store) Devices(ctx context.Context) ([]workshop.Device, error) {
	out := []workshop.Device{}
	err := s.rows(ctx, func(scan scan) error {
		d, err := readDevice(scan)
		out = append(out, d)
		return err
	}, `SELECT `+deviceColumns+` ORDER BY paired DESC`)
	return out, err
}

// DeviceBySession implements workshop.DeviceStore.
func (s *Store) DeviceBySession(ctx context.Context, hash string) (workshop.Device, error) {
	d, err := readDevice(s.db.QueryRowContext(ctx, `SELECT `+deviceColumns+` WHERE session = ?`, hash).Scan)
	return d, notFound(err)
}

// InsertDevice implements workshop.DeviceStore.
func (s *Store) InsertDevice(ctx context.Context, d workshop.Device, hash string) error {
	_, err := s.db.ExecContext(ctx, `INSERT INTO devices (id, name, session, paired, seen) VALUES (?, ?, ?, ?, ?)`,
		d.ID, d.Name, hash, instant(d.Paired), instant(d.Seen))
	return err
}

// NameDevice implements workshop.DeviceStore.
func (s *Store) NameDevice(ctx context.Context, id, name string) error {
	return s.changeDevice(ctx, `UPDATE devices SET name = ? WHERE id = ?`, name, id)
}

// SeeDevice implements workshop.DeviceStore.
func (s *Store) SeeDevice(ctx context.Context, id string, at time.Time) error {
	return s.changeDevice(ctx, `UPDATE devices SET seen = ? WHERE id = ?`, instant(at), id)
}

// DropDevice implements workshop.DeviceStore.
func (s *Store) DropDevice(ctx context.Context, id string) error {
	return s.changeDevice(ctx, `DELETE FROM devices WHERE id = ?`, id)
}

func (s *Store) changeDevice(ctx context.Context, statement string, args ...any) error {
	err := s.write(ctx, func(tx *sql.Tx) error { return changeOne(ctx, tx, statement, args...) })
	if errors.Is(err, workshop.ErrStale) {
		return workshop.ErrNotFound
	}
	return err
}
