package workshop

import (
	"context"
	"errors"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/material"
)

// Assessment is what a plan comes to: figures and cautions, before it is kept.
type Assessment struct {
	Stone    *cutting.Stone
	Material material.Material
	Choices  Choices
	// MM is millimetres per design unit.
	MM            float64
	WidthMM       float64
	LengthMM      float64
	HeightMM      float64
	CrownMM       float64
	GirdleMM      float64
	PavilionMM    float64
	TableMM       float64
	Carats        float64
	CriticalAngle material.Range
	Machine       Machine
	Turns         cutting.Turns
	// LargestCheat is in degrees on the gear that was chosen.
	LargestCheat float64
	// Ranking lists the machine's gears, the best first. Proposed is a gear that
	// would carry the stone where none of them does, nil where one does or no gear
	// would.
	Ranking  []gear.Fit
	Proposed *gear.Fit
	// CheatGap is, on a machine without a cheater, the largest gap that the missing
	// cheats open in a meet, and CheatResidual the largest residual, in µm.
	CheatGap, CheatResidual float64
	// Left names habits that the diagram did not allow, Leaking optional tiers that let
	// light out in this material.
	Left, Leaking []diagram.Problem
	// Margins holds for each tier how far its angle stands above the critical
	// angle, nil where that says nothing: off the pavilion, and at 0.
	Margins []*float64
}

// Judgement of a margin.
type Judgement string

// Margins below 0 let light out; below 1.5 a small slip of the angle would.
const (
	MarginGood    Judgement = "good"
	MarginCaution Judgement = "caution"
	MarginError   Judgement = "error"
)

// CautiousMargin is the margin in degrees below which a tier is pointed out.
const CautiousMargin = 1.5

// JudgeMargin judges how far a pavilion angle stands above the critical angle.
func JudgeMargin(margin float64) Judgement {
	switch {
	case margin < 0:
		return MarginError
	case margin < CautiousMargin:
		return MarginCaution
	}
	return MarginGood
}

// Margins returns the margin of every tier of a diagram in a material with the
// given refractive index, nil where it says nothing.
func Margins(d *diagram.Diagram, refractiveIndex float64) []*float64 {
	out := make([]*float64, len(d.Tiers))
	for i, t := range d.Tiers {
		if t.Part == diagram.Pavilion && t.Angle > 0 {
			margin := t.Angle - material.CriticalAngle(refractiveIndex)
			out[i] = &margin
		}
	}
	return out
}

// Refusals of a plan. Field names the choice at fault.
const (
	UnknownMaterial diagram.Code = "unknown-material"
	NoSuchFlats     diagram.Code = "no-such-flats"
	SamePass        diagram.Code = "same-pass"
)

// Assess works a plan out without keeping it, from a revision that was frozen
// before or, where that is "", from the diagram's present one.
func (w *Workshop) Assess(ctx context.Context, diagramID, revision string, c Choices) (*Assessment, error) {
	revision, err := w.freeze(ctx, diagramID, revision)
	if err != nil {
		return nil, err
	}
	return w.assessRevision(ctx, revision, c, nil)
}

// freeze returns the revision that a plan is made from.
func (w *Workshop) freeze(ctx context.Context, diagramID, revision string) (string, error) {
	if revision != "" {
		return revision, nil
	}
	d, err := w.store.Diagram(ctx, diagramID)
	if err == nil && d.Revision == "" {
		err = ErrNotKept
	}
	return d.Revision, err
}

func (w *Workshop) assessRevision(ctx context.Context, hash string, c Choices, frozen *material.Material) (*Assessment, error) {
	r, err := w.store.Revision(ctx, hash)
	if err != nil {
		return nil, err
	}
	settings, err := w.Settings(ctx)
	if err != nil {
		return nil, err
	}
	m, ok := settings.Material(c.Material)
	if frozen != nil {
		m, ok = *frozen, true
	}
	if !ok {
		return nil, diagram.Problem{Code: UnknownMaterial, TierNo: -1, Field: "material", Text: c.Material}
	}
	return assess(r.Diagram, c, m, settings.MachineOf(c.Machine))
}

func assess(d *diagram.Diagram, c Choices, m material.Material, machine Machine) (*Assessment, error) {
	if err := checkPasses(c.Passes); err != nil {
		return nil, err
	}
	stone, err := cutting.Cut(d)
	if err != nil {
		return nil, err
	}
	if c.FirstSide != d.FirstSide {
		turned, err := cutting.OtherSideFirst(stone)
		if err != nil {
			return nil, inField(err, diagram.FieldFirstSide)
		}
		if stone, err = cutting.Cut(turned); err != nil {
			return nil, inField(err, diagram.FieldFirstSide)
		}
	}
	a := &Assessment{Material: m, Choices: c, Machine: machine}
	a.Stone, a.Left = cutting.Arrange(stone, c.Girdle, c.Table)
	if a.MM, err = scale(a.Stone, c.Size); err != nil {
		return nil, err
	}
	a.measure()
	a.fitGear()
	return a, nil
}

// fitGear puts the stone on the gear that was chosen, and tells what the others
// and the machine would make of it.
func (a *Assessment) fitGear() {
	stone, teeth := a.Stone, a.Choices.Gear
	if teeth != stone.Diagram.Gear {
		a.Turns = cutting.Together(stone.BestTurn(teeth).Turn)
		if a.Choices.Turning == TurnedSides {
			pavilion, crown := stone.BestTurnOfEachSide(teeth)
			a.Turns = cutting.Turns{Pavilion: pavilion.Turn, Crown: crown.Turn}
		}
	}
	a.LargestCheat = stone.LargestCheat(teeth, a.Turns)
	a.Ranking = stone.RankGears(a.Machine.Gears)
	if len(a.Ranking) == 0 || a.Ranking[0].LargestCheat > 0 {
		if fit, ok := stone.ProposeGear(); ok {
			a.Proposed = &fit
		}
	}
	if a.Machine.Cheater != CheaterNone || a.LargestCheat == 0 {
		return
	}
	for _, e := range stone.MeetErrors(stone.AtWholeTeeth(teeth, a.Turns)) {
		a.CheatGap = max(a.CheatGap, e.Gap*a.MM*1000)
		a.CheatResidual = max(a.CheatResidual, e.Residual*a.MM*1000)
	}
}

func checkPasses(passes []Pass) error {
	seen := map[string]bool{}
	for _, p := range passes {
		if seen[p.ID] {
			return diagram.Problem{Code: SamePass, TierNo: -1, Field: "passes", Text: p.Name}
		}
		seen[p.ID] = true
	}
	return nil
}

// inField points a problem of the turned diagram at the choice that turned it.
func inField(err error, field diagram.Field) error {
	var p diagram.Problem
	if errors.As(err, &p) {
		p.Field = field
		return p
	}
	return err
}

// scale returns the millimetres per design unit that give the stone its size.
func scale(s *cutting.Stone, size Size) (float64, error) {
	m := s.Measures()
	switch size.Basis {
	case "length":
		return size.MM / m.Length, nil
	case "flats":
		for _, c := range s.Calipers() {
			if s.Diagram.Tiers[c.TierNo].Name == size.Tier {
				return size.MM / c.Across, nil
			}
		}
		return 0, diagram.Problem{Code: NoSuchFlats, TierNo: -1, Field: "size", Text: size.Tier}
	}
	return size.MM / m.Width, nil
}

func (a *Assessment) measure() {
	m := a.Stone.Measures()
	part := func(ratio *float64) float64 {
		if ratio == nil {
			return 0
		}
		return *ratio * m.Width * a.MM
	}
	a.WidthMM, a.LengthMM, a.HeightMM = m.Width*a.MM, m.Length*a.MM, m.Height*a.MM
	a.CrownMM, a.GirdleMM = part(m.CrownHeight), part(m.GirdleBand)
	a.PavilionMM, a.TableMM = part(m.PavilionDepth), part(m.TableWidth)
	a.Carats = cutting.Carats(m.VolumeFactor, a.WidthMM, a.Material.SG)
	a.CriticalAngle = material.Range{
		Low:  material.CriticalAngle(a.Material.RefractiveIndex.High),
		High: a.Material.CriticalAngle(),
	}
	a.Margins = Margins(a.Stone.Diagram, a.Material.RefractiveIndex.Low)
	a.Leaking = angles.LeakingOptionals(a.Stone.Diagram, a.Material.RefractiveIndex.Low)
}
