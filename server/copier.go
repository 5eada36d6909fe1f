package server

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"path/filepath"
	"sync/atomic"
	"time"

	"cressa/copies"
	"cressa/workshop"
)

// ErrReplaced is what Serve ends with when a copy is to take the records' place: whoever called it
// closes the records, has the folder finish, and serves anew.
var ErrReplaced = errors.New("a copy takes the records' place")

// copyEvery is how often is looked whether a copy is due.
const copyEvery = time.Minute

// copier makes copies and brings them back, one at a time.
type copier struct {
	folder copies.Folder
	// busy is set while a copy is made or brought back.
	busy atomic.Bool
	// work tells how far it is, under theCopy.
	work *relay[CopyingLine]
}

// theCopy is the one key of the copier's work.
const theCopy = ""

// CopyingLine is how far a copy has come that is made or brought back, in thousands of bytes.
type CopyingLine struct {
	Progress
	What string `json:"what" validate:"oneof=copy restore"`
	// Problem is why it failed, in the last line.
	Problem string `json:"problem"`
}

var errCopying = errors.New("a copy is being made or brought back")

// begin starts work unless some is under way.
func (c *copier) begin(ctx context.Context, what string, do func(context.Context, copies.Progress) error, end func(error)) error {
	if !c.busy.CompareAndSwap(false, true) {
		return errCopying
	}
	line := CopyingLine{What: what}
	c.work.start(ctx, theCopy, line,
		func(ctx context.Context, tell func(CopyingLine)) error {
			news := newNews()
			return do(ctx, func(done, total int64) {
				line.Done, line.Total = int(done/1000), int(total/1000)
				news.tell(func() { tell(line) })
			})
		},
		func(err error) CopyingLine {
			end(err) // before it is told that it has ended
			c.busy.Store(false)
			line.Progress = ended(line.Done, line.Total, err)
			if line.Ended == "failed" {
				line.Problem = saysWhy(err)
			}
			return line
		})
	return nil
}

// saysWhy is what is told of a job that failed.
func saysWhy(err error) string {
	switch refusal := (copies.Refusal{}); {
	case errors.As(err, &refusal):
		return fmt.Sprintf("%s: %s.", filepath.Base(refusal.File), refusal.Says)
	case errors.Is(err, workshop.ErrFull):
		return "The disk is full. Make room on it, or choose another folder."
	}
	return err.Error() + "."
}

// shelf is where copies go by a plan.
func (c *copier) shelf(plan workshop.CopyPlan) copies.Shelf {
	if plan.Folder != "" {
		return copies.Shelf(plan.Folder)
	}
	return copies.Shelf(filepath.Join(string(c.folder), copies.Beside))
}

// copyNow makes a copy in the background.
func (s *Server) copyNow(ctx context.Context) error {
	state, err := s.workshop.CopyState(ctx)
	if err != nil {
		return err
	}
	name := ""
	return s.copier.begin(s.background, "copy", func(ctx context.Context, tell copies.Progress) (err error) {
		name, err = s.copier.shelf(state.Plan).Add(ctx, s.copier.folder, state.Plan.Keep, tell)
		return err
	}, func(err error) {
		ctx := context.WithoutCancel(s.background)
		switch {
		case errors.Is(err, context.Canceled):
			err = nil
		case err != nil:
			s.echo.Logger.Error("copying failed", slog.Any("error", err))
			err = s.workshop.NotCopied(ctx, saysWhy(err))
		default:
			err = s.workshop.Copied(ctx, name)
		}
		if err != nil {
			s.echo.Logger.Error("what became of a copy could not be noted", slog.Any("error", err))
		}
	})
}

// copyInTime makes copies when they are due, until the context ends.
func (s *Server) copyInTime(ctx context.Context) {
	tick := time.NewTicker(copyEvery)
	defer tick.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
		state, err := s.workshop.CopyState(ctx)
		if err == nil && state.Due(time.Now()) {
			err = s.copyNow(ctx)
		}
		if err != nil && ctx.Err() == nil && !errors.Is(err, errCopying) {
			s.echo.Logger.Error("no copy was made", slog.Any("error", err))
		}
	}
}

// bringBack takes a copy out and then ends the server, so that it takes the records' place.
func (s *Server) bringBack(file string) error {
	return s.copier.begin(s.background, "restore", func(ctx context.Context, tell copies.Progress) error {
		_, err := s.copier.folder.Stage(ctx, file, tell)
		return err
	}, func(err error) {
		if err == nil {
			s.replaced.Store(true)
			s.end()
		}
	})
}
