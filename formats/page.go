package formats

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"math"
	"strconv"
	"strings"
	"sync"

	"codeberg.org/go-fonts/dejavu/dejavusans"
	"codeberg.org/go-fonts/dejavu/dejavusansbold"
	"codeberg.org/go-pdf/fpdf"

	"cressa/core/drawing"
)

// face is the face that pages are set in. It has °, ∠ and the dashes.
const face = "DejaVu Sans"

// pointsPerMM turns millimetres into printer's points.
const pointsPerMM = 72 / 25.4

// MeasureText returns how wide a text of the given size is, in mm, as WritePDF sets it.
func MeasureText(text string, size float64, bold bool) float64 {
	ruler.Lock()
	defer ruler.Unlock()
	if ruler.pdf == nil {
		ruler.pdf = newPDF()
	}
	ruler.pdf.SetFont(face, weight(bold), size*pointsPerMM)
	return ruler.pdf.GetStringWidth(settable(text))
}

// ruler is a document that nothing is ever written into: it knows the faces' widths.
var ruler struct {
	sync.Mutex
	pdf *fpdf.Fpdf
}

func newPDF() *fpdf.Fpdf {
	pdf := fpdf.New("P", "mm", "A4", "")
	pdf.AddUTF8FontFromBytes(face, "", dejavusans.TTF)
	pdf.AddUTF8FontFromBytes(face, "B", dejavusansbold.TTF)
	return pdf
}

func weight(bold bool) string {
	if bold {
		return "B"
	}
	return ""
}

// WritePDF returns pages as a PDF document with the face inside. A character that the face lacks
// is a box. It returns the first error of the PDF package.
func WritePDF(title string, pages []drawing.Page) ([]byte, error) {
	pdf := newPDF()
	pdf.SetTitle(settable(title), true)
	pdf.SetCreator("Cressa", true)
	pdf.SetMargins(0, 0, 0)
	pdf.SetAutoPageBreak(false, 0)
	pdf.SetLineJoinStyle("round")
	pdf.SetLineCapStyle("round")
	for _, p := range pages {
		pdf.AddPageFormat("P", fpdf.SizeType{Wd: p.Width, Ht: p.Height})
		for _, s := range p.Shapes {
			pdfShape(pdf, s)
		}
		pdf.SetTextColor(0, 0, 0)
		for _, t := range p.Texts {
			pdf.SetFont(face, weight(t.Bold), t.Size*pointsPerMM)
			pdf.Text(t.At.X-offset(t), t.At.Y, inOrder(settable(t.Text)))
		}
	}
	var out bytes.Buffer
	err := pdf.Output(&out)
	return out.Bytes(), err
}

func pdfShape(pdf *fpdf.Fpdf, s drawing.Shape) {
	if len(s.Points) < 2 {
		return
	}
	style := ""
	if s.Grey > 0 {
		shade := int(math.Round(255 * (1 - s.Grey)))
		pdf.SetFillColor(shade, shade, shade)
		style = "F"
	}
	if s.Stroke > 0 {
		pdf.SetLineWidth(s.Stroke)
		style += "D"
	}
	if s.Dashed {
		pdf.SetDashPattern([]float64{1.2, 1}, 0)
		defer pdf.SetDashPattern([]float64{}, 0)
	}
	if s.Closed {
		points := make([]fpdf.PointType, len(s.Points))
		for i, q := range s.Points {
			points[i] = fpdf.PointType{X: q.X, Y: q.Y}
		}
		pdf.Polygon(points, style)
		return
	}
	pdf.MoveTo(s.Points[0].X, s.Points[0].Y)
	for _, q := range s.Points[1:] {
		pdf.LineTo(q.X, q.Y)
	}
	pdf.DrawPath(style)
}

// offset is how far left of its place a text begins.
func offset(t drawing.Text) float64 {
	switch t.Align {
	case drawing.Middle:
		return t.Width / 2
	case drawing.Right:
		return t.Width
	}
	return 0
}

// WriteSVG returns pages as one SVG document, one below the other. Texts are fitted
// to the widths they were set with, whatever face the reader has.
func WriteSVG(title string, pages []drawing.Page) []byte {
	width, height := 0.0, 0.0
	for _, p := range pages {
		width, height = math.Max(width, p.Width), height+p.Height
	}
	var out bytes.Buffer
	fmt.Fprintf(&out, `<svg xmlns="http://www.w3.org/2000/svg" width="%smm" height="%smm" viewBox="0 0 %s %s" font-family="%s, sans-serif" stroke-linejoin="round" stroke-linecap="round">`+"\n",
		num(width), num(height), num(width), num(height), "'"+face+"'")
	fmt.Fprintf(&out, "<title>%s</title>\n", escape(title))
	top := 0.0
	for _, p := range pages {
		fmt.Fprintf(&out, `<g transform="translate(0 %s)">`+"\n", num(top))
		fmt.Fprintf(&out, `<rect width="%s" height="%s" fill="#fff"/>`+"\n", num(p.Width), num(p.Height))
		for _, s := range p.Shapes {
			svgShape(&out, s)
		}
		for _, t := range p.Texts {
			svgText(&out, t)
		}
		out.WriteString("</g>\n")
		top += p.Height
	}
	out.WriteString("</svg>\n")
	return out.Bytes()
}

func svgShape(out *bytes.Buffer, s drawing.Shape) {
	if len(s.Points) < 2 {
		return
	}
	var d strings.Builder
	for i, q := range s.Points {
		d.WriteString(string("ML"[min(i, 1)]) + num(q.X) + " " + num(q.Y))
	}
	if s.Closed {
		d.WriteString("Z")
	}
	fill := "none"
	if s.Grey > 0 {
		shade := int(math.Round(255 * (1 - s.Grey)))
		fill = fmt.Sprintf("#%02x%02x%02x", shade, shade, shade)
	}
	fmt.Fprintf(out, `<path d="%s" fill="%s"`, d.String(), fill)
	if s.Stroke > 0 {
		fmt.Fprintf(out, ` stroke="#000" stroke-width="%s"`, num(s.Stroke))
	}
	if s.Dashed {
		out.WriteString(` stroke-dasharray="1.2 1"`)
	}
	out.WriteString("/>\n")
}

func svgText(out *bytes.Buffer, t drawing.Text) {
	fmt.Fprintf(out, `<text x="%s" y="%s" font-size="%s"`, num(t.At.X), num(t.At.Y), num(t.Size))
	if t.Bold {
		out.WriteString(` font-weight="700"`)
	}
	if t.Align != drawing.Left && t.Align != "" {
		fmt.Fprintf(out, ` text-anchor="%s"`, t.Align)
	}
	if t.Width > 0 {
		fmt.Fprintf(out, ` textLength="%s" lengthAdjust="spacingAndGlyphs"`, num(t.Width))
	}
	fmt.Fprintf(out, ">%s</text>\n", escape(t.Text))
}

// num writes a length to a thousandth of a millimetre.
func num(v float64) string { return strconv.FormatFloat(math.Round(v*1000)/1000, 'f', -1, 64) }

func escape(text string) string {
	var out bytes.Buffer
	// Writing into a buffer does not fail.
	_ = xml.EscapeText(&out, []byte(text))
	return out.String()
}
