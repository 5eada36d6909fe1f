package workshop

import (
	"context"
	"errors"
	"math"
	"slices"

	"cressa/core/diagram"
	"cressa/core/gear"
)

// Refusals at the table adapter.
const (
	// NoAdapter: the stone's machine has no table adapter, or the diagram no table for it.
	NoAdapter diagram.Code = "no-adapter"
	// NotFlush: the readings of the flush dop do not agree, or give no angle that an adapter can have.
	NotFlush diagram.Code = "not-flush"
)

// Begins says on which side of a table the mark of the lap begins, as the cutter looks at it from the front of the
// machine: Far away from its mast, Near to it, or at the Left or Right.
type Begins string

// The sides.
const (
	Far   Begins = "far"
	Near  Begins = "near"
	Left  Begins = "left"
	Right Begins = "right"
)

// TiltedTable is a table that came in from one side, and what levels it.
type TiltedTable struct {
	Begins Begins
	// Tilt is in degrees. Angle is by how many degrees the protractor is set steeper, less than 0 for flatter; Turn by
	// how many the cheater is turned, towards the side where the mark begins lifting. One of the two is 0.
	Tilt, Angle, Turn float64
}

// LevelTable tells how a table is levelled whose mark begins on one side, and which is so many mm nearer to the lap
// there than opposite; across is the table's width in mm, and adapter the true angle of the adapter in degrees, over 0.
//
// In the index plane the protractor levels it: a steeper quill lifts the far side. Across that a turn about the quill
// does, by tilt/sin A.
func LevelTable(begins Begins, mm, across, adapter float64) TiltedTable {
	out := TiltedTable{Begins: begins, Tilt: math.Atan2(mm, across) * 180 / math.Pi}
	switch begins {
	case Far:
		out.Angle = out.Tilt
	case Near:
		out.Angle = -out.Tilt
	default:
		out.Turn = gear.AdapterTurn(out.Tilt, adapter)
	}
	return out
}

// Adapter returns the adapter's angle of a stone's plan and the width of its table in mm. It returns NoAdapter where
// there is none.
func (a *Assessment) Adapter() (angle, across float64, err error) {
	if a.Machine.TableAdapter == 0 || a.TableMM == 0 {
		return 0, 0, diagram.Problem{Code: NoAdapter, TierNo: -1}
	}
	return a.Machine.TableAdapter, a.TableMM, nil
}

// SetAdapter keeps the true angle of the table adapter as it follows from flush readings, in degrees: for the machine,
// and in a new plan of the stone over the version that the caller read. It returns NotFlush, NoAdapter, the errors of
// Replan, and ErrStale where the settings were changed meanwhile.
func (s *Stones) SetAdapter(ctx context.Context, stoneID string, readings []float64, version int) (Stone, error) {
	stone, err := s.store.Stone(ctx, stoneID)
	if err != nil {
		return stone, err
	}
	plan := stone.Work().Plan
	switch {
	case plan == nil:
		return stone, ErrNoPlan
	case stone.Work().Finish != nil:
		return stone, ErrFinished
	case stone.Version != version:
		return stone, ErrStale
	case plan.Machine.TableAdapter == 0:
		return stone, diagram.Problem{Code: NoAdapter, TierNo: -1}
	}
	settings, err := s.preferences.Settings(ctx)
	if err != nil {
		return stone, err
	}
	i := slices.IndexFunc(settings.Machines, func(m Machine) bool { return m.ID == settings.MachineOf(plan.Choices.Machine).ID })
	angle, err := gear.AdapterAngle(readings, settings.Machines[i].AngleZero)
	if errors.Is(err, gear.ErrFlush) || angle <= 0 || angle > 90 {
		return stone, diagram.Problem{Code: NotFlush, TierNo: -1, High: gear.FlushWithin}
	}
	settings.Machines = slices.Clone(settings.Machines)
	settings.Machines[i].TableAdapter = math.Round(angle*100) / 100
	if _, err := s.preferences.SaveSettings(ctx, settings); err != nil {
		return stone, err
	}
	return s.replan(ctx, stoneID, version, func(before Plan) (next, error) {
		return before.goesOn(), nil
	})
}
