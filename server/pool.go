package server

import (
	"context"
	"runtime"

	"github.com/labstack/echo/v5"

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

// alone runs what cannot be parted into jobs as one job of the pool.
func alone[In, Out any](s *Server, f func(*echo.Context, In) (Out, error)) func(*echo.Context, In) (Out, error) {
	return func(c *echo.Context, in In) (out Out, err error) {
		if err := s.heavy.Take(c.Request().Context()); err != nil {
			return out, err
		}
		defer s.heavy.Give()
		return f(c, in)
	}
}
