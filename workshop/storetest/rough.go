package storetest

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/rough"
	"cressa/workshop"
)

func pieces(t *testing.T, ctx context.Context, s workshop.Store) {
	lot := workshop.Parcel{
		ID: "lot", Name: "Hill lot", Source: "the hill", Lot: "H7", Bought: "2026-02-03", Promised: "clean", Came: "cloudy", Note: "n",
		Cost: workshop.ParcelCost{Per: workshop.ByGram, Amount: 450, Postage: 900, Currency: "EUR"}, Created: now, Version: 1,
	}
	older := workshop.Parcel{ID: "older", Name: "Box", Bought: "2025-01-01", Cost: workshop.ParcelCost{Per: workshop.ByParcel}, Created: now, Version: 1}
	for _, p := range []workshop.Parcel{older, lot} {
		require.NoError(t, s.InsertParcel(ctx, p))
	}
	lot.Came, lot.Version = "two cracked", 2
	require.NoError(t, s.SaveParcel(ctx, lot, 1))
	require.ErrorIs(t, s.SaveParcel(ctx, lot, 1), workshop.ErrStale)
	parcels, err := s.Parcels(ctx)
	require.NoError(t, err)
	assert.Equal(t, []workshop.Parcel{lot, older}, parcels)
	_, err = s.Parcel(ctx, "none")
	require.ErrorIs(t, err, workshop.ErrNotFound)

	p := workshop.Piece{
		ID: "a", Parcel: "lot", Weighed: workshop.Weighed{Text: "2,4", Unit: "g"}, Carats: 12, Look: workshop.Look{Along: "blue", Across: "pale", Seen: []workshop.Seen{{Way: workshop.Backlit, What: workshop.SawSomething, Note: "a veil"}}},
		Fate: workshop.Whole, Created: now, Version: 1,
		Survey: &rough.Survey{
			Gear: 96, Reading: 0.01, Lowers: true, Known: []rough.KnownTouch{{Height: 90}, {Angle: 90, Distance: 3, Height: 12}}, Touches: []rough.Touch{{Angle: 90, Index: 24, Height: 14.2}},
			Widths: []rough.Width{{Angle: 90, Index: 24, Reading: 9.1}}, Outlines: []rough.Outline{{Index: 12, Off: 0.1, Corners: []r3.Vec{{X: 1, Y: 2}, {X: 3}, {Y: 4}}}},
		},
		Sketch: workshop.Sketch{Name: "the clear one", Material: "Aquamarine", Flaws: 1, Size: r3.Vec{X: 12, Y: 9, Z: 8}, Corners: []r3.Vec{{X: 1}, {Y: 2}, {Z: 3}}},
		Rough: rough.Rough{
			Name: "the clear one", Material: "Aquamarine", Carat: 12, Solid: rough.Solid{Kind: rough.KindBox, Size: r3.Vec{X: 12, Y: 9, Z: 8}},
			Flaws: []rough.Flaw{{Name: "veil", Kind: rough.Disc, At: r3.Vec{X: 1}, Radius: 2, Normal: r3.Vec{Z: 1}, Rule: rough.Out}},
		},
	}
	number, err := s.InsertPiece(ctx, p)
	require.NoError(t, err)
	p.Number = number
	off := p
	off.ID, off.Parent, off.Carats, off.Fate = "b", "a", 3, workshop.Kept
	off.Rough.Flaws = nil
	off.Number, err = s.InsertPiece(ctx, off)
	require.NoError(t, err)
	assert.Equal(t, number+1, off.Number)
	stray := off
	stray.ID, stray.Parent = "c", "none"
	_, err = s.InsertPiece(ctx, stray)
	require.Error(t, err, "an offcut has a piece that it was sawn off")

	p.Rough.Name, p.Fate, p.Version = "the clearest", workshop.InWork, 2
	require.NoError(t, s.SavePiece(ctx, p, 1))
	require.ErrorIs(t, s.SavePiece(ctx, p, 1), workshop.ErrStale)
	got, err := s.Piece(ctx, "a")
	require.NoError(t, err)
	assert.Equal(t, p, got)
	sums, err := s.PieceWeights(ctx)
	require.NoError(t, err)
	assert.Equal(t, map[string]workshop.ParcelSum{"lot": {Pieces: 1, Carats: 12}}, sums, "what was sawn off was in the piece")

	small := workshop.Candidate{
		ID: "small", Piece: "a", Diagram: "d1", Revision: "r1", Name: "Round", Allowance: 0.3, Version: 2, Rounds: 1, Made: now,
		Found: workshop.Found{Scale: 7, Rotation: [9]float64{1, 0, 0, 0, 1, 0, 0, 0, 1}, Offset: [3]float64{1, 2, 3}, Width: 7, Length: 8, Height: 4, Carat: 2,
			Yield: 0.2, Bound: 9, LimitedBy: []workshop.Limit{{Kind: "flaw", Name: "veil"}}},
	}
	small.Costs = []workshop.FlawCost{{Flaw: 0, Width: 8, Carat: 3}}
	large := small
	large.ID, large.Diagram, large.Found.Carat = "large", "d2", 3
	for _, c := range []workshop.Candidate{small, large} {
		require.NoError(t, s.PutCandidate(ctx, c))
	}
	small.Chosen, small.Why, small.Name = now.Add(time.Hour), "suits the ring", "Rounder"
	require.NoError(t, s.PutCandidate(ctx, small))
	all, err := s.Candidates(ctx, "a")
	require.NoError(t, err)
	assert.Equal(t, []workshop.Candidate{large, small}, all)

	page, err := s.Pieces(ctx, workshop.PieceFilter{}, workshop.Cursor{}, 1)
	require.NoError(t, err)
	assert.Equal(t, 2, page.Total)
	line := func(p workshop.Piece) workshop.PieceLine {
		return workshop.PieceLine{ID: p.ID, Number: p.Number, Parcel: p.Parcel, Fate: p.Fate, Carats: p.Carats, Version: p.Version, Sketch: p.Sketch, ParcelName: "Hill lot"}
	}
	assert.Equal(t, []workshop.PieceLine{line(off)}, page.Lines)
	page, err = s.Pieces(ctx, workshop.PieceFilter{}, *page.Next, 1)
	require.NoError(t, err)
	chosen := line(p)
	chosen.Best, chosen.Candidates = &small, 2
	assert.Equal(t, []workshop.PieceLine{chosen}, page.Lines, "the chosen one stands for all")
	assert.Nil(t, page.Next)
	for _, f := range []workshop.PieceFilter{
		{Words: []string{"clearest", "hill"}}, {Fate: workshop.InWork}, {Parcel: "lot", Words: []string{"aqua", "clearest"}},
	} {
		page, err = s.Pieces(ctx, f, workshop.Cursor{}, 9)
		require.NoError(t, err)
		require.Len(t, page.Lines, 1)
		assert.Equal(t, "a", page.Lines[0].ID)
	}
	page, err = s.Pieces(ctx, workshop.PieceFilter{Parent: "a"}, workshop.Cursor{}, 9)
	require.NoError(t, err)
	assert.Equal(t, "b", page.Lines[0].ID)

	// Two stones of the piece, one of which was looked for there.
	found := small.Found
	found.LimitedBy = []workshop.Limit{}
	for id, from := range map[string]workshop.FromPiece{"first": {Piece: "a", Found: &found, Allowance: 0.3, Why: "suits the ring"}, "second": {Piece: "a"}} {
		stone := planned(t, ctx, s, id)
		stone.Works[0].Task = workshop.FirstCut{From: &from}
		stone.Number, err = s.InsertStone(ctx, stone)
		require.NoError(t, err)
		kept, err := s.Stone(ctx, id)
		require.NoError(t, err)
		assert.Equal(t, stone, kept)
	}
	made, err := s.StonesOfPiece(ctx, "a")
	require.NoError(t, err)
	require.Len(t, made, 2)
	assert.ElementsMatch(t, []float64{2, 0}, []float64{made[0].Carats, made[1].Carats})
	none, err := s.StonesOfPiece(ctx, "b")
	require.NoError(t, err)
	assert.Empty(t, none)
	homeless := planned(t, ctx, s, "stray")
	homeless.Works[0].Task = workshop.FirstCut{From: &workshop.FromPiece{Piece: "none"}}
	_, err = s.InsertStone(ctx, homeless)
	require.Error(t, err, "no stone comes of a piece that is not there")

	require.NoError(t, s.DropCandidate(ctx, "large"))
	require.ErrorIs(t, s.DropCandidate(ctx, "large"), workshop.ErrNotFound)
}
