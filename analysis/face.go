package analysis

import (
	"context"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/fit"
	"cressa/core/light"
	"cressa/core/rough"
	"cressa/workshop"
)

// speck is the radius in mm of a flaw that is a point: one that the eye just finds.
const speck = 0.05

// Face is a stone as it lies in its piece of rough, seen from above with the colours of the rough and its flaws
// in it.
type Face struct {
	Picture *light.Picture
	Figures light.Figures
	// Colour is what the face returns of red, green and blue light on the whole, 0 to 1, linear.
	Colour [3]float64
	// Flaws tells of each flaw in the stone how it is seen.
	Flaws []FlawShown
}

// FlawShown is how a flaw is seen in a finished stone.
type FlawShown struct {
	// Flaw is its place in the list of the piece.
	Flaw int
	light.Shown
}

// FaceAsked says how a stone is looked at.
type FaceAsked struct {
	light.Experiment
	Model light.Model
	// Flawless leaves the flaws out.
	Flawless bool
}

// FaceOf looks at a stone that was found in a piece with something in it. The experiment's absorption counts where the piece tells of
// no colour. The error is the context's.
func FaceOf(ctx context.Context, piece rough.Inside, stone *cutting.Stone, found workshop.Found, ask FaceAsked) (Face, error) {
	in, flaws := insideOf(piece, found)
	if ask.Flawless {
		in.Flaws, flaws = nil, nil
	}
	ask.Width = found.Width
	picture, figures, shown, err := light.Of(stone).PictureWith(ctx, ask.Experiment, ask.Model, in)
	if err != nil {
		return Face{}, err
	}
	out := Face{Picture: picture, Figures: figures, Flaws: []FlawShown{}}
	for i, no := range flaws {
		if shown[i].Share > 0 {
			out.Flaws = append(out.Flaws, FlawShown{no, shown[i]})
		}
	}
	for i, hit := range picture.Hits {
		for c := range out.Colour {
			if hit {
				out.Colour[c] += float64(picture.Light[i][c]) / float64(figures.Rays)
			}
		}
	}
	return out, nil
}

// Told is the colour of the face, brightened until its brightest part is full: how dark a stone is, its
// figures tell.
func (f Face) Told() [3]float32 {
	most := max(f.Colour[0], f.Colour[1], f.Colour[2])
	if most == 0 {
		return [3]float32{}
	}
	return [3]float32{float32(f.Colour[0] / most), float32(f.Colour[1] / most), float32(f.Colour[2] / most)}
}

// insideOf puts the colours and flaws of a piece into the frame of a stone in it, and tells which flaws those
// are.
func insideOf(piece rough.Inside, found workshop.Found) (light.Inside, []int) {
	turn, scale := fit.TurnOf(found.Rotation), found.Scale
	offset := r3.Vec{X: found.Offset[0], Y: found.Offset[1], Z: found.Offset[2]}
	var in light.Inside
	var flaws []int
	for i, f := range piece.Flaws {
		one := light.Flaw{At: r3.Scale(1/scale, turn.Back(r3.Sub(f.At, offset))), Radius: f.Radius / scale}
		switch f.Kind {
		case rough.Point:
			one.Radius = speck / scale
		case rough.Disc:
			one.Normal = turn.Back(r3.Unit(f.Normal))
		}
		in.Flaws, flaws = append(in.Flaws, one), append(flaws, i)
	}
	if c := piece.Colour; c != nil {
		in.Colour = &light.Colour{Along: c.Along, Across: c.Across}
		if piece.Axis != nil {
			in.Colour.Axis = turn.Back(r3.Unit(piece.Axis.Direction))
		}
		for _, z := range c.Zones {
			n := r3.Unit(z.Normal)
			moved := r3.Dot(n, offset)
			in.Colour.Slabs = append(in.Colour.Slabs, light.Slab{Normal: turn.Back(n), From: (z.From - moved) / scale, To: (z.To - moved) / scale, Absorption: z.RGB})
		}
	}
	return in, flaws
}
