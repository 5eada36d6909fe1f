package workshop

import (
	"context"
	"time"
)

// PiecePhoto is a picture of a piece of rough, with marks where something is seen on it.
type PiecePhoto struct {
	ID    string `validate:"max=40"`
	Hash  string
	Taken time.Time
	Note  string      `validate:"max=500"`
	Marks []PhotoMark `validate:"max=50,dive"`
	// Version counts the changes of note and marks.
	Version int
}

// PhotoMark is a place on a photo: shares, 0 to 1, of its width from the left and of its height from the top.
type PhotoMark struct {
	X    float64 `validate:"min=0,max=1"`
	Y    float64 `validate:"min=0,max=1"`
	Text string  `validate:"max=200"`
}

// AddPiecePhoto keeps a picture of a piece: the file first, then that it is the piece's. It returns ErrNotFound for
// an unknown piece and the errors of files.
func (r *Rough) AddPiecePhoto(ctx context.Context, files PhotoFiles, piece string, data []byte) (PiecePhoto, error) {
	if _, err := r.store.Piece(ctx, piece); err != nil {
		return PiecePhoto{}, err
	}
	r.pictures.Lock()
	defer r.pictures.Unlock()
	hash, err := files.Keep(ctx, data)
	if err != nil {
		return PiecePhoto{}, err
	}
	p := PiecePhoto{ID: r.newID(), Hash: hash, Taken: r.moment(), Version: 1}
	return p, r.store.InsertPiecePhoto(ctx, piece, p)
}

// PiecePhotos returns the photos of a piece, the oldest first. It returns only the errors of the store.
func (r *Rough) PiecePhotos(ctx context.Context, piece string) ([]PiecePhoto, error) {
	return r.store.PiecePhotos(ctx, piece)
}

// MarkPiecePhoto keeps the note and the marks of a photo over the version that the caller read. It returns the
// errors of Validate, and ErrStale where the photo has another version or is gone.
func (r *Rough) MarkPiecePhoto(ctx context.Context, piece string, p PiecePhoto) (PiecePhoto, error) {
	if err := Validate(p); err != nil {
		return p, err
	}
	version := p.Version
	p.Version++
	return p, r.store.SavePiecePhoto(ctx, piece, p, version)
}

// DropPiecePhoto takes a photo off a piece, and removes its file where nothing else shows it. It returns
// ErrNotFound where the piece has no such photo.
func (r *Rough) DropPiecePhoto(ctx context.Context, files PhotoFiles, piece, id string) error {
	// Nobody may take the file for kept while it goes.
	r.pictures.Lock()
	defer r.pictures.Unlock()
	hash, shown, err := r.store.DropPiecePhoto(ctx, piece, id)
	if err != nil || shown {
		return err
	}
	return files.Drop(hash)
}
