package diagram

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Whatever stop is taken apart comes together as the same.
func TestPartsOfAStopMakeTheSameStop(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		refs := rapid.SliceOfN(rapid.SampledFrom([]Ref{{Tier: "P1"}, {Tier: "G1", Index: 3, OneFacet: true}, {Tier: "C2"}}), 1, 4)
		figure := rapid.Float64Range(0.001, 1).Draw(t, "figure")
		stop := rapid.SampledFrom([]Stop{
			{Kind: Centre}, {Kind: Centre, Drop: figure}, {Kind: Size, Radius: figure}, {Kind: Meet, Tiers: refs.Draw(t, "tiers")},
			{Kind: GirdleBand, Thickness: figure}, {Kind: Along, From: refs.Draw(t, "from"), To: refs.Draw(t, "to"), At: figure},
			{Kind: Width, Ratio: figure}, {Kind: Depth, Distance: figure},
		}).Draw(t, "stop")
		again, err := PartsOf(stop.String()).stop()
		require.NoError(t, err)
		assert.Equal(t, stop.String(), again.String())
	})
}

func TestWhatCannotBeReadLeavesThePartsEmpty(t *testing.T) {
	for text, want := range map[string]StopKind{"": Meet, "by eye": Meet, "size": Size, "Girdle thin": GirdleBand, "along P1 >": Along} {
		assert.Equal(t, StopParts{Kind: want}, PartsOf(text), text)
	}
	for _, p := range []StopParts{{}, {Kind: "eye"}, {Kind: Meet}, {Kind: Size}, {Kind: Size, Figure: "wide"}, {Kind: Along, From: []string{"P1"}, Figure: "0.5"}} {
		_, err := p.Text()
		assert.Error(t, err, "%+v", p)
	}
}

func TestEveryPartHasStopsAndEveryFigureIsOneThatReads(t *testing.T) {
	for _, part := range []Part{Pavilion, Girdle, Crown} {
		assert.True(t, Meet.For(part) && Along.For(part) && Size.For(part))
	}
	assert.False(t, Width.For(Pavilion))
	assert.False(t, Centre.For(Girdle))
	for _, kind := range StopKinds {
		figure, takes := kind.Usual()
		if !takes {
			continue
		}
		p := StopParts{Kind: kind, Figure: FormatNumber(figure), From: []string{"P1"}, To: []string{"G1"}}
		stop, err := p.stop()
		require.NoError(t, err, fmt.Sprint(p))
		assert.InDelta(t, figure, stop.Figure(), 0)
	}
}

func TestFiguresOfStopsHaveUnits(t *testing.T) {
	for _, text := range []string{"girdle 0.3 mm", "girdle 3 %", "table 55 %", "size 7.8 mm"} {
		again, err := PartsOf(text).Text()
		require.NoError(t, err)
		assert.Equal(t, text, again)
	}
	_, err := StopParts{Kind: Depth, Figure: "0.3", Unit: "mm"}.Text()
	assert.ErrorContains(t, err, "mm")
}
