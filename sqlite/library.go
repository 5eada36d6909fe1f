package sqlite

import (
	"context"
	"database/sql"
	"fmt"
	"strings"
	"time"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/workshop"
)

const factColumns = `r.hash, r.name, r.outline, r.gear, r.refractive_index, r.tiers, r.facets, r.length_width, r.height_width, r.table_width, r.shallowest`

// facts reads factColumns of a revision that may be missing.
type facts struct {
	hash, name, outline      sql.NullString
	gear, tiers, facets      sql.NullInt64
	index, lw, hw, tw, least sql.NullFloat64
}

func (f *facts) fields() []any {
	return []any{&f.hash, &f.name, &f.outline, &f.gear, &f.index, &f.tiers, &f.facets, &f.lw, &f.hw, &f.tw, &f.least}
}

func (f *facts) facts() *workshop.Facts {
	if !f.hash.Valid {
		return nil
	}
	return &workshop.Facts{
		Name: f.name.String, Outline: f.outline.String, Gear: int(f.gear.Int64), RefractiveIndex: f.index.Float64,
		Tiers: int(f.tiers.Int64), Facets: int(f.facets.Int64),
		LengthWidth: f.lw.Float64, HeightWidth: f.hw.Float64, TableWidth: f.tw.Float64, Shallowest: f.least.Float64,
	}
}

// Diagrams implements workshop.LibraryStore.
func (s *Store) Diagrams(ctx context.Context, f workshop.DiagramFilter, after workshop.Cursor, limit int) (workshop.DiagramPage, error) {
	from := `FROM diagrams d LEFT JOIN diagram_revisions r ON r.hash = d.revision
		LEFT JOIN judgements j ON j.machine = ? AND j.revision = d.revision`
	w := where{args: []any{f.Machine}, all: []string{"d.hidden IS NULL"}}
	if f.Deleted {
		w.all[0] = "d.hidden IS NOT NULL"
	}
	for _, word := range f.Words {
		w.and("d.search LIKE ? ESCAPE '\\'", like(word))
	}
	w.unless(f.Outline == "", "d.outline = ?", f.Outline)
	w.unless(f.Gear == "", "d.gear = ?", f.Gear)
	w.unless(f.FacetsFrom == 0, "r.facets >= ?", f.FacetsFrom)
	w.unless(f.FacetsTo == 0, "r.facets <= ?", f.FacetsTo)
	// To a thousandth, as ratios are shown.
	w.unless(f.LengthWidthFrom == 0, "round(r.length_width, 3) >= ?", f.LengthWidthFrom)
	w.unless(f.LengthWidthTo == 0, "round(r.length_width, 3) <= ?", f.LengthWidthTo)
	w.unless(f.Steeper == 0, "r.shallowest > ?", f.Steeper)
	w.unless(f.Level == "", "j.level = ?", f.Level)
	w.unless(!f.Cuttable, "j.cuttable = ?", true)
	w.unless(!f.Kept, "d.revision IS NOT NULL")
	w.unless(!f.Freehand, "d.origin = ? AND d.revision IS NULL", workshop.OriginFreehand)
	out := workshop.DiagramPage{Lines: []workshop.DiagramLine{}, Outlines: []string{}, Gears: []string{}}
	if err := s.row(ctx, `SELECT count(*) `+from+w.String(), w.args, &out.Total); err != nil {
		return out, err
	}
	key := "lower(d.name)"
	if figure, ok := map[workshop.DiagramSort]string{
		workshop.ByFacets: "coalesce(r.facets, 0)", workshop.ByRatio: "coalesce(r.length_width, 0)", workshop.ByDifficulty: "coalesce(j.points, 1e9)",
		// What cannot be cut comes after all that can, what was not judged last.
		workshop.ByFit: "coalesce(j.points + 1e6 * (1 - j.cuttable), 1e9)",
	}[f.Sort]; ok {
		// Of equal ones the name decides.
		key = "printf('%030.12f', " + figure + ") || lower(d.name)"
	}
	if after.ID != "" {
		w.and("("+key+", d.id) > (?, ?)", after.Key, after.ID)
	}
	var last workshop.Cursor
	err := s.rows(ctx, func(scan scan) error {
		var line workshop.DiagramLine
		var f facts
		var level, weights sql.NullString
		var points, cheat sql.NullFloat64
		var cuttable sql.NullBool
		at := workshop.Cursor{}
		if err := scan(append([]any{&at.Key, &line.ID, &line.Name, &line.Starter, &line.Edited, &line.Version, &level, &points, &weights, &cuttable, &cheat}, f.fields()...)...); err != nil {
			return err
		}
		line.Revision, line.Facts = f.hash.String, f.facts()
		if level.Valid {
			line.Judged = &workshop.Judged{Level: workshop.Level(level.String), Cuttable: cuttable.Bool, LargestCheat: cheat.Float64}
			line.Judged.Difficulty.Points = points.Float64
			if err := (asDocument{&line.Judged.Difficulty.Weights}).Scan(weights.String); err != nil {
				return err
			}
		}
		at.ID = line.ID
		if len(out.Lines) == limit {
			out.Next = &last
			return nil
		}
		out.Lines, last = append(out.Lines, line), at
		return nil
	}, `SELECT `+key+`, d.id, d.name, d.starter, d.edited, d.version, j.level, j.points, j.weights, j.cuttable, j.largest_cheat, `+factColumns+` `+from+w.String()+
		` ORDER BY `+key+`, d.id LIMIT ?`, append(w.args, limit+1)...)
	if err != nil {
		return out, err
	}
	for column, list := range map[string]*[]string{"outline": &out.Outlines, "gear": &out.Gears} {
		if err := s.rows(ctx, func(scan scan) error {
			var v string
			err := scan(&v)
			*list = append(*list, v)
			return err
		}, `SELECT DISTINCT `+column+` FROM diagrams WHERE hidden IS NULL ORDER BY cast(`+column+` AS INTEGER), `+column); err != nil {
			return out, err
		}
	}
	return out, s.row(ctx, `SELECT count(*) `+from+` WHERE d.hidden IS NULL AND d.revision IS NOT NULL AND j.level IS NULL`, []any{f.Machine}, &out.Waiting)
}

// where collects the conditions of a query and what they compare with.
type where struct {
	all  []string
	args []any
}

func (w *where) and(condition string, args ...any) {
	w.all, w.args = append(w.all, condition), append(w.args, args...)
}

// unless adds a condition that holds but for the given case.
func (w *where) unless(any bool, condition string, args ...any) {
	if !any {
		w.and(condition, args[:strings.Count(condition, "?")]...)
	}
}

func (w *where) String() string {
	if len(w.all) == 0 {
		return ""
	}
	return " WHERE " + strings.Join(w.all, " AND ")
}

// like is a pattern that finds a word anywhere.
func like(word string) string {
	return "%" + strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`).Replace(strings.ToLower(word)) + "%"
}

// Diagram implements workshop.LibraryStore.
func (s *Store) Diagram(ctx context.Context, id string) (workshop.Diagram, error) {
	var d workshop.Diagram
	var f facts
	err := s.row(ctx, `SELECT d.id, d.starter, d.draft, d.edited, d.version, d.created, d.updated, d.origin, d.variant_of, d.sense_chosen, `+factColumns+`
		FROM diagrams d LEFT JOIN diagram_revisions r ON r.hash = d.revision WHERE d.hidden IS NULL AND d.id = ?`, []any{id},
		append([]any{
			&d.ID, &d.Starter, asDraft{&d.Draft}, &d.Edited, &d.Version, asInstant{&d.Created}, asInstant{&d.Updated},
			&d.Origin, &d.VariantOf, &d.SenseChosen,
		}, f.fields()...)...)
	d.Revision, d.Facts = f.hash.String, f.facts()
	return d, err
}

// Variants implements workshop.LibraryStore.
func (s *Store) Variants(ctx context.Context, group string) ([]workshop.DiagramName, error) {
	out := []workshop.DiagramName{}
	err := s.rows(ctx, func(scan scan) error {
		var n workshop.DiagramName
		err := scan(&n.ID, &n.Name)
		out = append(out, n)
		return err
	}, `SELECT id, name FROM diagrams WHERE hidden IS NULL AND (id = ?1 OR variant_of = ?1) ORDER BY name, id`, group)
	return out, err
}

// searched is the text in which a diagram's words are looked for.
func searched(d diagram.Draft) string {
	return strings.ToLower(strings.Join([]string{d.Name, d.Designer, d.Outline, d.Note, d.Source}, " "))
}

// InsertDiagram implements workshop.LibraryStore.
func (s *Store) InsertDiagram(ctx context.Context, d workshop.Diagram, r *workshop.Revision) error {
	return s.InTx(ctx, func(ctx context.Context) error {
		var hash any
		if r != nil {
			hash = r.Hash
			if err := s.InsertRevision(ctx, *r); err != nil {
				return err
			}
		}
		if err := s.exec(ctx, `INSERT INTO diagrams
			(id, starter, revision, draft, name, outline, gear, search, edited, version, created, updated, origin, variant_of, sense_chosen)
			VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			d.ID, d.Starter, hash, draftDocument(d.Draft), d.Draft.Name, d.Draft.Outline, d.Draft.Gear, searched(d.Draft), d.Edited, d.Version,
			instant(d.Created), instant(d.Updated), d.Origin, d.VariantOf, d.SenseChosen); err != nil || r == nil {
			return err
		}
		return s.addHistory(ctx, d.ID, *r)
	})
}

func (s *Store) addHistory(ctx context.Context, id string, r workshop.Revision) error {
	return s.exec(ctx, `INSERT INTO diagram_history (diagram_id, revision, kept) VALUES (?, ?, ?)`, id, r.Hash, instant(r.Created))
}

// InsertRevision implements workshop.LibraryStore. One with the same content is there
// already.
func (s *Store) InsertRevision(ctx context.Context, r workshop.Revision) error {
	f := r.Facts
	return s.exec(ctx, `INSERT INTO diagram_revisions
		(hash, document, name, outline, gear, refractive_index, tiers, facets, length_width, height_width, table_width, shallowest, picture, created)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING`,
		r.Hash, document(r.Diagram), f.Name, f.Outline, f.Gear, f.RefractiveIndex, f.Tiers, f.Facets, f.LengthWidth, f.HeightWidth, f.TableWidth, f.Shallowest,
		document(pictureDoc(r.Picture)), instant(r.Created))
}

// SaveDraft implements workshop.LibraryStore.
func (s *Store) SaveDraft(ctx context.Context, d workshop.Diagram, version int) error {
	return s.changeOne(ctx, `UPDATE diagrams SET draft = ?, name = ?, outline = ?, gear = ?, search = ?, edited = ?, updated = ?, sense_chosen = ?, version = version + 1
		WHERE id = ? AND version = ? AND hidden IS NULL`,
		draftDocument(d.Draft), d.Draft.Name, d.Draft.Outline, d.Draft.Gear, searched(d.Draft), d.Edited, instant(d.Updated), d.SenseChosen, d.ID, version)
}

// KeepRevision implements workshop.LibraryStore.
func (s *Store) KeepRevision(ctx context.Context, id string, r workshop.Revision, version int) error {
	return s.InTx(ctx, func(ctx context.Context) error {
		if err := s.InsertRevision(ctx, r); err != nil {
			return err
		}
		if err := s.changeOne(ctx, `UPDATE diagrams SET revision = ?, edited = 0, version = version + 1 WHERE id = ? AND version = ? AND hidden IS NULL`, r.Hash, id, version); err != nil {
			return err
		}
		return s.addHistory(ctx, id, r)
	})
}

// HideDiagram implements workshop.LibraryStore.
func (s *Store) HideDiagram(ctx context.Context, id string, hidden *time.Time) error {
	var at any
	if hidden != nil {
		at = instant(*hidden)
	}
	return s.changeIt(ctx, `UPDATE diagrams SET hidden = ? WHERE id = ?`, at, id)
}

// DropHidden implements workshop.LibraryStore.
func (s *Store) DropHidden(ctx context.Context, before time.Time) error {
	return s.exec(ctx, `DELETE FROM diagrams WHERE hidden < ?`, instant(before))
}

// Revision implements workshop.LibraryStore.
func (s *Store) Revision(ctx context.Context, hash string) (workshop.Revision, error) {
	r := workshop.Revision{Diagram: &diagram.Diagram{}}
	var f facts
	err := s.row(ctx, `SELECT r.document, r.picture, r.created, `+factColumns+` FROM diagram_revisions r WHERE r.hash = ?`, []any{hash},
		append([]any{asDocument{r.Diagram}, asPicture{&r.Picture}, asInstant{&r.Created}}, f.fields()...)...)
	if err != nil {
		return r, err
	}
	r.Hash, r.Facts = f.hash.String, *f.facts()
	if problems := r.Diagram.Validate(); len(problems) > 0 {
		return r, fmt.Errorf("%w: version %s: %w", workshop.ErrUnreadable, hash, problems[0])
	}
	return r, nil
}

// Picture implements workshop.LibraryStore.
func (s *Store) Picture(ctx context.Context, hash string) (workshop.Picture, error) {
	var p workshop.Picture
	return p, s.row(ctx, `SELECT picture FROM diagram_revisions WHERE hash = ?`, []any{hash}, asPicture{&p})
}

// FillOnce implements workshop.LibraryStore.
func (s *Store) FillOnce(ctx context.Context, set string) (bool, error) {
	n, err := s.change(ctx, `INSERT INTO library_fills (name) VALUES (?) ON CONFLICT DO NOTHING`, set)
	return n == 1, err
}

// Starters implements workshop.LibraryStore.
func (s *Store) Starters(ctx context.Context) ([]string, error) {
	return s.texts(ctx, `SELECT revision FROM diagrams WHERE starter = 1 AND revision IS NOT NULL`)
}

// Judgement implements workshop.LibraryStore.
func (s *Store) Judgement(ctx context.Context, revision, machine string) (workshop.Judged, error) {
	j := workshop.Judged{Difficulty: cutting.Difficulty{}}
	return j, s.row(ctx, `SELECT level, points, weights, cuttable, largest_cheat FROM judgements WHERE machine = ? AND revision = ?`, []any{machine, revision},
		&j.Level, &j.Difficulty.Points, asDocument{&j.Difficulty.Weights}, &j.Cuttable, &j.LargestCheat)
}

// SaveJudgement implements workshop.LibraryStore.
func (s *Store) SaveJudgement(ctx context.Context, revision, machine string, j workshop.Judged) error {
	return s.exec(ctx, `INSERT INTO judgements (revision, machine, level, points, weights, cuttable, largest_cheat) VALUES (?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING`,
		revision, machine, j.Level, j.Difficulty.Points, document(j.Difficulty.Weights), j.Cuttable, j.LargestCheat)
}

// DropJudgements implements workshop.LibraryStore.
func (s *Store) DropJudgements(ctx context.Context, machine string) error {
	return s.exec(ctx, `DELETE FROM judgements WHERE machine <> ?`, machine)
}

// Unjudged implements workshop.LibraryStore.
func (s *Store) Unjudged(ctx context.Context, machine string) (hash string, err error) {
	return hash, s.row(ctx, `SELECT d.revision FROM diagrams d LEFT JOIN judgements j ON j.machine = ? AND j.revision = d.revision
		WHERE d.hidden IS NULL AND d.revision IS NOT NULL AND j.level IS NULL LIMIT 1`, []any{machine}, &hash)
}
