package schedule

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
	"jointime/core/workload"
)

// Both are as cool as each other when they meet, wherever they began; there both go on from the better one.
func TestTheTwoMeet(t *testing.T) {
	a, b := two(t, smallNight())
	team := &team{s: &solver{ctx: context.Background(), p: a.p}, all: [workers]*improver{a, b}}
	team.best.take(a)
	for _, hot := range []float64{hottest, reheated} {
		team.cycle(hot, 600)
		require.Equal(t, a.hot, b.hot)
		require.Equal(t, a.cooled, b.cooled)
		require.Equal(t, a.x, b.x)
		require.Equal(t, team.best.cost, a.p.cost(team.best.x))
		require.InDelta(t, coldest, a.temperature(), 1e-4)
	}
	a.heatUp(reheated, 1000)
	b.heatUp(hottest, int(1000*hotPart(reheated)/hotPart(hottest)))
	for a.temperature() > divided {
		a.cooled++
		b.cooled++
	}
	require.InDelta(t, a.temperature(), b.temperature(), 0.0005)
}

// With a seed and rounds that end by themselves the schedule is the same, however the two take turns; and there is only one best.
func TestTwoSearchesGiveTheSameAgain(t *testing.T) {
	w := smallNight().Evening(8)
	var costs []int64
	one := Solve(context.Background(), w, Options{Seed: 3, Rounds: 3000, Progress: func(p Progress) { costs = append(costs, p.Cost) }})
	for range 2 {
		again := Solve(context.Background(), w, Options{Seed: 3, Rounds: 3000})
		require.Equal(t, one, again)
	}
	require.Equal(t, workload.Feasible, one.Status)
	require.IsNonIncreasing(t, costs)
	require.LessOrEqual(t, *one.Cost, costs[len(costs)-1])
}

// What has many tasks begins cooler in every cycle, and so does the search that goes its own way beside.
func TestWhatIsLargeBeginsCoolerInEveryCycle(t *testing.T) {
	p := compile(instances.Service(1800, 54, 1))
	require.Nil(t, p.propagate())
	s := &solver{p: p, ctx: t.Context()}
	from := map[float64]bool{}
	s.o = Options{Seed: 1, Rounds: 5000, Progress: func(Progress) {
		if s.m != nil {
			from[s.m.hot] = true
		}
	}}
	require.NotNil(t, s.solve())
	require.Less(t, s.hot(hottest), hottest)
	require.True(t, from[s.hot(hottest)])
	require.True(t, from[s.hot(reheated)])
	require.False(t, from[hottest] || from[reheated])

	b := newBuilder(t.Context(), p, 2)
	b.adoptInto(s.m.bestX, s.m.bestOn)
	team := &team{s: s, all: [workers]*improver{s.m, newImprover(b, p.groups())}}
	team.best.take(s.m)
	beside := 0.0
	s.o.Progress = func(Progress) { beside = max(beside, team.all[1].hot) }
	team.cycle(s.hot(reheated), 200)
	require.InDelta(t, s.hot(hottest), beside, 0)
}
