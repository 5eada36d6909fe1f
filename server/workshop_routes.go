package server

import (
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/words"
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
	// Own tells that the material is the owner's, not of the table.
	Own bool `json:"own"`
}

// DiagramFields lists what a diagram's fields can be.
type DiagramFields struct {
	Outlines []diagram.Outline `json:"outlines"`
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
		settings, err := s.workshop.Settings(c.Request().Context())
		for _, m := range settings.AllMaterials() {
			out.Materials = append(out.Materials, materialView(m))
		}
		return out, err
	})
	handle(s, route{method: http.MethodGet, path: "/api/fields", name: "getFields", summary: "What a diagram's fields can be"}, func(*echo.Context, struct{}) (DiagramFields, error) {
		return DiagramFields{diagram.Outlines}, nil
	})
}

func materialView(m material.Material) MaterialView {
	_, known := material.Find(m.Name)
	return MaterialView{Material(m), material.Range{
		Low:  material.CriticalAngle(m.RefractiveIndex.High),
		High: m.CriticalAngle(),
	}, words.Cautions(m), !known}
}
