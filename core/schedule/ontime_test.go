package schedule

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
	"jointime/core/verify"
	"jointime/core/workload"
)

// within searches until budget is used up, by a clock that says how much of it so many rounds take, and breaks off then; told says whether
// the search knows. It returns what the schedule costs, and after how many rounds it ended.
func within(t *testing.T, w *workload.Workload, budget int64, told bool, clock func(rounds int64) int64) (cost, rounds int64) {
	t.Helper()
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	o := Options{Seed: 1, Progress: func(p Progress) {
		rounds = p.Rounds
		if clock(rounds) >= budget {
			cancel()
		}
	}}
	if told {
		o.Left = func() time.Duration { return time.Duration(budget-clock(rounds)) * time.Millisecond }
	}
	s := Solve(ctx, w, o)
	require.Equal(t, workload.Feasible, s.Status)
	findings, err := verify.Check(w, s)
	require.NoError(t, err)
	require.Empty(t, findings)
	return *s.Cost, rounds
}

// Clocks: a millisecond for each round, and rounds that take four times or half as long once the first cycle is over.
func evenly(rounds int64) int64 { return rounds }
func slower(rounds int64) int64 { return rounds + 3*max(0, rounds-2000) }
func faster(rounds int64) int64 { return rounds - max(0, rounds-2000)/2 }

// evenings are a few that are tight.
func evenings() (ws []*workload.Workload) {
	for seed := range uint64(3) {
		ws = append(ws, instances.Nights()[1].Evening(seed+1))
	}
	return ws
}

// What is broken off while it is hot has found nothing: a search that knows its time has won by then. The first cycle has 2,000 rounds,
// the second 4,000.
func TestTheLastCycleEndsWithTheTime(t *testing.T) {
	for _, clock := range []func(int64) int64{evenly, slower} {
		var sums [2]int64
		for _, w := range evenings() {
			blind, _ := within(t, w, 3600, false, clock)
			told, rounds := within(t, w, 3600, true, clock)
			sums[0], sums[1] = sums[0]+blind, sums[1]+told
			require.InDelta(t, 3600, clock(rounds), 2*workers*stint)
		}
		require.Less(t, sums[1], sums[0])
	}
	_, rounds := within(t, evenings()[0], 3600, true, faster)
	require.InDelta(t, 5200, rounds, 2*workers*stint, "it uses all of its time")
}

func TestTheFirstCycleIsOverInTime(t *testing.T) {
	var sums [2]int64
	for _, w := range evenings()[:2] {
		blind, _ := within(t, w, 600, false, evenly)
		told, _ := within(t, w, 600, true, evenly)
		sums[0], sums[1] = sums[0]+blind, sums[1]+told
	}
	require.Less(t, 4*sums[1], 3*sums[0], "a third of a cycle leaves it hot")
}

// The time may be over before the context is.
func TestItEndsWithoutTheContext(t *testing.T) {
	var rounds int64
	s := Solve(context.Background(), evenings()[0], Options{Seed: 1, Progress: func(p Progress) { rounds = p.Rounds },
		Left: func() time.Duration { return time.Duration(3000 - rounds) }})
	require.Equal(t, workload.Feasible, s.Status)
	require.InDelta(t, 3000, rounds, 2*workers*stint)
	require.Positive(t, *s.LowerBound)
}

// Time enough changes nothing: the same schedule on every machine.
func TestTimeEnoughChangesNothing(t *testing.T) {
	w := evenings()[0]
	o := Options{Seed: 3, Rounds: 6000}
	without := Solve(context.Background(), w, o)
	o.Left = func() time.Duration { return time.Hour }
	require.Equal(t, without, Solve(context.Background(), w, o))
}

func TestWhichCycleIsTheLast(t *testing.T) {
	left := 10 * time.Second
	begin := func(all int) (int, bool) {
		k := timekeeper{left: func() time.Duration { return left }, took: time.Second, did: 1000} // a millisecond a round
		rounds := k.begin(2000, all)
		return rounds, k.last
	}
	left = fits * 2 * time.Second
	rounds, last := begin(1 << 40)
	require.False(t, last, "there is time for so many cycles as that")
	require.Equal(t, 2000, rounds)
	left -= time.Millisecond
	rounds, last = begin(1 << 40)
	require.True(t, last)
	require.Equal(t, fits*2000-1, rounds)
	_, last = begin(fits*2000 - 1)
	require.False(t, last, "the rounds are used up in time")
	left = -time.Second
	rounds, last = begin(1 << 40)
	require.True(t, last)
	require.Equal(t, stint, rounds)
	k := timekeeper{left: func() time.Duration { return left }}
	require.False(t, k.last, "how long a cycle takes is not known before the first")
}
