package diagram_test

import (
	"fmt"

	"cressa/core/diagram"
)

// Indexes and stops are written as a table holds them.
func Example() {
	indexes, err := diagram.ParseIndexes("3, mirrored, 8-fold", 96)
	fmt.Println(len(indexes), diagram.FormatIndexes(indexes[:3]), err)
	stop, err := diagram.ParseStop("along P1 G1@3 > P1 P2 at 0.25")
	fmt.Println(stop.Kind, stop.From, stop.To, stop.At, err)
	_, err = diagram.ParseStop("until it looks right")
	fmt.Println(err)
	// Output:
	// 16 3-9-15 <nil>
	// along [P1 G1@3] [P1 P2] 0.25 <nil>
	// "until" is no stop
}

// A draft is a diagram as it is typed, mistakes included.
func ExampleDraft_Read() {
	draft := diagram.Draft{
		Name: "Lantern", Outline: "square", Gear: "96", RefractiveIndex: "1.54", FirstSide: "pavilion", Indexing: "dialled",
		Tiers: []diagram.DraftTier{{Key: "t1", Name: "P1", Part: "pavilion", Angle: "42°°", Indexes: "24-48-72-96", Stop: "centre"}},
	}
	_, problems := draft.Read()
	for _, p := range problems {
		fmt.Println(p.Tier, p.Field, p.Code)
	}
	// Output: P1 angle not-a-number
}
