package server_test

import (
	"bufio"
	"context"
	"encoding/json"
	"log/slog"
	"net"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/gear"
	faceting "cressa/core/wheel"
	"cressa/device/simulated"
	"cressa/server"
	"cressa/workshop/journal"
)

// simulator is a simulated machine with its page, and the address of its readings.
func simulator(t *testing.T, w *faceting.Wheel) (hands client, bench *simulated.Bench, lines string) {
	t.Helper()
	bench = simulated.New(w)
	ctx, stop := context.WithCancel(context.Background())
	listen := func() net.Listener {
		l, err := net.Listen("tcp", "127.0.0.1:0")
		require.NoError(t, err)
		return l
	}
	at, readings := listen(), listen()
	ended := make(chan error, 2)
	go func() { ended <- bench.ServeLines(ctx, readings) }()
	go func() {
		ended <- server.NewSimulator(bench, readings.Addr().String(), page, slog.New(slog.DiscardHandler)).Serve(ctx, at, func(net.Addr) {})
	}()
	t.Cleanup(func() {
		stop()
		assert.NoError(t, <-ended)
		assert.NoError(t, <-ended)
	})
	return client{t, "http://" + at.Addr().String()}, bench, readings.Addr().String()
}

// follow returns the events of a page's event source until the test ends.
func (c client) follow(path string) <-chan [2]string {
	c.t.Helper()
	ctx, stop := context.WithCancel(context.Background())
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, c.url+path, nil)
	require.NoError(c.t, err)
	answer, err := http.DefaultClient.Do(request)
	require.NoError(c.t, err)
	require.Equal(c.t, "text/event-stream", answer.Header.Get("Content-Type"))
	events := make(chan [2]string, 1000)
	ended := make(chan struct{})
	go func() {
		defer close(ended)
		lines := bufio.NewScanner(answer.Body)
		lines.Buffer(nil, 1<<20)
		name := ""
		for lines.Scan() {
			text := lines.Text()
			if is, ok := strings.CutPrefix(text, "event: "); ok {
				name = is
			}
			if data, ok := strings.CutPrefix(text, "data: "); ok {
				select {
				case events <- [2]string{name, data}:
				case <-ctx.Done():
					return
				}
			}
		}
	}()
	c.t.Cleanup(func() {
		stop()
		_ = answer.Body.Close()
		<-ended
	})
	return events
}

// until waits for an event that is as wanted.
func until[T any](t *testing.T, events <-chan [2]string, name string, as func(T) bool) T {
	t.Helper()
	late := time.After(20 * time.Second)
	for {
		select {
		case e := <-events:
			var got T
			if e[0] != name {
				continue
			}
			require.NoError(t, json.Unmarshal([]byte(e[1]), &got))
			if as(got) {
				return got
			}
		case <-late:
			require.Fail(t, "no such event", name)
		}
	}
}

func TestInstrumentsAreReadAndFollowed(t *testing.T) {
	c := start(t)
	hands, bench, lines := simulator(t, faceting.New(faceting.Setup{Width: 9, Height: 9, Hardness: 7, SG: 2.65, Gear: 96, Seed: 1}, faceting.Errors{}))
	events := c.follow("/api/live")
	until(t, events, "instruments", func(s server.LiveStates) bool { return len(s.Instruments) == 0 })

	var dial server.Instrument
	mast := server.Instrument{Name: "Mast", Port: "tcp", Address: lines, Baud: 9600, Scales: []server.InstrumentScale{}}
	c.put("POST", "/api/instruments", mast, &dial)
	until(t, events, "instruments", func(s server.LiveStates) bool { return len(s.Instruments) == 1 && s.Instruments[0].Here })
	c.problem("POST", "/api/instruments", text(t, mast), http.StatusUnprocessableEntity) // the name is taken

	// The offset is that of the reading which should be 0 now.
	dial.Scales = []server.InstrumentScale{{Quantity: "height", Offset: -20}}
	c.put("PUT", "/api/instruments/"+dial.ID, dial, &dial)
	until(t, events, "readings", func(got server.LiveReadings) bool {
		return slices.ContainsFunc(got.Readings, func(r server.LiveReading) bool {
			return r.Instrument == dial.ID && r.Quantity == "height" && r.Value == 0 && r.Raw == 20
		})
	})

	// A cable that is pulled is told with what to do, and once it is in again all goes on by itself.
	hands.do("PUT", "/api/simulator/beside", server.SimulatedBeside{Pace: 1, Unplugged: true})
	away := until(t, events, "instruments", func(s server.LiveStates) bool { return len(s.Instruments) == 1 && !s.Instruments[0].Here })
	assert.Contains(t, away.Instruments[0].Trouble, "comes back by itself")
	hands.do("PUT", "/api/simulator/beside", server.SimulatedBeside{Pace: 1})
	until(t, events, "instruments", func(s server.LiveStates) bool { return s.Instruments[0].Here })

	// What another screen ticks is told, too.
	var stone server.StoneHead
	d := c.diagramCalled("First Light")
	c.put("POST", "/api/stones", server.PlanRequest{Name: "Told", DiagramID: d.ID, Choices: plan("Quartz", 96, width(8), diagram.Pavilion)}, &stone)
	until(t, events, "logs", func(l server.ChangedLogs) bool {
		return len(l.Streams) == 1 && l.Streams[0] == string(journal.OfWork(stone.WorkID))
	})

	// A bare rough is no stone that could be taken over.
	at := "/api/stones/" + stone.ID
	said := c.problem("POST", at+"/survey", text(t, server.SurveyOf{Instrument: dial.ID}), http.StatusUnprocessableEntity)
	assert.Contains(t, said.Detail, "none was cut yet")
	cutStone(t, c, bench, at)
	var taken server.SurveyTaken
	c.put("POST", at+"/survey", server.SurveyOf{Instrument: dial.ID}, &taken)
	var real server.AsCutView
	c.get(at+"/as-cut", &real)
	assert.Equal(t, "Mast", real.Told)
	require.Len(t, real.Differences, 1, "%+v", real.Differences)
	assert.Equal(t, "P1", real.Differences[0].Tier)
	assert.Contains(t, real.Differences[0].Text, "stands at 44° at 12, planned 44° at 12, 0.2 mm deeper")
	assert.Equal(t, 12, real.FacetsCut)

	c.do("DELETE", "/api/instruments/"+dial.ID, nil)
	until(t, events, "instruments", func(s server.LiveStates) bool { return len(s.Instruments) == 0 })
	c.problem("POST", at+"/survey", text(t, server.SurveyOf{Instrument: dial.ID}), http.StatusNotFound)
}

// cutStone cuts the first tier of a stone's plan on the machine, and one facet of it 0.2 mm too deep.
func cutStone(t *testing.T, c client, bench *simulated.Bench, at string) {
	t.Helper()
	var script server.BenchScript
	c.get(at+"/script", &script)
	bench.Look(func(s *simulated.Scene) {
		for _, v := range script.Visits {
			f := script.Facets[v.Facet]
			if !v.First || f.Tier != "P1" {
				continue
			}
			controls := s.Wheel.Controls()
			controls.Angle, controls.Tooth, controls.Down, controls.RPM, controls.Force = f.Reading, f.Dial.Tooth, false, 3000, 20
			s.Wheel.Set(controls)
			// The point of the stone lies 1.5 mm below the middle of the rough.
			pose := gear.Pose{Up: r3.Vec{Z: -1}, Gear: 96, Rotation: gear.Unmoved}
			n := pose.Facing(f.Reading, float64(f.Dial.Tooth))
			depth := -n.Z * 1.5
			if f.Dial.Tooth == 12 {
				depth -= 0.2
			}
			controls.Height, controls.Down = s.Wheel.HeightAt(depth), true
			s.Wheel.Set(controls)
			for !s.Wheel.Contact().AtStop || s.Wheel.Contact().Rate > 0 {
				s.Wheel.Step(0.5)
			}
		}
	})
}
