package server

import (
	"context"
	"errors"
	"net/http"
	"slices"
	"time"

	"github.com/labstack/echo/v5"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/core/tolerance"
	"cressa/words"
	"cressa/workshop"
)

// DraftOnly is a draft to be judged.
type DraftOnly struct {
	Draft Draft `json:"draft"`
}

// SequenceReport tells whether a draft can be cut in its order.
type SequenceReport struct {
	Cuttable bool    `json:"cuttable"`
	Problems []Place `json:"problems"`
	// Free lists the places of tiers that are cut by size or by eye.
	Free     []int          `json:"free"`
	Optional []OptionalTier `json:"optional"`
	// Better is an order in which it can be cut, or with fewer tiers by eye; null where
	// none was found. It is the draft itself where nothing is better.
	Better *BetterOrder `json:"better"`
	// Ended tells how the search for a better order ended.
	Ended string `json:"ended" validate:"oneof=complete budget stopped"`
}

// BetterOrder is a draft with its tiers in a better order.
type BetterOrder struct {
	Draft Draft `json:"draft"`
	// Free lists the places of its tiers that are cut by size or by eye.
	Free []int `json:"free"`
	// Changed tells whether anything is different.
	Changed bool `json:"changed"`
}

// OptionalTier tells whether the rest still cuts without an optional tier.
type OptionalTier struct {
	Tier int  `json:"tier"`
	Cuts bool `json:"cuts"`
	// Why says what the rest misses, "" where it cuts.
	Why string `json:"why"`
}

// StopProposals are drafts with the stops that were missing, the likeliest first.
type StopProposals struct {
	// Guessed tells that they were found from the angles alone; otherwise they lead to
	// the same stone.
	Guessed bool `json:"guessed"`
	// Ended tells how the search ended.
	Ended     string  `json:"ended" validate:"oneof=complete budget stopped"`
	Proposals []Draft `json:"proposals"`
}

// AnglesRequest asks for the angles of a draft to be moved and rounded.
type AnglesRequest struct {
	Draft Draft `json:"draft"`
	// Target is null where the angles stay, apart from being rounded.
	Target *AnglesTarget `json:"target"`
	// Step in degrees is what the angles are rounded to, 0 for not at all. Search looks
	// for the neighbours that cost least; otherwise the nearest are taken.
	Step   float64 `json:"step" validate:"min=0,max=5"`
	Search bool    `json:"search"`
	// Width in mm is what gaps, heights and weights are reckoned with, Material what the
	// weights are of, "" for none.
	Width    float64 `json:"width" validate:"min=0.1,max=500"`
	Material string  `json:"material" validate:"max=100"`
}

// AnglesTarget is what the angles are to suit.
type AnglesTarget struct {
	RefractiveIndex float64 `json:"refractiveIndex" validate:"min=1.01,max=4"`
	// Margin is that of the shallowest pavilion tier, null for its own, at least 1.
	Margin      *float64 `json:"margin" validate:"omitempty,min=-20,max=40"`
	CrownFactor float64  `json:"crownFactor" validate:"min=0.1,max=10"`
	// CrownWithPavilion gives the crown the pavilion's factor instead.
	CrownWithPavilion bool `json:"crownWithPavilion"`
}

// AnglesReport is a draft at other angles, beside what it was.
type AnglesReport struct {
	Draft Draft `json:"draft"`
	// Exact is the draft before it was rounded.
	Exact          Draft   `json:"exact"`
	PavilionFactor float64 `json:"pavilionFactor"`
	CrownFactor    float64 `json:"crownFactor"`
	// Margin is what the shallowest pavilion tier was given, 0 without a target.
	Margin   float64      `json:"margin"`
	Tiers    []MovedTier  `json:"tiers"`
	Before   MovedStone   `json:"before"`
	After    MovedStone   `json:"after"`
	Warnings []Place      `json:"warnings"`
	Meets    []LoupeMeet  `json:"meets"`
	Nearest  RoundingCost `json:"nearest"`
	// Ended tells how the search for the best rounding ended.
	Ended string       `json:"ended" validate:"oneof=complete budget stopped"`
	Best  RoundingCost `json:"best"`
}

// MovedTier is a tier before and after, angles in degrees.
type MovedTier struct {
	Name       string   `json:"name"`
	From       float64  `json:"from"`
	Exact      float64  `json:"exact"`
	To         float64  `json:"to"`
	MarginFrom *float64 `json:"marginFrom"`
	MarginTo   *float64 `json:"marginTo"`
	Judgement  string   `json:"judgement"`
}

// MovedStone is what a stone measures at the given width.
type MovedStone struct {
	CriticalAngle float64          `json:"criticalAngle"`
	Measures      cutting.Measures `json:"measures"`
	// Carats is null where no material is named.
	Carats *float64 `json:"carats"`
}

// RoundingCost is what a rounding opens, in µm: the largest gap and residual.
type RoundingCost struct {
	Gap      float64 `json:"gap"`
	Residual float64 `json:"residual"`
}

// MachineErrors are those of the default machine: standard deviations, angle and index in
// degrees, depth in mm.
type MachineErrors struct {
	Machine string  `json:"machine"`
	Angle   float64 `json:"angle"`
	Index   float64 `json:"index"`
	Depth   float64 `json:"depth"`
}

// ToleranceRequest asks what a machine's errors do to the meets.
type ToleranceRequest struct {
	Draft Draft   `json:"draft"`
	Width float64 `json:"width" validate:"min=0.1,max=500"`
	// Angle and Index are standard deviations in degrees, Depth in mm.
	Angle  float64 `json:"angle" validate:"min=0,max=5"`
	Index  float64 `json:"index" validate:"min=0,max=5"`
	Depth  float64 `json:"depth" validate:"min=0,max=1"`
	Trials int     `json:"trials" validate:"min=20,max=5000"`
}

// ToleranceLine is how far it has come, and at the end the result.
type ToleranceLine struct {
	Done   int              `json:"done"`
	Total  int              `json:"total"`
	Result *ToleranceResult `json:"result"`
}

// ToleranceResult is what came of the trials.
type ToleranceResult struct {
	Meets  []ScatteredMeet `json:"meets"`
	ByTier []TierShare     `json:"byTier"`
	// Rounding holds coarser steps against the worst meet.
	Rounding []RoundingStep `json:"rounding"`
}

// ScatteredMeet is a meet with the gaps in µm that half of the stones exceed, and one in
// twenty.
type ScatteredMeet struct {
	Point  Point    `json:"point"`
	Facets []string `json:"facets"`
	P50    float64  `json:"p50"`
	P95    float64  `json:"p95"`
}

// TierShare is a tier's part of the variance of the worst meet's gap, 0 to 1.
type TierShare struct {
	Name  string  `json:"name"`
	Share float64 `json:"share"`
}

// RoundingStep is what rounding every angle to a step would open by itself.
type RoundingStep struct {
	Step float64 `json:"step"`
	Gap  float64 `json:"gap"`
	// Noticed tells that it is more than the machine opens in half of the stones.
	Noticed bool `json:"noticed"`
}

// patience is how long a search may take before it makes do with what it has.
const patience = 12 * time.Second

func (s *Server) judgingRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/sequence", name: "judgeOrder", summary: "Whether a draft can be cut in its order, and a better one"}, alone(s, s.judgeOrder))
	handle(s, route{method: http.MethodPost, path: "/api/stops", name: "deriveStops", summary: "The stops that a draft lacks"}, alone(s, deriveStops))
	handle(s, route{method: http.MethodPost, path: "/api/angles", name: "moveAngles", summary: "A draft for another refractive index, its angles rounded"}, alone(s, s.moveAngles))
	handle(s, route{method: http.MethodGet, path: "/api/tolerance", name: "machineErrors", summary: "By how much the default machine repeats"}, s.machineErrors)
	stream(s, route{method: http.MethodPost, path: "/api/tolerance", name: "tolerance", summary: "What a machine's errors do to the meets"}, s.tolerance)
}

// named gives a draft that has no name yet one, so that it can be read.
func named(draft diagram.Draft) diagram.Draft {
	if draft.Name == "" {
		draft.Name = "draft"
	}
	return draft
}

func (s *Server) judgeOrder(c *echo.Context, in withBody[DraftOnly]) (SequenceReport, error) {
	ctx, done := context.WithTimeout(c.Request().Context(), patience)
	defer done()
	d, problems := named(in.Body.Draft.draft()).Read()
	if len(problems) > 0 {
		return SequenceReport{}, workshop.NotCuttable{Problems: problems}
	}
	settings, err := s.workshop.Settings(ctx)
	if err != nil {
		return SequenceReport{}, err
	}
	habits := settings.HabitsOf("")
	q := cutting.JudgeOrder(ctx, d, cutting.Preference{Girdle: habits.Girdle, Table: habits.Table})
	out := SequenceReport{Cuttable: q.Cuttable, Problems: placesOf(q.Problems), Free: q.Free, Optional: []OptionalTier{}, Ended: string(q.Status)}
	if q.Better != nil {
		better := draftView(in.Body.Draft.draft().Rewritten(q.Better.Diagram, q.Order))
		out.Better = &BetterOrder{Draft: better, Free: cutting.ByEye(q.Better.Diagram), Changed: !slices.Equal(better.Tiers, in.Body.Draft.Tiers)}
	}
	for no, t := range d.Tiers {
		if !t.Optional {
			continue
		}
		o := OptionalTier{Tier: no, Cuts: true}
		var p diagram.Problem
		if _, err := cutting.CutWithout(d, []int{no}); errors.As(err, &p) {
			o.Cuts, o.Why = false, words.Problem(p)
			if place := words.Place(p); place != "" {
				o.Why = place + ": " + o.Why
			}
		}
		out.Optional = append(out.Optional, o)
	}
	return out, nil
}

// deriveStops guesses the stops that are not written. Where all are, it words those anew
// that are cut by eye, for the same stone.
func deriveStops(c *echo.Context, in withBody[DraftOnly]) (StopProposals, error) {
	ctx, done := context.WithTimeout(c.Request().Context(), patience)
	defer done()
	out := StopProposals{Proposals: []Draft{}, Ended: string(cutting.Complete)}
	d, lacking, problems := named(in.Body.Draft.draft()).ReadLacking()
	if len(problems) > 0 {
		return out, workshop.NotCuttable{Problems: problems}
	}
	var stones []*cutting.Stone
	var err error
	if out.Guessed = lacking; lacking {
		const offered = 6
		var status cutting.Status
		if stones, status, err = cutting.GuessStops(ctx, d, offered); err != nil {
			return out, err
		}
		out.Ended = string(status)
	} else {
		stone, err := cutting.Cut(d)
		if err != nil {
			return out, err
		}
		derived, err := cutting.DeriveStops(d, stone.Distances(), cutting.Exactly)
		if err != nil {
			return out, err
		}
		stones = append(stones, derived)
	}
	for _, stone := range stones {
		out.Proposals = append(out.Proposals, draftView(in.Body.Draft.draft().Rewritten(stone.Diagram, nil)))
	}
	return out, nil
}

func (s *Server) moveAngles(c *echo.Context, in withBody[AnglesRequest]) (AnglesReport, error) {
	ctx, done := context.WithTimeout(c.Request().Context(), patience)
	defer done()
	stone, err := finished(in.Body.Draft.draft())
	if err != nil {
		return AnglesReport{}, err
	}
	settings, err := s.workshop.Settings(ctx)
	if err != nil {
		return AnglesReport{}, err
	}
	var weighed *material.Material
	if in.Body.Material != "" {
		m, ok := settings.Material(in.Body.Material)
		if !ok {
			return AnglesReport{}, diagram.Problem{Code: workshop.UnknownMaterial, TierNo: -1, Field: "material", Text: in.Body.Material}
		}
		weighed = &m
	}
	exact := stone
	errs, err := stone.MeetErrors(stone.Planes())
	if err != nil {
		return AnglesReport{}, err
	}
	out := AnglesReport{Ended: string(cutting.Complete), PavilionFactor: 1, CrownFactor: 1, Tiers: []MovedTier{}}
	var warnings []diagram.Problem
	if to := in.Body.Target; to != nil {
		moved, err := angles.Retarget(stone, angles.Target(*to))
		if err != nil {
			return out, err
		}
		exact, errs, warnings = moved.Stone, moved.Errors, moved.Warnings()
		out.PavilionFactor, out.CrownFactor, out.Margin = moved.PavilionFactor, moved.CrownFactor, moved.Margin
	} else {
		warnings = angles.LeakingOptionals(stone.Diagram, stone.Diagram.RefractiveIndex)
	}
	out.Exact = draftView(in.Body.Draft.draft().Rewritten(exact.Diagram, nil))
	after := exact
	um := 1000 * in.Body.Width / exact.Measures().Width
	if in.Body.Step > 0 {
		m := settings.MachineOf("").WithStep(in.Body.Step)
		nearest, err := angles.Round(exact, angles.Nearest(exact, m.SettableAngles))
		if err != nil {
			return out, err
		}
		best, status, err := angles.BestRounding(ctx, exact, m.SettableAngles)
		if err != nil {
			return out, err
		}
		out.Ended = string(status)
		chosen := nearest
		if in.Body.Search {
			chosen = best
		}
		after, errs = chosen.Stone, chosen.Errors
		out.Nearest, out.Best = costOf(nearest, um), costOf(best, um)
	}
	out.Draft = draftView(in.Body.Draft.draft().Rewritten(after.Diagram, nil))
	out.Before, out.After = movedStone(stone, in.Body.Width, weighed), movedStone(after, in.Body.Width, weighed)
	out.Meets = loupeMeets(exact, errs, um)
	out.Warnings = placesOf(warnings)
	from := workshop.Margins(stone.Diagram, stone.Diagram.RefractiveIndex)
	to := workshop.Margins(after.Diagram, after.Diagram.RefractiveIndex)
	for i, t := range after.Diagram.Tiers {
		m := MovedTier{
			Name: t.Name, From: stone.Diagram.Tiers[i].Angle, Exact: exact.Diagram.Tiers[i].Angle, To: t.Angle,
			MarginFrom: from[i], MarginTo: to[i], Judgement: string(workshop.MarginGood),
		}
		if to[i] != nil {
			m.Judgement = string(workshop.JudgeMargin(*to[i]))
		}
		out.Tiers = append(out.Tiers, m)
	}
	return out, nil
}

func costOf(r *angles.Rounded, um float64) RoundingCost {
	out := RoundingCost{Gap: um * r.Gap()}
	for _, e := range r.Errors {
		out.Residual = max(out.Residual, um*e.Residual)
	}
	return out
}

func movedStone(s *cutting.Stone, width float64, of *material.Material) MovedStone {
	out := MovedStone{CriticalAngle: material.CriticalAngle(s.Diagram.RefractiveIndex), Measures: s.Measures()}
	if of != nil {
		carats := cutting.Carats(out.Measures.VolumeFactor, width, of.SG)
		out.Carats = &carats
	}
	return out
}

func (s *Server) machineErrors(c *echo.Context, _ struct{}) (MachineErrors, error) {
	settings, err := s.workshop.Settings(c.Request().Context())
	if err != nil {
		return MachineErrors{}, err
	}
	m := settings.MachineOf("")
	out := MachineErrors{Machine: m.Name}
	out.Angle, out.Index, out.Depth = m.Repeats()
	return out, nil
}

func (s *Server) tolerance(c *echo.Context, in withBody[ToleranceRequest], send func(ToleranceLine) error) error {
	stone, err := finished(in.Body.Draft.draft())
	if err != nil {
		return err
	}
	settings, err := s.workshop.Settings(c.Request().Context())
	if err != nil {
		return err
	}
	ctx, stop := context.WithCancel(s.parallel(c.Request().Context()))
	defer stop()
	mm := in.Body.Width / stone.Measures().Width
	spread := tolerance.Spread{Angle: in.Body.Angle, Index: in.Body.Index, Depth: in.Body.Depth / mm}
	// The trials run on all cores; one hand writes.
	progress := make(chan ToleranceLine, 1)
	var result *tolerance.Result
	go func() {
		defer close(progress)
		result, err = tolerance.Run(ctx, stone, spread, in.Body.Trials, 1, func(done, total int) {
			select {
			case progress <- ToleranceLine{Done: done, Total: total}:
			default: // the last one is not sent yet; the next will tell more
			}
		})
	}()
	total := in.Body.Trials * (1 + len(stone.Diagram.Tiers))
	for line := range progress {
		if send(line) != nil {
			stop() // nobody listens any more
		}
	}
	if err != nil {
		return err
	}
	out := ToleranceResult{Meets: []ScatteredMeet{}, ByTier: []TierShare{}, Rounding: []RoundingStep{}}
	for _, m := range result.Meets {
		out.Meets = append(out.Meets, ScatteredMeet{
			Point: pointOf(m.Point), Facets: facetNames(stone, m.Facets), P50: 1000 * mm * m.P50, P95: 1000 * mm * m.P95,
		})
	}
	for i, share := range result.Shares {
		out.ByTier = append(out.ByTier, TierShare{stone.Diagram.Tiers[i].Name, share})
	}
	m := settings.MachineOf("")
	for _, r := range result.Roundings(stone, func(step float64) angles.Settable { return m.WithStep(step).SettableAngles }) {
		out.Rounding = append(out.Rounding, RoundingStep{r.Step, 1000 * mm * r.Gap, r.Noticed})
	}
	return send(ToleranceLine{Done: total, Total: total, Result: &out})
}
