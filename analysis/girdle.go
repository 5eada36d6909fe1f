package analysis

import (
	"context"

	"cressa/core/cutting"
	"cressa/core/light"
	"cressa/workshop"
)

// FigureGrid is how many rays across a stone is traced with for figures: that of the
// specification's references.
const FigureGrid = 256

// GirdleTilt in degrees shows most of what a girdle does.
const GirdleTilt = 20

// GirdleLight is one finish of a girdle: what it asks for, and the light of the stone face up and
// tilted towards 12 o'clock.
type GirdleLight struct {
	workshop.GirdleWork
	FaceUp, Tilted light.Figures
}

// GirdleFinishes tells what each finish of a stone's girdle is worth in light, in a number of
// passes at a pace in minutes a visit. A stone without a girdle has none. The error is that of
// the context where it ends first.
func GirdleFinishes(ctx context.Context, stone *cutting.Stone, e light.Experiment, passes int, pace float64) ([]GirdleLight, error) {
	ready := light.Of(stone)
	e.Grid = FigureGrid
	var out []GirdleLight
	// Frosted finishes look alike: each is traced once.
	traced := map[bool][2]light.Figures{}
	for _, w := range workshop.GirdleWorks(stone, passes, pace) {
		e.FrostedGirdle = w.Finish.Frosted()
		figures, known := traced[e.FrostedGirdle]
		for i, tilt := range []float64{0, GirdleTilt} {
			if known {
				break
			}
			e.Tilt = tilt
			f, err := ready.Trace(ctx, e)
			if err != nil {
				return nil, err
			}
			figures[i] = f
		}
		traced[e.FrostedGirdle] = figures
		out = append(out, GirdleLight{w, figures[0], figures[1]})
	}
	return out, nil
}
