package server

import (
	"net/http"
	"regexp"

	"github.com/labstack/echo/v5"

	"cressa/core/diagram"
	"cressa/formats"
	"cressa/workshop"
)

// DiagramList is the library.
type DiagramList struct {
	Diagrams []workshop.Diagram `json:"diagrams"`
}

// ImportRequest holds a diagram file.
type ImportRequest struct {
	Text string `json:"text"`
	// Origin says where the text came from: the file's name.
	Origin string `json:"origin" validate:"max=300"`
}

// DraftRequest saves a draft over the version that was read.
type DraftRequest struct {
	Draft   diagram.Draft `json:"draft"`
	Version int           `json:"version"`
}

// SenseRequest says which way a diagram's indexes run.
type SenseRequest struct {
	Indexing diagram.Indexing `json:"indexing" validate:"oneof=dialled shared"`
	Version  int              `json:"version"`
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
	handle(s, http.MethodPost, "/api/diagrams/:id/variant", "varyDiagram", "Add a variant to hold against it", func(c *echo.Context, in byID) (workshop.Diagram, error) {
		return s.workshop.VaryDiagram(c.Request().Context(), in.ID)
	})
	handle(s, http.MethodPost, "/api/diagrams/:id/sense", "chooseSense", "Say which way the indexes run", func(c *echo.Context, in byIDWithBody[SenseRequest]) (workshop.Diagram, error) {
		return s.workshop.ChooseSense(c.Request().Context(), in.ID, in.Body.Indexing, in.Body.Version)
	})
	handle(s, http.MethodDelete, "/api/diagrams/:id", "deleteDiagram", "Delete; can be undone for 30 days", func(c *echo.Context, in byID) (none, error) {
		return none{}, s.workshop.DeleteDiagram(c.Request().Context(), in.ID)
	})
	handle(s, http.MethodPost, "/api/diagrams/:id/restore", "restoreDiagram", "Bring a deleted diagram back", func(c *echo.Context, in byID) (none, error) {
		return none{}, s.workshop.RestoreDiagram(c.Request().Context(), in.ID)
	})
	s.echo.GET("/api/diagrams/:id/file", s.diagramFile)
}

func (s *Server) importDiagram(c *echo.Context, in withBody[ImportRequest]) (workshop.Diagram, error) {
	d, mistakes := formats.ReadDiagram([]byte(in.Body.Text))
	if len(mistakes) > 0 {
		return workshop.Diagram{}, inFile(mistakes)
	}
	return s.workshop.Import(c.Request().Context(), d, in.Body.Origin)
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
