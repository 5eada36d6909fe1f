package server

import (
	"context"
	"errors"
	"math"
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/core/gear"
	"cressa/words"
	"cressa/workshop"
)

// FlushRequest asks which facets are brought flush in a setup.
type FlushRequest struct {
	ID    string `path:"id" json:"-"`
	Setup string `query:"setup" json:"setup" validate:"required,max=40"`
}

// FlushFacets are facets to bring flush with the lap, those first that tell most of how the stone sits.
type FlushFacets struct {
	Version int          `json:"version"`
	Facets  []FlushFacet `json:"facets"`
	// CanUndo tells that the stone was corrected for how it sits, and that nothing was cut since.
	CanUndo bool `json:"canUndo"`
}

// FlushFacet is a facet to bring flush. Angle is what the protractor read before the stone moved.
type FlushFacet struct {
	ID    string  `json:"id"`
	Face  int     `json:"face"`
	Tier  string  `json:"tier"`
	Angle float64 `json:"angle"`
	Tooth int     `json:"tooth"`
	Cheat float64 `json:"cheat"`
	// Spread is by how many degrees the move is uncertain with this facet and those before it, null where they do not tell it.
	Spread *float64 `json:"spread"`
}

// FoundFlush is where a facet was found when it was flush: the protractor, and the position on the gear.
type FoundFlush struct {
	Facet string  `json:"facet" validate:"required,max=40"`
	Angle float64 `json:"angle" validate:"min=0,max=180"`
	Index float64 `json:"index" validate:"min=0,max=360"`
}

// MovedRequest tells where facets were found in a setup.
type MovedRequest struct {
	Setup   string       `json:"setup" validate:"required,max=40"`
	Found   []FoundFlush `json:"found" validate:"max=24,dive"`
	Version int          `json:"version"`
}

// Moved is how a stone sits that was put back on its dop.
type Moved struct {
	Version int `json:"version"`
	// Tilt and Twist are in degrees, twist towards rising index; Towards is the index that the stone leans to.
	Tilt    float64 `json:"tilt"`
	Towards float64 `json:"towards"`
	Twist   float64 `json:"twist"`
	// Nudge is by how many mm the rim of the stone is lifted on the side that it leans to, to sit straight.
	Nudge float64 `json:"nudge"`
	// Residuals are in degrees, in the order of the readings. Fits tells that none is more than the machine's own error,
	// Misread lists the readings one of which alone would explain it.
	Residuals []float64 `json:"residuals"`
	Fits      bool      `json:"fits"`
	Misread   []int     `json:"misread"`
	// Uncertain is by how many degrees the move is uncertain.
	Uncertain float64 `json:"uncertain"`
	// Tiers is how everything in the setup is dialled then.
	Tiers []LeanDial `json:"tiers"`
	// Beyond names tiers with facets that the machine does not reach then.
	Beyond []string `json:"beyond"`
	// Check says by which facet it shows whether that is right.
	Check string `json:"check"`
}

func (s *Server) redopRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/stones/:id/flush", name: "flushFacets", summary: "Facets to bring flush, to find how a stone sits on its dop"}, func(c *echo.Context, in FlushRequest) (FlushFacets, error) {
		ctx := c.Request().Context()
		stone, err := s.workshop.Stone(ctx, in.ID)
		if err != nil {
			return FlushFacets{}, err
		}
		a, err := s.workshop.AssessStone(ctx, stone)
		if err != nil {
			return FlushFacets{}, err
		}
		facets, err := s.workshop.FlushFacets(ctx, stone, in.Setup)
		if err != nil {
			return FlushFacets{}, err
		}
		canUndo, err := s.workshop.CorrectedLast(ctx, stone)
		return FlushFacets{Version: stone.Version, CanUndo: canUndo, Facets: each(facets, func(f workshop.FlushFacet) FlushFacet {
			// Without an adapter: the stone sits on its dop.
			reading := math.Round((f.Set.Angle+a.Machine.AngleZero)*1e6) / 1e6
			out := FlushFacet{f.ID, f.Place, words.FlushName(f), reading, f.Set.Tooth, f.Set.Cheat, nil}
			if !math.IsInf(f.Spread, 0) {
				spread := f.Spread * a.Machine.Repeatability
				out.Spread = &spread
			}
			return out
		})}, err
	})
	handle(s, route{method: http.MethodPost, path: "/api/stones/:id/moved", name: "tryMoved", summary: "How a stone sits, from facets that were brought flush", computes: true}, func(c *echo.Context, in byIDWithBody[MovedRequest]) (Moved, error) {
		out, _, err := s.moved(c.Request().Context(), in.ID, in.Body)
		return out, err
	})
	handle(s, route{method: http.MethodPut, path: "/api/stones/:id/moved", name: "correctMoved", summary: "Correct what is dialled for a stone that sits otherwise"}, func(c *echo.Context, in byIDWithBody[MovedRequest]) (StoneHead, error) {
		ctx := c.Request().Context()
		_, lean, err := s.moved(ctx, in.ID, in.Body)
		if err != nil {
			return StoneHead{}, err
		}
		stone, err := s.workshop.LeanStone(ctx, in.ID, in.Body.Setup, lean, in.Body.Version)
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
}

// moved finds how a stone sits, and how a plan takes that.
func (s *Server) moved(ctx context.Context, id string, ask MovedRequest) (Moved, workshop.Lean, error) {
	stone, err := s.workshop.Stone(ctx, id)
	if err != nil {
		return Moved{}, workshop.Lean{}, err
	}
	a, err := s.workshop.AssessStone(ctx, stone)
	if err != nil {
		return Moved{}, workshop.Lean{}, err
	}
	got, err := s.workshop.TryMoved(ctx, stone, ask.Setup, each(ask.Found, func(f FoundFlush) workshop.FoundFlush { return workshop.FoundFlush(f) }))
	switch {
	case errors.Is(err, gear.ErrFewReadings):
		return Moved{}, workshop.Lean{}, invalid("Bring two facets flush at least; a third finds one that was misread.", nil)
	case errors.Is(err, gear.ErrOneLine):
		return Moved{}, workshop.Lean{}, invalid("These facets lie alike or opposite, so they leave a turn open. Bring one flush that faces elsewhere.", nil)
	case err != nil:
		return Moved{}, workshop.Lean{}, err
	}
	out := Moved{
		Version: stone.Version, Tilt: got.Tilt, Towards: got.Towards, Twist: got.Twist, Nudge: a.WidthMM / 2 * math.Tan(got.Tilt*math.Pi/180),
		Residuals: got.Residuals, Fits: got.Fits, Misread: []int{}, Uncertain: got.Spread * a.Machine.Repeatability, Tiers: leanDials(got.Tiers), Beyond: []string{},
	}
	out.Misread = append(out.Misread, got.Misread...)
	for _, t := range got.Tiers {
		for _, set := range t.Set {
			if !a.Machine.Reaches(set.Angle) {
				out.Beyond = append(out.Beyond, t.Tier)
				break
			}
		}
	}
	check, err := s.workshop.CheckFacet(ctx, stone, ask.Setup, got.Lean)
	out.Check = words.CheckFacet(check)
	return out, got.Lean, err
}
