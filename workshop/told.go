package workshop

import (
	"context"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/solid"
	"cressa/workshop/journal"
)

// readSurvey reads the stone that a machine told last.
func (s *Stones) readSurvey(ctx context.Context, t *telling) error {
	if len(t.work.Surveys) == 0 {
		return nil
	}
	last := t.work.Surveys[len(t.work.Surveys)-1]
	e, err := s.journal.Event(ctx, last.Events[len(last.Events)-1])
	if err != nil {
		return err
	}
	told, ok := e.Surveys()
	if !ok {
		return ErrUnreadable
	}
	t.since, t.out.Told = last.N, told.From
	for _, p := range told.Planes {
		t.told = append(t.told, solid.Plane{Normal: r3.Unit(r3.Vec{X: p[0], Y: p[1], Z: p[2]}), D: p[3] / t.out.MM})
	}
	return nil
}

// NothingTold says that none of the facets that a machine tells is one of the plan's.
const NothingTold diagram.Code = "nothing-told"

// TakeOver keeps a stone that a machine told as the stone of the present work: the planes of its facets in mm, about any
// point of its axis and at any turn. It returns the ID of the event that says so, and the errors of AssessStone, ErrFinished, and the Problem NothingTold.
func (s *Stones) TakeOver(ctx context.Context, stone Stone, from string, planes []solid.Plane) (event string, err error) {
	if stone.Work().Finish != nil {
		return "", ErrFinished
	}
	a, err := s.AssessStone(ctx, stone)
	if err != nil {
		return "", err
	}
	units := slices.Clone(planes)
	for i := range units {
		units[i].D /= a.MM
	}
	return s.tellPlanes(ctx, stone, a, from, a.Stone.Aligned(units))
}

// tellPlanes keeps planes in the frame and the units of a plan as those that a stone was really cut to.
func (s *Stones) tellPlanes(ctx context.Context, stone Stone, a *Assessment, from string, planes []solid.Plane) (event string, err error) {
	told := journal.Surveyed{From: from}
	known := 0
	for _, p := range planes {
		if _, ok := a.Stone.FacetLike(p); ok {
			known++
		}
		const fine = 1e6
		round := func(v float64) float64 { return math.Round(v*fine) / fine }
		told.Planes = append(told.Planes, [4]float64{round(p.Normal.X), round(p.Normal.Y), round(p.Normal.Z), round(p.D * a.MM)})
	}
	if known == 0 {
		return "", diagram.Problem{Code: NothingTold, TierNo: -1, Text: from}
	}
	return event, s.store.InTx(ctx, func(ctx context.Context) error {
		if err := s.journal.tell(ctx, stone.Work().ID, journal.Survey, told); err != nil {
			return err
		}
		state, err := s.journal.WorkState(ctx, stone.Work().ID)
		if err == nil {
			event = state.Folded.Surveys[len(state.Folded.Surveys)-1].Events[0]
		}
		return err
	})
}

// surveyed takes the planes of the stone that a machine told: those that are facets of the plan stand where they were told
// to be, the others are beside.
func (t *telling) surveyed() {
	if len(t.told) == 0 {
		return
	}
	ids := map[int]FacetID{}
	for id, f := range t.now {
		ids[f.place] = id
	}
	for _, p := range t.told {
		place, like := t.out.Stone.FacetLike(p)
		id, planned := ids[place]
		if !like || !planned || t.cut.Planes[place] != nil {
			t.cut.Beside = append(t.cut.Beside, cutting.Beside{Facet: place, Plane: p})
		} else {
			t.cut.Planes[place] = &p
		}
		if !planned {
			continue
		}
		f := t.now[id]
		set, err := gear.Dial(p.Normal, f.pose)
		deeper := (f.Plane.D - p.D) * t.out.MM
		if err == nil && (math.Abs(set.Angle-f.set.Angle) > sameSetting || math.Abs(gear.Circle(gear.Azimuth(set.Index-f.set.Index, f.pose.Gear)+180)-180) > sameSetting || math.Abs(deeper) > sameTold) {
			t.differs(id, f, Difference{What: ToldOtherwise, Really: set, MM: deeper})
		}
	}
}

// What is no difference to speak of: degrees of a setting, mm that a facet that was told lies otherwise, degrees that a dial
// shows otherwise.
const (
	sameSetting = 0.02
	sameTold    = 0.005
	sameShown   = 0.05
)

// shown notes where dials showed something else than was to be set.
func (t *telling) shown() {
	for _, shown := range t.work.Shown {
		f, there := t.plans[t.work.PlanAt(shown.N)][shown.At.Facet]
		if !there || f.set.Angle == 0 {
			continue
		}
		really := f.set
		if shown.Angle != nil {
			really.Angle = *shown.Angle - t.out.Machine.AngleZero
		}
		if shown.Index != nil {
			really.Position = gear.At(gear.Azimuth(*shown.Index, f.pose.Gear), f.pose.Gear)
		}
		turned := gear.Circle(gear.Azimuth(really.Index-f.set.Index, f.pose.Gear)+180) - 180
		if math.Abs(really.Angle-f.set.Angle) > sameShown || math.Abs(turned) > sameShown {
			t.differs(shown.At.Facet, f, Difference{What: DialShowed, Really: really})
		}
	}
}
