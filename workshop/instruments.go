package workshop

import (
	"context"
	"slices"
	"strings"
	"time"

	"cressa/core/diagram"
)

// Instrument is what measures on the bench and tells what it reads: the dials of a machine, calipers, a scale.
type Instrument struct {
	ID   string
	Name string `validate:"required,max=60"`
	// Port is how it is connected, Address is HOST:PORT or the name of a serial port, and Baud the speed of that.
	Port    InstrumentPort `validate:"oneof=tcp serial"`
	Address string         `validate:"required,max=200"`
	Baud    int            `validate:"min=300,max=4000000"`
	// Scales correct what it reads. A quantity that is not among them is taken as it is read.
	Scales  []InstrumentScale `validate:"max=5,unique=Quantity,dive"`
	Created time.Time
	Version int
}

// InstrumentPort is how an instrument is connected.
type InstrumentPort string

// The ports.
const (
	OverTCP    InstrumentPort = "tcp"
	OverSerial InstrumentPort = "serial"
)

// InstrumentScale corrects what an instrument reads of a quantity: it is turned round where that counts the other way, and
// the offset is added, in degrees, teeth, mm or carats.
type InstrumentScale struct {
	Quantity string  `validate:"oneof=angle index height calipers scale"`
	Reversed bool    `validate:"-"`
	Offset   float64 `validate:"min=-10000,max=10000"`
}

// Instruments keeps what measures on the bench.
type Instruments struct {
	store InstrumentStore
	origin
}

// InstrumentStore keeps the instruments.
type InstrumentStore interface {
	Transactions
	// Instruments returns all, in the order in which they came.
	Instruments(ctx context.Context) ([]Instrument, error)
	InsertInstrument(ctx context.Context, i Instrument) error
	SaveInstrument(ctx context.Context, i Instrument, version int) error
	DropInstrument(ctx context.Context, id string) error
}

// mostInstruments is how many instruments are kept: each one is read all the time.
const mostInstruments = 12

// Instruments returns all instruments, in the order in which they came.
func (k *Instruments) Instruments(ctx context.Context) ([]Instrument, error) {
	return k.store.Instruments(ctx)
}

// SaveInstrument keeps an instrument: a new one where it has no ID, else over the version that the caller read. It returns
// the errors of Validate, ErrStale, and a diagram.Problem where the name is taken, or where there are too many.
func (k *Instruments) SaveInstrument(ctx context.Context, i Instrument) (Instrument, error) {
	version := i.Version
	if i.ID == "" {
		i.ID, i.Created, version = k.newID(), k.moment(), 0
	}
	i.Name, i.Address, i.Version = strings.TrimSpace(i.Name), strings.TrimSpace(i.Address), version+1
	if err := Validate(i); err != nil {
		return i, err
	}
	return i, k.store.InTx(ctx, func(ctx context.Context) error {
		all, err := k.store.Instruments(ctx)
		if err != nil {
			return err
		}
		if slices.ContainsFunc(all, func(o Instrument) bool { return o.ID != i.ID && strings.EqualFold(o.Name, i.Name) }) {
			return diagram.Problem{Code: SameName, TierNo: -1, Field: "instruments", Text: i.Name}
		}
		if version > 0 {
			return k.store.SaveInstrument(ctx, i, version)
		}
		if len(all) >= mostInstruments {
			return diagram.Problem{Code: FullShelf, TierNo: -1, Field: "instruments", Value: mostInstruments}
		}
		return k.store.InsertInstrument(ctx, i)
	})
}

// DropInstrument takes an instrument off the bench. What it has read stays where it was kept. It returns ErrNotFound.
func (k *Instruments) DropInstrument(ctx context.Context, id string) error {
	return k.store.DropInstrument(ctx, id)
}
