package formats

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"cressa/core/diagram"
	"cressa/core/gear"
)

// flushHead names the columns of readings of facets that were brought flush with the lap.
var flushHead = []string{"angle", "index", "foundAngle", "foundIndex"}

// ReadFlush reads where facets of a stone that moved were found: a table with the columns angle, index, foundAngle and
// foundIndex, in degrees and dialled indexes of a gear. The error names the line.
func ReadFlush(data []byte, teeth int) ([]gear.Flush, error) {
	r := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(data, []byte("\ufeff"))))
	r.TrimLeadingSpace = true
	head, err := r.Read()
	if err != nil || !slices.Equal(head, flushHead) {
		return nil, fmt.Errorf("line 1: the columns are %s", strings.Join(flushHead, ","))
	}
	var out []gear.Flush
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			return out, nil
		}
		line, _ := r.FieldPos(0)
		var parse *csv.ParseError
		if errors.As(err, &parse) {
			return nil, fmt.Errorf("line %d: four columns are needed, apart by commas", parse.Line)
		}
		var figures [4]float64
		for k, text := range row {
			v, err := diagram.ParseNumber(strings.TrimSpace(text))
			switch {
			case err != nil:
				return nil, fmt.Errorf("line %d: %s is no number: %q", line, flushHead[k], text)
			case k%2 == 0 && (v < 0 || v > 180):
				return nil, fmt.Errorf("line %d: %s is from 0 to 180 degrees, not %s", line, flushHead[k], text)
			case k%2 == 1 && (v < 0 || v > float64(teeth)):
				return nil, fmt.Errorf("line %d: %s is from 0 to %d on this gear, not %s", line, flushHead[k], teeth, text)
			}
			figures[k] = v
		}
		out = append(out, gear.Flush{Nominal: gear.Dialled{Angle: figures[0], Index: figures[1]}, Found: gear.Dialled{Angle: figures[2], Index: figures[3]}})
	}
}
