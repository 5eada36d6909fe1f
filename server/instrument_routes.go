package server

import (
	"context"
	"net/http"
	"time"

	"github.com/labstack/echo/v5"

	"cressa/device"
	"cressa/words"
	"cressa/workshop"
)

// Instrument is what measures on the bench: the dials of a machine, calipers, a scale.
type Instrument struct {
	ID   string `json:"id"`
	Name string `json:"name" validate:"required,max=60"`
	// Port is how it is connected, Address HOST:PORT or the name of a serial port, Baud the speed of that.
	Port    workshop.InstrumentPort `json:"port" validate:"oneof=tcp serial"`
	Address string                  `json:"address" validate:"required,max=200"`
	Baud    int                     `json:"baud" validate:"min=300,max=4000000"`
	Scales  []InstrumentScale       `json:"scales" validate:"max=5,unique=Quantity,dive"`
	Created time.Time               `json:"created"`
	Version int                     `json:"version"`
}

// InstrumentScale corrects what an instrument reads of a quantity: it is turned round where that counts the other way, and
// the offset is added, in degrees, teeth, mm or carats.
type InstrumentScale struct {
	Quantity device.Quantity `json:"quantity" validate:"oneof=angle index height calipers scale"`
	Reversed bool            `json:"reversed"`
	Offset   float64         `json:"offset" validate:"min=-10000,max=10000"`
}

// InstrumentList is what stands on the bench.
type InstrumentList struct {
	Instruments []Instrument `json:"instruments"`
	States      LiveStates   `json:"states"`
}

// LiveStates tells how the instruments stand.
type LiveStates struct {
	Instruments []InstrumentState `json:"instruments"`
}

// InstrumentState is how an instrument stands.
type InstrumentState struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	// Here tells that it is connected and can be read. Trouble says why it is not, "" while it is looked for.
	Here    bool   `json:"here"`
	Trouble string `json:"trouble"`
	// Unread counts the lines that made no sense since it was connected, LastUnread is the latest of them.
	Unread     int           `json:"unread"`
	LastUnread string        `json:"lastUnread"`
	Now        []LiveReading `json:"now"`
}

// LiveReading is what an instrument reads now: Value is what Raw is, corrected, in degrees, teeth, mm or carats. Held tells
// that it has not moved for a while.
type LiveReading struct {
	Instrument string          `json:"instrument"`
	Quantity   device.Quantity `json:"quantity" validate:"oneof=angle index height calipers scale"`
	Value      float64         `json:"value"`
	Raw        float64         `json:"raw"`
	Held       bool            `json:"held"`
}

// LiveReadings are those that are new.
type LiveReadings struct {
	Readings []LiveReading `json:"readings"`
}

// FoundInstruments are places where an instrument may be.
type FoundInstruments struct {
	Found []FoundInstrument `json:"found"`
}

// FoundInstrument is a place where an instrument may be, and what answers there, as far as that is known.
type FoundInstrument struct {
	Port    workshop.InstrumentPort `json:"port" validate:"oneof=tcp serial"`
	Address string                  `json:"address"`
	Baud    int                     `json:"baud"`
}

func (s *Server) instrumentRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/instruments", name: "listInstruments", summary: "What measures on the bench"}, func(c *echo.Context, _ struct{}) (InstrumentList, error) {
		list, err := s.workshop.Instruments.Instruments(c.Request().Context())
		return InstrumentList{each(list, instrumentView), statesView(s.devices.States())}, err
	})
	handle(s, route{method: http.MethodPost, path: "/api/instruments", name: "addInstrument", summary: "Read an instrument from now on", creates: true}, func(c *echo.Context, in withBody[Instrument]) (Instrument, error) {
		i := in.Body.instrument()
		i.ID = ""
		return s.saveInstrument(c.Request().Context(), i)
	})
	handle(s, route{method: http.MethodPut, path: "/api/instruments/:id", name: "saveInstrument", summary: "Name an instrument, or correct what it reads"}, func(c *echo.Context, in byIDWithBody[Instrument]) (Instrument, error) {
		i := in.Body.instrument()
		i.ID = in.ID
		return s.saveInstrument(c.Request().Context(), i)
	})
	handle(s, route{method: http.MethodDelete, path: "/api/instruments/:id", name: "dropInstrument", summary: "Read an instrument no more"}, func(c *echo.Context, in byID) (none, error) {
		err := s.workshop.DropInstrument(c.Request().Context(), in.ID)
		if err == nil {
			err = s.readInstruments(c.Request().Context())
		}
		return none{}, err
	})
	handle(s, route{method: http.MethodPost, path: "/api/instruments/find", name: "findInstruments", summary: "Look where an instrument may be"}, func(c *echo.Context, _ struct{}) (FoundInstruments, error) {
		found := device.Find(c.Request().Context(), SimulatedLines)
		return FoundInstruments{each(found, func(f device.Port) FoundInstrument {
			return FoundInstrument{workshop.InstrumentPort(f.Kind), f.Address, f.Baud}
		})}, nil
	})
}

// SimulatedLines is where the simulated machine serves its readings unless it is told otherwise.
const SimulatedLines = "127.0.0.1:8475"

func (s *Server) saveInstrument(ctx context.Context, i workshop.Instrument) (Instrument, error) {
	i, err := s.workshop.SaveInstrument(ctx, i)
	if err == nil {
		err = s.readInstruments(ctx)
	}
	return instrumentView(i), err
}

// readInstruments reads those instruments that are kept, and no others.
func (s *Server) readInstruments(ctx context.Context) error {
	s.reading.Lock()
	defer s.reading.Unlock()
	list, err := s.workshop.Instruments.Instruments(ctx)
	if err != nil {
		return err
	}
	s.devices.Use(each(list, func(i workshop.Instrument) device.Device {
		d := device.Device{ID: i.ID, Name: i.Name, Port: device.Port{Kind: device.PortKind(i.Port), Address: i.Address, Baud: i.Baud}, Scales: map[device.Quantity]device.Correction{}}
		for _, scale := range i.Scales {
			d.Scales[device.Quantity(scale.Quantity)] = device.Correction{Reversed: scale.Reversed, Offset: scale.Offset}
		}
		return d
	}))
	return nil
}

func (i Instrument) instrument() workshop.Instrument {
	return workshop.Instrument{
		ID: i.ID, Name: i.Name, Port: i.Port, Address: i.Address, Baud: i.Baud, Created: i.Created, Version: i.Version,
		Scales: each(i.Scales, func(s InstrumentScale) workshop.InstrumentScale {
			return workshop.InstrumentScale{Quantity: string(s.Quantity), Reversed: s.Reversed, Offset: s.Offset}
		}),
	}
}

func instrumentView(i workshop.Instrument) Instrument {
	return Instrument{
		ID: i.ID, Name: i.Name, Port: i.Port, Address: i.Address, Baud: i.Baud, Created: i.Created, Version: i.Version,
		Scales: each(i.Scales, func(s workshop.InstrumentScale) InstrumentScale {
			return InstrumentScale{device.Quantity(s.Quantity), s.Reversed, s.Offset}
		}),
	}
}

func statesView(states []device.State) LiveStates {
	return LiveStates{each(states, func(s device.State) InstrumentState {
		return InstrumentState{ID: s.ID, Name: s.Name, Here: s.Here, Trouble: words.Trouble(s.Trouble), Unread: s.Unread, LastUnread: s.LastUnread, Now: each(s.Now, readingView)}
	})}
}

func readingView(n device.Now) LiveReading {
	return LiveReading{n.Device, n.Quantity, n.Value, n.Raw, n.Held}
}
