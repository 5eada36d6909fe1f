package sheet_test

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/drawing"
	"cressa/core/gear"
	"cressa/core/polyhedron"
	"cressa/demo"
	"cressa/formats"
	"cressa/sheet"
	"cressa/workshop"
)

func stone(t *testing.T, name string) *cutting.Stone {
	t.Helper()
	all, err := demo.Diagrams()
	require.NoError(t, err)
	s, err := cutting.Cut(all[name])
	require.NoError(t, err)
	return s
}

func starters(t *testing.T) []string {
	t.Helper()
	all, err := demo.Diagrams()
	require.NoError(t, err)
	var names []string
	for name := range all {
		names = append(names, name)
	}
	return names
}

// Nothing on a sheet may lie off the paper or on top of other writing, on either
// paper, on one page or two.
func TestEverySheetKeepsToItsPaper(t *testing.T) {
	for _, name := range starters(t) {
		s := stone(t, name)
		for paper, size := range sheet.Papers {
			for _, single := range []bool{true, false} {
				pages := sheet.Pages(sheet.OfDiagram(s, workshop.DefaultMachine()), size, single, formats.MeasureText)
				assert.LessOrEqual(t, len(pages), 2, "%s on %s", name, paper)
				for _, p := range pages {
					onPaper(t, p, 4, 11, name+" on "+paper) // the foot stands in the lower margin
				}
				assert.Contains(t, textOf(pages), s.Diagram.Tiers[0].Name)
			}
		}
	}
}

// onPaper tells that nothing lies nearer to the edges of a page than so many mm above and below, and at the sides, and
// no text on another.
func onPaper(t *testing.T, p drawing.Page, edge, side float64, what string) {
	t.Helper()
	inside := func(x, y float64) bool { return x >= side && y >= edge && x <= p.Width-side && y <= p.Height-edge }
	for _, s := range p.Shapes {
		for _, q := range s.Points {
			require.True(t, inside(q.X, q.Y), "%s: a line at %v", what, q)
		}
	}
	type box struct {
		left, top, right, bottom float64
		text                     string
	}
	var boxes []box
	for _, w := range p.Texts {
		left := w.At.X
		switch w.Align {
		case drawing.Middle:
			left -= w.Width / 2
		case drawing.Right:
			left -= w.Width
		}
		b := box{left + 0.3, w.At.Y - 0.65*w.Size, left + w.Width - 0.3, w.At.Y - 0.1*w.Size, w.Text}
		require.True(t, inside(b.left, b.top) && inside(b.right, b.bottom), "%s: %q at %v", what, w.Text, w.At)
		for _, other := range boxes {
			apart := b.left >= other.right || other.left >= b.right || b.top >= other.bottom || other.top >= b.bottom
			require.True(t, apart, "%s: %q lies on %q", what, w.Text, other.text)
		}
		boxes = append(boxes, b)
	}
}

func textOf(pages []drawing.Page) string {
	var all []string
	for _, p := range pages {
		for _, t := range p.Texts {
			all = append(all, t.Text)
		}
	}
	return strings.Join(all, "\n")
}

func TestSheetsAreWrittenAsSVGAndPDF(t *testing.T) {
	pages := sheet.Pages(sheet.OfDiagram(stone(t, "Meridian"), workshop.DefaultMachine()), sheet.A4, false, formats.MeasureText)
	svg := formats.WriteSVG(`Meridian <&>`, pages)
	d := xml.NewDecoder(bytes.NewReader(svg))
	texts := 0
	for {
		token, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		require.NoError(t, err)
		if e, ok := token.(xml.StartElement); ok && e.Name.Local == "text" {
			texts++
		}
	}
	assert.Equal(t, strings.Count(textOf(pages), "\n")+1, texts)
	pdf, err := formats.WritePDF("Meridian", pages)
	require.NoError(t, err)
	assert.True(t, bytes.HasPrefix(pdf, []byte("%PDF-")))
	assert.Equal(t, len(pages), bytes.Count(pdf, []byte("/Type /Page\n")))
}

// Where a girdle is uneven both wheels mark its thinnest place; an even one has no mark.
func TestAnUnevenGirdleIsMarkedInTheWheels(t *testing.T) {
	marks := func(s *cutting.Stone) int {
		text := textOf(sheet.Pages(sheet.OfDiagram(s, workshop.DefaultMachine()), sheet.A4, false, formats.MeasureText))
		return strings.Count(text, "girdle thinnest at the mark")
	}
	even := stone(t, "Little Dipper")
	assert.Zero(t, marks(even))
	// Its crown stands between the corners of its pavilion.
	d := *even.Diagram
	d.Tiers = slices.Clone(d.Tiers)
	for i := range d.Tiers {
		if d.Tiers[i].Name == "C1" {
			d.Tiers[i].Indexes = []float64{6, 18, 30, 42, 54, 66, 78, 90}
		}
	}
	wavy, err := cutting.Cut(&d)
	require.NoError(t, err)
	assert.Equal(t, 2, marks(wavy))
}

// However much there is to tell, a card keeps to its paper; what does not fit is marked as left out.
func TestACardKeepsToItsPaper(t *testing.T) {
	for _, name := range starters(t) {
		card := sheet.Card{
			Title: "A stone with a name that nobody would want to write onto a bag of this size", Number: 1204, Stone: stone(t, name),
			Lines: sheet.Known([2]string{"Material", "Kunzite"}, [2]string{"Price", ""}, [2]string{"Size", "8.00 × 8.00 × 4.92 mm"}),
			Notes: []string{"P2 at 12: cut too deep, by 0.05 mm."},
		}
		require.Len(t, card.Lines, 2, "what is not known is no line")
		for paper, size := range sheet.CardPapers {
			p := card.Page(size, formats.MeasureText)
			onPaper(t, p, 5, 5, name+" on "+paper)
			said := textOf([]drawing.Page{p})
			assert.Contains(t, said, "1204")
			assert.Contains(t, said, "cut too deep")
			assert.NotContains(t, said, "Price")
		}
		card.Notes = []string{strings.Repeat("The blue axis runs along the table. ", 60), "the end of it"}
		p := card.Page(sheet.CardSize, formats.MeasureText)
		onPaper(t, p, 5, 5, name)
		assert.NotContains(t, textOf([]drawing.Page{p}), "the end of it")
		assert.Equal(t, "…", p.Texts[len(p.Texts)-1].Text)
	}
}

// On a stone that sits aslant the sheet says each facet's own angle; of a stone that is mended or recut, what comes off, what is only
// polished and what stays.
func TestASheetFollowsAStoneThatIsMended(t *testing.T) {
	c := sheet.OfDiagram(stone(t, "First Light"), workshop.DefaultMachine())
	row := func() string {
		return strings.ReplaceAll(textOf(sheet.Pages(c, sheet.A4, false, formats.MeasureText)), "\n", " ")
	}
	assert.Contains(t, row(), "P1 44°")
	straight := c.Setups[0].Pose
	c.Setups[0].Pose = straight.Moved(1.3, 96, 0)
	leaning := row()
	assert.Contains(t, leaning, "P1 each")
	assert.Contains(t, leaning, "C1 42°", "the other side sits straight")
	set, err := gear.Dial(c.Stone.Facets[0].Plane.Normal, c.Setups[0].Pose)
	require.NoError(t, err)
	assert.Contains(t, leaning, fmt.Sprintf("at %s°", diagram.FormatNumber(math.Round(set.Angle*100)/100)))

	c.Setups[0].Pose = straight
	c.Asked = make([]workshop.FacetAsked, len(c.Stone.Facets))
	for i, f := range c.Stone.Facets {
		switch c.Stone.Diagram.Tiers[f.Tier].Name {
		case "P1":
			c.Asked[i].TakeMM = 0.05
		case "P2":
			c.Asked[i] = workshop.FacetAsked{Polished: i%2 == 0, TakeMM: 0.01 * float64(i%2)}
		default:
			c.Asked[i].Stays = true
		}
	}
	asked := row()
	assert.Contains(t, asked, "until 0.050 mm is off")
	assert.Contains(t, asked, "only polished")
	assert.Contains(t, asked, "stays as it is")
}

// A solid that is held by one face after the other has a wheel and a part of the table for each, and its faces are measured.
func TestASolidIsListedByItsDopUps(t *testing.T) {
	cube, err := polyhedron.Rule{Kind: polyhedron.Cube, Pose: polyhedron.FaceUp}.Shape()
	require.NoError(t, err)
	placed, err := cube.Place(t.Context(), polyhedron.Placing{Up: r3.Vec{Z: 1}, Name: "Cube", Gear: 96, RefractiveIndex: 1.5})
	require.NoError(t, err)
	s := placed.Stone
	held := s.HeldBy(s.DopUps(60))
	c := sheet.OfDiagram(s, workshop.DefaultMachine())
	c.MM = 10 / s.Measures().Width
	c.Setups, c.Ups, c.In, c.Free = nil, nil, held.In, held.Free()
	for i, pose := range held.Poses(96) {
		c.Setups, c.Ups = append(c.Setups, workshop.Setup{Pose: pose}), append(c.Ups, fmt.Sprintf("F%d@96", i+1))
	}
	pages := sheet.Pages(c, sheet.A4, false, formats.MeasureText)
	for _, p := range pages {
		onPaper(t, p, 4, 11, "the cube")
	}
	text := textOf(pages)
	assert.Equal(t, 5, strings.Count(text, "Transfer. Then F"))
	assert.Contains(t, text, "Transfer. Then F6@96 up")
	assert.Equal(t, 3, strings.Count(text, "until it lies 5.00 mm from the middle of the stone"))
	assert.Equal(t, 3, strings.Count(text, "until it is 10.00 mm from the facet opposite"))
}
