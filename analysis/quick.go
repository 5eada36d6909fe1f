package analysis

import (
	"math"
	"slices"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/quick"
	"cressa/workshop"
)

// QuickDesign returns a diagram for a wish, its longer side lying as it is liked. One whose only
// mirror line runs along its length keeps that on 12–6, where both sides dial alike, and a gear
// whose teeth have no quarter leaves it as it is designed. The error is a diagram.Problem of package
// quick.
func QuickDesign(wish quick.Wish, long workshop.Lying) (diagram.Draft, error) {
	d, err := quick.Design(wish)
	if err != nil {
		return diagram.Draft{}, err
	}
	draft := diagram.DraftOf(d)
	stone, err := cutting.Cut(d)
	if err != nil || Lies(stone) == workshop.Even || Lies(stone) == long || d.Gear%4 != 0 {
		return draft, err
	}
	turned, err := cutting.TurnedWhole(draft, float64(d.Gear)/4)
	if err != nil {
		return draft, err
	}
	after, problems := turned.Read()
	if len(problems) > 0 {
		return draft, nil
	}
	if s, err := cutting.Cut(after); err != nil || senseMatters(s) && !senseMatters(stone) {
		return draft, err
	}
	return turned, nil
}

// Lies tells which way a stone is longer.
func Lies(s *cutting.Stone) workshop.Lying {
	const even = 0.01
	switch size := s.Solid().Bounds().Size(); {
	case math.Abs(size.X-size.Y) < even*math.Min(size.X, size.Y):
		return workshop.Even
	case size.X > size.Y:
		return workshop.Across
	}
	return workshop.Along
}

func senseMatters(s *cutting.Stone) bool {
	return slices.ContainsFunc(s.Warnings, func(p diagram.Problem) bool { return p.Code == cutting.SenseMatters })
}
