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

// Where an oven goes over from some runs at one temperature to some at another, one point between them says as much as a rule from each to
// each: the best times cost the same.
func TestAPointBetweenTwoTemperaturesStandsForEachPair(t *testing.T) {
	for _, k := range []int{1, 2, 4} {
		n := instances.Nights()[k]
		n.Tables /= 2
		m := searching(t, n.Evening(11), 1)
		m.heatUp(hottest, 400)
		between := 0
		for range 8 {
			m.run(context.Background(), retimeEvery-1, 0, nil)
			g := newTiming(m.p)
			require.True(t, g.solve(context.Background(), m.state, m.users))
			pairs := newNetwork(g.n)
			for _, a := range g.arcs {
				if int(max(a.u, a.v)) >= g.n {
					between++
					continue
				}
				require.True(t, pairs.add(a.u, a.v, a.w, a.cap))
			}
			for r := range m.p.res {
				for _, e := range everyChange(m, r) {
					require.True(t, pairs.add(g.point[e.u], g.point[e.v], e.w+g.off[e.u]-g.off[e.v], endless))
				}
			}
			require.Equal(t, pairs.value+m.p.base, m.p.cost(g.times), n.Name)
			m.retime()
			m.rounds++
		}
		require.Positive(t, between, n.Name)
	}
}

// everyChange are the rules from each run in an oven to each later one at another temperature.
func everyChange(m *improver, r int) (rules []flowArc) {
	th := m.p.res[r].thermostat
	if th == nil {
		return nil
	}
	for _, a := range m.users[r] {
		for _, b := range m.users[r] {
			x, y := m.p.needs[a.node][a.need].setpoint, m.p.needs[b.node][b.need].setpoint
			if m.on[a.node][a.need] != int32(r) || m.on[b.node][b.need] != int32(r) || m.x[a.node] >= m.x[b.node] || !differ(th, x, y) {
				continue
			}
			rules = append(rules, flowArc{a.node, b.node, m.p.dur[a.node] + changeover(th, x, y), endless, 0})
		}
	}
	return rules
}

// Three loaves at 100 °C and two at 200: there is a point between them, tied by a rule to each, unless what has happened stands on both
// sides. Of two and two it would save nothing.
func TestWhenThereIsAPointBetween(t *testing.T) {
	for _, c := range []struct {
		low, high int
		happened  int // how many of them have been put in
		between   int
	}{{2, 2, 0, 0}, {3, 2, 0, 5}, {2, 3, 0, 5}, {1, 5, 0, 0}, {5, 1, 0, 0}, {3, 2, 2, 5}, {3, 2, 3, 5}, {3, 2, 4, 0}, {3, 0, 0, 0}} {
		at := []float64{100, 200}
		w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 20_000, Resources: []workload.Resource{
			{ID: "oven", Capacity: 4, Thermostat: &workload.Thermostat{StartC: 100, HeatCPerMin: 20, CoolCPerMin: 20}}}}
		for k := range c.low + c.high {
			hot := min(1, k/c.low)
			id, when := fmt.Sprintf("loaf-%d", k), int64(3000+1000*hot)
			w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: 300,
				Needs: []workload.Need{{AnyOf: []string{"oven"}, Units: 1, SetpointC: &at[hot]}}})
			if k < c.happened {
				w.Fixed = append(w.Fixed, workload.Fixed{Task: id, Start: when, Resources: []string{"oven"}})
				continue
			}
			w.Joins = append(w.Joins, workload.Join{ID: id + "!", At: &when, Weight: 1, EarlyWeight: 1})
			w.Links = append(w.Links, workload.Link{From: id, To: id + "!", Kind: workload.FinishStart, Max: ptrOf(0), Weight: 1})
		}
		m := searching(t, w, 1)
		g := newTiming(m.p)
		require.True(t, g.solve(context.Background(), m.state, m.users))
		between := len(slices.DeleteFunc(slices.Clone(g.arcs), func(a flowArc) bool { return int(max(a.u, a.v)) < g.n }))
		require.Equal(t, c.between, between, "%+v", c)
	}
}

// What goes into two ovens at once, and is the first at its temperature in both, has a point between in one of them and rules in pairs in
// the other.
func TestAPointBetweenIsOfOneOven(t *testing.T) {
	at := []float64{100, 200}
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 20_000}
	need := func(oven string, hot int) workload.Need {
		return workload.Need{AnyOf: []string{oven}, Units: 1, SetpointC: &at[hot]}
	}
	add := func(id string, when int64, needs ...workload.Need) {
		w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: 300, Needs: needs})
		w.Joins = append(w.Joins, workload.Join{ID: id + "!", At: &when, Weight: 1, EarlyWeight: 1})
		w.Links = append(w.Links, workload.Link{From: id, To: id + "!", Kind: workload.FinishStart, Max: ptrOf(0), Weight: 1})
	}
	for _, oven := range []string{"left", "right"} {
		w.Resources = append(w.Resources, workload.Resource{ID: oven, Capacity: 4,
			Thermostat: &workload.Thermostat{StartC: 100, HeatCPerMin: 20, CoolCPerMin: 20}})
		for k := range 3 {
			add(fmt.Sprint(oven, k), 3000, need(oven, 0))
		}
		for k := range 2 {
			add(fmt.Sprint(oven, k, "hot"), 5000, need(oven, 1))
		}
	}
	add("both", 4000, need("left", 1), need("right", 1))
	m := searching(t, w, 1)
	g := newTiming(m.p)
	require.True(t, g.solve(context.Background(), m.state, m.users))
	last, points, pairs := g.point[len(w.Tasks)-1], 0, 0
	for _, a := range g.arcs {
		switch {
		case int(a.v) >= g.n:
			points++
		case a.v == last && int(a.u) < g.n-1 && a.cap == endless && a.w >= 600: // its end, and the change
			pairs++
		}
	}
	require.Equal(t, 3, points, "of the runs in one oven")
	require.Equal(t, 3, pairs, "of those in the other")
}
