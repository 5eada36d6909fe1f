package server

import (
	"cmp"
	"context"
	"encoding/base64"
	"errors"
	"fmt"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"cressa/analysis"
	"cressa/core/cutting"
	"cressa/core/fit"
	"cressa/core/rough"
	"cressa/formats"
	"cressa/photos"
	"cressa/words"
	"cressa/workshop"
)

// PiecesRequest says which pieces of rough are looked for.
type PiecesRequest struct {
	// Text holds words that must all be found; Fate and Parcel are "" for any.
	Text   string        `query:"text" json:"text" validate:"max=200"`
	Fate   workshop.Fate `query:"fate" json:"fate" validate:"omitempty,oneof=whole cut kept gone"`
	Parcel string        `query:"parcel" json:"parcel" validate:"max=40"`
	// After is the Next of the page before.
	After string `query:"after" json:"after" validate:"max=400"`
	Limit int    `query:"limit" json:"limit" validate:"min=0,max=200"`
}

// FittingRequest asks for the largest stones in a piece: of the diagrams of the library with these IDs, of all
// that have a version where there are none. Allowance is in mm.
type FittingRequest struct {
	Diagrams  []string `json:"diagrams" validate:"max=2000,dive,max=40"`
	Allowance float64  `json:"allowance" validate:"min=0,max=100"`
	// Costs asks for what each flaw costs, too.
	Costs bool `json:"costs"`
	// Rounds is how often all is searched at most, each time at other turns, until nothing grows; 0 is once.
	Rounds int `json:"rounds" validate:"min=0,max=20"`
}

// FittingLine is how far a search for stones has come: the diagram that is tried and the width of its stone
// so far in mm, and a candidate once it is kept.
type FittingLine struct {
	Progress
	Name  string     `json:"name"`
	Width float64    `json:"width"`
	Kept  *Candidate `json:"kept"`
	// Failed says why nothing can be found, "" while all is well.
	Failed string `json:"failed"`
}

// EstimateRequest asks what a piece may become in an outline, with so many mm left all round.
type EstimateRequest struct {
	Piece     PieceRequest `json:"piece"`
	Outline   string       `json:"outline" validate:"required,max=40"`
	Allowance float64      `json:"allowance" validate:"min=0,max=100"`
}

// RoughEstimate is what a piece may become in an outline: by its three sizes alone, and by its solid in
// any position. Widths and lengths are in mm.
type RoughEstimate struct {
	// Diagram stands for the outline.
	Diagram string  `json:"diagram"`
	Width   float64 `json:"width"`
	Carat   float64 `json:"carat"`
	// By is the size that the width goes by.
	By        rough.Bounding `json:"by" validate:"oneof=depth width length"`
	FitWidth  float64        `json:"fitWidth"`
	FitLength float64        `json:"fitLength"`
	FitCarat  float64        `json:"fitCarat"`
	FitYield  float64        `json:"fitYield"`
	LimitedBy []LimitedBy    `json:"limitedBy"`
}

// ChooseRequest makes a candidate the one that the piece is to become; "" takes the choice back.
type ChooseRequest struct {
	Candidate string `json:"candidate" validate:"max=40"`
	Why       string `json:"why" validate:"max=2000"`
}

// CandidateList is the candidates of a piece, the heaviest first.
type CandidateList struct {
	Candidates []Candidate `json:"candidates"`
}

// MeshFile holds a mesh file, in base64.
type MeshFile struct {
	Data string `json:"data"`
}

// MeshPoints are the points of a mesh in mm, x, y and z of each in turn; Hollow tells that it has hollows,
// which a hull fills.
type MeshPoints struct {
	Points []float64 `json:"points"`
	Hollow bool      `json:"hollow"`
}

// OffcutRequest names a saw cut of a piece by its place, from 0.
type OffcutRequest struct {
	Trim int `json:"trim" validate:"min=0,max=99"`
}

type candidateByID struct {
	ID        string `path:"id"`
	Candidate string `path:"candidate"`
}

func (s *Server) roughRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/parcels", name: "listParcels", summary: "The parcels of rough"}, s.parcels)
	handle(s, route{method: http.MethodPost, path: "/api/parcels", name: "addParcel", summary: "Keep a parcel", creates: true}, func(c *echo.Context, in withBody[Parcel]) (Parcel, error) {
		in.Body.ID, in.Body.Version = "", 0
		return s.saveParcel(c, in.Body)
	})
	handle(s, route{method: http.MethodPut, path: "/api/parcels/:id", name: "saveParcel", summary: "Change what is said of a parcel"}, func(c *echo.Context, in byIDWithBody[Parcel]) (Parcel, error) {
		in.Body.ID = in.ID
		return s.saveParcel(c, in.Body)
	})
	handle(s, route{method: http.MethodGet, path: "/api/rough", name: "listRough", summary: "Pieces of rough, the last first"}, s.pieceList)
	handle(s, route{method: http.MethodPost, path: "/api/rough", name: "addRough", summary: "Keep a piece of rough", creates: true}, func(c *echo.Context, in withBody[PieceRequest]) (PieceView, error) {
		p := in.Body.piece("")
		p.Version = 0
		return s.savePiece(c, p)
	})
	handle(s, route{method: http.MethodPost, path: "/api/rough/work", name: "workRough", summary: "The solid of a piece as it is described"}, func(c *echo.Context, in withBody[PieceRequest]) (RoughWorked, error) {
		worked, err := s.worked(c.Request().Context(), in.Body)
		if err != nil {
			return RoughWorked{}, err
		}
		return workedView(worked), nil
	})
	handle(s, route{method: http.MethodPost, path: "/api/rough/estimate", name: "estimateRough", summary: "What a piece may become, at a glance", computes: true}, s.estimateRough)
	handle(s, route{method: http.MethodPost, path: "/api/rough/survey", name: "surveyRough", summary: "The solid of a piece as it was measured on the machine", computes: true}, s.surveyRough)
	handle(s, route{method: http.MethodPost, path: "/api/rough/mesh", name: "readRoughMesh", summary: "The points of a scanned piece", computes: true}, readRoughMesh)
	handle(s, route{method: http.MethodGet, path: "/api/rough/:id", name: "getRough", summary: "A piece of rough"}, func(c *echo.Context, in byID) (PieceView, error) {
		return s.pieceView(c.Request().Context(), in.ID)
	})
	handle(s, route{method: http.MethodPut, path: "/api/rough/:id", name: "saveRough", summary: "Change a piece of rough"}, func(c *echo.Context, in byIDWithBody[PieceRequest]) (PieceView, error) {
		return s.savePiece(c, in.Body.piece(in.ID))
	})
	handle(s, route{method: http.MethodPost, path: "/api/rough/:id/offcuts", name: "keepOffcut", summary: "Keep what a saw cut lets fall as a piece", creates: true}, func(c *echo.Context, in byIDWithBody[OffcutRequest]) (PieceView, error) {
		ctx := c.Request().Context()
		off, err := s.workshop.KeepOffcut(ctx, in.ID, in.Body.Trim)
		if err != nil {
			return PieceView{}, err
		}
		return s.pieceView(ctx, off.ID)
	})
	s.raw(route{method: http.MethodGet, path: "/api/rough/:id/file"}, s.roughFile)
	handle(s, route{method: http.MethodPost, path: "/api/rough/:id/fit", name: "startFit", summary: "Look for the largest stones in a piece"}, s.startFit)
	stream(s, route{method: http.MethodGet, path: "/api/rough/:id/fit", name: "fit", summary: "The largest stones in a piece, as they are found"}, func(c *echo.Context, in byID, send func(FittingLine) error) error {
		return s.fitting.follow(c.Request().Context(), in.ID, send)
	})
	handle(s, route{method: http.MethodDelete, path: "/api/rough/:id/fit", name: "stopFit", summary: "Stop the search; what was found stays"}, func(_ *echo.Context, in byID) (none, error) {
		s.fitting.stop(in.ID)
		return none{}, nil
	})
	// Pictures travel as they are, not as JSON.
	s.raw(route{method: http.MethodPost, path: "/api/rough/:id/photos", body: photos.MaxBytes}, func(c *echo.Context) error {
		return s.keepPhoto(c, func(data []byte) (any, error) {
			p, err := s.workshop.AddPiecePhoto(c.Request().Context(), s.photos, c.Param("id"), data)
			return piecePhotoView(p), err
		})
	})
	handle(s, route{method: http.MethodPut, path: "/api/rough/:id/photos/:photo", name: "markRoughPhoto", summary: "Change what is noted and marked on a photo of a piece"}, func(c *echo.Context, in photoMarks) (PiecePhoto, error) {
		p := workshop.PiecePhoto{ID: in.Photo, Note: in.Body.Note, Version: in.Body.Version, Marks: each(in.Body.Marks, func(m PhotoMark) workshop.PhotoMark { return workshop.PhotoMark(m) })}
		kept, err := s.workshop.MarkPiecePhoto(c.Request().Context(), in.ID, p)
		if err != nil {
			return PiecePhoto{}, err
		}
		return s.piecePhoto(c.Request().Context(), in.ID, kept.ID)
	})
	handle(s, route{method: http.MethodDelete, path: "/api/rough/:id/photos/:photo", name: "dropRoughPhoto", summary: "Take a photo off a piece"}, func(c *echo.Context, in photoByID) (none, error) {
		return none{}, s.workshop.DropPiecePhoto(c.Request().Context(), s.photos, in.ID, in.Photo)
	})
	handle(s, route{method: http.MethodPut, path: "/api/rough/:id/choice", name: "chooseCandidate", summary: "Choose what a piece is to become"}, func(c *echo.Context, in byIDWithBody[ChooseRequest]) (CandidateList, error) {
		ctx := c.Request().Context()
		if _, err := s.workshop.Choose(ctx, in.ID, in.Body.Candidate, in.Body.Why); err != nil {
			return CandidateList{}, err
		}
		return s.candidates(ctx, in.ID)
	})
	handle(s, route{method: http.MethodDelete, path: "/api/rough/:id/candidates/:candidate", name: "dropCandidate", summary: "Throw a candidate away"}, func(c *echo.Context, in candidateByID) (none, error) {
		return none{}, s.workshop.DropCandidate(c.Request().Context(), in.Candidate)
	})
	handle(s, route{method: http.MethodGet, path: "/api/solids/:hash", name: "getSolid", summary: "The finished stone of a version, in design units", lasts: true, computes: true}, func(c *echo.Context, in HashRequest) (Mesh, error) {
		r, err := s.workshop.Revision(c.Request().Context(), in.Hash)
		if err != nil {
			return Mesh{}, err
		}
		stone, err := cutting.Cut(r.Diagram)
		if err != nil {
			return Mesh{}, err
		}
		return finishedMesh(stone), nil
	})
}

// photoMarks are what is changed of a photo of a piece.
type photoMarks struct {
	ID    string `path:"id"`
	Photo string `path:"photo"`
	Body  PhotoMarks
}

// piecePhoto is a photo as it is kept.
func (s *Server) piecePhoto(ctx context.Context, piece, id string) (PiecePhoto, error) {
	all, err := s.workshop.PiecePhotos(ctx, piece)
	for _, p := range all {
		if p.ID == id {
			return piecePhotoView(p), nil
		}
	}
	return PiecePhoto{}, cmp.Or(err, workshop.ErrNotFound)
}

func (s *Server) parcels(c *echo.Context, _ struct{}) (ParcelList, error) {
	ctx := c.Request().Context()
	out := ParcelList{Parcels: []ParcelLine{}}
	sums, err := s.workshop.PieceWeights(ctx)
	if err != nil {
		return out, err
	}
	all, err := s.workshop.Parcels(ctx)
	for _, p := range all {
		sum := sums[p.ID]
		out.Parcels = append(out.Parcels, ParcelLine{parcelView(p), sum.Pieces, sum.Carats, p.Cost.Total(sum)})
	}
	return out, err
}

func (s *Server) saveParcel(c *echo.Context, p Parcel) (Parcel, error) {
	kept, err := s.workshop.SaveParcel(c.Request().Context(), p.parcel())
	return parcelView(kept), err
}

func (s *Server) pieceList(c *echo.Context, in PiecesRequest) (PieceList, error) {
	from, err := readCursor(in.After)
	if err != nil {
		return PieceList{}, err
	}
	f := workshop.PieceFilter{Words: strings.Fields(in.Text), Fate: in.Fate, Parcel: in.Parcel}
	return s.piecesOf(c.Request().Context(), f, from, cmp.Or(in.Limit, usualPage))
}

func (s *Server) piecesOf(ctx context.Context, f workshop.PieceFilter, after workshop.Cursor, limit int) (PieceList, error) {
	page, err := s.workshop.Pieces(ctx, f, after, limit)
	out := PieceList{Pieces: []PieceLine{}, Next: writeCursor(page.Next), Total: page.Total}
	if err != nil {
		return out, err
	}
	for _, l := range page.Lines {
		line := PieceLine{
			ID: l.ID, Number: l.Number, Name: l.Sketch.Name, Material: l.Sketch.Material, Carats: l.Carats, Fate: l.Fate,
			Parcel: l.Parcel, ParcelName: l.ParcelName, Flaws: l.Sketch.Flaws, Candidates: l.Candidates, Size: point(l.Sketch.Size),
			Kept: Mesh{Vertices: []float64{}, Steps: []MeshStep{}},
		}
		if body, ok := rough.Hull(l.Sketch.Corners); ok {
			line.Kept = bodyMesh(body)
		}
		if l.Best != nil {
			best := candidateView(*l.Best, l.Version)
			line.Best = &best
		}
		out.Pieces = append(out.Pieces, line)
	}
	return out, nil
}

func (s *Server) savePiece(c *echo.Context, p workshop.Piece) (PieceView, error) {
	ctx := c.Request().Context()
	kept, err := s.workshop.SavePiece(ctx, p)
	if err != nil {
		return PieceView{}, err
	}
	return s.pieceView(ctx, kept.ID)
}

// mostOffcuts is how many offcuts a piece shows.
const mostOffcuts = 50

func (s *Server) pieceView(ctx context.Context, id string) (PieceView, error) {
	p, candidates, err := s.workshop.Piece(ctx, id)
	if err != nil {
		return PieceView{}, err
	}
	worked, err := s.workshop.Worked(ctx, p.Rough)
	if err != nil {
		return PieceView{}, err
	}
	out := PieceView{
		PieceRequest: PieceRequest{
			Parcel: p.Parcel, Parent: p.Parent, Weighed: p.Weighed.Text, Unit: p.Weighed.Unit, Along: p.Look.Along, Across: p.Look.Across,
			Seen: each(p.Look.Seen, func(s workshop.Seen) LookedAt { return LookedAt(s) }),
			Fate: p.Fate, Rough: roughView(p.Rough), Version: p.Version, Survey: surveyView(p.Survey),
		},
		ID: p.ID, Number: p.Number, Carats: p.Carats, Worked: workedView(worked),
		Candidates: each(candidates, func(c workshop.Candidate) Candidate { return candidateView(c, p.Version) }),
	}
	worth, err := s.workshop.Worth(ctx, p)
	if err != nil {
		return out, err
	}
	for i, c := range out.Candidates {
		out.Candidates[i].Worth = worthView(worth.Of(c.Carat))
	}
	if p.Parcel != "" {
		parcel, err := s.workshop.Parcel(ctx, p.Parcel)
		if err != nil {
			return out, err
		}
		sums, err := s.workshop.PieceWeights(ctx)
		if err != nil {
			return out, err
		}
		out.ParcelName, out.Currency = parcel.Name, parcel.Cost.Currency
		if p.Parent == "" {
			out.Cost = parcel.Cost.Share(sums[p.Parcel], p.Carats)
		}
	}
	if p.Parent != "" {
		parent, _, err := s.workshop.Piece(ctx, p.Parent)
		if err != nil {
			return out, err
		}
		out.ParentNumber = parent.Number
	}
	stones, err := s.workshop.CutFrom(ctx, id)
	if err != nil {
		return out, err
	}
	out.Stones = each(stones, func(p workshop.PieceStone) PieceStone { return PieceStone(p) })
	pictures, err := s.workshop.PiecePhotos(ctx, id)
	if err != nil {
		return out, err
	}
	out.Photos = each(pictures, piecePhotoView)
	offcuts, err := s.piecesOf(ctx, workshop.PieceFilter{Parent: id}, workshop.Cursor{}, mostOffcuts)
	out.Offcuts = offcuts.Pieces
	return out, err
}

func (s *Server) candidates(ctx context.Context, piece string) (CandidateList, error) {
	p, all, err := s.workshop.Piece(ctx, piece)
	return CandidateList{each(all, func(c workshop.Candidate) Candidate { return candidateView(c, p.Version) })}, err
}

func readRoughMesh(_ *echo.Context, in withBody[MeshFile]) (MeshPoints, error) {
	out := MeshPoints{Points: []float64{}}
	data, err := base64.StdEncoding.DecodeString(in.Body.Data)
	if err != nil {
		return out, invalid("The file did not arrive whole. Choose it again.", nil)
	}
	mesh, err := formats.ReadMesh(data)
	if err != nil {
		return out, err
	}
	points, hollow, err := analysis.ScannedPoints(mesh)
	for _, p := range points {
		out.Points = append(out.Points, p.X, p.Y, p.Z)
	}
	out.Hollow = hollow
	return out, err
}

// worked works the solid of a piece out that is not kept yet.
func (s *Server) worked(ctx context.Context, in PieceRequest) (*rough.Piece, error) {
	p := in.piece("")
	var err error
	if p.Rough.Carat, err = p.Weighed.Carats(); err != nil {
		return nil, err
	}
	return s.workshop.Worked(ctx, p.Rough)
}

func (s *Server) surveyRough(c *echo.Context, in withBody[SurveyRequest]) (SurveyView, error) {
	facts, err := s.workshop.MaterialCalled(c.Request().Context(), in.Body.Material)
	if err != nil {
		return SurveyView{}, err
	}
	got, err := in.Body.Survey.survey().Solve()
	if err != nil {
		return SurveyView{}, err
	}
	out := SurveyView{Took: got.Took, Points: []float64{}, NextAngle: got.Next.Angle, NextIndex: got.Next.Index}
	out.Ahead = each(got.Ahead, func(t rough.Touch) TouchAhead { return TouchAhead{t.Angle, t.Index} })
	if got.Body == nil {
		return out, nil
	}
	mesh := bodyMesh(got.Body)
	out.Solid, out.Most, out.Volume = &mesh, &got.Most, got.Body.Volume()
	out.Carats = out.Volume * facts.CaratPerMM3()
	for _, p := range got.Body.Points() {
		out.Points = append(out.Points, p.X, p.Y, p.Z)
	}
	if in.Body.Carat > 0 {
		extra := out.Carats - in.Body.Carat
		out.Extra = &extra
	}
	return out, nil
}

func (s *Server) estimateRough(c *echo.Context, in withBody[EstimateRequest]) (RoughEstimate, error) {
	ctx := c.Request().Context()
	worked, err := s.worked(ctx, in.Body.Piece)
	if err != nil {
		return RoughEstimate{}, err
	}
	e, err := analysis.EstimateOf(ctx, s.workshop, worked, in.Body.Outline, in.Body.Allowance)
	if none := (fit.NoRoom{}); errors.As(err, &none) {
		return RoughEstimate{}, invalid(words.NoRoom(none.Allowance), nil)
	} else if err != nil {
		return RoughEstimate{}, err
	}
	f := analysis.Found(e.Fit)
	return RoughEstimate{
		Diagram: e.Name, Width: e.RuleWidth, Carat: e.RuleCarat, By: e.By,
		FitWidth: f.Width, FitLength: f.Length, FitCarat: f.Carat, FitYield: f.Yield,
		LimitedBy: each(f.LimitedBy, func(l workshop.Limit) LimitedBy { return LimitedBy(l) }),
	}, nil
}

func (s *Server) roughFile(c *echo.Context) error {
	p, _, err := s.workshop.Piece(c.Request().Context(), c.Param("id"))
	if err != nil {
		return err
	}
	data, err := formats.WriteRough(&p.Rough)
	if err != nil {
		return err
	}
	c.Response().Header().Set("Content-Disposition", fmt.Sprintf(`attachment; filename="piece-%d.rough.json"`, p.Number))
	return c.Blob(http.StatusOK, "application/json", data)
}

func (s *Server) startFit(c *echo.Context, in byIDWithBody[FittingRequest]) (none, error) {
	search, err := analysis.PrepareFit(c.Request().Context(), s.workshop, in.ID, in.Body.Diagrams, in.Body.Allowance)
	if err != nil {
		return none{}, err
	}
	search.Costs, search.Rounds = in.Body.Costs, in.Body.Rounds
	now := FittingLine{Progress: Progress{Total: search.Total()}}
	s.fitting.start(s.background, in.ID, now,
		func(ctx context.Context, tell func(FittingLine)) error {
			return search.Run(s.parallel(ctx), func(p analysis.FitProgress) {
				now.Done, now.Name, now.Width, now.Kept = p.Done, p.Name, p.Width, nil
				if p.Kept != nil {
					view := candidateView(*p.Kept, p.Kept.Version)
					now.Kept = &view
				}
				tell(now)
			})
		},
		func(err error) FittingLine {
			last := FittingLine{Progress: ended(now.Done, now.Total, err), Name: now.Name}
			if none := (fit.NoRoom{}); errors.As(err, &none) {
				last.Failed = words.NoRoom(none.Allowance)
			}
			return last
		})
	return none{}, nil
}
