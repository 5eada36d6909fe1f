package journal

import (
	"bytes"
	"encoding/json"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"
)

// Kind says what happened.
type Kind string

// What can happen to a work.
const (
	// Done: a facet was cut in a pass. The payload is a Ticking.
	Done Kind = "done"
	// Skip: a facet is left out in a pass. The payload is a Visit.
	Skip Kind = "skip"
	// Check: an item of the transfer was checked. The payload is a Checked.
	Check Kind = "check"
	// Transfer: the stone was turned over. The payload is a Transferred.
	Transfer Kind = "transfer"
	// Note: something worth remembering. The payload is a Noted.
	Note Kind = "note"
	// Begin and End bound a stretch of work by the clock. There is no payload.
	Begin Kind = "begin"
	End   Kind = "end"
	// Undo takes another event back. The payload is a TakenBack.
	Undo Kind = "undo"
	// Plan: the work has a plan from now on. The payload is an Asked.
	Plan Kind = "plan"
	// Dopped: the stone was glued onto a dop. The payload is a Dopping.
	Dopped Kind = "dopped"
	// Vetted: the plan was gone through before the stone was glued. The payload is a Vetting.
	Vetted Kind = "vetted"
	// Jump: the work goes on with another visit and comes back later to what it passed over. The payload
	// is a Visit.
	Jump Kind = "jump"
	// Again: visits that were done are open again, and the work goes on with the first of them. The
	// payload is a Reopening.
	Again Kind = "again"
	// Happen: something happened at the wheel that is worth keeping. The payload is a Happened.
	Happen Kind = "happened"
	// Read: the height dial was read when a facet was finished. The payload is a Reading.
	Read Kind = "reading"
	// Measure: the stone was measured in the middle of the work. The payload is a Measured.
	Measure Kind = "measured"
	// Pause and Resume bound a time that is not work. There is no payload.
	Pause  Kind = "pause"
	Resume Kind = "resume"
	// Survey: the stone was told by the machine that it stands on. The payload is a Surveyed.
	Survey Kind = "surveyed"
	// Agree: something else was agreed with the owner of a stone. The payload is an Agreed.
	Agree Kind = "agree"
	// Finish: the logbook card was written. There is no payload.
	Finish Kind = "finish"
)

// nothing is the payload of kinds that say all by their name.
type nothing struct{}

// kind is what the journal knows of one kind of event.
type kind struct {
	// version is the newest form of the payload that this application knows.
	version int
	// byWorkshop: no screen may send it.
	byWorkshop bool
	// canUndo: an Undo may take it back.
	canUndo bool
	// check says whether the event belongs to the work as it stands.
	check func(*Work, Event) Reason
	// apply folds the event, which belongs, into the work's state.
	apply func(*Work, Event)
}

// kinds is the one table of what can happen: how it is read, whether it belongs, and what
// follows from it.
var kinds = map[Kind]kind{
	Done:     of(kind{version: 2, canUndo: true}, (*Work).canTick, (*Work).done),
	Skip:     of(kind{version: 1, canUndo: true}, (*Work).asks, (*Work).tick),
	Check:    of(kind{version: 1, canUndo: true}, (*Work).hasItem, (*Work).check),
	Transfer: of(kind{version: 1, canUndo: true}, (*Work).hasSetup, (*Work).transfer),
	Note:     of(kind{version: 2, canUndo: true}, saysSomething, (*Work).note),
	Dopped:   of(kind{version: 1, canUndo: true}, (*Work).canDop, (*Work).dop),
	Vetted:   of(kind{version: 1, canUndo: true}, (*Work).canVet, (*Work).vet),
	Jump:     of(kind{version: 1, canUndo: true}, (*Work).asks, (*Work).jump),
	Again:    of(kind{version: 1, canUndo: true}, (*Work).canReopen, (*Work).reopen),
	Happen:   of(kind{version: 1, canUndo: true}, (*Work).canHappen, (*Work).happen),
	Read:     of(kind{version: 1, canUndo: true}, (*Work).canRead, (*Work).read),
	Measure:  of(kind{version: 1, canUndo: true}, (*Work).canMeasure, (*Work).measure),
	Survey:   of(kind{version: 1, byWorkshop: true, canUndo: true}, (*Work).canSurvey, (*Work).survey),
	Pause:    of(kind{version: 1, canUndo: true}, (*Work).byTicks, (*Work).pause),
	Resume:   of(kind{version: 1, canUndo: true}, (*Work).byTicks, (*Work).resume),
	Begin:    of(kind{version: 1, canUndo: true}, (*Work).byTheClock, (*Work).stretch),
	End:      of(kind{version: 1, canUndo: true}, (*Work).byTheClock, (*Work).stretch),
	Undo:     of(kind{version: 1}, namesAnEvent, (*Work).takeBack),
	Plan:     from(kind{version: 3, byWorkshop: true}, asked, always[Asked], (*Work).plan),
	Agree:    of(kind{version: 1, byWorkshop: true}, always[Agreed], nothingFollows[Agreed]),
	Finish:   of(kind{version: 1, byWorkshop: true}, always[nothing], (*Work).finish),
}

// of completes a row of the table with the payload's type P, whether an event with such
// a payload belongs to a work, and what follows from it.
func of[P any](k kind, belongs func(*Work, P) Reason, apply func(*Work, Event, P)) kind {
	return from(k, func(e Event) (P, bool) { return decode[P](e.Payload) }, belongs, apply)
}

// from completes a row whose payload has had more than one form: read knows them all.
func from[P any](k kind, read func(Event) (P, bool), belongs func(*Work, P) Reason, apply func(*Work, Event, P)) kind {
	k.check = func(w *Work, e Event) Reason {
		p, ok := read(e)
		if !ok {
			return Unreadable
		}
		return belongs(w, p)
	}
	k.apply = func(w *Work, e Event) {
		if p, ok := read(e); ok {
			apply(w, e, p)
		}
	}
	return k
}

// decode reads a payload strictly: it is an object, and a field that is not known would be
// lost.
func decode[P any](payload json.RawMessage) (p P, ok bool) {
	if !bytes.HasPrefix(bytes.TrimSpace(payload), []byte("{")) {
		return p, false
	}
	d := json.NewDecoder(bytes.NewReader(payload))
	d.DisallowUnknownFields()
	return p, d.Decode(&p) == nil && !d.More()
}

// Payload writes what an event carries; nil is nothing.
func Payload(p any) json.RawMessage {
	if p == nil {
		p = nothing{}
	}
	data, err := json.Marshal(p)
	if err != nil {
		panic(err) // payloads are plain structs of texts and numbers
	}
	return data
}

const maxNote = 4000

func saysSomething(_ *Work, p Noted) Reason {
	if strings.TrimSpace(p.Text) == "" || utf8.RuneCountInString(p.Text) > maxNote {
		return Unreadable
	}
	return ""
}

func namesAnEvent(_ *Work, p TakenBack) Reason {
	if !idPattern.MatchString(p.Undoes) {
		return Unreadable
	}
	return ""
}

// nothingFollows is of what is only told.
func nothingFollows[P any](*Work, Event, P) {}

func always[P any](*Work, P) Reason { return "" }

// Tells returns what an event adds to the story of a work, beside what is counted: the text
// of a note, the number of a plan that was changed, what was agreed anew, "" for a turning point. It returns
// false for what is only counted.
func (e Event) Tells() (text string, ok bool) {
	switch e.Kind {
	case Note:
		p, ok := decode[Noted](e.Payload)
		return p.Text, ok
	case Plan:
		// The first plan is where the story begins.
		p, ok := asked(e)
		return strconv.Itoa(p.No), ok && p.No > 1
	case Dopped:
		p, ok := decode[Dopping](e.Payload)
		parts := slices.DeleteFunc([]string{p.Dop, p.Adhesive, p.Axis}, func(s string) bool { return s == "" })
		return strings.Join(parts, " · "), ok
	case Vetted:
		p, ok := decode[Vetting](e.Payload)
		return strings.Join(p.Open, "\n"), ok
	case Agree:
		p, ok := decode[Agreed](e.Payload)
		return p.Is, ok
	case Survey:
		p, ok := decode[Surveyed](e.Payload)
		return p.From, ok
	case Transfer, Begin, End:
		return "", true
	}
	return "", false
}

// NotedAt returns the visit that a note was made at, or that something happened at.
func (e Event) NotedAt() (Visit, bool) {
	if p, ok := decode[Noted](e.Payload); ok && e.Kind == Note && p.At != nil {
		return *p.At, true
	}
	if p, ok := e.Happens(); ok && p.At != nil {
		return *p.At, true
	}
	return Visit{}, false
}

// Happens returns what happened at the wheel, and false for an event of another kind.
func (e Event) Happens() (Happened, bool) {
	p, ok := decode[Happened](e.Payload)
	return p, ok && e.Kind == Happen
}

// Measures returns what was measured, and false for an event of another kind.
func (e Event) Measures() (Measured, bool) {
	p, ok := decode[Measured](e.Payload)
	return p, ok && e.Kind == Measure
}

// Surveys returns the stone that a machine told, and false for an event of another kind.
func (e Event) Surveys() (Surveyed, bool) {
	p, ok := decode[Surveyed](e.Payload)
	return p, ok && e.Kind == Survey
}

// TakesBack returns the ID of the event that an Undo takes back.
func (e Event) TakesBack() (id string, ok bool) {
	p, ok := decode[TakenBack](e.Payload)
	return p.Undoes, ok && e.Kind == Undo
}

// Newest returns the newest form of a kind's payload, which new events carry.
func Newest(k Kind) int { return kinds[k].version }

// Judge says why an event that a screen sends is no fact of the work, "" where it is one.
// Find returns the event of the work with the given ID, to tell what an Undo takes back.
func (w *Work) Judge(e Event, find func(id string) (Event, bool)) Reason {
	k, known := kinds[e.Kind]
	switch {
	case !e.readable():
		return Unreadable
	case !known || e.Version > k.version:
		return UnknownKind
	case k.byWorkshop:
		return OnlyWorkshop
	}
	if reason := k.check(w, e); reason != "" || e.Kind != Undo {
		return reason
	}
	id, _ := e.TakesBack()
	taken, there := find(id)
	switch {
	case !there:
		return NoSuchEvent
	case !kinds[taken.Kind].canUndo:
		return CannotUndo
	}
	return ""
}
