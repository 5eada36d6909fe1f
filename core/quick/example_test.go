package quick_test

import (
	"fmt"
	"log"

	"cressa/core/cutting"
	"cressa/core/quick"
)

// A diagram is proposed for an outline, and cuts as it is proposed.
func ExampleDesign() {
	d, err := quick.Design(quick.Wish{
		Name: "Lantern", Outline: quick.Oval, LengthWidth: 1.25, Girdle: 16, Gear: 96,
		RefractiveIndex: 1.544, Pavilion: quick.Fan, Crown: quick.Bevel, Table: 0.55,
	})
	if err != nil {
		log.Fatal(err)
	}
	stone, err := cutting.Cut(d)
	if err != nil {
		log.Fatal(err)
	}
	m := stone.Measures()
	fmt.Printf("%d tiers, %d facets, length over width %.3f, table %.2f\n", len(d.Tiers), m.Facets, m.LengthWidth, *m.TableWidth)
	// Output:
	// 16 tiers, 49 facets, length over width 1.250, table 0.55
}
