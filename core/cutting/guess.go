package cutting

import (
	"cmp"
	"context"
	"math"
	"slices"

	"cressa/core/diagram"
)

// What is taken where nothing on the stone says how far a tier goes: the usual figures
// of a stone of width 1.
const (
	guessedRadius = 0.5
	guessedGirdle = 0.02
	guessedTable  = 0.55
)

// NoStopsFound says that no stops were found with which the tier before Tier's and it
// make a stone.
const NoStopsFound diagram.Code = "no-stops-found"

// guess is a diagram cut as far as its stops have been chosen.
type guess struct {
	stone *Stone
	// lost counts facets that are not on the stone, girdle the levels at which the girdle
	// has corners, corners those of the whole stone, figures the stops that are figures.
	lost, girdle, corners, figures int
	volume                         float64
}

// compare puts the guess first that is more like a diagram that someone drew: no facet
// is lost, the girdle runs level, facets come together in as few points as they can,
// few stops are figures, and no more is taken off than need be. A diagram's angles are chosen so that facets meet; that is what betrays its
// stops.
func (g guess) compare(o guess) int {
	return cmp.Or(cmp.Compare(g.lost, o.lost), cmp.Compare(g.girdle, o.girdle), cmp.Compare(g.corners, o.corners), cmp.Compare(g.figures, o.figures),
		cmp.Compare(math.Round(o.volume*1e6), math.Round(g.volume*1e6)))
}

// GuessStops fills in the stops of a diagram that has none, or lacks some: those whose
// kind is empty. It tries, tier by tier, every meet that the tier can stop at and
// returns the stones that look most like one that was meant, the likeliest first, at
// most so many. Sizes that nothing on the stone tells are the usual ones: half the
// width, 2 % of girdle, a table of 55 %. May tells which stops can be meant for a tier, as far as
// that is known, and is nil where nothing is; where it allows none that the stone offers, all of them are tried. Where the context's time runs out only the
// likeliest way is followed to its end, and the status says so. The error is a Problem,
// or context.Canceled.
func GuessStops(ctx context.Context, d *diagram.Diagram, most int, may func(tierNo int, stop diagram.Stop) bool) ([]*Stone, Status, error) {
	kept, status := 24, Complete
	beam := []guess{{stone: start(d)}}
	for no := range d.Tiers {
		var next []guess
		for _, g := range beam {
			if abandoned(ctx) {
				return nil, Stopped, ctx.Err()
			}
			if ctx.Err() != nil {
				if kept, status = 1, Stopped; len(next) > 0 {
					break
				}
			}
			branches, err := g.branches(ctx, no, may)
			if err != nil {
				return nil, Stopped, err
			}
			next = append(next, branches...)
		}
		if len(next) == 0 {
			s := beam[0].stone
			return nil, status, s.problem(NoStopsFound, no)
		}
		slices.SortStableFunc(next, guess.compare)
		beam = distinct(next, kept)
	}
	var out []*Stone
	for _, g := range beam {
		if s, err := Cut(g.stone.Diagram); err == nil && len(out) < most {
			out = append(out, s)
		}
	}
	if len(out) == 0 {
		return nil, status, diagram.Problem{Code: BlockLeft, TierNo: -1}
	}
	return out, status, nil
}

// distinct drops guesses that are the same stone, and all but the first n.
func distinct(list []guess, n int) []guess {
	var out []guess
	for _, g := range list {
		same := func(o guess) bool {
			return o.corners == g.corners && slices.EqualFunc(o.stone.Facets, g.stone.Facets, func(a, b Facet) bool {
				return math.Abs(a.Plane.D-b.Plane.D) < 1e-7
			})
		}
		if !slices.ContainsFunc(out, same) {
			if out = append(out, g); len(out) == n {
				break
			}
		}
	}
	return out
}

// branches cuts the tier in every way that can be meant. The error is context.Canceled.
func (g guess) branches(ctx context.Context, no int, may func(tierNo int, stop diagram.Stop) bool) ([]guess, error) {
	t := g.stone.Diagram.Tiers[no]
	var out []guess
	add := func(stop diagram.Stop) {
		if abandoned(ctx) {
			return
		}
		if next, ok := g.with(no, stop); ok {
			out = append(out, next)
		}
	}
	if t.Stop.Kind != "" {
		add(t.Stop)
		return out, nil
	}
	tiers := g.stone.Diagram.Tiers[:no]
	first := !slices.ContainsFunc(tiers, func(o diagram.Tier) bool { return o.Part == t.Part })
	switch {
	case t.Part == diagram.Girdle && t.Angle == 90:
		add(diagram.Stop{Kind: diagram.Size, Radius: guessedRadius})
	case isTable(t) && len(t.Indexes) == 1:
		add(diagram.Stop{Kind: diagram.Width, Ratio: guessedTable})
	case first && t.Part == g.stone.Diagram.FirstSide:
		add(diagram.Stop{Kind: diagram.Centre})
		return out, nil
	case first && t.Part != diagram.Girdle:
		add(diagram.Stop{Kind: diagram.GirdleBand, Thickness: guessedGirdle})
		if len(out) > 0 {
			return out, nil
		}
	}
	pulled, err := pull(ctx, g.stone, no)
	if err != nil {
		return nil, err
	}
	reaches := pulled.Reaches
	for _, r := range reaches {
		if may == nil || may(no, r.Stop) {
			add(r.Stop)
		}
	}
	if len(out) == 0 {
		for _, r := range reaches {
			add(r.Stop)
		}
	}
	return out, nil
}

// with cuts the tier with a stop on a stone of its own.
func (g guess) with(no int, stop diagram.Stop) (guess, bool) {
	s := g.stone.branch()
	s.Diagram.Tiers[no].Stop = stop
	if s.cutTier(no) != nil {
		return g, false
	}
	out := guess{stone: s, figures: g.figures}
	if !stop.Definite() {
		out.figures++
	}
	corners, _, faces := s.Solid().Counts()
	for _, f := range s.Solid().Faces() {
		if f.OfBlock() {
			faces--
		}
	}
	out.corners, out.lost = corners, len(s.Facets)-faces
	out.girdle, out.volume = s.girdleLevels(), s.Solid().Volume()
	return out, true
}

// girdleLevels counts the levels at which the girdle meets a side.
func (s *Stone) girdleLevels() int {
	levels := map[float64]bool{}
	for _, c := range cornersOf(s.Solid()) {
		parts := map[diagram.Part]bool{}
		for _, i := range c.facets {
			parts[s.Diagram.Tiers[s.Facets[i].Tier].Part] = true
		}
		if !c.block && parts[diagram.Girdle] && len(parts) > 1 {
			levels[math.Round(c.point.Z*1e6)] = true
		}
	}
	return len(levels)
}
