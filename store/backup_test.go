package store_test

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/service"
	"jointime/demo"
	"jointime/store"
	"jointime/store/storetest"
)

// lib runs functions of scripts/lib.sh, as ./start does.
func lib(t *testing.T, script string, env ...string) (string, error) {
	t.Helper()
	cmd := exec.Command("bash", "-c", "set -euo pipefail; . ../scripts/lib.sh; "+script)
	cmd.Env = append(os.Environ(), env...)
	out, err := cmd.CombinedOutput()
	return strings.TrimSpace(string(out)), err
}

// What was backed up is there again after it was put back, and what was there meanwhile is kept beside it; a file that is no back-up
// changes nothing.
func TestBackUpAndRestore(t *testing.T) {
	ctx, url := context.Background(), storetest.URL(t)
	in := func(do func(s *store.Store)) {
		s, err := store.Open(ctx, url, storetest.Clock)
		require.NoError(t, err)
		do(s)
		require.NoError(t, s.Close())
	}
	count := func(s *store.Store) int {
		list, err := s.Events(ctx, "tonight", 0)
		require.NoError(t, err)
		return len(list)
	}
	add := func(s *store.Store, id string) {
		_, err := s.Append(ctx, "tonight", 0, func([]service.Event) ([]service.Event, error) { return []service.Event{event(id)}, nil })
		require.NoError(t, err)
	}
	file := filepath.Join(t.TempDir(), "kitchen.backup")
	in(func(s *store.Store) {
		require.NoError(t, s.Migrate(ctx))
		d, err := demo.Kitchen()
		require.NoError(t, err)
		require.NoError(t, s.Import(ctx, d, "demo"))
		add(s, "event-a")
		out, err := lib(t, `db_dump "$URL" "$FILE"`, "URL="+url, "FILE="+file)
		require.NoError(t, err, out)
		add(s, "event-b")
	})
	broken := filepath.Join(t.TempDir(), "broken")
	require.NoError(t, os.WriteFile(broken, []byte("no back-up"), 0o600))
	out, err := lib(t, `db_load "$URL" "$FILE"`, "URL="+url, "FILE="+broken)
	require.Error(t, err)
	require.Contains(t, out, "nothing was changed")
	in(func(s *store.Store) { require.Equal(t, 2, count(s)) })

	kept, err := lib(t, `db_load "$URL" "$FILE"`, "URL="+url, "FILE="+file)
	require.NoError(t, err, kept)
	in(func(s *store.Store) {
		require.Equal(t, 1, count(s))
		snap, err := s.Snapshot(ctx)
		require.NoError(t, err)
		require.NotEmpty(t, snap.Book.Dishes())
		require.NoError(t, s.Migrate(ctx), "and it goes on from there")
	})
	before, err := lib(t, `db_named "$URL" "$KEPT"`, "URL="+url, "KEPT="+kept)
	require.NoError(t, err)
	s, err := store.Open(ctx, before, storetest.Clock)
	require.NoError(t, err)
	require.Equal(t, 2, count(s), "nothing is lost")
	require.NoError(t, s.Close())
	_, err = lib(t, `"$(pg_bin)/psql" -q "$(db_named "$URL" postgres)" -c "DROP DATABASE \"$KEPT\" WITH (FORCE)"`, "URL="+url, "KEPT="+kept)
	require.NoError(t, err)
}
