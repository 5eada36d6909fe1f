package sqlite

import (
	"context"

	"cressa/workshop"
)

// marksForm is the form of the marks on a photo.
const marksForm = 1

type marksDoc struct {
	form
	Marks []markDoc `json:"marks"`
}

type markDoc struct {
	X    float64 `json:"x"`
	Y    float64 `json:"y"`
	Text string  `json:"text"`
}

func marksDocument(marks []workshop.PhotoMark) string {
	d := marksDoc{form: form{marksForm}, Marks: []markDoc{}}
	for _, m := range marks {
		d.Marks = append(d.Marks, markDoc(m))
	}
	return document(d)
}

// PiecePhotos implements workshop.RoughStore.
func (s *Store) PiecePhotos(ctx context.Context, piece string) ([]workshop.PiecePhoto, error) {
	out := []workshop.PiecePhoto{}
	return out, s.rows(ctx, func(scan scan) error {
		p := workshop.PiecePhoto{Marks: []workshop.PhotoMark{}}
		var text string
		if err := scan(&p.ID, &p.Hash, asInstant{&p.Taken}, &p.Note, &p.Version, &text); err != nil {
			return err
		}
		if text != "" {
			var d marksDoc
			if err := read(text, marksForm, &d); err != nil {
				return err
			}
			for _, m := range d.Marks {
				p.Marks = append(p.Marks, workshop.PhotoMark(m))
			}
		}
		out = append(out, p)
		return nil
	}, `SELECT id, hash, taken, note, version, marks FROM photos WHERE piece_id = ? ORDER BY taken, id`, piece)
}

// InsertPiecePhoto implements workshop.RoughStore.
func (s *Store) InsertPiecePhoto(ctx context.Context, piece string, p workshop.PiecePhoto) error {
	return s.exec(ctx, `INSERT INTO photos (id, piece_id, hash, taken, note, version, marks) VALUES (?, ?, ?, ?, ?, ?, ?)`,
		p.ID, piece, p.Hash, instant(p.Taken), p.Note, p.Version, marksDocument(p.Marks))
}

// SavePiecePhoto implements workshop.RoughStore.
func (s *Store) SavePiecePhoto(ctx context.Context, piece string, p workshop.PiecePhoto, version int) error {
	return s.changeOne(ctx, `UPDATE photos SET note = ?, marks = ?, version = ? WHERE piece_id = ? AND id = ? AND version = ?`,
		p.Note, marksDocument(p.Marks), p.Version, piece, p.ID, version)
}

// DropPiecePhoto implements workshop.RoughStore.
func (s *Store) DropPiecePhoto(ctx context.Context, piece, id string) (hash string, shown bool, err error) {
	return s.dropPhoto(ctx, "piece_id = ? AND id = ?", piece, id)
}
