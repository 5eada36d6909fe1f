package workshop

import (
	"context"
	"math"

	"cressa/core/diagram"
)

// HeavierThanStone refuses a recut whose plan comes to more than the stone weighs: Value and
// High in carats.
const HeavierThanStone diagram.Code = "heavier-than-stone"

// Recut plans a finished stone anew: it gets another work over the version of the stone that
// the caller read, and keeps those it had. The error is ErrNotFinished while it is worked
// on, and a Problem where nothing of that weight can be cut from it.
func (s *Stones) Recut(ctx context.Context, stoneID, diagramID string, c Choices, why string, version int) (Stone, error) {
	plan, a, err := s.firstPlan(ctx, diagramID, c)
	if err != nil {
		return Stone{}, err
	}
	return s.addWork(ctx, stoneID, version, &plan, func(card Finish) (Task, error) {
		task := Recut{Carats: card.FinishedCarats, WidthMM: card.WidthMM, LengthMM: card.LengthMM, HeightMM: card.HeightMM, Why: why}
		if task.Carats > 0 && a.Carats > task.Carats {
			return nil, diagram.Problem{Code: HeavierThanStone, TierNo: -1, Field: "size", Value: math.Round(a.Carats*1000) / 1000, High: task.Carats}
		}
		return task, Validate(task)
	})
}
