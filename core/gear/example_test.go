package gear_test

import (
	"fmt"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/gear"
)

// Facets that are drawn for 96 teeth, every 15°, lie between the teeth of a gear of 64.
func ExampleBestTurn() {
	azimuths := []float64{0, 15, 30, 45}
	for _, teeth := range []int{96, 64} {
		fit := gear.BestTurn(azimuths, teeth)
		fmt.Printf("%d teeth: cheats up to %.3g°\n", fit.Teeth, fit.LargestCheat)
	}
	// Output:
	// 96 teeth: cheats up to 0°
	// 64 teeth: cheats up to 1.88°
}

// A facet that looks up and towards 3 o'clock, with the table out of the dop.
func ExampleDial() {
	set, err := gear.Dial(r3.Unit(r3.Vec{X: 1, Z: 1}), gear.Pose{Up: r3.Vec{Z: 1}, Gear: 96, Rotation: gear.Unmoved})
	fmt.Printf("%.0f° at %d, %v\n", set.Angle, set.Tooth, err)
	// Output: 45° at 24, <nil>
}

func ExampleVisiting_Order() {
	eight := []float64{96, 12, 24, 36, 48, 60, 72, 84}
	for _, place := range gear.OppositePairs.Order(eight, 96) {
		fmt.Print(eight[place], " ")
	}
	// Output: 96 48 12 60 24 72 36 84
}
