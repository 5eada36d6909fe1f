package workshop

import (
	"context"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

// DopUp is one of the times that a solid is held: the facet that faces up then, by its tier and its written index.
type DopUp struct {
	Tier  string  `validate:"required,max=12"`
	Index float64 `validate:"min=0,max=360"`
}

// String names the facet.
func (u DopUp) String() string { return u.Tier + "@" + diagram.FormatNumber(u.Index) }

// NoSuchFacet refuses a dop-up that names a facet which the stone does not have: Text.
const NoSuchFacet diagram.Code = "no-such-facet"

// held returns the stone as it is held by its dop-ups. The error is a diagram.Problem, NoSuchFacet.
func (c Choices) held(stone *cutting.Stone) (cutting.Held, error) {
	var ups []int
	at := places(stone)
	for _, up := range c.DopUps {
		place, there := at[facetKey{stone.Diagram.TierNo(up.Tier), up.Index}]
		if !there {
			return cutting.Held{}, diagram.Problem{Code: NoSuchFacet, TierNo: -1, Field: fieldDopUps, Text: up.String()}
		}
		ups = append(ups, place)
	}
	return stone.HeldBy(ups), nil
}

const fieldDopUps diagram.Field = "dopUps"

// setups are those in which a stone is cut as chosen, the usual two, or one for each dop-up, and the place in them of every facet's.
// It returns the errors of held.
func (c Choices) setups(stone *cutting.Stone, turns cutting.Turns) (setups []Setup, in []int, err error) {
	if len(c.DopUps) == 0 {
		setups = usualSetups(c.FirstSide, c.Gear, turns, nil)
		in = inSides(stone, setups)
	} else {
		h, err := c.held(stone)
		if err != nil {
			return nil, nil, err
		}
		for _, pose := range h.Poses(c.Gear) {
			setups = append(setups, Setup{Pose: pose})
		}
		in = h.In
	}
	for i := range setups {
		setups[i].Pose.Cheats = c.Cheats
	}
	return tipped(setups, c.Holds), in, nil
}

// Middle is where the quill's axes meet in the stone: the origin of the diagram, whose axis they are, and the centre of mass of a solid
// that is held by more than its two sides.
func (a *Assessment) Middle() r3.Vec {
	if len(a.Choices.DopUps) == 0 {
		return r3.Vec{}
	}
	return a.Stone.Solid().Centroid()
}

// inSides returns for every facet the place of the setup that has its side up.
func inSides(stone *cutting.Stone, setups []Setup) []int {
	out := make([]int, len(stone.Facets))
	for i, f := range stone.Facets {
		side := stone.Diagram.CutWith(stone.Diagram.Tiers[f.Tier].Part)
		out[i] = slices.IndexFunc(setups, func(s Setup) bool { return s.Side() == side })
	}
	return out
}

// in returns for every facet of the plan's stone the place of its setup.
func (p *Plan) in(stone *cutting.Stone) []int {
	out, at := make([]int, len(stone.Facets)), places(stone)
	for _, f := range p.Facets {
		if place, there := at[facetKey{f.Tier, f.Index}]; there {
			out[place] = max(0, slices.IndexFunc(p.Setups, func(s Setup) bool { return s.ID == f.Setup }))
		}
	}
	return out
}

// UpName tells what is up in a setup, given by its place: a side, or the facet that a solid is held with facing up.
func (c Choices) UpName(setup int) string {
	switch {
	case setup < len(c.DopUps):
		return c.DopUps[setup].String()
	case setup == 0:
		return string(c.FirstSide)
	}
	return string(c.FirstSide.Other())
}

// ProposeDopUps proposes how a diagram's solid is held one time after the other so that no facet is dialled steeper than so many
// degrees. It returns ErrNotFound, ErrNotKept for a draft without a kept version, and what keeps the diagram from being cut.
func (s *Stones) ProposeDopUps(ctx context.Context, diagramID string, steepest float64) ([]DopUp, error) {
	hash, err := s.library.freeze(ctx, diagramID, "")
	if err != nil {
		return nil, err
	}
	r, err := s.library.Revision(ctx, hash)
	if err != nil {
		return nil, err
	}
	stone, err := cutting.Cut(r.Diagram)
	if err != nil {
		return nil, err
	}
	out := []DopUp{}
	for _, place := range stone.DopUps(steepest) {
		f := stone.Facets[place]
		out = append(out, DopUp{stone.Diagram.Tiers[f.Tier].Name, f.Index})
	}
	return out, nil
}
