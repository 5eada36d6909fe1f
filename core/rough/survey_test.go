package rough_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/diagram"
	"cressa/core/rough"
)

// bench is a machine with a piece on its dop, as nobody knows them.
type bench struct {
	points              []r3.Vec
	length, zero, reads float64
	gear                int
}

func drawnBench(t *rapid.T) bench {
	b := bench{
		length: rapid.Float64Range(60, 140).Draw(t, "L"), zero: rapid.Float64Range(-20, 20).Draw(t, "zero"),
		reads: rapid.SampledFrom([]float64{0, 0.01, 0.05}).Draw(t, "step"), gear: rapid.SampledFrom([]int{64, 96}).Draw(t, "gear"),
	}
	low := math.Inf(1)
	for range rapid.IntRange(8, 30).Draw(t, "points") {
		p := r3.Vec{X: rapid.Float64Range(-9, 9).Draw(t, "x"), Y: rapid.Float64Range(-6, 6).Draw(t, "y"), Z: rapid.Float64Range(0, 10).Draw(t, "z")}
		b.points = append(b.points, p)
		low = math.Min(low, p.Z)
	}
	for i := range b.points {
		b.points[i].Z -= low
	}
	return b
}

func (b bench) supports(u r3.Vec) float64 {
	out := math.Inf(-1)
	for _, p := range b.points {
		out = math.Max(out, r3.Dot(u, p))
	}
	return out
}

func (b bench) facing(angle, index float64) r3.Vec {
	sinT, cosT := math.Sincos(angle * math.Pi / 180)
	sinF, cosF := math.Sincos(2 * math.Pi * index / float64(b.gear))
	return r3.Vec{X: sinT * sinF, Y: sinT * cosF, Z: cosT}
}

// dial is what the height dial shows, to its steps.
func (b bench) dial(angle, distance float64) float64 {
	return b.read(distance + b.length*math.Cos(angle*math.Pi/180) + b.zero)
}

func (b bench) read(v float64) float64 {
	if b.reads == 0 {
		return v
	}
	return math.Round(v/b.reads) * b.reads
}

func (b bench) touch(angle, index float64) rough.Touch {
	return rough.Touch{Angle: angle, Index: index, Height: b.dial(angle, b.supports(b.facing(angle, index)))}
}

// known are two touches of the bare dop's end, 6 mm wide.
func (b bench) survey() rough.Survey {
	s := rough.Survey{Gear: b.gear, Reading: b.reads / 2}
	for _, angle := range []float64{0, 90} {
		d := 3 * math.Sin(angle*math.Pi/180)
		s.Known = append(s.Known, rough.KnownTouch{Angle: angle, Distance: d, Height: b.dial(angle, d)})
	}
	return s
}

// outline is the silhouette at an index, to the steps of a reading.
func (b bench) outline(index float64) rough.Outline {
	to := b.facing(90, index)
	out := rough.Outline{Index: index, Off: b.reads}
	for _, p := range b.points {
		out.Corners = append(out.Corners, r3.Vec{X: b.read(r3.Dot(to, p)), Y: b.read(p.Z)})
	}
	return out
}

// holds checks that what was measured holds the piece, and stands out over it no more than is stated.
func (b bench) holds(t *rapid.T, s rough.Surveyed) {
	require.NotNil(t, s.Body)
	for _, face := range s.Body.Faces {
		for _, p := range b.points {
			require.LessOrEqual(t, face.Plane.Above(p), 1e-8, "%v %v %v %v", face.Plane, p, b.reads, b.gear)
		}
	}
	for i := range 30 {
		u := b.facing(rapid.Float64Range(0, 180).Draw(t, "angle"), float64(i))
		out := math.Inf(-1)
		for _, p := range s.Body.Points() {
			out = math.Max(out, r3.Dot(u, p))
		}
		require.LessOrEqual(t, out-b.supports(u), s.Excess(u)+1e-4)
	}
}

// A piece that is touched where that tells most is bounded soon, each touch leaves less that may stand out,
// and what comes of it holds the piece and is no larger than stated. So do calipers and outlines, and all
// together.
func TestAMeasuredPieceHoldsWhatWasMeasured(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := drawnBench(t)
		s := b.survey()
		got, err := s.Solve()
		require.NoError(t, err)
		require.Len(t, got.Ahead, 12, "a dozen after the first")
		most := math.Inf(1)
		for range 14 {
			s.Touches = append(s.Touches, b.touch(got.Next.Angle, got.Next.Index))
			got, err = s.Solve()
			require.NoError(t, err)
			require.LessOrEqual(t, got.Most, most+1e-4)
			most = got.Most
		}
		b.holds(t, got)
		before := got.Body.Volume()

		// A dial that counts the other way, from anywhere, tells the same.
		other := s
		other.Lowers, other.Known, other.Touches = true, slices.Clone(s.Known), slices.Clone(s.Touches)
		for i := range other.Known {
			other.Known[i].Height = 50 - other.Known[i].Height
		}
		for i := range other.Touches {
			other.Touches[i].Height = 50 - other.Touches[i].Height
		}
		turned, err := other.Solve()
		require.NoError(t, err)
		assert.InDelta(t, before, turned.Body.Volume(), 1e-5*before)

		touched := s.Touches[rapid.IntRange(0, len(s.Touches)-1).Draw(t, "touched")]
		n := b.facing(touched.Angle, touched.Index)
		s.Widths = append(s.Widths, rough.Width{Angle: touched.Angle, Index: touched.Index, Reading: b.read(b.supports(n) + b.supports(r3.Scale(-1, n)))})
		s.Outlines = []rough.Outline{b.outline(0), b.outline(float64(b.gear) / 6)}
		all, err := s.Solve()
		require.NoError(t, err)
		b.holds(t, all)
		assert.Len(t, all.Took, 17)
		taken := 0.0
		for _, v := range all.Took[14:] {
			assert.GreaterOrEqual(t, v, -1e-9)
			taken += v
		}
		assert.InDelta(t, before-all.Body.Volume(), taken, 1e-6)
	})
}

// Calipers alone, across three directions: the piece lies in what they leave, wherever it was held.
func TestCalipersAloneHoldThePiece(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := drawnBench(t)
		s := rough.Survey{Gear: b.gear, Reading: b.reads / 2}
		var n [3]r3.Vec
		var middle [3]float64
		for i, at := range [3][2]float64{{90, 0}, {90, 0.25}, {0, 0}} {
			angle := at[0] + rapid.Float64Range(-20, 20).Draw(t, "lean")
			index := math.Mod(at[1]*float64(b.gear)+float64(b.gear), float64(b.gear))
			angle = math.Abs(angle)
			n[i] = b.facing(angle, index)
			up, down := b.supports(n[i]), b.supports(r3.Scale(-1, n[i]))
			middle[i] = (up - down) / 2
			s.Widths = append(s.Widths, rough.Width{Angle: angle, Index: index, Reading: b.read(up + down)})
		}
		got, err := s.Solve()
		require.NoError(t, err)
		// Moved to the middle along all three (Cramer's rule).
		x, y, z := r3.Cross(n[1], n[2]), r3.Cross(n[2], n[0]), r3.Cross(n[0], n[1])
		shift := r3.Scale(1/r3.Dot(n[0], x), r3.Add(r3.Add(r3.Scale(middle[0], x), r3.Scale(middle[1], y)), r3.Scale(middle[2], z)))
		for i := range b.points {
			b.points[i] = r3.Sub(b.points[i], shift)
		}
		b.holds(t, got)
		s.Widths = append(s.Widths, rough.Width{Angle: 45, Index: 3, Reading: 12})
		_, err = s.Solve()
		var p diagram.Problem
		require.ErrorAs(t, err, &p)
		assert.Equal(t, rough.NotTouched, p.Code, "a fourth direction may lie anywhere")
	})
}

// Outlines alone, of a box of 8 by 6 by 5: two of them are the box.
func TestTwoOutlinesOfABoxAreTheBox(t *testing.T) {
	box := bench{gear: 96}
	for i := range 8 {
		box.points = append(box.points, r3.Vec{X: 8*float64(i&1) - 4, Y: 3*float64(i&2) - 3, Z: 1.25 * float64(i&4)})
	}
	s := rough.Survey{Gear: 96, Outlines: []rough.Outline{box.outline(96), box.outline(24)}}
	got, err := s.Solve()
	require.NoError(t, err)
	require.NotNil(t, got.Body)
	assert.InDelta(t, 8*6*5, got.Body.Volume(), 0.01)
	// What the corners of the box may still lack: a cut from face to face.
	assert.Greater(t, got.Most, 2.0)
}

func TestMistakesInASurvey(t *testing.T) {
	b := bench{points: []r3.Vec{{X: 3}, {X: -3}, {Y: 4}, {Y: -4}, {Z: 5}}, length: 100, gear: 96}
	good := b.survey()
	good.Touches = []rough.Touch{b.touch(90, 96), b.touch(90, 48), b.touch(90, 24), b.touch(90, 72), b.touch(0, 96)}
	got, err := good.Solve()
	require.NoError(t, err)
	assert.InDelta(t, 8*6*5, got.Body.Volume(), 0.01)
	for field, change := range map[string]func(*rough.Survey){
		"known":              func(s *rough.Survey) { s.Known = s.Known[:1] },
		"touches.1.height":   func(s *rough.Survey) { s.Touches[1].Height -= 20 },
		"widths.0.index":     func(s *rough.Survey) { s.Widths = []rough.Width{{Angle: 60, Index: 3, Reading: 5}} },
		"outlines.0.corners": func(s *rough.Survey) { s.Outlines = []rough.Outline{{Corners: []r3.Vec{{X: 1}, {Y: 1}}}} },
		"touches.0.angle":    func(s *rough.Survey) { s.Touches = []rough.Touch{{Angle: 150}} },
		"gear":               func(s *rough.Survey) { s.Gear = 0 },
	} {
		bad := good
		bad.Touches = slices.Clone(good.Touches)
		change(&bad)
		_, err := bad.Solve()
		var p diagram.Problem
		require.ErrorAs(t, err, &p, field)
		assert.Equal(t, diagram.Field(field), p.Field)
	}
}
