// Package store keeps the kitchen in PostgreSQL. Every write is one transaction
// that locks the kitchen, checks the change against everything else through
// package kitchen, and adds a version to the history; nothing is overwritten
// without its version being named.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"sync"
	"time"

	_ "github.com/jackc/pgx/v5/stdlib" // the driver
	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"

	"jointime/core/kitchen"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Migrations returns the embedded migrations, for tests that make databases.
func Migrations() fs.FS {
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		panic(err) // the folder is embedded above
	}
	return sub
}

// ErrNotFound means that there is no such record or version.
var ErrNotFound = errors.New("not found")

// Conflict means that the record changed since the version that was named.
type Conflict struct {
	Key     kitchen.Key
	Named   int64
	Current int64
}

func (c *Conflict) Error() string {
	return fmt.Sprintf("%s %q is at version %d, and the change was made from version %d", c.Key.Kind, c.Key.ID, c.Current, c.Named)
}

// InUse means that something refers to a record that was to be deleted.
type InUse struct {
	Key kitchen.Key
	By  []kitchen.Key
}

func (u *InUse) Error() string {
	return fmt.Sprintf("%s %q is used by %s %q", u.Key.Kind, u.Key.ID, u.By[0].Kind, u.By[0].ID)
}

// Store is a connection to the database. It is safe for use by many goroutines.
type Store struct {
	db    *sqlx.DB
	clock func() time.Time

	mu     sync.Mutex
	cached *Snapshot
}

// Open connects to a database and answers when it does. clock gives the time
// that is written beside changes.
func Open(ctx context.Context, url string, clock func() time.Time) (*Store, error) {
	db, err := sqlx.Open("pgx", url)
	if err != nil {
		return nil, fmt.Errorf("database address: %w", err)
	}
	db.SetMaxOpenConns(16)
	db.SetMaxIdleConns(8)
	s := &Store{db: db, clock: clock}
	if err := s.Ping(ctx); err != nil {
		return nil, errors.Join(err, db.Close())
	}
	return s, nil
}

// Close closes the connections.
func (s *Store) Close() error { return s.db.Close() }

// Ping reports whether the database answers.
func (s *Store) Ping(ctx context.Context) error {
	if err := s.db.PingContext(ctx); err != nil {
		return fmt.Errorf("the database does not answer: %w", err)
	}
	return nil
}

// Migrate brings the database forward to this program's version. It refuses a
// database that is ahead of it.
func (s *Store) Migrate(ctx context.Context) error {
	p, err := goose.NewProvider(goose.DialectPostgres, s.db.DB, Migrations())
	if err != nil {
		return err
	}
	current, err := p.GetDBVersion(ctx)
	if err != nil {
		return err
	}
	sources := p.ListSources()
	if newest := sources[len(sources)-1].Version; current > newest {
		return fmt.Errorf("the database is at migration %d, and this program knows %d: use a newer program", current, newest)
	}
	_, err = p.Up(ctx)
	return err
}

// Snapshot is the whole kitchen at one revision: the checked book, and the
// version of every record. It is read-only.
type Snapshot struct {
	Revision int64
	Book     *kitchen.Book
	Versions map[kitchen.Key]int64
	// Empty means that nobody has set up the kitchen yet; Book is nil then.
	Empty bool
	data  kitchen.Data
}

type row struct {
	Kind    kitchen.Kind `db:"kind"`
	ID      string       `db:"id"`
	Version int64        `db:"version"`
	Body    []byte       `db:"body"`
}

// Snapshot returns the kitchen as it is now. It reads one number when nothing
// changed since the last call.
func (s *Store) Snapshot(ctx context.Context) (*Snapshot, error) {
	var number int64
	if err := s.db.GetContext(ctx, &number, `SELECT number FROM revision`); err != nil {
		return nil, fmt.Errorf("reading the revision: %w", err)
	}
	if c := s.Known(); c != nil && c.Revision == number {
		return c, nil
	}
	tx, err := s.db.BeginTxx(ctx, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
	if err != nil {
		return nil, err
	}
	defer tx.Rollback() //nolint:errcheck // read only
	snap, err := read(ctx, tx)
	if err != nil {
		return nil, err
	}
	s.know(snap)
	return snap, nil
}

// Known is the kitchen as this server saw it last, without asking the database; nil before
// it was read once.
func (s *Store) Known() *Snapshot {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.cached
}

// know remembers a snapshot, unless a later one is known.
func (s *Store) know(snap *Snapshot) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.cached == nil || s.cached.Revision < snap.Revision {
		s.cached = snap
	}
}

func read(ctx context.Context, tx *sqlx.Tx) (*Snapshot, error) {
	snap := &Snapshot{Versions: map[kitchen.Key]int64{}}
	if err := tx.GetContext(ctx, &snap.Revision, `SELECT number FROM revision`); err != nil {
		return nil, fmt.Errorf("reading the revision: %w", err)
	}
	var rows []row
	if err := tx.SelectContext(ctx, &rows, `SELECT kind, id, version, body FROM record ORDER BY kind, position, id`); err != nil {
		return nil, fmt.Errorf("reading the kitchen: %w", err)
	}
	for _, r := range rows {
		snap.Versions[kitchen.Key{Kind: r.Kind, ID: r.ID}] = r.Version
		if err := snap.data.Put(r.Kind, r.Body); err != nil {
			return nil, fmt.Errorf("%s %q in the database: %w", r.Kind, r.ID, err)
		}
	}
	if _, ok := snap.Versions[kitchen.Key{Kind: kitchen.KitchenRecord, ID: kitchen.HouseID}]; !ok {
		snap.Empty = true
		return snap, nil
	}
	book, err := kitchen.NewBook(snap.data)
	if err != nil {
		return nil, fmt.Errorf("the kitchen in the database: %w", err)
	}
	snap.Book = book
	return snap, nil
}
