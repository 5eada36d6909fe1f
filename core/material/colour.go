package material

import "math"

// Lines of the spectrum, in nm.
const (
	LineB = 686.7
	LineC = 656.3
	LineD = 589.3
	LineF = 486.1
	LineG = 430.8
)

// IndexAt returns the refractive index for light of a wavelength in nm, from the one for
// LineD and the dispersion between LineB and LineG, by Cauchy's equation with two terms.
func IndexAt(n, dispersion, nm float64) float64 {
	square := func(nm float64) float64 { return 1 / (nm * nm) }
	return n + dispersion*(square(nm)-square(LineD))/(square(LineG)-square(LineB))
}

// Tint is a body colour. Its figures are for pictures: a stone in hand is looked at.
type Tint struct {
	// Key names it.
	Key string
	// Through is the share of red, green and blue light, linear, that is left after
	// 10 mm of way through the stone.
	Through [3]float64
}

// Absorption returns the coefficients for red, green and blue in 1/mm, natural
// (Lambert's law).
func (t Tint) Absorption() [3]float64 {
	var out [3]float64
	for c, left := range t.Through {
		out[c] = -math.Log(left) / 10
	}
	return out
}

// Colourless is the tint of a stone that keeps no light.
const Colourless = "colourless"

// tints are mixed by eye to look, at the size of a ring stone, as such stones do.
var tints = []Tint{
	{Colourless, [3]float64{1, 1, 1}},
	{"sea-blue", [3]float64{0.55, 0.84, 0.90}},
	{"cobalt-blue", [3]float64{0.14, 0.28, 0.74}},
	{"violet-blue", [3]float64{0.30, 0.30, 0.70}},
	{"purple", [3]float64{0.50, 0.18, 0.62}},
	{"lilac-pink", [3]float64{0.90, 0.62, 0.82}},
	{"red", [3]float64{0.66, 0.04, 0.08}},
	{"orange", [3]float64{0.92, 0.48, 0.08}},
	{"golden", [3]float64{0.94, 0.78, 0.32}},
	{"honey", [3]float64{0.86, 0.68, 0.20}},
	{"yellow-green", [3]float64{0.52, 0.74, 0.10}},
	{"green", [3]float64{0.08, 0.56, 0.28}},
	{"grey", [3]float64{0.48, 0.50, 0.54}},
	{"brown", [3]float64{0.55, 0.40, 0.25}},
}

// Tints returns the body colours to choose from, colourless first.
func Tints() []Tint { return append([]Tint{}, tints...) }

// FindTint returns the tint of the given key.
func FindTint(key string) (Tint, bool) {
	for _, t := range tints {
		if t.Key == key {
			return t, true
		}
	}
	return Tint{}, false
}

// usualTints are those of materials that are mostly seen in one colour.
var usualTints = map[string]string{
	"Andalusite": "brown", "Apatite": "sea-blue", "Aquamarine": "sea-blue", "Axinite": "brown",
	"Benitoite": "cobalt-blue", "Beryl, golden": "golden", "Cassiterite": "brown", "Chrysoberyl": "golden",
	"Diopside": "green", "Dioptase": "green", "Emerald": "green", "Epidote": "brown", "Euclase": "sea-blue",
	"Garnet, almandine": "red", "Garnet, andradite": "green", "Garnet, grossular": "orange",
	"Garnet, pyrope": "red", "Garnet, rhodolite": "purple", "Garnet, spessartine": "orange",
	"Idocrase": "brown", "Iolite": "violet-blue", "Kornerupine": "green", "Kunzite": "lilac-pink",
	"Kyanite": "cobalt-blue", "Morganite": "lilac-pink", "Obsidian": "brown", "Opal": "orange",
	"Orthoclase": "golden", "Peridot": "yellow-green", "Rhodochrosite": "lilac-pink", "Ruby": "red",
	"Sapphire": "cobalt-blue", "Scapolite": "golden", "Scheelite": "golden", "Sinhalite": "honey",
	"Sphalerite": "honey", "Sphene": "honey", "Spinel": "grey", "Sunstone, labradorite": "orange", "Sunstone, oligoclase": "orange", "Opal, fire": "orange",
	"Taaffeite": "purple", "Tanzanite": "violet-blue", "Tourmaline": "green", "Willemite": "golden",
	"Zircon": "sea-blue",
}

// UsualTint returns the colour that the material is mostly seen in, Colourless where
// there is none such.
func (m Material) UsualTint() Tint {
	if key, ok := usualTints[m.Name]; ok {
		t, _ := FindTint(key)
		return t
	}
	return tints[0]
}
