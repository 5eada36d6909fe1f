package analysis

import (
	"context"

	"cressa/core/angles"
	"cressa/core/diagram"
	"cressa/core/printed"
	"cressa/workshop"
)

// SecondMeet is an angle at which a tier comes to a second meet, with gaps in µm.
type SecondMeet struct {
	angles.Found
	// Meet is the second meet as a stop would name it.
	Meet diagram.Stop
}

// FindAngle looks for the angles of a draft's tier that bring it to a second meet, at a finished
// width in mm. What comes after the tier does not matter, but for the width. The error is a
// workshop.NotCuttable where the draft cannot be read as far as the tier, and a diagram.Problem
// where it cannot be cut.
func FindAngle(ctx context.Context, draft diagram.Draft, tierNo int, width float64, settable angles.Settable) ([]SecondMeet, error) {
	mm := width
	if whole, err := Whole(Named(draft)); err == nil {
		mm = MMPerUnit(whole, width)
	}
	if tierNo >= len(draft.Tiers) {
		return nil, diagram.Problem{Code: diagram.UnknownTier, TierNo: -1}
	}
	part := draft
	part.Tiers = draft.Tiers[:tierNo+1]
	d, problems := printed.Diagram(Named(part))
	if len(problems) > 0 {
		return nil, workshop.NotCuttable{Problems: problems}
	}
	found, err := angles.Find(ctx, d, tierNo, settable)
	if err != nil {
		return nil, err
	}
	out := []SecondMeet{}
	for _, f := range found {
		f.BelowGap *= 1000 * mm
		f.AboveGap *= 1000 * mm
		meet := diagram.Stop{Kind: diagram.Meet}
		for _, name := range f.Facets {
			if ref, err := diagram.ParseRef(name); err == nil {
				meet.Tiers = append(meet.Tiers, diagram.Ref{Tier: ref.Tier})
			}
		}
		out = append(out, SecondMeet{f, meet})
	}
	return out, nil
}
