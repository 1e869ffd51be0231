package schedule

import (
	"context"
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
	"jointime/core/workload"
)

// oneOven is some tables that want one oven of so many places at the same instant, for ten minutes each; the food may wait a minute for
// nothing, then at a price.
func oneOven(tables int, places int64) *workload.Workload {
	at := int64(7200)
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 14400,
		Resources: []workload.Resource{{ID: "oven", Capacity: places}}}
	for i := range tables {
		id := string(rune('a' + i))
		best := int64(60)
		w.Joins = append(w.Joins, workload.Join{ID: id, At: &at, Weight: 4, EarlyWeight: 5})
		w.Tasks = append(w.Tasks, workload.Task{ID: id + "/bake", Seconds: 600, Needs: []workload.Need{{AnyOf: []string{"oven"}, Units: 1}}})
		w.Links = append(w.Links, workload.Link{From: id + "/bake", To: id, Kind: workload.FinishStart, Best: &best, Weight: 1})
	}
	return w
}

func boundOf(t *testing.T, w *workload.Workload, known int64) int64 {
	t.Helper()
	require.NoError(t, workload.Check(w))
	if x := plainOf(w); x != nil {
		w = x.Workload
	}
	p := compile(w)
	require.Nil(t, p.propagate())
	return poolBound(context.Background(), p, p.groups(), known)
}

// By hand: of three tables and one place, one has it for the last ten minutes, one before it, one before that: 0, 540 and 1,140 seconds of
// waiting beyond best; late at 4 a second is dearer. The bound is below that and says most of it; with room for all it says nothing.
func TestBoundOfAnOvenByHand(t *testing.T) {
	optimum := int64(540 + 1140)
	s := Solve(context.Background(), oneOven(3, 1), Options{Seed: 1, Rounds: 4000})
	require.Equal(t, workload.Optimal, s.Status)
	require.Equal(t, optimum, *s.Cost)
	b := boundOf(t, oneOven(3, 1), optimum)
	require.LessOrEqual(t, b, optimum)
	require.GreaterOrEqual(t, b, optimum/2)
	require.Zero(t, boundOf(t, oneOven(3, 3), 0))
	require.Zero(t, boundOf(t, oneOven(3, 3), 1000))
	require.Positive(t, boundOf(t, oneOven(3, 2), 540), "two places for three")
}

// No bound is above an optimum that is proved, over every kind of small kitchen, nor above what any search has found of a large evening.
func TestPoolBoundIsBelowEveryCost(t *testing.T) {
	positive := 0
	for i := range instances.Kitchens {
		w := instances.Kitchen(i)
		if w.Objective == workload.Makespan {
			continue
		}
		s := Solve(context.Background(), w, Options{Seed: 1, Rounds: 3000})
		if s.Status != workload.Optimal {
			continue
		}
		if b := boundOf(t, w, *s.Cost); b > 0 {
			positive++
			require.LessOrEqual(t, b, *s.Cost, i)
		}
		require.LessOrEqual(t, boundOf(t, w, 100**s.Cost+1), *s.Cost, "a poor schedule makes no better bound: %d", i)
	}
	for _, n := range instances.Nights() {
		w := n.Evening(11)
		s := Solve(context.Background(), w, Options{Seed: 1, Rounds: 1500, Anyway: true})
		b := boundOf(t, w, *s.Cost)
		require.Positive(t, b, n.Name)
		require.Less(t, b, *s.Cost, n.Name)
	}
	t.Log("kitchens with a bound above nothing:", positive)
}

// What a start costs: nothing while its waits are within their best, the waits' prices and an early join's before that, whichever is
// cheaper, and a late join's after it.
func TestCostOfAStart(t *testing.T) {
	w := oneOven(1, 1)
	more, over := int64(7200+300), int64(180)
	w.Joins = append(w.Joins, workload.Join{ID: "clock"})
	w.Fixed = []workload.Fixed{{Join: "clock"}}
	w.Links = append(w.Links, workload.Link{From: "clock", To: "a", Kind: workload.FinishStart, Best: &more, Weight: 2},
		workload.Link{From: "a/bake", To: "a", Kind: workload.FinishStart, Best: &over, Weight: 12})
	require.NoError(t, workload.Check(w))
	p := compile(w)
	require.Nil(t, p.propagate())
	gs := p.groups()
	home := []int32{0, 0, -1}
	runs := p.runsOf([]int32{0}, gs, &ways{p: p, home: home, left: mostSteps})
	require.Len(t, runs, 1)
	r := &runs[0]
	require.Equal(t, [2]float64{7200 - 660, 7200 - 600}, r.free)
	for start, want := range map[float64]float64{
		6600: 0, 6540: 0, 6539: 1, 6420: 120, // a second of waiting, then until three minutes
		6419:       125,  // from there a join a second early is cheaper than 13
		6601:       4,    // late
		6600 + 300: 1200, // five minutes
		6600 + 301: 1206, // from there dearer
		6600 + 600: 1200 + 1800,
	} {
		require.InDelta(t, want, r.cost(start), 1e-9, start)
	}
	require.Equal(t, []bend{{300, 4}, {math.Inf(1), 6}}, r.late)
}

// A wait of which one end stands is a price of the other alone, and costs the same.
func TestAWaitFromWhatStands(t *testing.T) {
	w := oneOven(2, 2)
	best, early := int64(7000), int64(-7100)
	w.Joins = append(w.Joins, workload.Join{ID: "clock"})
	w.Fixed = []workload.Fixed{{Join: "clock"}}
	w.Links = append(w.Links, workload.Link{From: "clock", To: "a", Kind: workload.FinishStart, Best: &best, Weight: 3},
		workload.Link{From: "b", To: "clock", Kind: workload.FinishStart, Min: -w.Horizon, Best: &early, Weight: 7})
	require.NoError(t, workload.Check(w))
	p := compile(w)
	a, b := p.tasks, p.tasks+1
	require.Len(t, p.wants[a], 2)
	require.Len(t, p.wants[b], 2)
	require.Equal(t, int64(200*3), p.nodeCost(a, 7200), "200 s beyond 7,000")
	require.Equal(t, int64(100*4+300*3), p.nodeCost(a, 7300))
	require.Equal(t, int64(0), p.nodeCost(b, 7200))
	require.Equal(t, int64(200*5+100*7), p.nodeCost(b, 7000), "100 s before 7,100")
	x := make([]int64, p.n)
	for v := range x {
		x[v] = 6600
	}
	x[a], x[b], x[p.n-1] = 7300, 7000, 0
	require.Equal(t, p.stated(x), p.cost(x))
}

// A bound is told also where the search is over before the cycle after which it would be looked for beside it, and none where there was no time.
func TestABoundIsToldAfterAShortSearch(t *testing.T) {
	w := instances.Nights()[0].Evening(1)
	s := Solve(context.Background(), w, Options{Seed: 1, Rounds: manyRounds, Anyway: true})
	require.NotNil(t, s.LowerBound)
	require.Positive(t, *s.LowerBound)
	require.LessOrEqual(t, *s.LowerBound, *s.Cost)
	quick := Solve(context.Background(), w, Options{Seed: 1, Rounds: manyRounds - 1, Anyway: true})
	require.Less(t, *quick.LowerBound, *s.LowerBound)
}
