// Package workshop keeps the records of a cutter's work and the rules they obey:
// diagrams and their revisions, stones and the works on them, the log of what happened
// at the wheel, machines and habits, and who may come in. It knows neither SQL nor HTTP:
// each aggregate declares the store it needs.
//
// What a method says of its errors is what a caller meets with good records. Besides, every
// method may return ErrBusy, ErrFull or ErrDamaged, and one that reads a record ErrUnreadable.
package workshop

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"io"
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
	// ErrFinished: a finished stone's plan is closed.
	ErrFinished = errors.New("the stone is finished")
	// ErrBusy: the records cannot be written or read now, because another program holds
	// them.
	ErrBusy = errors.New("the records cannot be reached")
	// ErrFull: the disk has no room left.
	ErrFull = errors.New("the disk is full")
	// ErrDamaged: the file of the records makes no sense.
	ErrDamaged = errors.New("the file of the records is damaged")
	// ErrUnreadable: a stored record cannot be read or no longer makes sense.
	ErrUnreadable = errors.New("the record cannot be read")
)

// KeepDeleted is how long a deleted diagram can be brought back.
const KeepDeleted = 30 * 24 * time.Hour

// Workshop holds the services over one set of records. Their methods may be called from
// many goroutines.
type Workshop struct {
	*Library
	*Stones
	*Journal
	*Preferences
	*Access
	*Requests
	*Copying
	*Kit
	*Rough
	*Instruments
}

// Store is all that the workshop keeps. A method that returns without error has put its
// record on disk, or, within InTx, will have when that returns. Writes that take a
// version succeed only while the record still has that version, and return ErrStale
// otherwise.
type Store interface {
	Transactions
	LibraryStore
	SweepStore
	StoneStore
	JournalStore
	PreferenceStore
	AccessStore
	RequestStore
	CopyingStore
	KitStore
	RoughStore
	InstrumentStore
}

// Transactions runs what belongs together.
type Transactions interface {
	// InTx runs f in one transaction: what f reads with the context it is given does not
	// change until it ends, and what it writes is kept as a whole or, where f returns an
	// error, not at all. A call within f joins the transaction.
	InTx(ctx context.Context, f func(context.Context) error) error
}

// New returns a workshop that keeps its records in the store and takes the time from now.
func New(store Store, now func() time.Time) *Workshop {
	return NewDrawn(store, now, rand.Reader)
}

// NewDrawn is New for records whose names are drawn from a source of random bytes: the
// same source gives the same records.
func NewDrawn(store Store, now func() time.Time, random io.Reader) *Workshop {
	from := origin{now, random}
	preferences := &Preferences{store}
	journal := &Journal{store, from}
	library := &Library{store, preferences, from}
	kit := &Kit{store, preferences, from}
	pictures := &sync.Mutex{}
	rough := &Rough{store, preferences, pictures, from}
	return &Workshop{
		Library: library, Journal: journal, Preferences: preferences,
		Stones: &Stones{store: store, library: library, journal: journal, preferences: preferences, kit: kit, rough: rough, pictures: pictures, origin: from},
		Access: &Access{store, from}, Requests: &Requests{store, from}, Copying: &Copying{store, from},
		Kit: kit, Rough: rough, Instruments: &Instruments{store, from},
	}
}

// origin is where records get their times and names from.
type origin struct {
	now    func() time.Time
	random io.Reader
}

// moment returns the present in UTC, in whole microseconds, as it is stored.
func (o origin) moment() time.Time { return o.now().UTC().Truncate(time.Microsecond) }

// newID returns a random 128-bit name as 32 hexadecimal digits.
func (o origin) newID() string { return o.secret(16) }

// secret returns n random bytes in hexadecimal digits.
func (o origin) secret(n int) string {
	b := make([]byte, n)
	if _, err := io.ReadFull(o.random, b); err != nil {
		panic(err) // the system's source of randomness does not fail
	}
	return hex.EncodeToString(b)
}

// Cursor is where a page of a list begins: after the row with these values, at the start
// where it is zero.
type Cursor struct {
	// Key is the value that the list is sorted by, ID tells equal ones apart.
	Key string
	ID  string
}
