package sqlite

import (
	"context"
	"database/sql"
	_ "embed" // the new tables
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/workshop"
	"cressa/workshop/journal"
)

//go:embed schema8.sql
var schema8 string

// upTo8 moves the records of version 7 into the tables of version 8. What was derived anew
// each time is written down: plans get their order of work, their poses and their
// machine; the log gets the plans that ticks are held against; works get their state.
func upTo8(ctx context.Context, tx *sql.Tx) error {
	if _, err := tx.ExecContext(ctx, schema8); err != nil {
		return err
	}
	u := upgrade8{Store: &Store{}, hashes: map[string]string{}, diagrams: map[string]*diagram.Diagram{}}
	ctx = context.WithValue(ctx, txKey{}, &transaction{Tx: tx})
	for _, step := range []struct {
		what string
		run  func(context.Context) error
	}{
		{"versions of diagrams", u.revisions}, {"diagrams", u.library}, {"stones", u.stones},
		{"plans", u.plans}, {"logbook cards", u.cards}, {"the log", u.log}, {"the rest", u.rest},
	} {
		if err := step.run(ctx); err != nil {
			return fmt.Errorf("%s: %w", step.what, err)
		}
	}
	for _, table := range []string{"history", "sweeps", "photos", "events", "finishes", "setups", "plans", "works", "stones", "runs", "diagrams", "revisions", "devices"} {
		if _, err := tx.ExecContext(ctx, `DROP TABLE old_`+table); err != nil {
			return err
		}
	}
	return nil
}

type upgrade8 struct {
	*Store
	// hashes are the new names of revisions by their old ones, diagrams what they hold.
	hashes   map[string]string
	diagrams map[string]*diagram.Diagram
}

// textTime reads a time as version 7 wrote it; what is none is the start of 1970.
func textTime(text string) time.Time {
	t, err := time.Parse(time.RFC3339Nano, text)
	if err != nil {
		return time.UnixMicro(0).UTC()
	}
	return t.UTC()
}

func (u *upgrade8) revisions(ctx context.Context) error {
	return u.rows(ctx, func(scan scan) error {
		var hash, text, created, picture string
		f := workshop.Facts{}
		if err := scan(&hash, &text, &f.Name, &f.Outline, &f.Gear, &f.RefractiveIndex, &f.Tiers, &f.Facets, &f.LengthWidth, &f.HeightWidth, &f.TableWidth, &picture, &created); err != nil {
			return err
		}
		d := &diagram.Diagram{}
		// One that cannot be read keeps its place and its old name, so that what refers to
		// it says what is wrong.
		u.hashes[hash] = hash
		f.Shallowest = 90
		if json.Unmarshal([]byte(text), d) == nil && len(d.Validate()) == 0 {
			u.hashes[hash], u.diagrams[hash] = diagram.Hash(d), d
			for _, t := range d.Tiers {
				if t.Part == diagram.Pavilion && t.Angle > 0 && !t.Optional {
					f.Shallowest = min(f.Shallowest, t.Angle)
				}
			}
		}
		return u.exec(ctx, `INSERT INTO diagram_revisions
			(hash, document, name, outline, gear, refractive_index, tiers, facets, length_width, height_width, table_width, shallowest, picture, created)
			VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING`,
			u.hashes[hash], text, f.Name, f.Outline, f.Gear, f.RefractiveIndex, f.Tiers, f.Facets, f.LengthWidth, f.HeightWidth, f.TableWidth, f.Shallowest,
			picture, instant(textTime(created)))
	}, `SELECT hash, document, name, outline, gear, refractive_index, tiers, facets, length_width, height_width, table_width, picture, created FROM old_revisions`)
}

func (u *upgrade8) library(ctx context.Context) error {
	err := u.rows(ctx, func(scan scan) error {
		var id, text, created, updated, origin, variantOf string
		var revision, hidden sql.Null[string]
		var starter, chosen bool
		var version int
		if err := scan(&id, &starter, &revision, &text, &version, &created, &updated, &hidden, &origin, &variantOf, &chosen); err != nil {
			return err
		}
		draft, err := readDraft(text)
		if err != nil {
			draft = diagram.Draft{Name: "unreadable", Tiers: []diagram.DraftTier{}, Note: text}
		}
		var hash, away any
		if revision.Valid {
			hash = u.hashes[revision.V]
		}
		if hidden.Valid {
			away = instant(textTime(hidden.V))
		}
		read, problems := draft.Read()
		edited := len(problems) > 0 || hash != diagram.Hash(read)
		return u.exec(ctx, `INSERT INTO diagrams
			(id, starter, revision, draft, name, outline, gear, search, edited, version, created, updated, hidden, origin, variant_of, sense_chosen)
			VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			id, starter, hash, draftDocument(draft), draft.Name, draft.Outline, draft.Gear, searched(draft), edited, version,
			instant(textTime(created)), instant(textTime(updated)), away, origin, variantOf, chosen)
	}, `SELECT id, starter, revision, draft, version, created, updated, hidden, origin, variant_of, sense_chosen FROM old_diagrams`)
	if err != nil {
		return err
	}
	if err := u.rows(ctx, func(scan scan) error {
		var id, revision, kept string
		if err := scan(&id, &revision, &kept); err != nil {
			return err
		}
		return u.exec(ctx, `INSERT INTO diagram_history (diagram_id, revision, kept) VALUES (?, ?, ?)`, id, u.hashes[revision], instant(textTime(kept)))
	}, `SELECT diagram_id, revision, kept FROM old_history ORDER BY rowid`); err != nil {
		return err
	}
	// Whoever had a library has its starters, or has deleted them.
	return u.exec(ctx, `INSERT INTO library_fills (name) SELECT 'starters-1' WHERE EXISTS (SELECT 1 FROM diagrams)`)
}

func (u *upgrade8) stones(ctx context.Context) error {
	if err := u.rows(ctx, func(scan scan) error {
		var id, name, way, created string
		if err := scan(&id, &name, &way, &created); err != nil {
			return err
		}
		return u.exec(ctx, `INSERT INTO runs (id, name, way, created) VALUES (?, ?, ?, ?)`, id, name, way, instant(textTime(created)))
	}, `SELECT id, name, way, created FROM old_runs`); err != nil {
		return err
	}
	if err := u.rows(ctx, func(scan scan) error {
		var id, name, created, run string
		var number, version, place int
		if err := scan(&id, &number, &name, &created, &version, &run, &place); err != nil {
			return err
		}
		return u.exec(ctx, `INSERT INTO stones (id, number, name, created, version, run, run_place) VALUES (?, ?, ?, ?, ?, nullif(?, ''), ?)`,
			id, number, name, instant(textTime(created)), version, run, place)
	}, `SELECT id, number, name, created, version, run, run_place FROM old_stones`); err != nil {
		return err
	}
	return u.rows(ctx, func(scan scan) error {
		var id, stone, kind, intake, created string
		var ordinal int
		if err := scan(&id, &stone, &ordinal, &kind, &intake, &created); err != nil {
			return err
		}
		return u.exec(ctx, `INSERT INTO works (id, stone_id, ordinal, task, document, created) VALUES (?, ?, ?, ?, ?, ?)`,
			id, stone, ordinal, kind, intake, instant(textTime(created)))
	}, `SELECT w.id, w.stone_id, w.ordinal, w.kind, w.intake, s.created FROM old_works w JOIN old_stones s ON s.id = w.stone_id`)
}

// plan7 is a plan as version 7 stored it.
type plan7 struct {
	No          int           `json:"no"`
	DiagramID   string        `json:"diagramId"`
	Choices     choicesDoc    `json:"choices"`
	Turns       cutting.Turns `json:"turns"`
	Facets      []string      `json:"facets"`
	Material    *materialDoc  `json:"material"`
	Created     time.Time     `json:"created"`
	DiagramName string        `json:"diagramName"`
}

func (u *upgrade8) plans(ctx context.Context) error {
	settings, err := u.Settings(ctx)
	if err != nil {
		return err
	}
	if settings.Version == 0 {
		settings = workshop.DefaultSettings()
	}
	setups := map[string][]string{}
	if err := u.rows(ctx, func(scan scan) error {
		var id, work string
		err := scan(&id, &work)
		setups[work] = append(setups[work], id)
		return err
	}, `SELECT id, work_id FROM old_setups ORDER BY work_id, ordinal`); err != nil {
		return err
	}
	return u.rows(ctx, func(scan scan) error {
		var work, asCut, revision, text string
		if err := scan(&work, &asCut, &revision, &text); err != nil {
			return err
		}
		var old plan7
		if err := json.Unmarshal([]byte(text), &old); err != nil {
			return fmt.Errorf("work %s: %w", work, err)
		}
		p := workshop.Plan{
			No: old.No, DiagramID: old.DiagramID, DiagramName: old.DiagramName, Revision: u.hashes[revision], AsCut: u.hashes[asCut],
			Choices: old.Choices.choices(), Machine: settings.MachineOf(old.Choices.Machine), Turns: old.Turns, Created: old.Created,
		}
		switch named, ok := settings.Material(old.Choices.Material); {
		case old.Material != nil:
			p.Material = old.Material.material()
		case ok:
			p.Material = named
		default:
			p.Material = material.Material{Name: old.Choices.Material}
		}
		d := u.diagrams[asCut]
		if d == nil {
			d = &diagram.Diagram{}
		}
		p.LayOut(d, setups[work], old.Facets)
		return u.insertPlan(ctx, work, p)
	}, `SELECT work_id, as_cut, revision, document FROM old_plans ORDER BY work_id, no`)
}

func (u *upgrade8) cards(ctx context.Context) error {
	return u.rows(ctx, func(scan scan) error {
		var work, text string
		if err := scan(&work, &text); err != nil {
			return err
		}
		f, err := readFinish(text)
		if err != nil {
			return fmt.Errorf("work %s: %w", work, err)
		}
		return u.exec(ctx, `INSERT INTO finishes (work_id, document, version, finished, rough_carats, finished_carats, hours) VALUES (?, ?, ?, ?, ?, ?, ?)`,
			work, finishDocument(*f), f.Version, f.Finished, f.RoughCarats, f.FinishedCarats, f.Hours)
	}, `SELECT work_id, document FROM old_finishes`)
}

// log copies the log in its order. Plans come at its end, and what is finished after them:
// a plan's number, not its place, says which is the present one.
func (u *upgrade8) log(ctx context.Context) error {
	if err := u.rows(ctx, func(scan scan) error {
		e := journal.Event{Version: 1}
		var work, kind, deviceTime, serverTime, setup, pass, facet, item, undoes, text string
		if err := scan(&e.ID, &work, &e.Device, &e.DeviceSeq, &deviceTime, &serverTime, &kind, &setup, &pass, &facet, &item, &undoes, &text); err != nil {
			return err
		}
		e.Stream, e.Kind = journal.OfWork(work), journal.Kind(kind)
		e.DeviceTime, e.ServerTime = textTime(deviceTime), textTime(serverTime)
		var payload any = struct{}{}
		switch e.Kind {
		case journal.Plan:
			return nil
		case journal.Done, journal.Skip:
			payload = journal.Visit{Setup: setup, Pass: pass, Facet: facet}
		case journal.Check:
			payload = journal.Checked{Setup: setup, Item: item}
		case journal.Transfer:
			payload = journal.Transferred{Setup: setup}
		case journal.Note:
			payload = journal.Noted{Text: text}
		case journal.Undo:
			payload = journal.TakenBack{Undoes: undoes}
		}
		e.Payload = journal.Payload(payload)
		_, err := u.InsertEvent(ctx, e)
		return err
	}, `SELECT id, work_id, device, device_seq, device_time, server_time, kind, setup, pass, facet, item, undoes, text FROM old_events ORDER BY seq`); err != nil {
		return err
	}
	works, err := u.WorkIDs(ctx)
	if err != nil {
		return err
	}
	for _, id := range works {
		if err := u.end(ctx, id); err != nil {
			return fmt.Errorf("work %s: %w", id, err)
		}
	}
	return u.states(ctx)
}

// end writes the plans of a work and its card into the log.
func (u *upgrade8) end(ctx context.Context, work string) error {
	seq := int64(0)
	tell := func(kind journal.Kind, at time.Time, payload any) error {
		seq++
		_, err := u.InsertEvent(ctx, journal.Event{
			// Named after the work, so that the upgrade can be told from a replay of it.
			ID: fmt.Sprintf("%.24s%08x", work, seq), Stream: journal.OfWork(work), Device: "workshop", DeviceSeq: seq,
			DeviceTime: at, ServerTime: at, Kind: kind, Version: journal.Newest(kind), Payload: journal.Payload(payload), By: journal.Actor{Name: "workshop"},
		})
		return err
	}
	for no := 1; ; no++ {
		p, err := u.Plan(ctx, work, no)
		if errors.Is(err, workshop.ErrNotFound) {
			break
		}
		if err != nil {
			return err
		}
		if err := tell(journal.Plan, p.Created, p.Asked()); err != nil {
			return err
		}
	}
	var text string
	err := u.row(ctx, `SELECT document FROM finishes WHERE work_id = ?`, []any{work}, &text)
	if errors.Is(err, workshop.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	f, err := readFinish(text)
	if err != nil {
		return err
	}
	return tell(journal.Finish, f.Saved, struct{}{})
}

// states gives every work the line that lists show. Where it stands is left to the next start,
// which folds all logs that were folded by older rules, or not at all.
func (u *upgrade8) states(ctx context.Context) error {
	works, err := u.WorkIDs(ctx)
	if err != nil {
		return err
	}
	for _, id := range works {
		if err := u.exec(ctx, `INSERT INTO work_state
			(work_id, present, task, seq, folded, ticked, state, done, total, hours, last_event, late, usual_minutes, ticks, diagram, picture, material, size_mm, promised, search, rules)
			SELECT id, ordinal = (SELECT max(ordinal) FROM works o WHERE o.stone_id = w.stone_id), task, 0, '', '{}', '', 0, 0, 0, created, 0, 0, 0, '', '', '', 0, '', '', 0 FROM works w WHERE id = ?`, id); err != nil {
			return err
		}
		var stone string
		if err := u.row(ctx, `SELECT stone_id FROM works WHERE id = ?`, []any{id}, &stone); err != nil {
			return err
		}
		s, err := u.Stone(ctx, stone)
		if err != nil {
			return err
		}
		for _, w := range s.Works {
			if w.ID == id {
				if err := u.line(ctx, id, w.Task, w.Plan); err != nil {
					return err
				}
			}
		}
	}
	return nil
}

func (u *upgrade8) rest(ctx context.Context) error {
	if err := u.rows(ctx, func(scan scan) error {
		var id, stone, hash, taken, note string
		if err := scan(&id, &stone, &hash, &taken, &note); err != nil {
			return err
		}
		return u.exec(ctx, `INSERT INTO photos (id, stone_id, hash, taken, note) VALUES (?, ?, ?, ?, ?)`, id, stone, hash, instant(textTime(taken)), note)
	}, `SELECT id, stone_id, hash, taken, note FROM old_photos`); err != nil {
		return err
	}
	if err := u.rows(ctx, func(scan scan) error {
		var id, diagram, draft, asked, points, created string
		var sg float64
		if err := scan(&id, &diagram, &draft, &asked, &sg, &points, &created); err != nil {
			return err
		}
		return u.exec(ctx, `INSERT INTO sweeps (id, diagram_id, draft, asked, sg, points, created) VALUES (?, ?, ?, ?, ?, ?, ?)`, id, diagram, draft, asked, sg, points, instant(textTime(created)))
	}, `SELECT id, diagram_id, draft, asked, sg, points, created FROM old_sweeps ORDER BY rowid`); err != nil {
		return err
	}
	return u.rows(ctx, func(scan scan) error {
		var id, name, session, paired, seen string
		if err := scan(&id, &name, &session, &paired, &seen); err != nil {
			return err
		}
		return u.exec(ctx, `INSERT INTO devices (id, name, session, paired, seen) VALUES (?, ?, ?, ?, ?)`, id, name, session, instant(textTime(paired)), instant(textTime(seen)))
	}, `SELECT id, name, session, paired, seen FROM old_devices`)
}
