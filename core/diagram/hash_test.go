package diagram_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"cressa/core/diagram"
)

// Hashes stand in records for ever. A field that the format gets later must leave the
// canonical form of diagrams without it, and so these, as they are.
func TestHashesOfReleasedDiagramsNeverChange(t *testing.T) {
	d := &diagram.Diagram{
		Name: "Watch Glass", Designer: "A. \"Nonius\" Vega", Outline: "round", Gear: 96, RefractiveIndex: 1.54, FirstSide: diagram.Pavilion,
		Tiers: []diagram.Tier{
			{Name: "P1", Part: diagram.Pavilion, Angle: 42.5, Indexes: []float64{0, 24, 48, 72}, Stop: diagram.Stop{Kind: diagram.Centre, Drop: 0.625}},
			{Name: "G1", Part: diagram.Girdle, Angle: 90, Indexes: []float64{0, 12.5}, Stop: diagram.Stop{Kind: diagram.Size, Radius: 1}, Note: "to size"},
			{Name: "C1", Part: diagram.Crown, Angle: 35, Indexes: []float64{12}, Optional: true, Stop: diagram.Stop{
				Kind: diagram.Meet, Tiers: []diagram.Ref{{Tier: "P1"}, {Tier: "G1", OneFacet: true, Index: 12.5}},
			}},
		},
	}
	assert.Equal(t, `name "Watch Glass"
designer "A. \"Nonius\" Vega"
outline "round"
gear 96
refractiveIndex 1.54
firstSide "pavilion"
tier
name "P1"
part "pavilion"
angle 42.5
indexes 0 24 48 72
stop "centre"
drop 0.625
tier
name "G1"
part "girdle"
angle 90
indexes 0 12.5
stop "size"
radius 1
note "to size"
tier
name "C1"
part "crown"
angle 35
indexes 12
stop "meet"
tiers G1@12.5 P1
optional true
`, string(diagram.Canonical(d)))
	assert.Equal(t, "v1-b56021f8d72b54b352a6fd46379103250eb903af5642cb8e668ee98804139330", diagram.Hash(d), "the SHA-256 of that text")
}
