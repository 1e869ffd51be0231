package store_test

import (
	"context"
	"testing"

	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/planner"
	"jointime/store"
	"jointime/store/storetest"
)

// migratedTo is a new database as it was at a version, and what brings it further.
func migratedTo(t *testing.T, version int64) (url string, db *sqlx.DB, p *goose.Provider) {
	url = storetest.URL(t)
	db, err := sqlx.Open("pgx", url)
	require.NoError(t, err)
	t.Cleanup(func() { _ = db.Close() })
	p, err = goose.NewProvider(goose.DialectPostgres, db.DB, store.Migrations())
	require.NoError(t, err)
	_, err = p.UpTo(context.Background(), version)
	require.NoError(t, err)
	return url, db, p
}

// Ticks written down before runs had names that last are carried over: the first run of a
// step loses its number, others keep theirs, and each says whose step it is.
func TestOldTicksAreCarriedOver(t *testing.T) {
	ctx := context.Background()
	url, db, _ := migratedTo(t, 3)
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

// Everybody watched four things at once before it could be said of each.
func TestEyesOfEarlierPeople(t *testing.T) {
	ctx := context.Background()
	_, db, p := migratedTo(t, 5)
	for id, body := range map[string]string{"old": `{"id": "old"}`, "new": `{"id": "new", "eyes": 2}`} {
		_, err := db.Exec(`INSERT INTO record (kind, id, version, position, body, changed_at) VALUES ('person', $1, 1, 0, $2, $3)`, id, body,
			storetest.Clock())
		require.NoError(t, err)
	}
	_, err := p.Up(ctx)
	require.NoError(t, err)
	var eyes []int
	require.NoError(t, db.Select(&eyes, `SELECT (body->>'eyes')::int FROM record WHERE kind = 'person' ORDER BY id DESC`))
	require.Equal(t, []int{4, 2}, eyes)
}

// What was written before hands could be said at the ends of a step has none there, and what says some keeps them.
func TestEndsOfEarlierSteps(t *testing.T) {
	ctx := context.Background()
	_, db, p := migratedTo(t, 6)
	for id, body := range map[string]string{"a": `{"id": "a", "steps": [{"id": "x"}, {"id": "y", "ends": {"in_s": 5, "out_s": 6}}, {"id": "z"}]}`,
		"b": `{"id": "b", "steps": []}`} {
		_, err := db.Exec(`INSERT INTO record (kind, id, version, position, body, changed_at) VALUES ('component', $1, 1, 0, $2, $3)`, id, body,
			storetest.Clock())
		require.NoError(t, err)
	}
	_, err := p.Up(ctx)
	require.NoError(t, err)
	var said []string
	require.NoError(t, db.Select(&said, `SELECT (s->>'id') || ' ' || (s->'ends'->>'in_s') || ' ' || (s->'ends'->>'out_s')
		FROM record, jsonb_array_elements(body->'steps') s WHERE kind = 'component'`))
	require.Equal(t, []string{"x 0 0", "y 5 6", "z 0 0"}, said)
	var none string
	require.NoError(t, db.Get(&none, `SELECT (body->'steps')::text FROM record WHERE id = 'b'`))
	require.Equal(t, "[]", none)
}

// A plan that was told before messages were kept has its sentence still; one told now has its message, facts and all.
func TestSentencesOfOldPlansAreKept(t *testing.T) {
	url, ctx := storetest.URL(t), context.Background()
	s, err := store.Open(ctx, url, storetest.Clock)
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, s.Migrate(ctx))
	said := message.All(message.Of("fire.goes-later", "table", "Table 3", "by", message.Length(600)),
		message.Of("fire.more-tables", "count", 2))
	r := &planner.Record{Subject: "service/x", Number: 1, MadeAt: storetest.Clock(), Kind: planner.Change, Said: said, Inputs: "h",
		Data:     []byte(`{}`),
		Versions: map[kitchen.Key]int64{{Kind: kitchen.ServiceRecord, ID: "x"}: 3}, Workload: []byte(`{}`), Schedule: []byte(`{}`),
		Refs:    []byte(`{}`),
		Details: []byte(`{}`)}
	require.NoError(t, s.Tell(ctx, r))
	back, err := s.Record(ctx, "service/x", 1)
	require.NoError(t, err)
	require.Equal(t, said, back.Said)
	require.Equal(t, r.Versions, back.Versions)

	db, err := sqlx.Open("pgx", url)
	require.NoError(t, err)
	defer db.Close()
	_, err = db.Exec(`UPDATE plan SET message = NULL, said = 'Table 3 goes 10 min later.'`)
	require.NoError(t, err)
	back, err = s.Record(ctx, "service/x", 1)
	require.NoError(t, err)
	require.Equal(t, "Table 3 goes 10 min later.", back.Said.Text)
	_, err = db.Exec(`UPDATE plan SET said = ''`)
	require.NoError(t, err)
	back, err = s.Record(ctx, "service/x", 1)
	require.NoError(t, err)
	require.False(t, back.Said.Said(), "the first plan says nothing")
	_, err = s.Record(ctx, "service/x", 2)
	require.ErrorIs(t, err, store.ErrNotFound)
	require.ErrorIs(t, s.Tell(ctx, r), planner.ErrBehind, "a number is told once")
}
