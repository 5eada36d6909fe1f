package server

import (
	"cmp"
	"context"
	"encoding/base64"
	"math"
	"net/http"
	"slices"
	"strings"
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

// StoneList is a page of stones.
type StoneList struct {
	Stones []StoneLine `json:"stones"`
	// Next is where the next page begins, "" after the last; Total counts all that match.
	Next  string `json:"next"`
	Total int    `json:"total"`
}

// StonesRequest says which stones are looked for.
type StonesRequest struct {
	// Text holds words that must all be found; State is one state, "" for all.
	Text  string `query:"text" json:"text" validate:"max=200"`
	State string `query:"state" json:"state" validate:"omitempty,oneof=planned cutting cut finished"`
	// After is the Next of the page before.
	After string `query:"after" json:"after" validate:"max=400"`
	Limit int    `query:"limit" json:"limit" validate:"min=0,max=200"`
}

// Today is what is on the bench and around it: the first few of each.
type Today struct {
	Cutting  []StoneLine `json:"cutting"`
	Due      []StoneLine `json:"due"`
	Cut      []StoneLine `json:"cut"`
	Planned  []StoneLine `json:"planned"`
	Finished []StoneLine `json:"finished"`
}

// Logbook is a page of what was finished, the last first, and the sums of all of it.
type Logbook struct {
	StoneList
	RoughCarats    float64 `json:"roughCarats"`
	FinishedCarats float64 `json:"finishedCarats"`
	Hours          float64 `json:"hours"`
}

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

// Assessment is what a plan comes to, in mm, carats and degrees.
type Assessment struct {
	// Draft is the diagram as it would be cut.
	Draft Draft `json:"draft"`
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
	Summary    StoneLine  `json:"summary"`
	Plan       PlanView   `json:"plan"`
	Works      []WorkHead `json:"works"`
	Assessment Assessment `json:"assessment"`
	// Told are the notes and the turning points of the work.
	Told []Told `json:"told"`
	// Began is when something first happened, null where nothing did.
	Began *time.Time `json:"began"`
	// Reckoned are the hours that follow from the ticks.
	Reckoned float64 `json:"reckoned"`
}

// Told is a note or a turning point of a work, as its page tells it.
type Told struct {
	ID   string    `json:"id"`
	Kind string    `json:"kind"`
	At   time.Time `json:"at"`
	// By is who noted it, Text the note, or the number of the plan.
	By   string `json:"by"`
	Text string `json:"text"`
}

// EventsRequest adds a batch to the logs.
type EventsRequest struct {
	Events []SentEvent `json:"events" validate:"min=1,max=5000"`
}

// EventAnswers answers for each event that was sent, in their order.
type EventAnswers struct {
	Answers []EventAnswer `json:"answers"`
}

// EventsAfter asks for what a log got after a place.
type EventsAfter struct {
	ID    string `path:"id" json:"-"`
	After int64  `query:"after" json:"after" validate:"min=0"`
}

// EventList is a part of a log in the order in which it arrived.
type EventList struct {
	Events []Event `json:"events"`
	// More tells that the log goes on after them.
	More bool `json:"more"`
}

// mostEvents is how many events of a log are sent at once.
const mostEvents = 5000

// BenchScript is everything the bench needs to cut a stone without asking again.
type BenchScript struct {
	StoneID   string          `json:"stoneId"`
	WorkID    string          `json:"workId"`
	Number    int             `json:"number"`
	Name      string          `json:"name"`
	Diagram   string          `json:"diagram"`
	Material  string          `json:"material"`
	MMPerUnit float64         `json:"mmPerUnit"`
	Gear      int             `json:"gear"`
	PlanNo    int             `json:"planNo"`
	Finished  bool            `json:"finished"`
	Setups    []Setup         `json:"setups"`
	Passes    []Pass          `json:"passes"`
	Facets    []BenchFacet    `json:"facets"`
	Visits    []BenchVisit    `json:"visits"`
	Mesh      Mesh            `json:"mesh"`
	Wheel     []Tooth         `json:"wheel"`
	Levels    Levels          `json:"levels"`
	Checks    []TransferCheck `json:"checks"`
	Cautions  []string        `json:"cautions"`
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
	Division *Division `json:"division"`
	Stop     string    `json:"stop"`
	Note     string    `json:"note"`
	Target   Point     `json:"target"`
	AtMeet   bool      `json:"atMeet"`
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
	handle(s, route{method: http.MethodPost, path: "/api/assess", name: "assessPlan", summary: "What a plan comes to"}, func(c *echo.Context, in withBody[AssessRequest]) (Assessment, error) {
		ctx := c.Request().Context()
		a, err := s.workshop.Assess(ctx, in.Body.DiagramID, in.Body.Revision, in.Body.Choices.choices())
		if err != nil {
			return Assessment{}, err
		}
		return assessmentOf(a), nil
	})
	handle(s, route{method: http.MethodGet, path: "/api/diagrams/:id/proposal", name: "proposePlan", summary: "What a plan of a diagram begins with"}, func(c *echo.Context, in byID) (Choices, error) {
		choices, err := s.workshop.Propose(c.Request().Context(), in.ID)
		return choicesView(choices), err
	})
	handle(s, route{method: http.MethodGet, path: "/api/stones", name: "listStones", summary: "A page of the stones, the one touched last first"}, s.stoneList)
	handle(s, route{method: http.MethodGet, path: "/api/today", name: "today", summary: "What is on the bench and around it"}, s.today)
	handle(s, route{method: http.MethodGet, path: "/api/logbook", name: "logbook", summary: "A page of what was finished"}, s.logbook)
	handle(s, route{method: http.MethodPost, path: "/api/stones", name: "planStone", summary: "Keep a plan as a new stone"}, func(c *echo.Context, in withBody[PlanRequest]) (StoneHead, error) {
		stone, err := s.workshop.PlanStone(c.Request().Context(), in.Body.Name, in.Body.DiagramID, in.Body.Choices.choices())
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
	handle(s, route{method: http.MethodGet, path: "/api/stones/:id", name: "getStone", summary: "One stone"}, s.stonePage)
	handle(s, route{method: http.MethodPut, path: "/api/stones/:id/plan", name: "replanStone", summary: "Change a stone's plan"}, func(c *echo.Context, in byIDWithBody[ReplanRequest]) (StoneHead, error) {
		stone, err := s.workshop.Replan(c.Request().Context(), in.ID, in.Body.Choices.choices(), in.Body.Version)
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
	handle(s, route{method: http.MethodGet, path: "/api/stones/:id/script", name: "getScript", summary: "The work on a stone, step by step"}, s.script)
	handle(s, route{method: http.MethodPost, path: "/api/events", name: "addEvents", summary: "Add to the logs"}, s.addEvents)
	handle(s, route{method: http.MethodGet, path: "/api/works/:id/events", name: "getEvents", summary: "What a work's log got after a place"}, s.eventsAfter)
	handle(s, route{method: http.MethodPut, path: "/api/stones/:id/finish", name: "finishStone", summary: "Write a stone's logbook card"}, func(c *echo.Context, in byIDWithBody[Finish]) (Finish, error) {
		card, err := s.workshop.FinishStone(c.Request().Context(), in.ID, workshop.Finish(in.Body))
		return Finish(card), err
	})
}

// usualPage is how many lines a page of a list has where nothing else is asked for.
const usualPage = 60

func (s *Server) stoneList(c *echo.Context, in StonesRequest) (StoneList, error) {
	f := workshop.StoneFilter{Words: strings.Fields(in.Text)}
	if in.State != "" {
		f.States = []journal.State{journal.State(in.State)}
	}
	return s.stonesOf(c.Request().Context(), f, in.After, in.Limit)
}

func (s *Server) stonesOf(ctx context.Context, f workshop.StoneFilter, after string, limit int) (StoneList, error) {
	from, err := readCursor(after)
	if err != nil {
		return StoneList{}, err
	}
	page, err := s.workshop.Stones.Stones(ctx, f, from, cmp.Or(limit, usualPage))
	return StoneList{stoneLines(page.Lines), writeCursor(page.Next), page.Total}, err
}

// fewOfEach is how many stones of a kind Today shows, fewFinished of those that are done.
const fewOfEach, fewFinished = 8, 3

func (s *Server) today(c *echo.Context, _ struct{}) (Today, error) {
	ctx := c.Request().Context()
	var out Today
	ownStones := []journal.Task{journal.FirstCut}
	for _, group := range []struct {
		into  *[]StoneLine
		limit int
		f     workshop.StoneFilter
	}{
		{&out.Cutting, fewOfEach, workshop.StoneFilter{States: []journal.State{journal.Cutting}, Tasks: ownStones}},
		{&out.Due, fewOfEach, workshop.StoneFilter{States: []journal.State{journal.Planned, journal.Cutting, journal.Cut}, Tasks: []journal.Task{journal.Repair}, Sort: workshop.ByPromise}},
		{&out.Cut, fewOfEach, workshop.StoneFilter{States: []journal.State{journal.Cut}}},
		{&out.Planned, fewOfEach, workshop.StoneFilter{States: []journal.State{journal.Planned}, Tasks: ownStones}},
		{&out.Finished, fewFinished, workshop.StoneFilter{States: []journal.State{journal.Complete}}},
	} {
		group.f.Uncounted = true
		page, err := s.workshop.Stones.Stones(ctx, group.f, workshop.Cursor{}, group.limit)
		if err != nil {
			return out, err
		}
		*group.into = stoneLines(page.Lines)
	}
	return out, nil
}

// PageRequest asks for a page of a list.
type PageRequest struct {
	After string `query:"after" json:"after" validate:"max=400"`
	Limit int    `query:"limit" json:"limit" validate:"min=0,max=200"`
}

func (s *Server) logbook(c *echo.Context, in PageRequest) (Logbook, error) {
	ctx := c.Request().Context()
	list, err := s.stonesOf(ctx, workshop.StoneFilter{Sort: workshop.ByFinish}, in.After, in.Limit)
	if err != nil {
		return Logbook{}, err
	}
	sums, err := s.workshop.Sums(ctx)
	return Logbook{list, sums.RoughCarats, sums.FinishedCarats, sums.Hours}, err
}

// A cursor travels as one text that means nothing to who holds it.
func writeCursor(c *workshop.Cursor) string {
	if c == nil {
		return ""
	}
	return base64.RawURLEncoding.EncodeToString([]byte(c.ID + " " + c.Key))
}

func readCursor(text string) (workshop.Cursor, error) {
	if text == "" {
		return workshop.Cursor{}, nil
	}
	data, err := base64.RawURLEncoding.DecodeString(text)
	id, key, ok := strings.Cut(string(data), " ")
	if err != nil || !ok || id == "" {
		return workshop.Cursor{}, &Problem{Status: http.StatusBadRequest, Detail: "That is not where a page of this list begins. Begin with the first."}
	}
	return workshop.Cursor{ID: id, Key: key}, nil
}

func (s *Server) addEvents(c *echo.Context, in withBody[EventsRequest]) (EventAnswers, error) {
	events := make([]journal.Event, len(in.Body.Events))
	for i, e := range in.Body.Events {
		events[i] = e.event()
	}
	answers, err := s.workshop.Append(c.Request().Context(), events)
	out := EventAnswers{make([]EventAnswer, len(answers))}
	for i, a := range answers {
		out.Answers[i] = eventAnswer(a)
	}
	return out, err
}

func (s *Server) eventsAfter(c *echo.Context, in EventsAfter) (EventList, error) {
	ctx := c.Request().Context()
	if _, err := s.workshop.WorkState(ctx, in.ID); err != nil {
		return EventList{}, err
	}
	events, err := s.workshop.EventsAfter(ctx, in.ID, in.After, mostEvents)
	out := EventList{Events: make([]Event, len(events)), More: len(events) == mostEvents}
	for i, e := range events {
		out.Events[i] = eventView(e)
	}
	return out, err
}

// summary is the line of one stone.
func (s *Server) summary(ctx context.Context, stoneID string) (StoneLine, error) {
	page, err := s.workshop.Stones.Stones(ctx, workshop.StoneFilter{ID: stoneID}, workshop.Cursor{}, 1)
	if err == nil && len(page.Lines) == 0 {
		err = workshop.ErrNotFound
	}
	if err != nil {
		return StoneLine{}, err
	}
	return stoneLine(page.Lines[0]), nil
}

func (s *Server) stonePage(c *echo.Context, in byID) (StonePage, error) {
	ctx := c.Request().Context()
	stone, err := s.workshop.Stone(ctx, in.ID)
	if err != nil {
		return StonePage{}, err
	}
	a, err := s.workshop.AssessStone(ctx, stone)
	if err != nil {
		return StonePage{}, err
	}
	summary, err := s.summary(ctx, in.ID)
	if err != nil {
		return StonePage{}, err
	}
	state, err := s.workshop.WorkState(ctx, stone.Work().ID)
	if err != nil {
		return StonePage{}, err
	}
	out := StonePage{
		Summary: summary, Plan: planView(stone.Work().Plan), Works: workHeads(stone), Assessment: assessmentOf(a), Reckoned: state.Folded.Hours(),
	}
	out.Told, out.Began, err = s.told(ctx, stone.Work().ID)
	return out, err
}

// told returns the notes and turning points of a work that stand, and when something first
// happened.
func (s *Server) told(ctx context.Context, workID string) (told []Told, began *time.Time, err error) {
	events, err := s.workshop.EventsAfter(ctx, workID, 0, 0)
	told = []Told{}
	for _, e := range journal.Ordered(events) {
		if e.Kind != journal.Plan && began == nil {
			began = &e.DeviceTime
		}
		if text, tells := e.Tells(); tells {
			told = append(told, Told{e.ID, string(e.Kind), e.DeviceTime, e.By.Name, text})
		}
		if undone, ok := e.TakesBack(); ok {
			told = slices.DeleteFunc(told, func(t Told) bool { return t.ID == undone })
		}
	}
	return told, began, err
}

func assessmentOf(a *workshop.Assessment) Assessment {
	out := Assessment{
		Draft: draftView(diagram.DraftOf(a.Stone.Diagram)), FrostedGirdle: a.Choices.GirdleFinish.Frosted(),
		MMPerUnit: a.MM, Width: a.WidthMM, Length: a.LengthMM, Height: a.HeightMM,
		Crown: a.CrownMM, Girdle: a.GirdleMM, Pavilion: a.PavilionMM, Table: a.TableMM,
		Carats: a.Carats, CriticalAngle: a.CriticalAngle, Turns: a.Turns, LargestCheat: a.LargestCheat,
		Ranking: fitsOf(a.Ranking), CheatGap: a.CheatGap, CheatResidual: a.CheatResidual,
		Cheater: a.Machine.Cheater != workshop.CheaterNone,
		NoTable: a.TableMM == 0, Calipers: []CaliperReading{},
		Warnings:  placesOf(slices.Concat(a.Stone.Warnings, a.Left, a.Leaking)),
		Obstacles: placesOf(a.Machine.Obstacles(a.Stone)), Stone: plannedView(a),
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
	state, err := s.workshop.WorkState(ctx, stone.Work().ID)
	if err != nil {
		return BenchScript{}, err
	}
	settings, err := s.workshop.Settings(ctx)
	if err != nil {
		return BenchScript{}, err
	}
	a, plan := script.Assessment, stone.Work().Plan
	d := a.Stone.Diagram
	out := BenchScript{
		StoneID: stone.ID, WorkID: stone.Work().ID, Number: stone.Number, Name: stone.Name, Diagram: plan.DiagramName, Material: a.Material.Name,
		MMPerUnit: a.MM, Gear: plan.Choices.Gear, PlanNo: plan.No, Finished: state.Folded.Finished,
		Setups: setupsOf(script.Setups), Passes: passViews(script.Passes), Facets: []BenchFacet{}, Visits: []BenchVisit{},
		Mesh: meshOf(script.Steps), Wheel: wheelOf(plan.Choices.Gear),
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
			facet.Division = (*Division)(&division)
		}
		out.Facets = append(out.Facets, facet)
	}
	visits := make([]journal.Visit, len(script.Visits))
	for i, v := range script.Visits {
		visits[i] = journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}
	}
	minutes := state.Folded.Minutes(visits)
	for i, v := range script.Visits {
		out.Visits = append(out.Visits, BenchVisit{v.Setup, v.Pass, v.FacetNo, v.Round, math.Round(minutes[i]*100) / 100})
	}
	for _, item := range workshop.TransferChecks {
		out.Checks = append(out.Checks, TransferCheck{item, words.TransferCheck(item, a.TableMM > 0 || script.Setups[0].Side() != diagram.Crown, string(script.Setups[len(script.Setups)-1].Side()))})
	}
	return out, nil
}
