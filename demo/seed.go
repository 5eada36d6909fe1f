package demo

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"time"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/quick"
	"cressa/core/rough"
	"cressa/sqlite"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// Size is how large a drawn workshop is, and what it is drawn from.
type Size struct {
	Stones, Diagrams, Events int
	Seed                     uint64
}

// began is when drawn workshops opened.
var began = time.Date(2020, 1, 2, 18, 0, 0, 0, time.UTC)

// Seed draws a workshop into a new database file: diagrams, rough, stones in every state, in runs
// too, some that came in for repair, and logs that fit their plans. The same size gives
// the same workshop. It returns the first error of the store.
func Seed(ctx context.Context, file string, size Size) (err error) {
	store, err := sqlite.Open(ctx, file)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, store.Close()) }()
	var key [32]byte
	for i := range 8 {
		key[i] = byte(size.Seed >> (8 * i))
	}
	names := rand.NewChaCha8(key)
	d := drawer{size: size, random: rand.New(rand.NewPCG(size.Seed, 3)), now: began, store: store}
	d.workshop = workshop.NewDrawn(store, func() time.Time { return d.now }, names)
	if err := errors.Join(d.settings(ctx), d.shelf(ctx)); err != nil {
		return err
	}
	if err := d.diagrams(ctx); err != nil {
		return err
	}
	return errors.Join(d.stones(ctx), d.rough(ctx))
}

// rough draws a piece for every second stone, in parcels of forty, boxes and hulls with a flaw here and
// there.
func (d *drawer) rough(ctx context.Context) error {
	const inParcel, corners = 40, 24
	made := 0
	var parcel string
	return d.together(ctx, func() bool { return made < d.size.Stones/2 }, func(ctx context.Context) error {
		if made%inParcel == 0 {
			p, err := d.workshop.SaveParcel(ctx, workshop.Parcel{
				Name: fmt.Sprintf("%s lot %d", pick(d.random, skies...), made/inParcel+1),
				Cost: workshop.ParcelCost{Per: workshop.ByGram, Amount: int64(200 + d.random.IntN(800)), Currency: "EUR"},
			})
			if err != nil {
				return err
			}
			parcel = p.ID
		}
		made++
		r := rough.Rough{Material: pick(d.random, "Quartz", "Peridot", "Spinel", "Iolite"), Solid: rough.Solid{Kind: rough.KindBox}}
		size := func() float64 { return float64(60+d.random.IntN(80)) / 10 }
		r.Solid.Size = r3.Vec{X: size(), Y: size(), Z: size()}
		if made%3 == 0 {
			r.Solid = rough.Solid{Kind: rough.KindHull}
			for range corners {
				v := r3.Unit(r3.Vec{X: d.random.NormFloat64(), Y: d.random.NormFloat64(), Z: d.random.NormFloat64()})
				r.Solid.Points = append(r.Solid.Points, r3.Vec{X: 6 * v.X, Y: 5 * v.Y, Z: 4 * v.Z})
			}
		}
		if made%2 == 0 {
			r.Flaws = []rough.Flaw{{Name: "veil", Kind: rough.Disc, At: r3.Vec{X: 2, Y: 1}, Radius: 1, Normal: r3.Vec{X: 1, Z: 1}, Rule: rough.Out}}
		}
		_, err := d.workshop.SavePiece(ctx, workshop.Piece{Parcel: parcel, Weighed: workshop.Weighed{Unit: "ct"}, Rough: r, Fate: workshop.Whole})
		return err
	})
}

// drawer draws a workshop.
type drawer struct {
	size     Size
	random   *rand.Rand
	now      time.Time
	store    *sqlite.Store
	workshop *workshop.Workshop
	library  []string
	// kit holds the IDs of the shelf's things by the names on them.
	kit map[string]string
	seq int64
	// events and stones are how many are there already.
	events, made int
}

func (d *drawer) settings(ctx context.Context) error {
	settings := workshop.DefaultSettings()
	settings.Answered = true
	settings.Machines = machines()
	settings.Machine = settings.Machines[0].ID
	_, err := d.workshop.SaveSettings(ctx, settings)
	return err
}

// shelf is what all stones are cut with.
func (d *drawer) shelf(ctx context.Context) error {
	d.kit = map[string]string{}
	for _, g := range []workshop.Guess{
		{Kind: workshop.LapItem, Name: lap600, Size: 150}, {Kind: workshop.LapItem, Name: lap3000, Size: 150}, {Kind: workshop.LapItem, Name: tin, Size: 150},
		{Kind: workshop.CompoundItem, Name: alumina, Size: 50}, {Kind: workshop.AdhesiveItem, Name: wax, Size: 4}, {Kind: workshop.DopItem, Name: "Flat dop 6 mm", Size: 6},
	} {
		made, err := d.workshop.AddItem(ctx, g)
		if err != nil {
			return err
		}
		d.kit[g.Name] = made.ID
		d.events += len(made.History)
	}
	return nil
}

func pick[T any](r *rand.Rand, list ...T) T { return list[r.IntN(len(list))] }

// together runs f for n things, many in one transaction: a drawn workshop need not survive
// a power cut half-way.
func (d *drawer) together(ctx context.Context, more func() bool, f func(context.Context) error) error {
	const many = 200
	for more() {
		if err := d.store.InTx(ctx, func(ctx context.Context) error {
			for n := 0; n < many && more(); n++ {
				if err := f(ctx); err != nil {
					return err
				}
			}
			return nil
		}); err != nil {
			return err
		}
	}
	return nil
}

// skies name diagrams and stones.
var skies = []string{"Halo", "Comet", "Zenith", "Node", "Limb", "Aphelion", "Corona", "Quadrant", "Parsec", "Umbra", "Nadir", "Transit", "Equinox", "Azimuth", "Perigee"}

func (d *drawer) diagrams(ctx context.Context) error {
	return d.together(ctx, func() bool { return len(d.library) < d.size.Diagrams }, func(ctx context.Context) error {
		no := len(d.library) + 1
		drawn, err := quick.Design(quick.Wish{
			Name:    fmt.Sprintf("%s %d", pick(d.random, skies...), no),
			Outline: pick(d.random, quick.Oval, quick.Cushion, quick.Rectangle), LengthWidth: float64(100+d.random.IntN(60)) / 100,
			Girdle: 4 * (2 + d.random.IntN(4)), Gear: pick(d.random, 64, 72, 80, 96, 120),
			RefractiveIndex: float64(143+d.random.IntN(70)) / 100, Pavilion: quick.Fan, Crown: pick(d.random, quick.Bevel, quick.Steps),
			Table: float64(45+d.random.IntN(20)) / 100,
		})
		if err != nil {
			return err
		}
		d.now = d.now.Add(time.Hour)
		added, err := d.workshop.ImportDraft(ctx, diagram.DraftOf(drawn), "drawn", false)
		d.library = append(d.library, added.ID)
		return err
	})
}

func (d *drawer) stones(ctx context.Context) error {
	return d.together(ctx, func() bool { return d.made < d.size.Stones }, func(ctx context.Context) error {
		d.now = d.now.Add(time.Duration(1+d.random.IntN(20)) * time.Hour)
		left := d.size.Stones - d.made
		switch kind := d.random.IntN(12); {
		case kind == 0 && left > 1:
			return d.run(ctx, min(left, 2+d.random.IntN(6)))
		case kind == 1:
			return d.repair(ctx)
		}
		stone, err := d.workshop.PlanStone(ctx, fmt.Sprintf("%s for the dome", pick(d.random, skies...)), pick(d.random, d.library...), d.choices())
		if err != nil {
			return err
		}
		return d.cut(ctx, stone)
	})
}

func (d *drawer) choices() workshop.Choices {
	habits := workshop.DefaultHabits()
	mm := float64(40+d.random.IntN(80)) / 10
	return workshop.Choices{
		Material: pick(d.random, "Peridot", "Spinel", "Aquamarine", "Kunzite", "Iolite", "Sphene", "Practice glass"), Gear: pick(d.random, 64, 72, 96),
		FirstSide: diagram.Pavilion, Size: workshop.Size{Basis: workshop.AcrossWidth, MM: mm, Typed: diagram.FormatNumber(mm)},
		PlanHabits: habits.PlanHabits, Laps: workshop.Laps{Passes: d.passes(habits.Passes)[:1+d.random.IntN(len(habits.Passes))]},
		Holds: []workshop.Hold{{DopItem: d.kit["Flat dop 6 mm"], AdhesiveItem: d.kit[wax]}},
	}
}

// passes go over the laps of the shelf.
func (d *drawer) passes(list []workshop.Pass) []workshop.Pass {
	list = slices.Clone(list)
	list[0].LapItem, list[1].LapItem, list[2].LapItem, list[2].CompoundItem = d.kit[lap600], d.kit[lap3000], d.kit[tin], d.kit[alumina]
	return list
}

func (d *drawer) run(ctx context.Context, stones int) error {
	run, err := d.workshop.PlanRun(ctx, fmt.Sprintf("%s set", pick(d.random, skies...)), pick(d.random, d.library...), d.choices(), pick(d.random, workshop.TierByTier, workshop.StoneByStone), stones)
	if err != nil {
		return err
	}
	_, all, err := d.workshop.Run(ctx, run.ID)
	if err != nil {
		return err
	}
	for _, stone := range all {
		if err := d.cut(ctx, stone); err != nil {
			return err
		}
	}
	return nil
}

func (d *drawer) repair(ctx context.Context) error {
	stone, err := d.workshop.TakeIn(ctx, fmt.Sprintf("Ring stone from the %s room", pick(d.random, skies...)), workshop.Intake{
		Owner: pick(d.random, "Ms. Averill", "Mr. Lindqvist", "Dr. Oyelaran"), Material: "Spinel", WidthMM: 7, Damage: "A chip at the girdle.",
		Promised: d.now.AddDate(0, 0, 20).Format(time.DateOnly),
	})
	if err != nil {
		return err
	}
	var log []journal.Event
	for n := d.quota(); len(log) < n; {
		kind := journal.Begin
		if len(log)%2 == 1 {
			kind = journal.End
		}
		d.now = d.now.Add(time.Duration(1+d.random.IntN(40)) * time.Minute)
		log = append(log, d.event(stone, kind, struct{}{}))
	}
	return d.end(ctx, stone, log, len(log) > 0 && d.random.IntN(2) == 0)
}

// quota is how many events the next stone gets: its share of those that are left, the last
// stone all of them.
func (d *drawer) quota() int {
	events, stones := d.size.Events-d.events, d.size.Stones-d.made
	if stones <= 1 {
		return events
	}
	return min(events, d.random.IntN(2*events/stones+1))
}

func (d *drawer) event(stone workshop.Stone, kind journal.Kind, payload any) journal.Event {
	d.seq++
	return journal.Event{
		ID: fmt.Sprintf("%016x%016x", d.size.Seed, d.seq), Stream: journal.OfWork(stone.Work().ID), Device: "drawn", DeviceSeq: d.seq, DeviceTime: d.now,
		Kind: kind, Version: 1, Payload: journal.Payload(payload),
	}
}

// cut ticks a stone's visits in order as far as its quota goes. What is left over is taken
// back and ticked again, as hands do.
func (d *drawer) cut(ctx context.Context, stone workshop.Stone) error {
	// The plan is an event of the log as well.
	d.events++
	visits := stone.Work().Plan.Asked().Visits()
	quota, at := d.quota(), 0
	var log []journal.Event
	add := func(kind journal.Kind, payload any) {
		d.now = d.now.Add(time.Duration(20+d.random.IntN(90)) * time.Second)
		log = append(log, d.event(stone, kind, payload))
	}
	for len(log) < quota {
		switch {
		case at < len(visits) && (at == 0 || d.random.IntN(40) > 0):
			add(journal.Done, visits[at])
			at++
		case at > 0 && quota-len(log) >= 2:
			again := log[len(log)-1]
			if again.Kind != journal.Done {
				add(journal.Note, journal.Noted{Text: "Wiped the lap and charged it again."})
				continue
			}
			add(journal.Undo, journal.TakenBack{Undoes: again.ID})
			add(journal.Done, visits[at-1])
		default:
			add(journal.Note, journal.Noted{Text: "Enough for tonight."})
		}
	}
	return d.end(ctx, stone, log, at == len(visits) && d.random.IntN(5) > 0)
}

// end sends a stone's log and writes its card where it is finished.
func (d *drawer) end(ctx context.Context, stone workshop.Stone, log []journal.Event, finished bool) error {
	d.made++
	d.events += len(log)
	answers, err := d.workshop.Append(ctx, log)
	if err != nil {
		return err
	}
	for i, a := range answers {
		if a.Outcome != workshop.Stored {
			return fmt.Errorf("stone %d, event %d: %s", stone.Number, i, a.Reason)
		}
	}
	// A card is an event of the log as well.
	if !finished || d.events >= d.size.Events {
		return nil
	}
	d.events++
	rough := float64(300+d.random.IntN(900)) / 100
	_, err = d.workshop.FinishStone(ctx, stone.ID, workshop.Finish{
		RoughCarats: rough, FinishedCarats: float64(int(rough*25)) / 100, WidthMM: 7, Finished: d.now.Format(time.DateOnly),
	})
	return err
}
