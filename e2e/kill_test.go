package e2e_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/running"
)

// What the server has once acknowledged is there after it was killed, at whatever
// moment that was; what it has not is there whole or not at all.
func TestWhatWasAcknowledgedSurvivesAKill(t *testing.T) {
	t.Parallel()
	data := t.TempDir()
	address, stone := "", ""
	var acknowledged []string
	const kills, batch = 4, 3
	for round := range kills {
		app, err := running.Start(binary, address, "serve", "--data", data)
		require.NoError(t, err)
		address = app.URL
		if stone == "" {
			stone = planOne(t, app.URL)
		}
		var script scriptOfStone
		fetch(t, app.URL+"/api/stones/"+stone+"/script", &script)
		known := map[string]bool{}
		for _, e := range eventsOf(t, app.URL, stone) {
			known[e.ID] = true
		}
		for _, id := range acknowledged {
			require.True(t, known[id], "round %d", round)
		}
		for id := range known {
			require.True(t, !drawn(id) || known[partner(id)], "a batch is whole")
		}

		// Several screens send; once enough has arrived, the server is killed under them.
		var mu sync.Mutex
		var all sync.WaitGroup
		enough := make(chan struct{})
		arrived := 0
		for screen := range 3 {
			all.Go(func() {
				for n := 0; ; n++ {
					var events []map[string]any
					for i := range batch {
						v := script.Visits[i]
						events = append(events, map[string]any{
							"id": fmt.Sprintf(sent+"%02x%08x%08x%08x", round+1, screen, n, i), "stream": "work/" + script.WorkID,
							"device": fmt.Sprint("screen ", screen), "deviceSeq": n, "deviceTime": time.Now().UTC(), "kind": "done", "version": 1,
							"payload": map[string]any{"setup": v.Setup, "pass": v.Pass, "facet": script.Facets[v.Facet].ID},
						})
					}
					body, err := json.Marshal(map[string]any{"events": events})
					if err != nil {
						return
					}
					answer, err := http.Post(app.URL+"/api/events", "application/json", bytes.NewReader(body))
					if err != nil {
						return
					}
					_ = answer.Body.Close()
					if answer.StatusCode != http.StatusOK {
						return
					}
					mu.Lock()
					for _, e := range events {
						acknowledged = append(acknowledged, e["id"].(string))
					}
					if arrived++; arrived == 10+5*round {
						close(enough)
					}
					mu.Unlock()
				}
			})
		}
		<-enough
		require.NoError(t, app.Kill())
		all.Wait()
	}
	assert.GreaterOrEqual(t, len(acknowledged), kills*10*batch)
}

// partner is another event of the batch that an event came in.
func partner(id string) string {
	return id[:24] + "00000002"
}

// drawn tells whether an event is one that this test sent.
func drawn(id string) bool { return strings.HasPrefix(id, sent) }

// sent begins the names of the events that this test sends; none that is drawn does.
const sent = "dddddd"

type scriptOfStone struct {
	WorkID string
	Facets []struct{ ID string }
	Visits []struct {
		Setup, Pass string
		Facet       int
	}
}

// planOne plans a stone as the application proposes it.
func planOne(t *testing.T, url string) (id string) {
	t.Helper()
	var list struct{ Diagrams []struct{ ID string } }
	fetch(t, url+"/api/diagrams", &list)
	diagram := list.Diagrams[0].ID
	var choices json.RawMessage
	fetch(t, url+"/api/diagrams/"+diagram+"/proposal", &choices)
	body, err := json.Marshal(map[string]any{"name": "Gift", "diagramId": diagram, "choices": choices})
	require.NoError(t, err)
	answer, err := http.Post(url+"/api/stones", "application/json", bytes.NewReader(body))
	require.NoError(t, err)
	defer answer.Body.Close()
	require.Equal(t, http.StatusOK, answer.StatusCode)
	var stone struct{ ID string }
	require.NoError(t, json.NewDecoder(answer.Body).Decode(&stone))
	return stone.ID
}

func fetch(t testing.TB, url string, into any) {
	t.Helper()
	answer, err := http.Get(url)
	require.NoError(t, err)
	defer answer.Body.Close()
	require.Equal(t, http.StatusOK, answer.StatusCode, url)
	require.NoError(t, json.NewDecoder(answer.Body).Decode(into))
}

// A first start that is killed while it fills the library is made good by the next one:
// every starter is there, and none twice.
func TestAFirstStartThatIsKilledLosesNoStarters(t *testing.T) {
	t.Parallel()
	for round := range 12 {
		data := t.TempDir()
		first := exec.Command(binary, "serve", "--data", data, "--addr", "127.0.0.1:0")
		require.NoError(t, first.Start())
		// Killed when so much is written: from nothing yet to nearly everything.
		written := func() (bytes int64) {
			files, err := filepath.Glob(filepath.Join(data, "cressa.db*"))
			require.NoError(t, err)
			for _, file := range files {
				if info, err := os.Stat(file); err == nil {
					bytes += info.Size()
				}
			}
			return bytes
		}
		require.Eventually(t, func() bool { return written() >= int64(round)*60_000 }, time.Minute, time.Millisecond)
		require.NoError(t, first.Process.Kill())
		_ = first.Wait()

		app, err := running.Start(binary, "", "serve", "--data", data)
		require.NoError(t, err, "round %d", round)
		var library struct {
			Total    int
			Diagrams []struct{ Name string }
		}
		fetch(t, app.URL+"/api/diagrams", &library)
		names := map[string]bool{}
		for _, d := range library.Diagrams {
			names[d.Name] = true
		}
		assert.Equal(t, 17, library.Total, "round %d", round)
		assert.Len(t, names, 17)
		require.NoError(t, app.Kill())
	}
}
