package workshop

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"regexp"
	"strings"
	"time"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/drawing"
)

// Diagram is a diagram in the library. It has a draft, which is saved while it is
// typed, and once that could be cut and was kept, a present revision.
type Diagram struct {
	ID string `json:"id"`
	// Starter tells that the diagram came with the application.
	Starter bool `json:"starter"`
	// Revision is the hash of the present revision, "" before the first.
	Revision string        `json:"revision"`
	Draft    diagram.Draft `json:"draft"`
	// Edited tells that the draft is not what the present revision holds.
	Edited  bool      `json:"edited"`
	Version int       `json:"version"`
	Created time.Time `json:"created"`
	Updated time.Time `json:"updated"`
	// Origin is where it came from: a file's name, or that it was pasted.
	Origin string `json:"origin"`
	// VariantOf is the ID that variants of one diagram share, "" where it has none.
	VariantOf string `json:"variantOf"`
	// SenseChosen tells that the cutter has said which way its indexes run.
	SenseChosen bool `json:"senseChosen"`
	// Facts and Picture are those of the present revision, nil before the first.
	Facts   *Facts   `json:"facts"`
	Picture *Picture `json:"picture"`
	// Judged is how the present revision looks to the default machine, nil before
	// the first and outside of lists.
	Judged *Judged `json:"judged"`
}

// Facts are what a library is searched and sorted by, derived from a revision.
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
}

// Picture is a small line drawing of a stone from above and from the side, in
// widths of the stone. A polygon is the x (to the right) and y (up) of each corner
// in turn.
type Picture struct {
	Above [][]float64 `json:"above"`
	Side  [][]float64 `json:"side"`
}

// Revision is one version of a diagram, never changed, named by its content.
type Revision struct {
	Hash    string
	Diagram *diagram.Diagram
	Facts   Facts
	Picture Picture
	Created time.Time
}

// NotCuttable is the error for a draft that cannot be kept: it says why, place by
// place.
type NotCuttable struct{ Problems []diagram.Problem }

func (e NotCuttable) Error() string { return e.Problems[0].Error() }

// Hash names a diagram by its content: the SHA-256 of its JSON form.
func Hash(d *diagram.Diagram) (string, error) {
	data, err := json.Marshal(d)
	if err != nil {
		return "", err
	}
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:]), nil
}

// revisionOf cuts the diagram and derives what is kept beside it.
func (w *Workshop) revisionOf(d *diagram.Diagram) (*Revision, error) {
	stone, err := cutting.Cut(d)
	if err != nil {
		var p diagram.Problem
		if errors.As(err, &p) {
			return nil, NotCuttable{[]diagram.Problem{p}}
		}
		return nil, err
	}
	hash, err := Hash(d)
	if err != nil {
		return nil, err
	}
	m := stone.Measures()
	facts := Facts{
		Name: d.Name, Outline: string(d.Outline), Gear: d.Gear, RefractiveIndex: d.RefractiveIndex,
		Tiers: len(d.Tiers), Facets: m.Facets, LengthWidth: m.LengthWidth, HeightWidth: m.HeightWidth,
	}
	if m.TableWidth != nil {
		facts.TableWidth = *m.TableWidth
	}
	return &Revision{Hash: hash, Diagram: d, Facts: facts, Picture: pictureOf(stone), Created: w.moment()}, nil
}

func pictureOf(s *cutting.Stone) Picture {
	width := s.Measures().Width
	lines := func(polygons []drawing.Polygon) [][]float64 {
		out := make([][]float64, len(polygons))
		for i, p := range polygons {
			for _, q := range p.Points {
				// A thousandth of the width is finer than a thumbnail shows.
				out[i] = append(out[i], round3(q.X/width), round3(q.Y/width))
			}
		}
		return out
	}
	return Picture{
		Above: lines(drawing.Plan(s.Solid(), diagram.Crown)),
		Side:  lines(drawing.Elevation(s.Solid(), 180)),
	}
}

func round3(v float64) float64 { return math.Round(v*1000) / 1000 }

// Diagrams returns the library, judged on the default machine.
func (w *Workshop) Diagrams(ctx context.Context) ([]Diagram, error) {
	if err := w.store.DropHidden(ctx, w.moment().Add(-KeepDeleted)); err != nil {
		return nil, err
	}
	list, err := w.store.Diagrams(ctx)
	if err != nil {
		return nil, err
	}
	settings, err := w.Settings(ctx)
	if err != nil {
		return nil, err
	}
	for i := range list {
		list[i].Edited = edited(list[i])
		if list[i].Revision == "" {
			continue
		}
		if list[i].Judged, err = w.judge(ctx, list[i].Revision, settings); err != nil {
			return nil, err
		}
	}
	return list, nil
}

// edited tells whether a draft reads as something else than the present revision.
func edited(d Diagram) bool {
	read, problems := d.Draft.Read()
	if len(problems) > 0 {
		return true
	}
	hash, err := Hash(read)
	return err != nil || hash != d.Revision
}

// Diagram returns one diagram of the library.
func (w *Workshop) Diagram(ctx context.Context, id string) (Diagram, error) {
	d, err := w.store.Diagram(ctx, id)
	d.Edited = edited(d)
	return d, err
}

// Revision returns a version of a diagram by its hash.
func (w *Workshop) Revision(ctx context.Context, hash string) (Revision, error) {
	return w.store.Revision(ctx, hash)
}

// NewDiagram adds an empty diagram to the library: a draft without tiers.
func (w *Workshop) NewDiagram(ctx context.Context) (Diagram, error) {
	s, err := w.Settings(ctx)
	if err != nil {
		return Diagram{}, err
	}
	gear := "96"
	if gears := s.MachineOf("").Gears; len(gears) > 0 {
		gear = fmt.Sprint(gears[len(gears)-1])
	}
	return w.add(ctx, diagram.Draft{
		Outline: "round", Gear: gear, RefractiveIndex: "1.54",
		FirstSide: string(diagram.Pavilion), Indexing: string(diagram.Dialled), Tiers: []diagram.DraftTier{},
	}, nil, Diagram{})
}

// ImportDraft adds a draft that was read from somewhere, mistakes included: origin
// says where. One that cannot be cut as written comes in with its problem to be mended.
func (w *Workshop) ImportDraft(ctx context.Context, draft diagram.Draft, origin string) (Diagram, error) {
	return w.addDraft(ctx, draft, Diagram{Origin: origin})
}

// AddStarter adds a diagram that ships with the application, once: a diagram with
// the same content that is a starter already is left alone.
func (w *Workshop) AddStarter(ctx context.Context, d *diagram.Diagram) error {
	hash, err := Hash(d)
	if err != nil {
		return err
	}
	have, err := w.store.Diagrams(ctx)
	if err != nil {
		return err
	}
	for _, h := range have {
		if h.Starter && h.Revision == hash {
			return nil
		}
	}
	_, err = w.importAs(ctx, d, Diagram{Starter: true, SenseChosen: true})
	return err
}

// importAs adds a diagram with the marks that the given record carries.
func (w *Workshop) importAs(ctx context.Context, d *diagram.Diagram, as Diagram) (Diagram, error) {
	r, err := w.revisionOf(d)
	if errors.As(err, &NotCuttable{}) && !as.Starter {
		return w.add(ctx, diagram.DraftOf(d), nil, as)
	}
	if err != nil {
		return Diagram{}, err
	}
	return w.add(ctx, diagram.DraftOf(d), r, as)
}

func (w *Workshop) add(ctx context.Context, draft diagram.Draft, r *Revision, as Diagram) (Diagram, error) {
	now := w.moment()
	d := as
	d.ID, d.Draft, d.Version, d.Created, d.Updated = newID(), draft, 1, now, now
	if r != nil {
		d.Revision, d.Facts, d.Picture = r.Hash, &r.Facts, &r.Picture
	}
	d.Edited = edited(d)
	return d, w.store.InsertDiagram(ctx, d, r)
}

// CopyDiagram adds a copy of a diagram under a name that says so.
func (w *Workshop) CopyDiagram(ctx context.Context, id string) (Diagram, error) {
	d, err := w.store.Diagram(ctx, id)
	if err != nil {
		return Diagram{}, err
	}
	draft := d.Draft
	draft.Name = copyName(draft.Name)
	return w.addDraft(ctx, draft, Diagram{Origin: d.Origin, SenseChosen: d.SenseChosen})
}

// VaryDiagram adds a variant of a diagram: a copy that is held against it side by
// side. Variants of a variant belong to the same group.
func (w *Workshop) VaryDiagram(ctx context.Context, id string) (Diagram, error) {
	d, err := w.store.Diagram(ctx, id)
	if err != nil {
		return Diagram{}, err
	}
	group := d.VariantOf
	if group == "" {
		group = d.ID
	}
	list, err := w.store.Diagrams(ctx)
	if err != nil {
		return Diagram{}, err
	}
	names := map[string]bool{}
	for _, other := range list {
		names[other.Draft.Name] = true
	}
	draft := d.Draft
	base := variantMark.ReplaceAllString(draft.Name, "")
	for letter := 'B'; ; letter++ {
		if draft.Name = fmt.Sprintf("%s · %c", base, letter); !names[draft.Name] || letter == 'Z' {
			break
		}
	}
	return w.addDraft(ctx, draft, Diagram{Origin: d.Origin, SenseChosen: d.SenseChosen, VariantOf: group})
}

var variantMark = regexp.MustCompile(` · [A-Z]$`)

// addDraft adds a draft, as a diagram with a version where it can be cut.
func (w *Workshop) addDraft(ctx context.Context, draft diagram.Draft, as Diagram) (Diagram, error) {
	read, problems := draft.Read()
	if len(problems) > 0 {
		return w.add(ctx, draft, nil, as)
	}
	return w.importAs(ctx, read, as)
}

// ChooseSense says which way a diagram's indexes run, over the version that the
// caller read. It is asked once.
func (w *Workshop) ChooseSense(ctx context.Context, id string, indexing diagram.Indexing, version int) (Diagram, error) {
	d, err := w.store.Diagram(ctx, id)
	if err != nil {
		return Diagram{}, err
	}
	kept := !edited(d)
	d.Draft.Indexing, d.SenseChosen, d.Updated = string(indexing), true, w.moment()
	if err := w.store.SaveDraft(ctx, d, version); err != nil {
		return d, err
	}
	if kept && d.Revision != "" {
		// What was kept is kept again, read the right way.
		return w.keep(ctx, d, version+1)
	}
	d.Version, d.Edited = version+1, edited(d)
	return d, nil
}

func copyName(name string) string {
	if name == "" {
		return ""
	}
	return strings.TrimSuffix(name, " (copy)") + " (copy)"
}

// SaveDraft stores a draft as it was typed, mistakes included, over the version
// that the caller read. It returns the diagram with its new version.
func (w *Workshop) SaveDraft(ctx context.Context, id string, draft diagram.Draft, version int) (Diagram, error) {
	d, err := w.store.Diagram(ctx, id)
	if err != nil {
		return Diagram{}, err
	}
	if d.Starter {
		return d, ErrStarter
	}
	d.Draft, d.Updated = draft, w.moment()
	if err := w.store.SaveDraft(ctx, d, version); err != nil {
		return d, err
	}
	d.Version, d.Edited = version+1, edited(d)
	return d, nil
}

// KeepDraft makes the draft the diagram's present revision. The error is a
// NotCuttable where it cannot be.
func (w *Workshop) KeepDraft(ctx context.Context, id string, version int) (Diagram, error) {
	d, err := w.store.Diagram(ctx, id)
	if err != nil {
		return Diagram{}, err
	}
	if d.Starter {
		return d, ErrStarter
	}
	return w.keep(ctx, d, version)
}

func (w *Workshop) keep(ctx context.Context, d Diagram, version int) (Diagram, error) {
	read, problems := d.Draft.Read()
	if len(problems) > 0 {
		return d, NotCuttable{problems}
	}
	r, err := w.revisionOf(read)
	if err != nil {
		return d, err
	}
	if err := w.store.KeepRevision(ctx, d.ID, *r, version); err != nil {
		return d, err
	}
	d.Revision, d.Facts, d.Picture, d.Version, d.Edited = r.Hash, &r.Facts, &r.Picture, version+1, false
	return d, nil
}

// DeleteDiagram hides a diagram; RestoreDiagram brings it back within KeepDeleted.
// Stones that were planned from it keep their own revision.
func (w *Workshop) DeleteDiagram(ctx context.Context, id string) error {
	now := w.moment()
	return w.store.HideDiagram(ctx, id, &now)
}

// RestoreDiagram brings a deleted diagram back.
func (w *Workshop) RestoreDiagram(ctx context.Context, id string) error {
	return w.store.HideDiagram(ctx, id, nil)
}
