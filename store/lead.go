package store

import (
	"context"
	"fmt"
	"time"
)

// Lead runs do while no other server on the database runs the same: led is false where another does. The lock belongs to a connection of
// its own, so that it is free as soon as its server has died.
func (s *Store) Lead(ctx context.Context, what string, do func() error) (led bool, err error) {
	conn, err := s.db.Conn(ctx)
	if err != nil {
		return false, fmt.Errorf("leading %s: %w", what, err)
	}
	defer conn.Close() //nolint:errcheck // it is given back
	if err := conn.QueryRowContext(ctx, `SELECT pg_try_advisory_lock(hashtextextended($1, 0))`, what).Scan(&led); err != nil {
		return false, fmt.Errorf("leading %s: %w", what, err)
	}
	if !led {
		return false, nil
	}
	defer func() {
		end, cancel := context.WithTimeout(context.WithoutCancel(ctx), 5*time.Second)
		defer cancel()
		if _, undone := conn.ExecContext(end, `SELECT pg_advisory_unlock(hashtextextended($1, 0))`, what); undone != nil {
			_ = conn.Raw(func(any) error { return undone }) // the lock must not go back to the pool with the connection
		}
	}()
	return true, do()
}
