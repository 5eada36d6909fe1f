package workshop_test

import (
	"context"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"cressa/core/abrasive"
	"cressa/workshop"
	"cressa/workshop/journal"
)

var ctx = context.Background()

// put puts a thing on the shelf.
func (s *shop) put(t require.TestingT, kind workshop.ItemKind, name string, size float64) workshop.Shelved {
	made, err := s.AddItem(ctx, workshop.Guess{Kind: kind, Name: name, Size: size})
	require.NoError(t, err)
	return made
}

// tell says what happened to a thing.
func (s *shop) tell(t require.TestingT, id string, kind journal.Kind, payload any) workshop.Shelved {
	now, err := s.Happened(ctx, id, kind, payload)
	require.NoError(t, err)
	return now
}

func needs(s workshop.Shelved) []workshop.Need { return s.Needs }

func TestThreeFieldsAndAGoodGuess(t *testing.T) {
	s := newShop(t)
	for _, c := range []struct {
		kind workshop.ItemKind
		name string
		size float64
		want func(workshop.Shelved) bool
	}{
		{workshop.LapItem, "Plated 600", 200, func(s workshop.Shelved) bool {
			return s.Lap.Surface == abrasive.Bonded && s.Works().Grain == 25 && !s.Lap.Polishes && s.Lap.Diameter == 200
		}},
		{workshop.LapItem, "1200", 0, func(s workshop.Shelved) bool {
			return s.Lap.Surface == abrasive.Bonded && s.Lap.Grain == 12.5 && s.Lap.Diameter == 200 // as the one before
		}},
		{workshop.LapItem, "Zinc, 0.5 µm", 0, func(s workshop.Shelved) bool {
			return s.Lap.Surface == abrasive.Metal && s.Lap.Grain == 0 && s.Works() == abrasive.Grit{Family: abrasive.Diamond, Grain: 0.5} && s.Lap.Polishes
		}},
		{workshop.LapItem, "Copper 8 µm", 0, func(s workshop.Shelved) bool {
			return s.Lap.Surface == abrasive.Metal && !s.Lap.Polishes && s.Works().Grain == 8
		}},
		{workshop.LapItem, "Cerium film", 0, func(s workshop.Shelved) bool { return s.Lap.Surface == abrasive.Film && s.Lap.Polishes }},
		{workshop.CompoundItem, "Cerium oxide", 100, func(s workshop.Shelved) bool {
			return s.Compound.Family == abrasive.Cerium && s.Compound.Grain == 1 && *s.Have == 100 && s.Low == 20
		}},
		{workshop.CompoundItem, "50k", 5, func(s workshop.Shelved) bool {
			return s.Compound.Grit() == abrasive.Grit{Family: abrasive.Diamond, Grain: 0.5}
		}},
		{workshop.AdhesiveItem, "Epoxy, 5 min", 1, func(s workshop.Shelved) bool {
			return s.Adhesive.Sort == workshop.Epoxy && s.Adhesive.Minutes == 5 && s.Until == "2028-02-29"
		}},
		{workshop.AdhesiveItem, "Dop wax", 0, func(s workshop.Shelved) bool { return s.Adhesive.Sort == workshop.Wax && s.Until == "" }},
		{workshop.DopItem, "Cone dop 6 mm", 0, func(s workshop.Shelved) bool { return s.Dop.Shape == workshop.ConeDop && s.Dop.Diameter == 6 }},
		{workshop.BladeItem, "Trim saw blade, 0.3 mm", 100, func(s workshop.Shelved) bool { return s.Blade.Kerf == 0.3 }},
	} {
		made := s.put(t, c.kind, c.name, c.size)
		assert.True(t, c.want(made), "%s: %+v", c.name, made)
	}
	_, err := s.AddItem(ctx, workshop.Guess{Kind: "anvil", Name: "x"})
	require.Error(t, err)
	bad := s.put(t, workshop.DopItem, "V dop 4 mm", 0).Item
	bad.Gear = &workshop.Gear{Teeth: 96}
	_, err = s.SaveItem(ctx, bad)
	assert.ErrorContains(t, err, string(workshop.OtherPart))
}

func TestALapIsCountedWarnedOfAndCleaned(t *testing.T) {
	s := newShop(t)
	lap := s.put(t, workshop.LapItem, "Tin", 150)
	oxide := s.put(t, workshop.CompoundItem, "Alumina 0.3 µm", 40)
	dop := s.put(t, workshop.DopItem, "Cone dop 6 mm", 6)
	c := choices(8)
	c.Passes = slices.Clone(c.Passes)
	c.Passes[0].LapItem, c.Passes[0].CompoundItem = lap.ID, oxide.ID
	c.Holds = []workshop.Hold{{DopItem: dop.ID}}
	d := s.add(t, "Three Sisters")
	stone, err := s.PlanStone(ctx, "test", d.ID, c)
	require.NoError(t, err)
	plan := stone.Work().Plan
	assert.Equal(t, "Tin", plan.Choices.Passes[0].Lap, "the plan keeps the name")
	assert.Equal(t, "Cone dop 6 mm", plan.Choices.Holds[0].Dop)
	s.done(t, stone, 4)
	now, err := s.OnShelf(ctx, lap.ID)
	require.NoError(t, err)
	assert.Equal(t, journal.Span{Stones: 1, Facets: 4}, now.Use.Since)
	assert.Equal(t, abrasive.Grit{Family: abrasive.Alumina, Grain: 0.3}, now.Works())
	assert.Empty(t, needs(now), "a lap that met its own grit alone is clean")

	now = s.tell(t, lap.ID, journal.Touched, journal.Touching{Family: "diamond", Grain: 3})
	assert.Equal(t, []workshop.Need{workshop.Dirty}, needs(now))
	assert.Equal(t, []abrasive.Cleaning{abrasive.Skim, abrasive.Renew}, now.Ways, "what metal has taken in goes with its face")
	ladder, err := s.Ladder(ctx, "Spinel", plan.Choices.Passes)
	require.NoError(t, err)
	assert.Len(t, ladder.Rungs[0].On, 1, "the next stone is warned")
	now = s.tell(t, lap.ID, journal.Cleaned, journal.Cleaning{Way: "scrub"})
	assert.Equal(t, []workshop.Need{workshop.Dirty}, needs(now))
	now = s.tell(t, lap.ID, journal.Cleaned, journal.Cleaning{Way: "skim"})
	assert.Empty(t, needs(now))
	now, err = s.UndoHappened(ctx, lap.ID, now.History[0].ID)
	require.NoError(t, err)
	assert.Equal(t, []workshop.Need{workshop.Dirty}, needs(now), "it was not cleaned after all")
	_, err = s.Happened(ctx, lap.ID, journal.Cleaned, journal.Cleaning{Way: "dress"})
	assert.ErrorContains(t, err, string(workshop.NotForItem), "a stick does nothing to tin")

	// Charged within the stone: what it had done is told, what it does from then on is counted anew.
	now = s.tell(t, lap.ID, journal.Charged, journal.Charging{Item: oxide.ID})
	assert.Zero(t, now.Use.Since.Facets)
	script, err := s.Script(ctx, stone)
	require.NoError(t, err)
	v := script.Visits[4]
	s.append(t, s.event(stone, 99, journal.Done, journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}))
	now, err = s.OnShelf(ctx, lap.ID)
	require.NoError(t, err)
	assert.Equal(t, journal.Span{Stones: 1, Facets: 1}, now.Use.Since)
	assert.Equal(t, journal.Span{Stones: 1, Facets: 5}, now.Use.All)
	assert.Equal(t, []any{1.0, 1}, []any{now.Lasts, now.LastsFrom}, "one charge lasted a stone so far")

	// What met a stone stays in its records, whatever becomes of it.
	assert.ErrorContains(t, s.DropItem(ctx, lap.ID), string(workshop.StillUsed))
	s.tell(t, lap.ID, journal.Gone, nil)
	proposal, err := s.Propose(ctx, d.ID, "")
	require.NoError(t, err)
	assert.NotContains(t, []string{proposal.Passes[0].LapItem, proposal.Passes[2].LapItem}, lap.ID)
	met, err := s.StonesOf(ctx, lap.ID, 5)
	require.NoError(t, err)
	assert.Equal(t, stone.ID, met[0].ID)
	c.Passes[0].LapItem = "no such lap"
	_, err = s.PlanStone(ctx, "test", d.ID, c)
	assert.ErrorContains(t, err, string(workshop.NoSuchItem))
}

func TestWhatRunsOutAndGetsOld(t *testing.T) {
	s := newShop(t)
	glue := s.put(t, workshop.AdhesiveItem, "Cyanoacrylate", 3)
	at := func(after time.Duration) []workshop.Need {
		s.now = s.now.Add(after)
		now, err := s.OnShelf(ctx, glue.ID)
		require.NoError(t, err)
		return needs(now)
	}
	const day = 24 * time.Hour
	assert.Empty(t, at(330*day))
	assert.Equal(t, []workshop.Need{workshop.NearDate}, at(20*day))
	assert.Equal(t, []workshop.Need{workshop.PastDate}, at(30*day))
	now := s.tell(t, glue.ID, journal.Renewed, journal.Renewing{On: s.now.Format(time.DateOnly)})
	assert.Empty(t, needs(now), "a new tube is fresh")
	assert.Equal(t, 2.0, *now.Have, "and one fewer lies in the drawer")
	now = s.tell(t, glue.ID, journal.Counted, journal.Count{Have: 1})
	assert.Equal(t, []workshop.Need{workshop.RunsLow}, needs(now))
	now = s.tell(t, glue.ID, journal.Counted, journal.Count{})
	assert.Equal(t, []workshop.Need{workshop.UsedUp}, needs(now))
	film := s.put(t, workshop.LapItem, "Cerium film", 150).Item
	film.Lasts = 1
	_, err := s.SaveItem(ctx, film)
	require.NoError(t, err)
	c := choices(8)
	c.Passes = slices.Clone(c.Passes)
	c.Passes[0].LapItem = film.ID
	stone, err := s.PlanStone(ctx, "test", s.add(t, "Three Sisters").ID, c)
	require.NoError(t, err)
	s.done(t, stone, 1)
	worn, err := s.OnShelf(ctx, film.ID)
	require.NoError(t, err)
	assert.Equal(t, []workshop.Need{workshop.Worn}, needs(worn))
}

func TestALadderFromTheShelf(t *testing.T) {
	s := newShop(t)
	coarse := s.put(t, workshop.LapItem, "260", 150)
	tin := s.put(t, workshop.LapItem, "Tin", 150)
	s.put(t, workshop.LapItem, "3000", 150)
	passes := []workshop.Pass{{ID: "a", LapItem: coarse.ID}, {ID: "b", Lap: "3000"}, {ID: "c", LapItem: tin.ID, Compound: "alumina 0.3 µm"}}
	climb := func() workshop.Ladder {
		l, err := s.Ladder(ctx, "Peridot", passes)
		require.NoError(t, err)
		return l
	}
	l := climb()
	assert.Equal(t, abrasive.TooLarge, l.Rungs[1].Finding)
	assert.False(t, l.Sound)
	require.Len(t, l.Missing, 1, "one lap more would do")
	between := s.put(t, workshop.LapItem, "600", 150)
	l = climb()
	assert.True(t, l.Sound)
	assert.Contains(t, l.Best, between.ID, "it is on the shelf now")
	assert.Empty(t, l.Missing)
	// A lap that is kept for something else is left alone.
	item := between.Item
	item.Lap.KeptFor = "Spinel"
	_, err := s.SaveItem(ctx, item)
	require.NoError(t, err)
	assert.False(t, climb().Sound)

	// What habits say in words is taken from the shelf, the cleanest first.
	s.put(t, workshop.CompoundItem, "Alumina 0.3 µm", 50)
	proposal, err := s.Propose(ctx, s.add(t, "Three Sisters").ID, "")
	require.NoError(t, err)
	assert.NotEmpty(t, proposal.Passes[1].LapItem, "3000")
	_, err = s.Ladder(ctx, "Moon cheese", passes)
	require.ErrorIs(t, err, workshop.ErrNotFound)
}

// TestGearsAreThoseOfTheMachinesAndOfTheShelf changes them on either side.
func TestGearsAreThoseOfTheMachinesAndOfTheShelf(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		s := newShop(t)
		require.NoError(rt, s.ShelveGears(ctx))
		for range rapid.IntRange(1, 6).Draw(rt, "changes") {
			shelf, err := s.Shelf(ctx)
			require.NoError(rt, err)
			switch gear := shelf[0]; rapid.IntRange(0, 3).Draw(rt, "what") {
			case 0:
				s.put(rt, workshop.GearItem, "gear", float64(rapid.SampledFrom([]int{64, 72, 96}).Draw(rt, "teeth")))
			case 1:
				s.tell(rt, gear.ID, rapid.SampledFrom([]journal.Kind{journal.Gone, journal.Back}).Draw(rt, "kind"), nil)
			case 2:
				item := gear.Item
				item.Gear = &workshop.Gear{Teeth: rapid.SampledFrom([]int{64, 80}).Draw(rt, "other"), Machines: item.Gear.Machines}
				_, err := s.SaveItem(ctx, item)
				require.NoError(rt, err)
			case 3:
				settings, err := s.Settings(ctx)
				require.NoError(rt, err)
				settings.Machines[0].Gears = rapid.SliceOfNDistinct(rapid.SampledFrom([]int{64, 80, 120}), 0, 3, rapid.ID[int]).Draw(rt, "gears")
				_, err = s.SaveSettings(ctx, settings)
				require.NoError(rt, err)
			}
			settings, err := s.Settings(ctx)
			require.NoError(rt, err)
			shelf, err = s.Shelf(ctx)
			require.NoError(rt, err)
			var there []int
			for _, o := range shelf {
				if !o.Gone && slices.Contains(o.Gear.Machines, settings.Machine) {
					there = append(there, o.Gear.Teeth)
				}
			}
			slices.Sort(there)
			assert.Equal(rt, slices.Compact(there), append([]int(nil), settings.Machines[0].Gears...))
			if len(shelf) == 0 {
				return
			}
		}
	})
}
