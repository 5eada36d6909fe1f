package journal_test

import (
	"encoding/json"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"sort"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/workshop/journal"
)

var evening = time.Date(2026, 3, 1, 18, 0, 0, 0, time.UTC)

const work = "w"

// asked is a plan of two setups with a few facets, one of which gets a single pass.
var asked = journal.Asked{No: 1, Runs: []journal.AskedRun{
	{Setup: "s1", Pass: "cut", Facets: []string{"f1", "f2", "g1"}}, {Setup: "s1", Pass: "polish", Facets: []string{"f1", "f2"}},
	{Setup: "s2", Pass: "cut", Facets: []string{"f3"}}, {Setup: "s2", Pass: "polish", Facets: []string{"f3"}},
}}

// asked1 is the same as the first form of the payload has it.
const asked1 = `{"no":1,"setups":[
	{"setup":"s1","passes":["cut","polish"],"facets":[{"facet":"f1","passes":2},{"facet":"f2","passes":2},{"facet":"g1","passes":1}]},
	{"setup":"s2","passes":["cut","polish"],"facets":[{"facet":"f3","passes":2}]}]}`

// event names an event by a number.
func event(n int, kind journal.Kind, payload any) journal.Event {
	return journal.Event{
		ID: fmt.Sprintf("%032x", n), Stream: journal.OfWork(work), Device: "a", DeviceSeq: int64(n), DeviceTime: evening.Add(time.Duration(n) * time.Minute),
		Kind: kind, Version: journal.Newest(kind), Payload: journal.Payload(payload), Seq: int64(n), ServerTime: evening.Add(time.Duration(n) * time.Minute),
	}
}

func planned() journal.Event {
	e := event(0, journal.Plan, asked)
	e.Device = "workshop"
	return e
}

func visit(setup, facet string) journal.Visit {
	return journal.Visit{Setup: setup, Pass: "cut", Facet: facet}
}

func undo(n, of int) journal.Event {
	return event(n, journal.Undo, journal.TakenBack{Undoes: fmt.Sprintf("%032x", of)})
}

// A visit that two tabs ticked is taken back by one Back, and can be ticked again.
func TestATickMadeTwiceIsTakenBackOnce(t *testing.T) {
	v := visit("s1", "f1")
	log := []journal.Event{planned(), event(1, journal.Done, v), event(2, journal.Done, v), undo(3, 1)}
	w := journal.Fold(journal.FirstCut, log)
	_, there := w.Mark(v)
	assert.False(t, there)
	w = journal.Fold(journal.FirstCut, append(log, event(4, journal.Skip, v)))
	m, there := w.Mark(v)
	assert.True(t, there)
	assert.Equal(t, journal.Skip, m.Kind)
	done, skipped, all := w.Progress()
	assert.Equal(t, []int{0, 1, 7}, []int{done, skipped, all})
}

// What was done is open again after a reopening, counts on in hours and in what was used, and stands as before
// when that is taken back.
func TestAReopeningOpensWhatWasDoneAndCanBeTakenBack(t *testing.T) {
	v, other := visit("s1", "f1"), visit("s1", "f2")
	log := []journal.Event{planned(), event(1, journal.Done, v), event(2, journal.Done, other), event(3, journal.Again, journal.Reopening{Setup: "s1", Passes: []string{"cut", "polish"}, Facets: []string{"f1", "f2"}})}
	before := journal.Fold(journal.FirstCut, log[:3])
	w := journal.Fold(journal.FirstCut, log)
	done, _, _ := w.Progress()
	assert.Zero(t, done)
	assert.True(t, w.Begun())
	assert.InDelta(t, before.Hours(), w.Hours(), 1e-9, "the work was done")

	w = journal.Fold(journal.FirstCut, append(log, undo(4, 3)))
	assert.Equal(t, before.Marks, w.Marks)
	assert.Empty(t, w.Moves)

	// One was done again: that counts, the other comes back, and no time is lost.
	w = journal.Fold(journal.FirstCut, append(log, event(4, journal.Done, v), undo(5, 3), event(6, journal.Done, visit("s1", "g1"))))
	m, _ := w.Mark(v)
	assert.Equal(t, 4, m.N-1)
	done, _, _ = w.Progress()
	assert.Equal(t, 3, done)
	// Cuts of one, two and two minutes, and the first, which nobody saw, as the median of the two seen.
	assert.InDelta(t, 6.5/60, w.Hours(), 0.005)
}

// A pause is not work, however short.
func TestAPauseIsNotWork(t *testing.T) {
	at := func(n, minutes int, kind journal.Kind, payload any) journal.Event {
		e := event(n, kind, payload)
		e.DeviceTime = evening.Add(time.Duration(minutes) * time.Minute)
		return e
	}
	w := journal.Fold(journal.FirstCut, []journal.Event{
		planned(), at(1, 0, journal.Done, visit("s1", "f1")), at(2, 2, journal.Pause, nil), at(3, 10, journal.Resume, nil), at(4, 13, journal.Done, visit("s1", "f2")),
	})
	m, _ := w.Mark(visit("s1", "f2"))
	assert.Equal(t, int64(5*60*1000), m.Ms)
	assert.False(t, w.Paused())
}

// A work takes what can have happened to it and refuses the rest.
func TestWhatHappensAtTheWheelIsHeldAgainstPlanAndBounds(t *testing.T) {
	w := journal.Fold(journal.FirstCut, []journal.Event{planned()})
	none := func(string) (journal.Event, bool) { return journal.Event{}, false }
	v, strange := visit("s1", "f1"), visit("s9", "f1")
	for _, c := range []struct {
		kind    journal.Kind
		payload any
		want    journal.Reason
	}{
		{journal.Happen, journal.Happened{What: journal.Overcut, At: &v, MM: new(0.05)}, ""},
		{journal.Happen, journal.Happened{What: journal.BondFailed}, ""},
		{journal.Happen, journal.Happened{What: "sneezed"}, journal.Unreadable},
		{journal.Happen, journal.Happened{What: journal.Chip, MM: new(-1.0)}, journal.Unreadable},
		{journal.Happen, journal.Happened{What: journal.Chip, At: &strange}, journal.NotAsked},
		{journal.Read, journal.Reading{At: v, MM: 48.16}, ""},
		{journal.Done, journal.Ticking{Visit: v, Dials: &journal.Dials{Height: new(48.16)}}, ""},
		{journal.Done, journal.Ticking{Visit: v, Dials: &journal.Dials{Angle: new(1e6)}}, journal.Unreadable},
		{journal.Survey, journal.Surveyed{Planes: [][4]float64{{0, 0, 1, 3}}}, journal.OnlyWorkshop},
		{journal.Read, journal.Reading{At: v, MM: 1e6}, journal.Unreadable},
		{journal.Read, journal.Reading{At: strange, MM: 1}, journal.NotAsked},
		{journal.Measure, journal.Measured{What: journal.GirdleThick, MM: 0.4}, ""},
		{journal.Measure, journal.Measured{What: "weight", MM: 0.4}, journal.Unreadable},
		{journal.Jump, v, ""}, {journal.Jump, strange, journal.NotAsked},
		{journal.Again, journal.Reopening{Setup: "s1", Passes: []string{"cut"}, Facets: []string{"f1"}}, ""},
		{journal.Again, journal.Reopening{Setup: "s1", Passes: []string{"cut"}}, journal.Unreadable},
		{journal.Again, journal.Reopening{Setup: "s1", Passes: []string{"cut"}, Facets: []string{"f9"}}, journal.NotAsked},
		{journal.Pause, nil, ""},
	} {
		e := event(1, c.kind, c.payload)
		assert.Equal(t, c.want, w.Judge(e, none), "%s %s", c.kind, e.Payload)
	}
	assert.Equal(t, journal.NotForTask, journal.NewWork(journal.Repair).Judge(event(1, journal.Pause, nil), none))
}

// What a plan asks for in the first form of its payload it asks for in the second.
func TestAPlanOfTheFirstFormIsReadOn(t *testing.T) {
	old := planned()
	old.Version, old.Payload = 1, json.RawMessage(asked1)
	assert.Equal(t, journal.Fold(journal.FirstCut, []journal.Event{planned()}), journal.Fold(journal.FirstCut, []journal.Event{old}))
}

// A facet that was left out is open until it is cut, in that pass or in a later one.
func TestAFacetThatWasLeftOutIsOpenUntilItIsCut(t *testing.T) {
	polish := visit("s1", "f1")
	polish.Pass = "polish"
	counts := func(more ...journal.Event) []int {
		done, skipped, all := journal.Fold(journal.FirstCut, append([]journal.Event{planned(), event(1, journal.Skip, visit("s1", "f1"))}, more...)).Progress()
		return []int{done, skipped, all}
	}
	assert.Equal(t, []int{0, 1, 7}, counts())
	assert.Equal(t, []int{1, 0, 7}, counts(event(2, journal.Done, visit("s1", "f1"))))
	assert.Equal(t, []int{2, 0, 7}, counts(event(2, journal.Done, polish)))
	assert.Equal(t, []int{0, 2, 7}, counts(event(2, journal.Skip, polish)), "a later pass that leaves it out, too, cuts nothing")
}

// Folding event by event, kept as JSON in between, leads where the whole log leads; and
// however batches arrive, a device's own order counts.
func TestTheStateFollowsFromTheLogAlone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		log := draw(t)
		whole := journal.Fold(journal.FirstCut, log)
		kept := journal.NewWork(journal.FirstCut)
		for _, e := range journal.Ordered(log) {
			kept.Apply(e)
			data, err := json.Marshal(kept)
			require.NoError(t, err)
			kept = journal.NewWork(journal.FirstCut)
			require.NoError(t, json.Unmarshal(data, kept))
		}
		same(t, whole, kept)

		// Two events of one device that arrive the wrong way round count the right way.
		if len(log) > 2 {
			i := rapid.IntRange(1, len(log)-2).Draw(t, "swapped")
			if a, b := log[i], log[i+1]; a.Device == b.Device && a.DeviceSeq < b.DeviceSeq {
				late := slices.Clone(log)
				late[i], late[i+1] = b, a
				assert.Equal(t, order(log), order(late))
			}
		}
	})
}

func order(log []journal.Event) []string {
	var out []string
	for _, e := range journal.Ordered(log) {
		out = append(out, e.ID)
	}
	return out
}

func same(t require.TestingT, a, b *journal.Work) {
	one, err := json.Marshal(a)
	require.NoError(t, err)
	other, err := json.Marshal(b)
	require.NoError(t, err)
	require.JSONEq(t, string(one), string(other))
}

// draw draws a log of several devices whose clocks are off, some set back in between.
func draw(t *rapid.T) []journal.Event {
	log := []journal.Event{planned()}
	visits := asked.Visits()
	clocks := map[string]time.Time{}
	for _, d := range []string{"a", "b"} {
		clocks[d] = evening.Add(time.Duration(rapid.IntRange(-500, 500).Draw(t, "skew")) * time.Minute)
	}
	for n := 1; n <= rapid.IntRange(0, 25).Draw(t, "events"); n++ {
		var e journal.Event
		one := visits[rapid.IntRange(0, len(visits)-1).Draw(t, "visit")]
		switch rapid.IntRange(0, 9).Draw(t, "what") {
		case 0:
			e = undo(n, rapid.IntRange(0, n-1).Draw(t, "undoes"))
		case 1:
			e = event(n, journal.Skip, one)
		case 2:
			e = event(n, journal.Note, journal.Noted{Text: "a veil"})
		case 3:
			e = event(n, journal.Again, journal.Reopening{Setup: "s1", Passes: []string{"cut", "polish"}[:rapid.IntRange(1, 2).Draw(t, "passes")], Facets: []string{"f1", "f2"}})
		case 4:
			e = rapid.SampledFrom([]journal.Event{
				event(n, journal.Jump, one), event(n, journal.Pause, nil), event(n, journal.Resume, nil),
				event(n, journal.Read, journal.Reading{At: one, MM: 41.2}), event(n, journal.Measure, journal.Measured{What: journal.GirdleThick, MM: 0.4}),
				event(n, journal.Happen, journal.Happened{What: journal.Overcut, At: &one, MM: new(0.05)}),
				event(n, journal.Happen, journal.Happened{What: journal.BondFailed}),
			}).Draw(t, "event")
		default:
			e = event(n, journal.Done, one)
		}
		e.Device = rapid.SampledFrom([]string{"a", "a", "b"}).Draw(t, "device")
		step := time.Duration(rapid.IntRange(0, 1800).Draw(t, "seconds")) * time.Second
		if rapid.IntRange(0, 12).Draw(t, "set back") == 0 {
			step = -time.Hour
		}
		clocks[e.Device] = clocks[e.Device].Add(step)
		e.DeviceTime = clocks[e.Device]
		log = append(log, e)
	}
	return log
}

// By hand: the hours of a log in which nothing is taken back or done twice, reckoned from
// its list of ticks.
func TestHoursAgreeWithAModelWhateverTheClocksSay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var log []journal.Event
		seen := map[string]bool{}
		for _, e := range draw(t) {
			ticks := e.Kind == journal.Done || e.Kind == journal.Skip || e.Kind == journal.Note
			if key := string(e.Payload); ticks && (e.Kind == journal.Note || !seen[key]) {
				seen[key] = true
				log = append(log, e)
			}
		}
		type tick struct {
			step string
			gap  time.Duration
			seen bool
		}
		var ticks []tick
		var last journal.Event
		for _, e := range log {
			if e.Kind != journal.Done && e.Kind != journal.Skip {
				continue
			}
			var v journal.Visit
			require.NoError(t, json.Unmarshal(e.Payload, &v))
			gap := e.DeviceTime.Sub(last.DeviceTime)
			ticks = append(ticks, tick{v.Setup + v.Pass, gap, last.ID != "" && last.Device == e.Device && gap >= 0 && gap <= 15*time.Minute})
			last = e
		}
		total := 0.0
		for _, k := range ticks {
			if k.seen {
				total += k.gap.Seconds()
				continue
			}
			var own []float64
			for _, o := range ticks {
				if o.seen && o.step == k.step {
					own = append(own, o.gap.Seconds())
				}
			}
			sort.Float64s(own)
			if n := len(own); n > 0 {
				total += (own[(n-1)/2] + own[n/2]) / 2
			}
		}
		assert.InDelta(t, total/3600, journal.Fold(journal.FirstCut, log).Hours(), 0.0051)
	})
}

func TestHoursAreReckonedFromTheTicks(t *testing.T) {
	at := func(n int, minutes float64, v journal.Visit) journal.Event {
		e := event(n, journal.Done, v)
		e.DeviceTime = evening.Add(time.Duration(minutes * float64(time.Minute)))
		return e
	}
	// Gaps of 2, 4 and 2 minutes; the first tick and the one after supper count as the
	// median gap of 2.
	log := []journal.Event{
		planned(), at(1, 0, visit("s1", "f1")), at(2, 2, visit("s1", "f2")), at(3, 6, visit("s1", "g1")),
		at(4, 8, visit("s1", "h1")), at(5, 90, visit("s1", "h2")),
	}
	w := journal.Fold(journal.FirstCut, log)
	assert.InDelta(t, 12.0/60, w.Hours(), 0.005)
	minutes := w.Minutes([]journal.Visit{visit("s1", "g1"), visit("s1", "h2"), visit("s1", "open"), visit("s2", "f3")})
	assert.Equal(t, []float64{4, 2, 2, 2}, minutes, "what it took, and what such a cut takes")
	// What is taken back leaves its time to the tick that follows.
	w = journal.Fold(journal.FirstCut, append(log[:4:4], undo(4, 3), at(5, 9, visit("s1", "g1"))))
	m, _ := w.Mark(visit("s1", "g1"))
	assert.Equal(t, int64(7*60*1000), m.Ms)
	assert.Equal(t, journal.UsualMinutes, journal.NewWork(journal.FirstCut).Minutes([]journal.Visit{visit("s1", "f1")})[0])
}

func TestARepairGoesByTheClock(t *testing.T) {
	at := func(n int, kind journal.Kind, minutes int, device string) journal.Event {
		e := event(n, kind, nil)
		e.Device, e.DeviceTime = device, evening.Add(time.Duration(minutes)*time.Minute)
		return e
	}
	log := []journal.Event{at(1, journal.Begin, 0, "a"), at(2, journal.End, 30, "a"), at(3, journal.Begin, 60, "a"), at(4, journal.Begin, 61, "a"), at(5, journal.End, 75, "a")}
	w := journal.Fold(journal.Repair, log)
	assert.InDelta(t, 0.75, w.Hours(), 1e-9)
	_, since := w.Spent()
	assert.True(t, since.IsZero())
	// Begun on the tablet, ended at the desk whose clock is a day ahead: what counts is
	// when the two were heard.
	far := at(7, journal.End, 60*24, "desk")
	far.ServerTime = evening.Add(16 * time.Minute)
	w = journal.Fold(journal.Repair, append(log, at(6, journal.Begin, 100, "a"), far))
	spent, _ := w.Spent()
	assert.Equal(t, 55*time.Minute, spent)
	assert.Equal(t, journal.Cutting, w.State())
}

// Kinds that a newer version writes count for nothing and hurt nothing.
func TestUnknownKindsAreTolerated(t *testing.T) {
	strange := event(2, "overcut", map[string]float64{"mm": 0.1})
	newer := event(3, journal.Done, visit("s1", "f2"))
	newer.Version = 9
	w := journal.Fold(journal.FirstCut, []journal.Event{planned(), event(1, journal.Done, visit("s1", "f1")), strange, newer})
	done, _, _ := w.Progress()
	assert.Equal(t, 1, done)
	assert.Equal(t, 4, w.Count)
}

var update = flag.Bool("update", false, "write the fixtures that the interface's fold is held to")

// fixture is a log and where it leads, for the interface's own copy of the fold.
type fixture struct {
	Name   string         `json:"name"`
	Task   journal.Task   `json:"task"`
	Events []fixtureEvent `json:"events"`
	Want   fixtureState   `json:"want"`
}

type fixtureEvent struct {
	ID         string          `json:"id"`
	Stream     journal.Stream  `json:"stream"`
	Device     string          `json:"device"`
	DeviceSeq  int64           `json:"deviceSeq"`
	DeviceTime time.Time       `json:"deviceTime"`
	Kind       journal.Kind    `json:"kind"`
	Version    int             `json:"version"`
	Payload    json.RawMessage `json:"payload"`
	ServerTime time.Time       `json:"serverTime"`
	Seq        int64           `json:"seq"`
}

type fixtureState struct {
	// Marks are "setup/pass/facet kind", sorted.
	Marks  []string `json:"marks"`
	Checks []string `json:"checks"`
	Turns  []string `json:"turns"`
	// Dops are "setup dop cured", in the order in which the stone was glued.
	Dops     []string `json:"dops"`
	Vets     []int    `json:"vets"`
	Notes    int      `json:"notes"`
	Plan     int      `json:"plan"`
	Finished bool     `json:"finished"`
	Late     int      `json:"late"`
	Last     string   `json:"last"`
	// Moves are "setup passes facets" of jumps and reopenings, Happenings what happened, Readings
	// "setup/pass/facet mm", Measures "what mm", all in order.
	Moves      []string `json:"moves"`
	Happenings []string `json:"happenings"`
	Readings   []string `json:"readings"`
	Measures   []string `json:"measures"`
	// Surveys counts the stones that machines told.
	Surveys int   `json:"surveys"`
	Paused  bool  `json:"paused"`
	SpentMs int64 `json:"spentMs"`
	Running bool  `json:"running"`
}

func stateOf(w *journal.Work) fixtureState {
	out := fixtureState{Marks: []string{}, Checks: []string{}, Turns: []string{}, Dops: []string{}, Vets: []int{}, Notes: len(w.Notes), Moves: []string{}, Happenings: []string{}, Readings: []string{}, Measures: []string{}, Plan: w.Now().No, Finished: w.Finished, Late: w.Late, Last: w.LastAct()}
	for setup, passes := range w.Marks {
		for pass, facets := range passes {
			for facet, m := range facets {
				out.Marks = append(out.Marks, fmt.Sprintf("%s/%s/%s %s", setup, pass, facet, m.Kind))
			}
		}
	}
	for setup, items := range w.Checks {
		for item := range items {
			out.Checks = append(out.Checks, setup+"/"+item)
		}
	}
	for _, t := range w.Turns {
		out.Turns = append(out.Turns, t.Setup)
	}
	for _, list := range [][]string{out.Marks, out.Checks} {
		slices.Sort(list)
	}
	for _, g := range w.Dops {
		out.Dops = append(out.Dops, fmt.Sprintf("%s %s %d", g.Setup, g.Dop, g.Cured().UnixMilli()))
	}
	for plan := range w.Vets {
		out.Vets = append(out.Vets, plan)
	}
	slices.Sort(out.Vets)
	for _, m := range w.Moves {
		out.Moves = append(out.Moves, fmt.Sprintf("%s %s %s", m.Setup, strings.Join(m.Passes, ","), strings.Join(m.Facets, ",")))
	}
	for _, h := range w.Happenings {
		out.Happenings = append(out.Happenings, string(h.What))
	}
	for _, r := range w.Readings {
		out.Readings = append(out.Readings, fmt.Sprintf("%s/%s/%s %g", r.At.Setup, r.At.Pass, r.At.Facet, r.MM))
	}
	for _, m := range w.Measures {
		out.Measures = append(out.Measures, fmt.Sprintf("%s %g", m.What, m.MM))
	}
	out.Paused, out.Surveys = w.Paused(), len(w.Surveys)
	spent, since := w.Spent()
	out.SpentMs, out.Running = spent.Milliseconds(), !since.IsZero()
	return out
}

// The fixtures hold the interface's fold to this one: Go writes them, both must pass. They
// are drawn, and a few are made by hand.
func TestTheFixturesOfTheFoldAreFresh(t *testing.T) {
	var all []fixture
	add := func(name string, task journal.Task, log []journal.Event) {
		f := fixture{Name: name, Task: task, Want: stateOf(journal.Fold(task, log))}
		for _, e := range log {
			if e.Payload == nil {
				e.Payload = json.RawMessage("{}")
			}
			f.Events = append(f.Events, fixtureEvent{e.ID, e.Stream, e.Device, e.DeviceSeq, e.DeviceTime, e.Kind, e.Version, e.Payload, e.ServerTime, e.Seq})
		}
		all = append(all, f)
	}
	v := visit("s1", "f1")
	turned := []journal.Event{
		planned(), event(1, journal.Done, v), event(2, journal.Check, journal.Checked{Setup: "s2", Item: "bond"}),
		event(3, journal.Transfer, journal.Transferred{Setup: "s2"}), event(4, journal.Note, journal.Noted{Text: "a veil"}),
	}
	add("a transfer and a note", journal.FirstCut, turned)
	read := []journal.Event{
		planned(), event(1, journal.Done, journal.Ticking{Visit: v, Dials: &journal.Dials{Angle: new(41.98), Height: new(48.16)}}),
		event(2, journal.Survey, journal.Surveyed{From: "Mast dial", Planes: [][4]float64{{0, 0, -1, 2}}}),
	}
	add("a facet whose dials were read, and a stone that was told", journal.FirstCut, read)
	add("both taken back", journal.FirstCut, append(read, undo(3, 1), undo(4, 2)))
	add("the transfer taken back", journal.FirstCut, append(turned, undo(5, 3)))
	turn := func(n int, setup string) journal.Event {
		return event(n, journal.Transfer, journal.Transferred{Setup: setup})
	}
	thrice := append(turned, turn(5, "s1"), turn(6, "s2"))
	add("turned over, back and over again", journal.FirstCut, thrice)
	add("the last transfer told twice", journal.FirstCut, append(thrice, turn(7, "s2")))
	add("and taken back once for both", journal.FirstCut, append(thrice, turn(7, "s2"), undo(8, 7)))
	glued := []journal.Event{
		planned(), event(1, journal.Vetted, journal.Vetting{Plan: 1, Open: []string{"The girdle is thin."}}),
		event(2, journal.Dopped, journal.Dopping{Setup: "s1", Dop: "Flat dop 6 mm", Adhesive: "Wax", Minutes: 20}), event(3, journal.Done, v),
	}
	add("gone through and glued", journal.FirstCut, glued)
	add("glued anew, and that taken back", journal.FirstCut, append(glued, event(4, journal.Dopped, journal.Dopping{Setup: "s1", Dop: "Cone", Minutes: 5}), undo(5, 4), undo(6, 1)))
	add("a tick made twice, one Back", journal.FirstCut, []journal.Event{planned(), event(1, journal.Done, v), event(2, journal.Done, v), undo(3, 2)})
	late := event(1, journal.Done, v)
	late.Seq = 9
	add("a batch that arrived the wrong way round", journal.FirstCut, []journal.Event{planned(), undo(2, 1), late})
	second := asked
	second.No = 2
	replanned, finished := event(5, journal.Plan, second), event(6, journal.Finish, nil)
	replanned.Device, finished.Device = "workshop", "workshop"
	add("planned anew, finished, and a late tick", journal.FirstCut, append(turned, replanned, finished, event(7, journal.Done, visit("s1", "f2"))))
	back := []journal.Event{
		planned(), event(1, journal.Done, v), event(2, journal.Done, visit("s1", "f2")),
		event(3, journal.Again, journal.Reopening{Setup: "s1", Passes: []string{"cut"}, Facets: []string{"f1", "f2"}}), event(4, journal.Done, v),
	}
	add("two facets again, one of them done", journal.FirstCut, back)
	add("and that taken back", journal.FirstCut, append(back, undo(5, 3)))
	add("taken back after the tick that was opened", journal.FirstCut, append(back, undo(5, 2), undo(6, 3)))
	begun := []journal.Event{event(1, journal.Begin, nil), event(2, journal.End, nil), event(3, journal.Begin, nil)}
	add("a repair that is being worked on", journal.Repair, begun)
	far := event(4, journal.End, nil)
	far.Device = "b"
	add("a repair begun on one device, ended on another", journal.Repair, append(begun, far))
	agreed := event(7, journal.Agree, journal.Agreed{Was: "keep the table", Is: "the table may go"})
	agreed.Device = "workshop"
	add("something else agreed after the card", journal.Repair, append(begun, finished, agreed))
	old := planned()
	old.Version, old.Payload = 1, json.RawMessage(asked1)
	add("a plan of the first form", journal.FirstCut, []journal.Event{old, event(1, journal.Done, v)})
	strange := event(2, "overcut", map[string]float64{"mm": 0.1})
	add("a kind of a later version", journal.FirstCut, []journal.Event{planned(), event(1, journal.Done, v), strange})
	for seed := range 40 {
		log := rapid.Custom(draw).Example(seed)
		add(fmt.Sprintf("drawn %d", seed), journal.FirstCut, log)
	}
	file := filepath.Join("..", "..", "ui", "src", "log", "fold.fixtures.json")
	if *update {
		lines := make([]string, len(all))
		for i, f := range all {
			data, err := json.Marshal(f)
			require.NoError(t, err)
			lines[i] = string(data)
		}
		require.NoError(t, os.WriteFile(file, []byte("[\n"+strings.Join(lines, ",\n")+"\n]\n"), 0o644))
	}
	kept, err := os.ReadFile(file)
	require.NoError(t, err)
	var have []fixture
	require.NoError(t, json.Unmarshal(kept, &have))
	assert.Len(t, have, len(all))
	for _, f := range have {
		var log []journal.Event
		for _, e := range f.Events {
			log = append(log, journal.Event{
				ID: e.ID, Stream: e.Stream, Device: e.Device, DeviceSeq: e.DeviceSeq, DeviceTime: e.DeviceTime, Kind: e.Kind, Version: e.Version,
				Payload: e.Payload, ServerTime: e.ServerTime, Seq: e.Seq,
			})
		}
		assert.Equal(t, f.Want, stateOf(journal.Fold(f.Task, log)), f.Name)
	}
}
