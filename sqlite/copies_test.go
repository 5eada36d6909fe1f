package sqlite_test

import (
	"database/sql"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/copies"
	"cressa/sqlite"
	"cressa/workshop"
)

var stones = flag.Int("stones", 16, "how many stones a copy of every version has at least")

// multiply adds stones to a file of records of any version, by copying what it has of each stone
// under other ids.
func multiply(t *testing.T, file string, stones int) {
	t.Helper()
	db, err := sql.Open("sqlite", file+"?_pragma=synchronous(off)")
	require.NoError(t, err)
	defer func() { require.NoError(t, db.Close()) }()
	tx, err := db.Begin()
	require.NoError(t, err)
	tables := []string{"runs", "stones", "works", "setups", "plans", "events", "finishes", "photos"}
	rows, ids := map[string][][]any{}, map[string]bool{}
	for _, table := range tables {
		rows[table] = all(t, tx, table, func(column string, value any) {
			if column == "id" {
				ids[value.(string)] = true
			}
		})
	}
	for copied := 1; copied*len(rows["stones"]) < stones; copied++ {
		for _, table := range tables {
			for _, row := range rows[table] {
				values := slices.Clone(row)
				for i, v := range values {
					switch {
					case table == "stones" && i == 1:
						values[i] = v.(int64) + int64(copied*len(rows["stones"])) // its number
					case table == "events" && i == 0:
						values[i] = nil // its place in the log, the next one
					default:
						values[i] = renamed(v, ids, fmt.Sprint(copied, "-"))
					}
				}
				_, err := tx.Exec(`INSERT INTO `+table+` VALUES (?`+strings.Repeat(", ?", len(values)-1)+`)`, values...)
				require.NoError(t, err, table)
			}
		}
	}
	require.NoError(t, tx.Commit())
}

// all reads a table, which has no rows where a version has no such table.
func all(t *testing.T, tx *sql.Tx, table string, each func(column string, value any)) (out [][]any) {
	t.Helper()
	rows, err := tx.Query(`SELECT * FROM ` + table)
	if err != nil {
		require.ErrorContains(t, err, "no such table")
		return nil
	}
	defer rows.Close()
	columns, err := rows.Columns()
	require.NoError(t, err)
	for rows.Next() {
		values, to := make([]any, len(columns)), make([]any, len(columns))
		for i := range values {
			to[i] = &values[i]
		}
		require.NoError(t, rows.Scan(to...))
		for i, column := range columns {
			each(column, values[i])
		}
		out = append(out, values)
	}
	require.NoError(t, rows.Err())
	return out
}

// renamed is a column with each of the ids that it names, alone, as a log's or within a document,
// called otherwise. What the ids begin with is new, as upgrades make ids of the beginnings of others.
func renamed(value any, ids map[string]bool, begin string) any {
	text, ok := value.(string)
	if !ok {
		return value
	}
	if work, ofWork := strings.CutPrefix(text, "work/"); ids[work] {
		if ofWork {
			begin = "work/" + begin
		}
		return begin + work
	}
	parts := strings.Split(text, `"`)
	for i, part := range parts {
		if ids[part] {
			parts[i] = begin + part
		}
	}
	return strings.Join(parts, `"`)
}

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
			multiply(t, filepath.Join(string(from), copies.Records), *stones)
			file := filepath.Join(t.TempDir(), "copy.zip")
			m, err := from.Write(t.Context(), file, nil)
			require.NoError(t, err)
			assert.GreaterOrEqual(t, m.Contents.Stones, *stones)
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
