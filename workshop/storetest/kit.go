package storetest

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/abrasive"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// things is one thing of each kind, with every field filled.
func things() []workshop.Item {
	of := func(kind workshop.ItemKind, i workshop.Item) workshop.Item {
		i.ID, i.Kind, i.Name, i.Note, i.Unit, i.Low, i.ShelfMonths, i.Lasts, i.Created, i.Version = string(kind), kind, "a "+string(kind), "note", "g", 2, 18, 7, now, 1
		return i
	}
	return []workshop.Item{
		of(workshop.AdhesiveItem, workshop.Item{Adhesive: &workshop.Adhesive{Sort: workshop.Epoxy, Minutes: 300}}),
		of(workshop.BladeItem, workshop.Item{Blade: &workshop.Blade{Diameter: 100, Kerf: 0.3}}),
		of(workshop.CompoundItem, workshop.Item{Compound: &workshop.Compound{Family: abrasive.Alumina, Grain: 0.3, Carrier: "water"}}),
		of(workshop.DopItem, workshop.Item{Dop: &workshop.Dop{Shape: workshop.ConeDop, Diameter: 6}}),
		of(workshop.GearItem, workshop.Item{Gear: &workshop.Gear{Teeth: 96, Machines: []string{"machine"}}}),
		of(workshop.LapItem, workshop.Item{Lap: &workshop.Lap{Surface: abrasive.Metal, Of: "tin", Grain: 3, Polishes: true, Diameter: 150, Hub: 30, Side: workshop.Front, KeptFor: "Peridot"}}),
		of(workshop.SupplyItem, workshop.Item{}),
	}
}

func kit(t *testing.T, ctx context.Context, s workshop.Store) {
	all := things()
	for _, i := range all {
		require.NoError(t, s.InsertItem(ctx, i))
	}
	got, err := s.Items(ctx)
	require.NoError(t, err)
	assert.Equal(t, all, got)
	lap := all[5]
	lap.Name, lap.Version = "Tin, turned", 2
	require.NoError(t, s.SaveItem(ctx, lap, 1))
	require.ErrorIs(t, s.SaveItem(ctx, lap, 1), workshop.ErrStale, "two writers: the second has to look")
	one, err := s.Item(ctx, lap.ID)
	require.NoError(t, err)
	assert.Equal(t, lap, one)
	_, err = s.Item(ctx, "none")
	require.ErrorIs(t, err, workshop.ErrNotFound)

	tell := func(n int, stream journal.Stream, kind journal.Kind, payload any) journal.Event {
		e := entry("", n)
		e.Stream, e.Kind, e.Payload = stream, kind, journal.Payload(payload)
		var err error
		e.Seq, err = s.InsertEvent(ctx, e)
		require.NoError(t, err)
		return e
	}
	stone := planned(t, ctx, s, "a")
	_, err = s.InsertStone(ctx, stone)
	require.NoError(t, err)
	work := stone.Work().ID
	state, err := s.WorkState(ctx, work)
	require.NoError(t, err)
	no := 0
	happens := func(kind journal.Kind, payload any) {
		no++
		e := tell(no, journal.OfWork(work), kind, payload)
		e.Version = journal.Newest(kind)
		state.Folded.Apply(e)
		state.Seq = e.Seq
		require.NoError(t, s.SaveWorkState(ctx, state))
	}
	var facets []string
	for n := range 5 {
		facets = append(facets, fmt.Sprint("f", n))
	}
	happens(journal.Plan, journal.Asked{No: 1, Runs: []journal.AskedRun{{Setup: "s", Pass: "polish", Facets: facets}}, Things: []journal.AskedThing{
		{Pass: "polish", Item: "lap", With: "compound"}, {Pass: "polish", Item: "compound", With: "lap"}, {Setup: "s", Item: "dop"},
		{Pass: "cut", Item: "blade"}, {Pass: "polish", Item: "taken off the shelf"},
	}})
	tick := func(n int) { happens(journal.Done, journal.Visit{Setup: "s", Pass: "polish", Facet: facets[n]}) }
	tick(0)
	tick(1)
	charged := tell(100, journal.OfItem("lap"), journal.Charged, journal.Charging{})
	require.NoError(t, s.CountFrom(ctx, "lap", charged.Seq))
	require.ErrorIs(t, s.CountFrom(ctx, "none", 1), workshop.ErrNotFound)
	tick(2)
	tick(3)
	tick(4)
	met, err := s.Meetings(ctx, "lap")
	require.NoError(t, err)
	require.Len(t, met, 1)
	assert.Equal(t, []any{"compound", "Practice glass", 1}, []any{met[0].With, met[0].Material, met[0].Whole})
	assert.Equal(t, journal.Span{Stones: 1, Facets: 5}, met[0].Span)
	assert.Equal(t, journal.Span{Stones: 1, Facets: 3}, met[0].Since, "a lap that was charged within a stone")
	all3, err := s.Meetings(ctx, "")
	require.NoError(t, err)
	assert.Len(t, all3, 3, "what the plan asks for in another pass was not used, and what is not there is not counted")
	stones, err := s.ItemStones(ctx, "dop", 9)
	require.NoError(t, err)
	require.Len(t, stones, 1)
	assert.Equal(t, []any{stone.ID, 1, 5}, []any{stones[0].ID, stones[0].Number, stones[0].Facets})

	events, err := s.ItemEvents(ctx, "lap")
	require.NoError(t, err)
	assert.Equal(t, []journal.Event{charged}, events)
	require.NoError(t, s.DropItem(ctx, "gear"))
	require.ErrorIs(t, s.DropItem(ctx, "gear"), workshop.ErrNotFound)
}
