package server

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"
)

// judge has the default machine judge the diagrams that it has not judged yet, whenever it
// is told that there may be some, until the context ends.
func (s *Server) judge(ctx context.Context) {
	s.judgeSoon()
	for {
		select {
		case <-ctx.Done():
			return
		case <-s.judging:
		}
		for more := true; more; {
			if s.heavy.Take(ctx) != nil {
				return
			}
			var err error
			more, err = s.workshop.JudgeNext(ctx)
			s.heavy.Give()
			if err != nil {
				// The next change tries again.
				if !errors.Is(err, context.Canceled) {
					s.echo.Logger.Error("judging a diagram failed", slog.Any("error", err))
				}
				break
			}
		}
	}
}

// judgeSoon tells that diagrams may wait to be judged.
func (s *Server) judgeSoon() {
	select {
	case s.judging <- struct{}{}:
	default: // it is told already
	}
}

// judgeAfter tells so after every request that may have changed a diagram or a machine.
func (s *Server) judgeAfter(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		err := next(c)
		r := c.Request()
		changes := r.Method == http.MethodPost || r.Method == http.MethodPut
		if err == nil && changes && (strings.HasPrefix(r.URL.Path, "/api/diagrams") || r.URL.Path == "/api/settings") {
			s.judgeSoon()
		}
		return err
	}
}
