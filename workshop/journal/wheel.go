package journal

import (
	"math"
	"slices"
)

// Moved is where the work went on out of turn.
type Moved struct {
	Act
	Reopening
	// Opened are the marks that were there, none for a jump.
	Opened []Opened `json:"opened"`
}

// Opened is a mark that was there before its visit was opened again.
type Opened struct {
	Visit
	Mark
}

// Incident is something that happened at the wheel.
type Incident struct {
	Act
	Happened
}

// DialRead is a reading of the height dial.
type DialRead struct {
	Act
	Reading
}

// Shown is what the dials showed at a visit that was done.
type Shown struct {
	Act
	At Visit `json:"at"`
	Dials
}

// Calipered is a measure that was taken.
type Calipered struct {
	Act
	Measured
}

// Bounds of what is told at the wheel: mm of a depth, of a reading and of a measure; degrees or teeth.
const (
	deepest, farthest, largest = 20, 10000, 1000
	wholeTurn                  = 360
	mostPasses, mostFacets     = 50, 2000
)

func (w *Work) canReopen(p Reopening) Reason {
	if len(p.Passes) == 0 || len(p.Facets) == 0 || len(p.Passes) > mostPasses || len(p.Facets) > mostFacets {
		return Unreadable
	}
	for _, pass := range p.Passes {
		for _, facet := range p.Facets {
			if reason := w.asks(Visit{p.Setup, pass, facet}); reason != "" {
				return reason
			}
		}
	}
	return ""
}

func (w *Work) canHappen(p Happened) Reason {
	within := func(v *float64, low, high float64) bool { return v == nil || *v >= low && *v <= high }
	pointed := p.Point == nil || !slices.ContainsFunc(p.Point[:], func(v float64) bool { return !(math.Abs(v) <= farthest) })
	switch {
	case !pointed:
		return Unreadable
	case !slices.Contains(whats, p.What) || !within(p.MM, 0, deepest) || !within(p.By, -wholeTurn, wholeTurn) || len(p.With) > longestName:
		return Unreadable
	case !w.Task.planned():
		return NotForTask
	case p.At != nil:
		return w.asks(*p.At)
	}
	return ""
}

func (w *Work) canRead(p Reading) Reason {
	if !(math.Abs(p.MM) <= farthest) {
		return Unreadable
	}
	return w.asks(p.At)
}

func (w *Work) canTick(p Ticking) Reason {
	if d := p.Dials; d != nil {
		for _, v := range []*float64{d.Angle, d.Index, d.Height} {
			if v != nil && !(math.Abs(*v) <= farthest) {
				return Unreadable
			}
		}
	}
	return w.asks(p.Visit)
}

// mostPlanes is how many facets a stone may have that a machine tells.
const mostPlanes = 300

func (w *Work) canSurvey(p Surveyed) Reason {
	if len(p.Planes) == 0 || len(p.Planes) > mostPlanes {
		return Unreadable
	}
	return w.byTicks(nothing{})
}

func (w *Work) canMeasure(p Measured) Reason {
	if !slices.Contains([]MeasureOf{GirdleThick, Across, Tall}, p.What) || !(p.MM > 0 && p.MM <= largest) {
		return Unreadable
	}
	return w.byTicks(nothing{})
}

func (w *Work) byTicks(nothing) Reason {
	if !w.Task.planned() {
		return NotForTask
	}
	return ""
}

func (w *Work) jump(e Event, v Visit) {
	to := Reopening{v.Setup, []string{v.Pass}, []string{v.Facet}}
	w.Moves = append(w.Moves, Moved{Act: w.with(Act{}, e), Reopening: to, Opened: []Opened{}})
}

func (w *Work) reopen(e Event, p Reopening) {
	m := Moved{Act: w.with(Act{}, e), Reopening: p, Opened: []Opened{}}
	for _, pass := range p.Passes {
		for _, facet := range p.Facets {
			v := Visit{p.Setup, pass, facet}
			if mark, there := w.Mark(v); there {
				m.Opened = append(m.Opened, Opened{v, mark})
				delete(w.Marks[v.Setup][v.Pass], v.Facet)
			}
		}
	}
	w.Moves = append(w.Moves, m)
}

func (w *Work) happen(e Event, p Happened) {
	w.Happenings = append(w.Happenings, Incident{w.with(Act{}, e), p})
}

func (w *Work) read(e Event, p Reading) {
	w.Readings = append(w.Readings, DialRead{w.with(Act{}, e), p})
}

// done ticks a visit. A height that the dial showed then is a reading like any other.
func (w *Work) done(e Event, p Ticking) {
	w.tick(e, p.Visit)
	if p.Dials == nil {
		return
	}
	w.Shown = append(w.Shown, Shown{w.with(Act{}, e), p.Visit, *p.Dials})
	if p.Dials.Height != nil {
		w.read(e, Reading{At: p.Visit, MM: *p.Dials.Height})
	}
}

func (w *Work) survey(e Event, _ Surveyed) { w.Surveys = append(w.Surveys, w.with(Act{}, e)) }

func (w *Work) measure(e Event, p Measured) {
	w.Measures = append(w.Measures, Calipered{w.with(Act{}, e), p})
}

// pause keeps the time since the last tick for the next one: what comes until the work is taken up again
// is not work.
func (w *Work) pause(e Event, _ nothing) {
	if took := w.since(e); took.Unseen == 0 {
		w.Spare = w.Spare.add(took)
	}
	w.bound(e)
}

func (w *Work) resume(e Event, _ nothing) { w.bound(e) }

// bound is one end of a pause: the next tick counts from here.
func (w *Work) bound(e Event) {
	w.Pauses = append(w.Pauses, Stretch{Act: w.with(Act{}, e), Kind: e.Kind, Device: e.Device, At: e.DeviceTime, Heard: e.ServerTime})
	w.Ticked[e.Device] = Tick{Seq: e.DeviceSeq, At: e.DeviceTime, Order: e.Seq}
}

// Paused tells whether the work is paused.
func (w *Work) Paused() bool {
	return len(w.Pauses) > 0 && w.Pauses[len(w.Pauses)-1].Kind == Pause
}
