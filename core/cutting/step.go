package cutting

import "cressa/core/solid"

// Step is what one cut changes: enough to draw any moment of the cutting from one
// vertex table.
type Step struct {
	// Facet is the ID of the facet that was cut, -1 for the block.
	Facet int
	// Set lists the faces that are new or have another outline.
	Set []*solid.Face
	// Gone lists the IDs of the faces that are no longer on the stone.
	Gone []int
	// Solid is the stone after the step.
	Solid *solid.Solid
}

// Steps tells a sequence of solids, the block first, as changes. Order names the
// facet behind each cut.
func Steps(solids []*solid.Solid, order []int) []Step {
	out := make([]Step, len(solids))
	var before []*solid.Face
	for i, s := range solids {
		out[i] = Step{Facet: -1, Solid: s}
		if i > 0 {
			out[i].Facet = order[i-1]
		}
		had := make(map[int]*solid.Face, len(before))
		for _, f := range before {
			had[f.ID] = f
		}
		for _, f := range s.Faces() {
			if had[f.ID] != f {
				out[i].Set = append(out[i].Set, f)
			}
			delete(had, f.ID)
		}
		for _, f := range before {
			if had[f.ID] != nil {
				out[i].Gone = append(out[i].Gone, f.ID)
			}
		}
		before = s.Faces()
	}
	return out
}

// Steps tells the stone's own cutting as changes.
func (s *Stone) Steps() []Step {
	order := make([]int, len(s.Facets))
	for i := range order {
		order[i] = i
	}
	return Steps(s.After, order)
}
