package cutting

import (
	"cmp"
	"context"
	"errors"
	"math"
	"slices"

	"cressa/core/diagram"
)

// Status tells how a search ended.
type Status string

// The ways a search ends. What it returns is the best that it has seen by then.
const (
	// Complete: it has looked at all that it looks for.
	Complete Status = "complete"
	// Budget: it has made as many tries as it may.
	Budget Status = "budget"
	// Stopped: its context has ended.
	Stopped Status = "stopped"
)

// Sequence judges the order of a diagram's tiers.
type Sequence struct {
	// Cuttable tells whether the diagram can be cut as it is written.
	Cuttable bool
	// Problems lists the tiers that cannot be cut where they stand. Text is the stop,
	// Other the tier that makes what is missing, "" where none does.
	Problems []diagram.Problem
	// Free lists the places of the tiers that stop at no point seen on the stone:
	// they are cut by size or by eye.
	Free []int
	// Order lists the places of the tiers in a better order, Better is the diagram in
	// that order with its stops, cut. Both are nil where no order can be cut; the order
	// is the written one where nothing is better.
	Order  []int
	Better *Stone
	// Status tells how the search for a better order ended.
	Status Status
}

// Preference says how a cutter likes the tiers of a side to follow one another.
type Preference struct{ Girdle, Table When }

// TurnedBack says that a tier is cut with a side up that was finished before: the stone
// would be transferred more than once. Text is the side.
const TurnedBack diagram.Code = "turned-back"

// JudgeOrder tells whether a diagram can be cut in its order, and looks for an order
// that can, or in which fewer tiers are cut by eye. It keeps to the written order as far
// as it can: tiers are moved, none is changed but for its stop, and the stone is the
// same. Of a diagram that cannot be cut the stone meant is the one that loses no facet
// and has the fewest corners, because meets come apart where tiers are in the wrong
// order.
func JudgeOrder(ctx context.Context, d *diagram.Diagram, like Preference) Sequence {
	out := Sequence{Problems: orderProblems(d), Free: ByEye(d), Status: Complete}
	stone, err := Cut(d)
	out.Cuttable = err == nil
	order := identity(len(d.Tiers))
	if err != nil {
		var p diagram.Problem
		if errors.As(err, &p) && p.TierNo < 0 {
			out.Problems = append(out.Problems, p)
		}
		if stone, order, out.Status = mend(ctx, d); stone == nil {
			return out
		}
	}
	better := improve(ctx, stone, order, like)
	if ctx.Err() != nil {
		out.Status = Stopped
	}
	if abandoned(ctx) {
		return out
	}
	with := inOrder(d, better)
	with.Tiers = slices.Clone(with.Tiers)
	for i, no := range better {
		with.Tiers[i].Stop = stopIn(stone, no, order)
	}
	derived, _, err := derive(with, distancesIn(stone, order, better), Exactly, math.Inf(1))
	if err == nil {
		if done, err := Cut(derived.Diagram); err == nil {
			out.Better, out.Order = done, better
			return out
		}
	}
	out.Better, out.Order = stone, order
	return out
}

// ByEye lists the places of the tiers that stop at no point seen on the stone: they are
// cut by size or by eye.
func ByEye(d *diagram.Diagram) []int {
	out := []int{}
	for no, t := range d.Tiers {
		if !t.Stop.Definite() {
			out = append(out, no)
		}
	}
	return out
}

func identity(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	return out
}

// inOrder returns the diagram with its tiers in another order.
func inOrder(d *diagram.Diagram, order []int) *diagram.Diagram {
	out := *d
	out.Tiers = make([]diagram.Tier, len(order))
	for i, no := range order {
		out.Tiers[i] = d.Tiers[no]
	}
	return &out
}

// orderProblems goes through the tiers, lays aside those that cannot be cut yet and
// cuts them as soon as they can: the tier cut before that is the one that makes what
// they asked for.
func orderProblems(d *diagram.Diagram) []diagram.Problem {
	var out []diagram.Problem
	var waiting []int // places in out
	s := start(d)
	retry := func(after string) {
		for again := true; again; {
			again = false
			for i, at := range waiting {
				if s.cutTier(out[at].TierNo) == nil {
					out[at].Other = after
					after = out[at].Tier
					waiting = slices.Delete(waiting, i, i+1)
					again = true
					break
				}
			}
		}
	}
	transfers := 0
	for no, t := range d.Tiers {
		if no > 0 && d.CutWith(t.Part) != d.CutWith(d.Tiers[no-1].Part) {
			transfers++
		}
		if transfers == 2 {
			transfers++ // told once
			out = append(out, diagram.Problem{
				Code: TurnedBack, Tier: t.Name, TierNo: no, Field: diagram.FieldTiers, Text: string(d.CutWith(t.Part)),
			})
		}
		if err := s.cutTier(no); err != nil {
			var p diagram.Problem
			errors.As(err, &p)
			waiting = append(waiting, len(out))
			out = append(out, p)
			continue
		}
		retry(t.Name)
	}
	return out
}

// attempt is an order of the tiers and how well it does.
type attempt struct {
	order []int
	stone *Stone
	err   error
	// lost counts facets that are not on the finished stone, corners its vertices,
	// moved the pairs of tiers that have changed places, early the tiers of its side
	// that follow one whose stop is a share of the width as it stands.
	lost, corners, early, moved int
}

func try(d *diagram.Diagram, order []int) attempt {
	t := attempt{order: order, moved: inversions(order)}
	with := inOrder(d, order)
	t.moved += transfers(with)
	t.stone, t.err = Cut(with)
	if t.err == nil {
		var facets int
		t.corners, _, facets = t.stone.Solid().Counts()
		t.lost = len(t.stone.Facets) - facets
		t.early = early(with)
	}
	return t
}

func early(d *diagram.Diagram) int {
	n := 0
	for i, t := range d.Tiers {
		for _, later := range d.Tiers[i+1:] {
			if t.Stop.Kind == diagram.Width && d.CutWith(later.Part) == d.CutWith(t.Part) {
				n++
			}
		}
	}
	return n
}

// inversions counts the pairs that stand the other way round than in the written order.
func inversions(order []int) int {
	n := 0
	for i, a := range order {
		for _, b := range order[:i] {
			if b > a {
				n++
			}
		}
	}
	return n
}

// transfers weighs the transfers beyond the first.
func transfers(d *diagram.Diagram) int {
	// More than any order or stop can save: a stone is taken over once.
	const price = 100
	n := 0
	for i, t := range d.Tiers[1:] {
		if d.CutWith(t.Part) != d.CutWith(d.Tiers[i].Part) {
			n++
		}
	}
	return max(n-1, 0) * price
}

// mostTries bounds the search for an order, mostMore what is tried once one is found: a
// second or two at worst.
const mostTries, mostMore = 400, 80

// mend looks for an order in which the written stops can be cut. From an order that
// cannot it goes on to two: the tier that asks for a meet after the one that makes it,
// and that one before it. It returns a nil stone where it finds none.
func mend(ctx context.Context, d *diagram.Diagram) (*Stone, []int, Status) {
	bySide := identity(len(d.Tiers))
	slices.SortStableFunc(bySide, func(a, b int) int {
		second := func(no int) int {
			if d.CutWith(d.Tiers[no].Part) == d.FirstSide {
				return 0
			}
			return 1
		}
		return second(a) - second(b)
	})
	queue := [][]int{identity(len(d.Tiers)), bySide}
	seen := map[string]bool{}
	var best *attempt
	n, most := 0, mostTries
	for ; len(queue) > 0 && n < most && ctx.Err() == nil; n++ {
		order := queue[0]
		queue = queue[1:]
		t := try(d, order)
		if t.err == nil {
			if best == nil {
				most = min(most, n+mostMore)
			}
			if best == nil || t.better(*best) {
				best = &t
			}
			continue
		}
		for _, next := range t.mended() {
			if key := orderKey(next); !seen[key] {
				seen[key] = true
				queue = append(queue, next)
			}
		}
	}
	status := Complete
	if ctx.Err() != nil {
		status = Stopped
	} else if n == mostTries && len(queue) > 0 {
		status = Budget
	}
	if best == nil {
		return nil, nil, status
	}
	return best.stone, best.order, status
}

func orderKey(order []int) string {
	key := make([]rune, len(order))
	for i, no := range order {
		key[i] = rune(no)
	}
	return string(key)
}

// better tells which of two orders that can be cut makes the stone that was meant.
func (t attempt) better(o attempt) bool {
	return cmp.Or(cmp.Compare(t.lost, o.lost), cmp.Compare(t.early, o.early), cmp.Compare(t.corners, o.corners), cmp.Compare(t.moved, o.moved)) < 0
}

// mended returns orders that do away with the problem of this one.
func (t attempt) mended() [][]int {
	var p diagram.Problem
	if !errors.As(t.err, &p) || p.TierNo < 0 {
		return nil
	}
	var out [][]int
	makers := []int{}
	if p.Other != "" {
		makers = append(makers, t.stone.Diagram.TierNo(p.Other))
	} else {
		// Nothing says what is missing. A centre point means another depth where it came
		// too early, and any later tier may bring what is not there yet.
		for no, earlier := range t.stone.Diagram.Tiers[:p.TierNo] {
			if earlier.Stop.Kind == diagram.Centre {
				out = append(out, moved(t.order, no, p.TierNo))
			}
		}
		for later := p.TierNo + 1; later < len(t.order); later++ {
			makers = append(makers, later)
		}
	}
	for _, r := range t.stone.Diagram.Tiers[p.TierNo].Stop.Refs() {
		// A facet that it names may stand in the wrong place because it came too early.
		if no := t.stone.Diagram.TierNo(r.Tier); no >= 0 && no < p.TierNo {
			out = append(out, moved(t.order, no, p.TierNo-1))
		}
	}
	for _, maker := range makers {
		out = append(out, moved(t.order, p.TierNo, maker), moved(t.order, maker, p.TierNo))
	}
	return out
}

// moved takes what stands at from out of a list and puts it at to.
func moved(order []int, from, to int) []int {
	no := order[from]
	return slices.Insert(slices.Delete(slices.Clone(order), from, from+1), to, no)
}

// stopIn returns the stop of the tier with the written place no.
func stopIn(s *Stone, no int, order []int) diagram.Stop {
	return s.Diagram.Tiers[slices.Index(order, no)].Stop
}

// distancesIn returns the distances of a stone cut in one order for another.
func distancesIn(s *Stone, order, other []int) Distances {
	have := s.Distances()
	out := make(Distances, len(other))
	for i, no := range other {
		out[i] = have[slices.Index(order, no)]
	}
	return out
}

// improve moves the tiers that are measured or cut by eye to where the stone shows a
// point for them, as long as that is worth more than the order it disturbs, and keeps
// to the habits. It returns the places of the tiers in the new order.
func improve(ctx context.Context, s *Stone, order []int, like Preference) []int {
	d := s.Diagram
	best := math.Inf(1)
	cost := func(local []int) float64 {
		with := inOrder(d, local)
		if transfers(with) > transfers(d) {
			return math.Inf(1)
		}
		// In the unit of effort, our own choice: half a dozen places for a stop that shows a
		// point instead of a measured one, and a habit for half of that.
		const perMove, perBreach = 0.15, 0.5
		order := perMove*float64(inversions(local)) + perBreach*float64(breaches(with, like)+transfers(with))
		_, total, err := derive(with, distancesIn(s, identity(len(local)), local), Exactly, best-order)
		if err != nil {
			return math.Inf(1)
		}
		return total + order
	}
	local := identity(len(order))
	best = cost(local)
	for better := true; better; {
		better = false
		for _, no := range unkept(d, like) {
			from := slices.Index(local, no)
			for to := range local {
				if to == from || ctx.Err() != nil {
					continue
				}
				next := moved(local, from, to)
				if c := cost(next); c < best-1e-9 {
					local, best, better = next, c, true
					from = to
				}
			}
		}
	}
	out := make([]int, len(local))
	for i, no := range local {
		out[i] = order[no]
	}
	return out
}

// unkept lists the tiers that could have a better place: those without a definite stop,
// and those that a habit wants elsewhere.
func unkept(d *diagram.Diagram, like Preference) []int {
	var out []int
	for no, t := range d.Tiers {
		wanted := like.Girdle != AsDrawn && like.Girdle != "" && t.Part == diagram.Girdle ||
			like.Table != AsDrawn && like.Table != "" && isTable(t)
		if !t.Stop.Definite() || wanted {
			out = append(out, no)
		}
	}
	return out
}

func isTable(t diagram.Tier) bool { return t.Part == diagram.Crown && t.Angle == 0 }

// breaches counts the pairs of tiers of one side that a habit would have the other way
// round.
func breaches(d *diagram.Diagram, like Preference) int {
	n := 0
	for i, a := range d.Tiers {
		for _, b := range d.Tiers[i+1:] {
			if d.CutWith(a.Part) != d.CutWith(b.Part) {
				continue
			}
			for _, h := range []struct {
				when When
				is   func(diagram.Tier) bool
			}{
				{like.Girdle, func(t diagram.Tier) bool { return t.Part == diagram.Girdle }},
				{like.Table, isTable},
			} {
				if h.when == First && h.is(b) && !h.is(a) || h.when == Last && h.is(a) && !h.is(b) {
					n++
				}
			}
		}
	}
	return n
}
