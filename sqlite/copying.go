package sqlite

import (
	"context"
	"time"

	"cressa/workshop"
)

// copyDocument is the plan of copies as it is stored.
type copyDocument struct {
	Every    string    `json:"every"`
	Folder   string    `json:"folder"`
	Keep     int       `json:"keep"`
	Last     time.Time `json:"last"`
	LastFile string    `json:"lastFile"`
	Failed   string    `json:"failed"`
	FailedAt time.Time `json:"failedAt"`
}

// CopyState implements workshop.CopyingStore.
func (s *Store) CopyState(ctx context.Context) (workshop.CopyState, error) {
	var d copyDocument
	err := s.row(ctx, `SELECT document FROM copying`, nil, asDocument{&d})
	return workshop.CopyState{
		Plan: workshop.CopyPlan{Every: workshop.Interval(d.Every), Folder: d.Folder, Keep: d.Keep},
		Last: d.Last, LastFile: d.LastFile, Failed: d.Failed, FailedAt: d.FailedAt,
	}, err
}

// SaveCopyState implements workshop.CopyingStore.
func (s *Store) SaveCopyState(ctx context.Context, c workshop.CopyState) error {
	return s.exec(ctx, `INSERT INTO copying (id, document) VALUES (1, ?1) ON CONFLICT (id) DO UPDATE SET document = ?1`,
		document(copyDocument{string(c.Plan.Every), c.Plan.Folder, c.Plan.Keep, c.Last, c.LastFile, c.Failed, c.FailedAt}))
}
