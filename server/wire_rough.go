package server

import (
	"math"
	"time"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/cutting"
	"cressa/core/rough"
	"cressa/words"
	"cressa/workshop"
)

// Parcel is rough as it was bought together.
type Parcel struct {
	// ID is "" for one that is to be kept for the first time.
	ID     string `json:"id" validate:"max=40"`
	Name   string `json:"name" validate:"required,max=100"`
	Source string `json:"source" validate:"max=200"`
	Lot    string `json:"lot" validate:"max=60"`
	// Bought is a day, YYYY-MM-DD, or "".
	Bought string `json:"bought" validate:"omitempty,datetime=2006-01-02"`
	// Per is what the amount is for; Amount and Postage are in minor units of the currency.
	Per      workshop.SoldBy `json:"per" validate:"oneof=parcel piece gram kilogram"`
	Amount   int64           `json:"amount" validate:"min=0,max=1000000000000"`
	Postage  int64           `json:"postage" validate:"min=0,max=1000000000000"`
	Currency string          `json:"currency" validate:"omitempty,len=3,uppercase,alpha"`
	Promised string          `json:"promised" validate:"max=2000"`
	Came     string          `json:"came" validate:"max=2000"`
	Note     string          `json:"note" validate:"max=2000"`
	Version  int             `json:"version"`
}

// ParcelLine is a parcel with what is known of its pieces: how many there are, what they weigh together
// in carats, and what it cost in all, in minor units.
type ParcelLine struct {
	Parcel
	Pieces int     `json:"pieces"`
	Carats float64 `json:"carats"`
	Total  float64 `json:"total"`
}

// ParcelList lists all parcels, the last bought first.
type ParcelList struct {
	Parcels []ParcelLine `json:"parcels"`
}

// Rough is a piece of rough as it is described: lengths in mm, in a frame of the cutter's choice.
type Rough struct {
	Name     string      `json:"name" validate:"max=200"`
	Material string      `json:"material" validate:"required,max=60"`
	Note     string      `json:"note" validate:"max=20000"`
	Solid    RoughSolid  `json:"solid"`
	Trims    []RoughTrim `json:"trims" validate:"max=100"`
	RoughInside
}

// RoughInside is what lies in a piece.
type RoughInside struct {
	Flaws  []RoughFlaw  `json:"flaws" validate:"max=100"`
	Axis   *RoughAxis   `json:"axis"`
	Colour *RoughColour `json:"colour"`
}

// RoughSolid is the shape of a piece: a box or a pebble about the origin by its size, or the hull of
// points, x, y and z of each in turn.
type RoughSolid struct {
	Kind   rough.SolidKind `json:"kind" validate:"oneof=box pebble hull"`
	Size   Point           `json:"size"`
	Points []float64       `json:"points" validate:"max=60000"`
}

// RoughTrim is a saw cut: what lies behind its plane, as the normal sees it, is kept.
type RoughTrim struct {
	Normal   Point   `json:"normal"`
	Distance float64 `json:"distance" validate:"min=-1000,max=1000"`
	Kerf     float64 `json:"kerf" validate:"min=0,max=1000"`
}

// RoughFlaw is a flaw in its place. Radius counts for balls and discs, Normal for discs.
type RoughFlaw struct {
	Name   string         `json:"name" validate:"max=200"`
	Kind   rough.FlawKind `json:"kind" validate:"oneof=point ball disc"`
	At     Point          `json:"at"`
	Radius float64        `json:"radius" validate:"min=0,max=1000"`
	Normal Point          `json:"normal"`
	Rule   rough.Rule     `json:"rule" validate:"oneof=out hidden accept"`
}

// RoughAxis is a direction in the piece, without a sense. ToTable is the angle in degrees that the table
// shall have to it, null where that is free.
type RoughAxis struct {
	Kind      rough.AxisKind `json:"kind" validate:"oneof=optic colour sheen"`
	Direction Point          `json:"direction"`
	ToTable   *float64       `json:"toTable" validate:"omitempty,min=0,max=90"`
}

// RoughColour is what the piece absorbs of red, green and blue, in 1/mm, along its axis and across, and
// in slabs of another colour.
type RoughColour struct {
	Along  []float64   `json:"along" validate:"len=3"`
	Across []float64   `json:"across" validate:"len=3"`
	Zones  []RoughZone `json:"zones" validate:"max=100,dive"`
}

// RoughZone is a slab of another colour.
type RoughZone struct {
	Normal Point     `json:"normal"`
	From   float64   `json:"from"`
	To     float64   `json:"to"`
	RGB    []float64 `json:"rgb" validate:"len=3"`
}

// RoughWorked is the solid of a piece: as it came and as the saw leaves it.
type RoughWorked struct {
	Whole Mesh `json:"whole"`
	Kept  Mesh `json:"kept"`
	// WholeCarats and KeptCarats are what these weigh by their volume.
	WholeCarats float64 `json:"wholeCarats"`
	KeptCarats  float64 `json:"keptCarats"`
	// Off is by what part the solid is heavier than the scales say, negative where it is lighter; Care
	// says so where it is too much, "" where it is not.
	Off  float64    `json:"off"`
	Care string     `json:"care"`
	Cuts []SawnLoss `json:"cuts"`
}

// SawnLoss is what a saw cut takes: its section in mm², and carats.
type SawnLoss struct {
	Section      float64 `json:"section"`
	KerfCarats   float64 `json:"kerfCarats"`
	OffcutCarats float64 `json:"offcutCarats"`
}

// PieceRequest is a piece as it is kept: a new one has no version. Weighed is as it was typed, with ct or g.
type PieceRequest struct {
	Parcel  string `json:"parcel" validate:"max=40"`
	Parent  string `json:"parent" validate:"max=40"`
	Weighed string `json:"weighed" validate:"max=20"`
	Unit    string `json:"unit" validate:"oneof=ct g"`
	Along   string `json:"along" validate:"max=200"`
	Across  string `json:"across" validate:"max=200"`
	// Seen is what each way of looking showed.
	Seen  []LookedAt    `json:"seen" validate:"max=20,dive"`
	Fate  workshop.Fate `json:"fate" validate:"oneof=whole cut kept gone"`
	Rough Rough         `json:"rough"`
	// Survey is how the solid was measured on the machine, null where it was not.
	Survey  *RoughSurvey `json:"survey"`
	Version int          `json:"version"`
}

// LookedAt is what one way of looking at a piece showed.
type LookedAt struct {
	Way  workshop.Way   `json:"way" validate:"oneof=white backlit reflected wet polarised along across"`
	What workshop.Sight `json:"what" validate:"oneof=nothing something skipped"`
	Note string         `json:"note" validate:"max=500"`
}

// PieceLine is a piece as lists show it.
type PieceLine struct {
	ID         string        `json:"id"`
	Number     int           `json:"number"`
	Name       string        `json:"name"`
	Material   string        `json:"material"`
	Carats     float64       `json:"carats"`
	Fate       workshop.Fate `json:"fate" validate:"oneof=whole cut kept gone"`
	Parcel     string        `json:"parcel"`
	ParcelName string        `json:"parcelName"`
	// Size is that of the box around what the saw leaves.
	Size Point `json:"size"`
	// Kept is drawn small.
	Kept       Mesh `json:"kept"`
	Flaws      int  `json:"flaws"`
	Candidates int  `json:"candidates"`
	// Best is the chosen candidate, else the heaviest, null without any.
	Best *Candidate `json:"best"`
}

// PieceList is a page of pieces.
type PieceList struct {
	Pieces []PieceLine `json:"pieces"`
	// Next is where the next page begins, "" after the last; Total counts all that match.
	Next  string `json:"next"`
	Total int    `json:"total"`
}

// PieceView is a piece with all that is known of it.
type PieceView struct {
	PieceRequest
	ID     string  `json:"id"`
	Number int     `json:"number"`
	Carats float64 `json:"carats"`
	// Cost is its share of what its parcel cost, in minor units of the currency, 0 where that is not known.
	Cost       float64     `json:"cost"`
	Currency   string      `json:"currency"`
	ParcelName string      `json:"parcelName"`
	Worked     RoughWorked `json:"worked"`
	Candidates []Candidate `json:"candidates"`
	// ParentNumber is that of the piece that it was sawn off, 0 for none.
	ParentNumber int         `json:"parentNumber"`
	Offcuts      []PieceLine `json:"offcuts"`
	// Stones are those that are cut from it.
	Stones []PieceStone `json:"stones"`
	Photos []PiecePhoto `json:"photos"`
}

// PiecePhoto is a photo of a piece, the picture under /api/photos by its hash.
type PiecePhoto struct {
	ID    string    `json:"id"`
	Hash  string    `json:"hash"`
	Taken time.Time `json:"taken"`
	PhotoMarks
}

// PhotoMarks are what is noted and marked on a photo, over the version that was read.
type PhotoMarks struct {
	Note    string      `json:"note" validate:"max=500"`
	Marks   []PhotoMark `json:"marks" validate:"max=50,dive"`
	Version int         `json:"version"`
}

// PhotoMark is a place on a photo: shares, 0 to 1, of its width from the left and of its height from the top.
type PhotoMark struct {
	X    float64 `json:"x" validate:"min=0,max=1"`
	Y    float64 `json:"y" validate:"min=0,max=1"`
	Text string  `json:"text" validate:"max=200"`
}

func piecePhotoView(p workshop.PiecePhoto) PiecePhoto {
	return PiecePhoto{p.ID, p.Hash, p.Taken, PhotoMarks{p.Note, each(p.Marks, func(m workshop.PhotoMark) PhotoMark { return PhotoMark(m) }), p.Version}}
}

// Candidate is the largest stone of a diagram that was found in a piece. Lengths are in mm.
type Candidate struct {
	ID        string  `json:"id"`
	Diagram   string  `json:"diagram"`
	Revision  string  `json:"revision"`
	Name      string  `json:"name"`
	Allowance float64 `json:"allowance"`
	Width     float64 `json:"width"`
	Length    float64 `json:"length"`
	Height    float64 `json:"height"`
	Carat     float64 `json:"carat"`
	// Yield is its part, 0 to 1, of the piece; Bound a width that no turn can exceed.
	Yield float64 `json:"yield"`
	Bound float64 `json:"bound"`
	// Place is null where the flaws leave no room.
	Place     *StonePlace `json:"place"`
	LimitedBy []LimitedBy `json:"limitedBy"`
	// Costs tells what each flaw costs, none where nobody asked.
	Costs []FlawCost `json:"costs"`
	// Stale tells that the piece was changed since; Rounds how often it was searched.
	Stale  bool      `json:"stale"`
	Rounds int       `json:"rounds"`
	Made   time.Time `json:"made"`
	Chosen bool      `json:"chosen"`
	Why    string    `json:"why"`
	// Worth is what it brings at today's prices, in minor units of the piece's currency, null where no price is
	// known or asked for.
	Worth *float64 `json:"worth"`
}

// FlawCost is what the stone would be if a flaw, by its place in the piece, might stay.
type FlawCost struct {
	Flaw  int     `json:"flaw"`
	Width float64 `json:"width"`
	Carat float64 `json:"carat"`
}

// StonePlace says where a stone lies: a point v of its diagram at Rotation·(Scale·v) + Offset, the rotation
// row by row.
type StonePlace struct {
	Scale    float64   `json:"scale"`
	Rotation []float64 `json:"rotation"`
	Offset   []float64 `json:"offset"`
}

// LimitedBy names something that a stone touches.
type LimitedBy struct {
	Kind string `json:"kind" validate:"oneof=face trim flaw"`
	Name string `json:"name"`
}

func (p Point) vec() r3.Vec { return r3.Vec{X: p.X, Y: p.Y, Z: p.Z} }

func point(v r3.Vec) Point { return Point{v.X, v.Y, v.Z} }

func (p Parcel) parcel() workshop.Parcel {
	return workshop.Parcel{
		ID: p.ID, Name: p.Name, Source: p.Source, Lot: p.Lot, Bought: p.Bought, Promised: p.Promised, Came: p.Came, Note: p.Note, Version: p.Version,
		Cost: workshop.ParcelCost{Per: p.Per, Amount: p.Amount, Postage: p.Postage, Currency: p.Currency},
	}
}

func parcelView(p workshop.Parcel) Parcel {
	return Parcel{p.ID, p.Name, p.Source, p.Lot, p.Bought, p.Cost.Per, p.Cost.Amount, p.Cost.Postage, p.Cost.Currency, p.Promised, p.Came, p.Note, p.Version}
}

func (r Rough) rough() rough.Rough {
	out := rough.Rough{Name: r.Name, Material: r.Material, Note: r.Note, Solid: rough.Solid{Kind: r.Solid.Kind}}
	if r.Solid.Kind == rough.KindHull {
		for i := 0; i+2 < len(r.Solid.Points); i += 3 {
			out.Solid.Points = append(out.Solid.Points, r3.Vec{X: r.Solid.Points[i], Y: r.Solid.Points[i+1], Z: r.Solid.Points[i+2]})
		}
	} else {
		out.Solid.Size = r.Solid.Size.vec()
	}
	for _, t := range r.Trims {
		out.Trims = append(out.Trims, rough.Trim{Normal: t.Normal.vec(), Distance: t.Distance, Kerf: t.Kerf})
	}
	in := r.inside()
	out.Flaws, out.Axis, out.Colour = in.Flaws, in.Axis, in.Colour
	return out
}

func (r RoughInside) inside() rough.Inside {
	var out rough.Inside
	for _, f := range r.Flaws {
		one := rough.Flaw{Name: f.Name, Kind: f.Kind, At: f.At.vec(), Rule: f.Rule}
		if f.Kind != rough.Point {
			one.Radius = f.Radius
		}
		if f.Kind == rough.Disc {
			one.Normal = f.Normal.vec()
		}
		out.Flaws = append(out.Flaws, one)
	}
	if a := r.Axis; a != nil {
		out.Axis = &rough.Axis{Kind: a.Kind, Direction: a.Direction.vec(), ToTable: a.ToTable}
	}
	if c := r.Colour; c != nil {
		out.Colour = &rough.Colour{Along: [3]float64(c.Along), Across: [3]float64(c.Across)}
		for _, z := range c.Zones {
			out.Colour.Zones = append(out.Colour.Zones, rough.Zone{Normal: z.Normal.vec(), From: z.From, To: z.To, RGB: [3]float64(z.RGB)})
		}
	}
	return out
}

func roughView(r rough.Rough) Rough {
	out := Rough{
		Name: r.Name, Material: r.Material, Note: r.Note, Solid: RoughSolid{Kind: r.Solid.Kind, Size: point(r.Solid.Size), Points: []float64{}},
		Trims: []RoughTrim{}, RoughInside: RoughInside{Flaws: []RoughFlaw{}},
	}
	for _, p := range r.Solid.Points {
		out.Solid.Points = append(out.Solid.Points, p.X, p.Y, p.Z)
	}
	for _, t := range r.Trims {
		out.Trims = append(out.Trims, RoughTrim{point(t.Normal), t.Distance, t.Kerf})
	}
	for _, f := range r.Flaws {
		out.Flaws = append(out.Flaws, RoughFlaw{f.Name, f.Kind, point(f.At), f.Radius, point(f.Normal), f.Rule})
	}
	if a := r.Axis; a != nil {
		out.Axis = &RoughAxis{a.Kind, point(a.Direction), a.ToTable}
	}
	if c := r.Colour; c != nil {
		out.Colour = &RoughColour{Along: c.Along[:], Across: c.Across[:], Zones: []RoughZone{}}
		for _, z := range c.Zones {
			out.Colour.Zones = append(out.Colour.Zones, RoughZone{point(z.Normal), z.From, z.To, z.RGB[:]})
		}
	}
	return out
}

// looksFlat is how far apart, in radians, the normals of faces may be that are drawn as one side.
const looksFlat = 1e-3

// looksOne is how close, in mm, corners lie that are one in a drawing: faces that a saw cut share its
// corners but for rounding.
const looksOne = 1e-6

// bodyMesh is a body as a mesh of one step, which the drawings take.
func bodyMesh(b *rough.Body) Mesh {
	m := Mesh{Vertices: []float64{}, Steps: []MeshStep{{Facet: -1, Set: []MeshFace{}, Gone: []int{}}}}
	number := map[[3]int64]int{}
	for i, corners := range b.Outlines(looksFlat) {
		face := MeshFace{Facet: i, Loop: []int{}}
		for _, p := range corners {
			at := [3]int64{int64(math.Round(p.X / looksOne)), int64(math.Round(p.Y / looksOne)), int64(math.Round(p.Z / looksOne))}
			n, known := number[at]
			if !known {
				n = len(number)
				number[at] = n
				m.Vertices = append(m.Vertices, p.X, p.Y, p.Z)
			}
			face.Loop = append(face.Loop, n)
		}
		m.Steps[0].Set = append(m.Steps[0].Set, face)
	}
	return m
}

// finishedMesh is a cut stone as a mesh of one step, in design units.
func finishedMesh(s *cutting.Stone) Mesh {
	m := Mesh{Vertices: []float64{}, Steps: []MeshStep{{Facet: -1, Set: []MeshFace{}, Gone: []int{}}}}
	body := s.Solid().Compact()
	for i := range body.TableLen() {
		p := body.Point(i)
		m.Vertices = append(m.Vertices, p.X, p.Y, p.Z)
	}
	for _, f := range body.Faces() {
		m.Steps[0].Set = append(m.Steps[0].Set, MeshFace{f.ID, f.Loop})
	}
	return m
}

func workedView(p *rough.Piece) RoughWorked {
	carats := p.CaratPerMM3()
	out := RoughWorked{
		Whole: bodyMesh(p.Whole), Kept: bodyMesh(p.Body), WholeCarats: p.Whole.Volume() * carats, KeptCarats: p.Body.Volume() * carats,
		Off: p.Off(), Care: words.FarOff(p), Cuts: []SawnLoss{},
	}
	for _, c := range p.Cuts {
		out.Cuts = append(out.Cuts, SawnLoss{c.Section, c.Kerf * carats, c.Offcut * carats})
	}
	return out
}

func (p PieceRequest) piece(id string) workshop.Piece {
	return workshop.Piece{
		ID: id, Parcel: p.Parcel, Parent: p.Parent, Rough: p.Rough.rough(), Weighed: workshop.Weighed{Text: p.Weighed, Unit: p.Unit},
		Look: workshop.Look{Along: p.Along, Across: p.Across, Seen: each(p.Seen, func(l LookedAt) workshop.Seen { return workshop.Seen(l) })}, Fate: p.Fate, Version: p.Version, Survey: p.Survey.survey(),
	}
}

// worthView is what something is worth, null where that is not known.
func worthView(worth float64, known bool) *float64 {
	if !known {
		return nil
	}
	return &worth
}

func candidateView(c workshop.Candidate, version int) Candidate {
	f := c.Found
	out := Candidate{
		ID: c.ID, Diagram: c.Diagram, Revision: c.Revision, Name: c.Name, Allowance: c.Allowance,
		Width: f.Width, Length: f.Length, Height: f.Height, Carat: f.Carat, Yield: f.Yield, Bound: f.Bound,
		LimitedBy: each(f.LimitedBy, func(l workshop.Limit) LimitedBy { return LimitedBy(l) }),
		Costs:     each(c.Costs, func(f workshop.FlawCost) FlawCost { return FlawCost(f) }),
		Stale:     c.Version != version, Rounds: c.Rounds, Made: c.Made, Chosen: !c.Chosen.IsZero(), Why: c.Why,
	}
	if f.Scale > 0 {
		place := placeView(f)
		out.Place = &place
	}
	return out
}

func placeView(f workshop.Found) StonePlace {
	return StonePlace{f.Scale, f.Rotation[:], f.Offset[:]}
}

// PieceStone is a stone that is cut from a piece.
type PieceStone struct {
	ID     string `json:"id"`
	Number int    `json:"number"`
	Name   string `json:"name"`
	// Carats is what it was found to weigh, 0 where nobody looked.
	Carats float64 `json:"carats"`
}
