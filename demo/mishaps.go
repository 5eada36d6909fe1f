package demo

import (
	"context"
	"fmt"
	"slices"
	"time"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/mending"
	"cressa/core/polyhedron"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// mishap is a stone with which something went wrong at the wheel, and waits for a way out.
type mishap struct {
	gift
	// It was cut until so many facets of a tier had their first cut, or the whole first side where tier is "".
	tier   string
	facets int
	// what happened at the last of them, mm deep; "" where nobody knows.
	what journal.What
	mm   float64
}

var mishaps = []mishap{
	{gift: gift{name: "Round for the star party, one main too deep", diagram: "First Light", material: "Aquamarine", widthMM: 8.2, gear: 96, daysAgo: 15},
		tier: "P2", facets: 5, what: journal.Overcut, mm: 0.05},
	{gift: gift{name: "Grey round that came off its dop", diagram: "First Light", material: "Spinel", widthMM: 7, gear: 96, daysAgo: 14},
		tier: "C2", facets: 6, what: journal.BondFailed},
	{gift: gift{name: "Practice swirl that looks wrong", diagram: "Spiral Arm", material: "Practice glass", widthMM: 10, gear: 96, daysAgo: 13,
		note: "The pavilion does not look like the picture. Which tier is it?"}},
}

// mishap cuts the stones with which something went wrong, as far as they came, in the evenings before the latest stones.
func (f *filler) mishap(ctx context.Context, at time.Time, list []workshop.DiagramLine) error {
	for _, m := range mishaps {
		day := at.AddDate(0, 0, -m.daysAgo)
		f.now = time.Date(day.Year(), day.Month(), day.Day(), 18, 5, 0, 0, time.UTC)
		i := slices.IndexFunc(list, func(d workshop.DiagramLine) bool { return d.Name == m.diagram })
		stone, err := f.plan(ctx, m.gift, list[i])
		if err != nil {
			return err
		}
		script, err := f.workshop.Script(ctx, stone)
		if err != nil {
			return err
		}
		last := m.last(script)
		// The share is rounded down to whole visits.
		m.share = (float64(last) + 1.5) / float64(len(script.Visits))
		events, err := f.events(ctx, m.gift, stone)
		if err != nil {
			return err
		}
		if m.what != "" {
			v := script.Visits[last]
			happened := journal.Happened{What: m.what, At: &journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}}
			if m.mm > 0 {
				happened.MM = &m.mm
			}
			f.now = f.now.Add(time.Minute)
			events = append(events, f.event(stone.Work().ID, journal.Happen, happened))
		}
		if err := f.send(ctx, events); err != nil {
			return fmt.Errorf("%s: %w", m.name, err)
		}
	}
	return nil
}

// last is the place of the last visit that was made.
func (m mishap) last(script *workshop.Script) int {
	if m.tier == "" {
		return slices.IndexFunc(script.Visits, func(v workshop.ScriptVisit) bool { return v.Setup != script.Visits[0].Setup }) - 1
	}
	seen := 0
	return slices.IndexFunc(script.Visits, func(v workshop.ScriptVisit) bool {
		if script.Assessment.Stone.Diagram.Tiers[script.Assessment.Stone.Facets[v.FacetNo].Tier].Name == m.tier {
			seen++
		}
		return seen == m.facets
	})
}

// recut plans how a chip goes out of a ring stone that a member brought in: with the facets at one azimuth.
func (f *filler) recut(ctx context.Context, list []workshop.DiagramLine) error {
	i := slices.IndexFunc(list, func(d workshop.DiagramLine) bool { return d.Name == "First Light" })
	of := workshop.CameBack{Diagram: list[i].ID, WidthMM: 9.4, Material: "Iolite"}
	back, err := f.workshop.Return(ctx, of)
	if err != nil {
		return err
	}
	_, thickest, _ := back.Stone.Girdle()
	inwards := r3.Unit(r3.Sub(back.Stone.Solid().Centroid(), thickest.High))
	chip := r3.Add(r3.Scale(back.MM, thickest.High), r3.Scale(0.25, inwards))
	_, err = f.workshop.RecutSo(ctx, of, workshop.RecutAsked{Damages: []mending.Damage{{Points: []r3.Vec{chip}}}}, workshop.RecutChosen{
		Way: mending.Flank, FirstSide: diagram.Crown, Name: "Ms. Falk's iolite, chipped at the girdle", Why: "A chip from the ring's claw.",
	}, 0)
	return err
}

// die puts a cube with eased edges into the library, and plans one of glass for the games evening.
func (f *filler) die(ctx context.Context) error {
	const across, edge, corner = 16, 0.8, 1.2
	cube, err := polyhedron.Rule{Kind: polyhedron.Cube, Pose: polyhedron.FaceUp}.Shape()
	if err != nil {
		return err
	}
	unit := cube.Solid.Bounds().Size().X / across
	eased, err := cube.Eased(edge*unit, corner*unit)
	if err != nil {
		return err
	}
	placed, err := eased.Place(ctx, polyhedron.Placing{Up: r3.Vec{Z: 1}, Name: "Eased Die", Gear: 96, RefractiveIndex: 1.52})
	if err != nil {
		return err
	}
	added, err := f.workshop.ImportDraft(ctx, diagram.DraftOf(placed.Stone.Diagram), "a solid", true)
	if err != nil {
		return err
	}
	_, err = f.plan(ctx, gift{name: "Die for the games evening", material: "Practice glass", widthMM: across, gear: 96, steepest: 60}, workshop.DiagramLine{ID: added.ID})
	return err
}
