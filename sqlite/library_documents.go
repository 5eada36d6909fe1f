package sqlite

import (
	"fmt"

	"cressa/core/diagram"
	"cressa/core/light"
	"cressa/core/sweep"
	"cressa/workshop"
)

// The documents of the library, as documents.go has those of the stones.

const (
	draftForm = 2
	askedForm = 1
)

type draftDoc struct {
	form
	Name            string         `json:"name"`
	Designer        string         `json:"designer"`
	Source          string         `json:"source"`
	Date            string         `json:"date"`
	Licence         string         `json:"licence"`
	Note            string         `json:"note"`
	Outline         string         `json:"outline"`
	Gear            string         `json:"gear"`
	RefractiveIndex string         `json:"refractiveIndex"`
	Width           string         `json:"width,omitempty"`
	FirstSide       string         `json:"firstSide"`
	Indexing        string         `json:"indexing"`
	Tiers           []draftTierDoc `json:"tiers"`
}

type draftTierDoc struct {
	Key      string `json:"key"`
	Name     string `json:"name"`
	Part     string `json:"part"`
	Angle    string `json:"angle"`
	Indexes  string `json:"indexes"`
	Stop     string `json:"stop"`
	Note     string `json:"note"`
	Optional bool   `json:"optional"`
}

func draftDocument(d diagram.Draft) string {
	doc := draftDoc{
		form: form{draftForm}, Name: d.Name, Designer: d.Designer, Source: d.Source, Date: d.Date, Licence: d.Licence, Note: d.Note,
		Outline: d.Outline, Gear: d.Gear, RefractiveIndex: d.RefractiveIndex, Width: d.Width, FirstSide: d.FirstSide, Indexing: d.Indexing, Tiers: []draftTierDoc{},
	}
	for _, t := range d.Tiers {
		doc.Tiers = append(doc.Tiers, draftTierDoc(t))
	}
	return document(doc)
}

func readDraft(text string) (diagram.Draft, error) {
	var d draftDoc
	if err := read(text, draftForm, &d); err != nil {
		return diagram.Draft{}, err
	}
	out := diagram.Draft{
		Name: d.Name, Designer: d.Designer, Source: d.Source, Date: d.Date, Licence: d.Licence, Note: d.Note,
		Outline: d.Outline, Gear: d.Gear, RefractiveIndex: d.RefractiveIndex, Width: d.Width, FirstSide: d.FirstSide, Indexing: d.Indexing, Tiers: []diagram.DraftTier{},
	}
	for _, t := range d.Tiers {
		out.Tiers = append(out.Tiers, diagram.DraftTier(t))
	}
	return out, nil
}

// asDraft reads a draft's column.
type asDraft struct{ to *diagram.Draft }

// Scan implements sql.Scanner.
func (a asDraft) Scan(v any) (err error) {
	*a.to, err = readDraft(fmt.Sprint(v))
	return err
}

type pictureDoc struct {
	Above [][]float64 `json:"above"`
	Side  [][]float64 `json:"side"`
}

// asPicture reads the small drawing of a version.
type asPicture struct{ to *workshop.Picture }

// Scan implements sql.Scanner.
func (a asPicture) Scan(v any) error {
	return asDocument{(*pictureDoc)(a.to)}.Scan(v)
}

type sweepAskedDoc struct {
	form
	Material        string  `json:"material"`
	RefractiveIndex float64 `json:"refractiveIndex"`
	Tint            string  `json:"tint"`
	Width           float64 `json:"width"`
	Model           string  `json:"model"`
	HeadAngle       float64 `json:"headAngle"`
	FrostedGirdle   bool    `json:"frostedGirdle"`
	X               axisDoc `json:"x"`
	Y               axisDoc `json:"y"`
}

type axisDoc struct {
	Kind  string  `json:"kind"`
	Tier  int     `json:"tier"`
	From  float64 `json:"from"`
	To    float64 `json:"to"`
	Steps int     `json:"steps"`
}

func (d axisDoc) axis() sweep.Axis {
	return sweep.Axis{Kind: sweep.Kind(d.Kind), Tier: d.Tier, From: d.From, To: d.To, Steps: d.Steps}
}

func axisDocOf(a sweep.Axis) axisDoc {
	return axisDoc{string(a.Kind), a.Tier, a.From, a.To, a.Steps}
}

func askedDocument(a workshop.SweepAsked) string {
	return document(sweepAskedDoc{
		form{askedForm}, a.Material, a.RefractiveIndex, a.Tint, a.Width, string(a.Model), a.HeadAngle, a.FrostedGirdle, axisDocOf(a.X), axisDocOf(a.Y),
	})
}

// asAsked reads what a sweep was asked for.
type asAsked struct{ to *workshop.SweepAsked }

// Scan implements sql.Scanner.
func (a asAsked) Scan(v any) error {
	var d sweepAskedDoc
	if err := read(fmt.Sprint(v), askedForm, &d); err != nil {
		return err
	}
	*a.to = workshop.SweepAsked{
		Lighting: workshop.Lighting{
			Material: d.Material, RefractiveIndex: d.RefractiveIndex, Tint: d.Tint, Width: d.Width,
			Model: light.Model(d.Model), HeadAngle: d.HeadAngle, FrostedGirdle: d.FrostedGirdle,
		},
		X: d.X.axis(), Y: d.Y.axis(),
	}
	return nil
}

// pointDoc is one of the points of a sweep, of which there is a bare list.
type pointDoc struct {
	X     float64 `json:"x"`
	Y     float64 `json:"y"`
	Whole bool    `json:"whole"`
	figuresDoc
	VolumeFactor float64 `json:"volumeFactor"`
	HeightWidth  float64 `json:"heightWidth"`
	TableWidth   float64 `json:"tableWidth"`
	Margin       float64 `json:"margin"`
}

type figuresDoc struct {
	Rays       int     `json:"rays"`
	Segments   int     `json:"segments"`
	Glare      float64 `json:"glare"`
	Up         float64 `json:"up"`
	Cosine     float64 `json:"cosine"`
	HeadShadow float64 `json:"headShadow"`
	Leak       float64 `json:"leak"`
	Frosted    float64 `json:"frosted"`
	Absorbed   float64 `json:"absorbed"`
	Residual   float64 `json:"residual"`
	Window     float64 `json:"window"`
	MostReturn float64 `json:"mostReturn"`
	MostLeak   float64 `json:"mostLeak"`
	MostShadow float64 `json:"mostShadow"`
}

func pointsDocument(points []sweep.Point) string {
	docs := make([]pointDoc, len(points))
	for i, p := range points {
		docs[i] = pointDoc{p.X, p.Y, p.Whole, figuresDoc(p.Figures), p.VolumeFactor, p.HeightWidth, p.TableWidth, p.Margin}
	}
	return document(docs)
}

// asPoints reads the points of a sweep.
type asPoints struct{ to *[]sweep.Point }

// Scan implements sql.Scanner.
func (a asPoints) Scan(v any) error {
	var docs []pointDoc
	if err := (asDocument{&docs}).Scan(v); err != nil {
		return err
	}
	*a.to = make([]sweep.Point, len(docs))
	for i, d := range docs {
		(*a.to)[i] = sweep.Point{
			X: d.X, Y: d.Y, Whole: d.Whole, Figures: light.Figures(d.figuresDoc),
			VolumeFactor: d.VolumeFactor, HeightWidth: d.HeightWidth, TableWidth: d.TableWidth, Margin: d.Margin,
		}
	}
	return nil
}
