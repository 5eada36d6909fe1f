package server

import (
	"errors"
	"io"
	"io/fs"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"cressa/photos"
	"cressa/workshop"
)

// IntakeRequest takes a stone in for repair, or corrects what was written down over
// the version that was read.
type IntakeRequest struct {
	Name    string          `json:"name" validate:"required,max=200"`
	Intake  workshop.Intake `json:"intake"`
	Version int             `json:"version"`
}

// RepairPage is a stone that came in, with its log and its photos.
type RepairPage struct {
	Summary workshop.Summary `json:"summary"`
	Events  []workshop.Event `json:"events"`
	Photos  []workshop.Photo `json:"photos"`
}

func (s *Server) repairRoutes() {
	handle(s, http.MethodPost, "/api/repairs", "takeIn", "Take a stone in for repair", func(c *echo.Context, in withBody[IntakeRequest]) (workshop.Stone, error) {
		return s.workshop.TakeIn(c.Request().Context(), in.Body.Name, in.Body.Intake)
	})
	handle(s, http.MethodGet, "/api/repairs/:id", "getRepair", "A stone that came in", s.repairPage)
	handle(s, http.MethodPut, "/api/repairs/:id", "changeIntake", "Correct what was written down", func(c *echo.Context, in byIDWithBody[IntakeRequest]) (workshop.Stone, error) {
		return s.workshop.ChangeIntake(c.Request().Context(), in.ID, in.Body.Name, in.Body.Intake, in.Body.Version)
	})
	handle(s, http.MethodDelete, "/api/repairs/:id/photos/:photo", "dropPhoto", "Take a photo off a stone", func(c *echo.Context, in photoByID) (none, error) {
		return none{}, s.workshop.DropPhoto(c.Request().Context(), in.ID, in.Photo)
	})
	// Pictures travel as they are, not as JSON.
	s.echo.POST(photoPath, s.addPhoto)
	s.echo.GET("/api/photos/:hash", func(c *echo.Context) error {
		data, kind, err := s.photos.Open(c.Param("hash"))
		return sendPicture(c, data, kind, err)
	})
	s.echo.GET("/api/photos/:hash/small", func(c *echo.Context) error {
		data, err := s.photos.Thumbnail(c.Param("hash"))
		return sendPicture(c, data, "image/jpeg", err)
	})
}

const photoPath = "/api/repairs/:id/photos"

// isPhoto tells whether a request brings a picture, which may be larger than JSON.
func isPhoto(c *echo.Context) bool {
	path := c.Request().URL.Path
	return strings.HasPrefix(path, "/api/repairs/") && strings.HasSuffix(path, "/photos")
}

type photoByID struct {
	ID    string `path:"id"`
	Photo string `path:"photo"`
}

func (s *Server) repairPage(c *echo.Context, in byID) (RepairPage, error) {
	ctx := c.Request().Context()
	stone, err := s.workshop.Stone(ctx, in.ID)
	if err != nil {
		return RepairPage{}, err
	}
	if stone.Work.Kind != workshop.Repair {
		return RepairPage{}, workshop.ErrNotFound
	}
	summary, err := s.workshop.Summary(ctx, stone)
	if err != nil {
		return RepairPage{}, err
	}
	events, err := s.workshop.Events(ctx, in.ID)
	if err != nil {
		return RepairPage{}, err
	}
	list, err := s.workshop.Photos(ctx, in.ID)
	return RepairPage{summary, events, list}, err
}

func (s *Server) addPhoto(c *echo.Context) error {
	data, err := io.ReadAll(http.MaxBytesReader(c.Response(), c.Request().Body, photos.MaxBytes))
	if err != nil {
		return workshop.ErrNoPicture
	}
	p, err := s.workshop.AddPhoto(c.Request().Context(), s.photos, c.Param("id"), data)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, p)
}

// sendPicture sends what never changes, as its name is its content.
func sendPicture(c *echo.Context, data []byte, kind string, err error) error {
	if errors.Is(err, fs.ErrNotExist) {
		return workshop.ErrNotFound
	}
	if err != nil {
		return err
	}
	c.Response().Header().Set("Cache-Control", "private, max-age=31536000, immutable")
	return c.Blob(http.StatusOK, kind, data)
}
