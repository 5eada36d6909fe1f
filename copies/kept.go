package copies

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"time"

	"cressa/disk"
)

// Beside is the folder for copies within that of the records.
const Beside = "copies"

// Suffix ends the name of a copy.
const Suffix = ".cressa.zip"

// Names of copies that the program makes by itself tell when, so that they sort by age. Rotation
// touches no others.
const (
	namePrefix = "cressa-"
	nameTime   = "2006-01-02-150405.000"
)

var keptName = regexp.MustCompile(`^[^/\\]{1,200}\.cressa\.zip$`)

// Kept is a copy in a folder of them.
type Kept struct {
	Name string
	Manifest
	// Problem is why it cannot be brought back, "" where it can.
	Problem string
}

// Shelf is a folder of copies.
type Shelf string

// Path is the file of a copy. It returns fs.ErrNotExist where the name cannot be one's.
func (s Shelf) Path(name string) (string, error) {
	if !keptName.MatchString(name) || strings.HasPrefix(name, ".") {
		return "", fs.ErrNotExist
	}
	return filepath.Join(string(s), name), nil
}

// List returns the copies on the shelf, the newest first; none where there is no such folder.
func (s Shelf) List() ([]Kept, error) {
	files, err := os.ReadDir(string(s))
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	var out []Kept
	for _, f := range files {
		path, bad := s.Path(f.Name())
		if bad != nil || f.IsDir() {
			continue
		}
		k := Kept{Name: f.Name()}
		if k.Manifest, bad = Read(path); bad != nil {
			k.Problem = strings.TrimPrefix(bad.Error(), path+": ")
			if info, err := f.Info(); err == nil {
				k.Made, k.Contents.Bytes = info.ModTime().UTC(), info.Size()
			}
		}
		out = append(out, k)
	}
	slices.SortFunc(out, func(a, b Kept) int { return b.Made.Compare(a.Made) })
	return out, err
}

// Add writes a copy of the folder onto the shelf, and takes away the oldest of those that were
// added by this where there are more than keep. It returns the errors of Write.
func (s Shelf) Add(ctx context.Context, of Folder, keep int, tell Progress) (name string, err error) {
	if err := os.MkdirAll(string(s), 0o700); err != nil {
		return "", err
	}
	if err := disk.Sweep(string(s), scrapPattern); err != nil {
		return "", err
	}
	name = namePrefix + time.Now().UTC().Format(nameTime) + Suffix
	if _, err := of.Write(ctx, filepath.Join(string(s), name), tell); err != nil {
		return "", err
	}
	return name, s.rotate(keep)
}

// Check tells whether copies can be put here. It makes the folder where there is none.
func (s Shelf) Check() error {
	if err := os.MkdirAll(string(s), 0o700); err != nil {
		return err
	}
	return disk.Writable(string(s))
}

func (s Shelf) rotate(keep int) error {
	files, err := disk.Match(string(s), namePrefix+"*"+Suffix)
	if err != nil {
		return err
	}
	files = slices.DeleteFunc(files, func(path string) bool {
		_, err := time.Parse(namePrefix+nameTime+Suffix, filepath.Base(path))
		return err != nil
	})
	slices.Sort(files)
	for len(files) > keep {
		if err := os.Remove(files[0]); err != nil {
			return fmt.Errorf("making room: %w", err)
		}
		files = files[1:]
	}
	return nil
}

// Take puts a copy that comes from elsewhere onto the shelf, once it has come whole. It returns a
// Refusal where it is no copy, and the errors of reading and writing.
func (s Shelf) Take(ctx context.Context, from io.Reader) (_ Kept, err error) {
	defer func() { err = disk.Full(err) }()
	if err := os.MkdirAll(string(s), 0o700); err != nil {
		return Kept{}, err
	}
	scrap, release, err := disk.Scrap(string(s), scrapPattern)
	if err != nil {
		return Kept{}, err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(scrap), release()) }()
	f, err := os.OpenFile(filepath.Join(scrap, "copy"), os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return Kept{}, err
	}
	if err := errors.Join(pour(ctx, f, from), f.Sync(), f.Close()); err != nil {
		return Kept{}, err
	}
	m, err := Read(f.Name())
	if err != nil {
		var refusal Refusal
		if errors.As(err, &refusal) {
			err = Refusal{"The file", refusal.Says}
		}
		return Kept{}, err
	}
	name := "brought-" + time.Now().UTC().Format(nameTime) + Suffix
	if err := os.Rename(f.Name(), filepath.Join(string(s), name)); err != nil {
		return Kept{}, err
	}
	return Kept{Name: name, Manifest: m}, disk.SyncFolder(string(s))
}
