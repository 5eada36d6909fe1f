package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"io"
	"net/http"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/copies"
	"cressa/core/diagram"
	"cressa/photos"
	"cressa/server"
)

// many is a draft of rings of five facets that all stay on the stone.
func many(tiers int) server.Draft {
	d := server.Draft{Name: "many", Outline: "round", Gear: "360", RefractiveIndex: "1.6", FirstSide: "pavilion", Indexing: "dialled", Tiers: []server.DraftTier{}}
	ring := func(name string, part diagram.Part, angle float64, no int) {
		d.Tiers = append(d.Tiers, server.DraftTier{Key: name, Name: name, Part: string(part), Angle: diagram.FormatNumber(angle), Indexes: fmt.Sprintf("every 72 from %d", 1+no*47%71), Stop: "size 0.5"})
	}
	half := tiers / 2
	for i := range half {
		ring(fmt.Sprint("P", i+1), diagram.Pavilion, 10+70*float64(i)/float64(half), i)
	}
	ring("G", diagram.Girdle, 90, 0)
	for i := range half - 1 {
		ring(fmt.Sprint("C", i+1), diagram.Crown, 10+70*float64(i)/float64(half), i)
	}
	return d
}

// searches are requests that search through a draft.
func searches(draft server.Draft) map[string]any {
	lacking := draft
	lacking.Tiers = nil
	for _, t := range draft.Tiers {
		t.Stop = ""
		lacking.Tiers = append(lacking.Tiers, t)
	}
	return map[string]any{
		"/api/sequence":    server.DraftOnly{Draft: draft},
		"/api/stops":       server.DraftOnly{Draft: lacking},
		"/api/angles/find": server.FindAngleRequest{Draft: draft, Tier: len(draft.Tiers) - 1, Width: 8},
		"/api/angles":      server.AnglesRequest{Draft: draft, Step: 0.5, Search: true, Width: 8},
	}
}

func TestADiagramTooLargeToSearchIsToldSoAtOnce(t *testing.T) {
	c := start(t)
	for path, body := range searches(many(160)) {
		data, err := json.Marshal(body)
		require.NoError(t, err)
		p := c.problem("POST", path, string(data), http.StatusUnprocessableEntity)
		assert.Contains(t, p.Detail, "Up to 600", path)
	}
}

// longest is how long may pass until work has ended that nobody waits for. Under the race detector the longest stretch that is not
// broken off takes 5 s, all of the work 25 to 70 s; on a busy machine both take longer alike.
const longest = 30 * time.Second

// Nobody waits for an answer any more: the cores go to others.
func TestWorkEndsWhenItsClientLeaves(t *testing.T) {
	c, s := serveWith(t, filepath.Join(t.TempDir(), copies.Records))
	draft := many(118)
	asked := searches(draft)
	asked["/api/pull"] = server.PullRequest{Draft: many(390), Tier: 388}
	for path, body := range asked {
		data, err := json.Marshal(body)
		require.NoError(t, err)
		ctx, leave := context.WithCancel(t.Context())
		answered := make(chan error, 1)
		go func() {
			r, err := http.NewRequestWithContext(ctx, http.MethodPost, c.url+path, strings.NewReader(string(data)))
			if err == nil {
				var a *http.Response
				if a, err = http.DefaultTransport.RoundTrip(r); err == nil {
					err = fmt.Errorf("%s is answered with %d", path, a.StatusCode)
				}
			}
			answered <- err
		}()
		require.Eventually(t, func() bool { return s.Working() == 1 }, longest, time.Millisecond, path)
		leave()
		require.ErrorIs(t, <-answered, context.Canceled, path)
		require.Eventually(t, func() bool { return s.Working() == 0 }, longest, time.Millisecond, "%s goes on", path)
	}
}

// endless is a body that never ends, and counts what was taken of it; some megabytes are on the way
// when nobody reads any more.
type endless struct{ taken atomic.Int64 }

func (e *endless) Read(p []byte) (int, error) {
	e.taken.Add(int64(len(p)))
	return len(p), nil
}

func TestEachRouteTakesOnlySoMuch(t *testing.T) {
	c := start(t)
	for _, r := range []struct {
		method, path string
		status, most int
	}{
		{"POST", "/api/stones/none/photos", http.StatusNotFound, 2 * photos.MaxBytes},
		{"PUT", "/api/stones/none/photos", http.StatusMethodNotAllowed, 12 << 20},
		{"DELETE", "/api/stones/none/photos", http.StatusMethodNotAllowed, 12 << 20},
		{"POST", "/api/solve", http.StatusBadRequest, 20 << 20},
		{"POST", "/api/diagrams/x/photos", http.StatusNotFound, 12 << 20},
		{"POST", "/assets/app.js", http.StatusMethodNotAllowed, 12 << 20},
	} {
		body := &endless{}
		ask, err := http.NewRequest(r.method, c.url+r.path, io.MultiReader(strings.NewReader(`"`), body))
		require.NoError(t, err)
		a, err := http.DefaultTransport.RoundTrip(ask)
		if err == nil {
			_ = a.Body.Close()
			assert.Contains(t, []int{r.status, http.StatusRequestEntityTooLarge, http.StatusNotFound, http.StatusMethodNotAllowed}, a.StatusCode, "%s %s", r.method, r.path)
		}
		assert.LessOrEqual(t, body.taken.Load(), int64(r.most), "%s %s", r.method, r.path)
		// What says beforehand that it is too large is not read at all.
		ask, err = http.NewRequest(r.method, c.url+r.path, strings.NewReader(strings.Repeat("x", photos.MaxBytes+1)))
		require.NoError(t, err)
		if a, err = http.DefaultTransport.RoundTrip(ask); err == nil {
			_ = a.Body.Close()
			assert.GreaterOrEqual(t, a.StatusCode, 400)
		}
	}
}

// An answer that was lost is asked for again: nothing is made twice.
func TestTheSameRequestMakesOneRecord(t *testing.T) {
	c := start(t)
	named := func(key string) func(*http.Request) {
		return func(r *http.Request) { r.Header.Set("Idempotency-Key", key) }
	}
	d := c.diagramCalled("First Light")
	asJSON := func(v any) string {
		data, err := json.Marshal(v)
		require.NoError(t, err)
		return string(data)
	}
	stonePlan := asJSON(server.PlanRequest{Name: "once", DiagramID: d.ID, Choices: plan("Quartz", 96, width(8), diagram.Pavilion)})
	var picture bytes.Buffer
	require.NoError(t, png.Encode(&picture, image.NewGray(image.Rect(0, 0, 9, 9))))
	_, _, made := c.send("POST", "/api/stones", stonePlan)
	var stone server.StoneHead
	require.NoError(t, json.Unmarshal(made, &stone))
	for path, body := range map[string]string{
		"/api/stones": stonePlan, "/api/diagrams": "", "/api/diagrams/" + d.ID + "/copy": "",
		"/api/diagrams/" + d.ID + "/variant":  asJSON(server.VariantRequest{}),
		"/api/diagrams/add":                   asJSON(server.AddDraftRequest{Draft: d.Draft, Origin: "again"}),
		"/api/repairs":                        asJSON(server.IntakeRequest{Name: "chipped"}),
		"/api/stones/" + stone.ID + "/photos": picture.String(),
		"/api/runs":                           asJSON(server.RunRequest{Name: "pair", DiagramID: d.ID, Order: "tier", Stones: 2, Choices: plan("Quartz", 96, width(8), diagram.Pavilion)}),
	} {
		var wait sync.WaitGroup
		answers := make([]string, 4)
		for i := range answers {
			wait.Go(func() {
				// Who comes while the first is at it is told so, and asks again.
				for answers[i] == "" {
					status, _, data := c.send("POST", path, body, named("a"))
					if status == http.StatusOK {
						answers[i] = string(data)
					} else if !assert.Equal(t, http.StatusConflict, status, "%s: %s", path, data) {
						return
					}
				}
			})
		}
		wait.Wait()
		for _, a := range answers {
			assert.JSONEq(t, answers[0], a, path)
		}
		status, _, other := c.send("POST", path, body, named("b"))
		require.Equal(t, http.StatusOK, status, "%s: %s", path, other)
		assert.NotEqual(t, answers[0], string(other), "%s under another name is another", path)
	}
	status, _, _ := c.send("POST", "/api/diagrams", "", named(strings.Repeat("x", 200)))
	assert.Equal(t, http.StatusBadRequest, status)
}
