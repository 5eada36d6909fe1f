package cutting_test

import (
	"context"
	"fmt"
	"log"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

// lantern is a stone of four facets a tier.
func lantern() *diagram.Diagram {
	ring := []float64{24, 48, 72, 96}
	d := &diagram.Diagram{Format: diagram.Format, Name: "Lantern", Gear: 96, RefractiveIndex: 1.54, Tiers: []diagram.Tier{
		{Name: "P1", Part: diagram.Pavilion, Angle: 42, Indexes: ring, Stop: diagram.Stop{Kind: diagram.Centre}},
		{Name: "G1", Part: diagram.Girdle, Angle: 90, Indexes: ring, Stop: diagram.Stop{Kind: diagram.Size, Radius: 0.5}},
		{Name: "C1", Part: diagram.Crown, Angle: 35, Indexes: ring, Stop: diagram.Stop{Kind: diagram.GirdleBand, Thickness: 0.02}},
		{Name: "T", Part: diagram.Crown, Angle: 0, Indexes: []float64{96}, Stop: diagram.Stop{Kind: diagram.Width, Ratio: 0.6}},
	}}
	d.FillDefaults()
	return d
}

// A diagram is cut tier by tier; what stands on the stone after each cut is kept.
func ExampleCut() {
	stone, err := cutting.Cut(lantern())
	if err != nil {
		log.Fatal(err)
	}
	m := stone.Measures()
	fmt.Printf("%d facets, %.0f by %.0f, table %.2f, pavilion %.4f\n", m.Facets, m.Width, m.Length, *m.TableWidth, *m.PavilionDepth)
	fmt.Printf("at 8 mm in quartz it weighs %.2f ct\n", cutting.Carats(m.VolumeFactor, 8, 2.65))
	fmt.Println(len(stone.Steps())-1, "cuts")
	// Output:
	// 13 facets, 1 by 1, table 0.60, pavilion 0.4502
	// at 8 mm in quartz it weighs 1.77 ct
	// 13 cuts
}

// A crown that is written before its girdle asks for something that is not there yet.
func ExampleJudgeOrder() {
	d := lantern()
	d.Tiers[1], d.Tiers[2] = d.Tiers[2], d.Tiers[1]
	q := cutting.JudgeOrder(context.Background(), d, cutting.Preference{})
	for _, p := range q.Problems {
		fmt.Println(p.Tier, p.Code)
	}
	for _, t := range q.Better.Diagram.Tiers {
		fmt.Print(t.Name, " ")
	}
	fmt.Println(q.Status)
	// Output:
	// C1 girdle-missing
	// G1 turned-back
	// P1 G1 C1 T complete
}
