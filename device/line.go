// Package device reads what stands on the bench: the dials of a machine, calipers, a scale. Each gives lines of text over
// TCP or a serial port, by the protocol of docs/devices.md, and is read for as long as the program runs: one that goes away is
// looked for until it is back.
package device

import (
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/solid"
)

// Quantity is what a device measures.
type Quantity string

// The quantities, each with the unit that readings of it have here.
const (
	Angle    Quantity = "angle"    // degrees
	Index    Quantity = "index"    // teeth
	Height   Quantity = "height"   // mm
	Calipers Quantity = "calipers" // mm
	Scale    Quantity = "scale"    // carats
)

// Quantities lists them all.
var Quantities = []Quantity{Angle, Index, Height, Calipers, Scale}

// units tells what one of a unit is of the quantity's own; "" is the own unit.
var units = map[Quantity]map[string]float64{
	Angle:    {"": 1, "deg": 1, "°": 1, "rad": 180 / math.Pi},
	Index:    {"": 1, "teeth": 1},
	Height:   lengths,
	Calipers: lengths,
	Scale:    {"": 1, "ct": 1, "g": 5, "mg": 0.005},
}

var lengths = map[string]float64{"": 1, "mm": 1, "cm": 10, "um": 0.001, "µm": 0.001, "in": 25.4}

// unitNames are the units in which readings are written.
var unitNames = map[Quantity]string{Angle: "deg", Index: "teeth", Height: "mm", Calipers: "mm", Scale: "ct"}

// Reading is what a device says that it measures.
type Reading struct {
	Quantity Quantity
	// Value is in the quantity's unit.
	Value float64
	// Time is that of the device's clock, zero where it did not say. No order follows from it.
	Time time.Time
}

// String writes a reading as a line without its end, with its unit and, where there is one, its time.
func (r Reading) String() string {
	out := fmt.Sprintf("%s %s %s", r.Quantity, strconv.FormatFloat(r.Value, 'f', -1, 64), unitNames[r.Quantity])
	if !r.Time.IsZero() {
		out += " " + r.Time.UTC().Format("2006-01-02T15:04:05.000Z")
	}
	return out
}

// ErrLine is returned for a line that is none of the protocol.
var ErrLine = errors.New("the line is not of the protocol")

// mostReading is the largest figure that is taken for one.
const mostReading = 1e5

// ReadLine reads a line such as "angle 41.98 deg 2026-03-01T18:04:05.120Z"; unit and time may be left out. It is false
// for an empty line and a comment, which begins with #. The error is ErrLine.
func ReadLine(line string) (r Reading, ok bool, err error) {
	words := strings.Fields(line)
	if len(words) == 0 || strings.HasPrefix(words[0], "#") {
		return r, false, nil
	}
	r.Quantity = Quantity(strings.ToLower(words[0]))
	in, known := units[r.Quantity]
	if !known || len(words) < 2 || len(words) > 4 {
		return r, false, ErrLine
	}
	value, err := strconv.ParseFloat(words[1], 64)
	if err != nil || math.IsNaN(value) || math.Abs(value) > mostReading {
		return r, false, ErrLine
	}
	rest := words[2:]
	unit := ""
	if len(rest) > 0 {
		if at, err := time.Parse(time.RFC3339Nano, rest[len(rest)-1]); err == nil {
			r.Time, rest = at, rest[:len(rest)-1]
		}
	}
	if len(rest) > 1 {
		return r, false, ErrLine
	}
	if len(rest) == 1 {
		unit = rest[0]
	}
	times, known := in[unit]
	if !known {
		return r, false, ErrLine
	}
	r.Value = value * times
	return r, true, nil
}

// The lines in which a machine that knows its stone tells it, when it is asked with StoneWanted.
const (
	StoneWanted = "stone?"
	stoneBegins = "stone"
	facetLine   = "facet"
)

// mostFacets is how many facets a stone may have that a machine tells.
const mostFacets = 4000

// StoneLines writes a stone as lines without their ends: how many facets, then each one's outward normal and its distance
// in mm.
func StoneLines(facets []solid.Plane) []string {
	out := []string{fmt.Sprintf("%s %d", stoneBegins, len(facets))}
	for _, f := range facets {
		out = append(out, fmt.Sprintf("%s %.9f %.9f %.9f %.6f", facetLine, f.Normal.X, f.Normal.Y, f.Normal.Z, f.D))
	}
	return out
}

// stoneReader puts a stone together from its lines.
type stoneReader struct {
	facets  []solid.Plane
	missing int
}

// take reads a line of a stone. It tells whether the line belongs to one, and whether the stone is whole with it. The error
// is ErrLine.
func (s *stoneReader) take(line string) (belongs, whole bool, err error) {
	words := strings.Fields(line)
	switch {
	case len(words) == 2 && words[0] == stoneBegins:
		n, err := strconv.Atoi(words[1])
		if err != nil || n < 0 || n > mostFacets {
			return true, false, ErrLine
		}
		s.facets, s.missing = []solid.Plane{}, n
		return true, n == 0, nil
	case len(words) == 5 && words[0] == facetLine && s.missing > 0:
		var v [4]float64
		for i, word := range words[1:] {
			if v[i], err = strconv.ParseFloat(word, 64); err != nil || math.IsNaN(v[i]) || math.Abs(v[i]) > mostReading {
				return true, false, ErrLine
			}
		}
		n := r3.Vec{X: v[0], Y: v[1], Z: v[2]}
		if math.Abs(r3.Norm(n)-1) > 1e-6 {
			return true, false, ErrLine
		}
		s.facets = append(s.facets, solid.Plane{Normal: r3.Unit(n), D: v[3]})
		s.missing--
		return true, s.missing == 0, nil
	}
	return false, false, nil
}
