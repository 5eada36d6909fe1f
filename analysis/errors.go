package analysis

import (
	"context"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/tolerance"
)

// ErrorsAsked says by how much a machine repeats, and on how large a stone.
type ErrorsAsked struct {
	// Width is the finished width in mm.
	Width float64
	// Angle and Index are standard deviations in degrees, Depth in mm.
	Angle, Index, Depth float64
	Trials              int
	// Seed: equal seeds give equal results.
	Seed uint64
}

// Errors is what a machine's errors do to a stone.
type Errors struct {
	// Meets are the worst first.
	Meets  []ScatteredMeet
	ByTier []TierShare
	stone  *cutting.Stone
	result *tolerance.Result
	um     float64
}

// ScatteredMeet is a meet with the gaps in µm that half of the stones exceed, and one in
// twenty. Meets that a symmetry maps onto each other share their figures and their Kind,
// counted from 0, the worst first.
type ScatteredMeet struct {
	Point    r3.Vec
	Facets   []string
	P50, P95 float64
	Kind     int
}

// TierShare is a tier's part of the variance of the worst meet's gap, 0 to 1.
type TierShare struct {
	Name  string
	Share float64
}

// RoundingStep is what rounding every angle to a step in degrees would open by itself, in µm,
// and whether that is more than the machine opens in half of the stones.
type RoundingStep struct {
	Step, Gap float64
	Noticed   bool
}

// MachineErrors cuts a stone many times with a machine's errors. Progress counts trials and is
// told from several goroutines at once. The error is that of the context where it ends before the trials do.
func MachineErrors(ctx context.Context, stone *cutting.Stone, ask ErrorsAsked, progress func(done, total int)) (*Errors, error) {
	mm := MMPerUnit(stone, ask.Width)
	spread := tolerance.Spread{Angle: ask.Angle, Index: ask.Index, Depth: ask.Depth / mm}
	result, err := tolerance.Run(ctx, stone, spread, ask.Trials, ask.Seed, progress)
	if err != nil {
		return nil, err
	}
	out := &Errors{stone: stone, result: result, um: 1000 * mm}
	for _, m := range result.Meets {
		out.Meets = append(out.Meets, ScatteredMeet{Point: m.Point, Facets: facetNames(stone, m.Facets), P50: out.um * m.P50, P95: out.um * m.P95, Kind: m.Kind})
	}
	for i, share := range result.Shares {
		out.ByTier = append(out.ByTier, TierShare{stone.Diagram.Tiers[i].Name, share})
	}
	return out, nil
}

// Roundings holds coarser steps against the worst meet. Settable gives for a step in degrees
// the neighbours of an angle.
func (e *Errors) Roundings(settable func(step float64) angles.Settable) []RoundingStep {
	var out []RoundingStep
	for _, r := range e.result.Roundings(e.stone, settable) {
		out = append(out, RoundingStep{r.Step, e.um * r.Gap, r.Noticed})
	}
	return out
}
