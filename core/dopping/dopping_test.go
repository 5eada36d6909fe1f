package dopping_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/dopping"
	"cressa/core/material"
	"cressa/core/solid"
)

var top = r3.Vec{Z: 1}

// cut makes a solid of planes, by angles and azimuths in degrees and distances.
func cut(planes ...[3]float64) *solid.Solid {
	s := solid.Block(50)
	for i, p := range planes {
		s, _ = s.Cut(i, solid.Plane{Normal: facing(p[0], p[1]), D: p[2]})
	}
	return s
}

func facing(angle, azimuth float64) r3.Vec {
	sinT, cosT := math.Sincos(angle * math.Pi / 180)
	sinF, cosF := math.Sincos(azimuth * math.Pi / 180)
	return r3.Vec{X: sinT * sinF, Y: sinT * cosF, Z: cosT}
}

// stone has so many sides at radius 4, a table at 1.5 and a pavilion of an angle that starts at the
// height 0, all about the axis.
func stone(sides int, angle float64) *solid.Solid {
	planes := [][3]float64{{0, 0, 1.5}}
	for i := range sides {
		azimuth := 360 * float64(i) / float64(sides)
		planes = append(planes, [3]float64{90, azimuth, 4}, [3]float64{180 - angle, azimuth, 4 * math.Sin(angle*math.Pi/180)})
	}
	return cut(planes...)
}

func TestClearance(t *testing.T) {
	assert.InDelta(t, -0.11, dopping.Clearance(92, 4, 3, 2, 30), 0.006)
	// The slow way: the point of the cylinder's two rims that comes nearest to the lap.
	rapid.Check(t, func(t *rapid.T) {
		draw := func(low, high float64, name string) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		angle, d, r, near, length := draw(0, 110, "angle"), draw(-1, 6, "d"), draw(0.5, 8, "r"), draw(-3, 6, "near"), draw(0, 40, "length")
		n := facing(angle, 0)
		least := math.Inf(1)
		for _, z := range []float64{-near, -near - length} {
			for i := range 720 {
				sin, cos := math.Sincos(math.Pi * float64(i) / 360)
				least = math.Min(least, d-r3.Dot(n, r3.Vec{X: r * sin, Y: r * cos, Z: z}))
			}
		}
		assert.InDelta(t, least, dopping.Clearance(angle, d, r, near, length), 1e-3)
	})
}

// What the dop touches, against figures by hand.
func TestContact(t *testing.T) {
	table := dopping.Hold(stone(16, 42), 1, r3.Vec{Z: -1})
	seat, ok := table.Seat(dopping.Dop{Shape: dopping.Flat, Diameter: 5}, 0)
	require.True(t, ok)
	assert.InDelta(t, math.Pi*2.5*2.5, seat.Contact(0), 0.1, "the whole face of the dop lies on the table")
	assert.InDelta(t, 1.5, seat.Near, 1e-9)

	// A pavilion of 64 sides at 45° fills a cone of 45°: the cone's own surface.
	fills := dopping.Hold(stone(64, 45), 1, top)
	seat, ok = fills.Seat(dopping.Dop{Shape: dopping.Cone, Diameter: 4}, 0)
	require.True(t, ok)
	assert.InDelta(t, math.Pi*4*math.Sqrt2, seat.Contact(0.02), 0.2)
	assert.InDelta(t, 2, seat.Near, 0.02, "the rim stands where the pavilion is 2 mm wide")

	// A pavilion of three sides touches it along three lines: nothing that a thin film holds.
	three := dopping.Hold(stone(3, 45), 1, top)
	seat, ok = three.Seat(dopping.Dop{Shape: dopping.Cone, Diameter: 4}, 0)
	require.True(t, ok)
	assert.Less(t, seat.Contact(0.05), 4.0)
	assert.Greater(t, seat.Contact(2), 4*seat.Contact(0.05), "wax bridges what is left")

	// Two sides that meet in a keel fill a groove along it.
	keel := dopping.Hold(cut([3]float64{0, 0, 1}, [3]float64{90, 0, 5}, [3]float64{90, 180, 5}, [3]float64{135, 90, 2.8}, [3]float64{135, 270, 2.8}), 1, top)
	assert.Equal(t, dopping.Keel, keel.Foot().Underside)
	assert.InDelta(t, 10, keel.Foot().Size, 1e-9)
	along, ok := keel.Seat(dopping.Dop{Shape: dopping.Vee, Diameter: 5}, keel.Foot().Along)
	require.True(t, ok)
	across, ok := keel.Seat(dopping.Dop{Shape: dopping.Vee, Diameter: 5}, keel.Foot().Along+90)
	require.True(t, ok)
	assert.InDelta(t, math.Pi*2.5*2.5*math.Sqrt2, along.Contact(0.01), 0.2)
	assert.Less(t, across.Contact(0.01), 3.0)

	_, ok = dopping.Hold(cut([3]float64{90, 90, -20}), 1, top).Seat(dopping.Dop{Shape: dopping.Flat, Diameter: 5}, 0)
	assert.False(t, ok, "nothing stands over the dop")
}

func TestFoot(t *testing.T) {
	round := dopping.Hold(stone(16, 42), 1, top).Foot()
	assert.Equal(t, dopping.Tip, round.Underside)
	assert.False(t, round.ThreeCornered())
	three := dopping.Hold(cut([3]float64{0, 0, 1}, [3]float64{90, 0, 5}, [3]float64{90, 120, 5}, [3]float64{90, 240, 5}, [3]float64{138, 0, 3}, [3]float64{138, 120, 3}, [3]float64{138, 240, 3}), 1, top)
	assert.True(t, three.Foot().ThreeCornered())
	table := dopping.Hold(stone(16, 42), 2, r3.Vec{Z: -1}).Foot()
	assert.Equal(t, dopping.Level, table.Underside)
	assert.InDelta(t, 16, table.Size, 0.2)
}

// Whatever is tried: a wider dop holds no less and leaves less room, and the first of the ranking has no
// grave fault where any has none.
func TestAWiderDopHoldsMoreAndLeavesLessRoom(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		held := dopping.Hold(stone(rapid.IntRange(3, 20).Draw(t, "sides"), rapid.Float64Range(30, 60).Draw(t, "angle")), 1, r3.Vec{Z: -1})
		cuts := []dopping.Cut{dopping.CutOf(0, facing(90, 0), 4), dopping.CutOf(1, facing(rapid.Float64Range(30, 60).Draw(t, "cut"), 10), 3)}
		narrow := rapid.Float64Range(1, 9).Draw(t, "narrow")
		machine := dopping.Machine{Quill: 20, Reach: 12}
		small := held.Try(dopping.Dop{Shape: dopping.Flat, Diameter: narrow}, cuts, machine)
		large := held.Try(dopping.Dop{Shape: dopping.Flat, Diameter: narrow + 1}, cuts, machine)
		// Where the dop is wider than the table, both hold all of it, as far as samples tell.
		assert.Greater(t, 1.02*large.Seat.Contact(0.1), small.Seat.Contact(0.1))
		assert.LessOrEqual(t, large.Least(), small.Least()+1e-9)
		assert.LessOrEqual(t, large.Rim, small.Rim)
		assert.Equal(t, -large.Compare(small), small.Compare(large))
		if small.Sound() && !large.Sound() {
			assert.Negative(t, small.Compare(large))
		}
		assert.True(t, small.Sound() || small.Least() < 0)
		upright := large.Rooms[0]
		assert.InDelta(t, 4-10, upright.Quill, 1e-9, "at 90 the quill lies along the lap")
		assert.Contains(t, large.Faults, dopping.OverRim)
	})
}

func TestATurnedPreformHoldsTheStone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		angle := rapid.Float64Range(25, 65).Draw(t, "angle")
		held := dopping.Hold(stone(rapid.IntRange(3, 24).Draw(t, "sides"), angle), rapid.Float64Range(0.5, 3).Draw(t, "mm"), r3.Vec{Z: -1})
		a := dopping.Allowance{Side: 0.3, Foot: 0.2, Under: 1}
		p, ok := held.Turn(angle, a)
		require.True(t, ok)
		tan := math.Tan(p.Angle * math.Pi / 180)
		for _, q := range held.Points() {
			rho := math.Hypot(q.X, q.Y)
			assert.LessOrEqual(t, rho+0.3, p.Diameter/2+1e-9)
			assert.GreaterOrEqual(t, q.Z-p.Foot, 0.2-1e-9)
			// The cone's height at that radius.
			assert.LessOrEqual(t, q.Z, p.Foot+p.Height-tan*rho+1e-9)
		}
	})
	_, ok := dopping.Hold(stone(8, 42), 1, r3.Vec{Z: -1}).Turn(0.5, dopping.UsualAllowance())
	assert.False(t, ok)
}

// A corner sawn off a cube of 10 at 45°, 6 from the middle: the wedge is a prism.
func TestSaw(t *testing.T) {
	var corners []r3.Vec
	for i := range 8 {
		corners = append(corners, r3.Vec{X: 10*float64(i&1) - 5, Y: 5*float64(i&2) - 5, Z: 2.5*float64(i&4) - 5})
	}
	wedges := dopping.Saw(corners, []dopping.Cut{dopping.CutOf(7, facing(45, 90), 4), dopping.CutOf(8, facing(45, 90), 4.1)}, 0.5, 0.3)
	require.Len(t, wedges, 1, "the second falls inside the blade's cut")
	edge := 5*math.Sqrt2 - 4.3
	assert.Equal(t, 7, wedges[0].Facet)
	assert.InDelta(t, edge, wedges[0].Depth, 1e-9)
	assert.InDelta(t, 10*(edge-0.5)*(edge-0.5), wedges[0].Saved, 1e-6)
	assert.InDelta(t, 10*(edge*edge-(edge-0.5)*(edge-0.5)), wedges[0].Lost, 1e-6)
}

func TestInPiece(t *testing.T) {
	// A quarter turn about z, then moved: the corner that the stone has at (1, 0, 0).
	turn := r3.NewMat([]float64{0, -1, 0, 1, 0, 0, 0, 0, 1})
	got := dopping.InPiece([]r3.Vec{{X: 3, Y: 5, Z: 2}}, turn, r3.Vec{X: 3, Y: 4, Z: 2}, top)
	assert.InDelta(t, 0, r3.Norm(r3.Sub(got[0], r3.Vec{X: 1})), 1e-12)
}

func TestRoll(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(3, 12).Draw(t, "readings")
		high, out := rapid.Float64Range(0, 179).Draw(t, "high"), rapid.Float64Range(0.02, 0.5).Draw(t, "out")
		readings := make([]float64, n)
		for i := range readings {
			readings[i] = 8 + out/2*math.Cos(2*math.Pi/180*(180*float64(i)/float64(n)-high))
		}
		r, ok := dopping.Roll(readings, 7.9)
		require.True(t, ok)
		off := math.Mod(r.High-high+270, 180) - 90
		assert.InDelta(t, 0, off, 1e-6)
		assert.InDelta(t, 8, r.Mean, 1e-9)
		assert.InDelta(t, r.Most-7.9, r.Grind, 1e-9)
		assert.LessOrEqual(t, r.Out, out+1e-9)
	})
	_, ok := dopping.Roll([]float64{8}, 8)
	assert.False(t, ok)
}

func TestGlue(t *testing.T) {
	// 5 N at 6 mm on a bond of 4 mm across: 5/12.57 + 120/25.13.
	assert.InDelta(t, 0.3979+4.7746, dopping.Stress(5, 6, math.Pi*4), 1e-3)
	materials := map[string]material.Material{}
	for _, m := range material.All() {
		materials[m.Name] = m
	}
	seat, ok := dopping.Hold(stone(16, 42), 1, r3.Vec{Z: -1}).Seat(dopping.Dop{Shape: dopping.Flat, Diameter: 5}, 0)
	require.True(t, ok)
	best := func(name string) dopping.Bond {
		var bonds []dopping.Bond
		for _, a := range dopping.Adhesives() {
			bonds = append(bonds, seat.Glue(a, materials[name], 4))
		}
		dopping.RankBonds(bonds)
		return bonds[0]
	}
	wax, _ := dopping.AdhesiveOf(dopping.Wax)
	assert.Contains(t, seat.Glue(wax, materials["Kunzite"], 4).Concerns, dopping.HotToGlue)
	assert.Zero(t, best("Kunzite").Adhesive.Warm, "nothing warm for what does not bear it")
	assert.True(t, best("Quartz").Sound())
	assert.Contains(t, seat.Glue(wax, materials["Sapphire"], 4).Concerns, dopping.RunsHot)
	tiny, _ := dopping.Hold(stone(3, 45), 1, top).Seat(dopping.Dop{Shape: dopping.Cone, Diameter: 3}, 0)
	cyano, _ := dopping.AdhesiveOf(dopping.Cyano)
	assert.Contains(t, tiny.Glue(cyano, materials["Quartz"], 6).Concerns, dopping.TooWeak)
}
