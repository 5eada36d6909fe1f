package analysis

import (
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/solid"
	"cressa/workshop"
)

// LoupeAsked says how a stone is cut that is looked at under the loupe.
type LoupeAsked struct {
	// Gear is the one it is cut on, 0 the diagram's own, at its best turn.
	Gear int
	// WholeTeeth leaves the cheats out, as a machine without a cheater must.
	WholeTeeth bool
	// Exact is the draft before its angles were rounded, whose meets are looked at; nil looks
	// at those of the draft itself.
	Exact *diagram.Draft
}

// Loupe is a stone as it is cut, with what its meets have become.
type Loupe struct {
	// Meant is the stone whose meets are looked at, Cut the solid that comes out.
	Meant  *cutting.Stone
	Cut    *solid.Solid
	Errors []cutting.MeetError
}

// OtherFacets says that two diagrams do not have the same facets, so that their meets cannot
// be held against each other.
const OtherFacets diagram.Code = "other-facets"

// UnderTheLoupe cuts a draft as it is asked. The error is a workshop.NotCuttable where a draft
// makes no stone, and a diagram.Problem where the two do not have the same facets.
func UnderTheLoupe(draft diagram.Draft, ask LoupeAsked) (*Loupe, error) {
	stone, err := Whole(draft)
	if err != nil {
		return nil, err
	}
	teeth, turns := stone.Diagram.Gear, cutting.Turns{}
	if ask.Gear != 0 && ask.Gear != teeth {
		teeth = ask.Gear
		turns = cutting.Together(stone.BestTurn(teeth).Turn)
	}
	planes := stone.Planes()
	if ask.WholeTeeth {
		planes = stone.AtWholeTeeth(teeth, turns)
	}
	if ask.Exact != nil {
		if stone, err = Whole(*ask.Exact); err != nil {
			return nil, err
		}
		if len(stone.Facets) != len(planes) {
			return nil, diagram.Problem{Code: OtherFacets, TierNo: -1}
		}
	}
	out := &Loupe{Meant: stone}
	if out.Cut, err = stone.WithPlanes(planes); err != nil {
		return nil, err
	}
	out.Errors, err = stone.MeetErrors(planes)
	return out, err
}

// Gears is how well each gear of a machine carries a stone.
type Gears struct {
	// Ranking lists the machine's gears, the best first.
	Ranking []GearCost
	// Proposed is a gear that nobody owns yet and that carries the stone, nil where an owned
	// one does or none would.
	Proposed *gear.Fit
	// Obstacles keep the machine from cutting the diagram as it is drawn.
	Obstacles []diagram.Problem
}

// GearCost is a gear with what it costs to cut the stone on it without cheats: the largest gap
// and residual of any meet in µm, every facet at its nearest tooth.
type GearCost struct {
	gear.Fit
	Gap, Residual float64
}

// RankGears holds a stone of a finished width in mm against the gears of a machine. It
// returns the error of the first gear on which the stone cannot be measured.
func RankGears(stone *cutting.Stone, m workshop.Machine, width float64) (Gears, error) {
	out := Gears{Obstacles: m.Obstacles(stone)}
	um := 1000 * MMPerUnit(stone, width)
	for _, fit := range stone.RankGears(m.Gears) {
		g := GearCost{Fit: fit}
		errs, err := stone.MeetErrors(stone.AtWholeTeeth(fit.Teeth, cutting.Together(fit.Turn)))
		if err != nil {
			return out, err
		}
		for _, e := range errs {
			g.Gap, g.Residual = max(g.Gap, e.Gap*um), max(g.Residual, e.Residual*um)
		}
		out.Ranking = append(out.Ranking, g)
	}
	if len(out.Ranking) == 0 || out.Ranking[0].LargestCheat > 0 {
		if fit, ok := stone.ProposeGear(); ok {
			out.Proposed = &fit
		}
	}
	return out, nil
}
