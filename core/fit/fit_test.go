package fit_test

import (
	"context"
	"encoding/json"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/optimize/convex/lp"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/fit"
	"cressa/core/polyhedron"
	"cressa/core/rough"
)

// stone is a cut stone with what the tests look at it by: corners and planes in the diagram's frame.
type stone struct {
	*cutting.Stone
	*fit.Shape
	corners []r3.Vec
}

func stoneOf(s *cutting.Stone) stone {
	out := stone{Stone: s, Shape: fit.NewShape(s)}
	for _, v := range s.Solid().Vertices() {
		out.corners = append(out.corners, s.Solid().Point(v))
	}
	return out
}

func readStone(t testing.TB, name string) stone {
	t.Helper()
	data, err := os.ReadFile(name)
	require.NoError(t, err)
	d := &diagram.Diagram{}
	require.NoError(t, json.Unmarshal(data, d))
	d.FillDefaults()
	s, err := cutting.Cut(d)
	require.NoError(t, err)
	return stoneOf(s)
}

func example(t testing.TB, name string) stone {
	return readStone(t, filepath.Join("..", "cutting", "testdata", name+".cressa.json"))
}

func cube(t testing.TB) stone {
	t.Helper()
	shape, err := polyhedron.Rule{Kind: polyhedron.Cube, Pose: polyhedron.FaceUp}.Shape()
	require.NoError(t, err)
	placed, err := shape.Place(context.Background(), polyhedron.Placing{Up: r3.Vec{Z: 1}, Name: "Cube", Gear: 96, RefractiveIndex: 1.54})
	require.NoError(t, err)
	return stoneOf(placed.Stone)
}

func box(x, y, z float64, flaws ...rough.Flaw) rough.Rough {
	return rough.Rough{Material: "Quartz", Solid: rough.Solid{Kind: rough.KindBox, Size: r3.Vec{X: x, Y: y, Z: z}}, Flaws: flaws}
}

func work(t testing.TB, r rough.Rough) *rough.Piece {
	t.Helper()
	p, err := r.Work()
	require.NoError(t, err)
	return p
}

func largest(t testing.TB, r rough.Rough, s stone, allowance float64) fit.Fit {
	t.Helper()
	f, err := fit.Largest(context.Background(), work(t, r), s.Shape, fit.Search{Allowance: allowance}, nil)
	require.NoError(t, err)
	require.Equal(t, fit.Done, f.Ended)
	fits(t, r, s, allowance, f)
	return f
}

// fits checks a stone that is told to fit, from its place alone: no corner nearer to a wall than the
// allowance, and no point of a flaw inside of all facets, or of them and the upright planes through the
// table's edges. Balls and discs are looked at in many points.
func fits(t testing.TB, r rough.Rough, s stone, allowance float64, f fit.Fit) {
	t.Helper()
	require.LessOrEqual(t, f.Scale, f.Bound*(1+1e-9))
	if f.Scale == 0 {
		return
	}
	require.InDelta(t, 0, f.Turn.After(f.Turn.Inverse())[0].X-1, 1e-12)
	require.Greater(t, r3.Dot(f.Turn[0], r3.Cross(f.Turn[1], f.Turn[2])), 0.0, "no mirror")
	walls := work(t, r).Walls
	for _, v := range s.corners {
		x := r3.Add(f.Turn.Of(r3.Scale(f.Scale, v)), f.Offset)
		for _, w := range walls {
			require.LessOrEqual(t, w.Above(x), -allowance+1e-8, w.Name)
		}
	}
	planes := s.planes()
	for _, flaw := range r.Flaws {
		if flaw.Rule == rough.Accept {
			continue
		}
		of := planes
		if flaw.Rule == rough.Hidden {
			of = append(append([][4]float64{}, planes...), s.overTable()...)
		}
		for _, q := range pointsOf(flaw) {
			v := r3.Scale(1/f.Scale, f.Turn.Back(r3.Sub(q, f.Offset)))
			out := math.Inf(-1)
			for _, p := range of {
				out = max(out, p[0]*v.X+p[1]*v.Y+p[2]*v.Z-p[3])
			}
			require.GreaterOrEqual(t, out, -1e-7, flaw.Name)
		}
	}
}

func (s *stone) planes() [][4]float64 {
	var out [][4]float64
	for _, f := range s.Solid().Faces() {
		n := f.Plane.Normal
		out = append(out, [4]float64{n.X, n.Y, n.Z, f.Plane.D})
	}
	return out
}

func (s *stone) overTable() [][4]float64 {
	var out [][4]float64
	for _, f := range s.Solid().Faces() {
		if f.Plane.Normal.Z < 1-1e-12 {
			continue
		}
		for i, v := range f.Loop {
			p, q := s.Solid().Point(v), s.Solid().Point(f.Loop[(i+1)%len(f.Loop)])
			n := r3.Unit(r3.Vec{X: q.Y - p.Y, Y: p.X - q.X})
			out = append(out, [4]float64{n.X, n.Y, 0, r3.Dot(n, p)})
		}
	}
	return out
}

func pointsOf(f rough.Flaw) []r3.Vec {
	if f.Kind == rough.Point {
		return []r3.Vec{f.At}
	}
	draw := rand.New(rand.NewPCG(3, 4))
	out := []r3.Vec{f.At}
	for range 4000 {
		d := r3.Unit(r3.Vec{X: draw.NormFloat64(), Y: draw.NormFloat64(), Z: draw.NormFloat64()})
		if f.Kind == rough.Disc {
			n := r3.Unit(f.Normal)
			d = r3.Unit(r3.Sub(d, r3.Scale(r3.Dot(d, n), n)))
		}
		out = append(out, r3.Add(f.At, r3.Scale(f.Radius*math.Sqrt(draw.Float64()), d)), r3.Add(f.At, r3.Scale(f.Radius, d)))
	}
	return out
}

func TestKnownAnswers(t *testing.T) {
	c := cube(t)
	f := largest(t, box(10, 10, 10), c, 0)
	assert.InDelta(t, 10, f.Width(), 1e-9)
	assert.InDelta(t, 10, f.Bound*c.Width, 1e-9)
	f = largest(t, box(12, 30, 11), c, 0.3)
	assert.InDelta(t, 10.4, f.Width(), 1e-9)
	assert.ElementsMatch(t, []fit.Touched{{Kind: fit.Face, Name: "-z"}, {Kind: fit.Face, Name: "+z"}}, f.LimitedBy, "what leaves room holds nothing")

	ball := rough.Flaw{Name: "crystal", Kind: rough.Ball, At: r3.Vec{X: 4, Y: 4, Z: 4}, Radius: 1.5, Rule: rough.Out}
	f = largest(t, box(10, 10, 10, ball), c, 0)
	assert.InDelta(t, 9-1.5/math.Sqrt(3), f.Width(), 1e-9)
	assert.Contains(t, f.LimitedBy, fit.Touched{Kind: fit.Flaw, Name: "crystal"})
	ball.Rule = rough.Accept
	assert.InDelta(t, 10, largest(t, box(10, 10, 10, ball), c, 0).Width(), 1e-9)
}

// A stone of 7.3 mm a unit fits into its own hull at that size, however the hull is turned and moved.
func TestAStoneFitsIntoItself(t *testing.T) {
	for _, name := range []string{"round", "emerald", "skew", "pinwheel", "squarestep"} {
		s := example(t, name)
		turn := turned(rand.New(rand.NewPCG(9, 9)))
		var points []r3.Vec
		for _, v := range s.corners {
			points = append(points, r3.Add(turn.Of(r3.Scale(7.3, v)), r3.Vec{X: 3, Y: -2, Z: 1}))
		}
		f := largest(t, rough.Rough{Material: "Quartz", Solid: rough.Solid{Kind: rough.KindHull, Points: points}}, s, 0)
		assert.InEpsilon(t, 7.3, f.Scale, 1e-7, name)
		assert.InEpsilon(t, 7.3, f.Bound, 1e-6, name)
	}
}

func turned(draw *rand.Rand) fit.Turn {
	x := r3.Unit(r3.Vec{X: draw.NormFloat64(), Y: draw.NormFloat64(), Z: draw.NormFloat64()})
	z := r3.Unit(r3.Cross(x, r3.Vec{X: draw.NormFloat64(), Y: draw.NormFloat64(), Z: draw.NormFloat64()}))
	return fit.Turn{x, r3.Cross(z, x), z}
}

// drawn is a lumpy piece with flaws of every kind near its middle.
func drawn(draw *rand.Rand, flaws int) rough.Rough {
	r := rough.Rough{Material: "Quartz", Solid: rough.Solid{Kind: rough.KindHull}}
	for range 24 {
		v := r3.Unit(r3.Vec{X: draw.NormFloat64(), Y: draw.NormFloat64(), Z: draw.NormFloat64()})
		r.Solid.Points = append(r.Solid.Points, r3.Vec{X: 7 * v.X, Y: 5 * v.Y, Z: 6 * v.Z})
	}
	for i := range flaws {
		r.Flaws = append(r.Flaws, rough.Flaw{
			Name: "flaw", Kind: rough.FlawKinds[i%3], Rule: rough.Rules[i%2], Radius: 0.4 + draw.Float64(),
			At:     r3.Vec{X: 2 * draw.NormFloat64(), Y: 1.5 * draw.NormFloat64(), Z: 1.5 * draw.NormFloat64()},
			Normal: r3.Vec{X: draw.NormFloat64(), Y: draw.NormFloat64(), Z: draw.NormFloat64()},
		})
	}
	return r
}

// byOthers is the largest scale at one turn by a general simplex, with one of the facets of the stone
// for each point flaw that must stay out: all ways tried.
func byOthers(t *testing.T, p *rough.Piece, s stone, turn fit.Turn, allowance float64) float64 {
	var limits [][5]float64
	for _, w := range p.Walls {
		h := math.Inf(-1)
		for _, v := range s.corners {
			h = max(h, r3.Dot(w.Normal, turn.Of(v)))
		}
		limits = append(limits, [5]float64{h, w.Normal.X, w.Normal.Y, w.Normal.Z, w.D - allowance})
	}
	best := 0.0
	var try func(flaw int, limits [][5]float64)
	try = func(flaw int, limits [][5]float64) {
		if flaw == len(p.Flaws) {
			best = max(best, simplex(t, limits))
			return
		}
		for _, f := range s.Solid().Faces() {
			u := turn.Of(f.Plane.Normal)
			beyond := [5]float64{f.Plane.D, u.X, u.Y, u.Z, r3.Dot(u, p.Flaws[flaw].At)}
			try(flaw+1, append(slices.Clone(limits), beyond))
		}
	}
	try(0, limits)
	return best
}

// simplex solves max s within limits on (s, x, y, z): s ≥ 0, the place as a difference of two.
func simplex(t *testing.T, limits [][5]float64) float64 {
	n, rows := 7, len(limits)
	a, b, c := mat.NewDense(rows, n+rows, nil), make([]float64, rows), make([]float64, n+rows)
	for i, l := range limits {
		a.Set(i, 0, l[0])
		for k := range 3 {
			a.Set(i, 1+2*k, l[1+k])
			a.Set(i, 2+2*k, -l[1+k])
		}
		a.Set(i, n+i, 1)
		b[i] = l[4]
	}
	c[0] = -1
	best, _, err := lp.Simplex(c, a, b, 1e-11, nil)
	if err != nil {
		require.ErrorIs(t, err, lp.ErrInfeasible)
		return 0
	}
	return -best
}

// The answer is never smaller than the best of the turns that carry axes to axes, which a general
// simplex finds by trying every facet for every point.
func TestNeverSmallerThanTheBestAlongTheAxes(t *testing.T) {
	s := example(t, "squarestep")
	r := box(11, 9, 8, rough.Flaw{Name: "spot", Kind: rough.Point, At: r3.Vec{X: 1.5, Y: 1, Z: 0.5}, Rule: rough.Out})
	f := largest(t, r, s, 0.2)
	p := work(t, r)
	best := 0.0
	for _, x := range []r3.Vec{{X: 1}, {Y: 1}, {Z: 1}, {X: -1}, {Y: -1}, {Z: -1}} {
		for _, y := range []r3.Vec{{X: 1}, {Y: 1}, {Z: 1}, {X: -1}, {Y: -1}, {Z: -1}} {
			if r3.Dot(x, y) == 0 {
				best = max(best, byOthers(t, p, s, fit.Turn{x, y, r3.Cross(x, y)}, 0.2))
			}
		}
	}
	assert.GreaterOrEqual(t, f.Scale, best-1e-9)
	assert.Greater(t, best, 0.0)
	assert.InDelta(t, byOthers(t, p, s, f.Turn, 0.2), f.Scale, 1e-6*f.Scale, "at its own turn nothing is larger")
}

// More rough never gives a smaller stone, a flaw never helps, and turning the rough turns the answer.
// The piece is drawn once and for all: a search is no proof, and a test must not depend on luck.
func TestWhatMustHoldOfEveryPiece(t *testing.T) {
	const close = 2e-3
	s := example(t, "squarestep")
	draw := rand.New(rand.NewPCG(0, 1))
	r := drawn(draw, 3)
	f := largest(t, r, s, 0.3)

	larger := r
	larger.Solid.Points = append(append([]r3.Vec{}, r.Solid.Points...), r3.Vec{X: 6, Y: 4, Z: 4})
	assert.GreaterOrEqual(t, largest(t, larger, s, 0.3).Scale, f.Scale*(1-close))

	bare := r
	bare.Flaws = r.Flaws[:2]
	assert.GreaterOrEqual(t, largest(t, bare, s, 0.3).Scale, f.Scale*(1-close))

	turn := turned(draw)
	other := rough.Rough{Material: r.Material, Solid: rough.Solid{Kind: rough.KindHull}}
	for _, p := range r.Solid.Points {
		other.Solid.Points = append(other.Solid.Points, turn.Of(p))
	}
	for _, flaw := range r.Flaws {
		flaw.At, flaw.Normal = turn.Of(flaw.At), turn.Of(flaw.Normal)
		other.Flaws = append(other.Flaws, flaw)
	}
	assert.InEpsilon(t, f.Scale, largest(t, other, s, 0.3).Scale, close)
}

// A search about a turn that is known finds what was found there, and a glance not much less than a whole search.
func TestShortSearches(t *testing.T) {
	level := 0.0
	s := example(t, "emerald")
	r := box(13, 10, 8, rough.Flaw{Name: "crystal", Kind: rough.Ball, At: r3.Vec{X: 3, Y: 1}, Radius: 0.7, Rule: rough.Out})
	for _, axis := range []*rough.Axis{nil, {Kind: rough.OpticAxis, Direction: r3.Vec{X: 1, Y: 2}, ToTable: &level}} {
		r.Axis = axis
		whole := largest(t, r, s, 0.3)
		for _, how := range []struct {
			fit.Search
			share float64
		}{{fit.Search{Allowance: 0.3, Near: &whole.Turn}, 1 - 1e-6}, {fit.Search{Allowance: 0.3, Glance: true}, 0.85}} {
			f, err := fit.Largest(context.Background(), work(t, r), s.Shape, how.Search, nil)
			require.NoError(t, err)
			fits(t, r, s, 0.3, f)
			assert.GreaterOrEqual(t, f.Scale, how.share*whole.Scale)
		}
	}
}

func TestTheTableKeepsItsAngleToTheAxis(t *testing.T) {
	s := example(t, "squarestep")
	r := box(13, 10, 8)
	free := largest(t, r, s, 0.3)
	for _, angle := range []float64{33, 90} {
		r.Axis = &rough.Axis{Kind: rough.OpticAxis, Direction: r3.Vec{X: 1, Y: 2, Z: 2}, ToTable: &angle}
		f := largest(t, r, s, 0.3)
		sine := math.Abs(r3.Dot(f.Turn.Table(), r3.Unit(r.Axis.Direction)))
		assert.InDelta(t, angle, math.Asin(min(1, sine))*180/math.Pi, 1e-5)
		assert.LessOrEqual(t, f.Scale, free.Scale*(1+1e-9))
		assert.Greater(t, f.Scale, 0.6*free.Scale)
	}
}

func TestWhereNothingFits(t *testing.T) {
	s := example(t, "squarestep")
	_, err := fit.Largest(context.Background(), work(t, box(4, 4, 4)), s.Shape, fit.Search{Allowance: 2}, nil)
	require.ErrorAs(t, err, &fit.NoRoom{})

	// A crack through the middle as large as the piece parts it in two; a ball as large leaves nothing.
	crack := rough.Flaw{Name: "crack", Kind: rough.Disc, Radius: 20, Normal: r3.Vec{X: 1}, Rule: rough.Out}
	half := largest(t, box(10, 9, 8), s, 0)
	cracked := largest(t, box(20, 9, 8, crack), s, 0)
	assert.InDelta(t, half.Scale, cracked.Scale, 1e-3)
	void := rough.Flaw{Name: "void", Kind: rough.Ball, Radius: 20, Rule: rough.Out}
	f := largest(t, box(10, 9, 8, void), s, 0)
	assert.Zero(t, f.Scale)
}

// A search that is stopped gives what it has, and that fits.
func TestAStoppedSearchGivesWhatItHas(t *testing.T) {
	s := example(t, "skew")
	r := drawn(rand.New(rand.NewPCG(2, 2)), 3)
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	var seen float64
	f, err := fit.Largest(ctx, work(t, r), s.Shape, fit.Search{Allowance: 0.3}, func(done float64, best fit.Fit) {
		assert.GreaterOrEqual(t, best.Scale, seen, "it only grows")
		if seen = best.Scale; done >= 0.5 {
			stop()
		}
	})
	require.NoError(t, err)
	assert.Equal(t, fit.Stopped, f.Ended)
	assert.Positive(t, f.Scale)
	fits(t, r, s, 0.3, f)
}

// Fitting the starter diagrams, and one of them, as the workbench does.
func BenchmarkFit(b *testing.B) {
	round := example(b, "round")
	flaws := []rough.Flaw{
		{Name: "crystal", Kind: rough.Ball, At: r3.Vec{X: -3, Y: 2, Z: 1}, Radius: 0.8, Rule: rough.Out},
		{Name: "spot", Kind: rough.Point, At: r3.Vec{X: 1, Y: 1, Z: 0.5}, Rule: rough.Out},
		{Name: "veil", Kind: rough.Disc, At: r3.Vec{X: 3, Y: -2, Z: -1}, Radius: 1.2, Normal: r3.Vec{X: 1, Y: 1, Z: 1}, Rule: rough.Hidden},
	}
	run := func(name string, r rough.Rough, stones ...stone) {
		b.Run(name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				for _, s := range stones {
					_, err := fit.Largest(context.Background(), work(b, r), s.Shape, fit.Search{Allowance: 0.3}, nil)
					require.NoError(b, err)
				}
			}
		})
	}
	run("box", box(14, 11, 9), round)
	run("box with three flaws", box(14, 11, 9, flaws...), round)

	mesh := rough.Rough{Material: "Quartz", Solid: rough.Solid{Kind: rough.KindHull}, Flaws: flaws}
	draw := rand.New(rand.NewPCG(1, 1))
	for range 102 {
		v := r3.Unit(r3.Vec{X: draw.NormFloat64(), Y: draw.NormFloat64(), Z: draw.NormFloat64()})
		mesh.Solid.Points = append(mesh.Solid.Points, r3.Vec{X: 8 * v.X, Y: 6 * v.Y, Z: 5 * v.Z})
	}
	require.Len(b, work(b, mesh).Walls, 200)
	files, err := filepath.Glob(filepath.Join("..", "..", "demo", "diagrams", "*.cressa.json"))
	require.NoError(b, err)
	var library []stone
	for _, name := range files {
		library = append(library, readStone(b, name))
	}
	run("library in a mesh of 200 faces with three flaws", mesh, library...)
}
