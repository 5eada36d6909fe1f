package cutting_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/solid"
)

// bruteVertices finds the corners of a half-space intersection the slow way: the
// common point of every three planes that no fourth plane cuts off.
func bruteVertices(planes []solid.Plane) []r3.Vec {
	var out []r3.Vec
	for i := range planes {
		for j := range i {
			for k := range j {
				p, ok := common(planes[i], planes[j], planes[k])
				if ok && holds(planes, p) && !has(out, p) {
					out = append(out, p)
				}
			}
		}
	}
	return out
}

// common solves three plane equations by Cramer's rule.
func common(a, b, c solid.Plane) (r3.Vec, bool) {
	det := r3.Dot(a.Normal, r3.Cross(b.Normal, c.Normal))
	if math.Abs(det) < 1e-9 {
		return r3.Vec{}, false
	}
	sum := r3.Scale(a.D, r3.Cross(b.Normal, c.Normal))
	sum = r3.Add(sum, r3.Scale(b.D, r3.Cross(c.Normal, a.Normal)))
	sum = r3.Add(sum, r3.Scale(c.D, r3.Cross(a.Normal, b.Normal)))
	return r3.Scale(1/det, sum), true
}

func holds(planes []solid.Plane, p r3.Vec) bool {
	for _, q := range planes {
		if q.Above(p) > 1e-7 {
			return false
		}
	}
	return true
}

func has(points []r3.Vec, p r3.Vec) bool {
	for _, q := range points {
		if r3.Norm(r3.Sub(p, q)) < 1e-6 {
			return true
		}
	}
	return false
}

func TestVerticesAreThoseOfEveryThreePlanes(t *testing.T) {
	for _, name := range examples {
		stone, err := cutting.Cut(load(t, name))
		require.NoError(t, err)
		var planes []solid.Plane
		for _, f := range stone.Facets {
			planes = append(planes, f.Plane)
		}
		want := bruteVertices(planes)
		got := stone.Solid().Vertices()
		assert.Len(t, got, len(want), name)
		for _, v := range got {
			assert.True(t, has(want, stone.Solid().Point(v)), "%s: vertex %v is none of three planes'", name, stone.Solid().Point(v))
		}
	}
}

// figure draws a number as people write it, low to high in the given steps. Finer
// than that, planes miss a meet by less than the format's tolerances tell apart.
func figure(low, high, step float64) *rapid.Generator[float64] {
	return rapid.Map(rapid.IntRange(0, int(math.Round((high-low)/step))), func(i int) float64 { return low + float64(i)*step })
}

// drawDiagram makes a diagram that can always be cut: two mirrored or skew sides
// about a girdle, with a table.
func drawDiagram(t *rapid.T) *diagram.Diagram {
	teeth := rapid.SampledFrom([]int{32, 64, 72, 80, 96}).Draw(t, "teeth")
	fold := rapid.SampledFrom([]int{3, 4, 6, 8}).Draw(t, "fold")
	ring := func(offset float64) []float64 {
		out := make([]float64, fold)
		for i := range out {
			out[i] = offset + float64(i*teeth)/float64(fold)
		}
		return out
	}
	shift := figure(0, float64(teeth)/float64(fold)-0.25, 0.25)
	angle := figure(25, 60, 0.1)
	girdle := ring(0)
	half := ring(float64(teeth) / float64(2*fold))
	return &diagram.Diagram{
		Format: diagram.Format, Name: "drawn", Outline: "other", Gear: teeth, RefractiveIndex: 1.6,
		FirstSide: diagram.Pavilion, Indexing: rapid.SampledFrom(diagram.Indexings).Draw(t, "indexing"),
		Tiers: []diagram.Tier{
			{Name: "P1", Part: diagram.Pavilion, Angle: angle.Draw(t, "p1"), Indexes: girdle, Stop: diagram.Stop{Kind: diagram.Centre}},
			{Name: "G1", Part: diagram.Girdle, Angle: 90, Indexes: girdle, Stop: diagram.Stop{Kind: diagram.Size, Radius: 0.5}},
			{Name: "G2", Part: diagram.Girdle, Angle: 90, Indexes: half, Stop: diagram.Stop{Kind: diagram.Size, Radius: figure(0.47, 0.55, 0.01).Draw(t, "g2")}},
			{Name: "P2", Part: diagram.Pavilion, Angle: angle.Draw(t, "p2"), Indexes: ring(shift.Draw(t, "s2")), Stop: diagram.Stop{Kind: diagram.Centre, Drop: figure(-0.1, 0.1, 0.005).Draw(t, "drop")}},
			{Name: "C1", Part: diagram.Crown, Angle: angle.Draw(t, "c1"), Indexes: girdle, Stop: diagram.Stop{Kind: diagram.GirdleBand, Thickness: figure(0.01, 0.05, 0.005).Draw(t, "band")}},
			{Name: "C2", Part: diagram.Crown, Angle: angle.Draw(t, "c2"), Indexes: ring(shift.Draw(t, "s3")), Stop: diagram.Stop{Kind: diagram.GirdleBand, Thickness: 0.03}},
			{Name: "T", Part: diagram.Crown, Angle: 0, Indexes: []float64{float64(teeth)}, Stop: diagram.Stop{Kind: diagram.Width, Ratio: figure(0.3, 0.7, 0.01).Draw(t, "table")}},
		},
	}
}

func drawStone(t *rapid.T) *cutting.Stone {
	d := drawDiagram(t)
	require.Empty(t, d.Validate())
	s, err := cutting.Cut(d)
	require.NoError(t, err)
	return s
}

func TestEveryStepIsAClosedConvexSolid(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := drawStone(t)
		volume := math.Inf(1)
		for i, step := range s.After {
			v, e, f := step.Counts()
			require.Equal(t, 2, v-e+f, "V − E + F at step %d", i)
			var sum r3.Vec
			for _, face := range step.Faces() {
				sum = r3.Add(sum, r3.Scale(step.Area(face), face.Plane.Normal))
			}
			require.Less(t, r3.Norm(sum), 1e-9*step.Bounds().Size().X*step.Bounds().Size().X, "area-weighted normals at step %d", i)
			if i > 0 && s.Facets[i-1].Made {
				// It may take a corner so small that no digit of the volume changes.
				face := step.Face(i - 1)
				require.NotNil(t, face, "step %d", i)
				require.Positive(t, step.Area(face), "step %d", i)
			}
			require.LessOrEqual(t, step.Volume(), volume*(1+1e-12), "step %d", i)
			volume = step.Volume()
		}
	})
}

func TestOrderWithinATierIsIrrelevant(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := drawStone(t)
		shuffled := *s.Diagram
		shuffled.Tiers = append([]diagram.Tier{}, s.Diagram.Tiers...)
		for i := range shuffled.Tiers {
			shuffled.Tiers[i].Indexes = rapid.Permutation(shuffled.Tiers[i].Indexes).Draw(t, "order")
		}
		other, err := cutting.Cut(&shuffled)
		require.NoError(t, err)
		require.InDelta(t, s.Measures().Volume, other.Measures().Volume, 1e-10)
		require.Equal(t, s.Measures().Vertices, other.Measures().Vertices)
	})
}

func TestAMirroredDiagramGivesTheMirroredStone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := drawStone(t)
		mirrored := *s.Diagram
		mirrored.Tiers = append([]diagram.Tier{}, s.Diagram.Tiers...)
		for i := range mirrored.Tiers {
			back := make([]float64, len(mirrored.Tiers[i].Indexes))
			for k, index := range s.Diagram.Tiers[i].Indexes {
				back[k] = -index
			}
			mirrored.Tiers[i].Indexes = back
		}
		other, err := cutting.Cut(&mirrored)
		require.NoError(t, err)
		require.Len(t, other.Solid().Vertices(), len(s.Solid().Vertices()))
		var points []r3.Vec
		for _, v := range other.Solid().Vertices() {
			points = append(points, other.Solid().Point(v))
		}
		for _, v := range s.Solid().Vertices() {
			p := s.Solid().Point(v)
			require.True(t, has(points, r3.Vec{X: -p.X, Y: p.Y, Z: p.Z}))
		}
	})
}

// A tangent-ratio stretch by k turns every angle t into atan(k·tan t) and keeps
// every meet, where the girdle stands at 90 and its edges are level.
func TestATangentRatioStretchKeepsAllMeets(t *testing.T) {
	for _, name := range []string{"round", "squarestep", "emerald"} {
		original := load(t, name)
		s, err := cutting.Cut(original)
		require.NoError(t, err)
		for _, k := range []float64{0.8, 1.15} {
			stretched := *original
			stretched.Tiers = append([]diagram.Tier{}, original.Tiers...)
			for i := range stretched.Tiers {
				tier := &stretched.Tiers[i]
				if tier.Part != diagram.Girdle {
					tier.Angle = math.Atan(k*math.Tan(tier.Angle*math.Pi/180)) * 180 / math.Pi
				}
				tier.Stop.Drop *= k
			}
			other, err := cutting.Cut(&stretched)
			require.NoError(t, err)
			a, b := s.Measures(), other.Measures()
			assert.Equal(t, a.Vertices, b.Vertices, name)
			agree(t, k**a.PavilionDepth, *b.PavilionDepth, name+" pavilion")
			agree(t, k**a.CrownHeight, *b.CrownHeight, name+" crown")
			agree(t, *a.TableWidth, *b.TableWidth, name+" table")
		}
	}
}

// On drawn stones the girdle runs up and down; its thickness is found again from all planes and
// the corners of every three of them.
func TestAGirdleIsThickAsPlanesAndCornersSay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := drawStone(t)
		planes := s.Planes()
		part := func(i int) diagram.Part { return s.Diagram.Tiers[s.Facets[i].Tier].Part }
		least, most := math.Inf(1), 0.0
		for _, v := range bruteVertices(planes) {
			at := map[diagram.Part]bool{}
			for i, p := range planes {
				if math.Abs(p.Above(v)) < 1e-7 {
					at[part(i)] = true
				}
			}
			for from, to := range map[diagram.Part]diagram.Part{diagram.Pavilion: diagram.Crown, diagram.Crown: diagram.Pavilion} {
				if !at[diagram.Girdle] || !at[from] {
					continue
				}
				thick := math.Inf(1)
				for i, p := range planes {
					if part(i) == to {
						thick = math.Min(thick, -p.Above(v)/math.Abs(p.Normal.Z))
					}
				}
				least, most = math.Min(least, thick), math.Max(most, thick)
			}
		}
		m := s.Measures()
		if m.GirdleMin == nil {
			require.True(t, math.IsInf(least, 1))
			return
		}
		require.InDelta(t, least, *m.GirdleMin*m.Width, 1e-6)
		require.InDelta(t, most, *m.GirdleMax*m.Width, 1e-6)
	})
}

// manyFacets returns a diagram of the given size: rings of facets that each cut a
// little lower than the last, so that every one of them leaves a face.
func manyFacets(tiers, fold int) *diagram.Diagram {
	d := &diagram.Diagram{
		Format: diagram.Format, Name: "many", Outline: "round", Gear: 360, RefractiveIndex: 1.6,
		FirstSide: diagram.Pavilion, Indexing: diagram.Dialled,
	}
	random := rand.New(rand.NewPCG(1, 2))
	side := func(prefix string, part diagram.Part, n int) {
		for i := range n {
			ring := make([]float64, fold)
			offset := random.Float64() * 360
			for k := range ring {
				ring[k] = offset + float64(k)*360/float64(fold)
			}
			d.Tiers = append(d.Tiers, diagram.Tier{
				Name: prefix + diagram.FormatNumber(float64(i+1)), Part: part,
				Angle: 10 + 70*float64(i)/float64(n), Indexes: ring,
				Stop: diagram.Stop{Kind: diagram.Size, Radius: 0.5},
			})
		}
	}
	side("P", diagram.Pavilion, tiers/2)
	d.Tiers = append(d.Tiers, diagram.Tier{Name: "G", Part: diagram.Girdle, Angle: 90, Indexes: d.Tiers[0].Indexes, Stop: diagram.Stop{Kind: diagram.Size, Radius: 0.5}})
	side("C", diagram.Crown, tiers-tiers/2-1)
	return d
}

func TestTheLargestDiagramStillClosesUp(t *testing.T) {
	d := manyFacets(diagram.MaxTiers, diagram.MaxFacets/diagram.MaxTiers)
	require.Empty(t, d.Validate())
	s, err := cutting.Cut(d)
	require.NoError(t, err)
	v, e, f := s.Solid().Counts()
	assert.Equal(t, 2, v-e+f)
	assert.Greater(t, f, 1000)
}

func BenchmarkCut(b *testing.B) {
	cases := map[string]*diagram.Diagram{
		"round-73-facets": load(b, "round"),
		"400-facets":      manyFacets(50, 8),
		"2000-facets":     manyFacets(400, 5),
	}
	for name, d := range cases {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if _, err := cutting.Cut(d); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
