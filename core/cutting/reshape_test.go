package cutting_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

// cutDraft reads and cuts a draft that must be whole.
func cutDraft(t require.TestingT, draft diagram.Draft) *cutting.Stone {
	d, problems := draft.Read()
	require.Empty(t, problems)
	return mustCut(t, d)
}

// What a reshaping says it leaves alone it leaves alone, and what it does twice over
// leads back, for whole stones.
func TestReshapingKeepsTheStone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		stone := drawStone(t)
		draft := diagram.DraftOf(stone.Diagram)
		reshape := func(d diagram.Draft, no int, how diagram.Reshape) diagram.Draft {
			out, err := d.Reshape(no, how)
			require.NoError(t, err)
			return out
		}
		no := rapid.IntRange(0, len(draft.Tiers)-1).Draw(t, "tier")

		renamed := draft
		for i := range draft.Tiers {
			renamed = reshape(renamed, i, diagram.Reshape{Kind: diagram.Renamed, Name: fmt.Sprintf("N%d", i+1)})
		}
		assert.True(t, equalPlanes(cutDraft(t, renamed), stone), "names are names")
		written := reshape(draft, no, diagram.Reshape{Kind: diagram.WrittenOut})
		assert.True(t, equalPlanes(cutDraft(t, written), stone), "indexes written out are the same indexes")

		// Every tier turned half round is the stone turned half round.
		by := float64(stone.Diagram.Gear) / 2
		turned := draft
		for i := range draft.Tiers {
			turned = reshape(turned, i, diagram.Reshape{Kind: diagram.Turned, By: by})
		}
		assert.InDelta(t, stone.Solid().Volume(), cutDraft(t, turned).Solid().Volume(), 1e-9)
		back := turned
		for i := range draft.Tiers {
			back = reshape(back, i, diagram.Reshape{Kind: diagram.Turned, By: -by})
		}
		assert.True(t, equalPlanes(cutDraft(t, back), stone), "turned round and back")

		mirrored := draft
		for i := range draft.Tiers {
			mirrored = reshape(mirrored, i, diagram.Reshape{Kind: diagram.Mirrored})
		}
		assert.InDelta(t, stone.Solid().Volume(), cutDraft(t, mirrored).Solid().Volume(), 1e-9)
		for i := range draft.Tiers {
			mirrored = reshape(mirrored, i, diagram.Reshape{Kind: diagram.Mirrored})
		}
		assert.True(t, equalPlanes(cutDraft(t, mirrored), stone), "mirrored twice")
	})
}

// Turned on its gear as a whole a diagram makes the same stone, turned: of whatever shape, counted
// either way, and with stops that name facets by index.
func TestAWholeDiagramTurnsOnItsGear(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := drawDiagram(t)
		by := rapid.IntRange(-d.Gear, d.Gear).Draw(t, "by")
		turned, err := cutting.TurnedWhole(diagram.DraftOf(d), float64(by))
		require.NoError(t, err)
		after, problems := turned.Read()
		require.Empty(t, problems)
		a, err := cutting.Cut(d)
		require.NoError(t, err)
		b, err := cutting.Cut(after)
		require.NoError(t, err)
		require.InDelta(t, a.Measures().Volume, b.Measures().Volume, 1e-9)
		var points []r3.Vec
		for _, v := range b.Solid().Vertices() {
			points = append(points, b.Solid().Point(v))
		}
		sin, cos := math.Sincos(2 * math.Pi * float64(by) / float64(d.Gear))
		for _, v := range a.Solid().Vertices() {
			p := a.Solid().Point(v)
			require.True(t, has(points, r3.Vec{X: cos*p.X + sin*p.Y, Y: cos*p.Y - sin*p.X, Z: p.Z}))
		}
	})
	skew := load(t, "skew")
	turned, err := cutting.TurnedWhole(diagram.DraftOf(skew), 7)
	require.NoError(t, err)
	after, problems := turned.Read()
	require.Empty(t, problems)
	a, err := cutting.Cut(skew)
	require.NoError(t, err)
	b, err := cutting.Cut(after)
	require.NoError(t, err)
	agree(t, a.Measures().Volume, b.Measures().Volume, "volume")
}

// A square table turned by an eighth of a circle lies cornerwise. Here it reaches further than the
// stone is wide between its cut corners, which no share of the width can say.
func TestATableThatTurnsPastTheWidthKeepsItsDepth(t *testing.T) {
	square := []float64{32, 8, 16, 24}
	cornerwise := []float64{4, 12, 20, 28}
	d := &diagram.Diagram{
		Format: diagram.Format, Name: "cornerwise", Outline: "other", Gear: 32, RefractiveIndex: 1.6,
		FirstSide: diagram.Pavilion, Indexing: diagram.Dialled,
		Tiers: []diagram.Tier{
			{Name: "P1", Part: diagram.Pavilion, Angle: 41, Indexes: square, Stop: diagram.Stop{Kind: diagram.Centre}},
			{Name: "G1", Part: diagram.Girdle, Angle: 90, Indexes: square, Stop: diagram.Stop{Kind: diagram.Size, Radius: 0.5}},
			{Name: "G2", Part: diagram.Girdle, Angle: 90, Indexes: cornerwise, Stop: diagram.Stop{Kind: diagram.Size, Radius: 0.47}},
			{Name: "C1", Part: diagram.Crown, Angle: 25, Indexes: square, Stop: diagram.Stop{Kind: diagram.GirdleBand, Thickness: 0.03}},
			{Name: "T", Part: diagram.Crown, Angle: 0, Indexes: []float64{32}, Stop: diagram.Stop{Kind: diagram.Width, Ratio: 0.69}},
		},
	}
	require.Empty(t, d.Validate())
	turned, err := cutting.TurnedWhole(diagram.DraftOf(d), 4)
	require.NoError(t, err)
	assert.Contains(t, turned.Tiers[4].Stop, "depth")
	assert.InDelta(t, cutDraft(t, diagram.DraftOf(d)).Solid().Volume(), cutDraft(t, turned).Solid().Volume(), 1e-9)
}
