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

// Screens tick and take back without hearing of each other. In whatever order their
// events arrive, and however often, the stone stands the same.
func TestTheOrderInWhichScreensAreHeardDoesNotMatter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var sent []workshop.Event
		for i := range rapid.IntRange(1, 20).Draw(t, "events") {
			e := workshop.Event{ID: fmt.Sprint(i)}
			if i > 0 && rapid.IntRange(0, 2).Draw(t, "undo") == 0 {
				e.Kind, e.Undoes = workshop.EventUndo, fmt.Sprint(rapid.IntRange(0, i-1).Draw(t, "undoes"))
			} else {
				e.Kind, e.Setup, e.Pass = workshop.EventDone, "s", rapid.SampledFrom([]string{"cut", "polish"}).Draw(t, "pass")
				e.Facet = fmt.Sprint("f", rapid.IntRange(1, 5).Draw(t, "facet"))
			}
			sent = append(sent, e)
		}
		heard := rapid.Permutation(append(slices.Clone(sent), sent...)).Draw(t, "order")
		want := workshop.Visited(sent)
		assert.Equal(t, want, workshop.Visited(heard))
		// By hand: a visit stands as long as one of its ticks was not taken back.
		stands := map[workshop.Visit]workshop.EventKind{}
		for _, e := range sent {
			undone := slices.ContainsFunc(sent, func(o workshop.Event) bool { return o.Undoes == e.ID })
			if e.Kind == workshop.EventDone && !undone {
				stands[workshop.Visit{Setup: e.Setup, Pass: e.Pass, Facet: e.Facet}] = e.Kind
			}
		}
		assert.Equal(t, stands, want)
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
