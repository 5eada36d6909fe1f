package formats

import (
	"bytes"
	"encoding/csv"
	"strconv"
	"strings"

	"cressa/core/diagram"
)

// csvHead names the columns of a diagram's table.
var csvHead = []string{"tier", "part", "angle", "index", "stop", "optional", "note"}

// WriteCSV returns a diagram as a table for a spreadsheet: first what is said of the
// whole, a name and a value a row, then a row for each tier. Line breaks in a note become
// spaces, so that a row is a line. ReadTable reads it back. The error is that of the csv
// package and nil for every diagram.
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
			if err := w.Write([]string{r[0], strings.Join(strings.Fields(r[1]), " ")}); err != nil {
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
			t.Name, string(t.Part), diagram.FormatNumber(t.Angle), diagram.FormatIndexes(t.Indexes), t.Stop.String(), optional, strings.Join(strings.Fields(t.Note), " "),
		})
		if err != nil {
			return nil, err
		}
	}
	w.Flush()
	return out.Bytes(), w.Error()
}
