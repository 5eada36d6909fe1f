package server

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/core/diagram"
	"cressa/core/light"
	"cressa/core/material"
	"cressa/words"
	"cressa/workshop"
)

// MaterialList is the material table.
type MaterialList struct {
	Materials []MaterialView `json:"materials"`
}

// MaterialView is a material with what is computed from it and the cautions that
// go with it.
type MaterialView struct {
	Material
	CriticalAngle material.Range `json:"criticalAngle"`
	Cautions      []string       `json:"cautions"`
	// PolishLap and PolishCompound are what it is usually polished with; where the shelf has them,
	// PolishLapItem and PolishCompoundItem are their IDs there, "" else.
	PolishLap          string `json:"polishLap"`
	PolishCompound     string `json:"polishCompound"`
	PolishLapItem      string `json:"polishLapItem"`
	PolishCompoundItem string `json:"polishCompoundItem"`
	// PolishTrials is on how many trials of one's own that rests, 0 where it is what is usual.
	PolishTrials int `json:"polishTrials"`
	// Own tells that the material is the owner's, not of the table.
	Own bool `json:"own"`
}

// DiagramFields lists what a diagram's fields can be.
type DiagramFields struct {
	Outlines []diagram.Outline `json:"outlines"`
	// Stops are the kinds of stop, in the order in which they are offered.
	Stops []StopKind `json:"stops"`
	// Material is what the figures of a material lie between.
	Material []MaterialBound `json:"material"`
}

// MaterialBound says what a figure of a material lies between.
type MaterialBound struct {
	Field string  `json:"field"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
}

// StopKind is a kind of stop: for tiers of which parts, and which figure is proposed, null
// where it takes none.
type StopKind struct {
	Kind  diagram.StopKind `json:"kind"`
	Parts []diagram.Part   `json:"parts"`
	Usual *string          `json:"usual"`
}

func diagramFields() DiagramFields {
	out := DiagramFields{Outlines: diagram.Outlines, Stops: []StopKind{}}
	out.Material = each(material.Bounds, func(b material.Bound) MaterialBound { return MaterialBound(b) })
	for _, kind := range diagram.StopKinds {
		k := StopKind{Kind: kind, Parts: []diagram.Part{}}
		for _, part := range diagram.Parts {
			if kind.For(part) {
				k.Parts = append(k.Parts, part)
			}
		}
		if figure, takes := kind.Usual(); takes {
			usual := diagram.FormatNumber(figure)
			k.Usual = &usual
		}
		out.Stops = append(out.Stops, k)
	}
	return out
}

// Usual is what something new begins with where nothing is said.
type Usual struct {
	// Gear is that of the default machine, Gears all that it has.
	Gear  int   `json:"gear"`
	Gears []int `json:"gears"`
	// RefractiveIndex is about that of Material; Width is in mm.
	RefractiveIndex float64 `json:"refractiveIndex"`
	Material        string  `json:"material"`
	Width           float64 `json:"width"`
	// LightModel and HeadAngle, in degrees, are how a stone is first looked at.
	LightModel light.Model `json:"lightModel" validate:"oneof=uniform cosine head"`
	HeadAngle  float64     `json:"headAngle"`
	// Allowance is what is left all round a stone in its rough, Kerf what a saw's blade takes, in mm.
	Allowance float64 `json:"allowance"`
	Kerf      float64 `json:"kerf"`
}

func (s *Server) workshopRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/settings", name: "getSettings", summary: "Habits and machine"}, func(c *echo.Context, _ struct{}) (Settings, error) {
		settings, err := s.workshop.Settings(c.Request().Context())
		return settingsView(settings), err
	})
	handle(s, route{method: http.MethodPut, path: "/api/settings", name: "saveSettings", summary: "Save habits and machine"}, func(c *echo.Context, in withBody[Settings]) (Settings, error) {
		settings, err := s.workshop.SaveSettings(c.Request().Context(), in.Body.settings())
		return settingsView(settings), err
	})
	handle(s, route{method: http.MethodGet, path: "/api/materials", name: "listMaterials", summary: "The material table"}, func(c *echo.Context, _ struct{}) (MaterialList, error) {
		out := MaterialList{[]MaterialView{}}
		ctx := c.Request().Context()
		settings, err := s.workshop.Settings(ctx)
		if err != nil {
			return out, err
		}
		all := settings.AllMaterials()
		polishes, err := s.workshop.Polishes(ctx, all)
		if err != nil {
			return out, err
		}
		for i, m := range all {
			out.Materials = append(out.Materials, materialView(m, polishes[i]))
		}
		return out, nil
	})
	handle(s, route{method: http.MethodGet, path: "/api/fields", name: "getFields", summary: "What a diagram's fields can be"}, func(*echo.Context, struct{}) (DiagramFields, error) {
		return diagramFields(), nil
	})
	handle(s, route{method: http.MethodGet, path: "/api/usual", name: "getUsual", summary: "What something new begins with"}, func(c *echo.Context, _ struct{}) (Usual, error) {
		u, err := s.workshop.Usual(c.Request().Context())
		return Usual(u), err
	})
}

func materialView(m material.Material, polish workshop.Polish) MaterialView {
	_, known := material.Find(m.Name)
	return MaterialView{materialOnWire(m), material.Range{
		Low:  material.CriticalAngle(m.RefractiveIndex.High),
		High: m.CriticalAngle(),
	}, words.Cautions(m), polish.Lap, polish.Compound, polish.LapItem, polish.CompoundItem, polish.Trials, !known}
}
