package workshop

import (
	"context"
	"slices"

	"cressa/core/cutting"
	"cressa/core/gear"
)

// Seat is that of a setting which a stone is to fill, in mm, with what calipers have read of the stone so far. Of width and length one
// that is 0 follows from the other as planned; where both are, they are those of the plan.
type Seat struct {
	WidthMM  float64      `validate:"min=0,max=500"`
	LengthMM float64      `validate:"min=0,max=500"`
	Readings []AcrossRead `validate:"max=400,dive"`
}

// AcrossRead is what calipers read in mm from a girdle facet to what lies opposite.
type AcrossRead struct {
	Facet FacetID `validate:"required,max=40"`
	MM    float64 `validate:"min=0.1,max=500"`
}

// SeatLine is where a stone is measured for its setting. Lengths are in mm.
type SeatLine struct {
	ID FacetID
	cutting.Across
	Tier string
	// Set is where the facet is dialled, OppositeSet the one that lies opposite, nil where the other jaw lies on a corner.
	Set         gear.Setting
	OppositeSet *gear.Setting
	// Take and OppositeTake are what is to come off them still, along their normals, less than 0 where the stone is too small there
	// already; nil until it is measured.
	Take, OppositeTake *float64
}

// Fitting is what a stone still needs to fill a setting.
type Fitting struct {
	*Assessment
	Seat  Seat
	Lines []SeatLine
}

// FitSetting tells where a stone is measured for a setting, and what is to come off there. It returns the errors of AssessStone and
// of Validate, and NoSuchSetup.
func (s *Stones) FitSetting(ctx context.Context, stone Stone, setup string, seat Seat) (*Fitting, error) {
	if err := Validate(seat); err != nil {
		return nil, err
	}
	a, err := s.AssessStone(ctx, stone)
	if err != nil {
		return nil, err
	}
	plan := stone.Work().Plan
	pose, err := plan.poseOf(setup)
	if err != nil {
		return nil, err
	}
	dial := func(place int) (gear.Setting, error) { return gear.Dial(a.Stone.Facets[place].Plane.Normal, pose) }
	switch {
	case seat.WidthMM == 0 && seat.LengthMM == 0:
		seat.WidthMM, seat.LengthMM = a.WidthMM, a.LengthMM
	case seat.WidthMM == 0:
		seat.WidthMM = seat.LengthMM * a.WidthMM / a.LengthMM
	case seat.LengthMM == 0:
		seat.LengthMM = seat.WidthMM * a.LengthMM / a.WidthMM
	}
	out, names := &Fitting{Assessment: a, Seat: seat}, plan.names(a.Stone)
	for _, across := range a.Stone.InSeat(seat.WidthMM/a.MM, seat.LengthMM/a.MM) {
		line := SeatLine{ID: names[across.Facet], Across: across, Tier: a.Stone.Diagram.Tiers[a.Stone.Facets[across.Facet].Tier].Name}
		line.Planned, line.Seat = across.Planned*a.MM, across.Seat*a.MM
		if line.Set, err = dial(across.Facet); err != nil {
			return nil, err
		}
		if across.Opposite >= 0 {
			set, err := dial(across.Opposite)
			if err != nil {
				return nil, err
			}
			line.OppositeSet = &set
		}
		if i := slices.IndexFunc(seat.Readings, func(r AcrossRead) bool { return r.Facet == line.ID }); i >= 0 {
			take, opposite := line.Left(seat.Readings[i].MM)
			line.Take, line.OppositeTake = &take, &opposite
		}
		out.Lines = append(out.Lines, line)
	}
	slices.SortStableFunc(out.Lines, func(a, b SeatLine) int { return a.Set.Tooth - b.Set.Tooth })
	return out, nil
}
