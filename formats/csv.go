package formats

import (
	"bytes"
	"encoding/csv"
	"strconv"
	"strings"

	"cressa/core/diagram"
	"cressa/core/gear"
)

// csvHead names the columns of a diagram's table.
var csvHead = []string{"tier", "part", "angle", "index", "stop", "optional", "note"}

// WriteCSV returns a diagram as a table for a spreadsheet: first what is said of the
// whole, a name and a value a row, then a row for each tier. Line breaks in a note become
// spaces, so that a row is a line. A text that a spreadsheet would run as a formula gets an
// apostrophe before it. ReadTable reads it back. The error is that of the csv package and nil for
// every diagram.
func WriteCSV(d *diagram.Diagram) ([]byte, error) {
	var out bytes.Buffer
	w := csv.NewWriter(&out)
	rows := [][]string{
		{"name", d.Name}, {"designer", d.Designer}, {"source", d.Source}, {"date", d.Date}, {"licence", d.Licence}, {"note", d.Note},
		{"outline", string(d.Outline)}, {"gear", strconv.Itoa(d.Gear)}, {"refractive index", diagram.FormatNumber(d.RefractiveIndex)},
		{"first side", string(d.FirstSide)}, {"indexing", string(d.Indexing)},
	}
	for _, r := range rows {
		if r[1] != "" {
			if err := w.Write([]string{r[0], forSpreadsheet(r[1])}); err != nil {
				return nil, err
			}
		}
	}
	if err := w.Write(csvHead); err != nil {
		return nil, err
	}
	for _, t := range d.Tiers {
		optional := ""
		if t.Optional {
			optional = "yes"
		}
		err := w.Write([]string{
			t.Name, string(t.Part), diagram.FormatNumber(t.Angle), diagram.FormatIndexes(onGear(t.Indexes, d.Gear)), t.Stop.String(), optional, forSpreadsheet(t.Note),
		})
		if err != nil {
			return nil, err
		}
	}
	w.Flush()
	return out.Bytes(), w.Error()
}

// formulaStart begins what a spreadsheet takes for a formula.
const formulaStart = "=+-@"

// forSpreadsheet is a text as one cell: on one line, and no formula.
func forSpreadsheet(text string) string {
	text = strings.Join(strings.Fields(text), " ")
	if strings.IndexAny(text, formulaStart) == 0 {
		return "'" + text
	}
	return text
}

// fromSpreadsheet takes away the apostrophe of forSpreadsheet.
func fromSpreadsheet(text string) string {
	if rest, marked := strings.CutPrefix(text, "'"); marked && strings.IndexAny(rest, formulaStart) == 0 {
		return rest
	}
	return text
}

// onGear writes indexes over 0 and up to the teeth, because a minus would read as a dash.
func onGear(indexes []float64, teeth int) []float64 {
	out := make([]float64, len(indexes))
	for i, index := range indexes {
		out[i] = gear.Normal(index, teeth)
	}
	return out
}
