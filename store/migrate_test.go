package store_test

import (
	"context"
	"testing"

	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/require"

	"jointime/store"
	"jointime/store/storetest"
)

// Ticks written down before runs had names that last are carried over: the first run of a
// step loses its number, others keep theirs, and each says whose step it is.
func TestOldTicksAreCarriedOver(t *testing.T) {
	url, ctx := storetest.URL(t), context.Background()
	db, err := sqlx.Open("pgx", url)
	require.NoError(t, err)
	defer db.Close()
	p, err := goose.NewProvider(goose.DialectPostgres, db.DB, store.Migrations())
	require.NoError(t, err)
	_, err = p.UpTo(ctx, 3)
	require.NoError(t, err)
	for _, task := range []string{"leek/tonight/1#trim", "leek/tonight/1#steam.1", "leek/tonight/1#steam.2", "leek/tonight/12#bake.11"} {
		_, err := db.Exec(`INSERT INTO tick (task, done, tasted, note, person, at) VALUES ($1, true, false, '', 'Ines', $2)`, task,
			storetest.Clock())
		require.NoError(t, err)
	}
	s, err := store.Open(ctx, url, storetest.Clock)
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, s.Migrate(ctx))
	ticks, err := s.Ticks(ctx, storetest.Clock().AddDate(0, 0, -1))
	require.NoError(t, err)
	got := map[string]string{}
	for _, x := range ticks {
		got[x.Task] = x.Batch
	}
	require.Equal(t, map[string]string{"leek/tonight/1#trim": "leek/tonight/1", "leek/tonight/1#steam": "leek/tonight/1",
		"leek/tonight/1#steam.2":  "leek/tonight/1",
		"leek/tonight/12#bake.11": "leek/tonight/12"}, got)
}
