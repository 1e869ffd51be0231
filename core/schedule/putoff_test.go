package schedule

import (
	"context"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
	"jointime/core/workload"
)

// A broth stands before a pan on the only ring, and may wait an hour for nothing. There is room for it behind the pan: it goes there, and
// what stirs it goes along. Where behind it there is no room, it goes to just before the pan.
func TestPutOff(t *testing.T) {
	for _, c := range []struct {
		name         string
		panAt, lasts int64 // when the pan is wanted, and for how long it is on
		free         int64 // how long the broth may wait for nothing
		stirred      bool
		begins       int64 // of the broth, which is wanted at 9000 and takes 600
	}{
		{"behind the pan", 7000, 500, 3600, false, 9000 - 600},
		{"behind the pan, stirred", 7000, 500, 3600, true, 9000 - 600},
		{"after it there is just room", 9000 - 600, 500, 3600, false, 9000 - 600},
		{"after it there is a second too little", 9000 - 599, 500, 3600, false, 9000 - 599 - 500 - 600},
		{"it waits too long already, and does not stay for that", 7000, 500, 1000, false, 9000 - 600},
		{"the pan would have to wait", 9000 - 100, 500, 3600, false, 9000 - 100 - 500 - 600},
		{"before it there is room a head start later", 8401, 8401 - 5900, 3600, false, 5000},
		{"before it there is room a second later than that", 8402, 8402 - 5901, 3600, false, 5301},
	} {
		w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 20_000,
			Resources: []workload.Resource{{ID: "ring", Capacity: 1}, {ID: "hands", Capacity: 1}}}
		task := func(id string, lasts int64, on string) {
			w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: lasts, Needs: []workload.Need{{AnyOf: []string{on}, Units: 1}}})
		}
		task("broth", 600, "ring")
		task("pan", c.lasts, "ring")
		soup, fish := int64(9000), c.panAt
		w.Joins = []workload.Join{{ID: "soup", At: &soup, Weight: 4, EarlyWeight: 4}, {ID: "fish", At: &fish, Weight: 4, EarlyWeight: 4}}
		w.Links = []workload.Link{{From: "broth", To: "soup", Kind: workload.FinishStart, Best: &c.free, Weight: 1},
			{From: "pan", To: "fish", Kind: workload.FinishStart, Max: ptrOf(0), Weight: 1}}
		x := []int64{5000, c.panAt - c.lasts}
		if c.stirred {
			task("stir", 20, "hands")
			w.Links = append(w.Links, workload.Link{From: "broth", To: "stir", Kind: workload.StartStart, Min: 200, Max: ptrOf(300), Weight: 1})
			x = append(x, 5250)
		}
		m := searching(t, w, 1)
		x = append(x, soup, fish)
		m.adopt(x, m.on)
		was := m.current
		m.putOff(context.Background())
		require.Equal(t, c.begins, m.x[0], c.name)
		if c.stirred {
			require.Equal(t, m.x[0]+200, m.x[2])
		}
		require.LessOrEqual(t, m.current, was)
		require.Equal(t, m.p.cost(m.x), m.current)
		require.Empty(t, m.broken(), c.name)
		if !c.stirred && c.panAt == 7000 {
			m.adopt(x, m.on)
			m.soonest()
			require.Equal(t, c.begins-headStart, m.x[0], "a search ends with it, and then with a head start")
		}
	}
}

// No more than a head start sooner than the last moment is left as it is: a second more is not.
func TestPutOffBeyondAHeadStart(t *testing.T) {
	at, free := int64(9000), int64(3600)
	for by, begins := range map[int64]int64{headStart: at - 600 - headStart, headStart + 1: at - 600} {
		w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 20_000,
			Joins: []workload.Join{{ID: "soup", At: &at, Weight: 4, EarlyWeight: 4}}, Tasks: []workload.Task{{ID: "broth", Seconds: 600}},
			Links: []workload.Link{{From: "broth", To: "soup", Kind: workload.FinishStart, Best: &free, Weight: 1}}}
		m := searching(t, w, 1)
		m.adopt([]int64{at - 600 - by, at}, m.on)
		m.putOff(context.Background())
		require.Equal(t, begins, m.x[0])
	}
}

// Whatever is put off, the evening costs no more, and every rule is kept; when there is no time nothing is.
func TestPutOffKeepsRulesAndCost(t *testing.T) {
	later := 0
	for _, n := range instances.Nights() {
		m := searching(t, n.Evening(11), 1)
		m.heatUp(settled, 300)
		m.run(context.Background(), 300, 0, nil)
		m.adopt(m.bestX, m.bestOn)
		was, cost := slices.Clone(m.x), m.current
		over, cancel := context.WithCancel(context.Background())
		cancel()
		m.putOff(over)
		require.Equal(t, was, m.x)
		m.putOff(context.Background())
		require.LessOrEqual(t, m.current, cost, n.Name)
		require.Equal(t, m.p.cost(m.x), m.current, n.Name)
		require.Empty(t, m.broken(), n.Name)
		for v := range m.p.n {
			if m.x[v] > was[v]+headStart {
				later++
			}
		}
	}
	require.Positive(t, later)
}
