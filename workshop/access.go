package workshop

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"strings"
	"time"
)

// Device is a tablet or another screen that may enter over the network.
type Device struct {
	ID     string
	Name   string
	Paired time.Time
	// Seen is when it last asked for something, to the minute.
	Seen time.Time
}

// SessionLife is how long a device stays paired without being seen.
const SessionLife = 400 * 24 * time.Hour

// Access lets devices in and shuts them out.
type Access struct {
	store AccessStore
	origin
}

// AccessStore keeps the paired devices.
type AccessStore interface {
	// Devices returns them, the one paired last first.
	Devices(ctx context.Context) ([]Device, error)
	// DeviceBySession finds the device whose session has the given hash.
	DeviceBySession(ctx context.Context, hash string) (Device, error)
	InsertDevice(ctx context.Context, d Device, hash string) error
	NameDevice(ctx context.Context, id, name string) error
	SeeDevice(ctx context.Context, id string, at time.Time) error
	DropDevice(ctx context.Context, id string) error
}

// PairDevice lets a device in from now on. Session is the secret that it shows each time;
// only its hash is kept. It returns only the errors of the store.
func (a *Access) PairDevice(ctx context.Context, name string) (d Device, session string, err error) {
	session = a.secret(32)
	if name = strings.TrimSpace(name); name == "" {
		name = "Tablet"
	}
	now := a.moment()
	d = Device{ID: a.newID(), Name: name, Paired: now, Seen: now}
	return d, session, a.store.InsertDevice(ctx, d, sessionHash(session))
}

func sessionHash(session string) string {
	sum := sha256.Sum256([]byte(session))
	return hex.EncodeToString(sum[:])
}

// AdmitDevice returns the device that shows a session. It returns ErrNotFound where it was
// never paired, has been revoked, or was not seen for SessionLife; every other error says
// nothing of the device.
func (a *Access) AdmitDevice(ctx context.Context, session string) (Device, error) {
	d, err := a.store.DeviceBySession(ctx, sessionHash(session))
	if err != nil {
		return d, err
	}
	now := a.moment()
	switch unseen := now.Sub(d.Seen); {
	case unseen > SessionLife:
		return Device{}, ErrNotFound
	case unseen > time.Minute:
		// To the minute is enough, and spares a write for every request. Where it cannot be
		// written, on a full disk, the device comes in all the same.
		if err := a.store.SeeDevice(ctx, d.ID, now); err == nil {
			d.Seen = now
		}
	}
	return d, nil
}

// Devices returns the paired devices, the one paired last first. It returns only the
// errors of the store.
func (a *Access) Devices(ctx context.Context) ([]Device, error) { return a.store.Devices(ctx) }

// NameDevice gives a device another name. It returns ErrNotFound where no such device is
// paired.
func (a *Access) NameDevice(ctx context.Context, id, name string) error {
	return a.store.NameDevice(ctx, id, name)
}

// RevokeDevice shuts a device out: its session no longer counts. It returns ErrNotFound
// where no such device is paired.
func (a *Access) RevokeDevice(ctx context.Context, id string) error {
	return a.store.DropDevice(ctx, id)
}
