package analysis

import (
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/polyhedron"
	"cressa/core/rough"
)

// hollowFrom is the part of its hull from which on a scan's lack of volume is a hollow, and no noise.
const hollowFrom = 0.03

// ScannedPoints returns the corners of the hull of a scanned piece, and whether the scan has hollows that
// its hull fills: it holds less than the hull does, by more than a few hundredths. The error is a
// diagram.Problem: too few points, or all of them in one plane.
func ScannedPoints(mesh polyhedron.Mesh) ([]r3.Vec, bool, error) {
	if len(mesh.Points) < rough.MinPoints {
		return nil, false, diagram.Problem{Code: rough.FewPoints, TierNo: -1, Field: "solid.points", Value: float64(len(mesh.Points)), Low: rough.MinPoints, High: rough.MaxPoints}
	}
	hull, ok := rough.Hull(mesh.Points)
	if !ok {
		return nil, false, diagram.Problem{Code: rough.FlatHull, TierNo: -1, Field: "solid.points"}
	}
	points := hull.Points()
	if len(points) > rough.MaxPoints {
		return nil, false, diagram.Problem{Code: rough.FewPoints, TierNo: -1, Field: "solid.points", Value: float64(len(points)), Low: rough.MinPoints, High: rough.MaxPoints}
	}
	volume := 0.0
	for _, loop := range mesh.Faces {
		for i := 1; i+1 < len(loop); i++ {
			a, b, c := mesh.Points[loop[0]], mesh.Points[loop[i]], mesh.Points[loop[i+1]]
			volume += r3.Dot(a, r3.Cross(b, c)) / 6
		}
	}
	// A scan may be wound inside out.
	return points, max(volume, -volume) < (1-hollowFrom)*hull.Volume(), nil
}
