package sqlite

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/internal/template"
	"cressa/workshop"
	"cressa/workshop/journal"
	"cressa/workshop/storetest"
)

// older makes a database as the first version of the application left it.
func older(t *testing.T, file string, fill string) {
	t.Helper()
	db, err := sql.Open("sqlite", file)
	require.NoError(t, err)
	defer db.Close()
	p, err := provider(db)
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
	store, err := Open(t.Context(), file)
	require.NoError(t, err)
	defer store.Close()
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
	assert.Equal(t, workshop.TickTier, h.Tick)
	assert.Equal(t, []workshop.Pass{{ID: "a", Name: "Cut", Lap: "600"}}, h.Passes)
	stone, err := store.Stone(t.Context(), "s")
	require.NoError(t, err)
	assert.Equal(t, 1.25, stone.Work().Plan.Turns.Crown)
	assert.Equal(t, m.ID, stone.Work().Plan.Choices.Machine)
	assert.Empty(t, stone.Work().Plan.Choices.Uses, "every tier had every pass")
	assert.Equal(t, workshop.TableEach, stone.Work().Plan.Choices.TableAt)
}

func TestAMigrationThatFailsLeavesTheCopyAside(t *testing.T) {
	file := filepath.Join(t.TempDir(), "records.db")
	older(t, file, `ALTER TABLE diagrams ADD COLUMN origin TEXT`)
	_, err := Open(t.Context(), file)
	require.Error(t, err, "the column is there already, so the migration must fail and say so")
	copies, err := filepath.Glob(file + ".before-*")
	require.NoError(t, err)
	assert.Len(t, copies, 1)
}

func TestWhatIsNoDatabaseIsRefusedAndLeftAlone(t *testing.T) {
	file := filepath.Join(t.TempDir(), "records.db")
	require.NoError(t, os.WriteFile(file, []byte("these are notes, and no database at all"), 0o600))
	_, err := Open(t.Context(), file)
	require.Error(t, err)
	assert.False(t, errors.Is(err, workshop.ErrNotFound))
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, "these are notes, and no database at all", string(data))
}

// empty writes records that have nothing yet.
var empty = template.Of(func(file string) error {
	store, err := Open(context.Background(), file)
	if err != nil {
		return err
	}
	return store.Close()
})

func open(t *testing.T) *Store {
	t.Helper()
	file := filepath.Join(t.TempDir(), "records.db")
	empty(t, file)
	store, err := Open(t.Context(), file)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, store.Close()) })
	return store
}

func TestTheStoreIsWhatTheWorkshopAsksFor(t *testing.T) {
	storetest.Run(t, func(t *testing.T) workshop.Store { return open(t) })
}

// A database that somebody else holds, or a disk that is full, is busy: it says nothing of
// the record that was asked for.
func TestAFileThatIsHeldIsBusy(t *testing.T) {
	file := filepath.Join(t.TempDir(), "records.db")
	store, err := Open(t.Context(), file)
	require.NoError(t, err)
	defer store.Close()
	other, err := sql.Open("sqlite", file+"?_txlock=exclusive")
	require.NoError(t, err)
	defer other.Close()
	tx, err := other.Begin()
	require.NoError(t, err)
	_, err = tx.Exec(`INSERT INTO library_fills (name) VALUES ('x')`)
	require.NoError(t, err)
	_, err = store.db.Exec(`PRAGMA busy_timeout = 1`)
	require.NoError(t, err)
	store.db.SetMaxOpenConns(1)
	err = store.InsertDevice(t.Context(), workshop.Device{ID: "a"}, "h")
	require.ErrorIs(t, err, workshop.ErrBusy)
	assert.NotErrorIs(t, err, workshop.ErrNotFound)
	require.NoError(t, tx.Rollback())
	_, err = store.db.Exec(`PRAGMA max_page_count = 1`)
	require.NoError(t, err)
	full := make([]byte, 1<<20)
	err = store.InsertDevice(t.Context(), workshop.Device{ID: "a", Name: string(full)}, "h")
	require.ErrorIs(t, err, workshop.ErrFull)
}

// rowsOf fills what each version of the schema brought.
var rowsOf = []string{
	1: `INSERT INTO settings VALUES (1, '{"version":3,"answered":true,"gears":[64,96],"angleStep":0.25,"cheater":false,"tick":"tier","passes":[{"id":"a","name":"Cut","lap":"600"}]}', 3);
		INSERT INTO diagram_revisions VALUES ('h', '{}', 'n', 'round', 96, 1.5, 1, 1, 1, 1, 1, '{}', '2026-01-01T00:00:00.5Z');
		INSERT INTO diagrams (id, starter, revision, draft, version, created, updated, hidden) VALUES ('d', 1, 'h', '{"name":"n","tiers":[]}', 2, '2026-01-01T00:00:00Z', '2026-01-01T00:00:00.25Z', NULL);
		INSERT INTO diagram_history VALUES ('d', 'h', '2026-01-01T00:00:00Z');
		INSERT INTO stones VALUES ('s', 1, 'old', '2026-01-01T00:00:00Z', 1);
		INSERT INTO works VALUES ('w', 's', 1, 'first-cut');
		INSERT INTO setups VALUES ('s1', 'w', 1, 'pavilion', 0, '[1,0,0,0,1,0,0,0,1]'), ('s2', 'w', 2, 'crown', 0, '[1,0,0,0,1,0,0,0,1]');
		INSERT INTO plans VALUES ('w', 1, 'h', 'h', '{"no":1,"turn":1.25,"facets":["f1"],"choices":{"material":"Spinel","gear":80,"firstSide":"crown","passes":[{"id":"a","name":"Cut","lap":"600"}]}}');
		INSERT INTO events VALUES (7, '00000000000000000000000000000001', 'w', 'tablet', 3, '2026-01-01T00:00:01Z', '2026-01-01T00:00:02Z', 'note', '', '', '', '', '', 'a veil');
		INSERT INTO finishes VALUES ('w', '{"version":1,"finishedCarats":1.5,"finished":"2026-02-01"}', 1)`,
	2: ``,
	3: `UPDATE diagrams SET origin = 'mail', sense_chosen = 1`,
	4: `INSERT INTO devices VALUES ('t', 'Tablet', 'hash', '2026-01-01T00:00:00Z', '2026-01-02T00:00:00Z')`,
	5: `INSERT INTO runs VALUES ('r', 'Pair', 'tier', '2026-01-01T00:00:00Z'); UPDATE stones SET run = 'r', run_place = 1`,
	6: `INSERT INTO photos VALUES ('p', 's', 'hash', '2026-01-01T00:00:00Z', 'before')`,
	7: `INSERT INTO sweeps VALUES ('x', 'd', '{"name":"n","tiers":[]}', '{}', 3.1, '[]', '2026-01-01T00:00:00Z')`,
}

// AsOf makes a file of records as the given version of the schema left them, with a row in every
// table.
func AsOf(t *testing.T, file string, version int) {
	t.Helper()
	db, err := sql.Open("sqlite", file)
	require.NoError(t, err)
	p, err := provider(db)
	require.NoError(t, err)
	for v := 1; v <= version; v++ {
		_, err = p.UpTo(t.Context(), int64(v))
		require.NoError(t, err)
		_, err = db.Exec(rowsOf[v])
		require.NoError(t, err)
	}
	require.NoError(t, db.Close())
}

// Versions are those that AsOf makes: 1 to 7.
const Versions = 7

// Whichever version left them: records are brought up to date with every row, and the copy
// aside is what was there.
func TestEverySchemaVersionIsBroughtUpToDate(t *testing.T) {
	for version := 1; version <= Versions; version++ {
		t.Run(fmt.Sprint("version ", version), func(t *testing.T) {
			file := filepath.Join(t.TempDir(), "records.db")
			AsOf(t, file, version)
			store, err := Open(t.Context(), file)
			require.NoError(t, err)
			defer store.Close()
			ctx := t.Context()
			stone, err := store.Stone(ctx, "s")
			require.NoError(t, err)
			work := stone.Work()
			assert.Equal(t, "old", stone.Name)
			assert.Equal(t, 1.25, work.Plan.Turns.Crown)
			assert.Equal(t, []string{"s1", "s2"}, []string{work.Plan.Setups[0].ID, work.Plan.Setups[1].ID})
			assert.Equal(t, 1.5, work.Finish.FinishedCarats)
			log, err := store.Events(ctx, []string{"w"}, 0, 0)
			require.NoError(t, err)
			require.Len(t, log, 3, "the note, the plan, the card")
			assert.Equal(t, time.Date(2026, 1, 1, 0, 0, 1, 0, time.UTC), log[0].DeviceTime)
			require.NoError(t, workshop.New(store, time.Now).Refresh(ctx))
			line, err := store.Stones(ctx, workshop.StoneFilter{ID: "s"}, workshop.Cursor{}, 1)
			require.NoError(t, err)
			assert.Equal(t, journal.Complete, line.Lines[0].State)
			d, err := store.Diagram(ctx, "d")
			require.NoError(t, err)
			assert.True(t, d.Edited, "its version says nothing")
			assert.Equal(t, version >= 3, d.Origin == "mail")
			_, err = store.Revision(ctx, d.Revision)
			require.ErrorIs(t, err, workshop.ErrUnreadable, "what cannot be read is told, and takes nothing along")
			// The copy aside opens, and is what was there.
			copies, err := filepath.Glob(file + ".before-*")
			require.NoError(t, err)
			require.Len(t, copies, 1)
			aside, err := sql.Open("sqlite", copies[0])
			require.NoError(t, err)
			defer aside.Close()
			var name, at string
			require.NoError(t, aside.QueryRow(`SELECT name, created FROM stones`).Scan(&name, &at))
			assert.Equal(t, "old", name)
			found, err := store.Check(ctx)
			require.NoError(t, err)
			assert.Len(t, found, 1, "the one version: %v", found)
		})
	}
}
