// Package workshop keeps the records of a cutter's work and the rules they obey:
// diagrams and their revisions, stones and their plans, the log of what happened
// at the wheel, and the logbook. It knows neither SQL nor HTTP: it declares the
// store it needs.
package workshop

import (
	"crypto/rand"
	"encoding/hex"
	"errors"
	"sync"
	"time"
)

// Errors that a caller can tell apart with errors.Is.
var (
	// ErrNotFound: there is no such record, or it was deleted.
	ErrNotFound = errors.New("no such record")
	// ErrStale: the record has changed since the caller read it.
	ErrStale = errors.New("the record has changed meanwhile")
	// ErrStarter: starter diagrams are not changed, only copied.
	ErrStarter = errors.New("a starter diagram is copied, not changed")
	// ErrNotKept: a diagram has no version yet that could be cut.
	ErrNotKept = errors.New("the diagram has no kept version")
	// ErrFinished: a finished stone's plan and log are closed.
	ErrFinished = errors.New("the stone is finished")
	// ErrForeignEvent: an event names a setup, pass or facet the work has not.
	ErrForeignEvent = errors.New("the event does not belong to this work")
)

// KeepDeleted is how long a deleted diagram can be brought back.
const KeepDeleted = 30 * 24 * time.Hour

// Workshop is the service over the records. Its methods may be called from many
// goroutines.
type Workshop struct {
	store Store
	now   func() time.Time
	// judged keeps judgements: they follow from a revision and the settings.
	judged sync.Map
}

// New returns a workshop that keeps its records in the store and takes the time
// from now.
func New(store Store, now func() time.Time) *Workshop { return &Workshop{store: store, now: now} }

// newID returns a random 128-bit name as 32 hexadecimal digits.
func newID() string {
	var b [16]byte
	// crypto/rand.Read never fails on the systems that Go supports.
	_, _ = rand.Read(b[:])
	return hex.EncodeToString(b[:])
}

// moment returns the present in UTC, whole microseconds, as it is stored.
func (w *Workshop) moment() time.Time { return w.now().UTC().Truncate(time.Microsecond) }
