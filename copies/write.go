package copies

import (
	"archive/zip"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"time"

	"cressa/disk"
	"cressa/sqlite"
)

// scrapPattern names what a copy is made in, beside its place.
const scrapPattern = ".cressa-copy-*"

// Write puts all that the folder holds into a new file, as it is at one moment, also while a program
// works on it. The file is there whole or not at all. It returns a Refusal where there is such a
// file already, fs.ErrNotExist where the folder has no records, the Refusals of package sqlite, and
// workshop.ErrFull where the disk is full.
func (f Folder) Write(ctx context.Context, to string, tell Progress) (_ Manifest, err error) {
	defer func() { err = disk.Full(err) }()
	if _, err := os.Stat(to); err == nil {
		return Manifest{}, Refusal{to, "there is such a file already; name another"}
	}
	if _, err := os.Stat(f.records()); err != nil {
		return Manifest{}, err
	}
	// A copy of what is damaged must not take the place of older ones that are whole.
	if err := sqlite.Look(ctx, f.records()); err != nil {
		return Manifest{}, err
	}
	scrap, release, err := disk.Scrap(filepath.Dir(to), scrapPattern)
	if err != nil {
		return Manifest{}, err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(scrap), release()) }()
	snapshot := filepath.Join(scrap, recordsName)
	made := time.Now().UTC().Truncate(time.Second)
	if err := sqlite.CopyTo(ctx, f.records(), snapshot); err != nil {
		return Manifest{}, err
	}
	of, err := sqlite.Summarise(ctx, snapshot)
	m := f.of(of)
	if err != nil {
		return m, err
	}
	m.Made = made
	archive := filepath.Join(scrap, "copy")
	if err := f.archive(ctx, archive, snapshot, of.Photos, &m, tell); err != nil {
		return m, err
	}
	info, err := os.Stat(archive)
	if err != nil {
		return m, err
	}
	m.Contents.Bytes = info.Size()
	// A link fails where somebody has made such a file meanwhile; renaming would replace it.
	if err := os.Link(archive, to); err != nil {
		if errors.Is(err, fs.ErrExist) {
			return m, Refusal{to, "there is such a file already; name another"}
		}
		if err := os.Rename(archive, to); err != nil {
			return m, err
		}
	}
	return m, disk.SyncFolder(filepath.Dir(to))
}

// archive writes the file itself. The pictures come before the records: one that is taken off its
// stone meanwhile goes out of the records too.
func (f Folder) archive(ctx context.Context, to, snapshot string, hashes []string, m *Manifest, tell Progress) (err error) {
	out, err := os.OpenFile(to, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, out.Close()) }()
	z := zip.NewWriter(out)
	progress := &told{total: m.Contents.Bytes, tell: tell}
	for _, hash := range hashes {
		picture, err := os.Open(filepath.Join(string(f.Pictures()), hash))
		if errors.Is(err, fs.ErrNotExist) {
			m.Missing = append(m.Missing, hash)
			continue
		}
		if err != nil {
			return err
		}
		// Pictures are packed already.
		file, err := pack(ctx, z, photosName+hash, zip.Store, io.TeeReader(picture, progress))
		if err := errors.Join(err, picture.Close()); err != nil {
			return err
		}
		m.Files = append(m.Files, file)
	}
	if err := f.forget(ctx, snapshot, m); err != nil {
		return err
	}
	records, err := os.Open(snapshot)
	if err != nil {
		return err
	}
	file, err := pack(ctx, z, recordsName, zip.Deflate, io.TeeReader(records, progress))
	if err := errors.Join(err, records.Close()); err != nil {
		return err
	}
	m.Files = append(m.Files, file)
	w, err := z.Create(manifestName)
	if err != nil {
		return err
	}
	e := json.NewEncoder(w)
	e.SetIndent("", "  ")
	return errors.Join(e.Encode(m), z.Close(), out.Sync())
}

// forget takes pictures out of the snapshot that were taken off their stones while the others were
// copied. Those that the records still show and that are not there stay missing.
func (f Folder) forget(ctx context.Context, snapshot string, m *Manifest) error {
	if len(m.Missing) == 0 {
		return nil
	}
	now, err := sqlite.Describe(ctx, f.records())
	if err != nil {
		return err
	}
	var gone []string
	for _, hash := range m.Missing {
		if _, shown := slices.BinarySearch(now.Photos, hash); !shown {
			gone = append(gone, hash)
		}
	}
	m.Missing = slices.DeleteFunc(m.Missing, func(hash string) bool { return slices.Contains(gone, hash) })
	m.Contents.Photos -= len(gone)
	return sqlite.ForgetPhotos(ctx, snapshot, gone)
}

func pack(ctx context.Context, z *zip.Writer, name string, method uint16, from io.Reader) (File, error) {
	w, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: method})
	if err != nil {
		return File{}, err
	}
	d := digest(w)
	if err := pour(ctx, d, from); err != nil {
		return File{}, fmt.Errorf("%s: %w", name, err)
	}
	return File{name, d.bytes, d.hash()}, nil
}
