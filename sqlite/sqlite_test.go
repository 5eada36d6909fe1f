package sqlite

import (
	"database/sql"
	"errors"
	"os"
	"path/filepath"
	"testing"

	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/workshop"
)

func TestAnOlderDatabaseIsCopiedAsideBeforeItIsChanged(t *testing.T) {
	file := filepath.Join(t.TempDir(), "records.db")
	store, created, err := Open(t.Context(), file)
	require.NoError(t, err)
	assert.True(t, created)
	require.NoError(t, store.SaveSettings(t.Context(), workshop.Settings{Version: 1, AngleStep: 0.25}, 0))
	// As an earlier version would have left it: this migration not yet recorded.
	_, err = store.db.Exec(`DELETE FROM ` + goose.DefaultTablename + ` WHERE version_id > 0`)
	require.NoError(t, err)
	require.NoError(t, store.Close())

	_, _, err = Open(t.Context(), file)
	assert.Error(t, err, "the tables are there already, so the migration must fail and say so")
	copies, err := filepath.Glob(file + ".before-*")
	require.NoError(t, err)
	require.Len(t, copies, 1)
	db, err := sql.Open("sqlite", copies[0])
	require.NoError(t, err)
	defer db.Close()
	var document string
	require.NoError(t, db.QueryRow(`SELECT document FROM settings`).Scan(&document))
	assert.Contains(t, document, "0.25")
}

func TestAFailedWriteLeavesNothingBehind(t *testing.T) {
	store, _, err := Open(t.Context(), filepath.Join(t.TempDir(), "records.db"))
	require.NoError(t, err)
	defer store.Close()
	events := []workshop.Event{{ID: "a"}, {ID: "b"}}
	err = store.AppendEvents(t.Context(), "no such work", events)
	require.Error(t, err)
	log, err := store.Events(t.Context(), "no such work")
	require.NoError(t, err)
	assert.Empty(t, log)
}

func TestWhatIsNoDatabaseIsRefusedAndLeftAlone(t *testing.T) {
	file := filepath.Join(t.TempDir(), "records.db")
	require.NoError(t, os.WriteFile(file, []byte("these are notes, and no database at all"), 0o600))
	_, _, err := Open(t.Context(), file)
	require.Error(t, err)
	assert.False(t, errors.Is(err, workshop.ErrNotFound))
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, "these are notes, and no database at all", string(data))
}
