package workshop

import (
	"context"
	"time"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/rough"
)

// Parcel is rough as it was bought together.
type Parcel struct {
	ID   string
	Name string `validate:"required,max=100"`
	// Source says in words where it comes from.
	Source string `validate:"max=200"`
	Lot    string `validate:"max=60"`
	// Bought is the day, YYYY-MM-DD, "" where that is not known.
	Bought string `validate:"omitempty,datetime=2006-01-02"`
	Cost   ParcelCost
	// Promised is what the seller said of it, Came what it was.
	Promised string `validate:"max=2000"`
	Came     string `validate:"max=2000"`
	Note     string `validate:"max=2000"`
	Created  time.Time
	Version  int
}

// ParcelCost is what a parcel cost: minor units of its currency for each of what it was sold by, and for
// postage once.
type ParcelCost struct {
	Per      SoldBy `validate:"oneof=parcel piece gram kilogram"`
	Amount   int64  `validate:"min=0,max=1000000000000"`
	Postage  int64  `validate:"min=0,max=1000000000000"`
	Currency string `validate:"omitempty,len=3,uppercase,alpha"`
}

// SoldBy is what rough is sold by.
type SoldBy string

// The ways to sell.
const (
	ByParcel   SoldBy = "parcel"
	ByPiece    SoldBy = "piece"
	ByGram     SoldBy = "gram"
	ByKilogram SoldBy = "kilogram"
)

// Piece is a piece of rough, with a short number to write on its bag.
type Piece struct {
	ID     string
	Number int
	// Parcel is the ID of the parcel that it came in, Parent that of the piece that it was sawn off; "" for
	// none.
	Parcel string `validate:"max=40"`
	Parent string `validate:"max=40"`
	Rough  rough.Rough
	// Weighed is what was typed from the scales, with its unit. Carats is that in carats, or what the solid
	// weighs where nobody weighed; it follows.
	Weighed Weighed
	Carats  float64
	// Sketch is what lists show of it; it follows.
	Sketch Sketch
	// Look is what was seen of it.
	Look Look
	// Survey is how its solid was measured on the machine, nil where it was not.
	Survey  *rough.Survey
	Fate    Fate `validate:"oneof=whole cut kept gone"`
	Created time.Time
	Version int
}

// Sketch is a piece as lists show it: the box around what the saw leaves of it, in mm, and corners that
// show its shape.
type Sketch struct {
	Name, Material string
	Flaws          int
	Size           r3.Vec
	Corners        []r3.Vec
}

// sketchCorners is how many corners a sketch has at most.
const sketchCorners = 80

func sketchOf(p *rough.Piece) Sketch {
	box := p.Body.Bounds()
	return Sketch{p.Name, p.Material, len(p.Flaws), r3.Sub(box.Max, box.Min), p.Body.Few(sketchCorners)}
}

// Weighed is a weight as it was typed: "12.4" in carats (ct) or grams (g); "" where nobody weighed.
type Weighed struct {
	Text string `validate:"max=20"`
	Unit string `validate:"oneof=ct g"`
}

// Look is what was seen of a piece, in words: its colour along its length or axis and across, and
// anything else.
type Look struct {
	Along  string `validate:"max=200"`
	Across string `validate:"max=200"`
	// Seen is what each way of looking showed, in the order in which they were gone through.
	Seen []Seen `validate:"max=20,dive"`
}

// Seen is what one way of looking showed.
type Seen struct {
	Way  Way    `validate:"oneof=white backlit reflected wet polarised along across"`
	What Sight  `validate:"oneof=nothing something skipped"`
	Note string `validate:"max=500"`
}

// Way is a way of looking at a piece.
type Way string

// The ways: dry on white paper, against the light, by reflected light, wet or immersed and lit from the
// side, between crossed polarisers, along the future table and across it.
const (
	OnWhite    Way = "white"
	Backlit    Way = "backlit"
	Reflected  Way = "reflected"
	WetSideLit Way = "wet"
	Polarised  Way = "polarised"
	AlongTable Way = "along"
	AcrossIt   Way = "across"
)

// Sight is what came of a look.
type Sight string

// What may come of it.
const (
	SawNothing   Sight = "nothing"
	SawSomething Sight = "something"
	NotLooked    Sight = "skipped"
)

// Fate is what became of a piece.
type Fate string

// The fates.
const (
	Whole  Fate = "whole" // not touched yet
	InWork Fate = "cut"   // a stone is or was made of it
	Kept   Fate = "kept"  // put aside
	Gone   Fate = "gone"  // sold, given, lost or broken
)

// Candidate is the largest stone of a version of a diagram that was found in a piece.
type Candidate struct {
	ID, Piece string
	// Diagram is the diagram's ID, Revision the version's hash, Name what it was called.
	Diagram, Revision, Name string
	Allowance               float64
	Found                   Found
	// Costs tells what each flaw costs, nil where nobody asked.
	Costs []FlawCost
	// Version is that of the piece that was searched. Rounds counts how often it was searched.
	Version, Rounds int
	Made            time.Time
	// Chosen is the zero time but for the candidate that the piece is to become; Why are the reasons.
	Chosen time.Time
	Why    string `validate:"max=2000"`
}

// Found is a stone in its place: a point v of the diagram's frame lies at Rotation·(Scale·v) + Offset in
// the piece's. Scale is 0 where the flaws leave no room. Lengths are in mm.
type Found struct {
	Scale                 float64
	Rotation              [9]float64
	Offset                [3]float64
	Width, Length, Height float64
	Carat                 float64
	// Yield is the stone's part, 0 to 1, of the piece as it was weighed, or of its solid before saw cuts.
	Yield float64
	// Bound is a width that no turn can exceed.
	Bound     float64
	LimitedBy []Limit
}

// FlawCost is what the stone would be if a flaw, by its place in the piece, might stay: at least the stone
// that keeps it out.
type FlawCost struct {
	Flaw         int
	Width, Carat float64
}

// Limit names something that the stone touches: a face, a trim or a flaw.
type Limit struct{ Kind, Name string }

// PieceLine is a piece as lists show it, with its chosen candidate or else its heaviest, nil without any.
type PieceLine struct {
	ID      string
	Number  int
	Parcel  string
	Fate    Fate
	Carats  float64
	Version int
	Sketch  Sketch
	// ParcelName is that of its parcel, "" for none.
	ParcelName string
	Best       *Candidate
	// Candidates is how many there are.
	Candidates int
}

// PieceFilter says which pieces are looked for, the last first.
type PieceFilter struct {
	// Words must all be found in number, name, material or parcel.
	Words []string
	// Parcel and Parent are IDs, "" for any. Fate is "" for any.
	Parcel, Parent string
	Fate           Fate
}

// PiecePage is a page of pieces. Next is nil after the last; Total counts all that match.
type PiecePage struct {
	Lines []PieceLine
	Next  *Cursor
	Total int
}

// RoughStore keeps rough.
type RoughStore interface {
	// Parcels returns all parcels, the last bought first.
	Parcels(ctx context.Context) ([]Parcel, error)
	Parcel(ctx context.Context, id string) (Parcel, error)
	InsertParcel(ctx context.Context, p Parcel) error
	SaveParcel(ctx context.Context, p Parcel, version int) error
	Pieces(ctx context.Context, f PieceFilter, after Cursor, limit int) (PiecePage, error)
	Piece(ctx context.Context, id string) (Piece, error)
	// InsertPiece adds a piece and gives it the next number.
	InsertPiece(ctx context.Context, p Piece) (number int, err error)
	SavePiece(ctx context.Context, p Piece, version int) error
	// Candidates returns those of a piece, the heaviest first.
	Candidates(ctx context.Context, piece string) ([]Candidate, error)
	// PutCandidate keeps a candidate in place of the one of the same piece and diagram, if there is one.
	PutCandidate(ctx context.Context, c Candidate) error
	// StonesOfPiece returns the stones that are cut from a piece, the first first.
	StonesOfPiece(ctx context.Context, piece string) ([]PieceStone, error)
	DropCandidate(ctx context.Context, id string) error
	// PiecePhotos returns a piece's photos, the oldest first.
	PiecePhotos(ctx context.Context, piece string) ([]PiecePhoto, error)
	InsertPiecePhoto(ctx context.Context, piece string, p PiecePhoto) error
	// SavePiecePhoto writes note and marks.
	SavePiecePhoto(ctx context.Context, piece string, p PiecePhoto, version int) error
	// DropPiecePhoto returns the hash of the photo that it takes away, and whether another photo has it.
	DropPiecePhoto(ctx context.Context, piece, id string) (hash string, shown bool, err error)
	// PieceWeights returns, for each parcel, how many of its pieces were not sawn off another, and what
	// those weigh together in carats.
	PieceWeights(ctx context.Context) (map[string]ParcelSum, error)
}

// ParcelSum is how many pieces came in a parcel, and their weight together in carats.
type ParcelSum struct {
	Pieces int
	Carats float64
}

// gramsPerCarat is exact.
const gramsPerCarat = 0.2

// Total returns what a parcel cost with its postage, in minor units, by what is known of its pieces.
func (c ParcelCost) Total(s ParcelSum) float64 {
	each := float64(c.Amount)
	grams := s.Carats * gramsPerCarat
	switch c.Per {
	case ByPiece:
		each *= float64(s.Pieces)
	case ByGram:
		each *= grams
	case ByKilogram:
		each *= grams / 1000
	}
	return each + float64(c.Postage)
}

// Share returns what a piece of so many carats cost, in minor units: by its weight where the parcel was
// sold by that or as a whole, and an equal part where it was sold by the piece; the postage likewise.
func (c ParcelCost) Share(s ParcelSum, carats float64) float64 {
	if s.Pieces == 0 {
		return 0
	}
	part := 1 / float64(s.Pieces)
	if c.Per != ByPiece && s.Carats > 0 {
		part = carats / s.Carats
	}
	return c.Total(s) * part
}
