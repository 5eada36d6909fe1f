package storetest

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/workshop"
)

func revision(name string) workshop.Revision {
	d := &diagram.Diagram{
		Format: diagram.Format, Name: name, Outline: "round", Gear: 96, RefractiveIndex: 1.5, FirstSide: diagram.Pavilion, Indexing: diagram.Dialled,
		Tiers: []diagram.Tier{{Name: "P1", Part: diagram.Pavilion, Angle: 42, Indexes: []float64{96, 48}, Stop: diagram.Stop{Kind: diagram.Centre}}},
	}
	return workshop.Revision{
		Hash: diagram.Hash(d), Diagram: d, Created: now, Picture: workshop.Picture{Above: [][]float64{{0, 0, 1, 1}}, Side: [][]float64{{0, 1}}},
		Facts: workshop.Facts{Name: name, Outline: "round", Gear: 96, RefractiveIndex: 1.5, Tiers: 1, Facets: 2, LengthWidth: 1.25, HeightWidth: 0.6, TableWidth: 0.5, Shallowest: 42},
	}
}

func named(id, name string) workshop.Diagram {
	return workshop.Diagram{ID: id, Version: 1, Created: now, Updated: now, Draft: diagram.Draft{Name: name, Gear: "96", Outline: "round", Tiers: []diagram.DraftTier{}}}
}

func diagrams(t *testing.T, ctx context.Context, s workshop.Store) {
	_, err := s.Diagram(ctx, "none")
	require.ErrorIs(t, err, workshop.ErrNotFound)
	r := revision("Halo")
	d := named("d1", "Halo")
	d.Draft.Designer, d.Origin, d.SenseChosen = "Ünal 100%_", "mail", true
	require.NoError(t, s.InsertDiagram(ctx, d, &r))
	require.NoError(t, s.InsertDiagram(ctx, named("d2", "comet"), nil))
	variant := named("d3", "Halo · B")
	variant.VariantOf = "d1"
	require.NoError(t, s.InsertDiagram(ctx, variant, nil))

	got, err := s.Diagram(ctx, "d1")
	require.NoError(t, err)
	d.Revision, d.Facts = r.Hash, &r.Facts
	assert.Equal(t, d, got)

	d.Draft.Note, d.Edited = "steeper", true
	require.NoError(t, s.SaveDraft(ctx, d, 1))
	require.ErrorIs(t, s.SaveDraft(ctx, d, 1), workshop.ErrStale)
	require.ErrorIs(t, s.KeepRevision(ctx, "d1", r, 1), workshop.ErrStale)
	got, err = s.Diagram(ctx, "d1")
	require.NoError(t, err)
	assert.True(t, got.Edited)
	other := revision("Halo, steeper")
	require.NoError(t, s.KeepRevision(ctx, "d1", other, 2))
	got, err = s.Diagram(ctx, "d1")
	require.NoError(t, err)
	assert.False(t, got.Edited)
	assert.Equal(t, 3, got.Version)
	assert.Equal(t, other.Hash, got.Revision)

	variants, err := s.Variants(ctx, "d1")
	require.NoError(t, err)
	assert.Equal(t, []workshop.DiagramName{{ID: "d1", Name: "Halo"}, {ID: "d3", Name: "Halo · B"}}, variants)

	names := func(f workshop.DiagramFilter) (out []string) {
		page, err := s.Diagrams(ctx, f, workshop.Cursor{}, 10)
		require.NoError(t, err)
		for _, l := range page.Lines {
			out = append(out, l.Name)
		}
		assert.Equal(t, len(out), page.Total)
		return out
	}
	assert.Equal(t, []string{"comet", "Halo", "Halo · B"}, names(workshop.DiagramFilter{}), "whatever their case")
	assert.Equal(t, []string{"Halo"}, names(workshop.DiagramFilter{Words: []string{"ünal", "HALO"}}))
	assert.Equal(t, []string{"Halo"}, names(workshop.DiagramFilter{Words: []string{"100%_"}}), "no character is a pattern")
	assert.Empty(t, names(workshop.DiagramFilter{Words: []string{"0_"}, Outline: "oval"}))
	assert.Equal(t, []string{"Halo"}, names(workshop.DiagramFilter{Kept: true, FacetsFrom: 2, FacetsTo: 2, LengthWidthFrom: 1.25, LengthWidthTo: 1.25, Steeper: 41.9}))
	assert.Empty(t, names(workshop.DiagramFilter{Steeper: 42}))
}

func deleted(t *testing.T, ctx context.Context, s workshop.Store) {
	r := revision("Halo")
	starter := named("d1", "Halo")
	starter.Starter = true
	require.NoError(t, s.InsertDiagram(ctx, starter, &r))
	require.NoError(t, s.InsertSweep(ctx, workshop.Sweep{ID: "s", DiagramID: "d1", Created: now}, 3))
	require.NoError(t, s.HideDiagram(ctx, "d1", &now))
	require.ErrorIs(t, s.HideDiagram(ctx, "none", &now), workshop.ErrNotFound)
	_, err := s.Diagram(ctx, "d1")
	require.ErrorIs(t, err, workshop.ErrNotFound)
	require.ErrorIs(t, s.SaveDraft(ctx, starter, 1), workshop.ErrStale)
	hashes, err := s.Starters(ctx)
	require.NoError(t, err)
	assert.Equal(t, []string{r.Hash}, hashes, "it was there, and is not to come back by itself")
	bin, err := s.Diagrams(ctx, workshop.DiagramFilter{Deleted: true}, workshop.Cursor{}, 10)
	require.NoError(t, err)
	require.Len(t, bin.Lines, 1, "what was deleted can be found and brought back")
	require.Equal(t, "d1", bin.Lines[0].ID)
	require.NoError(t, s.HideDiagram(ctx, "d1", nil))
	_, err = s.Diagram(ctx, "d1")
	require.NoError(t, err)
	require.NoError(t, s.HideDiagram(ctx, "d1", &now))
	require.NoError(t, s.DropHidden(ctx, now))
	require.NoError(t, s.HideDiagram(ctx, "d1", &now), "not before its time")
	require.NoError(t, s.DropHidden(ctx, now.Add(time.Microsecond)))
	require.ErrorIs(t, s.HideDiagram(ctx, "d1", nil), workshop.ErrNotFound)
	_, err = s.Sweep(ctx, "s")
	require.ErrorIs(t, err, workshop.ErrNotFound, "what goes for good takes its sweeps along")

	first, err := s.FillOnce(ctx, "starters")
	require.NoError(t, err)
	again, err := s.FillOnce(ctx, "starters")
	require.NoError(t, err)
	assert.Equal(t, []bool{true, false}, []bool{first, again})
}

func revisions(t *testing.T, ctx context.Context, s workshop.Store) {
	r := revision("Halo")
	require.NoError(t, s.InsertRevision(ctx, r))
	later := r
	later.Created, later.Facts.Name = now.Add(time.Hour), "another"
	require.NoError(t, s.InsertRevision(ctx, later), "the same content is there already")
	got, err := s.Revision(ctx, r.Hash)
	require.NoError(t, err)
	assert.Equal(t, r, got)
	p, err := s.Picture(ctx, r.Hash)
	require.NoError(t, err)
	assert.Equal(t, r.Picture, p)
	_, err = s.Revision(ctx, "none")
	require.ErrorIs(t, err, workshop.ErrNotFound)
	_, err = s.Picture(ctx, "none")
	require.ErrorIs(t, err, workshop.ErrNotFound)
}

func judgements(t *testing.T, ctx context.Context, s workshop.Store) {
	r := revision("Halo")
	require.NoError(t, s.InsertDiagram(ctx, named("d1", "Halo"), &r))
	hash, err := s.Unjudged(ctx, "m")
	require.NoError(t, err)
	assert.Equal(t, r.Hash, hash)
	j := workshop.Judged{
		Level: workshop.Hard, Cuttable: true, LargestCheat: 0.5,
		Difficulty: cutting.Difficulty{Points: 7, Weights: []cutting.Weight{{Factor: cutting.ManyTiers, Value: 3, Points: 7}}},
	}
	require.NoError(t, s.SaveJudgement(ctx, r.Hash, "m", j))
	require.NoError(t, s.SaveJudgement(ctx, r.Hash, "old", j))
	got, err := s.Judgement(ctx, r.Hash, "m")
	require.NoError(t, err)
	assert.Equal(t, j, got)
	_, err = s.Unjudged(ctx, "m")
	require.ErrorIs(t, err, workshop.ErrNotFound)
	page, err := s.Diagrams(ctx, workshop.DiagramFilter{Machine: "m", Cuttable: true, Level: workshop.Hard, Sort: workshop.ByDifficulty}, workshop.Cursor{}, 5)
	require.NoError(t, err)
	require.Len(t, page.Lines, 1)
	assert.Equal(t, &j, page.Lines[0].Judged)
	page, err = s.Diagrams(ctx, workshop.DiagramFilter{Machine: "m", Sort: workshop.ByFit}, workshop.Cursor{}, 5)
	require.NoError(t, err)
	require.NotEmpty(t, page.Lines)
	assert.NotNil(t, page.Lines[0].Judged, "what fits comes before what was not judged")
	page, err = s.Diagrams(ctx, workshop.DiagramFilter{Machine: "other"}, workshop.Cursor{}, 5)
	require.NoError(t, err)
	assert.Nil(t, page.Lines[0].Judged)
	assert.Equal(t, 1, page.Waiting)
	require.NoError(t, s.DropJudgements(ctx, "m"))
	_, err = s.Judgement(ctx, r.Hash, "old")
	require.ErrorIs(t, err, workshop.ErrNotFound)
}
