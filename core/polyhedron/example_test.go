package polyhedron_test

import (
	"context"
	"fmt"
	"log"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/polyhedron"
)

// A die of twenty faces, held by a corner: five faces each stand at two angles on either side.
func ExampleShape_Place() {
	shape, err := polyhedron.Rule{Kind: polyhedron.Icosahedron, Pose: polyhedron.CornerUp}.Shape()
	if err != nil {
		log.Fatal(err)
	}
	placed, err := shape.Place(context.Background(), polyhedron.Placing{Up: r3.Vec{Z: 1}, Name: "Twenty", Gear: 80, RefractiveIndex: 1.54})
	if err != nil {
		log.Fatal(err)
	}
	for _, t := range placed.Stone.Diagram.Tiers {
		fmt.Printf("%s %.2f° %d facets\n", t.Name, t.Angle, len(t.Indexes))
	}
	// Output:
	// P1 37.38° 5 facets
	// P2 79.19° 5 facets
	// C1 79.19° 5 facets
	// C2 37.38° 5 facets
}
