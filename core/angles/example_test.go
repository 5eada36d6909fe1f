package angles_test

import (
	"fmt"
	"log"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/demo"
)

// Angles move by the tangent ratio, so that every meet holds.
func ExampleRetarget() {
	all, err := demo.Diagrams()
	if err != nil {
		log.Fatal(err)
	}
	stone, err := cutting.Cut(all["First Light"])
	if err != nil {
		log.Fatal(err)
	}
	moved, err := angles.Retarget(stone, angles.Target{RefractiveIndex: 1.72, CrownFactor: 1})
	if err != nil {
		log.Fatal(err)
	}
	for i, t := range moved.Stone.Diagram.Tiers {
		if t.Part == diagram.Pavilion {
			fmt.Printf("%s %.2f° to %.2f°\n", t.Name, stone.Diagram.Tiers[i].Angle, t.Angle)
		}
	}
	widest := 0.0
	for _, e := range moved.Errors {
		widest = max(widest, e.Gap)
	}
	fmt.Println("meets hold:", widest < 1e-9)
	below, above := angles.Steps(0.5)(41.3)
	fmt.Println("a half-degree machine sets", below, "or", above)
	// Output:
	// P1 44.00° to 38.36°
	// P2 42.50° to 36.91°
	// meets hold: true
	// a half-degree machine sets 41 or 41.5
}
