package disk

import (
	"errors"
	"os"
	"syscall"
	"time"
)

// ErrHeld tells that another program holds a file or folder.
var ErrHeld = errors.New("another program holds it")

// Hold keeps a file or folder for its caller alone, or, shared, from those who want it alone. It
// ends with release, or with the process however that ends. It returns ErrHeld where another holds
// it, and the errors of the file system.
func Hold(path string, alone bool) (release func() error, err error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, err
	}
	how := syscall.LOCK_SH
	if alone {
		how = syscall.LOCK_EX
	}
	err = syscall.Flock(int(f.Fd()), how|syscall.LOCK_NB)
	if errors.Is(err, syscall.EWOULDBLOCK) {
		err = ErrHeld
	}
	if err != nil {
		return nil, errors.Join(err, f.Close())
	}
	return f.Close, nil
}

// Scrap makes a folder for work that is not done yet, and holds it until release. The pattern is
// that of os.MkdirTemp. Not every file system can hold a folder; there it is spared for a day.
func Scrap(within, pattern string) (path string, release func() error, err error) {
	if path, err = os.MkdirTemp(within, pattern); err != nil {
		return "", nil, err
	}
	release, err = Hold(path, true)
	if err != nil {
		return path, func() error { return nil }, nil
	}
	return path, release, nil
}

// How long Sweep spares a folder: until whoever has just made it holds it, and where folders cannot
// be held until no work can be under way any more.
const (
	untilHeld = time.Minute
	abandoned = 24 * time.Hour
)

// Sweep removes the folders that Scrap has made and whose programs were killed. It returns the
// errors of the file system.
func Sweep(within, pattern string) error {
	left, err := Match(within, pattern)
	for _, path := range left {
		info, gone := os.Stat(path)
		if gone != nil || time.Since(info.ModTime()) < untilHeld {
			continue
		}
		release, held := Hold(path, true)
		if errors.Is(held, ErrHeld) || held != nil && time.Since(info.ModTime()) < abandoned {
			continue
		}
		err = errors.Join(err, os.RemoveAll(path))
		if held == nil {
			err = errors.Join(err, release())
		}
	}
	return err
}
