package copies_test

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/copies"
	"cressa/demo"
	"cressa/disk"
	"cressa/internal/ceiling"
	"cressa/internal/template"
	"cressa/photos"
	"cressa/sqlite"
	"cressa/workshop"
)

var stones = flag.Int("stones", 12, "how many stones are copied and come back")

// records write the records of so many stones.
var records = map[int]func(testing.TB, string){}

// drawn makes a folder of records with three photos.
func drawn(t *testing.T, stones int) copies.Folder {
	t.Helper()
	if records[stones] == nil {
		records[stones] = template.Of(func(file string) error {
			return demo.Seed(context.Background(), file, demo.Size{Stones: stones, Diagrams: 4, Events: 40 * stones, Seed: 1})
		})
	}
	dir := t.TempDir()
	records[stones](t, filepath.Join(dir, copies.Records))
	at(t, dir, func(ctx context.Context, w *workshop.Workshop) {
		list, err := w.Stones.Stones(ctx, workshop.StoneFilter{}, workshop.Cursor{}, 3)
		require.NoError(t, err)
		for i, s := range list.Lines {
			_, err := w.AddPhoto(ctx, photos.Dir(filepath.Join(dir, copies.Photos)), s.ID, workshop.AfterWork, picture(t, i))
			require.NoError(t, err)
		}
	})
	return copies.Folder(dir)
}

func picture(t *testing.T, no int) []byte {
	t.Helper()
	p := image.NewGray(image.Rect(0, 0, 40+no, 30))
	var out bytes.Buffer
	require.NoError(t, jpeg.Encode(&out, p, nil))
	return out.Bytes()
}

// at works in a folder of records.
func at(t *testing.T, dir string, do func(context.Context, *workshop.Workshop)) {
	t.Helper()
	store, err := sqlite.Open(t.Context(), filepath.Join(dir, copies.Records))
	require.NoError(t, err)
	defer func() { require.NoError(t, store.Close()) }()
	do(t.Context(), workshop.New(store, time.Now))
}

// told is all that the lists of a folder of records tell, as JSON, and its photos.
func told(t *testing.T, dir string) string {
	t.Helper()
	var all []any
	at(t, dir, func(ctx context.Context, w *workshop.Workshop) {
		stones, err := w.Stones.Stones(ctx, workshop.StoneFilter{}, workshop.Cursor{}, 1000)
		require.NoError(t, err)
		all = append(all, stones.Lines)
		for _, s := range stones.Lines {
			events, err := w.EventsAfter(ctx, s.WorkID, 0, 10000)
			require.NoError(t, err)
			shown, err := w.Photos(ctx, s.ID, s.WorkID)
			require.NoError(t, err)
			for _, p := range shown {
				require.Empty(t, photos.Dir(filepath.Join(dir, copies.Photos)).Check(p.Hash))
			}
			all = append(all, events, shown)
		}
		diagrams, err := w.Diagrams(ctx, workshop.DiagramFilter{}, workshop.Cursor{}, 1000)
		require.NoError(t, err)
		all = append(all, diagrams.Lines)
	})
	data, err := json.Marshal(all)
	require.NoError(t, err)
	return string(data)
}

func restore(ctx context.Context, f copies.Folder, file string) (kept string, err error) {
	if _, err := f.Stage(ctx, file, nil); err != nil {
		return "", err
	}
	return f.Finish()
}

func TestWhatIsCopiedComesBack(t *testing.T) {
	from := drawn(t, *stones)
	want := told(t, string(from))
	file := filepath.Join(t.TempDir(), "all.cressa.zip")
	var steps []int64
	m, err := from.Write(t.Context(), file, func(done, total int64) {
		steps = append(steps, done)
		assert.LessOrEqual(t, done, total)
	})
	require.NoError(t, err)
	assert.True(t, slices.IsSorted(steps))
	assert.NotEmpty(t, steps)
	info, err := os.Stat(file)
	require.NoError(t, err)
	assert.Equal(t, copies.Contents{Schema: sqlite.Schema(), Stones: *stones, Diagrams: 4, Events: 40 * *stones, Photos: 3, Bytes: info.Size()}, m.Contents)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	assert.WithinDuration(t, time.Now(), m.Made, time.Minute)
	read, err := copies.Read(file)
	require.NoError(t, err)
	assert.Equal(t, m.Contents, read.Contents)
	_, err = from.Write(t.Context(), file, nil)
	require.ErrorAs(t, err, &copies.Refusal{}, "no copy takes another's place")
	cutOff := copies.Folder(t.TempDir())
	require.NoError(t, os.WriteFile(filepath.Join(string(cutOff), copies.Records), nil, 0o600))
	_, err = cutOff.Write(t.Context(), filepath.Join(string(cutOff), "copy.zip"), nil)
	require.ErrorAs(t, err, &sqlite.Refusal{}, "what is damaged is not copied")

	// Into an empty folder, and over other records, which are kept.
	empty := copies.Folder(filepath.Join(t.TempDir(), "new"))
	kept, err := restore(t.Context(), empty, file)
	require.NoError(t, err)
	assert.Empty(t, kept)
	assert.Equal(t, want, told(t, string(empty)))
	other := drawn(t, 5)
	was := told(t, string(other))
	kept, err = restore(t.Context(), other, file)
	require.NoError(t, err)
	assert.Equal(t, want, told(t, string(other)))
	assert.Equal(t, was, told(t, filepath.Join(string(other), kept)))
	left, err := filepath.Glob(filepath.Join(string(other), ".*"))
	require.NoError(t, err)
	assert.Empty(t, left)
}

// A photo that is taken off its stone while the copy is made is in neither part of it; one that was
// gone before is told.
func TestPhotosThatGoMeanwhile(t *testing.T) {
	from := drawn(t, 6)
	pictures := photos.Dir(filepath.Join(string(from), copies.Photos))
	list, err := os.ReadDir(string(pictures))
	require.NoError(t, err)
	lost := strings.TrimSuffix(list[0].Name(), ".small")
	require.NoError(t, pictures.Drop(lost))
	dropped := false
	file := filepath.Join(t.TempDir(), "copy.zip")
	m, err := from.Write(t.Context(), file, func(int64, int64) {
		if dropped {
			return
		}
		dropped = true
		at(t, string(from), func(ctx context.Context, w *workshop.Workshop) {
			stones, err := w.Stones.Stones(ctx, workshop.StoneFilter{}, workshop.Cursor{}, 10)
			require.NoError(t, err)
			last := ""
			for _, s := range stones.Lines {
				shown, err := w.Photos(ctx, s.ID, s.WorkID)
				require.NoError(t, err)
				for _, p := range shown {
					last = max(last, p.Hash+" "+s.ID+" "+p.ID)
				}
			}
			which := strings.Fields(last)
			require.NoError(t, w.DropPhoto(ctx, pictures, which[1], which[2]))
		})
	})
	require.NoError(t, err)
	assert.Equal(t, []string{lost}, m.Missing)
	assert.Equal(t, 2, m.Contents.Photos, "the one that is there and the one that is missing")
	into := copies.Folder(t.TempDir())
	_, err = restore(t.Context(), into, file)
	require.NoError(t, err)
	back, err := into.Contents(t.Context())
	require.NoError(t, err)
	assert.Equal(t, 2, back.Contents.Photos)
}

// changed writes an archive anew with its files changed.
func changed(t *testing.T, file string, change func(name string, data []byte) (string, []byte)) string {
	t.Helper()
	z, err := zip.OpenReader(file)
	require.NoError(t, err)
	defer z.Close()
	to := filepath.Join(t.TempDir(), "changed.zip")
	out, err := os.Create(to)
	require.NoError(t, err)
	w := zip.NewWriter(out)
	for _, f := range z.File {
		r, err := f.Open()
		require.NoError(t, err)
		data, err := io.ReadAll(r)
		require.NoError(t, err)
		name, data := change(f.Name, data)
		if name == "" {
			continue
		}
		file, err := w.Create(name)
		require.NoError(t, err)
		_, err = file.Write(data)
		require.NoError(t, err)
	}
	require.NoError(t, errors.Join(w.Close(), out.Close()))
	return to
}

func TestADamagedOrForeignFileIsRefusedAndReplacesNothing(t *testing.T) {
	from := drawn(t, 3)
	file := filepath.Join(t.TempDir(), "copy.zip")
	_, err := from.Write(t.Context(), file, nil)
	require.NoError(t, err)
	whole, err := os.ReadFile(file)
	require.NoError(t, err)
	written := func(data []byte) string {
		to := filepath.Join(t.TempDir(), "copy.zip")
		require.NoError(t, os.WriteFile(to, data, 0o600))
		return to
	}
	inside := func(name, old, with string) string {
		return changed(t, file, func(n string, data []byte) (string, []byte) {
			if n == name {
				require.Contains(t, string(data), old)
				data = bytes.Replace(data, []byte(old), []byte(with), 1)
			}
			return n, data
		})
	}
	flipped := bytes.Clone(whole)
	flipped[len(flipped)/2] ^= 0x40
	into := drawn(t, 2)
	was := told(t, string(into))
	for what, c := range map[string]struct{ file, says string }{
		"no archive":        {written([]byte("these are notes")), "no copy"},
		"cut off":           {written(whole[:len(whole)*2/3]), "no copy"},
		"a flipped bit":     {written(flipped), "damaged"},
		"another archive":   {changed(t, file, func(n string, d []byte) (string, []byte) { return strings.Replace(n, "manifest", "x", 1), d }), "no copy"},
		"a newer version":   {inside("manifest.json", `"schema": 20`, `"schema": 99`), "newer"},
		"another format":    {inside("manifest.json", "cressa-copy/1", "cressa-copy/9"), "another kind"},
		"changed records":   {inside("records.db", "SQLite format 3", "SQLite format 4"), "not what was put in"},
		"another hash":      {inside("manifest.json", `"sha256": "`, `"sha256": "0`), "damaged"},
		"a file is missing": {changed(t, file, func(n string, d []byte) (string, []byte) { return strings.TrimPrefix(n, "records.db"), d }), "damaged"},
		"a path that leads out": {changed(t, file, func(n string, d []byte) (string, []byte) {
			hash := strings.TrimPrefix(n, "photos/")
			if n == "manifest.json" {
				return n, bytes.ReplaceAll(d, []byte(`"name": "photos/`), []byte(`"name": "photos/../../`))
			}
			return strings.Replace(n, "photos/"+hash, "photos/../../"+hash, 1), d
		}), "damaged"},
	} {
		_, err := restore(t.Context(), into, c.file)
		require.ErrorAs(t, err, &copies.Refusal{}, what)
		assert.ErrorContains(t, err, c.says, what)
	}
	assert.Equal(t, was, told(t, string(into)))
	left, err := filepath.Glob(filepath.Join(string(into), ".*"))
	require.NoError(t, err)
	assert.Empty(t, left)
	ended, end := context.WithCancel(t.Context())
	end()
	_, err = into.Stage(ended, file, nil)
	require.ErrorIs(t, err, context.Canceled)
}

// Killed between any two moves, the next start goes on: the folder has the old records or the new.
func TestARestoreThatIsKilledGoesOn(t *testing.T) {
	from := drawn(t, 3)
	want := told(t, string(from))
	file := filepath.Join(t.TempDir(), "copy.zip")
	_, err := from.Write(t.Context(), file, nil)
	require.NoError(t, err)
	for moves := 0; ; moves++ {
		into := drawn(t, 2)
		was := told(t, string(into))
		_, err := into.Stage(t.Context(), file, nil)
		require.NoError(t, err)
		revive := copies.KillAfter(moves)
		kept, err := into.Finish()
		revive()
		if err == nil {
			assert.Equal(t, 6, moves, "records with their -wal and -shm and pictures away, records and pictures in")
			assert.Equal(t, was, told(t, filepath.Join(string(into), kept)))
			return
		}
		require.ErrorIs(t, err, copies.ErrKilled)
		kept, err = into.Finish()
		require.NoError(t, err)
		assert.Equal(t, want, told(t, string(into)), "killed after %d moves", moves)
		assert.Equal(t, was, told(t, filepath.Join(string(into), kept)), "killed after %d moves", moves)
	}
}

// A copy is of one moment, whatever is ticked while it is made, and takes no more memory than a
// buffer.
func TestACopyIsOfOneMoment(t *testing.T) {
	from := drawn(t, 40)
	store, err := sqlite.Open(t.Context(), filepath.Join(string(from), copies.Records))
	require.NoError(t, err)
	defer func() { require.NoError(t, store.Close()) }()
	ctx, stop := context.WithCancel(t.Context())
	paired := make(chan error, 1)
	go func() {
		for n := 0; ; n++ {
			// Two that belong together, in one transaction.
			err := store.InTx(ctx, func(ctx context.Context) error {
				a, b := fmt.Sprint("a", n), fmt.Sprint("b", n)
				return errors.Join(store.InsertDevice(ctx, workshop.Device{ID: a}, a), store.InsertDevice(ctx, workshop.Device{ID: b}, b))
			})
			if ctx.Err() != nil {
				paired <- nil
				return
			}
			if err != nil {
				paired <- err
				return
			}
		}
	}()
	var files []string
	ceiling.Hold(t, "five copies", 300, func() {
		for i := range 5 {
			file := filepath.Join(t.TempDir(), "copy.zip")
			_, err := from.Write(t.Context(), file, nil)
			require.NoError(t, err, i)
			files = append(files, file)
		}
	})
	stop()
	require.NoError(t, <-paired)
	for _, file := range files {
		z, err := zip.OpenReader(file)
		require.NoError(t, err)
		dir := t.TempDir()
		require.NoError(t, os.CopyFS(dir, z))
		require.NoError(t, z.Close())
		copied, err := sqlite.OpenToRead(t.Context(), filepath.Join(dir, "records.db"))
		require.NoError(t, err)
		devices, err := copied.Devices(t.Context())
		require.NoError(t, errors.Join(err, copied.Close()))
		assert.Zero(t, len(devices)%2, "both or none")
	}
}

// The devices that are let in are those that were before, whatever the copy says.
func TestACopyLetsNoDeviceInAgain(t *testing.T) {
	of := drawn(t, 1)
	names := func(dir copies.Folder) (out []string) {
		at(t, string(dir), func(ctx context.Context, w *workshop.Workshop) {
			devices, err := w.Devices(ctx)
			require.NoError(t, err)
			for _, d := range devices {
				out = append(out, d.Name)
			}
		})
		return out
	}
	change := func(do func(context.Context, *sqlite.Store) error) {
		store, err := sqlite.Open(t.Context(), filepath.Join(string(of), copies.Records))
		require.NoError(t, err)
		require.NoError(t, errors.Join(do(t.Context(), store), store.Close()))
	}
	change(func(ctx context.Context, s *sqlite.Store) error {
		return errors.Join(s.InsertDevice(ctx, workshop.Device{ID: "a", Name: "Lost tablet"}, "a"),
			s.InsertDevice(ctx, workshop.Device{ID: "b", Name: "Wheel"}, "b"))
	})
	file := filepath.Join(t.TempDir(), "copy.zip")
	_, err := of.Write(t.Context(), file, nil)
	require.NoError(t, err)
	change(func(ctx context.Context, s *sqlite.Store) error {
		return errors.Join(s.DropDevice(ctx, "a"), s.InsertDevice(ctx, workshop.Device{ID: "c", Name: "New tablet", Paired: time.Now()}, "c"))
	})
	_, err = restore(t.Context(), of, file)
	require.NoError(t, err)
	assert.Equal(t, []string{"New tablet", "Wheel"}, names(of))
	elsewhere := copies.Folder(t.TempDir())
	_, err = restore(t.Context(), elsewhere, file)
	require.NoError(t, err)
	assert.Empty(t, names(elsewhere))
}

// A shelf keeps the last copies that were made by plan, and touches nothing else.
func TestOlderCopiesMakeRoom(t *testing.T) {
	of := drawn(t, 1)
	shelf := copies.Shelf(filepath.Join(t.TempDir(), "copies [old"))
	list, err := shelf.List()
	require.NoError(t, err)
	assert.Empty(t, list)
	killed, underWay, begun := filepath.Join(string(shelf), ".cressa-copy-1"), filepath.Join(string(shelf), ".cressa-copy-2"), filepath.Join(string(shelf), ".cressa-copy-3")
	for _, scrap := range []string{killed, underWay, begun} {
		require.NoError(t, os.MkdirAll(scrap, 0o700))
		if scrap != begun {
			require.NoError(t, os.Chtimes(scrap, time.Time{}, time.Now().Add(-2*time.Minute)))
		}
	}
	release, err := disk.Hold(underWay, true)
	require.NoError(t, err)
	defer func() { require.NoError(t, release()) }()
	var names []string
	for range 4 {
		name, err := shelf.Add(t.Context(), of, 2, nil)
		require.NoError(t, err)
		names = append(names, name)
		if len(names) == 1 {
			// What somebody has called otherwise is not the program's to remove.
			for _, own := range []string{"before the move.cressa.zip", "cressa-old.cressa.zip"} {
				path, err := shelf.Path(own)
				require.NoError(t, err)
				_, err = of.Write(t.Context(), path, nil)
				require.NoError(t, err)
			}
		}
	}
	assert.NoDirExists(t, killed)
	assert.DirExists(t, underWay)
	assert.DirExists(t, begun)
	list, err = shelf.List()
	require.NoError(t, err)
	var left []string
	for _, k := range list {
		assert.Empty(t, k.Problem)
		left = append(left, k.Name)
	}
	assert.ElementsMatch(t, []string{"before the move.cressa.zip", "cressa-old.cressa.zip", names[2], names[3]}, left)
	for _, name := range []string{"../cressa.db", ".hidden.cressa.zip", "x.zip", ""} {
		_, err := shelf.Path(name)
		assert.ErrorIs(t, err, fs.ErrNotExist)
	}
}
