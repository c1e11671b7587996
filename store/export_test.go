package store

import "context"

// Pragma sets something of the connection that writes: tests have it run out of room, or write no more.
func (s *Store) Pragma(ctx context.Context, text string) error {
	_, err := s.db.ExecContext(ctx, "PRAGMA "+text)
	return err
}
