package storetest

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/material"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// planned is a stone with a plan, not stored yet.
func planned(t *testing.T, ctx context.Context, s workshop.Store, id string) workshop.Stone {
	t.Helper()
	r := revision("Halo")
	require.NoError(t, s.InsertRevision(ctx, r))
	glass, _ := material.Find("Practice glass")
	pose := gear.Pose{Up: workshop.UsualPose(diagram.Crown, 96, 0).Up, Gear: 96, Turn: 1.25, Rotation: gear.Unmoved}
	plan := workshop.Plan{
		No: 1, DiagramID: "d1", DiagramName: "Halo", Revision: r.Hash, AsCut: r.Hash, Machine: workshop.DefaultMachine(), Material: glass,
		Choices: workshop.Choices{Material: glass.Name, Machine: "machine", Gear: 96, Size: workshop.Size{Basis: workshop.AcrossWidth, MM: 8, Typed: "8"},
			FirstSide: diagram.Pavilion, PlanHabits: workshop.DefaultHabits().PlanHabits, Laps: workshop.Laps{
				Passes: workshop.DefaultHabits().Passes, Uses: []workshop.LapUse{{Group: workshop.GirdleLaps, Tier: "G1", Without: []string{"polish"}}},
			}, Holds: []workshop.Hold{{Dop: "Cone dop 6 mm", Adhesive: "wax", DopItem: "dop a"}}},
		Turns: cutting.Turns{Pavilion: 1, Crown: -2}, Setups: []workshop.Setup{{ID: "setup " + id, Pose: pose}},
		Facets:  []workshop.PlannedFacet{{ID: "f1", Tier: 0, Index: 96, Setup: "setup " + id}},
		Runs:    []workshop.PlannedRun{{Setup: "setup " + id, Pass: "cut", Adapter: true, Facets: []workshop.FacetID{"f1"}}},
		Left:    []diagram.Problem{{Code: cutting.HabitNotKept, Tier: "P1", Field: diagram.FieldStop, Text: "x", Other: "y", Value: 1, Low: 2, High: 3}},
		Layer:   []workshop.TierChange{{Tier: "P1", Angle: 41.5, Stop: "centre"}},
		Created: now,
	}
	return workshop.Stone{
		ID: id, Name: "Gift " + id, Created: now, Version: 1,
		Works: []workshop.Work{{ID: "work " + id, Task: workshop.FirstCut{}, Created: now, Plan: &plan}},
	}
}

func repaired(id, promised string) workshop.Stone {
	in := workshop.Intake{Owner: "Ms. Averill", Material: "Peridot", Carats: 2, WidthMM: 7, LengthMM: 8, HeightMM: 4, Damage: "chip", Agreed: "yes", Promised: promised}
	return workshop.Stone{
		ID: id, Name: "Ring " + id, Created: now, Version: 1,
		Works: []workshop.Work{{ID: "work " + id, Task: workshop.Repair{Intake: in}, Created: now}},
	}
}

func stones(t *testing.T, ctx context.Context, s workshop.Store) {
	_, err := s.Stone(ctx, "none")
	require.ErrorIs(t, err, workshop.ErrNotFound)
	want := planned(t, ctx, s, "a")
	want.Number, err = s.InsertStone(ctx, want)
	require.NoError(t, err)
	assert.Equal(t, 1, want.Number)
	got, err := s.Stone(ctx, "a")
	require.NoError(t, err)
	assert.Equal(t, want, got)

	next := *want.Works[0].Plan
	next.No, next.Choices.Size.MM = 2, 9
	require.NoError(t, s.AddPlan(ctx, "a", "work a", next, 1))
	require.ErrorIs(t, s.AddPlan(ctx, "a", "work a", next, 1), workshop.ErrStale)
	got, err = s.Stone(ctx, "a")
	require.NoError(t, err)
	assert.Equal(t, &next, got.Work().Plan)
	old, err := s.Plan(ctx, "work a", 1)
	require.NoError(t, err)
	assert.Equal(t, *want.Works[0].Plan, old, "a plan is never changed")
	_, err = s.Plan(ctx, "work a", 3)
	require.ErrorIs(t, err, workshop.ErrNotFound)

	ring := repaired("b", "2026-05-01")
	ring.Number, err = s.InsertStone(ctx, ring)
	require.NoError(t, err)
	assert.Equal(t, 2, ring.Number)
	changed := ring.Work().Task.(workshop.Repair)
	changed.Intake.Agreed = "no"
	require.NoError(t, s.SaveRepair(ctx, "b", "Brooch", "work b", changed, 1))
	require.ErrorIs(t, s.SaveRepair(ctx, "b", "Brooch", "work b", changed, 1), workshop.ErrStale)
	got, err = s.Stone(ctx, "b")
	require.NoError(t, err)
	assert.Equal(t, "Brooch", got.Name)
	assert.Equal(t, changed, got.Work().Task)

	back := ring.Works[0]
	back.ID = "work b2"
	require.NoError(t, s.InsertWork(ctx, "b", back, 2))
	require.ErrorIs(t, s.InsertWork(ctx, "b", back, 2), workshop.ErrStale)
	got, err = s.Stone(ctx, "b")
	require.NoError(t, err)
	assert.Equal(t, []string{"work b", "work b2"}, []string{got.Works[0].ID, got.Work().ID})
	recut := planned(t, ctx, s, "c").Work()
	recut.Task = workshop.Recut{Carats: 1.9, WidthMM: 6, LengthMM: 7, HeightMM: 4, Why: "a chip", Intake: &workshop.Intake{Owner: "Ms. Falk", Promised: "2026-04-15"}}
	require.NoError(t, s.InsertWork(ctx, "b", recut, 3))
	got, err = s.Stone(ctx, "b")
	require.NoError(t, err)
	assert.Equal(t, recut, got.Work())
	line := func(f workshop.StoneFilter) workshop.StoneLine {
		page, err := s.Stones(ctx, f, workshop.Cursor{}, 5)
		require.NoError(t, err)
		require.Len(t, page.Lines, 1)
		assert.Equal(t, 1, page.Total)
		return page.Lines[0]
	}
	assert.Equal(t, recut.ID, line(workshop.StoneFilter{ID: "b"}).WorkID, "a list shows what a stone is at now")
	assert.Equal(t, "2026-04-15", line(workshop.StoneFilter{Owed: true}).Promised, "what was promised is owed, whatever is done to it")
	assert.Equal(t, "work b2", line(workshop.StoneFilter{Work: "work b2"}).WorkID, "an earlier work is found by its name")
}

func listed(t *testing.T, ctx context.Context, s workshop.Store) {
	for i, promised := range []string{"", "2026-05-01", "2026-04-01"} {
		stone := repaired(fmt.Sprint("r", i), promised)
		_, err := s.InsertStone(ctx, stone)
		require.NoError(t, err)
		folded := journal.NewWork(journal.Repair)
		folded.Last = now.Add(time.Duration(i) * time.Minute)
		require.NoError(t, s.SaveWorkState(ctx, workshop.WorkState{WorkID: stone.Work().ID, Task: journal.Repair, Created: now, Folded: folded, Seq: 0}))
	}
	_, err := s.InsertStone(ctx, planned(t, ctx, s, "p"))
	require.NoError(t, err)
	all := func(f workshop.StoneFilter, limit int) (out []string) {
		for after := (workshop.Cursor{}); ; {
			page, err := s.Stones(ctx, f, after, limit)
			require.NoError(t, err)
			assert.LessOrEqual(t, len(page.Lines), limit)
			for _, l := range page.Lines {
				out = append(out, l.ID)
			}
			if page.Next == nil {
				assert.Equal(t, len(out), page.Total)
				return out
			}
			after = *page.Next
		}
	}
	for _, limit := range []int{1, 2, 10} {
		assert.Equal(t, []string{"r2", "r1", "r0", "p"}, all(workshop.StoneFilter{}, limit), "by pages of %d", limit)
		assert.Equal(t, []string{"r2", "r1", "r0"}, all(workshop.StoneFilter{Tasks: []journal.Task{journal.Repair}, Sort: workshop.ByPromise}, limit))
	}
	assert.Equal(t, []string{"p"}, all(workshop.StoneFilter{Words: []string{"HALO", "glass", "gift"}}, 5))
	assert.Equal(t, []string{"p"}, all(workshop.StoneFilter{Words: []string{"4"}}, 5), "by its number")
	assert.Empty(t, all(workshop.StoneFilter{States: []journal.State{journal.Complete}}, 5))
	page, err := s.Stones(ctx, workshop.StoneFilter{ID: "p", Uncounted: true}, workshop.Cursor{}, 1)
	require.NoError(t, err)
	line := page.Lines[0]
	assert.Equal(t, []any{"Halo", "Practice glass", 8.0, journal.Planned, revision("Halo").Hash}, []any{line.Diagram, line.Material, line.SizeMM, line.State, line.Picture})
}

func runs(t *testing.T, ctx context.Context, s workshop.Store) {
	_, _, err := s.Run(ctx, "none")
	require.ErrorIs(t, err, workshop.ErrNotFound)
	run := workshop.Run{ID: "run", Name: "Pair", Order: workshop.TierByTier, Created: now}
	require.NoError(t, s.InsertRun(ctx, run))
	for i, id := range []string{"b", "a"} {
		stone := planned(t, ctx, s, id)
		stone.Run, stone.RunPlace = "run", 2-i
		_, err := s.InsertStone(ctx, stone)
		require.NoError(t, err)
	}
	got, members, err := s.Run(ctx, "run")
	require.NoError(t, err)
	assert.Equal(t, run, got)
	assert.Equal(t, []string{"a", "b"}, []string{members[0].ID, members[1].ID}, "in their order")
	page, err := s.Stones(ctx, workshop.StoneFilter{Run: "run", Sort: workshop.ByPlace}, workshop.Cursor{}, 1)
	require.NoError(t, err)
	assert.Equal(t, "a", page.Lines[0].ID)
	page, err = s.Stones(ctx, workshop.StoneFilter{Run: "run", Sort: workshop.ByPlace}, *page.Next, 1)
	require.NoError(t, err)
	assert.Equal(t, "b", page.Lines[0].ID)
	ticks, err := s.RunTicks(ctx, "run")
	require.NoError(t, err)
	assert.Len(t, ticks, 2)
}

func entry(work string, n int) journal.Event {
	return journal.Event{
		ID: fmt.Sprintf("%032x", n), Stream: journal.OfWork(work), Device: "d", DeviceSeq: int64(n), DeviceTime: now, ServerTime: now.Add(time.Second),
		Kind: journal.Note, Version: 1, Payload: journal.Payload(journal.Noted{Text: "a veil"}), By: journal.Actor{ID: "t", Name: "Tablet"},
	}
}

func log(t *testing.T, ctx context.Context, s workshop.Store) {
	var seqs []int64
	for n := range 4 {
		seq, err := s.InsertEvent(ctx, entry([]string{"a", "b"}[n%2], n))
		require.NoError(t, err)
		seqs = append(seqs, seq)
	}
	assert.IsIncreasing(t, seqs)
	_, err := s.InsertEvent(ctx, entry("b", 0))
	require.Error(t, err, "a name is used once in all logs")
	got, err := s.Event(ctx, entry("a", 2).ID)
	require.NoError(t, err)
	want := entry("a", 2)
	want.Seq = seqs[2]
	assert.Equal(t, want, got)
	_, err = s.Event(ctx, "none")
	require.ErrorIs(t, err, workshop.ErrNotFound)
	ids := func(works []string, after int64, limit int) (out []int64) {
		events, err := s.Events(ctx, works, after, limit)
		require.NoError(t, err)
		for _, e := range events {
			out = append(out, e.Seq)
		}
		return out
	}
	assert.Equal(t, []int64{seqs[0], seqs[2]}, ids([]string{"a"}, 0, 0))
	assert.Equal(t, seqs, ids([]string{"b", "a"}, 0, 0), "in the order of their arrival")
	assert.Equal(t, seqs[1:3], ids([]string{"a", "b"}, seqs[0], 2))
	assert.Empty(t, ids(nil, 0, 0))
	streams, last, err := s.StreamsAfter(ctx, seqs[2])
	require.NoError(t, err)
	assert.Equal(t, []string{string(entry("b", 3).Stream)}, streams)
	assert.Equal(t, seqs[3], last)
	last, err = s.LastPlace(ctx)
	require.NoError(t, err)
	assert.Equal(t, seqs[3], last)
}

func states(t *testing.T, ctx context.Context, s workshop.Store) {
	_, err := s.WorkState(ctx, "none")
	require.ErrorIs(t, err, workshop.ErrNotFound)
	stone := planned(t, ctx, s, "a")
	_, err = s.InsertStone(ctx, stone)
	require.NoError(t, err)
	work := stone.Work()
	fresh, err := s.WorkState(ctx, work.ID)
	require.NoError(t, err)
	assert.Equal(t, workshop.WorkState{WorkID: work.ID, Task: journal.FirstCut, Created: now, Folded: journal.NewWork(journal.FirstCut)}, fresh)
	seq, err := s.InsertEvent(ctx, entry(work.ID, 1))
	require.NoError(t, err)
	stale, err := s.StaleWorks(ctx)
	require.NoError(t, err)
	assert.Equal(t, []string{work.ID}, stale, "its log goes further")
	tick := entry(work.ID, 2)
	tick.Kind, tick.Payload, tick.Seq = journal.Done, journal.Payload(journal.Visit{Setup: "setup a", Pass: "cut", Facet: "f1"}), seq
	fresh.Folded.Apply(tick)
	fresh.Seq = seq
	require.NoError(t, s.SaveWorkState(ctx, fresh))
	got, err := s.WorkState(ctx, work.ID)
	require.NoError(t, err)
	assert.Equal(t, fresh, got)
	stale, err = s.StaleWorks(ctx)
	require.NoError(t, err)
	assert.Empty(t, stale)
	ids, err := s.WorkIDs(ctx)
	require.NoError(t, err)
	assert.Equal(t, []string{work.ID}, ids)
	paces, err := s.Paces(ctx, 5)
	require.NoError(t, err)
	assert.Empty(t, paces, "a first tick says nothing of a pace")
}

func cards(t *testing.T, ctx context.Context, s workshop.Store) {
	hours := 3.5
	for i, id := range []string{"a", "b"} {
		stone := planned(t, ctx, s, id)
		_, err := s.InsertStone(ctx, stone)
		require.NoError(t, err)
		f := workshop.Finish{Version: 1, RoughCarats: 4, FinishedCarats: 1, Finished: fmt.Sprintf("2026-03-0%d", i+1), Notes: "fine", Price: 48000, Currency: "EUR", Saved: now}
		if id == "b" {
			f.Hours = &hours
		}
		require.NoError(t, s.SaveFinish(ctx, "work "+id, f, 0))
		require.ErrorIs(t, s.SaveFinish(ctx, "work "+id, f, 0), workshop.ErrStale)
		got, err := s.Stone(ctx, id)
		require.NoError(t, err)
		assert.Equal(t, &f, got.Work().Finish)
		f.Version, f.FinishedCarats = 2, 1.5
		require.ErrorIs(t, s.SaveFinish(ctx, "work "+id, f, 5), workshop.ErrStale)
		require.NoError(t, s.SaveFinish(ctx, "work "+id, f, 1))
	}
	sums, err := s.Sums(ctx)
	require.NoError(t, err)
	assert.Equal(t, workshop.LogbookSums{Stones: 2, RoughCarats: 8, FinishedCarats: 3, Hours: 3.5}, sums)
	book, err := s.Stones(ctx, workshop.StoneFilter{Sort: workshop.ByFinish}, workshop.Cursor{}, 5)
	require.NoError(t, err)
	assert.Equal(t, []string{"b", "a"}, []string{book.Lines[0].ID, book.Lines[1].ID}, "the last first")
	assert.Equal(t, 3.5, book.Lines[0].Hours)
	assert.Equal(t, 2, book.Total)
}

func photos(t *testing.T, ctx context.Context, s workshop.Store) {
	_, err := s.InsertStone(ctx, repaired("a", ""))
	require.NoError(t, err)
	second := workshop.Photo{ID: "2", Hash: "h2", Taken: now.Add(time.Hour), Note: "cleaned", Work: "work a", Shows: workshop.AfterWork}
	first := workshop.Photo{ID: "1", Hash: "h1", Taken: now, Work: "work a", Shows: workshop.BeforeWork}
	require.NoError(t, s.InsertPhoto(ctx, "a", second))
	require.NoError(t, s.InsertPhoto(ctx, "a", first))
	require.Error(t, s.InsertPhoto(ctx, "none", workshop.Photo{ID: "3", Taken: now}))
	list, err := s.Photos(ctx, "a")
	require.NoError(t, err)
	assert.Equal(t, []workshop.Photo{first, second}, list)
	require.NoError(t, s.InsertPhoto(ctx, "a", workshop.Photo{ID: "3", Hash: "h1", Taken: now, Work: "work a", Shows: workshop.AfterWork}))
	_, _, err = s.DropPhoto(ctx, "b", "1")
	require.ErrorIs(t, err, workshop.ErrNotFound)
	for _, drop := range []struct {
		id    string
		shown bool
	}{{"1", true}, {"3", false}} {
		hash, shown, err := s.DropPhoto(ctx, "a", drop.id)
		require.NoError(t, err)
		assert.Equal(t, "h1", hash)
		assert.Equal(t, drop.shown, shown)
	}
	_, _, err = s.DropPhoto(ctx, "a", "1")
	require.ErrorIs(t, err, workshop.ErrNotFound)
}
