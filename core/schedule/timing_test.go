package schedule

import (
	"context"
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
	"jointime/core/workload"
)

// The times are as good as those of another method, which adds the rules one by one and keeps the flow best (network.go), and keep every
// rule.
func TestTimingIsOptimal(t *testing.T) {
	for _, n := range instances.Nights() {
		n.Tables /= 2
		m := searching(t, n.Evening(11), 1)
		m.heatUp(hottest, 600)
		better := 0
		goneOn := newTiming(m.p) // it begins with the flow that it had, whatever has moved since
		for range 12 {
			m.run(context.Background(), retimeEvery-1, 0, nil)
			g := newTiming(m.p)
			require.True(t, g.solve(context.Background(), m.state, m.users))
			was := m.current
			net := newNetwork(g.size())
			for _, a := range g.arcs {
				require.True(t, net.add(a.u, a.v, a.w, a.cap))
			}
			require.Equal(t, net.value+m.p.base, m.p.cost(g.times), n.Name)
			best := m.p.cost(g.times)
			require.True(t, goneOn.solve(context.Background(), m.state, m.users))
			require.Equal(t, best, m.p.cost(goneOn.times), n.Name)
			goneOn.goneOver()
			require.True(t, g.solveNear(context.Background(), m.state, m.users, far))
			g.latest()
			late := slices.Clone(g.times)
			g.sooner()
			sooner := slices.Clone(g.times)
			for v := range late {
				require.LessOrEqual(t, sooner[v], late[v])
				require.LessOrEqual(t, late[v]-sooner[v], int64(headStart))
			}
			require.True(t, goneOn.solveNear(context.Background(), m.state, m.users, far))
			goneOn.sooner() // from the times that the search has
			goneOn.sooner()
			goneOn.latest()
			require.Equal(t, late, goneOn.times, "of all that are as good one is the last, wherever it is looked for from")
			for _, g := range []*timing{g, goneOn} {
				require.Equal(t, best, m.p.cost(g.times), "as good")
				for _, a := range g.arcs { // no rule is broken
					require.True(t, a.cap < endless || g.x[a.u]+a.w <= g.x[a.v])
				}
			}
			if m.retime() {
				better++
			}
			require.LessOrEqual(t, m.current, was)
			require.Equal(t, m.p.cost(m.x), m.current)
			require.Empty(t, m.broken(), n.Name)
			m.rounds++ // past the one that would have done it
		}
		require.Positive(t, better, n.Name)
	}
}

// Once the times are gone over to, the next timing has next to nothing left to carry; after something has moved it has little.
func TestATimingBeginsWithTheFlowThatItHad(t *testing.T) {
	m := searching(t, instances.Nights()[1].Evening(11), 1)
	m.heatUp(hottest, 600)
	m.run(context.Background(), 200, 0, nil)
	m.retime()
	first := newTiming(m.p)
	require.True(t, first.solve(context.Background(), m.state, m.users))
	anew := len(first.unmet)
	require.Greater(t, anew, 10)
	require.True(t, m.timing.solve(context.Background(), m.state, m.users))
	require.Less(t, len(m.timing.unmet), anew/4, "units may be handed on otherwise")
	m.timing.goneOver()
	for m.current == m.best { // until something has moved
		m.run(context.Background(), 1, 0, nil)
	}
	require.True(t, m.timing.solve(context.Background(), m.state, m.users))
	require.NotEmpty(t, m.timing.unmet)
	require.Less(t, len(m.timing.unmet), anew)
}

// What is drawn far away from where it stands goes no further than it may, though such windows are looked at only then.
func TestAFarWindowHoldsToo(t *testing.T) {
	for _, earliest := range []int64{12_000, 5000, 0} { // of 15,000: nearer than farAway, and further
		at := int64(1000)
		w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 20_000,
			Joins: []workload.Join{{ID: "table", At: &at, Weight: 4, EarlyWeight: 4}},
			Tasks: []workload.Task{{ID: "broth", Seconds: 600, Earliest: earliest}},
			Links: []workload.Link{{From: "broth", To: "table", Kind: workload.FinishStart, Max: ptrOf(0), Weight: 1}}}
		m := searching(t, w, 1)
		m.adopt([]int64{15_000, 15_600}, m.on)
		g := newTiming(m.p)
		require.True(t, g.solve(context.Background(), m.state, m.users))
		require.Equal(t, max(earliest, at-600), g.times[0])
		require.Equal(t, max(earliest, at-600)+600, g.times[1])
	}
}

// The order of work says nothing of windows in which only a part of a resource is away: times that would take more than is there then are
// not taken. With all of it there they are.
func TestTheBestTimesKeepPartsOfAResource(t *testing.T) {
	for _, away := range []bool{true, false} {
		w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 8000,
			Resources: []workload.Resource{{ID: "stove", Capacity: 2}}}
		if away {
			w.Resources[0].HasWindows = true
			w.Resources[0].Windows = []workload.Window{{From: 0, To: 100, Capacity: 2}, {From: 100, To: 200, Capacity: 1},
				{From: 200, To: 8000, Capacity: 2}}
		}
		for k, id := range []string{"f", "a", "c"} {
			at := []int64{95, 150, 180}[k]
			w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: []int64{95, 60, 60}[k],
				Needs: []workload.Need{{AnyOf: []string{"stove"}, Units: 1}}})
			w.Joins = append(w.Joins, workload.Join{ID: id + "!", At: &at, Weight: 2, EarlyWeight: 2})
			w.Links = append(w.Links, workload.Link{From: id, To: id + "!", Kind: workload.FinishStart, Max: ptrOf(0), Weight: 1})
		}
		m := searching(t, w, 1)
		x, was := []int64{0, 90, 150, 95, 150, 210}, []int64(nil)
		m.adopt(x, m.on)
		require.Empty(t, m.broken())
		was = append(was, m.x...)
		require.Equal(t, !away, m.retime())
		require.Empty(t, m.broken())
		require.Equal(t, m.p.cost(m.x), m.current)
		if away {
			require.Equal(t, was, m.x, "all is as it was")
		} else {
			require.Equal(t, int64(180), m.x[5])
		}
	}
}

// Of runs one after another at three temperatures, the rule from each of the first to the last is there where it does not follow from
// those between: where these ask for so wide a range that they are near both, and are over before the oven has gone all the way. So it is
// too where a point between two temperatures stands for the rules of several runs.
func TestChangeoversThatFollow(t *testing.T) {
	low, high := 110.0, 190.0
	for _, c := range []struct {
		first, between int
		lasts          int64 // how long each of those between takes
		rule           bool
	}{{1, 1, 180, true}, {1, 1, 239, true}, {1, 1, 240, false}, {1, 1, 600, false}, {3, 2, 239, true}, {3, 2, 240, false}} {
		at := []float64{100, 0, 200}
		w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 20_000, Resources: []workload.Resource{
			{ID: "oven", Capacity: 4, Thermostat: &workload.Thermostat{StartC: 100, HeatCPerMin: 20, CoolCPerMin: 20}}}}
		for k, many := range []int{c.first, c.between, 1} {
			need := workload.Need{AnyOf: []string{"oven"}, Units: 1, SetpointC: &at[k]}
			if k == 1 {
				need.SetpointC, need.SetpointToC = &low, &high
			}
			for i := range many {
				id, when := fmt.Sprintf("%d/%d", k, i), int64(3000*(k+1))
				w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: []int64{60, c.lasts, 60}[k], Needs: []workload.Need{need}})
				w.Joins = append(w.Joins, workload.Join{ID: id + "!", At: &when, Weight: 1, EarlyWeight: 1})
				w.Links = append(w.Links, workload.Link{From: id, To: id + "!", Kind: workload.FinishStart, Max: ptrOf(0), Weight: 1})
			}
		}
		m := searching(t, w, 1)
		g := newTiming(m.p)
		require.True(t, g.solve(context.Background(), m.state, m.users))
		rules, last := 0, c.first+c.between
		for _, a := range g.arcs {
			if int(a.u) < c.first && a.v == g.point[last] {
				rules++
				require.Equal(t, int64(60+300), a.w+g.off[last]-g.off[a.u], "its end, and from 100 to 200 °C at 20 a minute")
			}
		}
		if c.rule {
			require.Equal(t, c.first, rules, "%+v", c)
		} else {
			require.Zero(t, rules, "%+v", c)
		}
	}
}

// What may be done early for nothing is, at the end of a search that its context ends too, as far as that goes and no further than a head
// start, wherever the search has put it: a broth that may wait an hour for nothing, and one that may wait a minute.
func TestTheSoonestOfTheBestTimes(t *testing.T) {
	for best, sooner := range map[int64]int64{3600: headStart, headStart + 1: headStart, headStart: headStart, headStart - 1: headStart - 1,
		60: 60, 0: 0} {
		for _, stands := range []int64{0, best / 2, best} {
			soonestOf(t, best, stands, sooner)
		}
	}
}

func soonestOf(t *testing.T, best, stands, sooner int64) {
	t.Helper()
	at := int64(7200)
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 8000,
		Joins: []workload.Join{{ID: "table", At: &at, Weight: 4, EarlyWeight: 4}},
		Tasks: []workload.Task{{ID: "broth", Seconds: 600}},
		Links: []workload.Link{{From: "broth", To: "table", Kind: workload.FinishStart, Best: &best, Weight: 1}}}
	m := searching(t, w, 1)
	require.Equal(t, at-600, m.x[0], "it is put down as late as may be")
	m.adopt([]int64{at - 600 - stands, at}, m.on)
	over, cancel := context.WithCancel(context.Background())
	cancel()
	m.ctx = over
	m.soonest()
	require.Equal(t, at-sooner-600, m.x[0])
	require.Equal(t, at, m.x[1])
	require.Zero(t, m.current)
}

// A head start is counted from the end of a window however far away that is: further than farAway, and nearer.
func TestTheSoonestOfTheBestTimesKeepsAFarWindow(t *testing.T) {
	for _, last := range []int64{16_000, 5000 + farAway + 1, 5000 + farAway, 6000} {
		at, best := int64(18_000), int64(18_000)
		w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 20_000,
			Joins: []workload.Join{{ID: "table", At: &at, Weight: 4, EarlyWeight: 4}},
			Tasks: []workload.Task{{ID: "broth", Seconds: 600, Latest: ptrOf(last + 600)}},
			Links: []workload.Link{{From: "broth", To: "table", Kind: workload.FinishStart, Best: &best, Weight: 1}}}
		m := searching(t, w, 1)
		m.adopt([]int64{5000, at}, m.on)
		m.soonest()
		require.Equal(t, last-headStart, m.x[0])
	}
}

// Where the last of the best times take more of a resource than there is, what may come sooner for nothing does so from where it stands:
// while one ring of a stove is away, two pans would go on at the same last moment. Where both rings are there both go on a head start
// before that.
func TestTheSoonestTimesKeepPartsOfAResource(t *testing.T) {
	for rings, starts := range map[int64][2]int64{1: {4990 - headStart, 4995}, 2: {5840 - headStart, 5840 - headStart}} {
		w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 8000,
			Resources: []workload.Resource{{ID: "stove", Capacity: 2, HasWindows: true, Windows: []workload.Window{
				{From: 0, To: 5000, Capacity: 2}, {From: 5000, To: 6000, Capacity: rings}, {From: 6000, To: 8000, Capacity: 2}}}}}
		for k, id := range []string{"first", "a", "b"} {
			at, best := []int64{4995, 5900, 5900}[k], []int64{0, 3600, 3600}[k]
			w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: []int64{95, 60, 60}[k],
				Needs: []workload.Need{{AnyOf: []string{"stove"}, Units: 1}}})
			w.Joins = append(w.Joins, workload.Join{ID: id + "!", At: &at, Weight: 2, EarlyWeight: 2})
			w.Links = append(w.Links, workload.Link{From: id, To: id + "!", Kind: workload.FinishStart, Best: &best, Weight: 1})
		}
		m := searching(t, w, 1)
		m.adopt([]int64{4900, 4990, 5050, 4995, 5900, 5900}, m.on)
		m.timing = newTiming(m.p)
		m.beginSooner(context.Background())
		require.Equal(t, starts, [2]int64{m.x[1], m.x[2]})
		require.Empty(t, m.broken())
		require.Zero(t, m.current)
	}
}

// A search that is not told to stay near anything ends with a head start: here each of many broths has one, and costs nothing for it. What
// was told at the last moment stays there, where moving costs.
func TestASearchEndsWithAHeadStart(t *testing.T) {
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 20_000}
	told := &workload.Schedule{}
	best := int64(3600)
	for i := range proofNodes {
		at := int64(7200 + 10*i)
		join, broth := fmt.Sprintf("table-%d", i), fmt.Sprintf("broth-%d", i)
		w.Joins = append(w.Joins, workload.Join{ID: join, At: &at, Weight: 4, EarlyWeight: 4})
		w.Tasks = append(w.Tasks, workload.Task{ID: broth, Seconds: 600})
		w.Links = append(w.Links, workload.Link{From: broth, To: join, Kind: workload.FinishStart, Best: &best, Weight: 1})
		told.Tasks = append(told.Tasks, workload.Run{ID: broth, Start: at - 600, Finish: at})
		told.Joins = append(told.Joins, workload.Instant{ID: join, At: at})
	}
	s := Solve(context.Background(), w, Options{Seed: 1, Rounds: 20})
	require.Zero(t, *s.Cost)
	for i, r := range s.Tasks {
		require.Equal(t, told.Tasks[i].Start-headStart, r.Start, r.ID)
	}
	s = Solve(context.Background(), w, Options{Seed: 1, Rounds: 20, Previous: told, MovePrice: 1})
	for i, r := range s.Tasks {
		require.Equal(t, told.Tasks[i].Start, r.Start, r.ID)
	}
}
