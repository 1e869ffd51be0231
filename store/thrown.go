package store

import (
	"context"
	"fmt"
	"time"
)

// What was thrown away after a service.

// Thrown is some portions that were thrown away.
type Thrown struct {
	Number   int64     `db:"number" json:"number"`
	ID       string    `db:"id" json:"id"`
	Service  string    `db:"service" json:"service" doc:"Id of the service that they were of"`
	Kind     string    `db:"kind" json:"kind" enum:"dish,component"`
	About    string    `db:"about" json:"about" doc:"The id of that"`
	Portions int       `db:"portions" json:"portions"`
	Why      string    `db:"why" json:"why" enum:"too-much,spoilt,dropped,overdone,came-back,other"`
	Words    string    `db:"words" json:"words"`
	Person   string    `db:"person" json:"person"`
	At       time.Time `db:"at" json:"at"`
	Undone   bool      `db:"undone" json:"undone" doc:"It was taken back"`
}

// AddThrown writes some down; what has the same id stays as it was.
func (s *Store) AddThrown(ctx context.Context, list ...Thrown) error {
	tx, err := s.db.BeginTxx(ctx, nil)
	if err != nil {
		return fmt.Errorf("writing what was thrown away: %w", err)
	}
	defer tx.Rollback() //nolint:errcheck // nothing to undo after a commit
	for i := range list {
		t := &list[i]
		at := t.At
		if at.IsZero() {
			at = s.clock()
		}
		if _, err := tx.ExecContext(ctx, `INSERT INTO thrown (id, service, kind, about, portions, why, words, person, at)
			VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9) ON CONFLICT (id) DO NOTHING`,
			t.ID, t.Service, t.Kind, t.About, t.Portions, t.Why, t.Words, t.Person, at); err != nil {
			return fmt.Errorf("writing what was thrown away: %w", err)
		}
	}
	return tx.Commit()
}

// TakeThrownBack says that some were not thrown away. Errors: ErrNotFound.
func (s *Store) TakeThrownBack(ctx context.Context, number int64) error {
	done, err := s.db.ExecContext(ctx, `INSERT INTO thrown_undone (number, person, at) SELECT number, $2, $3 FROM thrown WHERE number = $1
		ON CONFLICT DO NOTHING`, number, whoOf(ctx), s.clock())
	if err != nil {
		return fmt.Errorf("taking back what was thrown away: %w", err)
	}
	if n, err := done.RowsAffected(); err != nil || n > 0 {
		return err
	}
	var there bool
	if err := s.db.GetContext(ctx, &there, `SELECT EXISTS (SELECT FROM thrown WHERE number = $1)`, number); err != nil {
		return fmt.Errorf("reading what was thrown away: %w", err)
	}
	if !there {
		return ErrNotFound
	}
	return nil // it was taken back already
}

// ThrownAway is what was thrown away after a service, the last first; after all of them where service is empty.
func (s *Store) ThrownAway(ctx context.Context, service string) ([]Thrown, error) {
	out := []Thrown{}
	if err := s.db.SelectContext(ctx, &out, `SELECT t.number, t.id, t.service, t.kind, t.about, t.portions, t.why, t.words, t.person, t.at,
		u.number IS NOT NULL AS undone FROM thrown t LEFT JOIN thrown_undone u USING (number)
		WHERE $1 = '' OR t.service = $1 ORDER BY t.number DESC LIMIT 20000`, service); err != nil {
		return nil, fmt.Errorf("reading what was thrown away: %w", err)
	}
	return out, nil
}

// ThrownOne is one of them. Errors: ErrNotFound.
func (s *Store) ThrownOne(ctx context.Context, number int64) (*Thrown, error) {
	out := []Thrown{}
	if err := s.db.SelectContext(ctx, &out, `SELECT t.*, false AS undone FROM thrown t WHERE number = $1`, number); err != nil {
		return nil, fmt.Errorf("reading what was thrown away: %w", err)
	}
	if len(out) == 0 {
		return nil, ErrNotFound
	}
	return &out[0], nil
}
