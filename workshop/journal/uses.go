package journal

import (
	"cmp"
	"slices"
)

// Use is how often a thing of the kit was used in a work.
type Use struct {
	// Item is the thing, With what it was used with, "" for nothing.
	Item, With string
	// Facets counts the visits that it was used in and that are done.
	Facets int
	// First and Last are the places of their ticks among the events of all logs.
	First, Last int64
}

// Uses counts what was used, as the plan asked for it that was in force at each tick, in the order of
// the things' IDs.
func (w *Work) Uses() []Use { return w.UsesAfter(0) }

// UsesAfter is Uses of the ticks that arrived after a place among the events of all logs.
func (w *Work) UsesAfter(seq int64) []Use {
	all := map[[2]string]Use{}
	w.eachTick(func(v Visit, m Mark) {
		if m.Kind != Done || m.Seq <= seq {
			return
		}
		for _, t := range w.inForce(m.N).Things {
			if t.Setup != "" && t.Setup != v.Setup || t.Pass != "" && t.Pass != v.Pass {
				continue
			}
			key := [2]string{t.Item, t.With}
			u, there := all[key]
			if !there {
				u = Use{Item: t.Item, With: t.With, First: m.Seq}
			}
			u.Facets++
			u.First, u.Last = min(u.First, m.Seq), max(u.Last, m.Seq)
			all[key] = u
		}
	})
	out := []Use{}
	for _, u := range all {
		out = append(out, u)
	}
	slices.SortFunc(out, func(a, b Use) int { return cmp.Or(cmp.Compare(a.Item, b.Item), cmp.Compare(a.With, b.With)) })
	return out
}

// inForce returns the plan that was in force at a place among the work's events.
func (w *Work) inForce(n int) Asked {
	for i, begins := range slices.Backward(w.Begins) {
		if begins < n {
			return w.Plans[i]
		}
	}
	return Asked{}
}
