package server

import (
	"cmp"
	"context"
	"encoding/base64"
	"net/http"
	"slices"

	"github.com/labstack/echo/v5"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/polyhedron"
	"cressa/formats"
	"cressa/workshop"
)

// RuleRequest asks for a solid that follows from a rule.
type RuleRequest struct {
	Rule            Rule    `json:"rule"`
	Name            string  `json:"name" validate:"max=200"`
	Gear            int     `json:"gear" validate:"min=1,max=360"`
	RefractiveIndex float64 `json:"refractiveIndex" validate:"min=1,max=4"`
	// AcrossMM is how far opposite faces are to be apart, or how wide the solid is where it has none, EdgeMM and CornerMM by how much
	// its edges and corners are eased, 0 where they stay sharp.
	AcrossMM float64 `json:"acrossMM" validate:"required_with=EdgeMM CornerMM,omitempty,min=0.1,max=500"`
	EdgeMM   float64 `json:"edgeMM" validate:"min=0,max=100"`
	CornerMM float64 `json:"cornerMM" validate:"min=0,max=100"`
}

// Die is a solid with the faces that take numbers. Lengths are in units of the mesh.
type Die struct {
	Mesh   Mesh      `json:"mesh"`
	Levels Levels    `json:"levels"`
	Faces  []DieFace `json:"faces"`
}

// DieFace is a face that takes a number.
type DieFace struct {
	Face   int    `json:"face"`
	Name   string `json:"name"`
	Number int    `json:"number"`
	// Opposite is the number of the face that lies opposite, 0 where none does; Across is how far they are apart.
	Opposite int     `json:"opposite"`
	Across   float64 `json:"across"`
	// Middle is that of the largest circle that fits into the face, Radius its radius.
	Middle Point   `json:"middle"`
	Radius float64 `json:"radius"`
}

// SolidRequest holds a mesh file and says how its solid is held.
type SolidRequest struct {
	Name string `json:"name" validate:"max=300"`
	// Data is the file, in base64.
	Data string `json:"data"`
	// Up points out of the table; null is the file's own z.
	Up *Point `json:"up"`
	// Centroid puts the axis through the centroid instead of the file's origin.
	Centroid bool `json:"centroid"`
	// Apart keeps faces that nearly lie in one plane as facets of their own.
	Apart           bool    `json:"apart"`
	Gear            int     `json:"gear" validate:"min=1,max=360"`
	RefractiveIndex float64 `json:"refractiveIndex" validate:"min=1,max=4"`
}

// PlacedSolid is a solid as tiers about an axis.
type PlacedSolid struct {
	Draft Draft `json:"draft"`
	// Width is that of the file's solid, in its own unit: millimetres as a rule.
	Width float64 `json:"width"`
	// Faces are directions that could point up, the largest face first.
	Faces []SolidFace `json:"faces"`
	// Merged counts faces that were taken into another's plane though they lean away from it,
	// MergedBy is the most that one leans, and Moved the most that a facet was turned to share its
	// tier's angle and stand on its tooth; in degrees.
	Merged   int     `json:"merged"`
	MergedBy float64 `json:"mergedBy"`
	Moved    float64 `json:"moved"`
}

// SolidFace is a face that could become the table.
type SolidFace struct {
	Up Point `json:"up"`
	// Corners is how many it has, Area its share of the whole surface.
	Corners int     `json:"corners"`
	Area    float64 `json:"area"`
}

func (s *Server) solidRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/solids/rule", name: "solidByRule", summary: "A regular solid or a prism as a diagram", computes: true}, func(c *echo.Context, in withBody[RuleRequest]) (PlacedSolid, error) {
		shape, err := polyhedron.Rule(in.Body.Rule).Shape()
		if err != nil {
			return PlacedSolid{}, err
		}
		if shape, err = eased(shape, in.Body); err != nil {
			return PlacedSolid{}, err
		}
		return place(c, shape, polyhedron.Placing{
			Up: r3.Vec{Z: 1}, Name: in.Body.Name, Gear: in.Body.Gear, RefractiveIndex: in.Body.RefractiveIndex,
		})
	})
	handle(s, route{method: http.MethodGet, path: "/api/diagrams/:id/die", name: "getDie", summary: "The faces of a diagram's solid that take numbers"}, func(c *echo.Context, in byID) (Die, error) {
		return s.die(c.Request().Context(), in.ID)
	})
	handle(s, route{method: http.MethodPost, path: "/api/solids/read", name: "readSolid", summary: "A mesh as a diagram", computes: true}, func(c *echo.Context, in withBody[SolidRequest]) (PlacedSolid, error) {
		ctx := c.Request().Context()
		data, err := base64.StdEncoding.DecodeString(in.Body.Data)
		if err != nil {
			return PlacedSolid{}, invalid("The file did not arrive whole. Choose it again.", nil)
		}
		mesh, err := formats.ReadMesh(data)
		if err != nil {
			return PlacedSolid{}, err
		}
		shape, err := mesh.Shape(ctx, in.Body.Apart)
		if err != nil {
			return PlacedSolid{}, err
		}
		up := r3.Vec{Z: 1}
		if u := in.Body.Up; u != nil {
			up = r3.Vec{X: u.X, Y: u.Y, Z: u.Z}
		}
		if n := r3.Norm(up); !(n > 1e-6 && n < 1e6) {
			return PlacedSolid{}, invalid("No direction points up. Choose an axis or a face.", nil)
		}
		return place(c, shape, polyhedron.Placing{
			Up: up, ByCentroid: in.Body.Centroid, Name: in.Body.Name, Gear: in.Body.Gear, RefractiveIndex: in.Body.RefractiveIndex,
		})
	})
}

// eased eases a solid as far as is asked for.
func eased(shape *polyhedron.Shape, ask RuleRequest) (*polyhedron.Shape, error) {
	if ask.EdgeMM == 0 && ask.CornerMM == 0 {
		return shape, nil
	}
	size := shape.Solid.Bounds().Size()
	across := min(size.X, size.Y)
	if faces := polyhedron.Die(shape.Solid); faces[0].Opposite >= 0 {
		across = faces[0].Across
	}
	return shape.Eased(ask.EdgeMM*across/ask.AcrossMM, ask.CornerMM*across/ask.AcrossMM)
}

func (s *Server) die(ctx context.Context, id string) (Die, error) {
	d, err := s.workshop.Diagram(ctx, id)
	if err != nil {
		return Die{}, err
	}
	if d.Revision == "" {
		return Die{}, workshop.ErrNotKept
	}
	revision, err := s.workshop.Revision(ctx, d.Revision)
	if err != nil {
		return Die{}, err
	}
	stone, err := cutting.Cut(revision.Diagram)
	if err != nil {
		return Die{}, err
	}
	faces := polyhedron.Die(stone.Solid())
	numbers := map[int]int{}
	for _, f := range faces {
		numbers[f.Face] = f.Number
	}
	slices.SortFunc(faces, func(a, b polyhedron.DieFace) int { return cmp.Compare(a.Number, b.Number) })
	return Die{finishedMesh(stone), levelsOf(stone), each(faces, func(f polyhedron.DieFace) DieFace {
		return DieFace{f.Face, stone.FacetName(f.Face), f.Number, numbers[f.Opposite], f.Across, pointOf(f.Middle), f.Radius}
	})}, nil
}

func place(c *echo.Context, shape *polyhedron.Shape, p polyhedron.Placing) (PlacedSolid, error) {
	if err := searchable(len(shape.Planes)); err != nil {
		return PlacedSolid{}, err
	}
	ctx, done := context.WithTimeout(c.Request().Context(), patience)
	defer done()
	placed, err := shape.Place(ctx, p)
	if err != nil {
		return PlacedSolid{}, err
	}
	return PlacedSolid{
		Draft: draftView(diagram.DraftOf(placed.Stone.Diagram)), Width: placed.Width, Faces: facesOf(shape),
		Merged: shape.Merged.Faces, MergedBy: shape.Merged.Degrees, Moved: placed.Moved,
	}, nil
}

// facesOf lists the faces of a shape, one of several that are parallel and alike.
func facesOf(shape *polyhedron.Shape) []SolidFace {
	const offered = 40
	whole := 0.0
	for _, f := range shape.Solid.Faces() {
		whole += shape.Solid.Area(f)
	}
	out := []SolidFace{}
	for _, f := range shape.Solid.Faces() {
		out = append(out, SolidFace{Up: pointOf(f.Plane.Normal), Corners: len(f.Loop), Area: shape.Solid.Area(f) / whole})
	}
	slices.SortStableFunc(out, func(a, b SolidFace) int { return cmp.Compare(b.Area, a.Area) })
	return out[:min(len(out), offered)]
}
