// Package dopping is how a stone is held while it is cut: how the rough is shaped before, what of the
// stone touches its dop, how far lap and dop stay apart, and what a bond bears.
//
// Lengths are in mm, areas in mm², angles in degrees. A stone is seen as it stands on the machine: z runs
// along the quill out of the dop, +y is the side that comes to the lap at index N, and the origin is the
// diagram's own.
package dopping

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/solid"
)

// Held is a convex solid as it stands on the machine.
type Held struct {
	planes []solid.Plane
	points []r3.Vec
}

// Hold returns a solid with one of its directions, of length 1, pointing out of the dop, at so many mm per
// unit of the solid.
func Hold(s *solid.Solid, mm float64, up r3.Vec) Held {
	turn := Standing(up)
	var out Held
	for _, f := range s.Faces() {
		out.planes = append(out.planes, solid.Plane{Normal: turn(f.Plane.Normal), D: f.Plane.D * mm})
	}
	for _, v := range s.Vertices() {
		out.points = append(out.points, r3.Scale(mm, turn(s.Point(v))))
	}
	return out
}

// About returns the solid with the quill's axis through another point of it, in mm where the machine has it.
func (h Held) About(p r3.Vec) Held {
	out := Held{slices.Clone(h.planes), slices.Clone(h.points)}
	for i, plane := range out.planes {
		out.planes[i].D -= r3.Dot(plane.Normal, p)
	}
	for i, q := range out.points {
		out.points[i] = r3.Sub(q, p)
	}
	return out
}

// Standing returns what brings directions of a stone into the frame of the machine.
func Standing(up r3.Vec) func(r3.Vec) r3.Vec {
	across := func(v r3.Vec) r3.Vec { return r3.Sub(v, r3.Scale(r3.Dot(v, up), up)) }
	twelve := across(r3.Vec{Y: 1})
	if r3.Norm(twelve) < 1e-6 {
		twelve = across(r3.Vec{Z: 1})
	}
	twelve = r3.Unit(twelve)
	three := r3.Cross(twelve, up)
	return func(v r3.Vec) r3.Vec { return r3.Vec{X: r3.Dot(v, three), Y: r3.Dot(v, twelve), Z: r3.Dot(v, up)} }
}

// reach returns how far the stone reaches in a direction of length 1.
func (h Held) reach(n r3.Vec) float64 {
	out := math.Inf(-1)
	for _, p := range h.points {
		out = math.Max(out, r3.Dot(n, p))
	}
	return out
}

// Low and High are the heights between which the stone stands.
func (h Held) Low() float64 { return -h.reach(r3.Vec{Z: -1}) }

// High is the height of the stone's top.
func (h Held) High() float64 { return h.reach(r3.Vec{Z: 1}) }

// Radius is how far the stone reaches from the axis.
func (h Held) Radius() float64 {
	out := 0.0
	for _, p := range h.points {
		out = math.Max(out, math.Hypot(p.X, p.Y))
	}
	return out
}

// directions are in how many directions an outline is looked at.
const directions = 96

// Rim is how far the stone reaches from the axis where it reaches least: what must stand out all round a
// dop that it is centred by.
func (h Held) Rim() float64 {
	out := math.Inf(1)
	for i := range directions {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / directions)
		out = math.Min(out, h.reach(r3.Vec{X: sin, Y: cos}))
	}
	return out
}

// Outline returns the stone's silhouette from the side, as corners that go round: X is how far they lie
// from the axis towards an azimuth in degrees, counted clockwise from +y, and Y is the height.
func (h Held) Outline(azimuth float64) []r3.Vec {
	sin, cos := math.Sincos(azimuth * math.Pi / 180)
	flat := make([]r3.Vec, len(h.points))
	for i, p := range h.points {
		flat[i] = r3.Vec{X: p.X*sin + p.Y*cos, Y: p.Z}
	}
	slices.SortFunc(flat, func(a, b r3.Vec) int { return cmp.Or(cmp.Compare(a.X, b.X), cmp.Compare(a.Y, b.Y)) })
	var out []r3.Vec
	// Andrew's monotone chain: the lower half from left to right, then the upper one back.
	for range 2 {
		from := len(out)
		for _, p := range flat {
			for len(out) >= from+2 && turns(out[len(out)-2], out[len(out)-1], p) <= 1e-9 {
				out = out[:len(out)-1]
			}
			out = append(out, p)
		}
		out = out[:len(out)-1]
		slices.Reverse(flat)
	}
	return out
}

// turns is twice the area of a triangle in the plane, over 0 where it goes round to the left.
func turns(a, b, c r3.Vec) float64 { return (b.X-a.X)*(c.Y-a.Y) - (b.Y-a.Y)*(c.X-a.X) }

// Underside is what the side that goes into the dop ends in.
type Underside string

// The ends.
const (
	// Level: a facet square to the axis, such as a table.
	Level Underside = "level"
	// Keel: a level edge.
	Keel Underside = "keel"
	// Tip: a single point.
	Tip Underside = "tip"
)

// Foot is the end of a stone that goes into the dop.
type Foot struct {
	Underside Underside
	// Size is the length of a keel, and how wide a level end is where it is narrowest.
	Size float64
	// Along is the direction of a keel in degrees from +y, 0 up to 180.
	Along float64
	// Sides is how many facets meet in a tip.
	Sides int
}

// ThreeCornered tells of a tip that touches a hollow cone along three lines alone: the bond has little to hold.
func (f Foot) ThreeCornered() bool { return f.Underside == Tip && f.Sides == 3 }

// Foot tells what the stone ends in at the dop. What is smaller than a fortieth of the stone's width is
// a tip: nothing can be lined up by it.
func (h Held) Foot() Foot {
	low := h.Low()
	small := h.Rim() / 20
	var ends []r3.Vec
	for _, p := range h.points {
		if p.Z < low+small/20 {
			ends = append(ends, p)
		}
	}
	// The widest and the narrowest of what lies lowest.
	long, narrow, along := 0.0, math.Inf(1), 0.0
	const half = directions / 2
	for i := range half {
		azimuth := 180 * float64(i) / half
		sin, cos := math.Sincos(azimuth * math.Pi / 180)
		least, most := math.Inf(1), math.Inf(-1)
		for _, p := range ends {
			at := p.X*sin + p.Y*cos
			least, most = math.Min(least, at), math.Max(most, at)
		}
		if most-least > long {
			long, along = most-least, azimuth
		}
		narrow = math.Min(narrow, most-least)
	}
	switch {
	case narrow > small:
		return Foot{Underside: Level, Size: narrow}
	case long > small:
		return Foot{Underside: Keel, Size: long, Along: along}
	}
	tip := Foot{Underside: Tip}
	for _, p := range h.planes {
		// A facet that ends just above the tip counts too: nothing holds between.
		if p.Normal.Z < 0 && p.Above(ends[0]) > -small {
			tip.Sides++
		}
	}
	return tip
}
