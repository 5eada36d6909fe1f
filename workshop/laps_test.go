package workshop_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// runsOf tells the runs of a stone's work: the pass, whether it is on the adapter, and its tiers.
func runsOf(t *testing.T, s *shop, stone workshop.Stone) []string {
	t.Helper()
	script, err := s.Script(t.Context(), stone)
	require.NoError(t, err)
	var out []string
	pass, tier := "", ""
	for _, v := range script.Visits {
		is := v.Setup + v.Pass
		if v.Adapter {
			is += " on the adapter"
		}
		if is != pass {
			out, pass, tier = append(out, v.Pass), is, ""
			if v.Adapter {
				out[len(out)-1] += " on the adapter"
			}
			out[len(out)-1] += ":"
		}
		if of := script.Facets[v.FacetNo].Tier; of != tier {
			out[len(out)-1] += " " + of
			tier = of
		}
	}
	return out
}

func TestEveryTierGetsItsOwnLaps(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	c := choices(8)
	c.TableAt = workshop.TableEach
	stone, err := s.PlanStone(ctx, "test", s.add(t, "Spiral Arm").ID, c)
	require.NoError(t, err)
	assert.Equal(t, []string{
		"cut: P1 G1 P2", "prepolish: P1 G1 P2", "polish: P1 G1 P2",
		"cut: C1 C2 T", "prepolish: C1 C2 T", "polish: C1 C2 T",
	}, runsOf(t, s, stone))

	c.TableAt = workshop.TableThrough
	c.Passes = append(c.Passes[:1:1], append([]workshop.Pass{{ID: "fine", Name: "Fine", Lap: "1200"}}, c.Passes[1:]...)...)
	c.Uses = []workshop.LapUse{
		{Group: workshop.GirdleLaps, Without: []string{"prepolish", "polish"}},
		{Group: workshop.CrownLaps, Without: []string{"fine"}},
		{Group: workshop.CrownLaps, Tier: "C2", Without: []string{"cut"}},
		{Group: workshop.TableLaps, Without: []string{"cut"}},
	}
	stone, err = s.Replan(ctx, stone.ID, c, stone.Version)
	require.NoError(t, err)
	assert.Equal(t, []string{
		"cut: P1 G1 P2", "fine: P1 G1 P2", "prepolish: P1 P2", "polish: P1 P2",
		"cut: C1", "fine: C2", "prepolish: C1 C2", "polish: C1 C2",
		"fine on the adapter: T", "prepolish on the adapter: T", "polish on the adapter: T",
	}, runsOf(t, s, stone))
	a, err := s.AssessStone(ctx, stone)
	require.NoError(t, err)
	assert.True(t, c.Frosted(a.Stone.Diagram), "the girdle keeps light")

	// A table that is cut first goes through its laps first; ticks stay with it.
	script, err := s.Script(ctx, stone)
	require.NoError(t, err)
	last := script.Visits[len(script.Visits)-1]
	s.append(t, s.event(stone, 1, journal.Done, journal.Visit{Setup: last.Setup, Pass: last.Pass, Facet: last.Facet}))
	c.Table, c.Uses = "first", nil
	stone, err = s.Replan(ctx, stone.ID, c, stone.Version)
	require.NoError(t, err)
	assert.Contains(t, runsOf(t, s, stone)[4], "on the adapter: T")
	assert.Equal(t, 1, s.state(t, stone.ID).Done)

	// The bench's machine has no adapter: the table is a facet like others.
	settings, err := s.Settings(ctx)
	require.NoError(t, err)
	settings.Machines[0].TableAdapter = 0
	_, err = s.SaveSettings(ctx, settings)
	require.NoError(t, err)
	stone, err = s.Replan(ctx, stone.ID, c, stone.Version)
	require.NoError(t, err)
	assert.Len(t, runsOf(t, s, stone), 8)
}

func TestLapsThatCannotBeAreRefused(t *testing.T) {
	s := newShop(t)
	d := s.add(t, "Spiral Arm")
	for _, c := range []struct {
		uses []workshop.LapUse
		want diagram.Code
	}{
		{[]workshop.LapUse{{Group: workshop.GirdleLaps, Without: []string{"cut", "prepolish", "polish"}}}, workshop.NoPass},
		// P2 stops at meets that G1 makes.
		{[]workshop.LapUse{{Group: workshop.GirdleLaps, Without: []string{"cut"}}}, workshop.StartsLater},
	} {
		with := choices(8)
		with.Uses = c.uses
		_, err := s.Assess(t.Context(), d.ID, "", with)
		var p diagram.Problem
		require.ErrorAs(t, err, &p)
		assert.Equal(t, c.want, p.Code)
	}
}

// A last pass that names neither lap nor compound gets what the material is polished with; a
// cutter's own stays.
func TestThePolishSuitsTheMaterial(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	d := s.add(t, "Spiral Arm")
	c, err := s.Propose(ctx, d.ID, "")
	require.NoError(t, err)
	settings, err := s.Settings(ctx)
	require.NoError(t, err)
	m, ok := settings.Material(c.Material)
	require.True(t, ok)
	lap, compound := m.Polish.Usual()
	assert.Equal(t, workshop.Pass{ID: "polish", Name: "Polish", Lap: lap, Compound: compound}, c.Passes[2])
	assert.NotEmpty(t, lap)
	settings.Habits[0].Passes[2].Lap = "my old tin"
	_, err = s.SaveSettings(ctx, settings)
	require.NoError(t, err)
	c, err = s.Propose(ctx, d.ID, "")
	require.NoError(t, err)
	assert.Equal(t, workshop.Pass{ID: "polish", Name: "Polish", Lap: "my old tin"}, c.Passes[2])
}

// Whoever goes without whichever passes: every facet is visited once in each of its passes, in their
// order, with its tier; facets are listed in the order of their first cut; and the table leaves its
// adapter only when it is through.
func TestRunsAreWhatTheLapsSay(t *testing.T) {
	s := newShop(t)
	all := s.starters(t)
	rapid.Check(t, func(t *rapid.T) {
		d := rapid.SampledFrom(all).Draw(t, "diagram")
		stone, err := cutting.Cut(d)
		require.NoError(t, err)
		p := workshop.Plan{Choices: choices(8), Machine: workshop.DefaultMachine()}
		p.Choices.Gear, p.Choices.FirstSide, p.Choices.PlanHabits = d.Gear, d.FirstSide, workshop.DefaultHabits().PlanHabits
		p.Choices.TableAt = rapid.SampledFrom([]workshop.TableAt{workshop.TableThrough, workshop.TableEach}).Draw(t, "table")
		p.Choices.Uses = nil
		for _, tier := range d.Tiers {
			without := rapid.SliceOfNDistinct(rapid.SampledFrom([]string{"cut", "prepolish", "polish"}), 0, 2, rapid.ID).Draw(t, "without")
			p.Choices.Uses = append(p.Choices.Uses, workshop.LapUse{Group: workshop.GroupOf(tier), Tier: tier.Name, Without: without})
		}
		names := make([]workshop.FacetID, len(stone.Facets))
		for i := range names {
			names[i] = fmt.Sprint("f", i)
		}
		p.LayOut(d, []string{"s1", "s2"}, names)

		tiers := map[workshop.FacetID]diagram.Tier{}
		var listed, first []workshop.FacetID
		for _, f := range p.Facets {
			tiers[f.ID] = d.Tiers[f.Tier]
			listed = append(listed, f.ID)
		}
		require.Len(t, tiers, len(stone.Facets))
		got := map[workshop.FacetID][]string{}
		adapters := 0
		for i, run := range p.Runs {
			for _, id := range run.Facets {
				if got[id] == nil {
					first = append(first, id)
				}
				got[id] = append(got[id], run.Pass)
				require.Equal(t, run.Adapter, p.Choices.TableAt == workshop.TableThrough && workshop.GroupOf(tiers[id]) == workshop.TableLaps)
			}
			if run.Adapter && (i == 0 || !p.Runs[i-1].Adapter) {
				adapters++
			}
		}
		require.Equal(t, listed, first)
		require.LessOrEqual(t, adapters, 1)
		for id, passes := range got {
			var want []string
			for _, pass := range p.Choices.Of(tiers[id]) {
				want = append(want, pass.ID)
			}
			require.Equal(t, want, passes, "%s of %s", id, tiers[id].Name)
		}
	})
}
