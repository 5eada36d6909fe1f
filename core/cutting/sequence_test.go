package cutting_test

import (
	"context"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/demo"
)

// shipped returns the starter diagrams and the examples.
func shipped(t require.TestingT) map[string]*diagram.Diagram {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	return all
}

// placesOfFacets returns the distances of a stone by facet name: the order of the tiers
// does not matter.
func placesOfFacets(s *cutting.Stone) map[string]float64 {
	out := map[string]float64{}
	for i, f := range s.Facets {
		out[s.FacetName(i)] = f.Plane.D
	}
	return out
}

func sameFacets(t require.TestingT, want, got *cutting.Stone, within float64) {
	a, b := placesOfFacets(want), placesOfFacets(got)
	require.Len(t, b, len(a))
	for name, d := range a {
		require.InDelta(t, d, b[name], within, name)
	}
}

func without(d *diagram.Diagram, drop func(diagram.Stop) bool) *diagram.Diagram {
	bare := *d
	bare.Tiers = slices.Clone(d.Tiers)
	for i := range bare.Tiers {
		if drop(bare.Tiers[i].Stop) {
			bare.Tiers[i].Stop = diagram.Stop{}
		}
	}
	return &bare
}

func TestAWrongOrderIsFoundAndMendedToTheSameStone(t *testing.T) {
	for name, d := range shipped(t) {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			want := mustCut(t, d)
			judged := cutting.JudgeOrder(context.Background(), d, cutting.Preference{})
			require.True(t, judged.Cuttable)
			require.Empty(t, judged.Problems)
			sameFacets(t, want, judged.Better, 1e-8)

			var asking []int // tiers that need others before them
			for no, tier := range d.Tiers {
				if len(tier.Stop.Refs()) > 0 || tier.Stop.Kind == diagram.GirdleBand {
					asking = append(asking, no)
				}
			}
			for _, no := range []int{0, len(asking) / 2, len(asking) - 1} {
				late := asking[no]
				before := 0
				if refs := d.Tiers[late].Stop.Refs(); len(refs) > 0 {
					before = d.TierNo(refs[len(refs)-1].Tier)
				}
				wrong := *d
				wrong.Tiers = slices.Delete(slices.Clone(d.Tiers), late, late+1)
				wrong.Tiers = slices.Insert(wrong.Tiers, before, d.Tiers[late])
				_, err := cutting.Cut(&wrong)
				require.Error(t, err)

				judged := cutting.JudgeOrder(context.Background(), &wrong, cutting.Preference{})
				assert.False(t, judged.Cuttable)
				require.NotEmpty(t, judged.Problems)
				assert.True(t, slices.ContainsFunc(judged.Problems, func(p diagram.Problem) bool {
					return p.Tier == d.Tiers[late].Name && p.Other != ""
				}), "the tier that was moved asks for what is not there, and some tier makes it")
				require.NotNil(t, judged.Better, "%s before %s", d.Tiers[late].Name, d.Tiers[before].Name)
				sameFacets(t, want, judged.Better, 1e-8)
			}
		})
	}
}

func TestTheBetterOrderKeepsToTheHabits(t *testing.T) {
	d := load(t, "round")
	names := func(q cutting.Sequence) string {
		out := make([]string, len(q.Order))
		for i, no := range q.Order {
			out[i] = d.Tiers[no].Name
		}
		return strings.Join(out, " ")
	}
	drawn := cutting.JudgeOrder(context.Background(), d, cutting.Preference{})
	assert.Equal(t, "P1 G1 P2 C1 C2 C3 T", names(drawn), "nothing to better")
	assert.Equal(t, []int{d.TierNo("G1"), d.TierNo("C1")}, drawn.Free, "size and girdle are measured")
	girdle := cutting.JudgeOrder(context.Background(), d, cutting.Preference{Girdle: cutting.First})
	assert.True(t, strings.HasPrefix(names(girdle), "G1"), names(girdle))
	sameFacets(t, mustCut(t, d), girdle.Better, 1e-8)

	twice := *d
	twice.Tiers = slices.Clone(d.Tiers)
	table := twice.Tiers[len(twice.Tiers)-1]
	twice.Tiers = slices.Insert(twice.Tiers[:len(twice.Tiers)-1], 0, table)
	codes := func(q cutting.Sequence) (out []diagram.Code) {
		for _, p := range q.Problems {
			out = append(out, p.Code)
		}
		return out
	}
	assert.Contains(t, codes(cutting.JudgeOrder(context.Background(), &twice, cutting.Preference{})), cutting.TurnedBack)
}

// The stop that is written for a tier whose distances alone are known must lead there;
// for the diagrams that ship it must be as plain as the one their designer wrote.
func TestStopsAreDerivedFromDistances(t *testing.T) {
	for name, d := range shipped(t) {
		want := mustCut(t, d)
		bare := without(d, func(diagram.Stop) bool { return true })
		got, err := cutting.DeriveStops(bare, want.Distances(), cutting.Exactly)
		require.NoError(t, err, name)
		sameFacets(t, want, got, 1e-9)
		for no, tier := range d.Tiers {
			assert.Equal(t, tier.Stop.Definite(), got.Diagram.Tiers[no].Stop.Definite(), "%s %s: %s", name, tier.Name, got.Diagram.Tiers[no].Stop)
		}
	}
	rapid.Check(t, func(t *rapid.T) {
		want := drawStone(t)
		bare := without(want.Diagram, func(diagram.Stop) bool { return true })
		got, err := cutting.DeriveStops(bare, want.Distances(), cutting.Exactly)
		require.NoError(t, err)
		require.InDelta(t, want.Solid().Volume(), got.Solid().Volume(), 1e-6)
	})
}

// Typed without any instruction, a diagram still says by its angles where facets meet.
// What someone measured or judged by eye cannot be known and is given.
func TestStopsAreGuessedFromTheAnglesAlone(t *testing.T) {
	first, found := 0, 0
	all := shipped(t)
	for name, d := range all {
		want := mustCut(t, d)
		guesses, _, err := cutting.GuessStops(context.Background(), without(d, diagram.Stop.Definite), 6, nil)
		require.NoError(t, err, name)
		for i, g := range guesses {
			a, b := want.Measures(), g.Measures()
			if a.Vertices == b.Vertices && a.Facets == b.Facets && a.Volume-b.Volume < 1e-7 && b.Volume-a.Volume < 1e-7 {
				found++
				if i == 0 {
					first++
				}
				break
			}
		}
	}
	assert.GreaterOrEqual(t, found, len(all)-1, "among the likeliest")
	assert.GreaterOrEqual(t, first, len(all)*3/4, "the likeliest")
	_, status, err := cutting.GuessStops(context.Background(), without(load(t, "round"), func(diagram.Stop) bool { return true }), 1, nil)
	assert.NoError(t, err, "with no figure at all the usual ones are taken")
	assert.Equal(t, cutting.Complete, status)
}

// Out of time, a search gives the best it has and says that it was stopped.
func TestASearchOutOfTimeGivesItsBest(t *testing.T) {
	over, done := context.WithDeadline(context.Background(), time.Unix(0, 0))
	defer done()
	d := shipped(t)["Deep Field"]
	guesses, status, err := cutting.GuessStops(over, without(d, diagram.Stop.Definite), 6, nil)
	require.NoError(t, err)
	assert.Equal(t, cutting.Stopped, status)
	assert.Len(t, guesses, 1)
	wrong := *d
	wrong.Tiers = slices.Clone(d.Tiers)
	wrong.Tiers[1], wrong.Tiers[2] = wrong.Tiers[2], wrong.Tiers[1]
	assert.Equal(t, cutting.Stopped, cutting.JudgeOrder(over, &wrong, cutting.Preference{}).Status)
	left, leave := context.WithCancel(context.Background())
	leave()
	_, _, err = cutting.GuessStops(left, d, 6, nil)
	assert.ErrorIs(t, err, context.Canceled, "nobody waits for it any more")
}

// How long a person waits for an order, mended and guessed, against one cut of the stone.
func BenchmarkJudging(b *testing.B) {
	for _, name := range []string{"First Light", "Deep Field"} {
		d := shipped(b)[name]
		wrong := *d
		wrong.Tiers = slices.Clone(d.Tiers)
		wrong.Tiers[1], wrong.Tiers[2] = wrong.Tiers[2], wrong.Tiers[1]
		bare := without(d, diagram.Stop.Definite)
		b.Run("cut "+name, func(b *testing.B) {
			for b.Loop() {
				mustCut(b, d)
			}
		})
		b.Run("mend "+name, func(b *testing.B) {
			for b.Loop() {
				require.NotNil(b, cutting.JudgeOrder(context.Background(), &wrong, cutting.Preference{}).Better)
			}
		})
		b.Run("guess "+name, func(b *testing.B) {
			for b.Loop() {
				_, _, err := cutting.GuessStops(context.Background(), bare, 6, nil)
				require.NoError(b, err)
			}
		})
	}
}
