package mending_test

import (
	"cmp"
	"encoding/json"
	"maps"
	"math"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/mending"
	"cressa/core/solid"
	"cressa/demo"
)

// example is a stone of the contracts.
func example(t *testing.T, name string) *cutting.Stone {
	t.Helper()
	text, err := os.ReadFile("../cutting/testdata/" + name + ".cressa.json")
	require.NoError(t, err)
	d := &diagram.Diagram{}
	require.NoError(t, json.Unmarshal(text, d))
	d.FillDefaults()
	s, err := cutting.Cut(d)
	require.NoError(t, err)
	return s
}

// roundAt8 is the round of the contracts at a width of 8 mm.
func roundAt8(t *testing.T) (s *cutting.Stone, mm float64) {
	t.Helper()
	s = example(t, "round")
	return s, 8 / s.Measures().Width
}

// standing is a stone of whose tiers some are cut, as planned.
func standing(s *cutting.Stone, cut func(tier string) bool) *mending.Standing {
	out := &mending.Standing{Plan: s}
	for _, f := range s.Facets {
		d := math.NaN()
		if cut(s.Diagram.Tiers[f.Tier].Name) {
			d = f.Plane.D
		}
		out.Cut, out.Most = append(out.Cut, d), append(out.Most, math.Inf(1))
	}
	return out
}

func facet(t require.TestingT, s *cutting.Stone, name string) int {
	for i := range s.Facets {
		if s.FacetName(i) == name {
			return i
		}
	}
	require.Fail(t, "no facet "+name)
	return -1
}

// figures are what a way comes to, in mm, per cent and µm.
type figures struct {
	kind              mending.Kind
	scale             float64
	shift             r3.Vec
	again             int
	lost, girdle, gap float64
}

func agree(t *testing.T, plan *cutting.Stone, mm float64, want figures, w mending.Way) {
	t.Helper()
	require.NoError(t, w.Err, want.kind)
	assert.Equal(t, want.kind, w.Kind)
	thinnest, _, _ := w.Stone.Girdle()
	assert.Equal(t, want.again, w.Again, want.kind)
	assert.InDelta(t, want.lost, 100*(1-w.Stone.Solid().Volume()/plan.Solid().Volume()), 6e-4, want.kind)
	assert.InDelta(t, want.girdle, thinnest.Thickness()*mm, 6e-4, want.kind)
	if want.gap > 0 {
		assert.InDelta(t, want.gap, w.Gap*mm*1000, 0.6, want.kind)
	}
	if want.scale > 0 {
		assert.InDelta(t, want.scale, *w.Scale, 6e-7, want.kind)
		assert.InDelta(t, 0, r3.Norm(r3.Sub(want.shift, r3.Scale(mm, *w.Shift))), 1e-4, want.kind)
	}
}

func TestTheWaysOutOfAnOvercutRound(t *testing.T) {
	s, mm := roundAt8(t)
	all := standing(s, func(string) bool { return true })
	all.Cut[facet(t, s, "P2@12")] -= 0.05 / mm
	for i, w := range all.Ways(mm) {
		agree(t, s, mm, []figures{
			{kind: mending.Leave, lost: 0.188, girdle: 0.091, gap: 766},
			{kind: mending.Tier, again: 7, lost: 1.431, girdle: 0.091, gap: 766},
			{kind: mending.Side, scale: 1, shift: r3.Vec{Z: 0.0663}, again: 23, lost: 3.066, girdle: 0.091},
			{kind: mending.Smaller, scale: 0.986525, shift: r3.Vec{Z: 0.0678}, again: 71, lost: 3.988, girdle: 0.155},
			{kind: mending.Largest, scale: 0.990684, shift: r3.Vec{X: 0.0264, Y: -0.0264, Z: 0.0350}, again: 67, lost: 2.769, girdle: 0.155},
		}[i], w)
	}

	some := standing(s, func(tier string) bool { return slices.Contains([]string{"P1", "G1", "P2"}, tier) })
	some.Cut[facet(t, s, "P2@12")] -= 0.05 / mm
	ways := some.Ways(mm)
	agree(t, s, mm, figures{kind: mending.Tier, again: 7, lost: -1.635, girdle: 0.157}, ways[1])
	for i, kind := range []mending.Kind{mending.Side, mending.Smaller, mending.Largest} {
		agree(t, s, mm, figures{kind: kind, scale: 1, shift: r3.Vec{Z: 0.0663}, again: 23, girdle: 0.157}, ways[2+i])
	}
}

// drawnStone returns what draws one of the diagrams that ship, but for those of more than a hundred facets: they take most of the
// time and show nothing new.
func drawnStone(t *testing.T) func(*rapid.T) *cutting.Stone {
	t.Helper()
	all, err := demo.Diagrams()
	require.NoError(t, err)
	stones := make([]*cutting.Stone, 0, len(all))
	for _, name := range slices.Sorted(maps.Keys(all)) {
		s, err := cutting.Cut(all[name])
		require.NoError(t, err)
		if len(s.Facets) <= 100 {
			stones = append(stones, s)
		}
	}
	return func(t *rapid.T) *cutting.Stone { return rapid.SampledFrom(stones).Draw(t, "diagram") }
}

// Whatever went wrong, what a way leaves lies inside the stone as it was, reaches every facet that is too deep, and takes off
// what it says; the planned shape is never larger about its axis than anywhere.
func TestAMendedStoneLiesInsideTheStoneAsItWas(t *testing.T) {
	t.Parallel()
	drawn := drawnStone(t)
	rapid.Check(t, func(t *rapid.T) {
		s := drawn(t)
		until := rapid.IntRange(1, len(s.Diagram.Tiers)).Draw(t, "tiers")
		at := standing(s, func(tier string) bool { return s.Diagram.TierNo(tier) < until })
		var cut []int
		for i := range s.Facets {
			if !math.IsNaN(at.Cut[i]) {
				cut = append(cut, i)
			}
		}
		for range rapid.IntRange(1, 3).Draw(t, "wrong") {
			by := rapid.Float64Range(0.0005, 0.02).Draw(t, "by")
			i := rapid.SampledFrom(cut).Draw(t, "facet")
			f := s.Facets[i]
			switch rapid.SampledFrom([]string{"too deep", "pit", "beside"}).Draw(t, "what") {
			case "too deep":
				at.Cut[i] = f.Plane.D - by
			case "pit":
				at.Most[i] = f.Plane.D - by
			default:
				tier := s.Diagram.Tiers[f.Tier]
				wrong := diagram.Normal(tier.Part, tier.Angle, f.Azimuth+rapid.Float64Range(-8, 8).Draw(t, "teeth"))
				at.Beside = append(at.Beside, cutting.Beside{Facet: i, Plane: f.AtStop(wrong)})
			}
		}
		volumes := map[mending.Kind]float64{}
		kind := rapid.SampledFrom([]mending.Kind{mending.Leave, mending.Tier, mending.Side, mending.Smaller, mending.Largest}).Draw(t, "weighed")
		for _, w := range at.Ways(8) {
			if w.Err != nil {
				continue
			}
			volumes[w.Kind] = w.Stone.Solid().Volume()
			if w.Kind == kind {
				assert.InEpsilon(t, sliced(w.Stone.Solid()), volumes[w.Kind], 1e-6, "weight after %s", w.Kind)
			}
			for _, b := range at.Beside {
				assert.LessOrEqual(t, reach(w.Stone.Solid(), b.Plane.Normal), b.Plane.D+1e-7, "%s beside %s", w.Kind, s.FacetName(b.Facet))
				if w.Kind != mending.Leave {
					assert.Nil(t, w.Stone.Solid().Face(len(s.Facets)), "%s leaves what was cut beside", w.Kind)
				}
			}
			for _, i := range cut {
				reach := reach(w.Stone.Solid(), s.Facets[i].Plane.Normal)
				assert.LessOrEqual(t, reach, at.Cut[i]+1e-7, "%s %s", w.Kind, s.FacetName(i))
				if w.Kind != mending.Leave {
					assert.LessOrEqual(t, reach, at.Most[i]+1e-7, "%s %s", w.Kind, s.FacetName(i))
				}
				if w.Stone.Facets[i].Made {
					assert.InDelta(t, at.Cut[i]-w.Take[i], w.Stone.Facets[i].Plane.D, 1e-7, "%s %s", w.Kind, s.FacetName(i))
				} else {
					assert.Zero(t, w.Take[i])
				}
			}
		}
		if volumes[mending.Smaller] > 0 {
			assert.GreaterOrEqual(t, volumes[mending.Largest], volumes[mending.Smaller]-1e-9)
		}
	})
}

// sliced is the volume of a solid by level sections: between two levels of corners the area is a quadratic of the height, so
// Simpson's rule has it exactly. A section is the square around all that the planes of the faces clip, with no regard to loops.
func sliced(s *solid.Solid) float64 {
	levels := []float64{}
	for _, v := range s.Vertices() {
		levels = append(levels, s.Point(v).Z)
	}
	slices.Sort(levels)
	sum := 0.0
	for i := 1; i < len(levels); i++ {
		low, high := levels[i-1], levels[i]
		if high-low > 1e-12 {
			sum += (high - low) / 6 * (section(s, low) + 4*section(s, (low+high)/2) + section(s, high))
		}
	}
	return sum
}

func section(s *solid.Solid, z float64) float64 {
	const far = 50
	loop := []r3.Vec{{X: -far, Y: -far, Z: z}, {X: far, Y: -far, Z: z}, {X: far, Y: far, Z: z}, {X: -far, Y: far, Z: z}}
	for _, f := range s.Faces() {
		var left []r3.Vec
		for i, p := range loop {
			q := loop[(i+1)%len(loop)]
			a, b := f.Plane.Above(p), f.Plane.Above(q)
			if a <= 0 {
				left = append(left, p)
			}
			if (a < 0) != (b < 0) && a != 0 && b != 0 {
				left = append(left, r3.Add(p, r3.Scale(a/(a-b), r3.Sub(q, p))))
			}
		}
		loop = left
	}
	area := 0.0
	for i, p := range loop {
		q := loop[(i+1)%len(loop)]
		area += (p.X*q.Y - q.X*p.Y) / 2
	}
	return area
}

// reach is how far a solid goes along a direction.
func reach(s *solid.Solid, n r3.Vec) float64 {
	out := math.Inf(-1)
	for _, v := range s.Vertices() {
		out = max(out, r3.Dot(n, s.Point(v)))
	}
	return out
}

func chipped(s *cutting.Stone, mm float64) *mending.Returned {
	return &mending.Returned{Stone: s, Damages: []mending.Damage{{Points: []r3.Vec{r3.Scale(1/mm, r3.Vec{X: -0.7361, Y: 3.7008, Z: 3.7457})}}}}
}

func TestTheWaysToRecutAChippedRound(t *testing.T) {
	s, mm := roundAt8(t)
	back := chipped(s, mm)
	ways, err := back.Ways(mm)
	require.NoError(t, err)
	for i, want := range []figures{
		{kind: mending.OneFacet, again: 1, lost: 0.076, girdle: 0.157},
		{kind: mending.Flank, again: 3, lost: 0.709, girdle: 0.157},
		{kind: mending.Round, again: 72, lost: 10.058, girdle: 0.157, gap: 117},
		{kind: mending.Side, again: 33, lost: 6.102, girdle: 0.025},
	} {
		agree(t, s, mm, want, ways[i])
	}
	still, err := back.Largest(t.Context(), mm, 0)
	require.NoError(t, err)
	assert.InDelta(t, 0.981029, *still.Scale, 6e-7)
	turned, err := back.Largest(t.Context(), mm, 3)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, *turned.Scale, 0.98267)

	back.Protected = make([]bool, len(s.Facets))
	back.Protected[facet(t, s, "G1@3")] = true
	ways, err = back.Ways(mm)
	require.NoError(t, err)
	assert.NoError(t, ways[0].Err, "another facet")
	require.ErrorIs(t, ways[2].Err, mending.ErrProtected)
	none, err := back.Largest(t.Context(), mm, 3)
	require.NoError(t, err)
	require.ErrorIs(t, none.Err, mending.ErrProtected)
	back.Damages = append(back.Damages, mending.Damage{Points: []r3.Vec{s.Solid().Centroid()}})
	_, err = back.Ways(mm)
	require.ErrorIs(t, err, mending.ErrTooDeep)
}

// What a recut leaves lies inside the stone as it came, with every damage outside of one of its planes; no other facet loses
// less than the one that is lowered.
func TestARecutTakesAllDamageOut(t *testing.T) {
	t.Parallel()
	drawn := drawnStone(t)
	rapid.Check(t, func(t *rapid.T) {
		s := drawn(t)
		back := &mending.Returned{Stone: s}
		body := s.Solid()
		for range rapid.IntRange(1, 3).Draw(t, "damages") {
			// Near a corner, or along an edge: below the surface by a little.
			f := rapid.SampledFrom(body.Faces()).Draw(t, "face")
			k := rapid.IntRange(0, len(f.Loop)-1).Draw(t, "corner")
			inwards := func(v int) r3.Vec {
				p := body.Point(v)
				return r3.Add(p, r3.Scale(rapid.Float64Range(0.002, 0.03).Draw(t, "deep"), r3.Sub(body.Centroid(), p)))
			}
			d := mending.Damage{Points: []r3.Vec{inwards(f.Loop[k])}, Clearance: rapid.Float64Range(0, 0.002).Draw(t, "clearance")}
			if rapid.Bool().Draw(t, "edge") {
				d.Points = append(d.Points, inwards(f.Loop[(k+1)%len(f.Loop)]))
			}
			back.Damages = append(back.Damages, d)
		}
		ways, err := back.Ways(8)
		if err != nil {
			t.Skip("too deep")
		}
		if rapid.IntRange(0, 11).Draw(t, "turned") == 0 { // the search takes long
			turned, err := back.Largest(t.Context(), 8, 3)
			require.NoError(t, err)
			ways = append(ways, turned)
		}
		for _, w := range ways {
			if w.Err != nil {
				continue
			}
			at := func(p r3.Vec) r3.Vec { return p }
			if w.Place != nil {
				at = func(p r3.Vec) r3.Vec { return w.Place.Point(r3.Scale(1/w.Place.Scale, p)) }
			}
			now := w.Stone.Solid()
			for _, v := range now.Vertices() {
				for _, f := range body.Faces() {
					assert.LessOrEqual(t, f.Plane.Above(at(now.Point(v))), 1e-7, w.Kind)
				}
			}
			for _, d := range back.Damages {
				assert.True(t, slices.ContainsFunc(now.Faces(), func(f *solid.Face) bool {
					// The plane through three corners of the face, where it lies in the stone as it came.
					a, b, c := at(now.Point(f.Loop[0])), at(now.Point(f.Loop[1])), at(now.Point(f.Loop[len(f.Loop)-1]))
					p := solid.Through(r3.Unit(r3.Cross(r3.Sub(b, a), r3.Sub(c, a))), a)
					for _, q := range d.Points {
						if p.Above(q) < d.Clearance-1e-6 {
							return false
						}
					}
					return true
				}) || gone(body, d), "%s", w.Kind)
			}
		}
		if len(back.Damages) == 1 && ways[0].Err == nil {
			most := 0.0
			for _, f := range body.Faces() {
				p := f.Plane
				for _, q := range back.Damages[0].Points {
					p.D = min(p.D, r3.Dot(p.Normal, q)-back.Damages[0].Clearance)
				}
				if after, outcome := body.Cut(1<<20, p); outcome == solid.Made {
					most = max(most, after.Volume())
				}
			}
			assert.GreaterOrEqual(t, ways[0].Stone.Solid().Volume(), most-1e-9)
		}
	})
}

// gone tells whether a damage lies outside of a stone already.
func gone(s *solid.Solid, d mending.Damage) bool {
	return slices.ContainsFunc(s.Faces(), func(f *solid.Face) bool {
		return !slices.ContainsFunc(d.Points, func(q r3.Vec) bool { return f.Plane.Above(q) < d.Clearance })
	})
}

// Every slip by a tooth and every tier in the other sense, planted in each diagram that ships, is among those that are found, with
// the stone that comes of it.
func TestAPlantedSlipIsFound(t *testing.T) {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	for name, d := range all {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			s, err := cutting.Cut(d)
			require.NoError(t, err)
			slips, err := mending.Slips(t.Context(), s, []int{64, 72, 96})
			require.NoError(t, err)
			for no, tier := range d.Tiers {
				for what, dialled := range map[string]func(index float64) float64{
					"a tooth on":  func(index float64) float64 { return index + 1 },
					"other sense": func(index float64) float64 { return float64(d.Gear) - index },
				} {
					planes := s.Planes()
					for i, f := range s.Facets {
						if f.Tier == no {
							planes[i].Normal = diagram.Normal(tier.Part, tier.Angle, d.Azimuth(tier.Part, dialled(f.Index)))
						}
					}
					planted, err := s.WithPlanes(planes)
					if err != nil || planted.ShowsBlock() || sameStone(planted, s.Solid()) {
						continue
					}
					assert.True(t, slices.ContainsFunc(slips, func(x mending.Slip) bool { return sameStone(planted, x.Stone.Solid()) }),
						"%s %s", tier.Name, what)
				}
			}
		})
	}
}

func sameStone(a, b *solid.Solid) bool {
	va, vb := a.Vertices(), b.Vertices()
	return len(va) == len(vb) && !slices.ContainsFunc(va, func(v int) bool {
		return !slices.ContainsFunc(vb, func(w int) bool { return r3.Norm(r3.Sub(a.Point(v), b.Point(w))) < 1e-6 })
	})
}

// A facet that is added takes the damage out where it can be dialled, and a diagram with it gives the same stone. Corners are cut
// off all alike, and a round stone has none.
func TestFacetsAreAddedWhereTheyTakeTheDamageOut(t *testing.T) {
	dials := mending.Dials{Teeth: 96, Step: 0.1}
	lost := func(s *cutting.Stone, w mending.Way) float64 { return 1 - w.Stone.Solid().Volume()/s.Solid().Volume() }
	s, mm := roundAt8(t)
	ways, err := chipped(s, mm).Adding(mm, dials)
	require.NoError(t, err)
	require.ErrorIs(t, ways[0].Err, mending.ErrNoCorner)
	require.Len(t, ways[1].Added, 1)
	assert.Less(t, lost(s, ways[1]), 0.00076, "less than any facet that is there")
	with := mending.AddedTiers(s.Diagram, ways[1].Added)
	cut, err := cutting.Cut(with)
	require.NoError(t, err)
	assert.True(t, sameStone(cut.Solid(), ways[1].Stone.Solid()))
	assert.Equal(t, diagram.Crown, with.Tiers[len(with.Tiers)-1].Part)
	assert.InDelta(t, 0, math.Remainder(with.Tiers[len(with.Tiers)-1].Angle, 0.1), 1e-9)

	step := example(t, "squarestep")
	out := func(v int) float64 { return math.Hypot(step.Solid().Point(v).X, step.Solid().Point(v).Y) }
	corner := slices.MaxFunc(step.Solid().Vertices(), func(a, b int) int { return cmp.Compare(out(a), out(b)) })
	inside := r3.Scale(0.03, r3.Sub(step.Solid().Centroid(), step.Solid().Point(corner)))
	damage := mending.Damage{Points: []r3.Vec{r3.Add(step.Solid().Point(corner), inside)}}
	ways, err = (&mending.Returned{Stone: step, Damages: []mending.Damage{damage}}).Adding(8, dials)
	require.NoError(t, err)
	require.NoError(t, ways[0].Err)
	require.Len(t, ways[0].Added, 8)
	assert.True(t, gone(ways[0].Stone.Solid(), damage))
	with = mending.AddedTiers(step.Diagram, ways[0].Added)
	require.Len(t, with.Tiers, len(step.Diagram.Tiers)+1, "one tier for all corners")
	cut, err = cutting.Cut(with)
	require.NoError(t, err)
	assert.True(t, sameStone(cut.Solid(), ways[0].Stone.Solid()))
}

// The ways out of an overcut on the largest diagram that ships, of 217 facets, and those to recut it.
func BenchmarkWays(b *testing.B) {
	all, err := demo.Diagrams()
	require.NoError(b, err)
	s, err := cutting.Cut(all["Deep Field"])
	require.NoError(b, err)
	require.Len(b, s.Facets, 217)
	mm := 10 / s.Measures().Width
	b.Run("overcut", func(b *testing.B) {
		at := standing(s, func(string) bool { return true })
		at.Cut[20] -= 0.05 / mm
		for b.Loop() {
			for _, w := range at.Ways(mm) {
				require.NoError(b, w.Err)
			}
		}
	})
	b.Run("flaw", func(b *testing.B) {
		at := standing(s, func(string) bool { return true })
		at.Points = []r3.Vec{r3.Sub(s.Solid().Middle(s.Solid().Face(20)), r3.Scale(0.05/mm, s.Facets[20].Plane.Normal))}
		for b.Loop() {
			at.Ways(mm)
		}
	})
	b.Run("recut", func(b *testing.B) {
		_, thickest, _ := s.Girdle()
		chip := r3.Add(thickest.High, r3.Scale(0.02, r3.Sub(s.Solid().Centroid(), thickest.High)))
		back := &mending.Returned{Stone: s, Damages: []mending.Damage{{Points: []r3.Vec{chip}}}}
		for b.Loop() {
			_, err := back.Ways(mm)
			require.NoError(b, err)
			_, err = back.Adding(mm, mending.Dials{Teeth: 96, Step: 0.1})
			require.NoError(b, err)
			_, err = back.Largest(b.Context(), mm, 3)
			require.NoError(b, err)
		}
	})
}
