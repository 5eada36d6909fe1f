package diagram

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// hashVersion is that of the canonical form. Another form needs another version, and
// hashes of the old one stay what they are.
const hashVersion = "v1-"

// Hash names a diagram by its content: the version of the canonical form and the SHA-256
// of that form in hexadecimal. Diagrams with the same hash make the same stone and carry
// the same texts.
func Hash(d *Diagram) string {
	sum := sha256.Sum256(Canonical(d))
	return hashVersion + hex.EncodeToString(sum[:])
}

// Canonical writes a diagram in the one form that its hash is taken of: a line for each
// field that has not its zero value, "name value", in a fixed order, the tiers after the
// head, each begun by a line "tier". Texts are quoted as in Go, numbers are the shortest
// decimals that read back as the same 64-bit number. A field that the format gets later is
// written after those that are here, so that a diagram without it keeps its hash.
func Canonical(d *Diagram) []byte {
	var c canonical
	c.text("name", d.Name)
	c.text("designer", d.Designer)
	c.text("source", d.Source)
	c.text("date", d.Date)
	c.text("licence", d.Licence)
	c.text("note", d.Note)
	c.text("outline", string(d.Outline))
	c.number("gear", float64(d.Gear))
	c.number("refractiveIndex", d.RefractiveIndex)
	c.text("firstSide", string(d.FirstSide))
	c.text("indexing", string(d.Indexing))
	for _, t := range d.Tiers {
		c.WriteString("tier\n")
		c.text("name", t.Name)
		c.text("part", string(t.Part))
		c.number("angle", t.Angle)
		c.numbers("indexes", t.Indexes)
		c.stop(t.Stop)
		if t.Optional {
			c.line("optional", "true")
		}
		c.text("note", t.Note)
	}
	return []byte(c.String())
}

type canonical struct{ strings.Builder }

func (c *canonical) line(name, value string) { fmt.Fprintf(c, "%s %s\n", name, value) }

func (c *canonical) text(name, value string) {
	if value != "" {
		c.line(name, strconv.Quote(value))
	}
}

func shortest(v float64) string { return strconv.FormatFloat(v, 'g', -1, 64) }

func (c *canonical) number(name string, v float64) {
	if v != 0 {
		c.line(name, shortest(v))
	}
}

func (c *canonical) numbers(name string, list []float64) {
	words := make([]string, len(list))
	for i, v := range list {
		words[i] = shortest(v)
	}
	c.line(name, strings.Join(words, " "))
}

func (c *canonical) stop(s Stop) {
	c.text("stop", string(s.Kind))
	c.number("drop", s.Drop)
	c.number("radius", s.Radius)
	c.refs("tiers", s.Tiers)
	c.number("thickness", s.Thickness)
	c.refs("from", s.From)
	c.refs("to", s.To)
	c.number("at", s.At)
	c.number("ratio", s.Ratio)
	c.number("distance", s.Distance)
}

func (c *canonical) refs(name string, refs []Ref) {
	if len(refs) == 0 {
		return
	}
	words := make([]string, len(refs))
	for i, r := range refs {
		words[i] = r.Tier
		if r.OneFacet {
			words[i] += "@" + shortest(r.Index)
		}
	}
	// The order in which facets are named says nothing.
	slices.Sort(words)
	c.line(name, strings.Join(words, " "))
}
