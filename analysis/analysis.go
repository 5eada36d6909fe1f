// Package analysis answers what is asked of a diagram before it is cut: its order and stops, its
// angles for another material, its meets under the loupe, what a machine's errors do to them,
// and how it looks at many angles. These are the use cases that the command line and the server
// share: drafts and settings in, values in the units of the bench out.
package analysis

import (
	"errors"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/printed"
	"cressa/workshop"
)

// Whole cuts the whole of a draft. The error is a workshop.NotCuttable with every mistake.
func Whole(draft diagram.Draft) (*cutting.Stone, error) {
	d, problems := printed.Diagram(draft)
	if len(problems) > 0 {
		return nil, workshop.NotCuttable{Problems: problems}
	}
	stone, err := cutting.Cut(d)
	var p diagram.Problem
	if errors.As(err, &p) {
		return nil, workshop.NotCuttable{Problems: []diagram.Problem{p}}
	}
	return stone, err
}

// Named gives a draft that has no name yet one, so that it can be read.
func Named(draft diagram.Draft) diagram.Draft {
	if draft.Name == "" {
		draft.Name = "draft"
	}
	return draft
}

// Meet is a meet as it comes out on a stone of a given size: by how much its facets miss it,
// and how far apart their corners lie, in µm.
type Meet struct {
	Point         r3.Vec
	Facets        []string
	Residual, Gap float64
}

// Meets tells meet errors of a stone in µm at a finished width in mm.
func Meets(stone *cutting.Stone, errs []cutting.MeetError, width float64) []Meet {
	um := 1000 * MMPerUnit(stone, width)
	out := make([]Meet, len(errs))
	for i, e := range errs {
		out[i] = Meet{Point: e.Point, Residual: um * e.Residual, Gap: um * e.Gap, Facets: facetNames(stone, e.Facets)}
	}
	return out
}

// MMPerUnit is how many mm a design unit is on a stone of a finished width in mm.
func MMPerUnit(stone *cutting.Stone, width float64) float64 { return width / stone.Measures().Width }

func facetNames(stone *cutting.Stone, facets []int) []string {
	out := make([]string, len(facets))
	for i, f := range facets {
		out[i] = stone.FacetName(f)
	}
	return out
}
