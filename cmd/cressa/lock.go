package main

import (
	"errors"
	"os"
	"path/filepath"
	"syscall"
)

// lockFile is held by whoever works in a folder of records.
const lockFile = "cressa.lock"

// hold keeps a folder of records from being replaced under a program, or, alone, from being used by
// any other meanwhile. The lock ends with the process, however that ends, or with release.
func hold(data string, alone bool) (release func() error, err error) {
	f, err := os.OpenFile(filepath.Join(data, lockFile), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, err
	}
	how := syscall.LOCK_SH
	if alone {
		how = syscall.LOCK_EX
	}
	if err := syscall.Flock(int(f.Fd()), how|syscall.LOCK_NB); err != nil {
		return nil, errors.Join(errHeld, f.Close())
	}
	return f.Close, nil
}

// errHeld: somebody else works in the folder.
var errHeld = errors.New("another Cressa works with these records; stop it first")
