package schedule

import (
	"context"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
	"jointime/core/workload"
)

// two are two searches on one schedule.
func two(t *testing.T, n instances.Night) (a, b *improver) {
	t.Helper()
	a = searching(t, n.Evening(5), 1)
	a.heatUp(hottest, 300)
	a.run(context.Background(), 300, 0, nil)
	c := newBuilder(context.Background(), a.p, 2)
	c.adoptInto(a.x, a.on)
	b = newImprover(c, a.gs)
	require.Equal(t, a.x, b.x)
	return a, b
}

// What each of two searches changes lies on its side; joined it is whole, keeps every rule, and costs what is said.
func TestEachOnItsSide(t *testing.T) {
	joined, refused, moved := 0, 0, 0
	for _, n := range instances.Nights() {
		n.Tables = 8
		a, b := two(t, n)
		team := &team{all: [workers]*improver{a, b}}
		for range 25 {
			before := slices.Clone(a.x)
			cut := team.cut()
			a.confine(&team.sides[0], -far, cut)
			b.confine(&team.sides[1], cut, far)
			moved += min(a.side.many, b.side.many)
			for v := range a.p.n {
				require.True(t, a.still(int32(v)) || b.still(int32(v)), "nothing is on both sides")
			}
			for _, m := range team.all {
				m.heatUp(0.05, 1_000_000)
				m.run(context.Background(), 30, 0, nil)
				for v := range m.p.n {
					switch {
					case m.still(int32(v)):
						require.Equal(t, before[v], m.x[v], m.p.id(v))
					case m == a:
						require.LessOrEqual(t, m.x[v]+m.p.dur[v], cut, m.p.id(v))
					default:
						require.GreaterOrEqual(t, m.x[v], cut, m.p.id(v))
					}
				}
			}
			mine := slices.Clone(a.x)
			if a.joinWith(b) {
				joined++
				for v := range a.p.n {
					want := mine[v]
					if !b.still(int32(v)) {
						want = b.x[v]
					}
					require.Equal(t, want, a.x[v], a.p.id(v))
				}
			} else {
				refused++
				require.Equal(t, mine, a.x, "as it was")
			}
			require.Equal(t, a.p.cost(a.x), a.current)
			require.Empty(t, a.broken(), n.Name)
			a.release()
			b.release()
			require.Equal(t, a.lo, b.lo)
			require.Equal(t, a.hi, b.hi)
			b.adopt(a.x, a.on)
		}
	}
	require.Greater(t, joined, 10*refused, "mostly both are right")
	require.Greater(t, moved, 100, "there is something on both sides")
}

// Waits and temperatures across the instant are looked at when the two are joined: both sides of each.
func TestWhatLiesAcrossTheSides(t *testing.T) {
	at := int64(3000)
	set := []float64{180, 200}
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 8000, Resources: []workload.Resource{
		{ID: "oven", Capacity: 2, Thermostat: &workload.Thermostat{StartC: 180, HeatCPerMin: 10, CoolCPerMin: 10}}}}
	for k, id := range []string{"a", "b"} {
		w.Joins = append(w.Joins, workload.Join{ID: id, At: &at, Weight: 1})
		w.Tasks = append(w.Tasks, workload.Task{ID: id + "/bake", Seconds: 60, Needs: []workload.Need{{AnyOf: []string{"oven"}, Units: 1,
			SetpointC: &set[k]}}}, workload.Task{ID: id + "/rest", Seconds: 10})
		w.Links = append(w.Links, workload.Link{From: id + "/bake", To: id, Kind: workload.FinishStart, Weight: 1},
			workload.Link{From: id + "/rest", To: id, Kind: workload.FinishStart, Weight: 1})
	}
	w.Links = append(w.Links, workload.Link{From: "a/rest", To: "b/rest", Kind: workload.FinishStart, Min: 100, Weight: 1})
	for _, c := range []struct {
		first, then int32 // the task that the one moves, and that of the other
		ends, least int64 // when the one ends, and how long after it the other may begin
	}{{1, 3, 1000, 100}, {0, 2, 1000, 120}} {
		for _, short := range []int64{0, 1} {
			a := searching(t, w, 1)
			b := searching(t, w, 1)
			require.Equal(t, a.x, b.x)
			all := make([]bool, a.p.n)
			for v := range all {
				all[v] = true
			}
			a.side, b.side = &side{still: slices.Clone(all), moves: []bool{true, true}}, &side{still: slices.Clone(all), moves: []bool{true, true}}
			a.side.still[c.first], b.side.still[c.then] = false, false
			a.take(int(c.first))
			a.put(int(c.first), c.ends-a.p.dur[c.first])
			b.take(int(c.then))
			b.put(int(c.then), c.ends+c.least-short)
			require.Equal(t, short == 0, a.joinWith(b), "%+v", c)
			require.Equal(t, short == 0, a.x[c.then] == b.x[c.then])
		}
	}
}
