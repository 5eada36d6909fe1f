package workshop

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"time"

	"cressa/core/abrasive"
	"cressa/core/diagram"
	"cressa/core/material"
)

// PolishTrial is what a polish made of a facet or, where there are two ways, of a facet and the one
// opposite it in the same stone.
type PolishTrial struct {
	ID       string
	Material string `validate:"required,max=60"`
	// Stone is the ID of the stone it was made on, "" where that is not in the records.
	Stone string      `validate:"max=40"`
	Ways  []PolishWay `validate:"min=1,max=2,dive"`
	Note  string      `validate:"max=2000"`
	Made  time.Time
}

// PolishWay is one way of polishing, and what came of it.
type PolishWay struct {
	// Facet is the one it was made on, in words.
	Facet        string `validate:"max=40"`
	Lap          string `validate:"max=60"`
	LapItem      string `validate:"max=40"`
	Compound     string `validate:"max=60"`
	CompoundItem string `validate:"max=40"`
	// RPM is how fast the lap turned, 0 where that is not known.
	RPM      float64  `validate:"min=0,max=10000"`
	Pressure Pressure `validate:"omitempty,oneof=light medium firm"`
	// Strokes and Minutes are what it took until it was done, 0 where nobody counted.
	Strokes int     `validate:"min=0,max=100000"`
	Minutes float64 `validate:"min=0,max=1000"`
	// Result is from 1, scratched, over 2, dull, and 3, good, to 4, flawless.
	Result int `validate:"min=1,max=4"`
	// Photo is the hash of a photo of the stone, "" for none.
	Photo string `validate:"max=64"`
}

// Speed is how fast the lap ran under the stone, in m/s, in the middle of the track of a lap of the
// shelf; 0 where that is not known.
func (w PolishWay) Speed(shelf []Shelved) float64 {
	lap := find(shelf, w.LapItem)
	if lap == nil || lap.Lap == nil {
		return 0
	}
	return abrasive.Speed((lap.Lap.Diameter+lap.Lap.Hub)/4, w.RPM)
}

// Pressure is how firmly a stone was held to the lap. "" is not known.
type Pressure string

// The pressures.
const (
	Light  Pressure = "light"
	Medium Pressure = "medium"
	Firm   Pressure = "firm"
)

// PolishStanding is how a lap and a compound have done on a material.
type PolishStanding struct {
	Lap, LapItem, Compound, CompoundItem string
	// Trials is on how many ways it rests, Mean the mean of their results, Minutes of the times of
	// those that were timed, 0 for none.
	Trials        int
	Mean, Minutes float64
}

// goodPolish is the mean result from which on a polish is proposed again.
const goodPolish = 3

// StandingsOf ranks what polishes have made of a material, the best first. One that did well once
// stands behind one that did well again and again: results count as if one middling trial had been
// made before. What is alike goes by its time.
func StandingsOf(trials []PolishTrial, materialName string) []PolishStanding {
	type sum struct {
		PolishStanding
		results, minutes float64
		timed            int
	}
	sums := map[[2]string]*sum{}
	var order [][2]string
	for _, t := range trials {
		if !strings.EqualFold(t.Material, materialName) {
			continue
		}
		for _, w := range t.Ways {
			key := [2]string{cmp.Or(w.LapItem, strings.ToLower(w.Lap)), cmp.Or(w.CompoundItem, strings.ToLower(w.Compound))}
			if sums[key] == nil {
				sums[key] = &sum{}
				order = append(order, key)
			}
			s := sums[key]
			s.Lap, s.LapItem, s.Compound, s.CompoundItem = w.Lap, w.LapItem, w.Compound, w.CompoundItem
			s.Trials++
			s.results += float64(w.Result)
			if w.Minutes > 0 {
				s.minutes += w.Minutes
				s.timed++
			}
		}
	}
	out := make([]PolishStanding, 0, len(order))
	for _, key := range order {
		s := sums[key]
		s.Mean = s.results / float64(s.Trials)
		if s.timed > 0 {
			s.Minutes = s.minutes / float64(s.timed)
		}
		out = append(out, s.PolishStanding)
	}
	const middling = 2.5
	worth := func(s PolishStanding) float64 {
		n := float64(s.Trials)
		return (s.Mean*n + middling) / (n + 1)
	}
	slices.SortStableFunc(out, func(a, b PolishStanding) int {
		return cmp.Or(cmp.Compare(worth(b), worth(a)), cmp.Compare(a.Minutes, b.Minutes))
	})
	return out
}

// bestPolish is the best polish of a material whose lap and compound are there, false where none did
// well.
func bestPolish(trials []PolishTrial, m material.Material, shelf []Shelved) (PolishStanding, bool) {
	for _, s := range StandingsOf(trials, m.Name) {
		there := func(id string) bool {
			item := find(shelf, id)
			return id == "" || item != nil && !item.Gone
		}
		if s.Mean >= goodPolish && there(s.LapItem) && there(s.CompoundItem) {
			return s, true
		}
	}
	return PolishStanding{}, false
}

// PolishTrials returns all trials of a polish, the last first.
func (k *Kit) PolishTrials(ctx context.Context) ([]PolishTrial, error) {
	return k.store.PolishTrials(ctx)
}

// AddPolishTrial keeps a trial of a polish. Things of the kit give it their names. It returns the
// errors of Validate, and a diagram.Problem where the kit has no such thing or the table no such
// material.
func (k *Kit) AddPolishTrial(ctx context.Context, t PolishTrial) (PolishTrial, error) {
	t.ID, t.Made = k.newID(), k.moment()
	if err := Validate(t); err != nil {
		return t, err
	}
	settings, err := k.preferences.Settings(ctx)
	if err != nil {
		return t, err
	}
	if _, known := settings.Material(t.Material); !known {
		return t, diagram.Problem{Code: UnknownMaterial, TierNo: -1, Field: "material", Text: t.Material}
	}
	t.Ways = slices.Clone(t.Ways)
	for i := range t.Ways {
		w := &t.Ways[i]
		c := Choices{Laps: Laps{Passes: []Pass{{Lap: w.Lap, LapItem: w.LapItem, Compound: w.Compound, CompoundItem: w.CompoundItem}}}}
		if c, err = k.name(ctx, c); err != nil {
			return t, err
		}
		w.Lap, w.Compound = c.Passes[0].Lap, c.Passes[0].Compound
	}
	return t, k.store.InsertPolishTrial(ctx, t)
}

// DropPolishTrial takes a trial out that was noted by mistake. It returns ErrNotFound.
func (k *Kit) DropPolishTrial(ctx context.Context, id string) error {
	return k.store.DropPolishTrial(ctx, id)
}
