package server

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/words"
	"cressa/workshop"
)

// TableSeen is a table that came in from one side.
type TableSeen struct {
	ID string `path:"id" json:"-"`
	// Begins is the side on which the mark of the lap begins, as seen from the front of the machine.
	Begins workshop.Begins `query:"begins" json:"begins" validate:"oneof=far near left right"`
	// MM is by how many mm the table is nearer to the lap there than opposite.
	MM float64 `query:"mm" json:"mm" validate:"min=0,max=5"`
}

// TiltedTable is what levels it. Angles are in degrees.
type TiltedTable struct {
	Tilt float64 `json:"tilt"`
	// Angle is by how many degrees the protractor is set steeper, Turn by how many the cheater is turned; one is 0.
	Angle float64 `json:"angle"`
	Turn  float64 `json:"turn"`
	Text  string  `json:"text"`
}

// FlushReadings are what the protractor showed when the flat end of the aligning dop lay flush on the lap.
type FlushReadings struct {
	Readings []float64 `json:"readings" validate:"min=1,max=20,dive,min=-5,max=95"`
	Version  int       `json:"version"`
}

func (s *Server) adapterRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/stones/:id/adapter/tilt", name: "levelTable", summary: "How a tilted table is levelled on its adapter"}, func(c *echo.Context, in TableSeen) (TiltedTable, error) {
		ctx := c.Request().Context()
		stone, err := s.workshop.Stone(ctx, in.ID)
		if err != nil {
			return TiltedTable{}, err
		}
		a, err := s.workshop.AssessStone(ctx, stone)
		if err != nil {
			return TiltedTable{}, err
		}
		adapter, across, err := a.Adapter()
		if err != nil {
			return TiltedTable{}, err
		}
		t := workshop.LevelTable(in.Begins, in.MM, across, adapter)
		return TiltedTable{t.Tilt, t.Angle, t.Turn, words.LevelTable(t, a.Machine)}, nil
	})
	handle(s, route{method: http.MethodPut, path: "/api/stones/:id/adapter", name: "setAdapter", summary: "Keep the true angle of the table adapter"}, func(c *echo.Context, in byIDWithBody[FlushReadings]) (StoneHead, error) {
		stone, err := s.workshop.SetAdapter(c.Request().Context(), in.ID, in.Body.Readings, in.Body.Version)
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
}
