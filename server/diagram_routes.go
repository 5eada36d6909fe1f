package server

import (
	"cmp"
	"errors"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"cressa/analysis"
	"cressa/core/diagram"
	"cressa/formats"
	"cressa/workshop"
)

// DiagramList is a page of the library.
type DiagramList struct {
	Diagrams []DiagramLine `json:"diagrams"`
	// Next is where the next page begins, "" after the last; Total counts all that match.
	Next  string `json:"next"`
	Total int    `json:"total"`
	// Outlines and Gears are those that the whole library has.
	Outlines []string `json:"outlines"`
	Gears    []string `json:"gears"`
	// Waiting counts the diagrams that the machine has not judged yet.
	Waiting int `json:"waiting"`
}

// DiagramsRequest says which diagrams are looked for, and in which order.
type DiagramsRequest struct {
	// Text holds words that must all be found.
	Text       string  `query:"text" json:"text" validate:"max=200"`
	Outline    string  `query:"outline" json:"outline" validate:"max=100"`
	Gear       string  `query:"gear" json:"gear" validate:"max=100"`
	FacetsFrom int     `query:"facetsFrom" json:"facetsFrom" validate:"min=0"`
	FacetsTo   int     `query:"facetsTo" json:"facetsTo" validate:"min=0"`
	RatioFrom  float64 `query:"ratioFrom" json:"ratioFrom" validate:"min=0"`
	RatioTo    float64 `query:"ratioTo" json:"ratioTo" validate:"min=0"`
	// Suits names a material in which the pavilion keeps its light.
	Suits string `query:"suits" json:"suits" validate:"max=60"`
	Level string `query:"level" json:"level" validate:"omitempty,oneof=easy moderate demanding hard"`
	// Cuttable leaves those that the machine can cut as they are, Kept those with a version.
	Cuttable bool `query:"cuttable" json:"cuttable"`
	Kept     bool `query:"kept" json:"kept"`
	// Deleted lists what was deleted in the last 30 days in place of the library.
	Deleted bool   `query:"deleted" json:"deleted"`
	Sort    string `query:"sort" json:"sort" validate:"omitempty,oneof=name facets ratio difficulty fit"`
	// After is the Next of the page before.
	After string `query:"after" json:"after" validate:"max=2000"`
	Limit int    `query:"limit" json:"limit" validate:"min=0,max=200"`
}

// HashRequest names a version of a diagram.
type HashRequest struct {
	Hash string `path:"hash" json:"-"`
}

// ReadRequest holds the text of a file, or what was pasted.
type ReadRequest struct {
	Name string `json:"name" validate:"max=300"`
	Text string `json:"text"`
	// Angles is which of several columns of angles counts, from 0.
	Angles int `json:"angles" validate:"min=0,max=9"`
	// Width is the planned width in mm as it is typed.
	Width string `json:"width" validate:"max=100"`
}

// ReadFile is what a text was recognised as, to be looked at before it is added.
type ReadFile struct {
	Name  string `json:"name"`
	Draft Draft  `json:"draft"`
	// Whole tells that the text was a diagram file; the rest are tables.
	Whole bool       `json:"whole"`
	Lines []ReadLine `json:"lines"`
	// Mistakes say what could not be read and what was guessed.
	Mistakes []Place `json:"mistakes"`
	// Angles labels the columns of angles where the sheet has several, one for each material.
	Angles []string `json:"angles"`
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
	Draft Draft `json:"draft"`
}

// AddDraftRequest adds what was read. Origin says where it came from.
type AddDraftRequest struct {
	Draft  Draft  `json:"draft"`
	Origin string `json:"origin" validate:"max=300"`
	// Designed tells that it was designed here, so that which way its indexes run is known.
	Designed bool `json:"designed"`
}

// DraftRequest saves a draft over the version that was read.
type DraftRequest struct {
	Draft   Draft `json:"draft"`
	Version int   `json:"version"`
}

// VariantRequest asks for a variant: with the draft that is given and kept at once or, where
// it is null, with that of the diagram itself.
type VariantRequest struct {
	Draft *Draft `json:"draft"`
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
	handle(s, route{method: http.MethodGet, path: "/api/diagrams", name: "listDiagrams", summary: "A page of the library"}, s.diagramList)
	// A version never changes, and neither does its picture.
	handle(s, route{method: http.MethodGet, path: "/api/pictures/:hash", name: "getPicture", summary: "The small drawing of a version", lasts: true}, func(c *echo.Context, in HashRequest) (Picture, error) {
		p, err := s.workshop.Picture(c.Request().Context(), in.Hash)
		return Picture(p), err
	})
	handle(s, route{method: http.MethodPost, path: "/api/diagrams", name: "newDiagram", summary: "Add an empty diagram", creates: true}, func(c *echo.Context, _ struct{}) (Diagram, error) {
		return viewed(s.workshop.NewDiagram(c.Request().Context()))
	})
	handle(s, route{method: http.MethodPost, path: "/api/diagrams/quick", name: "quickDesign", summary: "Propose a diagram for an outline and an index", computes: true}, func(c *echo.Context, in withBody[Wish]) (Proposed, error) {
		settings, err := s.workshop.Settings(c.Request().Context())
		if err != nil {
			return Proposed{}, err
		}
		draft, err := analysis.QuickDesign(in.Body.wish(), settings.HabitsOf("").Long)
		return Proposed{draftView(draft)}, err
	})
	handle(s, route{method: http.MethodPost, path: "/api/diagrams/read", name: "readDiagram", summary: "Recognise a diagram in a file or a table"}, readDiagram)
	handle(s, route{method: http.MethodPost, path: "/api/diagrams/add", name: "addDiagram", summary: "Add a diagram that was read", creates: true}, func(c *echo.Context, in withBody[AddDraftRequest]) (Diagram, error) {
		return viewed(s.workshop.ImportDraft(c.Request().Context(), in.Body.Draft.draft(), in.Body.Origin, in.Body.Designed))
	})
	handle(s, route{method: http.MethodGet, path: "/api/diagrams/:id", name: "getDiagram", summary: "One diagram"}, s.diagramPage)
	handle(s, route{method: http.MethodPut, path: "/api/diagrams/:id/draft", name: "saveDraft", summary: "Save a draft as it was typed"}, func(c *echo.Context, in byIDWithBody[DraftRequest]) (Diagram, error) {
		return viewed(s.workshop.SaveDraft(c.Request().Context(), in.ID, in.Body.Draft.draft(), in.Body.Version))
	})
	handle(s, route{method: http.MethodPost, path: "/api/diagrams/:id/keep", name: "keepDiagram", summary: "Keep the draft as the present version"}, func(c *echo.Context, in byIDWithBody[VersionRequest]) (Diagram, error) {
		return viewed(s.workshop.KeepDraft(c.Request().Context(), in.ID, in.Body.Version))
	})
	handle(s, route{method: http.MethodPost, path: "/api/diagrams/:id/copy", name: "copyDiagram", summary: "Add a copy", creates: true}, func(c *echo.Context, in byID) (Diagram, error) {
		return viewed(s.workshop.CopyDiagram(c.Request().Context(), in.ID))
	})
	handle(s, route{method: http.MethodPost, path: "/api/diagrams/:id/variant", name: "varyDiagram", summary: "Add a variant to hold against it", creates: true}, func(c *echo.Context, in byIDWithBody[VariantRequest]) (Diagram, error) {
		if in.Body.Draft == nil {
			return viewed(s.workshop.VaryDiagram(c.Request().Context(), in.ID))
		}
		return viewed(s.workshop.AddVariant(c.Request().Context(), in.ID, in.Body.Draft.draft()))
	})
	handle(s, route{method: http.MethodPost, path: "/api/diagrams/:id/sense", name: "chooseSense", summary: "Say which way the indexes run"}, func(c *echo.Context, in byIDWithBody[SenseRequest]) (Diagram, error) {
		return viewed(s.workshop.ChooseSense(c.Request().Context(), in.ID, in.Body.Indexing, in.Body.Version))
	})
	handle(s, route{method: http.MethodDelete, path: "/api/diagrams/:id", name: "deleteDiagram", summary: "Delete; can be undone for 30 days"}, func(c *echo.Context, in byID) (none, error) {
		return none{}, s.workshop.DeleteDiagram(c.Request().Context(), in.ID)
	})
	handle(s, route{method: http.MethodPost, path: "/api/diagrams/:id/restore", name: "restoreDiagram", summary: "Bring a deleted diagram back"}, func(c *echo.Context, in byID) (none, error) {
		return none{}, s.workshop.RestoreDiagram(c.Request().Context(), in.ID)
	})
}

// viewed is a diagram that was made or changed.
func viewed(d workshop.Diagram, err error) (Diagram, error) { return diagramView(d), err }

func (s *Server) diagramList(c *echo.Context, in DiagramsRequest) (DiagramList, error) {
	ctx := c.Request().Context()
	f := workshop.DiagramFilter{
		Words: strings.Fields(in.Text), Outline: in.Outline, Gear: in.Gear, FacetsFrom: in.FacetsFrom, FacetsTo: in.FacetsTo,
		LengthWidthFrom: in.RatioFrom, LengthWidthTo: in.RatioTo, Level: workshop.Level(in.Level), Cuttable: in.Cuttable, Kept: in.Kept, Deleted: in.Deleted,
		Sort: workshop.DiagramSort(in.Sort),
	}
	if in.Suits != "" {
		settings, err := s.workshop.Settings(ctx)
		if err != nil {
			return DiagramList{}, err
		}
		m, ok := settings.Material(in.Suits)
		if !ok {
			return DiagramList{}, diagram.Problem{Code: workshop.UnknownMaterial, TierNo: -1, Field: "suits", Text: in.Suits}
		}
		f.Steeper = m.CriticalAngle()
	}
	from, err := readCursor(in.After)
	if err != nil {
		return DiagramList{}, err
	}
	page, err := s.workshop.Diagrams(ctx, f, from, cmp.Or(in.Limit, usualPage))
	out := DiagramList{
		Diagrams: []DiagramLine{}, Next: writeCursor(page.Next), Total: page.Total, Outlines: page.Outlines, Gears: page.Gears, Waiting: page.Waiting,
	}
	for _, l := range page.Lines {
		out.Diagrams = append(out.Diagrams, diagramLine(l))
	}
	return out, err
}

func (s *Server) diagramPage(c *echo.Context, in byID) (DiagramPage, error) {
	ctx := c.Request().Context()
	d, err := s.workshop.Diagram(ctx, in.ID)
	if err != nil {
		return DiagramPage{}, err
	}
	out := DiagramPage{Diagram: diagramView(d), Variants: []DiagramName{}}
	switch j, err := s.workshop.Judged(ctx, d.Revision); {
	case err == nil:
		out.Judged = judgedView(&j)
	case !errors.Is(err, workshop.ErrNotFound):
		return out, err
	}
	variants, err := s.workshop.Variants(ctx, d)
	for _, v := range variants {
		out.Variants = append(out.Variants, DiagramName(v))
	}
	return out, err
}

// readDiagram reads a diagram file strictly, and anything else as a table. Nothing is
// kept: what was recognised goes back to be looked at.
func readDiagram(_ *echo.Context, in withBody[ReadRequest]) (ReadFile, error) {
	out := ReadFile{Name: in.Body.Name, Lines: []ReadLine{}, Mistakes: []Place{}, Angles: []string{}}
	if strings.HasPrefix(strings.TrimSpace(in.Body.Text), "{") {
		d, mistakes := formats.ReadDiagram([]byte(in.Body.Text))
		if len(mistakes) > 0 {
			return out, inFile(mistakes)
		}
		out.Draft, out.Whole = draftView(diagram.DraftOf(d)), true
		return out, nil
	}
	table, mistake := formats.ReadTable(in.Body.Text, formats.Reading{Angles: in.Body.Angles, Width: in.Body.Width})
	if mistake != nil {
		return out, inFile([]formats.Mistake{*mistake})
	}
	out.Draft = draftView(table.Draft)
	for _, l := range table.Lines {
		out.Lines = append(out.Lines, ReadLine{l.No, l.Text, string(l.Kind), l.Tier})
	}
	out.Mistakes, out.Angles = placesInFile(table.Mistakes), append([]string{}, table.Angles...)
	return out, nil
}
