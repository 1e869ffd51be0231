// Package storetest gives each test a database of its own.
package storetest

import (
	"context"
	"fmt"
	"net/url"
	"os"
	"sync/atomic"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/stretchr/testify/require"

	"jointime/store"
)

// Variable names the PostgreSQL database that tests may make databases beside;
// ./test sets it.
const Variable = "JOINTIME_TEST_DATABASE"

var made atomic.Int64

// URL makes an empty database for one test and drops it at its end. Without a
// server the test fails: nothing is skipped silently.
func URL(t testing.TB) string {
	t.Helper()
	base := os.Getenv(Variable)
	require.NotEmpty(t, base, "no database: run ./test, or set %s to a PostgreSQL that may be written to", Variable)
	admin, err := sqlx.Open("pgx", base)
	require.NoError(t, err)
	name := fmt.Sprintf("test_%d_%d", os.Getpid(), made.Add(1))
	_, err = admin.Exec("CREATE DATABASE " + name)
	require.NoError(t, err)
	t.Cleanup(func() {
		_, err := admin.Exec("DROP DATABASE " + name + " WITH (FORCE)")
		require.NoError(t, err)
		require.NoError(t, admin.Close())
	})
	u, err := url.Parse(base)
	require.NoError(t, err)
	u.Path = "/" + name
	return u.String()
}

// Clock is the fixed time of tests: a Thursday afternoon.
func Clock() time.Time { return time.Date(2026, 5, 14, 13, 30, 0, 0, time.UTC) }

// Open makes a database with all migrations and opens it.
func Open(t testing.TB) *store.Store { return OpenAt(t, Clock) }

// OpenAt is Open with another clock.
func OpenAt(t testing.TB, clock func() time.Time) *store.Store {
	t.Helper()
	return OpenURL(t, URL(t), clock)
}

// OpenURL is OpenAt with a database that another may have open too.
func OpenURL(t testing.TB, url string, clock func() time.Time) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), url, clock)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, s.Close()) })
	require.NoError(t, s.Migrate(context.Background()))
	return s
}
