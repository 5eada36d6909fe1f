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
	"regexp"
	"time"

	"cressa/disk"
	"cressa/sqlite"
	"cressa/workshop"
)

// maxManifest bounds what an archive says of itself; a hundred thousand pictures take less.
const maxManifest = 32 << 20

var photoName = regexp.MustCompile(`^photos/[0-9a-f]{64}$`)

// Read returns what a copy says that it holds. It returns a Refusal where the file is no copy, is
// damaged as far as that shows without reading all of it, or was written by a newer version.
func Read(file string) (Manifest, error) {
	var m Manifest
	err := withArchive(file, func(of Manifest, _ map[string]*zip.File) error {
		m = of
		return nil
	})
	return m, err
}

// withArchive opens a copy and calls each with what it says and its files by name, all of which the
// manifest names.
func withArchive(file string, each func(Manifest, map[string]*zip.File) error) (err error) {
	info, err := os.Stat(file)
	if err != nil {
		return err
	}
	z, err := zip.OpenReader(file)
	if err != nil {
		return Refusal{file, "it is no copy of Cressa's, or it is damaged: " + err.Error()}
	}
	defer func() { err = errors.Join(err, z.Close()) }()
	damaged := func(says string) error { return Refusal{file, "the copy is damaged: " + says} }
	files := map[string]*zip.File{}
	for _, f := range z.File {
		if files[f.Name] != nil {
			return damaged(fmt.Sprintf("%q is there twice", f.Name))
		}
		files[f.Name] = f
	}
	described := files[manifestName]
	if described == nil || described.UncompressedSize64 > maxManifest {
		return Refusal{file, "it is no copy of Cressa's: it does not say what is in it"}
	}
	delete(files, manifestName)
	var m Manifest
	r, err := described.Open()
	if err != nil {
		return damaged(err.Error())
	}
	err = json.NewDecoder(io.LimitReader(r, maxManifest)).Decode(&m)
	if err := errors.Join(err, r.Close()); err != nil {
		return damaged(err.Error())
	}
	switch {
	case m.Format != format:
		return Refusal{file, fmt.Sprintf("it is a copy of another kind (%q); a newer version of Cressa may have written it", m.Format)}
	case m.Contents.Schema > sqlite.Schema():
		return Refusal{file, fmt.Sprintf("it was written by a newer version of Cressa (records of version %d, this one knows %d); bring it back with that version", m.Contents.Schema, sqlite.Schema())}
	case len(files) != len(m.Files) || files[recordsName] == nil:
		return damaged("files are missing in it, or were added")
	}
	for _, f := range m.Files {
		is := files[f.Name]
		if is == nil || is.UncompressedSize64 != uint64(f.Bytes) || f.Name != recordsName && !photoName.MatchString(f.Name) {
			return damaged(fmt.Sprintf("%q is not what was put in", f.Name))
		}
	}
	m.Contents.Bytes = info.Size()
	return each(m, files)
}

// staged is what was taken out of a copy and waits to take the records' place.
const (
	stagePattern = ".restore-*"
	marker       = "restore.json"
)

// swap says which files take whose place. It is on disk before the first is moved, so that a
// program that is killed in between goes on with it at its next start.
type swap struct {
	// Staged is the folder of the new files, Aside that of the old ones, both within the folder of
	// the records.
	Staged string `json:"staged"`
	Aside  string `json:"aside"`
}

// Stage takes all out of a copy, looks whether it is whole, brings the records up to date and makes
// anew what is derived. Nothing of the folder is changed: Finish puts it in its place. It returns a
// Refusal where the copy is damaged or newer, and workshop.ErrFull where the disk is full.
func (f Folder) Stage(ctx context.Context, file string, tell Progress) (m Manifest, err error) {
	defer func() { err = disk.Full(err) }()
	if err := os.MkdirAll(string(f), 0o700); err != nil {
		return m, err
	}
	stage, release, err := disk.Scrap(string(f), stagePattern)
	if err != nil {
		return m, err
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, os.RemoveAll(stage))
		}
		err = errors.Join(err, release())
	}()
	err = withArchive(file, func(of Manifest, files map[string]*zip.File) error {
		m = of
		progress := &told{tell: tell}
		for _, item := range m.Files {
			progress.total += item.Bytes
		}
		if err := os.Mkdir(filepath.Join(stage, Photos), 0o700); err != nil {
			return err
		}
		for _, item := range m.Files {
			to := filepath.Join(stage, filepath.FromSlash(item.Name))
			if item.Name == recordsName {
				to = filepath.Join(stage, Records)
			}
			if err := unpack(ctx, files[item.Name], item, to, progress); err != nil {
				return err
			}
		}
		return nil
	})
	var changed changedFile
	if errors.As(err, &changed) {
		return m, Refusal{file, fmt.Sprintf("the copy is damaged: %q is not what was put in", string(changed))}
	}
	if err != nil {
		return m, err
	}
	if err := f.upToDate(ctx, filepath.Join(stage, Records)); err != nil {
		if errors.As(err, &sqlite.Refusal{}) {
			return m, Refusal{file, "its records cannot be used: " + err.Error()}
		}
		return m, err
	}
	now := time.Now().UTC().Format("20060102T150405.000")
	for _, folder := range []string{filepath.Join(stage, Photos), stage} {
		if err := disk.SyncFolder(folder); err != nil {
			return m, err
		}
	}
	return m, f.mark(swap{filepath.Base(stage), "replaced-" + now})
}

// changedFile is a file of an archive that is not what its manifest says.
type changedFile string

func (c changedFile) Error() string { return string(c) + " is not what was put in" }

// ofArchive reads a file of an archive; what cannot be read of it was changed.
type ofArchive struct {
	name string
	from io.Reader
}

func (a ofArchive) Read(p []byte) (int, error) {
	n, err := a.from.Read(p)
	if err != nil && !errors.Is(err, io.EOF) {
		err = changedFile(a.name)
	}
	return n, err
}

// unpack writes one file of an archive, no more than it is to have.
func unpack(ctx context.Context, from *zip.File, want File, to string, progress io.Writer) (err error) {
	r, err := from.Open()
	if err != nil {
		return changedFile(want.Name)
	}
	defer func() { err = errors.Join(err, r.Close()) }()
	out, err := os.OpenFile(to, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, out.Close()) }()
	d := digest(out)
	if err := pour(ctx, io.MultiWriter(d, progress), io.LimitReader(ofArchive{want.Name, r}, want.Bytes+1)); err != nil {
		return err
	}
	if d.bytes != want.Bytes || d.hash() != want.SHA256 {
		return changedFile(want.Name)
	}
	return out.Sync()
}

// upToDate brings staged records to the present version, names them anew, and derives what is
// derived. The devices that are let in stay those of the folder.
func (f Folder) upToDate(ctx context.Context, file string) error {
	store, err := sqlite.Open(ctx, file)
	if err != nil {
		return err
	}
	err = errors.Join(store.NameAnew(ctx), store.TakeDevices(ctx, f.records()), workshop.New(store, time.Now).Refresh(ctx))
	if err := errors.Join(err, store.Close()); err != nil {
		return err
	}
	// The archive is the copy that an upgrade puts aside.
	asides, err := disk.Match(filepath.Split(file + ".before-*"))
	for _, aside := range asides {
		err = errors.Join(err, os.Remove(aside))
	}
	return err
}

// mark writes down that a swap has begun.
func (f Folder) mark(s swap) error {
	data, err := json.Marshal(s)
	if err != nil {
		return err
	}
	return disk.Keep(filepath.Join(string(f), marker), data)
}

// Pending tells that Finish has something to do.
func (f Folder) Pending() bool { return exists(filepath.Join(string(f), marker)) }

// Finish puts staged records in the place of those that the folder has, which it keeps in a folder
// of their own and returns the name of, "" where it had none. It goes on where it was killed, and
// does nothing where nothing is staged. No program may have the records open.
func (f Folder) Finish() (kept string, err error) {
	data, err := os.ReadFile(filepath.Join(string(f), marker))
	if errors.Is(err, fs.ErrNotExist) {
		return "", nil
	}
	if err != nil {
		return "", err
	}
	var s swap
	if err := json.Unmarshal(data, &s); err != nil || s.Staged == "" || s.Aside == "" || filepath.Base(s.Staged) != s.Staged || filepath.Base(s.Aside) != s.Aside {
		return "", fmt.Errorf("%s does not say what takes whose place; remove it if no copy is being brought back", filepath.Join(string(f), marker))
	}
	stage, aside := filepath.Join(string(f), s.Staged), filepath.Join(string(f), s.Aside)
	if err := os.MkdirAll(aside, 0o700); err != nil {
		return "", err
	}
	for _, name := range []string{Records, Photos} {
		if !exists(filepath.Join(stage, name)) {
			continue // it is in its place already
		}
		moved := []string{name}
		if name == Records {
			// What belongs to the old records goes first: it must never lie beside the new ones.
			moved = []string{Records + "-wal", Records + "-shm", Records}
		}
		for _, old := range moved {
			if from := filepath.Join(string(f), old); exists(from) {
				if err := rename(from, filepath.Join(aside, old)); err != nil {
					return "", err
				}
			}
		}
		if err := errors.Join(disk.SyncFolder(aside), disk.SyncFolder(string(f))); err != nil {
			return "", err
		}
		if err := rename(filepath.Join(stage, name), filepath.Join(string(f), name)); err != nil {
			return "", err
		}
	}
	if err := disk.SyncFolder(string(f)); err != nil {
		return "", err
	}
	// An empty folder was made for nothing.
	if err := os.Remove(aside); err != nil {
		kept = s.Aside
	}
	return kept, errors.Join(os.Remove(filepath.Join(string(f), marker)), os.RemoveAll(stage), disk.SyncFolder(string(f)))
}

// Tidy removes what a restore that was killed has left in the folder.
func (f Folder) Tidy() error {
	if f.Pending() {
		return nil
	}
	return disk.Sweep(string(f), stagePattern)
}

// rename moves a file; tests have it fail.
var rename = os.Rename

func exists(path string) bool {
	_, err := os.Lstat(path)
	return err == nil
}
