// Package sheet composes the cutting sheet: the pages that go to the wheel on
// paper. It says what stands where, black on white; the formats write it.
package sheet

import (
	"fmt"
	"strings"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/drawing"
	"cressa/core/gear"
	"cressa/words"
	"cressa/workshop"
)

// Paper is a size of paper in mm.
type Paper struct{ Width, Height float64 }

// The papers.
var (
	A4     = Paper{210, 297}
	Letter = Paper{215.9, 279.4}
)

// Papers names them.
var Papers = map[string]Paper{"a4": A4, "letter": Letter}

// Content is what a sheet is about.
type Content struct {
	// Title and Facts head the first page.
	Title string
	Facts []string
	Stone *cutting.Stone
	// Gear and Setups say how it is dialled, In which of them each facet is cut in, Ups what is up in each: a side, or the facet that
	// a solid is held with facing up.
	Gear   int
	Setups []workshop.Setup
	In     []int
	Ups    []string
	// MM is millimetres per design unit, 0 where the stone has no size yet.
	MM      float64
	Machine workshop.Machine
	// Laps are the passes that every tier is ticked for. Stones are the numbers of a run's
	// stones, none for a single one: a run ticks a box for every stone instead of every pass.
	Laps   workshop.Laps
	Stones []string
	// Free are where facets of a solid lie whose stops are missing when they are cut, as in an assessment; nil for a stone that is held
	// by its two sides.
	Free []*cutting.Free
	// Asked tells what is asked of facets that were cut before, nil where all are cut to their stops.
	Asked []workshop.FacetAsked
	// Holds say how the stone is held in each setup; there may be fewer.
	Holds []workshop.Hold
	// Cares are what needs care, in words.
	Cares []string
}

// dialled is how a facet is set in its setup, and what is asked of it.
type dialled struct {
	gear.Setting
	workshop.FacetAsked
	// free is where it lies in mm if its stop is missing when it is cut.
	free *cutting.Free
}

// settings returns how every facet is set: for each setup and tier those of its facets that are cut then, in the order of their
// indexes.
func (c Content) settings() [][][]dialled {
	out := make([][][]dialled, len(c.Setups))
	for no := range out {
		out[no] = make([][]dialled, len(c.Stone.Diagram.Tiers))
	}
	for i, f := range c.Stone.Facets {
		// What cannot be dialled stays at no tooth.
		set, _ := gear.Dial(f.Plane.Normal, c.Setups[c.In[i]].Pose)
		one := dialled{Setting: set}
		if c.Asked != nil {
			one.FacetAsked = c.Asked[i]
		}
		if c.Free != nil && c.Free[i] != nil {
			one.free = &cutting.Free{Distance: c.Free[i].Distance * c.MM, Across: c.Free[i].Across * c.MM}
		}
		tiers := out[c.In[i]]
		tiers[f.Tier] = append(tiers[f.Tier], one)
	}
	return out
}

// dopUps tells whether the stone is held by more than its two sides.
func (c Content) dopUps() bool {
	return c.Ups[0] != string(diagram.Crown) && c.Ups[0] != string(diagram.Pavilion)
}

// OfDiagram is the sheet of a diagram without a plan: on its own gear, lengths in
// hundredths of the width, one box to tick.
func OfDiagram(s *cutting.Stone, m workshop.Machine) Content {
	d := s.Diagram
	first := d.FirstSide
	in := make([]int, len(s.Facets))
	for i, f := range s.Facets {
		if d.CutWith(d.Tiers[f.Tier].Part) != first {
			in[i] = 1
		}
	}
	return Content{
		Title: d.Name,
		Facts: facts(fmt.Sprintf("Gear %d", d.Gear), "n "+diagram.FormatNumber(d.RefractiveIndex), string(d.Outline), by(d.Designer), d.Source, d.Date, d.Licence),
		Stone: s, Gear: d.Gear, Machine: m, Setups: []workshop.Setup{
			{Pose: workshop.UsualPose(first, d.Gear, 0)}, {Pose: workshop.UsualPose(first.Other(), d.Gear, 0)},
		}, In: in, Ups: []string{string(first), string(first.Other())}, Laps: workshop.Laps{Passes: []workshop.Pass{{Name: "Done"}}},
		Cares: cares(s.Warnings),
	}
}

// OfPlan is the sheet of a planned stone. Title names the stone.
func OfPlan(title string, a *workshop.Assessment) Content {
	c := a.Choices
	d := a.Stone.Diagram
	turn := ""
	if a.Turns != (cutting.Turns{}) {
		turn = fmt.Sprintf("stone turned %.2f°", a.Turns.Pavilion)
		if a.Turns.Pavilion != a.Turns.Crown {
			turn = fmt.Sprintf("stone turned %.2f° pavilion, %.2f° crown", a.Turns.Pavilion, a.Turns.Crown)
		}
	}
	out := Content{
		Title: title,
		Facts: facts(
			d.Name, by(d.Designer), a.Material.Name,
			fmt.Sprintf("critical angle %.1f°", a.CriticalAngle.High),
			fmt.Sprintf("%.2f × %.2f × %.2f mm", a.LengthMM, a.WidthMM, a.HeightMM),
			fmt.Sprintf("%.2f ct", a.Carats), fmt.Sprintf("Gear %d", c.Gear), turn, a.Machine.Name,
		),
		Stone: a.Stone, Gear: c.Gear, Setups: a.Setups, In: a.In, MM: a.MM, Machine: a.Machine, Laps: c.Laps, Holds: c.Holds, Asked: a.Asked, Free: a.Free,
		Cares: cares(append(append([]diagram.Problem{}, a.Stone.Warnings...), a.Left...)),
	}
	for no := range a.Setups {
		out.Ups = append(out.Ups, c.UpName(no))
	}
	for _, p := range a.Machine.Obstacles(a.Stone) {
		if p.Code != workshop.NoGearCarries {
			out.Cares = append(out.Cares, care(p))
		}
	}
	if a.CheatGap > 0 {
		out.Cares = append(out.Cares, fmt.Sprintf("No cheater: cut at whole teeth meets open by up to %.0f µm.", a.CheatGap))
	}
	return out
}

func by(designer string) string {
	if designer == "" {
		return ""
	}
	return "by " + designer
}

// facts leaves out what is empty.
func facts(all ...string) []string {
	var out []string
	for _, f := range all {
		if f != "" {
			out = append(out, f)
		}
	}
	return out
}

func cares(problems []diagram.Problem) []string {
	var out []string
	for _, p := range problems {
		out = append(out, care(p))
	}
	return out
}

func care(p diagram.Problem) string {
	if p.Tier != "" {
		return p.Tier + ": " + words.Problem(p)
	}
	return words.Problem(p)
}

// Measure returns how wide a text of the given size is, in mm.
type Measure func(text string, size float64, bold bool) float64

// Sizes of what is on a page, in mm.
const (
	margin    = 12.0
	textSize  = 3.0
	smallSize = 2.5
	rowGap    = 1.3
	// notesRoom is what stays free for a pencil.
	notesRoom = 34.0
)

// Pages composes the sheet: on a single page with smaller drawings where single is
// asked for and the tiers allow it, else on two, and on more where it must be.
func Pages(c Content, paper Paper, single bool, measure Measure) []drawing.Page {
	if single {
		// The largest drawings, in mm, that leave room for the rest: below the last they tell nothing.
		for _, wheel := range []float64{58, 50, 42} {
			if pages := compose(c, paper, wheel, measure); len(pages) == 1 {
				return pages
			}
		}
	}
	return compose(c, paper, 84, measure)
}

func compose(c Content, paper Paper, wheel float64, measure Measure) []drawing.Page {
	w := &writer{content: c, paper: paper, measure: measure, settings: c.settings()}
	w.newPage()
	w.head()
	w.pictures(wheel)
	w.table()
	w.howTo()
	w.cares()
	w.notes()
	for i := range w.pages {
		foot := fmt.Sprintf("%s · page %d of %d", c.Title, i+1, len(w.pages))
		w.page = &w.pages[i]
		w.write(paper.Width-margin, paper.Height-margin/2, smallSize, false, drawing.Right, foot)
	}
	return w.pages
}

// writer fills pages from the top down.
type writer struct {
	content Content
	paper   Paper
	measure Measure
	// settings are how every facet is set, setup by setup and tier by tier.
	settings [][][]dialled
	pages    []drawing.Page
	page     *drawing.Page
	// y is the lowest line that is taken.
	y float64
}

func (w *writer) newPage() {
	w.pages = append(w.pages, drawing.Page{Width: w.paper.Width, Height: w.paper.Height})
	w.page = &w.pages[len(w.pages)-1]
	w.y = margin
}

func (w *writer) bottom() float64 { return w.paper.Height - margin }

// room starts a new page where less than so much is left on this one.
func (w *writer) room(height float64) bool {
	if w.y+height <= w.bottom() {
		return false
	}
	w.newPage()
	return true
}

// head is the title block.
func (w *writer) head() {
	width := w.paper.Width - 2*margin
	top := w.y
	w.y += 6.5
	w.write(margin+2, w.y, 5, true, drawing.Left, w.fit(w.content.Title, 5, width-4))
	w.y += 1.5
	for _, line := range w.wrap(strings.Join(w.content.Facts, " · "), textSize, width-4) {
		w.y += textSize + 1.4
		w.write(margin+2, w.y, textSize, false, drawing.Left, line)
	}
	w.y += 2
	w.page.Box(margin, top, width, w.y-top, 0.35)
	w.y += 3
}
