package cutting

import (
	"math"

	"cressa/core/diagram"
	"cressa/core/solid"
)

// Measures describes a finished stone. Width, Length and Height are in design
// units, Volume in cubic ones; the rest are ratios to the width. What needs a
// girdle or a table is nil without one.
type Measures struct {
	Facets        int      `json:"facets"`
	Vertices      int      `json:"vertices"`
	Edges         int      `json:"edges"`
	Width         float64  `json:"width"`
	Length        float64  `json:"length"`
	LengthWidth   float64  `json:"lengthWidth"`
	Height        float64  `json:"height"`
	HeightWidth   float64  `json:"heightWidth"`
	Volume        float64  `json:"volume"`
	VolumeFactor  float64  `json:"volumeFactor"`
	CrownHeight   *float64 `json:"crownHeight,omitempty"`
	PavilionDepth *float64 `json:"pavilionDepth,omitempty"`
	// GirdleBand runs from the girdle's lowest point to its highest; GirdleMin and GirdleMax
	// are its thickness (see Stone.Girdle).
	GirdleBand *float64 `json:"girdleBand,omitempty"`
	GirdleMin  *float64 `json:"girdleMin,omitempty"`
	GirdleMax  *float64 `json:"girdleMax,omitempty"`
	TableWidth *float64 `json:"tableWidth,omitempty"`
}

// Levels are the heights that a cutter measures a stone by, z in design units.
type Levels struct {
	Bottom, Top float64
	// GirdleLow and GirdleHigh are the lowest and highest point of any girdle
	// facet. HasGirdle tells whether there is one.
	GirdleLow, GirdleHigh float64
	HasGirdle             bool
	// Table is the face of the highest level crown facet, nil without one.
	Table *solid.Face
}

// Levels finds the heights of the stone as far as it has been cut.
func (s *Stone) Levels() Levels {
	box := s.Solid().Bounds()
	l := Levels{Bottom: box.Min.Z, Top: box.Max.Z, GirdleLow: math.Inf(1), GirdleHigh: math.Inf(-1)}
	for _, f := range s.Solid().Faces() {
		if f.OfBlock() {
			continue
		}
		switch t := s.Diagram.Tiers[s.Facets[f.ID].Tier]; {
		case t.Part == diagram.Girdle:
			b := s.Solid().FaceBounds(f)
			l.HasGirdle = true
			l.GirdleLow, l.GirdleHigh = math.Min(l.GirdleLow, b.Min.Z), math.Max(l.GirdleHigh, b.Max.Z)
		case t.Part == diagram.Crown && t.Angle == 0:
			if l.Table == nil || f.Plane.D > l.Table.Plane.D {
				l.Table = f
			}
		}
	}
	return l
}

// Measures measures the stone as far as it has been cut.
func (s *Stone) Measures() Measures {
	cut := s.Solid()
	size := cut.Bounds().Size()
	w, length := math.Min(size.X, size.Y), math.Max(size.X, size.Y)
	m := Measures{
		Width: w, Length: length, LengthWidth: length / w,
		Height: size.Z, HeightWidth: size.Z / w,
		Volume: cut.Volume(),
	}
	m.Vertices, m.Edges, m.Facets = cut.Counts()
	m.VolumeFactor = m.Volume / (w * w * w)
	ratio := func(v float64) *float64 {
		v /= w
		return &v
	}
	l := s.Levels()
	if l.HasGirdle {
		m.CrownHeight = ratio(l.Top - l.GirdleHigh)
		m.PavilionDepth = ratio(l.GirdleLow - l.Bottom)
		m.GirdleBand = ratio(l.GirdleHigh - l.GirdleLow)
	}
	if thinnest, thickest, ok := s.Girdle(); ok {
		m.GirdleMin, m.GirdleMax = ratio(thinnest.Thickness()), ratio(thickest.Thickness())
	}
	if l.Table != nil {
		b := cut.FaceBounds(l.Table).Size()
		m.TableWidth = ratio(math.Min(b.X, b.Y))
	}
	return m
}
