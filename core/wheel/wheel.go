// Package wheel is a faceting machine with a stone on it: what its lap takes off while the stone is held down, what its
// dials show meanwhile, and what is heard. It is good enough to learn on, and its errors can be set.
//
// The quill hangs on a pivot that stands h above the lap, and swings down until it rests on the stone or on the
// protractor's stop. A facet at the angle t whose plane lies at the distance d from the stone's middle is on the lap when
//
//	h = d + L·cos t
//
// with the length L from the pivot to that middle. Lengths are in mm, angles in degrees, times in seconds.
package wheel

import (
	"math"
	"math/rand/v2"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/solid"
)

// Setup is what is put on the machine: a piece of rough turned to a cylinder, and a gear.
type Setup struct {
	// Width and Height of the rough are in mm.
	Width, Height float64
	// Hardness is on the scale of Mohs, SG the specific gravity.
	Hardness, SG float64
	// Gear is how many teeth the index gear has.
	Gear int
	// Seed is what chance is drawn from: the same seed and the same hands give the same stone.
	Seed uint64
}

// Lap is a lap that can be put on.
type Lap struct {
	Name string
	// Grain is the mean size of its grains in µm, Thickness that of the lap in mm.
	Grain, Thickness float64
}

// Laps are those that come with the machine, the coarsest first.
var Laps = []Lap{
	{"260 steel", 58, 3.0}, {"600 steel", 25, 3.2}, {"1200 steel", 12.5, 3.1}, {"3000 resin", 6, 8.0}, {"60k tin", 0.25, 10.0},
}

// Errors are what the machine does other than its dials say. The zero value is a machine without.
type Errors struct {
	// Angle, Index (degrees) and Depth (mm) are standard deviations: each time the quill comes down it stands a little
	// otherwise, because laps flutter, gears have play and stops give.
	Angle, Index, Depth float64
	// Zero is what the protractor shows too much, in degrees.
	Zero float64
	// Bend is by how many degrees a newton bends the quill: a facet comes out that much flatter than the dial shows.
	Bend float64
	// Tilt is by how many degrees the stone leans on its dop, Towards the dialled index that it leans to, and Twist by
	// how many degrees it is turned towards rising index.
	Tilt, Towards, Twist float64
	// Adapter is by how many degrees the table adapter's true angle exceeds 45.
	Adapter float64
	// Dull tells that laps wear.
	Dull bool
}

// Usual is what most machines do: laps flutter by a tenth of a degree, a finger bends the quill by half as much, a table
// adapter is a little off, and laps wear.
var Usual = Errors{Angle: 0.1, Index: 0.05, Depth: 0.005, Bend: 0.01, Adapter: 0.3, Dull: true}

// Controls are what a hand sets.
type Controls struct {
	// Angle is where the protractor's stop stands, as its dial shows it.
	Angle float64
	// Tooth is the position on the gear, Cheat what the cheater adds in degrees.
	Tooth int
	Cheat float64
	// Height is what the dial of the mast shows, in mm.
	Height float64
	// Lap is the place in Laps of the one that is on, RPM how fast it turns, Force what presses the stone on in N.
	Lap   int
	RPM   float64
	Force float64
	// Adapter tells that the stone sits on the table adapter.
	Adapter bool
	// Down tells that the quill is let down, Free that the gear is not locked and the stone is turned by hand, by Turns a minute.
	Down, Free bool
	Turns      float64
}

// What the machine is like.
const (
	// AdapterAngle is what is engraved on its table adapter.
	AdapterAngle = 45.0
	// Division is that of all its dials: mm, degrees, teeth.
	Division = 0.01
	// mast is the pivot's height where the dial shows 0, over a lap of no thickness.
	mast = 4.0
	// dopLength is from the pivot to the face of a dop, elbow from the pivot to the bend of the table adapter, beyond
	// from there to the face of a dop in it.
	dopLength, elbow, beyond = 58.0, 34.0, 40.0
	// lapRadius is how far from the middle the stone is held.
	lapRadius = 62.0
	// lift is by how many degrees a raised quill stands over the stop.
	lift = 12.0
	// swing is how far above the stop a stone can hold the quill; one that is thicker stays off the lap.
	swing = 40.0
	// roughSides is how many faces the turned rough has.
	roughSides = 48
	// firstFacet is the ID of the first face that was ground; those of the rough are below.
	firstFacet = 1 << 10
)

// Wheel is the machine. It belongs to one goroutine.
type Wheel struct {
	controls Controls
	errors   Errors
	setup    Setup
	random   *rand.Rand
	// stone has the width of its rough as unit, and its middle as origin.
	stone *solid.Solid
	up    diagram.Part
	// length is from the pivot to the stone's middle in this mounting, past that from the bend of the adapter.
	length, past float64
	// off is by how much this lowering stands otherwise; nothing while the quill is raised.
	off lowering
	// at is the angle that the quill stands at, and turned the position on the gear while the stone is turned by hand.
	at, turned float64
	// sank is by how many degrees it came down in the last step that ground.
	sank float64
	// sharp is how sharp each lap still is, 1 when it was charged.
	sharp   []float64
	next    int
	contact Contact
}

// lowering is by how much the quill stands otherwise than set, once it was let down: degrees, degrees, mm.
type lowering struct{ angle, index, depth float64 }

// Contact is what happens where stone and lap meet.
type Contact struct {
	// Face is the ID of the face that lies on the lap, 0 for none.
	Face int
	// Area is in mm², Rate in mm³/s.
	Area, Rate float64
	// Sound is how loud the grinding is beside the motor, from 0 to 1.
	Sound float64
	// AtStop tells that the quill rests on the protractor's stop, Blocked that the stone stands higher than the quill can
	// swing: the mast is too low for it.
	AtStop, Blocked bool
}

// New returns a machine with a rough on its dop, the pavilion out.
func New(s Setup, e Errors) *Wheel {
	w := &Wheel{errors: e, setup: s, random: rand.New(rand.NewPCG(s.Seed, 0)), up: diagram.Pavilion, sharp: make([]float64, len(Laps)), next: firstFacet}
	for i := range w.sharp {
		w.sharp[i] = 1
	}
	half := s.Height / s.Width / 2
	w.stone = solid.Block(math.Max(1, 2*half))
	normals := []solid.Plane{{Normal: r3.Vec{Z: 1}, D: half}, {Normal: r3.Vec{Z: -1}, D: half}}
	for i := range roughSides {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / roughSides)
		normals = append(normals, solid.Plane{Normal: r3.Vec{X: sin, Y: cos}, D: 0.5})
	}
	for i, p := range normals {
		w.stone, _ = w.stone.Cut(1+i, p)
	}
	w.stone = w.stone.Compact()
	w.mount()
	w.controls = Controls{Angle: 90, Tooth: s.Gear, Height: 20, RPM: 400, Force: 5, Turns: 15}
	w.raise()
	return w
}

// mount glues the stone to a dop. The glue is thicker one time than another, so that the length is.
func (w *Wheel) mount() {
	onDop := w.stone.Bounds().Max.Z
	if w.up == diagram.Crown {
		onDop = -w.stone.Bounds().Min.Z
	}
	stub := onDop*w.setup.Width + w.random.Float64()
	w.length, w.past = dopLength+stub, beyond+stub
}

// Setup tells what was put on the machine.
func (w *Wheel) Setup() Setup { return w.setup }

// Controls tells what is set.
func (w *Wheel) Controls() Controls { return w.controls }

// Errors tells what the machine does otherwise than its dials say.
func (w *Wheel) Errors() Errors { return w.errors }

// Length is from the pivot to the stone's middle in mm, as it is now mounted.
func (w *Wheel) Length() float64 { return w.length }

// Up is the side that points out of the dop.
func (w *Wheel) Up() diagram.Part { return w.up }

// Stone is the stone as it stands, in units of the rough's width, about the middle of the rough. FacetNo tells which of its
// faces the lap has made.
func (w *Wheel) Stone() *solid.Solid { return w.stone }

// FacetNo numbers the faces that the lap has made from 0, by the ID that they have on the stone. It is false for those of the
// rough, whose IDs count from 1.
func FacetNo(id int) (no int, ground bool) { return id - firstFacet, id >= firstFacet }

// Planes are those of the faces that were ground, in mm about the middle of the rough.
func (w *Wheel) Planes() []solid.Plane {
	var out []solid.Plane
	for _, f := range w.stone.Faces() {
		if _, ground := FacetNo(f.ID); ground {
			out = append(out, solid.Plane{Normal: f.Plane.Normal, D: f.Plane.D * w.setup.Width})
		}
	}
	return out
}

// Contact is what happened in the last step.
func (w *Wheel) Contact() Contact { return w.contact }

// ByDivisions returns the controls as a hand can set them: the protractor's stop and the mast by whole divisions.
func (c Controls) ByDivisions() Controls {
	c.Angle, c.Height = divisions(c.Angle), divisions(c.Height)
	return c
}

// Set moves the machine to other controls. Whatever is moved lifts the stone, but for the lap's speed and the force.
func (w *Wheel) Set(c Controls) {
	was := w.controls
	w.controls = c
	moved := was
	moved.RPM, moved.Force, moved.Turns, moved.Down = c.RPM, c.Force, c.Turns, c.Down
	switch {
	case !c.Down:
		w.raise()
	case !was.Down || moved != c:
		w.lower()
	}
}

// SetErrors changes what the machine does wrong from now on.
func (w *Wheel) SetErrors(e Errors) {
	w.errors = e
	w.raise()
	w.controls.Down = false
}

// Charge makes the lap that is on sharp again.
func (w *Wheel) Charge() { w.sharp[w.controls.Lap] = 1 }

// Sharpness is how sharp the lap that is on still is, from 0 to 1.
func (w *Wheel) Sharpness() float64 { return w.sharp[w.controls.Lap] }

// TurnOver glues the stone to a second dop by the side that is out now.
func (w *Wheel) TurnOver() {
	if w.up == diagram.Pavilion {
		w.up = diagram.Crown
	} else {
		w.up = diagram.Pavilion
	}
	w.controls.Down, w.controls.Adapter = false, false
	w.mount()
	w.raise()
}

func (w *Wheel) raise() {
	w.at, w.sank = w.stop()+lift, lift
	w.contact, w.off = Contact{}, lowering{}
	w.turned = float64(w.controls.Tooth)
}

// lower draws by how much the quill stands otherwise this time.
func (w *Wheel) lower() {
	w.raise()
	w.off = lowering{
		angle: w.random.NormFloat64() * w.errors.Angle,
		index: w.random.NormFloat64() * w.errors.Index,
		depth: w.random.NormFloat64() * w.errors.Depth,
	}
}

// stop is where the protractor's stop really stands.
func (w *Wheel) stop() float64 { return w.controls.Angle - w.errors.Zero }

// position is what the gear's dial shows, over 0 and up to its teeth. A stone that is turned by hand is ground at half teeth:
// at every place between it would get a face for each moment.
func (w *Wheel) position() float64 {
	if w.controls.Free {
		const half = 2
		return gear.Normal(math.Round(half*w.turned)/half, w.setup.Gear)
	}
	return gear.Normal(float64(w.controls.Tooth)+w.controls.Cheat*float64(w.setup.Gear)/360, w.setup.Gear)
}

// pose is how the stone is really held.
func (w *Wheel) pose() gear.Pose {
	up := r3.Vec{Z: 1}
	if w.up == diagram.Pavilion {
		up.Z = -1
	}
	p := gear.Pose{Up: up, Gear: w.setup.Gear, Rotation: gear.Unmoved}
	if w.errors.Tilt != 0 || w.errors.Twist != 0 {
		p = p.Moved(w.errors.Tilt, w.errors.Towards, w.errors.Twist)
	}
	return p
}

// Pivot is how high the pivot stands above the lap, in mm.
func (w *Wheel) Pivot() float64 { return w.pivot() - w.off.depth }

// pivot is how high the pivot stands above the lap.
func (w *Wheel) pivot() float64 {
	return mast + w.controls.Height - Laps[w.controls.Lap].Thickness + w.off.depth
}

// plane is the lap as the stone sees it while the quill stands at an angle, in mm about the middle of the rough.
func (w *Wheel) plane(angle float64) solid.Plane {
	cos := math.Cos(angle * math.Pi / 180)
	facet, d := angle, w.pivot()-w.length*cos
	if w.controls.Adapter {
		facet = angle - AdapterAngle - w.errors.Adapter
		d = w.pivot() - elbow*cos - w.past*math.Cos(facet*math.Pi/180)
	}
	facet += w.off.angle
	if w.controls.Down {
		facet -= w.errors.Bend * w.controls.Force
	}
	index := w.position() + w.off.index*float64(w.setup.Gear)/360
	return solid.Plane{Normal: w.pose().Facing(facet, index), D: d}
}
