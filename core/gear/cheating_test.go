package gear_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/gear"
)

// A place between teeth is dialled from the side that is asked for, past teeth that are not used, and comes to the same index.
func TestAToothIsDialledOnPurpose(t *testing.T) {
	at := gear.At(360*19.2/96, 96)
	for _, c := range []struct {
		how   gear.Cheating
		tooth int
		cheat float64
	}{
		{gear.Cheating{}, 19, 0.75},
		{gear.Cheating{From: gear.ToothAbove}, 20, -3},
		{gear.Cheating{From: gear.ToothBelow, Skip: []int{19}}, 18, 4.5},
		{gear.Cheating{Skip: []int{19}}, 20, -3},
		{gear.Cheating{Skip: []int{19, 20}}, 18, 4.5},
	} {
		got := c.how.At(at, 96)
		assert.Equal(t, c.tooth, got.Tooth, "%+v", c.how)
		assert.InDelta(t, c.cheat, got.Cheat, 1e-9, "%+v", c.how)
	}
	rapid.Check(t, func(t *rapid.T) {
		teeth := rapid.IntRange(3, 120).Draw(t, "teeth")
		how := gear.Cheating{
			From: rapid.SampledFrom([]gear.From{gear.NearestTooth, gear.ToothBelow, gear.ToothAbove}).Draw(t, "from"),
			Skip: rapid.SliceOfN(rapid.IntRange(1, teeth), 0, teeth-1).Draw(t, "skip"),
		}
		was := gear.At(rapid.Float64Range(0, 360).Draw(t, "turn"), teeth)
		got := how.At(was, teeth)
		off := math.Mod(float64(got.Tooth)+got.Cheat*float64(teeth)/360-was.Index+1.5*float64(teeth), float64(teeth)) - float64(teeth)/2
		if math.Abs(off) > 1e-6 {
			t.Fatalf("%+v dials %+v for %+v", how, got, was)
		}
		if slices.Contains(how.Skip, got.Tooth) {
			t.Fatalf("%+v dials the tooth %d", how, got.Tooth)
		}
		if how.From == gear.ToothBelow && got.Cheat < 0 || how.From == gear.ToothAbove && got.Cheat > 0 {
			t.Fatalf("%+v cheats by %v", how, got.Cheat)
		}
	})
}

// A level facet comes in at any tooth, so one that is not used is passed by without a cheat.
func TestALevelFacetPassesAWornTooth(t *testing.T) {
	set, err := gear.Dial(r3.Vec{Z: 1}, gear.Pose{Up: r3.Vec{Z: 1}, Gear: 96, Rotation: gear.Unmoved, Cheats: gear.Cheating{Skip: []int{96}}})
	require.NoError(t, err)
	assert.Equal(t, gear.Setting{Position: gear.Position{Index: 1, Tooth: 1}}, set)
}
