package workshop

import (
	"cmp"
	"context"
	"errors"
	"math"
	"slices"
	"strings"

	"cressa/core/abrasive"
	"cressa/core/diagram"
	"cressa/core/material"
)

// Ladder is the laps that a stone goes over, step by step, and what the shelf has for it.
type Ladder struct {
	Rungs []LadderRung
	// Best are the laps of the shelf, by their IDs, that lead from the first pass's lap to the
	// last one's in as few steps as can be; Sound tells that no step of it is too large. It is
	// empty where the ladder has no first or last lap.
	Best  []string
	Sound bool
	// Missing are grains, in µm, that the shelf lacks for it.
	Missing []float64
}

// LadderRung is one pass as a step of the ladder.
type LadderRung struct {
	Pass Pass
	// Grain is the mean one that it works with, in µm, 0 where that is not known.
	Grain float64
	// Polishes tells that it takes off next to nothing.
	Polishes bool
	abrasive.Step
	// Lap and Compound are those of the kit, nil where the pass names none.
	Lap, Compound *Shelved
	// On is what is on the lap that harms this stone, and Ways how it is cleaned of that.
	On   []abrasive.Residue
	Ways []abrasive.Cleaning
	// KeptFor is the material that the lap is kept for where this is another.
	KeptFor string
}

// Ladder looks at the passes that a stone of a material goes through; where none are given they are
// those that a plan for it would begin with. It returns ErrNotFound for a material that nobody knows.
func (k *Kit) Ladder(ctx context.Context, materialName string, passes []Pass) (Ladder, error) {
	settings, err := k.preferences.Settings(ctx)
	if err != nil {
		return Ladder{}, err
	}
	m, known := settings.Material(materialName)
	if !known {
		return Ladder{}, ErrNotFound
	}
	return k.LadderFor(ctx, m, passes)
}

// LadderFor is Ladder for a material as somebody has it: a plan has frozen its own.
func (k *Kit) LadderFor(ctx context.Context, m material.Material, passes []Pass) (Ladder, error) {
	settings, err := k.preferences.Settings(ctx)
	if err != nil {
		return Ladder{}, err
	}
	shelf, err := k.Shelf(ctx)
	if err != nil {
		return Ladder{}, err
	}
	if len(passes) == 0 {
		trials, err := k.store.PolishTrials(ctx)
		if err != nil {
			return Ladder{}, err
		}
		c := Choices{Laps: settings.HabitsOf("").Laps}
		takeFrom(shelf, trials, m, settings.Abrasives.Limits, &c)
		passes = c.Passes
	}
	return climb(shelf, m, passes, settings.Abrasives), nil
}

// climb looks at passes with a shelf.
func climb(shelf []Shelved, m material.Material, passes []Pass, by Abrasives) Ladder {
	out := Ladder{Rungs: make([]LadderRung, len(passes)), Best: []string{}, Missing: []float64{}}
	rungs := make([]abrasive.Rung, len(passes))
	for i, p := range passes {
		r := LadderRung{Pass: p, Lap: find(shelf, p.LapItem), Compound: find(shelf, p.CompoundItem)}
		var works abrasive.Grit
		works, rungs[i].Polish = r.works()
		rungs[i].Grain, r.Grain, r.Polishes = works.Grain, works.Grain, rungs[i].Polish
		if r.Lap != nil {
			r.On, r.Ways = r.Lap.Against(m, works, by.Limits)
			if kept := r.Lap.Lap.KeptFor; kept != "" && !strings.EqualFold(kept, m.Name) {
				r.KeptFor = kept
			}
		}
		out.Rungs[i] = r
	}
	steps := abrasive.Climb(rungs, brittle(m), by.Rules)
	for i := range out.Rungs {
		out.Rungs[i].Step = steps[i]
	}
	out.best(shelf, rungs, m, by)
	return out
}

// brittle tells how readily a material breaks under a grain, 0 to 1.
func brittle(m material.Material) float64 {
	return abrasive.Brittle(m.Hardness.Low, m.Cleavage == material.CleavagePerfect)
}

// best finds the laps that lead from the first rung to the last one.
func (l *Ladder) best(shelf []Shelved, rungs []abrasive.Rung, m material.Material, by Abrasives) {
	last := len(rungs) - 1
	if last < 1 || rungs[0].Grain == 0 || rungs[last].Grain == 0 || !rungs[last].Polish || rungs[0].Grain <= rungs[last].Grain {
		return
	}
	owned, ids := []abrasive.Rung{rungs[0]}, []string{l.Rungs[0].Pass.LapItem}
	for _, s := range shelf {
		if s.Lap == nil || s.Gone || s.Lap.Polishes || s.ID == l.Rungs[0].Pass.LapItem || s.ID == l.Rungs[last].Pass.LapItem ||
			s.Lap.KeptFor != "" && !strings.EqualFold(s.Lap.KeptFor, m.Name) {
			continue
		}
		owned, ids = append(owned, abrasive.Rung{Grain: s.Works().Grain}), append(ids, s.ID)
	}
	owned, ids = append(owned, rungs[last]), append(ids, l.Rungs[last].Pass.LapItem)
	places, sound := abrasive.Best(owned, 0, len(owned)-1, by.Rules)
	l.Sound = sound
	var way []abrasive.Rung
	for _, p := range places {
		l.Best, way = append(l.Best, ids[p]), append(way, owned[p])
	}
	for _, s := range abrasive.Climb(way, 0, by.Rules) {
		l.Missing = append(l.Missing, s.Between...)
	}
}

// works returns the grit that a pass works with, and whether it polishes: by the things of the kit, or
// else by what its words say.
func (r LadderRung) works() (abrasive.Grit, bool) {
	var grit abrasive.Grit
	polishes := r.Lap != nil && r.Lap.Lap.Polishes
	switch {
	case r.Compound != nil:
		grit = r.Compound.Compound.Grit()
	case r.Pass.Compound != "":
		grit = gritOf(r.Pass.Compound)
	case r.Lap != nil:
		grit = r.Lap.Works()
	default:
		grit = gritOf(r.Pass.Lap)
	}
	if r.Lap == nil {
		polishes = grit.Grain > 0 && grit.Grain <= coarsestPolish || r.Pass.Compound != "" && grit.Grain == 0
	}
	return grit, polishes
}

// gritOf reads a grit out of words.
func gritOf(text string) abrasive.Grit {
	grain, _ := abrasive.ReadGrain(text)
	g := abrasive.Grit{Family: named(text, familyWords, ""), Grain: grain}
	if g.Grain == 0 {
		g.Grain = g.Family.UsualGrain()
	}
	if g.Family == "" && g.Grain > 0 {
		g.Family = abrasive.Diamond
	}
	return g
}

// find returns the thing of an ID, nil where there is none.
func find(shelf []Shelved, id string) *Shelved {
	if at := slices.IndexFunc(shelf, func(s Shelved) bool { return s.ID == id }); id != "" && at >= 0 {
		return &shelf[at]
	}
	return nil
}

// name gives the things of the kit that choices take the names that they have there. It returns a
// diagram.Problem where the kit has no such thing.
func (k *Kit) name(ctx context.Context, c Choices) (Choices, error) {
	missing := func(field diagram.Field, text string) error {
		return diagram.Problem{Code: NoSuchItem, TierNo: -1, Field: field, Text: text}
	}
	take := func(id string, kind ItemKind, text *string, field diagram.Field) error {
		if id == "" {
			return nil
		}
		i, err := k.store.Item(ctx, id)
		if errors.Is(err, ErrNotFound) || err == nil && i.Kind != kind {
			return missing(field, *text)
		}
		*text = i.Name
		return err
	}
	c.Passes, c.Holds = slices.Clone(c.Passes), slices.Clone(c.Holds)
	for i := range c.Passes {
		p := &c.Passes[i]
		if err := cmp.Or(take(p.LapItem, LapItem, &p.Lap, "passes"), take(p.CompoundItem, CompoundItem, &p.Compound, "passes")); err != nil {
			return c, err
		}
	}
	for i := range c.Holds {
		h := &c.Holds[i]
		if err := cmp.Or(take(h.DopItem, DopItem, &h.Dop, "holds"), take(h.AdhesiveItem, AdhesiveItem, &h.Adhesive, "holds")); err != nil {
			return c, err
		}
	}
	return c, nil
}

// propose takes passes and holds of new choices from the shelf: things that are gone become words, words are
// matched with the things that they mean, and the last pass gets what the material is usually
// polished with.
func (k *Kit) propose(ctx context.Context, m material.Material, c *Choices) error {
	shelf, err := k.Shelf(ctx)
	if err != nil {
		return err
	}
	settings, err := k.preferences.Settings(ctx)
	if err != nil {
		return err
	}
	trials, err := k.store.PolishTrials(ctx)
	if err != nil {
		return err
	}
	takeFrom(shelf, trials, m, settings.Abrasives.Limits, c)
	return nil
}

// Polish is what a material is polished with here. Trials is on how many trials that rests, 0 where
// it is what it is usually polished with.
type Polish struct {
	Pass
	Trials int
}

// Polishes returns with what each of some materials is polished here: what did best in trials, else
// what it is usually polished with, taken from the shelf as far as that has it.
func (k *Kit) Polishes(ctx context.Context, materials []material.Material) ([]Polish, error) {
	shelf, err := k.Shelf(ctx)
	if err != nil {
		return nil, err
	}
	settings, err := k.preferences.Settings(ctx)
	if err != nil {
		return nil, err
	}
	trials, err := k.store.PolishTrials(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]Polish, len(materials))
	for i, m := range materials {
		c := Choices{Laps: Laps{Passes: []Pass{{ID: "polish"}}}}
		takeFrom(shelf, trials, m, settings.Abrasives.Limits, &c)
		out[i].Pass = c.Passes[0]
		if best, ok := bestPolish(trials, m, shelf); ok {
			out[i].Trials = best.Trials
		}
	}
	return out, nil
}

// takeFrom takes the passes of new choices from a shelf. A last pass that is left to the material gets
// what did best in trials.
func takeFrom(shelf []Shelved, trials []PolishTrial, m material.Material, l abrasive.Limits, c *Choices) {
	shelf = slices.DeleteFunc(slices.Clone(shelf), func(s Shelved) bool { return s.Gone })
	open := c.openPolish()
	c.Passes, c.Holds = slices.Clone(c.Passes), slices.Clone(c.Holds)
	for i := range c.Holds {
		h := &c.Holds[i]
		if h.DopItem != "" && find(shelf, h.DopItem) == nil {
			h.DopItem = ""
		}
		if h.AdhesiveItem != "" && find(shelf, h.AdhesiveItem) == nil {
			h.AdhesiveItem = ""
		}
	}
	if best, ok := bestPolish(trials, m, shelf); ok && open {
		p := &c.Passes[len(c.Passes)-1]
		p.Lap, p.LapItem, p.Compound, p.CompoundItem = best.Lap, best.LapItem, best.Compound, best.CompoundItem
	}
	c.Laps = c.suited(m)
	for i := range c.Passes {
		p := &c.Passes[i]
		if find(shelf, p.CompoundItem) == nil {
			p.CompoundItem = ""
			if s := meant(shelf, p.Compound, m, l, func(s Shelved) bool { return s.Compound != nil }); s != nil {
				p.CompoundItem, p.Compound = s.ID, s.Name
			}
		}
		if find(shelf, p.LapItem) == nil {
			p.LapItem = ""
			polish := i == len(c.Passes)-1 && open
			if s := meant(shelf, p.Lap, m, l, func(s Shelved) bool { return s.Lap != nil && (!polish || s.Lap.Polishes) }); s != nil {
				p.LapItem, p.Lap = s.ID, s.Name
			}
		}
	}
}

// meant finds the thing that words mean: one of that name, else one of that grain or material, and of
// several the cleanest for the stone.
func meant(shelf []Shelved, text string, m material.Material, l abrasive.Limits, is func(Shelved) bool) *Shelved {
	if text == "" {
		return nil
	}
	var best *Shelved
	least := math.Inf(1)
	for i, s := range shelf {
		if !is(s) || s.Lap != nil && s.Lap.KeptFor != "" && !strings.EqualFold(s.Lap.KeptFor, m.Name) {
			continue
		}
		if strings.EqualFold(s.Name, text) {
			return &shelf[i]
		}
		if !s.suits(text) {
			continue
		}
		on, _ := s.Against(m, abrasive.Grit{}, l)
		if cost := float64(len(on) + len(s.Needs)); cost < least {
			best, least = &shelf[i], cost
		}
	}
	return best
}

// sameGrain is by how much two grains differ that go by one figure.
const sameGrain = 1.1

func alike(a, b float64) bool { return a > 0 && b > 0 && math.Max(a/b, b/a) <= sameGrain }

// suits tells whether words could mean a thing: they name its grain, its family or what it is made of.
func (s Shelved) suits(text string) bool {
	grit := gritOf(text)
	switch {
	case s.Compound != nil:
		return grit.Family == s.Compound.Family && (alike(s.Compound.Grain, grit.Grain) || grit.Grain == 0)
	case s.Lap != nil && grit.Grain > 0:
		return alike(s.Lap.Grain, grit.Grain)
	case s.Lap != nil:
		return strings.EqualFold(s.Lap.Of, text) || strings.EqualFold(string(s.Lap.Surface), text)
	}
	return false
}
