package cutting_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/polyhedron"
)

// A cube takes two dop-ups where its sides may stand upright and six where none may; every facet is reached in one of them.
func TestASolidIsHeldAsOftenAsItNeeds(t *testing.T) {
	for _, c := range []struct {
		kind     polyhedron.Kind
		steepest float64
		times    int
	}{{polyhedron.Cube, 90, 2}, {polyhedron.Cube, 60, 6}, {polyhedron.Dodecahedron, 70, 2}, {polyhedron.Dodecahedron, 60, 12}, {polyhedron.Octahedron, 80, 2}} {
		shape, err := polyhedron.Rule{Kind: c.kind, Pose: polyhedron.FaceUp}.Shape()
		require.NoError(t, err)
		placed, err := shape.Place(t.Context(), polyhedron.Placing{Up: r3.Vec{Z: 1}, Gear: 96, RefractiveIndex: 1.5})
		require.NoError(t, err)
		ups := placed.Stone.DopUps(c.steepest)
		assert.Len(t, ups, c.times, "%s at %v", c.kind, c.steepest)
		for _, f := range placed.Stone.Facets {
			nearest := 180.0
			for _, up := range ups {
				cos := r3.Dot(f.Plane.Normal, placed.Stone.Facets[up].Plane.Normal)
				nearest = min(nearest, math.Acos(max(-1, min(1, cos)))*180/math.Pi)
			}
			assert.LessOrEqual(t, nearest, c.steepest+1e-6)
		}
	}
}

// An eased cube that is held by its six faces has nothing to meet when its first faces are cut: those are measured from its middle, the
// ones opposite across it. Each dop-up is turned so that a gear that carries its facets is dialled without a cheat.
func TestAFaceWithNothingToMeetIsMeasured(t *testing.T) {
	cube, err := polyhedron.Rule{Kind: polyhedron.Cube, Pose: polyhedron.FaceUp}.Shape()
	require.NoError(t, err)
	eased, err := cube.Eased(0.1, 0)
	require.NoError(t, err)
	placed, err := eased.Place(t.Context(), polyhedron.Placing{Up: r3.Vec{Z: 1}, Gear: 96, RefractiveIndex: 1.5})
	require.NoError(t, err)
	stone := placed.Stone
	ups := stone.DopUps(60)
	held := stone.HeldBy(ups)
	across := stone.Measures().Width
	free := held.Free()
	measured := 0
	for no, up := range ups {
		assert.Equal(t, no, held.In[up], "what faces up is cut then")
		if free[up] == nil {
			continue
		}
		assert.InDelta(t, across/2, free[up].Distance, 1e-9)
		if free[up].Across != 0 {
			measured++
			assert.InDelta(t, across, free[up].Across, 1e-9)
		}
	}
	assert.Equal(t, 3, measured, "each second one of a pair")
	assert.Zero(t, held.Fit(96).LargestCheat)
	assert.Equal(t, stone.Planes(), held.AtWholeTeeth(96))
	best, ok := held.ProposeGear()
	assert.True(t, ok)
	assert.Zero(t, held.Fit(best.Teeth).LargestCheat)
	assert.NotZero(t, held.Fit(77).LargestCheat)
	assert.Equal(t, 96, held.RankGears([]int{77, 96})[0].Teeth)
}
