package formats

import (
	"encoding/json"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/rough"
)

// MaxRoughBytes bounds a file of a piece of rough: twenty thousand points with all their digits.
const MaxRoughBytes = 4 << 20

// ReadRough reads a *.rough.json file as strictly as a diagram's. The piece counts only where there are
// no mistakes; whether its solid can be worked out shows with rough.Rough.Work.
func ReadRough(data []byte) (*rough.Rough, []Mistake) {
	r, root := openFile(data, MaxRoughBytes)
	if len(r.mistakes) > 0 {
		return nil, r.mistakes
	}
	p := r.rough(root)
	if len(r.mistakes) > 0 {
		return nil, r.mistakes
	}
	for _, problem := range p.Validate() {
		r.add(r.placeOf(problem), problem)
	}
	return p, r.mistakes
}

// RoughMistake places a problem that showed while the solid of a file was worked out.
func RoughMistake(data []byte, problem diagram.Problem) Mistake {
	r, root := openFile(data, MaxRoughBytes)
	r.rough(root)
	r.mistakes = nil
	r.add(r.placeOf(problem), problem)
	return r.mistakes[0]
}

func (r *fileReader) rough(n node) *rough.Rough {
	p := &rough.Rough{}
	var format string
	r.places[place{-1, ""}] = n.offset
	r.object(n, []reading{
		required(r.text(diagram.FieldFormat, &format)),
		r.text(diagram.FieldName, &p.Name),
		required(r.text("material", &p.Material)),
		r.text(diagram.FieldNote, &p.Note),
		r.positive("carat", &p.Carat),
		required(r.within("solid", func(n node) { p.Solid = r.solid(n) })),
		r.each("trims", func(n node) {
			var t rough.Trim
			r.object(n, []reading{
				required(r.point("normal", &t.Normal)),
				required(r.number("distance", &t.Distance)),
				r.number("kerf", &t.Kerf),
			})
			p.Trims = append(p.Trims, t)
		}),
		r.each("flaws", func(n node) { p.Flaws = append(p.Flaws, r.flaw(n)) }),
		r.within("axis", func(n node) {
			p.Axis = &rough.Axis{}
			var toTable float64
			r.object(n, []reading{
				required(r.text("kind", (*string)(&p.Axis.Kind))),
				required(r.point("direction", &p.Axis.Direction)),
				{field: "toTable", read: func(n node) {
					r.number("toTable", &toTable).read(n)
					p.Axis.ToTable = &toTable
				}},
			})
		}),
		r.within("colour", func(n node) { p.Colour = r.colour(n) }),
	})
	if format != rough.Format && len(r.mistakes) == 0 {
		r.add(r.places[place{-1, diagram.FieldFormat}], diagram.Problem{Code: diagram.WrongFormat, TierNo: -1, Text: format, Other: rough.Format})
	}
	return p
}

func (r *fileReader) solid(n node) rough.Solid {
	var s rough.Solid
	fields := []reading{required(r.text("kind", (*string)(&s.Kind)))}
	size := r.point("size", &s.Size)
	points := r.list("points", func(_ int, item node) {
		var p r3.Vec
		if r.vector(item, &p) {
			s.Points = append(s.Points, p)
		}
	})
	switch kindOf(n) {
	case string(rough.KindBox), string(rough.KindPebble):
		fields = append(fields, required(size))
	case string(rough.KindHull):
		fields = append(fields, required(points))
	default:
		// The kind is reported; which fields go with it cannot be told.
		fields = append(fields, size, points)
	}
	r.object(n, fields)
	return s
}

func (r *fileReader) flaw(n node) rough.Flaw {
	var f rough.Flaw
	radius, normal := r.number("radius", &f.Radius), r.point("normal", &f.Normal)
	switch kindOf(n) {
	case string(rough.Disc):
		radius, normal = required(radius), required(normal)
	case string(rough.Ball):
		radius = required(radius)
	}
	r.object(n, []reading{
		r.text(diagram.FieldName, &f.Name),
		required(r.text("kind", (*string)(&f.Kind))),
		required(r.point("at", &f.At)),
		radius, normal,
		required(r.text("rule", (*string)(&f.Rule))),
	})
	return f
}

func (r *fileReader) colour(n node) *rough.Colour {
	c := &rough.Colour{}
	r.object(n, []reading{
		r.triple("along", &c.Along),
		r.triple("across", &c.Across),
		r.each("zones", func(n node) {
			var z rough.Zone
			r.object(n, []reading{
				required(r.point("normal", &z.Normal)),
				required(r.number("from", &z.From)),
				required(r.number("to", &z.To)),
				required(r.triple("rgb", &z.RGB)),
			})
			c.Zones = append(c.Zones, z)
		}),
	})
	return c
}

// kindOf is what an object says its kind is, before it has been read.
func kindOf(n node) string {
	for _, m := range n.members {
		if m.name == "kind" {
			return m.node.text
		}
	}
	return ""
}

// positive reads a number that must be over 0 where it is written at all.
func (r *fileReader) positive(field diagram.Field, to *float64) reading {
	plain := r.number(field, to)
	return reading{field: field, read: func(n node) {
		plain.read(n)
		if n.kind == numberNode && !(*to > 0) {
			r.at(n.offset, diagram.Problem{Code: diagram.OutOfRange, Field: field, Value: *to, Low: 1e-9, High: rough.MaxCarat})
		}
	}}
}

// within reads an object in a field, whose own fields are then called after it.
func (r *fileReader) within(field diagram.Field, read func(node)) reading {
	return reading{field: field, read: func(n node) {
		r.found(field, n)
		r.inside(string(field), func() { read(n) })
	}}
}

// each reads a list of objects.
func (r *fileReader) each(field diagram.Field, read func(node)) reading {
	return r.list(field, func(i int, item node) {
		r.inside(string(field)+"."+diagram.FormatNumber(float64(i)), func() {
			r.places[place{-1, diagram.Field(r.path)}] = item.offset
			read(item)
		})
	})
}

func (r *fileReader) inside(name string, read func()) {
	before := r.path
	r.path += name + "."
	read()
	r.path = before
}

func (r *fileReader) point(field diagram.Field, to *r3.Vec) reading {
	return reading{field: field, read: func(n node) {
		r.found(field, n)
		r.vector(n, to)
	}}
}

func (r *fileReader) triple(field diagram.Field, to *[3]float64) reading {
	return reading{field: field, read: func(n node) {
		var v r3.Vec
		r.found(field, n)
		r.vector(n, &v)
		*to = [3]float64{v.X, v.Y, v.Z}
	}}
}

func (r *fileReader) vector(n node, to *r3.Vec) bool {
	c, ok := [3]float64{}, n.kind == arrayNode && len(n.items) == len([3]float64{})
	for i := range c {
		if ok = ok && n.items[i].kind == numberNode; ok {
			c[i] = n.items[i].number
		}
	}
	if !ok {
		r.wrongType(n, "a list of three numbers [x, y, z]")
		return false
	}
	*to = r3.Vec{X: c[0], Y: c[1], Z: c[2]}
	return true
}

// What the file says, in its order.
type (
	roughFile struct {
		Format   string      `json:"format"`
		Name     string      `json:"name,omitempty"`
		Material string      `json:"material"`
		Note     string      `json:"note,omitempty"`
		Carat    float64     `json:"carat,omitempty"`
		Solid    solidFile   `json:"solid"`
		Trims    []trimFile  `json:"trims,omitempty"`
		Flaws    []flawFile  `json:"flaws,omitempty"`
		Axis     *axisFile   `json:"axis,omitempty"`
		Colour   *colourFile `json:"colour,omitempty"`
	}
	triple    [3]float64
	solidFile struct {
		Kind   rough.SolidKind `json:"kind"`
		Size   *triple         `json:"size,omitempty"`
		Points []triple        `json:"points,omitempty"`
	}
	trimFile struct {
		Normal   triple  `json:"normal"`
		Distance float64 `json:"distance"`
		Kerf     float64 `json:"kerf,omitempty"`
	}
	flawFile struct {
		Name   string         `json:"name,omitempty"`
		Kind   rough.FlawKind `json:"kind"`
		At     triple         `json:"at"`
		Radius float64        `json:"radius,omitempty"`
		Normal *triple        `json:"normal,omitempty"`
		Rule   rough.Rule     `json:"rule"`
	}
	axisFile struct {
		Kind      rough.AxisKind `json:"kind"`
		Direction triple         `json:"direction"`
		ToTable   *float64       `json:"toTable,omitempty"`
	}
	colourFile struct {
		Along  triple     `json:"along"`
		Across triple     `json:"across"`
		Zones  []zoneFile `json:"zones,omitempty"`
	}
	zoneFile struct {
		Normal triple  `json:"normal"`
		From   float64 `json:"from"`
		To     float64 `json:"to"`
		RGB    triple  `json:"rgb"`
	}
)

func tripleOf(v r3.Vec) triple { return triple{v.X, v.Y, v.Z} }

// WriteRough returns a piece as an indented *.rough.json file. Equal pieces give equal bytes. It returns
// an error where a figure is infinite or no number.
func WriteRough(p *rough.Rough) ([]byte, error) {
	f := roughFile{Format: rough.Format, Name: p.Name, Material: p.Material, Note: p.Note, Carat: p.Carat, Solid: solidFile{Kind: p.Solid.Kind}}
	if p.Solid.Kind == rough.KindHull {
		for _, point := range p.Solid.Points {
			f.Solid.Points = append(f.Solid.Points, tripleOf(point))
		}
	} else {
		size := tripleOf(p.Solid.Size)
		f.Solid.Size = &size
	}
	for _, t := range p.Trims {
		f.Trims = append(f.Trims, trimFile{tripleOf(t.Normal), t.Distance, t.Kerf})
	}
	for _, flaw := range p.Flaws {
		one := flawFile{Name: flaw.Name, Kind: flaw.Kind, At: tripleOf(flaw.At), Rule: flaw.Rule}
		if flaw.Kind != rough.Point {
			one.Radius = flaw.Radius
		}
		if flaw.Kind == rough.Disc {
			normal := tripleOf(flaw.Normal)
			one.Normal = &normal
		}
		f.Flaws = append(f.Flaws, one)
	}
	if a := p.Axis; a != nil {
		f.Axis = &axisFile{a.Kind, tripleOf(a.Direction), a.ToTable}
	}
	if c := p.Colour; c != nil {
		f.Colour = &colourFile{Along: c.Along, Across: c.Across}
		for _, z := range c.Zones {
			f.Colour.Zones = append(f.Colour.Zones, zoneFile{tripleOf(z.Normal), z.From, z.To, z.RGB})
		}
	}
	data, err := json.MarshalIndent(f, "", "  ")
	if err != nil {
		return nil, err
	}
	return append(data, '\n'), nil
}
