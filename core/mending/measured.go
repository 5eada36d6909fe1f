package mending

import (
	"math"
	"slices"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
)

// Measured is what was read off a finished stone: lengths in mm, the angles of the largest facets of crown and pavilion in degrees, how many facets its parts
// have, the table not counted. What was not taken is 0.
type Measured struct {
	Width, Length, Height, Table, Girdle      float64
	Crown, Pavilion                           float64
	CrownFacets, PavilionFacets, GirdleFacets int
}

// Likeness is a diagram that was brought to what was measured.
type Likeness struct {
	// Stone is the diagram with its sides stretched to the angles, its table and its girdle as measured, as far as its stops say
	// how large they are. One of its units is MM mm.
	Stone *cutting.Stone
	MM    float64
	// Residuals tell of everything that was measured how the stone has it.
	Residuals []Residual
	// Off is the root of the mean square of the residuals, each in what such a reading is uncertain by.
	Off float64
}

// Residual is one thing that was measured, beside the same of a stone.
type Residual struct {
	What       Quantity
	Is, Fitted float64
}

// Quantity is what is measured of a stone.
type Quantity string

// What can be measured.
const (
	OfWidth          Quantity = "width"
	OfLength         Quantity = "length"
	OfHeight         Quantity = "height"
	OfTable          Quantity = "table"
	OfGirdle         Quantity = "girdle"
	OfCrown          Quantity = "crown"
	OfPavilion       Quantity = "pavilion"
	OfCrownFacets    Quantity = "crown-facets"
	OfPavilionFacets Quantity = "pavilion-facets"
	OfGirdleFacets   Quantity = "girdle-facets"
)

// uncertain is by how much readings are off: calipers on a stone, a protractor or an angle reader on a facet, a miscounted facet.
var uncertain = map[Quantity]float64{
	OfWidth: 0.02, OfLength: 0.02, OfHeight: 0.03, OfTable: 0.05, OfGirdle: 0.05, OfCrown: 0.5, OfPavilion: 0.5,
	OfCrownFacets: 1, OfPavilionFacets: 1, OfGirdleFacets: 1,
}

// Liken brings the diagram of a stone to what was measured of another. It returns the diagram.Problem of a stop that cannot be
// solved then.
func (m Measured) Liken(s *cutting.Stone) (*Likeness, error) {
	d := angles.Stretch(s, m.factor(s, diagram.Pavilion, m.Pavilion), m.factor(s, diagram.Crown, m.Crown))
	out := &Likeness{}
	cut := func() error {
		stone, err := cutting.Cut(d)
		if err != nil {
			return err
		}
		out.Stone, out.MM = stone, m.Width/stone.Measures().Width
		return nil
	}
	if err := cut(); err != nil {
		return nil, err
	}
	if m.Table > 0 {
		// Wider than the stone is no table.
		ratio := math.Min(m.Table/m.Width, 0.99)
		if with, ok := stopped(d, diagram.Width, func(stop *diagram.Stop) { stop.Ratio = round(ratio) }); ok {
			d = with
			if err := cut(); err != nil {
				return nil, err
			}
		}
	}
	if thick := m.girdle(out); thick > 0 {
		if with, ok := stopped(d, diagram.GirdleBand, func(stop *diagram.Stop) { stop.Thickness = round(thick / out.MM) }); ok {
			d = with
			if err := cut(); err != nil {
				return nil, err
			}
		}
	}
	out.Residuals = m.residuals(out)
	for _, r := range out.Residuals {
		off := (r.Fitted - r.Is) / uncertain[r.What]
		out.Off += off * off / float64(len(out.Residuals))
	}
	out.Off = math.Sqrt(out.Off)
	return out, nil
}

// factor is by how much a side is stretched along the axis to have its main facets at an angle, 1 where that was not measured.
func (m Measured) factor(s *cutting.Stone, part diagram.Part, angle float64) float64 {
	main := mainTier(s, part)
	if angle <= 0 || angle >= 90 || main < 0 {
		return 1
	}
	return math.Tan(angle*math.Pi/180) / math.Tan(s.Diagram.Tiers[main].Angle*math.Pi/180)
}

// girdle is how thick it was measured, in mm, or else what is left for it of the height; 0 where neither tells.
func (m Measured) girdle(l *Likeness) float64 {
	if m.Girdle > 0 || m.Height == 0 {
		return m.Girdle
	}
	is := l.Stone.Measures()
	if is.GirdleMin == nil {
		return 0
	}
	return *is.GirdleMin*is.Width*l.MM + m.Height - is.Height*l.MM
}

// mainTier is the one with the largest facet of a part, level ones left out; −1 where there is none.
func mainTier(s *cutting.Stone, part diagram.Part) int {
	main, largest := -1, 0.0
	for i, f := range s.Facets {
		t := s.Diagram.Tiers[f.Tier]
		if face := s.Solid().Face(i); face != nil && t.Part == part && t.Angle > 0 && s.Solid().Area(face) > largest*(1+1e-9) {
			main, largest = f.Tier, s.Solid().Area(face)
		}
	}
	return main
}

// stopped gives a diagram another measure at all stops of a kind, false where it has none.
func stopped(d *diagram.Diagram, kind diagram.StopKind, change func(*diagram.Stop)) (*diagram.Diagram, bool) {
	out := *d
	out.Tiers = slices.Clone(d.Tiers)
	found := false
	for i := range out.Tiers {
		if out.Tiers[i].Stop.Kind == kind {
			change(&out.Tiers[i].Stop)
			found = true
		}
	}
	return &out, found
}

func round(v float64) float64 { return math.Round(v*1e6) / 1e6 }

func (m Measured) residuals(l *Likeness) []Residual {
	is := l.Stone.Measures()
	of := func(ratio *float64) float64 {
		if ratio == nil {
			return 0
		}
		return *ratio * is.Width * l.MM
	}
	angle := func(part diagram.Part) float64 {
		main := mainTier(l.Stone, part)
		if main < 0 {
			return 0
		}
		return l.Stone.Diagram.Tiers[main].Angle
	}
	facets := map[diagram.Part]float64{}
	for i, f := range l.Stone.Facets {
		if t := l.Stone.Diagram.Tiers[f.Tier]; l.Stone.Solid().Face(i) != nil && !(t.Part == diagram.Crown && t.Angle == 0) {
			facets[t.Part]++
		}
	}
	var out []Residual
	for _, r := range []Residual{
		{OfWidth, m.Width, is.Width * l.MM},
		{OfLength, m.Length, is.Length * l.MM},
		{OfHeight, m.Height, is.Height * l.MM},
		{OfTable, m.Table, of(is.TableWidth)},
		{OfGirdle, m.Girdle, of(is.GirdleMin)},
		{OfCrown, m.Crown, angle(diagram.Crown)},
		{OfPavilion, m.Pavilion, angle(diagram.Pavilion)},
		{OfCrownFacets, float64(m.CrownFacets), facets[diagram.Crown]},
		{OfPavilionFacets, float64(m.PavilionFacets), facets[diagram.Pavilion]},
		{OfGirdleFacets, float64(m.GirdleFacets), facets[diagram.Girdle]},
	} {
		if r.Is > 0 {
			out = append(out, r)
		}
	}
	return out
}
