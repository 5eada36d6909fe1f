package sqlite

import (
	"database/sql"
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/sweep"
	"cressa/workshop"
)

// older makes a database as the first version of the application left it.
func older(t *testing.T, file string, fill string) {
	t.Helper()
	db, err := sql.Open("sqlite", file)
	require.NoError(t, err)
	defer db.Close()
	steps, err := fs.Sub(migrations, "migrations")
	require.NoError(t, err)
	p, err := goose.NewProvider(goose.DialectSQLite3, db, steps)
	require.NoError(t, err)
	_, err = p.UpTo(t.Context(), 1)
	require.NoError(t, err)
	_, err = db.Exec(fill)
	require.NoError(t, err)
}

func TestAnOlderDatabaseIsCopiedAsideAndBroughtUpToDate(t *testing.T) {
	file := filepath.Join(t.TempDir(), "records.db")
	older(t, file, `
		INSERT INTO settings VALUES (1, '{"version":3,"answered":true,"gears":[64,96],"angleStep":0.25,"cheater":false,"tick":"tier",
			"passes":[{"id":"a","name":"Cut","lap":"600"}]}', 3);
		INSERT INTO diagram_revisions VALUES ('h', '{}', 'n', 'round', 96, 1.5, 1, 1, 1, 1, 1, '{}', '2026-01-01T00:00:00Z');
		INSERT INTO stones VALUES ('s', 1, 'old', '2026-01-01T00:00:00Z', 1);
		INSERT INTO works VALUES ('w', 's', 1, 'first-cut');
		INSERT INTO plans VALUES ('w', 1, 'h', 'h', '{"no":1,"turn":1.25,"choices":{"material":"Spinel","gear":80,"firstSide":"crown"}}')`)
	store, created, err := Open(t.Context(), file)
	require.NoError(t, err)
	defer store.Close()
	assert.False(t, created)
	copies, err := filepath.Glob(file + ".before-*")
	require.NoError(t, err)
	assert.Len(t, copies, 1)

	settings, err := store.Settings(t.Context())
	require.NoError(t, err)
	m, h := settings.MachineOf(""), settings.HabitsOf("")
	assert.True(t, settings.Answered)
	assert.Equal(t, 3, settings.Version)
	assert.Equal(t, []int{64, 96}, m.Gears)
	assert.Equal(t, 0.25, m.AngleStep)
	assert.Equal(t, workshop.CheaterNone, m.Cheater)
	assert.Equal(t, "tier", h.Tick)
	assert.Equal(t, []workshop.Pass{{ID: "a", Name: "Cut", Lap: "600"}}, h.Passes)
	stone, err := store.Stone(t.Context(), "s")
	require.NoError(t, err)
	assert.Equal(t, 1.25, stone.Work.Plan.Turns.Crown)
	assert.Equal(t, m.ID, stone.Work.Plan.Choices.Machine)
	assert.Equal(t, workshop.GirdlePolished, stone.Work.Plan.Choices.GirdleFinish)
}

func TestAMigrationThatFailsLeavesTheCopyAside(t *testing.T) {
	file := filepath.Join(t.TempDir(), "records.db")
	older(t, file, `ALTER TABLE diagrams ADD COLUMN origin TEXT`)
	_, _, err := Open(t.Context(), file)
	require.Error(t, err, "the column is there already, so the migration must fail and say so")
	copies, err := filepath.Glob(file + ".before-*")
	require.NoError(t, err)
	assert.Len(t, copies, 1)
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

func TestTheNewestSweepsOfADiagramAreKept(t *testing.T) {
	ctx := t.Context()
	store, _, err := Open(ctx, filepath.Join(t.TempDir(), "records.db"))
	require.NoError(t, err)
	defer store.Close()
	for _, id := range []string{"a", "b"} {
		require.NoError(t, store.InsertDiagram(ctx, workshop.Diagram{ID: id}, nil))
	}
	now := time.Date(2026, 3, 1, 12, 0, 0, 0, time.UTC)
	insert := func(id, diagram string) error {
		return store.InsertSweep(ctx, workshop.Sweep{ID: id, DiagramID: diagram, Points: []sweep.Point{{X: 1.5}}, Created: now}, 2)
	}
	for _, id := range []string{"1", "2", "3"} {
		require.NoError(t, insert(id, "a"))
	}
	require.NoError(t, insert("other", "b"))
	require.Error(t, insert("lost", "nowhere"))
	list, err := store.Sweeps(ctx, "a")
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, "3", list[0].ID)
	assert.Equal(t, "2", list[1].ID)
	kept, err := store.Sweep(ctx, "other")
	require.NoError(t, err)
	assert.Equal(t, []sweep.Point{{X: 1.5}}, kept.Points)
	assert.Equal(t, now, kept.Created)
	_, err = store.Sweep(ctx, "1")
	require.ErrorIs(t, err, workshop.ErrNotFound)

	// What goes for good takes its sweeps along.
	require.NoError(t, store.HideDiagram(ctx, "b", &now))
	require.NoError(t, store.DropHidden(ctx, now.Add(time.Hour)))
	_, err = store.Sweep(ctx, "other")
	require.ErrorIs(t, err, workshop.ErrNotFound)
}
