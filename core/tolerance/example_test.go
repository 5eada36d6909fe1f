package tolerance_test

import (
	"context"
	"fmt"
	"log"

	"cressa/core/cutting"
	"cressa/core/tolerance"
	"cressa/demo"
)

// What a machine that repeats to 0.05° leaves of the meets. Trials draw from their number, so
// the result is the same on any number of cores.
func ExampleRun() {
	all, err := demo.Diagrams()
	if err != nil {
		log.Fatal(err)
	}
	stone, err := cutting.Cut(all["Parallax"])
	if err != nil {
		log.Fatal(err)
	}
	got, err := tolerance.Run(context.Background(), stone, tolerance.Spread{Angle: 0.05}, 200, 1, func(int, int) {})
	if err != nil {
		log.Fatal(err)
	}
	um := 8000 / stone.Measures().Width // at 8 mm
	fmt.Printf("the worst of %d meets gapes by %.0f µm in half of the stones, by %.0f in one of twenty\n", len(got.Meets), um*got.Meets[0].P50, um*got.Meets[0].P95)
	// Output:
	// the worst of 17 meets gapes by 61 µm in half of the stones, by 211 in one of twenty
}
