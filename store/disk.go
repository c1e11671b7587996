package store

import (
	"errors"
	"fmt"
	"syscall"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// What the disk says, apart from what Draxel does wrong.
var (
	ErrFull     = errors.New("the disk is full")
	ErrReadOnly = errors.New("the data folder cannot be written")
	ErrBusy     = errors.New("something else is using the database")
)

// Told names what the disk is to blame for; any other error stays as it is.
func Told(err error) error {
	if err == nil {
		return nil
	}
	for _, kind := range []error{ErrFull, ErrReadOnly, ErrBusy} {
		if errors.Is(err, kind) {
			return err
		}
	}
	code := -1
	if e := (*sqlite.Error)(nil); errors.As(err, &e) {
		code = e.Code() & 0xff // the primary of an extended code
	}
	switch {
	case code == sqlite3.SQLITE_FULL, errors.Is(err, syscall.ENOSPC), errors.Is(err, syscall.EDQUOT):
		return fmt.Errorf("%w (%w)", ErrFull, err)
	case code == sqlite3.SQLITE_READONLY, code == sqlite3.SQLITE_CANTOPEN, code == sqlite3.SQLITE_PERM,
		errors.Is(err, syscall.EROFS), errors.Is(err, syscall.EACCES):
		return fmt.Errorf("%w (%w)", ErrReadOnly, err)
	case code == sqlite3.SQLITE_BUSY, code == sqlite3.SQLITE_LOCKED:
		return fmt.Errorf("%w (%w)", ErrBusy, err)
	}
	return err
}
