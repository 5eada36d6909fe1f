package sheet

import (
	"fmt"
	"math"
	"slices"

	"cressa/core/diagram"
	"cressa/core/drawing"
	"cressa/core/gear"
	"cressa/words"
)

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
