package workshop

import (
	"context"
	"errors"
	"math"
	"slices"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/material"
	"cressa/core/rough"
	"cressa/core/solid"
)

// Assessment is what a plan comes to: figures and cautions, before it is kept.
type Assessment struct {
	Stone    *cutting.Stone
	Material material.Material
	Choices  Choices
	// MM is millimetres per design unit.
	MM       float64
	WidthMM  float64
	LengthMM float64
	HeightMM float64
	CrownMM  float64
	// GirdleMinMM and GirdleMaxMM are the girdle's thickness where it is least and where it
	// is greatest, 0 without one.
	GirdleMinMM   float64
	GirdleMaxMM   float64
	PavilionMM    float64
	TableMM       float64
	Carats        float64
	CriticalAngle material.Range
	Machine       Machine
	Turns         cutting.Turns
	// Setups are how the stone will be held, one after the other.
	Setups []Setup
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
	// Girdle says that the girdle is thinner or thicker than is usual.
	Girdle []diagram.Problem
	// In holds for each facet the place of its setup, in the order of the stone's facets.
	In []int
	// Free tells for each facet of a solid where it lies if its stop is missing when it is cut, nil where it is there or the stone is
	// held by its two sides.
	Free []*cutting.Free
	// Asked tells in the order of the stone's facets what a plan asks of them that mends or recuts, nil where all are cut to their
	// stops.
	Asked []FacetAsked
	// Margins holds for each tier how far its angle stands above the critical
	// angle, nil where that says nothing: off the pavilion, and at 0.
	Margins []*float64
}

// FacetAsked is what a plan asks of a facet that was cut before: that it stays, that it is only polished, or that TakeMM come off it
// along its normal; all are empty for one that is cut to its stop.
type FacetAsked struct {
	Stays, Polished bool
	TakeMM          float64
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

// A girdle that is out of the ordinary. Value is its thickness in mm, Low and High what is usual.
const (
	GirdleThin  diagram.Code = "girdle-thin"
	GirdleThick diagram.Code = "girdle-thick"
)

// Below thinGirdle mm a girdle chips in setting, above thickGirdle it looks heavy.
const thinGirdle, thickGirdle = 0.2, 1.0

// judgeGirdle marks a girdle that is too thin at its thinnest or too thick at its thickest, in
// mm. A hair less than the figure as it is shown is no reason.
func judgeGirdle(m cutting.Measures, thinnest, thickest float64) []diagram.Problem {
	const shown = 0.005
	var out []diagram.Problem
	if m.GirdleMin == nil {
		return nil
	}
	at := diagram.Problem{TierNo: -1, Field: "girdle", Low: thinGirdle, High: thickGirdle}
	if thinnest < thinGirdle-shown {
		at.Code, at.Value = GirdleThin, thinnest
		out = append(out, at)
	}
	if thickest > thickGirdle+shown {
		at.Code, at.Value = GirdleThick, thickest
		out = append(out, at)
	}
	return out
}

// Refusals of a plan. Field names the choice at fault.
const (
	UnknownMaterial              = rough.UnknownMaterial
	NoSuchFlats     diagram.Code = "no-such-flats"
)

// Assess works a plan out without keeping it, from a revision that was frozen before or,
// where that is "", from the diagram's present one. It returns ErrNotFound for an unknown
// diagram or revision, ErrNotKept for a draft without a kept version, and a
// diagram.Problem where the choices do not fit the diagram or the machine.
func (s *Stones) Assess(ctx context.Context, diagramID, revision string, c Choices) (*Assessment, error) {
	revision, err := s.library.freeze(ctx, diagramID, revision)
	if err != nil {
		return nil, err
	}
	return s.assessRevision(ctx, revision, c)
}

// freeze returns the revision that a plan is made from.
func (l *Library) freeze(ctx context.Context, diagramID, revision string) (string, error) {
	if revision != "" {
		return revision, nil
	}
	d, err := l.store.Diagram(ctx, diagramID)
	if err == nil && d.Revision == "" {
		err = ErrNotKept
	}
	return d.Revision, err
}

func (s *Stones) assessRevision(ctx context.Context, hash string, c Choices) (*Assessment, error) {
	r, err := s.library.Revision(ctx, hash)
	if err != nil {
		return nil, err
	}
	settings, err := s.preferences.Settings(ctx)
	if err != nil {
		return nil, err
	}
	m, ok := settings.Material(c.Material)
	if !ok {
		return nil, diagram.Problem{Code: UnknownMaterial, TierNo: -1, Field: "material", Text: c.Material}
	}
	return assess(r.Diagram, c, m, settings.MachineOf(c.Machine))
}

// assess works out what choices make of a diagram, by the rules that plans are made by.
func assess(d *diagram.Diagram, c Choices, m material.Material, machine Machine) (*Assessment, error) {
	if err := c.check(); err != nil {
		return nil, err
	}
	if machine.Cheater == CheaterNone {
		c.Cheats = gear.Cheating{}
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
	if err := c.checkFor(a.Stone.Diagram); err != nil {
		return nil, err
	}
	if c.Gear != a.Stone.Diagram.Gear {
		a.Turns = cutting.Together(a.Stone.BestTurn(c.Gear).Turn)
		if c.Turning == TurnedSides {
			pavilion, crown := a.Stone.BestTurnOfEachSide(c.Gear)
			a.Turns = cutting.Turns{Pavilion: pavilion.Turn, Crown: crown.Turn}
		}
	}
	if a.Setups, a.In, err = c.setups(a.Stone, a.Turns); err != nil {
		return nil, err
	}
	return a, a.measure()
}

// AssessStone works out the plan of a stone's present work, from what the plan has frozen
// and nothing else. It returns ErrNoPlan for a repair without one, and a diagram.Problem
// where the frozen plan no longer cuts.
func (s *Stones) AssessStone(ctx context.Context, stone Stone) (*Assessment, error) {
	p := stone.Work().Plan
	if p == nil {
		return nil, ErrNoPlan
	}
	cut, mm, err := s.cutPlan(ctx, *p)
	if err != nil {
		return nil, err
	}
	a := &Assessment{
		Stone: cut, MM: mm, Material: p.Material, Choices: p.Choices, Machine: p.Machine,
		Turns: p.Turns, Setups: p.Setups, In: p.in(cut), Left: p.Left, Asked: p.asked(cut, mm),
	}
	return a, a.figures()
}

// asked tells what a plan asks of the facets of its stone, whose unit is so many mm.
func (p *Plan) asked(stone *cutting.Stone, mm float64) []FacetAsked {
	if p.Mended == nil && p.Came == nil {
		return nil
	}
	var out []FacetAsked
	for _, id := range p.names(stone) {
		var f FacetAsked
		if p.Mended != nil {
			f.TakeMM = p.Mended.Take[id] * mm
		}
		if p.Came != nil {
			f.Stays, f.Polished = slices.Contains(p.Came.Rest, id), slices.Contains(p.Came.Polished, id)
		}
		out = append(out, f)
	}
	return out
}

// fitGear puts the stone on the gear that was chosen, and tells what the others
// and the machine would make of it.
func (a *Assessment) fitGear() error {
	stone, teeth := a.Stone, a.Choices.Gear
	on, cheat := ranked(stone), stone.LargestCheat(teeth, a.Turns)
	planes := func() []solid.Plane { return stone.AtWholeTeeth(teeth, a.Turns) }
	if len(a.Choices.DopUps) > 0 {
		held, err := a.Choices.held(stone)
		if err != nil {
			return err
		}
		on, cheat, a.Free = held, held.Fit(teeth).LargestCheat, held.Free()
		planes = func() []solid.Plane { return held.AtWholeTeeth(teeth) }
	}
	if !a.Choices.Cheats.Usual() {
		cheat = a.largestDialled()
	}
	a.LargestCheat, a.Ranking = cheat, on.RankGears(a.Machine.Gears)
	if len(a.Ranking) == 0 || a.Ranking[0].LargestCheat > 0 {
		if fit, ok := on.ProposeGear(); ok {
			a.Proposed = &fit
		}
	}
	if a.Machine.Cheater != CheaterNone || a.LargestCheat == 0 {
		return nil
	}
	errs, err := stone.MeetErrors(planes())
	for _, e := range errs {
		a.CheatGap = max(a.CheatGap, e.Gap*a.MM*1000)
		a.CheatResidual = max(a.CheatResidual, e.Residual*a.MM*1000)
	}
	return err
}

// largestDialled returns the largest cheat in degrees that is dialled on a stone that sits as it was glued.
func (a *Assessment) largestDialled() (largest float64) {
	for i := range a.Stone.Facets {
		largest = max(largest, math.Abs(a.Planned(i).Cheat))
	}
	return largest
}

// Planned returns how a facet, given by its place, is set on a stone that sits as it was glued to sit.
func (a *Assessment) Planned(place int) gear.Setting {
	pose := a.Setups[a.In[place]].Pose
	pose.Rotation = gear.Unmoved
	return a.dialled(place, pose)
}

// Dialled returns how a facet, given by its place, is set on the stone as it sits.
func (a *Assessment) Dialled(place int) gear.Setting {
	return a.dialled(place, a.Setups[a.In[place]].Pose)
}

func (a *Assessment) dialled(place int, pose gear.Pose) gear.Setting {
	// Poses of the workshop's own can be dialled.
	set, _ := gear.Dial(a.Stone.Facets[place].Plane.Normal, pose)
	return set
}

// ranked is a stone, however it is held, that is held against gears.
type ranked interface {
	RankGears(teeth []int) []gear.Fit
	ProposeGear() (gear.Fit, bool)
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
	case AlongLength:
		return size.MM / m.Length, nil
	case AcrossFlats:
		for _, c := range s.Calipers() {
			if s.Diagram.Tiers[c.TierNo].Name == size.Tier {
				return size.MM / c.Across, nil
			}
		}
		return 0, diagram.Problem{Code: NoSuchFlats, TierNo: -1, Field: "size", Text: size.Tier}
	}
	return size.MM / m.Width, nil
}

// measure gives the stone its size and fills in the figures.
func (a *Assessment) measure() (err error) {
	if a.MM, err = scale(a.Stone, a.Choices.Size); err != nil {
		return err
	}
	return a.figures()
}

// figures fills in the figures of a stone whose size is known.
func (a *Assessment) figures() error {
	m := a.Stone.Measures()
	part := func(ratio *float64) float64 {
		if ratio == nil {
			return 0
		}
		return *ratio * m.Width * a.MM
	}
	a.WidthMM, a.LengthMM, a.HeightMM = m.Width*a.MM, m.Length*a.MM, m.Height*a.MM
	a.CrownMM = part(m.CrownHeight)
	a.GirdleMinMM, a.GirdleMaxMM = part(m.GirdleMin), part(m.GirdleMax)
	if len(a.Choices.DopUps) == 0 {
		// The upright faces of a solid are no girdle.
		a.Girdle = judgeGirdle(m, a.GirdleMinMM, a.GirdleMaxMM)
	}
	a.PavilionMM, a.TableMM = part(m.PavilionDepth), part(m.TableWidth)
	a.Carats = cutting.Carats(m.VolumeFactor, a.WidthMM, a.Material.SG)
	a.CriticalAngle = material.Range{
		Low:  material.CriticalAngle(a.Material.RefractiveIndex.High),
		High: a.Material.CriticalAngle(),
	}
	a.Margins = Margins(a.Stone.Diagram, a.Material.RefractiveIndex.Low)
	a.Leaking = angles.LeakingOptionals(a.Stone.Diagram, a.Material.RefractiveIndex.Low)
	return a.fitGear()
}
