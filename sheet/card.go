package sheet

import (
	"fmt"
	"math"
	"strings"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/drawing"
)

// Card is what stands on a finished stone's card.
type Card struct {
	// Title is the stone's name, Number that on its bag.
	Title  string
	Number int
	// Stone is drawn as it was cut.
	Stone *cutting.Stone
	// Lines are names with their values, Notes texts that are set below them.
	Lines [][2]string
	Notes []string
}

// CardSize is that of a card in mm, A6 lying.
var CardSize = Paper{148, 105}

// CardPapers name what a card is printed on: one card to a sheet.
var CardPapers = map[string]Paper{"a6": CardSize, "a4": A4, "letter": Letter}

// cardMargin is round all that is on a card, pictures the width of the column of drawings.
const cardMargin, pictures = 6.0, 48.0

// Page sets the card on a paper. On one larger than itself it stands in the upper left corner, with marks where it is
// cut off. What does not fit on it any more is left out, with a mark that there is more.
func (c Card) Page(paper Paper, measure Measure) drawing.Page {
	x, y := 0.0, 0.0
	if paper != CardSize {
		x, y = margin, margin
	}
	w := &writer{paper: paper, measure: measure, pages: []drawing.Page{{Width: paper.Width, Height: paper.Height}}}
	w.page = &w.pages[0]
	if paper != CardSize {
		w.cutMarks(x, y)
	}
	w.stone(c.Stone, x+cardMargin, y+cardMargin)
	left, right := x+cardMargin+pictures+6, x+CardSize.Width-cardMargin
	number := fmt.Sprint(c.Number)
	at := y + cardMargin + 5
	w.write(right, at, 5, true, drawing.Right, number)
	room, size := right-left-w.measure(number, 5, true)-4, 5.0
	for size > 3.5 && w.measure(c.Title, size, true) > room {
		size -= 0.5
	}
	w.write(left, at, size, true, drawing.Left, w.fit(c.Title, size, room))
	at += 2.5
	w.page.Line(drawing.Point{X: left, Y: at}, drawing.Point{X: right, Y: at}, 0.35)
	at += textSize + 1.6
	for _, line := range c.Lines {
		w.write(left, at, textSize, false, drawing.Left, line[0])
		w.write(right, at, textSize, true, drawing.Right, w.fit(line[1], textSize, right-left-w.measure(line[0], textSize, false)-3))
		w.page.Line(drawing.Point{X: left, Y: at + 1.1}, drawing.Point{X: right, Y: at + 1.1}, 0.1)
		at += textSize + 1.8
	}
	at += 0.6
	bottom := y + CardSize.Height - cardMargin
	var lines []string
	for _, note := range c.Notes {
		lines = append(lines, w.wrap(note, smallSize, right-left)...)
	}
	for i, line := range lines {
		if at+smallSize+1 > bottom && i < len(lines)-1 {
			w.write(left, at, smallSize, false, drawing.Left, "…")
			break
		}
		w.write(left, at, smallSize, false, drawing.Left, line)
		at += smallSize + 1
	}
	return *w.page
}

// cutMarks draws the corners of a card.
func (w *writer) cutMarks(x, y float64) {
	const long = 4
	for _, right := range []float64{0, CardSize.Width} {
		for _, down := range []float64{0, CardSize.Height} {
			at := drawing.Point{X: x + right, Y: y + down}
			out := func(v float64) float64 { return math.Copysign(long, v-1) }
			w.page.Line(drawing.Point{X: at.X + out(right)/4, Y: at.Y}, drawing.Point{X: at.X + out(right), Y: at.Y}, 0.15)
			w.page.Line(drawing.Point{X: at.X, Y: at.Y + out(down)/4}, drawing.Point{X: at.X, Y: at.Y + out(down)}, 0.15)
		}
	}
}

// stone draws a stone from above, from below and from the side, one under the other.
func (w *writer) stone(s *cutting.Stone, x, y float64) {
	tall := CardSize.Height - 2*cardMargin
	square := math.Min(pictures, (tall-4)*0.36)
	for i, polygons := range [][]drawing.Polygon{
		drawing.Plan(s.Solid(), diagram.Crown), drawing.Plan(s.Solid(), diagram.Pavilion), drawing.Elevation(s.Solid(), 180),
	} {
		height := square
		if i == 2 {
			height = tall - 2*square - 4
		}
		low, high := extent(polygons)
		scale := math.Min(pictures/math.Max(high.X-low.X, 1e-9), height/math.Max(high.Y-low.Y, 1e-9))
		middle := drawing.Point{X: x + pictures/2, Y: y + height/2}
		for _, g := range polygons {
			points := make([]drawing.Point, len(g.Points))
			for k, q := range g.Points {
				points[k] = drawing.Point{X: middle.X + (q.X-(low.X+high.X)/2)*scale, Y: middle.Y - (q.Y-(low.Y+high.Y)/2)*scale}
			}
			w.page.Shapes = append(w.page.Shapes, drawing.Shape{Points: points, Closed: true, Stroke: 0.18})
		}
		y += height + 2
	}
}

// extent returns the corners of what polygons cover.
func extent(polygons []drawing.Polygon) (low, high drawing.Point) {
	low, high = drawing.Point{X: math.Inf(1), Y: math.Inf(1)}, drawing.Point{X: math.Inf(-1), Y: math.Inf(-1)}
	for _, g := range polygons {
		for _, q := range g.Points {
			low = drawing.Point{X: math.Min(low.X, q.X), Y: math.Min(low.Y, q.Y)}
			high = drawing.Point{X: math.Max(high.X, q.X), Y: math.Max(high.Y, q.Y)}
		}
	}
	return low, high
}

// Known leaves out the lines that have no value.
func Known(lines ...[2]string) [][2]string {
	var out [][2]string
	for _, l := range lines {
		if strings.TrimSpace(l[1]) != "" {
			out = append(out, l)
		}
	}
	return out
}
