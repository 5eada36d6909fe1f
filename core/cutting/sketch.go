package cutting

import (
	"errors"
	"slices"

	"cressa/core/diagram"
)

// Sketch cuts a draft as far as it can be read and cut: all of it, or the tiers
// before the first that cannot. The problems say what is missing; the stone is nil
// where not even the first tier can be placed. Tiers whose keys are in off are left
// off the stone.
func Sketch(draft diagram.Draft, off ...string) (*Stone, []diagram.Problem) {
	d, problems := draft.Read()
	n, places := readable(d, problems)
	if !places {
		return nil, problems
	}
	var without []int
	for i, t := range draft.Tiers {
		if slices.Contains(off, t.Key) {
			without = append(without, i)
		}
	}
	if n == len(d.Tiers) {
		stone, err := CutWithout(d, without)
		return stone, withError(problems, err)
	}
	// What comes after the first unreadable tier must not be cut by accident.
	part := *d
	part.Tiers = d.Tiers[:n]
	stone, err := upTo(&part, n, without)
	return stone, withError(problems, err)
}

// readable returns how many tiers come before the first with a problem, and
// whether the head of the diagram says enough to place them.
func readable(d *diagram.Diagram, problems []diagram.Problem) (tiers int, places bool) {
	tiers = len(d.Tiers)
	for _, p := range problems {
		switch {
		case p.TierNo >= 0:
			tiers = min(tiers, p.TierNo)
		case p.Field == diagram.FieldGear, p.Field == diagram.FieldFirstSide, p.Field == diagram.FieldIndexing,
			p.Field == diagram.FieldRefractiveIndex, p.Field == diagram.FieldTiers:
			return 0, false
		}
	}
	return tiers, true
}

// withError adds the problem that stopped the cutting, if one did.
func withError(problems []diagram.Problem, err error) []diagram.Problem {
	var p diagram.Problem
	if errors.As(err, &p) {
		problems = append(problems, p)
	}
	return problems
}
