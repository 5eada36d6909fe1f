package material_test

import (
	"fmt"

	"cressa/core/material"
)

func ExampleFind() {
	for _, name := range []string{"peridot", "Moon cheese"} {
		m, found := material.Find(name)
		if !found {
			fmt.Println(name, "is not in the table")
			continue
		}
		fmt.Printf("%s: n %.3f to %.3f, critical angle %.2f°, SG %.2f\n", m.Name, m.RefractiveIndex.Low, m.RefractiveIndex.High, m.CriticalAngle(), m.SG)
	}
	// Output:
	// Peridot: n 1.650 to 1.703, critical angle 37.31°, SG 3.34
	// Moon cheese is not in the table
}
