// Package photos keeps pictures as files named by the SHA-256 of their content. A
// picture is kept as it was taken, but without the data that tell where that was;
// small copies for lists are derived from it.
package photos

import (
	"bytes"
	"context"
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
	"slices"
	"strings"
	"time"

	"golang.org/x/image/draw"

	"cressa/disk"
	"cressa/workshop"
)

// Bounds of a picture: of its file, and of what it takes once it is decoded. The second is enough
// for 100 million pixels as cameras write them.
const (
	MaxBytes   = 24 << 20
	maxDecoded = 320 << 20
	thumbSide  = 320
)

// Dir is a folder of pictures.
type Dir string

var _ workshop.PhotoFiles = Dir("")

// decoding is held by whoever decodes a picture: one at a time, however many are asked for.
var decoding = make(chan struct{}, 1)

// Keep implements workshop.PhotoFiles. The picture is decoded once, so that what is cut off or
// spoilt is refused while its owner still has it, and the small copy is made on the way.
func (d Dir) Keep(ctx context.Context, data []byte) (string, error) {
	if len(data) > MaxBytes {
		return "", workshop.ErrNoPicture
	}
	clean, err := cleaned(data)
	if err != nil {
		return "", fmt.Errorf("%w: %w", workshop.ErrNoPicture, err)
	}
	small, err := shrunk(ctx, clean)
	if err != nil {
		return "", err
	}
	sum := sha256.Sum256(clean)
	hash := hex.EncodeToString(sum[:])
	return hash, errors.Join(d.write(hash, clean), d.write(hash+thumbSuffix, small))
}

// cleaned returns a picture without all that does not draw it.
func cleaned(data []byte) ([]byte, error) {
	switch http.DetectContentType(data) {
	case "image/jpeg":
		return cleanJPEG(data)
	case "image/png":
		return cleanPNG(data)
	}
	return nil, errors.New("neither JPEG nor PNG")
}

// shrunk decodes a picture and returns a small copy of it, upright, as a JPEG. The error is
// ErrNoPicture where it is too large or cannot be decoded, or the context's.
func shrunk(ctx context.Context, data []byte) ([]byte, error) {
	if max(decodedJPEG(data), decodedPNG(data)) > maxDecoded {
		return nil, fmt.Errorf("%w: too many pixels", workshop.ErrNoPicture)
	}
	select {
	case decoding <- struct{}{}:
		defer func() { <-decoding }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	whole, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, fmt.Errorf("%w: %w", workshop.ErrNoPicture, err)
	}
	size := whole.Bounds().Size()
	scale := min(1, float64(thumbSide)/float64(max(size.X, size.Y, 1)))
	copied := image.NewRGBA(image.Rect(0, 0, max(int(float64(size.X)*scale), 1), max(int(float64(size.Y)*scale), 1)))
	draw.ApproxBiLinear.Scale(copied, copied.Bounds(), whole, whole.Bounds(), draw.Src, nil)
	var out bytes.Buffer
	err = jpeg.Encode(&out, upright(copied, orientation(data)), nil)
	return out.Bytes(), err
}

// write puts a file on disk whole or not at all, unless it is there already.
func (d Dir) write(name string, data []byte) error {
	if err := os.MkdirAll(string(d), 0o700); err != nil {
		return disk.Full(err)
	}
	to := filepath.Join(string(d), name)
	if _, err := os.Stat(to); err == nil {
		return nil
	}
	return disk.Keep(to, data)
}

// Drop implements workshop.PhotoFiles.
func (d Dir) Drop(hash string) error {
	if !hashName.MatchString(hash) {
		return fs.ErrNotExist
	}
	for _, name := range []string{hash + thumbSuffix, hash} {
		if err := os.Remove(filepath.Join(string(d), name)); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
	}
	return nil
}

// What Check finds.
const (
	Missing  = "photo-missing"
	Damaged  = "photo-damaged"
	Orphaned = "photo-orphaned"
)

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

// aside is the folder within that SetAside moves files to.
const aside = "aside"

// settled is how old a file must be before it can be called an orphan: its record comes just after
// it.
const settled = time.Minute

// Orphans lists the files in the folder that belong to none of the hashes, which are sorted, in
// order. It returns the error of reading the folder; none where there is no folder.
func (d Dir) Orphans(hashes []string) ([]string, error) {
	files, err := os.ReadDir(string(d))
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	var out []string
	for _, f := range files {
		if _, known := slices.BinarySearch(hashes, strings.TrimSuffix(f.Name(), thumbSuffix)); known || f.IsDir() {
			continue
		}
		if info, err := f.Info(); err == nil && time.Since(info.ModTime()) > settled {
			out = append(out, f.Name())
		}
	}
	return out, err
}

// SetAside moves a file of the folder into the folder "aside" within. It returns the error of the
// file system.
func (d Dir) SetAside(name string) error {
	to := filepath.Join(string(d), aside)
	if err := os.MkdirAll(to, 0o700); err != nil {
		return err
	}
	if err := os.Rename(filepath.Join(string(d), name), filepath.Join(to, name)); err != nil {
		return err
	}
	return errors.Join(disk.SyncFolder(to), disk.SyncFolder(string(d)))
}

var hashName = regexp.MustCompile(`^[0-9a-f]{64}$`)

// thumbSuffix ends the name of a small copy.
const thumbSuffix = ".small"

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

// Thumbnail returns a small copy as a JPEG, made anew where it is missing. It returns the errors of
// Open, and an error where the picture cannot be decoded or the copy not be written.
func (d Dir) Thumbnail(ctx context.Context, hash string) ([]byte, error) {
	small := hash + thumbSuffix
	if data, err := os.ReadFile(filepath.Join(string(d), small)); err == nil && hashName.MatchString(hash) {
		return data, nil
	}
	data, _, err := d.Open(hash)
	if err != nil {
		return nil, err
	}
	out, err := shrunk(ctx, data)
	if err != nil {
		return nil, fmt.Errorf("photo %s: %w", hash, err)
	}
	return out, d.write(small, out)
}
