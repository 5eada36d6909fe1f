package e2e_test

import (
	"bytes"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"image"
	"image/png"
	"io"
	"maps"
	"net/http"
	"os/exec"
	"path/filepath"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/copies"
	"cressa/e2e/browser"
	"cressa/e2e/running"
)

var kills = flag.Int("kills", 100, "how often the server is killed under everything that can be written")

// done is what the server has acknowledged, and what was sent without an answer.
type done struct {
	mutex sync.Mutex
	// ticks are the names of entries; plans, finishes and photos are of stones by name, and the
	// draft's note counts up.
	ticks, plans, finishes, photos map[string]bool
	kept, sent                     int
	// seen are the photos whose file was there.
	seen map[string]bool
	// acts counts what was acknowledged.
	acts int
}

func (d *done) note(f func()) {
	d.mutex.Lock()
	defer d.mutex.Unlock()
	f()
	d.acts++
}

// Killed at any moment under ticks, drafts, plans, finishes, photos and copies, the server has all
// that it acknowledged at its next start, nothing twice and nothing half.
func TestNothingIsLostDoubledOrTornUnderKills(t *testing.T) {
	t.Parallel()
	data := t.TempDir()
	have := &done{ticks: map[string]bool{}, plans: map[string]bool{}, finishes: map[string]bool{}, photos: map[string]bool{}, seen: map[string]bool{}}
	address, stone, diagram := "", "", ""
	for round := range *kills {
		app, err := running.Start(binary, address, "serve", "--data", data)
		require.NoError(t, err, "round %d", round)
		address = app.URL
		if stone == "" {
			stone = planOne(t, app.URL)
			var made struct{ ID string }
			require.Equal(t, http.StatusOK, ask(app.URL, "POST", "/api/diagrams", "", nil, &made))
			diagram = made.ID
		}
		have.check(t, app.URL, stone, diagram, round)
		before := have.acts
		ctx, stop := context.WithCancel(t.Context())
		var all sync.WaitGroup
		for _, act := range []func(context.Context, string, int) bool{
			have.tick(t, app.URL, stone), have.draft(diagram), have.plan(t, app.URL, stone), have.photo(stone), have.copy(data),
		} {
			all.Go(func() {
				for n := 0; ctx.Err() == nil && act(ctx, app.URL, round<<16+n); n++ {
				}
			})
		}
		enough := before + 5 + round%20
		require.Eventually(t, func() bool {
			have.mutex.Lock()
			defer have.mutex.Unlock()
			return have.acts >= enough
		}, time.Minute, time.Millisecond, "round %d", round)
		require.NoError(t, app.Kill())
		stop()
		all.Wait()
	}
	app, err := running.Start(binary, address, "serve", "--data", data)
	require.NoError(t, err)
	have.check(t, app.URL, stone, diagram, *kills)
	require.NoError(t, app.Stop())
	for what, n := range map[string]int{"ticks": len(have.ticks), "plans": len(have.plans), "finishes": len(have.finishes), "photos": len(have.photos), "drafts": have.kept} {
		assert.Positive(t, n, what)
	}
	out, err := exec.Command(binary, "check", "--data", data, "--json").Output()
	var report struct{ Problems []struct{ What string } }
	require.NoError(t, json.Unmarshal(out, &report), "%v", err)
	for _, p := range report.Problems {
		assert.Equal(t, "photo-orphaned", p.What, "a picture may be there before its record")
	}
	// Every copy that is on the shelf is whole.
	shelf, err := copies.Shelf(filepath.Join(data, copies.Beside)).List()
	require.NoError(t, err)
	for _, k := range shelf {
		assert.Empty(t, k.Problem, k.Name)
		into := copies.Folder(t.TempDir())
		_, err := into.Stage(t.Context(), filepath.Join(data, copies.Beside, k.Name), nil)
		assert.NoError(t, err)
	}
}

// ask sends a request and reads the answer, 0 where there is none.
func ask(url, method, path, key string, body, into any) int {
	var data []byte
	switch b := body.(type) {
	case nil:
	case []byte:
		data = b
	default:
		data, _ = json.Marshal(b)
	}
	r, err := http.NewRequest(method, url+path, bytes.NewReader(data))
	if err != nil {
		return 0
	}
	if key != "" {
		r.Header.Set("Idempotency-Key", key)
	}
	answer, err := http.DefaultClient.Do(r)
	if err != nil {
		return 0
	}
	defer answer.Body.Close()
	read, err := io.ReadAll(answer.Body)
	if err != nil || into != nil && json.Unmarshal(read, into) != nil {
		return 0
	}
	return answer.StatusCode
}

func (d *done) tick(t *testing.T, url, stone string) func(context.Context, string, int) bool {
	var script scriptOfStone
	fetch(t, url+"/api/stones/"+stone+"/script", &script)
	return func(_ context.Context, url string, n int) bool {
		v := script.Visits[n%len(script.Visits)]
		id := fmt.Sprintf("%032x", n+1)
		var got struct {
			Answers []struct{ ID, Outcome string }
		}
		status := ask(url, "POST", "/api/events", "", map[string]any{"events": []any{map[string]any{
			"id": id, "stream": "work/" + script.WorkID, "device": "wheel", "deviceSeq": n + 1, "deviceTime": time.Now().UTC(), "kind": "done", "version": 1,
			"payload": map[string]any{"setup": v.Setup, "pass": v.Pass, "facet": script.Facets[v.Facet].ID},
		}}}, &got)
		if status == http.StatusOK && got.Answers[0].Outcome == "stored" {
			d.note(func() { d.ticks[id] = true })
		}
		return status == http.StatusOK
	}
}

func (d *done) draft(diagram string) func(context.Context, string, int) bool {
	return func(_ context.Context, url string, _ int) bool {
		var now struct {
			Version int
			Draft   map[string]any
		}
		if ask(url, "GET", "/api/diagrams/"+diagram, "", nil, &now) != http.StatusOK {
			return false
		}
		d.mutex.Lock()
		d.sent++
		no := d.sent
		d.mutex.Unlock()
		now.Draft["note"] = fmt.Sprint(no)
		status := ask(url, "PUT", "/api/diagrams/"+diagram+"/draft", "", map[string]any{"draft": now.Draft, "version": now.Version}, nil)
		if status == http.StatusOK {
			d.note(func() { d.kept = no })
		}
		return status == http.StatusOK
	}
}

// plan plans stones, each under a name of its own, asks again for those whose answer was lost, and
// finishes every second.
func (d *done) plan(t *testing.T, url, stone string) func(context.Context, string, int) bool {
	var page struct {
		Plan struct {
			DiagramID string
			Choices   json.RawMessage
		}
	}
	fetch(t, url+"/api/stones/"+stone, &page)
	return func(_ context.Context, url string, n int) bool {
		// The same name in every third round: what was planned before must not be planned again.
		name := fmt.Sprintf("gift %d", n%7+n>>16/3*7)
		var made struct {
			ID      string
			Version int
		}
		status := ask(url, "POST", "/api/stones", name, map[string]any{"name": name, "diagramId": page.Plan.DiagramID, "choices": page.Plan.Choices}, &made)
		if status != http.StatusOK {
			return status == http.StatusConflict
		}
		d.note(func() { d.plans[name] = true })
		if n%2 == 0 || made.ID == "" {
			return true
		}
		status = ask(url, "PUT", "/api/stones/"+made.ID+"/finish", "", map[string]any{"finished": "2026-11-29", "version": 0}, nil)
		if status == http.StatusOK || status == http.StatusNoContent {
			d.note(func() { d.finishes[name] = true })
		}
		return status != 0
	}
}

func (d *done) photo(stone string) func(context.Context, string, int) bool {
	return func(_ context.Context, url string, n int) bool {
		var picture bytes.Buffer
		if png.Encode(&picture, image.NewGray(image.Rect(0, 0, 1+n%251, 1+n>>16))) != nil {
			return false
		}
		var made struct{ ID string }
		status := ask(url, "POST", "/api/stones/"+stone+"/photos", fmt.Sprint("photo ", n), picture.Bytes(), &made)
		if status == http.StatusOK {
			d.note(func() { d.photos[made.ID] = true })
		}
		return status == http.StatusOK && n&0xffff < 3
	}
}

// copy makes copies in turn by the server and by the command line.
func (d *done) copy(data string) func(context.Context, string, int) bool {
	return func(ctx context.Context, url string, n int) bool {
		if n%2 == 0 {
			return ask(url, "POST", "/api/copies", "", nil, nil) != 0
		}
		to := filepath.Join(data, copies.Beside, fmt.Sprintf("by-hand-%d.cressa.zip", n>>16%5))
		return exec.CommandContext(ctx, binary, "backup", to, "--data", data).Run() == nil && n&0xffff < 2
	}
}

// check holds what the server has against what it acknowledged.
func (d *done) check(t *testing.T, url, stone, diagram string, round int) {
	t.Helper()
	known := map[string]bool{}
	for _, e := range eventsOf(t, url, stone) {
		require.False(t, known[e.ID], "round %d: %s is there twice", round, e.ID)
		known[e.ID] = true
	}
	for id := range d.ticks {
		require.True(t, known[id], "round %d: a tick is lost", round)
	}
	var draft struct{ Draft struct{ Note string } }
	fetch(t, url+"/api/diagrams/"+diagram, &draft)
	if d.kept > 0 {
		var no int
		_, err := fmt.Sscan(draft.Draft.Note, &no)
		require.NoError(t, err)
		require.GreaterOrEqual(t, no, d.kept, "round %d: a draft is lost", round)
	}
	named, finished := map[string]int{}, map[string]bool{}
	for after := ""; ; {
		var list struct {
			Stones []struct {
				Name, State string
			}
			Next string
		}
		fetch(t, url+"/api/stones?limit=200&after="+after, &list)
		for _, s := range list.Stones {
			named[s.Name]++
			finished[s.Name] = s.State == "finished"
		}
		if after = list.Next; after == "" {
			break
		}
	}
	for name, n := range named {
		require.Equal(t, 1, n, "round %d: %s was planned twice", round, name)
	}
	for name := range d.plans {
		require.Equal(t, 1, named[name], "round %d: %s is lost", round, name)
	}
	for name := range d.finishes {
		require.True(t, finished[name], "round %d: the card of %s is lost", round, name)
	}
	var page struct {
		Photos []struct{ ID, Hash string }
	}
	fetch(t, url+"/api/stones/"+stone, &page)
	shown := map[string]bool{}
	for _, p := range page.Photos {
		shown[p.ID] = true
		// Each file is looked at when it is new, and all of them at the end.
		if d.seen[p.ID] && round < *kills {
			continue
		}
		d.seen[p.ID] = true
		answer, err := http.Get(url + "/api/photos/" + p.Hash)
		require.NoError(t, err)
		require.NoError(t, answer.Body.Close())
		require.Equal(t, http.StatusOK, answer.StatusCode, "round %d: a photo has no file", round)
	}
	for _, id := range slices.Sorted(maps.Keys(d.photos)) {
		require.True(t, shown[id], "round %d: a photo is lost", round)
	}
}

// keptInBrowser asks the browser's database whether it has an entry that waits.
const keptInBrowser = `(() => {
	const asked = indexedDB.open('cressa')
	asked.onsuccess = () => {
		const count = asked.result.transaction('events').objectStore('events').index('held').count(1)
		count.onsuccess = () => { window.cressaKept = count.result; asked.result.close() }
	}
	return window.cressaKept > 0
})()`

// A tab that is killed, with the server or without, has every tick when it is opened again
// that it had shown on disk, or that the browser had kept.
func TestATabThatIsKilledHasEveryTickThatItShowed(t *testing.T) {
	t.Parallel()
	data := t.TempDir()
	app := start(t, "serve", "--data", data)
	stone := planOne(t, app.URL)
	u := open(t, 1280, 800, app.URL+"/bench/"+stone)
	u.until(`document.querySelector('[data-digits]')`)
	for round := range max(8, *kills/10) {
		if round%2 == 0 {
			require.NoError(t, app.Kill())
		}
		before, err := browser.Eval[string](u.Page, progress)
		require.NoError(t, err)
		u.click("Done")
		u.until(progress + ` !== '` + before + `'`)
		shown, err := browser.Eval[string](u.Page, progress)
		require.NoError(t, err)
		// With the server it is on disk, without it the browser has it.
		if round%2 == 0 {
			u.until(keptInBrowser)
		} else {
			u.see("on disk")
		}
		require.NoError(t, u.Crash())
		if round%2 == 0 {
			next, err := running.Start(binary, app.URL, "serve", "--data", data)
			require.NoError(t, err)
			t.Cleanup(func() { _ = next.Kill() })
			app = next
		}
		require.NoError(t, u.Go(app.URL+"/bench/"+stone))
		u.until(`document.querySelector('[data-digits]')`)
		u.until(progress + ` === '` + shown + `'`)
		u.see("on disk")
	}
}
