package server

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/core/diagram"
	"cressa/core/mending"
	"cressa/words"
	"cressa/workshop"
)

// Slips are what a stone would look like, as far as it is cut, if one slip was made; the likeliest first.
type Slips struct {
	// Planned is the stone as planned, with the facets that were cut so far. All are meshes of one step; faces are numbered like
	// the facets of the plan.
	Planned Mesh         `json:"planned"`
	Up      diagram.Part `json:"up" validate:"oneof=crown pavilion"`
	Looks   []SlipLook   `json:"looks"`
}

// SlipName names a slip: its kind, the tiers that it is about, and what it is off by, null where that is no figure.
type SlipName struct {
	Kind  mending.SlipKind `json:"kind" validate:"oneof=index sense swap angle missed gear side"`
	Tiers []string         `json:"tiers" validate:"min=1,max=400,dive,max=12"`
	By    *float64         `json:"by"`
}

// SlipLook is the look of a stone after a slip.
type SlipLook struct {
	Slip SlipName `json:"slip"`
	Text string   `json:"text"`
	// Told says that the log tells of it.
	Told  bool `json:"told"`
	Solid Mesh `json:"solid"`
	// Faces are those that stand otherwise than planned.
	Faces []int `json:"faces"`
}

func (s *Server) slipRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/stones/:id/slips", name: "slips", summary: "What a stone would look like if one slip was made"}, func(c *echo.Context, in byID) (Slips, error) {
		ctx := c.Request().Context()
		stone, err := s.workshop.Stone(ctx, in.ID)
		if err != nil {
			return Slips{}, err
		}
		as, looks, err := s.workshop.Slips(ctx, stone)
		if err != nil {
			return Slips{}, err
		}
		return Slips{Planned: finishedMesh(as.Planned), Up: as.Up, Looks: each(looks, func(l workshop.SlipLook) SlipLook {
			return SlipLook{SlipName{l.Kind, l.Tiers, l.By}, words.Slip(l.Slip), l.Told, finishedMesh(l.Cut), l.Facets}
		})}, nil
	})
	handle(s, route{method: http.MethodPost, path: "/api/stones/:id/slips", name: "takeSlip", summary: "Take the look of a slip for what was really cut", computes: true}, func(c *echo.Context, in byIDWithBody[SlipName]) (SurveyTaken, error) {
		ctx := c.Request().Context()
		stone, err := s.workshop.Stone(ctx, in.ID)
		if err != nil {
			return SurveyTaken{}, err
		}
		event, err := s.workshop.TakeSlip(ctx, stone, in.Body.Kind, in.Body.Tiers, in.Body.By, words.ByLook)
		return SurveyTaken{event}, err
	})
}
