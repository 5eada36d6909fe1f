package workshop

import (
	"context"
	"errors"
	"slices"
	"time"

	"cressa/workshop/journal"
)

// Intake is what is written down when a stone comes in. Figures that were not taken
// are 0, texts that were not said empty.
type Intake struct {
	Owner    string  `validate:"max=200"`
	Material string  `validate:"max=60"`
	Carats   float64 `validate:"min=0,max=100000"`
	WidthMM  float64 `validate:"min=0,max=1000"`
	LengthMM float64 `validate:"min=0,max=1000"`
	HeightMM float64 `validate:"min=0,max=1000"`
	Damage   string  `validate:"max=20000"`
	Agreed   string  `validate:"max=20000"`
	// Promised is the day it was promised for.
	Promised string `validate:"omitempty,datetime=2006-01-02"`
}

// Photo is a picture of a stone. The file is found by its hash.
type Photo struct {
	ID    string
	Hash  string
	Taken time.Time
	Note  string
	// Work is the ID of the work that it belongs to, Shows when in that it was taken.
	Work  string
	Shows Moment
}

// Moment is when in a work a photo was taken.
type Moment string

// The moments.
const (
	BeforeWork Moment = "before"
	AfterWork  Moment = "after"
)

// PhotoFiles keeps the pictures themselves.
type PhotoFiles interface {
	// Keep stores a picture without its place data and returns its hash. It is on
	// disk when the call returns. What is no picture is refused with ErrNoPicture.
	Keep(ctx context.Context, data []byte) (hash string, err error)
	// Drop removes a picture for good. One that is not there is no error.
	Drop(hash string) error
}

// Refusals that a caller can tell apart with errors.Is.
var (
	// ErrNoPicture: the file is no JPEG or PNG picture, or too large a one.
	ErrNoPicture = errors.New("no picture that can be kept")
	// ErrNoPlan: the stone has no diagram and no plan, because it came in for repair.
	ErrNoPlan = errors.New("the stone has no plan")
	// ErrNotFinished: the stone is still being worked on.
	ErrNotFinished = errors.New("the stone is not finished")
)

// TakeIn adds a stone that came in for repair. It returns the errors of Validate.
func (s *Stones) TakeIn(ctx context.Context, name string, in Intake) (Stone, error) {
	if err := Validate(in); err != nil {
		return Stone{}, err
	}
	now := s.moment()
	stone := Stone{
		ID: s.newID(), Name: name, Created: now, Version: 1,
		Works: []Work{{ID: s.newID(), Task: Repair{in}, Created: now}},
	}
	return stone, s.store.InTx(ctx, func(ctx context.Context) (err error) {
		stone.Number, err = s.insert(ctx, stone)
		return err
	})
}

// TakeBack takes a finished stone in again: it gets another work, a repair, over the
// version of the stone that the caller read. It returns the errors of Validate,
// ErrNotFound, ErrNotFinished, and ErrStale where the version is not the stored one.
func (s *Stones) TakeBack(ctx context.Context, stoneID string, in Intake, version int) (Stone, error) {
	if err := Validate(in); err != nil {
		return Stone{}, err
	}
	return s.addWork(ctx, stoneID, version, nil, func(Finish) (Task, error) { return Repair{in}, nil })
}

// ChangeIntake corrects what was written down, over the version that was read. Where something else
// was agreed, the log has what and when. It returns
// the errors of Validate, ErrNotFound where the stone or its repair is unknown, and
// ErrStale where the version is not the stored one.
func (s *Stones) ChangeIntake(ctx context.Context, stoneID, name string, in Intake, version int) (Stone, error) {
	if err := Validate(in); err != nil {
		return Stone{}, err
	}
	var stone Stone
	err := s.store.InTx(ctx, func(ctx context.Context) (err error) {
		if stone, err = s.store.Stone(ctx, stoneID); err != nil {
			return err
		}
		work := &stone.Works[len(stone.Works)-1]
		was, ok := work.Task.(Repair)
		if !ok {
			return ErrNotFound
		}
		repair := Repair{in}
		stone.Name, work.Task, stone.Version = name, repair, version+1
		if err := s.store.SaveRepair(ctx, stone.ID, name, work.ID, repair, version); err != nil || was.Intake.Agreed == in.Agreed {
			return err
		}
		return s.journal.tell(ctx, work.ID, journal.Agree, journal.Agreed{Was: was.Intake.Agreed, Is: in.Agreed})
	})
	return stone, err
}

// AddPhoto keeps a picture of a stone before or after its present work: the file first, then that
// it is the stone's. It returns ErrNotFound for an unknown stone and the errors of files.
func (s *Stones) AddPhoto(ctx context.Context, files PhotoFiles, stoneID string, shows Moment, data []byte) (Photo, error) {
	stone, err := s.store.Stone(ctx, stoneID)
	if err != nil {
		return Photo{}, err
	}
	s.pictures.Lock()
	defer s.pictures.Unlock()
	hash, err := files.Keep(ctx, data)
	if err != nil {
		return Photo{}, err
	}
	p := Photo{ID: s.newID(), Hash: hash, Taken: s.moment(), Work: stone.Work().ID, Shows: shows}
	return p, s.store.InsertPhoto(ctx, stoneID, p)
}

// Photos returns the photos of a stone's work, the oldest first. It returns only the errors of the
// store.
func (s *Stones) Photos(ctx context.Context, stoneID, workID string) ([]Photo, error) {
	all, err := s.store.Photos(ctx, stoneID)
	return slices.DeleteFunc(all, func(p Photo) bool { return p.Work != workID }), err
}

// DropPhoto takes a photo off a stone, and removes its file where no other stone shows it. It
// returns ErrNotFound where the stone has no such photo.
func (s *Stones) DropPhoto(ctx context.Context, files PhotoFiles, stoneID, id string) error {
	// Nobody may take the file for kept while it goes.
	s.pictures.Lock()
	defer s.pictures.Unlock()
	hash, shown, err := s.store.DropPhoto(ctx, stoneID, id)
	if err != nil || shown {
		return err
	}
	return files.Drop(hash)
}
