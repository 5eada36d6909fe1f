package workshop

import (
	"context"
	"strconv"
	"strings"

	"cressa/core/diagram"
)

// OriginFreehand is the origin of a diagram that is cut before it is drawn.
const OriginFreehand = "a stone cut freehand"

// BeingCut tells that a stone is cut freehand into a diagram that has no version yet.
func (d Diagram) BeingCut() bool { return d.Origin == OriginFreehand && d.Revision == "" }

// Freehand is what is known of a stone before it is cut without a diagram.
type Freehand struct {
	Name     string  `validate:"required,max=200"`
	Material string  `validate:"required,max=60"`
	WidthMM  float64 `validate:"min=0.5,max=500"`
	Gear     int     `validate:"min=1,max=360"`
}

// BeginFreehand adds the draft that a stone is cut into, setting by setting: its width is that of the rough. It
// returns the errors of Validate, and a diagram.Problem for an unknown material.
func (s *Stones) BeginFreehand(ctx context.Context, f Freehand) (Diagram, error) {
	if err := Validate(f); err != nil {
		return Diagram{}, err
	}
	settings, err := s.preferences.Settings(ctx)
	if err != nil {
		return Diagram{}, err
	}
	m, ok := settings.Material(f.Material)
	if !ok {
		return Diagram{}, diagram.Problem{Code: UnknownMaterial, TierNo: -1, Field: "material", Text: f.Material}
	}
	draft := diagram.Draft{
		Name: strings.TrimSpace(f.Name), Outline: "freeform", Gear: strconv.Itoa(f.Gear),
		RefractiveIndex: diagram.FormatNumber(m.RefractiveIndex.Low), Width: diagram.FormatNumber(f.WidthMM),
		FirstSide: string(diagram.Pavilion), Indexing: string(diagram.Dialled),
	}
	// It is dialled as it is cut: nobody has to say which way its indexes run.
	return s.library.add(ctx, draft, nil, Diagram{Origin: OriginFreehand, SenseChosen: true})
}

// Freehands returns the stones that are being cut freehand, those that were not made a diagram yet, at most so many.
// It returns only the errors of the store.
func (s *Stones) Freehands(ctx context.Context, limit int) ([]DiagramLine, error) {
	page, err := s.library.store.Diagrams(ctx, DiagramFilter{Freehand: true}, Cursor{}, limit)
	return page.Lines, err
}
