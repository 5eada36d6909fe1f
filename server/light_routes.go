package server

import (
	"context"
	"encoding/base64"
	"fmt"
	"io"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"cressa/analysis"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/light"
	"cressa/core/material"
	"cressa/formats"
	"cressa/workshop"
)

// LookRequest asks for a picture of a draft under light.
type LookRequest struct {
	Draft Draft `json:"draft"`
	Lighting
	// Show is the stone in its colour or without one, or where most of the light goes.
	Show string `json:"show" validate:"oneof=colour pale ends"`
	// Split shows how the material parts white light into colours.
	Split bool    `json:"split"`
	Tilt  float64 `json:"tilt" validate:"min=0,max=85"`
	To    float64 `json:"to" validate:"min=-360,max=360"`
	// Grid is how many rays the picture is wide and high.
	Grid int `json:"grid" validate:"min=16,max=512"`
}

// Look is a picture of a stone and its figures.
type Look struct {
	// Picture is a PNG as a data URL, clear around the stone.
	Picture string       `json:"picture"`
	Figures LightFigures `json:"figures"`
	// Ends are the parts of a map, in every picture's answer.
	Ends []EndShare `json:"ends"`
}

// LightFigures are shares of the light of all rays that hit a stone, Return under the
// model that was asked for.
type LightFigures struct {
	RefractiveIndex float64 `json:"refractiveIndex"`
	CriticalAngle   float64 `json:"criticalAngle"`
	Return          float64 `json:"return"`
	Window          float64 `json:"window"`
	HeadShadow      float64 `json:"headShadow"`
	Leak            float64 `json:"leak"`
	Glare           float64 `json:"glare"`
	Frosted         float64 `json:"frosted"`
	// Absorbed is 0 but for a picture in the stone's colour.
	Absorbed float64 `json:"absorbed"`
	Residual float64 `json:"residual"`
}

// EndShare is the share of a picture's rays that mostly go one way, and its colour there.
type EndShare struct {
	End    string  `json:"end" validate:"oneof=returned leaked shadowed"`
	Share  float64 `json:"share"`
	Colour string  `json:"colour"`
}

// LitDraft is a draft and how it is looked at.
type LitDraft struct {
	Draft Draft `json:"draft"`
	Lighting
}

// TiltCurve tells how the figures change as the stone is tilted.
type TiltCurve struct {
	Points []TiltPoint `json:"points"`
}

// TiltPoint holds the figures at a tilt in degrees: towards 12 o'clock, 6 where it is
// negative, and towards 3, or 9.
type TiltPoint struct {
	Degrees float64      `json:"degrees"`
	Twelve  LightFigures `json:"twelve"`
	Three   LightFigures `json:"three"`
}

// MaterialsRequest asks for one diagram in several materials.
type MaterialsRequest struct {
	LitDraft
	Materials []string `json:"materials" validate:"max=12,dive,max=60"`
}

// MaterialsLight holds the figures in each material.
type MaterialsLight struct {
	Rows []MaterialLight `json:"rows"`
}

// MaterialLight is a diagram in one material.
type MaterialLight struct {
	Material string       `json:"material"`
	Figures  LightFigures `json:"figures"`
}

// GirdleRequest asks what a girdle's finish is worth.
type GirdleRequest struct {
	LitDraft
	// Passes is how many passes a polished girdle gets, 0 as many as is the habit.
	Passes int `json:"passes" validate:"min=0,max=12"`
}

// GirdleLight is the light of a stone with each finish of its girdle.
type GirdleLight struct {
	Finishes []GirdleFinishLight `json:"finishes"`
	// Pace is in minutes a visit; Logged tells that it was taken from the log.
	Pace   float64 `json:"pace"`
	Logged bool    `json:"logged"`
	// Tilt in degrees is that of the tilted figures.
	Tilt float64 `json:"tilt"`
}

// GirdleFinishLight is one finish: what it asks for and what is seen, face up and tilted
// towards 12 o'clock.
type GirdleFinishLight struct {
	Finish string       `json:"finish" validate:"oneof=polished prepolished cut"`
	Visits int          `json:"visits"`
	Hours  float64      `json:"hours"`
	FaceUp LightFigures `json:"faceUp"`
	Tilted LightFigures `json:"tilted"`
}

// WithoutRequest asks what a tier is worth.
type WithoutRequest struct {
	LitDraft
	Tier int `json:"tier" validate:"min=0,max=399"`
	// Passes is how many every facet gets, 0 as many as is the habit.
	Passes int `json:"passes" validate:"min=0,max=12"`
}

// WithAndWithout is a stone with a tier and without it.
type WithAndWithout struct {
	With    LeftOff `json:"with"`
	Without LeftOff `json:"without"`
	// Pace is in minutes a visit; Logged tells that it was taken from the log.
	Pace   float64 `json:"pace"`
	Logged bool    `json:"logged"`
}

// LeftOff is what a stone asks for and what is seen of it face up. Carats is 0 without a material.
type LeftOff struct {
	Facets int          `json:"facets"`
	Visits int          `json:"visits"`
	Hours  float64      `json:"hours"`
	Carats float64      `json:"carats"`
	Light  LightFigures `json:"light"`
}

// TintList lists the body colours.
type TintList struct {
	Tints []TintView `json:"tints"`
}

// TintView is a body colour and the materials that are mostly seen in it.
type TintView struct {
	Key   string   `json:"key"`
	Usual []string `json:"usual"`
	// Absorption is that of red, green and blue in 1/mm.
	Absorption []float64 `json:"absorption"`
}

// curveGrid is how many rays across a tilt curve is traced with: coarser than single figures,
// because there are many, and a curve shows differences.
const curveGrid = 96

func (s *Server) lightRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/light/look", name: "look", summary: "A draft under light, pictured"}, s.look)
	handle(s, route{method: http.MethodPost, path: "/api/light/tilts", name: "tilts", summary: "A draft's light as it is tilted"}, s.tilts)
	handle(s, route{method: http.MethodPost, path: "/api/light/materials", name: "lightByMaterial", summary: "A draft's light in several materials"}, s.lightByMaterial)
	handle(s, route{method: http.MethodPost, path: "/api/light/girdle", name: "lightByGirdle", summary: "What the finish of a draft's girdle is worth"}, s.lightByGirdle)
	handle(s, route{method: http.MethodPost, path: "/api/light/without", name: "lightWithout", summary: "What a draft's tier is worth"}, s.lightWithout)
	handle(s, route{method: http.MethodGet, path: "/api/tints", name: "listTints", summary: "The body colours"}, s.tints)
}

// lit cuts a draft and finds how it is looked at.
func (s *Server) lit(ctx context.Context, of Draft, lighting Lighting) (*cutting.Stone, workshop.Lit, error) {
	stone, err := analysis.Whole(analysis.Named(of.draft()))
	if err != nil {
		return nil, workshop.Lit{}, err
	}
	settings, err := s.workshop.Settings(ctx)
	if err != nil {
		return nil, workshop.Lit{}, err
	}
	seen, err := workshop.Lighting(lighting).Resolve(settings)
	return stone, seen, err
}

func lightFigures(f light.Figures, m light.Model, n float64) LightFigures {
	return LightFigures{
		RefractiveIndex: n, CriticalAngle: material.CriticalAngle(n),
		Return: f.Return(m), Window: f.Window, HeadShadow: f.HeadShadow, Leak: f.Leak,
		Glare: f.Glare, Frosted: f.Frosted, Absorbed: f.Absorbed, Residual: f.Residual,
	}
}

func (s *Server) look(c *echo.Context, in withBody[LookRequest]) (Look, error) {
	ctx, done := context.WithTimeout(c.Request().Context(), patience)
	defer done()
	ask := in.Body
	stone, seen, err := s.lit(ctx, ask.Draft, ask.Lighting)
	if err != nil {
		return Look{}, err
	}
	e, fan := seen.Experiment, light.Fan{}
	e.Grid, e.Tilt, e.To = ask.Grid, ask.Tilt, ask.To
	if ask.Show == "colour" {
		e.Absorption = seen.Tint.Absorption()
	}
	if ask.Split && ask.Show != "ends" {
		fan = seen.Fan
	}
	p, f, err := light.Of(stone).Picture(ctx, e, ask.Model, fan)
	if err != nil {
		return Look{}, err
	}
	write := formats.WritePicture
	if ask.Show == "ends" {
		write = formats.WriteEnds
	}
	picture, err := pictureURL(p, write)
	if err != nil {
		return Look{}, err
	}
	out := Look{Picture: picture, Figures: lightFigures(f, ask.Model, e.RefractiveIndex), Ends: []EndShare{}}
	for _, w := range []struct {
		name  string
		end   light.End
		share float64
	}{{"returned", light.Returned, f.MostReturn}, {"shadowed", light.Shadowed, f.MostShadow}, {"leaked", light.Leaked, f.MostLeak}} {
		k := formats.EndColours[w.end]
		out.Ends = append(out.Ends, EndShare{w.name, w.share, fmt.Sprintf("#%02x%02x%02x", k.R, k.G, k.B)})
	}
	return out, nil
}

// pictureURL writes a picture as a data URL.
func pictureURL(p *light.Picture, write func(io.Writer, *light.Picture) error) (string, error) {
	var png strings.Builder
	png.WriteString("data:image/png;base64,")
	encoder := base64.NewEncoder(base64.StdEncoding, &png)
	if err := write(encoder, p); err != nil {
		return "", err
	}
	err := encoder.Close()
	return png.String(), err
}

func (s *Server) tilts(c *echo.Context, in withBody[LitDraft]) (TiltCurve, error) {
	ctx, done := context.WithTimeout(c.Request().Context(), patience)
	defer done()
	out := TiltCurve{Points: []TiltPoint{}}
	stone, seen, err := s.lit(ctx, in.Body.Draft, in.Body.Lighting)
	if err != nil {
		return out, err
	}
	e := seen.Experiment
	e.Grid = curveGrid
	curve, err := light.Of(stone).Tilts(ctx, e)
	for _, t := range curve {
		m, n := in.Body.Model, e.RefractiveIndex
		out.Points = append(out.Points, TiltPoint{t.Degrees, lightFigures(t.Twelve, m, n), lightFigures(t.Three, m, n)})
	}
	return out, err
}

func (s *Server) lightByMaterial(c *echo.Context, in withBody[MaterialsRequest]) (MaterialsLight, error) {
	ctx, done := context.WithTimeout(c.Request().Context(), patience)
	defer done()
	out := MaterialsLight{Rows: []MaterialLight{}}
	stone, _, err := s.lit(ctx, in.Body.Draft, in.Body.Lighting)
	if err != nil {
		return out, err
	}
	settings, err := s.workshop.Settings(ctx)
	if err != nil {
		return out, err
	}
	ready := light.Of(stone)
	for _, name := range in.Body.Materials {
		lighting := workshop.Lighting(in.Body.Lighting)
		lighting.Material = name
		seen, err := lighting.Resolve(settings)
		if err != nil {
			return out, err
		}
		e := seen.Experiment
		e.Grid = analysis.FigureGrid
		f, err := ready.Trace(ctx, e)
		if err != nil {
			return out, err
		}
		out.Rows = append(out.Rows, MaterialLight{name, lightFigures(f, lighting.Model, e.RefractiveIndex)})
	}
	return out, nil
}

func (s *Server) lightByGirdle(c *echo.Context, in withBody[GirdleRequest]) (GirdleLight, error) {
	ctx, done := context.WithTimeout(c.Request().Context(), patience)
	defer done()
	out := GirdleLight{Finishes: []GirdleFinishLight{}, Tilt: analysis.GirdleTilt}
	stone, seen, err := s.lit(ctx, in.Body.Draft, in.Body.Lighting)
	if err != nil {
		return out, err
	}
	passes, err := s.passes(ctx, in.Body.Passes)
	if err != nil {
		return out, err
	}
	if out.Pace, out.Logged, err = s.workshop.Pace(ctx); err != nil {
		return out, err
	}
	finishes, err := analysis.GirdleFinishes(ctx, stone, seen.Experiment, passes, out.Pace)
	for _, f := range finishes {
		out.Finishes = append(out.Finishes, GirdleFinishLight{
			string(f.Finish), f.Visits, f.Hours,
			lightFigures(f.FaceUp, in.Body.Model, seen.Experiment.RefractiveIndex), lightFigures(f.Tilted, in.Body.Model, seen.Experiment.RefractiveIndex),
		})
	}
	return out, err
}

// passes is how many every facet gets: as many as asked, as is the habit for 0.
func (s *Server) passes(ctx context.Context, asked int) (int, error) {
	if asked > 0 {
		return asked, nil
	}
	settings, err := s.workshop.Settings(ctx)
	if err != nil {
		return 0, err
	}
	return len(settings.HabitsOf("").Passes), nil
}

func (s *Server) lightWithout(c *echo.Context, in withBody[WithoutRequest]) (WithAndWithout, error) {
	ctx, done := context.WithTimeout(c.Request().Context(), patience)
	defer done()
	out := WithAndWithout{}
	stone, seen, err := s.lit(ctx, in.Body.Draft, in.Body.Lighting)
	if err != nil {
		return out, err
	}
	if in.Body.Tier >= len(stone.Diagram.Tiers) {
		return out, diagram.Problem{Code: diagram.UnknownTier, TierNo: -1}
	}
	passes, err := s.passes(ctx, in.Body.Passes)
	if err != nil {
		return out, err
	}
	if out.Pace, out.Logged, err = s.workshop.Pace(ctx); err != nil {
		return out, err
	}
	with, without, err := analysis.WithAndWithout(ctx, stone, in.Body.Tier, seen.Experiment, passes, out.Pace, in.Body.Width, seen.SG)
	if err != nil {
		return out, err
	}
	view := func(l analysis.LeftOff) LeftOff {
		return LeftOff{l.Facets, l.Visits, l.Hours, l.Carats, lightFigures(l.Light, in.Body.Model, seen.Experiment.RefractiveIndex)}
	}
	out.With, out.Without = view(with), view(without)
	return out, nil
}

func (s *Server) tints(c *echo.Context, _ struct{}) (TintList, error) {
	out := TintList{Tints: []TintView{}}
	settings, err := s.workshop.Settings(c.Request().Context())
	for _, t := range material.Tints() {
		absorption := t.Absorption()
		view := TintView{Key: t.Key, Usual: []string{}, Absorption: absorption[:]}
		for _, m := range settings.AllMaterials() {
			if m.UsualTint().Key == t.Key {
				view.Usual = append(view.Usual, m.Name)
			}
		}
		out.Tints = append(out.Tints, view)
	}
	return out, err
}
