package main

import (
	"database/sql"
	"encoding/json"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/sqlite"
)

// A drawn workshop is whole. What is broken in it afterwards is found and told, and what is
// derived is made anew.
func TestADrawnWorkshopIsCheckedAndRepaired(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "drawn")
	code, out, errs := call("", "seed", dir, "--stones", "12", "--diagrams", "4", "--events", "600")
	require.Zero(t, code, errs)
	assert.Contains(t, out, "12 stones, 4 diagrams and 600 events")
	code, out, errs = call("", "check", "--data", dir)
	require.Zero(t, code, errs)
	assert.Equal(t, "The records are whole.\n", out)
	code, _, errs = call("", "seed", dir)
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "is not empty")
	code, _, errs = call("", "check", "--data", filepath.Join(dir, "nowhere"))
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "holds no records")

	db, err := sql.Open("sqlite", filepath.Join(dir, databaseFile))
	require.NoError(t, err)
	defer db.Close()
	count := func(table string) (n int) {
		require.NoError(t, db.QueryRow(`SELECT count(*) FROM `+table).Scan(&n))
		return n
	}
	assert.Equal(t, []int{12, 600}, []int{count("stones"), count("events")})
	lost, damaged := strings.Repeat("ab", 32), strings.Repeat("cd", 32)
	require.NoError(t, os.MkdirAll(filepath.Join(dir, photoFolder), 0o700))
	require.NoError(t, os.WriteFile(filepath.Join(dir, photoFolder, damaged), []byte("not what was kept"), 0o600))
	stray := filepath.Join(dir, photoFolder, strings.Repeat("ef", 32))
	require.NoError(t, os.WriteFile(stray, []byte("nobody shows it"), 0o600))
	require.NoError(t, os.Chtimes(stray, time.Time{}, time.Now().Add(-time.Hour)))
	for _, spoil := range []string{
		`PRAGMA foreign_keys = OFF`,
		`UPDATE work_state SET done = done + 1, folded = replace(folded, '"late":0', '"late":9') WHERE work_id = (SELECT work_id FROM work_state WHERE done > 0 LIMIT 1)`,
		`UPDATE work_state SET folded = '' WHERE work_id = (SELECT work_id FROM work_state WHERE done > 0 LIMIT 1 OFFSET 1)`,
		`UPDATE diagrams SET draft = 'not JSON' WHERE id = (SELECT id FROM diagrams LIMIT 1)`,
		`INSERT INTO sweeps (id, diagram_id, draft, asked, sg, points, created) VALUES ('s', 'gone', '{}', '{}', 0, '[]', 0)`,
		`INSERT INTO photos (id, stone_id, hash, taken, note) SELECT 'p', id, '` + lost + `', 0, '' FROM stones LIMIT 1`,
		`INSERT INTO photos (id, stone_id, hash, taken, note) SELECT 'q', id, '` + damaged + `', 0, '' FROM stones LIMIT 1`,
	} {
		_, err := db.Exec(spoil)
		require.NoError(t, err, spoil)
	}

	code, out, errs = call("", "check", "--data", dir)
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "--repair")
	lines := strings.Split(strings.TrimSpace(out), "\n")
	require.Len(t, lines, 8, out)
	for _, line := range lines[:7] {
		assert.Regexp(t, regexp.MustCompile(`^.+: [A-Z].+\.$`), line, "where, and what is wrong")
	}
	what := func(args ...string) map[string]bool {
		_, out, _ := call("", append([]string{"check", "--data", dir, "--json"}, args...)...)
		var report checkReport
		require.NoError(t, json.Unmarshal([]byte(out), &report))
		found := map[string]bool{}
		for _, p := range report.Problems {
			found[p.What] = p.Repairable
		}
		return found
	}
	left := map[string]bool{"record-unreadable": false, "photo-missing": false, "photo-damaged": false}
	all := map[string]bool{"state-differs": true, "state-missing": true, "row-orphaned": true, "photo-orphaned": true}
	for name := range left {
		all[name] = false
	}
	assert.Equal(t, all, what("--repair"))
	assert.Equal(t, left, what())
	assert.Equal(t, 1, count("set_aside"), "nothing is deleted")
	assert.FileExists(t, filepath.Join(dir, photoFolder, "aside", filepath.Base(stray)))
}

// A folder that older versions left open is shut, unless something else is in it.
func TestAFolderOfRecordsIsItsOwnersAlone(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "records")
	require.NoError(t, os.MkdirAll(filepath.Join(dir, photoFolder), 0o755))
	require.NoError(t, os.Chmod(dir, 0o755))
	other := filepath.Join(dir, "letter.txt")
	mode := func() os.FileMode {
		require.NoError(t, private(dir))
		info, err := os.Stat(dir)
		require.NoError(t, err)
		return info.Mode().Perm()
	}
	require.NoError(t, os.WriteFile(other, nil, 0o600))
	assert.Equal(t, os.FileMode(0o755), mode())
	require.NoError(t, os.Remove(other))
	assert.Equal(t, os.FileMode(0o700), mode())
}

func TestACopyIsMadeAndBroughtBack(t *testing.T) {
	dir := t.TempDir()
	from, into, file := filepath.Join(dir, "from"), filepath.Join(dir, "into"), filepath.Join(dir, "all.zip")
	for folder, stones := range map[string]string{from: "4", into: "2"} {
		code, _, errs := call("", "seed", folder, "--stones", stones, "--diagrams", "3", "--events", "100")
		require.Zero(t, code, errs)
	}
	code, out, errs := call("", "backup", "--json", file, "--data", from)
	require.Zero(t, code, errs)
	var made map[string]int
	require.NoError(t, json.Unmarshal([]byte(out), &made))
	info, err := os.Stat(file)
	require.NoError(t, err)
	assert.Equal(t, map[string]int{"schema": sqlite.Schema(), "stones": 4, "diagrams": 3, "events": 100, "photos": 0, "bytes": int(info.Size())}, made)
	code, _, errs = call("", "backup", file, "--data", from)
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "name another")
	code, _, errs = call("", "backup", filepath.Join(dir, "b.zip"), "--data", filepath.Join(dir, "nowhere"))
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "holds no records")

	code, out, errs = call("", "restore", "--look", file, "--data", into)
	require.Zero(t, code, errs)
	assert.Contains(t, out, "4 stones, 3 diagrams, 100 entries")
	assert.Contains(t, out, "take the place of what is in "+into+":\n2 stones")
	// Not while somebody works there.
	release, err := hold(into, false)
	require.NoError(t, err)
	code, _, errs = call("", "restore", file, "--data", into)
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "stop it first")
	code, _, errs = call("", "check", "--repair", "--data", into)
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "stop it first")
	require.NoError(t, release())

	code, out, errs = call("", "restore", file, "--data", into)
	require.Zero(t, code, errs)
	assert.Regexp(t, "What was there before is kept in "+into+"/replaced-", out)
	code, out, errs = call("", "restore", "--json", file, "--data", into)
	require.Zero(t, code, errs)
	var back map[string]int
	require.NoError(t, json.Unmarshal([]byte(out), &back))
	assert.Equal(t, made, back)
	code, out, errs = call("", "check", "--data", into)
	require.Zero(t, code, errs)
	assert.Equal(t, "The records are whole.\n", out)
	require.NoError(t, os.Truncate(file, info.Size()/2))
	code, _, errs = call("", "restore", file, "--data", into)
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "copy")
}
