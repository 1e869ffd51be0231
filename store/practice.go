package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"
)

// Who trained at what, and how it went.

// Practice is a service that somebody trains at, or watches.
type Practice struct {
	ID       string          `db:"id"`
	Service  string          `db:"service"`
	Section  string          `db:"section"` // "" for one that is only watched
	Person   string          `db:"person"`  // by name
	Exercise string          `db:"exercise"`
	Body     json.RawMessage `db:"body"`
	BeganAt  time.Time       `db:"began_at"`
	// Of one that has ended.
	EndedAt *time.Time       `db:"ended_at"`
	Mark    *int             `db:"mark"`
	Result  *json.RawMessage `db:"result"`
}

// BeginPractice writes down that one has begun.
func (s *Store) BeginPractice(ctx context.Context, p *Practice) error {
	if _, err := s.db.ExecContext(ctx,
		`INSERT INTO practice (id, service, section, person, exercise, body, began_at) VALUES ($1, $2, $3, $4, $5, $6, $7)`, p.ID, p.Service,
		p.Section, p.Person, p.Exercise, string(p.Body), p.BeganAt); err != nil {
		return fmt.Errorf("writing down that somebody trains: %w", err)
	}
	return nil
}

// EndPractice writes down how one went. One that was written down already stays as it is.
func (s *Store) EndPractice(ctx context.Context, id string, mark int, result []byte, at time.Time) error {
	if _, err := s.db.ExecContext(ctx, `INSERT INTO practice_result (id, mark, body, ended_at) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING`,
		id, mark, string(result), at); err != nil {
		return fmt.Errorf("writing down how somebody trained: %w", err)
	}
	return nil
}

const practices = `SELECT p.id, p.service, p.section, p.person, p.exercise, p.body, p.began_at, r.ended_at, r.mark, r.body AS result
	FROM practice p LEFT JOIN practice_result r USING (id) `

// Practice is one of them. Errors: ErrNotFound.
func (s *Store) Practice(ctx context.Context, id string) (*Practice, error) {
	var p Practice
	switch err := s.db.GetContext(ctx, &p, practices+`WHERE p.id = $1`, id); {
	case errors.Is(err, sql.ErrNoRows):
		return nil, ErrNotFound
	case err != nil:
		return nil, fmt.Errorf("reading what somebody trained: %w", err)
	}
	return &p, nil
}

// Practices are those of a person that were trained, not watched, the latest first; "" is everybody.
func (s *Store) Practices(ctx context.Context, person string, most int) ([]Practice, error) {
	out := []Practice{}
	if err := s.db.SelectContext(ctx, &out, practices+`WHERE p.section <> '' AND ($1 = '' OR p.person = $1) ORDER BY p.began_at DESC LIMIT $2`,
		person, most); err != nil {
		return nil, fmt.Errorf("reading what was trained: %w", err)
	}
	return out, nil
}
