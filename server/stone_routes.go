package server

import (
	"context"
	"math"
	"net/http"
	"slices"

	"github.com/labstack/echo/v5"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/material"
	"cressa/words"
	"cressa/workshop"
)

// StoneList is every stone, the one touched last first.
type StoneList struct {
	Stones []workshop.Summary `json:"stones"`
}

// AssessRequest asks what a plan comes to.
type AssessRequest struct {
	DiagramID string `json:"diagramId"`
	// Revision is the version that a plan froze, "" for the diagram's present one.
	Revision string           `json:"revision"`
	Choices  workshop.Choices `json:"choices"`
}

// PlanRequest keeps a plan as a new stone.
type PlanRequest struct {
	Name      string           `json:"name" validate:"max=200"`
	DiagramID string           `json:"diagramId"`
	Choices   workshop.Choices `json:"choices"`
}

// ReplanRequest changes a stone's plan over the version that was read.
type ReplanRequest struct {
	Choices workshop.Choices `json:"choices"`
	Version int              `json:"version"`
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

// Assessment is what a plan comes to, in mm, carats and degrees.
type Assessment struct {
	// Draft is the diagram as it would be cut.
	Draft diagram.Draft `json:"draft"`
	// FrostedGirdle tells that the girdle keeps light that a polished one would mirror.
	FrostedGirdle bool           `json:"frostedGirdle"`
	MMPerUnit     float64        `json:"mmPerUnit"`
	Width         float64        `json:"width"`
	Length        float64        `json:"length"`
	Height        float64        `json:"height"`
	Crown         float64        `json:"crown"`
	Girdle        float64        `json:"girdle"`
	Pavilion      float64        `json:"pavilion"`
	Table         float64        `json:"table"`
	Carats        float64        `json:"carats"`
	CriticalAngle material.Range `json:"criticalAngle"`
	Turns         cutting.Turns  `json:"turns"`
	LargestCheat  float64        `json:"largestCheat"`
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
	// NoTable tells that the stone has no flat to glue to at the transfer.
	NoTable bool       `json:"noTable"`
	Stone   *StoneView `json:"stone"`
}

// StonePage is one stone with what its plan comes to.
type StonePage struct {
	Summary    workshop.Summary `json:"summary"`
	Assessment Assessment       `json:"assessment"`
	Events     []workshop.Event `json:"events"`
	// Reckoned are the hours that follow from the ticks.
	Reckoned float64 `json:"reckoned"`
}

// EventsRequest adds a batch to a stone's log.
type EventsRequest struct {
	Events []workshop.Event `json:"events" validate:"min=1,max=5000,dive"`
}

// EventList is a stone's log in the order in which it arrived.
type EventList struct {
	Events []workshop.Event `json:"events"`
}

// BenchScript is everything the bench needs to cut a stone without asking again.
type BenchScript struct {
	Number    int              `json:"number"`
	Name      string           `json:"name"`
	Diagram   string           `json:"diagram"`
	Material  string           `json:"material"`
	MMPerUnit float64          `json:"mmPerUnit"`
	Gear      int              `json:"gear"`
	PlanNo    int              `json:"planNo"`
	Finished  bool             `json:"finished"`
	Setups    []workshop.Setup `json:"setups"`
	Passes    []workshop.Pass  `json:"passes"`
	Facets    []BenchFacet     `json:"facets"`
	Visits    []BenchVisit     `json:"visits"`
	Mesh      Mesh             `json:"mesh"`
	Wheel     []Tooth          `json:"wheel"`
	Levels    Levels           `json:"levels"`
	Checks    []TransferCheck  `json:"checks"`
	Events    []workshop.Event `json:"events"`
	Cautions  []string         `json:"cautions"`
	// Cheater is none, degrees or turns. CheatGap is what a missing one costs the
	// meets, in µm.
	Cheater  string  `json:"cheater"`
	CheatGap float64 `json:"cheatGap"`
	// Tick is what Done ticks by habit.
	Tick string `json:"tick"`
}

// BenchFacet is a facet as it is cut.
type BenchFacet struct {
	ID    string `json:"id"`
	No    int    `json:"no"`
	Tier  string `json:"tier"`
	Part  string `json:"part"`
	Setup int    `json:"setup"`
	Dial  Dial   `json:"dial"`
	// Below and Above are the angle's settable neighbours on this machine, equal
	// where it can be set as it is.
	Angle float64 `json:"angle"`
	Below float64 `json:"below"`
	Above float64 `json:"above"`
	// Reading is what the protractor shows for the angle, Adapter that it is set so for
	// the table adapter.
	Reading float64 `json:"reading"`
	Adapter bool    `json:"adapter"`
	// Division is what one division of the height dial does, null without a dial.
	Division *workshop.Division `json:"division"`
	Stop     string             `json:"stop"`
	Note     string             `json:"note"`
	Target   Point              `json:"target"`
	AtMeet   bool               `json:"atMeet"`
}

// BenchVisit is one facet in one pass, with the place of its facet in the script.
type BenchVisit struct {
	Setup string `json:"setup"`
	Pass  string `json:"pass"`
	Facet int    `json:"facet"`
	Round int    `json:"round"`
	// Minutes is how long it took, or how long such a one takes.
	Minutes float64 `json:"minutes"`
}

// TransferCheck is an item to check when the stone is turned over.
type TransferCheck struct {
	Item string `json:"item"`
	Text string `json:"text"`
}

func (s *Server) stoneRoutes() {
	handle(s, http.MethodPost, "/api/assess", "assessPlan", "What a plan comes to", func(c *echo.Context, in withBody[AssessRequest]) (Assessment, error) {
		ctx := c.Request().Context()
		a, err := s.workshop.Assess(ctx, in.Body.DiagramID, in.Body.Revision, in.Body.Choices)
		if err != nil {
			return Assessment{}, err
		}
		return assessmentOf(a), nil
	})
	handle(s, http.MethodGet, "/api/diagrams/:id/proposal", "proposePlan", "What a plan of a diagram begins with", func(c *echo.Context, in byID) (workshop.Choices, error) {
		return s.workshop.Propose(c.Request().Context(), in.ID)
	})
	handle(s, http.MethodGet, "/api/stones", "listStones", "Every stone", func(c *echo.Context, _ struct{}) (StoneList, error) {
		list, err := s.workshop.Stones(c.Request().Context())
		return StoneList{list}, err
	})
	handle(s, http.MethodPost, "/api/stones", "planStone", "Keep a plan as a new stone", func(c *echo.Context, in withBody[PlanRequest]) (workshop.Stone, error) {
		return s.workshop.PlanStone(c.Request().Context(), in.Body.Name, in.Body.DiagramID, in.Body.Choices)
	})
	handle(s, http.MethodGet, "/api/stones/:id", "getStone", "One stone", s.stonePage)
	handle(s, http.MethodPut, "/api/stones/:id/plan", "replanStone", "Change a stone's plan", func(c *echo.Context, in byIDWithBody[ReplanRequest]) (workshop.Stone, error) {
		return s.workshop.Replan(c.Request().Context(), in.ID, in.Body.Choices, in.Body.Version)
	})
	handle(s, http.MethodGet, "/api/stones/:id/script", "getScript", "The work on a stone, step by step", s.script)
	handle(s, http.MethodPost, "/api/stones/:id/events", "addEvents", "Add to a stone's log", func(c *echo.Context, in byIDWithBody[EventsRequest]) (EventList, error) {
		events, err := s.workshop.AppendEvents(c.Request().Context(), in.ID, in.Body.Events)
		return EventList{events}, err
	})
	handle(s, http.MethodPut, "/api/stones/:id/finish", "finishStone", "Write a stone's logbook card", func(c *echo.Context, in byIDWithBody[workshop.Finish]) (workshop.Finish, error) {
		return s.workshop.FinishStone(c.Request().Context(), in.ID, in.Body)
	})
}

func (s *Server) stonePage(c *echo.Context, in byID) (StonePage, error) {
	ctx := c.Request().Context()
	stone, err := s.workshop.Stone(ctx, in.ID)
	if err != nil {
		return StonePage{}, err
	}
	summary, err := s.workshop.Summary(ctx, stone)
	if err != nil {
		return StonePage{}, err
	}
	a, err := s.workshop.AssessStone(ctx, stone)
	if err != nil {
		return StonePage{}, err
	}
	events, err := s.workshop.Events(ctx, in.ID)
	reckoned := workshop.Hours(events)
	if stone.Run != "" && stone.Work.Finish == nil {
		reckoned = summary.Hours
	}
	return StonePage{summary, assessmentOf(a), events, reckoned}, err
}

func assessmentOf(a *workshop.Assessment) Assessment {
	out := Assessment{
		Draft: diagram.DraftOf(a.Stone.Diagram), FrostedGirdle: a.Choices.GirdleFinish.Frosted(),
		MMPerUnit: a.MM, Width: a.WidthMM, Length: a.LengthMM, Height: a.HeightMM,
		Crown: a.CrownMM, Girdle: a.GirdleMM, Pavilion: a.PavilionMM, Table: a.TableMM,
		Carats: a.Carats, CriticalAngle: a.CriticalAngle, Turns: a.Turns, LargestCheat: a.LargestCheat,
		Ranking: fitsOf(a.Ranking), CheatGap: a.CheatGap, CheatResidual: a.CheatResidual,
		Cheater: a.Machine.Cheater != workshop.CheaterNone,
		NoTable: a.TableMM == 0, Calipers: []CaliperReading{},
		Warnings:  placesOf(slices.Concat(a.Stone.Warnings, a.Left, a.Leaking)),
		Obstacles: placesOf(a.Machine.Obstacles(a.Stone)), Stone: planView(a),
	}
	if a.Proposed != nil {
		out.Proposed = &fitsOf([]gear.Fit{*a.Proposed})[0]
	}
	for _, r := range a.Stone.Calipers() {
		out.Calipers = append(out.Calipers, CaliperReading{a.Stone.Diagram.Tiers[r.TierNo].Name, r.Across * a.MM, r.Flats})
	}
	return out
}

func fitsOf(fits []gear.Fit) []GearFit {
	out := make([]GearFit, len(fits))
	for i, f := range fits {
		out[i] = GearFit(f)
	}
	return out
}

func (s *Server) script(c *echo.Context, in byID) (BenchScript, error) {
	ctx := c.Request().Context()
	stone, err := s.workshop.Stone(ctx, in.ID)
	if err != nil {
		return BenchScript{}, err
	}
	return s.scriptOf(ctx, stone)
}

func (s *Server) scriptOf(ctx context.Context, stone workshop.Stone) (BenchScript, error) {
	script, err := s.workshop.Script(ctx, stone)
	if err != nil {
		return BenchScript{}, err
	}
	events, err := s.workshop.Events(ctx, stone.ID)
	if err != nil {
		return BenchScript{}, err
	}
	settings, err := s.workshop.Settings(ctx)
	if err != nil {
		return BenchScript{}, err
	}
	a, plan := script.Assessment, stone.Work.Plan
	d := a.Stone.Diagram
	out := BenchScript{
		Number: stone.Number, Name: stone.Name, Diagram: plan.DiagramName, Material: a.Material.Name,
		MMPerUnit: a.MM, Gear: plan.Choices.Gear, PlanNo: plan.No, Finished: stone.Work.Finish != nil,
		Setups: script.Setups, Passes: script.Passes, Facets: []BenchFacet{}, Visits: []BenchVisit{},
		Mesh: meshOf(script.Steps), Wheel: wheelOf(plan.Choices.Gear), Events: events,
		Checks: []TransferCheck{}, Cautions: words.Cautions(a.Material),
		Cheater: string(a.Machine.Cheater), CheatGap: a.CheatGap, Tick: settings.HabitsOf("").Tick,
	}
	l := a.Stone.Levels()
	out.Levels = Levels{Bottom: l.Bottom, GirdleLow: l.GirdleLow, GirdleHigh: l.GirdleHigh, Top: l.Top, HasGirdle: l.HasGirdle}
	scale := words.Scale{MM: a.MM, Width: a.Stone.Measures().Width}
	for _, f := range script.Facets {
		t := d.Tiers[f.TierNo]
		facet := BenchFacet{
			ID: f.ID, No: f.No, Tier: f.Tier, Part: string(f.Part), Setup: f.Setup, Dial: dialOf(f.Dial, plan.Choices.Gear, a.Machine),
			Angle: f.Angle, Reading: f.Reading, Adapter: a.Machine.WithAdapter(f.Angle), Below: f.Below, Above: f.Above, AtMeet: f.AtMeet, Note: t.Note,
			Stop:   words.Stop(t, d.Gear, scale),
			Target: pointOf(f.Target),
		}
		if division, ok := a.Machine.Division(f.Angle); ok {
			facet.Division = &division
		}
		out.Facets = append(out.Facets, facet)
	}
	minutes := workshop.Minutes(script.Visits, events)
	for i, v := range script.Visits {
		out.Visits = append(out.Visits, BenchVisit{v.Setup, v.Pass, v.FacetNo, v.Round, math.Round(minutes[i]*100) / 100})
	}
	for _, item := range workshop.TransferChecks {
		out.Checks = append(out.Checks, TransferCheck{item, words.TransferCheck(item, a.TableMM > 0 || script.Setups[0].Up != "crown", string(script.Setups[1].Up))})
	}
	return out, nil
}
