package light_test

import (
	"context"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/light"
)

func pictured(t testing.TB, s *light.Stone, e light.Experiment, in light.Inside) (*light.Picture, light.Figures, []light.Shown) {
	t.Helper()
	p, f, shown, err := s.PictureWith(context.Background(), e, light.Uniform, in)
	require.NoError(t, err)
	assert.InDelta(t, 1, f.Glare+f.Up+f.Leak+f.Frosted+f.Absorbed+f.Residual, 1e-9, "no light is lost")
	return p, f, shown
}

// The slow tracer walks every segment in small steps and asks at each of them where it is.
func TestInsideAgainstThePlainTracer(t *testing.T) {
	cut := load(t, "skew")
	e := light.Experiment{RefractiveIndex: 1.65, Grid: 40, Tilt: 0.01, To: 33, HeadAngle: light.HeadAngle, Width: 9}
	alike := func(a float64) [3]float64 { return [3]float64{a, a, a} }
	axis := r3.Unit(r3.Vec{X: 1, Y: 2, Z: 2})
	slab := light.Slab{Normal: r3.Unit(r3.Vec{X: 0.2, Z: 1}), From: -0.2, To: 0.05, Absorption: alike(0.3)}
	ball := light.Flaw{At: r3.Vec{X: 0.2, Y: 0.1, Z: -0.1}, Radius: 0.12}
	disc := light.Flaw{At: r3.Vec{X: -0.3, Z: -0.1}, Radius: 0.15, Normal: r3.Vec{X: 1}}
	along, across := 0.05, 0.12
	slow := plainOf(cut)
	slow.through = func(from, dir r3.Vec, length float64) float64 {
		const steps = 1500
		step, dark := length/steps, 0.0
		cos := r3.Dot(dir, axis)
		for i := range steps {
			p := r3.Add(from, r3.Scale((float64(i)+0.5)*step, dir))
			before, after := r3.Sub(r3.Sub(p, r3.Scale(step/2, dir)), disc.At), r3.Sub(r3.Add(p, r3.Scale(step/2, dir)), disc.At)
			if r3.Norm(r3.Sub(p, ball.At)) < ball.Radius || before.X*after.X < 0 && r3.Norm(before) < disc.Radius {
				return 0
			}
			alpha := along*cos*cos + across*(1-cos*cos)
			if at := r3.Dot(p, slab.Normal); at > slab.From && at < slab.To {
				alpha = slab.Absorption[0]
			}
			dark += alpha * step * e.Width / slow.width
		}
		return math.Exp(-dark)
	}
	want := slow.trace(e)
	in := light.Inside{
		Colour: &light.Colour{Axis: axis, Along: alike(along), Across: alike(across), Slabs: []light.Slab{slab}},
		Flaws:  []light.Flaw{ball, disc},
	}
	_, got, _ := pictured(t, light.Of(cut), e, in)
	assert.Equal(t, want.Rays, got.Rays)
	assert.InDelta(t, want.Up, got.Up, 2e-3)
	assert.InDelta(t, want.Leak, got.Leak, 2e-3)
	assert.InDelta(t, want.Absorbed, got.Absorbed, 3e-3)
	assert.Greater(t, want.Absorbed, 0.3, "the colour is worth tracing")
}

// A colour that is the same in every direction, and slabs of the body's own colour, change nothing.
func TestOneColourHoweverItIsSaid(t *testing.T) {
	s := light.Of(load(t, "round"))
	e := light.Experiment{RefractiveIndex: 1.65, Grid: 64, HeadAngle: light.HeadAngle, Width: 8, Absorption: [3]float64{0.06, 0.03, 0.2}}
	plain, f, err := s.Picture(context.Background(), e, light.Uniform, light.Fan{})
	require.NoError(t, err)
	same := light.Colour{Axis: r3.Vec{X: 1}, Along: e.Absorption, Across: e.Absorption, Slabs: []light.Slab{
		{Normal: r3.Vec{Z: 1}, From: -0.3, To: 0.1, Absorption: e.Absorption}, {Normal: r3.Vec{Y: 1}, From: 0, To: 9, Absorption: e.Absorption},
	}}
	for _, in := range []light.Inside{{}, {Colour: &same}} {
		p, got, _ := pictured(t, s, e, in)
		assert.InDelta(t, f.Up, got.Up, 1e-6)
		for i := range plain.Light {
			for c := range 3 {
				// A ray along the edge of two facets may take either.
				if math.Abs(float64(plain.Light[i][c]-p.Light[i][c])) > 1e-4 {
					require.InDelta(t, plain.Light[i][c], p.Light[i][c], 0.35, "ray %d", i)
				}
			}
		}
	}
}

// What a cutter knows of flaws: one at the culet is mirrored all over the face, one by the girdle hides, and a
// zone of colour at the culet colours the whole stone where one by the girdle does not.
func TestFlawsAndZonesByTheirPlace(t *testing.T) {
	cut := load(t, "round")
	s, low := light.Of(cut), cut.Solid().Compact().Bounds().Min.Z
	e := light.Experiment{RefractiveIndex: 1.544, Grid: 200, HeadAngle: light.HeadAngle, Width: 8}
	_, _, shown := pictured(t, s, e, light.Inside{Flaws: []light.Flaw{
		{At: r3.Vec{Z: low + 0.1}, Radius: 0.05},
		{At: r3.Vec{X: 0.9}, Radius: 0.05},
		{At: r3.Vec{Z: -3}, Radius: 1},
	}})
	assert.Greater(t, shown[0].Share, 2*shown[1].Share)
	assert.Greater(t, shown[0].Images, 4)
	assert.Zero(t, shown[2], "outside the stone")
	clear := light.Colour{Axis: r3.Vec{Z: 1}}
	dyed := func(normal r3.Vec, from, to float64) float64 {
		c := clear
		c.Slabs = []light.Slab{{Normal: normal, From: from, To: to, Absorption: [3]float64{0.8, 0.8, 0}}}
		p, _, _ := pictured(t, s, e, light.Inside{Colour: &c})
		blue, rays := 0, 0
		for i, hit := range p.Hits {
			if hit && p.Light[i][2] > 0.05 {
				rays++
				if p.Light[i][0] < 0.8*p.Light[i][2] {
					blue++
				}
			}
		}
		return float64(blue) / float64(rays)
	}
	atCulet, atGirdle := dyed(r3.Vec{Z: -1}, -low-0.25, 9), dyed(r3.Vec{X: 1}, 0.75, 9)
	assert.Greater(t, atCulet, 0.4)
	assert.Less(t, atGirdle, 0.35)
}

// A face as the screen asks for it at once, plain and with a colour by direction, a zone and three flaws in it.
func BenchmarkInside(b *testing.B) {
	s := light.Of(load(b, "round"))
	e := light.Experiment{RefractiveIndex: 1.65, Grid: 160, HeadAngle: light.HeadAngle, Width: 8, Absorption: [3]float64{0.065, 0.03, 0.23}}
	colour := light.Colour{Axis: r3.Vec{X: 1}, Along: e.Absorption, Across: [3]float64{0.02, 0.05, 0.1}, Slabs: []light.Slab{{Normal: r3.Vec{Z: 1}, From: -2, To: -0.4, Absorption: e.Absorption}}}
	flaws := []light.Flaw{{At: r3.Vec{Z: -0.4}, Radius: 0.1}, {At: r3.Vec{X: 0.5}, Radius: 0.1}, {At: r3.Vec{Y: 0.5}, Radius: 0.2, Normal: r3.Vec{Y: 1}}}
	for name, in := range map[string]light.Inside{"plain": {}, "colours and flaws": {Colour: &colour, Flaws: flaws}} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if _, _, _, err := s.PictureWith(b.Context(), e, light.Head, in); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
