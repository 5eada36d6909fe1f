// Package template makes a file once for the tests of a package and gives each of them a copy: new
// records cost a second under the race detector.
package template

import (
	"os"
	"path/filepath"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"
)

// Of returns a function that puts a copy of what make makes where a test wants it. Make gets the
// path of a file that is not there; it must leave nothing open.
func Of(make func(file string) error) func(t testing.TB, file string) {
	made := sync.OnceValues(func() (_ []byte, err error) {
		dir, err := os.MkdirTemp("", "cressa-template-")
		if err != nil {
			return nil, err
		}
		defer os.RemoveAll(dir)
		file := filepath.Join(dir, "made")
		if err := make(file); err != nil {
			return nil, err
		}
		return os.ReadFile(file)
	})
	return func(t testing.TB, file string) {
		t.Helper()
		data, err := made()
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(file, data, 0o600))
	}
}
