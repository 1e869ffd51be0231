package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"
)

// DemoClock is how far the demo's own clock has come.
type DemoClock struct {
	Begins  time.Time `db:"begins"`  // when the demo opens, on its day
	Reached time.Time `db:"reached"` // it stands still while nobody serves it
	Real    bool      `db:"real"`    // it goes with the clock on the wall instead
}

// DemoClock reads the demo's clock; nil where there is none, as in every real kitchen.
func (s *Store) DemoClock(ctx context.Context) (*DemoClock, error) {
	var c DemoClock
	err := s.db.GetContext(ctx, &c, `SELECT begins, reached, real FROM demo_clock`)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("reading the demo's clock: %w", err)
	}
	return &c, nil
}

// BeginDemoClock gives the kitchen a clock of its own, which opens at an instant.
func (s *Store) BeginDemoClock(ctx context.Context, begins time.Time) error {
	if _, err := s.db.ExecContext(ctx, `INSERT INTO demo_clock (begins, reached, real) VALUES ($1, $1, false) ON CONFLICT (one) DO NOTHING`,
		begins); err != nil {
		return fmt.Errorf("beginning the demo's clock: %w", err)
	}
	return nil
}

// DemoClockReached writes down how far the demo's clock has come since it was read, unless somebody has put it meanwhile.
func (s *Store) DemoClockReached(ctx context.Context, was *DemoClock, reached time.Time) error {
	if _, err := s.db.ExecContext(ctx, `UPDATE demo_clock SET reached = $1 WHERE reached = $2 AND NOT real`, reached,
		was.Reached); err != nil {
		return fmt.Errorf("keeping the demo's clock: %w", err)
	}
	return nil
}

// SetDemoClock puts the demo's clock, where there is one.
func (s *Store) SetDemoClock(ctx context.Context, reached time.Time, real bool) error {
	if _, err := s.db.ExecContext(ctx, `UPDATE demo_clock SET reached = $1, real = $2`, reached, real); err != nil {
		return fmt.Errorf("putting the demo's clock: %w", err)
	}
	return nil
}
