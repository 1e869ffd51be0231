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

	away := store.Thrown{ID: "away-0001", Service: "tonight", Kind: "dish", About: "hake-cider-butter", Portions: 3, Why: "too-much"}
	require.NoError(t, s.AddThrown(ctx, away, store.Thrown{ID: "away-0002", Service: "other", Kind: "component", About: "hake", Portions: 1,
		Why: "dropped"}))
	away.Portions = 9
	require.NoError(t, s.AddThrown(ctx, away))
	require.Error(t, s.AddThrown(ctx, store.Thrown{ID: "away-0003", Service: "tonight"}), "no portions")
	thrown, err := s.ThrownAway(ctx, "tonight")
	require.NoError(t, err)
	require.Len(t, thrown, 1)
	require.Equal(t, 3, thrown[0].Portions, "the same sent twice counts once")
	number := thrown[0].Number
	require.NoError(t, s.TakeThrownBack(ctx, number))
	require.NoError(t, s.TakeThrownBack(ctx, number))
	require.ErrorIs(t, s.TakeThrownBack(ctx, number+9), store.ErrNotFound)
	one, err := s.ThrownOne(ctx, number)
	require.NoError(t, err)
	require.Equal(t, "hake-cider-butter", one.About)
	everything, err := s.ThrownAway(ctx, "")
	require.NoError(t, err)
	require.Len(t, everything, 2)
	require.True(t, everything[1].Undone)
	require.False(t, everything[0].Undone)

	db, err := sqlx.ConnectContext(ctx, "pgx", url)
	require.NoError(t, err)
	defer db.Close()
	for _, change := range []string{`UPDATE practice SET person = 'x'`, `DELETE FROM practice_result`, `UPDATE practice_result SET mark = 100`,
		`UPDATE note SET body = 'x'`, `DELETE FROM note_done`,
		`UPDATE thrown SET portions = 1`, `DELETE FROM thrown_undone`} {
		_, err := db.ExecContext(ctx, change)
		require.ErrorContains(t, err, "only added to", change)
	}
}
