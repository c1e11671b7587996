package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"github.com/jmoiron/sqlx"
)

// Picture is a photograph's bytes, as JPEG.
type Picture struct {
	ID      string `db:"id"`
	Picture []byte `db:"picture"`
	Thumb   []byte `db:"thumb"`
}

// ErrNoPhoto says that there is no such photograph.
var ErrNoPhoto = errors.New("there is no such photograph")

func putPictures(ctx context.Context, tx *sqlx.Tx, job string, all []Picture) error {
	for _, p := range all {
		_, err := tx.ExecContext(ctx, `INSERT INTO photos (job, id, picture, thumb) VALUES (?, ?, ?, ?) ON CONFLICT (job, id) DO NOTHING`, job, p.ID, p.Picture, p.Thumb)
		if err != nil {
			return fmt.Errorf("write photograph: %w", err)
		}
	}
	return nil
}

// Photo gives a photograph. It fails with ErrNoPhoto.
func (s *Store) Photo(ctx context.Context, job, id string) (Picture, error) {
	var p Picture
	err := s.reads.GetContext(ctx, &p, `SELECT id, picture, thumb FROM photos WHERE job = ? AND id = ?`, job, id)
	if errors.Is(err, sql.ErrNoRows) {
		return p, ErrNoPhoto
	}
	if err != nil {
		return p, fmt.Errorf("read photograph: %w", err)
	}
	return p, nil
}
