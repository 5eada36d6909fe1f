package abrasive

import (
	"cmp"
	"math"
	"slices"
)

// Rules are what a ladder of grits is held to. Cutters differ; the owner of a workshop sets them.
type Rules struct {
	// DamageLow and DamageHigh say how deep a step's damage goes, in grains.
	DamageLow  float64 `validate:"min=0.5,max=10"`
	DamageHigh float64 `validate:"min=0.5,max=10,gtefield=DamageLow"`
	// CutRatio and PolishRatio are how many times coarser a lap may be than the next one, where
	// that cuts and where it polishes.
	CutRatio    float64 `validate:"min=1.2,max=20"`
	PolishRatio float64 `validate:"min=1.2,max=200"`
}

// UsualRules are those that most go by: damage two to three grains deep, no step larger than 5, and a
// larger one into the polish, which takes its time.
var UsualRules = Rules{DamageLow: 2, DamageHigh: 3, CutRatio: 5, PolishRatio: 25}

// Rung is a lap as a ladder sees it.
type Rung struct {
	// Grain is the mean grain in µm, 0 where it is not known.
	Grain float64
	// Polish tells that it polishes: it takes off next to nothing.
	Polish bool
}

// Brittle tells how readily a material breaks under a grain, from 0 for one as tough as can be to 1:
// by its hardness on the scale of Mohs, the lower end of its range, and whether it splits along a
// plane. Soft stones and such as cleave take the deeper damage of the range that Rules give; from 8
// on it is the shallower one.
func Brittle(hardness float64, cleaves bool) float64 {
	const soft, hard = 5, 8
	if cleaves {
		return 1
	}
	return math.Min(1, math.Max(0, (hard-hardness)/(hard-soft)))
}

// Step is what one rung of a ladder does.
type Step struct {
	// LeavesLow and LeavesHigh are how deep its damage goes, in µm; Leaves is where in that range
	// this material lies.
	LeavesLow, LeavesHigh, Leaves float64
	// TakesOff is what it must take off every facet at least, in µm: the damage of the rung before.
	// It is 0 for the first.
	TakesOff float64
	// Ratio is how many times coarser the rung before is, 0 for the first and where a grain is not
	// known; Limit is what it may be.
	Ratio, Limit float64
	// Finding is what is wrong with the step into it, "" for nothing.
	Finding Finding
	// Between are grains, in µm, that would make a step that is too large into several that are not.
	Between []float64
}

// Finding is what is wrong with a step of a ladder.
type Finding string

// What can be wrong.
const (
	// TooLarge: the step is larger than its limit and leaves scratches.
	TooLarge Finding = "too-large"
	// NotFiner: the lap is no finer than the one before.
	NotFiner Finding = "not-finer"
	// NoGrain: the lap's grain is not known, so that nothing can be said.
	NoGrain Finding = "no-grain"
	// NoPolish: the last lap does not polish.
	NoPolish Finding = "no-polish"
)

// Climb looks at a ladder step by step, for a material as brittle as that.
func Climb(rungs []Rung, brittle float64, r Rules) []Step {
	out := make([]Step, len(rungs))
	for i, rung := range rungs {
		s := &out[i]
		s.LeavesLow, s.LeavesHigh = r.DamageLow*rung.Grain, r.DamageHigh*rung.Grain
		s.Leaves = s.LeavesLow + brittle*(s.LeavesHigh-s.LeavesLow)
		if rung.Grain == 0 {
			s.Finding = NoGrain
		} else if i == len(rungs)-1 && !rung.Polish {
			s.Finding = NoPolish
		}
		if i == 0 {
			continue
		}
		before := rungs[i-1]
		s.TakesOff, s.Limit = out[i-1].Leaves, limit(rung, r)
		if before.Grain == 0 || rung.Grain == 0 {
			continue
		}
		s.Ratio = before.Grain / rung.Grain
		switch {
		case s.Ratio <= 1:
			s.Finding = NotFiner
		case exceeds(s.Ratio, s.Limit):
			s.Finding, s.Between = TooLarge, between(before.Grain, rung, r)
		}
	}
	return out
}

func limit(to Rung, r Rules) float64 {
	if to.Polish {
		return r.PolishRatio
	}
	return r.CutRatio
}

// exceeds leaves room for what is written rounded: 25 µm for a mesh of 600, 6 for 3 000.
func exceeds(ratio, limit float64) bool { return ratio > limit*1.005 }

// between splits a step that is too large: the last part may be as large as its rung allows, the
// others are alike and as few as can be.
func between(from float64, to Rung, r Rules) []float64 {
	last := to.Grain * limit(to, r)
	if !to.Polish {
		last = to.Grain
	}
	// The grains lie in even steps from the coarse lap down to what the last part can take.
	parts := int(math.Ceil(math.Log(from/last)/math.Log(r.CutRatio) - 1e-6))
	step := math.Pow(from/last, 1/float64(parts))
	var out []float64
	grain := from
	for i := 1; i <= parts; i++ {
		if grain /= step; to.Polish || i < parts {
			out = append(out, grain)
		}
	}
	return out
}

// Best picks of the rungs that somebody owns those that make a ladder: it begins with the first, which
// cuts, and ends with the last, which polishes, each rung finer than the one before and no step larger
// than its limit. It returns their places in owned, as few as can be and of equally many the most even
// ones. Where no ladder leads there it returns the one whose steps exceed their limits least, and ok is
// false. Rungs without a grain are passed over; no ladder has rungs that polish on the way.
func Best(owned []Rung, first, last int, r Rules) (places []int, ok bool) {
	way := []int{first, last}
	for i, rung := range owned {
		if i != first && i != last && !rung.Polish && rung.Grain > 0 && rung.Grain < owned[first].Grain && rung.Grain > owned[last].Grain {
			way = append(way, i)
		}
	}
	slices.SortStableFunc(way, func(a, b int) int { return cmp.Compare(owned[b].Grain, owned[a].Grain) })
	// Where grains are alike the ends stay at the ends.
	way = append([]int{first}, slices.DeleteFunc(way, func(i int) bool { return i == first || i == last })...)
	way = append(way, last)
	type reached struct {
		from  int
		steps int
		// over is by how much steps exceed their limits, uneven the sum of the squares of the
		// steps; both in logarithms.
		over, uneven float64
	}
	best := make([]reached, len(way))
	for j := 1; j < len(way); j++ {
		for i := range j {
			a, b := owned[way[i]], owned[way[j]]
			step := math.Log(a.Grain / b.Grain)
			if i > 0 && best[i].steps == 0 || step <= 0 && j < len(way)-1 {
				continue
			}
			next := reached{i, best[i].steps + 1, best[i].over, best[i].uneven + step*step}
			if most := math.Log(limit(b, r) * 1.005); step > most {
				next.over += step - most
			}
			now := best[j]
			if now.steps == 0 || cmp.Or(cmp.Compare(next.over, now.over), cmp.Compare(next.steps, now.steps), cmp.Compare(next.uneven, now.uneven)) < 0 {
				best[j] = next
			}
		}
	}
	for j := len(way) - 1; ; j = best[j].from {
		places = append(places, way[j])
		if j == 0 {
			break
		}
	}
	slices.Reverse(places)
	return places, best[len(way)-1].over == 0
}
