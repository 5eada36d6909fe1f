package sqlite_test

import (
	"compress/gzip"
	"flag"
	"fmt"
	"io"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/demo"
	"cressa/sqlite"
	"cressa/workshop"
	"cressa/workshop/journal"
)

var keep = flag.String("keep", "", "writes the demo's records as testdata/`NAME`.db.gz, with the script of their stones")

// keepRelease writes what the present version leaves, for later ones to read.
func keepRelease(t *testing.T, version string) {
	t.Helper()
	file := filepath.Join(t.TempDir(), "cressa.db")
	require.NoError(t, demo.Fill(t.Context(), file, time.Date(2026, 4, 1, 9, 0, 0, 0, time.UTC)))
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	packed, err := os.Create(filepath.Join("testdata", version+".db.gz"))
	require.NoError(t, err)
	defer packed.Close()
	to, err := gzip.NewWriterLevel(packed, gzip.BestCompression)
	require.NoError(t, err)
	_, err = to.Write(data)
	require.NoError(t, err)
	require.NoError(t, to.Close())
	store, w := released(t, version)
	require.NoError(t, os.WriteFile(filepath.Join("testdata", version+".script.txt"), []byte(scripted(t, store, w)), 0o644))
}

// releases names the released versions whose records are kept.
func releases(t *testing.T) (out []string) {
	t.Helper()
	files, err := filepath.Glob(filepath.Join("testdata", "*.db.gz"))
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, file := range files {
		out = append(out, strings.TrimSuffix(filepath.Base(file), ".db.gz"))
	}
	return out
}

// unpacked writes the records that a released version left.
func unpacked(t *testing.T, version, file string) {
	t.Helper()
	packed, err := os.Open(filepath.Join("testdata", version+".db.gz"))
	require.NoError(t, err)
	defer packed.Close()
	from, err := gzip.NewReader(packed)
	require.NoError(t, err)
	to, err := os.Create(file)
	require.NoError(t, err)
	_, err = io.Copy(to, from)
	require.NoError(t, err)
	require.NoError(t, to.Close())
}

// released opens a copy of the records that a released version left, brought up to date.
func released(t *testing.T, version string) (*sqlite.Store, *workshop.Workshop) {
	t.Helper()
	file := filepath.Join(t.TempDir(), "cressa.db")
	unpacked(t, version, file)
	store, err := sqlite.Open(t.Context(), file)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, store.Close()) })
	w := workshop.New(store, time.Now)
	require.NoError(t, w.Refresh(t.Context()))
	return store, w
}

// scripted writes what the bench shows of every planned stone: its facets, and what is cut
// in which order.
func scripted(t *testing.T, store *sqlite.Store, w *workshop.Workshop) string {
	t.Helper()
	ctx := t.Context()
	page, err := store.Stones(ctx, workshop.StoneFilter{}, workshop.Cursor{}, 200)
	require.NoError(t, err)
	byNumber := map[int]workshop.StoneLine{}
	for _, l := range page.Lines {
		byNumber[l.Number] = l
	}
	var out strings.Builder
	// A cheat of nothing has no sign.
	plain := func(v float64) float64 { return math.Round(v*1e7)/1e7 + 0 }
	for number := len(byNumber); number > 0; number-- {
		line := byNumber[number]
		stone, err := w.Stone(ctx, line.ID)
		require.NoError(t, err)
		if stone.Work().Plan == nil {
			continue
		}
		script, err := w.Script(ctx, stone)
		require.NoError(t, err)
		fmt.Fprintf(&out, "stone %d plan %d mm %.9f\n", number, stone.Work().Plan.No, script.Assessment.MM)
		for _, f := range script.Facets {
			fmt.Fprintf(&out, "%s %s side %d at %g tooth %d cheat %.6f knob %.6f reads %g sets %g %g to %.7f %.7f %.7f meet %v\n",
				f.ID, f.Tier, f.Setup, f.Angle, f.Dial.Tooth, plain(f.Dial.Cheat), plain(f.CheatTurns), f.Reading, f.Below, f.Above,
				plain(f.Target.X), plain(f.Target.Y), plain(f.Target.Z), f.AtMeet)
		}
		now := ""
		for _, v := range script.Visits {
			if head := fmt.Sprintf("side %d %s round %d:", script.Facets[v.FacetNo].Setup, v.Pass, v.Round); head != now {
				now = head
				fmt.Fprintf(&out, "\n%s", head)
			}
			fmt.Fprintf(&out, " %s", v.Facet)
		}
		fmt.Fprintf(&out, "\n%s %d/%d hours %.2f\n", line.State, line.Done+line.Skipped, line.All, line.Hours)
	}
	return out.String()
}

// A stone that is half cut is cut on as it was begun, whatever later versions do: every
// released version's records give the bench the same script for ever.
func TestStonesOfEveryReleaseAreCutOnAsTheyWereBegun(t *testing.T) {
	if *keep != "" {
		keepRelease(t, *keep)
	}
	for _, version := range releases(t) {
		t.Run(version, func(t *testing.T) {
			store, w := released(t, version)
			want, err := os.ReadFile(filepath.Join("testdata", version+".script.txt"))
			require.NoError(t, err)
			assert.Equal(t, string(want), scripted(t, store, w))

			findings, err := w.CheckStates(t.Context(), false)
			require.NoError(t, err)
			assert.Empty(t, findings, "what is derived follows from the log")
			findings, err = store.Check(t.Context())
			require.NoError(t, err)
			assert.Empty(t, findings)
		})
	}
}

// Version 7 worked a plan out anew each time; from then on it is frozen.
func TestTheRecordsOfVersion7AreWhole(t *testing.T) {
	store, w := released(t, "v7")
	ctx := t.Context()
	settings, err := w.Settings(ctx)
	require.NoError(t, err)
	assert.Equal(t, []string{"Window bench", "School machine", "Knob machine"}, []string{settings.Machines[0].Name, settings.Machines[1].Name, settings.Machines[2].Name})
	devices, err := w.Devices(ctx)
	require.NoError(t, err)
	assert.Len(t, devices, 1)
	library, err := w.Diagrams(ctx, workshop.DiagramFilter{}, workshop.Cursor{}, 100)
	require.NoError(t, err)
	edited, ids := map[string]bool{}, map[string]string{}
	for _, l := range library.Lines {
		edited[l.Name], ids[l.Name] = l.Edited, l.ID
		assert.False(t, l.Starter && l.Edited, "%s: no new form of the hash marks it as edited", l.Name)
	}
	assert.Equal(t, map[string]bool{"": true, "First Light": false, "Three Sisters": false, "Parallax": false, "Spiral Arm": false, "Parallax · B": true}, edited)
	sweeps, err := w.Sweeps(ctx, ids["Parallax · B"])
	require.NoError(t, err)
	assert.Len(t, sweeps, 1)

	page, err := store.Stones(ctx, workshop.StoneFilter{Tasks: []journal.Task{journal.Repair}}, workshop.Cursor{}, 10)
	require.NoError(t, err)
	require.Len(t, page.Lines, 1)
	ring := page.Lines[0]
	assert.Equal(t, journal.Cutting, ring.State)
	assert.InDelta(t, 0.7, ring.Hours, 1e-9)
	assert.Equal(t, "2026-04-01", ring.Promised)
	stone, err := w.Stone(ctx, ring.ID)
	require.NoError(t, err)
	assert.Equal(t, "Mr. Lindqvist", stone.Work().Task.(workshop.Repair).Intake.Owner)
	photos, err := w.Photos(ctx, ring.ID, stone.Work().ID)
	require.NoError(t, err)
	require.Len(t, photos, 1)
	assert.Equal(t, workshop.BeforeWork, photos[0].Shows)

	done, err := store.Stones(ctx, workshop.StoneFilter{Sort: workshop.ByFinish}, workshop.Cursor{}, 10)
	require.NoError(t, err)
	require.Len(t, done.Lines, 1)
	assert.Equal(t, 1.31, done.Lines[0].Finish.FinishedCarats)
	assert.Zero(t, done.Lines[0].Late)
}
