package server

import (
	"context"
	"fmt"
	"math"
	"net/http"
	"slices"
	"time"

	"github.com/labstack/echo/v5"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/material"
	"cressa/words"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// AssessRequest asks what a plan comes to.
type AssessRequest struct {
	DiagramID string `json:"diagramId"`
	// Revision is the version that a plan froze, "" for the diagram's present one.
	Revision string  `json:"revision"`
	Choices  Choices `json:"choices"`
}

// PlanRequest keeps a plan as a new stone.
type PlanRequest struct {
	Name      string  `json:"name" validate:"max=200"`
	DiagramID string  `json:"diagramId"`
	Choices   Choices `json:"choices"`
	// Piece is the ID of the piece of rough that it is cut from, "" where that is not on record.
	Piece string `json:"piece" validate:"max=40"`
}

// ReplanRequest changes a stone's plan over the version that was read.
type ReplanRequest struct {
	Choices Choices `json:"choices"`
	Version int     `json:"version"`
}

// CaliperReading is what calipers read on a girdle tier.
type CaliperReading struct {
	Tier  string  `json:"tier"`
	MM    float64 `json:"mm"`
	Flats bool    `json:"flats"`
}

// GearFit is how well a gear carries a stone: the turn to give it, and the largest
// cheat that is left, in degrees.
type GearFit struct {
	Teeth        int     `json:"teeth"`
	Turn         float64 `json:"turn"`
	LargestCheat float64 `json:"largestCheat"`
}

// TierLaps says with which group a tier of a plan shares its laps.
type TierLaps struct {
	Tier  string         `json:"tier"`
	Group workshop.Group `json:"group" validate:"oneof=pavilion girdle crown table"`
}

// Assessment is what a plan comes to, in mm, carats and degrees.
type Assessment struct {
	// Draft is the diagram as it would be cut.
	Draft Draft `json:"draft"`
	// FrostedGirdle tells that the girdle keeps light that a polished one would mirror.
	FrostedGirdle bool `json:"frostedGirdle"`
	// Laps has a line for every tier, in the order in which they are cut.
	Laps      []TierLaps `json:"laps"`
	MMPerUnit float64    `json:"mmPerUnit"`
	Width     float64    `json:"width"`
	Length    float64    `json:"length"`
	Height    float64    `json:"height"`
	Crown     float64    `json:"crown"`
	// GirdleMin and GirdleMax are the girdle's thickness where it is least and greatest, 0
	// without one.
	GirdleMin     float64        `json:"girdleMin"`
	GirdleMax     float64        `json:"girdleMax"`
	Pavilion      float64        `json:"pavilion"`
	Table         float64        `json:"table"`
	Carats        float64        `json:"carats"`
	CriticalAngle material.Range `json:"criticalAngle"`
	// RefractiveIndex has the two indices of a birefringent material, the lower first.
	RefractiveIndex material.Range `json:"refractiveIndex"`
	Turns           cutting.Turns  `json:"turns"`
	LargestCheat    float64        `json:"largestCheat"`
	// Ranking lists the machine's gears, the best first; Proposed is one that would
	// carry the stone where none of them does.
	Ranking  []GearFit `json:"ranking"`
	Proposed *GearFit  `json:"proposed"`
	// CheatGap and CheatResidual are what the missing cheater costs, in µm.
	CheatGap      float64 `json:"cheatGap"`
	CheatResidual float64 `json:"cheatResidual"`
	// Cheater tells whether the machine has one.
	Cheater  bool             `json:"cheater"`
	Calipers []CaliperReading `json:"calipers"`
	Warnings []Place          `json:"warnings"`
	// Obstacles keep the machine from cutting the diagram as it is drawn.
	Obstacles []Place `json:"obstacles"`
	// Held is what is dialled each time that the stone is held, in order: for a solid that is held by one face after the other, and for
	// a stone that is tipped or leans. It is empty where the diagram tells it.
	Held []HeldSetup `json:"held"`
	// NoTable tells that the stone has no flat to glue to at the transfer.
	NoTable bool       `json:"noTable"`
	Stone   *StoneView `json:"stone"`
}

// StonePage is one stone with what its plan comes to.
type StonePage struct {
	Summary    StoneLine  `json:"summary"`
	Plan       PlanView   `json:"plan"`
	Works      []WorkHead `json:"works"`
	Assessment Assessment `json:"assessment"`
	// Before is the stone before a recut, null for a first cut.
	Before *StoneBefore `json:"before"`
	// Source is where the rough came from, null where that is not on record.
	Source *StoneSource `json:"source"`
	// Photos are those of the work.
	Photos []Photo `json:"photos"`
	// HistoryEntry are the notes and the turning points of the work.
	History []HistoryEntry `json:"history"`
	// Began is when something first happened, null where nothing did.
	Began *time.Time `json:"began"`
	// Reckoned are the hours that follow from the ticks.
	Reckoned float64 `json:"reckoned"`
	// Finishing are the steps from the dop to the card.
	Finishing []TimedStep `json:"finishing"`
}

// StoneSource is the piece of rough that a stone is cut from.
type StoneSource struct {
	Piece  string `json:"piece"`
	Number int    `json:"number"`
	Name   string `json:"name"`
	Parcel string `json:"parcel"`
	// Parent is the number of the piece that it was sawn off, 0 for none.
	Parent int     `json:"parent"`
	Carats float64 `json:"carats"`
	// Cost is the stone's share in minor units of the currency, 0 where it is not known.
	Cost     float64 `json:"cost"`
	Currency string  `json:"currency"`
	// Width and Carat are those of the stone as it was found in the piece, 0 where nobody looked; Why are
	// the reasons for the choice.
	Width float64 `json:"width"`
	Carat float64 `json:"carat"`
	Why   string  `json:"why"`
}

// StoneBefore is a stone as it was before it is recut. Figures that were not taken are 0.
type StoneBefore struct {
	Carats   float64 `json:"carats"`
	WidthMM  float64 `json:"widthMM"`
	LengthMM float64 `json:"lengthMM"`
	HeightMM float64 `json:"heightMM"`
	// Why is what it is recut for, Way how where it keeps its diagram, "" where it gets another.
	Why string `json:"why"`
	Way string `json:"way"`
	// Agreed is what was agreed with its owner, "" where nothing was.
	Agreed string `json:"agreed"`
}

// ProposalRequest asks what a plan of a diagram begins with, for a new stone or, where one is
// named, for the recut of a finished one.
type ProposalRequest struct {
	ID    string `path:"id" json:"-"`
	Stone string `query:"stone" json:"stone" validate:"max=64"`
}

// RecutRequest plans a finished stone anew, over the version that was read.
type RecutRequest struct {
	DiagramID string  `json:"diagramId"`
	Choices   Choices `json:"choices"`
	Why       string  `json:"why" validate:"max=2000"`
	Version   int     `json:"version"`
}

// atWork names a stone, and one of its works where it is not the present one.
type atWork struct {
	ID   string `path:"id" json:"-"`
	Work string `query:"work" json:"work" validate:"max=64"`
}

// HistoryEntry is a note or a turning point of a work, as its page tells it.
type HistoryEntry struct {
	ID   string    `json:"id"`
	Kind string    `json:"kind"`
	At   time.Time `json:"at"`
	// By is who noted it, Text the note, or the number of the plan.
	By   string `json:"by"`
	Text string `json:"text"`
	// Facet names the facet and the pass that a note was made at, null for none.
	Facet *NotedFacet `json:"facet"`
}

// NotedFacet names a facet in a pass, as the bench does.
type NotedFacet struct {
	Tier  string `json:"tier"`
	Tooth int    `json:"tooth"`
	Pass  string `json:"pass"`
}

// HeldSetup is one of the times that a stone is held: the side or the facet that faces up, how it is seen from there, and what is
// dialled.
type HeldSetup struct {
	Name  string     `json:"name"`
	Right Point      `json:"right"`
	Above Point      `json:"above"`
	Tiers []HeldTier `json:"tiers"`
}

// HeldTier is what is dialled for those facets of a tier that are cut in a setup at an angle in degrees.
type HeldTier struct {
	Tier  string  `json:"tier"`
	Angle float64 `json:"angle"`
	Dials []Dial  `json:"dials"`
}

// DopUpsRequest asks how a solid is held so that no facet is dialled steeper than so many degrees.
type DopUpsRequest struct {
	ID       string  `path:"id" json:"-"`
	Steepest float64 `query:"steepest" json:"steepest" validate:"min=1,max=90"`
}

// DopUps are the facets that face up one time after the other.
type DopUps struct {
	DopUps []DopUp `json:"dopUps"`
}

func (s *Server) stoneRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/assess", name: "assessPlan", summary: "What a plan comes to"}, func(c *echo.Context, in withBody[AssessRequest]) (Assessment, error) {
		ctx := c.Request().Context()
		a, err := s.workshop.Assess(ctx, in.Body.DiagramID, in.Body.Revision, in.Body.Choices.choices())
		if err != nil {
			return Assessment{}, err
		}
		return assessmentOf(a), nil
	})
	handle(s, route{method: http.MethodGet, path: "/api/diagrams/:id/proposal", name: "proposePlan", summary: "What a plan of a diagram begins with"}, func(c *echo.Context, in ProposalRequest) (Choices, error) {
		choices, err := s.workshop.Propose(c.Request().Context(), in.ID, in.Stone)
		return choicesView(choices), err
	})
	handle(s, route{method: http.MethodGet, path: "/api/diagrams/:id/dop-ups", name: "proposeDopUps", summary: "How a solid can be held one time after the other"}, func(c *echo.Context, in DopUpsRequest) (DopUps, error) {
		ups, err := s.workshop.ProposeDopUps(c.Request().Context(), in.ID, in.Steepest)
		return DopUps{each(ups, func(d workshop.DopUp) DopUp { return DopUp(d) })}, err
	})
	handle(s, route{method: http.MethodPost, path: "/api/stones", name: "planStone", summary: "Keep a plan as a new stone", creates: true}, func(c *echo.Context, in withBody[PlanRequest]) (StoneHead, error) {
		stone, err := s.workshop.PlanFrom(c.Request().Context(), in.Body.Name, in.Body.DiagramID, in.Body.Piece, in.Body.Choices.choices())
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
	handle(s, route{method: http.MethodGet, path: "/api/stones/:id", name: "getStone", summary: "One stone"}, s.stonePage)
	handle(s, route{method: http.MethodGet, path: "/api/stones/:id/line", name: "getStoneLine", summary: "One stone as lists show it"}, func(c *echo.Context, in byID) (StoneLine, error) {
		return s.summary(c.Request().Context(), workshop.StoneFilter{ID: in.ID})
	})
	handle(s, route{method: http.MethodPost, path: "/api/stones/:id/recuts", name: "recutStone", summary: "Plan a finished stone anew", creates: true}, func(c *echo.Context, in byIDWithBody[RecutRequest]) (StoneHead, error) {
		b := in.Body
		stone, err := s.workshop.Recut(c.Request().Context(), in.ID, b.DiagramID, b.Choices.choices(), b.Why, b.Version)
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
	handle(s, route{method: http.MethodPut, path: "/api/stones/:id/plan", name: "replanStone", summary: "Change a stone's plan"}, func(c *echo.Context, in byIDWithBody[ReplanRequest]) (StoneHead, error) {
		stone, err := s.workshop.Replan(c.Request().Context(), in.ID, in.Body.Choices.choices(), in.Body.Version)
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
	handle(s, route{method: http.MethodPut, path: "/api/stones/:id/finish", name: "finishStone", summary: "Write a stone's logbook card"}, func(c *echo.Context, in byIDWithBody[Finish]) (Finish, error) {
		card, err := s.workshop.FinishStone(c.Request().Context(), in.ID, workshop.Finish(in.Body))
		return Finish(card), err
	})
}

// summary is the one line that a filter leaves.
func (s *Server) summary(ctx context.Context, f workshop.StoneFilter) (StoneLine, error) {
	page, err := s.workshop.Stones.Stones(ctx, f, workshop.Cursor{}, 1)
	if err == nil && len(page.Lines) == 0 {
		err = workshop.ErrNotFound
	}
	if err != nil {
		return StoneLine{}, err
	}
	return stoneLine(page.Lines[0]), nil
}

// stoneAt is a stone as it was at a work, and all works that it has.
func (s *Server) stoneAt(ctx context.Context, in atWork) (workshop.Stone, []WorkHead, error) {
	stone, err := s.workshop.Stone(ctx, in.ID)
	if err != nil {
		return stone, nil, err
	}
	works := workHeads(stone)
	stone, err = stone.At(in.Work)
	return stone, works, err
}

func (s *Server) stonePage(c *echo.Context, in atWork) (StonePage, error) {
	ctx := c.Request().Context()
	stone, works, err := s.stoneAt(ctx, in)
	if err != nil {
		return StonePage{}, err
	}
	a, err := s.workshop.AssessStone(ctx, stone)
	if err != nil {
		return StonePage{}, err
	}
	summary, err := s.summary(ctx, workshop.StoneFilter{Work: stone.Work().ID})
	if err != nil {
		return StonePage{}, err
	}
	state, err := s.workshop.WorkState(ctx, stone.Work().ID)
	if err != nil {
		return StonePage{}, err
	}
	out := StonePage{
		Summary: summary, Plan: planView(stone.Work().Plan), Works: works, Assessment: assessmentOf(a), Reckoned: state.Folded.Hours(),
	}
	if recut, ok := stone.Work().Task.(workshop.Recut); ok {
		out.Before = &StoneBefore{
			Carats: recut.Carats, WidthMM: recut.WidthMM, LengthMM: recut.LengthMM, HeightMM: recut.HeightMM, Why: recut.Why, Way: words.WayOut(recut.Way),
		}
		if recut.Intake != nil {
			out.Before.Agreed = recut.Intake.Agreed
		}
	}
	shelf, err := s.workshop.Shelf(ctx)
	if err != nil {
		return StonePage{}, err
	}
	out.Finishing = finishing(a, stone.Work().Plan, state.Folded, shelf)
	source, err := s.workshop.SourceOf(ctx, stone)
	if err != nil {
		return StonePage{}, err
	}
	out.Source = sourceView(source)
	if out.Photos, err = s.photosOf(ctx, stone); err != nil {
		return StonePage{}, err
	}
	names := func(v journal.Visit) *NotedFacet {
		name, ok := a.Names(stone.Work().Plan, v)
		if !ok {
			return nil
		}
		return (*NotedFacet)(&name)
	}
	out.History, out.Began, err = s.history(ctx, stone.Work().ID, names)
	return out, err
}

// finishing tells how a stone leaves its last dop and what is done then.
func finishing(a *workshop.Assessment, plan *workshop.Plan, w *journal.Work, shelf []workshop.Shelved) []TimedStep {
	var calipers []string
	for _, r := range a.Stone.Calipers() {
		calipers = append(calipers, fmt.Sprintf("%s %.2f mm", a.Stone.Diagram.Tiers[r.TierNo].Name, r.Across*a.MM))
	}
	on := mountOf(plan, len(plan.Setups)-1, w, shelf)
	return each(words.FinishSteps(on, a.Material, calipers), func(s words.Step) TimedStep { return TimedStep(s) })
}

func sourceView(s *workshop.Source) *StoneSource {
	if s == nil {
		return nil
	}
	out := &StoneSource{
		Piece: s.Piece, Number: s.Number, Name: s.Name, Parcel: s.Parcel, Parent: s.Parent, Carats: s.Carats, Cost: s.Cost, Currency: s.Currency, Why: s.Why,
	}
	if s.Found != nil {
		out.Width, out.Carat = s.Found.Width, s.Found.Carat
	}
	return out
}

// told returns what an event adds to the story of a work, in words.
func told(e journal.Event) (text string, ok bool) {
	if h, ok := e.Happens(); ok {
		return words.Happened(h), true
	}
	if m, ok := e.Measures(); ok {
		return words.Measured(m), true
	}
	return e.Tells()
}

// history returns the notes and turning points of a work that stand, and when something first
// happened. Names says what a visit is called; nil where there are none.
func (s *Server) history(ctx context.Context, workID string, names func(journal.Visit) *NotedFacet) (history []HistoryEntry, began *time.Time, err error) {
	events, err := s.workshop.EventsAfter(ctx, workID, 0, 0)
	history = []HistoryEntry{}
	for _, e := range journal.Ordered(events) {
		if e.Kind != journal.Plan && began == nil {
			began = &e.DeviceTime
		}
		if text, tells := told(e); tells {
			entry := HistoryEntry{ID: e.ID, Kind: string(e.Kind), At: e.DeviceTime, By: e.By.Name, Text: text}
			if at, ok := e.NotedAt(); ok && names != nil {
				entry.Facet = names(at)
			}
			history = append(history, entry)
		}
		if undone, ok := e.TakesBack(); ok {
			history = slices.DeleteFunc(history, func(t HistoryEntry) bool { return t.ID == undone })
		}
	}
	return history, began, err
}

func assessmentOf(a *workshop.Assessment) Assessment {
	out := Assessment{
		Draft: draftView(diagram.DraftOf(a.Stone.Diagram)), FrostedGirdle: a.Choices.Frosted(a.Stone.Diagram),
		MMPerUnit: a.MM, Width: a.WidthMM, Length: a.LengthMM, Height: a.HeightMM,
		Crown: a.CrownMM, GirdleMin: a.GirdleMinMM, GirdleMax: a.GirdleMaxMM, Pavilion: a.PavilionMM, Table: a.TableMM,
		Carats: a.Carats, CriticalAngle: a.CriticalAngle, RefractiveIndex: a.Material.RefractiveIndex, Turns: a.Turns, LargestCheat: a.LargestCheat,
		Ranking: fitsOf(a.Ranking), CheatGap: a.CheatGap, CheatResidual: a.CheatResidual,
		Cheater: a.Machine.Cheater != workshop.CheaterNone,
		NoTable: a.TableMM == 0, Calipers: calipersOf(a), Laps: []TierLaps{}, Held: heldOf(a),
		Warnings:  placesOf(slices.Concat(a.Stone.Warnings, a.Girdle, a.Left, a.Leaking)),
		Obstacles: placesOf(a.Machine.Obstacles(a.Stone)), Stone: plannedView(a),
	}
	if a.Proposed != nil {
		out.Proposed = &fitsOf([]gear.Fit{*a.Proposed})[0]
	}
	for _, t := range a.Stone.Diagram.Tiers {
		out.Laps = append(out.Laps, TierLaps{t.Name, workshop.GroupOf(t)})
	}
	return out
}

// heldOf tells what is dialled each time that the stone is held, where the diagram does not tell it: for a solid that is held by one
// face after the other, and for a stone that is tipped or leans.
func heldOf(a *workshop.Assessment) []HeldSetup {
	out := []HeldSetup{}
	asDrawn := func(s workshop.Setup) bool { return s.Pose.Rotation == gear.Unmoved }
	if len(a.Choices.DopUps) == 0 && !slices.ContainsFunc(a.Setups, func(s workshop.Setup) bool { return !asDrawn(s) }) {
		return out
	}
	for no, s := range a.Setups {
		// As it sits: what is dialled with the protractor at 90°, a quarter of the way round and at index N.
		right, above := s.Pose.Facing(90, float64(s.Pose.Gear)/4), s.Pose.Facing(90, 0)
		out = append(out, HeldSetup{a.Choices.UpName(no), pointOf(right), pointOf(above), []HeldTier{}})
	}
	for i, f := range a.Stone.Facets {
		held, set := &out[a.In[i]], a.Dialled(i)
		name := a.Stone.Diagram.Tiers[f.Tier].Name
		// Angles a hair apart are one.
		const same = 1e-4
		at := slices.IndexFunc(held.Tiers, func(t HeldTier) bool { return t.Tier == name && math.Abs(t.Angle-set.Angle) < same })
		if at < 0 {
			at = len(held.Tiers)
			held.Tiers = append(held.Tiers, HeldTier{Tier: name, Angle: set.Angle, Dials: []Dial{}})
		}
		if set.Angle > 0 {
			held.Tiers[at].Dials = append(held.Tiers[at].Dials, dialOf(set.Position, a.Choices.Gear, a.Machine))
		}
	}
	return out
}

// calipersOf is what calipers read on the girdle of a planned stone.
func calipersOf(a *workshop.Assessment) []CaliperReading {
	return each(a.Stone.Calipers(), func(r cutting.Caliper) CaliperReading {
		return CaliperReading{a.Stone.Diagram.Tiers[r.TierNo].Name, r.Across * a.MM, r.Flats}
	})
}

func fitsOf(fits []gear.Fit) []GearFit {
	out := make([]GearFit, len(fits))
	for i, f := range fits {
		out[i] = GearFit(f)
	}
	return out
}
