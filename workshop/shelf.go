package workshop

import (
	"cmp"
	"slices"
	"time"

	"cressa/core/abrasive"
	"cressa/core/material"
	"cressa/workshop/journal"
)

// Shelved is a thing of the kit with what the logs tell of it.
type Shelved struct {
	Item
	// Gone tells that it is no longer there.
	Gone bool
	// Have is its stock as it was counted last, less what was taken since; nil where nobody counted.
	Have *float64
	// Opened is the day, YYYY-MM-DD, since which the present one is open or in use, "" where that
	// is not known, and Until the day up to which it keeps, "" where it keeps for ever.
	Opened, Until string
	// Charge is what a lap was charged with last, nil for none, and ChargedAt when.
	Charge    *journal.Charging
	ChargedAt time.Time
	// Flatness is how far a lap is out of flat, in µm, nil where it was not measured.
	Flatness *float64
	Use      ItemUse
	// Lasts is for how many stones one is good, 0 where nothing is known, and LastsFrom how many of
	// them that was learned from; 0 is what its owner says.
	Lasts     float64
	LastsFrom int
	// Met is what a lap met, in order, and Meetings the same as the works tell it.
	Met      []abrasive.Met
	Meetings []Meeting
	// Residues is what is on a lap that may harm the next stone, and Ways how that is cleaned.
	Residues []abrasive.Residue
	Ways     []abrasive.Cleaning
	// Needs is what is due, the gravest first.
	Needs []Need
	// History is what happened to it, the last first.
	History []journal.Event
	// worked is the grit that a lap worked with last, since the place workedAt in the log.
	worked   abrasive.Grit
	workedAt int64
}

// Need is something that is due for a thing.
type Need string

// What may be due.
const (
	// PastDate: it is older than it keeps. NearDate: it will be within a month.
	PastDate Need = "past-date"
	NearDate Need = "near-date"
	// UsedUp: nothing is left of it. RunsLow: not more than its owner wants to have.
	UsedUp  Need = "used-up"
	RunsLow Need = "runs-low"
	// Worn: it has done as many stones as one lasts. NearlyWorn: the next may be its last.
	Worn       Need = "worn"
	NearlyWorn Need = "nearly-worn"
	// Dirty: something is on it.
	Dirty Need = "dirty"
)

// Grave tells of what spoils a stone or stops the work.
func (n Need) Grave() bool { return n == PastDate || n == UsedUp || n == Worn }

// Works is the grit that a lap works with: what is fast in it, else what it was charged or used with
// last.
func (s Shelved) Works() abrasive.Grit {
	if s.Lap != nil && s.Lap.Grain > 0 {
		return abrasive.Grit{Family: abrasive.Diamond, Grain: s.Lap.Grain}
	}
	return s.worked
}

// works notes with which grit a lap worked since a place in the log; the zero grit is none any more.
func (s *Shelved) works(g abrasive.Grit, at int64) {
	if at > s.workedAt {
		s.worked, s.workedAt = g, at
	}
}

// Left is the share of a charge or a disc that is left, 0 to 1; false where nothing is known of how
// long it lasts.
func (s Shelved) Left() (share float64, known bool) {
	if s.Lasts == 0 {
		return 0, false
	}
	return max(0, 1-float64(s.Use.Since.Stones)/s.Lasts), true
}

// Against returns what is on a lap that harms a stone of a material which is cut with a grit; the zero
// grit is what it works with by itself. Ways are how it is cleaned of that.
func (s Shelved) Against(m material.Material, with abrasive.Grit, l abrasive.Limits) (on []abrasive.Residue, ways []abrasive.Cleaning) {
	if s.Lap == nil {
		return nil, nil
	}
	if with == (abrasive.Grit{}) {
		with = s.Works()
	}
	on = abrasive.Residues(s.Lap.Surface, s.Met, StoneOf(m), with, l)
	if len(on) > 0 {
		ways = abrasive.Ways(s.Lap.Surface, on)
	}
	return on, ways
}

// StoneOf is a material as a lap meets it.
func StoneOf(m material.Material) abrasive.Stone {
	return abrasive.Stone{Material: m.Name, Hardness: m.Hardness.Low}
}

// shelve puts together what is known of each thing: its log, and what it met at work.
type shelve struct {
	settings Settings
	items    []Item
	events   []journal.Event
	meetings []Meeting
	now      time.Time
}

// shelf returns the things in the order of their kinds, laps and compounds the coarsest first.
func (k shelve) shelf() []Shelved {
	logs := map[string][]journal.Event{}
	for _, e := range k.events {
		if id, ok := e.Stream.Item(); ok {
			logs[id] = append(logs[id], e)
		}
	}
	met := map[string][]Meeting{}
	for _, m := range k.meetings {
		met[m.Item] = append(met[m.Item], m)
	}
	grits := map[string]abrasive.Grit{}
	for _, i := range k.items {
		if i.Compound != nil {
			grits[i.ID] = i.Compound.Grit()
		}
	}
	out := make([]Shelved, 0, len(k.items))
	for _, i := range k.items {
		s := Shelved{Item: i, Meetings: met[i.ID], Lasts: i.Lasts, Use: useOf(met[i.ID])}
		for _, m := range s.Meetings {
			if grit := grits[m.With]; grit.Family != "" {
				s.works(grit, m.Seq)
			}
		}
		s.tell(journal.Standing(logs[i.ID]))
		if i.Lap != nil {
			for _, m := range s.Meetings {
				s.Met = append(s.Met, abrasive.Met{At: m.Seq, Grit: grits[m.With], Stone: k.stone(m.Material)})
			}
			slices.SortStableFunc(s.Met, func(a, b abrasive.Met) int { return cmp.Compare(a.At, b.At) })
			s.Residues, s.Ways = s.Against(material.Material{}, abrasive.Grit{}, k.settings.Abrasives.Limits)
		}
		s.ask(k.now)
		out = append(out, s)
	}
	slices.SortStableFunc(out, func(a, b Shelved) int {
		return cmp.Or(cmp.Compare(slices.Index(itemKinds, a.Kind), slices.Index(itemKinds, b.Kind)), cmp.Compare(b.size(), a.size()))
	})
	return out
}

// stone is a material as a lap met it. One that is no longer in the table is taken for harmless.
func (k shelve) stone(name string) abrasive.Stone {
	if m, known := k.settings.Material(name); known {
		return StoneOf(m)
	}
	return abrasive.Stone{Material: name, Hardness: 10}
}

var itemKinds = []ItemKind{LapItem, CompoundItem, AdhesiveItem, DopItem, GearItem, BladeItem, SupplyItem}

// size is what things of a kind are sorted by, the largest first.
func (s Shelved) size() float64 {
	switch {
	case s.Lap != nil:
		return s.Works().Grain
	case s.Compound != nil:
		return s.Compound.Grain
	case s.Dop != nil:
		return s.Dop.Diameter
	case s.Gear != nil:
		return float64(s.Gear.Teeth)
	}
	return 0
}

// tell goes through what happened to it.
func (s *Shelved) tell(log []journal.Event) {
	var spans []journal.Span
	had := func(span journal.Span) {
		// What was replaced before its first stone tells nothing of how long one lasts.
		if span.Stones > 0 {
			spans = append(spans, span)
		}
	}
	for _, e := range log {
		switch e.Kind {
		case journal.Charged:
			if p, ok := journal.Carried[journal.Charging](e); ok {
				s.Charge, s.ChargedAt = &p, e.ServerTime
				grit := abrasive.Grit{Family: abrasive.Family(p.Family), Grain: p.Grain}
				s.Met = append(s.Met, abrasive.Met{At: e.Seq, Grit: grit})
				s.works(grit, e.Seq)
				had(p.Had)
			}
		case journal.Cleaned:
			if p, ok := journal.Carried[journal.Cleaning](e); ok {
				s.Met = append(s.Met, abrasive.Met{At: e.Seq, Cleaned: abrasive.Cleaning(p.Way)})
				s.Flatness = cmp.Or(p.Flatness, s.Flatness)
				if abrasive.Cleaning(p.Way) == abrasive.Skim {
					// The charge goes with the face.
					s.Charge = nil
					s.works(abrasive.Grit{}, e.Seq)
				}
			}
		case journal.Touched:
			if p, ok := journal.Carried[journal.Touching](e); ok {
				s.Met = append(s.Met, abrasive.Met{
					At: e.Seq, Grit: abrasive.Grit{Family: abrasive.Family(p.Family), Grain: p.Grain}, Stone: abrasive.Stone{Material: p.Material, Hardness: p.Hardness},
				})
			}
		case journal.Renewed:
			if p, ok := journal.Carried[journal.Renewing](e); ok {
				s.Opened, s.Charge, s.Flatness = p.On, nil, nil
				s.Met = append(s.Met, abrasive.Met{At: e.Seq, Cleaned: abrasive.Renew})
				s.works(abrasive.Grit{}, e.Seq)
				had(p.Had)
				if s.Have != nil && s.counted() {
					left := max(0, *s.Have-1)
					s.Have = &left
				}
			}
		case journal.Counted:
			if p, ok := journal.Carried[journal.Count](e); ok {
				s.Have = &p.Have
			}
		case journal.Gone, journal.Back:
			s.Gone = e.Kind == journal.Gone
		}
	}
	s.History = slices.Clone(log)
	slices.Reverse(s.History)
	if s.Lasts == 0 && len(spans) > 0 {
		for _, span := range spans {
			s.Lasts += float64(span.Stones)
		}
		s.Lasts, s.LastsFrom = s.Lasts/float64(len(spans)), len(spans)
	}
}

// counted tells that its stock is counted in pieces, of which a new one takes one: what is weighed or
// measured is counted anew by its owner.
func (s Shelved) counted() bool { return s.Kind != CompoundItem && s.Kind != SupplyItem }

// nearDate is how long before its date a thing is told of.
const nearDate = 30 * 24 * time.Hour

// ask finds out what is due.
func (s *Shelved) ask(now time.Time) {
	if s.Gone {
		return
	}
	if opened, err := time.Parse(time.DateOnly, s.Opened); err == nil && s.ShelfMonths > 0 {
		const month = 365.25 * 24 / 12
		until := opened.Add(time.Duration(s.ShelfMonths * month * float64(time.Hour)))
		s.Until = until.Format(time.DateOnly)
		switch {
		case now.After(until):
			s.Needs = append(s.Needs, PastDate)
		case now.Add(nearDate).After(until):
			s.Needs = append(s.Needs, NearDate)
		}
	}
	switch {
	case s.Have == nil:
	case *s.Have == 0 && s.Low > 0:
		s.Needs = append(s.Needs, UsedUp)
	case *s.Have <= s.Low && s.Low > 0:
		s.Needs = append(s.Needs, RunsLow)
	}
	if s.Lasts > 0 && s.Kind != GearItem {
		switch left := s.Lasts - float64(s.Use.Since.Stones); {
		case left <= 0:
			s.Needs = append(s.Needs, Worn)
		case left <= 1:
			s.Needs = append(s.Needs, NearlyWorn)
		}
	}
	if len(s.Residues) > 0 {
		s.Needs = append(s.Needs, Dirty)
	}
	slices.SortStableFunc(s.Needs, func(a, b Need) int { return -cmp.Compare(rank(a), rank(b)) })
}

func rank(n Need) int {
	if n.Grave() {
		return 1
	}
	return 0
}
