package journal_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"sort"
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
