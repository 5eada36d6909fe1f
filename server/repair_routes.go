package server

import (
	"context"
	"errors"
	"io"
	"io/fs"
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/photos"
	"cressa/workshop"
)

// IntakeRequest takes a stone in for repair, or corrects what was written down over
// the version that was read.
type IntakeRequest struct {
	Name    string `json:"name" validate:"required,max=200"`
	Intake  Intake `json:"intake"`
	Version int    `json:"version"`
}

// TakeBackRequest takes a finished stone in again, over the version that was read.
type TakeBackRequest struct {
	Intake  Intake `json:"intake"`
	Version int    `json:"version"`
}

// RepairPage is a stone that came in, with its log and its photos.
type RepairPage struct {
	Summary StoneLine      `json:"summary"`
	Intake  Intake         `json:"intake"`
	Works   []WorkHead     `json:"works"`
	History []HistoryEntry `json:"history"`
	Photos  []Photo        `json:"photos"`
}

func (s *Server) repairRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/repairs", name: "takeIn", summary: "Take a stone in for repair", creates: true}, func(c *echo.Context, in withBody[IntakeRequest]) (StoneHead, error) {
		stone, err := s.workshop.TakeIn(c.Request().Context(), in.Body.Name, workshop.Intake(in.Body.Intake))
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
	handle(s, route{method: http.MethodPost, path: "/api/stones/:id/repairs", name: "takeBack", summary: "Take a finished stone in again", creates: true}, func(c *echo.Context, in byIDWithBody[TakeBackRequest]) (StoneHead, error) {
		stone, err := s.workshop.TakeBack(c.Request().Context(), in.ID, workshop.Intake(in.Body.Intake), in.Body.Version)
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
	handle(s, route{method: http.MethodGet, path: "/api/repairs/:id", name: "getRepair", summary: "A stone that came in"}, s.repairPage)
	handle(s, route{method: http.MethodPut, path: "/api/repairs/:id", name: "changeIntake", summary: "Correct what was written down"}, func(c *echo.Context, in byIDWithBody[IntakeRequest]) (StoneHead, error) {
		stone, err := s.workshop.ChangeIntake(c.Request().Context(), in.ID, in.Body.Name, workshop.Intake(in.Body.Intake), in.Body.Version)
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
	handle(s, route{method: http.MethodDelete, path: "/api/stones/:id/photos/:photo", name: "dropPhoto", summary: "Take a photo off a stone"}, func(c *echo.Context, in photoByID) (none, error) {
		return none{}, s.workshop.DropPhoto(c.Request().Context(), s.photos, in.ID, in.Photo)
	})
	// Pictures travel as they are, not as JSON.
	s.raw(route{method: http.MethodPost, path: "/api/stones/:id/photos", body: photos.MaxBytes}, s.addPhoto)
	s.raw(route{method: http.MethodGet, path: "/api/photos/:hash"}, func(c *echo.Context) error {
		data, kind, err := s.photos.Open(c.Param("hash"))
		return sendPicture(c, data, kind, err)
	})
	s.raw(route{method: http.MethodGet, path: "/api/photos/:hash/small"}, func(c *echo.Context) error {
		data, err := s.photos.Thumbnail(c.Request().Context(), c.Param("hash"))
		return sendPicture(c, data, "image/jpeg", err)
	})
}

type photoByID struct {
	ID    string `path:"id"`
	Photo string `path:"photo"`
}

func (s *Server) repairPage(c *echo.Context, in atWork) (RepairPage, error) {
	ctx := c.Request().Context()
	stone, works, err := s.stoneAt(ctx, in)
	if err != nil {
		return RepairPage{}, err
	}
	repair, ok := stone.Work().Task.(workshop.Repair)
	if !ok {
		return RepairPage{}, workshop.ErrNotFound
	}
	out := RepairPage{Intake: Intake(repair.Intake), Works: works}
	if out.Summary, err = s.summary(ctx, workshop.StoneFilter{Work: stone.Work().ID}); err != nil {
		return RepairPage{}, err
	}
	if out.History, _, err = s.history(ctx, stone.Work().ID, nil); err != nil {
		return RepairPage{}, err
	}
	out.Photos, err = s.photosOf(ctx, stone)
	return out, err
}

// photosOf returns the photos of a stone's present work.
func (s *Server) photosOf(ctx context.Context, stone workshop.Stone) ([]Photo, error) {
	photos, err := s.workshop.Photos(ctx, stone.ID, stone.Work().ID)
	return each(photos, func(p workshop.Photo) Photo { return Photo(p) }), err
}

func (s *Server) addPhoto(c *echo.Context) error {
	// A photo is of the finished stone unless it says otherwise.
	shows := workshop.AfterWork
	if c.QueryParam("shows") == string(workshop.BeforeWork) {
		shows = workshop.BeforeWork
	}
	return s.keepPhoto(c, func(data []byte) (any, error) {
		p, err := s.workshop.AddPhoto(c.Request().Context(), s.photos, c.Param("id"), shows, data)
		return Photo(p), err
	})
}

// keepPhoto reads a picture and answers with what was made of it, once.
func (s *Server) keepPhoto(c *echo.Context, keep func(data []byte) (any, error)) error {
	data, err := io.ReadAll(c.Request().Body)
	if err != nil {
		return cutOff(err)
	}
	made, err := s.once(c, func() (any, error) { return keep(data) })
	if err != nil {
		return err
	}
	return c.JSONBlob(http.StatusOK, made)
}

// sendPicture sends what never changes, as its name is its content.
func sendPicture(c *echo.Context, data []byte, kind string, err error) error {
	if errors.Is(err, fs.ErrNotExist) {
		return workshop.ErrNotFound
	}
	if err != nil {
		return err
	}
	c.Response().Header().Set("Cache-Control", forEver)
	return c.Blob(http.StatusOK, kind, data)
}
