package sheet

import (
	"strings"

	"cressa/core/drawing"
)

func (w *writer) write(x, y, size float64, bold bool, align drawing.Align, text string) {
	if text == "" {
		return
	}
	w.page.Texts = append(w.page.Texts, drawing.Text{
		At: drawing.Point{X: x, Y: y}, Size: size, Bold: bold, Align: align, Text: text, Width: w.measure(text, size, bold),
	})
}

// wrap breaks a text into lines that fit. A word that is too long by itself is
// broken where it must be.
func (w *writer) wrap(text string, size, width float64) []string {
	var lines []string
	line := ""
	for _, word := range strings.Fields(text) {
		for {
			fits, rest := w.cut(word, size, width, false)
			if rest == "" {
				break
			}
			if line != "" {
				lines, line = append(lines, line), ""
			}
			lines, word = append(lines, fits), rest
		}
		longer := strings.TrimSpace(line + " " + word)
		if line != "" && w.measure(longer, size, false) > width {
			lines, line = append(lines, line), word
		} else {
			line = longer
		}
	}
	if line != "" || len(lines) == 0 {
		lines = append(lines, line)
	}
	return lines
}

// cut parts a text after the last letter that fits a width; the first always does. Letters are
// measured one by one, so that the time does not grow with what is left.
func (w *writer) cut(text string, size, width float64, bold bool) (fits, rest string) {
	for i, letter := range text {
		if width -= w.measure(string(letter), size, bold); width < -1e-9 && i > 0 {
			return text[:i], text[i:]
		}
	}
	return text, ""
}

// fit shortens a text to a width.
func (w *writer) fit(text string, size, width float64) string {
	if _, rest := w.cut(text, size, width, true); rest == "" {
		return text
	}
	const more = "…"
	fits, _ := w.cut(text, size, width-w.measure(more, size, true), true)
	return strings.TrimSpace(fits) + more
}
