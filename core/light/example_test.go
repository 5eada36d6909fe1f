package light_test

import (
	"context"
	"fmt"
	"log"

	"cressa/core/cutting"
	"cressa/core/light"
	"cressa/demo"
)

// A stone that was drawn for glass, in glass and in fluorite: below the critical angle one looks
// out of its back.
func ExampleStone_Trace() {
	all, err := demo.Diagrams()
	if err != nil {
		log.Fatal(err)
	}
	stone, err := cutting.Cut(all["First Light"])
	if err != nil {
		log.Fatal(err)
	}
	ready := light.Of(stone)
	for _, n := range []float64{1.52, 1.434} {
		f, err := ready.Trace(context.Background(), light.Experiment{RefractiveIndex: n, Grid: 128, HeadAngle: light.HeadAngle})
		if err != nil {
			log.Fatal(err)
		}
		fmt.Printf("n %.3f: %.0f %% come back, a window of %.0f %%\n", n, 100*f.Return(light.Head), 100*f.Window)
	}
	// Output:
	// n 1.520: 57 % come back, a window of 0 %
	// n 1.434: 55 % come back, a window of 17 %
}
