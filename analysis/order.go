package analysis

import (
	"context"
	"errors"
	"slices"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/printed"
	"cressa/workshop"
)

// Order is whether a draft can be cut in its order, and a better one.
type Order struct {
	cutting.Sequence
	// Better is the draft in a better order, nil where none was found. It is the draft itself
	// where nothing is better.
	Better   *BetterOrder
	Optional []OptionalTier
}

// BetterOrder is a draft with its tiers in a better order.
type BetterOrder struct {
	Draft diagram.Draft
	// Free lists the places of its tiers that are cut by size or by eye.
	Free []int
	// Moved lists the places of the fewest tiers that have to be moved to come from the one
	// order to the other, Restopped those of the tiers that get another stop.
	Moved, Restopped []int
}

// Changed tells whether anything is different.
func (b BetterOrder) Changed() bool { return len(b.Moved)+len(b.Restopped) > 0 }

// OptionalTier tells whether the rest of a diagram still cuts without an optional tier.
type OptionalTier struct {
	Tier int
	// Missing is what the rest then misses, nil where it cuts.
	Missing *diagram.Problem
}

// JudgeOrder judges the order of a draft's tiers for somebody with these habits. The error is
// a workshop.NotCuttable where the draft cannot be read.
func JudgeOrder(ctx context.Context, draft diagram.Draft, like cutting.Preference) (Order, error) {
	d, problems := printed.Diagram(Named(draft))
	if len(problems) > 0 {
		return Order{}, workshop.NotCuttable{Problems: problems}
	}
	out := Order{Sequence: cutting.JudgeOrder(ctx, d, like)}
	if better := out.Sequence.Better; better != nil {
		read, _ := printed.Read(draft)
		b := BetterOrder{Draft: printed.Rewritten(draft, better.Diagram, out.Order), Free: cutting.ByEye(better.Diagram), Moved: moved(out.Order), Restopped: []int{}}
		for i, no := range out.Order {
			if b.Draft.Tiers[i].Stop != read.Tiers[no].Stop {
				b.Restopped = append(b.Restopped, i)
			}
		}
		out.Better = &b
	}
	for no, t := range d.Tiers {
		if !t.Optional {
			continue
		}
		o := OptionalTier{Tier: no}
		var p diagram.Problem
		if _, err := cutting.CutWithout(d, []int{no}); errors.As(err, &p) {
			o.Missing = &p
		}
		out.Optional = append(out.Optional, o)
	}
	return out, nil
}

// moved returns the places of the fewest entries that do not stand in the order of their
// numbers: all but those of a longest rising run.
func moved(order []int) []int {
	// runs holds for every place the length of the longest run that ends there, and where that
	// comes from.
	type run struct{ from, length int }
	runs := make([]run, len(order))
	last := -1
	for i, v := range order {
		runs[i] = run{-1, 1}
		for k := range i {
			if order[k] < v && runs[k].length >= runs[i].length {
				runs[i] = run{k, runs[k].length + 1}
			}
		}
		if last < 0 || runs[i].length > runs[last].length {
			last = i
		}
	}
	var stay []int
	for at := last; at >= 0; at = runs[at].from {
		stay = append(stay, at)
	}
	out := []int{}
	for i := range order {
		if !slices.Contains(stay, i) {
			out = append(out, i)
		}
	}
	return out
}

// Stops are drafts with the stops that were missing, the likeliest first.
type Stops struct {
	// Guessed tells that they were found from the angles alone; otherwise they lead to the
	// same stone.
	Guessed   bool
	Proposals []diagram.Draft
	// Status tells how the search ended.
	Status cutting.Status
}

// offered is how many stones are proposed where stops have to be guessed: what fits side by
// side on a screen.
const offered = 6

// FindStops guesses the stops that a draft lacks, among those that the words in their place leave
// open. Where it lacks none it words those anew that
// are cut by eye, for the same stone. The error is a workshop.NotCuttable where the draft cannot
// be read, or a diagram.Problem where it cannot be cut.
func FindStops(ctx context.Context, draft diagram.Draft) (Stops, error) {
	out := Stops{Status: cutting.Complete}
	read, _ := printed.Read(Named(draft))
	d, lacking, problems := read.ReadLacking()
	if len(problems) > 0 {
		return out, workshop.NotCuttable{Problems: problems}
	}
	var stones []*cutting.Stone
	var err error
	if out.Guessed = lacking; lacking {
		stones, out.Status, err = cutting.GuessStops(ctx, d, offered, func(tierNo int, stop diagram.Stop) bool {
			return printed.HintOf(draft.Tiers[tierNo].Stop).Allows(d, stop)
		})
	} else {
		stones, err = derived(d)
	}
	for _, stone := range stones {
		out.Proposals = append(out.Proposals, printed.Rewritten(draft, stone.Diagram, nil))
	}
	return out, err
}

func derived(d *diagram.Diagram) ([]*cutting.Stone, error) {
	stone, err := cutting.Cut(d)
	if err != nil {
		return nil, err
	}
	again, err := cutting.DeriveStops(d, stone.Distances(), cutting.Exactly)
	if err != nil {
		return nil, err
	}
	return []*cutting.Stone{again}, nil
}
