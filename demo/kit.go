package demo

import (
	"context"
	"fmt"
	"time"

	"cressa/core/abrasive"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// thing is a thing of the workshop's shelf, with what happened to it before the stones of the scenario.
type thing struct {
	workshop.Guess
	// daysAgo is when it came.
	daysAgo int
	// say changes what was guessed of it.
	say func(*workshop.Item)
	log []past
}

// past is something that happened to a thing.
type past struct {
	daysAgo int
	kind    journal.Kind
	payload any
}

// The names that the workshop writes on its things.
const (
	lap260, lap600, lap1200, lap3000 = "260", "600", "1200", "3000"
	tin, zinc, film                  = "Tin", "Zinc, 0.5 µm", "Cerium film"
	alumina, halfMicron, cerium      = "Alumina 0.3 µm", "Diamond 0.5 µm", "Cerium oxide"
	wax, instant, epoxy              = "Dop wax, brown", "Cyanoacrylate", "Epoxy, 24 h"
)

// shelf is what lies in the workshop after a year.
func shelf() []thing {
	of := func(kind workshop.ItemKind, name string, size float64, daysAgo int, log ...past) thing {
		return thing{Guess: workshop.Guess{Kind: kind, Name: name, Size: size}, daysAgo: daysAgo, log: log}
	}
	saying := func(t thing, say func(*workshop.Item)) thing {
		t.say = say
		return t
	}
	cleaned := func(daysAgo int, way abrasive.Cleaning) past {
		return past{daysAgo, journal.Cleaned, journal.Cleaning{Way: string(way)}}
	}
	counted := func(daysAgo int, have float64) past {
		return past{daysAgo, journal.Counted, journal.Count{Have: have}}
	}
	charged := func(daysAgo int, name string, family abrasive.Family, grain float64, stones, facets int) past {
		return past{daysAgo, journal.Charged, journal.Charging{Name: name, Family: string(family), Grain: grain, Had: journal.Span{Stones: stones, Facets: facets}}}
	}
	renewed := func(daysAgo, stones, facets int) past {
		return past{daysAgo, journal.Renewed, journal.Renewing{Had: journal.Span{Stones: stones, Facets: facets}}}
	}
	flat := 12.0
	out := []thing{
		of(workshop.LapItem, lap260, 150, 370, cleaned(200, abrasive.Dress), cleaned(90, abrasive.Scrub)),
		of(workshop.LapItem, lap600, 150, 370, cleaned(210, abrasive.Dress), cleaned(60, abrasive.Dress)),
		of(workshop.LapItem, lap1200, 150, 150),
		of(workshop.LapItem, lap3000, 150, 370, cleaned(120, abrasive.Scrub), cleaned(30, abrasive.Scrub)),
		saying(of(workshop.LapItem, tin, 150, 370,
			past{140, journal.Cleaned, journal.Cleaning{Way: string(abrasive.Skim), Flatness: &flat}}, charged(139, alumina, abrasive.Alumina, 0.3, 11, 742),
			past{2, journal.Touched, journal.Touching{Family: string(abrasive.Diamond), Grain: 3}},
		), func(i *workshop.Item) {
			i.Note = "Turned by hand from the old font. Rim has a nick at the edge: stay off the last 5 mm."
		}),
		saying(of(workshop.LapItem, zinc, 150, 300, charged(80, halfMicron, abrasive.Diamond, 0.5, 6, 390)), func(i *workshop.Item) { i.Lap.KeptFor = "Spinel" }),
		of(workshop.LapItem, film, 150, 360, renewed(290, 4, 251), renewed(200, 5, 330), renewed(125, 4, 262), counted(125, 3)),
		saying(of(workshop.CompoundItem, alumina, 50, 365, counted(8, 31)), func(i *workshop.Item) { i.Compound.Carrier = "water" }),
		saying(of(workshop.CompoundItem, halfMicron, 5, 300, counted(8, 1)), func(i *workshop.Item) { i.Compound.Carrier, i.Low, i.Unit = "oil", 1, "g" }),
		saying(of(workshop.CompoundItem, cerium, 250, 365, counted(8, 170)), func(i *workshop.Item) { i.Compound.Carrier = "water" }),
		of(workshop.AdhesiveItem, wax, 4, 365, counted(30, 3)),
		of(workshop.AdhesiveItem, instant, 3, 420, counted(30, 2)),
		of(workshop.AdhesiveItem, epoxy, 2, 160, counted(30, 2)),
		of(workshop.BladeItem, "Trim saw blade, 0.4 mm", 100, 365),
		saying(of(workshop.SupplyItem, "Alcohol", 500, 365, counted(8, 90)), func(i *workshop.Item) { i.Unit, i.Low = "ml", 100 }),
		of(workshop.SupplyItem, "Fine marker pens", 6, 200, counted(8, 4)),
		of(workshop.SupplyItem, "Dressing sticks", 4, 365, counted(60, 2)),
	}
	for _, mm := range []float64{3, 5, 7, 9} {
		for _, shape := range []string{"Flat", "Cone"} {
			out = append(out, of(workshop.DopItem, fmt.Sprintf("%s dop %g mm", shape, mm), mm, 365))
		}
	}
	return append(out, of(workshop.DopItem, "V dop 6 mm", 6, 365))
}

// shelve fills the shelf as it was before the first stone.
func (f *filler) shelve(ctx context.Context, at time.Time) error {
	f.kit = map[string]string{}
	for _, t := range shelf() {
		f.now = at.AddDate(0, 0, -t.daysAgo)
		made, err := f.workshop.AddItem(ctx, t.Guess)
		if err != nil {
			return fmt.Errorf("%s: %w", t.Name, err)
		}
		f.kit[t.Name] = made.ID
		if t.say != nil {
			item := made.Item
			t.say(&item)
			if _, err := f.workshop.SaveItem(ctx, item); err != nil {
				return fmt.Errorf("%s: %w", t.Name, err)
			}
		}
	}
	return nil
}

// use tells what happened to the things of the shelf within a span of days, both ends counted from the
// present, the earlier one excluded.
func (f *filler) use(ctx context.Context, at time.Time, from, to int) error {
	for _, t := range shelf() {
		for _, p := range t.log {
			if p.daysAgo > from || p.daysAgo <= to {
				continue
			}
			f.now = at.AddDate(0, 0, -p.daysAgo)
			if r, new := p.payload.(journal.Renewing); new {
				r.On = f.now.Format(time.DateOnly)
				p.payload = r
			}
			if err := f.happened(ctx, f.kit[t.Name], p); err != nil {
				return fmt.Errorf("%s: %w", t.Name, err)
			}
		}
	}
	return nil
}

// happened adds to the log of a thing as the application would have at the time: what it had done by
// then is told, because the stones of that time are not in the scenario.
func (f *filler) happened(ctx context.Context, item string, p past) error {
	f.seq++
	seq, err := f.store.InsertEvent(ctx, journal.Event{
		ID: fmt.Sprintf("%032x", f.seq), Stream: journal.OfItem(item), Device: "demo", DeviceSeq: f.seq, DeviceTime: f.now,
		Kind: p.kind, Version: 1, Payload: journal.Payload(p.payload), ServerTime: f.now,
	})
	if err == nil && (p.kind == journal.Charged || p.kind == journal.Renewed) {
		err = f.store.CountFrom(ctx, item, seq)
	}
	return err
}

// polish is what a stone of a material is polished with here: lap and compound.
func polish(material string) (lap, compound string) {
	switch material {
	case "Spinel":
		return zinc, halfMicron
	case "Practice glass", "Aquamarine", "Iolite":
		return film, cerium
	}
	return tin, alumina
}

// laps are those that the workshop cuts its gifts of a material with.
func (f *filler) laps(material string) workshop.Laps {
	l := workshop.DefaultHabits().Laps
	of := func(pass *workshop.Pass, lap, compound string) {
		pass.Lap, pass.LapItem, pass.Compound, pass.CompoundItem = lap, f.kit[lap], compound, f.kit[compound]
	}
	of(&l.Passes[0], lap600, "")
	of(&l.Passes[1], lap3000, "")
	lap, compound := polish(material)
	of(&l.Passes[2], lap, compound)
	return l
}

// holds are the dops and adhesives of a gift: wax first, epoxy for the transfer, and nothing warm for
// what does not bear it.
func (f *filler) holds(widthMM float64, material string) []workshop.Hold {
	mm := 3
	for _, size := range []int{5, 7, 9} {
		if float64(size) <= 0.8*widthMM {
			mm = size
		}
	}
	flat, cone, first := fmt.Sprintf("Flat dop %d mm", mm), fmt.Sprintf("Cone dop %d mm", mm), wax
	if material == "Kunzite" || material == "Sphene" {
		first = epoxy
	}
	return []workshop.Hold{
		{Dop: flat, DopItem: f.kit[flat], Adhesive: first, AdhesiveItem: f.kit[first]},
		{Dop: cone, DopItem: f.kit[cone], Adhesive: epoxy, AdhesiveItem: f.kit[epoxy]},
	}
}

// try notes what the workshop has tried: polishes against each other, and stones that visitors judged.
func (f *filler) try(ctx context.Context, at time.Time) error {
	way := func(facet, lap, compound string, rpm float64, minutes float64, result int) workshop.PolishWay {
		return workshop.PolishWay{
			Facet: facet, Lap: lap, LapItem: f.kit[lap], Compound: compound, CompoundItem: f.kit[compound], RPM: rpm, Pressure: workshop.Light, Minutes: minutes, Result: result,
		}
	}
	for _, t := range []struct {
		daysAgo  int
		material string
		ways     []workshop.PolishWay
		note     string
	}{
		{94, "Peridot", []workshop.PolishWay{way("C2 at 12", tin, alumina, 180, 3, 4), way("C2 at 60", film, cerium, 180, 7, 2)}, "The film drags on it; alumina came up in one go."},
		{93, "Peridot", []workshop.PolishWay{way("C1 at 24", tin, alumina, 140, 4, 3), way("C1 at 72", zinc, halfMicron, 140, 2, 1)}, "Diamond scratched where the lap was dry."},
		{43, "Spinel", []workshop.PolishWay{way("P1 at 96", zinc, halfMicron, 300, 2, 4), way("P1 at 48", tin, alumina, 300, 9, 2)}, ""},
		{22, "Iolite", []workshop.PolishWay{way("T", film, cerium, 150, 5, 3)}, ""},
	} {
		f.now = at.AddDate(0, 0, -t.daysAgo)
		if _, err := f.workshop.AddPolishTrial(ctx, workshop.PolishTrial{Material: t.material, Ways: t.ways, Note: t.note}); err != nil {
			return fmt.Errorf("polish of %s: %w", t.material, err)
		}
	}
	f.now = at.AddDate(0, 0, -20)
	trial, err := f.workshop.AddBlindTrial(ctx, workshop.BlindTrial{
		Name: "Glass twins at the open evening", Question: "Which of them looks brighter?", Differs: "how far the girdle is taken",
		Entries: []workshop.BlindEntry{{What: "girdle polished"}, {What: "girdle left as cut"}},
	})
	if err != nil {
		return err
	}
	brighter := ""
	for _, e := range trial.Entries {
		if e.What == "girdle polished" {
			brighter = e.Letter
		}
	}
	for i, judge := range []string{"Ines", "Mr. Halvorsen", "Toma", "Ms. Averill", "Piet", "Noor", "Lena", "Dr. Oyelaran", "Sanna"} {
		f.now = f.now.Add(4 * time.Minute)
		v := workshop.Verdict{Judge: judge, Letter: brighter}
		if i == 3 {
			v.Letter, v.Note = "", "Under the lamps of the foyer I cannot tell."
		}
		if err := f.workshop.Judge(ctx, trial.ID, v); err != nil {
			return err
		}
	}
	if _, err := f.workshop.OpenTrial(ctx, trial.ID); err != nil {
		return err
	}
	f.now = at.AddDate(0, 0, -2)
	waiting, err := f.workshop.AddBlindTrial(ctx, workshop.BlindTrial{
		Name: "Two polishes on spinel", Question: "Which of them is sharper at the edges?", Differs: "what it is polished with",
		Entries: []workshop.BlindEntry{{What: "zinc with diamond"}, {What: "tin with alumina"}},
	})
	if err != nil {
		return err
	}
	return f.workshop.Judge(ctx, waiting.ID, workshop.Verdict{Judge: "Ines", Letter: waiting.Entries[0].Letter})
}
