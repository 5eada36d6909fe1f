package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"runtime"
	"time"

	"github.com/labstack/echo/v5"

	"cressa/core/printed"
	"cressa/core/work"
)

// pool lends the cores to what computes for seconds: sweeps, machine error, orders,
// guesses. However many of them are asked for at once, no more jobs run than there are
// cores, each for some milliseconds, and what is answered at once comes in between. A
// tick at the wheel must never wait for somebody's sweep.
type pool struct{ hands chan struct{} }

func newPool(hands int) *pool { return &pool{make(chan struct{}, hands)} }

// Take implements work.Hands.
func (p *pool) Take(ctx context.Context) error {
	// Whoever is ready to answer a request goes first.
	runtime.Gosched()
	select {
	case p.hands <- struct{}{}:
		return nil
	case <-ctx.Done():
		return ctx.Err()
	}
}

// Give implements work.Hands.
func (p *pool) Give() { <-p.hands }

// parallel returns the context of a request whose jobs run in the pool.
func (s *Server) parallel(ctx context.Context) context.Context { return work.With(ctx, s.heavy) }

// allowed is how long a request may take before it is given up. It is a variable for the tests: under the
// race detector, beside others, a machine may be ten times as slow.
var allowed = 20 * time.Second

// mostSearched is how many facets a diagram may have for its orders, stops and angles to be searched
// through: of a larger one nothing would be found in the time that is allowed.
const mostSearched = 600

// searchable says at once where a diagram is too large to be searched through.
func searchable(facets int) error {
	if facets > mostSearched {
		return &Problem{Status: http.StatusUnprocessableEntity, Detail: fmt.Sprintf("This diagram has %d facets. Up to %d are searched through in the time there is; take fewer.", facets, mostSearched)}
	}
	return nil
}

// facetsOf counts the facets of a draft as far as it can be read.
func facetsOf(d Draft) int {
	read, _ := printed.Diagram(d.draft())
	return read.FacetCount()
}

// inTime ends a request's context when the time that it is allowed is over.
func inTime(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		ctx, done := context.WithTimeout(c.Request().Context(), allowed)
		defer done()
		c.SetRequest(c.Request().WithContext(ctx))
		return next(c)
	}
}

// withoutDeadline lets a request bring or take a long file, as long as that may take.
func withoutDeadline(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		flow := http.NewResponseController(c.Response())
		if err := errors.Join(flow.SetReadDeadline(time.Time{}), flow.SetWriteDeadline(time.Time{})); err != nil && !errors.Is(err, http.ErrNotSupported) {
			return err
		}
		return next(c)
	}
}

// alone runs what a request computes as one job of the pool.
func (s *Server) alone(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		if err := s.heavy.Take(c.Request().Context()); err != nil {
			if errors.Is(err, context.DeadlineExceeded) {
				return &Problem{Type: kindBusy, Status: http.StatusServiceUnavailable, Detail: "Cressa is at work for others just now. Try again in a moment."}
			}
			return err
		}
		defer s.heavy.Give()
		return next(c)
	}
}
