package server

import (
	"context"
	"io/fs"
	"log/slog"
	"math"
	"net"
	"net/http"
	"sync"
	"time"

	"github.com/labstack/echo/v5"

	"cressa/core/diagram"
	"cressa/core/solid"
	"cressa/core/wheel"
	"cressa/device/simulated"
)

// Simulator is the simulated machine over HTTP: its page, and what that needs. It answers this machine alone.
type Simulator struct {
	*Server
	bench *simulated.Bench
}

// SimulatedScene is how the simulated machine stands.
type SimulatedScene struct {
	Setup SimulatedSetup `json:"setup"`
	// Errors are those that are set, Usual those of most machines.
	Errors   SimulatedErrors   `json:"errors"`
	Usual    SimulatedErrors   `json:"usual"`
	Controls SimulatedControls `json:"controls"`
	Beside   SimulatedBeside   `json:"beside"`
	// Up is the side that points out of the dop.
	Up diagram.Part `json:"up" validate:"oneof=crown pavilion"`
	// Angle, Index and Height are what the dials show: degrees, a position on the gear, mm.
	Angle  float64 `json:"angle"`
	Index  float64 `json:"index"`
	Height float64 `json:"height"`
	// AtStop tells that the quill rests on the protractor's stop, Blocked that the mast is too low for the stone. Face is the face that lies on the lap, -1 for none, Area its
	// area in mm², Sound how loud the grinding is from 0 to 1.
	AtStop  bool    `json:"atStop"`
	Blocked bool    `json:"blocked"`
	Face    int     `json:"face"`
	Area    float64 `json:"area"`
	Sound   float64 `json:"sound"`
	// Touching is what the mast's dial shows when the stone just touches, in mm.
	Touching float64 `json:"touching"`
	// Laps are those that can be put on; Sharp is how sharp the one that is on still is, from 0 to 1.
	Laps  []SimulatedLap `json:"laps"`
	Sharp float64        `json:"sharp"`
	// Stone is the stone in units of the rough's width, about its middle: a mesh of one step. Facets is how many faces were
	// ground.
	Stone  Mesh    `json:"stone"`
	Facets int     `json:"facets"`
	Across float64 `json:"across"`
	Carats float64 `json:"carats"`
	// Quill runs from the pivot to the middle of the stone, Outline round the stone, as x and y of points in mm, seen from the
	// side; the lap lies at y = 0.
	Quill   []float64 `json:"quill"`
	Outline []float64 `json:"outline"`
	// Readers is how many programs get the readings, at Lines.
	Readers int    `json:"readers"`
	Lines   string `json:"lines"`
}

// SimulatedLap is a lap of the simulated machine, its grain in µm.
type SimulatedLap struct {
	Name  string  `json:"name"`
	Grain float64 `json:"grain"`
}

// SimulatedSetup is what is put on the simulated machine: a cylinder of rough in mm, and a gear.
type SimulatedSetup struct {
	Width    float64 `json:"width" validate:"min=2,max=60"`
	Height   float64 `json:"height" validate:"min=2,max=60"`
	Hardness float64 `json:"hardness" validate:"min=2,max=10"`
	SG       float64 `json:"sg" validate:"min=0.8,max=20"`
	Gear     int     `json:"gear" validate:"min=8,max=360"`
	// Seed is what chance is drawn from.
	Seed int `json:"seed" validate:"min=0,max=1000000"`
}

// SimulatedErrors are what the simulated machine does otherwise than its dials say: standard deviations of an angle and an
// index in degrees and of a depth in mm, then what stays.
type SimulatedErrors struct {
	Angle float64 `json:"angle" validate:"min=0,max=2"`
	Index float64 `json:"index" validate:"min=0,max=2"`
	Depth float64 `json:"depth" validate:"min=0,max=0.5"`
	// Zero is what the protractor shows too much, Bend by how many degrees a newton bends the quill.
	Zero float64 `json:"zero" validate:"min=-5,max=5"`
	Bend float64 `json:"bend" validate:"min=0,max=0.1"`
	// The stone leans by Tilt degrees towards a dialled index, and is twisted by Twist degrees.
	Tilt    float64 `json:"tilt" validate:"min=0,max=15"`
	Towards float64 `json:"towards" validate:"min=0,max=360"`
	Twist   float64 `json:"twist" validate:"min=-15,max=15"`
	// Adapter is what the table adapter has over 45°.
	Adapter float64 `json:"adapter" validate:"min=-5,max=5"`
	// Dull tells that laps wear.
	Dull bool `json:"dull"`
}

// SimulatedControls are what a hand sets on the simulated machine.
type SimulatedControls struct {
	Angle  float64 `json:"angle" validate:"min=5,max=110"`
	Tooth  int     `json:"tooth" validate:"min=1,max=360"`
	Cheat  float64 `json:"cheat" validate:"min=-30,max=30"`
	Height float64 `json:"height" validate:"min=-20,max=140"`
	// Lap is the place of the lap that is on.
	Lap   int     `json:"lap" validate:"min=0,max=20"`
	RPM   float64 `json:"rpm" validate:"min=0,max=3000"`
	Force float64 `json:"force" validate:"min=0.5,max=30"`
	// Adapter tells that the stone sits on the table adapter, Down that the quill is let down, Free that the stone is turned
	// by hand, by Turns a minute.
	Adapter bool    `json:"adapter"`
	Down    bool    `json:"down"`
	Free    bool    `json:"free"`
	Turns   float64 `json:"turns" validate:"min=1,max=60"`
}

// SimulatedBeside is what is beside the machine: how many seconds pass on it in one of ours, what the stone is held to, and
// whether the cable of its readings was pulled.
type SimulatedBeside struct {
	Pace      float64             `json:"pace" validate:"min=0.1,max=50"`
	Measuring simulated.Measuring `json:"measuring" validate:"omitempty,oneof=calipers scale"`
	Unplugged bool                `json:"unplugged"`
}

// NewSimulator returns the page of a simulated machine that sends its readings at an address.
func NewSimulator(bench *simulated.Bench, lines string, ui fs.FS, log *slog.Logger) *Simulator {
	m := &Simulator{plain(log), bench}
	m.routesOf(lines)
	m.echo.Any("/api/*", func(*echo.Context) error { return echo.ErrNotFound })
	m.serveUI(ui, "simulator.html")
	return m
}

// Serve lets the machine run and listens for its page until the context ends. Ready is called with the address once it
// listens.
func (m *Simulator) Serve(ctx context.Context, listener net.Listener, ready func(net.Addr)) error {
	m.answerTo(listener.Addr())
	defer context.AfterFunc(ctx, m.leave)()
	running, stop := context.WithCancel(ctx)
	var beside sync.WaitGroup
	beside.Go(func() { m.bench.Run(running) })
	defer beside.Wait()
	defer stop()
	config := startConfig(ctx, listener, ready)
	return config.Start(ctx, m.echo)
}

func (m *Simulator) routesOf(lines string) {
	change := func(name, method, path, summary string, f func(*simulated.Scene)) {
		handle(m.Server, route{method: method, path: path, name: name, summary: summary}, func(*echo.Context, struct{}) (none, error) {
			m.bench.Look(f)
			return none{}, nil
		})
	}
	scene := func() (out SimulatedScene) {
		m.bench.Look(func(s *simulated.Scene) { out = sceneOf(s) })
		out.Lines = lines
		return out
	}
	handle(m.Server, route{method: http.MethodGet, path: "/api/simulator", name: "getSimulator", summary: "How the simulated machine stands"}, func(*echo.Context, struct{}) (SimulatedScene, error) {
		return scene(), nil
	})
	m.raw(route{method: http.MethodGet, path: "/api/simulator/live", name: "followSimulator", summary: "The simulated machine as it runs", lasting: true, live: true}, func(c *echo.Context) error {
		return m.follow(c, scene)
	})
	handle(m.Server, route{method: http.MethodPut, path: "/api/simulator/controls", name: "setSimulator", summary: "Move the hands of the simulated machine"}, func(_ *echo.Context, in withBody[SimulatedControls]) (none, error) {
		c := in.Body
		m.bench.Look(func(s *simulated.Scene) {
			set := wheel.Controls{
				Angle: c.Angle, Tooth: min(c.Tooth, s.Wheel.Setup().Gear), Cheat: c.Cheat, Height: c.Height, Lap: min(c.Lap, len(wheel.Laps)-1),
				RPM: c.RPM, Force: c.Force, Adapter: c.Adapter, Down: c.Down, Free: c.Free, Turns: c.Turns,
			}
			s.Wheel.Set(set.ByDivisions())
		})
		return none{}, nil
	})
	handle(m.Server, route{method: http.MethodPut, path: "/api/simulator/errors", name: "spoilSimulator", summary: "Set the errors of the simulated machine"}, func(_ *echo.Context, in withBody[SimulatedErrors]) (none, error) {
		m.bench.Look(func(s *simulated.Scene) { s.Wheel.SetErrors(wheel.Errors(in.Body)) })
		return none{}, nil
	})
	handle(m.Server, route{method: http.MethodPost, path: "/api/simulator/rough", name: "dopSimulator", summary: "Put another rough on the simulated machine"}, func(_ *echo.Context, in withBody[SimulatedSetup]) (none, error) {
		b := in.Body
		m.bench.Look(func(s *simulated.Scene) {
			s.Wheel = wheel.New(wheel.Setup{Width: b.Width, Height: b.Height, Hardness: b.Hardness, SG: b.SG, Gear: b.Gear, Seed: uint64(b.Seed)}, s.Wheel.Errors())
		})
		return none{}, nil
	})
	handle(m.Server, route{method: http.MethodPut, path: "/api/simulator/beside", name: "setBesideSimulator", summary: "Time, calipers, scale and cable of the simulated machine"}, func(_ *echo.Context, in withBody[SimulatedBeside]) (none, error) {
		m.bench.Look(func(s *simulated.Scene) {
			s.Pace, s.Measuring, s.Unplugged = in.Body.Pace, in.Body.Measuring, in.Body.Unplugged
		})
		return none{}, nil
	})
	change("turnOverSimulator", http.MethodPost, "/api/simulator/over", "Turn the stone over", func(s *simulated.Scene) { s.Wheel.TurnOver() })
	change("chargeSimulator", http.MethodPost, "/api/simulator/charge", "Charge the lap", func(s *simulated.Scene) { s.Wheel.Charge() })
}

// follow tells a page how the machine stands whenever that changes.
func (m *Simulator) follow(c *echo.Context, scene func() SimulatedScene) error {
	ready, leave := m.bench.Watch()
	defer leave()
	tell := newTeller(c)
	beat := time.NewTicker(heartbeat)
	defer beat.Stop()
	for {
		if err := tell.event("scene", scene()); err != nil {
			return nil // the page has left
		}
		select {
		case <-c.Request().Context().Done():
			return nil
		case <-m.leaving.Done():
			return nil
		case <-beat.C:
		case <-ready:
		}
		select {
		case <-c.Request().Context().Done():
			return nil
		case <-time.After(paint):
		}
	}
}

func sceneOf(s *simulated.Scene) SimulatedScene {
	w := s.Wheel
	setup, controls, dials, contact := w.Setup(), w.Controls(), w.Readings(), w.Contact()
	side := w.Elevation()
	return SimulatedScene{
		Setup:    SimulatedSetup{setup.Width, setup.Height, setup.Hardness, setup.SG, setup.Gear, int(setup.Seed)},
		Errors:   SimulatedErrors(w.Errors()),
		Usual:    SimulatedErrors(wheel.Usual),
		Controls: SimulatedControls{controls.Angle, controls.Tooth, controls.Cheat, controls.Height, controls.Lap, controls.RPM, controls.Force, controls.Adapter, controls.Down, controls.Free, controls.Turns},
		Beside:   SimulatedBeside{s.Pace, s.Measuring, s.Unplugged},
		Up:       w.Up(), Angle: dials.Angle, Index: dials.Index, Height: dials.Height,
		AtStop: contact.AtStop, Blocked: contact.Blocked, Face: simulatedFace(contact.Face), Area: contact.Area, Sound: contact.Sound,
		Touching: hundredth(w.Touching()), Laps: each(wheel.Laps, func(l wheel.Lap) SimulatedLap { return SimulatedLap{l.Name, l.Grain} }), Sharp: w.Sharpness(),
		Stone: turnedMesh(w.Stone()), Facets: len(w.Planes()), Across: hundredth(w.Across()), Carats: w.Carats(),
		Quill: flat(side.Quill), Outline: flat(side.Stone), Readers: s.Listeners,
	}
}

// flat lists x and y of points in turn.
func flat(spots []wheel.Spot) []float64 {
	out := make([]float64, 0, 2*len(spots))
	for _, p := range spots {
		out = append(out, p.X, p.Y)
	}
	return out
}

func hundredth(v float64) float64 { return math.Round(v*100) / 100 }

// simulatedFace numbers a face of the simulated machine's stone as a mesh does: those that were ground from 0, those of the
// rough below the block's.
func simulatedFace(id int) int {
	if n, ground := wheel.FacetNo(id); ground {
		return n
	}
	const belowBlock = -6
	return belowBlock - id
}

func turnedMesh(s *solid.Solid) Mesh {
	m := Mesh{Vertices: []float64{}, Steps: []MeshStep{{Facet: -1, Set: []MeshFace{}, Gone: []int{}}}}
	for i := range s.TableLen() {
		p := s.Point(i)
		m.Vertices = append(m.Vertices, p.X, p.Y, p.Z)
	}
	for _, f := range s.Faces() {
		m.Steps[0].Set = append(m.Steps[0].Set, MeshFace{simulatedFace(f.ID), f.Loop})
	}
	return m
}
