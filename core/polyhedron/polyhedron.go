// Package polyhedron turns convex solids that come as faces, such as dice and crystals,
// into diagrams: tiers about an axis of choice, with angle, tooth and cheat.
package polyhedron

import (
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/solid"
)

// Shape is a convex solid. Its planes face out and are scaled so that its largest extent
// is 1 about the origin.
type Shape struct {
	Planes []solid.Plane
	Solid  *solid.Solid
	// Size is the largest extent in the unit that it came in, Origin where the origin
	// that it came with now lies.
	Size   float64
	Origin r3.Vec
	// Tolerance is how far a plane may be off: what the digits of a mesh leave.
	Tolerance float64
	// Merged tells of faces that were taken for one facet though they lean apart.
	Merged Merged
}

// Merged counts the faces of a mesh that were taken into another's plane though they lean away from
// it by more than the digits of the file leave, and tells the most that one of them leans, in degrees.
type Merged struct {
	Faces   int
	Degrees float64
}

// Why a mesh is no solid that can be cut.
const (
	// TooFewFaces: it takes four at least. Value is their number.
	TooFewFaces diagram.Code = "too-few-faces"
	// NotConvex: a point stands out of a face by Value, in the unit of the mesh. Text
	// is the number of the face, Other that of the point, from 1.
	NotConvex diagram.Code = "not-convex"
	// NotClosed: faces are missing; the others run together far from any point.
	NotClosed diagram.Code = "not-closed"
)

func refuse(code diagram.Code) diagram.Problem { return diagram.Problem{Code: code, TierNo: -1} }

// close cuts the planes out of a block.
func (s *Shape) close() error {
	now := solid.Block(8)
	for i, p := range s.Planes {
		next, outcome := now.Cut(i, p)
		if outcome == solid.TookAll || outcome == solid.Failed {
			return refuse(NotClosed)
		}
		now = next
	}
	if now.ShowsBlock() {
		return refuse(NotClosed)
	}
	s.Solid = now
	return nil
}
