package workshop

import (
	"context"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

// Judged is how a diagram looks to a machine.
type Judged struct {
	Difficulty cutting.Difficulty `json:"difficulty"`
	Level      Level              `json:"level"`
	// Cuttable tells that the machine can cut it as it is drawn.
	Cuttable bool `json:"cuttable"`
	// Shallowest is the lowest pavilion angle of a tier that is not optional, level
	// facets left out: a material suits the diagram where it keeps light at that
	// angle. It is 90 for a stone without a pavilion.
	Shallowest float64 `json:"shallowest"`
	// LargestCheat is in degrees on the gear that fits best.
	LargestCheat float64 `json:"largestCheat"`
}

// Level is a difficulty in a word.
type Level string

// The levels.
const (
	Easy      Level = "easy"
	Moderate  Level = "moderate"
	Demanding Level = "demanding"
	Hard      Level = "hard"
)

func levelOf(points float64) Level {
	switch {
	case points < 1.5:
		return Easy
	case points < 3.5:
		return Moderate
	case points < 6:
		return Demanding
	}
	return Hard
}

// judgedWidth is the width in mm that a diagram without a plan is judged at.
const judgedWidth = 8

// judgeKey: a revision never changes, and neither do settings of one version.
type judgeKey struct {
	revision string
	settings int
}

func (w *Workshop) judge(ctx context.Context, revision string, s Settings) (*Judged, error) {
	key := judgeKey{revision, s.Version}
	if known, ok := w.judged.Load(key); ok {
		return known.(*Judged), nil
	}
	r, err := w.store.Revision(ctx, revision)
	if err != nil {
		return nil, err
	}
	stone, err := cutting.Cut(r.Diagram)
	if err != nil {
		return nil, err
	}
	m := s.MachineOf("")
	out := &Judged{Cuttable: len(m.Obstacles(stone)) == 0, Shallowest: 90}
	if ranked := stone.RankGears(m.Gears); len(ranked) > 0 {
		out.LargestCheat = ranked[0].LargestCheat
	}
	out.Difficulty = stone.Difficulty(judgedWidth, out.LargestCheat, m.Cheater != CheaterNone)
	out.Level = levelOf(out.Difficulty.Points)
	for _, t := range r.Diagram.Tiers {
		if t.Part == diagram.Pavilion && t.Angle > 0 && !t.Optional {
			out.Shallowest = min(out.Shallowest, t.Angle)
		}
	}
	w.judged.Store(key, out)
	return out, nil
}
