package journal

import "slices"

// takeBack takes back whatever an event says: a tick that one device made twice is taken back
// once for both.
func (w *Work) takeBack(_ Event, p TakenBack) {
	names := func(a Act) bool { return slices.Contains(a.Events, p.Undoes) }
	for _, passes := range w.Marks {
		for _, facets := range passes {
			for facet, m := range facets {
				if left, stands := m.without(p.Undoes); stands {
					facets[facet] = left
				} else {
					w.Spare = w.Spare.add(m.Time)
					delete(facets, facet)
				}
			}
		}
	}
	for _, items := range w.Checks {
		for item, a := range items {
			if names(a) {
				delete(items, item)
			}
		}
	}
	w.Turns = slices.DeleteFunc(w.Turns, func(t Turned) bool { return names(t.Act) })
	w.Moves = slices.DeleteFunc(w.Moves, func(m Moved) bool {
		if names(m.Act) {
			w.restore(m)
		}
		return names(m.Act)
	})
	for i, m := range w.Moves {
		w.Moves[i].Opened = slices.DeleteFunc(m.Opened, func(o Opened) bool {
			_, stands := o.without(p.Undoes)
			if !stands {
				w.Spare = w.Spare.add(o.Time)
			}
			return !stands
		})
		for k, o := range w.Moves[i].Opened {
			w.Moves[i].Opened[k].Mark, _ = o.without(p.Undoes)
		}
	}
	w.Happenings = slices.DeleteFunc(w.Happenings, func(i Incident) bool { return names(i.Act) })
	w.Readings = slices.DeleteFunc(w.Readings, func(r DialRead) bool { return names(r.Act) })
	w.Shown = slices.DeleteFunc(w.Shown, func(s Shown) bool { return names(s.Act) })
	w.Surveys = slices.DeleteFunc(w.Surveys, names)
	w.Measures = slices.DeleteFunc(w.Measures, func(c Calipered) bool { return names(c.Act) })
	w.Pauses = slices.DeleteFunc(w.Pauses, func(s Stretch) bool { return names(s.Act) })
	w.Dops = slices.DeleteFunc(w.Dops, func(g Glued) bool { return names(g.Act) })
	for plan, a := range w.Vets {
		if names(a) {
			delete(w.Vets, plan)
		}
	}
	w.Stretches = slices.DeleteFunc(w.Stretches, func(s Stretch) bool { return names(s.Act) })
	w.Notes = slices.DeleteFunc(w.Notes, names)
}

// restore puts back the marks that a move had opened; where the visit was done again since, that counts,
// and the time of the first is kept.
func (w *Work) restore(m Moved) {
	for _, o := range m.Opened {
		if _, there := w.Mark(o.Visit); there {
			w.Spare = w.Spare.add(o.Time)
			continue
		}
		w.Marks[o.Setup][o.Pass][o.Facet] = o.Mark
	}
}

// LastAct returns the ID of the last event that Back takes back: the last one that stands at the wheel.
// Notes, what else was told there, and what was done before the stone came there are left out. It is "" where
// there is none.
func (w *Work) LastAct() string {
	last := Act{}
	later := func(a Act) {
		if a.N > last.N {
			last = a
		}
	}
	for _, passes := range w.Marks {
		for _, facets := range passes {
			for _, m := range facets {
				later(m.Act)
			}
		}
	}
	for _, items := range w.Checks {
		for _, a := range items {
			later(a)
		}
	}
	for _, t := range w.Turns {
		later(t.Act)
	}
	for _, s := range w.Stretches {
		later(s.Act)
	}
	for _, m := range w.Moves {
		later(m.Act)
	}
	for _, h := range w.Happenings {
		if h.What == BondFailed {
			later(h.Act)
		}
	}
	if last.N == 0 {
		return ""
	}
	return last.Events[len(last.Events)-1]
}
