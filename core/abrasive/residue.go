package abrasive

import (
	"slices"
)

// Family is a kind of abrasive.
type Family string

// The families.
const (
	Diamond        Family = "diamond"
	SiliconCarbide Family = "silicon-carbide"
	Alumina        Family = "alumina"
	Cerium         Family = "cerium"
	TinOxide       Family = "tin-oxide"
	Zirconia       Family = "zirconia"
	Silica         Family = "silica"
	OtherAbrasive  Family = "other"
)

// Families lists them in the order in which they are offered.
var Families = []Family{Diamond, Alumina, Cerium, TinOxide, Zirconia, SiliconCarbide, Silica, OtherAbrasive}

// usualGrain is the grain of polishing powders that are sold without a figure, in µm.
var usualGrain = map[Family]float64{Alumina: 0.3, Cerium: 1, TinOxide: 1, Zirconia: 1, Silica: 0.06}

// UsualGrain returns the grain in µm of what is sold without a figure, 0 where it always has one.
func (f Family) UsualGrain() float64 { return usualGrain[f] }

// Grit is an abrasive that a lap works with.
type Grit struct {
	Family Family
	// Grain is in µm, 0 where it is not known.
	Grain float64
}

// Stone is a material as a lap meets it.
type Stone struct {
	Material string
	// Hardness is the lower end of its range on the scale of Mohs.
	Hardness float64
}

// Limits say which stones are bad for a lap.
type Limits struct {
	// SoftBelow is the hardness below which a stone's dust loads a lap, SmearBelow that below
	// which it smears. Both are on the scale of Mohs.
	SoftBelow  float64 `validate:"min=1,max=10"`
	SmearBelow float64 `validate:"min=1,max=10,ltefield=SoftBelow"`
	// Coarser is how many times larger a grain must be than the one that a lap works with to count
	// as coarse.
	Coarser float64 `validate:"min=1,max=20"`
}

// UsualLimits are those that most go by.
var UsualLimits = Limits{SoftBelow: 5, SmearBelow: 4, Coarser: 1.5}

// Cleaning is a way of cleaning a lap.
type Cleaning string

// The ways, the mildest first.
const (
	// Rinse is with water and a brush.
	Rinse Cleaning = "rinse"
	// Scrub is with soap and a stiff brush.
	Scrub Cleaning = "scrub"
	// Dress is with a dressing stick.
	Dress Cleaning = "dress"
	// Skim takes the face off: turned, scraped or lapped flat.
	Skim Cleaning = "skim"
	// Renew puts another disc, film or cloth in its place.
	Renew Cleaning = "renew"
)

// Cleanings lists the ways, the mildest first.
var Cleanings = []Cleaning{Rinse, Scrub, Dress, Skim, Renew}

// Trace is the kind of what stays on a lap.
type Trace string

// The kinds.
const (
	// Coarse is grit that is coarser than what the lap works with.
	Coarse Trace = "coarse"
	// Mixed is diamond on a lap that works with something softer.
	Mixed Trace = "mixed"
	// Soft is dust of a soft stone, that loads the lap.
	Soft Trace = "soft"
	// Smear is what a stone left that smears.
	Smear Trace = "smear"
)

// takes says what each way takes off which surface.
var takes = map[Cleaning]map[Trace][]Surface{
	Rinse: {
		Soft: {Bonded, Metal, Ceramic},
	},
	Scrub: {
		Soft:   {Bonded, Metal, Ceramic, Plastic, Film},
		Smear:  {Bonded, Metal, Ceramic, Plastic},
		Coarse: {Bonded, Ceramic},
		Mixed:  {Bonded, Ceramic},
	},
	Dress: {
		Soft: {Bonded}, Smear: {Bonded}, Coarse: {Bonded}, Mixed: {Bonded},
	},
	// What a face has taken in goes with the face.
	Skim: {
		Soft: {Metal, Plastic, Wax, Wood}, Smear: {Metal, Plastic, Wax, Wood},
		Coarse: {Metal, Plastic, Wax, Wood}, Mixed: {Metal, Plastic, Wax, Wood},
	},
}

// Takes tells whether a way of cleaning takes such a trace off a surface. Renewing takes all.
func (c Cleaning) Takes(t Trace, s Surface) bool {
	return c == Renew || slices.Contains(takes[c][t], s)
}

// Fits tells whether a surface can be cleaned so at all.
func (c Cleaning) Fits(s Surface) bool {
	switch c {
	case Renew, Rinse, Scrub:
		return c == Renew || s != Fabric && s != Wax
	case Dress:
		return s == Bonded
	}
	return slices.Contains(takes[Skim][Coarse], s)
}

// Met is what happened to a lap, in order: it worked with a grit, a stone was cut on it, or it was
// cleaned. A meeting may be several at once.
type Met struct {
	// At says when, in any count that rises.
	At int64
	// Grit came onto it; its Family is "" where none did.
	Grit Grit
	// Stone was cut on it; its Material is "" where none was.
	Stone Stone
	// Cleaned is how it was cleaned, "" where it was not.
	Cleaned Cleaning
}

// Residue is something that is still on a lap.
type Residue struct {
	Trace Trace
	// Grit is what it is of where it is grit, Stone where it is dust or smear.
	Grit  Grit
	Stone Stone
	// At is when the lap met it last.
	At int64
}

// Residues returns what is on a lap of all that it met, in the order in which it met them last, as far
// as it harms what comes next: the stone that is cut next, with the grit that the lap works with then.
// A stone's own dust does not harm the next of its kind. A lap that met nothing has no residue, and
// what a way of cleaning takes off is gone.
func Residues(s Surface, met []Met, next Stone, works Grit, l Limits) []Residue {
	var out []Residue
	add := func(r Residue) {
		out = slices.DeleteFunc(out, func(o Residue) bool {
			return o.Trace == r.Trace && o.Grit == r.Grit && o.Stone.Material == r.Stone.Material
		})
		out = append(out, r)
	}
	for _, m := range met {
		if m.Cleaned != "" {
			out = slices.DeleteFunc(out, func(r Residue) bool { return m.Cleaned.Takes(r.Trace, s) })
		}
		if t, harms := m.Grit.harms(works, l); harms {
			add(Residue{Trace: t, Grit: m.Grit, At: m.At})
		}
		if t, harms := m.Stone.harms(next, l); harms {
			add(Residue{Trace: t, Stone: m.Stone, At: m.At})
		}
	}
	return out
}

// harms tells what a grit that came onto a lap is to one that works with another.
func (g Grit) harms(works Grit, l Limits) (Trace, bool) {
	switch {
	case g.Family == "":
		return "", false
	case g.Grain > 0 && works.Grain > 0 && g.Grain > l.Coarser*works.Grain:
		return Coarse, true
	case g.Family == Diamond && works.Family != "" && works.Family != Diamond:
		return Mixed, true
	}
	return "", false
}

// harms tells what a stone's dust is to the next stone.
func (s Stone) harms(next Stone, l Limits) (Trace, bool) {
	switch {
	case s.Material == "" || s.Material == next.Material:
		return "", false
	case s.Hardness < l.SmearBelow:
		return Smear, true
	case s.Hardness < l.SoftBelow:
		return Soft, true
	}
	return "", false
}

// Ways returns how a surface is cleaned of what is on it, the mildest way that takes all of it first;
// it always ends with Renew.
func Ways(s Surface, on []Residue) []Cleaning {
	var out []Cleaning
	for _, c := range Cleanings {
		if c.Fits(s) && !slices.ContainsFunc(on, func(r Residue) bool { return !c.Takes(r.Trace, s) }) {
			out = append(out, c)
		}
	}
	return out
}
