package store_test

import (
	"context"
	"testing"

	"github.com/jmoiron/sqlx"
	"github.com/stretchr/testify/require"

	"jointime/store"
	"jointime/store/storetest"
)

// What was trained and what was noted is only added to: a result is written once, a note sent twice counts once, what is put away is still
// there.
func TestWhatWasTrainedAndNotedIsOnlyAddedTo(t *testing.T) {
	url, ctx := storetest.URL(t), context.Background()
	s, err := store.Open(ctx, url, storetest.Clock)
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, s.Migrate(ctx))
	begin := func(id, section, person string) {
		require.NoError(t, s.BeginPractice(ctx, &store.Practice{ID: id, Service: "tonight", Section: section, Person: person, Exercise: "one",
			Body: []byte(`{"seed":7}`), BeganAt: storetest.Clock()}))
	}
	begin("practice-a", "roast", "Ada")
	begin("practice-b", "roast", "Pim")
	begin("practice-watched", "", "Ada")
	require.Error(t, s.BeginPractice(ctx, &store.Practice{ID: "practice-a", Body: []byte(`{}`), BeganAt: storetest.Clock()}))
	require.NoError(t, s.EndPractice(ctx, "practice-a", 71, []byte(`{"mark":71}`), storetest.Clock()))
	require.NoError(t, s.EndPractice(ctx, "practice-a", 99, []byte(`{"mark":99}`), storetest.Clock()))
	require.Error(t, s.EndPractice(ctx, "practice-none", 1, []byte(`{}`), storetest.Clock()))
	p, err := s.Practice(ctx, "practice-a")
	require.NoError(t, err)
	require.Equal(t, 71, *p.Mark)
	require.JSONEq(t, `{"mark":71}`, string(*p.Result))
	_, err = s.Practice(ctx, "practice-none")
	require.ErrorIs(t, err, store.ErrNotFound)
	all, err := s.Practices(ctx, "", 10)
	require.NoError(t, err)
	require.Len(t, all, 2, "what was only watched is no training")
	own, err := s.Practices(ctx, "Pim", 10)
	require.NoError(t, err)
	require.Len(t, own, 1)
	require.Nil(t, own[0].Mark)

	note := store.Note{ID: "note-0001", Service: "tonight", Kind: "component", About: "hake", Body: "Dry the skin"}
	require.NoError(t, s.AddNote(ctx, &note))
	note.Body = "otherwise"
	require.NoError(t, s.AddNote(ctx, &note))
	require.NoError(t, s.PutNoteAway(ctx, 1))
	require.NoError(t, s.PutNoteAway(ctx, 1))
	require.ErrorIs(t, s.PutNoteAway(ctx, 9), store.ErrNotFound)
	notes, err := s.Notes(ctx)
	require.NoError(t, err)
	require.Len(t, notes, 1)
	require.Equal(t, "Dry the skin", notes[0].Body)
	require.True(t, notes[0].Done)

	db, err := sqlx.ConnectContext(ctx, "pgx", url)
	require.NoError(t, err)
	defer db.Close()
	for _, change := range []string{`UPDATE practice SET person = 'x'`, `DELETE FROM practice_result`, `UPDATE practice_result SET mark = 100`,
		`UPDATE note SET body = 'x'`, `DELETE FROM note_done`} {
		_, err := db.ExecContext(ctx, change)
		require.ErrorContains(t, err, "only added to", change)
	}
}
