package sqlite

import (
	"context"
	"errors"
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

// TakeDevices lets in the devices that another file of records lets in, and no others: a copy would
// let in again those that were shut out since. It lets none in where the file cannot be read. It
// returns the errors of the store.
func (s *Store) TakeDevices(ctx context.Context, file string) error {
	type letIn struct {
		workshop.Device
		session string
	}
	var all []letIn
	other, err := OpenToRead(ctx, file)
	if err == nil {
		err = errors.Join(other.rows(ctx, func(scan scan) error {
			var d letIn
			err := scan(append(deviceFields(&d.Device), &d.session)...)
			all = append(all, d)
			return err
		}, `SELECT id, name, paired, seen, session FROM devices`), other.Close())
	}
	if err != nil {
		all = nil
	}
	if ctx.Err() != nil {
		return ctx.Err()
	}
	return s.InTx(ctx, func(ctx context.Context) error {
		err := s.exec(ctx, `DELETE FROM devices`)
		for _, d := range all {
			err = errors.Join(err, s.InsertDevice(ctx, d.Device, d.session))
		}
		return err
	})
}
