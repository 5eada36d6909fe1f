package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io"
	"log/slog"
	"mime"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/copies"
	"cressa/core/diagram"
	"cressa/demo"
	"cressa/internal/ceiling"
	"cressa/internal/template"
	"cressa/server"
	"cressa/sqlite"
	"cressa/workshop"
)

var page = fstest.MapFS{
	"index.html":    {Data: []byte("<!doctype html><title>Cressa</title>")},
	"assets/app.js": {Data: []byte("console.log('" + strings.Repeat("x", 2000) + "')")},
}

// client talks to a server of a fresh workshop over a real connection.
type client struct {
	t   testing.TB
	url string
}

// library writes the records of a workshop that has its library and nothing else.
var library = template.Of(func(file string) error {
	store, err := sqlite.Open(context.Background(), file)
	if err != nil {
		return err
	}
	return errors.Join(demo.FillLibrary(context.Background(), workshop.New(store, time.Now)), store.Close())
})

// demonstration writes the records of the demo.
var demonstration = template.Of(func(file string) error {
	return demo.Fill(context.Background(), file, time.Now())
})

func start(t testing.TB) client {
	t.Helper()
	file := filepath.Join(t.TempDir(), copies.Records)
	library(t, file)
	return serve(t, file)
}

// round adds the round of the contracts to the library.
func (c client) round() server.Diagram {
	c.t.Helper()
	file, err := os.ReadFile("../core/cutting/testdata/round.cressa.json")
	require.NoError(c.t, err)
	var read server.ReadFile
	c.put("POST", "/api/diagrams/read", server.ReadRequest{Name: "round.cressa.json", Text: string(file)}, &read)
	var d server.Diagram
	c.put("POST", "/api/diagrams/add", server.AddDraftRequest{Draft: read.Draft, Origin: "round.cressa.json"}, &d)
	return d
}

// serve serves the workshop of a file.
func serve(t testing.TB, file string) client {
	t.Helper()
	c, _ := serveWith(t, file)
	return c
}

func serveWith(t testing.TB, file string) (client, *server.Server) {
	t.Helper()
	return serveAt(t, file, "127.0.0.1:0")
}

func serveAt(t testing.TB, file, address string) (client, *server.Server) {
	t.Helper()
	c, s, stop := runAt(t, file, address)
	t.Cleanup(stop)
	return c, s
}

// runAt serves the workshop of a file until stop is called.
func runAt(t testing.TB, file, address string) (c client, s *server.Server, stop func()) {
	t.Helper()
	ctx, end := context.WithCancel(context.Background())
	store, err := sqlite.Open(ctx, file)
	require.NoError(t, err)
	w := workshop.New(store, time.Now)
	require.NoError(t, demo.FillLibrary(ctx, w))
	listener, err := net.Listen("tcp", address)
	require.NoError(t, err)
	ended := make(chan error, 1)
	s = server.New(w, copies.Folder(filepath.Dir(file)), page, slog.New(slog.DiscardHandler))
	go func() { ended <- s.Serve(ctx, listener, func(net.Addr) {}) }()
	return client{t, "http://" + listener.Addr().String()}, s, func() {
		end()
		assert.NoError(t, <-ended, "the server must end in good order")
		assert.NoError(t, store.Close())
	}
}

// send sends a request and returns status, head and body.
func (c client) send(method, path, body string, change ...func(*http.Request)) (int, http.Header, []byte) {
	c.t.Helper()
	r, err := http.NewRequest(method, c.url+path, strings.NewReader(body))
	require.NoError(c.t, err)
	for _, f := range change {
		f(r)
	}
	answer, err := http.DefaultTransport.RoundTrip(r)
	require.NoError(c.t, err)
	defer answer.Body.Close()
	data, err := io.ReadAll(answer.Body)
	require.NoError(c.t, err)
	return answer.StatusCode, answer.Header, data
}

func (c client) get(path string, into any) {
	c.t.Helper()
	status, _, data := c.send(http.MethodGet, path, "")
	require.Equal(c.t, http.StatusOK, status, "%s", data)
	require.NoError(c.t, json.Unmarshal(data, into))
}

func (c client) problem(method, path, body string, status int) server.Problem {
	c.t.Helper()
	got, head, data := c.send(method, path, body)
	require.Equal(c.t, status, got, "%s %s: %s", method, path, data)
	assert.Equal(c.t, "application/problem+json", head.Get("Content-Type"))
	var p server.Problem
	require.NoError(c.t, json.Unmarshal(data, &p))
	assert.Equal(c.t, status, p.Status)
	assert.NotEmpty(c.t, p.Title)
	assert.NotEmpty(c.t, p.Detail)
	return p
}

func TestWhatGoesWrongIsAlwaysAProblem(t *testing.T) {
	c := start(t)
	var list server.DiagramList
	c.get("/api/diagrams", &list)
	starter := list.Diagrams[0].ID
	for _, r := range []struct {
		method, path, body string
		status             int
		says               string
	}{
		{"GET", "/api/nothing", "", 404, ""},
		{"GET", "/api/stones/none", "", 404, "not here"},
		{"GET", "/assets/none.js", "", 404, ""},
		{"POST", "/", "", 405, ""},
		{"POST", "/api/solve", "", 400, "JSON"},
		{"POST", "/api/solve", `{"serial":1,"drfat":{}}`, 400, "drfat"},
		{"POST", "/api/solve", `{"serial":1,"draft":{}} {}`, 400, "more text"},
		{"POST", "/api/diagrams/read", `{"name":"","text":"` + strings.Repeat("x", 9<<20) + `"}`, 413, ""},
		{"PUT", "/api/settings", `{"version":0,"answered":true,"machine":"m","machines":[],"habit":"h","habits":[],"materials":[]}`, 422, "another value"},
		{"POST", "/api/pull", `{"draft":{"gear":"96"},"tier":3}`, 422, "no tier"},
		{"POST", "/api/reshape", `{"draft":{"gear":"96","tiers":[]},"tier":0,"how":{"kind":"melt"}}`, 422, "another value"},
		{"PUT", "/api/diagrams/" + starter + "/draft", `{"draft":{},"version":1}`, 409, "copy"},
		{"POST", "/api/assess", `{"diagramId":"` + starter + `","choices":{"material":"cheese","gear":96,"size":{"basis":"width","tier":"","mm":8,"typed":"8"},"firstSide":"pavilion","girdle":"drawn","table":"drawn","visiting":"written","tableAt":"each","turning":"whole","uses":[],"passes":[{"id":"a","name":"A","lap":"","compound":""}]}}`, 422, "cheese"},
	} {
		p := c.problem(r.method, r.path, r.body, r.status)
		assert.Contains(t, p.Detail, r.says, "%s %s", r.method, r.path)
	}
	// A field is named as the request names it.
	p := c.problem("POST", "/api/assess", `{"choices":{"girdle":"somewhere"}}`, 422)
	assert.True(t, slices.ContainsFunc(p.Places, func(at server.Place) bool { return at.Field == "choices.girdle" }), "%v", p.Places)
}

func TestOnlyTheServedAddressAndItsOwnPagesAreAnswered(t *testing.T) {
	c := start(t)
	status, _, _ := c.send("GET", "/api/settings", "", func(r *http.Request) { r.Host = "elsewhere.example" })
	assert.Equal(t, http.StatusMisdirectedRequest, status)
	// Every address of this machine alone is its own.
	other, _ := serveAt(t, filepath.Join(t.TempDir(), copies.Records), "127.0.0.5:0")
	status, _, _ = other.send("GET", "/api/copies", "")
	assert.Equal(t, http.StatusOK, status)
	for _, foreign := range []map[string]string{
		{"Origin": "http://elsewhere.example"}, {"Origin": strings.Replace(c.url, "http:", "https:", 1)}, {"Origin": "null"},
		{"Sec-Fetch-Site": "cross-site"}, {"Sec-Fetch-Site": "same-site", "Sec-Fetch-Mode": "navigate"},
	} {
		status, _, _ = c.send("POST", "/api/diagrams", "", func(r *http.Request) {
			for name, value := range foreign {
				r.Header.Set(name, value)
			}
		})
		assert.Equal(t, http.StatusForbidden, status, "%v", foreign)
	}
	// Another site's page may have a link to a room, and show nothing of it itself.
	link := func(site, mode string) func(*http.Request) {
		return func(r *http.Request) {
			r.Header.Set("Sec-Fetch-Site", site)
			r.Header.Set("Sec-Fetch-Mode", mode)
		}
	}
	status, head, _ := c.send("GET", "/stones", "", link("cross-site", "navigate"))
	assert.Equal(t, http.StatusOK, status)
	assert.Equal(t, "same-origin", head.Get("Cross-Origin-Resource-Policy"))
	status, _, _ = c.send("GET", "/api/settings", "", link("cross-site", "navigate"))
	assert.Equal(t, http.StatusForbidden, status)
	status, _, _ = c.send("GET", "/assets/app.js", "", link("cross-site", "no-cors"))
	assert.Equal(t, http.StatusForbidden, status)
	status, _, _ = c.send("GET", "/api/settings", "", link("same-origin", "cors"))
	assert.Equal(t, http.StatusOK, status)
	status, _, _ = c.send("POST", "/api/diagrams", "", func(r *http.Request) { r.Header.Set("Origin", c.url) })
	assert.Equal(t, http.StatusOK, status)
}

func TestThePageIsServedAtEveryRoomAndFilesByName(t *testing.T) {
	c := start(t)
	status, head, data := c.send("GET", "/stones/1", "")
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, string(data), "Cressa")
	assert.Contains(t, head.Get("Content-Security-Policy"), "default-src 'self'")
	assert.Equal(t, "nosniff", head.Get("X-Content-Type-Options"))

	status, head, data = c.send("GET", "/assets/app.js", "", func(r *http.Request) { r.Header.Set("Accept-Encoding", "gzip") })
	assert.Equal(t, http.StatusOK, status)
	assert.Equal(t, "gzip", head.Get("Content-Encoding"))
	assert.Less(t, len(data), 500)
	status, _, _ = c.send("GET", "/assets/app.js", "", func(r *http.Request) { r.Header.Set("If-None-Match", head.Get("ETag")) })
	assert.Equal(t, http.StatusNotModified, status)
}

func TestADraftIsSolvedWithItsProblemsAtTheirTiers(t *testing.T) {
	c := start(t)
	draft := c.diagramCalled("Deep Field").Draft
	solve := func() server.Solved {
		body, err := json.Marshal(server.SolveRequest{Serial: 7, Draft: draft})
		require.NoError(t, err)
		status, _, data := c.send("POST", "/api/solve", string(body))
		require.Equal(t, http.StatusOK, status, "%s", data)
		var out server.Solved
		require.NoError(t, json.Unmarshal(data, &out))
		return out
	}
	good := solve()
	assert.Equal(t, 7, good.Serial)
	assert.Empty(t, good.Problems)
	require.NotNil(t, good.Stone)
	assert.True(t, good.Stone.Complete)
	assert.Len(t, good.Stone.Mesh.Steps, len(good.Stone.Facets)+1)

	draft.Tiers[2].Stop = "meet C1 C1"
	bad := solve()
	require.Len(t, bad.Problems, 1)
	assert.Equal(t, 2, bad.Problems[0].Tier)
	assert.Contains(t, bad.Problems[0].Message, "C1 makes that meet")
	require.NotNil(t, bad.Stone, "the stone comes as far as it can be cut")
	assert.False(t, bad.Stone.Complete)
}

func TestAFileComesInAndGoesOutTheSame(t *testing.T) {
	c := start(t)
	file, err := os.ReadFile("../demo/diagrams/meridian.cressa.json")
	require.NoError(t, err)
	var read server.ReadFile
	c.put("POST", "/api/diagrams/read", server.ReadRequest{Name: "m.cressa.json", Text: string(file)}, &read)
	assert.True(t, read.Whole)
	assert.Empty(t, read.Mistakes)
	var d server.Diagram
	c.put("POST", "/api/diagrams/add", server.AddDraftRequest{Draft: read.Draft, Origin: "m.cressa.json"}, &d)
	assert.Equal(t, "m.cressa.json", d.Origin)
	begins := map[string]string{"json": "{", "csv": "name,Meridian", "svg": "<svg", "pdf": "%PDF", "obj": "# Meridian", "stl": "Meridian"}
	for format, want := range begins {
		status, head, out := c.send("GET", "/api/diagrams/"+d.ID+"/file/"+format, "")
		require.Equal(t, http.StatusOK, status, format)
		assert.Contains(t, head.Get("Content-Disposition"), `attachment; filename=Meridian.`)
		assert.True(t, strings.HasPrefix(string(out), want), format)
		if format == "json" {
			assert.JSONEq(t, string(file), string(out))
		}
	}
	c.problem("GET", "/api/diagrams/"+d.ID+"/file/exe", "", http.StatusNotFound)

	spoilt, err := json.Marshal(server.ReadRequest{Text: strings.Replace(string(file), `"angle": 53`, `"angle": 530`, 1)})
	require.NoError(t, err)
	p := c.problem("POST", "/api/diagrams/read", string(spoilt), http.StatusUnprocessableEntity)
	require.NotEmpty(t, p.Places)
	assert.Equal(t, "P1", p.Places[0].TierName)
	assert.Positive(t, p.Places[0].Line)
}

func TestATableIsReadButNotKeptBeforeItWasLookedAt(t *testing.T) {
	c := start(t)
	var before, after server.DiagramList
	c.get("/api/diagrams", &before)
	var read server.ReadFile
	c.put("POST", "/api/diagrams/read", server.ReadRequest{Text: "Odd\nP1 41 3-9-15 somehow\nwho knows"}, &read)
	assert.False(t, read.Whole)
	require.Len(t, read.Lines, 3)
	assert.Equal(t, "tier", read.Lines[1].Kind)
	assert.Equal(t, "unread", read.Lines[2].Kind)
	lines := map[string]int{}
	for _, m := range read.Mistakes {
		lines[m.Code] = m.Line
		assert.NotEmpty(t, m.Message)
	}
	assert.Equal(t, "somehow", read.Draft.Tiers[0].Stop)
	assert.Equal(t, 3, lines["line-not-read"])
	c.get("/api/diagrams", &after)
	assert.Len(t, after.Diagrams, len(before.Diagrams))
}

func TestTheSheetComesOnEitherPaper(t *testing.T) {
	c := start(t)
	id := c.diagramCalled("First Light").ID
	for paper, width := range map[string]string{"a4": "210mm", "letter": "215.9mm"} {
		var pages server.SheetPages
		c.get("/api/diagrams/"+id+"/sheet/"+paper+"/2", &pages)
		require.NotEmpty(t, pages.Pages)
		assert.Contains(t, pages.Pages[0], width)
		_, head, pdf := c.send("GET", "/api/diagrams/"+id+"/sheet/"+paper+"/2/pdf", "")
		assert.Equal(t, "application/pdf", head.Get("Content-Type"))
		assert.True(t, strings.HasPrefix(string(pdf), "%PDF"))
	}
	for _, none := range []string{"a0/2", "a4/3", "a4/-1", "a0/2/pdf", "a4/3/pdf", "a4/-1/pdf"} {
		c.problem("GET", "/api/diagrams/"+id+"/sheet/"+none, "", http.StatusNotFound)
	}
}

// hostile are texts as people write them and as they should not.
var hostile = map[string]string{
	"emoji":       "a gift 💎👩‍🚀 for 🪐",
	"rightToLeft": "מתנה לפלנטריום 2026 هدية (ספיר)",
	"long":        strings.Repeat("no end of letters", 110),
	"oneWord":     strings.Repeat("m", 1900),
	"otherScript": "石头",
	"marks":       "z\u0300\u0301\u0302\ufe0f\u200d\u202e\u0007 \r\n =1+1 <b> ()\\",
}

func TestEveryTextFieldTakesEveryText(t *testing.T) {
	c := start(t)
	d := c.diagramCalled("First Light")
	for name, text := range hostile {
		draft := d.Draft
		draft.Name, draft.Designer, draft.Source, draft.Date, draft.Licence, draft.Note = text, text, text, text, text, text
		draft.Tiers = slices.Clone(d.Draft.Tiers)
		draft.Tiers[0].Note, draft.Tiers[1].Note = text, text
		var added server.Diagram
		c.put("POST", "/api/diagrams/add", server.AddDraftRequest{Draft: draft, Origin: name}, &added)
		c.put("POST", "/api/diagrams/"+added.ID+"/keep", server.VersionRequest{Version: added.Version}, &added)
		short := string([]rune(text)[:min(len([]rune(text)), 60)])
		choices := plan("Quartz", 96, width(8), diagram.Pavilion)
		choices.Laps.Passes[0].Name, choices.Laps.Passes[0].Lap, choices.Laps.Passes[0].Compound = short, short, short
		var stone server.StoneHead
		c.put("POST", "/api/stones", server.PlanRequest{Name: strings.TrimSpace(string([]rune(text)[:min(len([]rune(text)), 200)])), DiagramID: added.ID, Choices: choices}, &stone)
		paths := []string{"/api/stones/" + stone.ID + "/diagram", "/api/stones/" + stone.ID + "/sheet/a4/1", "/api/stones/" + stone.ID + "/sheet/letter/2/pdf", "/api/diagrams/" + added.ID + "/sheet/a4/2/pdf", "/api/diagrams/" + added.ID + "/sheet/a4/1"}
		for _, format := range []string{"json", "csv", "svg", "pdf", "obj", "stl", "ply"} {
			paths = append(paths, "/api/diagrams/"+added.ID+"/file/"+format)
		}
		ceiling.Hold(t, name, 2500, func() {
			for _, path := range paths {
				status, head, data := c.send("GET", path, "")
				require.Equal(t, http.StatusOK, status, "%s %s: %s", name, path, data)
				if as := head.Get("Content-Disposition"); as != "" {
					_, values, err := mime.ParseMediaType(as)
					require.NoError(t, err, as)
					assert.Regexp(t, `^[\pL\pN][\pL\pM\pN-]*(\.cressa)?\.[a-z]+$`, values["filename"], name)
					assert.Less(t, len(values["filename"]), 255)
				}
			}
		})
		if name == "otherScript" {
			_, head, _ := c.send("GET", "/api/diagrams/"+added.ID+"/file/csv", "")
			_, values, err := mime.ParseMediaType(head.Get("Content-Disposition"))
			require.NoError(t, err)
			assert.Equal(t, "石头.csv", values["filename"])
		}
	}
}

func TestTheContractOnDiskIsTheServers(t *testing.T) {
	s := server.New(nil, "", page, slog.New(slog.DiscardHandler))
	doc, err := s.OpenAPI()
	require.NoError(t, err)
	onDisk, err := os.ReadFile("openapi.json")
	require.NoError(t, err)
	assert.True(t, bytes.Equal(append(doc, '\n'), onDisk), "server/openapi.json is out of date; run: make contract")
}
