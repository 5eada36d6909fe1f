package gear_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"cressa/core/gear"
)

func TestIndexesOnAnotherGear(t *testing.T) {
	for _, c := range []struct {
		index float64
		from  int
		to    int
		tooth int
		cheat float64
	}{{5, 96, 80, 4, 0.75}, {1, 40, 48, 1, 1.5}, {7, 72, 96, 9, 1.25}, {96, 96, 64, 64, 0}} {
		p := gear.At(gear.Azimuth(c.index, c.from), c.to)
		assert.Equal(t, c.tooth, p.Tooth)
		assert.InDelta(t, c.cheat, p.Cheat, 1e-9)
	}
}

func TestBestTurnFindsTheSmallestLargestCheat(t *testing.T) {
	var forty, odd []float64
	for i := range 40 {
		forty = append(forty, gear.Azimuth(float64(i), 40))
	}
	for i := range 16 {
		odd = append(odd, gear.Azimuth(float64(3+6*i), 96))
	}
	assert.InDelta(t, 3.0, gear.BestTurn(forty, 48).LargestCheat, 1e-9)
	fit := gear.BestTurn(odd, 80)
	assert.Zero(t, fit.LargestCheat)
	assert.InDelta(t, 2.25, fit.Turn, 1e-9)
}

// Turned by the best turn, no facet is cheated by more than the fit says, and one
// is cheated by just that.
func TestBestTurnKeepsItsPromise(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		from, to := rapid.IntRange(1, 120).Draw(t, "from"), rapid.IntRange(1, 120).Draw(t, "to")
		indexes := rapid.SliceOfN(rapid.IntRange(1, from), 1, 12).Draw(t, "indexes")
		var azimuths []float64
		for _, i := range indexes {
			azimuths = append(azimuths, gear.Azimuth(float64(i), from))
		}
		fit := gear.BestTurn(azimuths, to)
		largest := 0.0
		for _, a := range azimuths {
			largest = max(largest, gear.At(a+fit.Turn, to).Cheat, -gear.At(a+fit.Turn, to).Cheat)
		}
		assert.InDelta(t, fit.LargestCheat, largest, 1e-6)
	})
}

// Tried by hand, turn by turn over a whole tooth: none does better.
func TestNoOtherTurnIsBetter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		teeth := rapid.IntRange(3, 120).Draw(t, "teeth")
		azimuths := rapid.SliceOfN(rapid.Float64Range(0, 360), 1, 10).Draw(t, "azimuths")
		fit := gear.BestTurn(azimuths, teeth)
		const tries = 400
		tooth := 360 / float64(teeth)
		for i := range tries {
			turn := tooth * (float64(i)/tries - 0.5)
			largest := 0.0
			for _, a := range azimuths {
				largest = max(largest, math.Abs(gear.At(a+turn, teeth).Cheat))
			}
			assert.GreaterOrEqual(t, largest, fit.LargestCheat-1e-4, "turned by %v", turn)
		}
		assert.LessOrEqual(t, math.Abs(fit.Turn), tooth/2+1e-9)
	})
}

func TestVisitingOrders(t *testing.T) {
	indexes := []float64{96, 24, 12, 84, 48}
	for visiting, want := range map[gear.Visiting][]int{
		gear.AsWritten:     {0, 1, 2, 3, 4},
		gear.RoundTheWheel: {0, 2, 1, 4, 3},
		gear.OppositePairs: {0, 4, 2, 1, 3},
	} {
		assert.Equal(t, want, visiting.Order(indexes, 96), visiting)
	}
	assert.Empty(t, gear.OppositePairs.Order(nil, 96))
}
