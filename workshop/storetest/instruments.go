package storetest

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/workshop"
)

func instruments(t *testing.T, ctx context.Context, s workshop.Store) {
	i := workshop.Instrument{
		ID: "i", Name: "Mast dial", Port: workshop.OverSerial, Address: "/dev/ttyUSB0", Baud: 9600, Created: now, Version: 1,
		Scales: []workshop.InstrumentScale{{Quantity: "height", Reversed: true, Offset: -1.25}},
	}
	require.NoError(t, s.InsertInstrument(ctx, i))
	i.Name, i.Version = "Dial of the mast", 2
	require.NoError(t, s.SaveInstrument(ctx, i, 1))
	require.ErrorIs(t, s.SaveInstrument(ctx, i, 1), workshop.ErrStale)
	all, err := s.Instruments(ctx)
	require.NoError(t, err)
	assert.Equal(t, []workshop.Instrument{i}, all)
	require.NoError(t, s.DropInstrument(ctx, "i"))
	require.ErrorIs(t, s.DropInstrument(ctx, "i"), workshop.ErrNotFound)
}
