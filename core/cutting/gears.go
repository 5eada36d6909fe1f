package cutting

import (
	"cmp"
	"math"
	"slices"

	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/solid"
)

// Turns says how far the stone is turned on its dop while each side is up, in
// degrees clockwise as seen from above the table. One turn of the whole stone is
// the usual case; a cutter who finds the turn anew after the transfer may give
// each side its own.
type Turns struct {
	Pavilion float64 `json:"pavilion"`
	Crown    float64 `json:"crown"`
}

// Together is one turn for both sides.
func Together(turn float64) Turns { return Turns{turn, turn} }

// Of returns the turn while the given side is up.
func (t Turns) Of(side diagram.Part) float64 {
	if side == diagram.Pavilion {
		return t.Pavilion
	}
	return t.Crown
}

// up returns the side that is up while a facet is cut.
func (s *Stone) up(f Facet) diagram.Part {
	return s.Diagram.CutWith(s.Diagram.Tiers[f.Tier].Part)
}

// level tells whether a facet has no azimuth: any tooth will do.
func (s *Stone) level(f Facet) bool { return s.Diagram.Tiers[f.Tier].Angle == 0 }

// Dial returns where a facet is dialled on a gear of the given teeth. With the
// pavilion up the gear counts the other way round the stone. A level facet is
// dialled at the nearest tooth, without a cheat.
func (s *Stone) Dial(f Facet, teeth int, turns Turns) gear.Position {
	p := s.position(f, teeth, turns)
	if s.level(f) {
		p.Index, p.Cheat = float64(p.Tooth), 0
	}
	return p
}

func (s *Stone) position(f Facet, teeth int, turns Turns) gear.Position {
	side := s.up(f)
	azimuth := f.Azimuth + turns.Of(side)
	if side == diagram.Pavilion {
		azimuth = -azimuth
	}
	return gear.At(azimuth, teeth)
}

// BestTurn returns how well a gear carries the stone and the turn to give it.
// Level facets need no index and are left out.
func (s *Stone) BestTurn(teeth int) gear.Fit {
	return gear.BestTurn(s.azimuths(diagram.Pavilion, diagram.Crown), teeth)
}

// BestTurnOfEachSide is BestTurn for a cutter who turns each side on its own.
func (s *Stone) BestTurnOfEachSide(teeth int) (pavilion, crown gear.Fit) {
	return gear.BestTurn(s.azimuths(diagram.Pavilion), teeth), gear.BestTurn(s.azimuths(diagram.Crown), teeth)
}

// azimuths returns those of all facets that are cut with one of the given sides
// up and need an index.
func (s *Stone) azimuths(sides ...diagram.Part) []float64 {
	var out []float64
	for _, f := range s.Facets {
		if !s.level(f) && slices.Contains(sides, s.up(f)) {
			out = append(out, f.Azimuth)
		}
	}
	return out
}

// LargestCheat returns the largest cheat in degrees that the stone's facets need
// on a gear.
func (s *Stone) LargestCheat(teeth int, turns Turns) float64 {
	largest := 0.0
	for _, f := range s.Facets {
		largest = math.Max(largest, math.Abs(s.Dial(f, teeth, turns).Cheat))
	}
	return largest
}

// Positions returns where every facet stands on a gear: for each tier the
// positions in the order of its indexes. Level facets are reckoned like the rest,
// though any tooth would do for them.
func (s *Stone) Positions(teeth int, turns Turns) [][]gear.Position {
	out := make([][]gear.Position, len(s.Diagram.Tiers))
	for _, f := range s.Facets {
		out[f.Tier] = append(out[f.Tier], s.position(f, teeth, turns))
	}
	return out
}

// RankGears returns how well each gear carries the stone at its best turn: the
// smallest cheats first, then the diagram's own gear, then the smallest turn, then
// the fewest teeth. A gear that is named twice is ranked once.
func (s *Stone) RankGears(teeth []int) []gear.Fit { return s.rank(teeth, s.BestTurn) }

// rank is RankGears for a stone that is held in any way: fit tells how well a gear carries it then.
func (s *Stone) rank(teeth []int, fit func(teeth int) gear.Fit) []gear.Fit {
	var out []gear.Fit
	for _, n := range teeth {
		if !slices.ContainsFunc(out, func(f gear.Fit) bool { return f.Teeth == n }) {
			out = append(out, fit(n))
		}
	}
	own := func(f gear.Fit) int {
		if f.Teeth == s.Diagram.Gear {
			return 0
		}
		return 1
	}
	slices.SortStableFunc(out, func(a, b gear.Fit) int {
		if d := a.LargestCheat - b.LargestCheat; math.Abs(d) > 1e-9 {
			return cmp.Compare(d, 0)
		}
		if d := own(a) - own(b); d != 0 {
			return d
		}
		if d := math.Abs(a.Turn) - math.Abs(b.Turn); math.Abs(d) > 1e-9 {
			return cmp.Compare(d, 0)
		}
		return a.Teeth - b.Teeth
	})
	return out
}

// usualGears are gears that can be bought without having one made.
var usualGears = []int{32, 40, 48, 56, 60, 64, 72, 77, 80, 84, 88, 90, 96, 100, 104, 112, 120, 128, 144, 180}

// ProposeGear returns a gear that carries the stone without any cheat: one that
// can be bought where there is such, else the smallest that could be made. It is
// false where no gear up to diagram.MaxGear teeth does.
func (s *Stone) ProposeGear() (gear.Fit, bool) { return proposeGear(s.BestTurn) }

func proposeGear(fit func(teeth int) gear.Fit) (gear.Fit, bool) {
	try := slices.Clone(usualGears)
	for n := 3; n <= diagram.MaxGear; n++ {
		try = append(try, n)
	}
	for _, n := range try {
		if f := fit(n); f.LargestCheat == 0 {
			return f, true
		}
	}
	return gear.Fit{}, false
}

// AtWholeTeeth returns the planes as a machine without a cheater cuts them: every
// facet at its nearest tooth, brought to where its cut stops. They are
// in the order of s.Facets.
func (s *Stone) AtWholeTeeth(teeth int, turns Turns) []solid.Plane {
	out := s.Planes()
	for i, f := range s.Facets {
		cheat := s.Dial(f, teeth, turns).Cheat
		if cheat == 0 {
			continue
		}
		// The dial reads so much too little with the crown up; with the pavilion
		// up the gear counts the other way.
		azimuth := f.Azimuth - cheat
		if s.up(f) == diagram.Pavilion {
			azimuth = f.Azimuth + cheat
		}
		t := s.Diagram.Tiers[f.Tier]
		out[i] = f.AtStop(diagram.Normal(t.Part, t.Angle, azimuth))
	}
	return out
}
