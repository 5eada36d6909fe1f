package analysis

import (
	"cmp"
	"context"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

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
	Worth(ctx context.Context, p workshop.Piece) (workshop.Worth, error)
}

// FitSearch looks for the largest stones of diagrams in a piece of rough, and keeps each as it is found.
type FitSearch struct {
	// Costs asks for what each flaw costs, too.
	Costs bool
	// Rounds is how often all is searched at most, each time at other turns; a round in which nothing grows is
	// the last. 0 is one.
	Rounds int

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

// parts is how many parts of the progress a search for one stone has.
const parts = 100

// Total is how many parts the search has at most.
func (s *FitSearch) Total() int { return max(1, s.Rounds) * s.round() }

func (s *FitSearch) round() int { return parts * len(s.lines) * (1 + len(s.costly())) }

// costly are the flaws that may cost something, where that is asked for.
func (s *FitSearch) costly() []int {
	var out []int
	for i, f := range s.piece.Rough.Flaws {
		if s.Costs && f.Rule != rough.Accept {
			out = append(out, i)
		}
	}
	return out
}

// grown is by what share a stone must have grown for another round.
const grown = 1e-3

// Run searches, and tells of its progress from one goroutine at a time. Where the context ends it, the
// error is the context's, and all that was told as kept stays.
func (s *FitSearch) Run(ctx context.Context, tell func(FitProgress)) error {
	for round := range max(1, s.Rounds) {
		begun, grew := round*s.round(), false
		for _, line := range s.lines {
			before := s.known[line.ID]
			if err := s.one(ctx, line, &begun, tell); err != nil {
				return err
			}
			grew = grew || s.known[line.ID].Found.Scale > (1+grown)*before.Found.Scale
		}
		if !grew {
			break
		}
	}
	return nil
}

// one searches for the stone of one diagram and keeps it; begun is how many parts were done before.
func (s *FitSearch) one(ctx context.Context, line workshop.DiagramLine, begun *int, tell func(FitProgress)) error {
	revision, err := s.shop.Revision(ctx, line.Revision)
	if err != nil {
		return err
	}
	stone, err := cutting.Cut(revision.Diagram)
	if err != nil {
		return nil // kept versions are cuttable; one that a later rule refuses is no candidate
	}
	shape := fit.NewShape(stone)
	before, searched := s.known[line.ID]
	round := 0
	if searched && before.Version == s.piece.Version && before.Revision == line.Revision && before.Allowance == s.allowance {
		round = before.Rounds
	}
	now := FitProgress{Total: s.Total(), Name: line.Name}
	search := func(piece *rough.Piece) (Fitted, error) {
		found, err := fit.Largest(ctx, piece, shape, fit.Search{Allowance: s.allowance, Round: round}, func(done float64, best fit.Fit) {
			now.Done, now.Width = *begun+int(parts*done), best.Width()
			tell(now)
		})
		if err = cmp.Or(err, ctx.Err()); err != nil {
			return Fitted{}, err
		}
		*begun += parts
		return InMM(piece, found), nil
	}
	found, err := search(s.worked)
	if err != nil {
		return err
	}
	c := workshop.Candidate{
		Piece: s.piece.ID, Diagram: line.ID, Revision: line.Revision, Name: line.Name, Allowance: s.allowance,
		Found: Found(found), Version: s.piece.Version, Rounds: 1,
	}
	for _, no := range s.costly() {
		with, err := search(s.without(no))
		if err != nil {
			return err
		}
		// What fits beside the flaw fits where it may stay.
		width, carat := max(with.Width, found.Width), max(with.Carat, found.Carat)
		c.Costs = append(c.Costs, workshop.FlawCost{Flaw: no, Width: width, Carat: carat})
	}
	kept, err := s.shop.PutCandidate(ctx, c)
	if err != nil {
		return err
	}
	s.known[line.ID] = kept
	now.Done, now.Width, now.Kept = *begun, kept.Found.Width, &kept
	tell(now)
	return nil
}

// without is the piece where one flaw may stay.
func (s *FitSearch) without(flaw int) *rough.Piece {
	out := *s.worked
	out.Flaws = slices.Clone(out.Flaws)
	out.Flaws[flaw].Rule = rough.Accept
	return &out
}

// Estimate is what a piece may become in an outline, by two ways.
type Estimate struct {
	// Name is the diagram that stands for the outline: the middle one of the library by its height.
	Name string
	// Rule is by the piece's length, width and depth alone, less the allowance on every side.
	RuleWidth, RuleCarat float64
	By                   rough.Bounding
	// Fit is by the solid itself, in any position.
	Fit Fitted
}

// EstimateOf guesses what a piece may become in an outline. It returns workshop.ErrNotFound where the
// library has no diagram of that outline, and fit.NoRoom.
func EstimateOf(ctx context.Context, shop Fits, piece *rough.Piece, outline string, allowance float64) (Estimate, error) {
	const most = 200
	page, err := shop.Diagrams(ctx, workshop.DiagramFilter{Kept: true, Outline: outline}, workshop.Cursor{}, most)
	if err != nil {
		return Estimate{}, err
	}
	if len(page.Lines) == 0 {
		return Estimate{}, workshop.ErrNotFound
	}
	slices.SortStableFunc(page.Lines, func(a, b workshop.DiagramLine) int { return cmp.Compare(a.Facts.HeightWidth, b.Facts.HeightWidth) })
	middle := page.Lines[len(page.Lines)/2]
	revision, err := shop.Revision(ctx, middle.Revision)
	if err != nil {
		return Estimate{}, err
	}
	stone, err := cutting.Cut(revision.Diagram)
	if err != nil {
		return Estimate{}, err
	}
	box := piece.Body.Bounds()
	size := r3.Sub(r3.Sub(box.Max, box.Min), r3.Vec{X: 2 * allowance, Y: 2 * allowance, Z: 2 * allowance})
	m := stone.Measures()
	out := Estimate{Name: middle.Name}
	out.RuleWidth, out.By = rough.RuleOfThumb(size, m.LengthWidth, m.HeightWidth)
	out.RuleCarat = cutting.Carats(m.VolumeFactor, out.RuleWidth, piece.Facts.SG)
	found, err := fit.Largest(ctx, piece, fit.NewShape(stone), fit.Search{Allowance: allowance}, nil)
	if err = cmp.Or(err, ctx.Err()); err != nil {
		return out, err
	}
	out.Fit = InMM(piece, found)
	return out, nil
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
