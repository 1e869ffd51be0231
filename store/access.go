package store

import (
	"cmp"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/jmoiron/sqlx"
)

// Who may sign in, and which screens are paired.

// Access is what a person may sign in as.
type Access struct {
	Person string    `db:"person"` // id
	Role   string    `db:"role"`
	Secret string    `db:"secret"` // its hash
	Number int64     `db:"number"` // grows with every change
	SetAt  time.Time `db:"set_at"`
}

// Place is what a paired screen is for.
type Place struct {
	Name    string `db:"name"`
	Role    string `db:"role"`
	Section string `db:"section"` // id, "" unless its role is section
}

// Device is a paired screen.
type Device struct {
	ID string `db:"id"`
	Place
	PairedAt time.Time `db:"paired_at"`
}

// ErrLastChef means that nobody could sign in as the chef any more.
var ErrLastChef = errors.New("nobody could sign in as the chef any more")

// Entrance is what is known of a session: whether anybody has to sign in, the person's access and the paired screen, nil where there is
// none.
type Entrance struct {
	Locked bool // somebody signs in as the chef
	Access *Access
	Device *Device
}

// EntranceOf reads what is known of a person and of a screen, by ids.
func (s *Store) EntranceOf(ctx context.Context, person, device string) (*Entrance, error) {
	var row struct {
		Locked   bool           `db:"locked"`
		Role     sql.NullString `db:"role"`
		Secret   sql.NullString `db:"secret"`
		Number   sql.NullInt64  `db:"number"`
		SetAt    sql.NullTime   `db:"set_at"`
		Name     sql.NullString `db:"device_name"`
		Place    sql.NullString `db:"device_role"`
		Section  sql.NullString `db:"device_section"`
		PairedAt sql.NullTime   `db:"paired_at"`
	}
	err := s.db.GetContext(ctx, &row, `SELECT EXISTS (SELECT FROM person_access WHERE role = 'chef') AS locked, p.role, p.secret, p.number, p.set_at,
			d.name AS device_name, d.role AS device_role, d.section AS device_section, d.paired_at
		FROM (SELECT 1) one LEFT JOIN person_access p ON p.person = $1 LEFT JOIN device d ON d.id = $2 AND d.ended_at IS NULL`, person, device)
	if err != nil {
		return nil, fmt.Errorf("reading who may do what: %w", err)
	}
	e := &Entrance{Locked: row.Locked}
	if row.Role.Valid {
		e.Access = &Access{person, row.Role.String, row.Secret.String, row.Number.Int64, row.SetAt.Time}
	}
	if row.Place.Valid {
		e.Device = &Device{device, Place{row.Name.String, row.Place.String, row.Section.String}, row.PairedAt.Time}
	}
	return e, nil
}

// Accesses are all that may sign in, and Devices all paired screens, in order.
func (s *Store) Accesses(ctx context.Context) (list []Access, devices []Device, err error) {
	if err := s.db.SelectContext(ctx, &list, `SELECT * FROM person_access ORDER BY person`); err != nil {
		return nil, nil, fmt.Errorf("reading who may sign in: %w", err)
	}
	if err := s.db.SelectContext(ctx, &devices, `SELECT id, name, role, section, paired_at FROM device WHERE ended_at IS NULL
		ORDER BY paired_at, id`); err != nil {
		return nil, nil, fmt.Errorf("reading the paired screens: %w", err)
	}
	return list, devices, nil
}

// SetAccess lets a person sign in with a role. secret is a hash; "" keeps the one that is there. keepChef refuses what would leave no chef:
// ErrLastChef. ErrNotFound means that no secret is there to keep.
func (s *Store) SetAccess(ctx context.Context, person, name, role, secret string, keepChef bool) error {
	return s.accessTx(ctx, func(tx *sqlx.Tx) error {
		var old Access
		err := tx.GetContext(ctx, &old, `SELECT * FROM person_access WHERE person = $1`, person)
		if err != nil && !errors.Is(err, sql.ErrNoRows) {
			return fmt.Errorf("reading the access of %s: %w", person, err)
		}
		if secret == "" {
			if secret = old.Secret; secret == "" {
				return ErrNotFound
			}
		}
		if _, err := tx.ExecContext(ctx, `INSERT INTO person_access (person, role, secret, number, set_at) VALUES ($1, $2, $3, 1, $4)
			ON CONFLICT (person) DO UPDATE SET role = $2, secret = $3, number = person_access.number + 1, set_at = $4`,
			person, role, secret, s.clock()); err != nil {
			return fmt.Errorf("writing the access of %s: %w", person, err)
		}
		if err := chefLeft(ctx, tx, keepChef); err != nil {
			return err
		}
		return s.noteAccess(ctx, tx, "signs in as "+role, name)
	})
}

// EndAccess keeps a person from signing in. Errors: ErrNotFound, ErrLastChef.
func (s *Store) EndAccess(ctx context.Context, person, name string, keepChef bool) error {
	return s.accessTx(ctx, func(tx *sqlx.Tx) error {
		if err := one(tx.ExecContext(ctx, `DELETE FROM person_access WHERE person = $1`, person)); err != nil {
			return err
		}
		if err := chefLeft(ctx, tx, keepChef); err != nil {
			return err
		}
		return s.noteAccess(ctx, tx, "signs in no more", name)
	})
}

// accessTx changes who may sign in, one after another: two who end each other's access at once must not both succeed.
func (s *Store) accessTx(ctx context.Context, do func(*sqlx.Tx) error) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `LOCK TABLE person_access IN SHARE ROW EXCLUSIVE MODE`); err != nil {
			return fmt.Errorf("holding who may sign in: %w", err)
		}
		return do(tx)
	})
}

// one is an error unless a statement changed one row.
func one(r sql.Result, err error) error {
	if err != nil {
		return err
	}
	if n, err := r.RowsAffected(); err != nil || n == 1 {
		return err
	}
	return ErrNotFound
}

func chefLeft(ctx context.Context, tx *sqlx.Tx, keepChef bool) error {
	if !keepChef {
		return nil
	}
	var left bool
	if err := tx.GetContext(ctx, &left, `SELECT EXISTS (SELECT FROM person_access WHERE role = 'chef')`); err != nil {
		return fmt.Errorf("reading who may sign in: %w", err)
	}
	if !left {
		return ErrLastChef
	}
	return nil
}

// NewPairing writes down a code, by its hash, that pairs one screen until an instant.
func (s *Store) NewPairing(ctx context.Context, code []byte, p Place, until time.Time) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `INSERT INTO pairing (code, name, role, section, until) VALUES ($1, $2, $3, $4, $5)`,
			code, p.Name, p.Role, p.Section, until); err != nil {
			return fmt.Errorf("writing a code: %w", err)
		}
		return s.noteAccess(ctx, tx, "may be paired as "+p.Role, p.Name)
	})
}

// Pair makes a screen of a code, which is used up. ErrNotFound means that there is no such code, that it was used, or that it is too old.
func (s *Store) Pair(ctx context.Context, code []byte, id string) (*Device, error) {
	d := &Device{ID: id, PairedAt: s.clock()}
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		err := tx.GetContext(ctx, &d.Place,
			`SELECT name, role, section FROM pairing WHERE code = $1 AND device IS NULL AND until > $2 FOR UPDATE`, code, d.PairedAt)
		if errors.Is(err, sql.ErrNoRows) {
			return ErrNotFound
		}
		if err != nil {
			return fmt.Errorf("reading a code: %w", err)
		}
		if _, err := tx.ExecContext(ctx, `INSERT INTO device (id, name, role, section, paired_at) VALUES ($1, $2, $3, $4, $5)`, id, d.Name,
			d.Role, d.Section, d.PairedAt); err != nil {
			return fmt.Errorf("pairing a screen: %w", err)
		}
		if _, err := tx.ExecContext(ctx, `UPDATE pairing SET device = $2 WHERE code = $1`, code, id); err != nil {
			return fmt.Errorf("using up a code: %w", err)
		}
		return s.noteAccess(ctx, tx, "is paired as "+d.Role, d.Name)
	})
	return d, err
}

// EndDevice unpairs a screen. It returns ErrNotFound where there is none.
func (s *Store) EndDevice(ctx context.Context, id string) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		var name string
		err := tx.GetContext(ctx, &name, `UPDATE device SET ended_at = $2 WHERE id = $1 AND ended_at IS NULL RETURNING name`, id, s.clock())
		if errors.Is(err, sql.ErrNoRows) {
			return ErrNotFound
		}
		if err != nil {
			return fmt.Errorf("unpairing a screen: %w", err)
		}
		return s.noteAccess(ctx, tx, "is unpaired", name)
	})
}

func (s *Store) noteAccess(ctx context.Context, tx *sqlx.Tx, what, about string) error {
	if _, err := tx.ExecContext(ctx, `INSERT INTO access_log (at, by, what, about) VALUES ($1, $2, $3, $4)`, s.clock(), Who(ctx), what,
		about); err != nil {
		return fmt.Errorf("noting who may do what: %w", err)
	}
	return nil
}

// Guess is a name under which wrong guesses are counted.
type Guess struct {
	Key  string
	Free int // so many are free
}

// guessesForgotten is how long after the last wrong guess none is remembered.
const guessesForgotten = 24 * time.Hour

// TryGuess counts a guess before it is judged, so that many at once count as many. wait is until when none is taken; then none was counted.
// pause says how long is waited after so many over those that are free.
func (s *Store) TryGuess(ctx context.Context, keys []Guess, pause func(over int) time.Duration) (wait time.Time, err error) {
	keys = slices.Clone(keys)
	slices.SortFunc(keys, func(a, b Guess) int { return cmp.Compare(a.Key, b.Key) }) // everybody holds them in one order
	now := s.clock()
	err = s.inTx(ctx, func(tx *sqlx.Tx) error {
		for _, k := range keys {
			var g struct {
				Failures int       `db:"failures"`
				Last     time.Time `db:"last"`
			}
			if err := tx.GetContext(ctx, &g, `INSERT INTO guess (key, failures, last) VALUES ($1, 0, $2)
				ON CONFLICT (key) DO UPDATE SET failures = CASE WHEN guess.last < $3 THEN 0 ELSE guess.failures END RETURNING failures, last`,
				k.Key, now, now.Add(-guessesForgotten)); err != nil {
				return fmt.Errorf("counting guesses: %w", err)
			}
			if over := g.Failures - k.Free; over >= 0 {
				if until := g.Last.Add(pause(over)); until.After(now) && until.After(wait) {
					wait = until
				}
			}
		}
		if !wait.IsZero() {
			return nil
		}
		for _, k := range keys {
			if _, err := tx.ExecContext(ctx, `UPDATE guess SET failures = failures + 1, last = $2 WHERE key = $1`, k.Key, now); err != nil {
				return fmt.Errorf("counting guesses: %w", err)
			}
		}
		return nil
	})
	return wait, err
}

// GuessedRight forgets the wrong guesses under some names.
func (s *Store) GuessedRight(ctx context.Context, keys []Guess) error {
	for _, k := range keys {
		if _, err := s.db.ExecContext(ctx, `DELETE FROM guess WHERE key = $1`, k.Key); err != nil {
			return fmt.Errorf("forgetting guesses: %w", err)
		}
	}
	return nil
}

// DB is the pool of connections, for those that keep tables of their own in the database.
func (s *Store) DB() *sql.DB { return s.db.DB }
