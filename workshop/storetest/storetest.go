// Package storetest holds a store to what the workshop asks of it.
package storetest

import (
	"context"
	"errors"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/dopping"
	"cressa/core/material"
	"cressa/core/sweep"
	"cressa/workshop"
)

// Run tests a store. Open returns a fresh one, which ends with the test.
func Run(t *testing.T, open func(*testing.T) workshop.Store) {
	for name, test := range map[string]func(*testing.T, context.Context, workshop.Store){
		"transactions are kept whole or not at all": transactions,
		"diagrams":                              diagrams,
		"a diagram is deleted and brought back": deleted,
		"versions never change":                 revisions,
		"judgements":                            judgements,
		"stones, works and plans":               stones,
		"stones are listed by page":             listed,
		"runs":                                  runs,
		"the log":                               log,
		"what is kept of a work":                states,
		"cards":                                 cards,
		"photos":                                photos,
		"sweeps":                                sweeps,
		"the kit":                               kit,
		"recipes":                               recipes,
		"trials":                                trials,
		"rough":                                 pieces,
		"settings":                              settings,
		"instruments":                           instruments,
		"devices":                               devices,
		"requests":                              requests,
		"copies":                                copying,
	} {
		t.Run(name, func(t *testing.T) { test(t, t.Context(), open(t)) })
	}
}

var now = time.Date(2026, 3, 1, 18, 0, 0, 500_000_000, time.UTC)

func transactions(t *testing.T, ctx context.Context, s workshop.Store) {
	boom := errors.New("boom")
	err := s.InTx(ctx, func(ctx context.Context) error {
		require.NoError(t, s.InsertDevice(ctx, workshop.Device{ID: "a", Paired: now, Seen: now}, "ha"))
		// A transaction within one belongs to it.
		require.NoError(t, s.InTx(ctx, func(ctx context.Context) error {
			return s.InsertDevice(ctx, workshop.Device{ID: "b", Paired: now, Seen: now}, "hb")
		}))
		inside, err := s.Devices(ctx)
		require.NoError(t, err)
		assert.Len(t, inside, 2, "what it has written it can read")
		return boom
	})
	require.ErrorIs(t, err, boom)
	list, err := s.Devices(ctx)
	require.NoError(t, err)
	assert.Empty(t, list)

	ended, end := context.WithCancel(ctx)
	require.Error(t, s.InTx(ended, func(ctx context.Context) error {
		end()
		return s.InsertDevice(ctx, workshop.Device{ID: "c", Paired: now, Seen: now}, "hc")
	}))
	list, err = s.Devices(ctx)
	require.NoError(t, err)
	assert.Empty(t, list, "a client that leaves leaves nothing behind")
}

func sweeps(t *testing.T, ctx context.Context, s workshop.Store) {
	for _, id := range []string{"a", "b"} {
		require.NoError(t, s.InsertDiagram(ctx, named(id, id), nil))
	}
	insert := func(id, of string) error {
		return s.InsertSweep(ctx, workshop.Sweep{ID: id, DiagramID: of, Points: []sweep.Point{{X: 1.5}}, Created: now}, 2)
	}
	for _, id := range []string{"1", "2", "3"} {
		require.NoError(t, insert(id, "a"))
	}
	require.NoError(t, insert("other", "b"))
	require.Error(t, insert("lost", "nowhere"))
	list, err := s.Sweeps(ctx, "a")
	require.NoError(t, err)
	assert.Equal(t, []string{"3", "2"}, []string{list[0].ID, list[1].ID}, "the newest few are kept")
	kept, err := s.Sweep(ctx, "other")
	require.NoError(t, err)
	assert.Equal(t, []sweep.Point{{X: 1.5}}, kept.Points)
	assert.Equal(t, now, kept.Created)
	_, err = s.Sweep(ctx, "1")
	require.ErrorIs(t, err, workshop.ErrNotFound)
}

func settings(t *testing.T, ctx context.Context, s workshop.Store) {
	none, err := s.Settings(ctx)
	require.NoError(t, err)
	assert.Zero(t, none)
	want := workshop.DefaultSettings()
	want.Habits[0].Allowance, want.Habits[0].Kerf = 0, 0.7
	want.Habits[0].Preform = dopping.Allowance{Side: 0.5}
	want.Prices = []workshop.Price{{Material: "Peridot", Currency: "EUR", From: 1.5, Amount: 4000}}
	want.Version, want.Answered = 1, true
	own, _ := material.Find("Spinel")
	own.Name = "Sea glass"
	want.Materials = []material.Material{own}
	require.NoError(t, s.SaveSettings(ctx, want, 0))
	require.ErrorIs(t, s.SaveSettings(ctx, want, 0), workshop.ErrStale)
	got, err := s.Settings(ctx)
	require.NoError(t, err)
	assert.Equal(t, want, got)
	want.Version = 2
	require.NoError(t, s.SaveSettings(ctx, want, 1))
	require.ErrorIs(t, s.SaveSettings(ctx, want, 1), workshop.ErrStale)
}

func devices(t *testing.T, ctx context.Context, s workshop.Store) {
	first := workshop.Device{ID: "a", Name: "Tablet", Paired: now, Seen: now}
	second := workshop.Device{ID: "b", Name: "Phone", Paired: now.Add(500 * time.Millisecond), Seen: now}
	require.NoError(t, s.InsertDevice(ctx, first, "ha"))
	require.NoError(t, s.InsertDevice(ctx, second, "hb"))
	list, err := s.Devices(ctx)
	require.NoError(t, err)
	assert.Equal(t, []workshop.Device{second, first}, list, "the one paired last first")
	require.NoError(t, s.SeeDevice(ctx, "a", now.Add(time.Hour)))
	require.NoError(t, s.NameDevice(ctx, "a", "At the window"))
	got, err := s.DeviceBySession(ctx, "ha")
	require.NoError(t, err)
	assert.Equal(t, workshop.Device{ID: "a", Name: "At the window", Paired: now, Seen: now.Add(time.Hour)}, got)
	_, err = s.DeviceBySession(ctx, "hc")
	require.ErrorIs(t, err, workshop.ErrNotFound)
	require.NoError(t, s.DropDevice(ctx, "a"))
	for _, err := range []error{s.DropDevice(ctx, "a"), s.NameDevice(ctx, "a", "x"), s.SeeDevice(ctx, "a", now)} {
		require.ErrorIs(t, err, workshop.ErrNotFound)
	}
}

// A request is noted with what it makes, once.
func requests(t *testing.T, ctx context.Context, s workshop.Store) {
	named := func() context.Context { return workshop.WithRequest(ctx, "plan a stone") }
	_, err := s.Answer(ctx, "plan a stone")
	require.ErrorIs(t, err, workshop.ErrNotFound)
	first := named()
	require.NoError(t, s.InsertDevice(first, workshop.Device{ID: "a", Paired: now, Seen: now}, "ha"))
	require.NoError(t, s.InsertDevice(first, workshop.Device{ID: "b", Paired: now, Seen: now}, "hb"), "what else the same request makes")
	answer, err := s.Answer(ctx, "plan a stone")
	require.NoError(t, err)
	assert.Empty(t, answer)
	require.ErrorIs(t, s.InsertDevice(named(), workshop.Device{ID: "c", Paired: now, Seen: now}, "hc"), workshop.ErrRepeated)
	failed := errors.New("refused")
	require.ErrorIs(t, s.InTx(workshop.WithRequest(ctx, "another"), func(ctx context.Context) error {
		return errors.Join(s.InsertDevice(ctx, workshop.Device{ID: "d", Paired: now, Seen: now}, "hd"), failed)
	}), failed)
	_, err = s.Answer(ctx, "another")
	require.ErrorIs(t, err, workshop.ErrNotFound, "what made nothing may be tried again")
	list, err := s.Devices(ctx)
	require.NoError(t, err)
	assert.Len(t, list, 2)
	require.NoError(t, s.SaveAnswer(ctx, "plan a stone", "{}"))
	answer, err = s.Answer(ctx, "plan a stone")
	require.NoError(t, err)
	assert.Equal(t, "{}", answer)
	require.ErrorIs(t, s.SaveAnswer(ctx, "another", "{}"), workshop.ErrNotFound)
	require.NoError(t, s.DropRequests(ctx, time.Now().Add(-time.Hour)))
	_, err = s.Answer(ctx, "plan a stone")
	require.NoError(t, err)
	require.NoError(t, s.DropRequests(ctx, time.Now().Add(time.Hour)))
	_, err = s.Answer(ctx, "plan a stone")
	require.ErrorIs(t, err, workshop.ErrNotFound)
}

func copying(t *testing.T, ctx context.Context, s workshop.Store) {
	_, err := s.CopyState(ctx)
	require.ErrorIs(t, err, workshop.ErrNotFound)
	for _, state := range []workshop.CopyState{
		{Plan: workshop.CopyPlan{Every: workshop.Weekly, Folder: "/mnt/stick", Keep: 3}, Last: now, LastFile: "a.zip"},
		{Plan: workshop.UsualCopies, Failed: "the disk is full", FailedAt: now},
	} {
		require.NoError(t, s.SaveCopyState(ctx, state))
		back, err := s.CopyState(ctx)
		require.NoError(t, err)
		assert.Equal(t, state, back)
	}
	name, err := s.Lineage(ctx)
	require.NoError(t, err)
	assert.NotEmpty(t, name)
}
