package schedule

import (
	"context"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
	"jointime/core/workload"
)

// Of several first schedules the cheapest two are gone on from, one by each search, no dearer than what there was; all hold together, and
// the rounds are counted.
func TestTheBestStartsAreGoneOnFrom(t *testing.T) {
	n := instances.Nights()[4]
	n.Tables = 8
	a, b := two(t, n)
	before := a.p.cost(a.x)
	s := &solver{ctx: t.Context(), p: a.p, m: a, o: Options{Seed: 1, Starts: 6}}
	team := &team{s: s, all: [workers]*improver{a, b}}
	team.best.take(a)
	used := team.starts(a.gs, 2400)
	require.Equal(t, 600, used, "a quarter of the rounds")
	require.LessOrEqual(t, team.best.cost, before)
	require.GreaterOrEqual(t, team.second.cost, team.best.cost)
	require.NotEqual(t, team.best.x, team.second.x)
	for _, x := range []solution{team.best, team.second} {
		require.Equal(t, x.cost, a.p.cost(x.x))
		c := newBuilder(t.Context(), a.p, 1)
		c.adoptInto(x.x, x.on)
		require.Empty(t, c.broken())
	}
	for _, m := range team.all {
		require.Equal(t, team.best.cost, m.best)
		require.Equal(t, team.best.x, m.x)
	}
	b.hot = 0
	s.o.Progress = func(Progress) {
		if team.second.x == nil && b.hot > 0 {
			require.InDelta(t, reheated, b.hot, 0, "what begins beside is no hotter than the best")
		}
	}
	team.cycle(reheated, 100)
	require.Nil(t, team.second.x, "once")
}

// What was told is the first of several starts where moving costs nothing: what comes out is no dearer. The next is what a search from nothing
// begins with, the others are other orders.
func TestWhatWasToldIsTheFirstStart(t *testing.T) {
	n := instances.Nights()[4]
	n.Tables = 8
	w := n.Evening(3)
	told := Solve(t.Context(), w, Options{Seed: 2, Rounds: 12_000})
	o := Options{Seed: 1, Rounds: 2000, Starts: 4}
	require.Less(t, *told.Cost, *Solve(t.Context(), w, o).Cost)
	o.Previous = told
	require.LessOrEqual(t, *Solve(t.Context(), w, o).Cost, *told.Cost)
	o.Previous = Solve(t.Context(), w, Options{Seed: 2, Rounds: 60})
	several := *Solve(t.Context(), w, o).Cost
	o.Starts = 0
	require.NotEqual(t, several, *Solve(t.Context(), w, o).Cost)

	a, _ := two(t, n)
	s := &solver{ctx: t.Context(), p: a.p, o: o}
	nothing, ok := s.fromNothing(a.gs, nil, nil)
	require.True(t, ok)
	require.Equal(t, nothing.x, s.start(a.gs, 1).x)
	require.NotEqual(t, nothing.x, s.start(a.gs, 2).x)
	s.o.Previous = nil
	require.NotEqual(t, nothing.x, s.start(a.gs, 1).x)
}

// A seed gives the same from several starts again, and another than from one; where what was told keeps its place there is one only.
func TestStartsGiveTheSameAgain(t *testing.T) {
	n := instances.Nights()[4]
	n.Tables = 10
	w := n.Evening(2)
	one := Solve(t.Context(), w, Options{Seed: 1, Rounds: 2400})
	several := Solve(t.Context(), w, Options{Seed: 1, Rounds: 2400, Starts: 8})
	require.Equal(t, workload.Feasible, several.Status)
	require.NotEqual(t, one.Tasks, several.Tasks)
	require.Equal(t, several, Solve(t.Context(), w, Options{Seed: 1, Rounds: 2400, Starts: 8}))
	near := Options{Seed: 1, Rounds: 2400, Previous: one, MovePrice: 2}
	kept := Solve(t.Context(), w, near)
	near.Starts = 8
	require.Equal(t, kept, Solve(t.Context(), w, near))
}

// keepsAll asks for a present schedule that keeps every rule, and costs what the search says.
func keepsAll(t *testing.T, m *improver) {
	b := newBuilder(t.Context(), m.p, 1)
	b.adoptInto(m.x, m.on)
	require.Empty(t, b.broken())
	require.Equal(t, m.p.cost(m.x), m.current)
}

// ten is a search of an evening of ten tables, and the schedule that it has.
func ten(t *testing.T) (m *improver, has solution) {
	n := instances.Nights()[4]
	n.Tables = 10
	m, _ = two(t, n)
	has.take(m)
	return m, has
}

// What comes together late goes out and comes back in another order, and what comes before stays; every rule is kept, or nothing has moved.
func TestALaterStart(t *testing.T) {
	m, has := ten(t)
	told := has.x
	first, last := slices.Min(told[m.p.tasks:]), slices.Max(told[m.p.tasks:])
	for i := range 2 * laterShares {
		m.adopt(has.x, has.on)
		if !m.laterStart(i) {
			require.Equal(t, told, m.x)
			continue
		}
		keepsAll(t, m)
		require.Equal(t, m.current, m.best)
		stays := first + int64(i%laterShares)*(last-first)/10
		moved := 0
		for j, at := range told[m.p.tasks:] {
			if at < stays {
				require.Equal(t, at, m.x[m.p.tasks+j], "start %d", i)
			} else if at != m.x[m.p.tasks+j] {
				moved++
			}
		}
		require.Positive(t, moved, "start %d", i)
	}
}

// Where no order is a first schedule what was told is begun from as often as was asked for, with what comes late in other orders.
func TestWhereNoOrderIsAStart(t *testing.T) {
	n := instances.Nights()[4]
	n.Tables = 8
	none, cancel := context.WithCancel(t.Context())
	cancel()
	for _, told := range []*workload.Schedule{nil, {}} {
		a, b := two(t, n)
		s := &solver{ctx: none, p: a.p, m: a, o: Options{Seed: 1, Starts: 6, Previous: told}}
		team := &team{s: s, all: [workers]*improver{a, b}}
		team.best.take(a)
		used := team.starts(a.gs, 2400)
		if told == nil {
			require.Equal(t, 100, used)
			continue
		}
		require.Greater(t, used, 300)
		require.NotEqual(t, team.best.x, team.second.x)
	}
}

// Where what comes late finds no place, nothing has moved, and the search goes on from there.
func TestALaterStartThatFindsNoPlace(t *testing.T) {
	m, has := ten(t)
	work := m.work
	require.True(t, m.laterStart(0))
	most := (m.work - work) / 2
	m.goOnFrom(has.x, has.on)
	m.quick, m.mostWork = true, m.work+most
	require.False(t, m.laterStart(0), "it is given up half-way")
	require.Equal(t, has.x, m.x)
	require.Equal(t, has.cost, m.best)
	require.Equal(t, has.cost, m.current)
	m.quick = false
	m.run(t.Context(), 400, 0, nil)
	keepsAll(t, m)
}
