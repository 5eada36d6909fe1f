package journal_test

import (
	"encoding/json"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/workshop/journal"
)

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
	thrice := slices.Concat(turned, []journal.Event{turn(5, "s1"), turn(6, "s2")})
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
