package server

import (
	"context"
	"errors"
	"math"
	"net/http"

	"github.com/labstack/echo/v5"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/analysis"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/freehand"
	"cressa/core/gear"
	"cressa/core/material"
	"cressa/core/printed"
	"cressa/words"
	"cressa/workshop"
)

// FreehandRequest asks how a stone that is cut freehand stands, and what the next setting does.
type FreehandRequest struct {
	// Draft is what was cut so far. Its width is that of the rough, in mm: one design unit.
	Draft Draft `json:"draft"`
	// Setting is what is dialled next, null for nothing yet.
	Setting *FreehandSetting `json:"setting"`
	// Until says where that is to stop, null where nobody has said.
	Until *FreehandUntil `json:"until"`
}

// FreehandSetting is what is dialled: one facet, or several at one angle.
type FreehandSetting struct {
	Up      diagram.Part `json:"up" validate:"oneof=pavilion crown"`
	Angle   float64      `json:"angle" validate:"min=0,max=90"`
	Indexes []float64    `json:"indexes" validate:"min=1,max=360,dive,min=0,max=360"`
}

// FreehandUntil says where a cut stops: at a stop that was offered, at a point on the stone, or at a size in mm.
type FreehandUntil struct {
	Stop string  `json:"stop" validate:"max=2000"`
	Here *Point  `json:"here"`
	Size float64 `json:"size" validate:"min=0,max=500"`
}

// Freehand is a stone that is cut freehand.
type Freehand struct {
	// MMPerUnit is the width of the rough.
	MMPerUnit float64  `json:"mmPerUnit"`
	Mesh      Mesh     `json:"mesh"`
	Wheel     []Tooth  `json:"wheel"`
	Levels    Levels   `json:"levels"`
	Facets    []Facet  `json:"facets"`
	Tiers     []Tier   `json:"tiers"`
	Whole     bool     `json:"whole"`
	Width     float64  `json:"width"`
	Length    float64  `json:"length"`
	Height    float64  `json:"height"`
	Girdle    *float64 `json:"girdle"`
	// Next is what the setting comes to, null where there is none.
	Next *FreehandNext `json:"next"`
}

// FreehandNext is what a setting comes to.
type FreehandNext struct {
	Tier string `json:"tier"`
	Part string `json:"part"`
	// Level tells that the facet lies level, like a table.
	Level bool `json:"level"`
	// Margin is how far the angle stands above the critical one, null where that says nothing.
	Margin    *float64 `json:"margin"`
	Judgement string   `json:"judgement"`
	Dials     []Dial   `json:"dials"`
	// Below and Above are the angle's neighbours that the machine can set.
	Below float64 `json:"below"`
	Above float64 `json:"above"`
	// Reaches are where it can stop, in the order in which the facet comes to them.
	Reaches []Reach `json:"reaches"`
	// Draft is the stone with the cut, and Mesh its picture; null where it is not said where it stops, or where it
	// cannot stop there, for the reason in Problem.
	Draft   *Draft `json:"draft"`
	Mesh    *Mesh  `json:"mesh"`
	Stop    string `json:"stop"`
	Problem string `json:"problem"`
}

// Tidied is the diagram that comes of a stone that was cut freehand.
type Tidied struct {
	Draft Draft `json:"draft"`
	// Width is that of the stone in mm; Facets and Tiers count what is left.
	Width  float64 `json:"width"`
	Facets int     `json:"facets"`
	Tiers  int     `json:"tiers"`
}

// TidyRequest is a draft alone.
type TidyRequest struct {
	Draft Draft `json:"draft"`
}

// BeginFreehandRequest is what is known of a stone before it is cut without a diagram.
type BeginFreehandRequest struct {
	Name     string  `json:"name" validate:"required,max=200"`
	Material string  `json:"material" validate:"required,max=60"`
	Width    float64 `json:"width" validate:"min=0.5,max=500"`
	Gear     int     `json:"gear" validate:"min=1,max=360"`
}

func (s *Server) freehandRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/freehand/stones", name: "beginFreehand", summary: "Begin a stone that is cut freehand", creates: true}, func(c *echo.Context, in withBody[BeginFreehandRequest]) (Diagram, error) {
		b := in.Body
		d, err := s.workshop.BeginFreehand(c.Request().Context(), workshop.Freehand{Name: b.Name, Material: b.Material, WidthMM: b.Width, Gear: b.Gear})
		if err != nil {
			return Diagram{}, err
		}
		return diagramView(d), nil
	})
	handle(s, route{method: http.MethodPost, path: "/api/freehand", name: "freehand", summary: "How a stone that is cut freehand stands, and what comes next", computes: true}, func(c *echo.Context, in withBody[FreehandRequest]) (Freehand, error) {
		settings, err := s.workshop.Settings(c.Request().Context())
		if err != nil {
			return Freehand{}, err
		}
		return freehandView(c.Request().Context(), in.Body, settings.MachineOf(""))
	})
	handle(s, route{method: http.MethodPost, path: "/api/freehand/tidy", name: "tidyFreehand", summary: "The diagram that comes of a stone that was cut freehand", computes: true}, func(_ *echo.Context, in withBody[TidyRequest]) (Tidied, error) {
		d, mm, err := readFreehand(in.Body.Draft)
		if err != nil {
			return Tidied{}, err
		}
		tidy, width, err := freehand.Tidy(d)
		if err != nil {
			return Tidied{}, err
		}
		stone, err := cutting.Cut(tidy)
		if err != nil {
			return Tidied{}, err
		}
		draft := diagram.DraftOf(tidy)
		draft.Width = diagram.FormatNumber(math.Round(width*mm*1e4) / 1e4)
		_, _, facets := stone.Solid().Counts()
		return Tidied{draftView(draft), width * mm, facets, len(tidy.Tiers)}, nil
	})
}

// readFreehand reads what was cut so far, and the width of the rough in mm.
func readFreehand(typed Draft) (*diagram.Diagram, float64, error) {
	draft, _ := printed.Read(typed.draft())
	mm, err := diagram.ParseNumber(typed.Width)
	if err != nil || !(mm > 0) {
		return nil, 0, diagram.Problem{Code: diagram.NotANumber, TierNo: -1, Field: "width", Text: typed.Width}
	}
	// A draft without a tier is no diagram yet; here it is a piece of rough.
	if len(draft.Tiers) == 0 {
		draft.Tiers = []diagram.DraftTier{{Key: "0", Name: "P1", Part: string(diagram.Pavilion), Angle: "45", Indexes: "1", Stop: "centre"}}
		d, problems := analysis.Named(draft).Read()
		d.Tiers = nil
		return d, mm, firstOf(problems)
	}
	d, problems := analysis.Named(draft).Read()
	return d, mm, firstOf(problems)
}

func firstOf(problems []diagram.Problem) error {
	if len(problems) == 0 {
		return nil
	}
	return problems[0]
}

func freehandView(ctx context.Context, in FreehandRequest, machine workshop.Machine) (Freehand, error) {
	d, mm, err := readFreehand(in.Draft)
	if err != nil {
		return Freehand{}, err
	}
	stone, err := cutting.UpTo(d, len(d.Tiers))
	if err != nil {
		return Freehand{}, err
	}
	steps, err := freehand.Drawn(stone)
	if err != nil {
		return Freehand{}, err
	}
	view := viewOf(stone, viewing{gear: d.Gear, mm: mm, refractiveIndex: d.RefractiveIndex, machine: machine, draft: diagram.DraftOf(d)})
	now := steps[len(steps)-1].Solid
	size := now.Bounds()
	out := Freehand{
		MMPerUnit: mm, Mesh: meshOf(steps), Wheel: view.Wheel, Facets: view.Facets, Tiers: view.Tiers, Levels: view.Levels,
		Whole: len(d.Tiers) > 0 && !stone.Solid().ShowsBlock(),
		Width: min(size.Size().X, size.Size().Y) * mm, Length: max(size.Size().X, size.Size().Y) * mm, Height: size.Size().Z * mm,
	}
	// The block reaches far beyond the rough.
	out.Levels.Bottom, out.Levels.Top = max(out.Levels.Bottom, size.Min.Z), min(out.Levels.Top, size.Max.Z)
	if thinnest, _, ok := stone.Girdle(); ok {
		least := thinnest.Thickness() * mm
		out.Girdle = &least
	}
	if in.Setting != nil {
		if out.Next, err = freehandNext(ctx, d, mm, in, machine); err != nil {
			return out, err
		}
	}
	return out, nil
}

func freehandNext(ctx context.Context, d *diagram.Diagram, mm float64, in FreehandRequest, machine workshop.Machine) (*FreehandNext, error) {
	set := freehand.Setting{Up: in.Setting.Up, Angle: in.Setting.Angle, Indexes: in.Setting.Indexes}
	pull, err := freehand.Next(ctx, d, set)
	if err != nil {
		return nil, err
	}
	t := pull.Before.Diagram.Tiers[len(d.Tiers)]
	out := &FreehandNext{Tier: t.Name, Part: string(t.Part), Level: t.Angle == 0, Judgement: string(workshop.MarginGood), Reaches: []Reach{}, Dials: []Dial{}}
	out.Below, out.Above = machine.SettableAngles(t.Angle)
	for _, index := range set.Indexes {
		out.Dials = append(out.Dials, dialOf(gear.At(gear.Azimuth(index, d.Gear), d.Gear), d.Gear, machine))
	}
	if t.Part == diagram.Pavilion && t.Angle > 0 {
		margin := t.Angle - material.CriticalAngle(d.RefractiveIndex)
		out.Margin, out.Judgement = &margin, string(workshop.JudgeMargin(margin))
	}
	said := func(stop diagram.Stop) string {
		with := t
		with.Stop = stop
		return words.Stop(with, d.Gear, words.Scale{MM: mm, Width: 1})
	}
	for _, r := range pull.Reaches {
		out.Reaches = append(out.Reaches, Reach{r.Stop.String(), said(r.Stop), r.Distance, each(r.Points, pointOf)})
	}
	if in.Until == nil {
		return out, nil
	}
	until := freehand.Until{Size: in.Until.Size / mm}
	if in.Until.Here != nil {
		until.Here = &r3.Vec{X: in.Until.Here.X, Y: in.Until.Here.Y, Z: in.Until.Here.Z}
	}
	if in.Until.Stop != "" {
		stop, err := diagram.ParseStop(in.Until.Stop)
		if err != nil {
			return nil, diagram.Problem{Code: diagram.BadStop, TierNo: -1, Field: diagram.FieldStop, Text: err.Error()}
		}
		until.Meet = &stop
	}
	draft, mesh, stop, err := freehandCut(d, pull, set, until)
	if p := (diagram.Problem{}); errors.As(err, &p) {
		out.Problem = words.Problem(p)
		return out, nil
	}
	if err != nil {
		return nil, err
	}
	// What was typed of the stone stays as it was typed.
	kept := in.Draft.draft()
	kept.FirstSide, kept.Tiers = draft.FirstSide, draft.Tiers
	after := draftView(kept)
	out.Draft, out.Mesh, out.Stop = &after, mesh, said(stop)
	return out, nil
}

func freehandCut(d *diagram.Diagram, pull *cutting.Pull, set freehand.Setting, until freehand.Until) (diagram.Draft, *Mesh, diagram.Stop, error) {
	stop, err := freehand.Stop(pull, until)
	if err != nil {
		return diagram.Draft{}, nil, stop, err
	}
	next, err := freehand.Add(d, set, stop)
	if err != nil {
		return diagram.Draft{}, nil, stop, err
	}
	stone, err := cutting.UpTo(next, len(next.Tiers))
	if err != nil {
		return diagram.Draft{}, nil, stop, err
	}
	steps, err := freehand.Drawn(stone)
	if err != nil {
		return diagram.Draft{}, nil, stop, err
	}
	mesh := meshOf(steps)
	return diagram.DraftOf(next), &mesh, stop, nil
}
