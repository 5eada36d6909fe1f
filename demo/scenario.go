package demo

import (
	"context"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"cressa/core/diagram"
	"cressa/sqlite"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// gift is one stone of the scenario.
type gift struct {
	name, diagram, material string
	widthMM                 float64
	gear                    int
	// steepest is how steep a facet of a solid is dialled that is held by one face after the other, in degrees; 0 is a stone that is
	// held by its two sides.
	steepest float64
	// daysAgo is when cutting began.
	daysAgo int
	// share of the visits that are done, 0 to 1.
	share float64
	// yield is the finished share of the rough's weight, 0 while it is not finished.
	yield float64
	// note is said half-way, card stands on the logbook card.
	note, card string
}

var gifts = []gift{
	{name: "Practice for the school class", diagram: "First Light", material: "Practice glass", widthMM: 12, gear: 96, daysAgo: 118, share: 1,
		yield: 0.31, card: "Every meet came in. The pupils chose it for the door prize."},
	{name: "Gift for the dome fund, Ms. Averill", diagram: "Three Sisters", material: "Peridot", widthMM: 8, gear: 96, daysAgo: 96, share: 1,
		yield: 0.22, note: "A veil near one corner; turned that corner under P2.", card: "Corner veil gone with the second tier."},
	{name: "Gift for the meridian room", diagram: "Meridian", material: "Aquamarine", widthMM: 7, gear: 96, daysAgo: 71, share: 1,
		yield: 0.27, card: "Deeper colour along the keel, as planned."},
	{name: "Grey night, for the evening curators", diagram: "Dome of Night", material: "Spinel", widthMM: 6.5, gear: 96, daysAgo: 44, share: 1,
		yield: 0.24, note: "Polish slow on C4; wiped the lap and charged it again.", card: "The low rings take a light hand."},
	{name: "Gift for Dr. Oyelaran's observing nights", diagram: "First Light", material: "Iolite", widthMM: 7.5, gear: 96, daysAgo: 23, share: 1,
		yield: 0.26, card: "Blue axis to the table; a little sleepy at the ends of the day."},
	{name: "Blue swirl for the orrery donors", diagram: "Spiral Arm", material: "Spinel", widthMM: 6, gear: 96, daysAgo: 9, share: 1},
	{name: "Sphene for the fire-lane telescope", diagram: "Spiral Arm", material: "Sphene", widthMM: 5.5, gear: 96, daysAgo: 4, share: 0.06},
	{name: "Rose oval for the lecture series", diagram: "Ecliptic", material: "Kunzite", widthMM: 9, gear: 96, daysAgo: 3, share: 0.117,
		note: "Keep it cool: polish in short strokes, check with a finger."},
	{name: "Sea glass for the open day", diagram: "Meridian", material: "Practice glass", widthMM: 10, gear: 96, daysAgo: 1},
}

// Fill writes the scenario into the database file as if it had grown over the months
// before the given moment. It returns the first error of the store, or of a diagram or
// plan of the scenario that no longer works out.
func Fill(ctx context.Context, file string, at time.Time) (err error) {
	store, err := sqlite.Open(ctx, file)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, store.Close()) }()
	f := filler{now: at.AddDate(0, 0, -130), random: rand.New(rand.NewPCG(8, 11)), store: store}
	f.workshop = workshop.New(store, func() time.Time { return f.now })
	if err := FillLibrary(ctx, f.workshop); err != nil {
		return err
	}
	settings := workshop.DefaultSettings()
	settings.Answered = true
	settings.Machines = machines()
	settings.Machine = settings.Machines[0].ID
	settings.Habits = append(settings.Habits, quickHabits())
	settings.Prices = prices()
	if _, err := f.workshop.SaveSettings(ctx, settings); err != nil {
		return err
	}
	// What is thrown away when it stops needs no copies.
	if err := f.workshop.SaveCopyPlan(ctx, workshop.CopyPlan{Every: workshop.Never, Keep: workshop.UsualCopies.Keep}); err != nil {
		return err
	}
	if err := errors.Join(f.shelve(ctx, at), f.use(ctx, at, 1000, gifts[0].daysAgo)); err != nil {
		return err
	}
	page, err := f.workshop.Diagrams(ctx, workshop.DiagramFilter{}, workshop.Cursor{}, 100)
	if err != nil {
		return err
	}
	list := page.Lines
	for i, g := range gifts {
		// Cutting is evening work.
		day := at.AddDate(0, 0, -g.daysAgo)
		f.now = time.Date(day.Year(), day.Month(), day.Day(), 18, 5, 0, 0, time.UTC)
		for _, d := range list {
			if d.Name == g.diagram {
				if err := f.cut(ctx, g, d); err != nil {
					return fmt.Errorf("%s: %w", g.name, err)
				}
			}
		}
		next := 0
		if i+1 < len(gifts) {
			next = gifts[i+1].daysAgo
		}
		if err := f.use(ctx, at, g.daysAgo, next); err != nil {
			return err
		}
	}
	if err := errors.Join(f.try(ctx, at), f.buy(ctx, at, list)); err != nil {
		return err
	}
	// After the stone that was planned that evening, whatever the hour is now.
	yesterday := at.AddDate(0, 0, -1)
	f.now = time.Date(yesterday.Year(), yesterday.Month(), yesterday.Day(), 20, 0, 0, 0, time.UTC)
	if err := errors.Join(f.pair(ctx, list), f.fromPiece(ctx), f.repair(ctx, at)); err != nil {
		return err
	}
	// What was planned before is lined up before it.
	f.now = time.Date(yesterday.Year(), yesterday.Month(), yesterday.Day(), 12, 0, 0, 0, time.UTC)
	return errors.Join(f.recut(ctx, list), f.die(ctx), f.mishap(ctx, at, list))
}

// pair plans two stones alike for a pair of earrings: a run that waits.
func (f *filler) pair(ctx context.Context, list []workshop.DiagramLine) error {
	for _, d := range list {
		if d.Name != "Three Sisters" {
			continue
		}
		choices := workshop.Choices{
			Material: "Peridot", Gear: 72, FirstSide: diagram.Pavilion, Size: workshop.Size{Basis: workshop.AcrossWidth, MM: 6.5, Typed: "6.5"},
			PlanHabits: workshop.DefaultHabits().PlanHabits, Laps: f.laps("Peridot"), Holds: f.holds(6.5, "Peridot"),
		}
		if _, err := f.workshop.PlanRun(ctx, "Peridot pair", d.ID, choices, workshop.TierByTier, 2); err != nil {
			return err
		}
	}
	return nil
}

// fromPiece plans what is chosen for the first piece of the parcel.
func (f *filler) fromPiece(ctx context.Context) error {
	page, err := f.workshop.Pieces(ctx, workshop.PieceFilter{Words: []string{"olive"}}, workshop.Cursor{}, 1)
	if err != nil || len(page.Lines) == 0 || page.Lines[0].Best == nil {
		return err
	}
	best := page.Lines[0].Best
	// To a hundredth, and never more than fits.
	mm := math.Floor(100*best.Found.Width) / 100
	choices := workshop.Choices{
		Material: "Peridot", Gear: 96, FirstSide: diagram.Pavilion, Size: workshop.Size{Basis: workshop.AcrossWidth, MM: mm, Typed: diagram.FormatNumber(mm)},
		PlanHabits: workshop.DefaultHabits().PlanHabits, Laps: f.laps("Peridot"), Holds: f.holds(mm, "Peridot"),
	}
	_, err = f.workshop.PlanFrom(ctx, "Olive keel for the founders", best.Diagram, page.Lines[0].ID, choices)
	return err
}

// repair is a ring stone that a member of the planetarium brought in.
func (f *filler) repair(ctx context.Context, at time.Time) error {
	stone, err := f.workshop.TakeIn(ctx, "Ring stone with a chip", workshop.Intake{
		Owner: "Mr. Lindqvist", Material: "Aquamarine", Carats: 2.86, LengthMM: 10.1, WidthMM: 8.02, HeightMM: 5.4,
		Damage:   "A chip at one corner of the girdle, two millimetres long. The table is dull.",
		Agreed:   "Take the chip out along the girdle, polish the table. It may lose a tenth of its weight.",
		Promised: at.AddDate(0, 0, 9).Format(time.DateOnly),
	})
	if err != nil {
		return err
	}
	work := stone.Work().ID
	begun := f.event(work, journal.Begin, struct{}{})
	f.now = f.now.Add(17 * time.Minute)
	noted := f.event(work, journal.Note, journal.Noted{Text: "Chip goes 0.3 mm under the girdle."})
	f.now = f.now.Add(17 * time.Minute)
	return f.send(ctx, []journal.Event{begun, noted, f.event(work, journal.End, struct{}{})})
}

// event is what happens to a work now.
func (f *filler) event(work string, kind journal.Kind, payload any) journal.Event {
	f.seq++
	return journal.Event{
		ID: fmt.Sprintf("%032x", f.seq), Stream: journal.OfWork(work), Device: "demo", DeviceSeq: f.seq, DeviceTime: f.now,
		Kind: kind, Version: 1, Payload: journal.Payload(payload),
	}
}

// send adds events to the log, all of which must belong.
func (f *filler) send(ctx context.Context, events []journal.Event) error {
	answers, err := f.workshop.Append(ctx, events)
	for i, a := range answers {
		if a.Outcome == workshop.Refused {
			return fmt.Errorf("event %d: %s", i, a.Reason)
		}
	}
	return err
}

// machines are those that stand in the workshop: one to cut on, an old one without a cheater for
// the school classes, and a jamb for those who hold the stone by hand.
func machines() []workshop.Machine {
	bench := workshop.DefaultMachine()
	bench.Name, bench.Gears = "Window bench", []int{64, 72, 96}
	bench.QuillMM, bench.ReachMM = 14, 18
	school := bench
	school.ID, school.Name, school.Gears = "school", "School machine", []int{64, 96}
	school.QuillMM, school.ReachMM = 0, 0
	school.AngleStep, school.Repeatability, school.Cheater, school.HeightStep = 0.5, 0.15, workshop.CheaterNone, 0
	jamb := school
	jamb.ID, jamb.Name, jamb.Gears = "jamb", "Peg and jamb", []int{64}
	jamb.Setting, jamb.Pegs, jamb.TableAdapter = workshop.InHoles, []float64{120}, 0
	for height := 44.0; height <= 110; height += 2 {
		jamb.Holes = append(jamb.Holes, height)
	}
	return []workshop.Machine{bench, school, jamb}
}

// quickHabits are for practice glass: the girdle is not polished.
func quickHabits() workshop.Habits {
	h := workshop.DefaultHabits()
	h.ID, h.Name, h.Tick = "practice", "Practice pieces", workshop.TickRound
	h.Uses = workshop.GirdleCut.Uses(h.Passes)
	return h
}

type filler struct {
	workshop *workshop.Workshop
	store    *sqlite.Store
	// kit holds the IDs of the shelf's things by the names on them.
	kit    map[string]string
	now    time.Time
	random *rand.Rand
	seq    int64
}

// plan plans a stone of the scenario.
func (f *filler) plan(ctx context.Context, g gift, d workshop.DiagramLine) (workshop.Stone, error) {
	whole, err := f.workshop.Diagram(ctx, d.ID)
	if err != nil {
		return workshop.Stone{}, err
	}
	choices := workshop.Choices{
		Material: g.material, Gear: g.gear, FirstSide: diagram.Part(whole.Draft.FirstSide),
		Size:       workshop.Size{Basis: workshop.AcrossWidth, MM: g.widthMM, Typed: diagram.FormatNumber(g.widthMM)},
		PlanHabits: workshop.DefaultHabits().PlanHabits, Laps: f.laps(g.material), Holds: f.holds(g.widthMM, g.material),
	}
	if g.steepest > 0 {
		if choices.DopUps, err = f.workshop.ProposeDopUps(ctx, d.ID, g.steepest); err != nil {
			return workshop.Stone{}, err
		}
		// Each face is a flat. Two bonds that let go otherwise follow each other.
		flat, other := choices.Holds[0], choices.Holds[1]
		other.Dop, other.DopItem = flat.Dop, flat.DopItem
		choices.Holds = nil
		for i := range choices.DopUps {
			choices.Holds = append(choices.Holds, []workshop.Hold{flat, other}[i%2])
		}
	}
	return f.workshop.PlanStone(ctx, g.name, d.ID, choices)
}

func (f *filler) cut(ctx context.Context, g gift, d workshop.DiagramLine) error {
	stone, err := f.plan(ctx, g, d)
	if err != nil || g.share == 0 {
		return err
	}
	started := f.now
	events, err := f.events(ctx, g, stone)
	if err != nil {
		return err
	}
	if err := f.send(ctx, events); err != nil {
		return err
	}
	if g.yield == 0 {
		return nil
	}
	card, err := f.card(ctx, g, stone, started)
	if err != nil {
		return err
	}
	_, err = f.workshop.FinishStone(ctx, stone.ID, card)
	return err
}

// card weighs and measures a stone as it came out: a hair smaller than planned.
func (f *filler) card(ctx context.Context, g gift, stone workshop.Stone, started time.Time) (workshop.Finish, error) {
	a, err := f.workshop.AssessStone(ctx, stone)
	if err != nil {
		return workshop.Finish{}, err
	}
	const smaller = 0.994
	hundredths := func(v float64) float64 { return math.Round(v*100) / 100 }
	return workshop.Finish{
		RoughCarats:    hundredths(a.Carats / g.yield),
		FinishedCarats: hundredths(a.Carats * smaller * smaller * smaller),
		WidthMM:        hundredths(a.WidthMM * smaller), LengthMM: hundredths(a.LengthMM * smaller), HeightMM: hundredths(a.HeightMM * smaller),
		Started: started.Format(time.DateOnly), Finished: f.now.Format(time.DateOnly), Notes: g.card,
		Price: int64(20_000 + 10_000*math.Round(a.Carats)), Currency: "EUR",
	}, nil
}

// events ticks the stone's visits in order, a minute or two each, with an evening's
// end every so often and the transfer checked between the sides.
func (f *filler) events(ctx context.Context, g gift, stone workshop.Stone) ([]journal.Event, error) {
	script, err := f.workshop.Script(ctx, stone)
	if err != nil {
		return nil, err
	}
	var out []journal.Event
	add := func(kind journal.Kind, payload any) {
		out = append(out, f.event(stone.Work().ID, kind, payload))
	}
	// It is glued first, and cures until it is cut.
	hold, minutes := stone.Work().Plan.Choices.Holds[0], 20.0
	if hold.Adhesive == epoxy {
		minutes = 24 * 60
	}
	add(journal.Dopped, journal.Dopping{
		Setup: script.Setups[0].ID, Dop: hold.Dop, Adhesive: hold.Adhesive, Axis: "flat of the rough on the lap at 90°, index 96", Minutes: minutes,
	})
	f.now = f.now.Add(time.Duration(minutes) * time.Minute)
	const evening = 150
	visits := script.Visits[:int(g.share*float64(len(script.Visits)))]
	for i, v := range visits {
		for _, h := range script.Before(i) {
			add(h.Kind, h.Payload)
		}
		if i%evening == evening-1 {
			f.now = f.now.Add(22 * time.Hour)
		}
		f.now = f.now.Add(time.Duration(35+f.random.IntN(70)) * time.Second)
		add(journal.Done, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet})
		if g.note != "" && i == len(visits)/2 {
			add(journal.Note, journal.Noted{Text: g.note})
		}
	}
	if len(visits) == len(script.Visits) {
		for _, h := range script.Before(len(visits)) {
			add(h.Kind, h.Payload)
		}
	}
	return out, nil
}
