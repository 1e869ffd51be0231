package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/planner"
)

// Kitchen is the kitchen as the planner reads it.
func (s *Store) Kitchen(ctx context.Context) (*planner.Kitchen, error) {
	snap, err := s.Snapshot(ctx)
	if err != nil {
		return nil, err
	}
	return &planner.Kitchen{Revision: snap.Revision, Book: snap.Book, Version: func(key kitchen.Key) int64 { return snap.Versions[key] }}, nil
}

// Head says which plan of a subject was told last, whether it is settled, and which was last
// printed.
func (s *Store) Head(ctx context.Context, subject string) (planner.Head, error) {
	var row struct {
		Number  int64      `db:"number"`
		Settled bool       `db:"settled"`
		Printed *time.Time `db:"printed"`
		OnPaper int64      `db:"on_paper"`
	}
	err := s.db.GetContext(ctx, &row, `SELECT p.number,
			EXISTS (SELECT FROM plan_mark m WHERE m.subject = p.subject AND m.plan = p.number AND m.mark = 'settled') AS settled,
			paper.at AS printed, coalesce(paper.plan, 0) AS on_paper
		FROM plan p LEFT JOIN LATERAL (SELECT at, plan FROM plan_mark m
			WHERE m.subject = p.subject AND m.mark = 'printed' ORDER BY m.number DESC LIMIT 1) paper ON true
		WHERE subject = $1 ORDER BY p.number DESC LIMIT 1`, subject)
	if errors.Is(err, sql.ErrNoRows) {
		return planner.Head{}, nil
	}
	if err != nil {
		return planner.Head{}, fmt.Errorf("reading which plan was told: %w", err)
	}
	return planner.Head{Number: row.Number, Settled: row.Settled, Printed: row.Printed, OnPaper: row.OnPaper}, nil
}

// Record returns a told plan; ErrNotFound when there is none of the number.
func (s *Store) Record(ctx context.Context, subject string, number int64) (*planner.Record, error) {
	var row struct {
		MadeAt                                    time.Time `db:"made_at"`
		Kind                                      string    `db:"kind"`
		Said                                      string    `db:"said"`
		Message                                   []byte    `db:"message"`
		Inputs                                    string    `db:"inputs"`
		Data, Versions, Work, Sched, Refs, Detail []byte
	}
	err := s.db.QueryRowxContext(ctx, `SELECT made_at, kind, said, message, inputs, data, versions, workload, schedule, refs, details
		FROM plan JOIN plan_inputs ON hash = inputs WHERE subject = $1 AND number = $2`, subject, number).
		Scan(&row.MadeAt, &row.Kind, &row.Said, &row.Message, &row.Inputs, &row.Data, &row.Versions, &row.Work, &row.Sched, &row.Refs,
			&row.Detail)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, ErrNotFound
	}
	if err != nil {
		return nil, fmt.Errorf("reading plan %d of %s: %w", number, subject, err)
	}
	r := &planner.Record{Subject: subject, Number: number, MadeAt: row.MadeAt, Kind: planner.Kind(row.Kind), Said: kept(row.Said),
		Inputs: row.Inputs, Data: row.Data,
		Workload: row.Work, Schedule: row.Sched, Refs: row.Refs, Details: row.Detail}
	if row.Message != nil {
		r.Said = message.Message{} // the sentence is in it
		err = json.Unmarshal(row.Message, &r.Said)
	}
	if err := errors.Join(err, json.Unmarshal(row.Versions, &r.Versions)); err != nil {
		return nil, fmt.Errorf("reading plan %d of %s: %w", number, subject, err)
	}
	return r, nil
}

// kept is the sentence of a plan that was told before messages were kept.
func kept(said string) message.Message {
	if said == "" {
		return message.Message{}
	}
	return message.Of("words.kept", "text", said)
}

// Tell writes a plan down, with what it was made from. planner.ErrBehind means that its
// number does not follow the last one: somebody else has told one.
func (s *Store) Tell(ctx context.Context, r *planner.Record) error {
	versions, err := json.Marshal(r.Versions)
	if err != nil {
		return err
	}
	said, err := json.Marshal(r.Said)
	if err != nil {
		return err
	}
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `INSERT INTO plan_inputs (hash, data) VALUES ($1, $2) ON CONFLICT DO NOTHING`, r.Inputs,
			string(r.Data)); err != nil {
			return fmt.Errorf("writing what a plan was made from: %w", err)
		}
		// The primary key keeps two from telling the same number.
		done, err := tx.ExecContext(ctx, `INSERT INTO plan (subject, number, made_at, kind, said, inputs, versions, workload, schedule, refs, details, message)
			SELECT $1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12
			WHERE $2 = (SELECT coalesce(max(number), 0) + 1 FROM plan WHERE subject = $1)
			ON CONFLICT DO NOTHING`,
			r.Subject, r.Number, r.MadeAt, string(r.Kind), r.Said.Text, r.Inputs, string(versions), string(r.Workload), string(r.Schedule),
			string(r.Refs), string(r.Details), string(said))
		if err != nil {
			return fmt.Errorf("writing plan %d of %s: %w", r.Number, r.Subject, err)
		}
		if n, err := done.RowsAffected(); err != nil || n == 0 {
			return errors.Join(planner.ErrBehind, err)
		}
		return nil
	})
}

// Mark writes down what became of a plan.
func (s *Store) Mark(ctx context.Context, subject string, number int64, mark planner.Mark) error {
	_, err := s.db.ExecContext(ctx, `INSERT INTO plan_mark (subject, plan, mark, at, person) VALUES ($1, $2, $3, $4, $5)`,
		subject, number, string(mark), s.clock(), whoOf(ctx))
	if err != nil {
		return fmt.Errorf("marking plan %d of %s as %s: %w", number, subject, mark, err)
	}
	return nil
}

// inTx runs do in one transaction.
func (s *Store) inTx(ctx context.Context, do func(*sqlx.Tx) error) error {
	tx, err := s.db.BeginTxx(ctx, nil)
	if err != nil {
		return err
	}
	defer tx.Rollback() //nolint:errcheck // after a commit there is nothing to roll back
	if err := do(tx); err != nil {
		return err
	}
	return tx.Commit()
}
