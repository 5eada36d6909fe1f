package sqlite

import (
	"context"
	"errors"
	"net/url"
	"os"
	"time"
)

// Described says what a file of records holds, of whatever version.
type Described struct {
	Schema                   int
	Stones, Diagrams, Events int
	// Bytes is the size of the file, with what is in the -wal yet.
	Bytes int64
	// Photos are the hashes of the pictures that are shown, sorted.
	Photos []string
	// First and Last are when the log begins and ends, zero where it is empty.
	First, Last time.Time
}

// Describe looks into a file of records without changing it. It returns a Refusal where the file is
// not to be opened.
func Describe(ctx context.Context, file string) (Described, error) {
	var out Described
	if _, err := os.Stat(file); err != nil {
		return out, err
	}
	if err := Look(ctx, file); err != nil {
		return out, err
	}
	return Summarise(ctx, file)
}

// Summarise is Describe for a file that is known to be whole.
func Summarise(ctx context.Context, file string) (Described, error) {
	var out Described
	db, err := connect(file, reading)
	if err != nil {
		return out, err
	}
	s := &Store{db: db, file: file, reads: true}
	out, err = s.describe(ctx)
	return out, errors.Join(err, db.Close())
}

func (s *Store) describe(ctx context.Context) (out Described, err error) {
	if out.Schema, err = schemaOf(ctx, s.db); err != nil {
		return out, err
	}
	var pages, size int64
	if err := errors.Join(s.row(ctx, `PRAGMA page_count`, nil, &pages), s.row(ctx, `PRAGMA page_size`, nil, &size)); err != nil {
		return out, err
	}
	out.Bytes = pages * size
	// These tables have had their names in every version that has them.
	for table, into := range map[string]*int{"stones": &out.Stones, "diagrams": &out.Diagrams, "events": &out.Events} {
		if err := s.row(ctx, `SELECT count(*) FROM `+table, nil, into); err != nil {
			return out, err
		}
	}
	photos, err := hasTable(ctx, s.db, "photos")
	if err != nil {
		return out, err
	}
	if photos {
		if out.Photos, err = s.PhotoHashes(ctx); err != nil {
			return out, err
		}
	}
	var first, last any
	if err := s.row(ctx, `SELECT min(server_time), max(server_time) FROM events`, nil, &first, &last); err != nil {
		return out, err
	}
	out.First, out.Last = asTime(first), asTime(last)
	return out, nil
}

// asTime reads a time column of any version: microseconds, before version 8 a text.
func asTime(v any) time.Time {
	switch v := v.(type) {
	case int64:
		return time.UnixMicro(v).UTC()
	case string:
		t, _ := time.Parse(time.RFC3339Nano, v)
		return t
	}
	return time.Time{}
}

// ForgetPhotos takes pictures out of records that no program has open.
func ForgetPhotos(ctx context.Context, file string, hashes []string) error {
	if len(hashes) == 0 {
		return nil
	}
	db, err := connect(file, url.Values{"_pragma": {pragmas}})
	if err != nil {
		return err
	}
	for _, hash := range hashes {
		_, failed := db.ExecContext(ctx, `DELETE FROM photos WHERE hash = ?`, hash)
		err = errors.Join(err, failed)
	}
	return errors.Join(err, db.Close())
}
