package sqlite

import (
	"bytes"
	"context"
	"database/sql"
	"errors"
	"os"
	"path/filepath"
	"runtime"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/workshop"
)

// killed copies the records of a store as a process that is killed now leaves them: the file and
// what is in the -wal alone.
func killed(t *testing.T, s *Store) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "records.db")
	for _, suffix := range []string{"", walSuffix} {
		data, err := os.ReadFile(s.file + suffix)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(file+suffix, data, 0o600))
	}
	return file
}

// paired pairs so many devices, and returns the store they are in.
func paired(t *testing.T, devices int) *Store {
	t.Helper()
	s := open(t)
	for i := range devices {
		require.NoError(t, s.InsertDevice(t.Context(), workshop.Device{ID: string(rune('a' + i)), Paired: time.UnixMicro(int64(i)).UTC()}, string(rune('A'+i))))
	}
	return s
}

func deviceCount(t *testing.T, file string) int {
	t.Helper()
	s, err := Open(t.Context(), file)
	require.NoError(t, err)
	list, err := s.Devices(t.Context())
	require.NoError(t, errors.Join(err, s.Close()))
	return len(list)
}

func why(err error) Why {
	var r Refusal
	errors.As(err, &r)
	return r.Why
}

func TestWhatAKilledProcessLeavesIsOpenedWhole(t *testing.T) {
	s := paired(t, 3)
	assert.Equal(t, 3, deviceCount(t, killed(t, s)))
	// Once more, killed before anything was written in the second run.
	file := killed(t, s)
	second, err := Open(t.Context(), file)
	require.NoError(t, err)
	assert.Equal(t, 3, deviceCount(t, killed(t, second)))
	require.NoError(t, second.Close())
	// After an orderly end the file is all there is.
	_, err = os.Stat(file + walSuffix)
	require.ErrorIs(t, err, os.ErrNotExist)
	assert.Equal(t, 3, deviceCount(t, file))
}

// Two programs may have a file open, and end in any order.
func TestTheFileIsWholeWhoeverClosesItLast(t *testing.T) {
	for _, laterFirst := range []bool{true, false} {
		file := filepath.Join(t.TempDir(), "records.db")
		earlier, err := Open(t.Context(), file)
		require.NoError(t, err)
		later, err := Open(t.Context(), file)
		require.NoError(t, err)
		first, last := earlier, later
		if laterFirst {
			first, last = later, earlier
		}
		require.NoError(t, first.Close())
		require.NoError(t, last.InsertDevice(t.Context(), workshop.Device{ID: "a"}, "a"))
		assert.Equal(t, 1, deviceCount(t, killed(t, last)))
		require.NoError(t, last.Close())
		assert.Equal(t, 1, deviceCount(t, file))
	}
}

func TestAFileThatLostItsLastChangesIsRefused(t *testing.T) {
	s := paired(t, 3)
	file := killed(t, s)
	require.NoError(t, os.Remove(file+walSuffix))
	_, err := Open(t.Context(), file)
	require.Equal(t, WALMissing, why(err), "%v", err)
	assert.ErrorContains(t, err, "put it back")
	_, err = OpenToRead(t.Context(), file)
	require.Equal(t, WALMissing, why(err))
	found, err := Repair(t.Context(), file)
	require.NoError(t, err)
	assert.Equal(t, []workshop.Finding{{What: "wal-missing", Where: file, Repairable: true}}, found)
	assert.Zero(t, deviceCount(t, file), "the owner has chosen to go on without them")

	gone := killed(t, s)
	require.NoError(t, os.Remove(gone))
	_, err = Open(t.Context(), gone)
	require.Equal(t, FileMissing, why(err), "%v", err)
	assert.FileExists(t, gone+walSuffix)
}

func TestAnothersLastChangesAreRefusedAndSetAside(t *testing.T) {
	s := paired(t, 3)
	file := killed(t, s)
	other := killed(t, paired(t, 2))
	foreign, err := os.ReadFile(other + walSuffix)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(file+walSuffix, foreign, 0o600))
	before, err := os.ReadFile(file)
	require.NoError(t, err)
	_, err = Open(t.Context(), file)
	require.Equal(t, WALForeign, why(err), "%v", err)
	after, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.True(t, bytes.Equal(before, after), "nothing was written")

	found, err := Repair(t.Context(), file)
	require.NoError(t, err)
	assert.Len(t, found, 2, "%v", found)
	aside, err := filepath.Glob(file + walSuffix + ".aside-*")
	require.NoError(t, err)
	require.Len(t, aside, 1)
	kept, err := os.ReadFile(aside[0])
	require.NoError(t, err)
	assert.True(t, bytes.Equal(foreign, kept))
	assert.Zero(t, deviceCount(t, file))

	// An older copy of the file, put back under the changes of a later run.
	older := killed(t, s)
	later, err := Open(t.Context(), older)
	require.NoError(t, err)
	require.NoError(t, later.Close())
	later, err = Open(t.Context(), older)
	require.NoError(t, err)
	defer later.Close()
	require.NoError(t, later.InsertDevice(t.Context(), workshop.Device{ID: "x"}, "x"))
	mixed := killed(t, later)
	require.NoError(t, os.WriteFile(mixed, before, 0o600))
	_, err = Open(t.Context(), mixed)
	require.Equal(t, WALForeign, why(err), "%v", err)
}

func TestWhatIsNotToBeOpenedIsLeftAsItIs(t *testing.T) {
	whole := killed(t, paired(t, 26))
	require.Equal(t, 26, deviceCount(t, whole))
	for name, c := range map[string]struct {
		spoil func(t *testing.T, db *sql.DB, file string)
		want  Why
	}{
		"newer": {func(t *testing.T, db *sql.DB, _ string) {
			_, err := db.Exec(`INSERT INTO goose_db_version (version_id, is_applied) VALUES (99, 1)`)
			require.NoError(t, err)
		}, Newer},
		"another program's": {func(t *testing.T, db *sql.DB, _ string) {
			_, err := db.Exec(`DROP TABLE goose_db_version`)
			require.NoError(t, err)
		}, NoDatabase},
		"emptied": {func(t *testing.T, _ *sql.DB, file string) { require.NoError(t, os.Truncate(file, 0)) }, Emptied},
		"cut off": {func(t *testing.T, _ *sql.DB, file string) { require.NoError(t, os.Truncate(file, 8192)) }, Damaged},
		"a damaged page": {func(t *testing.T, db *sql.DB, file string) {
			var page, size int64
			require.NoError(t, db.QueryRow(`SELECT rootpage FROM sqlite_schema WHERE name = 'devices'`).Scan(&page))
			require.NoError(t, db.QueryRow(`PRAGMA page_size`).Scan(&size))
			scribble(t, file, (page-1)*size)
		}, Damaged},
	} {
		t.Run(name, func(t *testing.T) {
			data, err := os.ReadFile(whole)
			require.NoError(t, err)
			file := filepath.Join(t.TempDir(), "records.db")
			require.NoError(t, os.WriteFile(file, data, 0o600))
			db, err := sql.Open("sqlite", file)
			require.NoError(t, err)
			c.spoil(t, db, file)
			require.NoError(t, db.Close())
			before, err := os.ReadFile(file)
			require.NoError(t, err)
			_, err = Open(t.Context(), file)
			require.Equal(t, c.want, why(err), "%v", err)
			assert.ErrorContains(t, err, file)
			_, err = Repair(t.Context(), file)
			require.Equal(t, c.want, why(err), "there is nothing to be repaired without loss")
			after, err := os.ReadFile(file)
			require.NoError(t, err)
			assert.True(t, bytes.Equal(before, after))
			if c.want == Damaged {
				// What is wrong is told as far as it can be seen.
				s, err := OpenToRead(t.Context(), file)
				if err == nil {
					found, err := s.Check(t.Context())
					require.NoError(t, err)
					assert.NotEmpty(t, found)
					require.NoError(t, s.Close())
				}
			}
		})
	}
}

func scribble(t *testing.T, file string, at int64) {
	t.Helper()
	f, err := os.OpenFile(file, os.O_RDWR, 0)
	require.NoError(t, err)
	_, err = f.WriteAt([]byte("sixteen bytes !!"), at)
	require.NoError(t, errors.Join(err, f.Close()))
}

func TestADamagedIndexIsToldAndMadeAnew(t *testing.T) {
	file := killed(t, paired(t, 3))
	require.Equal(t, 3, deviceCount(t, file))
	run := func(statements ...string) {
		db, err := sql.Open("sqlite", file)
		require.NoError(t, err)
		defer db.Close()
		db.SetMaxOpenConns(1)
		for _, s := range statements {
			_, err := db.Exec(s)
			require.NoError(t, err, s)
		}
	}
	// The index does not see the rows that come while it is out of the schema.
	run(`CREATE TABLE kept AS SELECT * FROM sqlite_schema WHERE name = 'requests_at'`, `PRAGMA writable_schema = ON`, `DELETE FROM sqlite_schema WHERE name = 'requests_at'`)
	run(`INSERT INTO requests VALUES ('a', '', 1), ('b', '', 2)`, `PRAGMA writable_schema = ON`, `INSERT INTO sqlite_schema SELECT * FROM kept`)
	_, err := Open(t.Context(), file)
	require.Equal(t, Damaged, why(err), "%v", err)
	s, err := OpenToRead(t.Context(), file)
	require.NoError(t, err)
	told, err := s.Check(t.Context())
	require.NoError(t, errors.Join(err, s.Close()))
	index := []workshop.Finding{{What: "index-damaged", Where: "index requests_at", Repairable: true}}
	assert.Equal(t, index, told)
	found, err := Repair(t.Context(), file)
	require.NoError(t, err)
	assert.Equal(t, index, found)
	assert.Equal(t, 3, deviceCount(t, file))
}

// A start that is killed while it makes the file leaves what is not yet in its place.
func TestAStartThatWasCutShortIsBegunAgain(t *testing.T) {
	file := filepath.Join(t.TempDir(), "records.db")
	for _, suffix := range []string{".new", ".new-journal", ".new-wal"} {
		require.NoError(t, os.WriteFile(file+suffix, []byte("half of it"), 0o600))
	}
	assert.Zero(t, deviceCount(t, file))
	left, err := filepath.Glob(file + "*")
	require.NoError(t, err)
	assert.Equal(t, []string{file}, left)
	ended, end := context.WithCancel(t.Context())
	end()
	other := filepath.Join(t.TempDir(), "records.db")
	_, err = Open(ended, other)
	require.ErrorIs(t, err, context.Canceled)
	assert.NoFileExists(t, other)
}

func TestRecordsAreTheirOwnersAlone(t *testing.T) {
	file := filepath.Join(t.TempDir(), "records.db")
	assert.Zero(t, deviceCount(t, file))
	mode := func() os.FileMode {
		info, err := os.Stat(file)
		require.NoError(t, err)
		return info.Mode().Perm()
	}
	assert.Equal(t, os.FileMode(0o600), mode())
	require.NoError(t, os.Chmod(file, 0o644))
	assert.Zero(t, deviceCount(t, file))
	assert.Equal(t, os.FileMode(0o600), mode())
}

func TestAReadOnlyFileOrFolderIsToldAtStart(t *testing.T) {
	if os.Getuid() == 0 {
		// The superuser may write anywhere; on this thread the files are asked for by another.
		runtime.LockOSThread()
		defer runtime.UnlockOSThread()
		require.NoError(t, syscall.Setfsuid(65534))
		defer func() { require.NoError(t, syscall.Setfsuid(0)) }()
	}
	folder, err := os.MkdirTemp("", "cressa-test-")
	require.NoError(t, err)
	defer os.RemoveAll(folder)
	file := filepath.Join(folder, "records.db")
	require.Zero(t, deviceCount(t, file))
	require.NoError(t, os.Chmod(file, 0o400))
	_, err = Open(t.Context(), file)
	require.Equal(t, Unwritable, why(err), "%v", err)
	require.NoError(t, os.Chmod(file, 0o600))
	require.NoError(t, os.Chmod(folder, 0o500))
	_, err = Open(t.Context(), file)
	require.Equal(t, Unwritable, why(err), "%v", err)
	assert.ErrorContains(t, err, "--data")
	require.NoError(t, os.Chmod(folder, 0o700))
	require.Zero(t, deviceCount(t, file))
}
