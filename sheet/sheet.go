// Package sheet composes the cutting sheet: the pages that go to the wheel on
// paper. It says what stands where, black on white; the formats write it.
package sheet

import (
	"fmt"
	"math"
	"slices"
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

// pictures draws both sides in the wheel and the stone from the side, or a solid in the wheel once for each dop-up.
func (w *writer) pictures(wheel float64) {
	width := w.paper.Width - 2*margin
	if w.content.dopUps() {
		w.wheels(width, wheel)
		return
	}
	profile := width - 2*wheel - 6
	below := profile < 36
	size := math.Min(wheel, (width-4)/2)
	w.wheel(margin+size/2, w.y+size/2, size, 0)
	if below {
		w.wheel(margin+width-size/2, w.y+size/2, size, 1)
		w.y += size + 5
		w.profile(margin, w.y, width, 42)
		w.y += 44
		return
	}
	w.wheel(margin+size*1.5+2, w.y+size/2, size, 1)
	w.profile(margin+2*size+6, w.y, profile, size)
	w.y += size + 5
}

// wheels draws a solid in the wheel for each of its dop-ups, row by row, none larger than so many mm.
func (w *writer) wheels(width, largest float64) {
	const apart, caption = 4.0, 5.0
	// Numbers round a smaller wheel cannot be read.
	const smallest = 40.0
	n := len(w.content.Setups)
	row := min(n, int((width+apart)/(smallest+apart)))
	if n > 2 {
		row = min(row, max(3, (n+2)/3))
	}
	size := math.Min(largest, (width-float64(row-1)*apart)/float64(row))
	for no := range w.content.Setups {
		if no%row == 0 {
			w.room(size + caption)
		}
		w.wheel(margin+size/2+float64(no%row)*(size+apart), w.y+size/2, size, no)
		if no%row == row-1 || no == n-1 {
			w.y += size + caption
		}
	}
}

// seen is the stone as it is seen in a setup, given by its place.
func (w *writer) seen(setup int) []drawing.Polygon {
	if w.content.dopUps() {
		right, above := w.content.Setups[setup].Pose.Seen()
		return centred(drawing.Seen(w.content.Stone.Solid(), right, above))
	}
	return drawing.Plan(w.content.Stone.Solid(), diagram.Part(w.content.Ups[setup]))
}

// centred moves a drawing so that its middle is at the origin: a solid is held by the middle of a face.
func centred(polygons []drawing.Polygon) []drawing.Polygon {
	low, high := drawing.Point{X: math.Inf(1), Y: math.Inf(1)}, drawing.Point{X: math.Inf(-1), Y: math.Inf(-1)}
	for _, g := range polygons {
		for _, q := range g.Points {
			low.X, low.Y = math.Min(low.X, q.X), math.Min(low.Y, q.Y)
			high.X, high.Y = math.Max(high.X, q.X), math.Max(high.Y, q.Y)
		}
	}
	out := slices.Clone(polygons)
	for i, g := range out {
		out[i].Points = make([]drawing.Point, len(g.Points))
		for k, q := range g.Points {
			out[i].Points[k] = drawing.Point{X: q.X - (low.X+high.X)/2, Y: q.Y - (low.Y+high.Y)/2}
		}
	}
	return out
}

// upHead tells what is up in a setup.
func (w *writer) upHead(setup int) string {
	up := w.content.Ups[setup]
	switch up {
	case string(diagram.Crown):
		return "Crown up"
	case string(diagram.Pavilion):
		return "Pavilion up"
	}
	return up + " up"
}

// wheel draws the stone as it stands in a setup inside the gear, its dialled teeth marked.
func (w *writer) wheel(x, y, size float64, setup int) {
	s, p := w.content.Stone, w.page
	rim, root := size/2, size/2-2.2
	on := func(azimuth, radius float64) drawing.Point {
		sin, cos := math.Sincos(azimuth * math.Pi / 180)
		return drawing.Point{X: x + radius*sin, Y: y - radius*cos}
	}
	used := map[float64]bool{}
	for _, settings := range w.settings[setup] {
		for _, set := range settings {
			if set.Angle > sameAngle {
				used[gear.Circle(gear.Azimuth(set.Index, w.content.Gear))] = true
			}
		}
	}
	for _, t := range drawing.Wheel(w.content.Gear) {
		p.Line(on(t.Azimuth, root), on(t.Azimuth, rim-0.9), 0.1)
		if t.Labelled {
			at := on(t.Azimuth, root-2.1)
			w.write(at.X, at.Y+0.75, 2.1, false, drawing.Middle, fmt.Sprint(t.Index))
		}
	}
	for azimuth := range used {
		p.Shapes = append(p.Shapes, drawing.Shape{
			Points: []drawing.Point{on(azimuth, root-0.2), on(azimuth-1, rim), on(azimuth+1, rim)}, Closed: true, Grey: 1,
		})
	}
	polygons := w.seen(setup)
	scale := (root - 5) / reach(polygons)
	place := func(q drawing.Point) drawing.Point { return drawing.Point{X: x + q.X*scale, Y: y - q.Y*scale} }
	w.facets(polygons, place)
	caption := w.upHead(setup)
	if thinnest, _, _ := s.Girdle(); w.uneven() && !w.content.dopUps() {
		const half = 0.9
		at := place(drawing.InPlan(thinnest.Low, diagram.Part(w.content.Ups[setup])))
		p.Shapes = append(p.Shapes, drawing.Shape{
			Points: []drawing.Point{{X: at.X, Y: at.Y - half}, {X: at.X + half, Y: at.Y}, {X: at.X, Y: at.Y + half}, {X: at.X - half, Y: at.Y}}, Closed: true, Grey: 1,
		})
		caption += ", girdle thinnest at the mark"
	}
	w.write(x, y+rim+3.2, smallSize, true, drawing.Middle, caption)
}

// reach is how far the drawing goes from its middle.
func reach(polygons []drawing.Polygon) float64 {
	out := 1e-9
	for _, g := range polygons {
		for _, q := range g.Points {
			out = math.Max(out, math.Hypot(q.X, q.Y))
		}
	}
	return out
}

// facets draws polygons and writes each tier's name where there is room for it.
func (w *writer) facets(polygons []drawing.Polygon, place func(drawing.Point) drawing.Point) {
	const size = 2.2
	s := w.content.Stone
	named := map[int]bool{}
	for _, g := range polygons {
		points := make([]drawing.Point, len(g.Points))
		for i, q := range g.Points {
			points[i] = place(q)
		}
		w.page.Shapes = append(w.page.Shapes, drawing.Shape{Points: points, Closed: true, Stroke: 0.2})
		if g.Facet < 0 {
			continue
		}
		tier := s.Facets[g.Facet].Tier
		name := s.Diagram.Tiers[tier].Name
		middle, room := inside(points)
		need := math.Hypot(w.measure(name, size, false), size) / 2
		// The first facet of a tier, or one with plenty of room: names help where
		// they do not hide the lines.
		if room > need && (!named[tier] || room > 2.2*need) {
			named[tier] = true
			w.write(middle.X, middle.Y+size*0.36, size, false, drawing.Middle, name)
		}
	}
}

// inside returns the middle of a polygon and how far its nearest side is.
func inside(points []drawing.Point) (middle drawing.Point, room float64) {
	area := 0.0
	for i, a := range points {
		b := points[(i+1)%len(points)]
		cross := a.X*b.Y - b.X*a.Y
		area += cross
		middle.X += (a.X + b.X) * cross
		middle.Y += (a.Y + b.Y) * cross
	}
	if math.Abs(area) < 1e-9 {
		return points[0], 0
	}
	middle.X, middle.Y = middle.X/(3*area), middle.Y/(3*area)
	room = math.Inf(1)
	for i, a := range points {
		b := points[(i+1)%len(points)]
		if length := math.Hypot(b.X-a.X, b.Y-a.Y); length > 1e-9 {
			room = math.Min(room, math.Abs((b.X-a.X)*(a.Y-middle.Y)-(a.X-middle.X)*(b.Y-a.Y))/length)
		}
	}
	return middle, room
}

// profile draws the stone from the side with its heights.
func (w *writer) profile(x, y, width, height float64) {
	s := w.content.Stone
	l := s.Levels()
	polygons := drawing.Elevation(s.Solid(), 180)
	half := 1e-9
	for _, g := range polygons {
		for _, q := range g.Points {
			half = math.Max(half, math.Abs(q.X))
		}
	}
	// The heights stand to the right, as wide as their longest.
	const toLabel = 3.6
	label := 0.0
	girdleText := w.girdle()
	for _, text := range []string{w.length(l.Top - l.GirdleHigh), girdleText, w.length(l.GirdleLow - l.Bottom)} {
		label = math.Max(label, toLabel+w.measure(text, smallSize, true))
	}
	scale := math.Min((width-label)/(2*half), (height-8)/math.Max(l.Top-l.Bottom, 1e-9))
	middle := x + (width-label)/2
	level := func(z float64) float64 { return y + height/2 + ((l.Top+l.Bottom)/2-z)*scale }
	w.facets(polygons, func(q drawing.Point) drawing.Point {
		return drawing.Point{X: middle + q.X*scale, Y: level(q.Y)}
	})
	if !l.HasGirdle {
		return
	}
	right := middle + half*scale + toLabel - 1.6
	// A label takes two lines; those beside a thin girdle make room for its own.
	const lines = 2*smallSize + 1.6
	girdle := (level(l.GirdleLow) + level(l.GirdleHigh)) / 2
	for _, part := range []struct {
		name, text string
		from, to   float64
		beyond     float64
	}{
		{"crown", w.length(l.Top - l.GirdleHigh), l.GirdleHigh, l.Top, -lines},
		{"girdle", girdleText, l.GirdleLow, l.GirdleHigh, 0},
		{"pavilion", w.length(l.GirdleLow - l.Bottom), l.Bottom, l.GirdleLow, lines},
	} {
		if part.to-part.from < 1e-9 {
			continue
		}
		at := (level(part.from) + level(part.to)) / 2
		switch {
		case part.beyond < 0:
			at = math.Min(at, girdle+part.beyond)
		case part.beyond > 0:
			at = math.Max(at, girdle+part.beyond)
		}
		a, b := level(part.from), level(part.to)
		w.page.Line(drawing.Point{X: right, Y: a}, drawing.Point{X: right, Y: b}, 0.2)
		for _, end := range []float64{a, b} {
			w.page.Line(drawing.Point{X: right - 0.8, Y: end}, drawing.Point{X: right + 0.8, Y: end}, 0.2)
		}
		w.write(right+1.6, at-0.3, smallSize, false, drawing.Left, part.name)
		w.write(right+1.6, at+2.6, smallSize, true, drawing.Left, part.text)
	}
	total := w.length(l.Top - l.Bottom)
	w.write(middle, math.Min(level(l.Bottom)+4, y+height), smallSize, false, drawing.Middle, "height "+total)
}

// girdle words the girdle's thickness, where it is thinnest and, where that is another figure,
// where it is thickest.
func (w *writer) girdle() string {
	thinnest, thickest, _ := w.content.Stone.Girdle()
	least := w.length(thinnest.Thickness())
	if !w.uneven() {
		return least
	}
	return least + " – " + w.length(thickest.Thickness())
}

// uneven tells whether the girdle is thinner in one place than in another by what a figure shows.
func (w *writer) uneven() bool {
	thinnest, thickest, ok := w.content.Stone.Girdle()
	return ok && w.length(thinnest.Thickness()) != w.length(thickest.Thickness())
}

// length words a length of the stone.
func (w *writer) length(v float64) string {
	return words.Scale{MM: w.content.MM, Width: w.content.Stone.Measures().Width}.Length(v)
}
