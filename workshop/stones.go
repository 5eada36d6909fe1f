package workshop

import (
	"context"
	"slices"
	"sync"
	"time"

	"cressa/core/mending"
	"cressa/workshop/journal"
)

// Stone is the physical thing, with a short number to write on its bag.
type Stone struct {
	ID      string
	Number  int
	Name    string
	Created time.Time
	Version int
	// Run is the run it belongs to and RunPlace its place there from 1; "" and 0
	// for a stone of its own.
	Run      string
	RunPlace int
	// Works are what was and is done to it, oldest first, one at least.
	Works []Work
}

// Work returns the present work, the last one.
func (s Stone) Work() Work { return s.Works[len(s.Works)-1] }

// At returns the stone as it was at one of its works, which is its present one then; "" is
// the present one. It returns ErrNotFound where the stone has no such work.
func (s Stone) At(workID string) (Stone, error) {
	if workID == "" {
		return s, nil
	}
	i := slices.IndexFunc(s.Works, func(w Work) bool { return w.ID == workID })
	if i < 0 {
		return s, ErrNotFound
	}
	s.Works = s.Works[:i+1]
	return s, nil
}

// Work is one thing that is done to a stone: its first cut, a recut, or a repair.
type Work struct {
	ID      string
	Task    Task
	Created time.Time
	// Plan is the latest one, nil for a work without.
	Plan *Plan
	// Finish is nil until the logbook card is written.
	Finish *Finish
}

// Task is what a work is for. Each kind has its own record.
type Task interface {
	// Kind names the rules that its log obeys.
	Kind() journal.Task
	sealed()
}

// FirstCut makes a stone out of rough, to a plan.
type FirstCut struct {
	// From is the piece that it is cut from, nil where that is not on record.
	From *FromPiece
}

// Kind implements Task.
func (FirstCut) Kind() journal.Task { return journal.FirstCut }
func (FirstCut) sealed()            {}

// Recut cuts a finished stone anew, to a plan: it can only become less.
type Recut struct {
	// Carats and the sizes in mm are those of the stone before, 0 where they are not known.
	Carats, WidthMM, LengthMM, HeightMM float64
	// Why is what it is for, up to 2 000 characters.
	Why string `validate:"max=2000"`
	// Way is how the stone is recut that keeps its diagram, "" where it gets another, Damages what goes with that, in mm.
	Way     mending.Kind
	Damages []mending.Damage
	// Intake is what was written down where it came in for repair first; nil for the workshop's own.
	Intake *Intake
}

// Kind implements Task.
func (Recut) Kind() journal.Task { return journal.Recut }
func (Recut) sealed()            {}

// Repair mends a finished stone that came in, without a plan.
type Repair struct{ Intake Intake }

// Kind implements Task.
func (Repair) Kind() journal.Task { return journal.Repair }
func (Repair) sealed()            {}

// Stones keeps stones: their works, plans, cards and photos.
type Stones struct {
	store interface {
		Transactions
		StoneStore
	}
	library     *Library
	journal     *Journal
	preferences *Preferences
	kit         *Kit
	rough       *Rough
	origin
	// pictures is held while the files of photos come and go.
	pictures *sync.Mutex
}

// StoneStore keeps stones with all that belongs to them.
type StoneStore interface {
	// Stones returns a page of the stones that match a filter.
	Stones(ctx context.Context, f StoneFilter, after Cursor, limit int) (StonePage, error)
	// Sums adds up the logbook.
	Sums(ctx context.Context) (LogbookSums, error)
	Stone(ctx context.Context, id string) (Stone, error)
	// InsertStone adds a stone with its works and their plans and gives it the next
	// number.
	InsertStone(ctx context.Context, s Stone) (number int, err error)
	// InsertWork adds a work to a stone over the version that the caller read.
	InsertWork(ctx context.Context, stoneID string, w Work, version int) error
	InsertRun(ctx context.Context, r Run) error
	// Run returns a run and its stones in their order, each with the work that belongs to
	// the run, its first one, alone.
	Run(ctx context.Context, id string) (Run, []Stone, error)
	// AddPlan adds a revision of a work's plan over the version of its stone.
	AddPlan(ctx context.Context, stoneID, workID string, p Plan, version int) error
	// Plan returns a revision of a work's plan.
	Plan(ctx context.Context, workID string, no int) (Plan, error)
	// SaveRepair stores a repair and its stone's name over the version of the stone.
	SaveRepair(ctx context.Context, stoneID, name, workID string, r Repair, version int) error
	SaveFinish(ctx context.Context, workID string, f Finish, version int) error
	// Paces returns the paces of the works that were ticked last.
	Paces(ctx context.Context, works int) ([]WorkPace, error)

	// Photos returns a stone's photos, the oldest first.
	Photos(ctx context.Context, stoneID string) ([]Photo, error)
	InsertPhoto(ctx context.Context, stoneID string, p Photo) error
	// DropPhoto returns the hash of the photo that it takes away, and whether another photo has
	// the same.
	DropPhoto(ctx context.Context, stoneID, id string) (hash string, shown bool, err error)
}

// StoneLine is a stone as lists show it, with where its present work stands.
type StoneLine struct {
	ID       string
	Number   int
	Name     string
	Created  time.Time
	Version  int
	Run      string
	RunPlace int
	WorkID   string
	Task     journal.Task
	// Diagram is what its plan's diagram is called and Picture that version's hash, ""
	// without a plan.
	Diagram, Picture string
	// Material and SizeMM are the plan's, or those of the stone that came in.
	Material string
	SizeMM   float64
	// Promised is the day that a repair or a recut was promised for, "" for none.
	Promised string
	// Cures is until when the bond that was told last cures, the zero time where none was.
	Cures time.Time
	Figures
	Finish *Finish
}

// StoneFilter says which stones are looked for, and in which order.
type StoneFilter struct {
	// ID leaves one stone, "" for all. Work leaves one work, be it a stone's present one or
	// not.
	ID, Work string
	// States and Tasks are those wanted, all where there are none.
	States []journal.State
	Tasks  []journal.Task
	// Owed leaves what belongs to somebody: repairs, and recuts that were promised.
	Owed bool
	// Words must all be found in number, name, diagram or material.
	Words []string
	// Run leaves the works that belong to a run.
	Run string
	// Curing leaves those whose bond still cures then; the zero time leaves all.
	Curing time.Time
	Sort   StoneSort
	// Uncounted leaves the total out, where only the first few are wanted.
	Uncounted bool
}

// StoneSort is an order of stones.
type StoneSort string

// The orders. The zero value is ByTouch.
const (
	// ByTouch: the one that something happened to last comes first.
	ByTouch StoneSort = "touch"
	// ByPromise: the one promised first.
	ByPromise StoneSort = "promise"
	// ByPlace: in the order of their run.
	ByPlace StoneSort = "place"
	// ByFinish: the one finished last.
	ByFinish StoneSort = "finish"
)

// StonePage is a page of stones.
type StonePage struct {
	Lines []StoneLine
	// Next is where the next page begins, nil after the last. Total counts all that match.
	Next  *Cursor
	Total int
}

// LogbookSums adds up the finished stones.
type LogbookSums struct {
	Stones                      int
	RoughCarats, FinishedCarats float64
	Hours                       float64
}

// Stones returns a page of the stones that match a filter. It returns only the errors of
// the store.
func (s *Stones) Stones(ctx context.Context, f StoneFilter, after Cursor, limit int) (StonePage, error) {
	return s.store.Stones(ctx, f, after, limit)
}

// Curing returns stones on a dop whose bond still cures, at most so many. It returns only the errors of the
// store.
func (s *Stones) Curing(ctx context.Context, limit int) ([]StoneLine, error) {
	page, err := s.store.Stones(ctx, StoneFilter{Curing: s.moment(), Uncounted: true}, Cursor{}, limit)
	return page.Lines, err
}

// Stone returns one stone. It returns ErrNotFound.
func (s *Stones) Stone(ctx context.Context, id string) (Stone, error) { return s.store.Stone(ctx, id) }

// Sums adds up the logbook. It returns only the errors of the store.
func (s *Stones) Sums(ctx context.Context) (LogbookSums, error) { return s.store.Sums(ctx) }

// insert adds a stone and the state of its works, within a transaction.
func (s *Stones) insert(ctx context.Context, stone Stone) (number int, err error) {
	if number, err = s.store.InsertStone(ctx, stone); err != nil {
		return 0, err
	}
	for _, w := range stone.Works {
		if err := s.begin(ctx, w, stone.Run); err != nil {
			return 0, err
		}
	}
	return number, nil
}

// begin keeps the state of a work that was added, and tells its log of its plan.
func (s *Stones) begin(ctx context.Context, w Work, run string) error {
	if err := s.journal.begin(ctx, w, run); err != nil || w.Plan == nil {
		return err
	}
	return s.journal.tell(ctx, w.ID, journal.Plan, w.Plan.Asked())
}

// addWork adds a work to a finished stone over the version that the caller read. What for is
// made from its last card.
func (s *Stones) addWork(ctx context.Context, stoneID string, version int, plan *Plan, what func(Finish) (Task, error)) (Stone, error) {
	var stone Stone
	err := s.store.InTx(ctx, func(ctx context.Context) (err error) {
		if stone, err = s.store.Stone(ctx, stoneID); err != nil {
			return err
		}
		card := stone.Work().Finish
		if card == nil {
			return ErrNotFinished
		}
		work := Work{ID: s.newID(), Created: s.moment(), Plan: plan}
		if work.Task, err = what(*card); err != nil {
			return err
		}
		if err := s.store.InsertWork(ctx, stone.ID, work, version); err != nil {
			return err
		}
		stone.Works, stone.Version = append(stone.Works, work), version+1
		return s.begin(ctx, work, "")
	})
	return stone, err
}

// Finish is the stone's card in the logbook. Figures that were not taken are 0.
type Finish struct {
	Version        int
	RoughCarats    float64 `validate:"min=0,max=100000"`
	FinishedCarats float64 `validate:"min=0,max=100000"`
	WidthMM        float64 `validate:"min=0,max=1000"`
	LengthMM       float64 `validate:"min=0,max=1000"`
	HeightMM       float64 `validate:"min=0,max=1000"`
	Started        string  `validate:"omitempty,datetime=2006-01-02"`
	Finished       string  `validate:"required,datetime=2006-01-02"`
	// Hours is what the cutter corrected the reckoned hours to, nil where they
	// were left.
	Hours *float64 `validate:"omitempty,min=0,max=10000"`
	Notes string   `validate:"max=20000"`
	// Price is what is asked for the stone, in minor units of the currency, 0 where nothing is said of it.
	Price    int64  `validate:"min=0,max=1000000000000"`
	Currency string `validate:"omitempty,len=3,uppercase,alpha"`
	Saved    time.Time
}

// FinishStone stores the logbook card of a stone's present work over the version that the
// caller read, 0 the first time: then the work is finished. It returns the errors of
// Validate, ErrNotFound, and ErrStale where the version is not the stored one.
func (s *Stones) FinishStone(ctx context.Context, stoneID string, f Finish) (Finish, error) {
	if err := Validate(f); err != nil {
		return f, err
	}
	version := f.Version
	f.Version++
	f.Saved = s.moment()
	return f, s.store.InTx(ctx, func(ctx context.Context) error {
		stone, err := s.store.Stone(ctx, stoneID)
		if err != nil {
			return err
		}
		work := stone.Work()
		if err := s.store.SaveFinish(ctx, work.ID, f, version); err != nil || version > 0 {
			return err
		}
		return s.journal.tell(ctx, work.ID, journal.Finish, nil)
	})
}
