package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"sync"
	"time"

	"github.com/labstack/echo/v5"
)

// One stream of events tells a page what changes by itself: how instruments stand, what they read, and which logs got
// something. It is opened by EventSource, which opens it again when it breaks; whoever opens it is told first how the
// instruments stand, and looks for what the logs got meanwhile.

const (
	// paint is the least time between two tellings: readings that come quicker are told together.
	paint = 25 * time.Millisecond
	// heartbeat is how often something is said, so that a dead connection is noticed.
	heartbeat = 10 * time.Second
	// logsEvery is how often logs are looked at while anybody listens.
	logsEvery = 200 * time.Millisecond
	// sendTimeout is how long a page may not take what it is told.
	sendTimeout = 15 * time.Second
)

// ChangedLogs names the streams that got something.
type ChangedLogs struct {
	Streams []string `json:"streams"`
}

// Beat tells that the connection is alive, and the server's time: a screen's own clock may be wrong.
type Beat struct {
	Now time.Time `json:"now"`
}

// logNews tells those who listen which logs got something, whoever wrote it.
type logNews struct {
	mutex     sync.Mutex
	listeners map[*logListener]bool
	// last is the place in the log up to which was told, since somebody listens.
	last  int64
	since bool
}

// logListener is one who listens: streams that changed since they were taken, and a sign that there are any.
type logListener struct {
	streams map[string]bool
	ready   chan struct{}
}

func (n *logNews) listen() (*logListener, func()) {
	n.mutex.Lock()
	defer n.mutex.Unlock()
	l := &logListener{map[string]bool{}, make(chan struct{}, 1)}
	if n.listeners == nil {
		n.listeners = map[*logListener]bool{}
	}
	n.listeners[l] = true
	return l, func() {
		n.mutex.Lock()
		defer n.mutex.Unlock()
		delete(n.listeners, l)
	}
}

func (n *logNews) take(l *logListener) []string {
	n.mutex.Lock()
	defer n.mutex.Unlock()
	out := []string{}
	for stream := range l.streams {
		out = append(out, stream)
	}
	clear(l.streams)
	return out
}

// watchLogs looks at the logs as long as anybody listens, until the context ends.
func (s *Server) watchLogs(ctx context.Context) {
	every := time.NewTicker(logsEvery)
	defer every.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-every.C:
			s.lookAtLogs(ctx)
		}
	}
}

func (s *Server) lookAtLogs(ctx context.Context) {
	n := &s.logs
	n.mutex.Lock()
	listening, since, last := len(n.listeners) > 0, n.since, n.last
	n.mutex.Unlock()
	var streams []string
	var err error
	switch {
	case listening && since:
		streams, last, err = s.workshop.StreamsAfter(ctx, last)
	case listening:
		last, err = s.workshop.LastPlace(ctx)
	}
	if err != nil {
		return // pages ask by themselves, too
	}
	n.mutex.Lock()
	defer n.mutex.Unlock()
	n.last, n.since = last, listening
	if len(streams) == 0 {
		return
	}
	for l := range n.listeners {
		for _, stream := range streams {
			l.streams[stream] = true
		}
		select {
		case l.ready <- struct{}{}:
		default:
		}
	}
}

func (s *Server) liveRoutes() {
	s.raw(route{method: http.MethodGet, path: "/api/live", name: "live", summary: "What changes by itself", lasting: true, live: true}, s.live)
}

// live tells a page what changes, until it leaves or the server ends.
func (s *Server) live(c *echo.Context) error {
	watch := s.devices.Watch()
	defer watch.Close()
	logs, leave := s.logs.listen()
	defer leave()
	tell := newTeller(c)
	beat := time.NewTicker(heartbeat)
	defer beat.Stop()
	if err := tell.event("beat", Beat{time.Now().UTC()}); err != nil {
		return nil
	}
	for {
		var err error
		select {
		case <-c.Request().Context().Done():
			return nil
		case <-s.leaving.Done():
			return nil
		case <-beat.C:
			err = tell.event("beat", Beat{time.Now().UTC()})
		case <-logs.ready:
			err = tell.event("logs", ChangedLogs{s.logs.take(logs)})
		case <-watch.Ready():
			states, fresh := watch.Take()
			if states != nil {
				err = tell.event("instruments", statesView(states))
			}
			if len(fresh) > 0 && err == nil {
				err = tell.event("readings", LiveReadings{each(fresh, readingView)})
			}
		}
		if err != nil {
			return nil // the page has left
		}
		select {
		case <-c.Request().Context().Done():
		case <-time.After(paint):
		}
	}
}

// teller writes events to a page.
type teller struct {
	c    *echo.Context
	flow *http.ResponseController
}

func newTeller(c *echo.Context) teller {
	c.Response().Header().Set("Content-Type", "text/event-stream")
	c.Response().Header().Set("Cache-Control", "no-store")
	return teller{c, http.NewResponseController(c.Response())}
}

func (t teller) event(name string, data any) error {
	text, err := json.Marshal(data)
	if err != nil {
		return err
	}
	if err := t.flow.SetWriteDeadline(time.Now().Add(sendTimeout)); err != nil && !errors.Is(err, http.ErrNotSupported) {
		return err
	}
	if _, err := fmt.Fprintf(t.c.Response(), "event: %s\ndata: %s\n\n", name, text); err != nil {
		return err
	}
	return t.flow.Flush()
}
