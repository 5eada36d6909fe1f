package workshop

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"strings"
	"time"
)

// Device is a tablet or another screen that may enter over the network.
type Device struct {
	ID     string    `json:"id"`
	Name   string    `json:"name"`
	Paired time.Time `json:"paired"`
	// Seen is when it last asked for something, to the minute.
	Seen time.Time `json:"seen"`
}

// DeviceStore keeps the paired devices.
type DeviceStore interface {
	// Devices returns them, the one paired last first.
	Devices(ctx context.Context) ([]Device, error)
	// DeviceBySession finds the device whose session has the given hash.
	DeviceBySession(ctx context.Context, hash string) (Device, error)
	InsertDevice(ctx context.Context, d Device, hash string) error
	NameDevice(ctx context.Context, id, name string) error
	SeeDevice(ctx context.Context, id string, at time.Time) error
	DropDevice(ctx context.Context, id string) error
}

// PairDevice lets a device in from now on. Session is the secret that it shows each
// time; only its hash is kept.
func (w *Workshop) PairDevice(ctx context.Context, name string) (d Device, session string, err error) {
	var secret [32]byte
	// crypto/rand.Read never fails on the systems that Go supports.
	_, _ = rand.Read(secret[:])
	session = hex.EncodeToString(secret[:])
	if name = strings.TrimSpace(name); name == "" {
		name = "Tablet"
	}
	now := w.moment()
	d = Device{ID: newID(), Name: name, Paired: now, Seen: now}
	return d, session, w.store.InsertDevice(ctx, d, sessionHash(session))
}

func sessionHash(session string) string {
	sum := sha256.Sum256([]byte(session))
	return hex.EncodeToString(sum[:])
}

// AdmitDevice returns the device that shows a session, ErrNotFound where it was
// never paired or has been revoked.
func (w *Workshop) AdmitDevice(ctx context.Context, session string) (Device, error) {
	d, err := w.store.DeviceBySession(ctx, sessionHash(session))
	if err != nil {
		return d, err
	}
	// To the minute is enough, and spares a write for every request.
	if now := w.moment(); now.Sub(d.Seen) > time.Minute {
		d.Seen = now
		return d, w.store.SeeDevice(ctx, d.ID, now)
	}
	return d, nil
}

// Devices returns the paired devices, the one paired last first.
func (w *Workshop) Devices(ctx context.Context) ([]Device, error) { return w.store.Devices(ctx) }

// NameDevice gives a device another name.
func (w *Workshop) NameDevice(ctx context.Context, id, name string) error {
	return w.store.NameDevice(ctx, id, name)
}

// RevokeDevice shuts a device out: its session no longer counts.
func (w *Workshop) RevokeDevice(ctx context.Context, id string) error {
	return w.store.DropDevice(ctx, id)
}
