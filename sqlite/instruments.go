package sqlite

import (
	"context"

	"cressa/workshop"
)

const instrumentForm = 1

type instrumentDoc struct {
	form
	Name    string               `json:"name"`
	Port    string               `json:"port"`
	Address string               `json:"address"`
	Baud    int                  `json:"baud"`
	Scales  []instrumentScaleDoc `json:"scales"`
}

type instrumentScaleDoc struct {
	Quantity string  `json:"quantity"`
	Reversed bool    `json:"reversed,omitempty"`
	Offset   float64 `json:"offset"`
}

func instrumentDocument(i workshop.Instrument) string {
	d := instrumentDoc{form: form{instrumentForm}, Name: i.Name, Port: string(i.Port), Address: i.Address, Baud: i.Baud}
	for _, s := range i.Scales {
		d.Scales = append(d.Scales, instrumentScaleDoc(s))
	}
	return document(d)
}

// Instruments implements workshop.InstrumentStore.
func (s *Store) Instruments(ctx context.Context) ([]workshop.Instrument, error) {
	out := []workshop.Instrument{}
	return out, s.rows(ctx, func(scan scan) error {
		i := workshop.Instrument{Scales: []workshop.InstrumentScale{}}
		var text string
		if err := scan(&i.ID, asInstant{&i.Created}, &i.Version, &text); err != nil {
			return err
		}
		var d instrumentDoc
		if err := read(text, instrumentForm, &d); err != nil {
			return err
		}
		i.Name, i.Port, i.Address, i.Baud = d.Name, workshop.InstrumentPort(d.Port), d.Address, d.Baud
		for _, scale := range d.Scales {
			i.Scales = append(i.Scales, workshop.InstrumentScale(scale))
		}
		out = append(out, i)
		return nil
	}, `SELECT id, created, version, document FROM instruments ORDER BY created, id`)
}

// InsertInstrument implements workshop.InstrumentStore.
func (s *Store) InsertInstrument(ctx context.Context, i workshop.Instrument) error {
	return s.exec(ctx, `INSERT INTO instruments (id, created, version, document) VALUES (?, ?, ?, ?)`, i.ID, instant(i.Created), i.Version, instrumentDocument(i))
}

// SaveInstrument implements workshop.InstrumentStore.
func (s *Store) SaveInstrument(ctx context.Context, i workshop.Instrument, version int) error {
	return s.changeOne(ctx, `UPDATE instruments SET document = ?, version = ? WHERE id = ? AND version = ?`, instrumentDocument(i), i.Version, i.ID, version)
}

// DropInstrument implements workshop.InstrumentStore.
func (s *Store) DropInstrument(ctx context.Context, id string) error {
	return s.changeIt(ctx, `DELETE FROM instruments WHERE id = ?`, id)
}
