package workshop

import (
	"context"
	"math"

	"cressa/core/diagram"
)

// HeavierThanStone refuses a recut whose plan comes to more than the stone weighs: Value and
// High in carats.
const HeavierThanStone diagram.Code = "heavier-than-stone"

// proposeRecut makes what a plan begins with one for a stone that is finished.
func (s *Stones) proposeRecut(ctx context.Context, stoneID string, d *diagram.Diagram, settings Settings, c *Choices) error {
	stone, err := s.store.Stone(ctx, stoneID)
	if err != nil {
		return err
	}
	work := stone.Work()
	if work.Finish == nil {
		return ErrNotFinished
	}
	for _, of := range stone.Works {
		switch {
		case of.Plan != nil:
			c.Material = of.Plan.Choices.Material
		default:
			if repair, ok := of.Task.(Repair); ok && repair.Intake.Material != "" {
				c.Material = repair.Intake.Material
			}
		}
	}
	m, known := settings.Material(c.Material)
	if !known {
		// It came in as something that no table has: the cutter says what to reckon with.
		return nil
	}
	width := 0.95 * work.Finish.WidthMM
	if carats := work.Finish.FinishedCarats; carats > 0 {
		const leaves = 0.8
		a, err := assess(d, *c, m, settings.MachineOf(c.Machine))
		if err != nil {
			return err
		}
		width = c.Size.MM * math.Cbrt(leaves*carats/a.Carats)
	}
	if width = math.Floor(width*10) / 10; width >= 0.1 {
		c.Size.MM, c.Size.Typed = width, diagram.FormatNumber(width)
	}
	return nil
}

// Recut plans a finished stone anew: it gets another work over the version of the stone that
// the caller read, and keeps those it had. The error is ErrNotFinished while it is worked
// on, and a Problem where nothing of that weight can be cut from it.
func (s *Stones) Recut(ctx context.Context, stoneID, diagramID string, c Choices, why string, version int) (Stone, error) {
	plan, a, err := s.firstPlan(ctx, diagramID, "", c)
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
