package server

import (
	"errors"
	"io"
	"io/fs"
	"mime"
	"net/http"
	"os"
	"path/filepath"
	"time"

	"github.com/labstack/echo/v5"

	"cressa/copies"
	"cressa/workshop"
)

// CopiesPage is what the owner sees of the copies.
type CopiesPage struct {
	Plan CopyPlan `json:"plan"`
	// Shelf is the folder that copies go to.
	Shelf string `json:"shelf"`
	// Last is when the last one was made by plan or by hand, null for none; Failed why the last try
	// made none, "" where it did, and FailedAt when that was.
	Last     *time.Time `json:"last"`
	Failed   string     `json:"failed"`
	FailedAt *time.Time `json:"failedAt"`
	// Records names the present records: those that a copy brings back are others.
	Records string `json:"records"`
	// Now is what the present records hold.
	Now    CopyLine   `json:"now"`
	Copies []CopyLine `json:"copies"`
}

// CopyPlan says when everything is copied, and where to.
type CopyPlan struct {
	Every  string `json:"every" validate:"oneof=never day week"`
	Folder string `json:"folder" validate:"max=4000"`
	Keep   int    `json:"keep" validate:"min=1,max=365"`
}

// CopyLine is what a copy holds.
type CopyLine struct {
	Name string    `json:"name"`
	Made time.Time `json:"made"`
	// LastEntry is the last that its log has, null where that is empty.
	LastEntry *time.Time `json:"lastEntry"`
	Stones    int        `json:"stones"`
	Diagrams  int        `json:"diagrams"`
	Events    int        `json:"events"`
	Photos    int        `json:"photos"`
	Bytes     int        `json:"bytes"`
	// Problem is why it cannot be brought back, "" where it can.
	Problem string `json:"problem"`
}

func copyLine(name string, m copies.Manifest, problem string) CopyLine {
	c := m.Contents
	return CopyLine{name, m.Made, momentOrNone(m.Last), c.Stones, c.Diagrams, c.Events, c.Photos, int(c.Bytes), problem}
}

func momentOrNone(t time.Time) *time.Time {
	if t.IsZero() {
		return nil
	}
	return &t
}

// Notices is what the owner should look after.
type Notices struct {
	// Copies is null while the copies are made as they should be.
	Copies *CopyNotice `json:"copies"`
	// Wrong is null where no wrong codes were typed, and on other devices.
	Wrong *WrongCodes `json:"wrong"`
	// Kit are the things of the kit that run out, wear out or are past their date, the gravest first.
	Kit []KitNotice `json:"kit"`
}

// CopyNotice tells that copies are not made as they should be.
type CopyNotice struct {
	// Last is when the last one was made, null for none.
	Last *time.Time `json:"last"`
	// Failed is why the last try made none, "" where nothing was tried.
	Failed string `json:"failed"`
}

// byName names a copy on the shelf.
type byName struct {
	Name string `path:"name"`
}

// largestCopy bounds a copy that is brought from elsewhere, in bytes: more than decades of photos.
const largestCopy = 64 << 30

func (s *Server) copyRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/notices", name: "getNotices", summary: "What the owner should look after"}, s.notices)
	handle(s, route{method: http.MethodGet, path: "/api/copies", name: "listCopies", summary: "The copies, and when they are made", from: fromThisMachine}, s.copiesPage)
	handle(s, route{method: http.MethodPut, path: "/api/copies/plan", name: "planCopies", summary: "Say when copies are made, and where to", from: fromThisMachine}, func(c *echo.Context, in withBody[CopyPlan]) (none, error) {
		plan := workshop.CopyPlan{Every: workshop.Interval(in.Body.Every), Folder: in.Body.Folder, Keep: in.Body.Keep}
		if err := s.checkShelf(plan); err != nil {
			return none{}, err
		}
		return none{}, s.workshop.SaveCopyPlan(c.Request().Context(), plan)
	})
	handle(s, route{method: http.MethodPost, path: "/api/copies", name: "makeCopy", summary: "Make a copy now", from: fromThisMachine}, func(c *echo.Context, _ struct{}) (none, error) {
		return none{}, busyCopying(s.copyNow(c.Request().Context()))
	})
	stream(s, route{method: http.MethodGet, path: "/api/copies/work", name: "copying", summary: "The copy that is made or brought back, as it comes on", from: fromThisMachine}, func(c *echo.Context, _ struct{}, send func(CopyingLine) error) error {
		return s.copier.work.follow(c.Request().Context(), theCopy, send)
	})
	handle(s, route{method: http.MethodDelete, path: "/api/copies/work", name: "stopCopying", summary: "Stop the copy that is made or brought back", from: fromThisMachine}, func(*echo.Context, struct{}) (none, error) {
		s.copier.work.stop(theCopy)
		return none{}, nil
	})
	handle(s, route{method: http.MethodPost, path: "/api/copies/:name/restore", name: "bringBack", summary: "Put a copy in the place of the records, which are kept", from: fromThisMachine}, func(c *echo.Context, in byName) (none, error) {
		path, err := s.copyCalled(c, in.Name)
		if err != nil {
			return none{}, err
		}
		if _, err := copies.Read(path); err != nil {
			return none{}, invalid(saysWhy(err), nil)
		}
		return none{}, busyCopying(s.bringBack(path))
	})
	s.raw(route{method: http.MethodGet, path: "/api/copies/:name/file", from: fromThisMachine, lasting: true}, func(c *echo.Context) error {
		path, err := s.copyCalled(c, c.Param("name"))
		if err != nil {
			return err
		}
		f, err := os.Open(path)
		if err != nil {
			return err
		}
		defer f.Close()
		info, err := f.Stat()
		if err != nil {
			return err
		}
		head := c.Response().Header()
		head.Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": filepath.Base(path)}))
		head.Set("Content-Type", "application/zip")
		head.Set("Cache-Control", "no-store")
		http.ServeContent(c.Response(), c.Request(), "", info.ModTime(), f)
		return nil
	})
	s.raw(route{method: http.MethodPost, path: "/api/copies/file", from: fromThisMachine, body: largestCopy, lasting: true}, s.takeCopy)
}

func (s *Server) notices(c *echo.Context, _ struct{}) (Notices, error) {
	out := Notices{Kit: []KitNotice{}}
	state, err := s.workshop.CopyState(c.Request().Context())
	if err != nil {
		return out, err
	}
	if state.Worrying(time.Now()) {
		out.Copies = &CopyNotice{momentOrNone(state.Last), state.Failed}
	}
	if wrong := s.admission.door.wrongCodes(); wrong.Count > 0 && fromHere(c.Request()) {
		out.Wrong = &wrong
	}
	out.Kit, err = s.kitNotices(c.Request().Context())
	return out, err
}

func busyCopying(err error) error {
	if errors.Is(err, errCopying) {
		return &Problem{Type: kindBusy, Status: http.StatusConflict, Detail: "A copy is being made or brought back already. Wait for it, or stop it."}
	}
	return err
}

// checkShelf tells at once where copies cannot be put.
func (s *Server) checkShelf(plan workshop.CopyPlan) error {
	says := ""
	if plan.Folder != "" && !filepath.IsAbs(plan.Folder) {
		says = "Write the folder from its root on, such as /home/me/copies."
	} else if err := s.copier.shelf(plan).Check(); err != nil {
		says = "No copies can be put into that folder: " + err.Error() + "."
	}
	if says == "" {
		return nil
	}
	return invalid(says, []Place{{Tier: -1, Field: "folder", Code: "folder", Message: says}})
}

// copyCalled is the file of a copy on the shelf.
func (s *Server) copyCalled(c *echo.Context, name string) (string, error) {
	state, err := s.workshop.CopyState(c.Request().Context())
	if err != nil {
		return "", err
	}
	path, err := s.copier.shelf(state.Plan).Path(name)
	if err == nil {
		_, err = os.Stat(path)
	}
	if errors.Is(err, fs.ErrNotExist) {
		return "", workshop.ErrNotFound
	}
	return path, err
}

func (s *Server) copiesPage(c *echo.Context, _ struct{}) (CopiesPage, error) {
	ctx := c.Request().Context()
	state, err := s.workshop.CopyState(ctx)
	if err != nil {
		return CopiesPage{}, err
	}
	shelf := s.copier.shelf(state.Plan)
	out := CopiesPage{
		Plan: CopyPlan{string(state.Plan.Every), state.Plan.Folder, state.Plan.Keep}, Shelf: string(shelf),
		Last: momentOrNone(state.Last), Failed: state.Failed, FailedAt: momentOrNone(state.FailedAt), Copies: []CopyLine{},
	}
	if out.Records, err = s.workshop.Lineage(ctx); err != nil {
		return out, err
	}
	kept, err := shelf.List()
	if err != nil {
		out.Failed = "The folder of the copies cannot be read: " + err.Error() + "."
	}
	for _, k := range kept {
		out.Copies = append(out.Copies, copyLine(k.Name, k.Manifest, k.Problem))
	}
	now, err := s.copier.folder.Summary(ctx)
	out.Now = copyLine("", now, "")
	return out, err
}

// takeCopy puts a copy that comes from elsewhere onto the shelf.
func (s *Server) takeCopy(c *echo.Context) error {
	state, err := s.workshop.CopyState(c.Request().Context())
	if err != nil {
		return err
	}
	kept, err := s.copier.shelf(state.Plan).Take(c.Request().Context(), c.Request().Body)
	switch {
	case errors.Is(err, io.ErrUnexpectedEOF), errors.As(err, new(*http.MaxBytesError)):
		return cutOff(err)
	case errors.As(err, &copies.Refusal{}):
		return invalid(saysWhy(err), nil)
	case err != nil:
		return err
	}
	return c.JSON(http.StatusOK, copyLine(kept.Name, kept.Manifest, ""))
}
