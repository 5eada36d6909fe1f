package sqlite

import (
	"context"
	"time"

	"cressa/workshop"
)

const deviceColumns = `id, name, paired, seen FROM devices`

func deviceFields(d *workshop.Device) []any {
	return []any{&d.ID, &d.Name, asInstant{&d.Paired}, asInstant{&d.Seen}}
}

// Devices implements workshop.AccessStore.
func (s *Store) Devices(ctx context.Context) ([]workshop.Device, error) {
	out := []workshop.Device{}
	err := s.rows(ctx, func(scan scan) error {
		var d workshop.Device
		err := scan(deviceFields(&d)...)
		out = append(out, d)
		return err
	}, `SELECT `+deviceColumns+` ORDER BY paired DESC`)
	return out, err
}

// DeviceBySession implements workshop.AccessStore.
func (s *Store) DeviceBySession(ctx context.Context, hash string) (workshop.Device, error) {
	var d workshop.Device
	return d, s.row(ctx, `SELECT `+deviceColumns+` WHERE session = ?`, []any{hash}, deviceFields(&d)...)
}

// InsertDevice implements workshop.AccessStore.
func (s *Store) InsertDevice(ctx context.Context, d workshop.Device, hash string) error {
	return s.exec(ctx, `INSERT INTO devices (id, name, session, paired, seen) VALUES (?, ?, ?, ?, ?)`,
		d.ID, d.Name, hash, instant(d.Paired), instant(d.Seen))
}

// NameDevice implements workshop.AccessStore.
func (s *Store) NameDevice(ctx context.Context, id, name string) error {
	return s.changeIt(ctx, `UPDATE devices SET name = ? WHERE id = ?`, name, id)
}

// SeeDevice implements workshop.AccessStore.
func (s *Store) SeeDevice(ctx context.Context, id string, at time.Time) error {
	return s.changeIt(ctx, `UPDATE devices SET seen = ? WHERE id = ?`, instant(at), id)
}

// DropDevice implements workshop.AccessStore.
func (s *Store) DropDevice(ctx context.Context, id string) error {
	return s.changeIt(ctx, `DELETE FROM devices WHERE id = ?`, id)
}
