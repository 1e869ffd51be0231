package store

import (
	"context"
	"time"

	"github.com/jmoiron/sqlx"
)

// Tick is what somebody said of a step of the prep plan: done (or not after all), how
// much it gave, tasted, a note.
type Tick struct {
	Task   string    `db:"task" json:"task"`
	Done   bool      `db:"done" json:"done"`
	Amount *float64  `db:"amount" json:"amount,omitempty" doc:"How much was really made, in the component's unit"`
	Tasted bool      `db:"tasted" json:"tasted"`
	Note   string    `db:"note" json:"note"`
	Person string    `db:"person" json:"person"`
	At     time.Time `db:"at" json:"at"`
}

// Ticks returns the newest tick of every step that has one. Their number grows with the
// days, and is bounded by since.
func (s *Store) Ticks(ctx context.Context, since time.Time) (map[string]Tick, error) {
	var rows []Tick
	if err := s.db.SelectContext(ctx, &rows, `SELECT DISTINCT ON (task) task, done, amount, tasted, note, person, at FROM tick
		WHERE at >= $1 ORDER BY task, number DESC`, since); err != nil {
		return nil, err
	}
	out := make(map[string]Tick, len(rows))
	for _, r := range rows {
		out[r.Task] = r
	}
	return out, nil
}

// AddTick writes a tick down, with the person and the time.
func (s *Store) AddTick(ctx context.Context, t Tick) error {
	return s.write(ctx, func(tx *sqlx.Tx, _ *Snapshot) error {
		_, err := tx.ExecContext(ctx, `INSERT INTO tick (task, done, amount, tasted, note, person, at) VALUES ($1, $2, $3, $4, $5, $6, $7)`,
			t.Task, t.Done, t.Amount, t.Tasted, t.Note, whoOf(ctx), s.clock())
		return err
	})
}

// ImportTicks writes ticks down as they are, with their own persons and times.
func (s *Store) ImportTicks(ctx context.Context, list []Tick) error {
	return s.write(ctx, func(tx *sqlx.Tx, _ *Snapshot) error {
		for _, t := range list {
			if _, err := tx.ExecContext(ctx, `INSERT INTO tick (task, done, amount, tasted, note, person, at) VALUES ($1, $2, $3, $4, $5, $6, $7)`,
				t.Task, t.Done, t.Amount, t.Tasted, t.Note, t.Person, t.At); err != nil {
				return err
			}
		}
		return nil
	})
}
