package server

import (
	"net/http"
	"regexp"
	"slices"

	"github.com/labstack/echo/v5"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/formats"
	"cressa/workshop"
)

// SolveRequest asks for the stone that a draft makes.
type SolveRequest struct {
	// Serial comes back in the answer, so that a late one can be dropped.
	Serial int           `json:"serial"`
	Draft  diagram.Draft `json:"draft"`
}

// Solved is the stone that a draft makes, or how far it comes and why no further.
type Solved struct {
	Serial   int     `json:"serial"`
	Problems []Place `json:"problems"`
	Warnings []Place `json:"warnings"`
	// Stone is null where the draft cannot be read.
	Stone *StoneView `json:"stone"`
}

// DiagramList is the library.
type DiagramList struct {
	Diagrams []workshop.Diagram `json:"diagrams"`
}

// ImportRequest holds a diagram file.
type ImportRequest struct {
	Text string `json:"text"`
}

// DraftRequest saves a draft over the version that was read.
type DraftRequest struct {
	Draft   diagram.Draft `json:"draft"`
	Version int           `json:"version"`
}

// VersionRequest acts on the version that was read.
type VersionRequest struct {
	Version int `json:"version"`
}

type byID struct {
	ID string `path:"id"`
}

type withBody[T any] struct {
	Body T
}

type byIDWithBody[T any] struct {
	ID   string `path:"id"`
	Body T
}

func (s *Server) diagramRoutes() {
	handle(s, http.MethodPost, "/api/solve", "solve", "The stone that a draft makes", s.solve)
	handle(s, http.MethodGet, "/api/diagrams", "listDiagrams", "The library", func(c *echo.Context, _ struct{}) (DiagramList, error) {
		list, err := s.workshop.Diagrams(c.Request().Context())
		return DiagramList{list}, err
	})
	handle(s, http.MethodPost, "/api/diagrams", "newDiagram", "Add an empty diagram", func(c *echo.Context, _ struct{}) (workshop.Diagram, error) {
		return s.workshop.NewDiagram(c.Request().Context())
	})
	handle(s, http.MethodPost, "/api/diagrams/import", "importDiagram", "Add a diagram from a file", s.importDiagram)
	handle(s, http.MethodGet, "/api/diagrams/:id", "getDiagram", "One diagram", func(c *echo.Context, in byID) (workshop.Diagram, error) {
		return s.workshop.Diagram(c.Request().Context(), in.ID)
	})
	handle(s, http.MethodPut, "/api/diagrams/:id/draft", "saveDraft", "Save a draft as it was typed", func(c *echo.Context, in byIDWithBody[DraftRequest]) (workshop.Diagram, error) {
		return s.workshop.SaveDraft(c.Request().Context(), in.ID, in.Body.Draft, in.Body.Version)
	})
	handle(s, http.MethodPost, "/api/diagrams/:id/keep", "keepDiagram", "Keep the draft as the present version", func(c *echo.Context, in byIDWithBody[VersionRequest]) (workshop.Diagram, error) {
		return s.workshop.KeepDraft(c.Request().Context(), in.ID, in.Body.Version)
	})
	handle(s, http.MethodPost, "/api/diagrams/:id/copy", "copyDiagram", "Add a copy", func(c *echo.Context, in byID) (workshop.Diagram, error) {
		return s.workshop.CopyDiagram(c.Request().Context(), in.ID)
	})
	handle(s, http.MethodDelete, "/api/diagrams/:id", "deleteDiagram", "Delete; can be undone for 30 days", func(c *echo.Context, in byID) (none, error) {
		return none{}, s.workshop.DeleteDiagram(c.Request().Context(), in.ID)
	})
	handle(s, http.MethodPost, "/api/diagrams/:id/restore", "restoreDiagram", "Bring a deleted diagram back", func(c *echo.Context, in byID) (none, error) {
		return none{}, s.workshop.RestoreDiagram(c.Request().Context(), in.ID)
	})
	s.echo.GET("/api/diagrams/:id/file", s.diagramFile)
}

func (s *Server) solve(_ *echo.Context, in withBody[SolveRequest]) (Solved, error) {
	stone, problems := cutting.Sketch(in.Body.Draft)
	out := Solved{Serial: in.Body.Serial, Problems: placesOf(problems), Warnings: []Place{}}
	if stone == nil {
		return out, nil
	}
	out.Warnings = placesOf(stone.Warnings)
	stopped := slices.ContainsFunc(problems, func(p diagram.Problem) bool { return p.TierNo >= 0 })
	out.Stone = diagramView(stone, !stopped && !stone.Solid().ShowsBlock())
	return out, nil
}

func (s *Server) importDiagram(c *echo.Context, in withBody[ImportRequest]) (workshop.Diagram, error) {
	d, mistakes := formats.ReadDiagram([]byte(in.Body.Text))
	if len(mistakes) > 0 {
		return workshop.Diagram{}, inFile(mistakes)
	}
	return s.workshop.Import(c.Request().Context(), d)
}

var notInFileNames = regexp.MustCompile(`[^A-Za-z0-9]+`)

// diagramFile downloads the present revision as a diagram file.
func (s *Server) diagramFile(c *echo.Context) error {
	d, err := s.workshop.Diagram(c.Request().Context(), c.Param("id"))
	if err != nil {
		return err
	}
	if d.Revision == "" {
		return workshop.ErrNotKept
	}
	return s.download(c, d.Revision)
}

// download sends a revision as a diagram file.
func (s *Server) download(c *echo.Context, revision string) error {
	r, err := s.workshop.Revision(c.Request().Context(), revision)
	if err != nil {
		return err
	}
	data, err := formats.WriteDiagram(r.Diagram)
	if err != nil {
		return err
	}
	name := notInFileNames.ReplaceAllString(r.Diagram.Name, "-") + ".cressa.json"
	c.Response().Header().Set("Content-Disposition", `attachment; filename="`+name+`"`)
	return c.Blob(http.StatusOK, "application/json", data)
}
