package journal

import (
	"slices"
	"time"
)

// Rules is the version of what follows from a log. It is raised when the same log means
// something else than before: states that older rules left are then folded anew.
const Rules = 7

// Task says what a work is for, and so what can happen to it.
type Task string

// The tasks.
const (
	// FirstCut makes a stone out of rough, to a plan.
	FirstCut Task = "first-cut"
	// Recut cuts a finished stone anew, to a plan.
	Recut Task = "recut"
	// Repair mends a finished stone that came in. It has no plan and goes by the clock.
	Repair Task = "repair"
)

// planned tells whether work of this kind is ticked to a plan; other work goes by the clock.
func (t Task) planned() bool { return t == FirstCut || t == Recut }

// Work is the state of a work as its log tells it. It is folded event by event, and can
// be kept as JSON between them.
type Work struct {
	Task Task `json:"task"`
	// Plans is what each plan that the work has had asks for, by their numbers.
	Plans []Asked `json:"plans"`
	// Begins is the place among all events at which each of the Plans began.
	Begins []int `json:"begins"`
	// Marks are the visits that are done or left out, by setup, pass and facet.
	Marks map[string]map[string]map[string]Mark `json:"marks"`
	// Checks are the items of transfers that are checked, by setup and item.
	Checks map[string]map[string]Act `json:"checks"`
	// Turns are the setups that the stone was turned over to, in order.
	Turns []Turned `json:"turned"`
	// Dops are the gluings, Vets the plans that were gone through, by number.
	Dops []Glued     `json:"dops"`
	Vets map[int]Act `json:"vets"`
	// Stretches begin and end by the clock, in turn.
	Stretches []Stretch `json:"stretches"`
	Notes     []Act     `json:"notes"`
	// Moves are jumps and reopenings, in order: the work goes on with the last one. Happenings,
	// Readings and Measures are in order, too.
	Moves      []Moved     `json:"moves"`
	Happenings []Incident  `json:"happenings"`
	Readings   []DialRead  `json:"readings"`
	Measures   []Calipered `json:"measures"`
	// Shown are what dials showed at visits, Surveys the stones that machines told, in order.
	Shown   []Shown `json:"shown"`
	Surveys []Act   `json:"surveys"`
	// Pauses begin and end, in turn.
	Pauses []Stretch `json:"pauses"`
	// Finished: the logbook card is written. Late counts what came in after that.
	Finished bool `json:"finished"`
	Late     int  `json:"late"`
	// Count is the number of events folded, Last when the last one arrived.
	Count int       `json:"count"`
	Last  time.Time `json:"last"`
	// Heard is the sequence number of each device's last event here, Ticked its last
	// tick on this stone or, in a run, on any of it.
	Heard  map[string]int64 `json:"heard"`
	Ticked map[string]Tick  `json:"ticked"`
	// Spare is time that belongs to the next tick: that of ticks that were taken back, or
	// made twice.
	Spare Time `json:"spare"`
}

// Act is an event that stands: that was not taken back. Events lists all that say the
// same, the last one last.
type Act struct {
	// N is its place among all events of the work.
	N      int      `json:"n"`
	Events []string `json:"events"`
}

// Time is what is known of a time: milliseconds that were seen, and stretches that nobody
// saw because more than 15 minutes passed, or another device was used, or its clock was
// set back.
type Time struct {
	Ms     int64 `json:"ms"`
	Unseen int   `json:"unseen"`
}

func (t Time) add(o Time) Time { return Time{t.Ms + o.Ms, t.Unseen + o.Unseen} }

// Tick is when a device ticked, by its own clock.
type Tick struct {
	Seq int64     `json:"seq"`
	At  time.Time `json:"at"`
	// Order is the place in which it arrived among the events of all works.
	Order int64 `json:"order"`
}

// Glued is a stone on its dop, by the clock of the device that told it.
type Glued struct {
	Act
	Dopping
	At time.Time `json:"at"`
}

// Cured is when the bond can be cut on.
func (g Glued) Cured() time.Time { return g.At.Add(time.Duration(g.Minutes * float64(time.Minute))) }

// Stretch is one end of a stretch of work.
type Stretch struct {
	Act
	Kind   Kind      `json:"kind"`
	Device string    `json:"device"`
	At     time.Time `json:"at"`
	Heard  time.Time `json:"heard"`
}

// NewWork returns the state of a work to which nothing has happened yet.
func NewWork(task Task) *Work {
	return &Work{
		Task: task, Plans: []Asked{}, Begins: []int{}, Marks: map[string]map[string]map[string]Mark{},
		Checks: map[string]map[string]Act{}, Turns: []Turned{}, Dops: []Glued{}, Vets: map[int]Act{}, Stretches: []Stretch{}, Notes: []Act{},
		Moves: []Moved{}, Happenings: []Incident{}, Readings: []DialRead{}, Measures: []Calipered{}, Shown: []Shown{}, Surveys: []Act{}, Pauses: []Stretch{},
		Heard: map[string]int64{}, Ticked: map[string]Tick{},
	}
}

// Fold returns the state that a log leads to. The events come in the order of their
// arrival. Events of kinds that this application does not know count for nothing.
func Fold(task Task, events []Event) *Work {
	w := NewWork(task)
	for _, e := range Ordered(events) {
		w.Apply(e)
	}
	return w
}

// FoldRun returns the states of works that are cut together, by their IDs: the time
// before a tick counts from the device's last tick on any of them.
func FoldRun(tasks map[string]Task, events []Event) map[string]*Work {
	out := map[string]*Work{}
	ticked := map[string]Tick{}
	for id, task := range tasks {
		out[id] = NewWork(task)
		out[id].Ticked = ticked
	}
	for _, e := range Ordered(events) {
		if id, ok := e.Stream.Work(); ok && out[id] != nil {
			out[id].Apply(e)
		}
	}
	return out
}

// InOrder tells whether an event can be folded next: it does not come before one of its
// own device that was folded already.
func (w *Work) InOrder(e Event) bool {
	return e.DeviceSeq >= max(w.Heard[e.Device], w.Ticked[e.Device].Seq)
}

// Apply folds the next event into the state.
func (w *Work) Apply(e Event) {
	w.Count++
	w.Heard[e.Device] = e.DeviceSeq
	if e.ServerTime.After(w.Last) {
		w.Last = e.ServerTime
	}
	if w.Finished && !kinds[e.Kind].byWorkshop {
		w.Late++
	}
	if k, known := kinds[e.Kind]; known && e.Version <= k.version {
		k.apply(w, e)
	}
}

// asks tells whether any plan that the work has had asks for a visit.
func (w *Work) asks(v Visit) Reason {
	if !w.Task.planned() {
		return NotForTask
	}
	if slices.ContainsFunc(w.Plans, func(a Asked) bool { return a.asks(v) }) {
		return ""
	}
	return NotAsked
}

func (w *Work) knowsSetup(setup string) Reason {
	if !w.Task.planned() {
		return NotForTask
	}
	for _, plan := range w.Plans {
		if slices.ContainsFunc(plan.Runs, func(r AskedRun) bool { return r.Setup == setup }) {
			return ""
		}
	}
	return NotAsked
}

func (w *Work) hasSetup(p Transferred) Reason { return w.knowsSetup(p.Setup) }

func (w *Work) hasItem(p Checked) Reason {
	const longest = 64
	if p.Item == "" || len(p.Item) > longest {
		return Unreadable
	}
	return w.knowsSetup(p.Setup)
}

// Bounds of what is told of gluing, in bytes, and of curing, in minutes.
const (
	longestName, longestLine, mostLines = 200, 1000, 60
	aWeek                               = 7 * 24 * 60
)

func (w *Work) canDop(p Dopping) Reason {
	if len(p.Dop) > longestName || len(p.Adhesive) > longestName || len(p.Axis) > longestLine || !(p.Minutes >= 0 && p.Minutes <= aWeek) {
		return Unreadable
	}
	return w.knowsSetup(p.Setup)
}

func (w *Work) canVet(p Vetting) Reason {
	tooLong := func(s string) bool { return s == "" || len(s) > longestLine }
	if len(p.Open) > mostLines || slices.ContainsFunc(p.Open, tooLong) {
		return Unreadable
	}
	if !w.Task.planned() {
		return NotForTask
	}
	if !slices.ContainsFunc(w.Plans, func(a Asked) bool { return a.No == p.Plan }) {
		return NotAsked
	}
	return ""
}

func (w *Work) byTheClock(nothing) Reason {
	if w.Task.planned() {
		return NotForTask
	}
	return ""
}

// longPause: a longer gap between ticks was not work on the stone.
const longPause = 15 * time.Minute

// since returns how long a device needed for a tick: since its tick before, if that was
// the last of all.
func (w *Work) since(e Event) Time {
	before, ok := w.Ticked[e.Device]
	for device, other := range w.Ticked {
		ok = ok && (device == e.Device || other.Order < before.Order)
	}
	gap := e.DeviceTime.Sub(before.At)
	if !ok || gap < 0 || gap > longPause {
		return Time{Unseen: 1}
	}
	return Time{Ms: gap.Milliseconds()}
}

func (w *Work) tick(e Event, v Visit) {
	took := w.Spare.add(w.since(e))
	w.Spare = Time{}
	w.Ticked[e.Device] = Tick{Seq: e.DeviceSeq, At: e.DeviceTime, Order: e.Seq}
	if w.Marks[v.Setup] == nil {
		w.Marks[v.Setup] = map[string]map[string]Mark{}
	}
	if w.Marks[v.Setup][v.Pass] == nil {
		w.Marks[v.Setup][v.Pass] = map[string]Mark{}
	}
	m, twice := w.Marks[v.Setup][v.Pass][v.Facet]
	if twice {
		w.Spare = took
	} else {
		m.Time = took
	}
	w.Marks[v.Setup][v.Pass][v.Facet] = m.and(e, w.Count)
}

// with adds an event to those that say the same.
func (w *Work) with(a Act, e Event) Act { return Act{N: w.Count, Events: append(a.Events, e.ID)} }

func (w *Work) check(e Event, p Checked) {
	if w.Checks[p.Setup] == nil {
		w.Checks[p.Setup] = map[string]Act{}
	}
	w.Checks[p.Setup][p.Item] = w.with(w.Checks[p.Setup][p.Item], e)
}

func (w *Work) dop(e Event, p Dopping) {
	w.Dops = append(w.Dops, Glued{Act: w.with(Act{}, e), Dopping: p, At: e.DeviceTime})
}

// Dop returns how the stone was glued for a setup: the last time where it was glued anew.
func (w *Work) Dop(setup string) (Glued, bool) {
	for _, g := range slices.Backward(w.Dops) {
		if g.Setup == setup {
			return g, true
		}
	}
	return Glued{}, false
}

func (w *Work) vet(e Event, p Vetting) { w.Vets[p.Plan] = w.with(w.Vets[p.Plan], e) }

// Cured is when the last bond can be cut on, the zero time where none was told.
func (w *Work) Cured() time.Time {
	if len(w.Dops) == 0 {
		return time.Time{}
	}
	return w.Dops[len(w.Dops)-1].Cured()
}

func (w *Work) note(e Event, _ Noted) { w.Notes = append(w.Notes, w.with(Act{}, e)) }

func (w *Work) stretch(e Event, _ nothing) {
	w.Stretches = append(w.Stretches, Stretch{Act: w.with(Act{}, e), Kind: e.Kind, Device: e.Device, At: e.DeviceTime, Heard: e.ServerTime})
}

func (w *Work) plan(_ Event, p Asked) {
	at, known := slices.BinarySearchFunc(w.Plans, p.No, func(a Asked, no int) int { return a.No - no })
	if !known {
		w.Plans = slices.Insert(w.Plans, at, p)
		w.Begins = slices.Insert(w.Begins, at, w.Count)
	}
}

func (w *Work) finish(Event, nothing) { w.Finished = true }

// Mark returns what became of a visit.
func (w *Work) Mark(v Visit) (Mark, bool) {
	m, ok := w.Marks[v.Setup][v.Pass][v.Facet]
	return m, ok
}

// HasCut tells whether a facet was cut in any pass.
func (w *Work) HasCut(facet string) bool {
	cut := false
	w.eachMark(func(v Visit, m Mark) { cut = cut || v.Facet == facet && m.Kind == Done })
	return cut
}

// Skipped tells whether a facet was left out in any pass.
func (w *Work) Skipped(facet string) bool {
	skipped := false
	w.eachMark(func(v Visit, m Mark) { skipped = skipped || v.Facet == facet && m.Kind == Skip })
	return skipped
}

// Now returns what the present plan asks for, nothing for a work without a plan.
func (w *Work) Now() Asked {
	if len(w.Plans) == 0 {
		return Asked{}
	}
	return w.Plans[len(w.Plans)-1]
}

// Begun tells whether any visit is done or left out, of whatever plan.
func (w *Work) Begun() bool {
	begun := false
	w.eachTick(func(Visit, Mark) { begun = true })
	return begun
}

// Progress tells how many of the visits that the present plan asks for are done, how many
// were left out and are still open, and how many there are. A facet that was left out in one
// pass and cut in a later one is done.
func (w *Work) Progress() (done, skipped, all int) {
	type facet struct{ setup, facet string }
	cutLater := map[facet]bool{}
	for _, v := range slices.Backward(w.Now().Visits()) {
		all++
		m, there := w.Mark(v)
		at := facet{v.Setup, v.Facet}
		switch {
		case there && m.Kind == Done:
			cutLater[at] = true
			done++
		case there && cutLater[at]:
			done++
		case there:
			skipped++
		}
	}
	return done, skipped, all
}

// State is where a work stands.
type State string

// The states, in order.
const (
	Planned State = "planned"
	Cutting State = "cutting"
	// Cut: every visit is done and no facet left out, the logbook card not written.
	Cut      State = "cut"
	Complete State = "finished"
)

// State returns where the work stands.
func (w *Work) State() State {
	done, _, all := w.Progress()
	switch {
	case w.Finished:
		return Complete
	case all > 0 && done == all:
		return Cut
	case w.LastAct() != "" || len(w.Notes) > 0 || len(w.Surveys) > 0:
		return Cutting
	}
	return Planned
}

func (w *Work) eachMark(f func(Visit, Mark)) {
	for setup, passes := range w.Marks {
		for pass, facets := range passes {
			for facet, m := range facets {
				f(Visit{setup, pass, facet}, m)
			}
		}
	}
}

// CutAt is a visit that was done, and the place of its event among all of the work.
type CutAt struct {
	Visit
	N int
}

// Cuts lists the visits that were done, those that were opened again among them, in the order of their events.
func (w *Work) Cuts() []CutAt {
	var out []CutAt
	w.eachTick(func(v Visit, m Mark) {
		if m.Kind == Done {
			out = append(out, CutAt{v, m.N})
		}
	})
	// Ticks of one batch have places of their own; only a mark that is listed twice has the same.
	slices.SortFunc(out, func(a, b CutAt) int { return a.N - b.N })
	return out
}

// PlanAt returns the number of the plan that held at a place among the events, 0 before the first.
func (w *Work) PlanAt(n int) int {
	no := 0
	for i, begins := range w.Begins {
		if begins <= n {
			no = w.Plans[i].No
		}
	}
	return no
}

// eachTick goes through the marks, those that were opened again among them.
func (w *Work) eachTick(f func(Visit, Mark)) {
	w.eachMark(f)
	for _, m := range w.Moves {
		for _, o := range m.Opened {
			f(o.Visit, o.Mark)
		}
	}
}
