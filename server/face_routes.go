package server

import (
	"context"
	"fmt"
	"net/http"

	"github.com/labstack/echo/v5"

	"cressa/analysis"
	"cressa/core/cutting"
	"cressa/core/light"
	"cressa/core/rough"
	"cressa/formats"
	"cressa/workshop"
)

// FaceRequest asks how a stone in a piece of rough looks from above, once it is cut: with the colours of the
// piece, and its flaws.
type FaceRequest struct {
	Material string `json:"material" validate:"required,max=60"`
	RoughInside
	// Revision is the version of the diagram.
	Revision string      `json:"revision" validate:"required,max=80"`
	Place    StonePlace  `json:"place"`
	Model    light.Model `json:"model" validate:"oneof=uniform cosine head"`
	// HeadAngle is the half-angle of the head in degrees.
	HeadAngle float64 `json:"headAngle" validate:"min=0,max=90"`
	// Show says what of the flaws is shown: how they look, where they are seen, or nothing of them.
	Show string  `json:"show" validate:"oneof=flaws marks flawless"`
	Tilt float64 `json:"tilt" validate:"min=0,max=85"`
	To   float64 `json:"to" validate:"min=-360,max=360"`
	// Grid is how many rays the picture is wide and high.
	Grid int `json:"grid" validate:"min=16,max=512"`
}

// FaceView is a stone seen from above.
type FaceView struct {
	// Picture is a PNG as a data URL, clear around the stone.
	Picture string       `json:"picture"`
	Figures LightFigures `json:"figures"`
	// Colour is what the face returns on the whole, brightened to be told, as #rrggbb.
	Colour string      `json:"colour"`
	Flaws  []FlawShown `json:"flaws"`
}

// FlawShown tells how a flaw, by its place in the piece, is seen: in so many images, which darken a share, 0 to 1,
// of the face.
type FlawShown struct {
	Flaw   int     `json:"flaw"`
	Images int     `json:"images"`
	Share  float64 `json:"share"`
}

// SightingsRequest asks where in a piece something lies that is seen on one or two lines of sight.
type SightingsRequest struct {
	Rough Rough `json:"rough"`
	// Sawn tells that the saw cuts are made.
	Sawn bool `json:"sawn"`
	// Immersed tells that the piece lies in a liquid of its own index, so that nothing bends.
	Immersed  bool       `json:"immersed"`
	Sightings []Sighting `json:"sightings" validate:"min=1,max=2"`
}

// Sighting is a line of sight through a point, in mm, towards an eye that is far off.
type Sighting struct {
	At  Point `json:"at"`
	Eye Point `json:"eye"`
}

// Sighted is where something lies that was seen.
type Sighted struct {
	// Lines are the lines of sight inside the piece: where each enters, and a point farther on.
	Lines []SightLine `json:"lines"`
	// At is null with one sighting; Gap is how many mm two pass each other by.
	At  *Point  `json:"at"`
	Gap float64 `json:"gap"`
}

// SightLine is a line of sight inside the piece.
type SightLine struct {
	From Point `json:"from"`
	To   Point `json:"to"`
}

func (s *Server) faceRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/rough/sightings", name: "locateInRough", summary: "Where something lies in a piece that is seen from one side or two", computes: true}, s.locateInRough)
	handle(s, route{method: http.MethodPost, path: "/api/rough/face", name: "faceOfRough", summary: "A stone in a piece of rough as it looks once it is cut", computes: true}, s.faceOfRough)
}

func (s *Server) faceOfRough(c *echo.Context, in withBody[FaceRequest]) (FaceView, error) {
	ctx, done := context.WithTimeout(c.Request().Context(), patience)
	defer done()
	ask := in.Body
	inside := ask.inside()
	if problems := inside.Validate(); len(problems) > 0 {
		return FaceView{}, problems[0]
	}
	revision, err := s.workshop.Revision(ctx, ask.Revision)
	if err != nil {
		return FaceView{}, err
	}
	stone, err := cutting.Cut(revision.Diagram)
	if err != nil {
		return FaceView{}, err
	}
	found, ok := ask.Place.found(stone)
	if !ok {
		return FaceView{}, invalid("The stone has no place in the piece. Look for it again.", nil)
	}
	settings, err := s.workshop.Settings(ctx)
	if err != nil {
		return FaceView{}, err
	}
	lighting := workshop.Lighting{Material: ask.Material, Width: found.Width, Model: ask.Model, HeadAngle: ask.HeadAngle}
	seen, err := lighting.Resolve(settings)
	if err != nil {
		return FaceView{}, err
	}
	e := seen.Experiment
	e.Absorption, e.Grid, e.Tilt, e.To = seen.Tint.Absorption(), ask.Grid, ask.Tilt, ask.To
	face, err := analysis.FaceOf(ctx, inside, stone, found, analysis.FaceAsked{Experiment: e, Model: ask.Model, Flawless: ask.Show == "flawless"})
	if err != nil {
		return FaceView{}, err
	}
	write := formats.WritePicture
	if ask.Show == "marks" {
		write = formats.WriteFlaws
	}
	picture, err := pictureURL(face.Picture, write)
	if err != nil {
		return FaceView{}, err
	}
	k := formats.Shade(face.Told())
	return FaceView{
		Picture: picture, Figures: lightFigures(face.Figures, ask.Model, e.RefractiveIndex),
		Colour: fmt.Sprintf("#%02x%02x%02x", k.R, k.G, k.B),
		Flaws:  each(face.Flaws, func(f analysis.FlawShown) FlawShown { return FlawShown{f.Flaw, f.Images, f.Share} }),
	}, nil
}

func (s *Server) locateInRough(c *echo.Context, in withBody[SightingsRequest]) (Sighted, error) {
	ask, out := in.Body, Sighted{Lines: []SightLine{}}
	piece, err := s.workshop.Worked(c.Request().Context(), ask.Rough.rough())
	if err != nil {
		return out, err
	}
	body, index := piece.Whole, piece.Facts.RefractiveIndex.Low
	if ask.Sawn {
		body = piece.Body
	}
	if ask.Immersed {
		index = 1
	}
	sightings := each(ask.Sightings, func(s Sighting) rough.Sighting { return rough.Sighting{At: s.At.vec(), Eye: s.Eye.vec()} })
	lines, err := body.Lines(sightings, index)
	for _, l := range lines {
		out.Lines = append(out.Lines, SightLine{point(l[0]), point(l[1])})
	}
	if err != nil || len(sightings) < 2 {
		return out, err
	}
	at, gap, err := body.Locate([2]rough.Sighting(sightings), index)
	if err != nil {
		return out, err
	}
	place := point(at)
	out.At, out.Gap = &place, gap
	return out, nil
}

// found is the place of a stone as the records hold it, false where it is none.
func (p StonePlace) found(stone *cutting.Stone) (workshop.Found, bool) {
	if !(p.Scale > 0 && p.Scale <= rough.MaxLength) || len(p.Rotation) != 9 || len(p.Offset) != 3 {
		return workshop.Found{}, false
	}
	return workshop.Found{Scale: p.Scale, Rotation: [9]float64(p.Rotation), Offset: [3]float64(p.Offset), Width: p.Scale * stone.Measures().Width}, true
}
