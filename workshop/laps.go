package workshop

import (
	"slices"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/material"
)

// Pass is one trip with one lap over the facets that get it.
type Pass struct {
	// ID survives renaming and reordering; ticks name it.
	ID   string `validate:"required,max=40"`
	Name string `validate:"required,max=60"`
	Lap  string `validate:"max=60"`
	// Compound is what the lap is charged with, "" for one that cuts by itself.
	Compound string `validate:"max=60"`
	// LapItem and CompoundItem are those of the kit, by their IDs; "" where the words above are all
	// that is known. A thing of the kit gives its name to the words: they stay when it is renamed.
	LapItem      string `validate:"max=40"`
	CompoundItem string `validate:"max=40"`
}

// Hold is how a stone is held in one setup: the dop and the adhesive, in words and, where they are
// things of the kit, by their IDs.
type Hold struct {
	Dop          string `validate:"max=60"`
	Adhesive     string `validate:"max=60"`
	DopItem      string `validate:"max=40"`
	AdhesiveItem string `validate:"max=40"`
	// Tilt is by how many degrees the stone is tipped on its dop on purpose, as one without a flat table may be, towards an index
	// that is dialled: all angles are those of the stone as it sits.
	Tilt    float64 `validate:"min=0,max=30"`
	Towards float64 `validate:"min=0,max=360"`
}

// Group is a part of a stone that gets its own laps.
type Group string

// The groups. The table is a part of the crown that cutters finish by itself.
const (
	PavilionLaps Group = "pavilion"
	GirdleLaps   Group = "girdle"
	CrownLaps    Group = "crown"
	TableLaps    Group = "table"
)

// GroupOf returns the group that a tier belongs to.
func GroupOf(t diagram.Tier) Group {
	switch {
	case t.Part == diagram.Girdle:
		return GirdleLaps
	case t.Part == diagram.Pavilion:
		return PavilionLaps
	case t.Angle == 0:
		return TableLaps
	}
	return CrownLaps
}

// LapUse names the passes that a group goes without or, where Tier is set, that one tier of it
// goes without whatever its group does. Passes that are not there count for nothing.
type LapUse struct {
	Group   Group    `validate:"oneof=pavilion girdle crown table"`
	Tier    string   `validate:"max=12"`
	Without []string `validate:"max=12,dive,max=40"`
}

// Laps are the passes of a plan in order, and who goes without some of them.
type Laps struct {
	Passes []Pass   `validate:"min=1,max=12,dive"`
	Uses   []LapUse `validate:"max=400,dive"`
}

// Of returns the passes that a tier gets, in order.
func (l Laps) Of(t diagram.Tier) []Pass {
	var without []string
	group, own := GroupOf(t), false
	for _, u := range l.Uses {
		if u.Group == group && (u.Tier == t.Name || u.Tier == "" && !own) {
			without, own = u.Without, own || u.Tier == t.Name
		}
	}
	return slices.DeleteFunc(slices.Clone(l.Passes), func(p Pass) bool { return slices.Contains(without, p.ID) })
}

// Refusals of laps. Text is the pass, or the group or tier at fault.
const (
	// SamePass: two passes share an ID.
	SamePass diagram.Code = "same-pass"
	// NoPass: a group or tier goes without any pass.
	NoPass diagram.Code = "no-pass"
	// StartsLater: the stop of a tier is made by another one, Other, that is not cut before a
	// later pass.
	StartsLater diagram.Code = "starts-later"
)

func (l Laps) check() error {
	seen := map[string]bool{}
	for _, p := range l.Passes {
		if seen[p.ID] {
			return diagram.Problem{Code: SamePass, TierNo: -1, Field: "passes", Text: p.Name}
		}
		seen[p.ID] = true
	}
	for _, u := range l.Uses {
		if !slices.ContainsFunc(l.Passes, func(p Pass) bool { return !slices.Contains(u.Without, p.ID) }) {
			return diagram.Problem{Code: NoPass, TierNo: -1, Field: "passes", Tier: u.Tier, Text: string(u.Group)}
		}
	}
	return nil
}

// checkFor tells whether every tier finds its stop: what makes it is cut in the same pass or an
// earlier one.
func (l Laps) checkFor(d *diagram.Diagram) error {
	begins := map[string]int{}
	for _, t := range d.Tiers {
		begins[t.Name] = slices.Index(l.Passes, l.Of(t)[0])
	}
	for no, t := range d.Tiers {
		for _, ref := range t.Stop.Refs() {
			by := d.TierNo(ref.Tier)
			if d.CutWith(d.Tiers[by].Part) == d.CutWith(t.Part) && begins[ref.Tier] > begins[t.Name] {
				return diagram.Problem{Code: StartsLater, Tier: t.Name, TierNo: no, Field: "passes", Text: l.Passes[begins[ref.Tier]].Name, Other: ref.Tier}
			}
		}
	}
	return nil
}

// Frosted tells whether light that meets the girdle from inside is lost there: where a girdle
// tier goes without the last pass.
func (l Laps) Frosted(d *diagram.Diagram) bool {
	last := l.Passes[len(l.Passes)-1]
	return slices.ContainsFunc(d.Tiers, func(t diagram.Tier) bool {
		return t.Part == diagram.Girdle && !slices.Contains(l.Of(t), last)
	})
}

// suited returns the laps with a lap and a compound for the last pass where it names none: what
// the material is usually polished with.
func (l Laps) suited(m material.Material) Laps {
	if !l.openPolish() {
		return l
	}
	last := len(l.Passes) - 1
	l.Passes = slices.Clone(l.Passes)
	l.Passes[last].Lap, l.Passes[last].Compound = m.Polish.Usual()
	return l
}

// openPolish tells that the last pass leaves its lap and compound to the material.
func (l Laps) openPolish() bool {
	last := len(l.Passes) - 1
	return last >= 0 && l.Passes[last].Lap == "" && l.Passes[last].Compound == ""
}

// TableAt says when the table goes through its laps on a machine with a table adapter.
type TableAt string

// The ways.
const (
	// TableThrough: all laps, one after the other, at one setting of the adapter.
	TableThrough TableAt = "through"
	// TableEach: each lap with the other facets, and the adapter is fitted every time.
	TableEach TableAt = "each"
)

// GirdleFinish is how far a girdle is taken. It costs time and changes the light.
type GirdleFinish string

// How far a girdle is taken.
const (
	GirdlePolished GirdleFinish = "polished"
	// GirdlePrepolished: all passes but the last.
	GirdlePrepolished GirdleFinish = "prepolished"
	// GirdleCut: only the first pass.
	GirdleCut GirdleFinish = "cut"
)

// Frosted tells that light which meets the girdle from inside is lost there.
func (g GirdleFinish) Frosted() bool { return g == GirdlePrepolished || g == GirdleCut }

// Passes returns how many of n passes a girdle facet gets, at least one.
func (g GirdleFinish) Passes(n int) int {
	switch g {
	case GirdlePrepolished:
		return max(n-1, 1)
	case GirdleCut:
		return 1
	}
	return n
}

// Uses returns what a girdle of this finish goes without of some passes: nothing where it is
// polished.
func (g GirdleFinish) Uses(passes []Pass) []LapUse {
	without := []string{}
	for _, p := range passes[g.Passes(len(passes)):] {
		without = append(without, p.ID)
	}
	if len(without) == 0 {
		return []LapUse{}
	}
	return []LapUse{{Group: GirdleLaps, Without: without}}
}

// GirdleWork is what a finish of the girdle asks for.
type GirdleWork struct {
	Finish GirdleFinish
	// Visits is how often a girdle facet is put to a lap, Hours how long that takes.
	Visits int
	Hours  float64
}

// GirdleWorks tells what each finish of a stone's girdle asks for in a number of passes,
// at a pace in minutes a visit. A stone without a girdle has none.
func GirdleWorks(s *cutting.Stone, passes int, pace float64) []GirdleWork {
	facets := 0
	for _, f := range s.Solid().Faces() {
		if !f.OfBlock() && s.Diagram.Tiers[s.Facets[f.ID].Tier].Part == diagram.Girdle {
			facets++
		}
	}
	if facets == 0 {
		return nil
	}
	var out []GirdleWork
	for _, finish := range []GirdleFinish{GirdlePolished, GirdlePrepolished, GirdleCut} {
		visits := facets * finish.Passes(passes)
		out = append(out, GirdleWork{finish, visits, float64(visits) * pace / 60})
	}
	return out
}
