package store

import (
	"context"
	"encoding/json"
	"fmt"
	"strconv"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/jmoiron/sqlx"

	"jointime/core/service"
)

// The log of a service.

// eventsChannel is where it is told that something was written: the number of the last event, and the service.
const eventsChannel = "service_event"

// Events returns the events of a service after one, in the order in which they were written.
func (s *Store) Events(ctx context.Context, id string, after int64) ([]service.Event, error) {
	return events(ctx, s.db, id, after)
}

// EventsOf is how many events a service has.
func (s *Store) EventsOf(ctx context.Context, id string) (int, error) {
	var n int
	if err := s.db.GetContext(ctx, &n, `SELECT coalesce(max(seq), 0) FROM service_event WHERE service = $1`, id); err != nil {
		return 0, fmt.Errorf("counting the log of %s: %w", id, err)
	}
	return n, nil
}

func events(ctx context.Context, db sqlx.QueryerContext, id string, after int64) ([]service.Event, error) {
	var rows [][]byte
	if err := sqlx.SelectContext(ctx, db, &rows, `SELECT body FROM service_event WHERE service = $1 AND seq > $2 ORDER BY seq`, id,
		after); err != nil {
		return nil, fmt.Errorf("reading the log of %s: %w", id, err)
	}
	out := make([]service.Event, len(rows))
	for i, b := range rows {
		if err := json.Unmarshal(b, &out[i]); err != nil {
			return nil, fmt.Errorf("event %d of %s: %w", after+int64(i)+1, id, err)
		}
	}
	return out, nil
}

// Append adds to the log of a service what judge makes of what is there already: the events that come after `after`, which the caller knows
// are missing from its own. One writer at a time: the counter of the service is held until the events are written. It returns those that
// came after, with what was added, each with its number. Nothing is written when judge returns an error.
func (s *Store) Append(ctx context.Context, id string, after int64,
	judge func(since []service.Event) ([]service.Event, error)) (since []service.Event, err error) {
	err = s.inTx(ctx, func(tx *sqlx.Tx) error {
		var last int64
		if err := tx.GetContext(ctx, &last, `INSERT INTO service_log (service, last) VALUES ($1, 0)
			ON CONFLICT (service) DO UPDATE SET last = service_log.last RETURNING last`, id); err != nil {
			return fmt.Errorf("holding the log of %s: %w", id, err)
		}
		if since, err = events(ctx, tx, id, after); err != nil {
			return err
		}
		more, err := judge(since)
		if err != nil || len(more) == 0 {
			return err
		}
		for i := range more {
			e := &more[i]
			e.Seq = last + int64(i) + 1
			body, err := json.Marshal(e)
			if err != nil {
				return err
			}
			if _, err := tx.ExecContext(ctx,
				`INSERT INTO service_event (service, seq, id, at, received_at, kind, body) VALUES ($1, $2, $3, $4, $5, $6, $7)`, id, e.Seq, e.ID, e.At,
				e.ReceivedAt, string(e.Kind), string(body)); err != nil {
				return fmt.Errorf("writing event %q of %s: %w", e.ID, id, err)
			}
		}
		last += int64(len(more))
		if _, err := tx.ExecContext(ctx, `UPDATE service_log SET last = $2 WHERE service = $1`, id, last); err != nil {
			return fmt.Errorf("counting the log of %s: %w", id, err)
		}
		if _, err := tx.ExecContext(ctx, `SELECT pg_notify($1, $2)`, eventsChannel, strconv.FormatInt(last, 10)+" "+id); err != nil {
			return fmt.Errorf("telling of the log of %s: %w", id, err)
		}
		since = append(since, more...)
		return nil
	})
	return since, err
}

// Listen calls heard whenever something was written to the log of a service, by whichever server, until the context ends or the connection
// is lost; it has a connection of its own. What was written before it listens is not told: read first after that.
func (s *Store) Listen(ctx context.Context, listening func(), heard func(id string)) error {
	conn, err := s.db.Conn(ctx)
	if err != nil {
		return fmt.Errorf("listening: %w", err)
	}
	defer conn.Close() //nolint:errcheck // it is given back
	return conn.Raw(func(driver any) error {
		c := driver.(*stdlib.Conn).Conn()
		if _, err := c.Exec(ctx, "LISTEN "+pgx.Identifier{eventsChannel}.Sanitize()); err != nil {
			return fmt.Errorf("listening: %w", err)
		}
		defer func() { // the connection goes back to the pool
			end, cancel := context.WithTimeout(context.WithoutCancel(ctx), time.Second)
			defer cancel()
			_, _ = c.Exec(end, "UNLISTEN *")
		}()
		listening()
		for {
			n, err := c.WaitForNotification(ctx)
			if err != nil {
				return fmt.Errorf("listening: %w", err)
			}
			for i := range n.Payload {
				if n.Payload[i] == ' ' {
					heard(n.Payload[i+1:])
					break
				}
			}
		}
	})
}
