package sweep_test

import (
	"context"
	"fmt"
	"log"

	"cressa/core/cutting"
	"cressa/core/light"
	"cressa/core/sweep"
	"cressa/demo"
)

// A stone at three pavilions and two crowns: a steeper side makes it higher, and a steeper
// pavilion stands further above the critical angle.
func ExampleRun() {
	all, err := demo.Diagrams()
	if err != nil {
		log.Fatal(err)
	}
	stone, err := cutting.Cut(all["Little Dipper"])
	if err != nil {
		log.Fatal(err)
	}
	field := sweep.Field{
		X:               sweep.Axis{Kind: sweep.Pavilion, From: 0.95, To: 1.05, Steps: 3},
		Y:               sweep.Axis{Kind: sweep.Crown, From: 1, To: 1.1, Steps: 2},
		RefractiveIndex: 1.54, HeadAngle: light.HeadAngle,
	}
	points, err := sweep.Run(context.Background(), stone, field, func(int, sweep.Point) {})
	if err != nil {
		log.Fatal(err)
	}
	for _, p := range points {
		fmt.Printf("pavilion × %.2f, crown × %.2f: %.3f high, margin %+.1f°\n", p.X, p.Y, p.HeightWidth, p.Margin)
	}
	// Output:
	// pavilion × 0.95, crown × 1.00: 0.636 high, margin +1.5°
	// pavilion × 1.00, crown × 1.00: 0.660 high, margin +3.0°
	// pavilion × 1.05, crown × 1.00: 0.683 high, margin +4.4°
	// pavilion × 0.95, crown × 1.10: 0.652 high, margin +1.5°
	// pavilion × 1.00, crown × 1.10: 0.676 high, margin +3.0°
	// pavilion × 1.05, crown × 1.10: 0.700 high, margin +4.4°
}
