package server

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/workshop"
)

// SeatRequest asks what a stone still needs to fill the seat of a setting, in mm; 0 is what follows from the plan.
type SeatRequest struct {
	Setup    string       `json:"setup" validate:"required,max=40"`
	Width    float64      `json:"width" validate:"min=0,max=500"`
	Length   float64      `json:"length" validate:"min=0,max=500"`
	Readings []AcrossRead `json:"readings" validate:"max=400,dive"`
}

// AcrossRead is what calipers read in mm from a girdle facet to what lies opposite.
type AcrossRead struct {
	Facet string  `json:"facet" validate:"required,max=40"`
	MM    float64 `json:"mm" validate:"min=0.1,max=500"`
}

// SeatView is where a stone is measured for a setting.
type SeatView struct {
	Width  float64    `json:"width"`
	Length float64    `json:"length"`
	Lines  []SeatLine `json:"lines"`
}

// SeatLine is where a stone is measured across, in mm.
type SeatLine struct {
	ID    string `json:"id"`
	Face  int    `json:"face"`
	Tier  string `json:"tier"`
	Tooth int    `json:"tooth"`
	// Opposite is the tooth of the facet that lies opposite, null where the other jaw lies on a corner.
	Opposite *int    `json:"opposite"`
	Planned  float64 `json:"planned"`
	Seat     float64 `json:"seat"`
	// Take is what is to come off the facet still, OppositeTake off the opposite one, along their normals as the height dial moves
	// them; less than 0 where the stone is too small there. Both are null until it is measured, Divisions those of the dial for Take,
	// null without a dial.
	Take         *float64 `json:"take"`
	OppositeTake *float64 `json:"oppositeTake"`
	Divisions    *float64 `json:"divisions"`
}

func (s *Server) seatRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/stones/:id/seat", name: "fitSetting", summary: "What a stone still needs to fill a setting, from its girdle's readings", computes: true}, func(c *echo.Context, in byIDWithBody[SeatRequest]) (SeatView, error) {
		ctx := c.Request().Context()
		stone, err := s.workshop.Stone(ctx, in.ID)
		if err != nil {
			return SeatView{}, err
		}
		b := in.Body
		fit, err := s.workshop.FitSetting(ctx, stone, b.Setup, workshop.Seat{
			WidthMM: b.Width, LengthMM: b.Length, Readings: each(b.Readings, func(r AcrossRead) workshop.AcrossRead { return workshop.AcrossRead(r) }),
		})
		if err != nil {
			return SeatView{}, err
		}
		return SeatView{fit.Seat.WidthMM, fit.Seat.LengthMM, each(fit.Lines, func(l workshop.SeatLine) SeatLine {
			out := SeatLine{
				ID: l.ID, Face: l.Facet, Tier: l.Tier, Tooth: l.Set.Tooth, Planned: l.Planned, Seat: l.Seat, Take: l.Take, OppositeTake: l.OppositeTake,
			}
			if l.OppositeSet != nil {
				out.Opposite = &l.OppositeSet.Tooth
			}
			if step := fit.Machine.HeightStep; step > 0 && l.Take != nil {
				divisions := *l.Take / step
				out.Divisions = &divisions
			}
			return out
		})}, nil
	})
}
