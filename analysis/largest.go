package analysis

import (
	"cmp"
	"context"
	"slices"

	"cressa/core/cutting"
	"cressa/core/fit"
	"cressa/core/rough"
	"cressa/workshop"
)

// Fitted is the largest stone of a diagram in a piece of rough, as it is told: lengths in mm.
type Fitted struct {
	fit.Fit
	Width, Length, Height float64
	Carat                 float64
	// Yield is the stone's part, 0 to 1, of the piece as it was weighed, or of its solid before saw cuts.
	Yield float64
	// Bound is a width that no turn can exceed.
	Bound float64
}

// InMM puts a fit into the units of the bench.
func InMM(piece *rough.Piece, f fit.Fit) Fitted {
	s := f.Shape
	carat := f.Volume() * piece.CaratPerMM3()
	return Fitted{
		Fit: f, Width: f.Width(), Length: f.Scale * s.Length, Height: f.Scale * s.Height,
		Carat: carat, Yield: carat / piece.WeightOf(), Bound: f.Bound * s.Width,
	}
}

// LargestOf finds the largest stone of each shape in a piece, the heaviest first and those that find no
// room last. Where the context ends it early, what was found by then is the answer; an error is fit.NoRoom.
func LargestOf(ctx context.Context, piece *rough.Piece, shapes []*fit.Shape, how fit.Search) ([]Fitted, error) {
	var out []Fitted
	for _, shape := range shapes {
		if ctx.Err() != nil {
			break
		}
		f, err := fit.Largest(ctx, piece, shape, how, nil)
		if err != nil {
			return nil, err
		}
		out = append(out, InMM(piece, f))
	}
	slices.SortStableFunc(out, func(a, b Fitted) int { return cmp.Compare(b.Carat, a.Carat) })
	return out, nil
}

// Fits is what of the workshop a search for stones in a piece needs.
type Fits interface {
	Piece(ctx context.Context, id string) (workshop.Piece, []workshop.Candidate, error)
	Worked(ctx context.Context, piece rough.Rough) (*rough.Piece, error)
	Diagrams(ctx context.Context, f workshop.DiagramFilter, after workshop.Cursor, limit int) (workshop.DiagramPage, error)
	Revision(ctx context.Context, hash string) (workshop.Revision, error)
	PutCandidate(ctx context.Context, c workshop.Candidate) (workshop.Candidate, error)
}

// FitSearch looks for the largest stones of diagrams in a piece of rough, and keeps each as it is found.
type FitSearch struct {
	piece     workshop.Piece
	worked    *rough.Piece
	allowance float64
	lines     []workshop.DiagramLine
	// known are the candidates by their diagrams.
	known map[string]workshop.Candidate
	shop  Fits
}

// FitProgress is how far a search has come: Done of Total parts, a hundred for each diagram, the name of
// the one that is tried and the width of its stone so far, in mm. Kept is a candidate that is on disk,
// nil in between.
type FitProgress struct {
	Done, Total int
	Name        string
	Width       float64
	Kept        *workshop.Candidate
}

// PrepareFit makes a search of a piece ready, over the diagrams of the library with these IDs, over all
// that have a version where there are none. What was searched before is searched at other turns. It
// returns workshop.ErrNotFound, and the problems of rough.Rough.
func PrepareFit(ctx context.Context, shop Fits, pieceID string, diagrams []string, allowance float64) (*FitSearch, error) {
	piece, candidates, err := shop.Piece(ctx, pieceID)
	if err != nil {
		return nil, err
	}
	s := &FitSearch{piece: piece, allowance: allowance, known: map[string]workshop.Candidate{}, shop: shop}
	for _, c := range candidates {
		s.known[c.Diagram] = c
	}
	if s.worked, err = shop.Worked(ctx, piece.Rough); err != nil {
		return nil, err
	}
	const page = 200
	for after := (workshop.Cursor{}); ; {
		list, err := shop.Diagrams(ctx, workshop.DiagramFilter{Kept: true}, after, page)
		if err != nil {
			return nil, err
		}
		for _, l := range list.Lines {
			if len(diagrams) == 0 || slices.Contains(diagrams, l.ID) {
				s.lines = append(s.lines, l)
			}
		}
		if list.Next == nil {
			return s, nil
		}
		after = *list.Next
	}
}

// parts is how many parts of the progress a diagram has.
const parts = 100

// Total is how many parts the search has.
func (s *FitSearch) Total() int { return parts * len(s.lines) }

// Run searches, and tells of its progress from one goroutine at a time. Where the context ends it, the
// error is the context's, and all that was told as kept stays.
func (s *FitSearch) Run(ctx context.Context, tell func(FitProgress)) error {
	for i, line := range s.lines {
		revision, err := s.shop.Revision(ctx, line.Revision)
		if err != nil {
			return err
		}
		stone, err := cutting.Cut(revision.Diagram)
		if err != nil {
			continue // kept versions are cuttable; one that a later rule refuses is no candidate
		}
		shape := fit.NewShape(stone)
		before, searched := s.known[line.ID]
		round := 0
		if searched && before.Version == s.piece.Version && before.Revision == line.Revision && before.Allowance == s.allowance {
			round = before.Rounds
		}
		now := FitProgress{Total: s.Total(), Name: line.Name}
		found, err := fit.Largest(ctx, s.worked, shape, fit.Search{Allowance: s.allowance, Round: round}, func(done float64, best fit.Fit) {
			now.Done, now.Width = parts*i+int(parts*done), best.Width()
			tell(now)
		})
		if err != nil {
			return err
		}
		if ctx.Err() != nil {
			return ctx.Err()
		}
		kept, err := s.shop.PutCandidate(ctx, workshop.Candidate{
			Piece: s.piece.ID, Diagram: line.ID, Revision: line.Revision, Name: line.Name, Allowance: s.allowance,
			Found: Found(InMM(s.worked, found)), Version: s.piece.Version, Rounds: 1,
		})
		if err != nil {
			return err
		}
		now.Done, now.Width, now.Kept = parts*(i+1), kept.Found.Width, &kept
		tell(now)
	}
	return nil
}

// Found puts a fit into the form in which it is kept.
func Found(f Fitted) workshop.Found {
	out := workshop.Found{
		Scale: f.Scale, Rotation: f.Turn.Numbers(), Offset: [3]float64{f.Offset.X, f.Offset.Y, f.Offset.Z},
		Width: f.Width, Length: f.Length, Height: f.Height, Carat: f.Carat, Yield: f.Yield, Bound: f.Bound, LimitedBy: []workshop.Limit{},
	}
	for _, l := range f.LimitedBy {
		out.LimitedBy = append(out.LimitedBy, workshop.Limit{Kind: string(l.Kind), Name: l.Name})
	}
	return out
}
