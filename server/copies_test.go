package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/copies"
	"cressa/server"
	"cressa/sqlite"
	"cressa/workshop"
)

// copied follows the copy that is being made until it has ended, and returns its last line.
func (c client) copied() (last server.CopyingLine) {
	c.t.Helper()
	status, _, data := c.send("GET", "/api/copies/work", "")
	require.Equal(c.t, http.StatusOK, status)
	for line := range bytes.Lines(data) {
		require.NoError(c.t, json.Unmarshal(line, &last))
	}
	return last
}

func TestCopiesAreMadeKeptAndTakenIn(t *testing.T) {
	dir := t.TempDir()
	c := serve(t, filepath.Join(dir, copies.Records))
	var page server.CopiesPage
	c.get("/api/copies", &page)
	assert.Equal(t, server.CopyPlan{Every: "day", Folder: "", Keep: 7}, page.Plan)
	assert.Equal(t, filepath.Join(dir, "copies"), page.Shelf)
	assert.Nil(t, page.Last)
	assert.Positive(t, page.Now.Diagrams)
	for _, bad := range []string{"copies", "/proc/none"} {
		body := `{"every":"week","folder":"` + bad + `","keep":2}`
		p := c.problem("PUT", "/api/copies/plan", body, http.StatusUnprocessableEntity)
		assert.Equal(t, "folder", p.Places[0].Field)
	}
	elsewhere := filepath.Join(t.TempDir(), "stick")
	status, _, _ := c.send("PUT", "/api/copies/plan", `{"every":"week","folder":"`+elsewhere+`","keep":2}`)
	require.Equal(t, http.StatusNoContent, status)
	status, _, _ = c.send("POST", "/api/copies", "")
	require.Equal(t, http.StatusNoContent, status)
	last := c.copied()
	assert.Equal(t, "complete", last.Ended, last.Problem)
	assert.Equal(t, last.Total, last.Done)
	c.get("/api/copies", &page)
	assert.Equal(t, elsewhere, page.Shelf)
	require.Len(t, page.Copies, 1)
	assert.Equal(t, page.Now.Diagrams, page.Copies[0].Diagrams)
	require.NotNil(t, page.Last)

	// What is downloaded can be brought in again, and anything else is refused.
	_, head, data := c.send("GET", "/api/copies/"+page.Copies[0].Name+"/file", "")
	assert.Contains(t, head.Get("Content-Disposition"), page.Copies[0].Name)
	status, _, _ = c.send("POST", "/api/copies/file", string(data))
	assert.Equal(t, http.StatusOK, status)
	p := c.problem("POST", "/api/copies/file", "these are notes", http.StatusUnprocessableEntity)
	assert.Contains(t, p.Detail, "no copy")
	require.NoError(t, os.WriteFile(filepath.Join(elsewhere, "odd.cressa.zip"), data[:len(data)/2], 0o600))
	c.get("/api/copies", &page)
	require.Len(t, page.Copies, 3)
	problems := 0
	for _, k := range page.Copies {
		if k.Problem != "" {
			problems++
			c.problem("POST", "/api/copies/"+k.Name+"/restore", "", http.StatusUnprocessableEntity)
		}
	}
	assert.Equal(t, 1, problems)
	for _, none := range []string{"none.cressa.zip", "..%2F..%2Fcressa.db", ".cressa.zip"} {
		c.problem("POST", "/api/copies/"+none+"/restore", "", http.StatusNotFound)
		c.problem("GET", "/api/copies/"+none+"/file", "", http.StatusNotFound)
	}

	// A folder that went away is told, here and on Today.
	var notices server.Notices
	c.get("/api/notices", &notices)
	assert.Nil(t, notices.Copies)
	require.NoError(t, os.RemoveAll(elsewhere))
	require.NoError(t, os.WriteFile(elsewhere, nil, 0o600))
	status, _, _ = c.send("POST", "/api/copies", "")
	require.Equal(t, http.StatusNoContent, status)
	last = c.copied()
	assert.Equal(t, "failed", last.Ended)
	assert.Contains(t, last.Problem, elsewhere)
	c.get("/api/notices", &notices)
	require.NotNil(t, notices.Copies)
	assert.Equal(t, last.Problem, notices.Copies.Failed)
}

// Serve ends for a copy to take the records' place; whoever runs it serves those then.
func TestACopyTakesTheRecordsPlaceWhileTheProgramRuns(t *testing.T) {
	dir := t.TempDir()
	ctx, stop := context.WithCancel(context.Background())
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	address := listener.Addr().String()
	ended := make(chan error, 1)
	go func() {
		ended <- func() error {
			for {
				store, err := sqlite.Open(ctx, filepath.Join(dir, copies.Records))
				if err != nil {
					return err
				}
				err = server.New(workshop.New(store, time.Now), copies.Folder(dir), page, slog.New(slog.DiscardHandler)).Serve(ctx, listener, func(net.Addr) {})
				if closed := store.Close(); closed != nil {
					return closed
				}
				if !errors.Is(err, server.ErrReplaced) {
					return err
				}
				if _, err := copies.Folder(dir).Finish(); err != nil {
					return err
				}
				if listener, err = net.Listen("tcp", address); err != nil {
					return err
				}
			}
		}()
	}()
	t.Cleanup(func() {
		stop()
		assert.NoError(t, <-ended)
	})
	c := client{t, "http://" + address}
	var first, second server.Diagram
	c.put("POST", "/api/diagrams", nil, &first)
	status, _, _ := c.send("POST", "/api/copies", "")
	require.Equal(t, http.StatusNoContent, status)
	require.Equal(t, "complete", c.copied().Ended)
	var before server.CopiesPage
	c.get("/api/copies", &before)
	require.Len(t, before.Copies, 1)
	c.put("POST", "/api/diagrams", nil, &second)

	status, _, _ = c.send("POST", "/api/copies/"+before.Copies[0].Name+"/restore", "")
	require.Equal(t, http.StatusNoContent, status)
	require.Eventually(t, func() bool {
		answer, err := http.Get(c.url + "/api/copies")
		if err != nil {
			return false
		}
		defer answer.Body.Close()
		var body bytes.Buffer
		_, err = body.ReadFrom(answer.Body)
		return err == nil && answer.StatusCode == http.StatusOK && !strings.Contains(body.String(), before.Records)
	}, 30*time.Second, 20*time.Millisecond, "the records have another name")
	status, _, _ = c.send("GET", "/api/diagrams/"+first.ID, "")
	assert.Equal(t, http.StatusOK, status)
	c.problem("GET", "/api/diagrams/"+second.ID, "", http.StatusNotFound)
	kept, err := filepath.Glob(filepath.Join(dir, "replaced-*", copies.Records))
	require.NoError(t, err)
	assert.Len(t, kept, 1)
}
