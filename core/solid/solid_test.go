package solid_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/solid"
)

func plane(x, y, z, d float64) solid.Plane {
	return solid.Plane{Normal: r3.Unit(r3.Vec{X: x, Y: y, Z: z}), D: d}
}

func closed(t require.TestingT, s *solid.Solid) {
	v, e, f := s.Counts()
	require.Equal(t, 2, v-e+f, "V − E + F")
	edges := map[[2]int]int{}
	for _, face := range s.Faces() {
		for i, a := range face.Loop {
			edges[[2]int{a, face.Loop[(i+1)%len(face.Loop)]}]++
		}
	}
	for e, n := range edges {
		require.Equal(t, 1, n, "edge %v runs once", e)
		require.Equal(t, 1, edges[[2]int{e[1], e[0]}], "edge %v has its twin", e)
	}
}

func TestACubeIsMeasured(t *testing.T) {
	s := solid.Block(1.5)
	closed(t, s)
	assert.InDelta(t, 27, s.Volume(), 1e-12)
	assert.Equal(t, r3.Vec{X: 3, Y: 3, Z: 3}, s.Bounds().Size())
	for _, f := range s.Faces() {
		assert.InDelta(t, 9, s.Area(f), 1e-12)
		assert.True(t, f.OfBlock())
	}
	x, y := s.Extents(0.3)
	assert.Equal(t, [2]float64{3, 3}, [2]float64{x, y})
	x, y = s.Extents(2)
	assert.Equal(t, [2]float64{0, 0}, [2]float64{x, y}, "above the stone")
}

func TestWhatACutDoes(t *testing.T) {
	block := solid.Block(1)
	for _, c := range []struct {
		name    string
		plane   solid.Plane
		outcome solid.Outcome
	}{
		{"passes by", plane(0, 0, 1, 2), solid.Touched},
		{"lies on a face", plane(0, 0, 1, 1), solid.Touched},
		{"lies on a face but for rounding", plane(0, 0, 1, 1-5e-10), solid.Touched},
		{"touches an edge", plane(1, 0, 1, math.Sqrt2), solid.Touched},
		{"touches a corner", plane(1, 1, 1, math.Sqrt(3)), solid.Touched},
		{"takes less off a corner than counts", plane(1, 1, 1, math.Sqrt(3)-2e-9), solid.Touched},
		{"takes a corner off", plane(1, 1, 1, math.Sqrt(3)-0.1), solid.Made},
		{"runs through four corners", plane(1, 0, 1, 0), solid.Made},
		{"takes all", plane(0, 0, 1, -1), solid.TookAll},
	} {
		t.Run(c.name, func(t *testing.T) {
			after, outcome := block.Cut(7, c.plane)
			assert.Equal(t, c.outcome, outcome)
			closed(t, after)
			if outcome != solid.Made {
				assert.Same(t, block, after, "a cut that makes nothing changes nothing")
				return
			}
			require.NotNil(t, after.Face(7))
			assert.Less(t, after.Volume(), block.Volume())
			assert.Nil(t, block.Face(7), "the solid before stays as it was")
			assert.InDelta(t, 8, block.Volume(), 1e-12)
		})
	}
}

// A half cube, whose cut runs through corners that are there already, gains none.
func TestACutThroughCornersWeldsToThem(t *testing.T) {
	half, _ := solid.Block(1).Cut(0, plane(1, 0, 1, 0))
	v, _, f := half.Counts()
	assert.Equal(t, 6, v)
	assert.Equal(t, 5, f)
	assert.InDelta(t, 4, half.Volume(), 1e-12)
	again, outcome := half.Cut(1, plane(1, 0, 1, 3e-9))
	assert.Equal(t, solid.Touched, outcome, "the same plane again, but for rounding")
	assert.Same(t, half, again)
}

func TestTheAxisAndTheTableOfARoof(t *testing.T) {
	// A roof over a square: x runs to ±1 at z = 0 and to 0 at z = 1; y stays ±1.
	s := solid.Block(1)
	s, _ = s.Cut(0, solid.Through(r3.Unit(r3.Vec{X: 1, Z: 1}), r3.Vec{X: 1}))
	s, _ = s.Cut(1, solid.Through(r3.Unit(r3.Vec{X: -1, Z: 1}), r3.Vec{X: -1}))
	low, high, through := s.AxisSpan()
	assert.True(t, through)
	assert.InDelta(t, -1, low, 1e-12)
	assert.InDelta(t, 1, high, 1e-12)

	z, ok := s.HeightOfWidth(0.5)
	assert.True(t, ok)
	assert.InDelta(t, 0.75, z, 1e-12, "x is 0.5 wide a quarter below the ridge")
	_, ok = s.HeightOfWidth(2.5)
	assert.False(t, ok, "nowhere that wide")
	_, ok = solid.Block(1).HeightOfWidth(1)
	assert.False(t, ok, "the top is wider already")

	off, _ := s.Cut(2, plane(1, 0, 0, -0.5))
	_, _, through = off.AxisSpan()
	assert.False(t, through)
}

// Whatever planes cut it, coincident and nearly coincident ones too, the solid
// stays closed, only ever loses volume, and lies inside every plane that made a face.
func TestAnyCutsLeaveAClosedSolid(t *testing.T) {
	part := rapid.Map(rapid.IntRange(-4, 4), func(i int) float64 { return float64(i) / 4 })
	rapid.Check(t, func(t *rapid.T) {
		s := solid.Block(1)
		for i := range rapid.IntRange(1, 25).Draw(t, "cuts") {
			n := r3.Vec{X: part.Draw(t, "x"), Y: part.Draw(t, "y"), Z: part.Draw(t, "z")}
			if r3.Norm(n) == 0 {
				continue
			}
			d := rapid.Float64Range(0.2, 1.2).Draw(t, "d")
			if rapid.Bool().Draw(t, "through a corner") {
				corners := s.Vertices()
				d = r3.Dot(r3.Unit(n), s.Point(corners[rapid.IntRange(0, len(corners)-1).Draw(t, "corner")]))
			}
			p := solid.Plane{Normal: r3.Unit(n), D: d}
			after, outcome := s.Cut(i, p)
			closed(t, after)
			require.LessOrEqual(t, after.Volume(), s.Volume()+1e-12)
			if outcome == solid.Made {
				for _, v := range after.Vertices() {
					require.LessOrEqual(t, p.Above(after.Point(v)), 2*solid.Weld)
				}
			}
			s = after
		}
	})
}

// Cuts that all but lie in a face, or pass corners and edges at less than what welds:
// slivers are closed up, and never is the solid torn. A cut that cannot be made leaves
// it as it was.
func TestSliversAreClosedUp(t *testing.T) {
	tiny := rapid.SampledFrom([]float64{0, 1e-12, 1e-10, 3e-10, 1e-9, 3e-9, 1e-8, 1e-7, 1e-6, 1e-5})
	rapid.Check(t, func(t *rapid.T) {
		s := solid.Block(1)
		off := func(what string) float64 {
			v := tiny.Draw(t, what)
			if rapid.Bool().Draw(t, what+" to the other side") {
				return -v
			}
			return v
		}
		for i := range rapid.IntRange(2, 30).Draw(t, "cuts") {
			corners := s.Vertices()
			corner := func() r3.Vec {
				return s.Point(corners[rapid.IntRange(0, len(corners)-1).Draw(t, "corner")])
			}
			a, b, c := corner(), corner(), corner()
			n := r3.Cross(r3.Sub(b, a), r3.Sub(c, a))
			if r3.Norm(n) < 1e-3 {
				// Three corners in a line: along a face instead.
				n = s.Faces()[rapid.IntRange(0, len(s.Faces())-1).Draw(t, "face")].Plane.Normal
			}
			n = r3.Unit(r3.Add(r3.Unit(n), r3.Vec{X: off("x"), Y: off("y"), Z: off("z")}))
			if r3.Dot(n, a) < 0 {
				n = r3.Scale(-1, n)
			}
			p := solid.Plane{Normal: n, D: r3.Dot(n, a) + off("d")}
			after, outcome := s.Cut(i, p)
			if outcome != solid.Made {
				require.Same(t, s, after)
				continue
			}
			if after.Volume() < 0.05 {
				continue
			}
			closed(t, after)
			// A cut made a little beside is recorded where it was made, so that every
			// corner of a face lies in its plane, but for what welding moves it.
			for _, f := range after.Faces() {
				for _, v := range f.Loop {
					require.InDelta(t, 0, f.Plane.Above(after.Point(v)), 20*solid.AtMeet)
				}
			}
			// A corner that welds moves by so much, and its faces with it.
			require.LessOrEqual(t, after.Volume(), s.Volume()+10*solid.AtMeet)
			for _, v := range after.Vertices() {
				require.LessOrEqual(t, p.Above(after.Point(v)), 20*solid.AtMeet)
			}
			s = after
		}
	})
}
