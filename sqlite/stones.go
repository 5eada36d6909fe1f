package sqlite

import (
	"context"
	"database/sql"
	"fmt"
	"strconv"
	"strings"
	"time"

	"cressa/workshop"
	"cressa/workshop/journal"
)

// Stones implements workshop.StoneStore.
func (s *Store) Stones(ctx context.Context, f workshop.StoneFilter, after workshop.Cursor, limit int) (workshop.StonePage, error) {
	from := `FROM work_state t JOIN works w ON w.id = t.work_id JOIN stones s ON s.id = w.stone_id LEFT JOIN finishes f ON f.work_id = t.work_id`
	var c where
	// The logbook lists every work that was finished, a run the works that belong to it, other
	// lists what a stone is at now.
	switch {
	case f.Sort == workshop.ByFinish:
		c.and("f.work_id IS NOT NULL")
	case f.Work != "":
		c.and("w.id = ?", f.Work)
	case f.Run != "":
		c.and("w.ordinal = 1")
	default:
		c.and("t.present = 1")
	}
	oneOf(&c, "t.state", f.States)
	oneOf(&c, "t.task", f.Tasks)
	c.unless(f.ID == "", "s.id = ?", f.ID)
	c.unless(f.Run == "", "s.run = ?", f.Run)
	c.unless(f.Curing.IsZero(), "t.work_id IN (SELECT work_id FROM cures WHERE until > ?)", instant(f.Curing))
	c.unless(!f.Owed, "(t.task = ? OR t.promised <> '')", string(journal.Repair))
	for _, word := range f.Words {
		c.and(`t.search LIKE ? ESCAPE '\'`, like(word))
	}
	out := workshop.StonePage{Lines: []workshop.StoneLine{}}
	// Most conditions are on the state alone; then only that is counted.
	counted := from
	if f.ID == "" && f.Work == "" && f.Run == "" {
		counted = `FROM work_state t`
		if f.Sort == workshop.ByFinish {
			counted = `FROM finishes f`
			if len(c.all) > 1 {
				counted += ` JOIN work_state t ON t.work_id = f.work_id`
			}
		}
	}
	if !f.Uncounted {
		if err := s.row(ctx, `SELECT count(*) `+counted+c.String(), c.args, &out.Total); err != nil {
			return out, err
		}
	}
	key, direction := "t.last_event", "DESC"
	switch f.Sort {
	case workshop.ByPromise:
		key, direction = "iif(t.promised = '', '9999', t.promised)", ""
	case workshop.ByPlace:
		key, direction = "s.run_place", ""
	case workshop.ByFinish:
		key = "f.finished"
	}
	if after.ID != "" {
		compare := map[string]string{"DESC": "<", "": ">"}[direction]
		var at any = after.Key
		if n, err := strconv.ParseInt(after.Key, 10, 64); err == nil && f.Sort != workshop.ByFinish && f.Sort != workshop.ByPromise {
			at = n
		}
		c.and(fmt.Sprintf("(%s, t.work_id) %s (?, ?)", key, compare), at, after.ID)
	}
	var last workshop.Cursor
	err := s.rows(ctx, func(scan scan) error {
		var l workshop.StoneLine
		var at workshop.Cursor
		var run, finish, finished sql.Null[string]
		var version sql.Null[int]
		var cures sql.Null[int64]
		var rough, carats sql.Null[float64]
		if err := scan(&at.Key, &l.ID, &l.Number, &l.Name, asInstant{&l.Created}, &l.Version, &run, &l.RunPlace,
			&l.WorkID, &l.Task, &l.State, &l.Done, &l.Skipped, &l.All, &l.Hours, asInstant{&l.LastEvent}, &l.Late, &l.UsualMinutes, &l.Ticks,
			&l.Diagram, &l.Picture, &l.Material, &l.SizeMM, &l.Promised, &cures,
			&finish, &version, &finished, &rough, &carats); err != nil {
			return err
		}
		l.Run = run.V
		if cures.Valid {
			l.Cures = time.UnixMicro(cures.V).UTC()
		}
		if finish.Valid {
			var err error
			if l.Finish, err = readFinish(finish.V); err != nil {
				// The card is told at the stone; a list has its figures beside it.
				l.Finish = &workshop.Finish{Version: version.V, Finished: finished.V, RoughCarats: rough.V, FinishedCarats: carats.V}
			}
		}
		at.ID = l.WorkID
		if len(out.Lines) == limit {
			out.Next = &last
			return nil
		}
		out.Lines, last = append(out.Lines, l), at
		return nil
	}, fmt.Sprintf(`SELECT %s, s.id, s.number, s.name, s.created, s.version, s.run, s.run_place,
		t.work_id, t.task, t.state, t.done, t.skipped, t.total, coalesce(f.hours, t.hours), t.last_event, t.late, t.usual_minutes, t.ticks,
		t.diagram, t.picture, t.material, t.size_mm, t.promised, (SELECT until FROM cures WHERE work_id = t.work_id), f.document, f.version, f.finished, f.rough_carats, f.finished_carats %s%s ORDER BY %s %s, t.work_id %s LIMIT ?`, key, from, c.String(), key, direction, direction),
		append(c.args, limit+1)...)
	return out, err
}

// oneOf adds that a column has one of several values, if there are any.
func oneOf[T ~string](c *where, column string, values []T) {
	if len(values) == 0 {
		return
	}
	args := make([]any, len(values))
	for i, v := range values {
		args[i] = string(v)
	}
	c.and(column+" IN (?"+strings.Repeat(", ?", len(values)-1)+")", args...)
}

// Sums implements workshop.StoneStore.
func (s *Store) Sums(ctx context.Context) (workshop.LogbookSums, error) {
	var out workshop.LogbookSums
	return out, s.row(ctx, `SELECT count(*), total(f.rough_carats), total(f.finished_carats), total(coalesce(f.hours, f.reckoned))
		FROM finishes f`, nil, &out.Stones, &out.RoughCarats, &out.FinishedCarats, &out.Hours)
}

// Stone implements workshop.StoneStore.
func (s *Store) Stone(ctx context.Context, id string) (workshop.Stone, error) {
	stones, err := s.wholeStones(ctx, `s.id = ?`, id)
	if err == nil && len(stones) == 0 {
		err = workshop.ErrNotFound
	}
	if err != nil {
		return workshop.Stone{}, err
	}
	return stones[0], nil
}

// wholeStones returns stones with their works, each with its last plan and its card.
func (s *Store) wholeStones(ctx context.Context, condition string, args ...any) ([]workshop.Stone, error) {
	var out []workshop.Stone
	err := s.rows(ctx, func(scan scan) error {
		var stone workshop.Stone
		var w workshop.Work
		var run, plan, finish sql.Null[string]
		var task journal.Task
		var record string
		err := scan(&stone.ID, &stone.Number, &stone.Name, asInstant{&stone.Created}, &stone.Version, &run, &stone.RunPlace,
			&w.ID, &task, &record, asInstant{&w.Created}, &plan, &finish)
		if err != nil {
			return err
		}
		if w.Task, err = readTask(task, record); err != nil {
			return err
		}
		if plan.Valid {
			if w.Plan, err = readPlan(plan.V); err != nil {
				return err
			}
		}
		if finish.Valid {
			if w.Finish, err = readFinish(finish.V); err != nil {
				return err
			}
		}
		stone.Run = run.V
		if n := len(out); n > 0 && out[n-1].ID == stone.ID {
			out[n-1].Works = append(out[n-1].Works, w)
			return nil
		}
		stone.Works = []workshop.Work{w}
		out = append(out, stone)
		return nil
	}, `SELECT s.id, s.number, s.name, s.created, s.version, s.run, s.run_place, w.id, w.task, w.document, w.created, p.document, f.document
		FROM stones s JOIN works w ON w.stone_id = s.id
		LEFT JOIN plans p ON p.work_id = w.id AND p.no = (SELECT max(no) FROM plans WHERE work_id = w.id)
		LEFT JOIN finishes f ON f.work_id = w.id
		WHERE `+condition+` ORDER BY s.run_place, s.number, w.ordinal`, args...)
	return out, err
}

// InsertStone implements workshop.StoneStore.
func (s *Store) InsertStone(ctx context.Context, stone workshop.Stone) (number int, err error) {
	err = s.InTx(ctx, func(ctx context.Context) error {
		var run any
		if stone.Run != "" {
			run = stone.Run
		}
		if err := s.row(ctx, `INSERT INTO stones (id, number, name, created, version, run, run_place)
			VALUES (?, (SELECT coalesce(max(number), 0) + 1 FROM stones), ?, ?, ?, ?, ?) RETURNING number`,
			[]any{stone.ID, stone.Name, instant(stone.Created), stone.Version, run, stone.RunPlace}, &number); err != nil {
			return err
		}
		for _, w := range stone.Works {
			if err := s.insertWork(ctx, stone.ID, w); err != nil {
				return err
			}
		}
		return nil
	})
	return number, err
}

// InsertWork implements workshop.StoneStore.
func (s *Store) InsertWork(ctx context.Context, stoneID string, w workshop.Work, version int) error {
	return s.InTx(ctx, func(ctx context.Context) error {
		if err := s.raise(ctx, stoneID, version); err != nil {
			return err
		}
		if err := s.exec(ctx, `UPDATE work_state SET present = 0 WHERE work_id IN (SELECT id FROM works WHERE stone_id = ?)`, stoneID); err != nil {
			return err
		}
		return s.insertWork(ctx, stoneID, w)
	})
}

// raise raises the version of a stone.
func (s *Store) raise(ctx context.Context, stoneID string, version int) error {
	return s.changeOne(ctx, `UPDATE stones SET version = version + 1 WHERE id = ? AND version = ?`, stoneID, version)
}

func (s *Store) insertWork(ctx context.Context, stoneID string, w workshop.Work) error {
	var piece string
	if cut, ok := w.Task.(workshop.FirstCut); ok && cut.From != nil {
		piece = cut.From.Piece
	}
	if err := s.exec(ctx, `INSERT INTO works (id, stone_id, ordinal, task, document, created, piece_id)
		VALUES (?, ?, (SELECT coalesce(max(ordinal), 0) + 1 FROM works WHERE stone_id = ?2), ?, ?, ?, ?)`,
		w.ID, stoneID, w.Task.Kind(), taskDocument(w.Task), instant(w.Created), nullable(piece)); err != nil {
		return err
	}
	// Its row is there from now on; the journal fills in where it stands.
	if err := s.SaveWorkState(ctx, workshop.WorkState{WorkID: w.ID, Task: w.Task.Kind(), Created: w.Created, Folded: journal.NewWork(w.Task.Kind())}); err != nil {
		return err
	}
	if w.Plan != nil {
		if err := s.insertPlan(ctx, w.ID, *w.Plan); err != nil {
			return err
		}
	}
	return s.line(ctx, w.ID, w.Task, w.Plan)
}

// line keeps what lists show of a work's plan and task.
func (s *Store) line(ctx context.Context, workID string, task workshop.Task, plan *workshop.Plan) error {
	var diagram, picture, material, promised string
	var size float64
	switch task := task.(type) {
	case workshop.Repair:
		material, size, promised = task.Intake.Material, task.Intake.WidthMM, task.Intake.Promised
	case workshop.Recut:
		if task.Intake != nil {
			promised = task.Intake.Promised
		}
	}
	if plan != nil {
		diagram, picture, material, size = plan.DiagramName, plan.AsCut, plan.Choices.Material, plan.Choices.Size.MM
	}
	var number int
	var name string
	if err := s.row(ctx, `SELECT s.number, s.name FROM stones s JOIN works w ON w.stone_id = s.id WHERE w.id = ?`, []any{workID}, &number, &name); err != nil {
		return err
	}
	// SQLite knows the cases of ASCII letters alone.
	search := strings.ToLower(strings.Join([]string{strconv.Itoa(number), name, diagram, material}, " "))
	return s.exec(ctx, `UPDATE work_state SET diagram = ?, picture = ?, material = ?, size_mm = ?, promised = ?, search = ? WHERE work_id = ?`,
		diagram, picture, material, size, promised, search, workID)
}

func (s *Store) insertPlan(ctx context.Context, workID string, p workshop.Plan) error {
	return s.exec(ctx, `INSERT INTO plans (work_id, no, as_cut, revision, document) VALUES (?, ?, ?, ?, ?)`, workID, p.No, p.AsCut, p.Revision, planDocument(p))
}

// InsertRun implements workshop.StoneStore.
func (s *Store) InsertRun(ctx context.Context, r workshop.Run) error {
	return s.exec(ctx, `INSERT INTO runs (id, name, way, created) VALUES (?, ?, ?, ?)`, r.ID, r.Name, r.Order, instant(r.Created))
}

// Run implements workshop.StoneStore.
func (s *Store) Run(ctx context.Context, id string) (workshop.Run, []workshop.Stone, error) {
	var r workshop.Run
	if err := s.row(ctx, `SELECT id, name, way, created FROM runs WHERE id = ?`, []any{id}, &r.ID, &r.Name, &r.Order, asInstant{&r.Created}); err != nil {
		return r, nil, err
	}
	stones, err := s.wholeStones(ctx, `s.run = ?`, id)
	for i := range stones {
		stones[i].Works = stones[i].Works[:1]
	}
	return r, stones, err
}

// AddPlan implements workshop.StoneStore.
func (s *Store) AddPlan(ctx context.Context, stoneID, workID string, p workshop.Plan, version int) error {
	return s.InTx(ctx, func(ctx context.Context) error {
		if err := s.raise(ctx, stoneID, version); err != nil {
			return err
		}
		if err := s.insertPlan(ctx, workID, p); err != nil {
			return err
		}
		var kind journal.Task
		var record string
		if err := s.row(ctx, `SELECT task, document FROM works WHERE id = ?`, []any{workID}, &kind, &record); err != nil {
			return err
		}
		task, err := readTask(kind, record)
		if err != nil {
			return err
		}
		return s.line(ctx, workID, task, &p)
	})
}

// Plan implements workshop.StoneStore.
func (s *Store) Plan(ctx context.Context, workID string, no int) (workshop.Plan, error) {
	var text string
	if err := s.row(ctx, `SELECT document FROM plans WHERE work_id = ? AND no = ?`, []any{workID, no}, &text); err != nil {
		return workshop.Plan{}, err
	}
	p, err := readPlan(text)
	if err != nil {
		return workshop.Plan{}, err
	}
	return *p, nil
}

// SaveRepair implements workshop.StoneStore.
func (s *Store) SaveRepair(ctx context.Context, stoneID, name, workID string, r workshop.Repair, version int) error {
	return s.InTx(ctx, func(ctx context.Context) error {
		if err := s.changeOne(ctx, `UPDATE stones SET name = ?, version = version + 1 WHERE id = ? AND version = ?`, name, stoneID, version); err != nil {
			return err
		}
		if err := s.changeIt(ctx, `UPDATE works SET document = ? WHERE id = ?`, taskDocument(r), workID); err != nil {
			return err
		}
		return s.line(ctx, workID, r, nil)
	})
}

// SaveFinish implements workshop.StoneStore.
func (s *Store) SaveFinish(ctx context.Context, workID string, f workshop.Finish, version int) error {
	doc := finishDocument(f)
	if version == 0 {
		return s.changeOne(ctx, `INSERT INTO finishes (work_id, document, version, finished, rough_carats, finished_carats, hours)
			VALUES (?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING`, workID, doc, f.Version, f.Finished, f.RoughCarats, f.FinishedCarats, f.Hours)
	}
	return s.changeOne(ctx, `UPDATE finishes SET document = ?, version = ?, finished = ?, rough_carats = ?, finished_carats = ?, hours = ? WHERE work_id = ? AND version = ?`,
		doc, f.Version, f.Finished, f.RoughCarats, f.FinishedCarats, f.Hours, workID, version)
}

// Paces implements workshop.StoneStore.
func (s *Store) Paces(ctx context.Context, works int) ([]workshop.WorkPace, error) {
	out := []workshop.WorkPace{}
	err := s.rows(ctx, func(scan scan) error {
		var p workshop.WorkPace
		err := scan(&p.Minutes, &p.Ticks)
		out = append(out, p)
		return err
	}, `SELECT usual_minutes, ticks FROM work_state WHERE present = 1 AND ticks > 0 ORDER BY last_event DESC, work_id LIMIT ?`, works)
	return out, err
}

// Photos implements workshop.StoneStore.
func (s *Store) Photos(ctx context.Context, stoneID string) ([]workshop.Photo, error) {
	out := []workshop.Photo{}
	err := s.rows(ctx, func(scan scan) error {
		var p workshop.Photo
		err := scan(&p.ID, &p.Hash, asInstant{&p.Taken}, &p.Note, &p.Work, &p.Shows)
		out = append(out, p)
		return err
	}, `SELECT id, hash, taken, note, work_id, shows FROM photos WHERE stone_id = ? ORDER BY taken`, stoneID)
	return out, err
}

// InsertPhoto implements workshop.StoneStore.
func (s *Store) InsertPhoto(ctx context.Context, stoneID string, p workshop.Photo) error {
	return s.exec(ctx, `INSERT INTO photos (id, stone_id, hash, taken, note, work_id, shows) VALUES (?, ?, ?, ?, ?, ?, ?)`, p.ID, stoneID, p.Hash, instant(p.Taken), p.Note, p.Work, p.Shows)
}

// DropPhoto implements workshop.StoneStore.
func (s *Store) DropPhoto(ctx context.Context, stoneID, id string) (hash string, shown bool, err error) {
	return s.dropPhoto(ctx, "stone_id = ? AND id = ?", stoneID, id)
}

// dropPhoto takes away the photo that a condition names.
func (s *Store) dropPhoto(ctx context.Context, which string, args ...any) (hash string, shown bool, err error) {
	err = s.InTx(ctx, func(ctx context.Context) error {
		if err := s.row(ctx, `SELECT hash FROM photos WHERE `+which, args, &hash); err != nil {
			return err
		}
		if err := s.changeIt(ctx, `DELETE FROM photos WHERE `+which, args...); err != nil {
			return err
		}
		return s.row(ctx, `SELECT count(*) > 0 FROM photos WHERE hash = ?`, []any{hash}, &shown)
	})
	return hash, shown, err
}

// PhotoHashes returns the hashes of all photos, for checking that their files are there.
// It returns workshop.ErrBusy where the file cannot be read now.
func (s *Store) PhotoHashes(ctx context.Context) ([]string, error) {
	return s.texts(ctx, `SELECT DISTINCT hash FROM photos ORDER BY hash`)
}
