package server

import (
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/rough"
)

// RoughSurvey is what was measured of a piece on its dop: z runs out of the dop, +y comes to the lap at
// index N. Lengths are in mm, angles in degrees.
type RoughSurvey struct {
	// Gear is the number of teeth of the index gear, Reading by how much a figure may be off.
	Gear    int     `json:"gear" validate:"min=1,max=360"`
	Reading float64 `json:"reading" validate:"min=0,max=1"`
	// Lowers tells that a rising reading of the dial lowers the stone; else it lifts it.
	Lowers bool `json:"lowers"`
	// Known are readings of the height dial where something known meets the lap.
	Known    []KnownTouch      `json:"known" validate:"max=100,dive"`
	Touches  []RoughTouch      `json:"touches" validate:"max=100,dive"`
	Widths   []RoughWidth      `json:"widths" validate:"max=100,dive"`
	Outlines []RoughSilhouette `json:"outlines" validate:"max=12,dive"`
}

// KnownTouch is a reading of the height dial where something known meets the lap: at an angle, so far from
// the middle of the dop's face.
type KnownTouch struct {
	Angle    float64 `json:"angle" validate:"min=0,max=120"`
	Distance float64 `json:"distance" validate:"min=-1000,max=1000"`
	Height   float64 `json:"height" validate:"min=-1000,max=1000"`
}

// RoughTouch is a reading of the height dial where the piece meets the lap.
type RoughTouch struct {
	Angle  float64 `json:"angle" validate:"min=0,max=120"`
	Index  float64 `json:"index" validate:"min=0,max=360"`
	Height float64 `json:"height" validate:"min=-1000,max=1000"`
}

// RoughWidth is what calipers read across the piece, along the direction of an angle and an index.
type RoughWidth struct {
	Angle   float64 `json:"angle" validate:"min=0,max=120"`
	Index   float64 `json:"index" validate:"min=0,max=360"`
	Reading float64 `json:"reading" validate:"min=0,max=1000"`
}

// RoughSilhouette is the outermost corners of the piece as seen square to an index: x to the side that comes to
// the lap there and y up from the dop's face, in turn. Off is by how much they may be off.
type RoughSilhouette struct {
	Index   float64   `json:"index" validate:"min=0,max=360"`
	Off     float64   `json:"off" validate:"min=0,max=1000"`
	Corners []float64 `json:"corners" validate:"max=120,dive,min=-1000,max=1000"`
}

// SurveyRequest asks what a survey tells of a piece of a material.
type SurveyRequest struct {
	Survey   RoughSurvey `json:"survey"`
	Material string      `json:"material" validate:"required,max=60"`
	// Carat is what the piece weighs, 0 where nobody weighed.
	Carat float64 `json:"carat" validate:"min=0,max=1000000"`
}

// SurveyView is what a survey tells.
type SurveyView struct {
	// Solid holds the piece, null until it is bounded all round, with Points, its corners, x, y and z of each
	// in turn. Carats is what that weighs and Volume in mm³.
	Solid  *Mesh     `json:"solid"`
	Points []float64 `json:"points"`
	Carats float64   `json:"carats"`
	Volume float64   `json:"volume"`
	// Took is what each measure took away in mm³: touches, widths, outlines, in their order.
	Took []float64 `json:"took"`
	// Most is by how many mm the solid may stand out over the piece at the worst; Extra by how many carats it
	// is heavier than the piece was weighed. Both are null where that is not known.
	Most  *float64 `json:"most"`
	Extra *float64 `json:"extra"`
	// Next is the touch that would tell most.
	NextAngle float64 `json:"nextAngle"`
	NextIndex float64 `json:"nextIndex"`
	// Ahead are those that come after it until the piece is bounded all round.
	Ahead []TouchAhead `json:"ahead"`
}

// TouchAhead is where a piece will be touched.
type TouchAhead struct {
	Angle float64 `json:"angle"`
	Index float64 `json:"index"`
}

func (s *RoughSurvey) survey() *rough.Survey {
	if s == nil {
		return nil
	}
	out := &rough.Survey{Gear: s.Gear, Reading: s.Reading, Lowers: s.Lowers}
	for _, k := range s.Known {
		out.Known = append(out.Known, rough.KnownTouch(k))
	}
	for _, t := range s.Touches {
		out.Touches = append(out.Touches, rough.Touch(t))
	}
	for _, w := range s.Widths {
		out.Widths = append(out.Widths, rough.Width(w))
	}
	for _, o := range s.Outlines {
		one := rough.Outline{Index: o.Index, Off: o.Off}
		for i := 0; i+1 < len(o.Corners); i += 2 {
			one.Corners = append(one.Corners, r3.Vec{X: o.Corners[i], Y: o.Corners[i+1]})
		}
		out.Outlines = append(out.Outlines, one)
	}
	return out
}

func surveyView(s *rough.Survey) *RoughSurvey {
	if s == nil {
		return nil
	}
	out := &RoughSurvey{
		Gear: s.Gear, Reading: s.Reading, Lowers: s.Lowers, Outlines: []RoughSilhouette{},
		Known:   each(s.Known, func(k rough.KnownTouch) KnownTouch { return KnownTouch(k) }),
		Touches: each(s.Touches, func(t rough.Touch) RoughTouch { return RoughTouch(t) }),
		Widths:  each(s.Widths, func(w rough.Width) RoughWidth { return RoughWidth(w) }),
	}
	for _, o := range s.Outlines {
		out.Outlines = append(out.Outlines, RoughSilhouette{o.Index, o.Off, corners(o.Corners)})
	}
	return out
}
