package sqlite

import (
	"context"
	"database/sql"
	"fmt"
	"strconv"
	"strings"
	"time"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/rough"
	"cressa/formats"
	"cressa/workshop"
)

// Rough, and the documents that it is stored as. The piece itself is stored as its open file.

const (
	parcelForm    = 1
	pieceForm     = 1
	sketchForm    = 1
	candidateForm = 1
)

type parcelDoc struct {
	form
	Name     string          `json:"name"`
	Source   string          `json:"source"`
	Lot      string          `json:"lot"`
	Per      workshop.SoldBy `json:"per"`
	Amount   int64           `json:"amount"`
	Postage  int64           `json:"postage"`
	Currency string          `json:"currency"`
	Promised string          `json:"promised"`
	Came     string          `json:"came"`
	Note     string          `json:"note"`
}

func parcelDocument(p workshop.Parcel) string {
	return document(parcelDoc{
		form{parcelForm}, p.Name, p.Source, p.Lot, p.Cost.Per, p.Cost.Amount, p.Cost.Postage, p.Cost.Currency, p.Promised, p.Came, p.Note,
	})
}

const parcelColumns = `id, bought, created, version, document FROM parcels`

func scanParcel(scan scan) (workshop.Parcel, error) {
	var p workshop.Parcel
	var text string
	if err := scan(&p.ID, &p.Bought, asInstant{&p.Created}, &p.Version, &text); err != nil {
		return p, storeError(err)
	}
	var d parcelDoc
	err := read(text, parcelForm, &d)
	p.Name, p.Source, p.Lot, p.Promised, p.Came, p.Note = d.Name, d.Source, d.Lot, d.Promised, d.Came, d.Note
	p.Cost = workshop.ParcelCost{Per: d.Per, Amount: d.Amount, Postage: d.Postage, Currency: d.Currency}
	return p, err
}

// Parcels implements workshop.RoughStore.
func (s *Store) Parcels(ctx context.Context) ([]workshop.Parcel, error) {
	out := []workshop.Parcel{}
	return out, s.rows(ctx, func(scan scan) error {
		p, err := scanParcel(scan)
		out = append(out, p)
		return err
	}, `SELECT `+parcelColumns+` ORDER BY bought DESC, created DESC, id`)
}

// Parcel implements workshop.RoughStore.
func (s *Store) Parcel(ctx context.Context, id string) (workshop.Parcel, error) {
	const query = `SELECT ` + parcelColumns + ` WHERE id = ?`
	return scanParcel(s.on(ctx, query).QueryRowContext(ctx, query, id).Scan)
}

// InsertParcel implements workshop.RoughStore.
func (s *Store) InsertParcel(ctx context.Context, p workshop.Parcel) error {
	return s.exec(ctx, `INSERT INTO parcels (id, bought, created, version, document) VALUES (?, ?, ?, ?, ?)`,
		p.ID, p.Bought, instant(p.Created), p.Version, parcelDocument(p))
}

// SaveParcel implements workshop.RoughStore. The parcel's name is what its pieces are found by.
func (s *Store) SaveParcel(ctx context.Context, p workshop.Parcel, version int) error {
	return s.changeOne(ctx, `UPDATE parcels SET bought = ?, document = ?, version = ? WHERE id = ? AND version = ?`,
		p.Bought, parcelDocument(p), p.Version, p.ID, version)
}

type pieceDoc struct {
	form
	Weighed string    `json:"weighed"`
	Unit    string    `json:"unit"`
	Along   string    `json:"along"`
	Across  string    `json:"across"`
	Seen    []seenDoc `json:"seen,omitempty"`
	// Survey came with schema 14.
	Survey *surveyDoc `json:"survey,omitempty"`
}

type surveyDoc struct {
	Gear     int          `json:"gear"`
	Reading  float64      `json:"reading"`
	Lowers   bool         `json:"lowers,omitempty"`
	Known    [][3]float64 `json:"known,omitempty"`
	Touches  [][3]float64 `json:"touches,omitempty"`
	Widths   [][3]float64 `json:"widths,omitempty"`
	Outlines []outlineDoc `json:"outlines,omitempty"`
}

type outlineDoc struct {
	Index   float64      `json:"index"`
	Off     float64      `json:"off"`
	Corners [][2]float64 `json:"corners"`
}

func surveyDocOf(s *rough.Survey) *surveyDoc {
	if s == nil {
		return nil
	}
	d := &surveyDoc{Gear: s.Gear, Reading: s.Reading, Lowers: s.Lowers}
	for _, k := range s.Known {
		d.Known = append(d.Known, [3]float64{k.Angle, k.Distance, k.Height})
	}
	for _, t := range s.Touches {
		d.Touches = append(d.Touches, [3]float64{t.Angle, t.Index, t.Height})
	}
	for _, w := range s.Widths {
		d.Widths = append(d.Widths, [3]float64{w.Angle, w.Index, w.Reading})
	}
	for _, o := range s.Outlines {
		one := outlineDoc{Index: o.Index, Off: o.Off}
		for _, c := range o.Corners {
			one.Corners = append(one.Corners, [2]float64{c.X, c.Y})
		}
		d.Outlines = append(d.Outlines, one)
	}
	return d
}

func (d *surveyDoc) survey() *rough.Survey {
	if d == nil {
		return nil
	}
	s := &rough.Survey{Gear: d.Gear, Reading: d.Reading, Lowers: d.Lowers}
	for _, k := range d.Known {
		s.Known = append(s.Known, rough.KnownTouch{Angle: k[0], Distance: k[1], Height: k[2]})
	}
	for _, t := range d.Touches {
		s.Touches = append(s.Touches, rough.Touch{Angle: t[0], Index: t[1], Height: t[2]})
	}
	for _, w := range d.Widths {
		s.Widths = append(s.Widths, rough.Width{Angle: w[0], Index: w[1], Reading: w[2]})
	}
	for _, o := range d.Outlines {
		one := rough.Outline{Index: o.Index, Off: o.Off}
		for _, c := range o.Corners {
			one.Corners = append(one.Corners, r3.Vec{X: c[0], Y: c[1]})
		}
		s.Outlines = append(s.Outlines, one)
	}
	return s
}

type seenDoc struct {
	Way  workshop.Way   `json:"way"`
	What workshop.Sight `json:"what"`
	Note string         `json:"note,omitempty"`
}

func pieceDocument(p workshop.Piece) string {
	d := pieceDoc{form: form{pieceForm}, Weighed: p.Weighed.Text, Unit: p.Weighed.Unit, Along: p.Look.Along, Across: p.Look.Across, Survey: surveyDocOf(p.Survey)}
	for _, s := range p.Look.Seen {
		d.Seen = append(d.Seen, seenDoc(s))
	}
	return document(d)
}

func nullable(id string) sql.Null[string] { return sql.Null[string]{V: id, Valid: id != ""} }

type sketchDoc struct {
	form
	Name     string       `json:"name"`
	Material string       `json:"material"`
	Flaws    int          `json:"flaws"`
	Size     [3]float64   `json:"size"`
	Corners  [][3]float64 `json:"corners"`
}

func sketchDocument(s workshop.Sketch) string {
	d := sketchDoc{form: form{sketchForm}, Name: s.Name, Material: s.Material, Flaws: s.Flaws, Size: [3]float64{s.Size.X, s.Size.Y, s.Size.Z}}
	for _, p := range s.Corners {
		d.Corners = append(d.Corners, [3]float64{p.X, p.Y, p.Z})
	}
	return document(d)
}

func readSketch(text string) (workshop.Sketch, error) {
	var d sketchDoc
	err := read(text, sketchForm, &d)
	s := workshop.Sketch{Name: d.Name, Material: d.Material, Flaws: d.Flaws, Size: r3.Vec{X: d.Size[0], Y: d.Size[1], Z: d.Size[2]}}
	for _, p := range d.Corners {
		s.Corners = append(s.Corners, r3.Vec{X: p[0], Y: p[1], Z: p[2]})
	}
	return s, err
}

const pieceColumns = `p.id, p.number, p.parcel_id, p.parent_id, p.fate, p.carats, p.created, p.version, p.document, p.sketch, p.rough`

func scanPiece(scan scan) (workshop.Piece, error) {
	var p workshop.Piece
	var parcel, parent sql.Null[string]
	var text, sketch, file string
	err := scan(&p.ID, &p.Number, &parcel, &parent, &p.Fate, &p.Carats, asInstant{&p.Created}, &p.Version, &text, &sketch, &file)
	if err != nil {
		return p, storeError(err)
	}
	if p.Sketch, err = readSketch(sketch); err != nil {
		return p, err
	}
	var d pieceDoc
	if err := read(text, pieceForm, &d); err != nil {
		return p, err
	}
	p.Parcel, p.Parent, p.Survey = parcel.V, parent.V, d.Survey.survey()
	p.Weighed, p.Look = workshop.Weighed{Text: d.Weighed, Unit: d.Unit}, workshop.Look{Along: d.Along, Across: d.Across}
	for _, s := range d.Seen {
		p.Look.Seen = append(p.Look.Seen, workshop.Seen(s))
	}
	described, mistakes := formats.ReadRough([]byte(file))
	if len(mistakes) > 0 {
		return p, fmt.Errorf("%w: piece %d: %w", workshop.ErrUnreadable, p.Number, mistakes[0])
	}
	p.Rough = *described
	return p, nil
}

// Pieces implements workshop.RoughStore.
func (s *Store) Pieces(ctx context.Context, f workshop.PieceFilter, after workshop.Cursor, limit int) (workshop.PiecePage, error) {
	out := workshop.PiecePage{Lines: []workshop.PieceLine{}}
	var c where
	c.unless(f.Parcel == "", "p.parcel_id = ?", f.Parcel)
	c.unless(f.Parent == "", "p.parent_id = ?", f.Parent)
	c.unless(f.Fate == "", "p.fate = ?", string(f.Fate))
	for _, word := range f.Words {
		c.and(`(p.search LIKE ? ESCAPE '\' OR l.document ->> '$.name' LIKE ? ESCAPE '\')`, like(word), like(word))
	}
	const from = ` FROM pieces p LEFT JOIN parcels l ON l.id = p.parcel_id`
	if err := s.row(ctx, `SELECT count(*)`+from+c.String(), c.args, &out.Total); err != nil {
		return out, err
	}
	if n, err := strconv.Atoi(after.Key); err == nil {
		c.and("p.number < ?", n)
	}
	// The one that is chosen stands for the others, else the heaviest.
	const best = `(SELECT c.id FROM candidates c WHERE c.piece_id = p.id ORDER BY c.chosen IS NULL, c.carats DESC, c.id LIMIT 1)`
	err := s.rows(ctx, func(scan scan) error {
		var parcel, name sql.Null[string]
		var sketch string
		var l workshop.PieceLine
		var best candidateRow
		err := scan(append([]any{&l.ID, &l.Number, &parcel, &l.Fate, &l.Carats, &l.Version, &sketch, &name, &l.Candidates}, best.columns()...)...)
		if err != nil {
			return err
		}
		l.Parcel, l.ParcelName = parcel.V, name.V
		if l.Sketch, err = readSketch(sketch); err != nil {
			return err
		}
		if best.id.Valid {
			c, err := best.read()
			if err != nil {
				return err
			}
			l.Best = &c
		}
		if len(out.Lines) == limit {
			last := out.Lines[limit-1]
			out.Next = &workshop.Cursor{Key: strconv.Itoa(last.Number), ID: last.ID}
			return nil
		}
		out.Lines = append(out.Lines, l)
		return nil
	}, `SELECT p.id, p.number, p.parcel_id, p.fate, p.carats, p.version, p.sketch, l.document ->> '$.name', (SELECT count(*) FROM candidates c WHERE c.piece_id = p.id), `+candidateColumns+
		from+` LEFT JOIN candidates c ON c.id = `+best+c.String()+` ORDER BY p.number DESC LIMIT ?`, append(c.args, limit+1)...)
	return out, err
}

// Piece implements workshop.RoughStore.
func (s *Store) Piece(ctx context.Context, id string) (workshop.Piece, error) {
	const query = `SELECT ` + pieceColumns + ` FROM pieces p WHERE p.id = ?`
	return scanPiece(s.on(ctx, query).QueryRowContext(ctx, query, id).Scan)
}

// pieceSearch is what a piece is found by.
func pieceSearch(p workshop.Piece) string {
	return strings.Join([]string{strconv.Itoa(p.Number), p.Rough.Name, p.Rough.Material, p.Rough.Note}, "\n")
}

func pieceFile(p workshop.Piece) (string, error) {
	data, err := formats.WriteRough(&p.Rough)
	return string(data), err
}

// InsertPiece implements workshop.RoughStore.
func (s *Store) InsertPiece(ctx context.Context, p workshop.Piece) (number int, err error) {
	file, err := pieceFile(p)
	if err != nil {
		return 0, err
	}
	return number, s.InTx(ctx, func(ctx context.Context) error {
		if err := s.row(ctx, `SELECT coalesce(max(number), 0) + 1 FROM pieces`, nil, &number); err != nil {
			return err
		}
		p.Number = number
		return s.exec(ctx, `INSERT INTO pieces (id, number, parcel_id, parent_id, fate, carats, search, created, version, document, sketch, rough)
			VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			p.ID, p.Number, nullable(p.Parcel), nullable(p.Parent), p.Fate, p.Carats, pieceSearch(p), instant(p.Created), p.Version, pieceDocument(p), sketchDocument(p.Sketch), file)
	})
}

// SavePiece implements workshop.RoughStore.
func (s *Store) SavePiece(ctx context.Context, p workshop.Piece, version int) error {
	file, err := pieceFile(p)
	if err != nil {
		return err
	}
	return s.changeOne(ctx, `UPDATE pieces SET parcel_id = ?, fate = ?, carats = ?, search = ?, document = ?, sketch = ?, rough = ?, version = ? WHERE id = ? AND version = ?`,
		nullable(p.Parcel), p.Fate, p.Carats, pieceSearch(p), pieceDocument(p), sketchDocument(p.Sketch), file, p.Version, p.ID, version)
}

// PieceWeights implements workshop.RoughStore.
func (s *Store) PieceWeights(ctx context.Context) (map[string]workshop.ParcelSum, error) {
	out := map[string]workshop.ParcelSum{}
	return out, s.rows(ctx, func(scan scan) error {
		var id string
		var sum workshop.ParcelSum
		err := scan(&id, &sum.Pieces, &sum.Carats)
		out[id] = sum
		return err
	}, `SELECT parcel_id, count(*), total(carats) FROM pieces WHERE parcel_id IS NOT NULL AND parent_id IS NULL GROUP BY parcel_id`)
}

type candidateDoc struct {
	form
	Revision  string     `json:"revision"`
	Name      string     `json:"name"`
	Allowance float64    `json:"allowance"`
	Found     foundDoc   `json:"found"`
	Version   int        `json:"version"`
	Rounds    int        `json:"rounds"`
	Why       string     `json:"why,omitempty"`
	LimitedBy []limitDoc `json:"limitedBy"`
	Costs     []costDoc  `json:"costs,omitempty"`
}

type costDoc struct {
	Flaw  int     `json:"flaw"`
	Width float64 `json:"width"`
	Carat float64 `json:"carat"`
}

type foundDoc struct {
	Scale    float64    `json:"scale"`
	Rotation [9]float64 `json:"rotation"`
	Offset   [3]float64 `json:"offset"`
	Width    float64    `json:"width"`
	Length   float64    `json:"length"`
	Height   float64    `json:"height"`
	Carat    float64    `json:"carat"`
	Yield    float64    `json:"yield"`
	Bound    float64    `json:"bound"`
}

func foundDocOf(f workshop.Found) foundDoc {
	return foundDoc{f.Scale, f.Rotation, f.Offset, f.Width, f.Length, f.Height, f.Carat, f.Yield, f.Bound}
}

func (f foundDoc) found() workshop.Found {
	return workshop.Found{
		Scale: f.Scale, Rotation: f.Rotation, Offset: f.Offset, Width: f.Width, Length: f.Length, Height: f.Height,
		Carat: f.Carat, Yield: f.Yield, Bound: f.Bound, LimitedBy: []workshop.Limit{},
	}
}

type limitDoc struct {
	Kind string `json:"kind"`
	Name string `json:"name"`
}

// candidateRow is a candidate's columns, null where a piece has none.
type candidateRow struct {
	id, piece, diagram, document sql.Null[string]
	chosen, made                 sql.Null[int64]
}

const candidateColumns = `c.id, c.piece_id, c.diagram_id, c.chosen, c.made, c.document`

func (r *candidateRow) columns() []any {
	return []any{&r.id, &r.piece, &r.diagram, &r.chosen, &r.made, &r.document}
}

func (r *candidateRow) read() (workshop.Candidate, error) {
	c := workshop.Candidate{ID: r.id.V, Piece: r.piece.V, Diagram: r.diagram.V, Made: time.UnixMicro(r.made.V).UTC()}
	if r.chosen.Valid {
		c.Chosen = time.UnixMicro(r.chosen.V).UTC()
	}
	var d candidateDoc
	if err := read(r.document.V, candidateForm, &d); err != nil {
		return c, err
	}
	c.Revision, c.Name, c.Allowance, c.Version, c.Rounds, c.Why = d.Revision, d.Name, d.Allowance, d.Version, d.Rounds, d.Why
	c.Found = d.Found.found()
	for _, l := range d.LimitedBy {
		c.Found.LimitedBy = append(c.Found.LimitedBy, workshop.Limit(l))
	}
	for _, one := range d.Costs {
		c.Costs = append(c.Costs, workshop.FlawCost(one))
	}
	return c, nil
}

// Candidates implements workshop.RoughStore.
func (s *Store) Candidates(ctx context.Context, piece string) ([]workshop.Candidate, error) {
	out := []workshop.Candidate{}
	return out, s.rows(ctx, func(scan scan) error {
		var row candidateRow
		if err := scan(row.columns()...); err != nil {
			return err
		}
		c, err := row.read()
		out = append(out, c)
		return err
	}, `SELECT `+candidateColumns+` FROM candidates c WHERE c.piece_id = ? ORDER BY c.carats DESC, c.id`, piece)
}

// PutCandidate implements workshop.RoughStore.
func (s *Store) PutCandidate(ctx context.Context, c workshop.Candidate) error {
	f := c.Found
	d := candidateDoc{
		form: form{candidateForm}, Revision: c.Revision, Name: c.Name, Allowance: c.Allowance, Version: c.Version, Rounds: c.Rounds, Why: c.Why,
		Found:     foundDocOf(f),
		LimitedBy: []limitDoc{},
	}
	for _, l := range f.LimitedBy {
		d.LimitedBy = append(d.LimitedBy, limitDoc(l))
	}
	for _, one := range c.Costs {
		d.Costs = append(d.Costs, costDoc(one))
	}
	chosen := sql.Null[int64]{V: instant(c.Chosen), Valid: !c.Chosen.IsZero()}
	return s.exec(ctx, `INSERT INTO candidates (id, piece_id, diagram_id, carats, chosen, made, document) VALUES (?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (piece_id, diagram_id) DO UPDATE SET carats = excluded.carats, chosen = excluded.chosen, made = excluded.made, document = excluded.document`,
		c.ID, c.Piece, c.Diagram, f.Carat, chosen, instant(c.Made), document(d))
}

// DropCandidate implements workshop.RoughStore.
func (s *Store) DropCandidate(ctx context.Context, id string) error {
	return s.changeIt(ctx, `DELETE FROM candidates WHERE id = ?`, id)
}

// StonesOfPiece implements workshop.RoughStore.
func (s *Store) StonesOfPiece(ctx context.Context, piece string) ([]workshop.PieceStone, error) {
	out := []workshop.PieceStone{}
	return out, s.rows(ctx, func(scan scan) error {
		var p workshop.PieceStone
		err := scan(&p.ID, &p.Number, &p.Name, &p.Carats)
		out = append(out, p)
		return err
	}, `SELECT s.id, s.number, s.name, coalesce(w.document ->> '$.found.carat', 0) FROM works w JOIN stones s ON s.id = w.stone_id WHERE w.piece_id = ? ORDER BY s.number`, piece)
}
