// Package disk puts files where they survive a killed process and a power cut.
package disk

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"syscall"

	"cressa/workshop"
)

// Keep writes a file whole or not at all, in the place of one that is there. It is on disk when
// the call returns; of one that failed nothing is left. It returns the errors of the file system,
// and workshop.ErrFull where the disk is full.
func Keep(path string, data []byte) (err error) {
	defer func() { err = Full(err) }()
	f, err := os.CreateTemp(filepath.Dir(path), filepath.Base(path)+".*")
	if err != nil {
		return err
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, os.Remove(f.Name()))
		}
	}()
	_, err = f.Write(data)
	if err := errors.Join(err, f.Sync(), f.Close()); err != nil {
		return err
	}
	if err := os.Rename(f.Name(), path); err != nil {
		return err
	}
	return SyncFolder(filepath.Dir(path))
}

// SyncFolder puts the names of a folder's files on disk.
func SyncFolder(path string) error {
	folder, err := os.Open(path)
	if err != nil {
		return err
	}
	return errors.Join(folder.Sync(), folder.Close())
}

// Writable tries whether files can be made in a folder.
func Writable(folder string) error {
	f, err := os.CreateTemp(folder, ".cressa-*")
	if err != nil {
		return err
	}
	return errors.Join(f.Close(), os.Remove(f.Name()))
}

// Match returns the paths of what lies in a folder under names of a pattern, as in path.Match, in
// order; the folder itself may be called anything. It returns none where there is no folder.
func Match(folder, pattern string) ([]string, error) {
	names, err := fs.Glob(os.DirFS(folder), pattern)
	for i, name := range names {
		names[i] = filepath.Join(folder, name)
	}
	return names, err
}

// Full is an error with workshop.ErrFull where it says that the disk has no room left.
func Full(err error) error {
	if errors.Is(err, syscall.ENOSPC) {
		return fmt.Errorf("%w: %w", workshop.ErrFull, err)
	}
	return err
}
