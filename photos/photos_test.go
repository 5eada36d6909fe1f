package photos_test

import (
	"bytes"
	"context"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/internal/ceiling"
	"cressa/internal/mutants"
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

// segment is a part of a JPEG.
func segment(mark byte, body string) []byte {
	out := binary.BigEndian.AppendUint16([]byte{0xFF, mark}, uint16(len(body)+2))
	return append(out, body...)
}

func asJPEG(t *testing.T, p image.Image) []byte {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, jpeg.Encode(&out, p, nil))
	return out.Bytes()
}

func TestAPictureIsKeptWithoutItsPlace(t *testing.T) {
	dir := photos.Dir(t.TempDir())
	plain := asJPEG(t, picture())
	exif := withPlace(t, plain)
	require.Contains(t, string(exif), "52 degrees")
	second := withPlace(t, asJPEG(t, image.NewGray(image.Rect(0, 0, 8, 8))))
	for what, data := range map[string][]byte{
		"Exif and XMP":        exif,
		"fill bytes before":   slices.Concat(exif[:2], bytes.Repeat([]byte{0xFF}, 5), exif[2:]),
		"stray bytes before":  slices.Concat(exif[:2], segment(0xFE, "x"), []byte{0, 1, 2}, exif[2:]),
		"IPTC":                slices.Concat(exif[:2], segment(0xED, "Photoshop 3.0\x008BIM 52 degrees"), exif[2:]),
		"a comment":           slices.Concat(exif[:2], segment(0xFE, "taken at 52.5, 13.4"), exif[2:]),
		"a preview":           slices.Concat(exif[:2], segment(0xE0, "JFIF\x00\x01\x02\x00\x00\x01\x00\x01\x08\x08 52 degrees"), exif[2:]),
		"another's segment":   slices.Concat(exif[:2], segment(0xEB, "52 degrees"), segment(0xE2, "MPF\x00 52 degrees"), exif[2:]),
		"a second picture":    slices.Concat(exif, second),
		"text after the end":  slices.Concat(exif, []byte("52 degrees")),
		"a place in the scan": slices.Concat(exif[:len(exif)-2], segment(0xFE, "52 degrees"), exif[len(exif)-2:]),
	} {
		hash, err := dir.Keep(t.Context(), data)
		require.NoError(t, err, what)
		kept, kind, err := dir.Open(hash)
		require.NoError(t, err)
		assert.Equal(t, "image/jpeg", kind)
		assert.NotContains(t, string(kept), "52 degrees", what)
		assert.NotContains(t, string(kept), "52.5", what)
		assert.Equal(t, 1, bytes.Count(kept, []byte{0xFF, 0xD8, 0xFF}), what)
		whole, err := jpeg.Decode(bytes.NewReader(kept))
		require.NoError(t, err)
		want, err := jpeg.Decode(bytes.NewReader(plain))
		require.NoError(t, err)
		assert.Equal(t, want, whole, "%s: the picture itself is as it was taken", what)
		small, err := dir.Thumbnail(t.Context(), hash)
		require.NoError(t, err)
		turned, err := jpeg.Decode(bytes.NewReader(small))
		require.NoError(t, err)
		assert.Equal(t, image.Pt(40, 60), turned.Bounds().Size(), "%s: turned upright", what)
	}

	first, err := dir.Keep(t.Context(), exif)
	require.NoError(t, err)
	twice, err := dir.Keep(t.Context(), exif)
	require.NoError(t, err)
	assert.Equal(t, first, twice)
	small, err := dir.Thumbnail(t.Context(), first)
	require.NoError(t, err)
	require.NoError(t, os.Remove(filepath.Join(string(dir), first+".small")))
	again, err := dir.Thumbnail(t.Context(), first)
	require.NoError(t, err)
	assert.Equal(t, small, again, "it is derived")

	var plainPNG bytes.Buffer
	require.NoError(t, png.Encode(&plainPNG, picture()))
	data := plainPNG.Bytes()
	chunk := slices.Concat([]byte{0, 0, 0, 16}, []byte("tEXtplace\x0052 degrees"), []byte{1, 2, 3, 4})
	hash, err := dir.Keep(t.Context(), slices.Concat(data[:33], chunk, data[33:], []byte("52 degrees")))
	require.NoError(t, err)
	kept, kind, err := dir.Open(hash)
	require.NoError(t, err)
	assert.Equal(t, "image/png", kind)
	assert.Equal(t, data, kept)
}

func TestWhatIsNoPictureIsRefused(t *testing.T) {
	dir := photos.Dir(t.TempDir())
	whole := asJPEG(t, picture())
	var asPNG bytes.Buffer
	require.NoError(t, png.Encode(&asPNG, picture()))
	for what, data := range map[string][]byte{
		"nothing": nil, "SVG": []byte("<svg/>"), "GIF": []byte("GIF89a"), "a head alone": []byte("\xFF\xD8\xFF\xE1 broken"),
		"cut off": whole[:len(whole)*3/4], "cut off before its end": whole[:len(whole)-2], "a PNG cut off": asPNG.Bytes()[:asPNG.Len()/2],
		"a short segment": slices.Concat(whole[:2], []byte{0xFF, 0xE1, 0, 1}, whole[2:]), "no length": {0xFF, 0xD8, 0xFF, 0xE1, 0},
	} {
		_, err := dir.Keep(t.Context(), data)
		assert.ErrorIs(t, err, workshop.ErrNoPicture, what)
	}
	for _, name := range []string{"../cressa.db", "", "abc"} {
		_, _, err := dir.Open(name)
		assert.ErrorIs(t, err, fs.ErrNotExist)
		assert.ErrorIs(t, dir.Drop(name), fs.ErrNotExist)
	}
	left, err := filepath.Glob(string(dir) + "/*")
	require.NoError(t, err)
	assert.Empty(t, left)
}

// Few bytes may stand for many pixels. What they would take is known before they are unpacked.
func TestPicturesOfTooManyPixelsAreRefusedUnseen(t *testing.T) {
	dir := photos.Dir(t.TempDir())
	deep := image.NewRGBA64(image.Rect(0, 0, 1, 1))
	var asPNG bytes.Buffer
	require.NoError(t, png.Encode(&asPNG, deep))
	vast := asPNG.Bytes()
	binary.BigEndian.PutUint32(vast[16:], 8940)
	binary.BigEndian.PutUint32(vast[20:], 8940)
	binary.BigEndian.PutUint32(vast[29:], crc32.ChecksumIEEE(vast[12:29]))
	wide := asJPEG(t, picture())
	frame := bytes.Index(wide, []byte{0xFF, 0xC0})
	binary.BigEndian.PutUint16(wide[frame+5:], 60000)
	binary.BigEndian.PutUint16(wide[frame+7:], 60000)
	for what, data := range map[string][]byte{"PNG": vast, "JPEG": wide} {
		ceiling.Hold(t, what, 8, func() {
			_, err := dir.Keep(t.Context(), data)
			assert.ErrorIs(t, err, workshop.ErrNoPicture, what)
		})
	}
	// One of the size that cameras write goes through, and its small copies wait for each other.
	hash, err := dir.Keep(t.Context(), asJPEG(t, image.NewGray(image.Rect(0, 0, 4000, 3000))))
	require.NoError(t, err)
	require.NoError(t, os.Remove(filepath.Join(string(dir), hash+".small")))
	ended, end := context.WithCancel(t.Context())
	end()
	var wait sync.WaitGroup
	ceiling.Hold(t, "eight small copies", 300, func() {
		for range 8 {
			wait.Go(func() {
				_, err := dir.Thumbnail(t.Context(), hash)
				assert.NoError(t, err)
			})
		}
		wait.Wait()
	})
	require.NoError(t, os.Remove(filepath.Join(string(dir), hash+".small")))
	release := photos.Occupy()
	_, err = dir.Thumbnail(ended, hash)
	require.ErrorIs(t, err, context.Canceled)
	release()
}

// Whatever bytes come: they are refused, or kept as a picture that is clean already.
func FuzzKeep(f *testing.F) {
	var asPNG bytes.Buffer
	if err := png.Encode(&asPNG, picture()); err != nil {
		f.Fatal(err)
	}
	var plain bytes.Buffer
	if err := jpeg.Encode(&plain, picture(), nil); err != nil {
		f.Fatal(err)
	}
	whole := [][]byte{asPNG.Bytes(), plain.Bytes()}
	for _, data := range append(whole, mutants.Of(500, whole...)...) {
		f.Add(data)
	}
	dir := photos.Dir(f.TempDir())
	f.Fuzz(func(t *testing.T, data []byte) {
		hash, err := dir.Keep(t.Context(), data)
		if err != nil {
			require.ErrorIs(t, err, workshop.ErrNoPicture)
			return
		}
		kept, _, err := dir.Open(hash)
		require.NoError(t, err)
		again, err := dir.Keep(t.Context(), kept)
		require.NoError(t, err)
		require.Equal(t, hash, again)
		require.NoError(t, dir.Drop(hash))
	})
}
