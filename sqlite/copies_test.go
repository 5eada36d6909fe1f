package sqlite_test

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/copies"
	"cressa/sqlite"
	"cressa/workshop"
)

// A copy may be older than the program by any number of versions: of rows in every table, and of
// what releases left.
func TestACopyOfEveryVersionComesBack(t *testing.T) {
	made := map[string]func(file string){}
	for version := 1; version <= sqlite.Versions; version++ {
		made[fmt.Sprint("schema ", version)] = func(file string) { sqlite.AsOf(t, file, version) }
	}
	for _, release := range releases(t) {
		made[release] = func(file string) { unpacked(t, release, file) }
	}
	for name, make := range made {
		t.Run(name, func(t *testing.T) {
			from, into := copies.Folder(t.TempDir()), copies.Folder(t.TempDir())
			make(filepath.Join(string(from), copies.Records))
			file := filepath.Join(t.TempDir(), "copy.zip")
			m, err := from.Write(t.Context(), file, nil)
			require.NoError(t, err)
			assert.Positive(t, m.Contents.Stones)
			assert.Positive(t, m.Contents.Diagrams)
			assert.Positive(t, m.Contents.Events)
			assert.False(t, m.Last.IsZero())
			_, err = into.Stage(t.Context(), file, nil)
			require.NoError(t, err)
			kept, err := into.Finish()
			require.NoError(t, err)
			assert.Empty(t, kept)
			back, err := into.Contents(t.Context())
			require.NoError(t, err)
			assert.Equal(t, sqlite.Schema(), back.Contents.Schema)
			assert.Equal(t, m.Contents.Stones, back.Contents.Stones)
			assert.Equal(t, m.Contents.Diagrams, back.Contents.Diagrams)
			assert.GreaterOrEqual(t, back.Contents.Events, m.Contents.Events, "plans and cards are in the log since version 8")
			store, err := sqlite.Open(t.Context(), filepath.Join(string(into), copies.Records))
			require.NoError(t, err)
			defer func() { require.NoError(t, store.Close()) }()
			// What is derived was made anew.
			found, err := workshop.New(store, time.Now).CheckStates(t.Context(), false)
			require.NoError(t, err)
			assert.Empty(t, found)
			left, err := os.ReadDir(string(into))
			require.NoError(t, err)
			assert.LessOrEqual(t, len(left), 4, "no copy of the copy")
		})
	}
}
