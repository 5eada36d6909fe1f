package server

import (
	"cressa/core/diagram"
	"cressa/core/polyhedron"
	"cressa/core/quick"
)

// Draft is a diagram as it stands in the editor: every field as it was typed, mistakes
// included.
type Draft struct {
	Name            string `json:"name" validate:"max=2000"`
	Designer        string `json:"designer" validate:"max=2000"`
	Source          string `json:"source" validate:"max=2000"`
	Date            string `json:"date" validate:"max=2000"`
	Licence         string `json:"licence" validate:"max=2000"`
	Note            string `json:"note" validate:"max=20000"`
	Outline         string `json:"outline" validate:"max=100"`
	Gear            string `json:"gear" validate:"max=100"`
	RefractiveIndex string `json:"refractiveIndex" validate:"max=100"`
	// Width is the planned width in mm, which lengths in mm are reckoned with.
	Width     string      `json:"width" validate:"max=100"`
	FirstSide string      `json:"firstSide" validate:"max=100"`
	Indexing  string      `json:"indexing" validate:"max=100"`
	Tiers     []DraftTier `json:"tiers" validate:"max=400,dive"`
}

// DraftTier is one row of the tier table as it was typed.
type DraftTier struct {
	// Key stays with the row while it is renamed and moved.
	Key      string `json:"key" validate:"max=100"`
	Name     string `json:"name" validate:"max=100"`
	Part     string `json:"part" validate:"max=100"`
	Angle    string `json:"angle" validate:"max=100"`
	Indexes  string `json:"indexes" validate:"max=20000"`
	Stop     string `json:"stop" validate:"max=2000"`
	Note     string `json:"note" validate:"max=20000"`
	Optional bool   `json:"optional"`
}

func (d Draft) draft() diagram.Draft {
	return diagram.Draft{
		Name: d.Name, Designer: d.Designer, Source: d.Source, Date: d.Date, Licence: d.Licence, Note: d.Note,
		Outline: d.Outline, Gear: d.Gear, RefractiveIndex: d.RefractiveIndex, Width: d.Width, FirstSide: d.FirstSide, Indexing: d.Indexing,
		Tiers: each(d.Tiers, func(t DraftTier) diagram.DraftTier { return diagram.DraftTier(t) }),
	}
}

func draftView(d diagram.Draft) Draft {
	return Draft{
		Name: d.Name, Designer: d.Designer, Source: d.Source, Date: d.Date, Licence: d.Licence, Note: d.Note,
		Outline: d.Outline, Gear: d.Gear, RefractiveIndex: d.RefractiveIndex, Width: d.Width, FirstSide: d.FirstSide, Indexing: d.Indexing,
		Tiers: each(d.Tiers, func(t diagram.DraftTier) DraftTier { return DraftTier(t) }),
	}
}

// Reshape asks for a tier to be reshaped.
type Reshape struct {
	Kind diagram.Reshaping `json:"kind" validate:"oneof=append copy mirror turn turn-whole complete write-out rename"`
	// By is how many teeth it is turned on, Fold and Mirrored the symmetry that it is
	// completed to, Name its new name.
	By       float64 `json:"by" validate:"min=-360,max=360"`
	Fold     int     `json:"fold" validate:"min=0,max=360"`
	Mirrored bool    `json:"mirrored"`
	Name     string  `json:"name" validate:"max=100"`
}

// Facts are what a library is searched and sorted by.
type Facts struct {
	Name            string  `json:"name"`
	Outline         string  `json:"outline"`
	Gear            int     `json:"gear"`
	RefractiveIndex float64 `json:"refractiveIndex"`
	Tiers           int     `json:"tiers"`
	Facets          int     `json:"facets"`
	LengthWidth     float64 `json:"lengthWidth"`
	HeightWidth     float64 `json:"heightWidth"`
	// TableWidth is 0 without a table.
	TableWidth float64 `json:"tableWidth"`
	// Shallowest is the lowest pavilion angle that counts, 90 without a pavilion.
	Shallowest float64 `json:"shallowest"`
}

// Picture is a small line drawing of a stone from above and from the side, in widths of
// the stone. A polygon is the x (to the right) and y (up) of each corner in turn.
type Picture struct {
	Above [][]float64 `json:"above"`
	Side  [][]float64 `json:"side"`
}

// Wish says what quick design is asked for.
type Wish struct {
	Name    string        `json:"name" validate:"max=200"`
	Outline quick.Outline `json:"outline" validate:"oneof=oval cushion rectangle regular triangle kite parallelogram corners"`
	// LengthWidth is the length over the width.
	LengthWidth float64 `json:"lengthWidth" validate:"min=1,max=2"`
	// Girdle is the number of girdle facets of a rounded outline, a multiple of four.
	Girdle int `json:"girdle" validate:"min=4,max=32"`
	// Sides counts for a regular outline, Slant in degrees for a parallelogram, Widest, as a share
	// of the length, for a kite, and Corners, in any unit, for one that is drawn.
	Sides   int     `json:"sides" validate:"min=3,max=32"`
	Slant   float64 `json:"slant" validate:"min=20,max=90"`
	Widest  float64 `json:"widest" validate:"min=0.1,max=0.5"`
	Corners []Spot  `json:"corners" validate:"max=32"`
	// WholeTeeth moves the sides of an outline with corners to the nearest teeth.
	WholeTeeth      bool       `json:"wholeTeeth"`
	Gear            int        `json:"gear" validate:"min=16,max=360"`
	RefractiveIndex float64    `json:"refractiveIndex" validate:"min=1.3,max=4"`
	Pavilion        quick.Kind `json:"pavilion" validate:"oneof=fan steps"`
	Crown           quick.Kind `json:"crown" validate:"oneof=bevel steps"`
	// Table is its width over the stone's.
	Table float64 `json:"table" validate:"min=0.4,max=0.75"`
}

func (w Wish) wish() quick.Wish {
	return quick.Wish{
		Name: w.Name, Outline: w.Outline, LengthWidth: w.LengthWidth, Girdle: w.Girdle, Sides: w.Sides, Slant: w.Slant, Widest: w.Widest,
		Corners: each(w.Corners, func(c Spot) quick.Corner { return quick.Corner(c) }), WholeTeeth: w.WholeTeeth, Gear: w.Gear,
		RefractiveIndex: w.RefractiveIndex, Pavilion: w.Pavilion, Crown: w.Crown, Table: w.Table,
	}
}

// Rule asks for a solid by rule.
type Rule struct {
	Kind polyhedron.Kind `json:"kind" validate:"oneof=tetrahedron cube octahedron dodecahedron icosahedron prism antiprism bipyramid trapezohedron"`
	// Pose counts for the regular polyhedra, which are all alike from every face.
	Pose polyhedron.Pose `json:"pose" validate:"oneof=face corner edge"`
	// Sides and Height, over the width, count for the others.
	Sides  int     `json:"sides" validate:"min=3,max=60"`
	Height float64 `json:"height" validate:"min=0.1,max=10"`
}
