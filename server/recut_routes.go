package server

import (
	"context"
	"net/http"

	"github.com/labstack/echo/v5"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/analysis"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/light"
	"cressa/core/mending"
	"cressa/words"
	"cressa/workshop"
)

// CameBack says which stone is to be recut: one on record, or one that follows a diagram at a width in mm.
type CameBack struct {
	Stone    string  `json:"stone" validate:"max=40"`
	Diagram  string  `json:"diagram" validate:"max=40"`
	WidthMM  float64 `json:"widthMM" validate:"min=0,max=500"`
	Material string  `json:"material" validate:"max=60"`
}

// ReturnedStone is a finished stone as it is before it is recut.
type ReturnedStone struct {
	Diagram  string `json:"diagram"`
	Name     string `json:"name"`
	Material string `json:"material"`
	// Logged tells that it is as its log tells.
	Logged bool   `json:"logged"`
	Mesh   Mesh   `json:"mesh"`
	Levels Levels `json:"levels"`
	// MM is how many mm a unit of the mesh is.
	MM      float64        `json:"mm"`
	Facets  []ReturnedFace `json:"facets"`
	Figures AsCutFigures   `json:"figures"`
	// FirstSide is the side that its diagram has cut first, Passes are those that a plan begins with.
	FirstSide diagram.Part `json:"firstSide" validate:"oneof=pavilion crown"`
	Passes    []Pass       `json:"passes"`
	// Advice is what to mind with such a stone.
	Advice []string `json:"advice"`
}

// ReturnedFace is a facet of a stone that came back, by the number of its face.
type ReturnedFace struct {
	Face  int          `json:"face"`
	Name  string       `json:"name"`
	Part  diagram.Part `json:"part" validate:"oneof=pavilion girdle crown"`
	Angle float64      `json:"angle"`
}

// Damage is a place of a stone that has to go: points in mm, in the frame of its diagram, that all have to lie outside of one
// facet, by a clearance in mm.
type Damage struct {
	Points    []Point `json:"points" validate:"min=1,max=12"`
	Clearance float64 `json:"clearance" validate:"min=0,max=10"`
}

// MeasuredStone is what was read off a finished stone: lengths in mm, the angles of the largest facets of crown and pavilion in
// degrees, how many facets the parts have, the table not counted. What was not taken is 0; the width always is.
type MeasuredStone struct {
	Outline        diagram.Outline `json:"outline" validate:"max=20"`
	Width          float64         `json:"width" validate:"min=0.1,max=500"`
	Length         float64         `json:"length" validate:"min=0,max=500"`
	Height         float64         `json:"height" validate:"min=0,max=500"`
	Table          float64         `json:"table" validate:"min=0,max=500"`
	Girdle         float64         `json:"girdle" validate:"min=0,max=50"`
	Crown          float64         `json:"crown" validate:"min=0,max=89"`
	Pavilion       float64         `json:"pavilion" validate:"min=0,max=89"`
	CrownFacets    int             `json:"crownFacets" validate:"min=0,max=2000"`
	PavilionFacets int             `json:"pavilionFacets" validate:"min=0,max=2000"`
	GirdleFacets   int             `json:"girdleFacets" validate:"min=0,max=2000"`
}

// Likenesses are diagrams of the library that come nearest to a measured stone, the nearest first.
type Likenesses struct {
	Found []Likeness `json:"found"`
}

// Likeness is a diagram that was brought to what was measured.
type Likeness struct {
	Diagram string `json:"diagram"`
	Name    string `json:"name"`
	Mesh    Mesh   `json:"mesh"`
	Levels  Levels `json:"levels"`
	// Off is the root of the mean square of the residuals, each in what such a reading is uncertain by.
	Off       float64         `json:"off"`
	Residuals []MeasuredValue `json:"residuals"`
	// Draft is the diagram as it was brought to the measures.
	Draft Draft `json:"draft"`
}

// MeasuredValue is one thing that was measured, beside the same of a stone.
type MeasuredValue struct {
	What   mending.Quantity `json:"what" validate:"oneof=width length height table girdle crown pavilion crown-facets pavilion-facets girdle-facets"`
	Is     float64          `json:"is"`
	Fitted float64          `json:"fitted"`
}

// RecutAsked is what has to go of a stone and what must stay. Protected are the numbers of faces.
type RecutAsked struct {
	Of        CameBack `json:"of"`
	Damages   []Damage `json:"damages" validate:"max=24,dive"`
	Protected []int    `json:"protected" validate:"max=2000"`
	// Hides is how many mm above and below the girdle a setting hides, null without a setting.
	Hides *float64 `json:"hides" validate:"omitempty,min=0,max=20"`
	// Degrees is how far the largest copy may be turned.
	Degrees float64 `json:"degrees" validate:"min=0,max=10"`
}

// RecutWays are the ways to recut a stone, side by side.
type RecutWays struct {
	Before RecutFigures `json:"before"`
	Ways   []RecutWay   `json:"ways"`
	// Stay are the places of damages that the setting hides.
	Stay []int `json:"stay"`
}

// RecutWay is a way to recut a stone, with the stone that it gives. Where it cannot be gone Why says so, and all else is empty.
type RecutWay struct {
	Way  mending.Kind `json:"way" validate:"oneof=facet flank round side corners added largest another"`
	Name string       `json:"name"`
	Does string       `json:"does"`
	Why  string       `json:"why"`
	// Solid is null where the way cannot be gone.
	Solid   *Mesh         `json:"solid"`
	Figures *RecutFigures `json:"figures"`
	// Scale is against the stone as it was, null where the way has none.
	Scale *float64 `json:"scale"`
	// Again is how many facets are cut, Visits how often they are, Minutes how long that takes at one's own pace; PolishMinutes is
	// how long one pass over all others takes.
	Again         int     `json:"again"`
	Visits        int     `json:"visits"`
	Minutes       float64 `json:"minutes"`
	PolishMinutes float64 `json:"polishMinutes"`
	// Gap is the widest gap of a planned meet in µm.
	Gap   float64      `json:"gap"`
	Takes []FaceTake   `json:"takes"`
	Added []AddedFacet `json:"added"`
}

// AddedFacet is a facet that a way puts on the stone, as it is dialled.
type AddedFacet struct {
	Part  diagram.Part `json:"part" validate:"oneof=pavilion girdle crown"`
	Angle float64      `json:"angle"`
	Index float64      `json:"index"`
}

// RecutFigures are a stone's figures before and after. Lost is the share of the volume that goes.
type RecutFigures struct {
	AsCutFigures
	Lost float64 `json:"lost"`
	// CuletOffset is how far the culet stands from the middle of the outline, TableWidth the narrower extent of the table, null
	// without one, both in mm.
	CuletOffset float64  `json:"culetOffset"`
	TableWidth  *float64 `json:"tableWidth"`
	// Return and Window are shares of the light, face up.
	Return float64 `json:"return"`
	Window float64 `json:"window"`
}

// AnotherAsked asks for the largest stone of another diagram in one that came back.
type AnotherAsked struct {
	Asked   RecutAsked `json:"asked"`
	Diagram string     `json:"diagram" validate:"required,max=40"`
}

// AnotherRecut is another diagram that lies in a stone. Its solid is where it lies.
type AnotherRecut struct {
	Way  RecutWay `json:"way"`
	Name string   `json:"name"`
	// Tilt is by how many degrees its table faces away from that of the stone. Whole tells that the search went to its end.
	Tilt  float64 `json:"tilt"`
	Whole bool    `json:"whole"`
}

// RecutChosen makes a work of a way to recut a stone, over the version of the stone that was read.
type RecutChosen struct {
	Asked RecutAsked   `json:"asked"`
	Way   mending.Kind `json:"way" validate:"oneof=facet flank round side corners added largest another"`
	// Diagram is the ID of the other diagram, "" for ways that keep the stone's own.
	Diagram   string       `json:"diagram" validate:"max=40"`
	FirstSide diagram.Part `json:"firstSide" validate:"oneof=pavilion crown"`
	// PolishFrom is the first pass of the facets that are only polished, "" where those stay as they are.
	PolishFrom string `json:"polishFrom" validate:"max=40"`
	Name       string `json:"name" validate:"max=200"`
	Why        string `json:"why" validate:"max=2000"`
	Version    int    `json:"version"`
}

func (s *Server) recutRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/recuts/stone", name: "returnedStone", summary: "A finished stone as it is before it is recut", computes: true}, func(c *echo.Context, in withBody[CameBack]) (ReturnedStone, error) {
		back, err := s.workshop.Return(c.Request().Context(), workshop.CameBack(in.Body))
		if err != nil {
			return ReturnedStone{}, err
		}
		return returnedStone(back), nil
	})
	handle(s, route{method: http.MethodPost, path: "/api/recuts/likenesses", name: "likenesses", summary: "Diagrams that come nearest to a measured stone", computes: true}, func(c *echo.Context, in withBody[MeasuredStone]) (Likenesses, error) {
		m := in.Body
		found, err := s.workshop.Likenesses(c.Request().Context(), mending.Measured{
			Width: m.Width, Length: m.Length, Height: m.Height, Table: m.Table, Girdle: m.Girdle, Crown: m.Crown, Pavilion: m.Pavilion,
			CrownFacets: m.CrownFacets, PavilionFacets: m.PavilionFacets, GirdleFacets: m.GirdleFacets,
		}, string(m.Outline))
		return Likenesses{each(found, likeness)}, err
	})
	handle(s, route{method: http.MethodPost, path: "/api/recuts/ways", name: "recutWays", summary: "The ways to recut a stone, side by side", computes: true}, func(c *echo.Context, in withBody[RecutAsked]) (RecutWays, error) {
		return s.recutWays(c.Request().Context(), in.Body)
	})
	handle(s, route{method: http.MethodPost, path: "/api/recuts/another", name: "anotherRecut", summary: "The largest stone of another diagram in one that is recut", computes: true}, func(c *echo.Context, in withBody[AnotherAsked]) (AnotherRecut, error) {
		return s.anotherRecut(c.Request().Context(), in.Body)
	})
	handle(s, route{method: http.MethodPost, path: "/api/recuts", name: "recutSo", summary: "Choose a way to recut a stone: it becomes a work", creates: true}, func(c *echo.Context, in withBody[RecutChosen]) (StoneHead, error) {
		stone, err := s.recutSo(c.Request().Context(), in.Body)
		if err != nil {
			return StoneHead{}, err
		}
		return stoneHead(stone), nil
	})
}

func (s *Server) recutSo(ctx context.Context, b RecutChosen) (workshop.Stone, error) {
	of, ask := workshop.CameBack(b.Asked.Of), b.Asked.asked()
	chosen := workshop.RecutChosen{Way: b.Way, FirstSide: b.FirstSide, PolishFrom: b.PolishFrom, Why: b.Why, Name: b.Name}
	if b.Way != mending.AnotherDiagram {
		return s.workshop.RecutSo(ctx, of, ask, chosen, b.Version)
	}
	found, revision, err := s.refit(ctx, b.Asked, b.Diagram)
	if err != nil {
		return workshop.Stone{}, err
	}
	to := workshop.Another{DiagramID: b.Diagram, Revision: revision.Hash, Place: found.Place, Width: found.Stone.Measures().Width}
	return s.workshop.RecutTo(ctx, of, ask, to, chosen, b.Version)
}

// refit finds the largest stone of another diagram in one that came back.
func (s *Server) refit(ctx context.Context, asked RecutAsked, diagramID string) (*analysis.Refitted, *workshop.Revision, error) {
	back, err := s.workshop.Return(ctx, workshop.CameBack(asked.Of))
	if err != nil {
		return nil, nil, err
	}
	of, err := s.workshop.Diagram(ctx, diagramID)
	if err != nil {
		return nil, nil, err
	}
	if of.Revision == "" {
		return nil, nil, workshop.ErrNotKept
	}
	revision, err := s.workshop.Revision(ctx, of.Revision)
	if err != nil {
		return nil, nil, err
	}
	to, err := cutting.Cut(revision.Diagram)
	if err != nil {
		return nil, nil, err
	}
	lit, err := s.usualLight(ctx)
	if err != nil {
		return nil, nil, err
	}
	// What is found by then is answered; the light of it is looked at in any case.
	search, done := context.WithTimeout(ctx, patience/2)
	defer done()
	found, err := analysis.Refit(search, back, asked.asked().Damages, to, lit)
	return found, &revision, err
}

// usualLight is how stones are looked at where nobody says otherwise.
func (s *Server) usualLight(ctx context.Context) (analysis.FaceAsked, error) {
	usual, err := s.workshop.Usual(ctx)
	return analysis.FaceAsked{Experiment: light.Experiment{Grid: adaptGrid, HeadAngle: usual.HeadAngle}, Model: usual.LightModel}, err
}

func (s *Server) anotherRecut(ctx context.Context, in AnotherAsked) (AnotherRecut, error) {
	found, revision, err := s.refit(ctx, in.Asked, in.Diagram)
	if err != nil {
		return AnotherRecut{}, err
	}
	way := RecutWay{
		Way: mending.AnotherDiagram, Name: words.WayOut(mending.AnotherDiagram), Does: words.WayDoes(mending.AnotherDiagram), Takes: []FaceTake{}, Added: []AddedFacet{},
		Scale: found.Scale, Again: found.Again, Visits: found.Visits, Minutes: found.Minutes,
	}
	solid := finishedMesh(found.Stone)
	for i := 0; i < len(solid.Vertices); i += 3 {
		p := found.Place.Point(r3.Vec{X: solid.Vertices[i], Y: solid.Vertices[i+1], Z: solid.Vertices[i+2]})
		solid.Vertices[i], solid.Vertices[i+1], solid.Vertices[i+2] = p.X, p.Y, p.Z
	}
	figures := AsCutFigures{Carats: *found.Carat, Width: found.Width, Length: found.Length, Height: found.Height, GirdleMin: found.GirdleMin, GirdleMax: found.GirdleMax}
	way.Solid, way.Figures = &solid, &RecutFigures{figures, found.Lost, found.CuletOffset, found.TableWidth, found.Return, found.Window}
	return AnotherRecut{way, revision.Facts.Name, found.Tilt, found.Whole}, nil
}

func (a RecutAsked) asked() workshop.RecutAsked {
	out := workshop.RecutAsked{Protected: a.Protected, Hides: a.Hides, Degrees: a.Degrees}
	for _, d := range a.Damages {
		out.Damages = append(out.Damages, mending.Damage{
			Points: each(d.Points, func(p Point) r3.Vec { return r3.Vec(p) }), Clearance: d.Clearance,
		})
	}
	return out
}

func likeness(l workshop.LikeDiagram) Likeness {
	d := *l.Stone.Diagram
	d.Name = words.AsMeasured(l.Name)
	return Likeness{
		Diagram: l.DiagramID, Name: l.Name, Mesh: finishedMesh(l.Stone), Levels: levelsOf(l.Stone), Off: l.Off, Draft: draftView(diagram.DraftOf(&d)),
		Residuals: each(l.Residuals, func(r mending.Residual) MeasuredValue { return MeasuredValue(r) }),
	}
}

func returnedStone(r *workshop.Returned) ReturnedStone {
	d := r.Stone.Diagram
	out := ReturnedStone{
		Diagram: r.DiagramID, Name: r.Name, Material: r.Material.Name, Logged: r.Logged, Mesh: finishedMesh(r.Stone), Levels: levelsOf(r.Stone),
		MM: r.MM, Facets: []ReturnedFace{}, Figures: returnedFigures(r, r.Stone), FirstSide: d.FirstSide, Passes: passViews(r.Laps.Passes),
		Advice: words.RecutAdvice(r.Material),
	}
	for i, f := range r.Stone.Facets {
		if r.Stone.Solid().Face(i) != nil {
			t := d.Tiers[f.Tier]
			out.Facets = append(out.Facets, ReturnedFace{i, r.Stone.FacetName(i), t.Part, t.Angle})
		}
	}
	return out
}

func returnedFigures(r *workshop.Returned, s *cutting.Stone) AsCutFigures {
	return asCutFigures(&workshop.AsCut{Assessment: &workshop.Assessment{MM: r.MM, Material: r.Material}}, s)
}

func (s *Server) recutWays(ctx context.Context, asked RecutAsked) (RecutWays, error) {
	back, err := s.workshop.Return(ctx, workshop.CameBack(asked.Of))
	if err != nil {
		return RecutWays{}, err
	}
	found, err := back.RecutWays(ctx, asked.asked())
	if err != nil {
		return RecutWays{}, err
	}
	lit, err := s.usualLight(ctx)
	if err != nil {
		return RecutWays{}, err
	}
	ways, err := analysis.RecutsAtDesk(ctx, found, lit)
	if err != nil {
		return RecutWays{}, err
	}
	before, err := analysis.LitRecut(ctx, found, found.Stone, lit)
	if err != nil {
		return RecutWays{}, err
	}
	m := found.Stone.Measures()
	out := RecutWays{
		Before: RecutFigures{AsCutFigures: returnedFigures(back, back.Stone), Return: before.Return, Window: before.Window, CuletOffset: analysis.CuletOffset(back.Stone.Solid()) * back.MM},
		Ways:   each(ways, func(w analysis.RecutAtDesk) RecutWay { return recutWay(w, found) }),
		Stay:   found.Stay,
	}
	if m.TableWidth != nil {
		width := *m.TableWidth * m.Width * back.MM
		out.Before.TableWidth = &width
	}
	return out, nil
}

func recutWay(w analysis.RecutAtDesk, found *workshop.RecutWays) RecutWay {
	out := RecutWay{Way: w.Kind, Name: words.WayOut(w.Kind), Does: words.WayDoes(w.Kind), Takes: []FaceTake{}, Added: []AddedFacet{}}
	if w.Err != nil {
		out.Why = words.WhyNot(w.Err)
		return out
	}
	solid := finishedMesh(w.Stone)
	out.Solid, out.Scale, out.Again, out.Visits, out.Gap = &solid, w.Scale, w.Again, w.Visits, w.GapMax
	out.Minutes, out.PolishMinutes = w.Minutes, w.PolishMinutes
	out.Figures = &RecutFigures{returnedFigures(found.Returned, w.Stone), w.Lost, w.CuletOffset, w.TableWidth, w.Return, w.Window}
	for i, take := range w.Take {
		if take *= found.MM; take > mending.Untouched {
			out.Takes = append(out.Takes, FaceTake{i, take})
		}
	}
	with := mending.AddedTiers(found.Planned.Diagram, w.Added)
	for _, t := range with.Tiers[len(found.Planned.Diagram.Tiers):] {
		for _, index := range t.Indexes {
			out.Added = append(out.Added, AddedFacet{t.Part, t.Angle, index})
		}
	}
	return out
}
