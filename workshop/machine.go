package workshop

import (
	"cmp"
	"math"
	"slices"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

// Machine is a faceting machine as its owner knows it. Everything that is planned
// and dialled respects it.
type Machine struct {
	// ID stays with the machine when it is renamed; plans name it.
	ID   string `validate:"required,max=40"`
	Name string `validate:"required,max=60"`
	// Gears lists the teeth of the index gears at hand.
	Gears []int `validate:"max=40,dive,min=1,max=360"`
	// Setting is how an angle is set. Where the stone is held by hand on a peg that stands in a
	// hole of a jamb, Pegs are the lengths of the pegs and Holes the heights of the holes above
	// the lap, in mm; a hole is called by its place.
	Setting AngleSetting `validate:"oneof=protractor holes"`
	Pegs    []float64    `validate:"max=6,dive,min=10,max=1000"`
	Holes   []float64    `validate:"max=80,dive,min=0,max=1000"`
	// AngleStep is the finest step that the protractor reads, AngleLow and
	// AngleHigh how far it goes, in degrees.
	AngleStep float64 `validate:"min=0.001,max=5"`
	AngleLow  float64 `validate:"min=-30,max=90"`
	AngleHigh float64 `validate:"min=30,max=180,gtfield=AngleLow"`
	// AngleZero is what the protractor reads too much: a facet at 42 is set at
	// 42 + AngleZero.
	AngleZero float64 `validate:"min=-5,max=5"`
	// Repeatability is by how much an angle differs when it is set again, in
	// degrees (one standard deviation).
	Repeatability float64 `validate:"min=0,max=2"`
	// Cheater is how the machine turns a facet between teeth.
	Cheater Cheater `validate:"oneof=none degrees turns"`
	// CheatPerTurn is how many degrees one turn of the cheater's knob is worth,
	// where it counts turns.
	CheatPerTurn float64 `validate:"min=0,max=30"`
	// HeightStep is one division of the height dial in mm, 0 without a dial.
	HeightStep float64 `validate:"min=0,max=1"`
	// HeightSense is what a rising reading does to the stone.
	HeightSense HeightSense `validate:"oneof=lifts lowers"`
	// TableAdapter is the angle in degrees to which the protractor is set when the
	// table goes on with the adapter, 0 without one.
	TableAdapter float64 `validate:"min=0,max=90"`
	// QuillMM is how wide the quill is at its nose, ReachMM how far the nose lies behind a dop's rim, in mm;
	// 0 where nobody has measured.
	QuillMM float64 `validate:"min=0,max=200"`
	ReachMM float64 `validate:"min=0,max=300"`
}

// AngleSetting is how an angle is set.
type AngleSetting string

// The settings.
const (
	OnProtractor AngleSetting = "protractor"
	InHoles      AngleSetting = "holes"
)

// Cheater is how a machine turns a facet between teeth.
type Cheater string

// The cheaters.
const (
	CheaterNone    Cheater = "none"
	CheaterDegrees Cheater = "degrees"
	CheaterTurns   Cheater = "turns"
)

// HeightSense is what a rising reading of the height dial does to the stone.
type HeightSense string

// The senses.
const (
	HeightLifts  HeightSense = "lifts"
	HeightLowers HeightSense = "lowers"
)

// UsualRepeatability is by how many degrees an angle comes out differently on most machines: laps
// flutter by 0.1 to 0.2, and a finger bends the quill by as much.
const UsualRepeatability = 0.1

// DefaultMachine is what a new workshop starts with.
func DefaultMachine() Machine {
	return Machine{
		ID: "machine", Name: "My machine", Gears: []int{96}, Setting: OnProtractor, Pegs: []float64{}, Holes: []float64{}, AngleStep: 0.1, AngleHigh: 95,
		Repeatability: UsualRepeatability, Cheater: CheaterDegrees, CheatPerTurn: 1, HeightStep: 0.01,
		HeightSense: HeightLifts, TableAdapter: 45,
	}
}

// SettableAngles returns the neighbours that the protractor can read of a facet's
// angle, equal where it can be set as it is. They are angles of the facet: what the
// protractor shows is AngleZero more.
func (m Machine) SettableAngles(angle float64) (below, above float64) {
	if m.WithAdapter(angle) {
		// Its angle is found by trial, whatever the steps are.
		return angle, angle
	}
	if m.Setting == InHoles {
		return m.byHoles(angle)
	}
	steps := (angle + m.AngleZero) / m.AngleStep
	// A hundred-thousandth of a step is the arithmetic's, not the diagram's.
	const slack = 1e-5
	low := math.Floor(steps + slack)
	high := low
	if steps-low > slack {
		high++
	}
	if low == high {
		return angle, angle
	}
	facet := func(step float64) float64 { return math.Round((step*m.AngleStep-m.AngleZero)*1e6) / 1e6 }
	return facet(low), facet(high)
}

// Hole is a hole of the jamb with the peg that stands in it.
type Hole struct {
	// No counts the holes from 1. Height and Peg, the peg's length, are in mm.
	No          int
	Height, Peg float64
	// Angle is what they set, in degrees: height = peg · cos angle.
	Angle float64
}

// byEye tells of upright and level facets: they are set on a peg by the eye or with a square, not by a
// hole.
func byEye(angle float64) bool { return angle == 0 || angle == 90 }

// sameHole is how many degrees off an angle is still that of a hole: the diagram writes it rounded.
const sameHole = 0.005

// HolesSorted lists what the pegs set in the holes, by their angles.
func (m Machine) HolesSorted() []Hole {
	var out []Hole
	for i, height := range m.Holes {
		for _, peg := range m.Pegs {
			if height < peg {
				angle := math.Acos(height/peg) * 180 / math.Pi
				out = append(out, Hole{No: i + 1, Height: height, Peg: peg, Angle: math.Round(angle*100) / 100})
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Hole) int { return cmp.Compare(a.Angle, b.Angle) })
	return out
}

// HoleFor returns the hole and peg that set an angle, in degrees, or come nearest to it. It is false
// on a machine with a protractor, and for level and upright facets.
func (m Machine) HoleFor(angle float64) (Hole, bool) {
	holes := m.HolesSorted()
	if m.Setting != InHoles || byEye(angle) || len(holes) == 0 {
		return Hole{}, false
	}
	return slices.MinFunc(holes, func(a, b Hole) int {
		return cmp.Compare(math.Abs(a.Angle-angle), math.Abs(b.Angle-angle))
	}), true
}

// byHoles returns the neighbours of an angle among what the holes set: the outermost one twice
// where it lies beyond all.
func (m Machine) byHoles(angle float64) (below, above float64) {
	nearest, ok := m.HoleFor(angle)
	if !ok || math.Abs(nearest.Angle-angle) <= sameHole {
		return angle, angle
	}
	below, above = math.Inf(-1), math.Inf(1)
	for _, h := range m.HolesSorted() {
		if h.Angle < angle {
			below = h.Angle
		} else {
			above = math.Min(above, h.Angle)
		}
	}
	if math.IsInf(below, 0) {
		below = above
	}
	if math.IsInf(above, 0) {
		above = below
	}
	return below, above
}

// WithAdapter tells whether a facet at the angle goes on with the table adapter.
func (m Machine) WithAdapter(angle float64) bool { return angle == 0 && m.TableAdapter > 0 }

// Reading returns what the protractor shows for a facet's angle: for one that goes
// on with the table adapter, the adapter's.
func (m Machine) Reading(angle float64) float64 {
	if m.WithAdapter(angle) {
		angle = m.TableAdapter
	}
	return math.Round((angle+m.AngleZero)*1e6) / 1e6
}

// Division is what one division of the height dial does to a facet.
type Division struct {
	// Deeper is how much further the facet's plane moves into the stone, in mm.
	Deeper float64
	// Girdle is how much that takes off the girdle, in mm; 0 where the facet does not
	// run down to it at a slope.
	Girdle float64
	// Rising tells that the reading rises as the facet is cut deeper.
	Rising bool
}

// Division returns what one division of the height dial does to a facet at the angle
// in degrees, false where there is no dial. The dial moves the facet along its normal:
// x on the dial takes x/cos t off the girdle of a facet at t.
func (m Machine) Division(angle float64) (Division, bool) {
	if m.HeightStep == 0 {
		return Division{}, false
	}
	out := Division{Deeper: m.HeightStep, Rising: m.HeightSense == HeightLowers}
	if angle > 0 && angle < 90 {
		out.Girdle = m.HeightStep / math.Cos(angle*math.Pi/180)
	}
	return out, true
}

// WithStep returns the machine with a protractor of another step. Holes stay where they are.
func (m Machine) WithStep(step float64) Machine {
	m.AngleStep = step
	return m
}

// Repeats tells by how much the machine repeats an angle and an index, in degrees, and a
// depth in mm. An index is held by the same quill as an angle. Of a height dial a hand
// reads half a division; without one an eye tells a hundredth of a millimetre.
func (m Machine) Repeats() (angle, index, depth float64) {
	const byEye = 0.01
	depth = byEye
	if m.HeightStep > 0 {
		depth = m.HeightStep / 2
	}
	return m.Repeatability, m.Repeatability, depth
}

// Reaches tells whether the protractor, or a hole, goes so far.
func (m Machine) Reaches(angle float64) bool {
	if m.Setting == InHoles {
		holes := m.HolesSorted()
		return byEye(angle) || len(holes) > 0 && angle >= holes[0].Angle-sameHole && angle <= holes[len(holes)-1].Angle+sameHole
	}
	reading := m.Reading(angle)
	return reading >= m.AngleLow && reading <= m.AngleHigh
}

// CheatTurns returns the turns of the cheater's knob that are worth so many
// degrees, and false where the cheater does not count in turns.
func (m Machine) CheatTurns(degrees float64) (float64, bool) {
	if m.Cheater != CheaterTurns || m.CheatPerTurn == 0 {
		return 0, false
	}
	return degrees / m.CheatPerTurn, true
}

// What keeps a machine from cutting a diagram as it is.
const (
	// AngleBetweenSteps: Value lies between the settable angles Low and High.
	AngleBetweenSteps diagram.Code = "angle-between-steps"
	// AngleOutOfReach: the protractor goes from Low to High.
	AngleOutOfReach diagram.Code = "angle-out-of-reach"
	// NoHoles: an angle is set by holes, and no peg stands in any of them.
	NoHoles diagram.Code = "no-holes"
	// NoGearCarries: without a cheater no gear at hand makes the stone; the best
	// leaves a cheat of Value degrees.
	NoGearCarries diagram.Code = "no-gear-carries"
)

// Obstacles returns what keeps the machine from cutting a stone as it is drawn,
// nothing where it can.
func (m Machine) Obstacles(s *cutting.Stone) []diagram.Problem {
	var out []diagram.Problem
	for i, t := range s.Diagram.Tiers {
		at := diagram.Problem{Tier: t.Name, TierNo: i, Field: diagram.FieldAngle, Value: t.Angle}
		// What is nearer to a step than the machine repeats is as good as set.
		below, above := m.SettableAngles(t.Angle)
		if off := math.Min(t.Angle-below, above-t.Angle); off > m.Repeatability {
			at.Code, at.Low, at.High = AngleBetweenSteps, below, above
			out = append(out, at)
		}
		if !m.Reaches(t.Angle) {
			at.Code, at.Low, at.High = AngleOutOfReach, m.AngleLow, m.AngleHigh
			if holes := m.HolesSorted(); m.Setting == InHoles && len(holes) > 0 {
				at.Low, at.High = holes[0].Angle, holes[len(holes)-1].Angle
			}
			out = append(out, at)
		}
	}
	if m.Cheater == CheaterNone {
		if ranked := s.RankGears(m.Gears); len(ranked) == 0 || ranked[0].LargestCheat > 0 {
			p := diagram.Problem{Code: NoGearCarries, TierNo: -1, Field: diagram.FieldGear}
			if len(ranked) > 0 {
				p.Value = ranked[0].LargestCheat
			}
			out = append(out, p)
		}
	}
	return out
}
