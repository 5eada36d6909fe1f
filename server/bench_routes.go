package server

import (
	"context"
	"math"
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/words"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// BenchScript is everything the bench needs to cut a stone without asking again.
type BenchScript struct {
	StoneID   string       `json:"stoneId"`
	WorkID    string       `json:"workId"`
	Number    int          `json:"number"`
	Name      string       `json:"name"`
	Diagram   string       `json:"diagram"`
	Material  string       `json:"material"`
	MMPerUnit float64      `json:"mmPerUnit"`
	Gear      int          `json:"gear"`
	PlanNo    int          `json:"planNo"`
	Finished  bool         `json:"finished"`
	Setups    []Setup      `json:"setups"`
	Passes    []Pass       `json:"passes"`
	Facets    []BenchFacet `json:"facets"`
	Visits    []BenchVisit `json:"visits"`
	Mesh      Mesh         `json:"mesh"`
	Wheel     []Tooth      `json:"wheel"`
	Levels    Levels       `json:"levels"`
	Checks    []GateCheck  `json:"checks"`
	Cautions  []string     `json:"cautions"`
	// Cheater is none, degrees or turns. CheatGap is what a missing one costs the
	// meets, in µm.
	Cheater  string  `json:"cheater"`
	CheatGap float64 `json:"cheatGap"`
	// Tick is what Done ticks by habit.
	Tick workshop.TickOf `json:"tick"`
	// LapCares say which laps are not fit for this stone just now.
	LapCares []LapCare `json:"lapCares"`
	// Mounts are what the stone is held with, setup by setup.
	Mounts []BenchMount `json:"mounts"`
	// Layer is what was changed at the wheel, over the diagram.
	Layer []TierChange `json:"layer"`
	// Visiting and GirdleSpare are those of the plan, Calipers what these read on its girdle.
	Visiting    gear.Visiting    `json:"visiting" validate:"oneof=written round pairs"`
	GirdleSpare float64          `json:"girdleSpare"`
	Calipers    []CaliperReading `json:"calipers"`
	// Laps says what to mind at the lap of each pass.
	Laps []LapAdvice `json:"laps"`
	// ReadWell names the facets, by their places, whose readings of the height dial foretell most: two in a
	// setup, none without a dial.
	ReadWell []int `json:"readWell"`
	// LineUp says for each setup how a stone that came finished is lined up, "" for one that is cut out of rough.
	LineUp []string `json:"lineUp"`
}

// BenchMount is the dop and the adhesive of a setup, "" where they are not known, and the minutes that the bond cures.
type BenchMount struct {
	Setup    string  `json:"setup"`
	Dop      string  `json:"dop"`
	Adhesive string  `json:"adhesive"`
	Minutes  float64 `json:"minutes"`
}

// LapAdvice says what to mind at the lap of a pass.
type LapAdvice struct {
	Pass  string   `json:"pass"`
	Texts []string `json:"texts"`
	// Leaves is how deep its damage goes, in µm, 0 where that is not known.
	Leaves float64 `json:"leaves"`
}

// LapCare says why the lap of a pass is not fit for a stone, and how it is cleaned.
type LapCare struct {
	Pass string `json:"pass"`
	// Lap is its name and LapItem its ID in the kit.
	Lap     string   `json:"lap"`
	LapItem string   `json:"lapItem"`
	Texts   []string `json:"texts"`
	// Way is the mildest way that takes off all that is on it, null where it is not dirty.
	Way *CleanWay `json:"way"`
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
	// Hole is what sets the angle instead on a machine with holes, null on another and for level
	// and upright facets.
	Hole *Hole `json:"hole"`
	// Distance is how far the facet's plane stands from the stone's reference point, in mm.
	Distance float64 `json:"distance"`
	// Division is what one division of the height dial does, null without a dial.
	Division *Division `json:"division"`
	Note     string    `json:"note"`
	Target   Point     `json:"target"`
	AtMeet   bool      `json:"atMeet"`
	// Touch is where the facet comes in after a second on the lap.
	Touch BenchTouch `json:"touch"`
}

// Hole is a hole of a jamb with the peg that stands in it.
type Hole struct {
	// No counts the holes from 1. Height and Peg, the peg's length, are in mm.
	No     int     `json:"no"`
	Height float64 `json:"height"`
	Peg    float64 `json:"peg"`
	// Angle is what they set, in degrees.
	Angle float64 `json:"angle"`
}

// BenchTouch is a facet that was held to the lap for a second.
type BenchTouch struct {
	// Patch lists the corners of what is flat by then, empty where nothing is.
	Patch []Point `json:"patch"`
	// False is a meet that the cut runs through before its own stop, null where none is near;
	// Early is how far before that is, in mm.
	False *Point  `json:"false"`
	Early float64 `json:"early"`
}

// BenchVisit is one facet in one pass, with the place of its facet in the script.
type BenchVisit struct {
	Setup string `json:"setup"`
	Pass  string `json:"pass"`
	Facet int    `json:"facet"`
	// Adapter tells that the stone sits on the table adapter.
	Adapter bool `json:"adapter"`
	// First tells that the facet is cut for the first time, Stop where the cut stops or what a
	// later one takes off.
	First bool   `json:"first"`
	Stop  string `json:"stop"`
	// Block numbers the visits to one tier in a pass. RoundEnd and BlockEnd are the places
	// after the last visit of its round, the protractor untouched, and of its block.
	Block    int `json:"block"`
	RoundEnd int `json:"roundEnd"`
	BlockEnd int `json:"blockEnd"`
	// Now and After are the steps of the mesh before and after the cut.
	Now   int `json:"now"`
	After int `json:"after"`
	// Spare is by how many mm the girdle is left thicker than planned by this visit.
	Spare float64 `json:"spare"`
	// Move is what is changed at the machine to get here from the visit before.
	Move BenchMove `json:"move"`
	// Minutes is how long it took, or how long such a one takes.
	Minutes float64 `json:"minutes"`
}

// BenchMove is what is changed at the machine between two visits.
type BenchMove struct {
	// First tells that everything is set anew, Pass that another lap is used.
	First bool `json:"first"`
	Pass  bool `json:"pass"`
	// From is the protractor's reading that is left, null where it stays.
	From *float64 `json:"from"`
	// Teeth is how far the index moves on, or back where it is negative.
	Teeth int `json:"teeth"`
}

// GateCheck is an item to check when the stone is turned over, or goes onto the table adapter.
type GateCheck struct {
	Gate workshop.Gate `json:"gate" validate:"oneof=transfer adapter-on adapter-off off-dop"`
	// Setup is the one that it leads to, From the one that the stone is turned away from; "" where it is the same for all.
	Setup string `json:"setup"`
	From  string `json:"from"`
	Item  string `json:"item"`
	Text  string `json:"text"`
	// Minutes is what it takes by the clock, 0 for none, Caution the usual one at it, "" for none.
	Minutes float64 `json:"minutes"`
	Caution string  `json:"caution"`
}

func (s *Server) benchRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/stones/:id/script", name: "getScript", summary: "The work on a stone, step by step"}, s.script)
}

func (s *Server) script(c *echo.Context, in atWork) (BenchScript, error) {
	ctx := c.Request().Context()
	stone, _, err := s.stoneAt(ctx, in)
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
	ladder, err := s.workshop.LadderFor(ctx, a.Material, plan.Choices.Passes)
	if err != nil {
		return BenchScript{}, err
	}
	d := a.Stone.Diagram
	out := BenchScript{
		StoneID: stone.ID, WorkID: stone.Work().ID, Number: stone.Number, Name: stone.Name, Diagram: plan.DiagramName, Material: a.Material.Name,
		MMPerUnit: a.MM, Gear: plan.Choices.Gear, PlanNo: plan.No, Finished: state.Folded.Finished,
		Setups: setupsOf(plan), Passes: passViews(script.Passes), Facets: []BenchFacet{}, Visits: []BenchVisit{},
		Mesh: meshOf(script.Steps), Wheel: wheelOf(plan.Choices.Gear),
		Checks: []GateCheck{}, Cautions: words.Cautions(a.Material),
		Cheater: string(a.Machine.Cheater), CheatGap: a.CheatGap, Tick: settings.HabitsOf("").Tick, LapCares: []LapCare{}, Laps: []LapAdvice{}, Layer: changesOf(plan.Layer), Mounts: []BenchMount{}, ReadWell: script.ReadWell(), LineUp: []string{},
		Visiting: plan.Choices.Visiting, GirdleSpare: plan.Choices.GirdleSpare, Calipers: calipersOf(a),
	}
	for i, r := range ladder.Rungs {
		out.Laps = append(out.Laps, LapAdvice{r.Pass.ID, words.AtTheLap(r, i == 0, a.Material), r.Leaves})
		if texts := caresOf(r); len(texts) > 0 {
			care := LapCare{Pass: r.Pass.ID, Lap: r.Pass.Lap, LapItem: r.Pass.LapItem, Texts: texts}
			if len(r.Ways) > 0 {
				care.Way = &waysOf(r.Ways)[0]
			}
			out.LapCares = append(out.LapCares, care)
		}
	}
	out.Levels = levelsOf(a.Stone)
	scale := words.Scale{MM: a.MM, Width: a.Stone.Measures().Width}
	for i, f := range script.Facets {
		t := d.Tiers[f.TierNo]
		facet := BenchFacet{
			ID: f.ID, No: f.No, Tier: f.Tier, Part: string(f.Part), Setup: f.Setup, Dial: dialOf(f.Dial, plan.Choices.Gear, a.Machine),
			Angle: f.Angle, Reading: f.Reading, Adapter: a.Machine.WithAdapter(f.Angle), Below: f.Below, Above: f.Above, AtMeet: f.AtMeet, Note: t.Note,
			Target: pointOf(f.Target), Touch: touchOf(script.Touch(i), a.MM), Distance: script.Cut(i).Distance,
		}
		if division, ok := a.Division(f); ok {
			facet.Division = (*Division)(&division)
		}
		if hole, ok := a.Machine.HoleFor(f.Angle); ok {
			facet.Hole = (*Hole)(&hole)
		}
		out.Facets = append(out.Facets, facet)
	}
	visits := make([]journal.Visit, len(script.Visits))
	for i, v := range script.Visits {
		visits[i] = journal.Visit{Setup: v.Setup, Pass: v.Pass, Facet: v.Facet}
	}
	minutes := state.Folded.Minutes(visits)
	stops := map[string]string{}
	passes := map[string]workshop.Pass{}
	for _, t := range d.Tiers {
		stops[t.Name] = words.Stop(t, d.Gear, scale)
	}
	for _, p := range script.Passes {
		passes[p.ID] = p
	}
	for i, v := range script.Visits {
		facet := script.Facets[v.FacetNo]
		stop, drawn := stops[facet.Tier], d.Tiers[facet.TierNo].Stop
		if facet.Free != nil {
			stop, drawn = words.FreeStop(*facet.Free), diagram.Stop{}
		}
		switch {
		case v.Clears != "" && facet.Deeper != 0:
			stop = words.Clear(passes[v.Clears], diagram.Stop{}, false)
		case v.Clears != "":
			stop = words.Clear(passes[v.Clears], drawn, facet.AtMeet)
		case facet.TakeMM > 0:
			stop = words.TakeOff(facet.TakeMM)
		case facet.Deeper != 0:
			stop = words.Aside(stop, facet.Deeper)
		}
		if drawn.Kind == diagram.GirdleBand {
			stop = words.WithSpare(stop, v.Spare, v.Clears != "" && plan.Choices.GirdleSpare > 0, drawn.Thickness*a.MM)
		}
		out.Visits = append(out.Visits, BenchVisit{
			Setup: v.Setup, Pass: v.Pass, Facet: v.FacetNo, Adapter: v.Adapter, First: v.Clears == "", Stop: stop, Block: v.Block, RoundEnd: v.RoundEnd, BlockEnd: v.BlockEnd,
			Now: v.Now, After: v.After, Spare: v.Spare, Move: BenchMove(v.Move), Minutes: math.Round(minutes[i]*100) / 100,
		})
	}
	shelf, err := s.workshop.Shelf(ctx)
	if err != nil {
		return BenchScript{}, err
	}
	mounts := make([]words.Mount, len(script.Setups))
	for i := range script.Setups {
		mounts[i] = mountOf(plan, i, state.Folded, shelf)
	}
	for i, setup := range script.Setups {
		mount := mounts[i]
		// What is mended can lead back to any setup.
		for from := range script.Setups {
			if from != i {
				out.Checks = append(out.Checks, transferChecks(script, from, i, words.Transfer{First: mounts[from], Second: mount})...)
			}
		}
		out.Mounts = append(out.Mounts, BenchMount{setup.ID, mount.Dop, mount.Glue, mount.Adhesive.Minutes})
		line, err := s.lineUp(ctx, stone, setup.ID)
		if err != nil {
			return BenchScript{}, err
		}
		out.LineUp = append(out.LineUp, line)
	}
	for _, item := range workshop.ReglueChecks {
		out.Checks = append(out.Checks, GateCheck{Gate: workshop.OffDop, Item: item, Text: words.ReglueCheck(item)})
	}
	for _, item := range workshop.AdapterChecks {
		out.Checks = append(out.Checks, GateCheck{Gate: workshop.AdapterOn, Item: item, Text: words.AdapterCheck(item, a.Machine)})
	}
	return out, nil
}

// transferChecks are those of a transfer from one setup into another, given by their places. The dops are told.
func transferChecks(script *workshop.Script, from, to int, of words.Transfer) []GateCheck {
	a := script.Assessment
	of.Material, of.Flat, of.OneAxis = a.Material, script.OnFlat(to), script.OnOneAxis(from, to)
	if len(a.Choices.DopUps) == 0 {
		of.Up = string(script.Setups[to].Side())
	}
	if found, ok := script.Alignment(to); ok {
		of.Alignment = found
	}
	return each(words.TransferSteps(of), func(step words.Check) GateCheck {
		return GateCheck{workshop.TurnOver, script.Setups[to].ID, script.Setups[from].ID, step.Item, step.Text, step.Minutes, step.Caution}
	})
}

// mountOf is what the stone is held with in a setup: as it was told when it was glued, else as planned.
func mountOf(plan *workshop.Plan, place int, w *journal.Work, shelf []workshop.Shelved) words.Mount {
	var hold workshop.Hold
	if place < len(plan.Choices.Holds) {
		hold = plan.Choices.Holds[place]
	}
	if told, ok := w.Dop(plan.Setups[place].ID); ok && (told.Dop != hold.Dop || told.Adhesive != hold.Adhesive) {
		hold = workshop.Hold{Dop: told.Dop, Adhesive: told.Adhesive}
	}
	out := words.Mount{Dop: hold.Dop, Glue: hold.Adhesive}
	out.Adhesive, _, _ = hold.AdhesiveOf(shelf)
	return out
}

func touchOf(t cutting.Touch, mmPerUnit float64) BenchTouch {
	out := BenchTouch{Patch: each(t.Patch, pointOf), Early: math.Round(t.Early*mmPerUnit*1000) / 1000}
	if t.False != nil {
		p := pointOf(*t.False)
		out.False = &p
	}
	return out
}

// lineUp says by which facets a stone that came finished is lined up in a setup, "" for one that is cut out of rough.
func (s *Server) lineUp(ctx context.Context, stone workshop.Stone, setup string) (string, error) {
	if stone.Work().Plan.Came == nil {
		return "", nil
	}
	facets, err := s.workshop.FlushFacets(ctx, stone, setup)
	if err != nil {
		return "", err
	}
	return words.LineUp(facets[:min(3, len(facets))]), nil
}
