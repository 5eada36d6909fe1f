package server

import (
	"context"
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/analysis"
	"cressa/core/angles"
	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/core/printed"
	"cressa/words"
	"cressa/workshop"
)

// AnglesRequest asks for the angles of a draft to be moved and rounded.
type AnglesRequest struct {
	Draft Draft `json:"draft"`
	// Target is null where the angles stay, apart from being rounded.
	Target *AnglesTarget `json:"target"`
	// Step in degrees is what the angles are rounded to, 0 for not at all. Search looks
	// for the neighbours that cost least; otherwise the nearest are taken.
	Step   float64 `json:"step" validate:"min=0,max=5"`
	Search bool    `json:"search"`
	// Width in mm is what gaps, heights and weights are reckoned with, Material what the
	// weights are of, "" for none.
	Width    float64 `json:"width" validate:"min=0.1,max=500"`
	Material string  `json:"material" validate:"max=100"`
}

// AnglesTarget is what the angles are to suit.
type AnglesTarget struct {
	RefractiveIndex float64 `json:"refractiveIndex" validate:"min=1.01,max=4"`
	// Margin is that of the shallowest pavilion tier, null for its own, at least 1.
	Margin      *float64 `json:"margin" validate:"omitempty,min=-20,max=40"`
	CrownFactor float64  `json:"crownFactor" validate:"min=0.1,max=10"`
	// CrownWithPavilion gives the crown the pavilion's factor instead.
	CrownWithPavilion bool `json:"crownWithPavilion"`
}

// AnglesReport is a draft at other angles, beside what it was.
type AnglesReport struct {
	Draft Draft `json:"draft"`
	// Exact is the draft before it was rounded.
	Exact          Draft   `json:"exact"`
	PavilionFactor float64 `json:"pavilionFactor"`
	CrownFactor    float64 `json:"crownFactor"`
	// Margin is what the shallowest pavilion tier was given or, without a target, would be
	// given unasked; 0 without a pavilion.
	Margin   float64      `json:"margin"`
	Tiers    []MovedTier  `json:"tiers"`
	Before   MovedStone   `json:"before"`
	After    MovedStone   `json:"after"`
	Warnings []Place      `json:"warnings"`
	Meets    []LoupeMeet  `json:"meets"`
	Nearest  RoundingCost `json:"nearest"`
	Best     RoundingCost `json:"best"`
	// Ended tells how the search for the best rounding ended.
	Ended string `json:"ended" validate:"oneof=complete budget stopped"`
}

// MovedTier is a tier before and after, angles in degrees.
type MovedTier struct {
	Name       string   `json:"name"`
	From       float64  `json:"from"`
	Exact      float64  `json:"exact"`
	To         float64  `json:"to"`
	MarginFrom *float64 `json:"marginFrom"`
	MarginTo   *float64 `json:"marginTo"`
	Judgement  string   `json:"judgement"`
}

// MovedStone is what a stone measures at the given width, lengths in mm.
type MovedStone struct {
	CriticalAngle float64 `json:"criticalAngle"`
	// The lengths are null of a stone that has no such part.
	Height   *float64 `json:"height"`
	Crown    *float64 `json:"crown"`
	Pavilion *float64 `json:"pavilion"`
	// Carats is null where no material is named.
	Carats *float64 `json:"carats"`
}

// RoundingCost is what a rounding opens, in µm: the largest gap and residual.
type RoundingCost struct {
	Gap      float64 `json:"gap"`
	Residual float64 `json:"residual"`
}

// FindAngleRequest asks for angles that bring a tier to a second meet.
type FindAngleRequest struct {
	Draft Draft `json:"draft"`
	Tier  int   `json:"tier" validate:"min=0,max=399"`
	// Width in mm is what gaps are reckoned at.
	Width float64 `json:"width" validate:"min=0.1,max=500"`
}

// FoundAngles are in the order of how far they lie from the angle that the tier has.
type FoundAngles struct {
	Angles []FoundAngle `json:"angles"`
}

// FoundAngle is an angle at which a tier comes to a second meet as well as to its stop.
type FoundAngle struct {
	Angle float64 `json:"angle"`
	// Meet names the second meet in words.
	Meet string `json:"meet"`
	// Below and Above are the angles next to it that the default machine can set, equal where it
	// can be set as it is; with the widest gap in µm that each leaves at the tier's meets.
	Below    float64 `json:"below"`
	Above    float64 `json:"above"`
	BelowGap float64 `json:"belowGap"`
	AboveGap float64 `json:"aboveGap"`
}

func (s *Server) anglesRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/angles/find", name: "findAngle", summary: "Angles that bring a tier to a second meet", computes: true}, s.findAngle)
	handle(s, route{method: http.MethodPost, path: "/api/angles", name: "moveAngles", summary: "A draft for another refractive index, its angles rounded", computes: true}, s.moveAngles)
}

func (s *Server) findAngle(c *echo.Context, in withBody[FindAngleRequest]) (FoundAngles, error) {
	settings, err := s.workshop.Settings(c.Request().Context())
	if err != nil {
		return FoundAngles{}, err
	}
	b := in.Body
	if err := searchable(facetsOf(b.Draft)); err != nil {
		return FoundAngles{}, err
	}
	found, err := analysis.FindAngle(c.Request().Context(), b.Draft.draft(), b.Tier, b.Width, settings.MachineOf("").SettableAngles)
	return FoundAngles{each(found, func(f analysis.SecondMeet) FoundAngle {
		meet := words.Stop(diagram.Tier{Stop: f.Meet}, 0, words.Scale{})
		return FoundAngle{f.Angle, meet, f.Below, f.Above, f.BelowGap, f.AboveGap}
	})}, err
}

func (s *Server) moveAngles(c *echo.Context, in withBody[AnglesRequest]) (AnglesReport, error) {
	ctx, done := context.WithTimeout(c.Request().Context(), patience)
	defer done()
	b := in.Body
	stone, err := analysis.Whole(b.Draft.draft())
	if err == nil {
		err = searchable(len(stone.Facets))
	}
	if err != nil {
		return AnglesReport{}, err
	}
	settings, err := s.workshop.Settings(ctx)
	if err != nil {
		return AnglesReport{}, err
	}
	weighed, err := materialOf(settings, b.Material)
	if err != nil {
		return AnglesReport{}, err
	}
	ask := analysis.AnglesAsked{Target: (*angles.Target)(b.Target), Search: true, Best: b.Search}
	if b.Step > 0 {
		ask.Settable = settings.MachineOf("").WithStep(b.Step).SettableAngles
	}
	m, err := analysis.MoveAngles(ctx, stone, ask)
	if err != nil {
		return AnglesReport{}, err
	}
	out := AnglesReport{
		Draft: draftView(printed.Rewritten(b.Draft.draft(), m.After.Diagram, nil)), Exact: draftView(printed.Rewritten(b.Draft.draft(), m.Exact.Diagram, nil)),
		PavilionFactor: m.PavilionFactor, CrownFactor: m.CrownFactor, Margin: m.Margin, Tiers: []MovedTier{},
		Before: MovedStone(analysis.Sized(m.Before, b.Width, weighed)), After: MovedStone(analysis.Sized(m.After, b.Width, weighed)),
		Warnings: placesOf(m.Warnings), Meets: meetViews(analysis.Meets(m.Exact, m.Errors, b.Width)), Ended: string(m.Status),
	}
	out.Nearest.Gap, out.Nearest.Residual = m.RoundingCost(m.Nearest, b.Width)
	out.Best.Gap, out.Best.Residual = m.RoundingCost(m.Best, b.Width)
	for _, t := range m.Tiers() {
		out.Tiers = append(out.Tiers, MovedTier{t.Name, t.From, t.Exact, t.To, t.MarginFrom, t.MarginTo, string(t.Judgement)})
	}
	return out, nil
}

// materialOf finds a material by its name, nil for "". The error is a diagram.Problem.
func materialOf(settings workshop.Settings, name string) (*material.Material, error) {
	if name == "" {
		return nil, nil
	}
	m, ok := settings.Material(name)
	if !ok {
		return nil, diagram.Problem{Code: workshop.UnknownMaterial, TierNo: -1, Field: "material", Text: name}
	}
	return &m, nil
}
