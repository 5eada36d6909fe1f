package rough

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
)

// Validate returns every mistake in the description, each with its place as Place writes it. Whether
// there is such a material is for whoever keeps the table.
func (r *Rough) Validate() []diagram.Problem {
	v := &validator{}
	for _, t := range []struct {
		field diagram.Field
		text  string
		most  int
	}{{"name", r.Name, MaxText}, {"note", r.Note, MaxNote}} {
		v.text(t.field, t.text, t.most)
	}
	v.within("carat", r.Carat, 0, MaxCarat)
	v.solid(&r.Solid)
	v.most("trims", len(r.Trims), MaxTrims)
	for i, t := range r.Trims {
		v.direction(Place("trims", i, "normal"), t.Normal)
		v.within(Place("trims", i, "distance"), t.Distance, -MaxLength, MaxLength)
		v.within(Place("trims", i, "kerf"), t.Kerf, 0, MaxLength)
	}
	v.inside(r.Inside())
	return v.problems
}

// Validate returns every mistake in what lies in a piece, as that of Rough does.
func (in Inside) Validate() []diagram.Problem {
	v := &validator{}
	v.inside(in)
	return v.problems
}

func (v *validator) inside(in Inside) {
	v.most("flaws", len(in.Flaws), MaxFlaws)
	for i := range in.Flaws {
		v.flaw(i, &in.Flaws[i])
	}
	if a := in.Axis; a != nil {
		if !slices.Contains(AxisKinds, a.Kind) {
			v.add(diagram.Problem{Code: diagram.UnknownValue, Field: "axis.kind", Text: string(a.Kind)})
		}
		v.direction("axis.direction", a.Direction)
		if a.ToTable != nil {
			v.within("axis.toTable", *a.ToTable, 0, 90)
		}
	}
	if c := in.Colour; c != nil {
		v.colour(c)
	}
}

type validator struct{ problems []diagram.Problem }

func (v *validator) add(p diagram.Problem) {
	p.TierNo = -1
	v.problems = append(v.problems, p)
}

func (v *validator) text(field diagram.Field, text string, most int) {
	if len(text) > most {
		v.add(diagram.Problem{Code: diagram.TextTooLong, Field: field, Value: float64(len(text)), High: float64(most)})
	}
}

func (v *validator) within(field diagram.Field, value, low, high float64) {
	if !(value >= low && value <= high) {
		v.add(diagram.Problem{Code: diagram.OutOfRange, Field: field, Value: value, Low: low, High: high})
	}
}

// positive takes lengths above 0.
func (v *validator) positive(field diagram.Field, value float64) {
	if !(value > 0 && value <= MaxLength) {
		v.add(diagram.Problem{Code: diagram.OutOfRange, Field: field, Value: value, Low: math.SmallestNonzeroFloat64, High: MaxLength})
	}
}

func (v *validator) most(field diagram.Field, n, most int) {
	if n > most {
		v.add(diagram.Problem{Code: TooMany, Field: field, Value: float64(n), High: float64(most)})
	}
}

func (v *validator) direction(field diagram.Field, d r3.Vec) {
	if length := r3.Norm(d); !(length > 1e-12 && length < 1e12) {
		v.add(diagram.Problem{Code: NoDirection, Field: field})
	}
}

func (v *validator) point(field diagram.Field, p r3.Vec) {
	for _, c := range []float64{p.X, p.Y, p.Z} {
		if !(math.Abs(c) <= MaxLength) {
			v.add(diagram.Problem{Code: diagram.OutOfRange, Field: field, Value: c, Low: -MaxLength, High: MaxLength})
			return
		}
	}
}

func (v *validator) solid(s *Solid) {
	switch s.Kind {
	case KindBox, KindPebble:
		for _, c := range []float64{s.Size.X, s.Size.Y, s.Size.Z} {
			v.positive("solid.size", c)
		}
	case KindHull:
		if n := len(s.Points); n < MinPoints || n > MaxPoints {
			v.add(diagram.Problem{Code: FewPoints, Field: "solid.points", Value: float64(n), Low: MinPoints, High: MaxPoints})
			return
		}
		for _, p := range s.Points {
			v.point("solid.points", p)
		}
	default:
		v.add(diagram.Problem{Code: diagram.UnknownValue, Field: "solid.kind", Text: string(s.Kind)})
	}
}

func (v *validator) flaw(i int, f *Flaw) {
	v.text(Place("flaws", i, "name"), f.Name, MaxText)
	v.point(Place("flaws", i, "at"), f.At)
	if !slices.Contains(Rules, f.Rule) {
		v.add(diagram.Problem{Code: diagram.UnknownValue, Field: Place("flaws", i, "rule"), Text: string(f.Rule)})
	}
	if !slices.Contains(FlawKinds, f.Kind) {
		v.add(diagram.Problem{Code: diagram.UnknownValue, Field: Place("flaws", i, "kind"), Text: string(f.Kind)})
		return
	}
	if f.Kind != Point {
		v.positive(Place("flaws", i, "radius"), f.Radius)
	}
	if f.Kind == Disc {
		v.direction(Place("flaws", i, "normal"), f.Normal)
	}
}

func (v *validator) colour(c *Colour) {
	rgb := func(field diagram.Field, values [3]float64) {
		for _, a := range values {
			v.within(field, a, 0, MaxAbsorption)
		}
	}
	rgb("colour.along", c.Along)
	rgb("colour.across", c.Across)
	v.most("colour.zones", len(c.Zones), MaxZones)
	for i, z := range c.Zones {
		v.direction(Place("colour.zones", i, "normal"), z.Normal)
		v.within(Place("colour.zones", i, "from"), z.From, -MaxLength, MaxLength)
		v.within(Place("colour.zones", i, "to"), z.To, -MaxLength, MaxLength)
		if z.To <= z.From {
			v.add(diagram.Problem{Code: WrongOrder, Field: Place("colour.zones", i, "to"), Value: z.To, Low: z.From})
		}
		rgb(Place("colour.zones", i, "rgb"), z.RGB)
	}
}
