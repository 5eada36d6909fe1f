package main

import (
	"errors"
	"os"
	"path/filepath"

	"cressa/disk"
)

// lockFile is held by whoever works in a folder of records.
const lockFile = "cressa.lock"

// hold keeps a folder of records from being replaced under a program, or, alone, from being used by
// any other meanwhile. The lock ends with the process, however that ends, or with release.
func hold(data string, alone bool) (release func() error, err error) {
	path := filepath.Join(data, lockFile)
	f, err := os.OpenFile(path, os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, err
	}
	if err := f.Close(); err != nil {
		return nil, err
	}
	if release, err = disk.Hold(path, alone); errors.Is(err, disk.ErrHeld) {
		return nil, errHeld
	}
	return release, err
}

// errHeld: somebody else works in the folder.
var errHeld = errors.New("another Cressa works with these records; stop it first")
