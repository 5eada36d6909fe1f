package sqlite

import (
	"context"

	"cressa/workshop"
	"cressa/workshop/journal"
)

const itemColumns = `id, kind, created, version, document FROM items`

func scanItem(scan scan) (workshop.Item, error) {
	var i workshop.Item
	var text string
	if err := scan(&i.ID, &i.Kind, asInstant{&i.Created}, &i.Version, &text); err != nil {
		return i, storeError(err)
	}
	return i, readItem(text, &i)
}

// Items implements workshop.KitStore.
func (s *Store) Items(ctx context.Context) ([]workshop.Item, error) {
	out := []workshop.Item{}
	err := s.rows(ctx, func(scan scan) error {
		i, err := scanItem(scan)
		out = append(out, i)
		return err
	}, `SELECT `+itemColumns+` ORDER BY created, id`)
	return out, err
}

// Item implements workshop.KitStore.
func (s *Store) Item(ctx context.Context, id string) (workshop.Item, error) {
	const query = `SELECT ` + itemColumns + ` WHERE id = ?`
	return scanItem(s.on(ctx, query).QueryRowContext(ctx, query, id).Scan)
}

// InsertItem implements workshop.KitStore.
func (s *Store) InsertItem(ctx context.Context, i workshop.Item) error {
	return s.exec(ctx, `INSERT INTO items (id, kind, created, version, counted_from, document) VALUES (?, ?, ?, ?, 0, ?)`,
		i.ID, i.Kind, instant(i.Created), i.Version, itemDocument(i))
}

// SaveItem implements workshop.KitStore.
func (s *Store) SaveItem(ctx context.Context, i workshop.Item, version int) error {
	return s.changeOne(ctx, `UPDATE items SET document = ?, version = ? WHERE id = ? AND version = ?`, itemDocument(i), i.Version, i.ID, version)
}

// DropItem implements workshop.KitStore.
func (s *Store) DropItem(ctx context.Context, id string) error {
	return s.InTx(ctx, func(ctx context.Context) error {
		if err := s.exec(ctx, `DELETE FROM events WHERE stream = ?`, journal.OfItem(id)); err != nil {
			return err
		}
		return s.changeIt(ctx, `DELETE FROM items WHERE id = ?`, id)
	})
}

// ItemEvents implements workshop.KitStore.
func (s *Store) ItemEvents(ctx context.Context, id string) ([]journal.Event, error) {
	query, args := `SELECT `+eventColumns+` WHERE stream >= ? AND stream < ? ORDER BY seq`, []any{journal.OfItem(""), journal.OfItem("~")}
	if id != "" {
		query, args = `SELECT `+eventColumns+` WHERE stream = ? ORDER BY seq`, []any{journal.OfItem(id)}
	}
	out := []journal.Event{}
	return out, s.rows(ctx, func(scan scan) error {
		var e journal.Event
		err := scan(eventFields(&e)...)
		out = append(out, e)
		return err
	}, query, args...)
}

// CountFrom implements workshop.KitStore.
func (s *Store) CountFrom(ctx context.Context, id string, seq int64) error {
	return s.changeIt(ctx, `UPDATE items SET counted_from = ? WHERE id = ?`, seq, id)
}

// saveUses keeps what a work used anew.
func (s *Store) saveUses(ctx context.Context, w workshop.WorkState) error {
	if err := s.exec(ctx, `DELETE FROM uses WHERE work_id = ?`, w.WorkID); err != nil {
		return err
	}
	uses := w.Folded.Uses()
	for i, u := range uses {
		// Those of one thing follow each other.
		var whole *int64
		if i == 0 || uses[i-1].Item != u.Item {
			last := u.Last
			for _, o := range uses[i+1:] {
				if o.Item == u.Item {
					last = max(last, o.Last)
				}
			}
			whole = &last
		}
		// A plan may name a thing that was taken off the shelf before it met the stone.
		if err := s.exec(ctx, `INSERT INTO uses (work_id, item_id, with_id, material, facets, first_seq, last_seq, whole_last)
			SELECT ?1, ?2, ?3, t.material, ?4, ?5, ?6, ?7 FROM work_state t WHERE t.work_id = ?1 AND EXISTS (SELECT 1 FROM items WHERE id = ?2)`,
			w.WorkID, u.Item, u.With, u.Facets, u.First, u.Last, whole); err != nil {
			return err
		}
	}
	return nil
}

// Meetings implements workshop.KitStore. A stone that was being cut when a thing was charged or renewed
// is looked at tick by tick.
func (s *Store) Meetings(ctx context.Context, id string) ([]workshop.Meeting, error) {
	out := []workshop.Meeting{}
	type key struct{ item, with, material string }
	at := map[key]int{}
	err := s.rows(ctx, func(scan scan) error {
		var m workshop.Meeting
		err := scan(&m.Item, &m.With, &m.Material, &m.Stones, &m.Facets, &m.Whole, &m.Since.Stones, &m.Since.Facets, &m.Seq, asInstant{&m.Last})
		at[key{m.Item, m.With, m.Material}] = len(out)
		out = append(out, m)
		return err
	}, `SELECT item_id, with_id, material, stones, facets, whole, since_stones, since_facets, last, (SELECT server_time FROM events WHERE seq = last)
		FROM (SELECT u.item_id, u.with_id, u.material, count(*) AS stones, sum(u.facets) AS facets, count(u.whole_last) AS whole,
			count(iif(u.whole_last > i.counted_from, 1, NULL)) AS since_stones,
			sum(iif(u.first_seq > i.counted_from, u.facets, 0)) AS since_facets, max(u.last_seq) AS last
			FROM items i JOIN uses u ON u.item_id = i.id WHERE ?1 = '' OR i.id = ?1 GROUP BY u.item_id, u.with_id, u.material)
		ORDER BY item_id, last`, id)
	if err != nil {
		return nil, err
	}
	return out, s.rows(ctx, func(scan scan) error {
		var item, material string
		var from int64
		folded := journal.NewWork("")
		if err := scan(&item, &material, &from, asDocument{folded}); err != nil {
			return err
		}
		for _, u := range folded.UsesAfter(from) {
			if i, there := at[key{item, u.With, material}]; there && u.Item == item && !within(folded, u, from) {
				out[i].Since.Facets += u.Facets
			}
		}
		return nil
	}, `SELECT DISTINCT u.item_id, u.material, i.counted_from, t.folded FROM items i JOIN uses u ON u.item_id = i.id JOIN work_state t ON t.work_id = u.work_id
		WHERE u.first_seq <= i.counted_from AND u.last_seq > i.counted_from AND (?1 = '' OR i.id = ?1)`, id)
}

// within tells whether all that a work used a thing for, with the same other one, came after a place:
// then it is counted already.
func within(w *journal.Work, u journal.Use, after int64) bool {
	for _, o := range w.Uses() {
		if o.Item == u.Item && o.With == u.With {
			return o.First > after
		}
	}
	return false
}

// ItemStones implements workshop.KitStore.
func (s *Store) ItemStones(ctx context.Context, id string, limit int) ([]workshop.ItemStone, error) {
	out := []workshop.ItemStone{}
	return out, s.rows(ctx, func(scan scan) error {
		var o workshop.ItemStone
		err := scan(&o.ID, &o.Number, &o.Name, &o.Material, &o.Facets, asInstant{&o.Last})
		out = append(out, o)
		return err
	}, `SELECT s.id, s.number, s.name, t.material, u.facets, e.server_time
		FROM (SELECT work_id, sum(facets) AS facets, max(last_seq) AS last FROM uses WHERE item_id = ? GROUP BY work_id) u
		JOIN events e ON e.seq = u.last JOIN work_state t ON t.work_id = u.work_id JOIN works w ON w.id = u.work_id JOIN stones s ON s.id = w.stone_id
		ORDER BY u.last DESC LIMIT ?`, id, limit)
}
