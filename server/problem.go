package server

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"slices"
	"strings"
	"unicode"

	"github.com/go-playground/validator/v10"
	"github.com/labstack/echo/v5"

	"cressa/core/diagram"
	"cressa/core/mending"
	"cressa/formats"
	"cressa/words"
	"cressa/workshop"
)

// Kinds of problem that the UI treats apart.
const (
	kindPlain   = "about:blank"
	kindStale   = "/problems/stale"
	kindInvalid = "/problems/invalid"
	kindStarter = "/problems/starter"
	// kindBusy: nothing is wrong with the request; the same may go through later.
	kindBusy = "/problems/busy"
)

// Problem is the answer to every request that went wrong (RFC 9457).
type Problem struct {
	Type   string `json:"type"`
	Title  string `json:"title"`
	Status int    `json:"status"`
	Detail string `json:"detail"`
	// Places says what is wrong where, for a draft, a file or a form.
	Places []Place `json:"places"`
}

// Place is one thing that is wrong, at its place.
type Place struct {
	// Tier is the tier's place from 0, -1 where no tier is at fault.
	Tier     int    `json:"tier"`
	TierName string `json:"tierName"`
	// Field is the field at fault, "" for a place as a whole.
	Field   string `json:"field"`
	Code    string `json:"code"`
	Message string `json:"message"`
	// Line and Column are in the file, from 1; 0 outside of files.
	Line   int `json:"line"`
	Column int `json:"column"`
}

func (p *Problem) Error() string { return p.Detail }

func placeOf(p diagram.Problem) Place {
	return Place{Tier: p.TierNo, TierName: p.Tier, Field: string(p.Field), Code: string(p.Code), Message: words.Problem(p)}
}

func placesOf(problems []diagram.Problem) []Place {
	out := make([]Place, len(problems))
	for i, p := range problems {
		out[i] = placeOf(p)
	}
	return out
}

func invalid(detail string, places []Place) *Problem {
	return &Problem{Type: kindInvalid, Status: http.StatusUnprocessableEntity, Detail: detail, Places: places}
}

func inFile(mistakes []formats.Mistake) *Problem {
	return invalid("The file could not be read.", placesInFile(mistakes))
}

func placesInFile(mistakes []formats.Mistake) []Place {
	places := make([]Place, len(mistakes))
	for i, m := range mistakes {
		places[i] = placeOf(m.Problem)
		places[i].Line, places[i].Column = m.Line, m.Column
	}
	return places
}

// problemOf turns an error into what is answered. An error that nobody foresaw is
// logged and answered without its text.
func problemOf(err error) *Problem {
	var ready *Problem
	var uncut workshop.NotCuttable
	var refused diagram.Problem
	var fields validator.ValidationErrors
	switch {
	case errors.As(err, &ready):
		return ready
	case errors.As(err, &uncut):
		return invalid("The diagram cannot be cut as it is written.", placesOf(uncut.Problems))
	case errors.As(err, &refused):
		return invalid(words.Problem(refused), []Place{placeOf(refused)})
	case errors.Is(err, context.DeadlineExceeded):
		return &Problem{Status: http.StatusUnprocessableEntity, Detail: "This diagram is too large to be searched through in the time there is. Take fewer tiers or facets."}
	case errors.As(err, &fields):
		return invalid("Some fields need another value.", fieldPlaces(fields))
	case errors.Is(err, workshop.ErrNotFound):
		return &Problem{Status: http.StatusNotFound, Detail: "That record is not here (any more)."}
	case errors.Is(err, workshop.ErrStale):
		return &Problem{Type: kindStale, Status: http.StatusConflict, Detail: "This was changed elsewhere after you opened it, and nothing was overwritten. Look at what it is now, then choose."}
	case errors.Is(err, workshop.ErrStarter):
		return &Problem{Type: kindStarter, Status: http.StatusConflict, Detail: "This diagram came with Cressa and stays as it is. Make a copy and change that."}
	case errors.Is(err, workshop.ErrNotKept):
		return &Problem{Status: http.StatusConflict, Detail: "This diagram has not been kept yet. Open it, mend what is marked and keep it."}
	case errors.Is(err, workshop.ErrFinished):
		return &Problem{Status: http.StatusConflict, Detail: "This stone is finished; its plan and its log are closed."}
	case errors.Is(err, workshop.ErrCutSince):
		return &Problem{Status: http.StatusConflict, Detail: "A facet was cut since, so the plan cannot go back to what it was before. Nothing was changed."}
	case errors.Is(err, mending.ErrTooDeep):
		return &Problem{Status: http.StatusUnprocessableEntity, Detail: words.WhyNot(err) + " Nothing that keeps the stone's form takes it out: mark it less deep, or choose another diagram."}
	case errors.Is(err, workshop.ErrProtectedGone):
		return &Problem{Status: http.StatusUnprocessableEntity, Detail: "The stone has no such facet (any more). Choose the protected facets anew."}
	case errors.Is(err, workshop.ErrNoPlan):
		return &Problem{Status: http.StatusConflict, Detail: "This stone came in for repair; it has no diagram and no plan."}
	case errors.Is(err, workshop.ErrNoPicture):
		return &Problem{Status: http.StatusUnprocessableEntity, Detail: "That file is no picture that can be kept. Take a JPEG or PNG of up to 24 MB."}
	case errors.Is(err, workshop.ErrNotFinished):
		return &Problem{Status: http.StatusConflict, Detail: "This stone is still being worked on. Finish it first; then it can come in again or be recut."}
	case errors.Is(err, workshop.ErrUnreadable):
		return &Problem{Status: http.StatusUnprocessableEntity, Detail: "This record cannot be read. Run “cressa check” to see what is wrong; nothing was changed."}
	}
	status := echo.StatusCode(err)
	switch {
	case status == 0 && errors.Is(err, workshop.ErrBusy):
		return &Problem{Type: kindBusy, Status: http.StatusServiceUnavailable, Detail: "The records cannot be reached: another program holds them. Nothing was changed; try again."}
	case status == 0 && errors.Is(err, workshop.ErrFull):
		return &Problem{Type: kindBusy, Status: http.StatusInsufficientStorage, Detail: "The disk is full, so nothing can be kept. Nothing was changed; make room on it and try again."}
	case status == 0 && errors.Is(err, workshop.ErrDamaged):
		return &Problem{Status: http.StatusInternalServerError, Detail: "The file of the records is damaged. Nothing was changed. Stop Cressa, run “cressa check”, and bring back your latest copy with “cressa restore”."}
	case status == 0, status == http.StatusInternalServerError:
		return &Problem{Status: http.StatusInternalServerError, Detail: "Something went wrong in the program; its log says what. Nothing was changed."}
	}
	return &Problem{Status: status, Detail: http.StatusText(status) + "."}
}

func fieldPlaces(errs validator.ValidationErrors) []Place {
	places := make([]Place, len(errs))
	for i, e := range errs {
		// What is checked lies in a request's body or is a record; their own names are left
		// out, and so are those of embedded structs, which JSON does not have either.
		_, path, ok := strings.Cut(e.Namespace(), ".body.")
		if !ok {
			_, path, _ = strings.Cut(e.Namespace(), ".")
		}
		field := slices.DeleteFunc(strings.Split(path, "."), func(name string) bool { return name != "" && unicode.IsUpper(rune(name[0])) })
		places[i] = Place{Tier: -1, Field: strings.Join(field, "."), Code: e.Tag(), Message: words.Constraint(e.Tag(), e.Param(), fmt.Sprint(e.Value()))}
	}
	return places
}

// statusLeft is noted for a request whose client left: nobody reads an answer.
const statusLeft = 499

// answerProblem is the one error handler.
func answerProblem(c *echo.Context, err error) {
	r, _ := echo.UnwrapResponse(c.Response())
	if r != nil && r.Committed {
		return
	}
	if c.Request().Context().Err() != nil && errors.Is(err, context.Canceled) {
		c.Response().WriteHeader(statusLeft)
		return
	}
	p := *problemOf(err)
	if p.Status == http.StatusInternalServerError || p.Type == kindBusy {
		c.Logger().Error("request failed", slog.String("path", c.Request().URL.Path), slog.Any("error", err))
	}
	if p.Type == "" {
		p.Type = kindPlain
	}
	if p.Title == "" {
		p.Title = http.StatusText(p.Status)
	}
	if p.Places == nil {
		p.Places = []Place{}
	}
	c.Response().Header().Set(echo.HeaderContentType, echo.MIMEApplicationProblemJSON)
	c.Response().Header().Set("Cache-Control", "no-store")
	var failed error
	if c.Request().Method == http.MethodHead {
		failed = c.NoContent(p.Status)
	} else {
		failed = c.JSON(p.Status, &p)
	}
	if failed != nil {
		c.Logger().Error("answering a problem failed", slog.Any("error", failed))
	}
}
