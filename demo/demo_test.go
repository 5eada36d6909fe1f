package demo_test

import (
	"encoding/json"
	"flag"
	"os"
	"path/filepath"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/analysis"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/fit"
	"cressa/core/material"
	"cressa/demo"
	"cressa/sqlite"
	"cressa/words"
	"cressa/workshop"
)

var update = flag.Bool("update", false, "search the parcel's pieces anew and write found.json")

// What was found in the parcel's pieces is what a search finds in them.
func TestWhatWasFoundInTheParcelIsThere(t *testing.T) {
	_, pieces := demo.Parcel()
	diagrams, err := demo.Diagrams()
	require.NoError(t, err)
	all, err := demo.AllFound()
	require.NoError(t, err)
	if *update {
		all = nil
		for _, piece := range []int{1, 7} {
			for _, name := range []string{"Ecliptic", "Meridian", "First Light", "Long Exposure", "Northern Crown"} {
				all = append(all, demo.Found{Piece: piece, Diagram: name})
			}
		}
		all[1].Why = "The long keel shows the olive best, and the veil falls to the saw."
	}
	for i := range all {
		one := &all[i]
		if !*update && i%5 != 1 {
			continue // one of each piece is enough
		}
		p, err := pieces[one.Piece-1].Rough.Work()
		require.NoError(t, err)
		stone, err := cutting.Cut(diagrams[one.Diagram])
		require.NoError(t, err)
		got, err := analysis.LargestOf(t.Context(), p, []*fit.Shape{fit.NewShape(stone)}, fit.Search{Allowance: fit.UsualAllowance})
		require.NoError(t, err)
		found := analysis.Found(got[0])
		if *update {
			one.Found = found
		}
		assert.InEpsilon(t, found.Width, one.Found.Width, 1e-3)
	}
	if *update {
		data, err := json.MarshalIndent(all, "", "\t")
		require.NoError(t, err)
		require.NoError(t, os.WriteFile("found.json", append(data, '\n'), 0o644))
	}
}

// Every diagram that ships can be cut and looks like a gem; who has no table says
// so in the note.
func TestTheDiagramsThatShipAreGems(t *testing.T) {
	all, err := demo.Diagrams()
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(all), 16)
	outlines := map[diagram.Outline]bool{}
	mostFacets, fewestFacets, highestIndex, crownFirst := 0, diagram.MaxFacets, 0.0, 0
	for name, d := range all {
		outlines[d.Outline] = true
		highestIndex = max(highestIndex, d.RefractiveIndex)
		if d.FirstSide == diagram.Crown {
			crownFirst++
		}
		stone, err := cutting.Cut(d)
		require.NoError(t, err, name)
		m := stone.Measures()
		mostFacets, fewestFacets = max(mostFacets, m.Facets), min(fewestFacets, m.Facets)
		assert.True(t, m.HeightWidth >= 0.50 && m.HeightWidth <= 0.85, "%s: height/width %v", name, m.HeightWidth)
		require.NotNil(t, m.GirdleBand, name)
		assert.True(t, *m.GirdleBand >= 0.01 && *m.GirdleBand <= 0.05, "%s: girdle/width %v", name, *m.GirdleBand)
		if m.TableWidth == nil {
			assert.Contains(t, d.Note, "without a table", name)
		} else {
			assert.True(t, *m.TableWidth >= 0.40 && *m.TableWidth <= 0.75, "%s: table/width %v", name, *m.TableWidth)
		}
		for _, tier := range d.Tiers {
			if tier.Part == diagram.Pavilion {
				assert.Greater(t, tier.Angle, material.CriticalAngle(d.RefractiveIndex), "%s: %s", name, tier.Name)
			}
		}
		for _, w := range stone.Warnings {
			assert.Equal(t, cutting.SenseMatters, w.Code, "%s: %v", name, w)
		}
	}
	for _, o := range []diagram.Outline{"round", "oval", "square", "rectangle", "triangle", "pear", "marquise", "cushion", "hexagon", "freeform"} {
		assert.True(t, outlines[o], string(o))
	}
	assert.Greater(t, mostFacets, 200)
	assert.LessOrEqual(t, fewestFacets, 25, "a very easy first stone")
	assert.Greater(t, highestIndex, 1.85)
	assert.Positive(t, crownFirst)
}

// Diagrams of each kind, round, with three corners, with a keel and without a table, planned as the workshop
// proposes it, can be held by a dop of the shelf or of a usual size on both sides, and whatever the check
// finds is said in words with a way out.
func TestDiagramsOfEachKindCanBeHeld(t *testing.T) {
	file := filepath.Join(t.TempDir(), "cressa.db")
	require.NoError(t, demo.Fill(t.Context(), file, time.Date(2026, 4, 1, 9, 0, 0, 0, time.UTC)))
	store, err := sqlite.Open(t.Context(), file)
	require.NoError(t, err)
	defer func() { require.NoError(t, store.Close()) }()
	w := workshop.New(store, time.Now)
	page, err := w.Diagrams(t.Context(), workshop.DiagramFilter{Kept: true}, workshop.Cursor{}, 100)
	require.NoError(t, err)
	for _, d := range page.Lines {
		if !slices.Contains([]string{"First Light", "Three Sisters", "Meridian", "Dome of Night"}, d.Name) {
			continue
		}
		c, err := w.Propose(t.Context(), d.ID, "")
		require.NoError(t, err)
		c.Holds = nil
		stone, err := w.PlanStone(t.Context(), d.Name, d.ID, c)
		require.NoError(t, err)
		g, findings, err := analysis.Vet(t.Context(), w, stone)
		require.NoError(t, err)
		require.Len(t, g.Mounting, 2)
		for i, m := range g.Mounting {
			// The shelf has what suits; the best of it has nothing grave against it, and stands off at every cut.
			best := m.Options[0]
			assert.True(t, best.Sound(), "%s, %s up: %v of %s", d.Name, m.Up, best.Faults, best.Name)
			assert.True(t, best.Bonds[0].Sound(), "%s, %s up: %v", d.Name, m.Up, best.Bonds[0].Concerns)
			for _, r := range best.Rooms {
				assert.GreaterOrEqual(t, r.Dop, 0.0)
			}
			c.Holds = append(c.Holds, workshop.Hold{Dop: best.Name, DopItem: best.Item, Adhesive: string(best.Bonds[0].Adhesive.Sort)})
			assert.Equal(t, i, m.Setup)
		}
		open := 0
		for _, f := range findings {
			advice := words.Found(f)
			assert.NotEmpty(t, advice.Text, "%+v", f)
			if f.Open() {
				open++
				assert.NotEmpty(t, advice.Do, "%+v", f)
			}
		}
		// What the check proposes settles what it had found of dops and adhesives.
		stone, err = w.Replan(t.Context(), stone.ID, c, stone.Version)
		require.NoError(t, err)
		_, again, err := analysis.Vet(t.Context(), w, stone)
		require.NoError(t, err)
		for _, f := range again {
			if f.Topic == analysis.OfDop || f.Topic == analysis.OfAdhesive {
				assert.NotContains(t, []analysis.Verdict{analysis.Grave, analysis.Unknown}, f.Verdict, "%s: %s", d.Name, words.Found(f).Text)
			}
		}
		assert.Positive(t, open, "the rough of none is on record")
	}
}
