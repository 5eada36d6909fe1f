// Package copies writes everything of a workshop into one file, and brings it back from there.
//
// The file is a ZIP archive that any program opens: records.db, an SQLite database; the pictures
// as photos/ and their SHA-256, which are JPEG and PNG; and manifest.json, which says what is in it
// and what each file's SHA-256 is.
package copies

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"hash"
	"io"
	"os"
	"path/filepath"
	"time"

	"cressa/photos"
	"cressa/sqlite"
)

// Names in a folder of records.
const (
	Records = "cressa.db"
	Photos  = "photos"
)

// Names in an archive.
const (
	format       = "cressa-copy/1"
	manifestName = "manifest.json"
	recordsName  = "records.db"
	photosName   = "photos/"
)

// Contents says what a copy holds, or what a folder of records does.
type Contents struct {
	// Schema is the version of the records.
	Schema   int `json:"schema"`
	Stones   int `json:"stones"`
	Diagrams int `json:"diagrams"`
	Events   int `json:"events"`
	Photos   int `json:"photos"`
	// Bytes is the size of the archive, or of all files of a folder.
	Bytes int64 `json:"bytes"`
}

// Manifest is what an archive says of itself.
type Manifest struct {
	Format string `json:"format"`
	// Made is when the records were as they are in it.
	Made time.Time `json:"made"`
	// First and Last are when its log begins and ends; zero where it is empty.
	First    time.Time `json:"first"`
	Last     time.Time `json:"last"`
	Contents Contents  `json:"contents"`
	Files    []File    `json:"files"`
	// Missing names pictures that the records show and the folder did not have.
	Missing []string `json:"missing"`
}

// File is one of an archive's.
type File struct {
	Name   string `json:"name"`
	Bytes  int64  `json:"bytes"`
	SHA256 string `json:"sha256"`
}

// Folder is a folder of records.
type Folder string

func (f Folder) records() string { return filepath.Join(string(f), Records) }

// Pictures is where the folder's photos are.
func (f Folder) Pictures() photos.Dir { return photos.Dir(filepath.Join(string(f), Photos)) }

// Refusal is why a file is not taken for a copy, or not written.
type Refusal struct {
	File string
	Says string
}

func (r Refusal) Error() string { return r.File + ": " + r.Says }

// Progress is told how many bytes are done, of how many; it may be nil.
type Progress func(done, total int64)

// Contents returns what the folder holds, and the span of its log. It returns fs.ErrNotExist where
// there are no records, and the errors of package sqlite.
func (f Folder) Contents(ctx context.Context) (Manifest, error) {
	of, err := sqlite.Describe(ctx, f.records())
	return f.of(of), err
}

// Summary is Contents for records that this program has open and knows to be whole.
func (f Folder) Summary(ctx context.Context) (Manifest, error) {
	of, err := sqlite.Summarise(ctx, f.records())
	return f.of(of), err
}

// of is what records of the folder hold as a manifest says it, pictures and all.
func (f Folder) of(of sqlite.Described) Manifest {
	m := Manifest{
		Format: format, First: of.First, Last: of.Last,
		Contents: Contents{Schema: of.Schema, Stones: of.Stones, Diagrams: of.Diagrams, Events: of.Events, Photos: len(of.Photos), Bytes: of.Bytes},
		Files:    []File{}, Missing: []string{},
	}
	for _, hash := range of.Photos {
		if info, err := os.Stat(filepath.Join(string(f.Pictures()), hash)); err == nil {
			m.Contents.Bytes += info.Size()
		}
	}
	return m
}

// digested counts and hashes what is written through it.
type digested struct {
	to    io.Writer
	bytes int64
	sum   hash.Hash
}

func digest(to io.Writer) *digested { return &digested{to: to, sum: sha256.New()} }

func (d *digested) Write(p []byte) (int, error) {
	n, err := d.to.Write(p)
	_, _ = d.sum.Write(p[:n]) // it never fails
	d.bytes += int64(n)
	return n, err
}

func (d *digested) hash() string { return hex.EncodeToString(d.sum.Sum(nil)) }

// pour copies until the end or until the context ends.
func pour(ctx context.Context, to io.Writer, from io.Reader) error {
	_, err := io.Copy(to, readerWith{ctx, from})
	return err
}

type readerWith struct {
	ctx  context.Context
	from io.Reader
}

func (r readerWith) Read(p []byte) (int, error) {
	if err := r.ctx.Err(); err != nil {
		return 0, err
	}
	return r.from.Read(p)
}

// told counts bytes for a Progress.
type told struct {
	done, total int64
	tell        Progress
}

func (t *told) Write(p []byte) (int, error) {
	if t.done += int64(len(p)); t.tell != nil {
		t.tell(t.done, t.total)
	}
	return len(p), nil
}
