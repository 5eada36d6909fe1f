// Package journal is the log of what happened: which events there are, which of them
// belong to a work, and the state that follows from a log.
//
// An event is a fact. It is only ever added, it is accepted wherever the work has ever
// asked for it, and whatever is known of a work (ticks, progress, hours) is folded from
// its log by this package and nothing else. A kind of event is a row of one table; how
// one is added stands in docs/development.md.
package journal

import (
	"cmp"
	"encoding/json"
	"regexp"
	"slices"
	"strings"
	"time"
)

// Event is one entry of a log.
type Event struct {
	// ID is 128 random bits as 32 hexadecimal digits, made where it happened, so that a
	// batch can be sent again without harm.
	ID string
	// Stream names what it happened to.
	Stream Stream
	// Device names the screen it came from and DeviceSeq counts there, over all works:
	// it tells the order of one device's events, which its clock does not.
	Device     string
	DeviceSeq  int64
	DeviceTime time.Time
	Kind       Kind
	// Version is that of the payload's form; 1 is the first.
	Version int
	Payload json.RawMessage
	// By is who did it, ServerTime when and Seq in which place it arrived: the server
	// stamps them when the event is on disk.
	By         Actor
	ServerTime time.Time
	Seq        int64
}

// Stream names what has a log: a kind of thing and the ID of one of them, "work/12ab…".
type Stream string

const (
	works = "work/"
	items = "item/"
)

// OfWork returns the stream of a work.
func OfWork(id string) Stream { return Stream(works + id) }

// OfItem returns the stream of a thing of the kit.
func OfItem(id string) Stream { return Stream(items + id) }

// Item returns the ID of the thing of the kit whose stream it is, and false where it is another's.
func (s Stream) Item() (id string, ok bool) { return strings.CutPrefix(string(s), items) }

// Work returns the ID of the work whose stream it is, and false where it is another's.
func (s Stream) Work() (id string, ok bool) { return strings.CutPrefix(string(s), works) }

// Actor is who does something: somebody at this machine, a paired device, or the
// workshop itself.
type Actor struct {
	// ID is that of the device, "" for this machine and for the workshop.
	ID   string
	Name string
}

// Reason says why an event is not a fact of this work.
type Reason string

// The reasons. "" is none: the event belongs.
const (
	// Unreadable: the event has no name, no device or a payload that cannot be.
	Unreadable Reason = "unreadable"
	// UnknownKind: this version of the application has no such kind of event, or not in
	// this form. A newer one may.
	UnknownKind Reason = "unknown-kind"
	// NoSuchStream: there is no such work, or nothing of that kind has a log here.
	NoSuchStream Reason = "no-such-stream"
	// NotAsked: no plan that the work has had asks for it.
	NotAsked Reason = "not-asked"
	// NotForTask: this kind of work has no such events.
	NotForTask Reason = "not-for-task"
	// NoSuchEvent: what it takes back is not in the log of this work.
	NoSuchEvent Reason = "no-such-event"
	// CannotUndo: what it takes back cannot be taken back.
	CannotUndo Reason = "cannot-undo"
	// OtherStream: another log has an event of this name.
	OtherStream Reason = "other-stream"
	// OnlyWorkshop: only the workshop itself writes such events.
	OnlyWorkshop Reason = "only-workshop"
)

var idPattern = regexp.MustCompile(`^[0-9a-f]{32}$`)

// Bounds of an event.
const (
	maxDevice  = 64
	maxPayload = 20_000
)

// readable tells whether the envelope can be kept, whatever the kind.
func (e Event) readable() bool {
	year := e.DeviceTime.Year()
	return idPattern.MatchString(e.ID) && e.Device != "" && len(e.Device) <= maxDevice &&
		e.DeviceSeq >= 0 && year >= 1970 && year < 2200 && e.Version >= 1 && len(e.Payload) <= maxPayload
}

// Ordered returns events in the order in which they count: each device's events take the
// places in which events of that device arrived, in the order of the device itself. So
// the server decides between devices and a device about its own; no clock decides at all.
// The events must come in the order of their arrival.
func Ordered(events []Event) []Event {
	byDevice := map[string][]Event{}
	for _, e := range events {
		byDevice[e.Device] = append(byDevice[e.Device], e)
	}
	for _, own := range byDevice {
		slices.SortStableFunc(own, func(a, b Event) int { return cmp.Compare(a.DeviceSeq, b.DeviceSeq) })
	}
	out := make([]Event, len(events))
	for i, e := range events {
		out[i] = byDevice[e.Device][0]
		byDevice[e.Device] = byDevice[e.Device][1:]
	}
	return out
}
