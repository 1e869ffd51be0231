package store_test

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/service"
	"jointime/store"
	"jointime/store/storetest"
)

func event(id string) service.Event {
	at := time.Date(2026, 5, 15, 18, 0, 0, 123456789, time.UTC)
	return service.Event{ID: id, Kind: service.Trouble, At: at, ReceivedAt: at, Facts: service.Facts{Why: "what " + id}}
}

// Events are numbered in the order in which they are written, come back as they were, and stay.
func TestALogIsOnlyAddedTo(t *testing.T) {
	ctx, url := t.Context(), storetest.URL(t)
	s, err := store.Open(ctx, url, storetest.Clock)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, s.Close()) })
	require.NoError(t, s.Migrate(ctx))
	list, err := s.Events(ctx, "tonight", 0)
	require.NoError(t, err)
	require.Empty(t, list)
	add := func(after int64, ids ...string) []service.Event {
		since, err := s.Append(ctx, "tonight", after, func([]service.Event) (more []service.Event, _ error) {
			for _, id := range ids {
				more = append(more, event(id))
			}
			return more, nil
		})
		require.NoError(t, err)
		return since
	}
	require.Len(t, add(0, "event-a", "event-b"), 2)
	since := add(1, "event-c")
	require.Len(t, since, 2, "what came after the first, and what was added")
	require.Equal(t, int64(3), since[1].Seq)
	list, err = s.Events(ctx, "tonight", 0)
	require.NoError(t, err)
	require.Len(t, list, 3)
	want := event("event-b")
	want.Seq = 2
	require.Equal(t, want, list[1], "to the nanosecond")
	other, err := s.Events(ctx, "tomorrow", 0)
	require.NoError(t, err)
	require.Empty(t, other)
	for id, count := range map[string]int{"tonight": 3, "tomorrow": 0} {
		n, err := s.EventsOf(ctx, id)
		require.NoError(t, err)
		require.Equal(t, count, n)
	}
	no := errors.New("no")
	_, err = s.Append(ctx, "tonight", 0, func(since []service.Event) ([]service.Event, error) {
		require.Len(t, since, 3)
		return []service.Event{event("event-d")}, no
	})
	require.ErrorIs(t, err, no)
	_, err = s.Append(ctx, "tonight", 0, func([]service.Event) ([]service.Event, error) {
		return []service.Event{event("event-d"), event("event-a")}, nil
	})
	require.Error(t, err, "an id that is there")
	list, err = s.Events(ctx, "tonight", 2)
	require.NoError(t, err)
	require.Len(t, list, 1, "nothing of what failed was written")
	db, err := sql.Open("pgx", url)
	require.NoError(t, err)
	defer db.Close()
	for _, change := range []string{`DELETE FROM service_event`, `UPDATE service_event SET kind = 'opened'`} {
		_, err = db.ExecContext(ctx, change)
		require.ErrorContains(t, err, "only added to")
	}
}

// Many writers at once: every event has a number of its own, none is missing, and who listens hears of the last.
func TestManyWriters(t *testing.T) {
	s := storetest.Open(t)
	ctx, cancel := context.WithCancel(t.Context())
	defer cancel()
	heard, ready := make(chan string, 1000), make(chan struct{})
	var listening sync.WaitGroup
	listening.Go(func() { _ = s.Listen(ctx, func() { close(ready) }, func(id string) { heard <- id }) })
	<-ready
	const writers, each = 8, 12
	var wg sync.WaitGroup
	for w := range writers {
		wg.Go(func() {
			for i := range each {
				_, err := s.Append(ctx, "tonight", 0, func([]service.Event) ([]service.Event, error) {
					return []service.Event{event(fmt.Sprintf("event-%d-%d", w, i))}, nil
				})
				require.NoError(t, err)
			}
		})
	}
	wg.Wait()
	list, err := s.Events(ctx, "tonight", 0)
	require.NoError(t, err)
	require.Len(t, list, writers*each)
	for i := range list {
		require.Equal(t, int64(i)+1, list[i].Seq)
	}
	for range writers * each {
		select {
		case id := <-heard:
			require.Equal(t, "tonight", id)
		case <-time.After(20 * time.Second):
			t.Fatal("a notice is missing")
		}
	}
	cancel()
	listening.Wait()
}
