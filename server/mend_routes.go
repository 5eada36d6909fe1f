package server

import (
	"context"
	"fmt"
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/analysis"
	"cressa/core/diagram"
	"cressa/core/light"
	"cressa/core/mending"
	"cressa/words"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// WaysOut are the ways out of what went wrong with a stone at the wheel, side by side. Lengths are in mm.
type WaysOut struct {
	Version int `json:"version"`
	// Wrong tells what went wrong since the stone was last mended.
	Wrong []WentWrong `json:"wrong"`
	// Cut is the stone as it stands, Planned as its plan has it. Faces are numbered like the facets of the plan, what was cut
	// beside them from there on.
	Cut     Mesh         `json:"cut"`
	Planned Mesh         `json:"planned"`
	Levels  Levels       `json:"levels"`
	Up      diagram.Part `json:"up" validate:"oneof=crown pavilion"`
	Plan    MendFigures  `json:"plan"`
	Ways    []WayOut     `json:"ways"`
	// Mended is how the stone was mended last, null where it was not.
	Mended *MendedView `json:"mended"`
}

// WentWrong is something that went wrong at a facet.
type WentWrong struct {
	Tier  string `json:"tier"`
	Tooth int    `json:"tooth"`
	// Face is the number of the facet, -1 where the plan does not have it any more.
	Face int    `json:"face"`
	Text string `json:"text"`
}

// MendedView is a way that was chosen.
type MendedView struct {
	Way  mending.Kind `json:"way" validate:"oneof=leave tier side smaller largest"`
	Text string       `json:"text"`
	// CanUndo tells that nothing was cut since.
	CanUndo bool `json:"canUndo"`
}

// WayOut is a way out, with the stone that it gives. Where it cannot be gone Why says so, and all else is empty.
type WayOut struct {
	Way  mending.Kind `json:"way" validate:"oneof=leave tier side smaller largest"`
	Name string       `json:"name"`
	Does string       `json:"does"`
	Why  string       `json:"why"`
	// Solid is null where the way cannot be gone.
	Solid   *Mesh        `json:"solid"`
	Figures *MendFigures `json:"figures"`
	// Scale is against the plan, null where the way has none.
	Scale *float64 `json:"scale"`
	// Again is how many facets are cut again, Visits how often they are, Minutes how long that takes at one's own pace. Turns is how
	// many times more than planned the stone is turned over for it.
	Again   int        `json:"again"`
	Visits  int        `json:"visits"`
	Turns   int        `json:"turns"`
	Minutes float64    `json:"minutes"`
	Tiers   []MendTier `json:"tiers"`
	// Gap is the widest gap of a planned meet in µm.
	Gap float64 `json:"gap"`
	// Takes holds, by the numbers of the facets, what comes off those that are cut again.
	Takes []FaceTake `json:"takes"`
}

// FaceTake is what comes off a facet along its normal, in mm.
type FaceTake struct {
	Face int     `json:"face"`
	MM   float64 `json:"mm"`
}

// MendTier is what comes off the facets of a tier that are cut again, in mm and in divisions of the height dial, null without.
type MendTier struct {
	Tier           string   `json:"tier"`
	Facets         int      `json:"facets"`
	Least          float64  `json:"least"`
	Most           float64  `json:"most"`
	LeastDivisions *float64 `json:"leastDivisions"`
	MostDivisions  *float64 `json:"mostDivisions"`
}

// MendFigures are a stone's figures. Lost is the share of the planned weight that goes, less than 0 where more is left.
type MendFigures struct {
	AsCutFigures
	Lost float64 `json:"lost"`
	// Return and Window are shares of the light, face up.
	Return float64 `json:"return"`
	Window float64 `json:"window"`
}

// MendRequest chooses a way out over the version of the stone that was read.
type MendRequest struct {
	Way     mending.Kind `json:"way" validate:"oneof=leave tier side smaller largest"`
	Version int          `json:"version"`
}

// AtVersion asks for a change of a stone over the version that was read.
type AtVersion struct {
	Version int `json:"version"`
}

func (s *Server) mendRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/stones/:id/ways-out", name: "waysOut", summary: "The ways out of what went wrong with a stone at the wheel"}, func(c *echo.Context, in byID) (WaysOut, error) {
		return s.waysOut(c.Request().Context(), in.ID)
	})
	handle(s, route{method: http.MethodPut, path: "/api/stones/:id/mending", name: "mendStone", summary: "Choose a way out: the plan goes on from there"}, func(c *echo.Context, in byIDWithBody[MendRequest]) (StoneHead, error) {
		stone, err := s.workshop.Mend(c.Request().Context(), in.ID, in.Body.Way, in.Body.Version)
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
	handle(s, route{method: http.MethodPut, path: "/api/stones/:id/plan/undo", name: "takePlanBack", summary: "Take back what a stone was mended or corrected by last"}, func(c *echo.Context, in byIDWithBody[AtVersion]) (StoneHead, error) {
		stone, err := s.workshop.TakePlanBack(c.Request().Context(), in.ID, in.Body.Version)
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
}

func (s *Server) waysOut(ctx context.Context, id string) (WaysOut, error) {
	stone, err := s.workshop.Stone(ctx, id)
	if err != nil {
		return WaysOut{}, err
	}
	found, err := s.workshop.WaysOut(ctx, stone)
	if err != nil {
		return WaysOut{}, err
	}
	usual, err := s.workshop.Usual(ctx)
	if err != nil {
		return WaysOut{}, err
	}
	ask := analysis.FaceAsked{Experiment: light.Experiment{Grid: adaptGrid, HeadAngle: usual.HeadAngle}, Model: usual.LightModel}
	ways, err := analysis.WaysAtWheel(ctx, found, ask)
	if err != nil {
		return WaysOut{}, err
	}
	lit, err := analysis.FaceUp(ctx, found.Assessment, ask)
	if err != nil {
		return WaysOut{}, err
	}
	plan := stone.Work().Plan
	out := WaysOut{
		Version: stone.Version, Wrong: []WentWrong{},
		Cut: finishedMesh(found.Cut), Planned: finishedMesh(found.Stone), Levels: levelsOf(found.Stone), Up: found.Up,
		Plan: MendFigures{AsCutFigures: asCutFigures(found.AsCut, found.Stone), Return: lit.Return, Window: lit.Window},
		Ways: each(ways, func(w analysis.WayAtWheel) WayOut { return wayOut(w, found) }),
	}
	for i, h := range found.Wrong {
		one := wentWrong(h, found, plan)
		if found.Goes[i] {
			one.Text += words.GoesAnyway
		}
		out.Wrong = append(out.Wrong, one)
	}
	for i, d := range found.Otherwise {
		// A tier says it once, at the first of its facets.
		if i > 0 && found.Otherwise[i-1].Tier == d.Tier {
			continue
		}
		out.Wrong = append(out.Wrong, WentWrong{d.Tier, d.Planned.Tooth, d.Facet, words.Difference(d, found.AsCut)})
	}
	if m := plan.MendedAtWheel(); m != nil {
		out.Mended = &MendedView{m.Way, words.WayOut(m.Way), plan.Over > 0 && m.Plan == plan.No && !found.CutSince}
	}
	return out, nil
}

func wentWrong(h journal.Incident, w *workshop.WaysOut, plan *workshop.Plan) WentWrong {
	out := WentWrong{Face: plan.PlaceOf(w.Stone, h.At.Facet), Text: words.Happened(h.Happened)}
	if out.Face >= 0 {
		f := w.Stone.Facets[out.Face]
		out.Tier, out.Tooth = w.Stone.Diagram.Tiers[f.Tier].Name, w.Stone.Dial(f, w.Choices.Gear, w.Turns).Tooth
	}
	return out
}

// facetAt names a facet by its tier and the tooth that is dialled for it.
func facetAt(a *workshop.Assessment, place int) string {
	return fmt.Sprintf("%s at %d", a.Stone.Diagram.Tiers[a.Stone.Facets[place].Tier].Name, a.Planned(place).Tooth)
}

func wayOut(w analysis.WayAtWheel, found *workshop.WaysOut) WayOut {
	out := WayOut{Way: w.Kind, Name: words.WayOut(w.Kind), Does: words.WayDoes(w.Kind), Tiers: []MendTier{}, Takes: []FaceTake{}}
	if w.Err != nil {
		out.Why = words.WhyNot(w.Err)
		return out
	}
	if len(w.With) > 0 && w.Kind != mending.Leave {
		out.Does += " " + words.GoesWith(each(w.With, func(place int) string { return facetAt(found.Assessment, place) }))
	}
	solid := finishedMesh(w.Stone)
	out.Solid, out.Scale, out.Again, out.Visits, out.Minutes, out.Gap = &solid, w.Scale, w.Again, w.Visits, w.Minutes, w.GapMax
	out.Turns = found.TurnsBack(w.Way)
	out.Figures = &MendFigures{asCutFigures(found.AsCut, w.Stone), w.Lost, w.Return, w.Window}
	for _, t := range w.Tiers {
		out.Tiers = append(out.Tiers, MendTier(t))
	}
	for i, take := range w.Take {
		if take *= found.MM; take > mending.Untouched {
			out.Takes = append(out.Takes, FaceTake{i, take})
		}
	}
	return out
}
