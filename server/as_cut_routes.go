package server

import (
	"context"
	"errors"
	"net/http"
	"slices"

	"github.com/labstack/echo/v5"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/device"
	"cressa/words"
	"cressa/workshop"
)

// AsCutRequest asks for a stone at one of its works, the present one where none is named, and what it is like after
// one more facet, "" for none.
type AsCutRequest struct {
	ID   string `path:"id" json:"-"`
	Work string `query:"work" json:"work" validate:"max=64"`
	Next string `query:"next" json:"next" validate:"max=40"`
}

// AsCutView is a stone as it was really cut, beside its plan.
type AsCutView struct {
	// FacetsCut and FacetsAsked count facets, however many passes they get.
	FacetsCut   int `json:"facetsCut"`
	FacetsAsked int `json:"facetsAsked"`
	// Planned is the plan's stone with the facets that were cut so far, Cut the stone as it stands: meshes of one
	// step. Faces are numbered like the facets of the plan, those that were cut beside them from there on.
	Planned Mesh `json:"planned"`
	Cut     Mesh `json:"cut"`
	// Next is Cut after the facet that was asked for, null where none was.
	Next   *Mesh  `json:"next"`
	Levels Levels `json:"levels"`
	// Up is the side that was up at the last cut.
	Up diagram.Part `json:"up" validate:"oneof=crown pavilion"`
	// Differences are in the order of the tiers.
	Differences []DifferenceView `json:"differences"`
	// Meant are the figures of the plan, Coming those of the stone where all that is open is cut as planned.
	Meant  AsCutFigures `json:"meant"`
	Coming AsCutFigures `json:"coming"`
	// Gap is the widest gap of a planned meet on that stone, in µm.
	Gap float64 `json:"gap"`
	// Told is the instrument that told the stone last, "" where none did.
	Told string `json:"told"`
	// Hours is the time at the wheel by stages.
	Hours []StageHours `json:"hours"`
}

// DifferenceView is one way in which a stone was not cut as planned.
type DifferenceView struct {
	What workshop.DifferenceKind `json:"what" validate:"oneof=changed older-plan dial told left-out overcut chip flaw pit wrong-index wrong-angle cheater"`
	Tier string                  `json:"tier"`
	// Tooth is where the facet is dialled, 0 for a whole tier.
	Tooth int    `json:"tooth"`
	Text  string `json:"text"`
	// Faces are those of Cut that it is about.
	Faces []int `json:"faces"`
}

// SurveyOf names the instrument that is asked for its stone.
type SurveyOf struct {
	Instrument string `json:"instrument" validate:"required,max=40"`
}

// SurveyTaken names the event by which a stone was taken over, to take it back.
type SurveyTaken struct {
	Event string `json:"event"`
}

// AsCutFigures are figures of a stone, lengths in mm; the girdle is null where there is none.
type AsCutFigures struct {
	Carats    float64  `json:"carats"`
	Width     float64  `json:"width"`
	Length    float64  `json:"length"`
	Height    float64  `json:"height"`
	GirdleMin *float64 `json:"girdleMin"`
	GirdleMax *float64 `json:"girdleMax"`
}

// StageHours is the time at the wheel in one pass of one setup.
type StageHours struct {
	// Side is that which is up, "" where it is neither. Pass is what the pass is called.
	Side  string  `json:"side"`
	Pass  string  `json:"pass"`
	Hours float64 `json:"hours"`
}

func (s *Server) asCutRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/stones/:id/as-cut", name: "getAsCut", summary: "A stone as it was really cut, beside its plan"}, func(c *echo.Context, in AsCutRequest) (AsCutView, error) {
		ctx := c.Request().Context()
		stone, _, err := s.stoneAt(ctx, atWork{in.ID, in.Work})
		if err != nil {
			return AsCutView{}, err
		}
		cut, err := s.workshop.AsCut(ctx, stone, in.Next)
		if err != nil {
			return AsCutView{}, err
		}
		return asCutView(cut, stone.Work().Plan), nil
	})
	handle(s, route{method: http.MethodPost, path: "/api/stones/:id/as-cut/diagram", name: "keepAsCut", summary: "Keep a diagram of the stone as it was really cut", creates: true}, func(c *echo.Context, in byID) (Diagram, error) {
		ctx := c.Request().Context()
		stone, err := s.workshop.Stone(ctx, in.ID)
		if err != nil {
			return Diagram{}, err
		}
		plan := stone.Work().Plan
		if plan == nil {
			return Diagram{}, workshop.ErrNoPlan
		}
		return viewed(s.workshop.KeepAsCut(ctx, stone, words.AsCut(plan.DiagramName), words.CutAs(stone.Number)))
	})
	handle(s, route{method: http.MethodPost, path: "/api/stones/:id/survey", name: "takeOverStone", summary: "Take the stone that stands on a machine for this one as it was cut", computes: true}, func(c *echo.Context, in byIDWithBody[SurveyOf]) (SurveyTaken, error) {
		event, err := s.takeOver(c.Request().Context(), in.ID, in.Body.Instrument)
		return SurveyTaken{event}, err
	})
}

func asCutView(a *workshop.AsCut, plan *workshop.Plan) AsCutView {
	out := AsCutView{
		FacetsCut: a.FacetsCut, FacetsAsked: a.FacetsAsked, Planned: finishedMesh(a.Planned), Cut: finishedMesh(a.Cut), Levels: levelsOf(a.Stone), Up: a.Up,
		Differences: []DifferenceView{}, Meant: asCutFigures(a, a.Stone), Coming: asCutFigures(a, a.Coming), Gap: a.Gap, Told: a.Told, Hours: stageHours(a, plan),
	}
	if a.Next != nil {
		next := finishedMesh(a.Next)
		out.Next = &next
	}
	for _, d := range a.Differences {
		out.Differences = append(out.Differences, DifferenceView{d.What, d.Tier, d.Planned.Tooth, words.Difference(d, a), facesMeant(a, d)})
	}
	return out
}

// facesMeant names the faces that a difference is about: the facet, and what was cut beside it.
func facesMeant(a *workshop.AsCut, d workshop.Difference) []int {
	out := []int{}
	for i, f := range a.Cut.Facets {
		planned := i < len(a.Stone.Facets)
		switch {
		case d.Facet < 0 && f.Tier == a.TierNo(d.Tier), d.Facet == i, d.Facet >= 0 && !planned && f.Tier == a.Stone.Facets[d.Facet].Tier && f.Place == a.Stone.Facets[d.Facet].Place:
			out = append(out, i)
		}
	}
	return out
}

func asCutFigures(a *workshop.AsCut, s *cutting.Stone) AsCutFigures {
	m := s.Measures()
	out := AsCutFigures{
		Carats: cutting.Carats(m.VolumeFactor, m.Width*a.MM, a.Material.SG), Width: m.Width * a.MM, Length: m.Length * a.MM, Height: m.Height * a.MM,
	}
	if m.GirdleMin != nil {
		least, most := *m.GirdleMin*m.Width*a.MM, *m.GirdleMax*m.Width*a.MM
		out.GirdleMin, out.GirdleMax = &least, &most
	}
	return out
}

func stageHours(a *workshop.AsCut, plan *workshop.Plan) []StageHours {
	out := []StageHours{}
	for _, h := range a.Hours {
		stage := StageHours{Pass: h.Pass, Hours: h.Hours}
		if i := slices.IndexFunc(plan.Setups, func(s workshop.Setup) bool { return s.ID == h.Setup }); i >= 0 {
			stage.Side = plan.Choices.UpName(i)
		}
		if i := slices.IndexFunc(plan.Choices.Passes, func(p workshop.Pass) bool { return p.ID == h.Pass }); i >= 0 {
			stage.Pass = plan.Choices.Passes[i].Name
		}
		out = append(out, stage)
	}
	return out
}

// takeOver asks an instrument for the stone that stands on it, and keeps that as the stone of a work. It returns the ID of the event.
func (s *Server) takeOver(ctx context.Context, id, instrument string) (event string, err error) {
	list, err := s.workshop.Instruments.Instruments(ctx)
	if err != nil {
		return "", err
	}
	i := slices.IndexFunc(list, func(i workshop.Instrument) bool { return i.ID == instrument })
	if i < 0 {
		return "", workshop.ErrNotFound
	}
	stone, err := s.workshop.Stone(ctx, id)
	if err != nil {
		return "", err
	}
	planes, err := s.devices.Stone(ctx, instrument)
	switch {
	case errors.Is(err, device.ErrAway):
		return "", &Problem{Status: http.StatusConflict, Detail: list[i].Name + " is not connected. Switch it on and try again."}
	case errors.Is(err, device.ErrNoStone):
		return "", &Problem{Status: http.StatusConflict, Detail: list[i].Name + " knows of no stone. Only a machine that keeps count of its cuts can tell one, such as the simulated one."}
	case err != nil:
		return "", err
	}
	return s.workshop.TakeOver(ctx, stone, list[i].Name, planes)
}
