package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"cressa/core/sweep"
	"cressa/demo"
	"cressa/server"
	"cressa/workshop/journal"
)

// tenYears is a workshop as it stands after ten busy years.
var tenYears = demo.Size{Stones: 10_000, Diagrams: 2_000, Events: 1_000_000, Seed: 1}

// large is that workshop's file, drawn once for all benchmarks.
var large = sync.OnceValues(func() (string, error) {
	dir, err := os.MkdirTemp("", "cressa-bench-")
	if err != nil {
		return "", err
	}
	file := filepath.Join(dir, "cressa.db")
	return file, demo.Seed(context.Background(), file, tenYears)
})

func startLarge(b *testing.B) client {
	b.Helper()
	file, err := large()
	require.NoError(b, err)
	return serve(b, file)
}

// first pages of a workshop of ten years; each is meant to take under 100 ms.
func BenchmarkFirstPages(b *testing.B) {
	c := startLarge(b)
	// The machine has looked at every diagram before.
	for waiting := 1; waiting > 0; {
		var list server.DiagramList
		c.get("/api/diagrams?limit=1", &list)
		waiting = list.Waiting
	}
	for _, page := range []string{"today", "stones", "stones?text=comet", "logbook", "diagrams", "diagrams?cuttable=true&sort=difficulty", "kit", "notices", "rough"} {
		b.Run(page, func(b *testing.B) {
			for b.Loop() {
				status, _, _ := c.send("GET", "/api/"+page, "")
				require.Equal(b, http.StatusOK, status)
			}
			b.ReportMetric(residentMB(b), "resident-MB")
		})
	}
}

// residentMB is the memory that this process has, the store's own included: in MB, 0 where
// the system does not tell.
func residentMB(b *testing.B) float64 {
	b.Helper()
	data, err := os.ReadFile("/proc/self/statm")
	if err != nil {
		return 0
	}
	var size, resident int
	_, err = fmt.Sscan(string(data), &size, &resident)
	require.NoError(b, err)
	return float64(resident*os.Getpagesize()) / (1 << 20)
}

// wheel is a stone at the wheel whose next ticks are at hand.
type wheel struct {
	client
	script server.BenchScript
	n      int
}

// atWheel plans a stone, with so many events in its log already.
func atWheel(b *testing.B, c client, logged int) *wheel {
	b.Helper()
	var stone server.StoneHead
	var list server.DiagramList
	c.get("/api/diagrams?limit=1", &list)
	c.put("POST", "/api/stones", server.PlanRequest{Name: "bench", DiagramID: list.Diagrams[0].ID, Choices: plan("Quartz", 96, width(8), "pavilion")}, &stone)
	w := &wheel{client: c}
	c.get("/api/stones/"+stone.ID+"/script", &w.script)
	for len(w.script.Visits) > 0 && w.n < logged {
		w.log(w.next(min(1000, logged-w.n))...)
	}
	return w
}

// next are the next ticks of a stone, round and round: every second one is a tick, the
// others take it back.
func (w *wheel) next(n int) []server.SentEvent {
	var out []server.SentEvent
	for range n {
		w.n++
		id := func(n int) string { return fmt.Sprintf("%.20s%012x", w.script.WorkID, n) }
		e := sent(w.script.WorkID, w.n, time.Now(), journal.Undo, journal.TakenBack{Undoes: id(w.n - 1)})
		if w.n%2 == 1 {
			v := w.script.Visits[w.n/2%len(w.script.Visits)]
			e = sent(w.script.WorkID, w.n, time.Now(), journal.Done, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: w.script.Facets[v.Facet].ID})
		}
		e.ID = id(w.n)
		out = append(out, e)
	}
	return out
}

func (w *wheel) tick(tb testing.TB) {
	body, err := json.Marshal(server.EventsRequest{Events: w.next(1)})
	require.NoError(tb, err)
	status, _, _ := w.send("POST", "/api/events", string(body))
	require.Equal(tb, http.StatusOK, status)
}

// One tick until it is acknowledged, which is until it is on disk: meant to take under
// 20 ms, and no longer where the stone has a long log.
func BenchmarkAcknowledgingATick(b *testing.B) {
	c := startLarge(b)
	for name, logged := range map[string]int{"log of 10": 10, "log of 20000": 20_000} {
		w := atWheel(b, c, logged)
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				w.tick(b)
			}
		})
	}
}

// Ticks while four sweeps run: the p95 is meant to stay under 50 ms.
func BenchmarkTicksUnderFourSweeps(b *testing.B) {
	c := start(b)
	d := c.diagramCalled("First Light")
	w := atWheel(b, c, 2)
	axis := func(kind sweep.Kind) server.Axis { return server.Axis{Kind: kind, From: 0.9, To: 1.1, Steps: 40} }
	body, err := json.Marshal(server.SweepRequest{Draft: d.Draft, SweepAsked: server.SweepAsked{
		Lighting: server.Lighting{RefractiveIndex: 1.54, Width: 8, Model: "head", HeadAngle: 16}, X: axis(sweep.Pavilion), Y: axis(sweep.Crown),
	}})
	require.NoError(b, err)
	ctx, stop := context.WithCancel(b.Context())
	var sweeps sync.WaitGroup
	for _, name := range []string{"First Light", "Spiral Arm", "Meridian", "Prime Focus"} {
		at := c.url + "/api/diagrams/" + c.diagramCalled(name).ID + "/sweep"
		sweeps.Go(func() {
			for ctx.Err() == nil {
				for _, ask := range []struct {
					method string
					body   io.Reader
				}{{http.MethodPost, bytes.NewReader(body)}, {http.MethodGet, nil}} {
					r, err := http.NewRequestWithContext(ctx, ask.method, at, ask.body)
					if err != nil {
						return
					}
					answer, err := http.DefaultClient.Do(r)
					if err != nil {
						return
					}
					_, _ = io.Copy(io.Discard, answer.Body)
					_ = answer.Body.Close()
				}
			}
		})
	}
	var took []time.Duration
	for b.Loop() {
		from := time.Now()
		w.tick(b)
		took = append(took, time.Since(from))
	}
	stop()
	sweeps.Wait()
	slices.Sort(took)
	b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "p95-ms")
}
