// Package simulated is a faceting machine that ships with the program: a stone of the solver on a wheel that runs in real
// time, and its readings as lines over TCP, by the protocol of package device.
package simulated

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"math"
	"net"
	"strings"
	"sync"
	"time"

	"cressa/core/wheel"
	"cressa/device"
)

const (
	// tick is how often time passes and readings are sent: 20 times a second.
	tick = 50 * time.Millisecond
	// longest is the longest step of the wheel in seconds: in longer ones it would leap.
	longest = 0.2
	// repeat is how often a reading that stays is sent again.
	repeat = 2 * time.Second
	// writeTimeout is how long a listener may not take its lines, queue how many ticks wait for it meanwhile.
	writeTimeout = 5 * time.Second
	queue        = 64
)

// Measuring is what the stone is held to beside the wheel.
type Measuring string

// The instruments beside the wheel.
const (
	Nothing  Measuring = ""
	Calipers Measuring = "calipers"
	Scale    Measuring = "scale"
)

// Bench is a machine that runs. Its methods may be called from many goroutines.
type Bench struct {
	mutex sync.Mutex
	wheel *wheel.Wheel
	// pace is how many seconds pass on the wheel in one of ours.
	pace      float64
	measuring Measuring
	// unplugged tells that the readings are held back, as by a cable that was pulled.
	unplugged bool
	listeners map[*listener]bool
	watchers  map[chan struct{}]bool
	sent      map[device.Quantity]sent
}

type sent struct {
	value float64
	at    time.Time
}

// listener is one that gets the lines.
type listener struct {
	conn  net.Conn
	lines chan []string
}

// New returns a bench with a machine.
func New(w *wheel.Wheel) *Bench {
	return &Bench{wheel: w, pace: 1, listeners: map[*listener]bool{}, watchers: map[chan struct{}]bool{}, sent: map[device.Quantity]sent{}}
}

// Scene is how the bench stands.
type Scene struct {
	Wheel     *wheel.Wheel
	Pace      float64
	Measuring Measuring
	Unplugged bool
	// Listeners is how many get the lines.
	Listeners int
}

// Look calls f with how the bench stands; nothing moves meanwhile, and f may change what it is given.
func (b *Bench) Look(f func(*Scene)) {
	b.mutex.Lock()
	defer b.mutex.Unlock()
	s := Scene{b.wheel, b.pace, b.measuring, b.unplugged, len(b.listeners)}
	f(&s)
	if s.Unplugged && !b.unplugged {
		for l := range b.listeners {
			b.drop(l)
		}
	}
	b.wheel, b.pace, b.measuring, b.unplugged = s.Wheel, s.Pace, s.Measuring, s.Unplugged
	b.wake()
}

// Watch returns a channel that gets a value when the bench may stand otherwise, and a function that ends that.
func (b *Bench) Watch() (<-chan struct{}, func()) {
	b.mutex.Lock()
	defer b.mutex.Unlock()
	ready := make(chan struct{}, 1)
	b.watchers[ready] = true
	return ready, func() {
		b.mutex.Lock()
		defer b.mutex.Unlock()
		delete(b.watchers, ready)
	}
}

func (b *Bench) wake() {
	for ready := range b.watchers {
		select {
		case ready <- struct{}{}:
		default:
		}
	}
}

// Run lets time pass until the context ends.
func (b *Bench) Run(ctx context.Context) {
	every := time.NewTicker(tick)
	defer every.Stop()
	last := time.Now()
	for {
		select {
		case <-ctx.Done():
			return
		case now := <-every.C:
			// A machine that slept does not make up for it.
			b.pass(min(now.Sub(last), 4*tick), now)
			last = now
		}
	}
}

// pass lets some time pass and sends what the dials show then.
func (b *Bench) pass(d time.Duration, now time.Time) {
	b.mutex.Lock()
	defer b.mutex.Unlock()
	moving := b.wheel.Controls().Down
	for left := d.Seconds() * b.pace; left > 0; left -= longest {
		b.wheel.Step(min(left, longest))
	}
	if moving {
		b.wake()
	}
	var lines []string
	for _, r := range b.readings(now) {
		was, before := b.sent[r.Quantity]
		if before && was.value == r.Value && now.Sub(was.at) < repeat {
			continue
		}
		b.sent[r.Quantity] = sent{r.Value, now}
		lines = append(lines, r.String())
	}
	b.send(lines)
}

// readings are what all dials show.
func (b *Bench) readings(now time.Time) []device.Reading {
	dials := b.wheel.Readings()
	out := []device.Reading{
		{Quantity: device.Angle, Value: dials.Angle, Time: now},
		{Quantity: device.Index, Value: dials.Index, Time: now},
		{Quantity: device.Height, Value: dials.Height, Time: now},
	}
	switch b.measuring {
	case Calipers:
		out = append(out, device.Reading{Quantity: device.Calipers, Value: hundredths(b.wheel.Across()), Time: now})
	case Scale:
		const tenths = 1e4
		out = append(out, device.Reading{Quantity: device.Scale, Value: math.Round(b.wheel.Carats()*tenths) / tenths, Time: now})
	}
	return out
}

func hundredths(v float64) float64 { return math.Round(v*100) / 100 }

// send queues lines for all who listen. One that does not take them is dropped.
func (b *Bench) send(lines []string) {
	if len(lines) == 0 {
		return
	}
	for l := range b.listeners {
		select {
		case l.lines <- lines:
		default:
			b.drop(l)
		}
	}
}

func (b *Bench) drop(l *listener) {
	if b.listeners[l] {
		delete(b.listeners, l)
		close(l.lines)
		_ = l.conn.Close()
	}
}

// ServeLines sends the readings to whoever connects, until the context ends. It returns the error of a listener that fails.
func (b *Bench) ServeLines(ctx context.Context, on net.Listener) error {
	defer context.AfterFunc(ctx, func() { _ = on.Close() })()
	var serving sync.WaitGroup
	defer serving.Wait()
	for {
		conn, err := on.Accept()
		if err != nil {
			b.mutex.Lock()
			for l := range b.listeners {
				b.drop(l)
			}
			b.mutex.Unlock()
			if ctx.Err() != nil || errors.Is(err, net.ErrClosed) {
				return nil
			}
			return err
		}
		serving.Go(func() { b.serve(conn) })
	}
}

// serve sends lines over a connection and answers what is asked there.
func (b *Bench) serve(conn net.Conn) {
	l := &listener{conn, make(chan []string, queue)}
	b.mutex.Lock()
	if b.unplugged {
		b.mutex.Unlock()
		_ = conn.Close()
		return
	}
	b.listeners[l] = true
	now := time.Now()
	first := []string{"# simulated faceting machine"}
	for _, r := range b.readings(now) {
		first = append(first, r.String())
	}
	l.lines <- first
	b.wake()
	b.mutex.Unlock()
	go b.answer(l)
	for lines := range l.lines {
		err := conn.SetWriteDeadline(time.Now().Add(writeTimeout))
		if err == nil {
			_, err = fmt.Fprint(conn, strings.Join(lines, "\n")+"\n")
		}
		if err != nil {
			break
		}
	}
	b.mutex.Lock()
	defer b.mutex.Unlock()
	b.drop(l)
	b.wake()
}

// answer reads what a listener asks: the stone.
func (b *Bench) answer(l *listener) {
	asked := bufio.NewScanner(l.conn)
	for asked.Scan() {
		if strings.TrimSpace(asked.Text()) != device.StoneWanted {
			continue
		}
		b.mutex.Lock()
		lines := device.StoneLines(b.wheel.Planes())
		if b.listeners[l] {
			select {
			case l.lines <- lines:
			default:
			}
		}
		b.mutex.Unlock()
	}
	b.mutex.Lock()
	defer b.mutex.Unlock()
	b.drop(l)
}
