package workshop

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"cressa/core/abrasive"
)

// Starter is a thing that a beginner needs.
type Starter struct {
	Guess
	// Why is what it is for.
	Why StarterReason
	// Have tells that the shelf has such a thing.
	Have bool
}

// StarterReason is what a thing is for.
type StarterReason string

// The reasons.
const (
	ToRough     StarterReason = "rough"
	ToCut       StarterReason = "cut"
	ToPrepolish StarterReason = "prepolish"
	ToPolish    StarterReason = "polish"
	ToPolishOx  StarterReason = "polish-oxide"
	ToCharge    StarterReason = "charge"
	ToHoldWarm  StarterReason = "hold-warm"
	ToHoldCold  StarterReason = "hold-cold"
	ToHoldFast  StarterReason = "hold-fast"
	ToDop       StarterReason = "dop"
	ToIndex     StarterReason = "index"
	ToSaw       StarterReason = "saw"
	ToClean     StarterReason = "clean"
	ToMark      StarterReason = "mark"
	ToDress     StarterReason = "dress"
)

// StarterShelf lists what a beginner needs on a machine, with laps of a diameter in mm, and what of it
// the shelf has. On a machine whose laps turn under a hand-held peg no gear is needed.
func (k *Kit) StarterShelf(ctx context.Context, machineID string, diameter float64) ([]Starter, error) {
	settings, err := k.preferences.Settings(ctx)
	if err != nil {
		return nil, err
	}
	shelf, err := k.Shelf(ctx)
	if err != nil {
		return nil, err
	}
	lap := func(name string, why StarterReason) Starter {
		return Starter{Guess: Guess{LapItem, name, diameter}, Why: why}
	}
	of := func(kind ItemKind, name string, size float64, why StarterReason) Starter {
		return Starter{Guess: Guess{kind, name, size}, Why: why}
	}
	// A charge goes by the area: grams of diamond that a year of one lap takes, at least one.
	grams := max(1, float64(int(abrasive.Area(diameter, usualHub)/100)))
	out := []Starter{
		lap("Plated 260", ToRough), lap("Plated 600", ToCut), lap("Plated 3000", ToPrepolish),
		lap("Tin", ToPolish), of(CompoundItem, "Diamond 0.5 µm", grams, ToCharge),
		lap("Plastic", ToPolishOx), of(CompoundItem, "Cerium oxide", 10*grams, ToCharge),
		of(AdhesiveItem, "Dop wax", 2, ToHoldWarm), of(AdhesiveItem, "Cyanoacrylate", 2, ToHoldCold), of(AdhesiveItem, "Epoxy, 24 h", 1, ToHoldFast),
	}
	for _, mm := range []float64{4, 6, 8, 10} {
		for _, shape := range []string{"Flat", "Cone", "V"} {
			out = append(out, of(DopItem, fmt.Sprintf("%s dop %g mm", shape, mm), mm, ToDop))
		}
	}
	if m := settings.MachineOf(machineID); m.Setting == OnProtractor {
		for _, teeth := range m.Gears {
			out = append(out, of(GearItem, gearName(teeth), float64(teeth), ToIndex))
		}
		if len(m.Gears) == 0 {
			out = append(out, of(GearItem, gearName(96), 96, ToIndex))
		}
	}
	out = append(out, of(BladeItem, "Trim saw blade", 100, ToSaw), of(SupplyItem, "Alcohol, ml", 500, ToClean),
		of(SupplyItem, "Fine marker pens", 4, ToMark), of(SupplyItem, "Dressing sticks", 2, ToDress))
	for i, s := range out {
		meant, _ := k.guess(s.Guess, shelf, settings)
		out[i].Have = s.Kind == GearItem && slices.Contains(settings.MachineOf(machineID).Gears, int(s.Size)) ||
			slices.ContainsFunc(shelf, func(o Shelved) bool { return !o.Gone && o.serves(meant) })
	}
	return out, nil
}

// serves tells whether a thing does for one that is meant: it has its name, or is of its sort and size.
func (s Shelved) serves(meant Item) bool {
	switch {
	case s.Kind != meant.Kind:
		return false
	case strings.EqualFold(s.Name, meant.Name):
		return true
	case s.Lap != nil && meant.Lap.Grain > 0:
		return alike(s.Lap.Grain, meant.Lap.Grain)
	case s.Compound != nil:
		return s.Compound.Family == meant.Compound.Family && alike(s.Compound.Grain, meant.Compound.Grain)
	case s.Adhesive != nil:
		return s.Adhesive.Sort == meant.Adhesive.Sort
	case s.Dop != nil:
		return *s.Dop == *meant.Dop
	case s.Blade != nil:
		return true
	}
	return s.Kind == SupplyItem && strings.HasPrefix(meant.Name, s.Name)
}
