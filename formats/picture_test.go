package formats_test

import (
	"bytes"
	"image/color"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/light"
	"cressa/formats"
)

func TestPicturesArePNG(t *testing.T) {
	p := &light.Picture{
		Grid: 2, Hits: []bool{true, false, true, true},
		Light: [][3]float32{{1, 0, 0}, {}, {0.2140, 0.2140, 0.2140}, {0.001, 2, -1}},
		Ends:  []light.End{light.Returned, light.Nowhere, light.Leaked, light.Shadowed},
	}
	read := func(write func(*bytes.Buffer) error) func(x, y int) color.NRGBA {
		var b bytes.Buffer
		require.NoError(t, write(&b))
		img, err := png.Decode(&b)
		require.NoError(t, err)
		return func(x, y int) color.NRGBA { return color.NRGBAModel.Convert(img.At(x, y)).(color.NRGBA) }
	}
	seen := read(func(b *bytes.Buffer) error { return formats.WritePicture(b, p) })
	assert.Equal(t, color.NRGBA{255, 0, 0, 255}, seen(0, 0))
	assert.Zero(t, seen(1, 0).A, "clear around the stone")
	assert.EqualValues(t, 127, seen(0, 1).R, "half as bright to the eye")
	assert.Equal(t, color.NRGBA{3, 255, 0, 255}, seen(1, 1))
	ways := read(func(b *bytes.Buffer) error { return formats.WriteEnds(b, p) })
	assert.Equal(t, formats.EndColours[light.Leaked], ways(0, 1))
	assert.Equal(t, formats.EndColours[light.Shadowed], ways(1, 1))
	assert.Zero(t, ways(1, 0).A)
}
