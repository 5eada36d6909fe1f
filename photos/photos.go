// Package photos keeps pictures as files named by the SHA-256 of their content. A
// picture is kept as it was taken, but without the data that tell where that was;
// small copies for lists are derived from it.
package photos

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	_ "image/png" // PNG pictures are kept too
	"io/fs"
	"net/http"
	"os"
	"path/filepath"
	"regexp"

	"golang.org/x/image/draw"

	"cressa/workshop"
)

// Bounds of a picture.
const (
	MaxBytes  = 24 << 20
	maxPixels = 80_000_000
	thumbSide = 320
)

// Dir is a folder of pictures.
type Dir string

var _ workshop.PhotoFiles = Dir("")

// Keep implements workshop.PhotoFiles.
func (d Dir) Keep(data []byte) (string, error) {
	kind := http.DetectContentType(data)
	config, _, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil || len(data) > MaxBytes || config.Width*config.Height > maxPixels {
		return "", workshop.ErrNoPicture
	}
	switch kind {
	case "image/jpeg":
		data = withoutPlaceJPEG(data)
	case "image/png":
		data = withoutPlacePNG(data)
	default:
		return "", workshop.ErrNoPicture
	}
	sum := sha256.Sum256(data)
	hash := hex.EncodeToString(sum[:])
	return hash, d.write(hash, data)
}

// write puts a file on disk whole or not at all.
func (d Dir) write(name string, data []byte) (err error) {
	if err := os.MkdirAll(string(d), 0o700); err != nil {
		return err
	}
	to := filepath.Join(string(d), name)
	if _, err := os.Stat(to); err == nil {
		return nil
	}
	f, err := os.CreateTemp(string(d), name+".*")
	if err != nil {
		return err
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, os.Remove(f.Name()))
		}
	}()
	if _, err := f.Write(data); err != nil {
		return errors.Join(err, f.Close())
	}
	if err := errors.Join(f.Sync(), f.Close()); err != nil {
		return err
	}
	if err := os.Rename(f.Name(), to); err != nil {
		return err
	}
	return syncFolder(string(d))
}

// syncFolder puts the names of a folder's files on disk.
func syncFolder(path string) error {
	folder, err := os.Open(path)
	if err != nil {
		return err
	}
	return errors.Join(folder.Sync(), folder.Close())
}

// Check tells what is wrong with a picture: that it is missing, or is not what its name
// says. It returns "" where it is whole.
func (d Dir) Check(hash string) string {
	data, _, err := d.Open(hash)
	if err != nil {
		return Missing
	}
	if sum := sha256.Sum256(data); hex.EncodeToString(sum[:]) != hash {
		return Damaged
	}
	return ""
}

// What Check finds.
const (
	Missing = "photo-missing"
	Damaged = "photo-damaged"
)

var hashName = regexp.MustCompile(`^[0-9a-f]{64}$`)

// Open returns a picture and its media type, fs.ErrNotExist where there is none.
func (d Dir) Open(hash string) (data []byte, kind string, err error) {
	if !hashName.MatchString(hash) {
		return nil, "", fs.ErrNotExist
	}
	if data, err = os.ReadFile(filepath.Join(string(d), hash)); err != nil {
		return nil, "", err
	}
	return data, http.DetectContentType(data), nil
}

// Thumbnail returns a small copy as a JPEG, made the first time it is asked for. It
// returns the errors of Open, and an error where the picture cannot be decoded or the copy
// not be written.
func (d Dir) Thumbnail(hash string) ([]byte, error) {
	small := hash + ".small"
	if data, err := os.ReadFile(filepath.Join(string(d), small)); err == nil && hashName.MatchString(hash) {
		return data, nil
	}
	data, _, err := d.Open(hash)
	if err != nil {
		return nil, err
	}
	whole, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, fmt.Errorf("photo %s: %w", hash, err)
	}
	size := whole.Bounds().Size()
	scale := min(1, float64(thumbSide)/float64(max(size.X, size.Y)))
	copied := image.NewRGBA(image.Rect(0, 0, max(int(float64(size.X)*scale), 1), max(int(float64(size.Y)*scale), 1)))
	draw.ApproxBiLinear.Scale(copied, copied.Bounds(), whole, whole.Bounds(), draw.Src, nil)
	var out bytes.Buffer
	if err := jpeg.Encode(&out, upright(copied, orientation(data)), nil); err != nil {
		return nil, err
	}
	return out.Bytes(), d.write(small, out.Bytes())
}
