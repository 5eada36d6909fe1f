package workshop

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"

	"cressa/core/cutting"
)

// Judged is how a diagram looks to a machine.
type Judged struct {
	Difficulty cutting.Difficulty
	Level      Level
	// Cuttable tells that the machine can cut it as it is drawn.
	Cuttable bool
	// LargestCheat is in degrees on the gear that fits best.
	LargestCheat float64
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

// judgementRules is the version of how a stone is judged. It is raised when the same machine
// would say something else of the same stone.
const judgementRules = 1

// judge names a machine by what a judgement depends on: a revision never changes, and what
// one such machine has said of it by the same rules stays.
func (m Machine) judge() string {
	m.ID, m.Name = "", ""
	sum := sha256.Sum256(fmt.Appendf(nil, "%d %+v", judgementRules, m))
	return hex.EncodeToString(sum[:8])
}

// Judged returns how a version looks to the default machine, ErrNotFound where it has not
// been judged yet.
func (l *Library) Judged(ctx context.Context, revision string) (Judged, error) {
	settings, err := l.preferences.Settings(ctx)
	if err != nil {
		return Judged{}, err
	}
	return l.store.Judgement(ctx, revision, settings.MachineOf("").judge())
}

// JudgeNext has the default machine judge one version that it has not judged yet. It
// returns false where there is none. It returns only the errors of the store: a version
// that cannot be judged is judged so.
func (l *Library) JudgeNext(ctx context.Context) (more bool, err error) {
	settings, err := l.preferences.Settings(ctx)
	if err != nil {
		return false, err
	}
	m := settings.MachineOf("")
	hash, err := l.store.Unjudged(ctx, m.judge())
	if errors.Is(err, ErrNotFound) {
		return false, l.store.DropJudgements(ctx, m.judge())
	}
	if err != nil {
		return false, err
	}
	return true, l.judge(ctx, hash, m)
}

// judge keeps how a version looks to a machine. One that cannot be read or cut is Hard and
// not cuttable: it must not be asked for again and again.
func (l *Library) judge(ctx context.Context, revision string, m Machine) error {
	out := Judged{Level: Hard, Difficulty: cutting.Difficulty{Weights: []cutting.Weight{}}}
	if r, err := l.store.Revision(ctx, revision); err == nil {
		if stone, err := cutting.Cut(r.Diagram); err == nil {
			out = m.judgement(stone)
		}
	} else if !errors.Is(err, ErrUnreadable) {
		return err
	}
	return l.store.SaveJudgement(ctx, revision, m.judge(), out)
}

func (m Machine) judgement(stone *cutting.Stone) Judged {
	out := Judged{Cuttable: len(m.Obstacles(stone)) == 0}
	if ranked := stone.RankGears(m.Gears); len(ranked) > 0 {
		out.LargestCheat = ranked[0].LargestCheat
	}
	out.Difficulty = stone.Difficulty(judgedWidth, out.LargestCheat, m.Cheater != CheaterNone)
	out.Level = levelOf(out.Difficulty.Points)
	return out
}
