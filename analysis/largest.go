package analysis

import (
	"cmp"
	"context"
	"slices"

	"cressa/core/fit"
	"cressa/core/rough"
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
// room last. It tells how much is done, 0 to 1, and of the shape with that number the best so far. Where
// the context ends it early, what was found by then is the answer; an error is fit.NoRoom.
func LargestOf(ctx context.Context, piece *rough.Piece, shapes []*fit.Shape, how fit.Search, tell func(done float64, no int, best Fitted)) ([]Fitted, error) {
	var out []Fitted
	for i, shape := range shapes {
		if ctx.Err() != nil {
			break
		}
		f, err := fit.Largest(ctx, piece, shape, how, func(done float64, best fit.Fit) {
			tell((float64(i)+done)/float64(len(shapes)), i, InMM(piece, best))
		})
		if err != nil {
			return nil, err
		}
		out = append(out, InMM(piece, f))
	}
	slices.SortStableFunc(out, func(a, b Fitted) int { return cmp.Compare(b.Carat, a.Carat) })
	return out, nil
}
