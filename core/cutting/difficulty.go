package cutting

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
)

// Factor is something that makes a diagram hard to cut.
type Factor string

// The factors.
const (
	ManyTiers   Factor = "tiers"          // how many settings of angle
	ManyFacets  Factor = "facets"         // how many cuts
	SmallFacet  Factor = "smallest-facet" // its breadth in mm
	CrowdedMeet Factor = "facets-at-meet" // the most that meet in one point
	FreeTiers   Factor = "free-tiers"     // those that stop at no point seen on the stone
	FineAngles  Factor = "angle-digits"   // the most digits behind an angle's point
	Cheats      Factor = "largest-cheat"  // in degrees, on the gear that fits best
)

// Weight is one factor: its figure, and the points it adds.
type Weight struct {
	Factor Factor  `json:"factor"`
	Value  float64 `json:"value"`
	Points float64 `json:"points"`
}

// Difficulty is how hard a stone is to cut, with what makes it so.
type Difficulty struct {
	// Points is the sum: under 1.5 easy, under 3.5 moderate, under 6 demanding.
	Points  float64  `json:"points"`
	Weights []Weight `json:"weights"`
}

// Difficulty judges the stone at a finished width in mm. LargestCheat is that on
// the gear it is cut on; a machine without a cheater finds it harder.
//
// The points are a yardstick, not a measurement: a point is about what a second
// evening at the wheel adds for someone who has cut ten stones. The figures come from no
// source but our own judgement of the starter diagrams at 8 mm: a factor counts from
// beyond what a plain round has (seven tiers, sixty facets, facets of 0.9 mm, six at a
// meet, three tiers by eye), and a point for as much more as sets the starters apart.
// They then come to 0.3 for the first one of a beginner and 7.2 for the hardest.
func (s *Stone) Difficulty(widthMM, largestCheat float64, cheater bool) Difficulty {
	tiers := len(s.Diagram.Tiers)
	facets := s.Measures().Facets
	smallest := s.smallestFacet() * widthMM / s.Measures().Width
	crowd, digits := 0, 0
	free := len(ByEye(s.Diagram))
	for _, m := range s.Meets() {
		// A culet or a table's corner gathers whole tiers; it counts by its tiers.
		seen := map[int]bool{}
		for _, f := range m.Facets {
			seen[s.Facets[f].Tier] = true
		}
		crowd = max(crowd, min(len(m.Facets), 2*len(seen)))
	}
	for _, t := range s.Diagram.Tiers {
		digits = max(digits, decimals(t.Angle))
	}
	missing := 4.0
	if cheater {
		missing = 1
	}
	over := func(v, from, per float64) float64 { return math.Max(0, (v-from)/per) }
	out := Difficulty{Weights: []Weight{
		{ManyTiers, float64(tiers), over(float64(tiers), 7, 5)},
		{ManyFacets, float64(facets), over(math.Log2(float64(facets)), math.Log2(60), 0.6)},
		{SmallFacet, smallest, over(-smallest, -0.9, 0.25)},
		{CrowdedMeet, float64(crowd), over(float64(crowd), 6, 4)},
		{FreeTiers, float64(free), over(float64(free), 3, 3)},
		{FineAngles, float64(digits), []float64{0, 0.3, 1, 1.5}[min(digits, 3)]},
		{Cheats, largestCheat, missing * math.Min(largestCheat, 1)},
	}}
	for i := range out.Weights {
		out.Weights[i].Points = math.Round(out.Weights[i].Points*10) / 10
		out.Points += out.Weights[i].Points
	}
	out.Points = math.Round(out.Points*10) / 10
	return out
}

// decimals counts the digits behind an angle's point, three at most.
func decimals(angle float64) int {
	for n := range 3 {
		if scaled := angle * math.Pow10(n); math.Abs(scaled-math.Round(scaled)) < 1e-6 {
			return n
		}
	}
	return 3
}

// smallestFacet returns the breadth of the smallest facet that is on the stone.
func (s *Stone) smallestFacet() float64 {
	smallest := math.Inf(1)
	for _, b := range s.Breadths() {
		smallest = math.Min(smallest, b)
	}
	return smallest
}

// Breadths returns how broad the smallest facet of each tier is, by the tiers' places, in design units:
// 4·area/circumference, the side of a square and the diameter of a circle. Girdle tiers, and those of
// which nothing is left on the stone, are not in it.
func (s *Stone) Breadths() map[int]float64 {
	out := map[int]float64{}
	cut := s.Solid()
	for _, f := range cut.Faces() {
		if f.OfBlock() || s.Diagram.Tiers[s.Facets[f.ID].Tier].Part == diagram.Girdle {
			continue
		}
		round := 0.0
		for i, v := range f.Loop {
			round += r3.Norm(r3.Sub(cut.Point(f.Loop[(i+1)%len(f.Loop)]), cut.Point(v)))
		}
		breadth, tier := 4*cut.Area(f)/round, s.Facets[f.ID].Tier
		if known, ok := out[tier]; !ok || breadth < known {
			out[tier] = breadth
		}
	}
	return out
}
