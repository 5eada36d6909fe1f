package workshop_test

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/go-playground/validator/v10"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/diagram"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// Many screens write over the same version at once: one is kept, the others are told.
func TestOfManyWritesOverOneVersionOneIsKept(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	d := s.add(t, "First Light")
	stone := s.plan(t, "Spiral Arm")
	repair, err := s.TakeIn(ctx, "Ring", workshop.Intake{Damage: "chip"})
	require.NoError(t, err)
	settings, err := s.Settings(ctx)
	require.NoError(t, err)
	for what, write := range map[string]func(n int) error{
		"draft": func(n int) error {
			draft := d.Draft
			draft.Note = fmt.Sprint(n)
			_, err := s.SaveDraft(ctx, d.ID, draft, d.Version)
			return err
		},
		"plan": func(n int) error {
			_, err := s.Replan(ctx, stone.ID, choices(float64(5+n)), stone.Version)
			return err
		},
		"intake": func(n int) error {
			_, err := s.ChangeIntake(ctx, repair.ID, fmt.Sprint(n), workshop.Intake{}, repair.Version)
			return err
		},
		"settings": func(n int) error {
			own := settings
			own.Habits = slices.Clone(settings.Habits)
			own.Habits[0].Name = fmt.Sprint(n)
			_, err := s.SaveSettings(ctx, own)
			return err
		},
	} {
		t.Run(what, func(t *testing.T) { oneIsKept(t, write) })
	}
	// The card closes the plan, so it comes last.
	t.Run("card", func(t *testing.T) {
		oneIsKept(t, func(n int) error {
			_, err := s.FinishStone(ctx, stone.ID, workshop.Finish{Notes: fmt.Sprint(n), Finished: "2026-03-01"})
			return err
		})
	})
}

func oneIsKept(t *testing.T, write func(n int) error) {
	t.Helper()
	const screens = 6
	said := make([]error, screens)
	var all sync.WaitGroup
	for n := range screens {
		all.Go(func() { said[n] = write(n) })
	}
	all.Wait()
	kept := 0
	for _, err := range said {
		if err == nil {
			kept++
			continue
		}
		assert.ErrorIs(t, err, workshop.ErrStale)
	}
	assert.Equal(t, 1, kept)
}

// What happened is a fact, whatever was decided at the desk meanwhile.
func TestFactsAreAccepted(t *testing.T) {
	s := newShop(t)
	ctx := workshop.WithActor(t.Context(), journal.Actor{ID: "t1", Name: "Tablet at the wheel"})
	stone := s.plan(t, "Spiral Arm")
	script, err := s.Script(ctx, stone)
	require.NoError(t, err)
	visit := func(n int) journal.Visit {
		v := script.Visits[n]
		return journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}
	}
	polish := visit(len(script.Facets)*2/3*2 + 2)
	require.Equal(t, "polish", polish.Pass)

	// A pass is dropped from the plan while the bench is offline and ticks it.
	c := choices(8)
	c.Passes = c.Passes[:2]
	stone, err = s.Replan(ctx, stone.ID, c, stone.Version)
	require.NoError(t, err)
	first := s.event(stone, 1, journal.Done, visit(0))
	dropped := s.event(stone, 2, journal.Done, polish)
	answers, err := s.Append(ctx, []journal.Event{first, dropped})
	require.NoError(t, err)
	assert.Equal(t, []workshop.Outcome{workshop.Stored, workshop.Stored}, []workshop.Outcome{answers[0].Outcome, answers[1].Outcome})
	assert.Equal(t, 1, s.state(t, stone.ID).Done, "the present plan does not ask for the other")
	log, err := s.EventsAfter(ctx, stone.Work().ID, answers[0].Seq-1, 1)
	require.NoError(t, err)
	assert.Equal(t, "Tablet at the wheel", log[0].By.Name, "the server says who did it")

	// The card is written at the desk; what comes in after it is kept and counted.
	_, err = s.FinishStone(ctx, stone.ID, workshop.Finish{Finished: "2026-03-02"})
	require.NoError(t, err)
	s.append(t, s.event(stone, 3, journal.Done, visit(1)))
	line := s.state(t, stone.ID)
	assert.Equal(t, journal.Complete, line.State)
	assert.Equal(t, 1, line.Late)
	assert.Equal(t, 2, line.Done)
	_, err = s.Replan(ctx, stone.ID, c, stone.Version)
	assert.ErrorIs(t, err, workshop.ErrFinished)

	// A batch is answered event by event: what is wrong in it holds nothing up.
	other := s.plan(t, "Meridian")
	repair, err := s.TakeIn(ctx, "Ring", workshop.Intake{})
	require.NoError(t, err)
	bad := s.event(stone, 20, journal.Done, visit(2))
	bad.Kind = "overcut"
	short := s.event(stone, 21, journal.Done, visit(2))
	short.ID = "short"
	twice := s.event(other, 1, journal.Note, journal.Noted{Text: "another stone's"})
	foreign := s.event(other, 22, journal.Done, visit(2))
	newer := s.event(stone, 23, journal.Done, visit(2))
	newer.Version = journal.Newest(journal.Done) + 1
	batch := []journal.Event{
		bad, short, twice, foreign, newer,
		s.event(stone, 24, journal.Undo, journal.TakenBack{Undoes: fmt.Sprintf("%032x", 777)}),
		s.event(other, 25, journal.Undo, journal.TakenBack{Undoes: first.ID}),
		s.event(stone, 26, journal.Undo, journal.TakenBack{Undoes: log[0].ID}),
		s.event(stone, 27, journal.Undo, journal.TakenBack{Undoes: fmt.Sprintf("%032x", 26)}),
		s.event(stone, 28, journal.Plan, journal.Asked{No: 9}),
		s.event(repair, 29, journal.Done, visit(2)),
		s.event(stone, 30, journal.Begin, struct{}{}),
		s.event(stone, 31, journal.Done, map[string]string{"setup": "s", "surprise": "x"}),
		s.event(stone, 32, journal.Note, journal.Noted{Text: "the last one is fine"}),
	}
	gone := s.event(stone, 33, journal.Note, journal.Noted{Text: "x"})
	gone.Stream = journal.OfWork("none")
	kit := s.event(stone, 34, journal.Note, journal.Noted{Text: "x"})
	kit.Stream = "kit/1"
	hollow := s.event(repair, 35, journal.Begin, struct{}{})
	hollow.Payload = []byte("null")
	answers, err = s.Append(ctx, append(batch, gone, kit, hollow))
	require.NoError(t, err)
	want := []journal.Reason{
		journal.UnknownKind, journal.Unreadable, journal.OtherStream, journal.NotAsked, journal.UnknownKind,
		journal.NoSuchEvent, journal.NoSuchEvent, "", journal.CannotUndo, journal.OnlyWorkshop, journal.NotForTask,
		journal.NotForTask, journal.Unreadable, "", journal.NoSuchStream, journal.NoSuchStream, journal.Unreadable,
	}
	for i, a := range answers {
		assert.Equal(t, want[i], a.Reason, "event %d", i)
		assert.Equal(t, want[i] == "", a.Outcome == workshop.Stored, "event %d", i)
	}
}

// A card is written while ticks come in: each is whole, and nothing of either is lost.
func TestAppendingRacesFinishingAndPlanning(t *testing.T) {
	s := newShop(t)
	stone := s.plan(t, "Spiral Arm")
	script, err := s.Script(t.Context(), stone)
	require.NoError(t, err)
	var all sync.WaitGroup
	const ticks = 30
	all.Go(func() {
		for i, v := range script.Visits[:ticks] {
			answers, err := s.Append(t.Context(), []journal.Event{s.event(stone, i+1, journal.Done, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet})})
			assert.NoError(t, err)
			assert.Equal(t, workshop.Stored, answers[0].Outcome)
		}
	})
	planned := make(chan error, 1)
	all.Go(func() {
		// The side cut first must not be swapped under the first tick.
		c := choices(7)
		c.FirstSide = diagram.Crown
		_, err := s.Replan(t.Context(), stone.ID, c, stone.Version)
		planned <- err
	})
	all.Go(func() {
		_, err := s.FinishStone(t.Context(), stone.ID, workshop.Finish{Finished: "2026-03-01"})
		assert.NoError(t, err)
	})
	all.Wait()
	if err := <-planned; err != nil {
		var p diagram.Problem
		refused := errors.Is(err, workshop.ErrFinished) || errors.As(err, &p) && p.Code == workshop.SideIsCut
		assert.True(t, refused, "%v", err)
		assert.Equal(t, ticks, s.state(t, stone.ID).Done)
	}
	found, err := s.CheckStates(t.Context(), false)
	require.NoError(t, err)
	assert.Empty(t, found)
}

// What is derived is made anew from the log wherever it was lost or spoilt.
func TestStateIsRebuiltFromTheLog(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	stone := s.plan(t, "First Light")
	s.done(t, stone, 12)
	run, err := s.PlanRun(ctx, "Pair", s.add(t, "Meridian").ID, choices(6), workshop.TierByTier, 2)
	require.NoError(t, err)
	_, pair, err := s.Run(ctx, run.ID)
	require.NoError(t, err)
	script, err := s.Script(ctx, pair[0])
	require.NoError(t, err)
	for i := range 4 {
		s.now = s.now.Add(40 * time.Second)
		of := pair[i%2]
		v := script.Visits[i/2]
		s.append(t, s.event(of, 50+i, journal.Done, journal.Visit{Setup: of.Work().Plan.Setups[0].ID, Pass: v.Pass, Facet: v.Facet}))
	}
	assert.InDelta(t, 0.02, s.state(t, pair[1].ID).Hours, 0.011, "from the tick on the other stone")
	found, err := s.CheckStates(ctx, false)
	require.NoError(t, err)
	require.Empty(t, found)

	s.spoil(t, `UPDATE work_state SET folded = '{"task":1}' WHERE work_id = ?`, stone.Work().ID)
	s.spoil(t, `UPDATE work_state SET folded = replace(folded, '"count":3', '"count":7') WHERE work_id = ?`, pair[0].Work().ID)
	found, err = s.CheckStates(ctx, false)
	require.NoError(t, err)
	assert.ElementsMatch(t, []workshop.Finding{
		{What: workshop.StateMissing, Where: "work " + stone.Work().ID, Repairable: true},
		{What: workshop.StateDiffers, Where: "work " + pair[0].Work().ID, Repairable: true},
	}, found)
	// A tick does not need what was lost.
	v := script.Visits[2]
	s.append(t, s.event(pair[1], 60, journal.Done, journal.Visit{Setup: pair[1].Work().Plan.Setups[0].ID, Pass: v.Pass, Facet: v.Facet}))
	_, err = s.CheckStates(ctx, true)
	require.NoError(t, err)
	found, err = s.CheckStates(ctx, false)
	require.NoError(t, err)
	assert.Empty(t, found)
	assert.Equal(t, 12, s.state(t, stone.ID).Done)

	// What older rules folded is folded anew by the next start.
	s.spoil(t, `UPDATE work_state SET rules = 0, done = 3, folded = replace(folded, '"late":0', '"late":2') WHERE work_id = ?`, stone.Work().ID)
	require.NoError(t, s.Refresh(ctx))
	found, err = s.CheckStates(ctx, false)
	require.NoError(t, err)
	assert.Empty(t, found)
	assert.Equal(t, 12, s.state(t, stone.ID).Done)
}

// A stone of the workshop's own comes back: it gets another work and keeps the first.
func TestAStoneHasManyWorks(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	stone := s.plan(t, "Spiral Arm")
	_, err := s.TakeBack(ctx, stone.ID, workshop.Intake{Damage: "chip"}, stone.Version)
	require.ErrorIs(t, err, workshop.ErrNotFinished)
	s.done(t, stone, 3)
	_, err = s.FinishStone(ctx, stone.ID, workshop.Finish{FinishedCarats: 2, Finished: "2026-03-01"})
	require.NoError(t, err)
	again, err := s.TakeBack(ctx, stone.ID, workshop.Intake{Material: "Spinel", Promised: "2026-05-01"}, stone.Version)
	require.NoError(t, err)
	require.Len(t, again.Works, 2)
	line := s.state(t, stone.ID)
	assert.Equal(t, journal.Repair, line.Task)
	assert.Equal(t, journal.Planned, line.State)
	s.append(t, s.event(again, 70, journal.Begin, struct{}{}))
	s.append(t, s.event(stone, 71, journal.Note, journal.Noted{Text: "remembered later"}))
	assert.Equal(t, journal.Cutting, s.state(t, stone.ID).State)
	_, err = s.FinishStone(ctx, stone.ID, workshop.Finish{FinishedCarats: 1.9, Finished: "2026-05-01"})
	require.NoError(t, err)
	sums, err := s.Sums(ctx)
	require.NoError(t, err)
	assert.Equal(t, 2, sums.Stones, "the logbook has both works")

	// It is recut: it can only become less, and is ticked to a plan of its own.
	_, err = s.Recut(ctx, stone.ID, again.Works[0].Plan.DiagramID, choices(12), "", again.Version)
	var heavy diagram.Problem
	require.ErrorAs(t, err, &heavy)
	assert.Equal(t, workshop.HeavierThanStone, heavy.Code)
	recut, err := s.Recut(ctx, stone.ID, again.Works[0].Plan.DiagramID, choices(4), "a chip at the girdle", again.Version)
	require.NoError(t, err)
	require.Len(t, recut.Works, 3)
	assert.Equal(t, workshop.Recut{Carats: 1.9, Why: "a chip at the girdle"}, recut.Work().Task)
	_, err = s.Recut(ctx, stone.ID, again.Works[0].Plan.DiagramID, choices(4), "", recut.Version)
	require.ErrorIs(t, err, workshop.ErrNotFinished)
	script, err := s.Script(ctx, recut)
	require.NoError(t, err)
	first := journal.Visit{Setup: script.Visits[0].Setup, Pass: script.Visits[0].Pass, Facet: script.Visits[0].Facet}
	s.append(t, s.event(recut, 80, journal.Done, first))
	line = s.state(t, stone.ID)
	assert.Equal(t, []any{journal.Recut, journal.Cutting, 1}, []any{line.Task, line.State, line.Done})
	before, err := recut.At(stone.Work().ID)
	require.NoError(t, err)
	assert.Equal(t, workshop.FirstCut{}, before.Work().Task)
	_, err = recut.At("another's")
	require.ErrorIs(t, err, workshop.ErrNotFound)
	found, err := s.CheckStates(ctx, false)
	require.NoError(t, err)
	assert.Empty(t, found)
	book, err := s.Stones.Stones(ctx, workshop.StoneFilter{Sort: workshop.ByFinish}, workshop.Cursor{}, 1)
	require.NoError(t, err)
	assert.Equal(t, "2026-05-01", book.Lines[0].Finish.Finished)
	require.NotNil(t, book.Next)
	book, err = s.Stones.Stones(ctx, workshop.StoneFilter{Sort: workshop.ByFinish}, *book.Next, 1)
	require.NoError(t, err)
	assert.Equal(t, "2026-03-01", book.Lines[0].Finish.Finished)
	assert.Nil(t, book.Next)
}

// A machine that is changed or thrown away takes nothing from a plan that was made on it.
func TestAPlanKeepsItsMachine(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	settings := workshop.DefaultSettings()
	old := workshop.DefaultMachine()
	old.ID, old.Name, old.AngleZero, old.AngleStep = "old", "Old iron", 0.3, 0.5
	settings.Machines = append(settings.Machines, old)
	settings, err := s.SaveSettings(ctx, settings)
	require.NoError(t, err)
	c := choices(8)
	c.Machine = "old"
	stone, err := s.PlanStone(ctx, "", s.add(t, "First Light").ID, c)
	require.NoError(t, err)
	before, err := s.Script(ctx, stone)
	require.NoError(t, err)
	settings.Machines = settings.Machines[:1]
	_, err = s.SaveSettings(ctx, settings)
	require.NoError(t, err)
	after, err := s.Script(ctx, stone)
	require.NoError(t, err)
	assert.Equal(t, before.Facets, after.Facets)
	assert.Equal(t, "Old iron", after.Assessment.Machine.Name)
}

// Ranges hold wherever a record comes from: no HTTP is needed to refuse it.
func TestWhatCannotBeIsRefusedByTheRecordsThemselves(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	d := s.add(t, "First Light")
	settings := workshop.DefaultSettings()
	settings.Machines[0].AngleStep = 0
	none := choices(8)
	none.Passes = nil
	tiny := choices(0)
	for what, write := range map[string]func() error{
		"a protractor without steps": func() error { _, err := s.SaveSettings(ctx, settings); return err },
		"a plan without passes":      func() error { _, err := s.PlanStone(ctx, "", d.ID, none); return err },
		"a stone of no size":         func() error { _, err := s.PlanStone(ctx, "", d.ID, tiny); return err },
		"a card without a day":       func() error { _, err := s.FinishStone(ctx, "x", workshop.Finish{}); return err },
		"a weight below nothing":     func() error { _, err := s.TakeIn(ctx, "", workshop.Intake{Carats: -1}); return err },
		"a name without end": func() error {
			draft := d.Draft
			draft.Outline = fmt.Sprintf("%0200d", 1)
			_, err := s.SaveDraft(ctx, d.ID, draft, d.Version)
			return err
		},
	} {
		assert.ErrorAs(t, write(), new(validator.ValidationErrors), what)
	}
}

// The library is filled once, whole: a start that is cut short is begun again, and what
// was deleted does not come back.
func TestTheLibraryIsFilledOnce(t *testing.T) {
	s := newShop(t)
	starters := s.starters(t)
	broken := *starters[0]
	broken.Tiers = broken.Tiers[:1]
	require.Error(t, s.Fill(t.Context(), "first", append(slices.Clone(starters), &broken)))
	library := func() workshop.DiagramPage {
		page, err := s.Diagrams(t.Context(), workshop.DiagramFilter{}, workshop.Cursor{}, 100)
		require.NoError(t, err)
		return page
	}
	assert.Empty(t, library().Lines)
	require.NoError(t, s.Fill(t.Context(), "first", starters))
	require.Len(t, library().Lines, len(starters))
	require.NoError(t, s.DeleteDiagram(t.Context(), library().Lines[0].ID))
	require.NoError(t, s.Fill(t.Context(), "first", starters))
	assert.Len(t, library().Lines, len(starters)-1)
	require.NoError(t, s.Fill(t.Context(), "second", starters))
	assert.Len(t, library().Lines, len(starters)-1, "a later set adds only what is new")
}

// Pages of the library follow each other without a gap, in every order.
func TestTheLibraryIsPaged(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	require.NoError(t, s.Fill(ctx, "first", s.starters(t)))
	for more := true; more; {
		var err error
		more, err = s.JudgeNext(ctx)
		require.NoError(t, err)
	}
	for _, sort := range []workshop.DiagramSort{workshop.ByName, workshop.ByFacets, workshop.ByRatio, workshop.ByDifficulty, workshop.ByFit} {
		whole, err := s.Diagrams(ctx, workshop.DiagramFilter{Sort: sort}, workshop.Cursor{}, 100)
		require.NoError(t, err)
		assert.Zero(t, whole.Waiting)
		var paged []workshop.DiagramLine
		after := workshop.Cursor{}
		for {
			page, err := s.Diagrams(ctx, workshop.DiagramFilter{Sort: sort}, after, 4)
			require.NoError(t, err)
			assert.Equal(t, len(whole.Lines), page.Total)
			paged = append(paged, page.Lines...)
			if page.Next == nil {
				break
			}
			after = *page.Next
		}
		assert.Equal(t, whole.Lines, paged, string(sort))
		ties := 0
		for i, l := range whole.Lines[1:] {
			if before := whole.Lines[i]; sort == workshop.ByFacets && l.Facts.Facets == before.Facts.Facets {
				ties++
				assert.Less(t, strings.ToLower(before.Name), strings.ToLower(l.Name), "of equal ones the name decides")
			}
		}
		assert.True(t, sort != workshop.ByFacets || ties > 0)
	}
	easy, err := s.Diagrams(ctx, workshop.DiagramFilter{Level: workshop.Easy, Words: []string{"LIGHT"}}, workshop.Cursor{}, 10)
	require.NoError(t, err)
	for _, l := range easy.Lines {
		assert.Equal(t, workshop.Easy, l.Judged.Level)
	}
}

// A session counts until its device is shut out or was not seen for too long; a device is
// seen to the minute.
func TestADeviceIsAdmittedUntilItIsShutOut(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	tablet, session, err := s.PairDevice(ctx, "  ")
	require.NoError(t, err)
	assert.Equal(t, "Tablet", tablet.Name)
	_, otherSession, err := s.PairDevice(ctx, "Phone")
	require.NoError(t, err)
	assert.NotEqual(t, session, otherSession)

	s.now = s.now.Add(30 * time.Second)
	seen, err := s.AdmitDevice(ctx, session)
	require.NoError(t, err)
	assert.Equal(t, tablet.Paired, seen.Seen)
	s.now = s.now.Add(time.Hour)
	_, err = s.AdmitDevice(ctx, session)
	require.NoError(t, err)
	require.NoError(t, s.NameDevice(ctx, tablet.ID, "At the window"))
	devices, err := s.Devices(ctx)
	require.NoError(t, err)
	require.Len(t, devices, 2)
	at := slices.IndexFunc(devices, func(d workshop.Device) bool { return d.ID == tablet.ID })
	assert.Equal(t, "At the window", devices[at].Name)
	assert.Equal(t, s.now, devices[at].Seen)

	require.NoError(t, s.RevokeDevice(ctx, tablet.ID))
	_, err = s.AdmitDevice(ctx, session)
	assert.ErrorIs(t, err, workshop.ErrNotFound)
	_, err = s.AdmitDevice(ctx, otherSession)
	assert.NoError(t, err)
	s.now = s.now.Add(workshop.SessionLife + time.Hour)
	_, err = s.AdmitDevice(ctx, otherSession)
	assert.ErrorIs(t, err, workshop.ErrNotFound, "it was not seen for too long")
	assert.ErrorIs(t, s.RevokeDevice(ctx, tablet.ID), workshop.ErrNotFound)
	assert.ErrorIs(t, s.NameDevice(ctx, tablet.ID, "again"), workshop.ErrNotFound)
}
