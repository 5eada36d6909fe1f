package workshop

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"cressa/core/abrasive"
	"cressa/core/diagram"
	"cressa/workshop/journal"
)

// mostItems is how many things the kit holds.
const mostItems = 1000

// happening is something that happens to a thing.
type happening struct {
	kind    journal.Kind
	payload any
}

// Shelf returns all things of the kit with what the logs tell of them, those that are gone too. It
// returns only the errors of the store.
func (k *Kit) Shelf(ctx context.Context) ([]Shelved, error) {
	items, err := k.store.Items(ctx)
	if err != nil {
		return nil, err
	}
	return k.shelve(ctx, items, "")
}

// OnShelf returns one thing, ErrNotFound where there is no such.
func (k *Kit) OnShelf(ctx context.Context, id string) (Shelved, error) {
	items, err := k.store.Items(ctx)
	if err != nil {
		return Shelved{}, err
	}
	at := slices.IndexFunc(items, func(i Item) bool { return i.ID == id })
	if at < 0 {
		return Shelved{}, ErrNotFound
	}
	// What a lap was used with is read of the others.
	shelf, err := k.shelve(ctx, items, id)
	if err != nil {
		return Shelved{}, err
	}
	return shelf[slices.IndexFunc(shelf, func(s Shelved) bool { return s.ID == id })], nil
}

func (k *Kit) shelve(ctx context.Context, items []Item, id string) ([]Shelved, error) {
	of := shelve{items: items, now: k.now()}
	var err error
	if of.settings, err = k.preferences.Settings(ctx); err != nil {
		return nil, err
	}
	if of.events, err = k.store.ItemEvents(ctx, id); err != nil {
		return nil, err
	}
	if of.meetings, err = k.store.Meetings(ctx, id); err != nil {
		return nil, err
	}
	return of.shelf(), nil
}

// ItemNames returns what the things of the kit are called, those that are gone too, by their IDs.
func (k *Kit) ItemNames(ctx context.Context) (map[string]string, error) {
	items, err := k.store.Items(ctx)
	out := map[string]string{}
	for _, i := range items {
		out[i.ID] = i.Name
	}
	return out, err
}

// StonesOf returns the stones that a thing was used on, the last first, at most so many.
func (k *Kit) StonesOf(ctx context.Context, id string, limit int) ([]ItemStone, error) {
	return k.store.ItemStones(ctx, id, limit)
}

// AddItem puts a new thing on the shelf and guesses what is not said of it. It returns the errors of
// Validate and a diagram.Problem where the kit is full.
func (k *Kit) AddItem(ctx context.Context, g Guess) (Shelved, error) {
	if err := Validate(g); err != nil {
		return Shelved{}, err
	}
	var out Shelved
	return out, k.store.InTx(ctx, func(ctx context.Context) error {
		shelf, err := k.Shelf(ctx)
		if err != nil {
			return err
		}
		settings, err := k.preferences.Settings(ctx)
		if err != nil {
			return err
		}
		item, log := k.guess(g, shelf, settings)
		item, err = k.place(ctx, item, len(shelf))
		if err != nil {
			return err
		}
		for _, h := range log {
			if err := k.tell(ctx, item.ID, h); err != nil {
				return err
			}
		}
		out, err = k.OnShelf(ctx, item.ID)
		return err
	})
}

// place puts a thing on a shelf that has so many.
func (k *Kit) place(ctx context.Context, i Item, there int) (Item, error) {
	if there >= mostItems {
		return i, diagram.Problem{Code: FullShelf, TierNo: -1, Field: "kind", Value: mostItems}
	}
	i.ID, i.Created, i.Version = k.newID(), k.moment(), 1
	if err := i.check(); err != nil {
		return i, err
	}
	return i, k.withGears(ctx, i, func() error { return k.store.InsertItem(ctx, i) })
}

// SaveItem changes what is said of a thing, over the version that the caller read. What kind of thing
// it is stays. It returns ErrNotFound, ErrStale, the errors of Validate and a diagram.Problem where
// its parts do not fit its kind.
func (k *Kit) SaveItem(ctx context.Context, i Item) (Shelved, error) {
	if err := i.check(); err != nil {
		return Shelved{}, err
	}
	var out Shelved
	return out, k.store.InTx(ctx, func(ctx context.Context) error {
		was, err := k.store.Item(ctx, i.ID)
		if err != nil {
			return err
		}
		if was.Kind != i.Kind {
			return diagram.Problem{Code: OtherPart, TierNo: -1, Field: "kind", Text: i.Name}
		}
		version := i.Version
		i.Created, i.Version = was.Created, version+1
		if err := k.withGears(ctx, i, func() error { return k.store.SaveItem(ctx, i, version) }); err != nil {
			return err
		}
		out, err = k.OnShelf(ctx, i.ID)
		return err
	})
}

// OtherSide puts the other side of a lap on the shelf: it is charged, worn and cleaned by itself. It
// returns ErrNotFound, and a diagram.Problem for what is no lap or is the back of one already.
func (k *Kit) OtherSide(ctx context.Context, id string) (Shelved, error) {
	var out Shelved
	return out, k.store.InTx(ctx, func(ctx context.Context) error {
		front, err := k.store.Item(ctx, id)
		if err != nil {
			return err
		}
		if front.Lap == nil || front.Lap.Side == Back {
			return diagram.Problem{Code: NotForItem, TierNo: -1, Text: front.Name}
		}
		all, err := k.store.Items(ctx)
		if err != nil {
			return err
		}
		back, face := front, *front.Lap
		face.Side = Back
		back.Lap, back.Name = &face, strings.TrimSpace(front.Name)+", back"
		if back, err = k.place(ctx, back, len(all)); err != nil {
			return err
		}
		if front.Lap.Side != Front {
			this := *front.Lap
			this.Side = Front
			front.Lap = &this
			if err := k.keep(ctx, &front); err != nil {
				return err
			}
		}
		out, err = k.OnShelf(ctx, back.ID)
		return err
	})
}

// DropItem takes a thing off the shelf for good that was put there by mistake. One that met a stone,
// or that a plan names, stays: it returns a diagram.Problem. It returns ErrNotFound where there is no such thing.
func (k *Kit) DropItem(ctx context.Context, id string) error {
	return k.store.InTx(ctx, func(ctx context.Context) error {
		s, err := k.OnShelf(ctx, id)
		if err != nil {
			return err
		}
		if s.Use.All.Facets > 0 {
			return diagram.Problem{Code: StillUsed, TierNo: -1, Text: s.Name}
		}
		return k.withGears(ctx, s.Item, func() error { return k.store.DropItem(ctx, id) })
	})
}

// Happened adds to the log of a thing, of which the kit keeps its stock, its age and what is on it.
// The payload is that of the kind; what a thing had done before it was charged or renewed is counted
// here. It returns ErrNotFound, and a diagram.Problem where such a thing cannot meet with that.
func (k *Kit) Happened(ctx context.Context, id string, kind journal.Kind, payload any) (Shelved, error) {
	var out Shelved
	return out, k.store.InTx(ctx, func(ctx context.Context) error {
		s, err := k.OnShelf(ctx, id)
		if err != nil {
			return err
		}
		had := s.Use.Since
		switch p := payload.(type) {
		case journal.Charging:
			p.Had = had
			if err := k.chargedFrom(ctx, p.Item, &p); err != nil {
				return err
			}
			payload = p
		case journal.Renewing:
			p.Had = had
			payload = p
		}
		if !s.takes(kind, payload) {
			return diagram.Problem{Code: NotForItem, TierNo: -1, Text: s.Name, Other: string(kind)}
		}
		if err := k.withGears(ctx, s.Item, func() error { return k.tell(ctx, id, happening{kind, payload}) }); err != nil {
			return err
		}
		out, err = k.OnShelf(ctx, id)
		return err
	})
}

// chargedFrom fills in what a lap is charged with from a compound of the kit; "" is none of it.
func (k *Kit) chargedFrom(ctx context.Context, id string, p *journal.Charging) error {
	if id == "" {
		return nil
	}
	i, err := k.store.Item(ctx, id)
	if errors.Is(err, ErrNotFound) || err == nil && i.Compound == nil {
		return diagram.Problem{Code: NoSuchItem, TierNo: -1, Field: "compound"}
	}
	if err == nil {
		p.Name, p.Family, p.Grain = i.Name, string(i.Compound.Family), i.Compound.Grain
	}
	return err
}

// takes tells whether something can happen to a thing.
func (s Shelved) takes(kind journal.Kind, payload any) bool {
	switch p := payload.(type) {
	case journal.Cleaning:
		way := abrasive.Cleaning(p.Way)
		return s.Lap != nil && slices.Contains(abrasive.Cleanings, way) && way.Fits(s.Lap.Surface) && way != abrasive.Renew
	case journal.Charging:
		return s.Lap != nil && slices.Contains(abrasive.Families, abrasive.Family(p.Family)) && p.Grain >= 0 && p.Grain <= abrasive.Largest
	case journal.Touching:
		return s.Lap != nil && (p.Material != "" || slices.Contains(abrasive.Families, abrasive.Family(p.Family)))
	case journal.Renewing:
		_, err := time.Parse(time.DateOnly, p.On)
		return err == nil && s.Kind != GearItem
	case journal.Count:
		return p.Have >= 0 && s.Kind != GearItem
	}
	return kind == journal.Gone || kind == journal.Back
}

// UndoHappened takes back something that happened to a thing. It returns ErrNotFound for a thing or an
// event of it that is not there.
func (k *Kit) UndoHappened(ctx context.Context, id, event string) (Shelved, error) {
	var out Shelved
	return out, k.store.InTx(ctx, func(ctx context.Context) error {
		log, err := k.store.ItemEvents(ctx, id)
		if err != nil {
			return err
		}
		if !slices.ContainsFunc(journal.Standing(log), func(e journal.Event) bool { return e.ID == event }) {
			return ErrNotFound
		}
		item, err := k.store.Item(ctx, id)
		if err != nil {
			return err
		}
		undo := happening{journal.Undo, journal.TakenBack{Undoes: event}}
		if err := k.withGears(ctx, item, func() error { return k.tell(ctx, id, undo) }); err != nil {
			return err
		}
		out, err = k.OnShelf(ctx, id)
		return err
	})
}

// tell adds to the log of a thing and sets from where on its use counts.
func (k *Kit) tell(ctx context.Context, id string, h happening) error {
	log, err := k.store.ItemEvents(ctx, id)
	if err != nil {
		return err
	}
	e := journal.Event{
		ID: k.newID(), Stream: journal.OfItem(id), Device: ownDevice, DeviceSeq: int64(len(log) + 1), DeviceTime: k.moment(),
		Kind: h.kind, Version: 1, Payload: journal.Payload(h.payload), By: ActorOf(ctx), ServerTime: k.moment(),
	}
	if e.Seq, err = k.store.InsertEvent(ctx, e); err != nil {
		return err
	}
	var since int64
	for _, e := range journal.Standing(append(log, e)) {
		if e.Kind == journal.Charged || e.Kind == journal.Renewed {
			since = e.Seq
		}
	}
	return k.store.CountFrom(ctx, id, since)
}

// withGears changes a thing. Where it is a gear, machines have it as the shelf does from then on; those
// that they had before are on the shelf first.
func (k *Kit) withGears(ctx context.Context, i Item, change func() error) error {
	if i.Kind != GearItem {
		return change()
	}
	settings, err := k.preferences.Settings(ctx)
	if err != nil {
		return err
	}
	if err := k.gearsFromMachines(ctx, settings.Machines); err != nil {
		return err
	}
	if err := change(); err != nil {
		return err
	}
	return k.gearsToMachines(ctx)
}

// gearsToMachines gives each machine the gears of the kit that go onto it.
func (k *Kit) gearsToMachines(ctx context.Context) error {
	settings, err := k.preferences.Settings(ctx)
	if err != nil {
		return err
	}
	gears, err := k.gears(ctx)
	if err != nil {
		return err
	}
	changed := false
	settings.Machines = slices.Clone(settings.Machines)
	for i, m := range settings.Machines {
		var teeth []int
		for _, g := range gears {
			if slices.Contains(g.Gear.Machines, m.ID) {
				teeth = append(teeth, g.Gear.Teeth)
			}
		}
		slices.Sort(teeth)
		if teeth = slices.Compact(teeth); !slices.Equal(teeth, m.Gears) {
			settings.Machines[i].Gears, changed = append([]int{}, teeth...), true
		}
	}
	if !changed {
		return nil
	}
	_, err = k.preferences.SaveSettings(ctx, settings)
	return err
}

// gears returns the gears of the kit that are there.
func (k *Kit) gears(ctx context.Context) ([]Item, error) {
	items, err := k.store.Items(ctx)
	if err != nil {
		return nil, err
	}
	logs, err := k.store.ItemEvents(ctx, "")
	if err != nil {
		return nil, err
	}
	gone := map[string]bool{}
	for _, e := range journal.Standing(logs) {
		if id, ok := e.Stream.Item(); ok && (e.Kind == journal.Gone || e.Kind == journal.Back) {
			gone[id] = e.Kind == journal.Gone
		}
	}
	return slices.DeleteFunc(items, func(i Item) bool { return i.Gear == nil || gone[i.ID] }), nil
}

// gearsFromMachines puts the gears of the machines on the shelf that are not there, and takes a
// machine off those that it no longer has.
func (k *Kit) gearsFromMachines(ctx context.Context, machines []Machine) error {
	gears, err := k.gears(ctx)
	if err != nil {
		return err
	}
	for _, m := range machines {
		for _, teeth := range m.Gears {
			if slices.ContainsFunc(gears, func(g Item) bool { return g.Gear.Teeth == teeth && slices.Contains(g.Gear.Machines, m.ID) }) {
				continue
			}
			at := slices.IndexFunc(gears, func(g Item) bool { return g.Gear.Teeth == teeth })
			if at < 0 {
				gears = append(gears, Item{
					ID: k.newID(), Kind: GearItem, Name: gearName(teeth), Created: k.moment(),
					Gear: &Gear{Teeth: teeth, Machines: []string{}},
				})
				at = len(gears) - 1
			}
			gears[at].Gear.Machines = append(slices.Clone(gears[at].Gear.Machines), m.ID)
			if err := k.keep(ctx, &gears[at]); err != nil {
				return err
			}
		}
	}
	for i, g := range gears {
		has := func(id string) bool {
			return slices.ContainsFunc(machines, func(m Machine) bool { return m.ID == id && slices.Contains(m.Gears, g.Gear.Teeth) })
		}
		if slices.ContainsFunc(g.Gear.Machines, func(id string) bool { return !has(id) }) {
			gears[i].Gear.Machines = slices.DeleteFunc(slices.Clone(g.Gear.Machines), func(id string) bool { return !has(id) })
			if err := k.keep(ctx, &gears[i]); err != nil {
				return err
			}
		}
	}
	return nil
}

// keep stores a thing over the version that it has, or for the first time.
func (k *Kit) keep(ctx context.Context, i *Item) error {
	i.Version++
	if i.Version == 1 {
		return k.store.InsertItem(ctx, *i)
	}
	return k.store.SaveItem(ctx, *i, i.Version-1)
}

// SaveSettings stores the settings as Preferences does, and puts the machines' gears on the shelf.
func (w *Workshop) SaveSettings(ctx context.Context, s Settings) (Settings, error) {
	var out Settings
	return out, w.Kit.store.InTx(ctx, func(ctx context.Context) (err error) {
		if out, err = w.Preferences.SaveSettings(ctx, s); err != nil {
			return err
		}
		return w.gearsFromMachines(ctx, out.Machines)
	})
}

// ShelveGears puts the gears of machines on the shelf that were written down before there was one.
func (w *Workshop) ShelveGears(ctx context.Context) error {
	return w.Kit.store.InTx(ctx, func(ctx context.Context) error {
		settings, err := w.Settings(ctx)
		if err != nil {
			return err
		}
		return w.gearsFromMachines(ctx, settings.Machines)
	})
}

func gearName(teeth int) string {
	return strings.Join([]string{"Gear", diagram.FormatNumber(float64(teeth))}, " ")
}
