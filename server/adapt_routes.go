package server

import (
	"context"
	"errors"
	"math"
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/analysis"
	"cressa/core/diagram"
	"cressa/core/gear"
	"cressa/core/light"
	"cressa/words"
	"cressa/workshop"
)

// TierChange is what is changed of a tier at the wheel: its angle in degrees, and its stop as the editor takes it.
type TierChange struct {
	Tier  string  `json:"tier" validate:"required,max=12"`
	Angle float64 `json:"angle" validate:"min=0,max=90"`
	Stop  string  `json:"stop" validate:"required,max=2000"`
}

// AdaptRequest asks what follows of changes at the wheel: all of the stone's layer, not those of this time alone.
type AdaptRequest struct {
	Changes []TierChange `json:"changes" validate:"max=400,dive"`
}

// KeepLayerRequest changes the layer of a stone's plan over the version that was read.
type KeepLayerRequest struct {
	Changes []TierChange `json:"changes" validate:"max=400,dive"`
	Version int          `json:"version"`
}

// Adaptation is what follows of changes at the wheel. Lengths are in mm.
type Adaptation struct {
	// Version is that of the stone, Changes the layer as it was read.
	Version int           `json:"version"`
	Changes []TierChange  `json:"changes"`
	Tiers   []AdaptedTier `json:"tiers"`
	// Gap is the widest gap of a meet in µm where facets that stand too deep are left as they are.
	Gap    float64       `json:"gap"`
	Before AdaptedFigure `json:"before"`
	After  AdaptedFigure `json:"after"`
	Solid  Mesh          `json:"solid"`
	Levels Levels        `json:"levels"`
	// Draft is the diagram with the changes.
	Draft Draft `json:"draft"`
}

// AdaptedTier is a tier as it was drawn, as the plan has it, and as it would be.
type AdaptedTier struct {
	Name       string  `json:"name"`
	Part       string  `json:"part"`
	DrawnAngle float64 `json:"drawnAngle"`
	WasAngle   float64 `json:"wasAngle"`
	Angle      float64 `json:"angle"`
	// DrawnStop, WasStop and Stop are written as the editor takes them, StopText tells the last of them to people.
	DrawnStop string `json:"drawnStop"`
	WasStop   string `json:"wasStop"`
	Stop      string `json:"stop"`
	StopText  string `json:"stopText"`
	// Margin is how far the angle stands above the critical one, in degrees, null where that says nothing.
	Margin *float64 `json:"margin"`
	// Cut is how many of its facets had a cut; Again tells that those are cut anew because their angle is another.
	Cut   int  `json:"cut"`
	Again bool `json:"again"`
	// Deeper is by how many mm facets that were cut have to come deeper, TooDeep by how many they stand too deep.
	Deeper  float64 `json:"deeper"`
	TooDeep float64 `json:"tooDeep"`
}

// AdaptedFigure is a stone's figures, lengths in mm, light as shares face up.
type AdaptedFigure struct {
	Carats float64 `json:"carats"`
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
	Crown  float64 `json:"crown"`
	Girdle float64 `json:"girdle"`
	Table  float64 `json:"table"`
	Return float64 `json:"return"`
	Window float64 `json:"window"`
}

// SecondSideRequest asks how the second side is cut in the height that is left: in mm, from the edge of the finished
// side to the end of the rough.
type SecondSideRequest struct {
	Left float64 `json:"left" validate:"min=0.05,max=500"`
}

// SecondSides are ways to cut the second side. Need is what the plan takes, in mm, null without a girdle.
type SecondSides struct {
	Need *float64        `json:"need"`
	Ways []SecondSideWay `json:"ways"`
}

// SecondSideWay is a way to cut the second side, and what follows of it.
type SecondSideWay struct {
	Way analysis.Way `json:"way" validate:"oneof=as-planned flatter steeper wider-table thinner-girdle thicker-girdle girdle-then-flatter"`
	Adaptation
}

// LeanRequest tells of a girdle that came out aslant: how thick it is at two places or more.
type LeanRequest struct {
	Setup    string     `json:"setup" validate:"required,max=40"`
	Readings []GirdleAt `json:"readings" validate:"min=2,max=24,dive"`
	// Straight tells that it was nudged since, and sits straight.
	Straight bool `json:"straight"`
	Version  int  `json:"version"`
}

// GirdleAt is the girdle's thickness in mm at a dialled index.
type GirdleAt struct {
	Index float64 `json:"index" validate:"min=0,max=360"`
	MM    float64 `json:"mm" validate:"min=0,max=20"`
}

// LeanView is how a stone leans, and how it is dialled then.
type LeanView struct {
	Version int `json:"version"`
	// Tilt is in degrees, Towards the index that it leans to, where the girdle is thickest. Nudge is what the rim of the stone is
	// lifted by there, in mm.
	Tilt    float64 `json:"tilt"`
	Towards float64 `json:"towards"`
	Nudge   float64 `json:"nudge"`
	// Off is by how many mm a reading lies off a girdle that stands aslant as a whole.
	Off   float64    `json:"off"`
	Tiers []LeanDial `json:"tiers"`
	// Check says by which facet it shows whether that is right.
	Check string `json:"check"`
}

// LeanDial is how the facets of a tier are dialled on a stone that leans.
type LeanDial struct {
	Tier   string    `json:"tier"`
	Facets []LeanSet `json:"facets"`
}

// LeanSet is an angle with its tooth and cheat, in degrees.
type LeanSet struct {
	Angle float64 `json:"angle"`
	Tooth int     `json:"tooth"`
	Cheat float64 `json:"cheat"`
}

// AtWheelRequest changes a plan in the middle of the work, over the version that was read. What is null or "" stays.
type AtWheelRequest struct {
	// Visiting is the order of the facets within a tier.
	Visiting gear.Visiting `json:"visiting" validate:"omitempty,oneof=written round pairs"`
	// GirdleSpare is by how many mm the girdle is left thicker at first.
	GirdleSpare *float64 `json:"girdleSpare" validate:"omitempty,min=0,max=2"`
	// Across is what calipers read on the stone as it was cut.
	Across  *Calipered `json:"across"`
	Version int        `json:"version"`
}

// Calipered is what calipers read in mm, across a girdle tier or, where that is "", at the stone's width.
type Calipered struct {
	Tier string  `json:"tier" validate:"max=12"`
	MM   float64 `json:"mm" validate:"min=0.1,max=500"`
}

// adaptGrid is how many rays across a stone is looked at with: its figures compare.
const adaptGrid = 96

func (s *Server) adaptRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/stones/:id/adaptation", name: "tryAdapting", summary: "What follows of angles or stops that are changed at the wheel", computes: true}, func(c *echo.Context, in byIDWithBody[AdaptRequest]) (Adaptation, error) {
		return s.adaptation(c.Request().Context(), in.ID, layerOf(in.Body.Changes))
	})
	handle(s, route{method: http.MethodPost, path: "/api/stones/:id/second-side", name: "secondSides", summary: "How the second side can be cut in the height that is left", computes: true}, func(c *echo.Context, in byIDWithBody[SecondSideRequest]) (SecondSides, error) {
		return s.secondSides(c.Request().Context(), in.ID, in.Body.Left)
	})
	handle(s, route{method: http.MethodPost, path: "/api/stones/:id/lean", name: "tryLean", summary: "How a stone leans whose girdle is aslant, and how it is dialled then", computes: true}, func(c *echo.Context, in byIDWithBody[LeanRequest]) (LeanView, error) {
		return s.tryLean(c.Request().Context(), in.ID, in.Body)
	})
	handle(s, route{method: http.MethodPut, path: "/api/stones/:id/lean", name: "leanStone", summary: "Correct what is dialled for a stone that leans"}, func(c *echo.Context, in byIDWithBody[LeanRequest]) (StoneHead, error) {
		ctx := c.Request().Context()
		lean, _, _, err := s.leanOf(ctx, in.ID, in.Body)
		if err != nil {
			return StoneHead{}, err
		}
		if in.Body.Straight {
			lean = workshop.Lean{}
		}
		stone, err := s.workshop.LeanStone(ctx, in.ID, in.Body.Setup, lean, in.Body.Version)
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
	handle(s, route{method: http.MethodPut, path: "/api/stones/:id/at-wheel", name: "changeAtWheel", summary: "Change the order, the girdle's allowance or the size of a stone's plan at the wheel"}, func(c *echo.Context, in byIDWithBody[AtWheelRequest]) (StoneHead, error) {
		b := in.Body
		stone, err := s.workshop.ChangeAtWheel(c.Request().Context(), in.ID, workshop.AtWheel{Visiting: b.Visiting, GirdleSpare: b.GirdleSpare, Across: (*workshop.Calipered)(b.Across)}, b.Version)
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
	handle(s, route{method: http.MethodPut, path: "/api/stones/:id/layer", name: "adaptStone", summary: "Change angles or stops of a stone's plan at the wheel"}, func(c *echo.Context, in byIDWithBody[KeepLayerRequest]) (StoneHead, error) {
		stone, err := s.workshop.Adapt(c.Request().Context(), in.ID, layerOf(in.Body.Changes), in.Body.Version)
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
}

func layerOf(changes []TierChange) []workshop.TierChange {
	return each(changes, func(c TierChange) workshop.TierChange { return workshop.TierChange(c) })
}

func changesOf(layer []workshop.TierChange) []TierChange {
	return each(layer, func(c workshop.TierChange) TierChange { return TierChange(c) })
}

func (s *Server) adaptation(ctx context.Context, id string, layer []workshop.TierChange) (Adaptation, error) {
	stone, err := s.workshop.Stone(ctx, id)
	if err != nil {
		return Adaptation{}, err
	}
	tried, err := s.workshop.TryAdapting(ctx, id, layer)
	if err != nil {
		return Adaptation{}, err
	}
	usual, err := s.workshop.Usual(ctx)
	if err != nil {
		return Adaptation{}, err
	}
	ask := analysis.FaceAsked{Experiment: light.Experiment{Grid: adaptGrid, HeadAngle: usual.HeadAngle}, Model: usual.LightModel}
	got, err := analysis.Adapt(ctx, tried, ask)
	if err != nil {
		return Adaptation{}, err
	}
	out := Adaptation{
		Version: stone.Version, Changes: changesOf(tried.Layer), Tiers: []AdaptedTier{}, Gap: got.Gap,
		Before: AdaptedFigure(got.Before), After: AdaptedFigure(got.After), Solid: finishedMesh(got.Is.Stone), Levels: levelsOf(got.Is.Stone), Draft: draftView(diagram.DraftOf(got.Is.Stone.Diagram)),
	}
	scale := words.Scale{MM: got.Is.MM, Width: got.Is.Stone.Measures().Width}
	for i, t := range got.Tiers {
		drawn := got.Drawn.Stone.Diagram.Tiers[i]
		out.Tiers = append(out.Tiers, AdaptedTier{
			Name: t.Name, Part: string(t.Part), DrawnAngle: drawn.Angle, WasAngle: t.WasAngle, Angle: t.Angle,
			DrawnStop: drawn.Stop.String(), WasStop: t.WasStop, Stop: t.Stop,
			StopText: words.Stop(got.Is.Stone.Diagram.Tiers[i], got.Is.Stone.Diagram.Gear, scale),
			Margin:   t.Margin, Cut: t.Cut, Again: t.Again, Deeper: t.Deeper, TooDeep: t.TooDeep,
		})
	}
	return out, nil
}

// secondSides looks at each way over the plan as it is.
func (s *Server) secondSides(ctx context.Context, id string, left float64) (SecondSides, error) {
	stone, err := s.workshop.Stone(ctx, id)
	if err != nil {
		return SecondSides{}, err
	}
	a, err := s.workshop.AssessStone(ctx, stone)
	if err != nil {
		return SecondSides{}, err
	}
	out := SecondSides{Ways: []SecondSideWay{}}
	if need, ok := analysis.Room(a); ok {
		out.Need = &need
	}
	for _, way := range analysis.SecondSides(a, left) {
		layer := workshop.Over(stone.Work().Plan.Layer, way.Changes)
		got, err := s.adaptation(ctx, id, layer)
		// A way whose stops cannot be solved is none.
		if errors.As(err, &diagram.Problem{}) {
			continue
		}
		if err != nil {
			return out, err
		}
		out.Ways = append(out.Ways, SecondSideWay{way.Way, got})
	}
	return out, nil
}

// leanOf returns how a stone leans, by how many mm a reading is off that, and the stone.
func (s *Server) leanOf(ctx context.Context, id string, ask LeanRequest) (workshop.Lean, float64, *workshop.Assessment, error) {
	stone, err := s.workshop.Stone(ctx, id)
	if err != nil {
		return workshop.Lean{}, 0, nil, err
	}
	return s.workshop.LeanFrom(ctx, stone, ask.Setup, each(ask.Readings, func(r GirdleAt) workshop.GirdleAt { return workshop.GirdleAt(r) }))
}

func (s *Server) tryLean(ctx context.Context, id string, ask LeanRequest) (LeanView, error) {
	stone, err := s.workshop.Stone(ctx, id)
	if err != nil {
		return LeanView{}, err
	}
	lean, off, a, err := s.leanOf(ctx, id, ask)
	if err != nil {
		return LeanView{}, err
	}
	dials, err := s.workshop.TryLean(ctx, id, ask.Setup, lean)
	if err != nil {
		return LeanView{}, err
	}
	check, err := s.workshop.CheckFacet(ctx, stone, ask.Setup, lean)
	if err != nil {
		return LeanView{}, err
	}
	nudge := a.WidthMM / 2 * math.Tan(lean.Tilt*math.Pi/180)
	return LeanView{Version: stone.Version, Tilt: lean.Tilt, Towards: lean.Towards, Nudge: nudge, Off: off, Tiers: leanDials(dials), Check: words.CheckFacet(check)}, nil
}

func leanDials(dials []workshop.LeanDial) []LeanDial {
	return each(dials, func(d workshop.LeanDial) LeanDial {
		return LeanDial{d.Tier, each(d.Set, func(g gear.Setting) LeanSet {
			return LeanSet{math.Round(g.Angle*100) / 100, g.Tooth, math.Round(g.Cheat*100) / 100}
		})}
	})
}
