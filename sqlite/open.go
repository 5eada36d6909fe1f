package sqlite

import (
	"bytes"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"strconv"
	"time"

	"github.com/pressly/goose/v3"

	"cressa/disk"
	"cressa/workshop"
)

// Connections that are open at once, and how long one waits for another's write.
const (
	mostConnections = 8
	pragmas         = "busy_timeout(5000)"
)

// checkedWhole is up to which size, in bytes, every index of a file is held against its table at
// each start; larger ones are read through once. Both take about two seconds at most.
const checkedWhole = 64 << 20

// Refusal is why a file of records is not opened. It was not changed.
type Refusal struct {
	Why  Why
	File string
	// Says tells more: what SQLite found, or the version.
	Says string
}

// Why a file is refused.
type Why string

// The reasons.
const (
	// Unwritable: the file or its folder is read-only. Says is the system's word.
	Unwritable Why = "file-unwritable"
	// Emptied: the file has no bytes at all.
	Emptied Why = "file-emptied"
	// NoDatabase: it is no database, or another program's.
	NoDatabase Why = "file-foreign"
	// Newer: a later version of the program wrote it. Says is the version of its records.
	Newer Why = "file-newer"
	// Damaged: SQLite cannot make sense of it. Says is what it found first.
	Damaged Why = FileDamaged
	// WALMissing: the program did not end in good order, and the -wal that held the last changes
	// is not there.
	WALMissing Why = "wal-missing"
	// WALForeign: the -wal beside the file does not belong to it.
	WALForeign Why = "wal-foreign"
	// FileMissing: there is a -wal, but not the file it belongs to.
	FileMissing Why = "file-missing"
)

func (r Refusal) Error() string {
	name, wal := filepath.Base(r.File), filepath.Base(r.File)+walSuffix
	switch r.Why {
	case Unwritable:
		return fmt.Sprintf("%s cannot be written (%s); give your user the right to write there, or name another folder with --data", r.File, r.Says)
	case Emptied:
		return fmt.Sprintf("%s is empty: it was cut off; bring back your latest copy with “cressa restore”, or move the file away to begin anew", r.File)
	case NoDatabase:
		return fmt.Sprintf("%s holds no records of Cressa (%s); name the folder of your records with --data", r.File, r.Says)
	case Newer:
		return fmt.Sprintf("%s was written by a newer version of Cressa (records of version %s, this one knows %d); start that version", r.File, r.Says, Schema())
	case Damaged:
		return fmt.Sprintf("%s is damaged (%s); “cressa check” tells what is wrong and what can be repaired, “cressa restore” brings back your latest copy", r.File, r.Says)
	case WALMissing:
		return fmt.Sprintf("%s is missing beside %s: Cressa did not end in good order, and the last changes may be in that file alone; put it back, or go on without it with “cressa check --repair”", wal, r.File)
	case WALForeign:
		return fmt.Sprintf("%s does not belong to %s; put back the two files that belong together, or set the first aside with “cressa check --repair”", wal, r.File)
	case FileMissing:
		return fmt.Sprintf("%s is missing, but %s is there: put back the two files that belong together, or move the second away to begin anew", r.File, wal)
	}
	return fmt.Sprintf("%s: %s", name, r.Why)
}

// Repairable tells whether Repair can mend it.
func (r Refusal) Repairable() bool { return r.Why == WALMissing || r.Why == WALForeign }

// walSuffix is what SQLite calls the file of the last changes.
const walSuffix = "-wal"

// Open opens the database file, makes it where there is none, and brings an older one up
// to date after copying it aside. A start that was cut short is begun again: what it left
// is nothing, or whole. It returns a Refusal where the file is not to be opened, and an error
// that names the file where it cannot be opened, copied or brought up to date.
func Open(ctx context.Context, file string) (*Store, error) {
	if err := ready(ctx, file); err != nil {
		return nil, err
	}
	db, err := connect(file, url.Values{"_pragma": {pragmas, "journal_mode(WAL)", "foreign_keys(1)", "synchronous(FULL)"}, "_txlock": {"immediate"}})
	if err != nil {
		return nil, err
	}
	s := &Store{db: db, file: file}
	if err := s.migrate(ctx); err != nil {
		return nil, errors.Join(fmt.Errorf("database %s: %w", file, err), db.Close())
	}
	if err := s.begin(ctx); err != nil {
		// It may say by now that the -wal is needed.
		return nil, errors.Join(fmt.Errorf("database %s: %w", file, err), s.Close())
	}
	return s, nil
}

// OpenToRead opens the records of another program that may be running, to read them alone. It
// looks at a copy where they are older than this program. It returns the errors of Open, and
// fs.ErrNotExist where there are none. Records that are damaged are opened all the same.
func OpenToRead(ctx context.Context, file string) (*Store, error) {
	if _, err := os.Stat(file); err != nil {
		return nil, err
	}
	refusal := Refusal{}
	switch err := Look(ctx, file); {
	case errors.As(err, &refusal) && refusal.Why == Damaged:
	case err != nil:
		return nil, err
	}
	db, err := connect(file, reading)
	if err != nil {
		return nil, err
	}
	if version, err := schemaOf(ctx, db); err == nil && version < Schema() {
		if err := db.Close(); err != nil {
			return nil, err
		}
		return openCopy(ctx, file)
	}
	return &Store{db: db, file: file, reads: true}, nil
}

// openCopy brings a copy up to date and opens that. Closing the store removes it.
func openCopy(ctx context.Context, file string) (*Store, error) {
	folder, err := os.MkdirTemp("", "cressa-records-")
	if err != nil {
		return nil, err
	}
	copied := filepath.Join(folder, filepath.Base(file))
	err = CopyTo(ctx, file, copied)
	var s *Store
	if err == nil {
		s, err = Open(ctx, copied)
	}
	if err == nil {
		s.scrap = folder
		// What is derived is due after an upgrade, and no fault of the records.
		if err = workshop.New(s, time.Now).Refresh(ctx); err == nil {
			return s, nil
		}
		return nil, errors.Join(err, s.Close())
	}
	return nil, errors.Join(err, os.RemoveAll(folder))
}

// connect opens a file without looking at it. The parameters are those of the driver.
func connect(file string, parameters url.Values) (*sql.DB, error) {
	at := url.URL{Scheme: "file", Opaque: (&url.URL{Path: file}).EscapedPath(), RawQuery: parameters.Encode()}
	db, err := sql.Open("sqlite", at.String())
	if err != nil {
		return nil, err
	}
	db.SetMaxOpenConns(mostConnections)
	db.SetMaxIdleConns(mostConnections)
	return db, nil
}

// ready makes sure that there is a whole file that may be written.
func ready(ctx context.Context, file string) error {
	_, err := os.Stat(file)
	missing := errors.Is(err, fs.ErrNotExist)
	if err != nil && !missing {
		return err
	}
	if err := writable(file, missing); err != nil {
		return Refusal{Unwritable, file, err.Error()}
	}
	if missing {
		if wal, err := os.Stat(file + walSuffix); err == nil && wal.Size() > 0 {
			return Refusal{Why: FileMissing, File: file}
		}
		return create(ctx, file)
	}
	if err := Look(ctx, file); err != nil {
		return err
	}
	return private(file)
}

// writable tries whether the file and files beside it can be written.
func writable(file string, missing bool) error {
	if !missing {
		f, err := os.OpenFile(file, os.O_RDWR, 0)
		if err != nil {
			return err
		}
		if err := f.Close(); err != nil {
			return err
		}
	}
	return disk.Writable(filepath.Dir(file))
}

// private shuts others out of records that an older version left open to them.
func private(file string) error {
	for _, name := range []string{file, file + walSuffix, file + "-shm"} {
		info, err := os.Stat(name)
		if errors.Is(err, fs.ErrNotExist) {
			continue
		}
		if err != nil {
			return err
		}
		if mode := info.Mode().Perm(); mode&0o077 != 0 {
			if err := os.Chmod(name, mode&^0o077); err != nil {
				return err
			}
		}
	}
	return nil
}

// create makes an empty file of records beside its place and moves it there once it is whole, so
// that a start that is killed leaves nothing or all of it.
func create(ctx context.Context, file string) (err error) {
	fresh := file + ".new"
	for _, left := range []string{fresh, fresh + "-journal", fresh + walSuffix, fresh + "-shm"} {
		if err := os.Remove(left); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
	}
	f, err := os.OpenFile(fresh, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	if err := f.Close(); err != nil {
		return err
	}
	db, err := connect(fresh, url.Values{"_pragma": {pragmas, "foreign_keys(1)", "synchronous(FULL)"}})
	if err != nil {
		return err
	}
	p, err := provider(db)
	if err == nil {
		_, err = p.Up(ctx)
	}
	if err := errors.Join(err, db.Close()); err != nil {
		return err
	}
	if err := os.Rename(fresh, file); err != nil {
		return err
	}
	return disk.SyncFolder(filepath.Dir(file))
}

// magic begins every file of SQLite's.
const magic = "SQLite format 3\x00"

// Look returns the Refusal of a file that is not to be opened. It changes nothing, and may be called
// while a program has the file open.
func Look(ctx context.Context, file string) error {
	f, err := os.Open(file)
	if err != nil {
		return Refusal{Unwritable, file, err.Error()}
	}
	head := make([]byte, len(magic))
	n, err := io.ReadFull(f, head)
	if err := f.Close(); err != nil {
		return err
	}
	switch {
	case n == 0:
		return Refusal{Why: Emptied, File: file}
	case err != nil || !bytes.Equal(head, []byte(magic)):
		return Refusal{NoDatabase, file, "it is no database"}
	}
	db, err := connect(file, reading)
	if err != nil {
		return err
	}
	return errors.Join(lookInside(ctx, file, db), db.Close())
}

// lookInside is Look for a file that SQLite can make something of.
func lookInside(ctx context.Context, file string, db *sql.DB) error {
	if err := lookAtWAL(ctx, file, db); err != nil {
		return err
	}
	version, err := schemaOf(ctx, db)
	switch {
	case ctx.Err() != nil:
		return ctx.Err()
	case err != nil:
		return Refusal{Damaged, file, err.Error()}
	case version == 0:
		return Refusal{NoDatabase, file, "it is another program's database"}
	case version > Schema():
		return Refusal{Newer, file, strconv.Itoa(version)}
	}
	found, err := wrongWith(ctx, file, db)
	switch {
	case ctx.Err() != nil:
		return ctx.Err()
	case err != nil:
		return Refusal{Damaged, file, err.Error()}
	case found != "":
		return Refusal{Damaged, file, found}
	}
	return nil
}

// reading are the parameters of a connection that cannot write.
var reading = url.Values{"mode": {"ro"}, "_pragma": {pragmas}}

// hasTable tells whether a file has a table.
func hasTable(ctx context.Context, db *sql.DB, name string) (has bool, err error) {
	return has, db.QueryRowContext(ctx, `SELECT count(*) > 0 FROM sqlite_schema WHERE name = ?`, name).Scan(&has)
}

// schemaOf returns the version of a file's records, 0 where it has none.
func schemaOf(ctx context.Context, db *sql.DB) (version int, err error) {
	if known, err := hasTable(ctx, db, "goose_db_version"); err != nil || !known {
		return 0, err
	}
	return version, db.QueryRowContext(ctx, `SELECT max(version_id) FROM goose_db_version WHERE is_applied`).Scan(&version)
}

// wrongWith returns the first thing that SQLite finds wrong with a file, "" for nothing.
func wrongWith(ctx context.Context, file string, db *sql.DB) (string, error) {
	info, err := os.Stat(file)
	if err != nil {
		return "", err
	}
	question := `PRAGMA integrity_check(1)`
	if info.Size() > checkedWhole {
		question = `PRAGMA quick_check(1)`
	}
	var said string
	if err := db.QueryRowContext(ctx, question).Scan(&said); err != nil {
		return "", err
	}
	if said == "ok" {
		said = ""
	}
	return said, nil
}

// migrate applies what the database lacks. Before it changes an older file it
// copies it, so that nothing is lost where a migration goes wrong.
func (s *Store) migrate(ctx context.Context) error {
	p, err := provider(s.db)
	if err != nil {
		return err
	}
	pending, err := p.HasPending(ctx)
	if err != nil || !pending {
		return err
	}
	aside := fmt.Sprintf("%s.before-%s", s.file, time.Now().UTC().Format("20060102T150405"))
	if err := CopyTo(ctx, s.file, aside); err != nil {
		return fmt.Errorf("copying it aside: %w", err)
	}
	_, err = p.Up(ctx)
	return err
}

// CopyTo writes what a file of records holds at this moment, its -wal included, into a new file,
// whether a program has it open or not. It returns an error where the copy is there already or
// cannot be written; what it has written of it is gone then.
func CopyTo(ctx context.Context, file, to string) (err error) {
	f, err := os.OpenFile(to, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, os.Remove(to))
		}
	}()
	if err := f.Close(); err != nil {
		return err
	}
	db, err := connect(file, reading)
	if err != nil {
		return err
	}
	_, err = db.ExecContext(ctx, `VACUUM INTO ?`, to)
	if err = errors.Join(err, db.Close()); err != nil {
		return err
	}
	return whole(ctx, to)
}

// whole marks a copy as one that needs no -wal, and puts it on disk: SQLite does not wait for that
// when it copies.
func whole(ctx context.Context, file string) error {
	db, err := connect(file, url.Values{"_pragma": {pragmas}})
	if err != nil {
		return err
	}
	known, err := hasTable(ctx, db, "guard")
	if known {
		_, err = db.ExecContext(ctx, `UPDATE guard SET closed = 1`)
	}
	if err = errors.Join(err, db.Close()); err != nil {
		return err
	}
	f, err := os.OpenFile(file, os.O_RDWR, 0)
	if err != nil {
		return err
	}
	return errors.Join(f.Sync(), f.Close(), disk.SyncFolder(filepath.Dir(file)))
}

// provider knows all migrations: those in SQL, and those that have to understand what they
// change.
func provider(db *sql.DB) (*goose.Provider, error) {
	steps, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	return goose.NewProvider(goose.DialectSQLite3, db, steps,
		goose.WithGoMigrations(goose.NewGoMigration(8, &goose.GoFunc{RunTx: upTo8}, nil)))
}

// Schema is the version of the records that this program writes.
func Schema() int { return schema }

// schema is the number of the last migration.
const schema = 20
