package server

import (
	"context"
	"net/http"
	"time"

	"github.com/labstack/echo/v5"

	"cressa/analysis"
	"cressa/core/cutting"
	"cressa/words"
)

// DraftOnly is a draft to be judged.
type DraftOnly struct {
	Draft Draft `json:"draft"`
}

// SequenceReport tells whether a draft can be cut in its order.
type SequenceReport struct {
	Cuttable bool    `json:"cuttable"`
	Problems []Place `json:"problems"`
	// Free lists the places of tiers that are cut by size or by eye.
	Free     []int          `json:"free"`
	Optional []OptionalTier `json:"optional"`
	// Better is an order in which it can be cut, or with fewer tiers by eye; null where
	// none was found. It is the draft itself where nothing is better.
	Better *BetterOrder `json:"better"`
	// Ended tells how the search for a better order ended.
	Ended string `json:"ended" validate:"oneof=complete budget stopped"`
}

// BetterOrder is a draft with its tiers in a better order.
type BetterOrder struct {
	Draft Draft `json:"draft"`
	// Free lists the places of its tiers that are cut by size or by eye.
	Free []int `json:"free"`
	// Moved lists the places of its tiers that stand elsewhere than in the written order,
	// Restopped those of the tiers that get another stop.
	Moved     []int `json:"moved"`
	Restopped []int `json:"restopped"`
	// Changed tells whether anything is different.
	Changed bool `json:"changed"`
}

// OptionalTier tells whether the rest still cuts without an optional tier.
type OptionalTier struct {
	Tier int  `json:"tier"`
	Cuts bool `json:"cuts"`
	// Why says what the rest misses, "" where it cuts.
	Why string `json:"why"`
}

// StopProposals are drafts with the stops that were missing, the likeliest first.
type StopProposals struct {
	// Guessed tells that they were found from the angles alone; otherwise they lead to
	// the same stone.
	Guessed bool `json:"guessed"`
	// Ended tells how the search ended.
	Ended     string  `json:"ended" validate:"oneof=complete budget stopped"`
	Proposals []Draft `json:"proposals"`
}

// patience is how long a search may take before it makes do with what it has; a variable as allowed is.
var patience = 12 * time.Second

func (s *Server) orderRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/sequence", name: "judgeOrder", summary: "Whether a draft can be cut in its order, and a better one", computes: true}, s.judgeOrder)
	handle(s, route{method: http.MethodPost, path: "/api/stops", name: "findStops", summary: "The stops that a draft lacks", computes: true}, findStops)
}

func (s *Server) judgeOrder(c *echo.Context, in withBody[DraftOnly]) (SequenceReport, error) {
	ctx, done := context.WithTimeout(c.Request().Context(), patience)
	defer done()
	if err := searchable(facetsOf(in.Body.Draft)); err != nil {
		return SequenceReport{}, err
	}
	settings, err := s.workshop.Settings(ctx)
	if err != nil {
		return SequenceReport{}, err
	}
	habits := settings.HabitsOf("")
	o, err := analysis.JudgeOrder(ctx, in.Body.Draft.draft(), cutting.Preference{Girdle: habits.Girdle, Table: habits.Table})
	if err != nil {
		return SequenceReport{}, err
	}
	out := SequenceReport{Cuttable: o.Cuttable, Problems: placesOf(o.Problems), Free: o.Free, Optional: []OptionalTier{}, Ended: string(o.Status)}
	if b := o.Better; b != nil {
		out.Better = &BetterOrder{Draft: draftView(b.Draft), Free: b.Free, Moved: b.Moved, Restopped: b.Restopped, Changed: b.Changed()}
	}
	for _, t := range o.Optional {
		view := OptionalTier{Tier: t.Tier, Cuts: t.Missing == nil}
		if t.Missing != nil {
			view.Why = words.Problem(*t.Missing)
			if place := words.Place(*t.Missing); place != "" {
				view.Why = place + ": " + view.Why
			}
		}
		out.Optional = append(out.Optional, view)
	}
	return out, nil
}

func findStops(c *echo.Context, in withBody[DraftOnly]) (StopProposals, error) {
	ctx, done := context.WithTimeout(c.Request().Context(), patience)
	defer done()
	if err := searchable(facetsOf(in.Body.Draft)); err != nil {
		return StopProposals{}, err
	}
	found, err := analysis.FindStops(ctx, in.Body.Draft.draft())
	out := StopProposals{Guessed: found.Guessed, Ended: string(found.Status), Proposals: []Draft{}}
	for _, d := range found.Proposals {
		out.Proposals = append(out.Proposals, draftView(d))
	}
	return out, err
}
