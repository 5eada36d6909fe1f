package abrasive

import "math"

// Surface is what a lap's face is made of. It decides what stays in it and what takes that out.
type Surface string

// The surfaces.
const (
	// Bonded holds its grit fast: plated, sintered or in resin.
	Bonded Surface = "bonded"
	// Metal is charged: copper, tin, zinc, steel or an alloy of them.
	Metal Surface = "metal"
	// Plastic is a hard plastic or a composite of one.
	Plastic Surface = "plastic"
	// Wax is a disc of wax, or with a face of it.
	Wax Surface = "wax"
	// Wood is cut across or along the grain.
	Wood Surface = "wood"
	// Ceramic is hard and takes nothing in.
	Ceramic Surface = "ceramic"
	// Fabric is felt, leather or cloth.
	Fabric Surface = "fabric"
	// Film is a thin disc that is laid on a flat one, and thrown away.
	Film Surface = "film"
)

// Surfaces lists them in the order in which they are offered.
var Surfaces = []Surface{Bonded, Metal, Plastic, Ceramic, Film, Wax, Wood, Fabric}

// Area is that of a lap's face in cm², from its diameter and that of the hole or hub in mm.
func Area(diameter, hub float64) float64 {
	return math.Pi / 4 * (diameter*diameter - hub*hub) / 100
}

// Speed is how fast a lap runs under the stone, in m/s, at a radius in mm and turns a minute: 2πr·rpm/60.
func Speed(radius, rpm float64) float64 { return 2 * math.Pi * radius * rpm / 60 / 1000 }

// ChargeOf is about how much diamond a face takes at once, in carats for 100 cm², for grains of a mean
// size in µm: coarser grains lie less deep in number and weigh more. It follows the square root of
// the grain between a quarter of a carat and one and a half, which is where cutters begin; a lap of
// one's own teaches the rest.
func ChargeOf(grain float64) float64 {
	return math.Min(1.5, math.Max(0.25, 0.35*math.Sqrt(grain)))
}
