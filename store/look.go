package store

import (
	"context"
	"errors"
	"fmt"
	"path/filepath"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
)

// Seen is what a look at a folder of jobs shows.
type Seen struct {
	Jobs  int
	Last  time.Time // when something was written down last; zero where nothing was
	Older bool      // the next start brings it up to date
}

// Look looks at the jobs in a folder, also while a Draxel is at work there, and changes nothing. It fails with
// ErrNewer, and where there is no database that can be read.
func Look(ctx context.Context, dir string) (_ Seen, err error) {
	db, err := sqlx.ConnectContext(ctx, "sqlite", "file:"+filepath.Join(dir, File)+
		"?mode=rw&_pragma=busy_timeout(5000)&_pragma=query_only(1)")
	if err != nil {
		return Seen{}, fmt.Errorf("open database: %w", Told(err))
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	var has int64
	if err := db.GetContext(ctx, &has, "SELECT max(version_id) FROM "+goose.DefaultTablename); err != nil {
		return Seen{}, fmt.Errorf("read database version: %w", Told(err))
	}
	files, err := migrations.ReadDir("migrations")
	if err != nil {
		return Seen{}, fmt.Errorf("read migrations: %w", err)
	}
	if has > int64(len(files)) {
		return Seen{}, ErrNewer
	}
	var s Seen
	var last int64
	if err := errors.Join(db.GetContext(ctx, &s.Jobs, "SELECT count(*) FROM jobs WHERE deleted = 0"),
		db.GetContext(ctx, &last, "SELECT coalesce(max(at), 0) FROM journal")); err != nil {
		return Seen{}, fmt.Errorf("read database: %w", Told(err))
	}
	s.Older = has < int64(len(files))
	if last > 0 {
		s.Last = time.UnixMilli(last)
	}
	return s, nil
}
