package workshop_test

import (
	"fmt"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/workshop"
)

// Two screens tick and take back without hearing of each other. In whatever order
// their batches arrive, and however often, the stone stands the same.
func TestTheOrderInWhichScreensAreHeardDoesNotMatter(t *testing.T) {
	s := newShop(t)
	first, second := s.plan(t, "Spiral Arm"), s.plan(t, "Spiral Arm")
	round := 0
	rapid.Check(t, func(rt *rapid.T) {
		round++
		script, err := s.Script(t.Context(), first)
		require.NoError(rt, err)
		// Every batch is drawn for the first stone; the second gets the same for its
		// own setups, under names of its own, shuffled and with repetitions.
		var batches [][]workshop.Event
		var ids []string
		for b := range rapid.IntRange(1, 5).Draw(rt, "batches") {
			var batch []workshop.Event
			for i := range rapid.IntRange(1, 4).Draw(rt, "events") {
				id := fmt.Sprintf("%08x%08x%016x", round, b, i)
				e := workshop.Event{ID: id, Device: "d", DeviceTime: s.now}
				if len(ids) > 0 && rapid.IntRange(0, 2).Draw(rt, "undo") == 0 {
					e.Kind, e.Undoes = workshop.EventUndo, rapid.SampledFrom(ids).Draw(rt, "undoes")
				} else {
					v := rapid.SampledFrom(script.Visits[:12]).Draw(rt, "visit")
					e.Kind, e.Setup, e.Pass, e.Facet = workshop.EventDone, v.Setup, v.Pass, v.Facet
					ids = append(ids, id)
				}
				batch = append(batch, e)
			}
			batches = append(batches, batch)
		}
		of := func(stone workshop.Stone, name string, batches [][]workshop.Event) map[workshop.Visit]workshop.EventKind {
			for _, batch := range batches {
				own := slices.Clone(batch)
				for i := range own {
					own[i].ID = name + own[i].ID[1:]
					if own[i].Undoes != "" {
						own[i].Undoes = name + own[i].Undoes[1:]
					}
					if k := slices.IndexFunc(first.Work.Setups, func(o workshop.Setup) bool { return o.ID == own[i].Setup }); k >= 0 {
						own[i].Setup = stone.Work.Setups[k].ID
					}
				}
				_, err := s.AppendEvents(t.Context(), stone.ID, own)
				require.NoError(rt, err)
			}
			events, err := s.Events(t.Context(), stone.ID)
			require.NoError(rt, err)
			out := map[workshop.Visit]workshop.EventKind{}
			for v, kind := range workshop.Visited(events) {
				v.Setup = ""
				out[v] = kind
			}
			return out
		}
		other := rapid.Permutation(append(batches, batches...)).Draw(rt, "order")
		assert.Equal(rt, of(first, "a", batches), of(second, "b", other))
	})
}

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

// A session counts until its device is shut out; a device is seen to the minute.
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
	assert.ErrorIs(t, s.RevokeDevice(ctx, tablet.ID), workshop.ErrNotFound)
	assert.ErrorIs(t, s.NameDevice(ctx, tablet.ID, "again"), workshop.ErrNotFound)
}
