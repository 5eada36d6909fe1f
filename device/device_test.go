package device_test

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"net"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/sys/unix"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/solid"
	"cressa/core/wheel"
	"cressa/device"
	"cressa/device/simulated"
)

const (
	patience = 20 * time.Second
	often    = 5 * time.Millisecond
)

func TestALineSaysWhatIsMeasured(t *testing.T) {
	t.Parallel()
	at := time.Date(2026, 3, 1, 18, 4, 5, 120e6, time.UTC)
	for line, want := range map[string]device.Reading{
		"angle 41.98": {Quantity: device.Angle, Value: 41.98},
		"index 12.02 teeth 2026-03-01T18:04:05.120Z": {Quantity: device.Index, Value: 12.02, Time: at},
		"Height 3.215 mm":             {Quantity: device.Height, Value: 3.215},
		"calipers 0.5 in":             {Quantity: device.Calipers, Value: 12.7},
		"  scale\t0.2805   g ":        {Quantity: device.Scale, Value: 1.4025},
		"height 2026-03-01T18:04:05Z": {},
		"height 3 kg":                 {},
		"height NaN":                  {},
		"height 1e9":                  {},
		"angle":                       {},
		"depth 3":                     {},
		"angle 41 deg 2026-03-01T18:04:05Z and then some": {},
	} {
		got, ok, err := device.ReadLine(line)
		if want == (device.Reading{}) {
			assert.ErrorIs(t, err, device.ErrLine, line)
			continue
		}
		require.NoError(t, err, line)
		assert.True(t, ok)
		assert.Equal(t, want.Quantity, got.Quantity)
		assert.InDelta(t, want.Value, got.Value, 1e-9, line)
		assert.True(t, want.Time.Equal(got.Time))
	}
	for _, line := range []string{"", "   ", "# a comment"} {
		_, ok, err := device.ReadLine(line)
		assert.NoError(t, err)
		assert.False(t, ok)
	}
}

// Whatever is written can be read, and says the same.
func TestWhatIsWrittenIsRead(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		want := device.Reading{
			Quantity: rapid.SampledFrom(device.Quantities).Draw(t, "quantity"),
			Value:    float64(rapid.IntRange(-1e7, 1e7).Draw(t, "thousandths")) / 1000,
			Time:     time.UnixMilli(rapid.Int64Range(0, 4e12).Draw(t, "ms")).UTC(),
		}
		got, ok, err := device.ReadLine(want.String())
		require.NoError(t, err)
		require.True(t, ok)
		assert.Equal(t, want, got)
	})
}

// FuzzReadLine: no line of a stranger's does harm, and what is read is in range.
func FuzzReadLine(f *testing.F) {
	f.Add("angle 41.98 deg 2026-03-01T18:04:05.120Z")
	f.Add("scale .5 ct")
	f.Fuzz(func(t *testing.T, line string) {
		r, ok, err := device.ReadLine(line)
		if ok && (err != nil || !(r.Value > -1e9 && r.Value < 1e9)) {
			t.Fatalf("%q is read as %v, %v", line, r, err)
		}
	})
}

// bench is a simulated machine that serves its lines at an address.
func bench(t *testing.T) (*simulated.Bench, string) {
	t.Helper()
	b := simulated.New(wheel.New(wheel.Setup{Width: 9, Height: 8, Hardness: 7, SG: 2.65, Gear: 96, Seed: 1}, wheel.Errors{}))
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, stop := context.WithCancel(context.Background())
	served := make(chan error)
	go b.Run(ctx)
	go func() { served <- b.ServeLines(ctx, l) }()
	t.Cleanup(func() {
		stop()
		assert.NoError(t, <-served)
	})
	return b, l.Addr().String()
}

// hub reads devices until the test ends.
func hub(t *testing.T, devices ...device.Device) *device.Hub {
	t.Helper()
	h := &device.Hub{}
	t.Cleanup(h.Close)
	h.Use(devices)
	return h
}

func at(address string) device.Device {
	return device.Device{ID: "dial", Port: device.Port{Kind: device.TCP, Address: address}}
}

// now is the latest reading of a quantity.
func now(h *device.Hub, q device.Quantity) (device.Now, bool) {
	for _, s := range h.States() {
		for _, n := range s.Now {
			if n.Quantity == q {
				return n, true
			}
		}
	}
	return device.Now{}, false
}

func until(t *testing.T, what string, f func() bool) {
	t.Helper()
	require.Eventually(t, f, patience, often, what)
}

// set moves the simulated machine's hands.
func set(b *simulated.Bench, f func(*wheel.Controls)) {
	b.Look(func(s *simulated.Scene) {
		c := s.Wheel.Controls()
		f(&c)
		s.Wheel.Set(c)
	})
}

func TestReadingsComeFromTheMachine(t *testing.T) {
	t.Parallel()
	b, address := bench(t)
	d := at(address)
	d.Scales = map[device.Quantity]device.Correction{device.Height: {Offset: 2.5}, device.Index: {Reversed: true, Offset: 96}}
	h := hub(t, d)
	watch := h.Watch()
	defer watch.Close()
	until(t, "what stands still is held", func() bool { n, _ := now(h, device.Height); return n.Held })
	n, _ := now(h, device.Height)
	assert.InDelta(t, 20, n.Raw, 1e-9)
	assert.InDelta(t, 22.5, n.Value, 1e-9, "the offset is added")
	n, _ = now(h, device.Index)
	assert.InDelta(t, 0, n.Value, 1e-9, "it counts the other way")

	// The stone is ground: the angle comes down to the stop, and is held there.
	set(b, func(c *wheel.Controls) { c.Angle, c.RPM, c.Force = 45, 2000, 20 })
	b.Look(func(s *simulated.Scene) { s.Pace = 20 })
	var touching float64
	b.Look(func(s *simulated.Scene) { touching = s.Wheel.Touching() })
	set(b, func(c *wheel.Controls) { c.Height, c.Down = touching-0.5, true })
	until(t, "the quill rests on the stop", func() bool {
		n, _ := now(h, device.Angle)
		return n.Held && n.Value == 45
	})
	assert.NotEmpty(t, h.Recent("dial", device.Angle))
	<-watch.Ready()
	states, fresh := watch.Take()
	assert.NotEmpty(t, states)
	assert.NotEmpty(t, fresh)

	stone, err := h.Stone(t.Context(), "dial")
	require.NoError(t, err)
	b.Look(func(s *simulated.Scene) {
		require.Len(t, stone, len(s.Wheel.Planes()))
		assert.InDelta(t, s.Wheel.Planes()[0].D, stone[0].D, 1e-5)
	})
	_, err = h.Stone(t.Context(), "another")
	assert.ErrorIs(t, err, device.ErrAway)

	// Calipers and scale are read beside.
	b.Look(func(s *simulated.Scene) { s.Measuring = simulated.Scale })
	until(t, "the scale", func() bool { n, ok := now(h, device.Scale); return ok && n.Value > 1 })
	b.Look(func(s *simulated.Scene) { s.Measuring = simulated.Nothing })
	until(t, "what is no longer told is gone", func() bool { _, ok := now(h, device.Scale); return !ok })
	_, ok := now(h, device.Height)
	assert.True(t, ok, "the dials go on")
}

// A device that goes away says so, and is back by itself; what was set for it changes without its being left.
func TestADeviceThatGoesAwayComesBack(t *testing.T) {
	t.Parallel()
	b, address := bench(t)
	h := hub(t, at(address))
	here := func() bool { s := h.States(); return len(s) == 1 && s[0].Here }
	until(t, "it is here", here)
	b.Look(func(s *simulated.Scene) { s.Unplugged = true })
	until(t, "it is away", func() bool { s := h.States()[0]; return !s.Here && s.Trouble == device.HungUp && len(s.Now) == 0 })
	b.Look(func(s *simulated.Scene) { s.Unplugged = false })
	until(t, "it is back", here)
	since := h.States()[0].Since
	d := at(address)
	d.Scales = map[device.Quantity]device.Correction{device.Height: {Offset: -1}}
	h.Use([]device.Device{d})
	until(t, "it is corrected", func() bool { n, ok := now(h, device.Height); return ok && n.Value == 19 })
	assert.Equal(t, since, h.States()[0].Since, "and was never left")
	h.Use(nil)
	assert.Empty(t, h.States())
}

func TestTroubleIsNamed(t *testing.T) {
	t.Parallel()
	says := func(lines string) string {
		l, err := net.Listen("tcp", "127.0.0.1:0")
		require.NoError(t, err)
		t.Cleanup(func() { _ = l.Close() })
		go func() {
			for {
				conn, err := l.Accept()
				if err != nil {
					return
				}
				_, _ = fmt.Fprint(conn, lines)
				// Held until the other end goes: a connection that nobody holds is closed with the garbage.
				go func() {
					_, _ = io.Copy(io.Discard, conn)
					_ = conn.Close()
				}()
			}
		}()
		return l.Addr().String()
	}
	for want, address := range map[device.Trouble]string{
		device.Unreachable:      "127.0.0.1:1",
		device.ElsewhereRefused: "192.0.2.1:80",
		device.Babble:           says(strings.Repeat("GET / HTTP/1.1\n", 500)),
		device.Silent:           says(""),
	} {
		h := hub(t, at(address))
		until(t, string(want), func() bool { return h.States()[0].Trouble == want })
		assert.False(t, h.States()[0].Here)
	}
	h := hub(t, device.Device{ID: "s", Port: device.Port{Kind: device.Serial, Address: "/dev/none", Baud: 9600}})
	until(t, "no port", func() bool { return h.States()[0].Trouble == device.NoPort })
	_, address := bench(t)
	found := device.Find(t.Context(), address, "127.0.0.1:1")
	assert.Contains(t, found, device.Port{Kind: device.TCP, Address: address, Baud: device.UsualBaud})
}

// A dial on a serial port is read like any other. A pseudo terminal stands for the port.
func TestADialOnASerialPortIsRead(t *testing.T) {
	t.Parallel()
	wire, err := os.OpenFile("/dev/ptmx", os.O_RDWR|unix.O_NOCTTY, 0)
	if err != nil {
		t.Skip("this machine has no pseudo terminals")
	}
	t.Cleanup(func() { _ = wire.Close() })
	require.NoError(t, unix.IoctlSetPointerInt(int(wire.Fd()), unix.TIOCSPTLCK, 0))
	no, err := unix.IoctlGetInt(int(wire.Fd()), unix.TIOCGPTN)
	require.NoError(t, err)
	h := hub(t, device.Device{ID: "dial", Port: device.Port{Kind: device.Serial, Address: fmt.Sprintf("/dev/pts/%d", no), Baud: 115200}})
	until(t, "the reading", func() bool {
		_, err := fmt.Fprint(wire, "height 3.215 mm\r\n")
		require.NoError(t, err)
		n, ok := now(h, device.Height)
		return ok && n.Value == 3.215
	})
}

// The lines of a stone are read as they are written.
func TestAStoneIsToldInLines(t *testing.T) {
	t.Parallel()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { _ = l.Close() })
	want := []solid.Plane{{Normal: r3.Vec{Z: 1}, D: 2.5}, {Normal: r3.Vec{X: 0.6, Y: -0.8}, D: 4}}
	answers := make(chan []string, 2)
	answers <- device.StoneLines(want)
	answers <- []string{"stone 2", "facet 0 0 1 2.5", "facet 0 0 3 2.5"}
	go func() {
		conn, err := l.Accept()
		if err != nil {
			return
		}
		_, _ = fmt.Fprintln(conn, "angle 45")
		asked := bufio.NewScanner(conn)
		for asked.Scan() {
			_, _ = fmt.Fprintln(conn, strings.Join(<-answers, "\n"))
		}
	}()
	h := hub(t, at(l.Addr().String()))
	until(t, "it is here", func() bool { return h.States()[0].Here })
	got, err := h.Stone(t.Context(), "dial")
	require.NoError(t, err)
	assert.Equal(t, want, got)
	_, err = h.Stone(t.Context(), "dial")
	assert.ErrorIs(t, err, device.ErrNoStone, "a facet without a direction is none")
	assert.Equal(t, 1, h.States()[0].Unread)
}
