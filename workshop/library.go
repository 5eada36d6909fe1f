package workshop

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"

	"cressa/core/diagram"
	"cressa/core/printed"
)

// Library keeps diagrams: their drafts, their revisions, and how they look to a machine.
type Library struct {
	store interface {
		Transactions
		LibraryStore
		SweepStore
	}
	preferences *Preferences
	origin
}

// LibraryStore keeps diagrams, drafts and revisions.
type LibraryStore interface {
	// Diagrams returns a page of the diagrams that are not deleted and match a filter.
	Diagrams(ctx context.Context, f DiagramFilter, after Cursor, limit int) (DiagramPage, error)
	Diagram(ctx context.Context, id string) (Diagram, error)
	// Variants returns the diagrams of a group, by name.
	Variants(ctx context.Context, group string) ([]DiagramName, error)
	// InsertDiagram adds a diagram and, unless it is nil, its first revision.
	InsertDiagram(ctx context.Context, d Diagram, r *Revision) error
	// SaveDraft stores the draft and raises the version by one.
	SaveDraft(ctx context.Context, d Diagram, version int) error
	// KeepRevision stores the revision and makes it the diagram's present one.
	KeepRevision(ctx context.Context, id string, r Revision, version int) error
	// HideDiagram deletes a diagram for the time being, or brings it back where hidden is
	// nil.
	HideDiagram(ctx context.Context, id string, hidden *time.Time) error
	// DropHidden removes diagrams that were deleted before the given time.
	DropHidden(ctx context.Context, before time.Time) error
	InsertRevision(ctx context.Context, r Revision) error
	Revision(ctx context.Context, hash string) (Revision, error)
	// Picture returns a revision's small drawing.
	Picture(ctx context.Context, hash string) (Picture, error)
	// FillOnce notes that the library is filled with a set, and tells whether that is the
	// first time.
	FillOnce(ctx context.Context, set string) (first bool, err error)
	// Starters returns the hashes of the starter diagrams that are not dropped.
	Starters(ctx context.Context) ([]string, error)
	// Judgement returns how a revision looks to a machine, SaveJudgement keeps it.
	Judgement(ctx context.Context, revision, machine string) (Judged, error)
	SaveJudgement(ctx context.Context, revision, machine string, j Judged) error
	// DropJudgements drops what all machines but one have said.
	DropJudgements(ctx context.Context, machine string) error
	// Unjudged returns a present revision that the machine has not judged, ErrNotFound
	// where there is none.
	Unjudged(ctx context.Context, machine string) (hash string, err error)
}

// Diagram is a diagram in the library. It has a draft, which is saved while it is
// typed, and once that could be cut and was kept, a present revision.
type Diagram struct {
	ID string
	// Starter tells that the diagram came with the application.
	Starter bool
	// Revision is the hash of the present revision, "" before the first.
	Revision string
	Draft    diagram.Draft
	// Edited tells that the draft is not what the present revision holds.
	Edited  bool
	Version int
	Created time.Time
	Updated time.Time
	// Origin is where it came from: a file's name, or that it was pasted.
	Origin string
	// VariantOf is the ID that variants of one diagram share, "" where it has none.
	VariantOf string
	// SenseChosen tells that the cutter has said which way its indexes run.
	SenseChosen bool
	// Facts are those of the present revision, nil before the first.
	Facts *Facts
}

// Group is the ID that it shares with its variants.
func (d Diagram) Group() string { return cmp.Or(d.VariantOf, d.ID) }

// DiagramName is a diagram by its name.
type DiagramName struct{ ID, Name string }

// DiagramLine is a diagram as the library lists it.
type DiagramLine struct {
	ID, Name string
	Starter  bool
	Revision string
	Edited   bool
	Version  int
	// Facts and Judged are nil before the first revision; Judged also until the machine
	// has judged it.
	Facts  *Facts
	Judged *Judged
}

// DiagramFilter says which diagrams are looked for, and in which order.
type DiagramFilter struct {
	// Words must all be found in name, designer, outline, note or source.
	Words []string
	// Outline and Gear are as the draft has them, "" for any.
	Outline, Gear string
	// Facets and LengthWidth are bounds, 0 for none.
	FacetsFrom, FacetsTo           int
	LengthWidthFrom, LengthWidthTo float64
	// Steeper leaves those whose pavilion tiers all stand above so many degrees.
	Steeper float64
	Level   Level
	// Cuttable leaves those that the machine can cut as they are, Kept those that have a
	// version.
	Cuttable, Kept bool
	// Freehand leaves the stones that are being cut freehand and have no version yet.
	Freehand bool
	// Deleted lists what was deleted and can still be brought back, in place of the library.
	Deleted bool
	// Machine names the machine that judged them.
	Machine string
	Sort    DiagramSort
}

// DiagramSort is an order of the library.
type DiagramSort string

// The orders. The zero value is ByName.
const (
	ByName       DiagramSort = "name"
	ByFacets     DiagramSort = "facets"
	ByRatio      DiagramSort = "ratio"
	ByDifficulty DiagramSort = "difficulty"
	// ByFit puts what the machine can cut as it is first, the easiest before the harder.
	ByFit DiagramSort = "fit"
)

// DiagramPage is a page of the library.
type DiagramPage struct {
	Lines []DiagramLine
	// Next is where the next page begins, nil after the last.
	Next *Cursor
	// Total counts all that match. Outlines and Gears are those that the whole library
	// has; Waiting counts its diagrams that the machine has not judged yet.
	Total    int
	Outlines []string
	Gears    []string
	Waiting  int
}

// Diagrams returns a page of the library, as the default machine sees it. It returns only
// the errors of the store.
func (l *Library) Diagrams(ctx context.Context, f DiagramFilter, after Cursor, limit int) (DiagramPage, error) {
	settings, err := l.preferences.Settings(ctx)
	if err != nil {
		return DiagramPage{}, err
	}
	f.Machine = settings.MachineOf("").judge()
	return l.store.Diagrams(ctx, f, after, limit)
}

// edited tells whether a draft reads as something else than the present revision. Both are
// compared by their content, so that neither the spelling of a draft nor the form of a
// stored diagram counts.
func edited(d Diagram) bool {
	read, problems := printed.Diagram(d.Draft)
	return len(problems) > 0 || diagram.Hash(read) != d.Revision
}

// Diagram returns one diagram of the library. It returns ErrNotFound.
func (l *Library) Diagram(ctx context.Context, id string) (Diagram, error) {
	return l.store.Diagram(ctx, id)
}

// Variants returns a diagram and its variants, by name. It returns only the errors of the
// store.
func (l *Library) Variants(ctx context.Context, d Diagram) ([]DiagramName, error) {
	return l.store.Variants(ctx, d.Group())
}

// Revision returns a version of a diagram by its hash. It returns ErrNotFound.
func (l *Library) Revision(ctx context.Context, hash string) (Revision, error) {
	return l.store.Revision(ctx, hash)
}

// Picture returns the small drawing of a version. It returns ErrNotFound where the version
// is unknown or has none.
func (l *Library) Picture(ctx context.Context, hash string) (Picture, error) {
	return l.store.Picture(ctx, hash)
}

// EmptyBin removes the diagrams that were deleted longer than KeepDeleted ago. It returns
// only the errors of the store.
func (l *Library) EmptyBin(ctx context.Context) error {
	return l.store.DropHidden(ctx, l.moment().Add(-KeepDeleted))
}

// NewDiagram adds an empty diagram to the library: a draft without tiers. It returns only
// the errors of the store.
func (l *Library) NewDiagram(ctx context.Context) (Diagram, error) {
	usual, err := l.preferences.Usual(ctx)
	if err != nil {
		return Diagram{}, err
	}
	return l.add(ctx, diagram.Draft{
		Outline: "round", Gear: fmt.Sprint(usual.Gear), RefractiveIndex: diagram.FormatNumber(usual.RefractiveIndex),
		Width: diagram.FormatNumber(usual.Width), FirstSide: string(diagram.Pavilion), Indexing: string(diagram.Dialled), Tiers: []diagram.DraftTier{},
	}, nil, Diagram{})
}

// ImportDraft adds a draft that was read from somewhere, mistakes included: origin
// says where. One that cannot be cut as written comes in with its problem to be mended. Of one that
// was designed here it is known which way its indexes run.
func (l *Library) ImportDraft(ctx context.Context, draft diagram.Draft, origin string, designed bool) (Diagram, error) {
	if err := Validate(draft); err != nil {
		return Diagram{}, err
	}
	return l.addDraft(ctx, draft, Diagram{Origin: origin, SenseChosen: designed})
}

// Fill adds the diagrams that ship with the application, all or none of them, the first
// time that it is called with the name of the set. Those that are there already, by their
// content, are left alone. It returns the error of the first diagram that does not cut,
// with its name.
func (l *Library) Fill(ctx context.Context, set string, starters []*diagram.Diagram) error {
	return l.store.InTx(ctx, func(ctx context.Context) error {
		first, err := l.store.FillOnce(ctx, set)
		if err != nil || !first {
			return err
		}
		have, err := l.store.Starters(ctx)
		if err != nil {
			return err
		}
		for _, d := range starters {
			r, err := l.revisionOf(d)
			if err != nil {
				return fmt.Errorf("%s: %w", d.Name, err)
			}
			if slices.Contains(have, r.Hash) {
				continue
			}
			if _, err := l.add(ctx, diagram.DraftOf(d), r, Diagram{Starter: true, SenseChosen: true}); err != nil {
				return err
			}
		}
		return nil
	})
}

func (l *Library) add(ctx context.Context, draft diagram.Draft, r *Revision, as Diagram) (Diagram, error) {
	now := l.moment()
	d := as
	d.ID, d.Draft, d.Version, d.Created, d.Updated = l.newID(), draft, 1, now, now
	if r != nil {
		d.Revision, d.Facts = r.Hash, &r.Facts
	}
	d.Edited = edited(d)
	return d, l.store.InsertDiagram(ctx, d, r)
}

// CopyDiagram adds a copy of a diagram under a name that says so. It returns ErrNotFound.
func (l *Library) CopyDiagram(ctx context.Context, id string) (Diagram, error) {
	d, err := l.store.Diagram(ctx, id)
	if err != nil {
		return Diagram{}, err
	}
	draft := d.Draft
	draft.Name = copyName(draft.Name)
	return l.addDraft(ctx, draft, Diagram{Origin: d.Origin, SenseChosen: d.SenseChosen})
}

// VaryDiagram adds a variant of a diagram: a copy that is held against it side by
// side, under a name with the next free letter. Variants of a variant belong to the same
// group. The error is ErrNotFound where there is no such diagram.
func (l *Library) VaryDiagram(ctx context.Context, id string) (Diagram, error) {
	d, err := l.store.Diagram(ctx, id)
	if err != nil {
		return Diagram{}, err
	}
	group, err := l.store.Variants(ctx, d.Group())
	if err != nil {
		return Diagram{}, err
	}
	draft := d.Draft
	base := variantMark.ReplaceAllString(draft.Name, "")
	for letter := 'B'; ; letter++ {
		draft.Name = fmt.Sprintf("%s · %c", base, letter)
		if letter == 'Z' || !slices.ContainsFunc(group, func(o DiagramName) bool { return o.Name == draft.Name }) {
			break
		}
	}
	return l.addDraft(ctx, draft, variantOf(d))
}

// AddVariant adds a changed draft of a diagram, under the name that it has, as a variant with
// a version. It returns the errors of Validate, ErrNotFound where there is no such diagram,
// and a NotCuttable where the draft makes no stone; then nothing is added.
func (l *Library) AddVariant(ctx context.Context, id string, draft diagram.Draft) (Diagram, error) {
	if err := Validate(draft); err != nil {
		return Diagram{}, err
	}
	d, err := l.store.Diagram(ctx, id)
	if err != nil {
		return Diagram{}, err
	}
	read, problems := printed.Diagram(draft)
	if len(problems) > 0 {
		return Diagram{}, NotCuttable{problems}
	}
	r, err := l.revisionOf(read)
	if err != nil {
		return Diagram{}, err
	}
	return l.add(ctx, draft, r, variantOf(d))
}

// variantOf holds what a variant takes over from a diagram.
func variantOf(d Diagram) Diagram {
	return Diagram{Origin: d.Origin, SenseChosen: d.SenseChosen, VariantOf: d.Group()}
}

var variantMark = regexp.MustCompile(` · [A-Z]$`)

// addDraft adds a draft, as a diagram with a version where it can be cut.
func (l *Library) addDraft(ctx context.Context, draft diagram.Draft, as Diagram) (Diagram, error) {
	read, problems := printed.Diagram(draft)
	if len(problems) > 0 {
		return l.add(ctx, draft, nil, as)
	}
	r, err := l.revisionOf(read)
	if err != nil && !errors.As(err, &NotCuttable{}) {
		return Diagram{}, err
	}
	return l.add(ctx, draft, r, as)
}

// ChooseSense says which way a diagram's indexes run, over the version that the caller
// read. It is asked once. It returns ErrNotFound, and ErrStale where the version is not
// the stored one.
func (l *Library) ChooseSense(ctx context.Context, id string, indexing diagram.Indexing, version int) (Diagram, error) {
	d, err := l.store.Diagram(ctx, id)
	if err != nil {
		return Diagram{}, err
	}
	kept := !d.Edited && d.Revision != ""
	d.Draft.Indexing, d.SenseChosen, d.Updated = string(indexing), true, l.moment()
	d.Edited = edited(d)
	err = l.store.InTx(ctx, func(ctx context.Context) error {
		if err := l.store.SaveDraft(ctx, d, version); err != nil || !kept {
			return err
		}
		// What was kept is kept again, read the right way.
		d, err = l.keep(ctx, d, version+1)
		return err
	})
	if err == nil && !kept {
		d.Version = version + 1
	}
	return d, err
}

func copyName(name string) string {
	if name == "" {
		return ""
	}
	return strings.TrimSuffix(name, " (copy)") + " (copy)"
}

// SaveDraft stores a draft as it was typed, mistakes included, over the version that the
// caller read. It returns the diagram with its new version. It returns the errors of
// Validate, ErrNotFound, ErrStarter, and ErrStale where the version is not the stored one.
func (l *Library) SaveDraft(ctx context.Context, id string, draft diagram.Draft, version int) (Diagram, error) {
	if err := Validate(draft); err != nil {
		return Diagram{}, err
	}
	d, err := l.store.Diagram(ctx, id)
	if err != nil {
		return Diagram{}, err
	}
	if d.Starter {
		return d, ErrStarter
	}
	d.Draft, d.Updated = draft, l.moment()
	d.Edited = edited(d)
	if err := l.store.SaveDraft(ctx, d, version); err != nil {
		return d, err
	}
	d.Version = version + 1
	return d, nil
}

// KeepDraft makes the draft the diagram's present revision. The error is a
// NotCuttable where it cannot be.
func (l *Library) KeepDraft(ctx context.Context, id string, version int) (Diagram, error) {
	d, err := l.store.Diagram(ctx, id)
	if err != nil {
		return Diagram{}, err
	}
	if d.Starter {
		return d, ErrStarter
	}
	return l.keep(ctx, d, version)
}

func (l *Library) keep(ctx context.Context, d Diagram, version int) (Diagram, error) {
	read, problems := printed.Diagram(d.Draft)
	if len(problems) > 0 {
		return d, NotCuttable{problems}
	}
	r, err := l.revisionOf(read)
	if err != nil {
		return d, err
	}
	if err := l.store.KeepRevision(ctx, d.ID, *r, version); err != nil {
		return d, err
	}
	d.Revision, d.Facts, d.Version, d.Edited = r.Hash, &r.Facts, version+1, false
	return d, nil
}

// DeleteDiagram hides a diagram; RestoreDiagram brings it back within KeepDeleted. Stones
// that were planned from it keep their own revision. It returns ErrNotFound.
func (l *Library) DeleteDiagram(ctx context.Context, id string) error {
	now := l.moment()
	return l.store.HideDiagram(ctx, id, &now)
}

// RestoreDiagram brings a deleted diagram back. It returns ErrNotFound where there is none
// or its time is over.
func (l *Library) RestoreDiagram(ctx context.Context, id string) error {
	return l.store.InTx(ctx, func(ctx context.Context) error {
		if err := l.EmptyBin(ctx); err != nil {
			return err
		}
		return l.store.HideDiagram(ctx, id, nil)
	})
}
