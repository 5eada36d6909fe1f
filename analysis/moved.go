package analysis

import (
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/workshop"
)

// Redopped is a stone that moved on its dop: how it sits, and where its facets are dialled now.
type Redopped struct {
	gear.Move
	Facets []RedoppedFacet
}

// RedoppedFacet is where a facet is dialled on a stone that moved.
type RedoppedFacet struct {
	Tier string
	// Index is as the diagram writes it.
	Index float64
	gear.Setting
}

// Redop finds how a stone with a side up sits from facets that were brought flush, and dials all facets that are cut with that
// side up. It returns gear.ErrFewReadings and gear.ErrOneLine where readings do not tell it.
func Redop(s *cutting.Stone, side diagram.Part, readings []gear.Flush) (Redopped, error) {
	pose := workshop.UsualPose(side, s.Diagram.Gear, 0)
	move, err := pose.FindMove(readings)
	if err != nil {
		return Redopped{}, err
	}
	out := Redopped{Move: move, Facets: []RedoppedFacet{}}
	moved := pose.Moved(move.Tilt, move.Towards, move.Twist)
	for _, f := range s.Facets {
		t := s.Diagram.Tiers[f.Tier]
		if s.Diagram.CutWith(t.Part) != side {
			continue
		}
		set, err := gear.Dial(f.Plane.Normal, moved)
		if err != nil {
			return Redopped{}, err
		}
		out.Facets = append(out.Facets, RedoppedFacet{t.Name, f.Index, set})
	}
	return out, nil
}
