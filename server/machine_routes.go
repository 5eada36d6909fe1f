package server

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/core/tolerance"
	"cressa/workshop"
)

// HolesRequest names the lengths of the pegs and the heights of the holes of a machine, in mm.
type HolesRequest struct {
	Pegs  []float64 `json:"pegs" validate:"max=6,dive,min=10,max=1000"`
	Holes []float64 `json:"holes" validate:"max=80,dive,min=0,max=1000"`
}

// HoleList is what the pegs set in the holes, by their angles.
type HoleList struct {
	Holes []Hole `json:"holes"`
}

// ReadingsRequest has readings of one angle that was set again and again, in degrees.
type ReadingsRequest struct {
	Readings []float64 `json:"readings" validate:"min=3,max=200,dive,min=-360,max=360"`
}

// Scatter is the standard deviation of readings, in degrees.
type Scatter struct {
	Scatter float64 `json:"scatter"`
}

func (s *Server) machineRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/holes", name: "listHoles", summary: "What pegs set in the holes of a jamb"}, func(_ *echo.Context, in withBody[HolesRequest]) (HoleList, error) {
		m := workshop.Machine{Pegs: in.Body.Pegs, Holes: in.Body.Holes}
		return HoleList{each(m.HolesSorted(), func(h workshop.Hole) Hole { return Hole(h) })}, nil
	})
	handle(s, route{method: http.MethodPost, path: "/api/scatter", name: "readScatter", summary: "How far readings of one angle scatter"}, func(_ *echo.Context, in withBody[ReadingsRequest]) (Scatter, error) {
		return Scatter{tolerance.Scatter(in.Body.Readings)}, nil
	})
}
