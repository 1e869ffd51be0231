package schedule

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/workload"
)

// A cycle begins as hot as it was asked to, is at the coldest when it is over, and cools by the same factor in the same number of rounds.
func TestCooling(t *testing.T) {
	m := &improver{}
	m.heatUp(hottest, 100)
	at := func(n int) float64 { m.cooled = n; return m.temperature() }
	require.InDelta(t, hottest, at(0), 1e-12)
	require.InDelta(t, coldest, at(100), 1e-12)
	require.InDelta(t, coldest, at(101), 1e-12)
	require.InDelta(t, at(20)/at(10), at(90)/at(80), 1e-9)
	require.Less(t, at(99), at(98))
	m.heatUp(gentle, 0)
	require.InDelta(t, coldest, m.temperature(), 1e-12, "no rounds: as cold as it gets")
}

// The best of several searches is kept whole, whatever they go on to.
func TestTheBestIsKept(t *testing.T) {
	a, b := searching(t, smallNight().Evening(3), 1), searching(t, smallNight().Evening(3), 2)
	a.heatUp(hottest, 400)
	a.run(context.Background(), 400, 0, nil)
	var best solution
	require.True(t, best.take(b))
	require.Equal(t, a.best < b.best, best.take(a))
	require.False(t, best.take(a), "no better than itself")
	require.Equal(t, best.cost, a.p.cost(best.x))
	kept := best.cost
	a.run(context.Background(), 50, 0, nil)
	b.goOnFrom(best.x, best.on)
	require.Equal(t, kept, b.best)
	require.Equal(t, kept, b.p.cost(b.x))
	require.Empty(t, b.broken())
}

// While it is hot, a search goes on from worse schedules; what it has found is not lost by that.
func TestHotSearchesWander(t *testing.T) {
	m := searching(t, smallNight().Evening(3), 1)
	m.run(context.Background(), 300, 0, nil)
	best := m.best
	m.heatUp(hottest, 1_000_000)
	worse := int64(0)
	for range 200 {
		m.run(context.Background(), 1, 0, nil)
		worse = max(worse, m.current)
	}
	require.Greater(t, worse, best+best/10)
	require.LessOrEqual(t, m.best, best)
}

// A search begins hot; near what has been told it stays, and it mends that where it has few rounds.
func TestHowHotASearchBegins(t *testing.T) {
	previous := &workload.Schedule{}
	for want, list := range map[float64][]Options{
		hottest: {{}, {MovePrice: 2}, {Rounds: 800}, {Previous: previous}, {Previous: previous, Rounds: manyRounds}},
		gentle: {{Previous: previous, MovePrice: 2}, {Previous: previous, Rounds: manyRounds - 1},
			{Previous: previous, MovePrice: 2, Rounds: manyRounds}},
	} {
		for _, o := range list {
			require.InDelta(t, want, (&solver{p: &problem{tasks: hotFor}, o: o}).heat(), 0, "%+v", o)
		}
	}
}

// What has many tasks begins cooler, from nothing and again, by the square of how many; what is mended does not.
func TestWhatIsLargeBeginsCooler(t *testing.T) {
	of := func(tasks int) *solver { return &solver{p: &problem{tasks: tasks}} }
	for _, tasks := range []int{0, 1, 450, hotFor} {
		require.InDelta(t, hottest, of(tasks).heat(), 0, tasks)
		require.InDelta(t, reheated, of(tasks).hot(reheated), 0, tasks)
	}
	require.Less(t, of(hotFor+1).heat(), hottest)
	require.InDelta(t, hottest/9, of(3*hotFor).heat(), 1e-12)
	require.InDelta(t, reheated/9, of(3*hotFor).hot(reheated), 1e-12)
	mends := of(3 * hotFor)
	mends.o = Options{Previous: &workload.Schedule{}, Rounds: manyRounds - 1}
	require.InDelta(t, gentle, mends.heat(), 0)
}

// Any group is picked oftener where all of a schedule is sought than where one is mended.
func TestHowOftenAnyGroupIsPicked(t *testing.T) {
	m := searching(t, smallNight().Evening(3), 1)
	dear := func() (n int) {
		m.price()
		worst, at := int64(-1), 0
		for i, upTo := range m.costs.upTo {
			if i > 0 {
				upTo -= m.costs.upTo[i-1]
			}
			if upTo > worst {
				worst, at = upTo, i
			}
		}
		for range 3000 {
			if m.costly() == at {
				n++
			}
		}
		return n
	}
	m.heatUp(hottest, 100)
	often := dear()
	m.heatUp(gentle, 100)
	require.Greater(t, dear(), often+often/10)
}

// The best times are asked for again after some rounds, where they take long only after as much other work, and never near what has been
// told.
func TestWhenTheBestTimesAreAskedFor(t *testing.T) {
	m := &improver{builder: &builder{state: &state{}}, timing: &timing{work: 800}}
	m.rounds, m.work = retimeEvery, 800/pointsPerPlace
	require.True(t, m.timely())
	m.rounds--
	require.False(t, m.timely())
	m.rounds++
	m.work--
	require.False(t, m.timely())
	m.timing = nil
	require.True(t, m.timely(), "nothing is known of how long they take")
	m.near = true
	require.False(t, m.timely())
}
