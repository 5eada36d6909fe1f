package cutting

import "cressa/core/solid"

// Worked is what was really cut of a stone.
type Worked struct {
	// Planes holds, in the order of the stone's facets, the plane that each was cut to, nil for one that was
	// not cut.
	Planes []*solid.Plane
	// Beside are planes that were cut beside those: at a wrong setting, or to an older plan.
	Beside []Beside
}

// Beside is a plane that was cut when a facet was meant, given as its place in the stone's facets.
type Beside struct {
	Facet int
	Plane solid.Plane
}

// Worked returns the stone that other planes than the diagram's make out of the preform. Its facets are those of the
// stone in the same order, with the planes that were cut, and behind them those that were cut beside; a facet that
// was not cut keeps its plane and made nothing. The error is a diagram.Problem, CutFailed or TakesAll, at the tier
// of the plane that cannot be cut.
func (s *Stone) Worked(w Worked) (*Stone, error) {
	now := s.Preform()
	out := &Stone{Diagram: s.Diagram, After: []*solid.Solid{now}, off: s.off}
	add := func(f Facet, cut bool) error {
		f.Made = false
		if cut {
			next, outcome := now.Cut(len(out.Facets), f.Plane)
			if code, ok := cannot[outcome]; ok {
				return s.problem(code, f.Tier)
			}
			now, f.Made = next, outcome == solid.Made
		}
		out.Facets, out.After = append(out.Facets, f), append(out.After, now)
		return nil
	}
	for i, f := range s.Facets {
		p := w.Planes[i]
		if p != nil {
			f.Plane = *p
		}
		if err := add(f, p != nil); err != nil {
			return nil, err
		}
	}
	for _, b := range w.Beside {
		f := s.Facets[b.Facet]
		f.Plane = b.Plane
		if err := add(f, true); err != nil {
			return nil, err
		}
	}
	return out, nil
}
