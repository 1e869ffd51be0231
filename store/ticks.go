package store

import (
	"context"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"jointime/planner"
)

// tickRow is a tick as it is kept. Rows are only added: the newest of a step counts.
type tickRow struct {
	Task   string    `db:"task"`
	Batch  string    `db:"batch"`
	Done   bool      `db:"done"`
	Amount *float64  `db:"amount"`
	Tasted bool      `db:"tasted"`
	Note   string    `db:"note"`
	Person string    `db:"person"`
	At     time.Time `db:"at"`
}

// Ticks returns the newest tick of every step that has one. Their number grows with the
// days, and is bounded by since.
func (s *Store) Ticks(ctx context.Context, since time.Time) ([]planner.Tick, error) {
	var rows []tickRow
	if err := s.db.SelectContext(ctx, &rows, `SELECT DISTINCT ON (task) task, batch, done, amount, tasted, note, person, at FROM tick
		WHERE at >= $1 ORDER BY task, number DESC`, since); err != nil {
		return nil, fmt.Errorf("reading the ticks: %w", err)
	}
	out := make([]planner.Tick, len(rows))
	for i, r := range rows {
		r.At = r.At.UTC()
		out[i] = planner.Tick(r)
	}
	return out, nil
}

const insertTick = `INSERT INTO tick (task, batch, done, amount, tasted, note, person, at) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)`

// AddTick writes a tick down, with the person and the time. It locks nothing.
func (s *Store) AddTick(ctx context.Context, t planner.Tick) error {
	if _, err := s.db.ExecContext(ctx, insertTick, t.Task, t.Batch, t.Done, t.Amount, t.Tasted, t.Note, whoOf(ctx), s.clock()); err != nil {
		return fmt.Errorf("writing a tick: %w", err)
	}
	return nil
}

// ImportTicks writes ticks down as they are, with their own persons and times.
func (s *Store) ImportTicks(ctx context.Context, list []planner.Tick) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		for _, t := range list {
			if _, err := tx.ExecContext(ctx, insertTick, t.Task, t.Batch, t.Done, t.Amount, t.Tasted, t.Note, t.Person, t.At); err != nil {
				return fmt.Errorf("writing a tick: %w", err)
			}
		}
		return nil
	})
}
