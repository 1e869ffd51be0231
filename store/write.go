package store

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"strings"

	"github.com/jmoiron/sqlx"

	"jointime/core/kitchen"
)

// write runs change in one transaction that holds the kitchen's lock, with the kitchen as
// it is then, and bumps the revision. The kitchen is read only when this server does not
// know it at that revision already. change returns the kitchen as it is afterwards, which
// is known from then on without being read.
func (s *Store) write(ctx context.Context, change func(*sqlx.Tx, *Snapshot) (*Snapshot, error)) error {
	var next *Snapshot
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		var number int64
		if err := tx.GetContext(ctx, &number, `UPDATE revision SET number = number + 1 RETURNING number`); err != nil {
			return fmt.Errorf("locking the kitchen: %w", err)
		}
		snap := s.Known()
		if snap == nil || snap.Revision != number-1 {
			var err error
			if snap, err = read(ctx, tx); err != nil {
				return err
			}
		}
		var err error
		if next, err = change(tx, snap); err != nil {
			return err
		}
		next.Revision = number
		return nil
	})
	if err == nil {
		s.know(next)
	}
	return err
}

// Save writes one record and returns its new version; the old one when nothing changed. version is the one that
// the change was made from, 0 for a new record. said is the sentence that stands
// in the history. Errors: *Conflict, ErrNotFound, kitchen.Faults (with paths into
// the record).
func (s *Store) Save(ctx context.Context, key kitchen.Key, version int64, body any, said string) (int64, error) {
	raw, err := json.Marshal(body)
	if err != nil {
		return 0, err
	}
	err = s.write(ctx, func(tx *sqlx.Tx, snap *Snapshot) (*Snapshot, error) {
		current := snap.Versions[key]
		switch {
		case current == 0 && version != 0:
			return nil, ErrNotFound
		case current != version:
			return nil, &Conflict{key, version, current}
		}
		if version > 0 && sameBody(snap.data, key, raw) {
			return nil, errSame // nothing changed: that makes no version
		}
		d := snap.data.Copy()
		if err := d.Put(key.Kind, raw); err != nil {
			return nil, err
		}
		book, err := kitchen.NewBookWith(d, key)
		if err != nil {
			return nil, within(err, key, d)
		}
		if version == 0 {
			// An id that was used before goes on counting where it stopped.
			if err := tx.GetContext(ctx, &version, `SELECT coalesce(max(version), 0) FROM record_history WHERE kind = $1 AND id = $2`, key.Kind,
				key.ID); err != nil {
				return nil, fmt.Errorf("reading the history of %s %q: %w", key.Kind, key.ID, err)
			}
		}
		version++
		next := &Snapshot{Book: book, Versions: maps.Clone(snap.Versions), data: d}
		next.Versions[key] = version
		return next, s.insert(ctx, tx, key, version, raw, said)
	})
	if errors.Is(err, errSame) {
		err = nil
	}
	return version, err
}

// errSame ends a transaction in which nothing was to be written.
var errSame = errors.New("nothing changed")

// sameBody reports whether a record has this body already.
func sameBody(d kitchen.Data, key kitchen.Key, raw []byte) bool {
	for _, r := range d.Records(key.Kind) {
		if r.ID != key.ID {
			continue
		}
		now, err := json.Marshal(r.Body)
		return err == nil && bytes.Equal(now, raw)
	}
	return false
}

// within cuts the paths of faults down to the record they are in; faults outside
// it keep their whole path.
func within(err error, key kitchen.Key, d kitchen.Data) error {
	var faults kitchen.Faults
	if !errors.As(err, &faults) {
		return err
	}
	prefix := d.Path(key)
	out := make(kitchen.Faults, len(faults))
	for i, f := range faults {
		out[i] = f
		if rest, ok := strings.CutPrefix(f.Path, prefix); ok {
			out[i].Path = strings.TrimPrefix(rest, ".")
		}
	}
	return out
}

// insert writes the record, its history and its references.
func (s *Store) insert(ctx context.Context, tx *sqlx.Tx, key kitchen.Key, version int64, body []byte, said string) error {
	now := s.clock()
	if _, err := tx.ExecContext(ctx, `
		INSERT INTO record (kind, id, version, position, body, changed_at)
		VALUES ($1, $2, $3, (SELECT coalesce(max(position), 0) + 1 FROM record WHERE kind = $1), $4, $5)
		ON CONFLICT (kind, id) DO UPDATE SET version = $3, body = $4, changed_at = $5`,
		key.Kind, key.ID, version, string(body), now); err != nil {
		return fmt.Errorf("writing %s %q: %w", key.Kind, key.ID, err)
	}
	if _, err := tx.ExecContext(ctx,
		`INSERT INTO record_history (kind, id, version, body, changed_at, said, person) VALUES ($1, $2, $3, $4, $5, $6, $7)`, key.Kind, key.ID,
		version, string(body), now, said, whoOf(ctx)); err != nil {
		return fmt.Errorf("writing the history of %s %q: %w", key.Kind, key.ID, err)
	}
	if _, err := tx.ExecContext(ctx, `DELETE FROM record_reference WHERE from_kind = $1 AND from_id = $2`, key.Kind, key.ID); err != nil {
		return err
	}
	refs, err := kitchen.References(key.Kind, body)
	if err != nil {
		return err
	}
	for _, to := range refs {
		if _, err := tx.ExecContext(ctx, `INSERT INTO record_reference VALUES ($1, $2, $3, $4)`, key.Kind, key.ID, to.Kind, to.ID); err != nil {
			return fmt.Errorf("writing the references of %s %q: %w", key.Kind, key.ID, err)
		}
	}
	return nil
}

// Delete removes a record that nothing refers to; its history stays.
func (s *Store) Delete(ctx context.Context, key kitchen.Key, version int64, said string) error {
	return s.write(ctx, func(tx *sqlx.Tx, snap *Snapshot) (*Snapshot, error) {
		current := snap.Versions[key]
		switch {
		case current == 0:
			return nil, ErrNotFound
		case current != version:
			return nil, &Conflict{key, version, current}
		}
		var by []struct {
			Kind kitchen.Kind `db:"from_kind"`
			ID   string       `db:"from_id"`
		}
		if err := tx.SelectContext(ctx, &by, `SELECT from_kind, from_id FROM record_reference
			WHERE to_kind = $1 AND to_id = $2 AND NOT (from_kind = $1 AND from_id = $2) ORDER BY 1, 2`, key.Kind, key.ID); err != nil {
			return nil, err
		}
		if len(by) > 0 {
			u := &InUse{Key: key}
			for _, b := range by {
				u.By = append(u.By, kitchen.Key{Kind: b.Kind, ID: b.ID})
			}
			return nil, u
		}
		// Not everything is said by references: a step needs some oven, not a certain one.
		d := snap.data.Copy()
		d.Drop(key)
		book, err := kitchen.NewBook(d)
		if err != nil {
			return nil, err
		}
		if _, err := tx.ExecContext(ctx, `DELETE FROM record_reference WHERE from_kind = $1 AND from_id = $2`, key.Kind, key.ID); err != nil {
			return nil, err
		}
		if _, err := tx.ExecContext(ctx, `INSERT INTO record_history (kind, id, version, body, changed_at, said, person)
			SELECT kind, id, version + 1, body, CAST($3 AS timestamptz), CAST($4 AS text), CAST($5 AS text) FROM record WHERE kind = $1 AND id = $2`,
			key.Kind, key.ID, s.clock(), said, whoOf(ctx)); err != nil {
			return nil, err
		}
		if _, err := tx.ExecContext(ctx, `DELETE FROM record WHERE kind = $1 AND id = $2`, key.Kind, key.ID); err != nil {
			return nil, err
		}
		next := &Snapshot{Book: book, Versions: maps.Clone(snap.Versions), data: d}
		delete(next.Versions, key)
		return next, nil
	})
}

// Version is one entry of a record's history.
type Version struct {
	Version   int64  `db:"version" json:"version"`
	ChangedAt string `db:"changed_at" json:"changed_at"`
	Said      string `db:"said" json:"said" doc:"What the change was"`
	By        string `db:"person" json:"by" doc:"Who made it; empty when nobody said"`
	State     string `db:"state" json:"state,omitempty" doc:"For a dish: its state then"`
}

// History lists the versions of a record, newest first.
func (s *Store) History(ctx context.Context, key kitchen.Key) ([]Version, error) {
	out := []Version{}
	err := s.db.SelectContext(ctx, &out, `SELECT version, to_char(changed_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') AS changed_at, said, person,
		coalesce(body ->> 'state', '') AS state FROM record_history WHERE kind = $1 AND id = $2 ORDER BY version DESC`, key.Kind, key.ID)
	if err == nil && len(out) == 0 {
		err = ErrNotFound
	}
	return out, err
}

// At decodes a record as it was at a version into v.
func (s *Store) At(ctx context.Context, key kitchen.Key, version int64, v any) error {
	var body []byte
	err := s.db.GetContext(ctx, &body, `SELECT body FROM record_history WHERE kind = $1 AND id = $2 AND version = $3`, key.Kind, key.ID,
		version)
	if errors.Is(err, sql.ErrNoRows) {
		return ErrNotFound
	}
	if err != nil {
		return err
	}
	return json.Unmarshal(body, v)
}

// ErrNotEmpty means that a whole kitchen was to be loaded over another.
var ErrNotEmpty = errors.New("the kitchen is set up already")

// Import loads a whole kitchen into an empty database, in one transaction.
func (s *Store) Import(ctx context.Context, d kitchen.Data, said string) error {
	book, err := kitchen.NewBook(d)
	if err != nil {
		return err
	}
	return s.write(ctx, func(tx *sqlx.Tx, snap *Snapshot) (*Snapshot, error) {
		if len(snap.Versions) > 0 {
			return nil, ErrNotEmpty
		}
		next := &Snapshot{Book: book, Versions: map[kitchen.Key]int64{}, data: d}
		for _, kind := range kitchen.Kinds() {
			for _, r := range d.Records(kind) {
				raw, err := json.Marshal(r.Body)
				if err != nil {
					return nil, err
				}
				key := kitchen.Key{Kind: kind, ID: r.ID}
				if err := s.insert(ctx, tx, key, 1, raw, said); err != nil {
					return nil, err
				}
				next.Versions[key] = 1
			}
		}
		return next, nil
	})
}
