package workshop

import (
	"errors"
	"math"
	"time"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/drawing"
)

// Facts are what a library is searched and sorted by, derived from a revision.
type Facts struct {
	Name            string
	Outline         string
	Gear            int
	RefractiveIndex float64
	Tiers           int
	Facets          int
	LengthWidth     float64
	HeightWidth     float64
	// TableWidth is 0 without a table.
	TableWidth float64
	// Shallowest is the lowest pavilion angle of a tier that is not optional, level
	// facets left out: a material suits the diagram where it keeps light at that angle.
	// It is 90 for a stone without a pavilion.
	Shallowest float64
}

// Picture is a small line drawing of a stone from above and from the side, in
// widths of the stone. A polygon is the x (to the right) and y (up) of each corner
// in turn.
type Picture struct {
	Above [][]float64
	Side  [][]float64
}

// Revision is one version of a diagram, never changed, named by its content.
type Revision struct {
	Hash    string
	Diagram *diagram.Diagram
	Facts   Facts
	Picture Picture
	Created time.Time
}

// NotCuttable is the error for a draft that cannot be kept: it says why, place by
// place.
type NotCuttable struct{ Problems []diagram.Problem }

func (e NotCuttable) Error() string { return e.Problems[0].Error() }

// revisionOf cuts the diagram and derives what is kept beside it.
func (l *Library) revisionOf(d *diagram.Diagram) (*Revision, error) {
	stone, err := cutting.Cut(d)
	if err != nil {
		var p diagram.Problem
		if errors.As(err, &p) {
			return nil, NotCuttable{[]diagram.Problem{p}}
		}
		return nil, err
	}
	m := stone.Measures()
	facts := Facts{
		Name: d.Name, Outline: string(d.Outline), Gear: d.Gear, RefractiveIndex: d.RefractiveIndex,
		Tiers: len(d.Tiers), Facets: m.Facets, LengthWidth: m.LengthWidth, HeightWidth: m.HeightWidth,
		Shallowest: 90,
	}
	if m.TableWidth != nil {
		facts.TableWidth = *m.TableWidth
	}
	if lead := angles.Shallowest(stone); lead >= 0 {
		facts.Shallowest = d.Tiers[lead].Angle
	}
	return &Revision{Hash: diagram.Hash(d), Diagram: d, Facts: facts, Picture: pictureOf(stone), Created: l.moment()}, nil
}

func pictureOf(s *cutting.Stone) Picture {
	width := s.Measures().Width
	lines := func(polygons []drawing.Polygon) [][]float64 {
		out := make([][]float64, len(polygons))
		for i, p := range polygons {
			for _, q := range p.Points {
				// A thousandth of the width is finer than a thumbnail shows.
				out[i] = append(out[i], round3(q.X/width), round3(q.Y/width))
			}
		}
		return out
	}
	return Picture{
		Above: lines(drawing.Plan(s.Solid(), diagram.Crown)),
		Side:  lines(drawing.Elevation(s.Solid(), 180)),
	}
}

func round3(v float64) float64 { return math.Round(v*1000) / 1000 }
