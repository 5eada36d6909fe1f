package server

import (
	"context"
	"math"
	"net/http"
	"slices"

	"github.com/labstack/echo/v5"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/analysis"
	"cressa/core/diagram"
	"cressa/core/dopping"
	"cressa/core/gear"
	"cressa/core/rough"
	"cressa/words"
	"cressa/workshop"
)

// CheckPage is all that was looked at before a stone is glued.
type CheckPage struct {
	Summary StoneLine `json:"summary"`
	// PlanNo is the plan that was gone through.
	PlanNo   int       `json:"planNo"`
	Diagram  string    `json:"diagram"`
	Piece    string    `json:"piece"`
	Findings []Finding `json:"findings"`
	// Cautions are those of the material.
	Cautions []string `json:"cautions"`
}

// Finding is one thing that was looked at, with what can be done about it and where.
type Finding struct {
	Topic   analysis.Topic   `json:"topic"`
	Verdict analysis.Verdict `json:"verdict" validate:"oneof=fine unknown care grave"`
	Text    string           `json:"text"`
	Do      string           `json:"do"`
	Where   words.Where      `json:"where" validate:"omitempty,oneof=angles diagram plan dop kit machine rough"`
	// Side is what is up where it matters, a side or a facet that faces up, Tier the tier that decides, "" for none.
	Side string `json:"side"`
	Tier string `json:"tier"`
}

// GluingPage is how a stone can be shaped and held. Lengths are in mm, areas in mm², weights in carats.
type GluingPage struct {
	Summary StoneLine `json:"summary"`
	PlanNo  int       `json:"planNo"`
	Choices Choices   `json:"choices"`
	Preform Preform   `json:"preform"`
	// Mountings are those of the plan's setups, in their order.
	Mountings []Mounting `json:"mountings"`
	// OtherFirst is what would change if the other side were cut first.
	OtherFirst OtherFirst `json:"otherFirst"`
	// Adhesives are the sorts, Bottles what the kit has of them.
	Adhesives []GlueSort `json:"adhesives"`
	Bottles   []Bottle   `json:"bottles"`
	Cautions  []string   `json:"cautions"`
}

// Preform is how the rough is shaped before the first side is cut.
type Preform struct {
	// Turned is a cylinder with a cone, null where the outline or the angles do not ask for one.
	Turned *TurnedPreform `json:"turned"`
	// Round tells that the outline is close enough to round for it to waste little.
	Round bool `json:"round"`
	// Side and Foot are what is left all round and at the dop.
	Side float64 `json:"side"`
	Foot float64 `json:"foot"`
	// Over are what calipers must read over the stone's own width and length with what is left.
	OverWidth  float64 `json:"overWidth"`
	OverLength float64 `json:"overLength"`
	Height     float64 `json:"height"`
	// Wedges is what a saw on the machine takes off, in order, Kerf what its blade takes away.
	Wedges []SawnWedge `json:"wedges"`
	Kerf   float64     `json:"kerf"`
	// FromPiece tells that they are those of the piece that the stone was found in, not of a block.
	FromPiece bool `json:"fromPiece"`
	// FirstTiers are the tiers of the side that is cut first, in order: the preform of an unusual outline.
	FirstTiers []string `json:"firstTiers"`
	// Outline is the stone's silhouette across its width, x to the side and y up, in turn.
	Outline []float64 `json:"outline"`
}

// TurnedPreform is a cylinder with a cone. Foot is the height of its flat in the frame of the outline.
type TurnedPreform struct {
	Tier     string  `json:"tier"`
	Angle    float64 `json:"angle"`
	Mains    float64 `json:"mains"`
	Diameter float64 `json:"diameter"`
	Height   float64 `json:"height"`
	Straight float64 `json:"straight"`
	Foot     float64 `json:"foot"`
	// Keeps is how much of the height the stone needs under its cone, Third the rule of thumb.
	Keeps  float64 `json:"keeps"`
	Third  float64 `json:"third"`
	Carats float64 `json:"carats"`
}

// SawnWedge is a wedge that the saw takes off at a facet's setting.
type SawnWedge struct {
	Tier  string  `json:"tier"`
	Angle float64 `json:"angle"`
	Tooth int     `json:"tooth"`
	Depth float64 `json:"depth"`
	Saved float64 `json:"saved"`
	Lost  float64 `json:"lost"`
}

// Mounting is how a stone can be held for a setup.
type Mounting struct {
	Setup string `json:"setup"`
	// Up is the side that is up, or the facet that a solid is held with facing up.
	Up string `json:"up"`
	// Advice is about the end that goes into the dop.
	Advice    string            `json:"advice"`
	Underside dopping.Underside `json:"underside" validate:"oneof=level keel tip"`
	// Along is the direction of a keel and so of a groove, in degrees like an azimuth.
	Along float64       `json:"along"`
	Tiers []MountedTier `json:"tiers"`
	Dops  []MountedDop  `json:"dops"`
	// Taken is the place in Dops of the one that the plan names, -1 for none.
	Taken int `json:"taken"`
	// Glue is the sort of the adhesive that the plan names, "" where it names none of a known sort.
	Glue dopping.Sort `json:"glue" validate:"omitempty,oneof=wax cyanoacrylate epoxy wax-cyanoacrylate filled-cyanoacrylate"`
}

// MountedTier is a tier as the lap meets it: an angle and a distance from the origin, with the silhouettes
// of stone and body seen along the lap, x to the side and y up, in turn.
type MountedTier struct {
	Tier     string  `json:"tier"`
	Angle    float64 `json:"angle"`
	Distance float64 `json:"distance"`
	// Azimuth is where it lies, in degrees from the side that comes to the lap at index N.
	Azimuth float64   `json:"azimuth"`
	Stone   []float64 `json:"stone"`
	Body    []float64 `json:"body"`
}

// MountedDop is a dop that was tried.
type MountedDop struct {
	Item     string        `json:"item"`
	Name     string        `json:"name"`
	Shape    dopping.Shape `json:"shape" validate:"oneof=flat cone vee"`
	Diameter float64       `json:"diameter"`
	// Near is how far its rim lies below the origin; Rim how far the stone stands out.
	Near    float64 `json:"near"`
	Rim     float64 `json:"rim"`
	Contact float64 `json:"contact"`
	// Sound tells that nothing grave speaks against it.
	Sound  bool     `json:"sound"`
	Faults []Remark `json:"faults"`
	// Rooms are how far the lap stays off the dop, by the mounting's tiers, and Tightest the place of the
	// least; Quills are how far it stays off the quill, empty where that is not measured.
	Rooms    []float64 `json:"rooms"`
	Tightest int       `json:"tightest"`
	Quills   []float64 `json:"quills"`
	Bonds    []Bond    `json:"bonds"`
}

// Remark speaks against something.
type Remark struct {
	Text  string `json:"text"`
	Grave bool   `json:"grave"`
}

// Bond is a sort of adhesive on a dop.
type Bond struct {
	Sort dopping.Sort `json:"sort" validate:"oneof=wax cyanoacrylate epoxy wax-cyanoacrylate filled-cyanoacrylate"`
	// Contact is what it holds in mm², Bears how many times the push of a hand it bears.
	Contact  float64  `json:"contact"`
	Bears    float64  `json:"bears"`
	Sound    bool     `json:"sound"`
	Concerns []Remark `json:"concerns"`
}

// GlueSort is a sort of adhesive with how a stone is glued with it and freed.
type GlueSort struct {
	Sort    dopping.Sort `json:"sort" validate:"oneof=wax cyanoacrylate epoxy wax-cyanoacrylate filled-cyanoacrylate"`
	Name    string       `json:"name"`
	Minutes float64      `json:"minutes"`
	Release string       `json:"release"`
	Steps   []TimedStep  `json:"steps"`
}

// TimedStep is one step of gluing or of finishing, with the minutes that it takes by the clock, 0 for none.
type TimedStep struct {
	Text    string  `json:"text"`
	Minutes float64 `json:"minutes"`
	Caution string  `json:"caution"`
}

// Bottle is an adhesive of the kit.
type Bottle struct {
	Item    string       `json:"item"`
	Name    string       `json:"name"`
	Sort    dopping.Sort `json:"sort" validate:"omitempty,oneof=wax cyanoacrylate epoxy wax-cyanoacrylate filled-cyanoacrylate"`
	Minutes float64      `json:"minutes"`
	Needs   []Remark     `json:"needs"`
}

// OtherFirst is the best dop of each side if the other side were cut first, in the order of the work. A solid that is held by more
// than its sides has none: First is "" then.
type OtherFirst struct {
	First diagram.Part  `json:"first" validate:"omitempty,oneof=pavilion crown"`
	Sides []OtherHolder `json:"sides"`
}

// OtherHolder is the best dop for a side.
type OtherHolder struct {
	Up      diagram.Part `json:"up" validate:"oneof=pavilion crown"`
	Name    string       `json:"name"`
	Contact float64      `json:"contact"`
	Least   float64      `json:"least"`
	Sound   bool         `json:"sound"`
	Faults  []Remark     `json:"faults"`
}

// RollRequest is what calipers read across a preform at even steps over half a turn, in mm.
type RollRequest struct {
	Readings []float64 `json:"readings" validate:"min=2,max=24,dive,min=0.1,max=500"`
	Wanted   float64   `json:"wanted" validate:"min=0,max=500"`
}

// Roundness is how round a preform is. High is where it is widest, in degrees from the first reading; Grind
// is what is still to come off there, below 0 where it is too small.
type Roundness struct {
	Least float64 `json:"least"`
	Mean  float64 `json:"mean"`
	Most  float64 `json:"most"`
	Out   float64 `json:"out"`
	High  float64 `json:"high"`
	Grind float64 `json:"grind"`
}

func (s *Server) gluingRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/stones/:id/check", name: "checkStone", summary: "What could go wrong, before a stone is glued", computes: true}, s.checkPage)
	handle(s, route{method: http.MethodGet, path: "/api/stones/:id/gluing", name: "getGluing", summary: "How a stone can be shaped and held", computes: true}, s.gluingPage)
	handle(s, route{method: http.MethodPost, path: "/api/roundness", name: "judgeRoundness", summary: "How round a preform is"}, func(_ *echo.Context, in withBody[RollRequest]) (Roundness, error) {
		r, _ := dopping.Roll(in.Body.Readings, in.Body.Wanted)
		return Roundness(r), nil
	})
}

func (s *Server) checkPage(c *echo.Context, in byID) (CheckPage, error) {
	ctx := c.Request().Context()
	stone, summary, err := s.planned(ctx, in.ID)
	if err != nil {
		return CheckPage{}, err
	}
	g, findings, err := analysis.Vet(ctx, s.workshop, stone)
	if err != nil {
		return CheckPage{}, err
	}
	plan := stone.Work().Plan
	out := CheckPage{Summary: summary, PlanNo: plan.No, Diagram: plan.DiagramID, Findings: []Finding{}, Cautions: words.Cautions(plan.Material)}
	if g.Source != nil {
		out.Piece = g.Source.Piece
	}
	for _, f := range findings {
		advice := words.Found(f)
		out.Findings = append(out.Findings, Finding{f.Topic, f.Verdict, advice.Text, advice.Do, advice.Where, f.Side, f.Tier})
	}
	return out, nil
}

// planned is a stone with its line; one without a plan has nothing to be glued for.
func (s *Server) planned(ctx context.Context, id string) (workshop.Stone, StoneLine, error) {
	stone, err := s.workshop.Stone(ctx, id)
	if err == nil && stone.Work().Plan == nil {
		err = workshop.ErrNoPlan
	}
	if err != nil {
		return stone, StoneLine{}, err
	}
	summary, err := s.summary(ctx, workshop.StoneFilter{ID: id})
	return stone, summary, err
}

func (s *Server) gluingPage(c *echo.Context, in byID) (GluingPage, error) {
	ctx := c.Request().Context()
	stone, summary, err := s.planned(ctx, in.ID)
	if err != nil {
		return GluingPage{}, err
	}
	g, err := analysis.GluingOf(ctx, s.workshop, stone)
	if err != nil {
		return GluingPage{}, err
	}
	var worked *rough.Piece
	if g.Source != nil && g.Source.Found != nil {
		if worked, err = s.workshop.Worked(ctx, g.Source.Rough); err != nil {
			return GluingPage{}, err
		}
	}
	plan := stone.Work().Plan
	out := GluingPage{
		Summary: summary, PlanNo: plan.No, Choices: choicesView(plan.Choices), Preform: preformView(g, worked),
		Adhesives: []GlueSort{}, Bottles: []Bottle{}, Cautions: words.Cautions(plan.Material),
	}
	for i, m := range g.Mounting {
		out.Mountings = append(out.Mountings, mountingView(g, m, i == 0))
	}
	for i, m := range g.Other {
		if i == 0 {
			out.OtherFirst.First = diagram.Part(m.Up)
		}
		best := m.Options[0]
		out.OtherFirst.Sides = append(out.OtherFirst.Sides, OtherHolder{
			diagram.Part(m.Up), nameOf(best), best.Seat.Most(), finite(best.Least()), best.Sound(), faultViews(best),
		})
	}
	for _, a := range dopping.Adhesives() {
		out.Adhesives = append(out.Adhesives, GlueSort{
			a.Sort, words.AdhesiveName(a.Sort), a.Minutes, words.Release(a, plan.Material),
			each(words.GlueSteps(a, plan.Material), func(s words.Step) TimedStep { return TimedStep(s) }),
		})
	}
	for _, b := range g.Bottles() {
		hold := workshop.Hold{Adhesive: b.Name, AdhesiveItem: b.ID}
		a, _, _ := hold.AdhesiveOf([]workshop.Shelved{b})
		out.Bottles = append(out.Bottles, Bottle{b.ID, b.Name, a.Sort, a.Minutes, each(b.Needs, func(n workshop.Need) Remark {
			return Remark{words.Need(n, b), n.Grave()}
		})})
	}
	return out, nil
}

func preformView(g *analysis.Gluing, worked *rough.Piece) Preform {
	a, m := g.Assessment, g.Mounting[0]
	wedges, kerf := g.Wedges(worked)
	perMM3 := a.Material.CaratPerMM3()
	out := Preform{
		Side: g.Allowance.Side, Foot: g.Allowance.Foot, Kerf: kerf, FromPiece: worked != nil, Wedges: []SawnWedge{}, FirstTiers: []string{},
		OverWidth: a.WidthMM + 2*g.Allowance.Side, OverLength: a.LengthMM + 2*g.Allowance.Side,
		Height:  m.Stone.High() - m.Stone.Low() + g.Allowance.Side + g.Allowance.Foot,
		Round:   m.Stone.Round(),
		Outline: corners(m.Stone.Outline(90)),
	}
	for _, c := range m.Cuts {
		if tier := tierOf(g, c); !slices.Contains(out.FirstTiers, tier) {
			out.FirstTiers = append(out.FirstTiers, tier)
		}
	}
	for _, w := range wedges {
		f := a.Stone.Facets[w.Facet]
		set, err := gear.Dial(f.Plane.Normal, a.Setups[0].Pose)
		if err != nil {
			continue // a pose of the workshop's own can be dialled
		}
		out.Wedges = append(out.Wedges, SawnWedge{tierOf(g, w.Cut), w.Angle, set.Tooth, w.Depth, w.Saved * perMM3, w.Lost * perMM3})
	}
	if g.Mains >= 0 {
		t := g.Turned
		out.Turned = &TurnedPreform{
			Tier: a.Stone.Diagram.Tiers[g.Mains].Name, Angle: t.Angle, Mains: a.Stone.Diagram.Tiers[g.Mains].Angle,
			Diameter: t.Diameter, Height: t.Height, Straight: t.Straight, Foot: t.Foot,
			Keeps: g.Kept() + g.Allowance.Foot, Third: t.ForCrown(), Carats: t.Volume * perMM3,
		}
	}
	return out
}

func tierOf(g *analysis.Gluing, c dopping.Cut) string {
	s := g.Assessment.Stone
	return s.Diagram.Tiers[s.Facets[c.Facet].Tier].Name
}

// corners writes an outline as x and y in turn.
func corners(outline []r3.Vec) []float64 {
	out := make([]float64, 0, 2*len(outline))
	for _, p := range outline {
		out = append(out, p.X, p.Y)
	}
	return out
}

func nameOf(o analysis.DopOption) string {
	if o.Name != "" {
		return o.Name
	}
	return words.DopName(o.Dop)
}

// faultViews tells what speaks against a dop. The quill is the same behind all of them: it is told apart.
func faultViews(o analysis.DopOption) []Remark {
	own := slices.DeleteFunc(slices.Clone(o.Faults), func(f dopping.Fault) bool { return f == dopping.OverRim })
	return each(own, func(f dopping.Fault) Remark {
		return Remark{words.Fault(f, o.Least(), o.Rim, o.LeastQuill()), f.Grave()}
	})
}

// finite is a figure that JSON can hold: without a cut, there is room without end.
func finite(v float64) float64 { return math.Min(v, 1000) }

func mountingView(g *analysis.Gluing, m analysis.Mounting, first bool) Mounting {
	out := Mounting{
		Setup: g.Assessment.Setups[m.Setup].ID, Up: m.Up, Advice: words.Foot(m.Foot, m.Up, first), Underside: m.Foot.Underside, Along: m.Foot.Along,
		Tiers: []MountedTier{}, Dops: []MountedDop{}, Taken: -1,
	}
	// place tells at which tier of the view a cut counts.
	place := make([]int, len(m.Cuts))
	for i, c := range m.Cuts {
		name := tierOf(g, c)
		at := slices.IndexFunc(out.Tiers, func(t MountedTier) bool { return t.Tier == name })
		if at < 0 {
			at = len(out.Tiers)
			out.Tiers = append(out.Tiers, MountedTier{name, c.Angle, c.Distance, c.Azimuth, corners(m.Stone.Outline(c.Azimuth)), corners(m.Body.Outline(c.Azimuth))})
		}
		place[i] = at
	}
	options := m.Options
	if m.Taken != nil {
		same := func(o analysis.DopOption) bool { return o.Item == m.Taken.Item && o.Dop == m.Taken.Dop }
		if out.Taken = slices.IndexFunc(options, same); out.Taken < 0 {
			options, out.Taken = append([]analysis.DopOption{*m.Taken}, options...), 0
		}
	}
	if a, ok := g.GlueOf(m); ok {
		out.Glue = a.Sort
	}
	for _, o := range options {
		out.Dops = append(out.Dops, dopView(o, place, len(out.Tiers)))
	}
	return out
}

func dopView(o analysis.DopOption, place []int, tiers int) MountedDop {
	out := MountedDop{
		Item: o.Item, Name: nameOf(o), Shape: o.Dop.Shape, Diameter: o.Dop.Diameter, Near: o.Seat.Near, Rim: o.Rim,
		Contact: o.Seat.Most(), Sound: o.Sound(), Faults: faultViews(o), Rooms: make([]float64, tiers), Tightest: -1, Quills: []float64{}, Bonds: []Bond{},
	}
	for i := range out.Rooms {
		out.Rooms[i] = math.Inf(1)
	}
	if o.QuillAt >= 0 {
		out.Quills = slices.Clone(out.Rooms)
	}
	for i, r := range o.Rooms {
		out.Rooms[place[i]] = math.Min(out.Rooms[place[i]], r.Dop)
		if o.QuillAt >= 0 {
			out.Quills[place[i]] = math.Min(out.Quills[place[i]], r.Quill)
		}
	}
	if o.Tightest >= 0 {
		out.Tightest = place[o.Tightest]
	}
	for _, b := range o.Bonds {
		out.Bonds = append(out.Bonds, Bond{b.Adhesive.Sort, b.Contact, b.Bears, b.Sound(), each(b.Concerns, func(c dopping.Concern) Remark {
			return Remark{words.Concern(c, b.Bears), c.Grave()}
		})})
	}
	return out
}
