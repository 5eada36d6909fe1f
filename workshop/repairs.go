package workshop

import (
	"context"
	"errors"
	"slices"
	"time"
)

// Repair is the kind of work on a finished stone that came in, without a diagram.
const Repair = "repair"

// Intake is what is written down when a stone comes in. Figures that were not taken
// are 0, texts that were not said empty.
type Intake struct {
	Owner    string  `json:"owner" validate:"max=200"`
	Material string  `json:"material" validate:"max=60"`
	Carats   float64 `json:"carats" validate:"min=0,max=100000"`
	WidthMM  float64 `json:"widthMM" validate:"min=0,max=1000"`
	LengthMM float64 `json:"lengthMM" validate:"min=0,max=1000"`
	HeightMM float64 `json:"heightMM" validate:"min=0,max=1000"`
	Damage   string  `json:"damage" validate:"max=20000"`
	Agreed   string  `json:"agreed" validate:"max=20000"`
	// Promised is the day it was promised for.
	Promised string `json:"promised" validate:"omitempty,datetime=2006-01-02"`
}

// Photo is a picture of a stone. The file is found by its hash.
type Photo struct {
	ID    string    `json:"id"`
	Hash  string    `json:"hash"`
	Taken time.Time `json:"taken"`
	Note  string    `json:"note"`
}

// PhotoStore keeps which photos belong to which stone.
type PhotoStore interface {
	// Photos returns a stone's photos, the oldest first.
	Photos(ctx context.Context, stoneID string) ([]Photo, error)
	InsertPhoto(ctx context.Context, stoneID string, p Photo) error
	DropPhoto(ctx context.Context, stoneID, id string) error
}

// PhotoFiles keeps the pictures themselves.
type PhotoFiles interface {
	// Keep stores a picture without its place data and returns its hash. It is on
	// disk when the call returns. What is no picture is refused with ErrNoPicture.
	Keep(data []byte) (hash string, err error)
}

// Refusals that a caller can tell apart with errors.Is.
var (
	// ErrNoPicture: the file is no JPEG or PNG picture, or too large a one.
	ErrNoPicture = errors.New("no picture that can be kept")
	// ErrNoPlan: the stone has no diagram and no plan, because it came in for repair.
	ErrNoPlan = errors.New("the stone has no plan")
)

// TakeIn adds a stone that came in for repair.
func (w *Workshop) TakeIn(ctx context.Context, name string, in Intake) (Stone, error) {
	s := Stone{
		ID: newID(), Name: name, Created: w.moment(), Version: 1,
		Work: Work{ID: newID(), Kind: Repair, Setups: []Setup{}, Intake: &in},
	}
	var err error
	s.Number, err = w.store.InsertStone(ctx, s)
	return s, err
}

// ChangeIntake corrects what was written down, over the version that was read.
func (w *Workshop) ChangeIntake(ctx context.Context, stoneID, name string, in Intake, version int) (Stone, error) {
	s, err := w.store.Stone(ctx, stoneID)
	if err != nil {
		return s, err
	}
	if s.Work.Kind != Repair {
		return s, ErrNotFound
	}
	s.Name, s.Work.Intake = name, &in
	if err := w.store.SaveIntake(ctx, s, version); err != nil {
		return s, err
	}
	s.Version = version + 1
	return s, nil
}

// AddPhoto keeps a picture of a stone: the file first, then that it is the stone's.
func (w *Workshop) AddPhoto(ctx context.Context, files PhotoFiles, stoneID string, data []byte) (Photo, error) {
	if _, err := w.store.Stone(ctx, stoneID); err != nil {
		return Photo{}, err
	}
	hash, err := files.Keep(data)
	if err != nil {
		return Photo{}, err
	}
	p := Photo{ID: newID(), Hash: hash, Taken: w.moment()}
	return p, w.store.InsertPhoto(ctx, stoneID, p)
}

// Photos returns a stone's photos, the oldest first.
func (w *Workshop) Photos(ctx context.Context, stoneID string) ([]Photo, error) {
	return w.store.Photos(ctx, stoneID)
}

// DropPhoto takes a photo off a stone. The file stays: another stone may show it.
func (w *Workshop) DropPhoto(ctx context.Context, stoneID, id string) error {
	return w.store.DropPhoto(ctx, stoneID, id)
}

// benchHours adds up the stretches between begin and end events. A stretch that has
// not ended does not count yet.
func benchHours(events []Event) float64 {
	standing := Standing(events)
	slices.SortStableFunc(standing, func(a, b Event) int { return a.DeviceTime.Compare(b.DeviceTime) })
	total := time.Duration(0)
	var since *time.Time
	for _, e := range standing {
		switch {
		case e.Kind == EventBegin && since == nil:
			since = &e.DeviceTime
		case e.Kind == EventEnd && since != nil:
			total += e.DeviceTime.Sub(*since)
			since = nil
		}
	}
	return total.Hours()
}

// repairSummary is Summary for a stone that came in.
func (w *Workshop) repairSummary(s Stone, events []Event) Summary {
	out := Summary{Stone: s, LastEvent: s.Created, Hours: benchHours(events), State: StatePlanned, Material: s.Work.Intake.Material, SizeMM: s.Work.Intake.WidthMM}
	for _, e := range events {
		if e.ServerTime.After(out.LastEvent) {
			out.LastEvent = e.ServerTime
		}
	}
	if len(Standing(events)) > 0 {
		out.State = StateCutting
	}
	if f := s.Work.Finish; f != nil {
		out.State = StateFinished
		if f.Hours != nil {
			out.Hours = *f.Hours
		}
	}
	return out
}
