package e2e_test

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"io/fs"
	"net"
	"net/http"
	"net/http/httputil"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"sync/atomic"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
	"cressa/e2e/running"
)

// between stands between a browser and the application: a network that can hang, and a
// server that can be replaced.
type between struct {
	url  string
	hung atomic.Bool
	// files, where it is set, answers for the interface's own files.
	files atomic.Pointer[http.Handler]
}

func inBetween(t *testing.T, app *running.App) *between {
	t.Helper()
	to, err := url.Parse(app.URL)
	require.NoError(t, err)
	pass := &httputil.ReverseProxy{
		Rewrite: func(r *httputil.ProxyRequest) {
			r.SetURL(to)
			// The application answers to its own address, from its own pages.
			r.Out.Host = to.Host
			if r.In.Header.Get("Origin") != "" {
				r.Out.Header.Set("Origin", app.URL)
			}
		},
	}
	out := &between{}
	ended := make(chan struct{})
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	out.url = "http://" + listener.Addr().String()
	server := &http.Server{Handler: http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if out.hung.Load() {
			// No refusal and no answer: the packets are lost.
			select {
			case <-r.Context().Done():
			case <-ended:
			}
			return
		}
		if files := out.files.Load(); files != nil && !strings.HasPrefix(r.URL.Path, "/api/") {
			(*files).ServeHTTP(w, r)
			return
		}
		pass.ServeHTTP(w, r)
	})}
	go func() { _ = server.Serve(listener) }()
	t.Cleanup(func() {
		close(ended)
		_ = server.Close()
	})
	return out
}

// atTheSphene opens the bench of the demo's sphene, of which 5 of 93 cuts are done.
func atTheSphene(t *testing.T, url string) *user {
	t.Helper()
	u := open(t, 1024, 768, url+"/stones")
	u.click("Sphene")
	u.click("Resume")
	// The stone's own page says how many, too.
	u.until(`document.querySelector('[data-done]')`)
	u.see("5 of 93")
	return u
}

func held(u *user) int {
	u.t.Helper()
	n, err := browser.Eval[int](u.Page, `document.querySelectorAll('[data-tick=held]').length`)
	require.NoError(u.t, err)
	return n
}

// A network that takes everything and answers nothing: cutting goes on, a reload in the
// middle of a tier shows every tick, acknowledged or not, and all of it arrives once.
func TestAHungNetworkForgetsNothing(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	network := inBetween(t, app)
	u := atTheSphene(t, network.url)
	u.press(kb.Enter)
	u.see("6 of 93")
	u.see("on disk")
	u.untilPutAside()
	stone := idOf(t, u)

	network.hung.Store(true)
	u.press(kb.Enter)
	u.press(kb.Enter)
	u.see("8 of 93")
	assert.Equal(t, 2, held(u))
	require.NoError(t, u.Reload())
	u.see("8 of 93")
	assert.Equal(t, 2, held(u), "what was acknowledged is filled, what was not is hollow")
	u.mentions("Cressa is away")
	u.press(kb.Enter)
	u.see("9 of 93")
	// Every room says so.
	u.press(kb.Escape)
	u.see("3 entries are not on disk yet")
	network.hung.Store(false)
	u.until(`!document.body.innerText.includes('not on disk yet')`)
	assert.Equal(t, 9, count(eventsOf(t, app.URL, stone), "done"))
	assert.Empty(t, u.Complaints("Failed to load", "ERR_", "net::", "sending failed"))
}

// Two tabs at one stone: both show what either ticked, neither waits for ever, and one
// Back takes back what both have ticked.
func TestTwoTabsAgree(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	first := atTheSphene(t, app.URL)
	stone := idOf(t, first)
	page, err := first.Another(1024, 768)
	require.NoError(t, err)
	second := &user{t: t, Page: page}
	require.NoError(t, second.Go(app.URL+"/bench/"+stone))
	second.see("5 of 93")
	first.press(kb.Enter)
	second.see("6 of 93")
	second.press(kb.Enter)
	first.see("7 of 93")
	for _, u := range []*user{first, second} {
		u.see("on disk")
		u.until(`!document.body.innerText.includes('Cressa is away')`)
	}
	// Both tick the same facet before they hear of each other.
	visit := visitAt(t, app.URL, stone, 7)
	tickAs(t, app.URL, visit, 1)
	tickAs(t, app.URL, visit, 2)
	first.see("8 of 93")
	first.press(kb.Backspace)
	first.see("7 of 93")
	second.see("7 of 93")
	first.quiet()
	second.quiet()
}

// A key that is held down ticks one facet.
func TestAHeldKeyTicksOnce(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := atTheSphene(t, app.URL)
	require.NoError(t, u.Hold(kb.Enter, 13))
	u.see("6 of 93")
	u.press("n")
	u.mentions("What happened at")
	u.press(kb.Escape)
	// On the button, too.
	u.until(`(document.querySelector('main button[data-done]').focus(), true)`)
	require.NoError(t, u.Hold(kb.Enter, 13))
	u.see("7 of 93")
	u.see("on disk")
	assert.Equal(t, 7, count(eventsOf(t, app.URL, idOf(t, u)), "done"))
	u.quiet()
}

// An entry that the server refuses is listed with what to do, in every room; later ones
// pass.
func TestARefusedEntryHoldsNothingUp(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := atTheSphene(t, app.URL)
	// What an older version or a damaged tablet may hold.
	_, err := browser.Eval[bool](u.Page, `(async () => {
		const db = await new Promise((done) => { const r = indexedDB.open('cressa'); r.onsuccess = () => done(r.result); });
		const events = db.transaction('events', 'readwrite').objectStore('events');
		const all = await new Promise((done) => { const r = events.getAll(); r.onsuccess = () => done(r.result); });
		const last = all.find((e) => e.kind === 'done');
		await new Promise((done) => { const r = events.add({ ...last, id: 'f'.repeat(32), held: 1, seq: 0, deviceSeq: 0,
			payload: { ...last.payload, pass: 'buff' } }); r.onsuccess = done; });
	})(), true`)
	require.NoError(t, err)
	u.press(kb.Enter)
	u.see("6 of 93")
	u.see("on disk")
	u.mentions("An entry could not be taken into the log")
	u.press(kb.Escape)
	u.see("Change the plan")
	u.mentions("An entry could not be taken into the log")
	u.click("What to do")
	u.mentions("Cut: P1 at")
	u.mentions("No plan of this stone has ever asked for that facet in that pass")
	u.click("Understood")
	u.mentions("Every entry has been read")
	u.click("Close")
	u.until(`!document.body.innerText.includes('could not be taken')`)
	u.quiet()
}

// A plan that is changed at the desk covers the open bench until it is read; a stone that
// is finished there keeps what comes in late.
func TestAChangedPlanReachesTheOpenBench(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := atTheSphene(t, app.URL)
	stone := idOf(t, u)
	var page struct {
		Summary struct{ Version int }
		Plan    struct{ Choices map[string]any }
	}
	fetch(t, app.URL+"/api/stones/"+stone, &page)
	page.Plan.Choices["passes"] = page.Plan.Choices["passes"].([]any)[:2]
	send(t, http.MethodPut, app.URL+"/api/stones/"+stone+"/plan", map[string]any{"choices": page.Plan.Choices, "version": page.Summary.Version})
	u.see("The plan was changed at the desk: it is plan 2 now.")
	u.press(kb.Enter)
	u.click("Read the new plan")
	u.see("5 of 62")
	u.press(kb.Enter)
	u.see("6 of 62")
	u.see("on disk")

	send(t, http.MethodPut, app.URL+"/api/stones/"+stone+"/finish", map[string]any{
		"version": 0, "roughCarats": 0, "finishedCarats": 1, "widthMM": 0, "lengthMM": 0, "heightMM": 0,
		"started": "", "finished": "2026-11-20", "hours": nil, "notes": "", "saved": "2026-11-20T00:00:00Z",
	})
	u.see("This stone is finished.")
	tickAs(t, app.URL, visitAt(t, app.URL, stone, 6), 3)
	u.mentions("1 entry came in after its card was written.")
	u.quiet()
}

// An upgrade comes in under an open bench: it goes on with the files of its own build,
// and both builds load without the network, never a mixture.
func TestAnUpgradeUnderAnOpenBench(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	network := inBetween(t, app)
	u := atTheSphene(t, network.url)
	u.untilPutAside()

	next := nextBuild(t)
	network.files.Store(&next)
	// The browser looks for another worker; the new build is held once it stands.
	u.until(`(navigator.serviceWorker.getRegistration().then((r) => r.update()), true)`)
	u.until(`(caches.keys().then((k) => { window.builds = k.filter((n) => n.startsWith('cressa-')).length }), window.builds === 2)`)
	u.until(`(navigator.serviceWorker.getRegistration().then((r) => { window.calm = !r.installing && !r.waiting && r.active?.state === 'activated' }), window.calm)`)
	u.press(kb.Enter)
	u.see("6 of 93")
	u.see("on disk")
	network.hung.Store(true)
	require.NoError(t, u.Reload())
	u.see("6 of 93")
	title, err := browser.Eval[string](u.Page, `document.querySelector('meta[name=next-build]')?.content ?? 'first'`)
	require.NoError(t, err)
	assert.Equal(t, "yes", title, "the page that comes back is the new build's")
	u.press(kb.Enter)
	u.see("7 of 93")
	network.hung.Store(false)
	u.see("on disk")
	assert.Empty(t, u.Complaints("Failed to load", "ERR_", "net::", "sending failed"))
}

// nextBuild serves the interface as another build of it: the same files under other names.
func nextBuild(t *testing.T) http.Handler {
	t.Helper()
	from, to := filepath.Join("..", "ui", "dist"), t.TempDir()
	require.NoError(t, os.CopyFS(to, os.DirFS(from)))
	page, err := os.ReadFile(filepath.Join(to, "index.html"))
	require.NoError(t, err)
	var pairs []string
	require.NoError(t, fs.WalkDir(os.DirFS(to), "assets", func(path string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			renamed := "assets/next-" + filepath.Base(path)
			pairs = append(pairs, filepath.Base(path), filepath.Base(renamed))
			return os.Rename(filepath.Join(to, path), filepath.Join(to, renamed))
		}
		return err
	}))
	names := strings.NewReplacer(pairs...)
	changed := strings.Replace(names.Replace(string(page)), "<head>", `<head><meta name="next-build" content="yes">`, 1)
	require.NoError(t, os.WriteFile(filepath.Join(to, "index.html"), []byte(changed), 0o600))
	for _, pattern := range []string{"assets/*.js", "assets/*.css", "sw.js"} {
		files, err := filepath.Glob(filepath.Join(to, pattern))
		require.NoError(t, err)
		for _, file := range files {
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			text := names.Replace(string(data))
			if filepath.Base(file) == "sw.js" {
				text = strings.Replace(text, digest(string(page)), digest(changed), 1)
			}
			require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
		}
	}
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		name := strings.TrimPrefix(r.URL.Path, "/")
		if filepath.Ext(name) == "" {
			name = "index.html"
		}
		w.Header().Set("Cache-Control", "no-cache")
		data, err := os.ReadFile(filepath.Join(to, name))
		if err != nil {
			http.NotFound(w, r)
			return
		}
		types := map[string]string{".html": "text/html", ".js": "text/javascript", ".css": "text/css", ".svg": "image/svg+xml"}
		w.Header().Set("Content-Type", types[filepath.Ext(name)])
		_, _ = w.Write(data)
	})
}

// digest names a build as the build itself does: by its page.
func digest(page string) string {
	sum := sha256.Sum256([]byte(page))
	return hex.EncodeToString(sum[:8])
}

// send changes something at the desk.
func send(t *testing.T, method, url string, body any) {
	t.Helper()
	data, err := json.Marshal(body)
	require.NoError(t, err)
	r, err := http.NewRequest(method, url, bytes.NewReader(data))
	require.NoError(t, err)
	answer, err := http.DefaultClient.Do(r)
	require.NoError(t, err)
	defer answer.Body.Close()
	said, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	require.Equal(t, http.StatusOK, answer.StatusCode, "%s", said)
}

// visit is a facet in a pass of a work.
type visit struct{ work, setup, pass, facet string }

func visitAt(t *testing.T, url, stone string, n int) visit {
	t.Helper()
	var script scriptOfStone
	fetch(t, url+"/api/stones/"+stone+"/script", &script)
	v := script.Visits[n]
	return visit{script.WorkID, v.Setup, v.Pass, script.Facets[v.Facet].ID}
}

// tickAs ticks a visit from another screen.
func tickAs(t *testing.T, url string, v visit, screen int) {
	t.Helper()
	send(t, http.MethodPost, url+"/api/events", map[string]any{"events": []any{map[string]any{
		"id": fmt.Sprintf("dd%030x", screen), "stream": "work/" + v.work, "device": fmt.Sprint("screen ", screen), "deviceSeq": 1,
		"deviceTime": "2026-11-20T18:00:00Z", "kind": "done", "version": 1,
		"payload": map[string]any{"setup": v.setup, "pass": v.pass, "facet": v.facet},
	}}})
}
