package wheel_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/heights"
	"cressa/core/solid"
	"cressa/core/wheel"
	"cressa/demo"
)

const width = 8.0

func setup() wheel.Setup { return wheel.Setup{Width: 9, Height: 8, Hardness: 7, Gear: 96, Seed: 1} }

// support is the farthest that the stone reaches along a direction, in mm.
func support(w *wheel.Wheel, n r3.Vec) float64 {
	out := math.Inf(-1)
	for _, v := range w.Stone().Vertices() {
		out = math.Max(out, r3.Dot(n, w.Stone().Point(v)))
	}
	return out * w.Setup().Width
}

// grind holds the stone down until it rests on the stop.
func grind(t require.TestingT, w *wheel.Wheel) {
	c := w.Controls()
	c.Down, c.RPM, c.Force = true, 2000, 20
	w.Set(c)
	const tick = 0.25
	for range 6000 {
		w.Step(tick)
		if w.Contact().AtStop && w.Contact().Rate == 0 {
			return
		}
	}
	require.Fail(t, "the facet never came to its stop", "%+v, %+v", c, w.Contact())
}

// dial sets the machine for a facet and lowers the mast to where its plane lies at a distance, in mm.
func dial(w *wheel.Wheel, s gear.Setting, distance float64) {
	c := w.Controls()
	c.Angle, c.Tooth, c.Cheat, c.Down, c.Adapter = s.Angle, s.Tooth, s.Cheat, false, false
	if s.Angle == 0 {
		c.Angle, c.Adapter = wheel.AdapterAngle, true
	}
	w.Set(c)
	c.Height = w.HeightAt(distance)
	w.Set(c)
}

// A stone that is cut facet by facet on a machine without errors is the planned one.
func TestAMachineWithoutErrorsCutsThePlannedStone(t *testing.T) {
	t.Parallel()
	all, err := demo.Diagrams()
	require.NoError(t, err)
	stone, err := cutting.Cut(all["First Light"])
	require.NoError(t, err)
	mm := width / stone.Measures().Width
	w := wheel.New(wheel.Setup{Width: 10, Height: 13, Hardness: 7, Gear: stone.Diagram.Gear, Seed: 1}, wheel.Errors{})
	sides := map[diagram.Part]r3.Vec{diagram.Pavilion: {Z: -1}, diagram.Crown: {Z: 1}}
	for _, f := range stone.Facets {
		part := stone.Diagram.Tiers[f.Tier].Part
		if part == diagram.Crown && w.Up() != diagram.Crown {
			w.TurnOver()
		}
		pose := gear.Pose{Up: sides[w.Up()], Gear: stone.Diagram.Gear, Rotation: gear.Unmoved}
		set, err := gear.Dial(f.Plane.Normal, pose)
		require.NoError(t, err)
		dial(w, set, f.Plane.D*mm)
		grind(t, w)
	}
	cubic := math.Pow(w.Setup().Width, 3)
	assert.InDelta(t, stone.Solid().Volume()*mm*mm*mm, w.Stone().Volume()*cubic, 1e-4)
	v, e, f := w.Stone().Counts()
	wantV, wantE, wantF := stone.Solid().Counts()
	assert.Equal(t, []int{wantV, wantE, wantF}, []int{v, e, f})
	assert.Len(t, w.Planes(), wantF, "nothing of the rough is left")
}

// The dial of the mast follows h = d + L·cos t + zero, so that readings of two tiers foretell others; each lap and each
// mounting has figures of its own.
func TestTheDialOfTheMastCanBeCalibrated(t *testing.T) {
	t.Parallel()
	w := wheel.New(setup(), wheel.Errors{})
	for range 2 {
		var readings []heights.Reading
		var later heights.Reading
		for i, angle := range []float64{90, 43, 55} {
			set := gear.Setting{Angle: angle, Position: gear.At(0, 96)}
			pose := gear.Pose{Up: r3.Vec{Z: map[diagram.Part]float64{diagram.Pavilion: -1, diagram.Crown: 1}[w.Up()]}, Gear: 96, Rotation: gear.Unmoved}
			n := pose.Facing(angle, 96)
			d := support(w, n) - 0.3
			dial(w, set, d)
			grind(t, w)
			r := heights.Reading{Cut: heights.Cut{Angle: angle, Distance: d}, MM: w.Readings().Height}
			if i < 2 {
				readings = append(readings, r)
			} else {
				later = r
			}
		}
		fit, err := heights.Calibrate(readings, heights.UsualSD)
		require.NoError(t, err)
		got, _, ok := fit.At(later.Cut, "")
		require.True(t, ok)
		assert.InDelta(t, later.MM, got, 0.02)
		length, _, _ := fit.Setting("")
		assert.InDelta(t, w.Length(), length, 0.05)
		w.TurnOver()
	}
}

// What goes off in a time is what Rate says, as long as the stone stands on the lap; the volume is counted by another
// way, from slices.
func TestALapTakesOffWhatItsRateSays(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		w := wheel.New(setup(), wheel.Errors{})
		c := w.Controls()
		c.Lap = rapid.IntRange(0, 2).Draw(t, "lap")
		c.Angle = rapid.Float64Range(30, 95).Draw(t, "angle")
		c.Tooth = rapid.IntRange(1, 96).Draw(t, "tooth")
		c.Force = rapid.Float64Range(1, 20).Draw(t, "force")
		c.RPM = rapid.Float64Range(100, 1500).Draw(t, "rpm")
		w.Set(c)
		c.Height, c.Down = w.Touching()-1, true
		w.Set(c)
		before := slices(w.Stone())
		const seconds = 1.0
		for range 10 {
			w.Step(seconds / 10)
		}
		if w.Contact().AtStop {
			return
		}
		gone := (before - slices(w.Stone())) * math.Pow(w.Setup().Width, 3)
		assert.InEpsilon(t, w.Rate()*seconds, gone, 0.02)
	})
}

// slices is the volume by tetrahedra about the mean of the corners.
func slices(s *solid.Solid) float64 {
	var middle r3.Vec
	for _, v := range s.Vertices() {
		middle = r3.Add(middle, r3.Scale(1/float64(len(s.Vertices())), s.Point(v)))
	}
	sum := 0.0
	for _, f := range s.Faces() {
		sum += s.Area(f) * f.Plane.Above(middle) / -3
	}
	return sum
}

// While a stone is ground the quill comes down onto its stop and stays there, whatever is set and however the machine
// errs; the stone stays closed.
func TestTheQuillComesDownToItsStop(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		s := setup()
		s.Seed = rapid.Uint64().Draw(t, "seed")
		w := wheel.New(s, wheel.Errors{Angle: 0.2, Index: 0.2, Depth: 0.02, Zero: 0.3, Bend: 0.02, Tilt: 2, Towards: 24, Twist: 1, Dull: true})
		for range rapid.IntRange(1, 6).Draw(t, "cuts") {
			c := w.Controls()
			c.Angle = float64(rapid.IntRange(300, 950).Draw(t, "angle")) / 10
			c.Tooth = rapid.IntRange(1, 96).Draw(t, "tooth")
			c.Lap = rapid.IntRange(0, 1).Draw(t, "lap")
			w.Set(c)
			c.Height, c.Down = w.Touching()-rapid.Float64Range(0.01, 0.4).Draw(t, "deeper"), true
			w.Set(c)
			last := math.Inf(1)
			for !w.Contact().AtStop || w.Contact().Rate > 0 {
				w.Step(0.25)
				at := w.Readings().Angle
				assert.LessOrEqual(t, at, last)
				assert.GreaterOrEqual(t, at, c.Angle-wheel.Division)
				last = at
			}
			assert.InDelta(t, c.Angle, last, wheel.Division)
			v, e, f := w.Stone().Counts()
			assert.Equal(t, 2, v-e+f)
		}
	})
}

// What the dials show is not what the stone gets: the error of the machine stands in the stone.
func TestAnErrorStandsInTheStone(t *testing.T) {
	t.Parallel()
	angleOf := func(e wheel.Errors) float64 {
		w := wheel.New(setup(), e)
		pose := gear.Pose{Up: r3.Vec{Z: -1}, Gear: 96, Rotation: gear.Unmoved}
		n := pose.Facing(45, 96)
		dial(w, gear.Setting{Angle: 45, Position: gear.At(0, 96)}, support(w, n)-0.3)
		grind(t, w)
		assert.InDelta(t, 45, w.Readings().Angle, wheel.Division)
		set, err := gear.Dial(w.Planes()[0].Normal, pose)
		require.NoError(t, err)
		return set.Angle
	}
	assert.InDelta(t, 45, angleOf(wheel.Errors{}), 1e-6)
	assert.InDelta(t, 44.7, angleOf(wheel.Errors{Zero: 0.3}), 1e-6)
	assert.InDelta(t, 44.9, angleOf(wheel.Errors{Bend: 0.005}), 1e-6)
	flutter := wheel.Errors{Angle: 0.2}
	assert.NotEqual(t, 45.0, angleOf(flutter))
	assert.Equal(t, angleOf(flutter), angleOf(flutter), "the same seed")
	// A lean towards the dialled index adds to what is dialled there, as the contract on moved stones has it.
	assert.InDelta(t, 40, angleOf(wheel.Errors{Tilt: 5, Towards: 96}), 1e-6)
}

// A stone that is turned by hand is heard where it hits, and comes out round.
func TestRoundingHitsWhereTheStoneIsWide(t *testing.T) {
	t.Parallel()
	w := wheel.New(setup(), wheel.Errors{})
	for _, tooth := range []int{96, 48} {
		dial(w, gear.Setting{Angle: 90, Position: gear.Position{Index: float64(tooth), Tooth: tooth}}, 4)
		grind(t, w)
	}
	c := w.Controls()
	c.Height, c.Free, c.Down, c.Turns = c.Height+0.3, true, true, 15
	w.Set(c)
	var loud, quiet float64
	for range 80 {
		w.Step(0.05)
		switch at := w.Readings().Index; {
		case at > 94 || at < 2 || at > 46 && at < 50:
			quiet += w.Contact().Sound
		case at > 18 && at < 30 || at > 66 && at < 78:
			loud += w.Contact().Sound
		}
	}
	assert.Zero(t, quiet, "where it was ground flat already")
	assert.Positive(t, loud)
}

// Seen from the side the pivot stands where its dial says, the quill is as long as it is and leans by its angle, and the stone
// lies on the lap.
func TestTheMachineIsDrawnAsItStands(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		w := wheel.New(setup(), wheel.Errors{})
		c := w.Controls()
		c.Angle = rapid.Float64Range(20, 100).Draw(t, "angle")
		c.Tooth = rapid.IntRange(1, 96).Draw(t, "tooth")
		c.Adapter = rapid.Bool().Draw(t, "adapter")
		w.Set(c)
		c.Height, c.Down = w.Touching()-0.01, true
		w.Set(c)
		for !w.Contact().AtStop {
			w.Step(0.5)
		}
		e := w.Elevation()
		assert.InDelta(t, w.Pivot(), e.Quill[0].Y, 1e-9)
		along := math.Atan2(e.Quill[1].X-e.Quill[0].X, e.Quill[0].Y-e.Quill[1].Y) * 180 / math.Pi
		assert.InDelta(t, c.Angle, along, 1e-9)
		lowest := math.Inf(1)
		for i, p := range e.Stone {
			lowest = math.Min(lowest, p.Y)
			next := e.Stone[(i+1)%len(e.Stone)]
			assert.Positive(t, math.Hypot(next.X-p.X, next.Y-p.Y))
		}
		assert.InDelta(t, 0, lowest, 1e-6)
	})
}
