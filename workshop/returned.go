package workshop

import (
	"cmp"
	"context"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/core/mending"
)

// CameBack says which stone is to be recut.
type CameBack struct {
	// Stone is the ID of one on record, "" for any other. One that was cut here is as its log tells unless Diagram says
	// otherwise.
	Stone string `validate:"max=40"`
	// Diagram is the ID of the diagram that it follows and WidthMM its width as it was measured; "" and 0 for one whose log
	// tells.
	Diagram  string  `validate:"max=40"`
	WidthMM  float64 `validate:"min=0,max=500"`
	Material string  `validate:"max=60"`
}

// Returned is a finished stone as it is, with the diagram that it follows.
type Returned struct {
	DiagramID, Name string
	// Stone is as it is: the facets of its diagram, behind them what was cut beside. One of its units is MM mm.
	Stone *cutting.Stone
	MM    float64
	// Planned is what its diagram comes to, with the same facets.
	Planned  *cutting.Stone
	Material material.Material
	// Logged tells that it is as a log tells.
	Logged bool
	// Laps are those that a plan of it begins with, Minutes is how long a visit takes at the cutter's own pace.
	Laps    Laps
	Minutes float64
	// Step is that of the default machine's protractor in degrees, for facets that are added.
	Step float64
}

// Visits is how often a facet is cut that takes all its passes.
func (r *Returned) Visits(place int) int {
	return len(r.Laps.Of(r.Stone.Diagram.Tiers[r.Stone.Facets[place].Tier]))
}

// Refusals of a recut.
const (
	// NoSuchForm: nothing tells what form the stone has. Its diagram and its width are asked for.
	NoSuchForm diagram.Code = "no-such-form"
	// RecutFixed: what Field names was settled when the stone came.
	RecutFixed diagram.Code = "recut-fixed"
)

// Return finds the form of a stone that came to be recut. It returns the errors of Validate, ErrNotFound, ErrNotFinished for
// a stone that is still being cut, and a diagram.Problem: NoSuchForm, UnknownMaterial, or what keeps the diagram from being cut.
func (s *Stones) Return(ctx context.Context, of CameBack) (*Returned, error) {
	if err := Validate(of); err != nil {
		return nil, err
	}
	out, err := s.formOf(ctx, of)
	if err != nil {
		return nil, err
	}
	settings, err := s.preferences.Settings(ctx)
	if err != nil {
		return nil, err
	}
	if of.Material == "" {
		of.Material = out.Material.Name
	}
	var known bool
	if out.Material, known = settings.Material(of.Material); !known {
		return nil, diagram.Problem{Code: UnknownMaterial, TierNo: -1, Field: "material", Text: of.Material}
	}
	out.Laps, out.Step = settings.HabitsOf("").Laps, settings.MachineOf("").AngleStep
	out.Minutes, _, err = s.Pace(ctx)
	return out, err
}

func (s *Stones) formOf(ctx context.Context, of CameBack) (*Returned, error) {
	out := &Returned{}
	if of.Stone != "" {
		stone, err := s.store.Stone(ctx, of.Stone)
		if err != nil {
			return nil, err
		}
		if out, err = s.formOfOwn(ctx, stone); err != nil {
			return nil, err
		}
	}
	if of.Diagram == "" && out.Stone != nil {
		if of.WidthMM > 0 {
			out.MM = of.WidthMM / out.Stone.Measures().Width
		}
		return out, nil
	}
	if of.Diagram == "" || of.WidthMM == 0 {
		return nil, diagram.Problem{Code: NoSuchForm, TierNo: -1, Field: "diagram"}
	}
	hash, err := s.library.freeze(ctx, of.Diagram, "")
	if err != nil {
		return nil, err
	}
	r, err := s.library.Revision(ctx, hash)
	if err != nil {
		return nil, err
	}
	planned, err := cutting.Cut(r.Diagram)
	if err != nil {
		return nil, err
	}
	return &Returned{
		DiagramID: of.Diagram, Name: r.Facts.Name, Stone: planned, Planned: planned,
		MM: of.WidthMM / planned.Measures().Width, Material: out.Material,
	}, nil
}

// formOfOwn is that of a stone on record: as its last planned work left it. Stone is nil where no work had a plan; the material
// is known by its name alone.
func (s *Stones) formOfOwn(ctx context.Context, stone Stone) (*Returned, error) {
	if _, repair := stone.Work().Task.(Repair); !repair && stone.Work().Finish == nil {
		return nil, ErrNotFinished
	}
	out := &Returned{}
	for _, of := range stone.Works {
		if repair, ok := of.Task.(Repair); ok && of.Plan == nil && repair.Intake.Material != "" {
			out.Material.Name = repair.Intake.Material
		}
	}
	last := -1
	for i, of := range stone.Works {
		if of.Plan != nil {
			last = i
		}
	}
	if last < 0 {
		return out, nil
	}
	work := stone.Works[last]
	was, err := stone.At(work.ID)
	if err != nil {
		return nil, err
	}
	cut, err := s.AsCut(ctx, was, "")
	if err != nil {
		return nil, err
	}
	// What nobody ticked was cut all the same: the stone is finished.
	planes := cut.Stone.Planes()
	besides := slices.Clone(cut.Worked.Beside)
	for i, p := range cut.Worked.Planes {
		switch {
		case p == nil:
		case r3.Norm(r3.Sub(p.Normal, planes[i].Normal)) > sameDirection:
			besides = append(besides, cutting.Beside{Facet: i, Plane: *p})
		default:
			planes[i].D = p.D
		}
	}
	is, err := cut.Stone.Changed(planes, besides...)
	if err != nil {
		return nil, err
	}
	out = &Returned{
		DiagramID: work.Plan.DiagramID, Name: work.Plan.DiagramName, Stone: is, Planned: cut.Stone, MM: cut.MM, Material: work.Plan.Material,
		Logged: true,
	}
	// Calipers know better than the plan how large it came out.
	if card := work.Finish; card != nil && card.WidthMM > 0 {
		out.MM = card.WidthMM / is.Measures().Width
	}
	return out, nil
}

// LikeDiagram is a diagram of the library that was brought to the measures of a stone.
type LikeDiagram struct {
	DiagramID, Name string
	*mending.Likeness
}

// How many diagrams of an outline are held against measures, and how many are told.
const mostLikened, mostLike = 200, 6

// Likenesses brings the diagrams of an outline to what was measured of a stone and returns those that come nearest, the nearest
// first. It returns the errors of the store, and the context's.
func (s *Stones) Likenesses(ctx context.Context, m mending.Measured, outline string) ([]LikeDiagram, error) {
	page, err := s.library.Diagrams(ctx, DiagramFilter{Outline: outline, Kept: true}, Cursor{}, mostLikened)
	if err != nil {
		return nil, err
	}
	out := []LikeDiagram{}
	for _, d := range page.Lines {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		r, err := s.library.Revision(ctx, d.Revision)
		if err != nil {
			return nil, err
		}
		stone, err := cutting.Cut(r.Diagram)
		if err != nil {
			continue
		}
		// A diagram that cannot be cut with such sides is not the stone's.
		if like, err := m.Liken(stone); err == nil {
			out = append(out, LikeDiagram{d.ID, r.Facts.Name, like})
		}
	}
	slices.SortStableFunc(out, func(a, b LikeDiagram) int { return cmp.Compare(a.Off, b.Off) })
	return out[:min(mostLike, len(out))], nil
}
