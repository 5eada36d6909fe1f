package light

// Model says what light from which direction counts.
type Model string

// The viewing models. Light from below the horizon counts in none of them.
const (
	// Uniform: every direction above the horizon counts alike.
	Uniform Model = "uniform"
	// Cosine: more, the steeper it comes from above.
	Cosine Model = "cosine"
	// Head as Uniform, but the head that looks keeps the light off.
	Head Model = "head"
)

// HeadAngle is the usual half-angle of the head about the view axis, in degrees.
const HeadAngle = 16

// Experiment is what is looked at and how.
type Experiment struct {
	// RefractiveIndex is that of the stone against air, above 1 up to 4.
	RefractiveIndex float64
	// Grid is how many rays are sent across, and down, the larger extent: 2 to 2048.
	Grid int
	// Tilt is by how many degrees the stone is tilted, 0 face up to 89, so that the eye
	// stands towards the stone azimuth To, in degrees clockwise from 12 o'clock.
	Tilt, To float64
	// HeadAngle is the half-angle in degrees, 0 to 90, that the head takes.
	HeadAngle float64
	// FrostedGirdle ends rays that meet the girdle from inside.
	FrostedGirdle bool
	// Absorption is that of red, green and blue light in 1/mm, natural; 0 for a stone
	// without colour. Width is the stone's width in mm, needed only with absorption.
	Absorption [3]float64
	Width      float64
}

// alpha is the absorption in 1/design unit, nil for a stone without colour.
func (e *Experiment) alpha(unit float64) []float64 {
	if e.Absorption == [3]float64{} {
		return nil
	}
	out := make([]float64, 3)
	for c, a := range e.Absorption {
		out[c] = a * e.Width / unit
	}
	return out
}

// Figures are means over the rays that hit the stone, each with the energy 1: Glare +
// Up + Leak + Frosted + Absorbed + Residual = 1.
type Figures struct {
	// Rays counts those that hit, Segments the ends from facet to facet inside.
	Rays     int `json:"rays"`
	Segments int `json:"segments"`
	// Glare is what the first facet mirrors before any light gets in.
	Glare float64 `json:"glare"`
	// Up leaves above the horizon and is the light return under even light; Cosine is
	// what of it counts under light that comes from above, HeadShadow what ends at the
	// head.
	Up         float64 `json:"up"`
	Cosine     float64 `json:"cosine"`
	HeadShadow float64 `json:"headShadow"`
	// Leak leaves below the horizon, Frosted ends at a girdle left frosted, Absorbed is
	// the stone's colour, and Residual was no longer followed.
	Leak     float64 `json:"leak"`
	Frosted  float64 `json:"frosted"`
	Absorbed float64 `json:"absorbed"`
	Residual float64 `json:"residual"`
	// Window is the share of rays whose first hit on a pavilion facet lets out more
	// than half of the energy carried there.
	Window float64 `json:"window"`
	// MostReturn, MostLeak and MostShadow are the shares of rays of which most returns
	// outside the head's cone, leaks, or ends at the head.
	MostReturn float64 `json:"mostReturn"`
	MostLeak   float64 `json:"mostLeak"`
	MostShadow float64 `json:"mostShadow"`
}

// Return is the light return under a model.
func (f Figures) Return(m Model) float64 {
	switch m {
	case Cosine:
		return f.Cosine
	case Head:
		return f.Up - f.HeadShadow
	}
	return f.Up
}

// End is where most of a ray's energy goes.
type End uint8

// The ends.
const (
	Nowhere End = iota // no ray, or nothing left
	Returned
	Leaked
	Shadowed
)
