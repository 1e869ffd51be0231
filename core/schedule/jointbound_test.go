package schedule

import (
	"context"
	"math/rand/v2"
	"slices"
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

// compiled is a workload as the bound sees it.
func compiled(t testing.TB, w *workload.Workload) *problem {
	t.Helper()
	require.NoError(t, workload.Check(w))
	if x := plainOf(w); x != nil {
		w = x.Workload
	}
	p := compile(w)
	require.Nil(t, p.propagate())
	return p
}

func boundOf(t *testing.T, w *workload.Workload, known int64) int64 {
	t.Helper()
	return jointBound(context.Background(), compiled(t, w), known, nil, false)
}

// By hand: of three tables and one place, one has it for the last ten minutes, one before it, one before that: 0, 540 and 1,140 seconds of
// waiting beyond best; late at 4 a second is dearer. The bound is below that and says nearly all of it; with room for all it says nothing.
func TestBoundOfAnOvenByHand(t *testing.T) {
	optimum := int64(540 + 1140)
	s := Solve(context.Background(), oneOven(3, 1), Options{Seed: 1, Rounds: 4000})
	require.Equal(t, workload.Optimal, s.Status)
	require.Equal(t, optimum, *s.Cost)
	for _, known := range []int64{optimum, optimum * 3 / 2, optimum * 4} { // it is cut off at what is known
		b := boundOf(t, oneOven(3, 1), known)
		require.LessOrEqual(t, b, optimum)
		require.GreaterOrEqual(t, b, optimum*95/100)
	}
	require.Zero(t, boundOf(t, oneOven(3, 3), 0))
	require.Zero(t, boundOf(t, oneOven(3, 3), 1000))
	require.Positive(t, boundOf(t, oneOven(3, 2), 540), "two places for three")
}

// No bound is above an optimum that is proved, over every kind of small kitchen, nor above what any search has found of a large evening;
// where there is room it says most of it.
func TestJointBoundIsBelowEveryCost(t *testing.T) {
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
	require.Positive(t, positive)
	for i, n := range instances.Nights() {
		w := n.Evening(11)
		s := Solve(context.Background(), w, Options{Seed: 1, Rounds: 4000, Anyway: true})
		b := boundOf(t, w, *s.Cost)
		require.Positive(t, b, n.Name)
		require.Less(t, b, *s.Cost, n.Name)
		if i == 0 || i == 5 {
			require.Greater(t, b, *s.Cost/2, n.Name)
		}
	}
}

// Whatever the prices, what they prove is no more than any schedule costs, and no window leaves one out that costs less: evenings with all
// that there is, also planned again in the middle of them, and the schedules that a search goes through.
func TestAnyPricesProveNoMoreThanIsTrue(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 5))
	for _, n := range instances.Nights() {
		n.Tables /= 3
		w := n.Evening(12)
		first := Solve(context.Background(), w, Options{Seed: 1, Rounds: 300, Anyway: true})
		later, _ := instances.Delayed(w, first, len(w.Tasks)/3, 20)
		for _, w := range []*workload.Workload{w, later} {
			m := searching(t, w, 3)
			m.heatUp(hottest, 2000)
			known := m.current
			j := newJoint(m.p, known)
			require.NotNil(t, j)
			j.lay(1)
			require.InDelta(t, withoutRoom(t, m.p, j), j.value(), 1e-3, "nothing has a price: each as if it were alone")
			for round := range 12 {
				for k := range j.price {
					for i := range j.price[k] {
						j.price[k][i] = 0
						if r.IntN(4) == 0 {
							j.price[k][i] = r.ExpFloat64() * []float64{0.001, 0.05, 0.5}[round%3]
						}
					}
				}
				if round > 8 {
					j.climb(context.Background(), climbing{1, 6, 2, 0.5})
				}
				value := j.value()
				m.run(context.Background(), 40, 0, nil)
				require.LessOrEqual(t, value, float64(m.best), n.Name)
				require.LessOrEqual(t, value, float64(m.current), n.Name)
				j.require(t, m)
			}
			j.known = m.best
			best := j.value()
			j.tighten(best)
			j.require(t, m)
			narrower := j.lay(1)
			require.LessOrEqual(t, j.value(), float64(m.best), "with windows that leave out what is dearer")
			require.Positive(t, narrower)
		}
	}
}

// require asserts that the best schedule of a search lies within all windows, where it costs no more than what is known.
func (j *joint) require(t *testing.T, m *improver) {
	t.Helper()
	if m.best > j.known {
		return
	}
	g := j.points
	for v := range m.p.n {
		if m.p.fixed[v] {
			continue
		}
		s := &j.spots[g.point[v]]
		require.LessOrEqual(t, s.lo+g.off[v], m.bestX[v], m.p.id(v))
		require.LessOrEqual(t, m.bestX[v], s.hi+g.off[v], m.p.id(v))
	}
}

// withoutRoom is what all costs at the least if nothing had to share anything, by another method (network.go), without the waits that the
// bound leaves out.
func withoutRoom(t *testing.T, p *problem, j *joint) float64 {
	t.Helper()
	g := newTiming(p)
	out := map[[2]int32]bool{}
	for _, e := range j.pairs {
		if !e.inTree {
			out[[2]int32{e.a, e.b}], out[[2]int32{e.b, e.a}] = true, true
		}
	}
	left := func(a flowArc) bool { return out[[2]int32{a.u, a.v}] }
	g.hard, g.soft = slices.DeleteFunc(g.hard, left), slices.DeleteFunc(g.soft, left)
	return float64(p.roomy(context.Background(), g))
}

// Two tables five minutes apart share two batches, each of which may wait a minute for nothing: that is a circle, and costs 240 s of
// waiting for each batch. Whatever line stands for the wait that is in no tree, what it proves is no more; the best proves all of it.
func TestWaitsThatCloseACircle(t *testing.T) {
	w := oneOven(2, 2)
	later := int64(7500)
	w.Joins[1].At = &later
	w.Links = nil
	best := int64(60)
	for _, task := range w.Tasks {
		for _, join := range w.Joins {
			w.Links = append(w.Links, workload.Link{From: task.ID, To: join.ID, Kind: workload.FinishStart, Best: &best, Weight: 1})
		}
	}
	p := compiled(t, w)
	require.Equal(t, int64(480), p.roomy(t.Context(), newTiming(p)))
	j := newJoint(p, 600)
	j.lay(1)
	require.InDelta(t, 240, j.value(), 1e-6, "with a line that is flat one of the waits is left out")
	var circle *pair
	for i := range j.pairs {
		if e := &j.pairs[i]; !e.inTree {
			require.Nil(t, circle)
			circle = e
		}
	}
	least, most := circle.slopes()
	require.Negative(t, least)
	require.Positive(t, most)
	r := rand.New(rand.NewPCG(6, 6))
	for range 300 {
		circle.slope = least + r.Float64()*(most-least)
		if r.IntN(2) == 0 {
			circle.slope = 3*r.Float64() - 1.5
		}
		require.LessOrEqual(t, j.value(), 480+1e-6, circle.slope)
	}
	circle.slope = 0
	require.Greater(t, j.climb(context.Background(), climbing{1, 200, 2, 0.05}), 470.0)
	require.Equal(t, int64(480), boundOf(t, w, 600))
}

// Wherever a bound runs out of time it says no more than is proved, and cuts off no window by half.
func TestABoundThatRunsOutOfTime(t *testing.T) {
	w := oneOven(4, 2)
	s := Solve(context.Background(), w, Options{Seed: 1, Rounds: 4000})
	require.Equal(t, workload.Optimal, s.Status)
	known := 2 * *s.Cost
	whole := newJoint(compiled(t, w), known)
	asked := 0
	whole.over = func() bool { asked++; return false }
	proved := whole.bound(context.Background())
	require.Positive(t, proved)
	later := false
	for _, k := range []int{0, 1, 5, asked / 2, asked * 9 / 10, asked} {
		j := newJoint(compiled(t, w), known)
		so := 0
		j.over = func() bool { so++; return so > k }
		bound := j.bound(context.Background())
		require.GreaterOrEqual(t, bound, int64(0), k)
		require.LessOrEqual(t, bound, proved, k)
		later = later || bound > 0 && k < asked
		for i := range j.spots {
			require.LessOrEqual(t, j.spots[i].lo, j.spots[i].hi)
		}
	}
	require.True(t, later, "what the coarse prices prove counts though the fine ones are not there")
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	require.Zero(t, jointBound(ctx, compiled(t, w), known, nil, false))
}

// Where nearly all is proved, the windows that are left hold what costs no more, to the second; and of what cannot be so cheap there is
// none.
func TestWindowsOfWhatIsNearlyProved(t *testing.T) {
	for _, places := range []int64{1, 2} {
		w := oneOven(4, places)
		s := Solve(context.Background(), w, Options{Seed: 1, Rounds: 4000})
		require.Equal(t, workload.Optimal, s.Status)
		j := newJoint(compiled(t, w), *s.Cost)
		wide := j.instants(1)
		bound := j.bound(context.Background())
		require.Greater(t, bound, *s.Cost*97/100)
		require.LessOrEqual(t, bound, *s.Cost)
		require.Less(t, j.instants(1), wide/2)
		j.lay(1)
		require.LessOrEqual(t, j.value(), float64(*s.Cost), "also as it is before it is cut off at what is known")
		m := searching(t, w, 1)
		for range 40 {
			m.run(context.Background(), 10, 0, nil)
			j.require(t, m)
		}
		require.Equal(t, *s.Cost, m.best)
	}
	w := oneOven(2, 2)
	w.Links = append(w.Links, workload.Link{From: "a", To: "b", Kind: workload.FinishStart, Min: 3600, Weight: 1})
	require.Zero(t, boundOf(t, w, 100), "an hour late or early costs more than that")
	require.Equal(t, int64(4*3600), boundOf(t, w, 4*3600))
}

// What it is not worth looking at has no bound: a horizon of years in which anything may be late for next to nothing.
func TestNoBoundOfYears(t *testing.T) {
	w := oneOven(3, 1)
	w.Horizon = 100_000_000
	for i := range w.Joins {
		w.Joins[i].Weight, w.Joins[i].EarlyWeight = 1, 1
	}
	require.Zero(t, boundOf(t, w, 90_000_000))
	require.Positive(t, boundOf(t, w, 2000), "of what costs little only hours are looked at")
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

// A bound is told also where the search is over before the cycle after which it would be looked for beside it, and none where there was no
// time.
func TestABoundIsToldAfterAShortSearch(t *testing.T) {
	w := instances.Nights()[0].Evening(1)
	s := Solve(context.Background(), w, Options{Seed: 1, Rounds: manyRounds, Anyway: true})
	require.NotNil(t, s.LowerBound)
	require.Greater(t, *s.LowerBound, *s.Cost/2, "most of it is proved")
	require.LessOrEqual(t, *s.LowerBound, *s.Cost)
	quick := Solve(context.Background(), w, Options{Seed: 1, Rounds: manyRounds - 1, Anyway: true})
	require.Less(t, *quick.LowerBound, *s.LowerBound)
}
