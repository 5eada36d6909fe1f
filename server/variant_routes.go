package server

import (
	"context"
	"net/http"
	"slices"

	"github.com/labstack/echo/v5"

	"cressa/analysis"
	"cressa/core/diagram"
	"cressa/core/light"
	"cressa/words"
	"cressa/workshop"
)

// variantGrid is how many rays across a variant is looked at with: its figures compare.
const variantGrid = 128

// VariantsRequest asks for changes of the diagram of a candidate that suit its piece.
type VariantsRequest struct {
	Candidate string      `json:"candidate" validate:"required,max=40"`
	Model     light.Model `json:"model" validate:"oneof=uniform cosine head"`
	// HeadAngle is the half-angle of the head in degrees.
	HeadAngle float64 `json:"headAngle" validate:"min=0,max=90"`
}

// VariantLine is how far a search for variants has come, and one that was found.
type VariantLine struct {
	Progress
	// Candidate is the one whose diagram is changed.
	Candidate string   `json:"candidate"`
	Found     *Variant `json:"found"`
}

// Variant is a diagram changed to suit a piece, as large as it fits there. Lengths are in mm, angles in degrees.
type Variant struct {
	Name  string `json:"name"`
	Draft Draft  `json:"draft"`
	// AsDrawn tells that nothing is changed.
	AsDrawn bool `json:"asDrawn"`
	// Pavilion is the angle of the flattest pavilion tier, Margin by how much it stands above the critical
	// angle, Crown by what factor the crown is steeper than drawn.
	Pavilion float64 `json:"pavilion"`
	Margin   float64 `json:"margin"`
	Crown    float64 `json:"crown"`
	// Without names the tiers that are left off.
	Without []string   `json:"without"`
	Solid   Mesh       `json:"solid"`
	Place   StonePlace `json:"place"`
	Width   float64    `json:"width"`
	Length  float64    `json:"length"`
	Height  float64    `json:"height"`
	Carat   float64    `json:"carat"`
	Yield   float64    `json:"yield"`
	Facets  int        `json:"facets"`
	Hours   float64    `json:"hours"`
	Return  float64    `json:"return"`
	Window  float64    `json:"window"`
	// Flaws tells how the flaws of the piece are seen in it.
	Flaws     []FlawShown `json:"flaws"`
	LimitedBy []LimitedBy `json:"limitedBy"`
}

// SplitsRequest asks for saw cuts that make two stones of a piece, with so many mm left all round and a blade that
// takes so many: stones of the diagrams with these IDs, of those of the library that suit best where there are none.
type SplitsRequest struct {
	Diagrams  []string `json:"diagrams" validate:"max=2000,dive,max=40"`
	Allowance float64  `json:"allowance" validate:"min=0,max=100"`
	Kerf      float64  `json:"kerf" validate:"min=0,max=20"`
}

// SplitLine is how far a search for saw cuts has come, with the best that were found: the pair first that is worth
// most at the prices of the search's beginning, the heaviest without any.
type SplitLine struct {
	Progress
	Found []Split `json:"found"`
}

// Split is a saw cut and the heaviest stones that were found on its two sides: first the one that the saw cut keeps.
type Split struct {
	Trim RoughTrim `json:"trim"`
	// KerfCarats is what the blade takes, Carats what both stones weigh.
	KerfCarats float64      `json:"kerfCarats"`
	Carats     float64      `json:"carats"`
	Stones     []SplitStone `json:"stones"`
	// Worth is what both bring at today's prices, in minor units of the piece's currency, null without any. A stone
	// too light for a price brings nothing.
	Worth *float64 `json:"worth"`
}

// SplitStone is a stone on one side of a saw cut. Lengths are in mm.
type SplitStone struct {
	Diagram  string     `json:"diagram"`
	Revision string     `json:"revision"`
	Name     string     `json:"name"`
	Place    StonePlace `json:"place"`
	Width    float64    `json:"width"`
	Length   float64    `json:"length"`
	Carat    float64    `json:"carat"`
	// Worth is what it brings at today's prices, in minor units of the piece's currency, null where no price is
	// known for one so light.
	Worth *float64 `json:"worth"`
}

func (s *Server) variantRoutes() {
	handle(s, route{method: http.MethodPost, path: "/api/rough/:id/variants", name: "startVariants", summary: "Look for changes of a candidate's diagram that suit the piece"}, s.startVariants)
	stream(s, route{method: http.MethodGet, path: "/api/rough/:id/variants", name: "variants", summary: "Changed diagrams in a piece, as they are found"}, func(c *echo.Context, in byID, send func(VariantLine) error) error {
		return s.varying.follow(c.Request().Context(), in.ID, send)
	})
	handle(s, route{method: http.MethodDelete, path: "/api/rough/:id/variants", name: "stopVariants", summary: "Stop the search for changes"}, func(_ *echo.Context, in byID) (none, error) {
		s.varying.stop(in.ID)
		return none{}, nil
	})
	handle(s, route{method: http.MethodPost, path: "/api/rough/:id/splits", name: "startSplits", summary: "Look for saw cuts that make two stones of a piece"}, s.startSplits)
	stream(s, route{method: http.MethodGet, path: "/api/rough/:id/splits", name: "splits", summary: "Saw cuts that make two stones, as they are found"}, func(c *echo.Context, in byID, send func(SplitLine) error) error {
		ctx := c.Request().Context()
		piece, _, err := s.workshop.Piece(ctx, in.ID)
		if err != nil {
			return err
		}
		worth, err := s.workshop.Worth(ctx, piece)
		if err != nil {
			return err
		}
		return s.splitting.follow(ctx, in.ID, func(line SplitLine) error { return send(line.at(worth)) })
	})
	handle(s, route{method: http.MethodDelete, path: "/api/rough/:id/splits", name: "stopSplits", summary: "Stop the search for saw cuts"}, func(_ *echo.Context, in byID) (none, error) {
		s.splitting.stop(in.ID)
		return none{}, nil
	})
}

func (s *Server) startVariants(c *echo.Context, in byIDWithBody[VariantsRequest]) (none, error) {
	ctx, ask := c.Request().Context(), in.Body
	piece, _, err := s.workshop.Piece(ctx, in.ID)
	if err != nil {
		return none{}, err
	}
	settings, err := s.workshop.Settings(ctx)
	if err != nil {
		return none{}, err
	}
	lit, err := workshop.Lighting{Material: piece.Rough.Material, Width: 1, Model: ask.Model, HeadAngle: ask.HeadAngle}.Resolve(settings)
	if err != nil {
		return none{}, err
	}
	face := analysis.FaceAsked{Experiment: lit.Experiment, Model: ask.Model}
	face.Grid, face.Absorption = variantGrid, lit.Tint.Absorption()
	search, err := analysis.PrepareVariants(ctx, s.workshop, in.ID, ask.Candidate, face)
	if err != nil {
		return none{}, err
	}
	search.Settable = settings.MachineOf("").SettableAngles
	if search.Passes, err = s.passes(ctx, 0); err != nil {
		return none{}, err
	}
	if search.Pace, _, err = s.workshop.Pace(ctx); err != nil {
		return none{}, err
	}
	now := VariantLine{Progress: Progress{Total: search.Total()}, Candidate: ask.Candidate}
	s.varying.start(s.background, in.ID, now,
		func(ctx context.Context, tell func(VariantLine)) error {
			return search.Run(s.parallel(ctx), func(p analysis.VariantProgress) {
				now.Done, now.Found = p.Done, nil
				if p.Found != nil {
					view := variantView(*p.Found, ask.Model)
					now.Found = &view
				}
				tell(now)
			})
		},
		func(err error) VariantLine {
			return VariantLine{Progress: ended(now.Done, now.Total, err), Candidate: ask.Candidate}
		})
	return none{}, nil
}

func variantView(v analysis.Variant, m light.Model) Variant {
	name := words.VariantName(v)
	draft := draftView(diagram.DraftOf(v.Stone.Diagram))
	draft.Name = name
	f := analysis.Found(v.Fitted)
	return Variant{
		Name: name, Draft: draft, AsDrawn: v.AsDrawn, Pavilion: v.Pavilion, Margin: v.Margin, Crown: v.Crown,
		Without: append([]string{}, v.Without...), Solid: finishedMesh(v.Stone), Place: placeView(f),
		Width: f.Width, Length: f.Length, Height: f.Height, Carat: f.Carat, Yield: f.Yield, Facets: v.Facets, Hours: v.Hours,
		Return: v.Light.Return(m), Window: v.Light.Window,
		Flaws:     each(v.Flaws, func(f analysis.FlawShown) FlawShown { return FlawShown{f.Flaw, f.Images, f.Share} }),
		LimitedBy: each(f.LimitedBy, func(l workshop.Limit) LimitedBy { return LimitedBy(l) }),
	}
}

func (s *Server) startSplits(c *echo.Context, in byIDWithBody[SplitsRequest]) (none, error) {
	search, err := analysis.PrepareSplits(c.Request().Context(), s.workshop, in.ID, in.Body.Diagrams, in.Body.Allowance, in.Body.Kerf)
	if err != nil {
		return none{}, err
	}
	now := SplitLine{Progress: Progress{Total: search.Total()}, Found: []Split{}}
	s.splitting.start(s.background, in.ID, now,
		func(ctx context.Context, tell func(SplitLine)) error {
			return search.Run(s.parallel(ctx), func(p analysis.SplitProgress) {
				now.Done, now.Found = p.Done, each(p.Found, splitView)
				tell(now)
			})
		},
		func(err error) SplitLine {
			return SplitLine{Progress: ended(now.Done, now.Total, err), Found: now.Found}
		})
	return none{}, nil
}

// at returns the line with what each pair of stones is worth.
func (l SplitLine) at(worth workshop.Worth) SplitLine {
	l.Found = slices.Clone(l.Found)
	for i, f := range l.Found {
		l.Found[i].Stones = each(f.Stones, func(stone SplitStone) SplitStone {
			stone.Worth = worthView(worth.Of(stone.Carat))
			return stone
		})
		l.Found[i].Worth = worthView(worth.Together(f.Stones[0].Carat, f.Stones[1].Carat), worth.Known())
	}
	return l
}

func splitView(p analysis.Split) Split {
	return Split{
		Trim: RoughTrim{point(p.Trim.Normal), p.Trim.Distance, p.Trim.Kerf}, KerfCarats: p.Kerf, Carats: p.Carat(),
		Stones: each(p.Stones[:], func(one analysis.SplitStone) SplitStone {
			f := analysis.Found(one.Fitted)
			return SplitStone{one.Diagram, one.Revision, one.Shape.Name, placeView(f), f.Width, f.Length, f.Carat, nil}
		}),
	}
}
