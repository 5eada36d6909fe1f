package server

import (
	"context"
	"fmt"
	"net/http"
	"slices"

	"github.com/labstack/echo/v5"

	"cressa/analysis"
	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/printed"
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
	// Held puts the plane of a tier elsewhere than its stop says, null none.
	Held *Held `json:"held"`
}

// Held is a tier whose plane is held at a distance from the origin, in design units.
type Held struct {
	Tier     int     `json:"tier" validate:"min=0,max=399"`
	Distance float64 `json:"distance" validate:"min=-1000,max=1000"`
}

// Solved is the stone that a draft makes, or how far it comes and why no further.
type Solved struct {
	Serial   int     `json:"serial"`
	Problems []Place `json:"problems"`
	Warnings []Place `json:"warnings"`
	// Readings say what the words of a sheet were read as.
	Readings []Reading `json:"readings"`
	// Stone is null where the draft cannot be read.
	Stone *StoneView `json:"stone"`
}

// Reading is what a field of a tier was read as.
type Reading struct {
	// Tier is the tier's place from 0.
	Tier  int    `json:"tier"`
	Field string `json:"field"`
	// How it was read, in a word.
	How string `json:"how"`
	// Read is the text that says the same without needing to be read; "" for a stop that is
	// still to be found.
	Read string `json:"read"`
	// Says is that in words.
	Says string `json:"says"`
	// Asks is a remark or a question that goes with it, "" for none.
	Asks string `json:"asks"`
	// Sure is false where it may be meant otherwise and should be looked at.
	Sure bool `json:"sure"`
}

// readingsOf words what was read of a draft. The stone is nil where none could be cut.
func readingsOf(typed Draft, readings []printed.Reading, stone *cutting.Stone) []Reading {
	mm, _ := diagram.ParseNumber(typed.Width)
	scale := words.Scale{}
	if stone != nil {
		if scale.Width = stone.Measures().Width; mm > 0 {
			scale.MM = mm / scale.Width
		}
	}
	return each(readings, func(g printed.Reading) Reading {
		out := Reading{Tier: g.TierNo, Field: string(g.Field), How: string(g.How), Read: g.Read, Says: g.Read, Asks: words.Reading(g, mm), Sure: g.Sure}
		if stone != nil && g.Field == diagram.FieldStop && g.Read != "" && g.TierNo < len(stone.Diagram.Tiers) {
			out.Says = words.Stop(stone.Diagram.Tiers[g.TierNo], stone.Diagram.Gear, scale)
		}
		return out
	})
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

// StopParts are the parts of a stop, for those who choose them one by one.
type StopParts struct {
	Kind diagram.StopKind `json:"kind" validate:"max=20"`
	// Figure is the one that the kind takes, as it is typed.
	Figure string `json:"figure" validate:"max=40"`
	// Unit is what the figure is in: mm, % of the width, or "" for the format's own.
	Unit string `json:"unit" validate:"max=10"`
	// From names the facets of the meet, or of the first of two, To those of the second.
	From []string `json:"from" validate:"max=40,dive,max=40"`
	To   []string `json:"to" validate:"max=40,dive,max=40"`
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
	handle(s, route{method: http.MethodPost, path: "/api/pull", name: "pull", summary: "Where the cut of a tier can stop", computes: true}, pull)
	handle(s, route{method: http.MethodPost, path: "/api/pull/stop", name: "pullStop", summary: "The stop between two meets", computes: true}, pullStop)
	handle(s, route{method: http.MethodPost, path: "/api/stops/parts", name: "stopParts", summary: "The parts of a stop that is typed"}, stopParts)
	handle(s, route{method: http.MethodPost, path: "/api/stops/text", name: "stopText", summary: "The stop that parts make"}, stopText)
	handle(s, route{method: http.MethodPost, path: "/api/gears", name: "rankGears", summary: "How well each gear carries a stone", computes: true}, s.rankGears)
	handle(s, route{method: http.MethodPost, path: "/api/loupe", name: "loupe", summary: "Meets as they come out", computes: true}, loupe)
}

func (s *Server) solve(c *echo.Context, in withBody[SolveRequest]) (Solved, error) {
	draft, readings := printed.Read(in.Body.Draft.draft())
	if h := in.Body.Held; h != nil && h.Tier < len(draft.Tiers) {
		draft.Tiers[h.Tier].Stop = diagram.Stop{Kind: diagram.Depth, Distance: h.Distance}.String()
	}
	stone, problems := cutting.Sketch(draft, in.Body.Off...)
	out := Solved{Serial: in.Body.Serial, Problems: placesOf(problems), Warnings: []Place{}, Readings: readingsOf(in.Body.Draft, readings, stone)}
	if stone == nil {
		return out, nil
	}
	settings, err := s.workshop.Settings(c.Request().Context())
	if err != nil {
		return out, err
	}
	leaking := slices.DeleteFunc(angles.LeakingOptionals(stone.Diagram, stone.Diagram.RefractiveIndex), func(p diagram.Problem) bool {
		return slices.Contains(in.Body.Off, draft.Tiers[p.TierNo].Key)
	})
	out.Warnings = placesOf(slices.Concat(stone.Warnings, leaking))
	stopped := slices.ContainsFunc(problems, func(p diagram.Problem) bool { return p.TierNo >= 0 })
	v := viewing{
		gear: stone.Diagram.Gear, refractiveIndex: stone.Diagram.RefractiveIndex,
		complete: !stopped && !stone.Solid().ShowsBlock(), machine: settings.MachineOf(""), draft: draft,
	}
	for i, t := range draft.Tiers {
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
	draft, err := printed.Reshape(in.Body.Draft.draft(), in.Body.Tier, diagram.Reshape(in.Body.How))
	return Reshaped{draftView(draft)}, err
}

func stopParts(_ *echo.Context, in withBody[StopText]) (StopParts, error) {
	p := diagram.PartsOf(in.Body.Stop)
	return StopParts{Kind: p.Kind, Figure: p.Figure, Unit: p.Unit, From: append([]string{}, p.From...), To: append([]string{}, p.To...)}, nil
}

func stopText(_ *echo.Context, in withBody[StopParts]) (StopText, error) {
	parts := diagram.StopParts{Kind: in.Body.Kind, Figure: in.Body.Figure, Unit: in.Body.Unit, From: in.Body.From, To: in.Body.To}
	text, err := parts.Text()
	if err != nil {
		return StopText{}, diagram.Problem{Code: diagram.BadStop, TierNo: -1, Field: diagram.FieldStop, Text: err.Error()}
	}
	return StopText{text}, nil
}

// pullOf reads as much of a draft as comes before the tier, and the tier itself.
func pullOf(ctx context.Context, in PullRequest) (*cutting.Pull, error) {
	draft, _ := printed.Read(in.Draft.draft())
	if in.Tier >= len(draft.Tiers) {
		return nil, diagram.Problem{Code: diagram.UnknownTier, TierNo: -1, Other: fmt.Sprint(in.Tier + 1)}
	}
	draft.Tiers = draft.Tiers[:in.Tier+1]
	// Its present stop is about to be replaced and need not be readable.
	draft.Tiers[in.Tier].Stop = diagram.Stop{Kind: diagram.Depth}.String()
	d, problems := analysis.Named(draft).Read()
	if len(problems) > 0 {
		return nil, problems[0]
	}
	return cutting.PullTier(ctx, d, in.Tier)
}

func pull(c *echo.Context, in withBody[PullRequest]) (Pull, error) {
	p, err := pullOf(c.Request().Context(), in.Body)
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

func pullStop(c *echo.Context, in withBody[PullStopRequest]) (StopText, error) {
	p, err := pullOf(c.Request().Context(), in.Body.PullRequest)
	if err != nil {
		return StopText{}, err
	}
	return StopText{p.StopAt(in.Body.Distance).String()}, nil
}

func (s *Server) rankGears(c *echo.Context, in withBody[GearsRequest]) (GearReport, error) {
	stone, err := analysis.Whole(in.Body.Draft.draft())
	if err != nil {
		return GearReport{}, err
	}
	settings, err := s.workshop.Settings(c.Request().Context())
	if err != nil {
		return GearReport{}, err
	}
	m := settings.MachineOf("")
	gears, err := analysis.RankGears(stone, m, in.Body.Width)
	out := GearReport{
		Machine: m.Name, Cheater: m.Cheater != workshop.CheaterNone, Gears: []GearOnFile{},
		Proposed: (*GearFit)(gears.Proposed), Obstacles: placesOf(gears.Obstacles),
	}
	for _, g := range gears.Ranking {
		out.Gears = append(out.Gears, GearOnFile{GearFit(g.Fit), g.Gap, g.Residual})
	}
	return out, err
}

func loupe(_ *echo.Context, in withBody[LoupeRequest]) (Loupe, error) {
	ask := analysis.LoupeAsked{Gear: in.Body.Gear, WholeTeeth: in.Body.WholeTeeth}
	if in.Body.Exact != nil {
		exact := in.Body.Exact.draft()
		ask.Exact = &exact
	}
	l, err := analysis.UnderTheLoupe(in.Body.Draft.draft(), ask)
	if err != nil {
		return Loupe{}, err
	}
	return Loupe{
		Mesh: meshOf(cutting.Steps([]*solid.Solid{l.Cut}, nil)), MMPerUnit: analysis.MMPerUnit(l.Meant, in.Body.Width),
		Meets: meetViews(analysis.Meets(l.Meant, l.Errors, in.Body.Width)),
	}, nil
}

func meetViews(meets []analysis.Meet) []LoupeMeet {
	out := []LoupeMeet{}
	for _, m := range meets {
		out = append(out, LoupeMeet{Point: pointOf(m.Point), Facets: m.Facets, Residual: m.Residual, Gap: m.Gap})
	}
	return out
}
