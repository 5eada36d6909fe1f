package tolerance

import "gonum.org/v1/gonum/stat"

// Scatter returns the standard deviation of two readings or more of one setting, in their unit: a
// machine's repeatability.
func Scatter(readings []float64) float64 { return stat.StdDev(readings, nil) }
