package gear_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/num/quat"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/gear"
)

// facing returns the direction at an angle from up and a turn from 12 o'clock, both in
// degrees, with the pavilion's indexes counted the other way round the stone.
func facing(angle, azimuth float64, up r3.Vec) r3.Vec {
	sinT, cosT := math.Sincos(angle * math.Pi / 180)
	sinA, cosA := math.Sincos(azimuth * math.Pi / 180)
	return r3.Vec{X: sinT * sinA * up.Z, Y: sinT * cosA, Z: cosT * up.Z}
}

// What is dialled with either side up leads back to the facet, whatever the gear and
// the turn; and a stone that has moved is dialled where its facet now is.
func TestADialLeadsBackToItsFacet(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		up := rapid.SampledFrom([]r3.Vec{{Z: 1}, {Z: -1}}).Draw(t, "up")
		p := gear.Pose{
			Up: up, Gear: rapid.SampledFrom([]int{64, 77, 96, 120}).Draw(t, "gear"),
			Turn: rapid.Float64Range(-180, 180).Draw(t, "turn"), Rotation: gear.Unmoved,
		}
		angle := float64(rapid.IntRange(1, 12000).Draw(t, "angle")) / 100
		index := rapid.Float64Range(0.5, float64(p.Gear)).Draw(t, "index")
		n := facing(angle, gear.Azimuth(index, p.Gear)-p.Turn, up)
		s, err := gear.Dial(n, p)
		require.NoError(t, err)
		assert.Equal(t, angle, s.Angle, "as it was written")
		assert.True(t, gear.Same(index, s.Index, p.Gear), "%v is dialled at %v", index, s.Index)
		assert.InDelta(t, s.Index, gear.Normal(float64(s.Tooth)+s.Cheat*float64(p.Gear)/360, p.Gear), 1e-6)

		// Twisted on the dop by a tooth, every facet is dialled a tooth further.
		twist := 2 * math.Pi / float64(p.Gear) / 2
		p.Rotation = quat.Number{Real: math.Cos(twist), Kmag: -up.Z * math.Sin(twist)}
		moved, err := gear.Dial(n, p)
		require.NoError(t, err)
		assert.InDelta(t, s.Angle, moved.Angle, 1e-8)
		assert.True(t, gear.Same(index+1, moved.Index, p.Gear), "%v is dialled at %v", index+1, moved.Index)
	})
}

// A stone that leans and is twisted is dialled where its facets now are, whichever side is up and however it is
// turned on its dop.
func TestAStoneThatLeansIsDialledWhereItsFacetsAre(t *testing.T) {
	for _, up := range []r3.Vec{{Z: 1}, {Z: -1}} {
		for _, turn := range []float64{0, 11.25} {
			at := gear.Pose{Up: up, Gear: 96, Turn: turn, Rotation: gear.Unmoved}
			for _, c := range []struct{ tilt, towards, twist, angle, index, dial, found float64 }{
				{5, 24, 0, 42, 96, 42.2416, 1.4743}, {5, 24, 0, 42, 24, 47, 24}, {5, 24, 0, 42, 48, 42.2416, 46.5257},
				{5, 24, 0, 42, 72, 37, 72}, {5, 24, 0, 90, 24, 95, 24}, {5, 24, 0, 0, 96, 5, 24},
				{2, 60, 1.2, 42, 96, 40.5757, 95.8935},
			} {
				n := facing(c.angle, gear.Azimuth(c.index, 96)-turn, up)
				moved := at.Moved(c.tilt, c.towards, c.twist)
				s, err := gear.Dial(n, moved)
				require.NoError(t, err)
				if s.Angle > 0 {
					assert.InDelta(t, 0, r3.Norm(r3.Sub(n, moved.Facing(s.Angle, s.Index))), 1e-7)
				}
				assert.InDelta(t, c.dial, s.Angle, 5e-5)
				assert.InDelta(t, c.found, s.Index, 5e-5)
			}
		}
	}
}

// Something else than table or culet may point out of the dop: a die, or a stone held
// by its girdle.
func TestAnyDirectionCanPointOutOfTheDop(t *testing.T) {
	lying := gear.Pose{Up: r3.Vec{Y: 1}, Gear: 96, Rotation: gear.Unmoved}
	for name, c := range map[string]struct {
		normal r3.Vec
		angle  float64
		tooth  int
	}{
		"level":             {r3.Vec{Y: 1}, 0, 96},
		"its table":         {r3.Vec{Z: 1}, 90, 96},
		"its culet":         {r3.Vec{Z: -1}, 90, 48},
		"a side":            {r3.Vec{X: 1}, 90, 72},
		"leaning to a side": {r3.Unit(r3.Vec{X: 1, Y: 1}), 45, 72},
	} {
		s, err := gear.Dial(c.normal, lying)
		require.NoError(t, err, name)
		assert.Equal(t, c.angle, s.Angle, name)
		assert.Equal(t, c.tooth, s.Tooth, name)
		assert.Zero(t, s.Cheat, name)
	}
	for _, bad := range []gear.Pose{{}, {Up: r3.Vec{Z: 1}, Rotation: gear.Unmoved}, {Up: r3.Vec{Z: 2}, Gear: 96, Rotation: gear.Unmoved}, {Up: r3.Vec{Z: 1}, Gear: 96}} {
		_, err := gear.Dial(r3.Vec{X: 1}, bad)
		assert.ErrorIs(t, err, gear.ErrPose)
	}
}

// The zero of the protractor is no part of an adapter's angle; readings that differ too much say nothing. A turn about
// the quill tilts a table by as much as two planes really part.
func TestATableAdapter(t *testing.T) {
	angle, err := gear.AdapterAngle([]float64{45.3, 45.1, 45.2}, 0.5)
	require.NoError(t, err)
	assert.InDelta(t, 44.7, angle, 1e-9)
	for _, bad := range [][]float64{nil, {45, 46.5}} {
		_, err := gear.AdapterAngle(bad, 0)
		assert.ErrorIs(t, err, gear.ErrFlush)
	}
	for _, adapter := range []float64{30, 45, 60} {
		turn := gear.AdapterTurn(0.2, adapter)
		table := facing(adapter, 0, r3.Vec{Z: 1})
		turned := r3.NewRotation(turn*math.Pi/180, r3.Vec{Z: 1}).Rotate(table)
		assert.InDelta(t, 0.2, math.Acos(r3.Dot(table, turned))*180/math.Pi, 1e-5)
	}
}

// A stone that was moved, and some of whose facets were then brought flush, is found to sit as it was moved, whichever
// facets they were; one that was misread is found.
func TestAMoveIsFoundFromFacetsBroughtFlush(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		at := gear.Pose{Up: rapid.SampledFrom([]r3.Vec{{Z: 1}, {Z: -1}}).Draw(t, "up"), Gear: 96, Rotation: gear.Unmoved}
		tilt, towards, twist := rapid.Float64Range(0.01, 9).Draw(t, "tilt"), rapid.Float64Range(0.5, 96).Draw(t, "towards"), rapid.Float64Range(-20, 20).Draw(t, "twist")
		moved := at.Moved(tilt, towards, twist)
		var read []gear.Flush
		for _, nominal := range []gear.Dialled{{Angle: 42, Index: 96}, {Angle: 42, Index: 36}, {Angle: 90, Index: 66}, {Angle: 35, Index: 12}} {
			s, err := gear.Dial(at.Facing(nominal.Angle, nominal.Index), moved)
			require.NoError(t, err)
			read = append(read, gear.Flush{Nominal: nominal, Found: gear.Dialled{Angle: s.Angle, Index: s.Index}})
		}
		first := rapid.IntRange(0, 2).Draw(t, "first")
		m, err := at.FindMove(read[first:])
		require.NoError(t, err)
		assert.InDelta(t, tilt, m.Tilt, 1e-6)
		assert.True(t, gear.Same(towards, m.Towards, 96), "%v is found as %v", towards, m.Towards)
		assert.InDelta(t, twist, m.Twist, 1e-6)
		assert.Less(t, slices.Max(m.Residuals), 1e-6)

		wrong := rapid.IntRange(0, 3).Draw(t, "wrong")
		read[wrong].Found.Index += 1
		assert.Equal(t, []int{wrong}, at.Misread(read, 0.2))
	})
	at := gear.Pose{Up: r3.Vec{Z: 1}, Gear: 96, Rotation: gear.Unmoved}
	_, err := at.FindMove(make([]gear.Flush, 1))
	require.ErrorIs(t, err, gear.ErrFewReadings)
	_, err = at.FindMove([]gear.Flush{{gear.Dialled{Angle: 90, Index: 96}, gear.Dialled{Angle: 90, Index: 96}}, {gear.Dialled{Angle: 90, Index: 48}, gear.Dialled{Angle: 90, Index: 48}}})
	require.ErrorIs(t, err, gear.ErrOneLine)
}

// The error of a move grows as two facets come to lie in one line; those that face farthest apart tell most.
func TestFacetsThatFaceApartTellMost(t *testing.T) {
	n := func(angle, index float64) r3.Vec { return facing(angle, gear.Azimuth(index, 96), r3.Vec{Z: 1}) }
	assert.InDelta(t, 1, gear.MoveSpread([]r3.Vec{n(90, 0), n(90, 24)}), 1e-9)
	assert.InDelta(t, 1/math.Sqrt(1-math.Cos(10*math.Pi/180)), gear.MoveSpread([]r3.Vec{n(50, 12), n(60, 12)}), 1e-9)
	assert.True(t, math.IsInf(gear.MoveSpread([]r3.Vec{n(90, 0), n(90, 48)}), 1))
	assert.Equal(t, []int{0, 2}, gear.Telling([]r3.Vec{n(42, 0), n(42, 6), n(42, 24), n(43, 6)}, 2))
}
