package store

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
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
func (s *Store) Save(ctx context.Context, key Key, version int64, body any, said string) (int64, error) {
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
		d := copyData(snap.data)
		if err := put(&d, key.Kind, raw); err != nil {
			return nil, err
		}
		book, err := kitchen.NewBookWith(d, kitchen.Record{List: lists[key.Kind], ID: key.ID})
		if err != nil {
			return nil, within(err, key, d)
		}
		if version == 0 {
			// An id that was used before goes on counting where it stopped.
			if err := tx.GetContext(ctx, &version, `SELECT coalesce(max(version), 0) FROM record_history WHERE kind = $1 AND id = $2`, key.Kind, key.ID); err != nil {
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
func sameBody(d kitchen.Data, key Key, raw []byte) bool {
	for _, r := range records(key.Kind, d) {
		if r.id != key.ID {
			continue
		}
		now, err := json.Marshal(r.body)
		return err == nil && bytes.Equal(now, raw)
	}
	return false
}

// lists are what the kinds' lists are called in kitchen.Data.
var lists = map[Kind]string{KitchenKind: "kitchen", SectionKind: "sections", PersonKind: "people", EquipmentKind: "equipment", VesselKind: "vessels",
	ComponentKind: "components", DishKind: "dishes", ServiceKind: "services", StockKind: "stock"}

// within cuts the paths of faults down to the record they are in; faults outside
// it keep their whole path.
func within(err error, key Key, d kitchen.Data) error {
	var faults kitchen.Faults
	if !errors.As(err, &faults) {
		return err
	}
	prefix := prefixOf(key, d)
	out := make(kitchen.Faults, len(faults))
	for i, f := range faults {
		out[i] = f
		if rest, ok := strings.CutPrefix(f.Path, prefix); ok {
			out[i].Path = strings.TrimPrefix(rest, ".")
		}
	}
	return out
}

func prefixOf(key Key, d kitchen.Data) string {
	find := func(list string, n int, id func(int) string) string {
		for i := range n {
			if id(i) == key.ID {
				return fmt.Sprintf("%s[%d]", list, i)
			}
		}
		return list
	}
	switch key.Kind {
	case SectionKind:
		return find("sections", len(d.Sections), func(i int) string { return d.Sections[i].ID })
	case PersonKind:
		return find("people", len(d.People), func(i int) string { return d.People[i].ID })
	case EquipmentKind:
		return find("equipment", len(d.Equipment), func(i int) string { return d.Equipment[i].ID })
	case VesselKind:
		return find("vessels", len(d.Vessels), func(i int) string { return d.Vessels[i].ID })
	case ComponentKind:
		return find("components", len(d.Components), func(i int) string { return d.Components[i].ID })
	case DishKind:
		return find("dishes", len(d.Dishes), func(i int) string { return d.Dishes[i].ID })
	case ServiceKind:
		return find("services", len(d.Services), func(i int) string { return d.Services[i].ID })
	case StockKind:
		return find("stock", len(d.Stock), func(i int) string { return d.Stock[i].ID })
	}
	return "kitchen"
}

// insert writes the record, its history and its references.
func (s *Store) insert(ctx context.Context, tx *sqlx.Tx, key Key, version int64, body []byte, said string) error {
	now := s.clock()
	if _, err := tx.ExecContext(ctx, `
		INSERT INTO record (kind, id, version, position, body, changed_at)
		VALUES ($1, $2, $3, (SELECT coalesce(max(position), 0) + 1 FROM record WHERE kind = $1), $4, $5)
		ON CONFLICT (kind, id) DO UPDATE SET version = $3, body = $4, changed_at = $5`,
		key.Kind, key.ID, version, string(body), now); err != nil {
		return fmt.Errorf("writing %s %q: %w", key.Kind, key.ID, err)
	}
	if _, err := tx.ExecContext(ctx, `INSERT INTO record_history (kind, id, version, body, changed_at, said, person) VALUES ($1, $2, $3, $4, $5, $6, $7)`,
		key.Kind, key.ID, version, string(body), now, said, whoOf(ctx)); err != nil {
		return fmt.Errorf("writing the history of %s %q: %w", key.Kind, key.ID, err)
	}
	if _, err := tx.ExecContext(ctx, `DELETE FROM record_reference WHERE from_kind = $1 AND from_id = $2`, key.Kind, key.ID); err != nil {
		return err
	}
	refs, err := references(key.Kind, body)
	if err != nil {
		return err
	}
	for to := range refs {
		if _, err := tx.ExecContext(ctx, `INSERT INTO record_reference VALUES ($1, $2, $3, $4)`, key.Kind, key.ID, to.Kind, to.ID); err != nil {
			return fmt.Errorf("writing the references of %s %q: %w", key.Kind, key.ID, err)
		}
	}
	return nil
}

// references lists what a record points to.
func references(kind Kind, body []byte) (map[Key]bool, error) {
	out := map[Key]bool{}
	switch kind {
	case PersonKind:
		var p kitchen.Person
		if err := json.Unmarshal(body, &p); err != nil {
			return nil, err
		}
		for _, s := range p.Sections {
			out[Key{SectionKind, s}] = true
		}
	case ComponentKind:
		var c kitchen.Component
		if err := json.Unmarshal(body, &c); err != nil {
			return nil, err
		}
		out[Key{SectionKind, c.Section}] = true
		for _, s := range c.Steps {
			if s.Section != "" {
				out[Key{SectionKind, s.Section}] = true
			}
		}
		for _, u := range c.Uses {
			out[Key{ComponentKind, u.Component}] = true
		}
		for _, b := range c.ByProducts {
			out[Key{ComponentKind, b.Component}] = true
		}
	case DishKind:
		var d kitchen.Dish
		if err := json.Unmarshal(body, &d); err != nil {
			return nil, err
		}
		out[Key{VesselKind, d.Specification.Vessel}] = true
		specs := []*kitchen.Specification{&d.Specification}
		if d.Draft != nil {
			out[Key{VesselKind, d.Draft.Vessel}] = true
			specs = append(specs, d.Draft)
		}
		for _, s := range specs {
			for _, e := range s.Elements {
				out[Key{ComponentKind, e.Component}] = true
			}
			for _, v := range s.Variants {
				for _, c := range v.Changes {
					if c.With != nil {
						out[Key{ComponentKind, c.With.Component}] = true
					}
				}
			}
		}
	case ServiceKind:
		var x kitchen.Service
		if err := json.Unmarshal(body, &x); err != nil {
			return nil, err
		}
		for _, m := range x.Menu {
			out[Key{DishKind, m.Dish}] = true
		}
		for _, t := range x.Tables {
			for _, o := range t.Orders {
				out[Key{DishKind, o.Dish}] = true
			}
		}
	case StockKind:
		var x kitchen.Stock
		if err := json.Unmarshal(body, &x); err != nil {
			return nil, err
		}
		out[Key{ComponentKind, x.Component}] = true
	}
	return out, nil
}

// Delete removes a record that nothing refers to; its history stays.
func (s *Store) Delete(ctx context.Context, key Key, version int64, said string) error {
	return s.write(ctx, func(tx *sqlx.Tx, snap *Snapshot) (*Snapshot, error) {
		current := snap.Versions[key]
		switch {
		case current == 0:
			return nil, ErrNotFound
		case current != version:
			return nil, &Conflict{key, version, current}
		}
		var by []struct {
			Kind Kind   `db:"from_kind"`
			ID   string `db:"from_id"`
		}
		if err := tx.SelectContext(ctx, &by, `SELECT from_kind, from_id FROM record_reference
			WHERE to_kind = $1 AND to_id = $2 AND NOT (from_kind = $1 AND from_id = $2) ORDER BY 1, 2`, key.Kind, key.ID); err != nil {
			return nil, err
		}
		if len(by) > 0 {
			u := &InUse{Key: key}
			for _, b := range by {
				u.By = append(u.By, Key{b.Kind, b.ID})
			}
			return nil, u
		}
		// Not everything is said by references: a step needs some oven, not a certain one.
		d := drop(snap.data, key)
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

// drop returns the data without one record.
func drop(d kitchen.Data, key Key) kitchen.Data {
	d = copyData(d)
	switch key.Kind {
	case SectionKind:
		d.Sections = slices.DeleteFunc(d.Sections, func(x kitchen.Section) bool { return x.ID == key.ID })
	case PersonKind:
		d.People = slices.DeleteFunc(d.People, func(x kitchen.Person) bool { return x.ID == key.ID })
	case EquipmentKind:
		d.Equipment = slices.DeleteFunc(d.Equipment, func(x kitchen.Equipment) bool { return x.ID == key.ID })
	case VesselKind:
		d.Vessels = slices.DeleteFunc(d.Vessels, func(x kitchen.Vessel) bool { return x.ID == key.ID })
	case ComponentKind:
		d.Components = slices.DeleteFunc(d.Components, func(x kitchen.Component) bool { return x.ID == key.ID })
	case DishKind:
		d.Dishes = slices.DeleteFunc(d.Dishes, func(x kitchen.Dish) bool { return x.ID == key.ID })
	case ServiceKind:
		d.Services = slices.DeleteFunc(d.Services, func(x kitchen.Service) bool { return x.ID == key.ID })
	case StockKind:
		d.Stock = slices.DeleteFunc(d.Stock, func(x kitchen.Stock) bool { return x.ID == key.ID })
	}
	return d
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
func (s *Store) History(ctx context.Context, key Key) ([]Version, error) {
	out := []Version{}
	err := s.db.SelectContext(ctx, &out, `SELECT version, to_char(changed_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') AS changed_at, said, person,
		coalesce(body ->> 'state', '') AS state FROM record_history WHERE kind = $1 AND id = $2 ORDER BY version DESC`, key.Kind, key.ID)
	if err == nil && len(out) == 0 {
		err = ErrNotFound
	}
	return out, err
}

// At decodes a record as it was at a version into v.
func (s *Store) At(ctx context.Context, key Key, version int64, v any) error {
	var body []byte
	err := s.db.GetContext(ctx, &body, `SELECT body FROM record_history WHERE kind = $1 AND id = $2 AND version = $3`, key.Kind, key.ID, version)
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
		next := &Snapshot{Book: book, Versions: map[Key]int64{}, data: d}
		for _, kind := range kinds {
			for _, r := range records(kind, d) {
				raw, err := json.Marshal(r.body)
				if err != nil {
					return nil, err
				}
				key := Key{kind, r.id}
				if err := s.insert(ctx, tx, key, 1, raw, said); err != nil {
					return nil, err
				}
				next.Versions[key] = 1
			}
		}
		return next, nil
	})
}

type record struct {
	id   string
	body any
}

func records(kind Kind, d kitchen.Data) []record {
	var out []record
	switch kind {
	case KitchenKind:
		out = append(out, record{HouseID, d.Kitchen})
	case SectionKind:
		for _, x := range d.Sections {
			out = append(out, record{x.ID, x})
		}
	case PersonKind:
		for _, x := range d.People {
			out = append(out, record{x.ID, x})
		}
	case EquipmentKind:
		for _, x := range d.Equipment {
			out = append(out, record{x.ID, x})
		}
	case VesselKind:
		for _, x := range d.Vessels {
			out = append(out, record{x.ID, x})
		}
	case ComponentKind:
		for _, x := range d.Components {
			out = append(out, record{x.ID, x})
		}
	case DishKind:
		for _, x := range d.Dishes {
			out = append(out, record{x.ID, x})
		}
	case ServiceKind:
		for _, x := range d.Services {
			out = append(out, record{x.ID, x})
		}
	case StockKind:
		for _, x := range d.Stock {
			out = append(out, record{x.ID, x})
		}
	}
	return out
}
