package solid_test

import (
	"fmt"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/solid"
)

// A block loses a corner: a solid is never changed, so the block is still there.
func Example() {
	block := solid.Block(1)
	corner := solid.Through(r3.Unit(r3.Vec{X: 1, Y: 1, Z: 1}), r3.Vec{X: 1, Y: 1})
	cut, _ := block.Cut(7, corner)
	v, e, f := cut.Counts()
	fmt.Printf("%d corners, %d edges, %d faces\n", v, e, f)
	fmt.Printf("volume %.4f of %.0f\n", cut.Volume(), block.Volume())
	fmt.Printf("the new face has %d corners\n", len(cut.Face(7).Loop))
	// Output:
	// 10 corners, 15 edges, 7 faces
	// volume 7.8333 of 8
	// the new face has 3 corners
}
