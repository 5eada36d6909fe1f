package workshop_test

import (
	"context"
	"fmt"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/demo"
	"cressa/internal/template"
	"cressa/sqlite"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// shop is a workshop on a fresh database with a clock of its own.
type shop struct {
	*workshop.Workshop
	file string
	now  time.Time
}

func open(t *testing.T, file string) *shop {
	t.Helper()
	store, err := sqlite.Open(t.Context(), file)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, store.Close()) })
	s := &shop{file: file, now: time.Date(2026, 3, 1, 18, 0, 0, 0, time.UTC)}
	s.Workshop = workshop.New(store, func() time.Time { return s.now })
	return s
}

// empty writes the records of a workshop that has nothing yet.
var empty = template.Of(func(file string) error {
	store, err := sqlite.Open(context.Background(), file)
	if err != nil {
		return err
	}
	return store.Close()
})

func newShop(t *testing.T) *shop {
	t.Helper()
	file := filepath.Join(t.TempDir(), "records.db")
	empty(t, file)
	return open(t, file)
}

func (s *shop) add(t *testing.T, name string) workshop.Diagram {
	t.Helper()
	all, err := demo.Diagrams()
	require.NoError(t, err)
	d, err := s.ImportDraft(t.Context(), diagram.DraftOf(all[name]), "test", false)
	require.NoError(t, err)
	return d
}

func choices(size float64) workshop.Choices {
	return workshop.Choices{
		Material: "Spinel", Gear: 96, FirstSide: diagram.Pavilion,
		Size: workshop.Size{Basis: workshop.AcrossWidth, MM: size}, Laps: workshop.DefaultHabits().Laps,
	}
}

func (s *shop) plan(t *testing.T, name string) workshop.Stone {
	t.Helper()
	stone, err := s.PlanStone(t.Context(), "test", s.add(t, name).ID, choices(8))
	require.NoError(t, err)
	return stone
}

// event is what happens to a stone now. Events are named by a number.
func (s *shop) event(stone workshop.Stone, n int, kind journal.Kind, payload any) journal.Event {
	return journal.Event{
		ID: fmt.Sprintf("%032x", n), Stream: journal.OfWork(stone.Work().ID), Device: "d", DeviceSeq: int64(n), DeviceTime: s.now,
		Kind: kind, Version: 1, Payload: journal.Payload(payload),
	}
}

// done ticks the first n visits of a stone, a minute each.
func (s *shop) done(t *testing.T, stone workshop.Stone, n int) []journal.Event {
	t.Helper()
	script, err := s.Script(t.Context(), stone)
	require.NoError(t, err)
	var events []journal.Event
	for i, v := range script.Visits[:n] {
		s.now = s.now.Add(time.Minute)
		events = append(events, s.event(stone, i+1, journal.Done, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}))
	}
	s.append(t, events...)
	return events
}

// append sends events, all of which must be taken.
func (s *shop) append(t *testing.T, events ...journal.Event) []workshop.Answer {
	t.Helper()
	answers, err := s.Append(t.Context(), events)
	require.NoError(t, err)
	for i, a := range answers {
		require.NotEqual(t, workshop.Refused, a.Outcome, "%s of %s: %s", events[i].Kind, events[i].ID, a.Reason)
	}
	return answers
}

func (s *shop) state(t *testing.T, id string) workshop.StoneLine {
	t.Helper()
	page, err := s.Stones.Stones(t.Context(), workshop.StoneFilter{ID: id}, workshop.Cursor{}, 1)
	require.NoError(t, err)
	require.Len(t, page.Lines, 1)
	return page.Lines[0]
}

func TestADraftIsKeptAsTyped(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	d, err := s.NewDiagram(ctx)
	require.NoError(t, err)
	d.Draft.Tiers = []diagram.DraftTier{{Key: "t1", Name: "P1", Part: "pavilion", Angle: "4x", Indexes: "3-q", Stop: "?"}}
	saved, err := s.SaveDraft(ctx, d.ID, d.Draft, d.Version)
	require.NoError(t, err)

	again, err := s.Diagram(ctx, d.ID)
	require.NoError(t, err)
	assert.Equal(t, saved.Draft, again.Draft, "mistakes included")
	_, err = s.KeepDraft(ctx, d.ID, again.Version)
	var uncut workshop.NotCuttable
	require.ErrorAs(t, err, &uncut)
	assert.Len(t, uncut.Problems, 4, "angle, indexes, stop and the missing name")

	_, err = s.SaveDraft(ctx, d.ID, d.Draft, d.Version)
	assert.ErrorIs(t, err, workshop.ErrStale, "an older version must not win")
}

func TestADeletedDiagramCanBeBroughtBackForThirtyDays(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	d := s.add(t, "First Light")
	require.NoError(t, s.DeleteDiagram(ctx, d.ID))
	_, err := s.Diagram(ctx, d.ID)
	require.ErrorIs(t, err, workshop.ErrNotFound)
	require.NoError(t, s.RestoreDiagram(ctx, d.ID))
	_, err = s.Diagram(ctx, d.ID)
	require.NoError(t, err)

	require.NoError(t, s.DeleteDiagram(ctx, d.ID))
	s.now = s.now.Add(31 * 24 * time.Hour)
	assert.ErrorIs(t, s.RestoreDiagram(ctx, d.ID), workshop.ErrNotFound)
}

func TestAPlanStaysAsItIsWhenItsDiagramChanges(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	d := s.add(t, "First Light")
	stone, err := s.PlanStone(ctx, "", d.ID, choices(8))
	require.NoError(t, err)
	before, err := s.AssessStone(ctx, stone)
	require.NoError(t, err)

	d.Draft.Tiers[0].Angle = "46"
	d, err = s.SaveDraft(ctx, d.ID, d.Draft, d.Version)
	require.NoError(t, err)
	_, err = s.KeepDraft(ctx, d.ID, d.Version)
	require.NoError(t, err)
	require.NoError(t, s.DeleteDiagram(ctx, d.ID))

	stone, err = s.Stone(ctx, stone.ID)
	require.NoError(t, err)
	after, err := s.AssessStone(ctx, stone)
	require.NoError(t, err)
	assert.Equal(t, before.Carats, after.Carats)
}

func TestABatchThatIsSentAgainChangesNothing(t *testing.T) {
	s := newShop(t)
	stone := s.plan(t, "Meridian")
	events := s.done(t, stone, 10)
	again := s.append(t, append(events, s.event(stone, 99, journal.Undo, journal.TakenBack{Undoes: events[9].ID}))...)
	for i, a := range again {
		assert.Equal(t, i < 10, a.Outcome == workshop.Known)
		assert.Equal(t, events[min(i, 9)].ID == a.ID, i < 10)
		assert.Positive(t, a.Seq)
	}
	assert.Equal(t, 9, s.state(t, stone.ID).Done, "undo takes one back")
	log, err := s.EventsAfter(t.Context(), stone.Work().ID, 0, 0)
	require.NoError(t, err)
	assert.Len(t, log, 12, "the plan, ten ticks, the undo")
}

func TestTicksStayWithTheirFacetsOnAnotherGearAndOrder(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	stone := s.plan(t, "Spiral Arm")
	s.done(t, stone, 8)
	c := choices(7)
	c.Gear = 48
	c.Passes = append([]workshop.Pass{{ID: "shape", Name: "Shape"}}, c.Passes...)
	stone, err := s.Replan(ctx, stone.ID, c, stone.Version)
	require.NoError(t, err)
	assert.Equal(t, 8, s.state(t, stone.ID).Done)
	log, err := s.EventsAfter(ctx, stone.Work().ID, 0, 0)
	require.NoError(t, err)
	assert.Equal(t, journal.Plan, log[len(log)-1].Kind, "a change of plan is an event")

	_, err = s.Replan(ctx, stone.ID, c, 1)
	assert.ErrorIs(t, err, workshop.ErrStale)
	c.FirstSide = diagram.Crown
	_, err = s.Replan(ctx, stone.ID, c, stone.Version)
	var refused diagram.Problem
	require.ErrorAs(t, err, &refused)
	assert.Equal(t, workshop.SideIsCut, refused.Code)
}

func TestAStoneGoesFromPlanToLogbook(t *testing.T) {
	s := newShop(t)
	stone := s.plan(t, "Spiral Arm")
	assert.Equal(t, journal.Planned, s.state(t, stone.ID).State)
	s.done(t, stone, 1)
	assert.Equal(t, journal.Cutting, s.state(t, stone.ID).State)
	s.done(t, stone, 93)
	assert.Equal(t, journal.Cut, s.state(t, stone.ID).State)
	card, err := s.FinishStone(t.Context(), stone.ID, workshop.Finish{RoughCarats: 4, FinishedCarats: 1, Finished: "2026-03-02"})
	require.NoError(t, err)
	assert.Equal(t, journal.Complete, s.state(t, stone.ID).State)
	card.Version = 0
	_, err = s.FinishStone(t.Context(), stone.ID, card)
	assert.ErrorIs(t, err, workshop.ErrStale)
}

func TestTheScriptVisitsEverySideInEveryPass(t *testing.T) {
	s := newShop(t)
	stone := s.plan(t, "Ecliptic")
	script, err := s.Script(t.Context(), stone)
	require.NoError(t, err)
	assert.Len(t, script.Visits, 3*len(script.Facets))
	last := script.Steps[len(script.Steps)-1].Solid
	assert.InDelta(t, script.Assessment.Stone.Solid().Volume(), last.Volume(), 1e-9)
	turned := false
	for _, v := range script.Visits {
		up := script.Facets[v.FacetNo].Part
		turned = turned || v.Setup == script.Setups[1].ID
		assert.Equal(t, turned, up == diagram.Crown, "pavilion and girdle first, the crown after the transfer")
	}
}

func TestSettableAnglesAreTheNeighboursOnTheProtractor(t *testing.T) {
	m := workshop.DefaultMachine()
	m.AngleStep = 0.25
	below, above := m.SettableAngles(41.3)
	assert.InDelta(t, 41.25, below, 1e-9)
	assert.InDelta(t, 41.5, above, 1e-9)
	for _, exact := range []float64{0, 41.25, 90} {
		below, above = m.SettableAngles(exact)
		assert.InDelta(t, exact, below, 1e-9)
		assert.InDelta(t, exact, above, 1e-9)
	}
	// A protractor that reads 0.1 too much is set 0.1 higher.
	m.AngleZero = 0.1
	below, above = m.SettableAngles(41.4)
	assert.Equal(t, below, above)
	assert.InDelta(t, 41.5, m.Reading(41.4), 1e-9)
	below, above = m.SettableAngles(41.5)
	assert.InDelta(t, 41.4, below, 1e-9)
	assert.InDelta(t, 41.65, above, 1e-9)
}

// 0.10 mm on the dial: 0.122 off the girdle at 35°, 0.135 at 42°, as deep at 90° and
// for the table.
func TestADivisionOfTheHeightDialIsWorthMoreAtTheGirdle(t *testing.T) {
	m := workshop.DefaultMachine()
	m.HeightStep = 0.1
	for angle, girdle := range map[float64]float64{35: 0.122, 42: 0.135, 90: 0, 0: 0} {
		d, ok := m.Division(angle)
		assert.True(t, ok)
		assert.Equal(t, 0.1, d.Deeper)
		assert.InDelta(t, girdle, d.Girdle, 0.0005, "%v°", angle)
		assert.False(t, d.Rising, "a reading that lifts falls as the cut goes deeper")
	}
	m.HeightStep = 0
	_, ok := m.Division(35)
	assert.False(t, ok)

	// Without an adapter a table is cut at 0, where the protractor goes so far.
	m.AngleZero, m.AngleLow = 0.2, 10
	assert.Equal(t, 45.2, m.Reading(0))
	assert.True(t, m.Reaches(0))
	m.TableAdapter = 0
	assert.Equal(t, 0.2, m.Reading(0))
	assert.False(t, m.Reaches(0))
}

func TestAnAngleNearerToAStepThanTheMachineRepeatsIsNoObstacle(t *testing.T) {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	stone, err := cutting.Cut(all["First Light"])
	require.NoError(t, err)
	m := workshop.DefaultMachine()
	m.AngleStep, m.Repeatability = 1, 0.05
	found := m.Obstacles(stone)
	require.Len(t, found, 1)
	assert.Equal(t, []float64{42, 42.5, 43}, []float64{found[0].Low, found[0].Value, found[0].High})
	m.Repeatability = 0.5
	assert.Empty(t, m.Obstacles(stone))
}

func TestADiagramIsAskedOnceWhichWayItsIndexesRun(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	d := s.add(t, "Spiral Arm")
	assert.False(t, d.SenseChosen)
	assert.Equal(t, "test", d.Origin)
	chosen, err := s.ChooseSense(ctx, d.ID, diagram.Dialled, d.Version)
	require.NoError(t, err)
	assert.True(t, chosen.SenseChosen)
	assert.Equal(t, d.Revision, chosen.Revision, "nothing changed but that it was asked")
	variant, err := s.VaryDiagram(ctx, d.ID)
	require.NoError(t, err)
	second, err := s.VaryDiagram(ctx, variant.ID)
	require.NoError(t, err)
	assert.Equal(t, d.ID, variant.VariantOf)
	assert.Equal(t, d.ID, second.VariantOf)
	assert.Equal(t, "Spiral Arm · B", variant.Draft.Name)
	assert.Equal(t, "Spiral Arm · C", second.Draft.Name)
	assert.True(t, variant.SenseChosen, "not asked again")
}

// A variant with other angles is added whole or not at all.
func TestAVariantThatIsRefusedLeavesNothing(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	d := s.add(t, "Meridian")
	count := func() int {
		page, err := s.Diagrams(ctx, workshop.DiagramFilter{}, workshop.Cursor{}, 100)
		require.NoError(t, err)
		return len(page.Lines)
	}
	before := count()
	astray, endless := d.Draft, d.Draft
	astray.Tiers = slices.Clone(d.Draft.Tiers)
	astray.Tiers[0].Stop = "meet P9 P9"
	endless.Note = strings.Repeat("x", 1_000_000)
	for _, draft := range []diagram.Draft{astray, endless} {
		_, err := s.AddVariant(ctx, d.ID, draft)
		require.Error(t, err)
	}
	_, err := s.AddVariant(ctx, "gone", d.Draft)
	require.ErrorIs(t, err, workshop.ErrNotFound)
	assert.Equal(t, before, count())

	steeper := d.Draft
	steeper.Name = "Meridian, steeper"
	variant, err := s.AddVariant(ctx, d.ID, steeper)
	require.NoError(t, err)
	assert.Equal(t, d.ID, variant.VariantOf)
	assert.NotEmpty(t, variant.Revision, "plans can be made from it at once")
	assert.False(t, variant.Edited)
	assert.Equal(t, before+1, count())
}

func TestARunSharesOnePlanAndItsTime(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	run, err := s.PlanRun(ctx, "Lanterns", s.add(t, "First Light").ID, choices(6), workshop.TierByTier, 3)
	require.NoError(t, err)
	_, stones, err := s.Run(ctx, run.ID)
	require.NoError(t, err)
	require.Len(t, stones, 3)
	setups := map[string]bool{}
	for i, stone := range stones {
		assert.Equal(t, stones[0].Number+i, stone.Number, "numbers follow each other")
		assert.Equal(t, i+1, stone.RunPlace)
		for k, f := range stones[0].Work().Plan.Facets {
			assert.Equal(t, f.ID, stone.Work().Plan.Facets[k].ID, "facets have the same names")
		}
		for _, setup := range stone.Work().Plan.Setups {
			assert.False(t, setups[setup.ID], "a setup is one stone's own")
			setups[setup.ID] = true
		}
	}
	// Twelve cuts on the first stone, then on the second, a minute each: 24 minutes,
	// the third has none of them.
	for k, stone := range stones[:2] {
		script, err := s.Script(ctx, stone)
		require.NoError(t, err)
		for i, v := range script.Visits[:12] {
			s.now = s.now.Add(time.Minute)
			s.append(t, s.event(stone, 100*k+i+1, journal.Done, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}))
		}
	}
	assert.InDelta(t, 0.2, s.state(t, stones[0].ID).Hours, 0.011)
	assert.InDelta(t, 0.2, s.state(t, stones[1].ID).Hours, 0.011)
	assert.Zero(t, s.state(t, stones[2].ID).Hours)

	// The plan of one is the plan of all.
	c := choices(6.5)
	first := stones[0]
	_, err = s.Replan(ctx, first.ID, c, first.Version)
	require.NoError(t, err)
	_, stones, err = s.Run(ctx, run.ID)
	require.NoError(t, err)
	for _, stone := range stones {
		assert.Equal(t, 6.5, stone.Work().Plan.Choices.Size.MM)
	}

	// What one of them cannot have, none gets: the last is not begun and could be
	// turned over, but the others are.
	c = stones[2].Work().Plan.Choices
	c.FirstSide = c.FirstSide.Other()
	_, err = s.Replan(ctx, stones[2].ID, c, stones[2].Version)
	var p diagram.Problem
	require.ErrorAs(t, err, &p)
	assert.Equal(t, workshop.SideIsCut, p.Code)
	_, after, err := s.Run(ctx, run.ID)
	require.NoError(t, err)
	assert.Equal(t, stones, after)
}

// The demo is made of records that the workshop itself accepts.
// A stone of a run that comes back does so by itself: the run goes on with the work that
// belongs to it.
func TestAStoneOfARunComesBackByItself(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	run, err := s.PlanRun(ctx, "Pair", s.add(t, "Meridian").ID, choices(6), workshop.TierByTier, 2)
	require.NoError(t, err)
	_, pair, err := s.Run(ctx, run.ID)
	require.NoError(t, err)
	_, err = s.FinishStone(ctx, pair[0].ID, workshop.Finish{Finished: "2026-03-01"})
	require.NoError(t, err)
	_, err = s.TakeBack(ctx, pair[0].ID, workshop.Intake{Damage: "chip"}, pair[0].Version)
	require.NoError(t, err)

	_, again, err := s.Run(ctx, run.ID)
	require.NoError(t, err)
	assert.Equal(t, pair[0].Work().ID, again[0].Work().ID)
	lines, err := s.Stones.Stones(ctx, workshop.StoneFilter{Run: run.ID, Sort: workshop.ByPlace}, workshop.Cursor{}, 10)
	require.NoError(t, err)
	require.Len(t, lines.Lines, 2)
	assert.Equal(t, []any{journal.FirstCut, journal.Complete}, []any{lines.Lines[0].Task, lines.Lines[0].State})
	_, err = s.Replan(ctx, pair[1].ID, choices(5), pair[1].Version)
	require.NoError(t, err, "the other is planned anew by itself")
	found, err := s.CheckStates(ctx, false)
	require.NoError(t, err)
	assert.Empty(t, found)
}

func TestTheScenarioHasStonesInEveryState(t *testing.T) {
	file := filepath.Join(t.TempDir(), "demo.db")
	require.NoError(t, demo.Fill(context.Background(), file, time.Date(2026, 11, 20, 9, 0, 0, 0, time.UTC)))
	w := open(t, file)
	page, err := w.Stones.Stones(t.Context(), workshop.StoneFilter{}, workshop.Cursor{}, 100)
	require.NoError(t, err)
	found, err := w.CheckStates(t.Context(), false)
	require.NoError(t, err)
	assert.Empty(t, found)
	states := map[journal.State]int{}
	for _, s := range page.Lines {
		states[s.State]++
		if s.State == journal.Complete {
			assert.Greater(t, s.Hours, 1.0, s.Name)
		}
	}
	for _, state := range []journal.State{journal.Planned, journal.Cutting, journal.Cut, journal.Complete} {
		assert.Positive(t, states[state], string(state))
	}
}
