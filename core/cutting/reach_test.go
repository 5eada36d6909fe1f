package cutting_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

// Every place that is offered must be where the diagram, with that stop written
// into it, really stops; and the stop that the diagram has must be among them.
func TestWhereATierClicksIsWhereItsStopLeads(t *testing.T) {
	for _, name := range examples {
		d := load(t, name)
		exact := mustCut(t, d)
		for no, tier := range d.Tiers {
			pull, err := cutting.PullTier(context.Background(), d, no)
			require.NoError(t, err)
			own := false
			last := pull.From
			for _, r := range pull.Reaches {
				assert.Less(t, r.Distance, last, "%s %s: from outside in", name, tier.Name)
				last = r.Distance
				changed := *d
				changed.Tiers = append([]diagram.Tier{}, d.Tiers...)
				changed.Tiers[no].Stop = r.Stop
				stone, err := cutting.UpTo(&changed, no+1)
				require.NoError(t, err, "%s %s %s", name, tier.Name, r.Stop)
				first := stone.Facets[len(pull.Before.Facets)]
				assert.InDelta(t, r.Distance, first.Plane.D, 1e-8, "%s %s %s", name, tier.Name, r.Stop)
				assert.Less(t, r3.Norm(r3.Sub(first.Target, r.Points[0])), 1e-8)
				own = own || equalPlanes(stone, exact)
			}
			if tier.Stop.Kind == diagram.Meet {
				assert.True(t, own, "%s %s: %s is not offered", name, tier.Name, tier.Stop)
			}
		}
	}
}

func equalPlanes(part, whole *cutting.Stone) bool {
	for i, f := range part.Facets {
		if d := f.Plane.D - whole.Facets[i].Plane.D; d > 1e-8 || d < -1e-8 {
			return false
		}
	}
	return true
}

func TestBetweenMeetsATierStopsByWhatACutterMeasures(t *testing.T) {
	d := load(t, "round")
	exact := mustCut(t, d)
	kinds := map[string]diagram.StopKind{"P1": diagram.Depth, "G1": diagram.Size, "C1": diagram.GirdleBand, "C2": diagram.Depth, "T": diagram.Width}
	for no, tier := range d.Tiers {
		want, ok := kinds[tier.Name]
		if !ok {
			continue
		}
		pull, err := cutting.PullTier(context.Background(), d, no)
		require.NoError(t, err)
		place := len(pull.Before.Facets)
		distance := exact.Facets[place].Plane.D
		stop := pull.StopAt(distance)
		assert.Equal(t, want, stop.Kind, tier.Name)
		changed := *d
		changed.Tiers = append([]diagram.Tier{}, d.Tiers...)
		changed.Tiers[no].Stop = stop
		stone, err := cutting.UpTo(&changed, no+1)
		require.NoError(t, err)
		assert.InDelta(t, distance, stone.Facets[place].Plane.D, 1e-3, "the rounding of the figure, no more")
	}
}

func TestOptionalTiersCanBeLeftOff(t *testing.T) {
	d := load(t, "round")
	off := d.TierNo("C3")
	stone, err := cutting.CutWithout(d, []int{off})
	if err != nil {
		var p diagram.Problem
		require.ErrorAs(t, err, &p)
		assert.Equal(t, cutting.MeetMissing, p.Code, "another tier stops where the one left off would have met")
		return
	}
	assert.Less(t, stone.Measures().Facets, mustCut(t, d).Measures().Facets)
}

func TestHabitsMoveGirdleAndTableOnlyIfTheStoneStaysTheSame(t *testing.T) {
	for _, name := range examples {
		stone := mustCut(t, load(t, name))
		for _, when := range []cutting.When{cutting.First, cutting.Last} {
			arranged, left := cutting.Arrange(stone, when, when)
			agree(t, stone.Measures().Volume, arranged.Measures().Volume, name)
			keptOut := map[string]bool{}
			for _, p := range left {
				keptOut[p.Text] = true
			}
			d := arranged.Diagram
			var ofFirst []diagram.Tier
			for _, tier := range d.Tiers {
				if d.CutWith(tier.Part) == d.FirstSide {
					ofFirst = append(ofFirst, tier)
				}
			}
			at := 0
			if when == cutting.Last {
				at = len(ofFirst) - 1
			}
			if !keptOut["girdle"] {
				assert.Equal(t, diagram.Girdle, ofFirst[at].Part, "%s girdle %s", name, when)
			}
		}
	}
	round := mustCut(t, load(t, "round"))
	first, left := cutting.Arrange(round, cutting.First, cutting.First)
	assert.Empty(t, left, "a round bears both")
	assert.Equal(t, "G1", first.Diagram.Tiers[0].Name)
}
