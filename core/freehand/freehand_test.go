package freehand_test

import (
	"cmp"
	"context"
	"errors"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/freehand"
)

func fresh() *diagram.Diagram {
	return &diagram.Diagram{
		Format: diagram.Format, Name: "By hand", Outline: "freeform", Gear: 96, RefractiveIndex: 1.54,
		FirstSide: diagram.Pavilion, Indexing: diagram.Dialled,
	}
}

// around is so many indexes evenly round a gear of 96.
func around(n int, from float64) []float64 {
	out := make([]float64, n)
	for i := range out {
		out[i] = math.Mod(from+96*float64(i)/float64(n)-1, 96) + 1
	}
	return out
}

// bench is a stone that is cut freehand.
type bench struct {
	d *diagram.Diagram
	// reached is what the last setting could reach.
	reached []cutting.Reach
}

func (b *bench) cut(t context.Context, up diagram.Part, angle float64, indexes []float64, until freehand.Until) error {
	s := freehand.Setting{Up: up, Angle: angle, Indexes: indexes}
	pull, err := freehand.Next(t, b.d, s)
	if err != nil {
		return err
	}
	b.reached = pull.Reaches
	stop, err := freehand.Stop(pull, until)
	if err != nil {
		return err
	}
	next, err := freehand.Add(b.d, s, stop)
	if err == nil {
		b.d = next
	}
	return err
}

func (b *bench) reach(t context.Context, up diagram.Part, angle float64, indexes []float64, no int) error {
	pull, err := freehand.Next(t, b.d, freehand.Setting{Up: up, Angle: angle, Indexes: indexes})
	if err != nil {
		return err
	}
	if len(pull.Reaches) == 0 {
		return errNoReach
	}
	return b.cut(t, up, angle, indexes, freehand.Until{Meet: &pull.Reaches[no%len(pull.Reaches)].Stop})
}

var errNoReach = errors.New("no meet is reached")

var centre = freehand.Until{Meet: &diagram.Stop{Kind: diagram.Centre}}

func here(y, z float64) freehand.Until { return freehand.Until{Here: &r3.Vec{Y: y, Z: z}} }

// corners are those of a finished stone, from its lowest and in units of its width, in order.
func corners(s *cutting.Stone) []r3.Vec {
	size := s.Solid().Bounds()
	width := s.Measures().Width
	var out []r3.Vec
	for _, v := range s.Solid().Vertices() {
		p := r3.Sub(s.Solid().Point(v), r3.Vec{Z: size.Min.Z})
		p = r3.Scale(1/width, p)
		round := func(v float64) float64 { return math.Round(v*1e6)/1e6 + 0 }
		out = append(out, r3.Vec{X: round(p.X), Y: round(p.Y), Z: round(p.Z)})
	}
	slices.SortFunc(out, func(a, b r3.Vec) int {
		return cmp.Or(cmp.Compare(a.X, b.X), cmp.Compare(a.Y, b.Y), cmp.Compare(a.Z, b.Z))
	})
	return out
}

func sameCorners(a, b *cutting.Stone) bool {
	return slices.EqualFunc(corners(a), corners(b), func(a, b r3.Vec) bool { return r3.Norm(r3.Sub(a, b)) < 5e-6 })
}

// A stone that is coned, rounded and cut facet by facet becomes a diagram without the cone, and with the stops of a
// cutter.
func TestAFreehandStoneBecomesADiagram(t *testing.T) {
	b := &bench{d: fresh()}
	must := func(err error) {
		t.Helper()
		require.NoError(t, err)
	}
	ctx := t.Context()
	must(b.cut(ctx, diagram.Pavilion, 45, around(16, 3), centre))
	must(b.cut(ctx, diagram.Pavilion, 90, around(16, 3), freehand.Until{Size: 0.9}))
	// One facet after the other: they join, because one stop serves all.
	for _, index := range around(8, 12) {
		must(b.cut(ctx, diagram.Pavilion, 43, []float64{index}, here(0, 0.07)))
	}
	require.Len(t, b.d.Tiers, 3)
	assert.Len(t, b.d.Tiers[2].Indexes, 8)
	_, _, err := freehand.Tidy(b.d)
	assert.ErrorContains(t, err, string(cutting.BlockLeft))

	// The other side; the girdle's thickness is what the first tier leaves of it. What is cut now can be dialled with
	// the crown up, also at the girdle.
	must(b.cut(ctx, diagram.Crown, 35, around(8, 12), here(0.45, 0.54)))
	assert.Equal(t, diagram.GirdleBand, b.d.Tiers[3].Stop.Kind)
	must(b.reach(ctx, diagram.Crown, 26, around(8, 6), 0))
	must(b.cut(ctx, diagram.Crown, 0, []float64{96}, here(0, 0.65)))
	assert.Equal(t, []string{"P1", "G1", "P2", "C1", "C2", "T"}, names(b.d))

	was, err := cutting.Cut(b.d)
	require.NoError(t, err)
	tidy, width, err := freehand.Tidy(b.d)
	require.NoError(t, err)
	assert.InDelta(t, was.Measures().Width, width, 1e-12)
	is, err := cutting.Cut(tidy)
	require.NoError(t, err)
	assert.NotContains(t, names(tidy), "P1", "the cone is gone")
	assert.InDelta(t, 1, is.Measures().Width, 1e-9)
	assert.True(t, sameCorners(was, is))

	for until, code := range map[*freehand.Until]diagram.Code{
		{Meet: &diagram.Stop{Kind: diagram.Meet, Tiers: []diagram.Ref{{Tier: "T"}}}}: freehand.NothingToReach,
		{Here: &r3.Vec{Z: 3}}: freehand.PointOutside, {Size: 1}: freehand.SizeNeedsFlat,
	} {
		assert.ErrorContains(t, b.cut(ctx, diagram.Crown, 30, []float64{3}, *until), string(code))
	}
	// A girdle facet that is dialled with the crown up stands where that says.
	must(b.cut(ctx, diagram.Crown, 90, []float64{9}, freehand.Until{Size: 0.88}))
	n := len(b.d.Tiers) - 1
	assert.InDelta(t, 87, b.d.Tiers[n].Indexes[0], 1e-9)
	assert.InDelta(t, 360*9.0/96, b.d.Azimuth(diagram.Girdle, 87), 1e-9)

	steps, err := freehand.Drawn(was)
	require.NoError(t, err)
	assert.Len(t, steps, len(was.Facets)+1)
	assert.False(t, steps[len(steps)-1].Solid.ShowsBlock())
}

func names(d *diagram.Diagram) []string {
	var out []string
	for _, t := range d.Tiers {
		out = append(out, t.Name)
	}
	return out
}

// Whatever is cut freehand, the diagram that is made of it is the same stone.
func TestWhateverIsCutFreehandSolvesBack(t *testing.T) {
	finished := 0
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string, low, high float64) float64 {
			return math.Round(rapid.Float64Range(low, high).Draw(t, name)*100) / 100
		}
		count := func(name string) int { return rapid.SampledFrom([]int{4, 6, 8, 12}).Draw(t, name) }
		ctx := t.Context()
		b := &bench{d: fresh()}
		n := count("facets")
		require.NoError(t, b.cut(ctx, diagram.Pavilion, draw("first", 38, 48), around(n, 96), centre))
		require.NoError(t, b.cut(ctx, diagram.Pavilion, 90, around(n*rapid.IntRange(1, 2).Draw(t, "girdle"), 96), freehand.Until{Size: draw("size", 0.7, 0.95)}))
		for range rapid.IntRange(0, 2).Draw(t, "more") {
			// A setting that reaches nothing is none.
			_ = b.reach(ctx, diagram.Pavilion, draw("angle", 36, 60), around(count("more facets"), draw("turned", 1, 96)), rapid.IntRange(0, 3).Draw(t, "stops at"))
		}
		bounds := 0.5
		require.NoError(t, b.cut(ctx, diagram.Crown, draw("crown", 25, 45), around(n, 96), here(0.45, bounds+draw("height", 0.05, 0.15))))
		for range rapid.IntRange(0, 2).Draw(t, "crown tiers") {
			_ = b.reach(ctx, diagram.Crown, draw("crown angle", 15, 40), around(count("crown facets"), draw("crown turned", 1, 96)), rapid.IntRange(0, 3).Draw(t, "crown stops at"))
		}
		_ = b.cut(ctx, diagram.Crown, 0, []float64{96}, here(0, bounds+draw("table", 0.1, 0.2)))
		was, err := cutting.Cut(b.d)
		if err != nil {
			t.Skip("not closed")
		}
		tidy, _, err := freehand.Tidy(b.d)
		require.NoError(t, err)
		is, err := cutting.Cut(tidy)
		require.NoError(t, err)
		assert.True(t, sameCorners(was, is), "%v", names(tidy))
		finished++
	})
	assert.Positive(t, finished)
}
