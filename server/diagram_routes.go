package server

import (
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"cressa/core/diagram"
	"cressa/core/quick"
	"cressa/formats"
	"cressa/workshop"
)

// DiagramList is the library.
type DiagramList struct {
	Diagrams []workshop.Diagram `json:"diagrams"`
}

// ReadRequest holds the text of a file, or what was pasted.
type ReadRequest struct {
	Name string `json:"name" validate:"max=300"`
	Text string `json:"text"`
}

// ReadFile is what a text was recognised as, to be looked at before it is added.
type ReadFile struct {
	Name  string        `json:"name"`
	Draft diagram.Draft `json:"draft"`
	// Whole tells that the text was a diagram file; the rest are tables.
	Whole bool       `json:"whole"`
	Lines []ReadLine `json:"lines"`
	// Mistakes say what could not be read and what was guessed.
	Mistakes []Place `json:"mistakes"`
}

// ReadLine is a line of a table: what it was taken for, and its tier from 0 or -1.
type ReadLine struct {
	No   int    `json:"no"`
	Text string `json:"text"`
	Kind string `json:"kind"`
	Tier int    `json:"tier"`
}

// Proposed is a diagram that was designed and is not kept yet.
type Proposed struct {
	Draft diagram.Draft `json:"draft"`
}

// AddDraftRequest adds what was read. Origin says where it came from.
type AddDraftRequest struct {
	Draft  diagram.Draft `json:"draft"`
	Origin string        `json:"origin" validate:"max=300"`
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
	handle(s, http.MethodPost, "/api/diagrams/quick", "quickDesign", "Propose a diagram for an outline and an index", func(_ *echo.Context, in withBody[quick.Wish]) (Proposed, error) {
		d, err := quick.Design(in.Body)
		if err != nil {
			return Proposed{}, err
		}
		return Proposed{diagram.DraftOf(d)}, nil
	})
	handle(s, http.MethodPost, "/api/diagrams/read", "readDiagram", "Recognise a diagram in a file or a table", readDiagram)
	handle(s, http.MethodPost, "/api/diagrams/add", "addDiagram", "Add a diagram that was read", func(c *echo.Context, in withBody[AddDraftRequest]) (workshop.Diagram, error) {
		return s.workshop.ImportDraft(c.Request().Context(), in.Body.Draft, in.Body.Origin)
	})
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
}

// readDiagram reads a diagram file strictly, and anything else as a table. Nothing is
// kept: what was recognised goes back to be looked at.
func readDiagram(_ *echo.Context, in withBody[ReadRequest]) (ReadFile, error) {
	out := ReadFile{Name: in.Body.Name, Lines: []ReadLine{}, Mistakes: []Place{}}
	if strings.HasPrefix(strings.TrimSpace(in.Body.Text), "{") {
		d, mistakes := formats.ReadDiagram([]byte(in.Body.Text))
		if len(mistakes) > 0 {
			return out, inFile(mistakes)
		}
		out.Draft, out.Whole = diagram.DraftOf(d), true
		return out, nil
	}
	table, mistake := formats.ReadTable(in.Body.Text)
	if mistake != nil {
		return out, inFile([]formats.Mistake{*mistake})
	}
	out.Draft = table.Draft
	for _, l := range table.Lines {
		out.Lines = append(out.Lines, ReadLine{l.No, l.Text, string(l.Kind), l.Tier})
	}
	out.Mistakes = placesInFile(table.Mistakes)
	return out, nil
}
