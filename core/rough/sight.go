package rough

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
)

// Sighting is a line of sight on which something is seen in a piece: through the point At, towards the eye
// that is far off along Eye.
type Sighting struct{ At, Eye r3.Vec }

// Codes of sightings that tell no place.
const (
	// PastPiece: the line of sight of the field misses the piece.
	PastPiece diagram.Code = "past-piece"
	// SameSide: the lines of sight run almost alike inside the piece; Value is the angle between them in
	// degrees, Low the least that tells a depth.
	SameSide diagram.Code = "same-side"
	// OutsidePiece: the lines of sight come closest to each other outside the piece, Value mm apart.
	OutsidePiece diagram.Code = "outside-piece"
)

// leastTurn is the least angle in degrees between two lines of sight from which a depth follows.
const leastTurn = 10

// Into follows a line of sight into the piece, through the flat face where it enters: from is where, dir
// the way on, of length 1. Index is that of the piece over what is around it: over 1 in air or water, 1 for a
// piece immersed in a liquid of its own index. It is false where the line misses.
func (b *Body) Into(s Sighting, index float64) (from, dir r3.Vec, ok bool) {
	v := r3.Scale(-1, r3.Unit(s.Eye))
	in, out := math.Inf(-1), math.Inf(1)
	var face r3.Vec
	for i := range b.Faces {
		p := b.Faces[i].Plane
		along, above := r3.Dot(p.Normal, v), p.Above(s.At)
		switch {
		case along < 0:
			if t := -above / along; t > in {
				in, face = t, p.Normal
			}
		case along > 0:
			out = min(out, -above/along)
		case above > 0:
			return from, dir, false
		}
	}
	if in >= out {
		return from, dir, false
	}
	// Snell's law: what lies along the face shrinks by the index.
	cos := -r3.Dot(face, v)
	flat := r3.Scale(1/index, r3.Add(v, r3.Scale(cos, face)))
	down := math.Sqrt(max(0, 1-r3.Norm2(flat)))
	return r3.Add(s.At, r3.Scale(in, v)), r3.Sub(flat, r3.Scale(down, face)), true
}

// Lines are the lines of sight inside the piece: where each enters and where it would leave. The error is a
// diagram.Problem whose Field is the place of the sighting that misses.
func (b *Body) Lines(sightings []Sighting, index float64) ([][2]r3.Vec, error) {
	var out [][2]r3.Vec
	for i, s := range sightings {
		if s.Eye == (r3.Vec{}) {
			return nil, diagram.Problem{Code: NoDirection, TierNo: -1, Field: Place("sightings", i, "eye")}
		}
		from, dir, ok := b.Into(s, index)
		if !ok {
			return nil, diagram.Problem{Code: PastPiece, TierNo: -1, Field: Place("sightings", i, "at")}
		}
		far := math.Inf(1)
		for k := range b.Faces {
			if p := b.Faces[k].Plane; r3.Dot(p.Normal, dir) > 0 {
				far = min(far, -p.Above(from)/r3.Dot(p.Normal, dir))
			}
		}
		if !(far > 0) {
			// It only grazes an edge.
			return nil, diagram.Problem{Code: PastPiece, TierNo: -1, Field: Place("sightings", i, "at")}
		}
		out = append(out, [2]r3.Vec{from, r3.Add(from, r3.Scale(far, dir))})
	}
	return out, nil
}

// Locate returns the place of what is seen on two lines of sight: where they come closest to each other
// inside the piece, and how many mm they pass each other by. The error is a diagram.Problem whose Field is
// the place of a sighting where one of them is to blame.
func (b *Body) Locate(sightings [2]Sighting, index float64) (r3.Vec, float64, error) {
	lines, err := b.Lines(sightings[:], index)
	if err != nil {
		return r3.Vec{}, 0, err
	}
	var from, dir [2]r3.Vec
	for i, l := range lines {
		from[i], dir[i] = l[0], r3.Unit(r3.Sub(l[1], l[0]))
	}
	cos := r3.Dot(dir[0], dir[1])
	if turn := math.Acos(min(1, math.Abs(cos))) * 180 / math.Pi; turn < leastTurn {
		return r3.Vec{}, 0, diagram.Problem{Code: SameSide, TierNo: -1, Field: "sightings", Value: turn, Low: leastTurn}
	}
	// The feet of the common perpendicular.
	between := r3.Sub(from[1], from[0])
	square := 1 - cos*cos
	t := (r3.Dot(between, dir[0]) - cos*r3.Dot(between, dir[1])) / square
	u := (cos*r3.Dot(between, dir[0]) - r3.Dot(between, dir[1])) / square
	a, c := r3.Add(from[0], r3.Scale(t, dir[0])), r3.Add(from[1], r3.Scale(u, dir[1]))
	at, gap := r3.Scale(0.5, r3.Add(a, c)), r3.Norm(r3.Sub(a, c))
	for i := range b.Faces {
		if b.Faces[i].Plane.Above(at) > 0 {
			return r3.Vec{}, 0, diagram.Problem{Code: OutsidePiece, TierNo: -1, Field: "sightings", Value: gap}
		}
	}
	return at, gap, nil
}
