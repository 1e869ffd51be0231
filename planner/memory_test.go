package planner_test

import (
	"context"
	"io"
	"log/slog"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/demo"
	"jointime/planner"
)

// memory is a store without a database: a kitchen that a test changes, and told plans.
type memory struct {
	mu       sync.Mutex
	revision int64
	data     kitchen.Data
	book     *kitchen.Book
	versions map[kitchen.Key]int64
	ticks    map[string]planner.Tick
	records  map[string][]*planner.Record
	marks    map[string]map[int64]map[planner.Mark]time.Time
	tells    int
}

func (m *memory) Kitchen(context.Context) (*planner.Kitchen, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	versions := m.versions
	return &planner.Kitchen{Revision: m.revision, Book: m.book, Version: func(key kitchen.Key) int64 { return versions[key] }}, nil
}

// key reads a key as it is written: component/hake.
func key(text string) (k kitchen.Key) {
	kind, id, _ := strings.Cut(text, "/")
	return kitchen.Key{Kind: kitchen.Kind(kind), ID: id}
}

// change edits the kitchen, as a save does.
func (m *memory) change(t testing.TB, key kitchen.Key, edit func(*kitchen.Data)) {
	t.Helper()
	m.mu.Lock()
	defer m.mu.Unlock()
	d := m.data.Clone()
	edit(&d)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	versions := map[kitchen.Key]int64{}
	for k, v := range m.versions {
		versions[k] = v
	}
	versions[key]++
	m.data, m.book, m.versions, m.revision = d, b, versions, m.revision+1
}

func (m *memory) Ticks(context.Context, time.Time) ([]planner.Tick, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	var out []planner.Tick
	for _, x := range m.ticks {
		out = append(out, x)
	}
	return out, nil
}

func (m *memory) tick(x planner.Tick) {
	m.mu.Lock()
	defer m.mu.Unlock()
	m.ticks[x.Task] = x
}

func (m *memory) Head(_ context.Context, subject string) (planner.Head, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	h := planner.Head{Number: int64(len(m.records[subject]))}
	for n, marks := range m.marks[subject] {
		if at, ok := marks[planner.Printed]; ok {
			if n > h.OnPaper {
				h.Printed, h.OnPaper = &at, n
			}
		}
		_, settled := marks[planner.Settled]
		h.Settled = h.Settled || n == h.Number && settled
	}
	return h, nil
}

func (m *memory) Record(_ context.Context, subject string, number int64) (*planner.Record, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	return m.records[subject][number-1], nil
}

func (m *memory) Tell(_ context.Context, r *planner.Record) error {
	m.mu.Lock()
	defer m.mu.Unlock()
	if r.Number != int64(len(m.records[r.Subject]))+1 {
		return planner.ErrBehind
	}
	m.records[r.Subject] = append(m.records[r.Subject], r)
	m.tells++
	return nil
}

func (m *memory) Mark(_ context.Context, subject string, number int64, mark planner.Mark) error {
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.marks[subject] == nil {
		m.marks[subject] = map[int64]map[planner.Mark]time.Time{}
	}
	if m.marks[subject][number] == nil {
		m.marks[subject][number] = map[planner.Mark]time.Time{}
	}
	m.marks[subject][number][mark] = afternoon
	return nil
}

// afternoon is the time of these tests: a Thursday before service.
var afternoon = time.Date(2026, 5, 14, 13, 30, 0, 0, time.UTC)

// kitchenOf is a store with the demo's kitchen and its services of that day.
func kitchenOf(t testing.TB) *memory {
	t.Helper()
	d, err := demo.Kitchen()
	require.NoError(t, err)
	d.Services = demo.Services(time.Date(2026, 5, 14, 0, 0, 0, 0, time.FixedZone("", 2*3600)))
	m := &memory{versions: map[kitchen.Key]int64{}, ticks: map[string]planner.Tick{}, records: map[string][]*planner.Record{},
		marks: map[string]map[int64]map[planner.Mark]time.Time{}}
	m.data = d
	m.change(t, key("kitchen/kitchen"), func(*kitchen.Data) {})
	return m
}

// small is the demo with three tables tonight, so that its plans are made quickly.
func small(t testing.TB) *memory {
	m := kitchenOf(t)
	m.change(t, key("service/tonight"), func(d *kitchen.Data) { tonight(d).Tables = tonight(d).Tables[:3] })
	return m
}

func tonight(d *kitchen.Data) *kitchen.Service {
	for i := range d.Services {
		if d.Services[i].ID == demo.Tonight {
			return &d.Services[i]
		}
	}
	return nil
}

func open(t testing.TB, m *memory, at time.Time) *planner.Planner {
	t.Helper()
	p := planner.New(m, planner.Options{Clock: func() time.Time { return at }, Log: slog.New(slog.NewTextHandler(io.Discard, nil)),
		Patience: 100})
	t.Cleanup(p.Close)
	return p
}

// settled waits until nothing better is looked for, and returns what is shown then.
func settled(t testing.TB, p *planner.Planner, service string) *planner.Shown {
	t.Helper()
	for {
		s, err := p.Service(t.Context(), service)
		require.NoError(t, err)
		if !s.Looking {
			return s
		}
		time.Sleep(5 * time.Millisecond)
	}
}

// joins is where every join stands.
func joins(s *planner.Shown) map[string]time.Time {
	out := map[string]time.Time{}
	for _, j := range s.Plan.View.Joins {
		out[j.ID] = j.At
	}
	return out
}
