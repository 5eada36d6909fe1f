package server

import (
	"cmp"
	"fmt"
	"mime"
	"net/http"
	"regexp"
	"strings"

	"github.com/labstack/echo/v5"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/drawing"
	"cressa/formats"
	"cressa/sheet"
	"cressa/workshop"
)

// SheetPages is a cutting sheet, each page an SVG document, for print.
type SheetPages struct {
	Title string   `json:"title"`
	Pages []string `json:"pages"`
}

// sheetRequest asks for the sheet of a record on a paper: a4 or letter, on one page
// or two.
type sheetRequest struct {
	ID    string `path:"id"`
	Paper string `path:"paper"`
	Pages string `path:"pages"`
}

func (s *Server) exportRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/diagrams/:id/sheet/:paper/:pages", name: "diagramSheet", summary: "The cutting sheet of a diagram"}, func(c *echo.Context, in sheetRequest) (SheetPages, error) {
		content, err := s.diagramContent(c, in.ID)
		return sheetPages(content, in, err)
	})
	handle(s, route{method: http.MethodGet, path: "/api/stones/:id/sheet/:paper/:pages", name: "stoneSheet", summary: "The cutting sheet of a stone"}, func(c *echo.Context, in sheetRequest) (SheetPages, error) {
		content, err := s.stoneContent(c, in.ID)
		return sheetPages(content, in, err)
	})
	s.raw(route{method: http.MethodGet, path: "/api/diagrams/:id/sheet/:paper/:pages/pdf", computes: true}, func(c *echo.Context) error {
		content, err := s.diagramContent(c, c.Param("id"))
		return sendPDF(c, content, err)
	})
	s.raw(route{method: http.MethodGet, path: "/api/stones/:id/sheet/:paper/:pages/pdf", computes: true}, func(c *echo.Context) error {
		content, err := s.stoneContent(c, c.Param("id"))
		return sendPDF(c, content, err)
	})
	s.raw(route{method: http.MethodGet, path: "/api/diagrams/:id/file/:format", computes: true}, s.diagramFile)
	s.raw(route{method: http.MethodGet, path: "/api/stones/:id/diagram"}, s.stoneDiagram)
}

// diagramContent is the sheet of a diagram's present version, on the default machine.
func (s *Server) diagramContent(c *echo.Context, id string) (sheet.Content, error) {
	_, stone, err := s.presentStone(c, id)
	if err != nil {
		return sheet.Content{}, err
	}
	settings, err := s.workshop.Settings(c.Request().Context())
	return sheet.OfDiagram(stone, settings.MachineOf("")), err
}

// presentStone cuts a diagram's present version.
func (s *Server) presentStone(c *echo.Context, id string) (*diagram.Diagram, *cutting.Stone, error) {
	ctx := c.Request().Context()
	d, err := s.workshop.Diagram(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	if d.Revision == "" {
		return nil, nil, workshop.ErrNotKept
	}
	r, err := s.workshop.Revision(ctx, d.Revision)
	if err != nil {
		return nil, nil, err
	}
	stone, err := cutting.Cut(r.Diagram)
	return r.Diagram, stone, err
}

func (s *Server) stoneContent(c *echo.Context, id string) (sheet.Content, error) {
	ctx := c.Request().Context()
	stone, err := s.workshop.Stone(ctx, id)
	if err != nil {
		return sheet.Content{}, err
	}
	a, err := s.workshop.AssessStone(ctx, stone)
	if err != nil {
		return sheet.Content{}, err
	}
	name := stone.Name
	if name == "" {
		name = stone.Work().Plan.DiagramName
	}
	return sheet.OfPlan(fmt.Sprintf("%d · %s", stone.Number, name), a), nil
}

func sheetPages(content sheet.Content, in sheetRequest, err error) (SheetPages, error) {
	if err != nil {
		return SheetPages{}, err
	}
	pages, err := pagesOf(content, in.Paper, in.Pages)
	out := SheetPages{Title: content.Title, Pages: []string{}}
	for _, p := range pages {
		out.Pages = append(out.Pages, string(formats.WriteSVG(content.Title, []drawing.Page{p})))
	}
	return out, err
}

// pagesOf sets a sheet on a paper, on "1" page or "2".
func pagesOf(content sheet.Content, paper, pages string) ([]drawing.Page, error) {
	size, known := sheet.Papers[paper]
	if !known || pages != "1" && pages != "2" {
		return nil, &Problem{Status: http.StatusNotFound, Detail: "A sheet is on a4 or letter, on 1 page or 2."}
	}
	return sheet.Pages(content, size, pages == "1", formats.MeasureText), nil
}

func sendPDF(c *echo.Context, content sheet.Content, err error) error {
	if err != nil {
		return err
	}
	pages, err := pagesOf(content, c.Param("paper"), c.Param("pages"))
	if err != nil {
		return err
	}
	data, err := formats.WritePDF(content.Title, pages)
	if err != nil {
		return err
	}
	return attach(c, content.Title+" sheet", ".pdf", "application/pdf", data)
}

// diagramFile downloads the present version in one of the open formats.
func (s *Server) diagramFile(c *echo.Context) error {
	d, stone, err := s.presentStone(c, c.Param("id"))
	if err != nil {
		return err
	}
	settings, err := s.workshop.Settings(c.Request().Context())
	if err != nil {
		return err
	}
	// A solid has no size of its own; 10 mm wide it can be held.
	const solidWidth = 10
	mm := solidWidth / stone.Measures().Width
	pages := sheet.Pages(sheet.OfDiagram(stone, settings.MachineOf("")), sheet.A4, false, formats.MeasureText)
	var data []byte
	format := c.Param("format")
	kind := map[string]string{
		"json": "application/json", "csv": "text/csv; charset=utf-8", "svg": "image/svg+xml",
		"pdf": "application/pdf", "obj": "model/obj", "stl": "model/stl", "ply": "application/octet-stream",
	}[format]
	switch format {
	case "json":
		data, err = formats.WriteDiagram(d)
	case "csv":
		data, err = formats.WriteCSV(d)
	case "svg":
		data = formats.WriteSVG(d.Name, pages)
	case "pdf":
		data, err = formats.WritePDF(d.Name, pages)
	case "obj":
		data = formats.WriteOBJ(d.Name, stone.Solid(), mm, stone.FacetName)
	case "stl":
		data = formats.WriteSTL(d.Name, stone.Solid(), mm)
	case "ply":
		data = formats.WritePLY(d.Name, stone.Solid(), mm)
	default:
		return echo.ErrNotFound
	}
	if err != nil {
		return err
	}
	extension := "." + format
	if format == "json" {
		extension = ".cressa.json"
	}
	return attach(c, d.Name, extension, kind, data)
}

// stoneDiagram downloads the diagram as it is cut.
func (s *Server) stoneDiagram(c *echo.Context) error {
	ctx := c.Request().Context()
	stone, err := s.workshop.Stone(ctx, c.Param("id"))
	if err != nil {
		return err
	}
	plan := stone.Work().Plan
	if plan == nil {
		return workshop.ErrNoPlan
	}
	r, err := s.workshop.Revision(ctx, plan.AsCut)
	if err != nil {
		return err
	}
	data, err := formats.WriteDiagram(r.Diagram)
	if err != nil {
		return err
	}
	return attach(c, r.Diagram.Name, ".cressa.json", "application/json", data)
}

// notInFileNames are signs that some system or some shell gives another meaning.
var notInFileNames = regexp.MustCompile(`[^\pL\pM\pN]+`)

// mostInFileName is how many letters of a record's name its file gets: systems take 255 bytes.
const mostInFileName = 60

// fileName makes a name of a record's: letters and digits of any script.
func fileName(name, extension string) string {
	letters := []rune(strings.Trim(notInFileNames.ReplaceAllString(name, "-"), "-"))
	name = strings.Trim(string(letters[:min(len(letters), mostInFileName)]), "-")
	return cmp.Or(name, "cressa") + extension
}

// attach sends a file to be saved under a name.
func attach(c *echo.Context, name, extension, kind string, data []byte) error {
	c.Response().Header().Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": fileName(name, extension)}))
	c.Response().Header().Set("Cache-Control", "no-store")
	return c.Blob(http.StatusOK, kind, data)
}
