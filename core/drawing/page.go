package drawing

// Page is a sheet of paper with what is drawn and written on it. Lengths are
// millimetres, the origin the upper left corner, Y down. It knows no file format.
type Page struct {
	Width, Height float64
	Shapes        []Shape
	Texts         []Text
}

// Shape is a line of straight pieces.
type Shape struct {
	Points []Point
	// Closed joins the last point to the first.
	Closed bool
	// Stroke is the line's width, 0 for none.
	Stroke float64
	// Grey fills a closed shape: 0 leaves it empty, 1 is black.
	Grey float64
	// Dashed breaks the line.
	Dashed bool
}

// Align says which part of a text stands at its place.
type Align string

// The alignments.
const (
	Left   Align = "start"
	Middle Align = "middle"
	Right  Align = "end"
)

// Text is a line of writing; At is on its base line.
type Text struct {
	At    Point
	Size  float64
	Bold  bool
	Align Align
	Text  string
	// Width is what the text takes in the face it was set in, so that another
	// face can be fitted to it.
	Width float64
}

// Line draws a line between two points.
func (p *Page) Line(a, b Point, stroke float64) {
	p.Shapes = append(p.Shapes, Shape{Points: []Point{a, b}, Stroke: stroke})
}

// Box draws an empty rectangle.
func (p *Page) Box(x, y, width, height, stroke float64) {
	p.Shapes = append(p.Shapes, Shape{
		Points: []Point{{x, y}, {x + width, y}, {x + width, y + height}, {x, y + height}}, Closed: true, Stroke: stroke,
	})
}
