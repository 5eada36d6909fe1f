package device

import (
	"cmp"
	"context"
	"errors"
	"maps"
	"math"
	"slices"
	"sync"
	"time"

	"cressa/core/solid"
)

// Device is one that somebody put on the bench.
type Device struct {
	ID   string
	Name string
	Port
	// Scales correct what it reads, by quantity.
	Scales map[Quantity]Correction
}

// Correction turns what a device reads into what is so.
type Correction struct {
	// Reversed tells that it counts the other way.
	Reversed bool
	// Offset is added, in the quantity's unit.
	Offset float64
}

func (c Correction) of(raw float64) float64 {
	if c.Reversed {
		raw = -raw
	}
	// Sums of decimal fractions stay such.
	return math.Round((raw+c.Offset)*1e6) / 1e6
}

// State is how a device stands.
type State struct {
	ID   string
	Name string
	// Here tells that it is connected and says what can be read. Trouble tells why it is not, "" while it is looked for.
	Here    bool
	Trouble Trouble
	// Since is since when that is so.
	Since time.Time
	// Unread counts the lines that made no sense since it was connected, LastUnread is the latest of them.
	Unread     int
	LastUnread string
	// Now are its latest readings, in the order of Quantities.
	Now []Now
}

// Now is the latest reading of a quantity.
type Now struct {
	Device string
	Reading
	// Raw is what the device read, Value in Reading what that is, corrected.
	Raw float64
	// Held tells that it has not moved for a while.
	Held bool
	// At is when it arrived.
	At time.Time
}

const (
	// ring is how many readings of a quantity are remembered.
	ring = 256
	// heldFor is how long a reading stands still to be held, and look how often that is looked at.
	heldFor = 700 * time.Millisecond
	look    = 100 * time.Millisecond
	// soonest and latest are how long after a failure a device is looked for again.
	soonest, latest = 250 * time.Millisecond, 4 * time.Second
)

// stillWithin is by how much a reading that is held may move.
var stillWithin = map[Quantity]float64{Angle: 0.03, Index: 0.03, Height: 0.005, Calipers: 0.01, Scale: 0.005}

// Hub reads all devices and tells whoever watches. Its zero value reads none.
type Hub struct {
	mutex    sync.Mutex
	readers  map[string]*reader
	watchers map[*Watch]bool
	working  sync.WaitGroup
}

// reader reads one device.
type reader struct {
	device Device
	stop   context.CancelFunc
	state  State
	recent map[Quantity][]Now
	// line is the open connection, nil without one; stones are told to wanting.
	line    *line
	stone   stoneReader
	wanting []chan []solid.Plane
}

// Use reads these devices from now on, and no others. What goes on as it was is not interrupted.
func (h *Hub) Use(devices []Device) {
	h.mutex.Lock()
	defer h.mutex.Unlock()
	if h.readers == nil {
		h.readers = map[string]*reader{}
	}
	wanted := map[string]bool{}
	for _, d := range devices {
		wanted[d.ID] = true
		had := h.readers[d.ID]
		switch {
		case had != nil && had.device.Port == d.Port:
			had.device = d
			for quantity, recent := range had.recent {
				for i, now := range recent {
					recent[i].Value = d.Scales[quantity].of(now.Raw)
				}
				h.reading(recent[len(recent)-1])
			}
		default:
			if had != nil {
				had.stop()
			}
			ctx, stop := context.WithCancel(context.Background())
			r := &reader{device: d, stop: stop, recent: map[Quantity][]Now{}, state: State{ID: d.ID, Since: time.Now()}}
			h.readers[d.ID] = r
			h.working.Go(func() { h.read(ctx, r, d.Port) })
		}
		h.tell()
	}
	for id, r := range h.readers {
		if !wanted[id] {
			r.stop()
			delete(h.readers, id)
			h.tell()
		}
	}
}

// Close stops reading and waits until everything is closed.
func (h *Hub) Close() {
	h.Use(nil)
	h.working.Wait()
}

// States tells how all devices stand, in the order of their IDs.
func (h *Hub) States() []State {
	h.mutex.Lock()
	defer h.mutex.Unlock()
	return h.states()
}

func (h *Hub) states() []State {
	out := []State{}
	for _, r := range h.readers {
		s := r.state
		s.Name = r.device.Name
		s.Now = []Now{}
		for _, q := range Quantities {
			if recent := r.recent[q]; len(recent) > 0 {
				s.Now = append(s.Now, recent[len(recent)-1])
			}
		}
		out = append(out, s)
	}
	slices.SortFunc(out, func(a, b State) int { return cmp.Compare(a.ID, b.ID) })
	return out
}

// Recent returns the readings of a quantity of a device that are remembered, the oldest first.
func (h *Hub) Recent(id string, q Quantity) []Now {
	h.mutex.Lock()
	defer h.mutex.Unlock()
	if r := h.readers[id]; r != nil {
		return slices.Clone(r.recent[q])
	}
	return nil
}

// read connects to a device again and again.
func (h *Hub) read(ctx context.Context, r *reader, from Port) {
	wait := soonest
	for ctx.Err() == nil {
		l, trouble := from.open(ctx)
		if trouble == "" {
			trouble = h.follow(ctx, r, l)
			_ = l.Close()
			wait = soonest
		}
		h.change(func() {
			if r.state.Here || r.state.Trouble != trouble {
				r.state.Since = time.Now()
			}
			r.state.Here, r.state.Trouble, r.line = false, trouble, nil
			r.recent = map[Quantity][]Now{}
			r.give(nil)
		})
		select {
		case <-ctx.Done():
		case <-time.After(wait):
		}
		wait = min(2*wait, latest)
	}
}

// follow reads what a device says until the connection ends.
func (h *Hub) follow(ctx context.Context, r *reader, l *line) Trouble {
	h.change(func() {
		r.line, r.stone = l, stoneReader{}
		r.state.Unread, r.state.LastUnread = 0, ""
	})
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	var looking sync.WaitGroup
	looking.Go(func() { h.watchStill(ctx, r) })
	defer looking.Wait()
	defer stop()
	return l.listen(ctx, func(text string) error { return h.heard(r, text, time.Now()) })
}

// heard takes a line. The error is ErrLine.
func (h *Hub) heard(r *reader, text string, at time.Time) error {
	h.mutex.Lock()
	defer h.mutex.Unlock()
	belongs, whole, err := r.stone.take(text)
	if whole {
		r.give(r.stone.facets)
	}
	if belongs && err == nil {
		return nil
	}
	reading, ok, err := ReadLine(text)
	if err != nil || belongs {
		r.state.Unread++
		r.state.LastUnread = text
		h.tell()
		return ErrLine
	}
	if !r.state.Here {
		r.state.Here, r.state.Trouble, r.state.Since = true, "", at
		h.tell()
	}
	if !ok {
		return nil
	}
	now := Now{Device: r.device.ID, Reading: reading, Raw: reading.Value, At: at}
	now.Value = r.device.Scales[reading.Quantity].of(now.Raw)
	recent := r.recent[reading.Quantity]
	if len(recent) == 0 {
		h.tell() // it measures something that it did not before
	}
	if len(recent) == ring {
		recent = slices.Clone(recent[1:])
	}
	recent = append(recent, now)
	recent[len(recent)-1].Held = held(recent, at)
	r.recent[reading.Quantity] = recent
	h.reading(recent[len(recent)-1])
	return nil
}

// held tells whether the last reading has stood still until a moment for long enough.
func held(recent []Now, at time.Time) bool {
	last := recent[len(recent)-1]
	still := stillWithin[last.Quantity]
	low, high := last.Raw, last.Raw
	for _, now := range slices.Backward(recent) {
		low, high = min(low, now.Raw), max(high, now.Raw)
		if high-low > still {
			return false
		}
		if at.Sub(now.At) >= heldFor {
			return true
		}
	}
	return false
}

// watchStill notes readings that stand still because their device says nothing new, and drops those that it no longer
// repeats.
func (h *Hub) watchStill(ctx context.Context, r *reader) {
	every := time.NewTicker(look)
	defer every.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case at := <-every.C:
			h.mutex.Lock()
			for _, q := range Quantities {
				recent := r.recent[q]
				n := len(recent)
				if n > 0 && at.Sub(recent[n-1].At) > silence {
					// The scale was put away while the dials go on.
					delete(r.recent, q)
					h.tell()
					continue
				}
				if n > 0 && !recent[n-1].Held && held(recent, at) {
					recent[n-1].Held = true
					h.reading(recent[n-1])
				}
			}
			h.mutex.Unlock()
		}
	}
}

// change changes how a device stands, and tells it.
func (h *Hub) change(f func()) {
	h.mutex.Lock()
	defer h.mutex.Unlock()
	f()
	h.tell()
}

// Refusals of Stone.
var (
	// ErrAway is returned where a device is not connected.
	ErrAway = errors.New("the device is not connected")
	// ErrNoStone is returned where it does not answer with a stone.
	ErrNoStone = errors.New("the device knows of no stone")
)

// stoneTimeout is how long a machine has to tell its stone.
const stoneTimeout = 3 * time.Second

// Stone asks a machine for the facets of the stone that stands on it, in mm about a point of its axis. It returns ErrAway,
// ErrNoStone, and the context's error.
func (h *Hub) Stone(ctx context.Context, id string) ([]solid.Plane, error) {
	told := make(chan []solid.Plane, 1)
	h.mutex.Lock()
	r := h.readers[id]
	if r == nil || r.line == nil {
		h.mutex.Unlock()
		return nil, ErrAway
	}
	r.wanting = append(r.wanting, told)
	l := r.line
	h.mutex.Unlock()
	if err := l.ask(StoneWanted); err != nil {
		return nil, ErrAway
	}
	select {
	case stone := <-told:
		if stone == nil {
			return nil, ErrAway
		}
		return stone, nil
	case <-time.After(stoneTimeout):
		return nil, ErrNoStone
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// give hands a stone to those who want it, nil where the connection ended.
func (r *reader) give(stone []solid.Plane) {
	for _, told := range r.wanting {
		told <- stone
	}
	r.wanting = nil
}

// Watch is somebody who is told what changes. What changes again before it was taken is told once.
type Watch struct {
	hub    *Hub
	ready  chan struct{}
	states bool
	fresh  map[key]Now
}

type key struct {
	device   string
	quantity Quantity
}

// Watch begins to tell somebody what changes; they are told how everything stands first. Close ends it.
func (h *Hub) Watch() *Watch {
	h.mutex.Lock()
	defer h.mutex.Unlock()
	w := &Watch{hub: h, ready: make(chan struct{}, 1), states: true, fresh: map[key]Now{}}
	if h.watchers == nil {
		h.watchers = map[*Watch]bool{}
	}
	h.watchers[w] = true
	w.wake()
	return w
}

// Close ends the watch.
func (w *Watch) Close() {
	w.hub.mutex.Lock()
	defer w.hub.mutex.Unlock()
	delete(w.hub.watchers, w)
}

// Ready gets a value when there is something to take.
func (w *Watch) Ready() <-chan struct{} { return w.ready }

// Take returns what has changed since it was called last: how all devices stand, nil where none stands otherwise, and the
// readings that are new, those of one device together.
func (w *Watch) Take() ([]State, []Now) {
	w.hub.mutex.Lock()
	defer w.hub.mutex.Unlock()
	var states []State
	if w.states {
		states = w.hub.states()
	}
	fresh := slices.SortedFunc(maps.Values(w.fresh), func(a, b Now) int {
		return cmp.Or(cmp.Compare(a.Device, b.Device), cmp.Compare(a.Quantity, b.Quantity))
	})
	w.states = false
	clear(w.fresh)
	return states, fresh
}

func (w *Watch) wake() {
	select {
	case w.ready <- struct{}{}:
	default:
	}
}

// tell wakes all who watch because a device stands otherwise, or none is there any more.
func (h *Hub) tell() {
	for w := range h.watchers {
		w.states = true
		w.wake()
	}
}

// reading wakes all who watch for a reading.
func (h *Hub) reading(now Now) {
	for w := range h.watchers {
		w.fresh[key{now.Device, now.Quantity}] = now
		w.wake()
	}
}
