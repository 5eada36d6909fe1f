package workshop_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/mending"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// chipped is a damage near a corner of the girdle of a stone, in mm.
func chipped(r *workshop.Returned) workshop.RecutAsked {
	_, thickest, _ := r.Stone.Girdle()
	inside := r3.Scale(0.02, r3.Sub(r.Stone.Solid().Centroid(), thickest.High))
	q := r3.Scale(r.MM, r3.Add(thickest.High, inside))
	return workshop.RecutAsked{Damages: []mending.Damage{{Points: []r3.Vec{q}}}, Degrees: 1}
}

// Every way to recut a stone becomes a work: the bench asks for what is cut, and once that is done the stone is the one that was
// promised. What stays is not asked for unless it is polished.
func TestAWayToRecutBecomesAWork(t *testing.T) {
	s := newShop(t)
	d := s.add(t, "First Light")
	of := workshop.CameBack{Diagram: d.ID, WidthMM: 8, Material: choices(8).Material}
	back, err := s.Return(t.Context(), of)
	require.NoError(t, err)
	ask := chipped(back)
	ways, err := back.RecutWays(t.Context(), ask)
	require.NoError(t, err)
	n, turned := 0, 0
	for _, way := range ways.Ways {
		for _, side := range []diagram.Part{diagram.Pavilion, diagram.Crown} {
			chosen := workshop.RecutChosen{Way: way.Kind, FirstSide: side, Name: "ring", Why: "a chip at the girdle"}
			stone, err := s.RecutSo(t.Context(), of, ask, chosen, 0)
			if way.Err != nil {
				require.Error(t, err, way.Kind)
				continue
			}
			require.NoError(t, err, way.Kind)
			assert.Equal(t, way.Kind, stone.Work().Task.(workshop.Recut).Way)
			script, err := s.Script(t.Context(), stone)
			require.NoError(t, err, way.Kind)
			assert.InDelta(t, way.Stone.Solid().Volume(), script.Assessment.Stone.Solid().Volume(), 1e-7, way.Kind)
			assert.InDelta(t, back.Stone.Solid().Volume(), script.Steps[0].Solid.Volume(), 1e-7, "the pictures begin with the stone as it came")
			if way.Place != nil {
				turned++
				linesUpByOldFacets(t, s, back.Stone, stone)
			}
			asked := map[string]bool{}
			for _, v := range script.Visits {
				asked[v.Facet] = true
			}
			assert.Len(t, asked, way.Again, way.Kind)
			stays := 0
			for _, f := range script.Assessment.Asked {
				if f.Stays {
					stays++
				}
			}
			assert.Equal(t, len(script.Facets)-way.Again, stays, "%s: the sheet leaves the same alone", way.Kind)
			for _, v := range script.Visits {
				n++
				e := s.event(stone, n, journal.Done, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet})
				answers, err := s.Append(t.Context(), []journal.Event{e})
				require.NoError(t, err)
				require.Equal(t, workshop.Stored, answers[0].Outcome, answers[0].Reason)
			}
			as, err := s.AsCut(t.Context(), stone, "")
			require.NoError(t, err)
			assert.InDelta(t, way.Stone.Solid().Volume(), as.Cut.Solid().Volume(), 1e-7, way.Kind)
			assert.Empty(t, as.Differences, way.Kind)
		}
	}
	assert.Equal(t, 2, turned, "the largest copy lies turned, whichever side is first")
}

// linesUpByOldFacets tells that a stone that lies turned in the one that came is lined up by the facets of that, where these were
// dialled when it was cut.
func linesUpByOldFacets(t *testing.T, s *shop, old *cutting.Stone, stone workshop.Stone) {
	t.Helper()
	plan := stone.Work().Plan
	script, err := s.Script(t.Context(), stone)
	require.NoError(t, err)
	for i, setup := range plan.Setups {
		side := setup.Side()
		facets, err := s.FlushFacets(t.Context(), stone, setup.ID)
		require.NoError(t, err)
		require.GreaterOrEqual(t, len(facets), 3)
		var found []workshop.FoundFlush
		for _, f := range facets {
			assert.Positive(t, f.Old)
			face := script.Steps[0].Solid.Face(f.Place)
			require.NotNil(t, face, "it is shown in the picture")
			set, err := gear.Dial(face.Plane.Normal, setup.Pose)
			require.NoError(t, err)
			assert.InDelta(t, f.Set.Angle, set.Angle, 1e-9)
			was := false
			for _, g := range old.Facets {
				set, err := gear.Dial(g.Plane.Normal, workshop.UsualPose(side, plan.Choices.Gear, 0))
				require.NoError(t, err)
				was = was || math.Abs(set.Angle-f.Set.Angle) < 1e-6 && (set.Angle == 0 || gear.Same(set.Index, f.Set.Index, plan.Choices.Gear))
			}
			assert.True(t, was, "%+v", f)
			found = append(found, workshop.FoundFlush{Facet: f.ID, Angle: f.Set.Angle, Index: f.Set.Index})
		}
		moved, err := s.TryMoved(t.Context(), stone, setup.ID, found)
		require.NoError(t, err)
		assert.True(t, moved.Fits, "setup %d", i)
		assert.InDelta(t, 0, moved.Tilt, 1e-6)
	}
}

// A stone of the workshop comes back as a repair and goes on as a recut: as its log tells, polished all over. What was written
// down when it came in goes along.
func TestARepairGoesOnAsARecut(t *testing.T) {
	s := newShop(t)
	d := s.add(t, "First Light")
	stone, err := s.PlanStone(t.Context(), "gift", d.ID, choices(8))
	require.NoError(t, err)
	_, err = s.Return(t.Context(), workshop.CameBack{Stone: stone.ID})
	require.ErrorIs(t, err, workshop.ErrNotFinished)
	_, err = s.FinishStone(t.Context(), stone.ID, workshop.Finish{Finished: "2026-10-01", WidthMM: 7.9, FinishedCarats: 1.9})
	require.NoError(t, err)
	stone, err = s.TakeBack(t.Context(), stone.ID, workshop.Intake{Owner: "a donor", Agreed: "as large as it can be", Promised: "2026-12-24"}, stone.Version)
	require.NoError(t, err)

	of := workshop.CameBack{Stone: stone.ID}
	back, err := s.Return(t.Context(), of)
	require.NoError(t, err)
	assert.True(t, back.Logged)
	assert.InDelta(t, 7.9, back.Stone.Measures().Width*back.MM, 1e-9, "calipers know its size")
	ask := chipped(back)
	polish := choices(8).Passes[len(choices(8).Passes)-1].ID
	stone, err = s.RecutSo(t.Context(), of, ask, workshop.RecutChosen{Way: mending.OneFacet, FirstSide: diagram.Pavilion, PolishFrom: polish}, stone.Version)
	require.NoError(t, err)
	require.Len(t, stone.Works, 3)
	assert.NotNil(t, stone.Works[1].Finish, "the repair went on as this")
	assert.Equal(t, "as large as it can be", stone.Work().Task.(workshop.Recut).Intake.Agreed)
	script, err := s.Script(t.Context(), stone)
	require.NoError(t, err)
	visits := map[string]int{}
	for _, v := range script.Visits {
		visits[v.Facet]++
	}
	assert.Len(t, visits, len(back.Planned.Facets))
	once := 0
	for _, n := range visits {
		if n == 1 {
			once++
		}
	}
	assert.Equal(t, len(back.Planned.Facets)-1, once, "all but one are only polished")
	_, err = s.Replan(t.Context(), stone.ID, choices(7), stone.Version)
	var p diagram.Problem
	require.ErrorAs(t, err, &p)
	assert.Equal(t, workshop.RecutFixed, p.Code)

	_, err = s.Return(t.Context(), workshop.CameBack{})
	require.ErrorAs(t, err, &p)
	assert.Equal(t, workshop.NoSuchForm, p.Code)
}
