package server

import (
	"context"
	"errors"
	"slices"
	"sync"
	"time"
)

// Progress is how far long work has come.
type Progress struct {
	Done  int `json:"done"`
	Total int `json:"total"`
	// Ended is "" while the work goes on.
	Ended string `json:"ended" validate:"omitempty,oneof=complete stopped failed"`
}

// ended is the progress of work that has ended with an error or without.
func ended(done, total int, err error) Progress {
	switch {
	case err == nil:
		return Progress{Done: total, Total: total, Ended: "complete"}
	case errors.Is(err, context.Canceled):
		return Progress{Done: done, Total: total, Ended: "stopped"}
	}
	return Progress{Done: done, Total: total, Ended: "failed"}
}

// news lets through only now and then what many goroutines tell.
type news struct {
	mutex sync.Mutex
	last  time.Time
}

// newsEvery is how often long work tells how far it is: as often as the eye can follow.
const newsEvery = 100 * time.Millisecond

func newNews() *news { return &news{last: time.Now()} }

// tell calls f if nothing was told for a while. One hand tells at a time.
func (n *news) tell(f func()) {
	n.mutex.Lock()
	defer n.mutex.Unlock()
	if time.Since(n.last) >= newsEvery {
		n.last = time.Now()
		f()
	}
}

// mostRuns is how many runs a relay remembers: the results of an evening.
const mostRuns = 32

// relay runs long work in the background, one run at a time for each key, such as a diagram's id. It
// goes on when the page is left, and whoever comes later is told all of it from its first line on.
// It is lost with the process: whatever it does can be done again.
type relay[Line any] struct {
	mutex sync.Mutex
	runs  map[string]*run[Line]
	// order lists the keys of the runs, the oldest first.
	order []string
	// working waits for all runs at the end.
	working sync.WaitGroup
}

// run is one run of long work: what it has told so far.
type run[Line any] struct {
	mutex sync.Mutex
	lines []Line
	ended bool
	// more is closed, and replaced, whenever there is more to tell.
	more chan struct{}
	stop context.CancelFunc
}

func newRelay[Line any]() *relay[Line] { return &relay[Line]{runs: map[string]*run[Line]{}} }

// start begins a run. One with the same key is stopped: who starts again wants the newer. The
// last line comes from end, which gets the work's error.
func (r *relay[Line]) start(ctx context.Context, key string, first Line, work func(ctx context.Context, tell func(Line)) error, end func(error) Line) {
	ctx, stop := context.WithCancel(ctx)
	next := &run[Line]{lines: []Line{first}, more: make(chan struct{}), stop: stop}
	r.mutex.Lock()
	defer r.mutex.Unlock()
	if before := r.runs[key]; before != nil {
		before.stop()
		r.order = slices.DeleteFunc(r.order, func(k string) bool { return k == key })
	}
	r.runs[key], r.order = next, append(r.order, key)
	for len(r.order) > mostRuns {
		r.runs[r.order[0]].stop()
		delete(r.runs, r.order[0])
		r.order = r.order[1:]
	}
	r.working.Go(func() {
		defer stop()
		err := work(ctx, func(l Line) { next.tell(l, false) })
		next.tell(end(err), true)
	})
}

func (r *run[Line]) tell(l Line, last bool) {
	r.mutex.Lock()
	defer r.mutex.Unlock()
	r.lines, r.ended = append(r.lines, l), last
	close(r.more)
	r.more = make(chan struct{})
}

// stop ends the run of a key, if one is under way.
func (r *relay[Line]) stop(key string) {
	if run := r.find(key); run != nil {
		run.stop()
	}
}

func (r *relay[Line]) find(key string) *run[Line] {
	r.mutex.Lock()
	defer r.mutex.Unlock()
	return r.runs[key]
}

// follow sends the lines of the key's run from the first on, until the last, or until the
// context ends or nobody listens any more. Without a run it sends nothing.
func (r *relay[Line]) follow(ctx context.Context, key string, send func(Line) error) error {
	run := r.find(key)
	if run == nil {
		return nil
	}
	for sent := 0; ; {
		run.mutex.Lock()
		fresh, ended, more := run.lines[sent:], run.ended, run.more
		run.mutex.Unlock()
		for _, l := range fresh {
			if err := send(l); err != nil {
				return err
			}
		}
		if sent += len(fresh); ended {
			return nil
		}
		select {
		case <-more:
		case <-ctx.Done():
			return ctx.Err()
		}
	}
}
