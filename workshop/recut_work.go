package workshop

import (
	"context"
	"math"
	"slices"
	"time"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/mending"
	"cressa/workshop/journal"
)

// RecutChosen is what a cutter decides of a recut.
type RecutChosen struct {
	Way mending.Kind
	// FirstSide is the side that is cut first, PolishFrom the first of the passes that facets get which are only polished, ""
	// where those stay as they are.
	FirstSide  diagram.Part `validate:"oneof=pavilion crown"`
	PolishFrom string       `validate:"max=40"`
	Why        string       `validate:"max=2000"`
	// Name is what a stone is called that was not on record.
	Name string `validate:"max=200"`
}

// RecutSo makes a work of a way to recut a stone: a further one of a stone on record, over the version that the caller read, or
// a stone of its own. The errors are those of Return and RecutWays, NoWay, and those of a plan.
func (s *Stones) RecutSo(ctx context.Context, of CameBack, ask RecutAsked, chosen RecutChosen, version int) (Stone, error) {
	if err := Validate(chosen); err != nil {
		return Stone{}, err
	}
	returned, err := s.Return(ctx, of)
	if err != nil {
		return Stone{}, err
	}
	ways, err := returned.RecutWays(ctx, ask)
	if err != nil {
		return Stone{}, err
	}
	i := slices.IndexFunc(ways.Ways, func(w mending.Way) bool { return w.Kind == chosen.Way && w.Err == nil })
	if i < 0 {
		return Stone{}, diagram.Problem{Code: NoWay, TierNo: -1, Text: string(chosen.Way)}
	}
	plan, err := s.recutPlan(ctx, ways, ways.Ways[i], chosen)
	if err != nil {
		return Stone{}, err
	}
	return s.recut(ctx, of, returned, ways.Damages, plan, chosen, version)
}

// Another is another diagram that lies in a stone: a point v of it at Place.Point(v), in units of the stone.
type Another struct {
	DiagramID, Revision string
	Place               mending.Placed
	// Width is that of the diagram in its own units.
	Width float64
}

// RecutTo makes a work of a recut to another diagram, as RecutSo does of a way that keeps it.
func (s *Stones) RecutTo(ctx context.Context, of CameBack, ask RecutAsked, to Another, chosen RecutChosen, version int) (Stone, error) {
	if err := Validate(chosen); err != nil {
		return Stone{}, err
	}
	returned, err := s.Return(ctx, of)
	if err != nil {
		return Stone{}, err
	}
	c, err := s.Propose(ctx, to.DiagramID, "")
	if err != nil {
		return Stone{}, err
	}
	width := to.Width * to.Place.Scale * returned.MM
	c.Material, c.FirstSide, c.Girdle, c.Table = returned.Material.Name, chosen.FirstSide, cutting.AsDrawn, cutting.AsDrawn
	c.Size = Size{Basis: AcrossWidth, MM: width, Typed: diagram.FormatNumber(math.Round(width*1000) / 1000)}
	r, err := s.library.Revision(ctx, to.Revision)
	if err != nil {
		return Stone{}, err
	}
	drawn, err := cutting.Cut(r.Diagram)
	if err != nil {
		return Stone{}, err
	}
	if c.FirstSide != r.Diagram.FirstSide {
		if _, err := cutting.OtherSideFirst(drawn); err != nil {
			c.FirstSide = r.Diagram.FirstSide
		}
	}
	plan, a, err := s.firstPlan(ctx, to.DiagramID, to.Revision, c)
	if err != nil {
		return Stone{}, err
	}
	up := alongAxis(drawn, a.Stone) * to.Place.Scale
	plan.Came = &Came{MM: returned.MM, Planes: []CamePlane{}}
	for i, f := range returned.Stone.Facets {
		if returned.Stone.Solid().Face(i) != nil {
			plan.Came.Planes = append(plan.Came.Planes, CamePlane{Plane: lifted(placedIn(f.Plane, to.Place), up)})
		}
	}
	return s.recut(ctx, of, returned, ask.Damages, plan, chosen, version)
}

// recut keeps a work that recuts a stone to a plan.
func (s *Stones) recut(ctx context.Context, of CameBack, returned *Returned, damages []mending.Damage, plan Plan, chosen RecutChosen, version int) (Stone, error) {
	m := returned.Stone.Measures()
	task := Recut{
		WidthMM: m.Width * returned.MM, LengthMM: m.Length * returned.MM, HeightMM: m.Height * returned.MM, Why: chosen.Why,
		Carats: cutting.Carats(m.VolumeFactor, m.Width*returned.MM, returned.Material.SG), Way: chosen.Way, Damages: damages,
	}
	if err := Validate(task); err != nil {
		return Stone{}, err
	}
	if of.Stone == "" {
		stone := s.newStone(chosen.Name, plan)
		stone.Works[0].Task = task
		return stone, s.store.InTx(ctx, func(ctx context.Context) (err error) {
			stone.Number, err = s.insert(ctx, stone)
			return err
		})
	}
	var out Stone
	return out, s.store.InTx(ctx, func(ctx context.Context) (err error) {
		if task.Intake, err = s.passOn(ctx, of.Stone); err != nil {
			return err
		}
		out, err = s.addWork(ctx, of.Stone, version, &plan, func(card Finish) (Task, error) {
			if card.FinishedCarats > 0 {
				task.Carats = card.FinishedCarats
			}
			return task, nil
		})
		return err
	})
}

// passOn closes a repair that goes on as a recut, and returns what was written down when the stone came in, nil where its present
// work is no repair that is open.
func (s *Stones) passOn(ctx context.Context, stoneID string) (*Intake, error) {
	stone, err := s.store.Stone(ctx, stoneID)
	if err != nil {
		return nil, err
	}
	work := stone.Work()
	repair, ok := work.Task.(Repair)
	if !ok || work.Finish != nil {
		return nil, nil //nolint:nilnil // Nothing was written down, and that is no mistake.
	}
	in := repair.Intake
	now := s.moment()
	card := Finish{
		Version: 1, FinishedCarats: in.Carats, WidthMM: in.WidthMM, LengthMM: in.LengthMM, HeightMM: in.HeightMM,
		Finished: now.Format(time.DateOnly), Saved: now,
	}
	if err := s.store.SaveFinish(ctx, work.ID, card, 0); err != nil {
		return nil, err
	}
	return &in, s.journal.tell(ctx, work.ID, journal.Finish, nil)
}

// recutPlan is the first plan of a way: the diagram that the stone follows, with what the way adds, over the stone as it came.
func (s *Stones) recutPlan(ctx context.Context, ways *RecutWays, way mending.Way, chosen RecutChosen) (Plan, error) {
	d := mending.AddedTiers(ways.Planned.Diagram, way.Added)
	r, err := s.library.revisionOf(d)
	if err != nil {
		return Plan{}, err
	}
	if err := s.library.store.InsertRevision(ctx, *r); err != nil {
		return Plan{}, err
	}
	with, err := cutting.Cut(d)
	if err != nil {
		return Plan{}, err
	}
	c, err := s.Propose(ctx, ways.DiagramID, "")
	if err != nil {
		return Plan{}, err
	}
	width := with.Measures().Width * ways.MM
	c.Material, c.FirstSide, c.Girdle, c.Table = ways.Material.Name, chosen.FirstSide, cutting.AsDrawn, cutting.AsDrawn
	c.Size = Size{Basis: AcrossWidth, MM: width, Typed: diagram.FormatNumber(math.Round(width*1000) / 1000)}
	if c.FirstSide != d.FirstSide {
		// Some diagrams can only be cut as they are drawn.
		if _, err := cutting.OtherSideFirst(with); err != nil {
			c.FirstSide = d.FirstSide
		}
	}
	plan, a, err := s.newPlan(ctx, ways.DiagramID, r.Hash, c, nil)
	if err != nil {
		return plan, err
	}
	names := make([]FacetID, len(a.Stone.Facets))
	for i := range names {
		names[i] = facetName(i)
	}
	plan.No = 1
	plan.Setups = s.named(a.Setups, nil)
	plan.came(ways, way, with, a.Stone, names, chosen.PolishFrom)
	plan.layOut(a.Stone, a.In, names)
	return plan, nil
}
