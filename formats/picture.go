package formats

import (
	"image"
	"image/color"
	"image/png"
	"io"
	"math"

	"cressa/core/light"
)

// EndColours are those of the ways in a map of a stone: far apart in lightness too, so
// that they can be told in grey.
var EndColours = map[light.End]color.NRGBA{
	light.Returned: {0xf0, 0xcf, 0x6d, 0xff},
	light.Leaked:   {0x8e, 0x6b, 0xbf, 0xff},
	light.Shadowed: {0x2f, 0x36, 0x40, 0xff},
}

// FlawColour marks the places of a face that a flaw darkens: no stone has it.
var FlawColour = color.NRGBA{0xf0, 0x3c, 0x1e, 0xff}

// WritePicture writes a stone's picture as PNG, clear around the stone. It returns the
// errors of the writer.
func WritePicture(w io.Writer, p *light.Picture) error {
	return writePNG(w, p, func(i int) color.NRGBA { return Shade(p.Light[i]) })
}

// WriteFlaws writes a stone's picture as WritePicture does, with what flaws darken in FlawColour.
func WriteFlaws(w io.Writer, p *light.Picture) error {
	return writePNG(w, p, func(i int) color.NRGBA {
		if p.Hidden != nil && p.Hidden[i] > 0 {
			return FlawColour
		}
		return Shade(p.Light[i])
	})
}

// WriteEnds writes the map of where most of the light goes as PNG, clear around the stone.
// It returns the errors of the writer.
func WriteEnds(w io.Writer, p *light.Picture) error {
	return writePNG(w, p, func(i int) color.NRGBA { return EndColours[p.Ends[i]] })
}

func writePNG(w io.Writer, p *light.Picture, at func(i int) color.NRGBA) error {
	img := image.NewNRGBA(image.Rect(0, 0, p.Grid, p.Grid))
	for i := range p.Ends {
		if p.Hits[i] {
			img.SetNRGBA(i%p.Grid, i/p.Grid, at(i))
		}
	}
	return (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(w, img)
}

// Shade is linear light, 0 to 1 in red, green and blue, as a screen shows it.
func Shade(l [3]float32) color.NRGBA {
	return color.NRGBA{shade(l[0]), shade(l[1]), shade(l[2]), 0xff}
}

// shade encodes linear light for a screen (IEC 61966-2-1, sRGB).
func shade(linear float32) uint8 {
	v := math.Min(1, math.Max(0, float64(linear)))
	if v <= 0.0031308 {
		v *= 12.92
	} else {
		v = 1.055*math.Pow(v, 1/2.4) - 0.055
	}
	return uint8(math.Round(255 * v))
}
