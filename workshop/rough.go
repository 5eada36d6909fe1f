package workshop

import (
	"context"
	"reflect"
	"strconv"
	"strings"
	"sync"
	"time"

	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/core/rough"
)

// Codes of refusals of a piece of rough.
const (
	// BadWeight: Text is no weight.
	BadWeight diagram.Code = "bad-weight"
	// NoParcel: Text is the ID of no parcel.
	NoParcel diagram.Code = "no-parcel"
)

// Rough keeps parcels and pieces of rough, and what can come of them.
type Rough struct {
	store interface {
		Transactions
		RoughStore
	}
	preferences *Preferences
	// pictures is held while the files of photos come and go.
	pictures *sync.Mutex
	origin
}

// Parcels returns all parcels, the last bought first.
func (r *Rough) Parcels(ctx context.Context) ([]Parcel, error) { return r.store.Parcels(ctx) }

// Parcel returns a parcel, ErrNotFound where there is no such.
func (r *Rough) Parcel(ctx context.Context, id string) (Parcel, error) {
	return r.store.Parcel(ctx, id)
}

// PieceWeights returns what is known of the pieces of each parcel.
func (r *Rough) PieceWeights(ctx context.Context) (map[string]ParcelSum, error) {
	return r.store.PieceWeights(ctx)
}

// SaveParcel keeps a parcel: a new one where it has no ID, else over the version that the caller read. It
// returns the errors of Validate, ErrStale and ErrNotFound.
func (r *Rough) SaveParcel(ctx context.Context, p Parcel) (Parcel, error) {
	version := p.Version
	fresh := p.ID == ""
	if fresh {
		p.ID, p.Created, version = r.newID(), r.moment(), 0
	}
	p.Version = version + 1
	if err := Validate(p); err != nil {
		return p, err
	}
	if fresh {
		return p, r.store.InsertParcel(ctx, p)
	}
	return p, r.store.InTx(ctx, func(ctx context.Context) error {
		before, err := r.store.Parcel(ctx, p.ID)
		if err != nil {
			return err
		}
		p.Created = before.Created
		return r.store.SaveParcel(ctx, p, version)
	})
}

// Pieces returns a page of pieces, the last first.
func (r *Rough) Pieces(ctx context.Context, f PieceFilter, after Cursor, limit int) (PiecePage, error) {
	return r.store.Pieces(ctx, f, after, limit)
}

// Piece returns a piece with its candidates, the heaviest first, ErrNotFound where there is no such.
func (r *Rough) Piece(ctx context.Context, id string) (Piece, []Candidate, error) {
	p, err := r.store.Piece(ctx, id)
	if err != nil {
		return p, nil, err
	}
	all, err := r.store.Candidates(ctx, id)
	return p, all, err
}

// Carats returns a typed weight in carats, 0 where nobody weighed. A comma is a point.
func (w Weighed) Carats() (float64, error) {
	text := strings.ReplaceAll(strings.TrimSpace(w.Text), ",", ".")
	if text == "" {
		return 0, nil
	}
	n, err := strconv.ParseFloat(text, 64)
	if w.Unit == "g" {
		n /= gramsPerCarat
	}
	if err != nil || !(n > 0 && n <= rough.MaxCarat) {
		return 0, diagram.Problem{Code: BadWeight, TierNo: -1, Field: "carat", Text: w.Text}
	}
	return n, nil
}

// SavePiece keeps a piece: a new one where it has no ID, else over the version that the caller read. Its
// solid must be one that can be worked out; its weight is that of the scales. It returns the errors of
// Validate, those of rough.Work, ErrStale and ErrNotFound.
func (r *Rough) SavePiece(ctx context.Context, p Piece) (Piece, error) {
	version := p.Version
	fresh := p.ID == ""
	if fresh {
		p.ID, p.Created, version, p.Fate = r.newID(), r.moment(), 0, Whole
	}
	p.Version = version + 1
	if err := Validate(p); err != nil {
		return p, err
	}
	var err error
	if p.Rough.Carat, err = p.Weighed.Carats(); err != nil {
		return p, err
	}
	worked, err := r.Worked(ctx, p.Rough)
	if err != nil {
		return p, err
	}
	p.Carats, p.Sketch = worked.WeightOf(), sketchOf(worked)
	return p, r.store.InTx(ctx, func(ctx context.Context) (err error) {
		if p.Parcel != "" {
			if _, err := r.store.Parcel(ctx, p.Parcel); err != nil {
				return diagram.Problem{Code: NoParcel, TierNo: -1, Field: "parcel", Text: p.Parcel}
			}
		}
		if fresh {
			if p.Parent != "" {
				if _, err := r.store.Piece(ctx, p.Parent); err != nil {
					return err
				}
			}
			p.Number, err = r.store.InsertPiece(ctx, p)
			return err
		}
		before, err := r.store.Piece(ctx, p.ID)
		if err != nil {
			return err
		}
		p.Number, p.Created, p.Parent = before.Number, before.Created, before.Parent
		if err := r.store.SavePiece(ctx, p, version); err != nil {
			return err
		}
		return r.carryOver(ctx, before, p)
	})
}

// sameToFit tells whether nothing of a piece has changed that a search for stones looks at.
func sameToFit(a, b rough.Rough) bool {
	for _, r := range []*rough.Rough{&a, &b} {
		r.Name, r.Note, r.Colour = "", "", nil
	}
	return reflect.DeepEqual(a, b)
}

// KeepOffcut keeps what a saw cut of a piece lets fall as a piece of its own. It returns ErrNotFound where
// there is no such piece or nothing falls.
func (r *Rough) KeepOffcut(ctx context.Context, id string, trim int) (Piece, error) {
	p, err := r.store.Piece(ctx, id)
	if err != nil {
		return p, err
	}
	worked, err := r.Worked(ctx, p.Rough)
	if err != nil {
		return p, err
	}
	off, ok := worked.Offcut(trim)
	if !ok {
		return p, ErrNotFound
	}
	return r.SavePiece(ctx, Piece{Parcel: p.Parcel, Parent: p.ID, Weighed: Weighed{Unit: p.Weighed.Unit}, Look: p.Look, Rough: off, Fate: Whole})
}

// Worked works the solid of a piece out, of any material that the workshop knows. It returns the problems
// of rough.Rough.
func (r *Rough) Worked(ctx context.Context, piece rough.Rough) (*rough.Piece, error) {
	facts, err := r.MaterialCalled(ctx, piece.Material)
	if err != nil {
		return nil, err
	}
	return piece.Of(facts)
}

// MaterialCalled returns the material of a name that the workshop knows, or a diagram.Problem.
func (r *Rough) MaterialCalled(ctx context.Context, name string) (material.Material, error) {
	settings, err := r.preferences.Settings(ctx)
	if err != nil {
		return material.Material{}, err
	}
	facts, ok := settings.Material(name)
	if !ok {
		return facts, diagram.Problem{Code: UnknownMaterial, TierNo: -1, Field: "material", Text: name}
	}
	return facts, nil
}

// PutCandidate keeps what was found for a version of a diagram. A smaller stone than the one that is known
// of the same piece, diagram and allowance takes its place only where the piece is another by now. It
// returns what is kept then, and ErrNotFound where the piece is gone.
func (r *Rough) PutCandidate(ctx context.Context, c Candidate) (Candidate, error) {
	return c, r.store.InTx(ctx, func(ctx context.Context) error {
		if _, err := r.store.Piece(ctx, c.Piece); err != nil {
			return err
		}
		all, err := r.store.Candidates(ctx, c.Piece)
		if err != nil {
			return err
		}
		c.ID, c.Made = r.newID(), r.moment()
		for _, known := range all {
			if known.Diagram != c.Diagram {
				continue
			}
			c.ID, c.Chosen, c.Why = known.ID, known.Chosen, known.Why
			same := known.Version == c.Version && known.Revision == c.Revision && known.Allowance == c.Allowance
			if same {
				c.Rounds = known.Rounds + 1
			}
			if same && known.Found.Scale >= c.Found.Scale {
				c.Found, c.Made = known.Found, known.Made
			}
			if same && c.Costs == nil {
				c.Costs = known.Costs
			}
		}
		return r.store.PutCandidate(ctx, c)
	})
}

// Choose makes a candidate the one that its piece is to become, with the reasons; "" for the ID takes the
// choice back. It returns the candidates, and ErrNotFound.
func (r *Rough) Choose(ctx context.Context, piece, id, why string) ([]Candidate, error) {
	var all []Candidate
	return all, r.store.InTx(ctx, func(ctx context.Context) (err error) {
		if all, err = r.store.Candidates(ctx, piece); err != nil {
			return err
		}
		found := id == ""
		for i := range all {
			c := &all[i]
			mine := c.ID == id
			found = found || mine
			if !mine && c.Chosen.IsZero() {
				continue
			}
			c.Chosen, c.Why = time.Time{}, ""
			if mine {
				c.Chosen, c.Why = r.moment(), strings.TrimSpace(why)
			}
			if err := Validate(*c); err != nil {
				return err
			}
			if err := r.store.PutCandidate(ctx, *c); err != nil {
				return err
			}
		}
		if !found {
			return ErrNotFound
		}
		return nil
	})
}

// DropCandidate throws a candidate away. It returns ErrNotFound.
func (r *Rough) DropCandidate(ctx context.Context, id string) error {
	return r.store.DropCandidate(ctx, id)
}
