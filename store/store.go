// Package store keeps jobs in SQLite: facts, decisions and a journal of every change.
//
// A job is a set of subjects, each a small JSON document under a name: the job itself, the two tables, the statement of
// kept housings, and one for each decision. A change puts some subjects in one transaction together with its row in the
// journal, which holds them before and after; so undo is a change like any other, works after a restart, and what was
// answered is never lost. Every subject has a version, and a change made from a stale one is refused.
package store

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"time"

	"github.com/gofrs/flock"
	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the driver "sqlite"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Errors that a caller tells apart.
var (
	ErrInUse  = errors.New("another Draxel is using this data folder")
	ErrNewer  = errors.New("the data was written by a newer Draxel: update Draxel")
	ErrNoJob  = errors.New("there is no such job")
	ErrNoUndo = errors.New("there is nothing to undo")
	ErrMoved  = errors.New("the job has changed since this was checked")
	ErrUsed   = errors.New("that change id was used for something else")
)

// Store is an open database. It is safe for use by several goroutines.
type Store struct {
	db    *sqlx.DB // writes: one connection, so that changes come one after the other
	reads *sqlx.DB
	lock  *flock.Flock
	dir   string
	now   func() time.Time
}

// readers is how many can read at once.
const readers = 8

// File is the name of the database in its folder.
const File = "draxel.db"

// Open opens or creates the database in the folder. It fails with ErrInUse while another process has it open and with
// ErrNewer when it is of a later version; before an older one is migrated a copy is put beside it.
func Open(ctx context.Context, dir string, now func() time.Time) (*Store, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, fmt.Errorf("open data folder: %w", Told(err))
	}
	lock := flock.New(filepath.Join(dir, "draxel.lock"))
	held, err := lock.TryLock()
	if err != nil {
		return nil, fmt.Errorf("lock data folder: %w", err)
	}
	if !held {
		return nil, fmt.Errorf("%s: %w", dir, ErrInUse)
	}
	s := &Store{lock: lock, dir: dir, now: now}
	if err := s.clear(); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	if err := s.open(ctx, filepath.Join(dir, File)); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	return s, nil
}

func (s *Store) open(ctx context.Context, path string) error {
	if err := private(path); err != nil {
		return err
	}
	const pragmas = "?_pragma=journal_mode(WAL)&_pragma=busy_timeout(5000)&_pragma=foreign_keys(1)" +
		"&_pragma=synchronous(FULL)"
	db, err := sqlx.ConnectContext(ctx, "sqlite", "file:"+path+pragmas+"&_txlock=immediate")
	if err != nil {
		return fmt.Errorf("open database: %w", Told(err))
	}
	s.db = db
	db.SetMaxOpenConns(1)
	if s.reads, err = sqlx.ConnectContext(ctx, "sqlite", "file:"+path+pragmas+"&_pragma=query_only(1)"); err != nil {
		return fmt.Errorf("open database: %w", Told(err))
	}
	s.reads.SetMaxOpenConns(readers)
	s.reads.SetMaxIdleConns(readers)
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return fmt.Errorf("read migrations: %w", err)
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, db.DB, files, goose.WithVerbose(false))
	if err != nil {
		return fmt.Errorf("read migrations: %w", err)
	}
	has, want, err := provider.GetVersions(ctx)
	if err != nil {
		return fmt.Errorf("read database version: %w", err)
	}
	switch {
	case has > want:
		return ErrNewer
	case has == want:
		return s.forget(ctx)
	case has > 0:
		if err := s.keepBefore(ctx, fmt.Sprintf("%s.before-%d", path, want)); err != nil {
			return err
		}
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("migrate database: %w", err)
	}
	return s.forget(ctx)
}

// unfinished marks files that are being written: whoever opens the folder finds none but those of a Draxel that was
// killed, and takes them away.
const unfinished = ".part"

func (s *Store) clear() error {
	var err error
	for _, of := range []string{"draxel-upload-*", File + ".before-*"} {
		left, e := filepath.Glob(filepath.Join(s.dir, of+unfinished))
		err = errors.Join(err, e)
		for _, path := range left {
			err = errors.Join(err, os.Remove(path))
		}
	}
	if err != nil {
		return fmt.Errorf("clear data folder: %w", Told(err))
	}
	return nil
}

// Temporary makes a file beside the jobs for something large that is being taken in. Whoever has it removes it.
func (s *Store) Temporary() (*os.File, error) {
	f, err := os.CreateTemp(s.dir, "draxel-upload-*"+unfinished)
	if err != nil {
		return nil, fmt.Errorf("take a file in: %w", Told(err))
	}
	return f, nil
}

// keepBefore puts a copy of the database beside it as it is before it is brought up to date. The first copy stays as it
// is for ever, whatever becomes of the migration; one more is that of the last try.
func (s *Store) keepBefore(ctx context.Context, path string) error {
	part := path + unfinished
	if err := s.copyTo(ctx, part); err != nil {
		return err
	}
	if _, err := os.Lstat(path); err == nil {
		path += "-again"
	}
	if err := os.Rename(part, path); err != nil {
		return fmt.Errorf("copy database: %w", Told(err))
	}
	return nil
}

// private makes a file that nobody else can read, whatever the folder is like, or takes it from others.
func private(path string) error {
	f, err := os.OpenFile(path, os.O_CREATE|os.O_RDWR, 0o600)
	if err == nil {
		err = errors.Join(f.Chmod(0o600), f.Close())
	}
	if err != nil {
		return fmt.Errorf("open database: %w", Told(err))
	}
	return nil
}

func (s *Store) copyTo(ctx context.Context, path string) error {
	if err := os.Remove(path); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("copy database: %w", err)
	}
	if err := private(path); err != nil { // an empty file is filled
		return err
	}
	if _, err := s.db.ExecContext(ctx, "VACUUM INTO ?", path); err != nil {
		return fmt.Errorf("copy database: %w", Told(err))
	}
	return nil
}

// Copy writes a consistent copy of the database in a folder, as one file, to w, also while a Draxel is at work in it.
// It changes nothing.
func Copy(ctx context.Context, dir string, w io.Writer) (err error) {
	db, err := sqlx.ConnectContext(
		ctx,
		"sqlite",
		"file:"+filepath.Join(dir, File)+"?mode=rw&_pragma=busy_timeout(5000)",
	)
	if err != nil {
		return fmt.Errorf("open database: %w", Told(err))
	}
	s := &Store{db: db}
	return errors.Join(s.Backup(ctx, w), db.Close())
}

// Backup writes a consistent copy of the database, as one file, to w.
func (s *Store) Backup(ctx context.Context, w io.Writer) (err error) {
	dir, err := os.MkdirTemp("", "draxel-backup")
	if err != nil {
		return fmt.Errorf("backup: %w", err)
	}
	defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
	path := filepath.Join(dir, "draxel.db")
	if err := s.copyTo(ctx, path); err != nil {
		return err
	}
	f, err := os.Open(path)
	if err != nil {
		return fmt.Errorf("backup: %w", err)
	}
	defer f.Close()
	if _, err := io.Copy(w, f); err != nil {
		return fmt.Errorf("backup: %w", err)
	}
	return nil
}

// Close closes the database and lets the folder go.
func (s *Store) Close() error {
	var err error
	if s.reads != nil {
		err = s.reads.Close()
	}
	if s.db != nil {
		err = errors.Join(err, s.db.Close())
	}
	return errors.Join(err, s.lock.Unlock())
}

func (s *Store) millis() int64 { return s.now().UTC().UnixMilli() }
