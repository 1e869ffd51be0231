package store

import (
	"context"
	"fmt"
	"time"
)

// Notes of the night.

// Note is something that somebody wants to know again.
type Note struct {
	Number  int64     `db:"number" json:"number"`
	ID      string    `db:"id" json:"id"`
	Service string    `db:"service" json:"service" doc:"Id of the service that it is of"`
	Kind    string    `db:"kind" json:"kind" enum:"night,dish,component,step,group" doc:"What it is about"`
	About   string    `db:"about" json:"about" doc:"The id of that; a group by its name, a step as component/step"`
	Body    string    `db:"body" json:"text"`
	Person  string    `db:"person" json:"person"`
	At      time.Time `db:"at" json:"at"`
	Done    bool      `db:"done" json:"done" doc:"It was put away: it does not come up again"`
}

// AddNote writes one down; one with the same id stays as it was.
func (s *Store) AddNote(ctx context.Context, n *Note) error {
	if _, err := s.db.ExecContext(ctx, `INSERT INTO note (id, service, kind, about, body, person, at) VALUES ($1, $2, $3, $4, $5, $6, $7)
		ON CONFLICT (id) DO NOTHING`, n.ID, n.Service, n.Kind, n.About, n.Body, n.Person, s.clock()); err != nil {
		return fmt.Errorf("writing a note: %w", err)
	}
	return nil
}

// PutNoteAway keeps one from coming up again. Errors: ErrNotFound.
func (s *Store) PutNoteAway(ctx context.Context, number int64) error {
	done, err := s.db.ExecContext(ctx, `INSERT INTO note_done (number, person, at) SELECT number, $2, $3 FROM note WHERE number = $1
		ON CONFLICT DO NOTHING`, number, whoOf(ctx), s.clock())
	if err != nil {
		return fmt.Errorf("putting a note away: %w", err)
	}
	if n, err := done.RowsAffected(); err != nil || n > 0 {
		return err
	}
	var there bool
	if err := s.db.GetContext(ctx, &there, `SELECT EXISTS (SELECT FROM note WHERE number = $1)`, number); err != nil {
		return fmt.Errorf("reading a note: %w", err)
	}
	if !there {
		return ErrNotFound
	}
	return nil // it was away already
}

// Notes are all of them, the last first.
func (s *Store) Notes(ctx context.Context) ([]Note, error) {
	out := []Note{}
	if err := s.db.SelectContext(ctx, &out, `SELECT n.number, n.id, n.service, n.kind, n.about, n.body, n.person, n.at, d.number IS NOT NULL AS done
		FROM note n LEFT JOIN note_done d USING (number) ORDER BY n.number DESC LIMIT 2000`); err != nil {
		return nil, fmt.Errorf("reading the notes: %w", err)
	}
	return out, nil
}
