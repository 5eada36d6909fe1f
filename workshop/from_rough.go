package workshop

import (
	"context"
	"errors"

	"cressa/core/diagram"
	"cressa/core/rough"
)

// FromPiece is the piece of rough that a stone is cut from, and what was found for it there.
type FromPiece struct {
	// Piece is its ID.
	Piece string
	// Found is the stone as it was found, nil where nobody looked. Allowance is what was left all round
	// then, in mm, Why the reasons for the choice.
	Found     *Found
	Allowance float64
	Why       string
}

// NoPiece tells that Text is the ID of no piece of rough.
const NoPiece diagram.Code = "no-piece"

// PlanFrom is PlanStone for a stone that is cut from a piece of rough, by its ID; "" is a stone whose rough
// is not on record. The piece counts as in work from then on.
func (s *Stones) PlanFrom(ctx context.Context, name, diagramID, piece string, c Choices) (Stone, error) {
	plan, _, err := s.firstPlan(ctx, diagramID, "", c)
	if err != nil {
		return Stone{}, err
	}
	stone := s.newStone(name, plan)
	return stone, s.store.InTx(ctx, func(ctx context.Context) (err error) {
		if piece != "" {
			from, err := s.rough.take(ctx, piece, diagramID)
			if err != nil {
				return err
			}
			stone.Works[0].Task = FirstCut{From: &from}
		}
		stone.Number, err = s.insert(ctx, stone)
		return err
	})
}

// take puts a piece into work for a stone of a diagram.
func (r *Rough) take(ctx context.Context, id, diagramID string) (FromPiece, error) {
	out := FromPiece{Piece: id}
	p, candidates, err := r.Piece(ctx, id)
	if errors.Is(err, ErrNotFound) {
		return out, diagram.Problem{Code: NoPiece, TierNo: -1, Field: "piece", Text: id}
	} else if err != nil {
		return out, err
	}
	for _, c := range candidates {
		if c.Diagram == diagramID && c.Found.Scale > 0 {
			found := c.Found
			out.Found, out.Allowance, out.Why = &found, c.Allowance, c.Why
		}
	}
	if p.Fate == InWork {
		return out, nil
	}
	before := p
	p.Fate, p.Version = InWork, p.Version+1
	if err := r.store.SavePiece(ctx, p, before.Version); err != nil {
		return out, err
	}
	return out, r.carryOver(ctx, before, p)
}

// carryOver lets candidates of a piece stand for its next version where nothing has changed that a fit
// looks at.
func (r *Rough) carryOver(ctx context.Context, before, now Piece) error {
	if !sameToFit(before.Rough, now.Rough) {
		return nil
	}
	candidates, err := r.store.Candidates(ctx, now.ID)
	if err != nil {
		return err
	}
	for _, c := range candidates {
		if c.Version == before.Version {
			c.Version = now.Version
			if err := r.store.PutCandidate(ctx, c); err != nil {
				return err
			}
		}
	}
	return nil
}

// PieceStone is a stone that is cut from a piece.
type PieceStone struct {
	ID     string
	Number int
	Name   string
	// Carats is what it was found to weigh, 0 where nobody looked.
	Carats float64
}

// CutFrom returns the stones that are cut from a piece, the first first.
func (r *Rough) CutFrom(ctx context.Context, piece string) ([]PieceStone, error) {
	return r.store.StonesOfPiece(ctx, piece)
}

// Source is where a stone's rough came from.
type Source struct {
	FromPiece
	// Number and Name are those of the piece, Parcel the name of its parcel, "" for none.
	Number       int
	Name, Parcel string
	// Parent is the number of the piece that it was sawn off, 0 for none.
	Parent int
	// Rough is the piece as it is now, Carats its weight.
	Rough  rough.Rough
	Carats float64
	// Cost is the stone's share of what the piece cost, in minor units of the currency, 0 where that is
	// not known: by the weights that were found where all stones of the piece have one, else equal parts.
	Cost     float64
	Currency string
}

// SourceOf returns where the rough of a stone came from, nil where that is not on record.
func (r *Rough) SourceOf(ctx context.Context, stone Stone) (*Source, error) {
	cut, ok := stone.Works[0].Task.(FirstCut)
	if !ok || cut.From == nil {
		return nil, nil
	}
	p, err := r.store.Piece(ctx, cut.From.Piece)
	if err != nil {
		return nil, err
	}
	out := &Source{FromPiece: *cut.From, Number: p.Number, Name: p.Rough.Name, Rough: p.Rough, Carats: p.Carats}
	if p.Parent != "" {
		parent, err := r.store.Piece(ctx, p.Parent)
		if err != nil {
			return nil, err
		}
		out.Parent = parent.Number
	}
	if p.Parcel == "" {
		return out, nil
	}
	parcel, err := r.store.Parcel(ctx, p.Parcel)
	if err != nil {
		return nil, err
	}
	out.Parcel, out.Currency = parcel.Name, parcel.Cost.Currency
	if p.Parent != "" {
		return out, nil
	}
	sums, err := r.store.PieceWeights(ctx)
	if err != nil {
		return nil, err
	}
	stones, err := r.store.StonesOfPiece(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	out.Cost = parcel.Cost.Share(sums[p.Parcel], p.Carats) * shareOf(stones, stone.ID)
	return out, nil
}

// shareOf is a stone's part of what all stones of a piece share.
func shareOf(stones []PieceStone, id string) float64 {
	own, all, known := 0.0, 0.0, true
	for _, s := range stones {
		all, known = all+s.Carats, known && s.Carats > 0
		if s.ID == id {
			own = s.Carats
		}
	}
	if known && all > 0 {
		return own / all
	}
	return 1 / float64(max(1, len(stones)))
}
