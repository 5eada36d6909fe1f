package analysis

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/heights"
	"cressa/workshop"
)

// HeightRead is what the height dial showed in mm when a tier, or one facet of it, was finished.
type HeightRead struct {
	Of diagram.Ref
	MM float64
}

// HeightTold is what the height dial reads for a tier: for one of its facets, "P1@12", where they stand at
// different distances.
type HeightTold struct {
	Name string
	// MM is nil where the readings do not tell, SD its standard deviation in mm.
	MM, SD *float64
	// Read tells that a reading of it was given.
	Read bool
}

// Heights is what readings of finished tiers tell of the others.
type Heights struct {
	// Length and Zero are in mm, nil where readings at one angle leave them unknown.
	Length, Zero *float64
	Tiers        []HeightTold
}

// SameDistance is how many mm apart facets of a tier may stand and still share a reading.
const SameDistance = 1e-6

// HeightsOf fits length and zero to readings of one side of a stone of so many mm for a design unit, each with
// the standard deviation sd in mm, and foretells what the dial reads for every other tier of that side and for
// the girdle. Errors name the reading: no such tier or facet, facets at several distances, or two sides.
func HeightsOf(s *cutting.Stone, mm float64, readings []HeightRead, sd float64) (Heights, error) {
	up, err := sideRead(s, readings)
	if err != nil {
		return Heights{}, err
	}
	pose := workshop.UsualPose(up, s.Diagram.Gear, 0)
	cut := func(f cutting.Facet) (heights.Cut, error) {
		set, err := gear.Dial(f.Plane.Normal, pose)
		return heights.Cut{Angle: set.Angle, Distance: f.Plane.D * mm}, err
	}
	read := map[int]bool{}
	var fitted []heights.Reading
	for _, r := range readings {
		places, err := placesRead(s, r.Of, mm)
		if err != nil {
			return Heights{}, err
		}
		c, err := cut(s.Facets[places[0]])
		if err != nil {
			return Heights{}, err
		}
		fitted = append(fitted, heights.Reading{Cut: c, MM: r.MM})
		for _, place := range places {
			read[place] = true
		}
	}
	fit, err := heights.Calibrate(fitted, sd)
	if err != nil {
		return Heights{}, err
	}
	out := Heights{Tiers: []HeightTold{}}
	if length, zero, ok := fit.Setting(""); ok {
		out.Length, out.Zero = &length, &zero
	}
	for _, places := range alikeInHeight(s, mm) {
		f := s.Facets[places[0]]
		t := s.Diagram.Tiers[f.Tier]
		told := HeightTold{Name: t.Name, Read: read[places[0]]}
		if len(places) < len(t.Indexes) {
			told.Name = s.FacetName(places[0])
		}
		if t.Part == diagram.Girdle || t.Part == up {
			c, err := cut(f)
			if err != nil {
				return Heights{}, err
			}
			if height, sd, ok := fit.At(c, ""); ok {
				told.MM, told.SD = &height, &sd
			}
		}
		out.Tiers = append(out.Tiers, told)
	}
	return out, nil
}

// sideRead returns the side that was up for all readings.
func sideRead(s *cutting.Stone, readings []HeightRead) (diagram.Part, error) {
	var up diagram.Part
	var first diagram.Ref
	for _, r := range readings {
		for _, t := range s.Diagram.Tiers {
			if t.Name != r.Of.Tier || t.Part == diagram.Girdle {
				continue
			}
			if up != "" && t.Part != up {
				return "", fmt.Errorf("%s and %s are of two sides: the stone sits on its dop anew in between, so give readings of one", first, r.Of)
			}
			up, first = t.Part, r.Of
		}
	}
	return cmp.Or(up, s.Diagram.FirstSide), nil
}

// placesRead returns the facets that a reading stands for.
func placesRead(s *cutting.Stone, of diagram.Ref, mm float64) ([]int, error) {
	var tier, places []int
	for place, f := range s.Facets {
		if s.Diagram.Tiers[f.Tier].Name != of.Tier {
			continue
		}
		tier = append(tier, place)
		if !of.OneFacet || gear.Same(f.Index, of.Index, s.Diagram.Gear) {
			places = append(places, place)
		}
	}
	switch {
	case len(tier) == 0:
		return nil, fmt.Errorf("no tier is called %q", of.Tier)
	case len(places) == 0:
		return nil, fmt.Errorf("tier %s has no facet at index %s", of.Tier, diagram.FormatNumber(of.Index))
	}
	if !atOneDistance(s, places, mm) {
		return nil, fmt.Errorf("facets of %s stand at different distances: say which was read, as %s", of.Tier, s.FacetName(places[0]))
	}
	return places, nil
}

func atOneDistance(s *cutting.Stone, places []int, mm float64) bool {
	return !slices.ContainsFunc(places, func(place int) bool {
		return math.Abs(s.Facets[place].Plane.D-s.Facets[places[0]].Plane.D)*mm > SameDistance
	})
}

// alikeInHeight lists the facets of each tier, in order, together; one by one where they stand at different
// distances.
func alikeInHeight(s *cutting.Stone, mm float64) [][]int {
	tiers := make([][]int, len(s.Diagram.Tiers))
	for place, f := range s.Facets {
		tiers[f.Tier] = append(tiers[f.Tier], place)
	}
	var out [][]int
	for _, places := range tiers {
		if atOneDistance(s, places, mm) {
			out = append(out, places)
			continue
		}
		for _, place := range places {
			out = append(out, []int{place})
		}
	}
	return out
}
