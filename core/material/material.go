// Package material is the table of gem materials: what a cutter must know of each
// before cutting it, and the critical angle that follows from it.
//
// The figures are those on which general gemmology textbooks and mineralogical
// tables agree, rounded as they are usually printed; where varieties differ the
// range is given. They are for planning. A stone in hand is measured.
package material

import (
	"cmp"
	"encoding/json"
	"math"
	"slices"
	"strings"
)

// Optic is the optic character of a material.
type Optic string

// Optic characters.
const (
	Isotropic Optic = "isotropic" // singly refractive, cubic or amorphous
	Uniaxial  Optic = "uniaxial"
	Biaxial   Optic = "biaxial"
)

// Heat tells how a material bears the heat of dopping and polishing.
type Heat string

// Heat sensitivities.
const (
	HeatSturdy  Heat = "sturdy"  // warm wax is no risk
	HeatCareful Heat = "careful" // warm and cool slowly
	HeatAvoid   Heat = "avoid"   // cold adhesives only
)

// Solvent tells how a material bears what adhesives are released with.
type Solvent string

// Solvent sensitivities.
const (
	SolventSafe Solvent = "safe"
	// SolventAcid: attacked by acids, vinegar and pickle included.
	SolventAcid Solvent = "acid"
	// SolventSoaks: takes liquids in through cracks or fillings.
	SolventSoaks Solvent = "soaks"
)

// Dust is what makes the dust of a material dangerous. All cutting is wet.
type Dust string

// Dust hazards.
const (
	DustNuisance Dust = "nuisance" // no hazard beyond that of any fine dust
	DustSilica   Dust = "silica"   // crystalline silica or a silicate that may carry it
	DustToxic    Dust = "toxic"    // holds beryllium, lead or another poison
	DustFibrous  Dust = "fibrous"  // splinters or fibres
)

// Cleavage tells how readily a material splits along a plane.
type Cleavage string

// Cleavages.
const (
	CleavageNone     Cleavage = "none"     // none that a cutter meets
	CleavageDistinct Cleavage = "distinct" // seen, and to be minded
	CleavagePerfect  Cleavage = "perfect"  // splits at a knock; no facet flat along it
)

// Polish is what a material is usually polished with.
type Polish string

// Polishes.
const (
	PolishCerium  Polish = "cerium"  // cerium oxide
	PolishAlumina Polish = "alumina" // aluminium oxide
	PolishDiamond Polish = "diamond"
)

// Usual names the lap and the compound that are most often used for a polish. Cutters differ; it
// is where one starts who has no habit of his own.
func (p Polish) Usual() (lap, compound string) {
	switch p {
	case PolishCerium:
		return "plastic", "cerium oxide"
	case PolishAlumina:
		return "tin", "alumina 0.3 µm"
	case PolishDiamond:
		return "tin", "diamond 0.5 µm"
	}
	return "", ""
}

// Range is a range of a figure; Low and High are equal where it is one value.
type Range struct {
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

// Material is one row of the table.
type Material struct {
	Name string `json:"name" validate:"required,max=60"`
	// RefractiveIndex spans the rays and the varieties. The lower one decides
	// whether light is kept.
	RefractiveIndex Range `json:"refractiveIndex"`
	Optic           Optic `json:"optic" validate:"oneof=isotropic uniaxial biaxial"`
	// Birefringence is the largest difference between the indexes of the two rays
	// of one stone; 0 where light is not split.
	Birefringence float64 `json:"birefringence"`
	// Dispersion is the difference of the indexes for the lines B and G (687 and
	// 431 nm); 0 where it is not known.
	Dispersion Dispersion `json:"dispersion"`
	// SG is the specific gravity that weights are reckoned with.
	SG       float64  `json:"sg"`
	Hardness Range    `json:"hardness"` // Mohs
	Heat     Heat     `json:"heat" validate:"oneof=sturdy careful avoid"`
	Solvent  Solvent  `json:"solvent" validate:"oneof=safe acid soaks"`
	Dust     Dust     `json:"dust" validate:"oneof=nuisance silica toxic fibrous"`
	Cleavage Cleavage `json:"cleavage" validate:"oneof=none distinct perfect"`
	Polish   Polish   `json:"polish" validate:"oneof=cerium alumina diamond"`
}

// CaratPerMM3 is the weight of a mm³ in carats.
func (m Material) CaratPerMM3() float64 { return m.SG / 200 }

// Dispersion is a difference of two refractive indexes, 0 where it is not known: then it is null in
// a file, because no material has none.
type Dispersion float64

// MarshalJSON writes the figure, null where it is not known. The error is that of the json package.
func (d Dispersion) MarshalJSON() ([]byte, error) {
	if d == 0 {
		return []byte("null"), nil
	}
	return json.Marshal(float64(d))
}

// common are materials that most cutters have on the bench, the commonest first: of those that suit a
// refractive index alike one of these is meant.
var common = []string{"Quartz", "Topaz", "Aquamarine", "Spinel", "Sapphire", "Garnet, rhodolite", "Peridot", "Tourmaline", "Cubic zirconia", "Zircon", "Practice glass", "Sphene", "Iolite"}

// Suiting returns the material that a diagram of a refractive index is most likely meant for: the
// commonest of those whose lower index lies within a hundredth and a half of it, else the nearest.
func Suiting(index float64, of []Material) (Material, bool) {
	// Diagrams print two digits, and print them for the commonest stone.
	const alike = 0.015
	off := func(m Material) float64 { return math.Abs(m.RefractiveIndex.Low - index) }
	for _, name := range common {
		for _, m := range of {
			if m.Name == name && off(m) <= alike {
				return m, true
			}
		}
	}
	if len(of) == 0 {
		return Material{}, false
	}
	return slices.MinFunc(of, func(a, b Material) int { return cmp.Compare(off(a), off(b)) }), true
}

// Bound says what a figure of a material lies between.
type Bound struct {
	// Field is its name in the file.
	Field     string
	Low, High float64
}

// Bounds lists what the figures of a material lie between: a little beyond all that is cut.
var Bounds = []Bound{
	{"refractiveIndex", 1.3, 4}, {"birefringence", 0, 1}, {"dispersion", 0, 1}, {"sg", 0.8, 20},
	{"hardness", 1, 10}, // the scale of Mohs
}

// BoundOf returns what the figure of a field lies between.
func BoundOf(field string) Bound {
	for _, b := range Bounds {
		if b.Field == field {
			return b
		}
	}
	return Bound{}
}

// Plausible tells whether the figures of a material can be; where they cannot it
// names the first at fault as the file does.
func (m Material) Plausible() (field string, ok bool) {
	figures := map[string]Range{
		"refractiveIndex": m.RefractiveIndex, "birefringence": {m.Birefringence, m.Birefringence},
		"dispersion": {float64(m.Dispersion), float64(m.Dispersion)}, "sg": {m.SG, m.SG}, "hardness": m.Hardness,
	}
	for _, b := range Bounds {
		f := figures[b.Field]
		good := f.Low >= b.Low && f.High <= b.High && f.Low <= f.High
		// Light is split where, and only where, there is more than one ray.
		if b.Field == "birefringence" && (m.Optic == Isotropic) != (m.Birefringence == 0) {
			good = false
		}
		if !good {
			return b.Field, false
		}
	}
	return "", true
}

// CriticalAngle returns c = asin(1/n) in degrees: light that meets a facet from
// inside at more than c is kept. n is at least 1.
func CriticalAngle(n float64) float64 { return math.Asin(1/n) * 180 / math.Pi }

// CriticalAngle returns the critical angle for the material's lower index.
func (m Material) CriticalAngle() float64 { return CriticalAngle(m.RefractiveIndex.Low) }

// All returns the table in the order of its names.
func All() []Material { return slices.Clone(table) }

// older are names that rows of the table had before, in lower case.
var older = map[string]string{"sunstone": "Sunstone, labradorite"}

// Find returns the material of the given name, whatever its case. Rows that were renamed are found
// under their older names too.
func Find(name string) (Material, bool) {
	name = strings.TrimSpace(name)
	if now, renamed := older[strings.ToLower(name)]; renamed {
		name = now
	}
	for _, m := range table {
		if strings.EqualFold(m.Name, name) {
			return m, true
		}
	}
	return Material{}, false
}
