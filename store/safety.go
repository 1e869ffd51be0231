package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"jointime/core/kitchen"
	"jointime/core/safety"
)

// logRow is a line of the log of temperatures as it is kept.
type logRow struct {
	Number   int64         `db:"number"`
	Kind     string        `db:"kind"`
	What     string        `db:"what"`
	Ref      string        `db:"ref"`
	Subject  string        `db:"subject"`
	C        *float64      `db:"celsius"`
	Run      sql.NullInt64 `db:"run"`
	Note     string        `db:"note"`
	Person   string        `db:"person"`
	At       time.Time     `db:"at"`
	Written  time.Time     `db:"written"`
	Corrects sql.NullInt64 `db:"corrects"`
}

const logColumns = `number, kind, what, ref, subject, celsius, run, note, person, at, written, corrects`

func (r *logRow) entry() safety.Entry {
	return safety.Entry{Number: r.Number, Kind: safety.LogKind(r.Kind), What: r.What, Ref: r.Ref, Subject: safety.Subject(r.Subject), C: r.C,
		Run: r.Run.Int64, Note: r.Note, Person: r.Person, At: r.At.UTC(), Written: r.Written.UTC(), Corrects: r.Corrects.Int64}
}

// SafetyLog returns the lines of the log that were read from one instant to before another, by their numbers; and every line of a
// cooling of which one falls into that time.
func (s *Store) SafetyLog(ctx context.Context, from, to time.Time) ([]safety.Entry, error) {
	var rows []logRow
	if err := s.db.SelectContext(ctx, &rows, `WITH span AS (SELECT * FROM safety_log WHERE at >= $1 AND at < $2)
		SELECT `+logColumns+` FROM safety_log WHERE number IN (SELECT number FROM span)
		OR coalesce(run, number) IN (SELECT coalesce(run, number) FROM span WHERE kind = 'cooling')
		OR corrects IN (SELECT number FROM span) ORDER BY number`, from, to); err != nil {
		return nil, fmt.Errorf("reading the log of temperatures: %w", err)
	}
	out := make([]safety.Entry, len(rows))
	for i := range rows {
		out[i] = rows[i].entry()
	}
	return out, nil
}

// AddSafety adds a line to the log, with when it was written, and returns it as it is kept. id is the line's own from where it was
// typed: sent twice, it is kept once; a UUID. The error is kitchen.Faults where the line that it goes on with or corrects is not there.
func (s *Store) AddSafety(ctx context.Context, id string, e safety.Entry) (kept safety.Entry, err error) {
	err = s.inTx(ctx, func(tx *sqlx.Tx) error {
		// One after another: the numbers have no gaps.
		if _, err := tx.ExecContext(ctx, `SELECT pg_advisory_xact_lock(hashtext('safety_log'))`); err != nil {
			return err
		}
		var r logRow
		err := tx.GetContext(ctx, &r, `SELECT `+logColumns+` FROM safety_log WHERE id = $1`, id)
		if err == nil { // it was sent before
			kept = r.entry()
			return nil
		}
		if !errors.Is(err, sql.ErrNoRows) {
			return err
		}
		for path, n := range map[string]int64{"run": e.Run, "corrects": e.Corrects} {
			var there bool
			if err := tx.GetContext(ctx, &there, `SELECT $1 = 0 OR EXISTS (SELECT 1 FROM safety_log WHERE number = $1)`, n); err != nil {
				return err
			}
			if !there {
				return kitchen.Faults{kitchen.FaultAt(path, "fault.log-line", "number", n)}
			}
		}
		null := func(n int64) sql.NullInt64 { return sql.NullInt64{Int64: n, Valid: n > 0} }
		if err := tx.GetContext(ctx, &r, `INSERT INTO safety_log (number, id, kind, what, ref, subject, celsius, run, note, person, at, written, corrects)
			SELECT coalesce(max(number), 0) + 1, $1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12 FROM safety_log RETURNING `+logColumns,
			id, e.Kind, e.What, e.Ref, e.Subject, e.C, null(e.Run), e.Note, e.Person, e.At, s.clock(), null(e.Corrects)); err != nil {
			return err
		}
		kept = r.entry()
		return nil
	})
	var faults kitchen.Faults
	if err != nil && !errors.As(err, &faults) {
		err = fmt.Errorf("writing into the log of temperatures: %w", err)
	}
	return kept, err
}
