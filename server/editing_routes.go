package server

import (
	"errors"
	"fmt"
	"net/http"
	"slices"

	"github.com/labstack/echo/v5"

	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/solid"
	"cressa/words"
	"cressa/workshop"
)

// SolveRequest asks for the stone that a draft makes.
type SolveRequest struct {
	// Serial comes back in the answer, so that a late one can be dropped.
	Serial int   `json:"serial"`
	Draft  Draft `json:"draft"`
	// Off lists the keys of tiers to leave off, to look at the stone without them.
	Off []string `json:"off" validate:"max=400"`
	// Gear shows the stone on another gear at its best turn; 0 is the diagram's own.
	Gear int `json:"gear" validate:"min=0,max=360"`
}

// Solved is the stone that a draft makes, or how far it comes and why no further.
type Solved struct {
	Serial   int     `json:"serial"`
	Problems []Place `json:"problems"`
	Warnings []Place `json:"warnings"`
	// Stone is null where the draft cannot be read.
	Stone *StoneView `json:"stone"`
}

// GearsRequest asks how a draft's stone is cut on the gears of a machine.
type GearsRequest struct {
	Draft Draft `json:"draft"`
	// Width is what a gap is reckoned at, in mm.
	Width float64 `json:"width" validate:"min=0.1,max=500"`
}

// GearReport is how well each gear of the default machine carries a stone.
type GearReport struct {
	Machine string       `json:"machine"`
	Cheater bool         `json:"cheater"`
	Gears   []GearOnFile `json:"gears"`
	// Proposed is a gear that nobody owns yet and that carries the stone, null
	// where an owned one does or none would.
	Proposed *GearFit `json:"proposed"`
	// Obstacles keep the machine from cutting the diagram as it is drawn.
	Obstacles []Place `json:"obstacles"`
}

// GearOnFile is a gear with what it costs to cut the stone on it without cheats.
type GearOnFile struct {
	GearFit
	// Gap and Residual are the largest of any meet, in µm at the given width, where
	// every facet is cut at its nearest tooth.
	Gap      float64 `json:"gap"`
	Residual float64 `json:"residual"`
}

// ReshapeRequest asks for a tier of a draft to be reshaped.
type ReshapeRequest struct {
	Draft Draft   `json:"draft"`
	Tier  int     `json:"tier" validate:"min=0,max=399"`
	How   Reshape `json:"how"`
}

// Reshaped is the draft afterwards.
type Reshaped struct {
	Draft Draft `json:"draft"`
}

// PullRequest asks where the cut of a tier can stop.
type PullRequest struct {
	Draft Draft `json:"draft"`
	Tier  int   `json:"tier" validate:"min=0,max=399"`
}

// PullStopRequest asks for the stop at a distance between the meets.
type PullStopRequest struct {
	PullRequest
	Distance float64 `json:"distance" validate:"min=-1000,max=1000"`
}

// StopText is a stop as a draft holds it.
type StopText struct {
	Stop string `json:"stop"`
}

// Pull is a tier being lowered: where its cut can stop, from outside in.
type Pull struct {
	// Normal is that of the tier's first facet. Its plane touches the stone at From,
	// and leaves nothing at To: distances from the origin in design units.
	Normal Point   `json:"normal"`
	From   float64 `json:"from"`
	To     float64 `json:"to"`
	// Step is the moment of the mesh before the tier is cut.
	Step    int     `json:"step"`
	Reaches []Reach `json:"reaches"`
}

// Reach is a place at which a cut can stop.
type Reach struct {
	Stop     string  `json:"stop"`
	Words    string  `json:"words"`
	Distance float64 `json:"distance"`
	// Points are where the tier's facets stop.
	Points []Point `json:"points"`
}

// LoupeRequest asks how the meets of a draft's stone look once it is cut.
type LoupeRequest struct {
	Draft Draft   `json:"draft"`
	Width float64 `json:"width" validate:"min=0.1,max=500"`
	// Gear is the one it is cut on, 0 the diagram's own.
	Gear int `json:"gear" validate:"min=0,max=360"`
	// WholeTeeth leaves the cheats out, as a machine without a cheater must.
	WholeTeeth bool `json:"wholeTeeth"`
	// Exact is the draft before its angles were rounded, whose meets are looked at; null
	// looks at those of the draft itself.
	Exact *Draft `json:"exact"`
}

// Loupe is a stone as it is cut, with what its meets have become.
type Loupe struct {
	// Mesh is the stone with the facets where they really are.
	Mesh      Mesh        `json:"mesh"`
	MMPerUnit float64     `json:"mmPerUnit"`
	Meets     []LoupeMeet `json:"meets"`
}

// LoupeMeet is one meet, with residual and gap in µm at the given width.
type LoupeMeet struct {
	Point    Point    `json:"point"`
	Facets   []string `json:"facets"`
	Residual float64  `json:"residual"`
	Gap      float64  `json:"gap"`
}

func (s *Server) editingRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/solve", name: "solve", summary: "The stone that a draft makes"}, s.solve)
	handle(s, route{method: http.MethodPost, path: "/api/reshape", name: "reshape", summary: "Copy, mirror, turn or complete a tier"}, reshape)
	handle(s, route{method: http.MethodPost, path: "/api/pull", name: "pull", summary: "Where the cut of a tier can stop"}, pull)
	handle(s, route{method: http.MethodPost, path: "/api/pull/stop", name: "pullStop", summary: "The stop between two meets"}, pullStop)
	handle(s, route{method: http.MethodPost, path: "/api/gears", name: "rankGears", summary: "How well each gear carries a stone"}, s.rankGears)
	handle(s, route{method: http.MethodPost, path: "/api/loupe", name: "loupe", summary: "Meets as they come out"}, loupe)
}

func (s *Server) solve(c *echo.Context, in withBody[SolveRequest]) (Solved, error) {
	stone, problems := cutting.Sketch(in.Body.Draft.draft(), in.Body.Off...)
	out := Solved{Serial: in.Body.Serial, Problems: placesOf(problems), Warnings: []Place{}}
	if stone == nil {
		return out, nil
	}
	settings, err := s.workshop.Settings(c.Request().Context())
	if err != nil {
		return out, err
	}
	leaking := slices.DeleteFunc(angles.LeakingOptionals(stone.Diagram, stone.Diagram.RefractiveIndex), func(p diagram.Problem) bool {
		return slices.Contains(in.Body.Off, in.Body.Draft.draft().Tiers[p.TierNo].Key)
	})
	out.Warnings = placesOf(slices.Concat(stone.Warnings, leaking))
	stopped := slices.ContainsFunc(problems, func(p diagram.Problem) bool { return p.TierNo >= 0 })
	v := viewing{
		gear: stone.Diagram.Gear, refractiveIndex: stone.Diagram.RefractiveIndex,
		complete: !stopped && !stone.Solid().ShowsBlock(), machine: settings.MachineOf(""),
	}
	for i, t := range in.Body.Draft.draft().Tiers {
		if slices.Contains(in.Body.Off, t.Key) {
			v.off = append(v.off, i)
		}
	}
	if in.Body.Gear != 0 && in.Body.Gear != v.gear {
		v.gear, v.turns = in.Body.Gear, cutting.Together(stone.BestTurn(in.Body.Gear).Turn)
	}
	out.Stone = viewOf(stone, v)
	return out, nil
}

func reshape(_ *echo.Context, in withBody[ReshapeRequest]) (Reshaped, error) {
	draft, err := in.Body.Draft.draft().Reshape(in.Body.Tier, diagram.Reshape(in.Body.How))
	return Reshaped{draftView(draft)}, err
}

// pullOf reads as much of a draft as comes before the tier, and the tier itself.
func pullOf(in PullRequest) (*cutting.Pull, error) {
	draft := in.Draft.draft()
	if in.Tier >= len(draft.Tiers) {
		return nil, diagram.Problem{Code: diagram.UnknownTier, TierNo: -1, Other: fmt.Sprint(in.Tier + 1)}
	}
	draft.Tiers = draft.Tiers[:in.Tier+1]
	// Its present stop is about to be replaced and need not be readable.
	draft.Tiers[in.Tier].Stop = diagram.Stop{Kind: diagram.Depth}.String()
	d, problems := named(draft).Read()
	if len(problems) > 0 {
		return nil, problems[0]
	}
	return cutting.PullTier(d, in.Tier)
}

func pull(_ *echo.Context, in withBody[PullRequest]) (Pull, error) {
	p, err := pullOf(in.Body)
	if err != nil {
		return Pull{}, err
	}
	t := p.Before.Diagram.Tiers[in.Body.Tier]
	out := Pull{Normal: pointOf(p.Normal), From: p.From, To: p.To, Step: len(p.Before.Facets), Reaches: []Reach{}}
	for _, r := range p.Reaches {
		t.Stop = r.Stop
		reach := Reach{Stop: r.Stop.String(), Words: words.Stop(t, p.Before.Diagram.Gear, words.Scale{}), Distance: r.Distance, Points: []Point{}}
		for _, at := range r.Points {
			reach.Points = append(reach.Points, pointOf(at))
		}
		out.Reaches = append(out.Reaches, reach)
	}
	return out, nil
}

func pullStop(_ *echo.Context, in withBody[PullStopRequest]) (StopText, error) {
	p, err := pullOf(in.Body.PullRequest)
	if err != nil {
		return StopText{}, err
	}
	return StopText{p.StopAt(in.Body.Distance).String()}, nil
}

// finished cuts the whole of a draft.
func finished(draft diagram.Draft) (*cutting.Stone, error) {
	d, problems := draft.Read()
	if len(problems) > 0 {
		return nil, workshop.NotCuttable{Problems: problems}
	}
	stone, err := cutting.Cut(d)
	var p diagram.Problem
	if errors.As(err, &p) {
		return nil, workshop.NotCuttable{Problems: []diagram.Problem{p}}
	}
	return stone, err
}

func (s *Server) rankGears(c *echo.Context, in withBody[GearsRequest]) (GearReport, error) {
	stone, err := finished(in.Body.Draft.draft())
	if err != nil {
		return GearReport{}, err
	}
	settings, err := s.workshop.Settings(c.Request().Context())
	if err != nil {
		return GearReport{}, err
	}
	m := settings.MachineOf("")
	out := GearReport{
		Machine: m.Name, Cheater: m.Cheater != workshop.CheaterNone, Gears: []GearOnFile{},
		Obstacles: placesOf(m.Obstacles(stone)),
	}
	um := 1000 * in.Body.Width / stone.Measures().Width
	for _, fit := range stone.RankGears(m.Gears) {
		g := GearOnFile{GearFit: GearFit(fit)}
		errs, err := stone.MeetErrors(stone.AtWholeTeeth(fit.Teeth, cutting.Together(fit.Turn)))
		if err != nil {
			return out, err
		}
		for _, e := range errs {
			g.Gap, g.Residual = max(g.Gap, e.Gap*um), max(g.Residual, e.Residual*um)
		}
		out.Gears = append(out.Gears, g)
	}
	if len(out.Gears) == 0 || out.Gears[0].LargestCheat > 0 {
		if fit, ok := stone.ProposeGear(); ok {
			proposed := GearFit(fit)
			out.Proposed = &proposed
		}
	}
	return out, nil
}

func loupe(_ *echo.Context, in withBody[LoupeRequest]) (Loupe, error) {
	stone, err := finished(in.Body.Draft.draft())
	if err != nil {
		return Loupe{}, err
	}
	teeth := in.Body.Gear
	if teeth == 0 {
		teeth = stone.Diagram.Gear
	}
	turns := cutting.Turns{}
	if teeth != stone.Diagram.Gear {
		turns = cutting.Together(stone.BestTurn(teeth).Turn)
	}
	planes := stone.Planes()
	if in.Body.WholeTeeth {
		planes = stone.AtWholeTeeth(teeth, turns)
	}
	if in.Body.Exact != nil {
		if stone, err = finished(in.Body.Exact.draft()); err != nil {
			return Loupe{}, err
		}
		if len(stone.Facets) != len(planes) {
			return Loupe{}, invalid("The two diagrams do not have the same facets, so their meets cannot be held against each other.", nil)
		}
	}
	mm := in.Body.Width / stone.Measures().Width
	changed, err := stone.WithPlanes(planes)
	if err != nil {
		return Loupe{}, err
	}
	errs, err := stone.MeetErrors(planes)
	return Loupe{
		Mesh:      meshOf(cutting.Steps([]*solid.Solid{changed}, nil)),
		MMPerUnit: mm, Meets: loupeMeets(stone, errs, 1000*mm),
	}, err
}

// loupeMeets tells meet errors in µm.
func loupeMeets(stone *cutting.Stone, errs []cutting.MeetError, um float64) []LoupeMeet {
	out := []LoupeMeet{}
	for _, e := range errs {
		out = append(out, LoupeMeet{
			Point: pointOf(e.Point), Residual: um * e.Residual, Gap: um * e.Gap, Facets: facetNames(stone, e.Facets),
		})
	}
	return out
}

func facetNames(stone *cutting.Stone, facets []int) []string {
	out := make([]string, len(facets))
	for i, f := range facets {
		out[i] = stone.FacetName(f)
	}
	return out
}
