package light_test

import (
	"context"
	"encoding/json"
	"math"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/light"
)

// The figures that the specification gives: examples at three refractive indexes.
var reference = []struct {
	name                                                   string
	n                                                      float64
	uniform, cosine, head, leak, headShadow, glare, window float64
}{
	{"round", 1.544, 0.9196, 0.7761, 0.4254, 0.0318, 0.4942, 0.0486, 0.0000},
	{"round", 1.72, 0.8970, 0.8231, 0.4075, 0.0295, 0.4895, 0.0733, 0.0000},
	{"round", 2.15, 0.8136, 0.7154, 0.5338, 0.0494, 0.2798, 0.1363, 0.0000},
	{"squarestep", 1.544, 0.7871, 0.6710, 0.3759, 0.1627, 0.4112, 0.0502, 0.0000},
	{"squarestep", 1.72, 0.8020, 0.6798, 0.5745, 0.1230, 0.2275, 0.0750, 0.0000},
	{"squarestep", 2.15, 0.6089, 0.4598, 0.5333, 0.2532, 0.0756, 0.1378, 0.0000},
	{"emerald", 1.544, 0.7820, 0.5932, 0.5021, 0.1682, 0.2798, 0.0498, 0.0000},
	{"emerald", 1.72, 0.7611, 0.5769, 0.5010, 0.1644, 0.2601, 0.0745, 0.0000},
	{"emerald", 2.15, 0.7311, 0.5273, 0.6867, 0.1314, 0.0444, 0.1374, 0.0103},
	{"pinwheel", 1.544, 0.6960, 0.5221, 0.5921, 0.2551, 0.1038, 0.0489, 0.2406},
	{"pinwheel", 1.72, 0.8437, 0.6404, 0.7409, 0.0827, 0.1028, 0.0736, 0.0000},
	{"pinwheel", 2.15, 0.7091, 0.5107, 0.5776, 0.1537, 0.1315, 0.1366, 0.0000},
	{"skew", 1.544, 0.8095, 0.5341, 0.5976, 0.1397, 0.2119, 0.0508, 0.0198},
	{"skew", 1.72, 0.7610, 0.5139, 0.6714, 0.1634, 0.0896, 0.0756, 0.0289},
	{"skew", 2.15, 0.5741, 0.4125, 0.5191, 0.2871, 0.0550, 0.1385, 0.0690},
}

// load cuts an example of the specification; package cutting keeps them.
func load(t testing.TB, name string) *cutting.Stone {
	t.Helper()
	data, err := os.ReadFile(filepath.Join("..", "cutting", "testdata", name+".cressa.json"))
	require.NoError(t, err)
	d := &diagram.Diagram{}
	require.NoError(t, json.Unmarshal(data, d))
	d.FillDefaults()
	require.Empty(t, d.Validate())
	s, err := cutting.Cut(d)
	require.NoError(t, err)
	return s
}

func trace(t testing.TB, s *light.Stone, e light.Experiment) light.Figures {
	t.Helper()
	f, err := s.Trace(context.Background(), e)
	require.NoError(t, err)
	return f
}

func TestReferenceFigures(t *testing.T) {
	for _, want := range reference {
		s := light.Of(load(t, want.name))
		f := trace(t, s, light.Experiment{RefractiveIndex: want.n, Grid: 256, Tilt: 0.01, To: 33, HeadAngle: light.HeadAngle})
		for what, pair := range map[string][2]float64{
			"uniform": {want.uniform, f.Return(light.Uniform)}, "cosine": {want.cosine, f.Return(light.Cosine)},
			"head": {want.head, f.Return(light.Head)}, "leak": {want.leak, f.Leak}, "head shadow": {want.headShadow, f.HeadShadow},
			"glare": {want.glare, f.Glare}, "window": {want.window, f.Window},
		} {
			assert.InDelta(t, pair[0], pair[1], 1e-4, "%s at %v, %s", want.name, want.n, what)
		}
		assert.InDelta(t, 1, f.Glare+f.Up+f.Leak+f.Frosted+f.Absorbed+f.Residual, 1e-9)
	}
}

// One sector with rows askew is held against a fine grid: where facets run along the rows
// of a coarse one, as in a step cut, that is itself half a percent off.
func TestOneSectorStandsForAll(t *testing.T) {
	for name, n := range map[string]float64{"squarestep": 1.544, "emerald": 2.15, "pinwheel": 1.544, "round": 1.72} {
		s := light.Of(load(t, name))
		e := light.Experiment{RefractiveIndex: n, Grid: 509, HeadAngle: light.HeadAngle, Tilt: 0.01, To: 33}
		want := trace(t, s, e)
		e.Grid, e.Tilt = 256, 0
		got, err := s.Sample(context.Background(), e)
		require.NoError(t, err)
		assert.Less(t, got.Rays, want.Rays/4, name)
		for what, pair := range map[string][2]float64{
			"uniform": {want.Up, got.Up}, "cosine": {want.Cosine, got.Cosine}, "leak": {want.Leak, got.Leak},
			"head shadow": {want.HeadShadow, got.HeadShadow}, "window": {want.Window, got.Window},
		} {
			assert.InDelta(t, pair[0], pair[1], 5e-3, "%s, %s", name, what)
		}
	}
}

func TestAgainstAPlainTracer(t *testing.T) {
	examples := []string{"round", "squarestep", "emerald", "pinwheel", "skew"}
	stones := map[string]*cutting.Stone{}
	for _, name := range examples {
		stones[name] = load(t, name)
	}
	rapid.Check(t, func(t *rapid.T) {
		cut := stones[rapid.SampledFrom(examples).Draw(t, "stone")]
		a := rapid.Float64Range(0, 0.2).Draw(t, "absorption")
		e := light.Experiment{
			RefractiveIndex: rapid.Float64Range(1.3, 2.7).Draw(t, "n"),
			Grid:            rapid.IntRange(8, 40).Draw(t, "grid"),
			// A little askew whatever is drawn: along an edge or a mirror plane, and on
			// the head's rim, either answer is right.
			Tilt:          0.0123 + rapid.Float64Range(0.1, 60).Draw(t, "tilt"),
			To:            0.3171 + rapid.Float64Range(0, 360).Draw(t, "to"),
			HeadAngle:     1.0071 + rapid.Float64Range(0, 40).Draw(t, "head"),
			FrostedGirdle: rapid.Bool().Draw(t, "frosted"),
			Absorption:    [3]float64{a, a, a},
			Width:         rapid.Float64Range(3, 30).Draw(t, "width"),
		}
		want := plainOf(cut).trace(e)
		got, err := light.Of(cut).Trace(context.Background(), e)
		require.NoError(t, err)
		require.Equal(t, want.Rays, got.Rays)
		for _, pair := range [][2]float64{
			{want.Glare, got.Glare}, {want.Up, got.Up}, {want.Cosine, got.Cosine}, {want.HeadShadow, got.HeadShadow},
			{want.Leak, got.Leak}, {want.Frosted, got.Frosted}, {want.Absorbed, got.Absorbed}, {want.Residual, got.Residual},
			{want.Window, got.Window}, {1, got.Glare + got.Up + got.Leak + got.Frosted + got.Absorbed + got.Residual},
		} {
			require.InDelta(t, pair[0], pair[1], 1e-9)
		}
	})
}

// prism is a square block, 1 wide, with a flat top; its floor is level or a roof of two
// facets at 45 degrees.
func prism(t *testing.T, roof bool) *light.Stone {
	t.Helper()
	depth := func(name string, part diagram.Part, angle, distance float64, indexes ...float64) diagram.Tier {
		return diagram.Tier{Name: name, Part: part, Angle: angle, Indexes: indexes, Stop: diagram.Stop{Kind: diagram.Depth, Distance: distance}}
	}
	d := &diagram.Diagram{Name: "prism", Gear: 96, RefractiveIndex: 1.544, Tiers: []diagram.Tier{
		depth("G1", diagram.Girdle, 90, 0.5, 0, 24, 48, 72), depth("T", diagram.Crown, 0, 0.2, 0),
	}}
	floor := depth("P1", diagram.Pavilion, 0, 0.4, 0)
	if roof {
		floor = depth("P1", diagram.Pavilion, 45, 0.4, 24, 72)
	}
	d.Tiers = append(d.Tiers, floor)
	d.FillDefaults()
	s, err := cutting.Cut(d)
	require.NoError(t, err)
	return light.Of(s)
}

// A level slab returns (1 − R0)·R0/(1 + R0) and leaks (1 − R0)/(1 + R0); a roof of two
// facets at right angles returns 1 − R0 where 45 degrees exceed the critical angle.
func TestClosedForms(t *testing.T) {
	slab, roof := prism(t, false), prism(t, true)
	for _, n := range []float64{1.45, 1.544, 1.76, 2.15, 2.42} {
		r := (n - 1) / (n + 1)
		r *= r
		e := light.Experiment{RefractiveIndex: n, Grid: 32, HeadAngle: light.HeadAngle}
		f := trace(t, slab, e)
		assert.InDelta(t, (1-r)*r/(1+r), f.Up, 1e-4, "slab at %v", n)
		assert.InDelta(t, (1-r)/(1+r), f.Leak, 1e-4)
		assert.InDelta(t, r, f.Glare, 1e-12)
		assert.Equal(t, f.Up, f.HeadShadow, "straight back up ends at the head")
		f = trace(t, roof, e)
		assert.InDelta(t, 1-r, f.Up, 1e-4, "roof at %v", n)
		assert.InDelta(t, 0, f.Leak, 1e-12)
	}
	// A block of the colour whose light falls to a tenth on 5 mm, looked at from above:
	// what leaves below has gone the height of 0.6 widths once, thrice, and so on.
	const n, width = 1.76, 10.0
	const r = (n - 1) * (n - 1) / ((n + 1) * (n + 1))
	a := math.Ln10 / 5
	once := math.Exp(-a * 0.6 * width)
	f := trace(t, slab, light.Experiment{RefractiveIndex: n, Grid: 32, Absorption: [3]float64{a, a, a}, Width: width})
	assert.InDelta(t, (1-r)*(1-r)*once/(1-r*r*once*once), f.Leak, 1e-4)
	assert.InDelta(t, 1, f.Glare+f.Up+f.Leak+f.Absorbed+f.Residual, 1e-9)
}

func TestSymmetrySparesRaysNotFigures(t *testing.T) {
	for _, name := range []string{"round", "squarestep", "emerald", "pinwheel", "skew"} {
		s := light.Of(load(t, name))
		e := light.Experiment{RefractiveIndex: 1.65, Grid: 100, HeadAngle: light.HeadAngle}
		folded := trace(t, s, e)
		e.Tilt = 1e-6
		whole := trace(t, s, e)
		assert.InDelta(t, whole.Rays, folded.Rays, 0.002*float64(whole.Rays), name)
		assert.InDelta(t, whole.Up, folded.Up, 2e-3, name)
		assert.InDelta(t, whole.HeadShadow, folded.HeadShadow, 2e-3, name)
	}
}

func TestAPictureShowsWhatTheFiguresSay(t *testing.T) {
	s := light.Of(load(t, "skew"))
	e := light.Experiment{
		RefractiveIndex: 1.72, Grid: 90, Tilt: 12, To: 50, HeadAngle: light.HeadAngle,
		Absorption: [3]float64{0.02, 0.05, 0.1}, Width: 9,
	}
	fan := light.Fan{1.71, 1.72, 1.74}
	p, f, err := s.Picture(context.Background(), e, light.Head, light.Fan{})
	require.NoError(t, err)
	var sum [3]float64
	ends := map[light.End]float64{}
	for i, l := range p.Light {
		ends[p.Ends[i]]++
		for c := range sum {
			sum[c] += float64(l[c])
		}
	}
	rays := float64(f.Rays)
	assert.InDelta(t, f.Return(light.Head), (sum[0]+sum[1]+sum[2])/3/rays, 1e-5)
	assert.Greater(t, sum[0], sum[1])
	assert.Greater(t, sum[1], sum[2], "the colour that is kept back most comes back least")
	assert.InDelta(t, f.MostReturn, ends[light.Returned]/rays, 1e-12)
	assert.InDelta(t, f.MostLeak, ends[light.Leaked]/rays, 1e-12)
	assert.InDelta(t, f.MostShadow, ends[light.Shadowed]/rays, 1e-12)

	// Each colour of a fan is the picture at its own index.
	split, _, err := s.Picture(context.Background(), e, light.Head, fan)
	require.NoError(t, err)
	for c, n := range fan {
		one := e
		one.RefractiveIndex = n
		alone, _, err := s.Picture(context.Background(), one, light.Head, light.Fan{})
		require.NoError(t, err)
		for i := range alone.Light {
			// A channel that is followed alone stops a little earlier or later.
			require.InDelta(t, alone.Light[i][c], split.Light[i][c], 2e-4)
		}
	}
}

func TestTiltCurve(t *testing.T) {
	s := light.Of(load(t, "emerald"))
	e := light.Experiment{RefractiveIndex: 1.6, Grid: 64, HeadAngle: light.HeadAngle}
	curve, err := s.Tilts(context.Background(), e)
	require.NoError(t, err)
	require.Len(t, curve, 21)
	last := len(curve) - 1
	for i, at := range curve {
		// The stone has two planes of symmetry: both ends of each axis are alike.
		assert.InDelta(t, at.Twelve.Up, curve[last-i].Twelve.Up, 0.01)
		assert.InDelta(t, at.Three.Up, curve[last-i].Three.Up, 0.01)
	}
	e.Tilt, e.To = 20, 90
	i := slices.IndexFunc(curve, func(at light.Tilted) bool { return at.Degrees == 20 })
	assert.Equal(t, trace(t, s, e).Up, curve[i].Three.Up)
	assert.Greater(t, math.Abs(curve[i].Twelve.Up-curve[i].Three.Up), 0.01, "the axes differ")
}
