package server

import (
	"context"
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/analysis"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/workshop"
)

// FitRequest asks for a diagram to be fitted to the material and the machine of a plan.
type FitRequest struct {
	DiagramID string  `json:"diagramId" validate:"max=64"`
	Choices   Choices `json:"choices"`
	// Step in degrees is what angles can be set to, Girdle in mm what is left of it, 0 for the
	// diagram's own.
	Step   float64 `json:"step" validate:"min=0.01,max=5"`
	Girdle float64 `json:"girdle" validate:"min=0,max=5"`
	// Move tells whether the angles are moved to the material; null moves them only where the
	// diagram as it is would lose light there.
	Move *bool `json:"move"`
}

// FitReport is a diagram fitted in one step, beside what it was.
type FitReport struct {
	Before FittedStone  `json:"before"`
	After  FittedStone  `json:"after"`
	Tiers  []FittedTier `json:"tiers"`
	// Gear is the machine's gear that fits best, null without gears; CheatGap what its cheats open
	// where the machine has no cheater, in µm.
	Gear     *GearFit `json:"gear"`
	CheatGap float64  `json:"cheatGap"`
	Cheater  bool     `json:"cheater"`
	Warnings []Place  `json:"warnings"`
	// Moved tells whether the angles were moved to the material.
	Moved bool `json:"moved"`
	// Ended tells how the search for the angles ended.
	Ended string `json:"ended" validate:"oneof=complete budget stopped"`
}

// FittedTier is what became of a tier: its angle before, moved exactly and as it can be set, in degrees.
type FittedTier struct {
	Name  string  `json:"name"`
	From  float64 `json:"from"`
	Exact float64 `json:"exact"`
	To    float64 `json:"to"`
}

// FittedStone is a stone at the width and in the material of the plan, lengths in mm.
type FittedStone struct {
	Draft Draft `json:"draft"`
	// Margin is that of the shallowest pavilion tier in degrees, null without a pavilion.
	Margin *float64 `json:"margin"`
	Carats float64  `json:"carats"`
	Height float64  `json:"height"`
	// GirdleMin and GirdleMax are the girdle's thickness where it is least and greatest, 0
	// without one.
	GirdleMin float64 `json:"girdleMin"`
	GirdleMax float64 `json:"girdleMax"`
	// Gap is the widest that a meet opens, in µm.
	Gap float64 `json:"gap"`
	// Unsettable counts tiers at angles that the protractor cannot set.
	Unsettable int `json:"unsettable"`
}

func (s *Server) fitRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/fit", name: "fitDiagram", summary: "A diagram fitted to material and machine in one step", computes: true}, s.fit)
}

func (s *Server) fit(c *echo.Context, in withBody[FitRequest]) (FitReport, error) {
	ctx, done := context.WithTimeout(c.Request().Context(), patience)
	defer done()
	b := in.Body
	plan, err := s.workshop.Assess(ctx, b.DiagramID, "", b.Choices.choices())
	if err != nil {
		return FitReport{}, err
	}
	of, err := s.workshop.Diagram(ctx, b.DiagramID)
	if err != nil {
		return FitReport{}, err
	}
	revision, err := s.workshop.Revision(ctx, of.Revision)
	if err != nil {
		return FitReport{}, err
	}
	if err := searchable(revision.Diagram.FacetCount()); err != nil {
		return FitReport{}, err
	}
	stone, err := cutting.Cut(revision.Diagram)
	if err != nil {
		return FitReport{}, err
	}
	machine := plan.Machine.WithStep(b.Step)
	fitted, err := analysis.Fit(ctx, stone, analysis.FitAsked{
		RefractiveIndex: plan.Material.RefractiveIndex.Low, Settable: machine.SettableAngles, Gears: machine.Gears,
		FirstSide: b.Choices.FirstSide, Girdle: b.Girdle, Width: plan.WidthMM, Move: b.Move,
	})
	if err != nil {
		return FitReport{}, err
	}
	out := FitReport{
		Before: fittedStone(stone, plan, machine), After: fittedStone(fitted.After, plan, machine), Tiers: []FittedTier{},
		CheatGap: fitted.CheatGap, Cheater: machine.Cheater != workshop.CheaterNone,
		Warnings: placesOf(append(fitted.Kept, fitted.Warnings...)), Moved: fitted.Moved, Ended: string(fitted.Status),
	}
	out.After.Gap = 1000 * analysis.MMPerUnit(fitted.Exact, plan.WidthMM) * fitted.WidestGap()
	for _, t := range fitted.Tiers() {
		out.Tiers = append(out.Tiers, FittedTier(t))
	}
	if fitted.Gear != nil {
		out.Gear = (*GearFit)(fitted.Gear)
	}
	return out, nil
}

func fittedStone(s *cutting.Stone, plan *workshop.Assessment, machine workshop.Machine) FittedStone {
	m := s.Measures()
	mm := func(share *float64) float64 {
		if share == nil {
			return 0
		}
		return *share * plan.WidthMM
	}
	out := FittedStone{
		Draft: draftView(diagram.DraftOf(s.Diagram)), Margin: analysis.LeastMargin(s, plan.Material.RefractiveIndex.Low),
		Carats: cutting.Carats(m.VolumeFactor, plan.WidthMM, plan.Material.SG), Height: m.HeightWidth * plan.WidthMM,
		GirdleMin: mm(m.GirdleMin), GirdleMax: mm(m.GirdleMax),
	}
	for _, t := range s.Diagram.Tiers {
		if below, above := machine.SettableAngles(t.Angle); below != above {
			out.Unsettable++
		}
	}
	return out
}
