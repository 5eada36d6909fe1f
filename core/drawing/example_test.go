package drawing_test

import (
	"fmt"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/drawing"
	"cressa/core/solid"
)

// Drawings are plain geometry: polygons and lines that carry the number of their facet.
func Example() {
	roof := solid.Block(1)
	for id, n := range []r3.Vec{{X: 1, Z: 1}, {X: -1, Z: 1}} {
		roof, _ = roof.Cut(id, solid.Through(r3.Unit(n), r3.Vec{Z: 1}))
	}
	for _, p := range drawing.Plan(roof, diagram.Crown) {
		fmt.Println("facet", p.Facet, "seen from above has", len(p.Points), "corners")
	}
	for _, s := range drawing.Section(roof, 90) {
		if s.Facet >= 0 {
			fmt.Printf("facet %d from (%.0f, %.0f) to (%.0f, %.0f)\n", s.Facet, s.From.X, s.From.Y, s.To.X, s.To.Y)
		}
	}
	// Output:
	// facet 0 seen from above has 4 corners
	// facet 1 seen from above has 4 corners
	// facet 0 from (0, 1) to (1, 0)
	// facet 1 from (-1, 0) to (0, 1)
}
