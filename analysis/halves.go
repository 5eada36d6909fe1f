package analysis

import (
	"cmp"
	"context"
	"errors"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/fit"
	"cressa/core/rough"
	"cressa/workshop"
)

// Split is a saw cut that parts a piece of rough into two, and the heaviest stone that was found in each part.
type Split struct {
	Trim rough.Trim
	// Kerf is what the blade takes, in carats.
	Kerf   float64
	Stones [2]SplitStone
}

// SplitStone is a stone in a part of a piece.
type SplitStone struct {
	Diagram, Revision string
	Fitted
}

// Carat is what both stones weigh together.
func (s Split) Carat() float64 { return s.Stones[0].Carat + s.Stones[1].Carat }

// Worth is what both stones bring at these prices; one too light for a price brings nothing.
func (s Split) Worth(prices workshop.Worth) float64 {
	return prices.Together(s.Stones[0].Carat, s.Stones[1].Carat)
}

// SplitSearch looks for saw cuts that make two stones of a piece.
type SplitSearch struct {
	allowance, kerf float64
	// prices rank what is found; without any the weight does.
	prices workshop.Worth
	piece  rough.Rough
	worked *rough.Piece
	lines  []workshop.DiagramLine
	shapes []*fit.Shape
	trims  []rough.Trim
	shop   Fits
}

// SplitProgress is how far a search for saw cuts has come; Found holds the best so far, the best pair first.
type SplitProgress struct {
	Done, Total int
	Found       []Split
}

// How much is tried: every cut at a glance, the best few thoroughly. Only the likeliest diagrams are.
const (
	likeliest  = 5
	thorough   = 4
	keptSplits = 3
)

// PrepareSplits makes a search of a piece ready, with the diagrams of these IDs, of the whole library where there
// are none. Of many, those count that make the heaviest stones of the whole piece, as far as that is known. Kerf is
// the blade's in mm. It returns workshop.ErrNotFound, and the problems of rough.Rough.
func PrepareSplits(ctx context.Context, shop Fits, pieceID string, diagrams []string, allowance, kerf float64) (*SplitSearch, error) {
	all, err := PrepareFit(ctx, shop, pieceID, diagrams, allowance)
	if err != nil {
		return nil, err
	}
	s := &SplitSearch{allowance: allowance, kerf: kerf, piece: all.piece.Rough, worked: all.worked, shop: shop}
	if s.prices, err = shop.Worth(ctx, all.piece); err != nil {
		return nil, err
	}
	carat := func(l workshop.DiagramLine) float64 { return all.known[l.ID].Found.Carat }
	slices.SortStableFunc(all.lines, func(a, b workshop.DiagramLine) int { return cmp.Compare(carat(b), carat(a)) })
	for _, line := range all.lines {
		revision, err := shop.Revision(ctx, line.Revision)
		if err != nil {
			return nil, err
		}
		if stone, err := cutting.Cut(revision.Diagram); err == nil {
			s.lines, s.shapes = append(s.lines, line), append(s.shapes, fit.NewShape(stone))
		}
		if len(s.lines) == likeliest {
			break
		}
	}
	s.trims = s.propose(all.known)
	return s, nil
}

// propose lists saw cuts: square to the piece's own axes and to those of its heaviest stone, at several places,
// and through each flaw.
func (s *SplitSearch) propose(known map[string]workshop.Candidate) []rough.Trim {
	_, axes := s.worked.Body.Axes()
	normals := axes[:]
	best := workshop.Candidate{}
	for _, c := range known {
		if c.Found.Carat > best.Found.Carat {
			best = c
		}
	}
	if best.Found.Scale > 0 {
		for _, n := range fit.TurnOf(best.Found.Rotation).Inverse() {
			normals = append(normals, n)
		}
	}
	var out []rough.Trim
	add := func(n r3.Vec, d float64) {
		// Cuts that lie close together are one.
		const near, aside = 0.5, 0.97
		for _, t := range out {
			if cos := r3.Dot(t.Normal, n); math.Abs(cos) > aside && math.Abs(t.Distance-math.Copysign(d, cos*d)) < near {
				return
			}
		}
		out = append(out, rough.Trim{Normal: n, Distance: d, Kerf: s.kerf})
	}
	for _, f := range s.worked.Flaws {
		if f.Rule == rough.Accept {
			continue
		}
		if f.Kind == rough.Disc {
			add(r3.Unit(f.Normal), r3.Dot(r3.Unit(f.Normal), f.At))
		} else {
			add(axes[0], r3.Dot(axes[0], f.At))
		}
	}
	for _, n := range normals {
		low, high := math.Inf(1), math.Inf(-1)
		for _, p := range s.worked.Body.Points() {
			low, high = min(low, r3.Dot(n, p)), max(high, r3.Dot(n, p))
		}
		for _, share := range []float64{0.5, 0.4, 0.6, 0.3, 0.7} {
			add(n, low+share*(high-low))
		}
	}
	return out
}

// Total is how many parts the search has at most.
func (s *SplitSearch) Total() int { return len(s.trims) + thorough }

// Run tries all saw cuts at a glance and the best of them thoroughly, and tells of its progress from one
// goroutine. The error is the context's.
func (s *SplitSearch) Run(ctx context.Context, tell func(SplitProgress)) error {
	var found []Split
	now := SplitProgress{Total: s.Total()}
	step := func() {
		slices.SortStableFunc(found, s.compare)
		now.Done++
		now.Found = slices.Clone(found[:min(keptSplits, len(found))])
		tell(now)
	}
	for _, t := range s.trims {
		one, ok, err := s.try(ctx, t, s.shapes, fit.Search{Allowance: s.allowance, Glance: true})
		if err != nil {
			return err
		}
		if ok {
			found = append(found, one)
		}
		step()
	}
	for _, was := range slices.Clone(found[:min(thorough, len(found))]) {
		again, err := s.closely(ctx, was)
		if err != nil {
			return err
		}
		found[slices.IndexFunc(found, func(o Split) bool { return o.Trim == was.Trim })] = again
		step()
	}
	return nil
}

// compare puts the pair first that is worth more; of equal ones the heavier.
func (s *SplitSearch) compare(a, b Split) int {
	return cmp.Or(cmp.Compare(b.Worth(s.prices), a.Worth(s.prices)), cmp.Compare(b.Carat(), a.Carat()))
}

// closely moves a saw cut a little both ways and searches each part whole, with the diagrams that were found in
// it. What comes of it is no worse.
func (s *SplitSearch) closely(ctx context.Context, best Split) (Split, error) {
	var shapes []*fit.Shape
	for _, stone := range best.Stones {
		if !slices.Contains(shapes, stone.Shape) {
			shapes = append(shapes, stone.Shape)
		}
	}
	const aside = 0.3 // mm
	from := best.Trim
	for _, how := range []struct {
		by     float64
		glance bool
	}{{-aside, true}, {aside, true}, {0, false}} {
		t := from
		t.Distance += how.by
		if !how.glance {
			t = best.Trim
		}
		one, ok, err := s.try(ctx, t, shapes, fit.Search{Allowance: s.allowance, Glance: how.glance})
		if err != nil {
			return best, err
		}
		if ok && s.compare(one, best) < 0 {
			best = one
		}
	}
	return best, nil
}

// try saws the piece and finds the heaviest stone in each part; it is false where one of them has room for none.
func (s *SplitSearch) try(ctx context.Context, t rough.Trim, shapes []*fit.Shape, how fit.Search) (Split, bool, error) {
	out := Split{Trim: t}
	for i := range out.Stones {
		part := s.piece
		part.Trims = append(slices.Clone(part.Trims), t)
		if i == 1 {
			other := &part.Trims[len(part.Trims)-1]
			other.Normal, other.Distance = r3.Scale(-1, t.Normal), -t.Distance
		}
		worked, err := s.shop.Worked(ctx, part)
		var nothing diagram.Problem
		if errors.As(err, &nothing) {
			return out, false, nil
		} else if err != nil {
			return out, false, err
		}
		if i == 0 {
			out.Kerf = worked.Cuts[len(worked.Cuts)-1].Kerf * worked.CaratPerMM3()
		}
		for k, shape := range shapes {
			found, err := fit.Largest(ctx, worked, shape, how, nil)
			var none fit.NoRoom
			if errors.As(err, &none) {
				continue
			}
			if err := cmp.Or(err, ctx.Err()); err != nil {
				return out, false, err
			}
			// Its yield is of the whole piece.
			if one := InMM(s.worked, found); one.Carat > out.Stones[i].Carat {
				line := s.lineOf(shapes[k])
				out.Stones[i] = SplitStone{line.ID, line.Revision, one}
			}
		}
		if out.Stones[i].Carat == 0 {
			return out, false, nil
		}
	}
	return out, true, nil
}

func (s *SplitSearch) lineOf(shape *fit.Shape) workshop.DiagramLine {
	return s.lines[slices.Index(s.shapes, shape)]
}
