package photos_test

import (
	"bytes"
	"encoding/binary"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"io/fs"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/photos"
	"cressa/workshop"
)

func picture() image.Image {
	p := image.NewRGBA(image.Rect(0, 0, 60, 40))
	for x := range 60 {
		for y := range 40 {
			p.Set(x, y, color.RGBA{uint8(4 * x), uint8(6 * y), 80, 255})
		}
	}
	return p
}

// withPlace puts Exif data into a JPEG: upright is to the right, and a place.
func withPlace(t *testing.T, data []byte) []byte {
	t.Helper()
	le := binary.LittleEndian
	tiff := make([]byte, 0, 128)
	tiff = append(tiff, "II*\x00\x08\x00\x00\x00"...)
	entry := func(tag, kind uint16, count, value uint32) {
		tiff = le.AppendUint16(tiff, tag)
		tiff = le.AppendUint16(tiff, kind)
		tiff = le.AppendUint32(tiff, count)
		tiff = le.AppendUint32(tiff, value)
	}
	tiff = le.AppendUint16(tiff, 2)
	entry(0x0112, 3, 1, 6)
	entry(0x8825, 4, 1, 38) // the GPS directory follows this one
	tiff = le.AppendUint32(tiff, 0)
	tiff = le.AppendUint16(tiff, 1)
	entry(2, 5, 3, 56) // latitude: three fractions
	tiff = le.AppendUint32(tiff, 0)
	tiff = append(tiff, "52 degrees 31 minutes..."...)
	exif := append([]byte("Exif\x00\x00"), tiff...)
	xmp := []byte("http://ns.adobe.com/xap/1.0/\x00<place>52.5</place>")
	var out bytes.Buffer
	out.Write(data[:2])
	for _, body := range [][]byte{exif, xmp} {
		out.Write([]byte{0xFF, 0xE1})
		out.Write(binary.BigEndian.AppendUint16(nil, uint16(len(body)+2)))
		out.Write(body)
	}
	out.Write(data[2:])
	return out.Bytes()
}

func TestAPictureIsKeptWithoutItsPlace(t *testing.T) {
	dir := photos.Dir(t.TempDir())
	var plain bytes.Buffer
	require.NoError(t, jpeg.Encode(&plain, picture(), nil))
	data := withPlace(t, plain.Bytes())
	require.Contains(t, string(data), "52 degrees")

	hash, err := dir.Keep(data)
	require.NoError(t, err)
	kept, kind, err := dir.Open(hash)
	require.NoError(t, err)
	assert.Equal(t, "image/jpeg", kind)
	assert.NotContains(t, string(kept), "52 degrees")
	assert.NotContains(t, string(kept), "52.5")
	whole, err := jpeg.Decode(bytes.NewReader(kept))
	require.NoError(t, err)
	assert.Equal(t, 60, whole.Bounds().Dx(), "the picture itself is as it was taken")

	small, err := dir.Thumbnail(hash)
	require.NoError(t, err)
	again, err := dir.Thumbnail(hash)
	require.NoError(t, err)
	assert.Equal(t, small, again)
	turned, err := jpeg.Decode(bytes.NewReader(small))
	require.NoError(t, err)
	assert.Equal(t, image.Pt(40, 60), turned.Bounds().Size(), "turned upright")

	twice, err := dir.Keep(data)
	require.NoError(t, err)
	assert.Equal(t, hash, twice)
	var asPNG bytes.Buffer
	require.NoError(t, png.Encode(&asPNG, picture()))
	hash, err = dir.Keep(asPNG.Bytes())
	require.NoError(t, err)
	_, kind, err = dir.Open(hash)
	require.NoError(t, err)
	assert.Equal(t, "image/png", kind)
}

func TestWhatIsNoPictureIsRefused(t *testing.T) {
	dir := photos.Dir(t.TempDir())
	for _, data := range [][]byte{nil, []byte("<svg/>"), []byte("\xFF\xD8\xFF\xE1 broken"), []byte("GIF89a")} {
		_, err := dir.Keep(data)
		assert.ErrorIs(t, err, workshop.ErrNoPicture)
	}
	for _, name := range []string{"../cressa.db", "", "abc"} {
		_, _, err := dir.Open(name)
		assert.ErrorIs(t, err, fs.ErrNotExist)
	}
}
