package live_test

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/service"
	"jointime/live"
)

// memory is a database in memory, with as many listeners as there are servers.
type memory struct {
	mu     sync.Mutex
	events []service.Event
	heard  []func(id string)
	mute   bool
	fails  bool
}

func (m *memory) Events(_ context.Context, _ string, after int64) ([]service.Event, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.fails {
		return nil, errors.New("away")
	}
	return append([]service.Event{}, m.events[after:]...), nil
}

func (m *memory) Append(_ context.Context, id string, after int64,
	judge func([]service.Event) ([]service.Event, error)) ([]service.Event, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	since := append([]service.Event{}, m.events[after:]...)
	more, err := judge(since)
	if err != nil {
		return nil, err
	}
	for i := range more {
		more[i].Seq = int64(len(m.events)) + 1
		m.events = append(m.events, more[i])
	}
	if !m.mute {
		for _, h := range m.heard {
			go h(id)
		}
	}
	return append(since, more...), nil
}

func (m *memory) Listen(ctx context.Context, listening func(), heard func(id string)) error {
	m.mu.Lock()
	m.heard = append(m.heard, heard)
	m.mu.Unlock()
	listening()
	<-ctx.Done()
	return ctx.Err()
}

var six = time.Date(2026, 5, 15, 18, 0, 0, 0, time.UTC)

func hub(t *testing.T, m *memory) *live.Hub {
	h := live.New(m, func() time.Time { return six }, slog.New(slog.NewTextHandler(io.Discard, nil)))
	t.Cleanup(h.Close)
	return h
}

func tap(id string, kind service.Kind, table string) service.Event {
	return service.Event{ID: id, Kind: kind, Facts: service.Facts{Table: table, Course: kitchen.Main, Covers: 2}}
}

var pass = live.Who{Person: "Ada", Role: "pass"}

// What is sent twice counts once; what does not fit is refused, and written only where it was kept; a plan is told to a service that opens.
func TestWhatBecomesOfEvents(t *testing.T) {
	m := &memory{}
	h := hub(t, m)
	add := func(list ...service.Event) []live.Outcome {
		_, out, err := h.Add(t.Context(), "tonight", pass, list, 4)
		require.NoError(t, err)
		return out
	}
	out := add(tap("call-one", service.Called, "t1"))
	require.Equal(t, live.Refused, out[0].As)
	require.Equal(t, "live.not-open", out[0].Said.Key)
	out = add(tap("open-now", service.Opened, ""), tap("call-one", service.Called, "t1"), tap("call-one", service.Called, "t1"),
		tap("call-two", service.Called, "t1"))
	require.Equal(t, []string{live.Taken, live.Taken, live.Repeated, live.Refused}, []string{out[0].As, out[1].As, out[2].As, out[3].As})
	require.Equal(t, int64(1), out[0].Seq)
	require.Equal(t, int64(3), out[1].Seq, "the second says which plan is shown")
	require.Equal(t, int64(3), out[2].Seq)
	other := tap("call-one", service.Called, "t2")
	out = add(other)
	require.Equal(t, live.Refused, out[0].As)
	require.Equal(t, "live.id-twice", out[0].Said.Key)
	kept := tap("call-kept", service.Called, "t1")
	kept.Kept, kept.At = true, six.Add(time.Hour)
	out = add(kept)
	require.Equal(t, live.ToSettle, out[0].As)
	s, err := h.State(t.Context(), "tonight")
	require.NoError(t, err)
	require.Len(t, s.Settle, 1)
	require.Equal(t, int64(4), s.Plan)
	require.Equal(t, 4, s.Events)
	list, _, err := h.Log(t.Context(), "tonight", 3)
	require.NoError(t, err)
	require.Len(t, list, 1)
	require.Equal(t, six, list[0].At, "never later than it came")
	require.True(t, list[0].Kept)
	require.Equal(t, "Ada", list[0].Person)
}

// Two servers on one database know the same at once; where the notice is lost, within a few seconds.
func TestTwoServersKnowTheSame(t *testing.T) {
	for _, mute := range []bool{false, true} {
		m := &memory{mute: mute}
		a, b := hub(t, m), hub(t, m)
		_, more, err := b.Log(t.Context(), "tonight", 0)
		require.NoError(t, err)
		_, _, err = a.Add(t.Context(), "tonight", pass, []service.Event{tap("open-now", service.Opened, "")}, 0)
		require.NoError(t, err)
		select {
		case <-more:
		case <-time.After(20 * time.Second):
			t.Fatal("nothing was heard")
		}
		list, _, err := b.Log(t.Context(), "tonight", 0)
		require.NoError(t, err)
		require.Len(t, list, 1)
		s, err := b.Stands(t.Context(), "tonight")
		require.NoError(t, err)
		require.Equal(t, service.Open, s.Phase)
	}
}

// Many at once: nothing is lost, nothing counts twice, whichever server it came by.
func TestManyAtOnce(t *testing.T) {
	m := &memory{}
	hubs := []*live.Hub{hub(t, m), hub(t, m)}
	_, _, err := hubs[0].Add(t.Context(), "tonight", pass, []service.Event{tap("open-now", service.Opened, "")}, 0)
	require.NoError(t, err)
	var wg sync.WaitGroup
	for w := range 8 {
		wg.Go(func() {
			for i := range 20 {
				// Every tap is sent by two at the same time.
				e := service.Event{ID: fmt.Sprintf("event-%d-%d", w/2, i), Kind: service.Trouble, Facts: service.Facts{Why: "x"}}
				_, out, err := hubs[w%2].Add(t.Context(), "tonight", pass, []service.Event{e}, 0)
				require.NoError(t, err)
				require.Contains(t, []string{live.Taken, live.Repeated}, out[0].As)
			}
		})
	}
	wg.Wait()
	for _, h := range hubs {
		s, err := h.State(t.Context(), "tonight")
		require.NoError(t, err)
		require.Equal(t, 1+4*20, s.Events)
	}
}

// While the database is away nothing is answered as if it were written.
func TestADatabaseThatIsAway(t *testing.T) {
	m := &memory{fails: true}
	h := hub(t, m)
	_, _, err := h.Add(t.Context(), "tonight", pass, []service.Event{tap("open-now", service.Opened, "")}, 0)
	require.ErrorContains(t, err, "away")
	_, err = h.State(t.Context(), "tonight")
	require.ErrorContains(t, err, "away")
}
